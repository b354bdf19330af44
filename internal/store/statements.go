package store

import (
	"context"
	"database/sql"
	"sync"
)

// statements keeps the statements of a pool prepared: for our short queries SQLite takes longer to read the SQL than to answer it.
// It is what sqlc's queries run on.
type statements struct {
	pool  *sql.DB
	mu    sync.RWMutex
	known map[string]*sql.Stmt
}

func newStatements(pool *sql.DB) *statements {
	return &statements{pool: pool, known: map[string]*sql.Stmt{}}
}

func (s *statements) of(query string) *sql.Stmt {
	s.mu.RLock()
	defer s.mu.RUnlock()
	return s.known[query]
}

// prepared is the statement of a query, made when it is asked for first.
func (s *statements) prepared(ctx context.Context, query string) (*sql.Stmt, error) {
	if stmt := s.of(query); stmt != nil {
		return stmt, nil
	}
	stmt, err := s.pool.PrepareContext(context.WithoutCancel(ctx), query) // it outlives the request
	if err != nil {
		return nil, err
	}
	s.mu.Lock()
	defer s.mu.Unlock()
	if other := s.known[query]; other != nil { // somebody was faster
		return other, stmt.Close()
	}
	s.known[query] = stmt
	return stmt, nil
}

func (s *statements) PrepareContext(ctx context.Context, query string) (*sql.Stmt, error) {
	return s.pool.PrepareContext(ctx, query)
}

func (s *statements) ExecContext(ctx context.Context, query string, args ...any) (sql.Result, error) {
	stmt, err := s.prepared(ctx, query)
	if err != nil {
		return nil, err
	}
	return stmt.ExecContext(ctx, args...)
}

func (s *statements) QueryContext(ctx context.Context, query string, args ...any) (*sql.Rows, error) {
	stmt, err := s.prepared(ctx, query)
	if err != nil {
		return nil, err
	}
	return stmt.QueryContext(ctx, args...)
}

func (s *statements) QueryRowContext(ctx context.Context, query string, args ...any) *sql.Row {
	stmt, err := s.prepared(ctx, query)
	if err != nil {
		return s.pool.QueryRowContext(ctx, query, args...) // which says what is wrong
	}
	return stmt.QueryRowContext(ctx, args...)
}

// within is the statements of a transaction. A query that is not prepared yet runs as it is, since the transaction holds the only
// connection; if it comes again, it is prepared for this transaction, and afterwards for all that follow. No context interrupts one: SQLite
// would take back the whole transaction, which others may share.
type within struct {
	*sql.Tx
	all *statements
	own map[string]*sql.Stmt // of this transaction alone; nil as long as a query came once
}

func (w *within) prepared(ctx context.Context, query string) *sql.Stmt {
	if stmt := w.all.of(query); stmt != nil {
		return w.StmtContext(ctx, stmt)
	}
	stmt, again := w.own[query]
	if again && stmt == nil {
		stmt, _ = w.PrepareContext(ctx, query) // it works without
	}
	w.own[query] = stmt
	return stmt
}

func (w *within) ExecContext(ctx context.Context, query string, args ...any) (sql.Result, error) {
	ctx = context.WithoutCancel(ctx)
	if stmt := w.prepared(ctx, query); stmt != nil {
		return stmt.ExecContext(ctx, args...)
	}
	return w.Tx.ExecContext(ctx, query, args...)
}

func (w *within) QueryContext(ctx context.Context, query string, args ...any) (*sql.Rows, error) {
	ctx = context.WithoutCancel(ctx)
	if stmt := w.prepared(ctx, query); stmt != nil {
		return stmt.QueryContext(ctx, args...)
	}
	return w.Tx.QueryContext(ctx, query, args...)
}

func (w *within) QueryRowContext(ctx context.Context, query string, args ...any) *sql.Row {
	ctx = context.WithoutCancel(ctx)
	if stmt := w.prepared(ctx, query); stmt != nil {
		return stmt.QueryRowContext(ctx, args...)
	}
	return w.Tx.QueryRowContext(ctx, query, args...)
}

// keep prepares what was new in a transaction that has ended. It works without, so nothing is said of what can't be prepared.
func (w *within) keep(ctx context.Context) {
	for query := range w.own {
		_, _ = w.all.prepared(ctx, query)
	}
}
