package app_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/scenario"
	"corrim/core/span"
	"corrim/internal/app"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/testhouse"
)

// booked is a running house with one booking, whose event is in the host's calendar and was seen there.
func booked(t *testing.T) (*testhouse.House, app.ClientBooking) {
	t.Helper()
	h := testhouse.New(t)
	h.Connect()
	h.Run()
	booking := book(t, h, "2026-05-05 10:00")
	letters(t, h, "harbour", 1)
	letters(t, h, "ines", 1)
	require.Eventually(t, func() bool { return len(events(t, h)) == 1 }, time.Minute, 10*time.Millisecond)
	settled(t, h)
	return h, booking
}

// settled waits until the booking's event is noted and reads the calendars.
func settled(t *testing.T, h *testhouse.House) app.Today {
	t.Helper()
	h.Pass(time.Second)
	_, err := h.App.ReadCalendars(ctx, h.Host)
	require.NoError(t, err)
	today, err := h.App.Today(ctx, again(t, h))
	require.NoError(t, err)
	return today
}

// toTwo moves an event from 10 to 14 o'clock in Lisbon.
func toTwo(ics string) string {
	return strings.NewReplacer("20260505T090000Z", "20260505T130000Z", "20260505T095000Z", "20260505T135000Z").Replace(ics)
}

func choose(t *testing.T, h *testhouse.House, eventChange string) {
	t.Helper()
	_, err := h.App.SetCalendarSettings(ctx, again(t, h), schedule.CalendarSettings{Unreachable: "trust", TrustHours: 24, EventChange: eventChange})
	require.NoError(t, err)
}

func TestAnEventOverABookingIsAClashWithWaysOut(t *testing.T) {
	t.Parallel()
	h, booking := booked(t)
	assert.Empty(t, settled(t, h).Clashes, "the booking's own event is none")
	require.NoError(t, h.Calendars.AddEvent("ines", 1, "School", h.At("2026-05-05 10:30"), h.At("2026-05-05 11:30")))
	require.NoError(t, h.Calendars.AddEvent("ines", 1, "Only its buffer", h.At("2026-05-05 10:50"), h.At("2026-05-05 11:30")))
	clashes := settled(t, h).Clashes
	require.Len(t, clashes, 1)
	assert.Equal(t, "In your calendar there is now “School” (Family) 10:30–11:30.", clashes[0].Sentence.Sentence)
	id := clashes[0].Booking.ID

	today, err := h.App.AskToChooseAgain(ctx, again(t, h), id, "The school calls.")
	require.NoError(t, err)
	assert.True(t, today.Clashes[0].Asked)
	asked := letters(t, h, "harbour", 2)
	assert.Contains(t, asked[0].Text+asked[1].Text, "asks you to choose another time")
	assert.Contains(t, asked[0].Text+asked[1].Text, "Ines Valadares writes: The school calls.")
	moved, err := h.App.Move(ctx, linkOf(booking), h.At("2026-05-06 10:00"))
	require.NoError(t, err)
	assert.Equal(t, booking.Link, moved.Link)
	assert.Empty(t, settled(t, h).Clashes, "the client chose again")

	require.NoError(t, h.Calendars.AddEvent("ines", 1, "Dentist", h.At("2026-05-06 10:00"), h.At("2026-05-06 10:10")))
	require.Len(t, settled(t, h).Clashes, 1)
	today, err = h.App.KeepBoth(ctx, again(t, h), id)
	require.NoError(t, err)
	assert.Empty(t, today.Clashes)
	_, err = h.App.Undo(ctx, again(t, h))
	require.NoError(t, err)
	require.Len(t, settled(t, h).Clashes, 1, "keeping both is taken back")
	_, err = h.App.KeepBoth(ctx, again(t, h), id)
	require.NoError(t, err)
	require.NoError(t, h.Calendars.AddEvent("ines", 1, "And another", h.At("2026-05-06 10:00"), h.At("2026-05-06 10:10")))
	require.Len(t, settled(t, h).Clashes, 1, "a new event is a new clash")
	_, err = h.App.CancelByHost(ctx, again(t, h), id, "Nothing works today.", false)
	require.NoError(t, err)
	view, err := h.App.BookingByLink(ctx, linkOf(booking))
	require.NoError(t, err)
	assert.Equal(t, "cancelled", view.State)
	require.Eventually(t, func() bool {
		for _, l := range h.Inbox.Letters() {
			if strings.Contains(l.Text, "had to cancel your meeting") && strings.Contains(l.Text, "Nothing works today.") && l.Method == "CANCEL" {
				return true
			}
		}
		return false
	}, time.Minute, 10*time.Millisecond)

	_, err = h.App.CancelByHost(ctx, again(t, h), id, "", false)
	refused(t, err, refusal.Over)
	_, err = h.App.KeepBoth(ctx, h.Colleague, id)
	refused(t, err, refusal.NotFound)
}

func TestMovingItsEventInTheCalendarIsAskedAboutOrFollowed(t *testing.T) {
	t.Parallel()
	h, booking := booked(t)
	require.NoError(t, h.Calendars.Rewrite("ines", 0, toTwo))
	clashes := settled(t, h).Clashes
	require.Len(t, clashes, 1)
	assert.Equal(t, "You moved its event in your calendar to Tue 5 May, 14:00.", clashes[0].Sentence.Sentence)
	id := clashes[0].Booking.ID
	today, err := h.App.PutBack(ctx, again(t, h), id)
	require.NoError(t, err)
	assert.Empty(t, today.Clashes)
	require.Eventually(t, func() bool { return events(t, h)[0] == "5 10:00: Survey: Harbour Maritime with Ines Valadares" }, time.Minute, 10*time.Millisecond)

	settled(t, h)
	require.NoError(t, h.Calendars.Rewrite("ines", 0, toTwo))
	require.Len(t, settled(t, h).Clashes, 1)
	_, err = h.App.MoveAlong(ctx, again(t, h), id)
	require.NoError(t, err)
	view, err := h.App.BookingByLink(ctx, linkOf(booking))
	require.NoError(t, err)
	assert.True(t, h.At("2026-05-05 14:00").Equal(view.Start))
	assert.Contains(t, h.Open("2026-05-05"), "10:00")
	require.Eventually(t, func() bool {
		for _, l := range h.Inbox.Letters() {
			if strings.Contains(l.Text, "Ines Valadares had to move your meeting") && l.Method == "REQUEST" {
				return true
			}
		}
		return false
	}, time.Minute, 10*time.Millisecond)
}

func TestDeletingItsEventInTheCalendarCancelsIfTheHostWantsThat(t *testing.T) {
	t.Parallel()
	h, booking := booked(t)
	h.Calendars.RemoveAll("ines", 0)
	clashes := settled(t, h).Clashes
	require.Len(t, clashes, 1)
	assert.Equal(t, "You deleted its event in your calendar.", clashes[0].Sentence.Sentence)
	_, err := h.App.PutBack(ctx, again(t, h), clashes[0].Booking.ID)
	require.NoError(t, err)
	require.Eventually(t, func() bool { return len(events(t, h)) == 1 }, time.Minute, 10*time.Millisecond)
	settled(t, h)

	choose(t, h, "follow")
	h.Calendars.RemoveAll("ines", 0)
	assert.Empty(t, settled(t, h).Clashes)
	view, err := h.App.BookingByLink(ctx, linkOf(booking))
	require.NoError(t, err)
	assert.Equal(t, "cancelled", view.State)
}

func TestFollowingAMovedEventNeverDoubleBooks(t *testing.T) {
	t.Parallel()
	h, first := booked(t)
	choose(t, h, "follow")
	require.NoError(t, h.Calendars.Rewrite("ines", 0, toTwo))
	assert.Empty(t, settled(t, h).Clashes)
	view, err := h.App.BookingByLink(ctx, linkOf(first))
	require.NoError(t, err)
	assert.True(t, h.At("2026-05-05 14:00").Equal(view.Start))

	book(t, h, "2026-05-05 11:00")
	require.Eventually(t, func() bool { return len(events(t, h)) == 2 }, time.Minute, 10*time.Millisecond)
	settled(t, h)
	require.NoError(t, h.Calendars.Rewrite("ines", 0, func(ics string) string {
		return strings.NewReplacer("20260505T100000Z", "20260505T130000Z", "20260505T105000Z", "20260505T135000Z").Replace(ics)
	}))
	clashes := settled(t, h).Clashes
	require.Len(t, clashes, 1, "where it was moved there is another booking, so it is asked about")
	_, err = h.App.MoveAlong(ctx, again(t, h), clashes[0].Booking.ID)
	refused(t, err, refusal.Taken)
}

func TestATypeMayIgnoreCalendarsButNotWhatWasBlockedOrBooked(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	require.NoError(t, h.Calendars.AddEvent("ines", 0, "Dentist", h.At("2026-05-05 10:00"), h.At("2026-05-05 12:00")))
	h.Connect()
	require.NoError(t, h.App.AddBlock(ctx, again(t, h), app.NewBlock{Date: "2026-05-05", From: 14 * 60, To: 15 * 60}))
	assert.NotContains(t, h.Open("2026-05-05"), "10:00")
	draft := h.Type.TypeDraft
	draft.Rules.IgnoreCalendars, draft.Rules.Follows = true, nil
	_, err := h.App.SaveMeetingType(ctx, again(t, h), h.Type.ID, draft, settings.Saving{})
	require.NoError(t, err)
	open := h.Open("2026-05-05")
	assert.Contains(t, open, "10:00")
	assert.NotContains(t, open, "14:00", "blocked by the host")
	book(t, h, "2026-05-05 10:00")
	assert.NotContains(t, h.Open("2026-05-05"), "10:00", "booked")
	assert.Empty(t, settled(t, h).Clashes, "it was wanted so")
	text, err := h.App.Scenario(ctx, again(t, h), h.Type.ID, "2026-05-05")
	require.NoError(t, err)
	saved, err := scenario.Read(text, nil)
	require.NoError(t, err)
	assert.Len(t, saved.Pool.Hosts[0].Busy.Within(span.Of(h.At("2026-05-05 00:00"), h.At("2026-05-06 00:00"))), 2)
	assert.True(t, saved.Input.Type.IgnoreBusy)
}
