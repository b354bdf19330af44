package app_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/message"
	"corrim/core/routing"
	"corrim/internal/app"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/testhouse"
)

func TestAClientSaysOnceHowAMeetingWas(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	asks := clientRule(24*60, message.After, message.Attended)
	asks.At, asks.Asks = "09:00", true
	_, err := h.App.SaveMessages(ctx, h.Host, 0, clocked(asks))
	require.NoError(t, err)
	b := book(t, h, "2026-05-05 15:00")
	letters(t, h, "keeper@harbour.example", 1)
	good := app.Feedback{Rating: 4, Remark: " Bright, and quick. "}
	_, err = h.App.Rate(ctx, linkOf(b), good)
	refused(t, err, refusal.Over)

	h.Pass(h.At("2026-05-05 15:55").Sub(h.Now()))
	view, err := h.App.BookingByLink(ctx, linkOf(b))
	require.NoError(t, err)
	assert.True(t, view.MayRate)
	today, err := h.App.ClientByMail(ctx, h.Host, "keeper@harbour.example")
	require.NoError(t, err)
	id := today.History[0].ID
	require.NoError(t, h.App.Attendance(ctx, h.Host, id, "no-show"))
	_, err = h.App.Rate(ctx, linkOf(b), good)
	refused(t, err, refusal.Over)
	require.NoError(t, h.App.Attendance(ctx, h.Host, id, "attended"))
	until(t, h, "2026-05-06 12:55")
	assert.Len(t, subjectsTo(h, "keeper@"), 1, "in Halifax it is not 9:00 yet")
	until(t, h, "2026-05-06 13:01")
	asked := letters(t, h, "keeper@harbour.example", 2)[1]
	assert.Contains(t, lined(asked), "Say how it was:\n"+h.App.BaseURL+b.Link+"?answer=rate")

	_, err = h.App.Rate(ctx, linkOf(b), app.Feedback{Rating: 6, Remark: strings.Repeat("x", 4001)})
	fields := refused(t, err, refusal.Invalid).Fields
	assert.Contains(t, fields, "rating")
	assert.Contains(t, fields, "remark")
	view, err = h.App.Rate(ctx, linkOf(b), good)
	require.NoError(t, err)
	assert.Equal(t, &app.Feedback{Rating: 4, Remark: "Bright, and quick."}, view.Rated)
	assert.False(t, view.MayRate)
	_, err = h.App.Rate(ctx, linkOf(b), good)
	refused(t, err, refusal.Over)

	sheet, err := h.App.BookingSheet(ctx, h.Host, id)
	require.NoError(t, err)
	assert.Equal(t, view.Rated, sheet.Feedback)
	today, err = h.App.ClientByMail(ctx, h.Host, "keeper@harbour.example")
	require.NoError(t, err)
	assert.Equal(t, view.Rated, today.History[0].Feedback)
	facts, err := h.App.TypeFacts(ctx, h.Host, []int64{h.Type.ID, 4711, 4712})
	require.NoError(t, err)
	assert.Equal(t, settings.Ratings{Count: 1, Average: 4}, facts[0].Ratings)
}

func TestRatingsAreOfMeetingsThatOneMaySee(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	asks := clientRule(60, message.After, message.Always)
	asks.Asks = true
	_, err := h.App.SaveMessages(ctx, h.Host, 0, clocked(asks))
	require.NoError(t, err)
	b := book(t, h, "2026-05-05 15:00")
	h.Pass(31 * time.Hour)
	_, err = h.App.Rate(ctx, linkOf(b), app.Feedback{Rating: 2})
	require.NoError(t, err)
	both := schedule.TypeRouting{Mode: routing.InTurn, People: []schedule.PoolMember{{Person: h.Host.ID, Weight: 1}, {Person: h.Colleague.ID, Weight: 1}}}
	_, err = h.App.SaveRouting(ctx, h.Host, h.Type.ID, settings.RoutingChange{Routing: both, Who: "anyone", Accept: true})
	require.NoError(t, err)
	facts, err := h.App.TypeFacts(ctx, as(t, h, h.Colleague, identity.Member), []int64{h.Type.ID})
	require.NoError(t, err)
	require.Len(t, facts, 1, "they host it too")
	assert.Zero(t, facts[0].Ratings, "but what was said was said of a colleague")
}
