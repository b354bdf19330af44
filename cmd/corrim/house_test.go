package main

import (
	"go/parser"
	"go/token"
	"io/fs"
	"path"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The rooms of the house, each with the rooms whose doors open to it. Imports only run downwards; what is not in the list is not allowed.
// "core" stands for all packages in it, and so do "outside" and "standin".
var doors = map[string][]string{
	"cmd/corrim":         {"internal/api", "internal/inbound", "internal/demo", "internal/app", "internal/identity", "internal/outside", "internal/standin", "internal/secrets", "internal/store", "internal/trace", "core"},
	"cmd/trial":          {"internal/standin"},
	"cmd/sentences":      {},
	"internal/api":       {"ui", "internal/app", "internal/public", "internal/settings", "internal/schedule", "internal/undo", "internal/identity", "internal/refusal", "internal/store", "internal/trace", "core"},
	"internal/inbound":   {"internal/app", "internal/schedule", "internal/trace", "core"},
	"internal/demo":      {"internal/app", "internal/public", "internal/settings", "internal/schedule", "internal/identity", "internal/standin", "internal/store", "core"},
	"internal/testhouse": {"internal/app", "internal/public", "internal/settings", "internal/schedule", "internal/refusal", "internal/outside", "internal/standin", "internal/store", "internal/trace", "core"},
	"internal/outside":   {"internal/app", "internal/calsync", "core"}, // whose interfaces they are
	"internal/app":       {"internal/public", "internal/settings", "internal/schedule", "internal/letter", "internal/calsync", "internal/undo", "internal/identity", "internal/secrets", "internal/refusal", "internal/job", "internal/store", "internal/trace", "core"},
	"internal/public":    {"internal/settings", "internal/schedule", "internal/identity", "internal/secrets", "internal/refusal", "internal/store", "core"},
	"internal/settings":  {"internal/schedule", "internal/undo", "internal/identity", "internal/refusal", "internal/store", "core"},
	"internal/schedule":  {"internal/calsync", "internal/identity", "internal/secrets", "internal/refusal", "internal/store", "internal/trace", "core"},
	"internal/calsync":   {"internal/job", "internal/store", "internal/trace", "core"},
	"internal/undo":      {"internal/store", "core"},
	"internal/identity":  {"internal/letter", "internal/secrets", "internal/refusal", "internal/store", "internal/trace", "core"},
	"internal/secrets":   {"internal/store"},
	"internal/refusal":   {"core"},
	"internal/letter":    {"core"},
	"internal/job":       {"internal/store", "internal/trace"},
	"internal/store":     {},
	"internal/trace":     {},
	"internal/standin":   {"core"},
	"core":               {},
	"ui":                 {},
}

// room is the room of a package: core/busy is in core, internal/store/sqlc in internal/store.
func room(pkg string) string {
	parts := strings.Split(pkg, "/")
	if parts[0] == "core" || parts[0] == "ui" {
		return parts[0]
	}
	return path.Join(parts[:min(2, len(parts))]...)
}

func TestImportsRunDownwardsOnly(t *testing.T) {
	const house = "../.."
	seen := map[string]bool{}
	require.NoError(t, filepath.WalkDir(house, func(file string, entry fs.DirEntry, err error) error {
		if err != nil || entry.Name() == "node_modules" {
			return fs.SkipDir
		}
		if !strings.HasSuffix(file, ".go") || strings.HasSuffix(file, "_test.go") {
			return nil
		}
		inside, err := filepath.Rel(house, filepath.Dir(file))
		require.NoError(t, err)
		from := room(filepath.ToSlash(inside))
		allowed, known := doors[from]
		if !assert.True(t, known, "%s is a room that the table doesn't have: look at CONTRIBUTING.md for where things go", from) {
			return nil
		}
		seen[from] = true
		parsed, err := parser.ParseFile(token.NewFileSet(), file, nil, parser.ImportsOnly)
		require.NoError(t, err)
		for _, i := range parsed.Imports {
			name, err := strconv.Unquote(i.Path.Value)
			require.NoError(t, err)
			if to, ours := strings.CutPrefix(name, "corrim/"); ours && room(to) != from {
				assert.True(t, slices.Contains(allowed, room(to)), "%s imports %s: there is no door from %s to %s", file, to, from, room(to))
			}
		}
		return nil
	}))
	assert.Len(t, seen, len(doors), "a room that is gone leaves the table too")
}

// The rules of the job are computed from what they are given: no input or output, no clock of their own.
func TestTheCoreReadsAndWritesNothing(t *testing.T) {
	require.NoError(t, filepath.WalkDir("../../core", func(file string, _ fs.DirEntry, err error) error {
		if err != nil || !strings.HasSuffix(file, ".go") || strings.HasSuffix(file, "_test.go") {
			return err
		}
		parsed, err := parser.ParseFile(token.NewFileSet(), file, nil, parser.ImportsOnly)
		require.NoError(t, err)
		for _, i := range parsed.Imports {
			name, err := strconv.Unquote(i.Path.Value)
			require.NoError(t, err)
			assert.NotContains(t, []string{"os", "net", "net/http", "database/sql", "log", "log/slog", "context"}, name, file)
		}
		return nil
	}))
}
