package app_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/told"
	"corrim/internal/app"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/store/sqlc"
	"corrim/internal/testhouse"
)

func TestASheetTellsAllOfABooking(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	routed(t, h, func(*schedule.TypeRouting) {}) // both in turn
	book(t, h, "2026-05-05 10:00")
	book(t, h, "2026-05-06 10:00")
	require.NoError(t, h.App.Store.Write(ctx, func(q *sqlc.Queries) error {
		return q.SetClientNote(ctx, sqlc.SetClientNoteParams{WorkspaceID: 1, Mail: h.Request("2026-05-05 10:00").Mail, Notes: "Prefers mornings."})
	}))
	board, err := h.App.Board(ctx, h.Host, app.BoardDays{From: "2026-05-05", Whose: app.Everybodys}, 0)
	require.NoError(t, err)
	var id int64
	for _, row := range board.Rows {
		for _, b := range row.Ribbon.Bookings {
			id = b.ID
		}
	}
	letters(t, h, h.Request("2026-05-05 10:00").Mail, 2)
	sheet, err := h.App.BookingSheet(ctx, again(t, h), id)
	require.NoError(t, err)
	assert.Equal(t, "2026-05-05", sheet.Date)
	assert.Equal(t, []any{1, "Prefers mornings."}, []any{sheet.SoFar.Bookings, sheet.SoFar.Notes})
	assert.Equal(t, []string{"Next in turn."}, told.Sentences(sheet.Why))
	require.Len(t, sheet.Steps, 1)
	assert.Equal(t, []any{"booked", "client"}, []any{sheet.Steps[0].Kind, sheet.Steps[0].By})
	require.Eventually(t, func() bool {
		sheet, err = h.App.BookingSheet(ctx, again(t, h), id)
		return err == nil && len(sheet.Messages) == 2 && sheet.Messages[0].State == "sent" && sheet.Messages[1].State == "sent"
	}, time.Minute, 20*time.Millisecond)

	// Of another's booking a member is told nothing; of their own, only what they themselves had with the client.
	require.Equal(t, []string{h.Host.Name}, sheet.Hosts)
	maren, err := h.App.Person(ctx, h.Colleague.ID)
	require.NoError(t, err)
	_, err = h.App.BookingSheet(ctx, maren, id)
	refused(t, err, refusal.NotFound)
	theirs, err := h.App.BookingSheet(ctx, maren, id+1)
	require.NoError(t, err)
	assert.Zero(t, theirs.SoFar.Bookings, "the other one was with somebody else")
}
