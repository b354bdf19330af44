package store

import (
	"context"
	"database/sql"
	"fmt"

	"github.com/pressly/goose/v3"
)

// Some early migrations were changed after databases had been made by them. What those databases lack is added here, so that all
// are alike from this one on. Since then a migration stays as it landed: its sum is in migrations.sum.
//
// No way back: what is added was there in every database made later.
var repair = goose.NewGoMigration(16, &goose.GoFunc{RunTx: addWhatIsMissing}, nil)

var missing = []struct{ table, column, statement string }{
	{"calendar", "read_only", "ALTER TABLE calendar ADD COLUMN read_only INTEGER NOT NULL DEFAULT 0"},
	{"calendar", "skew", "ALTER TABLE calendar ADD COLUMN skew INTEGER NOT NULL DEFAULT 0"},
	{"image", "hash", "CREATE TABLE image (hash TEXT PRIMARY KEY, workspace_id INTEGER NOT NULL REFERENCES workspace (id), media TEXT NOT NULL, bytes BLOB NOT NULL) STRICT"},
	{"person", "no_page", "ALTER TABLE person ADD COLUMN no_page INTEGER NOT NULL DEFAULT 0"},
	{"booking", "confirmed_start", "ALTER TABLE booking ADD COLUMN confirmed_start INTEGER NOT NULL DEFAULT 0"},
}

func addWhatIsMissing(ctx context.Context, tx *sql.Tx) error {
	for _, one := range missing {
		var there bool
		err := tx.QueryRowContext(ctx, "SELECT COUNT(*) > 0 FROM pragma_table_info(?) WHERE name = ?", one.table, one.column).Scan(&there)
		if err != nil {
			return err
		}
		if there {
			continue
		}
		if _, err := tx.ExecContext(ctx, one.statement); err != nil {
			return fmt.Errorf("adding %s.%s: %w", one.table, one.column, err)
		}
	}
	return nil
}
