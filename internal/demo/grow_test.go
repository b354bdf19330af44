package demo_test

import (
	"database/sql"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/internal/demo"
	"corrim/internal/testhouse"
)

// What grows for years. A query that goes through all of one of these takes longer every month; all of the index of those requests
// that wait is not much.
var growing = regexp.MustCompile(`SCAN (meeting|seat|meeting_host|booking_step|assignment|busy|calendar_resource|job_log|client|letter|guest)\b`)

var (
	named     = regexp.MustCompile(`(?s)-- name: (\w+) :\w+\n(.*?);`)
	embedded  = regexp.MustCompile(`sqlc\.embed\((\w+)\)`)
	sliced    = regexp.MustCompile(`sqlc\.slice\('?(\w+)'?\)`)
	parameter = regexp.MustCompile(`@(\w+)`)
)

func TestNoQueryGoesThroughYearsOfUse(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	require.NoError(t, demo.Grow(t.Context(), h.App.Store, 8, h.Now())) // with statistics, by which the planner decides
	database := h.Database()
	files, err := filepath.Glob("../store/queries/*.sql")
	require.NoError(t, err)
	require.NotEmpty(t, files)
	seen := 0
	for _, file := range files {
		text, err := os.ReadFile(file)
		require.NoError(t, err)
		for _, query := range named.FindAllStringSubmatch(string(text), -1) {
			seen++
			if plan := strings.ReplaceAll(planOf(t, database, query[2]), "SCAN seat USING INDEX seat_requested", ""); growing.MatchString(plan) {
				assert.Fail(t, "a query goes through all there ever was", "%s:\n%s", query[1], plan)
			}
		}
	}
	assert.Greater(t, seen, 200)
}

// planOf is how the database would answer a query (https://sqlite.org/eqp.html).
func planOf(t *testing.T, database *sql.DB, query string) string {
	query = sliced.ReplaceAllString(embedded.ReplaceAllString(query, "$1.*"), "1, 2")
	var values []any
	known := map[string]bool{}
	for _, name := range parameter.FindAllStringSubmatch(query, -1) {
		if !known[name[1]] {
			known[name[1]] = true
			values = append(values, sql.Named(name[1], 1))
		}
	}
	rows, err := database.Query("EXPLAIN QUERY PLAN "+query, values...)
	require.NoError(t, err, query)
	defer func() { _ = rows.Close() }()
	var plan strings.Builder
	for rows.Next() {
		var id, parent, unused int
		var detail string
		require.NoError(t, rows.Scan(&id, &parent, &unused, &detail))
		plan.WriteString(detail + "\n")
	}
	return plan.String()
}
