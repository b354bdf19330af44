// Package store keeps everything in one SQLite database.
//
// Reading and writing use two pools: SQLite lets one writer in at a time, so the write pool is a single connection whose
// transactions begin at once (BEGIN IMMEDIATE) and wait their turn; readers see the last committed state and never wait.
// Queries are SQL in queries/, made into Go by sqlc; the schema is what migrations/ add up to.
package store

import (
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"net/url"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"sync/atomic"

	"github.com/pressly/goose/v3"
	"modernc.org/sqlite"
	sqlite3 "modernc.org/sqlite/lib"

	"corrim/internal/store/sqlc"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Store is an open database. Its queries read; Write changes.
type Store struct {
	revision      atomic.Int64
	*sqlc.Queries // on the read pool
	read, write   *sql.DB
	writing       *statements
	turn          turn
	held          *os.File // the folder's lock
	closing       sync.Once
	damage        atomic.Pointer[string]
	asked         answer // by Ready
	tables        *tables
	sent          *sentLog
}

// ErrOverlap means that the database refused a booking whose kept time overlaps another of the same host.
var ErrOverlap = errors.New("the time overlaps another booking of this host")

// ErrFull means that the database refused a seat in a meeting that has no more.
var ErrFull = errors.New("no seat is left in this meeting")

// ErrNotFound means that no row answers the query.
var ErrNotFound = sql.ErrNoRows

// Open opens or creates corrim.db in the folder and brings it up to date.
func Open(ctx context.Context, folder string) (*Store, error) {
	held, err := lock(folder)
	if err != nil {
		return nil, err
	}
	opened, err := open(ctx, folder)
	if err != nil {
		return nil, errors.Join(err, held.Close())
	}
	opened.held = held
	if opened.sent, err = openSentLog(folder); err != nil {
		return nil, errors.Join(err, opened.Close())
	}
	return opened, nil
}

func open(ctx context.Context, folder string) (*Store, error) {
	if err := keepPrivate(folder); err != nil {
		return nil, err
	}
	name := (&url.URL{Path: filepath.Join(folder, "corrim.db")}).EscapedPath()
	common := "file:" + name + "?_pragma=busy_timeout(5000)&_pragma=journal_mode(WAL)&_pragma=synchronous(FULL)&_pragma=foreign_keys(1)&_pragma=cache_size(-16000)&_pragma=journal_size_limit(67108864)"
	counted := newTables()
	write := openWatched(common+"&_txlock=immediate", counted)
	write.SetMaxOpenConns(1)
	if err := migrate(ctx, write); err != nil {
		_ = write.Close()
		return nil, fmt.Errorf("bringing the database in %s up to date: %w", folder, err)
	}
	read, err := sql.Open("sqlite", common+"&_pragma=query_only(1)")
	if err != nil {
		_ = write.Close()
		return nil, err
	}
	read.SetMaxOpenConns(8)
	read.SetMaxIdleConns(8) // a connection that is closed takes its prepared statements with it
	return &Store{Queries: sqlc.New(newStatements(read)), read: read, write: write, writing: newStatements(write), tables: counted}, nil
}

// keepPrivate lets only the database's owner read it, whatever the folder lets others do. SQLite gives the files that it makes
// beside the database the same permissions.
func keepPrivate(folder string) error {
	file := filepath.Join(folder, "corrim.db")
	made, err := os.OpenFile(file, os.O_RDWR|os.O_CREATE, 0o600)
	if err != nil {
		return err
	}
	if err := made.Close(); err != nil {
		return err
	}
	for _, name := range []string{file, file + "-wal", file + "-shm"} {
		if err := os.Chmod(name, 0o600); err != nil && !errors.Is(err, os.ErrNotExist) {
			return err
		}
	}
	return nil
}

func migrate(ctx context.Context, db *sql.DB) error {
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	provider, err := goose.NewProvider(goose.DialectSQLite3, db, files, goose.WithGoMigrations(repair))
	if err != nil {
		return err
	}
	there, err := provider.GetDBVersion(ctx)
	if err != nil {
		return err
	}
	if known := newest(provider); there > known {
		return fmt.Errorf("it was written by a later version of Corrim (schema %d; this one knows %d). Start that version again, or put back a copy from before it", there, known)
	}
	_, err = provider.Up(ctx)
	return err
}

// Tune lets the database count what is in it where that has changed much: what it knows decides by which index it answers
// (https://sqlite.org/pragma.html#pragma_optimize). It looks at samples of all tables and is done in milliseconds.
// What the write-ahead file holds is put into the database, and its space given back.
func (s *Store) Tune(ctx context.Context) error {
	if _, err := s.write.ExecContext(ctx, "PRAGMA analysis_limit = 1000; PRAGMA optimize(0x10002)"); err != nil {
		return err
	}
	_, err := s.write.ExecContext(ctx, "PRAGMA wal_checkpoint(TRUNCATE)")
	return err
}

func newest(provider *goose.Provider) int64 {
	sources := provider.ListSources()
	return sources[len(sources)-1].Version
}

// Close closes the database; a second time does nothing.
func (s *Store) Close() (err error) {
	s.closing.Do(func() {
		err = errors.Join(s.read.Close(), s.write.Close(), s.held.Close())
		if s.sent != nil {
			err = errors.Join(err, s.sent.file.Close())
		}
	})
	return err
}

// Script runs statements in one transaction.
func (s *Store) Script(ctx context.Context, statements string) error {
	tx, err := s.write.BeginTx(ctx, nil)
	if err != nil {
		return err
	}
	defer func() { _ = tx.Rollback() }() // after a commit it does nothing
	if _, err := tx.ExecContext(ctx, statements); err != nil {
		return err
	}
	err = tx.Commit()
	s.tables.turned(true)
	s.tables.settle(err == nil)
	s.revision.Add(1)
	return err
}

// Revision rises with every write: as long as it stays, so does everything that was read since.
func (s *Store) Revision() int64 { return s.revision.Load() }

// Refuses tells whether the database refuses what is to be written (a constraint), and not the writing as such.
func Refuses(err error) bool {
	var refused *sqlite.Error
	return errors.Is(err, ErrOverlap) || errors.As(err, &refused) && refused.Code()&0xff == sqlite3.SQLITE_CONSTRAINT
}

func meaning(err error) error {
	if err != nil && strings.Contains(err.Error(), "booking overlap") {
		return ErrOverlap
	}
	if err != nil && strings.Contains(err.Error(), "no seat left") {
		return ErrFull
	}
	return err
}
