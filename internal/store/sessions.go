package store

import (
	"context"
	"errors"
	"time"

	"corrim/internal/store/sqlc"
)

// Sessions keeps sign-in sessions for scs; it is an scs.CtxStore. The tokens it is given should be hashed ones.
type Sessions struct{ Store *Store }

// FindCtx returns a session's data if it has not expired.
func (s Sessions) FindCtx(ctx context.Context, token string) ([]byte, bool, error) {
	data, err := s.Store.Session(ctx, sqlc.SessionParams{Token: token, Now: time.Now().Unix()})
	if errors.Is(err, ErrNotFound) {
		return nil, false, nil
	}
	return data, err == nil, err
}

// CommitCtx keeps a session until it expires; those that already have are swept out.
func (s Sessions) CommitCtx(ctx context.Context, token string, data []byte, expires time.Time) error {
	return s.Store.Write(ctx, func(q *sqlc.Queries) error {
		if err := q.EndOldSessions(ctx, time.Now().Unix()); err != nil {
			return err
		}
		return q.SetSession(ctx, sqlc.SetSessionParams{Token: token, Data: data, Expires: expires.Unix()})
	})
}

// DeleteCtx ends a session.
func (s Sessions) DeleteCtx(ctx context.Context, token string) error {
	return s.Store.Write(ctx, func(q *sqlc.Queries) error { return q.EndSession(ctx, token) })
}

// Find, Commit and Delete complete scs.Store, whose methods know no context.
func (s Sessions) Find(token string) ([]byte, bool, error) {
	return s.FindCtx(context.Background(), token)
}

// Commit is CommitCtx without a context.
func (s Sessions) Commit(token string, data []byte, expires time.Time) error {
	return s.CommitCtx(context.Background(), token, data, expires)
}

// Delete is DeleteCtx without a context.
func (s Sessions) Delete(token string) error { return s.DeleteCtx(context.Background(), token) }
