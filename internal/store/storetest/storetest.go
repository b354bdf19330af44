// Package storetest gives tests databases that are up to date.
package storetest

import (
	"context"
	"os"
	"path/filepath"
	"sync"
	"testing"

	"github.com/stretchr/testify/require"

	"corrim/internal/store"
)

// migrated is a database brought up to date once; every one begins with a copy, since migrating takes longer than most tests.
var migrated = sync.OnceValues(func() ([]byte, error) {
	folder, err := os.MkdirTemp("", "corrim-store")
	if err != nil {
		return nil, err
	}
	defer func() { _ = os.RemoveAll(folder) }()
	opened, err := store.Open(context.Background(), folder)
	if err != nil {
		return nil, err
	}
	if err := opened.Close(); err != nil { // which also writes the log back into the file
		return nil, err
	}
	return os.ReadFile(filepath.Join(folder, "corrim.db"))
})

// Open makes an empty database in a folder and opens it until the test ends.
func Open(t testing.TB, folder string) *store.Store {
	t.Helper()
	database, err := migrated()
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(filepath.Join(folder, "corrim.db"), database, 0o600))
	opened, err := store.Open(context.Background(), folder)
	require.NoError(t, err)
	t.Cleanup(func() { require.NoError(t, opened.Close()) })
	return opened
}
