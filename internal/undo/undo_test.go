package undo_test

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/told"
	"corrim/internal/store/sqlc"
	"corrim/internal/store/storetest"
	"corrim/internal/undo"
)

var ctx = context.Background()

// somebody is a person as far as this test's subjects know them.
type somebody struct{ may bool }

type lamp struct{ Lux int }

func TestASubjectIsPutBackAsItWasByWhoStillMay(t *testing.T) {
	s := storetest.Open(t, t.TempDir())
	now := time.Date(2026, 5, 4, 8, 0, 0, 0, time.UTC)
	lux := map[int64]int{}
	subjects := undo.Subjects[somebody]{"lamp": undo.Of(
		func(_ context.Context, _ *sqlc.Queries, by somebody, _ sqlc.SettingChange) error {
			if !by.may {
				return assert.AnError
			}
			return nil
		},
		func(_ context.Context, _ *sqlc.Queries, _ somebody, id int64, before lamp) error {
			lux[id] = before.Lux
			return nil
		}).Telling()}
	var ines, maren int64
	within := func(do func(q *sqlc.Queries) error) error { return s.Write(ctx, do) }
	require.NoError(t, within(func(q *sqlc.Queries) (err error) {
		workspace, err := q.AddWorkspace(ctx, sqlc.AddWorkspaceParams{Slug: "w", Name: "W"})
		require.NoError(t, err)
		for name, id := range map[string]*int64{"ines": &ines, "maren": &maren} {
			*id, err = q.AddPerson(ctx, sqlc.AddPersonParams{WorkspaceID: workspace, Name: name, Slug: name, Mail: name, Zone: "UTC", Week: "[]", Role: "member"})
			require.NoError(t, err)
		}
		return nil
	}))
	change := func(by, id int64, before int) error {
		return within(func(q *sqlc.Queries) error {
			return subjects.Remember(ctx, q, by, now, undo.Change{Subject: "lamp", ID: id, Label: told.Plain("Lamp dimmed"), Before: lamp{before}})
		})
	}
	takeBack := func(who somebody, by int64) error {
		return within(func(q *sqlc.Queries) error { return subjects.Undo(ctx, q, who, by, now) })
	}

	assert.ErrorIs(t, takeBack(somebody{true}, ines), undo.ErrNothing)
	require.NoError(t, change(ines, 7, 50))
	require.NoError(t, change(ines, 8, 200))
	assert.ErrorIs(t, takeBack(somebody{false}, ines), assert.AnError, "roles change")
	assert.Empty(t, lux)
	require.NoError(t, takeBack(somebody{true}, ines))
	assert.Equal(t, map[int64]int{8: 200}, lux, "the last one")
	require.NoError(t, change(maren, 7, 10))
	assert.ErrorIs(t, takeBack(somebody{true}, ines), undo.ErrChangedSince)
	assert.Equal(t, map[int64]int{8: 200}, lux)

	last, err := subjects.Last(ctx, s.Queries, ines)
	require.NoError(t, err)
	require.Len(t, last, 2)
	assert.Equal(t, undo.SettingChange{ID: last[0].ID, At: now, Label: told.Plain("Lamp dimmed"), Undone: true, Tells: true}, last[0])
	assert.False(t, last[1].Undone)
	unknown := within(func(q *sqlc.Queries) error {
		return subjects.Remember(ctx, q, ines, now, undo.Change{Subject: "shade"})
	})
	assert.ErrorContains(t, unknown, "shade", "what can't be put back isn't remembered as if it could")
}
