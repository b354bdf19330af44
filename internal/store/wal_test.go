package store_test

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/internal/store/sqlc"
	"corrim/internal/store/storetest"
)

// What was written at one go, like a demo's bookings, leaves a write-ahead file as long as it was.
func TestTheWriteAheadFileIsGivenBack(t *testing.T) {
	folder := t.TempDir()
	s := storetest.Open(t, folder)
	require.NoError(t, s.Write(t.Context(), func(q *sqlc.Queries) error {
		for i := range 200 {
			if _, err := q.AddLetter(t.Context(), sqlc.AddLetterParams{Receiver: fmt.Sprint(i), Subject: strings.Repeat("x", 20_000), Sealed: []byte{}}); err != nil {
				return err
			}
		}
		return nil
	}))
	size := func() int64 {
		info, err := os.Stat(filepath.Join(folder, "corrim.db-wal"))
		require.NoError(t, err)
		return info.Size()
	}
	require.Greater(t, size(), int64(3<<20))
	require.NoError(t, s.Tune(t.Context()))
	assert.Zero(t, size())
}
