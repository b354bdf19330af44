package store_test

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// sqlc numbers parameters before it knows how many a slice becomes: one that is named after a slice would be taken for one of the
// slice's.
func TestASliceIsTheLastParameterOfItsQuery(t *testing.T) {
	files, err := filepath.Glob("queries/*.sql")
	require.NoError(t, err)
	require.NotEmpty(t, files)
	for _, file := range files {
		text, err := os.ReadFile(file)
		require.NoError(t, err)
		for _, query := range strings.Split(string(text), "-- name: ")[1:] {
			_, after, has := strings.Cut(query, "sqlc.slice(")
			statement, _, _ := strings.Cut(after, ";")
			assert.False(t, has && strings.Contains(statement, "@"), "%s: %s", file, strings.Fields(query)[0])
		}
	}
}
