package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"sync"
	"sync/atomic"

	"corrim/internal/store/sqlc"
)

// turn lets one writer in after the other, and those that wait meanwhile into the same transaction: a commit waits for the disk, and
// does so once for all of them. Each has a savepoint, so that what one of them takes back is only its own.
type turn struct {
	mu      sync.Mutex
	waiting atomic.Int64
	shared  *shared // the transaction that is left open for the next; nil if there is none
}

// shared is a transaction of several writers.
type shared struct {
	*within
	kept   int   // writers whose part of it holds
	broken error // SQLite itself took all of it back
	ended  chan struct{}
	err    error // of the commit; set before ended is closed
}

const (
	mostTogether = 32 // so that the first of them doesn't wait for long
	savepoint    = "SAVEPOINT writer"
	release      = "RELEASE writer"
	takeBack     = "ROLLBACK TO writer; RELEASE writer"
)

// Write runs f in a transaction and returns once what it wrote is on the disk. If f returns an error, nothing of it is written and
// that is returned. Within it f must use only q. An overlap refused by the database comes back as ErrOverlap, a seat too many as
// ErrFull. A context that ends keeps f from beginning, and doesn't interrupt it: others may share the transaction.
func (s *Store) Write(ctx context.Context, f func(q *sqlc.Queries) error) error {
	t, err := s.writeInTurn(ctx, f)
	if err != nil {
		return err
	}
	<-t.ended
	return meaning(t.err)
}

func (s *Store) writeInTurn(ctx context.Context, f func(q *sqlc.Queries) error) (*shared, error) {
	s.turn.waiting.Add(1)
	s.turn.mu.Lock()
	defer s.turn.mu.Unlock()
	s.turn.waiting.Add(-1)
	t, err := s.join(ctx)
	if err != nil {
		return nil, err
	}
	defer s.leave(ctx, t)
	if err := ctx.Err(); err != nil {
		return nil, err
	}
	return t, s.run(ctx, t, f)
}

// join finds the transaction that is left open, or begins one.
func (s *Store) join(ctx context.Context) (*shared, error) {
	if s.turn.shared != nil {
		return s.turn.shared, nil
	}
	if err := ctx.Err(); err != nil {
		return nil, err
	}
	tx, err := s.write.BeginTx(context.WithoutCancel(ctx), nil)
	if err != nil {
		return nil, err
	}
	s.turn.shared = &shared{within: &within{Tx: tx, all: s.writing, own: map[string]*sql.Stmt{}}, ended: make(chan struct{})}
	return s.turn.shared, nil
}

// run is the part of one writer. Whatever ends it before its end, a panic too, takes back what it wrote.
func (s *Store) run(ctx context.Context, t *shared, f func(q *sqlc.Queries) error) (err error) {
	if _, err := t.ExecContext(ctx, savepoint); err != nil {
		t.broken = err
		return err
	}
	kept := false
	defer func() {
		s.tables.turned(kept)
		if kept {
			t.kept++
		} else if _, back := t.Tx.ExecContext(context.WithoutCancel(ctx), takeBack); back != nil {
			t.broken = errors.Join(err, fmt.Errorf("taking back: %w", back))
		}
	}()
	if err := f(sqlc.New(t.within)); err != nil {
		return meaning(err)
	}
	_, err = t.ExecContext(ctx, release)
	kept = err == nil
	return err
}

// leave ends the transaction, unless somebody waits who can join it.
func (s *Store) leave(ctx context.Context, t *shared) {
	if t.broken == nil && t.kept < mostTogether && s.turn.waiting.Load() > 0 {
		return
	}
	s.turn.shared = nil
	if t.err = t.broken; t.err == nil && t.kept > 0 {
		t.err = t.Commit()
		s.revision.Add(1)
	}
	_ = t.Rollback() // after a commit it does nothing
	s.tables.settle(t.err == nil)
	close(t.ended)
	t.keep(ctx)
}
