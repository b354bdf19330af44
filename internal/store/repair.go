package store

import (
	"context"
	"database/sql"
	"fmt"

	"github.com/pressly/goose/v3"
)

// Some migrations were changed after databases had been made by them. What those databases lack is added here, so that all are alike
// from this one on. Since then a migration stays as it landed: its sum is in migrations.sum.
//
// No way back: what is added was there in every database made later.
var repair = goose.NewGoMigration(16, &goose.GoFunc{RunTx: addWhatIsMissing}, nil)

// mending is a statement for a database in which something is not as it should be: a column that is missing, or one that should be gone.
type mending struct {
	table, column string
	there         bool // the column is there, and should not be
	statements    string
}

var mendings = []mending{
	{"calendar", "read_only", false, "ALTER TABLE calendar ADD COLUMN read_only INTEGER NOT NULL DEFAULT 0"},
	{"calendar", "skew", false, "ALTER TABLE calendar ADD COLUMN skew INTEGER NOT NULL DEFAULT 0"},
	{"image", "hash", false, "CREATE TABLE image (hash TEXT PRIMARY KEY, workspace_id INTEGER NOT NULL REFERENCES workspace (id), media TEXT NOT NULL, bytes BLOB NOT NULL) STRICT"},
	{"person", "no_page", false, "ALTER TABLE person ADD COLUMN no_page INTEGER NOT NULL DEFAULT 0"},
	{"booking", "confirmed_start", false, "ALTER TABLE booking ADD COLUMN confirmed_start INTEGER NOT NULL DEFAULT 0"},
	{"upload", "sender", false, "ALTER TABLE upload ADD COLUMN sender TEXT NOT NULL DEFAULT ''"},
	{"outbox", "series", false, "ALTER TABLE outbox ADD COLUMN series TEXT NOT NULL DEFAULT ''"},
	// Whoever was signed in has to do it again: their sessions were kept in another form.
	{"sign_in", "token", true, `DROP TABLE sign_in;
		CREATE TABLE sign_in (id INTEGER PRIMARY KEY, person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE, at INTEGER NOT NULL,
			seen_at INTEGER NOT NULL, address TEXT NOT NULL, agent TEXT NOT NULL, checked_at INTEGER NOT NULL) STRICT;
		CREATE INDEX sign_in_by_person ON sign_in (person_id, seen_at)`},
}

const missingIndexes = `CREATE INDEX IF NOT EXISTS attempt_by_time ON attempt (at);
	CREATE INDEX IF NOT EXISTS upload_unclaimed_by_sender ON upload (sender) WHERE booking_id IS NULL`

func addWhatIsMissing(ctx context.Context, tx *sql.Tx) error {
	for _, one := range mendings {
		var there bool
		err := tx.QueryRowContext(ctx, "SELECT COUNT(*) > 0 FROM pragma_table_info(?) WHERE name = ?", one.table, one.column).Scan(&there)
		if err != nil {
			return err
		}
		if there != one.there {
			continue
		}
		if _, err := tx.ExecContext(ctx, one.statements); err != nil {
			return fmt.Errorf("mending %s.%s: %w", one.table, one.column, err)
		}
	}
	_, err := tx.ExecContext(ctx, missingIndexes)
	return err
}
