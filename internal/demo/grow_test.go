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

// What grows for years. A query that goes through all of one of these, or all of one person's or one calendar's, takes longer every month.
var growing = regexp.MustCompile(`SCAN (meeting|seat|meeting_host|booking_step|assignment|busy|calendar_resource|job_log|client|letter|guest)\b|` +
	`SEARCH (meeting|meeting_host|busy) USING (COVERING )?INDEX (\w+) \((host_id|person_id|calendar_id)=\?\)`)

// bounded is which parts of which plans look like it and are not, and why.
var bounded = []struct{ query, part, why string }{
	{"RequestsOfWorkspace", "SCAN seat USING INDEX seat_requested", "an index of requests that wait: not many"},
	{"RequestsOfHost", "SCAN seat USING INDEX seat_requested", "the same"},
	{"MissingEvents", "SEARCH meeting_host USING INDEX meeting_host_missing (person_id=?)", "an index of entries that are missing: not many"},
	{"OpenMarks", "SEARCH busy USING INDEX busy_opens (calendar_id=?)", "an index of events that open time instead of a week"},
	{"KnownClients", "SEARCH meeting USING COVERING INDEX meeting_by_host (host_id=?)", "along it from the end, to the 200th"},
	{"ClientsOfHost", "SEARCH meeting_host USING COVERING INDEX meeting_host_by_time (person_id=?)", "a member's own clients: some milliseconds for ten years of one host's bookings"},
}

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
			plan := planOf(t, database, query[2])
			for _, b := range bounded {
				if b.query == query[1] {
					plan = strings.ReplaceAll(plan, b.part, "")
				}
			}
			if growing.MatchString(plan) {
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
