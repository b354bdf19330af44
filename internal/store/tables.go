package store

import (
	"context"
	"database/sql"
	"database/sql/driver"
	"maps"
	"sync"

	"modernc.org/sqlite"
)

// tables counts the writes to each table, so that what was worked out from some of them can be kept for as long as they stay.
type tables struct {
	mu       sync.Mutex
	writes   map[string]int64
	touching map[string]bool // by the writer whose turn it is
	touched  map[string]bool // by the writers before it in the transaction under way
}

func newTables() *tables {
	return &tables{writes: map[string]int64{}, touching: map[string]bool{}, touched: map[string]bool{}}
}

func (t *tables) touch(table string) {
	t.mu.Lock()
	defer t.mu.Unlock()
	t.touching[table] = true
}

// turned ends a writer's turn; what was taken back was not touched.
func (t *tables) turned(kept bool) {
	t.mu.Lock()
	defer t.mu.Unlock()
	if kept {
		maps.Copy(t.touched, t.touching)
	}
	clear(t.touching)
}

// settle ends a transaction. What it touched counts once it can be read, and not before: else somebody could keep what was there
// before it as what is there since.
func (t *tables) settle(committed bool) {
	t.mu.Lock()
	defer t.mu.Unlock()
	if committed {
		for table := range maps.Keys(t.touched) {
			t.writes[table]++
		}
	}
	clear(t.touched)
}

// Written counts the writes to some tables. As long as it stays, so does everything that is read from them.
func (s *Store) Written(names ...string) (writes int64) {
	s.tables.mu.Lock()
	defer s.tables.mu.Unlock()
	for _, name := range names {
		writes += s.tables.writes[name]
	}
	return writes
}

// watching opens connections whose writes are counted.
type watching struct {
	name   string
	tables *tables
}

func (w watching) Driver() driver.Driver { return &sqlite.Driver{} }

func (w watching) Connect(context.Context) (driver.Conn, error) {
	connection, err := w.Driver().Open(w.name)
	if err != nil {
		return nil, err
	}
	if hooks, ok := connection.(sqlite.HookRegisterer); ok {
		hooks.RegisterPreUpdateHook(func(change sqlite.SQLitePreUpdateData) { w.tables.touch(change.TableName) })
	}
	return connection, nil
}

var _ driver.Connector = watching{}

func openWatched(name string, t *tables) *sql.DB { return sql.OpenDB(watching{name, t}) }
