package app_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/internal/app"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/secrets"
	"corrim/internal/settings"
	"corrim/internal/testhouse"
)

// as gives somebody a role, and returns them with it.
func as(t *testing.T, h *testhouse.House, who schedule.Person, role identity.Role) schedule.Person {
	t.Helper()
	_, err := h.App.ChangePerson(ctx, h.Host, who.ID, app.PersonChange{Name: who.Name, Zone: who.Zone, Role: role, Bookable: true})
	require.NoError(t, err)
	who, err = h.App.Person(ctx, who.ID)
	require.NoError(t, err)
	return who
}

func TestASharedWeekPlanIsChangedByThoseWhoLookAfterItsUsers(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	view, err := h.App.AddWeekPlan(ctx, h.Host, "Short week", weekOf("10-12"))
	require.NoError(t, err)
	plan, longer := view.Plan, weekOf("10-14")
	_, err = h.App.SaveHours(ctx, h.Colleague, settings.WeekInput{Plan: plan, Week: longer})
	assert.Contains(t, refused(t, err, refusal.Forbidden).Sentence, "Colleagues work by this week plan too")
	_, err = h.App.RenameWeekPlan(ctx, h.Colleague, plan, "Mine now")
	refused(t, err, refusal.Forbidden)
	assert.Contains(t, h.Open("2026-05-11"), "10:00", "Ines's hours are as they were")
	assert.NotContains(t, h.Open("2026-05-11"), "12:00")
	_, err = h.App.SaveHours(ctx, h.Colleague, settings.WeekInput{Plan: plan, Week: weekOf("10-12")})
	require.NoError(t, err, "to work by it changes nobody's hours but one's own")
	_, err = h.App.SaveHours(ctx, as(t, h, h.Colleague, identity.Coordinator), settings.WeekInput{Plan: plan, Week: longer})
	require.NoError(t, err)
}

func TestUndoingNeedsTheRightThatTheChangeNeeded(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	maren := as(t, h, h.Colleague, identity.Coordinator)
	space, err := h.App.Workspace(ctx, maren)
	require.NoError(t, err)
	space.Name = "Renamed"
	_, err = h.App.SaveWorkspace(ctx, maren, space.Workspace)
	require.NoError(t, err)
	maren = as(t, h, maren, identity.Member)
	_, err = h.App.Undo(ctx, maren)
	refused(t, err, refusal.Forbidden)
	space, err = h.App.Workspace(ctx, again(t, h))
	require.NoError(t, err)
	assert.Equal(t, "Renamed", space.Name)
	_, err = h.App.Undo(ctx, as(t, h, maren, identity.Coordinator))
	require.NoError(t, err)
}

func TestAGuestIsInvitedAsOneAndLearnsNothingOfTheClients(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	offers(t, h, func(c *settings.BookingPageChange) {
		c.Guests, c.Ways = 3, []schedule.Way{{ID: "call", Kind: "phone", Calls: "host"}}
	})
	_, err := bookFor(t, h, "2026-05-05 10:00", func(r *schedule.BookingRequest) {
		r.Name, r.Remark, r.Given = "Buy lamps at lamps.example", "Two pastels.", "+351 912 345 678"
		r.Guests = []string{"friend@x.example", "Friend@X.example", "KEEPER@harbour.example"}
	})
	require.NoError(t, err)
	letter := letters(t, h, "friend@x.example", 1)[0]
	assert.Contains(t, letter.Calendar, "ATTENDEE")
	assert.Contains(t, strings.ReplaceAll(letter.Calendar, "\r\n ", ""), "mailto:friend@x.example", "the guest is one of the meeting's (RFC 5546, 3.2.2)")
	whole := letter.Subject + letter.Text + letter.HTML + letter.Calendar
	for _, theirs := range []string{"/b/", "Two pastels", "912 345", "lamps.example"} {
		assert.NotContains(t, whole, theirs)
	}
	assert.Contains(t, letter.Text, "keeper@harbour.example brings you")
	client := letters(t, h, "keeper@harbour.example", 1)[0]
	assert.Contains(t, strings.ReplaceAll(client.Calendar, "\r\n ", ""), "mailto:friend@x.example", "the client sees who is invited")
	assert.Len(t, letters(t, h, "x.example", 1), 1, "one address, however it is written")
}

func TestAKeyIsTurnedAndEverythingGivenOutGoesOnWorking(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Connect()
	b := book(t, h, "2026-05-05 10:00")
	feeds, err := h.App.RenewFeeds(ctx, h.Host, true)
	require.NoError(t, err)
	before, after := []byte(strings.Repeat("k", 32)), []byte(strings.Repeat("n", 32))
	require.NoError(t, secrets.Turn(ctx, h.App.Store, before, after))
	config := h.App.Config
	_, err = app.New(ctx, config)
	require.ErrorIs(t, err, secrets.ErrWrongKey, "the old key opens nothing any more")
	config.Key = after
	h.App, err = app.New(ctx, config)
	require.NoError(t, err)
	_, err = h.App.BookingByLink(ctx, linkOf(b))
	require.NoError(t, err)
	same, err := h.App.FeedAddresses(ctx, h.Host)
	require.NoError(t, err)
	assert.Equal(t, feeds, same)
	require.NoError(t, h.Calendars.AddEvent("ines", 0, "Dentist", h.At("2026-05-06 09:00"), h.At("2026-05-06 12:00")))
	h.Pass(10 * 60e9)
	assert.NotContains(t, h.Open("2026-05-06"), "10:00", "the calendar is still read")
}

func TestOneClientOneGuestAndOneTypeGetOnlySoMuch(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	offers(t, h, func(c *settings.BookingPageChange) { c.Guests, c.PerClient = 1, 2 })
	try := func(at, mail, guest string) error {
		_, err := bookFor(t, h, at, func(r *schedule.BookingRequest) { r.Mail, r.Guests = mail, []string{guest} })
		return err
	}
	require.NoError(t, try("2026-05-05 10:00", "a@x.example", "g@x.example"))
	require.NoError(t, try("2026-05-05 11:00", "A@x.example", "g@x.example"))
	assert.Contains(t, refused(t, try("2026-05-05 14:00", "a@X.example", "g@x.example"), refusal.TooMany).Sentence, "At most 2 of these meetings")
	offers(t, h, func(c *settings.BookingPageChange) { c.PerClient = 0 })
	for i, day := range []string{"06", "07", "08", "11", "12", "13", "14", "15"} {
		require.NoError(t, try("2026-05-"+day+" 10:00", string(rune('m'+i))+"@x.example", "G@x.example"))
	}
	last := try("2026-05-18 10:00", "z@x.example", "g@x.example")
	assert.Contains(t, refused(t, last, refusal.Invalid).Fields["guests"].Sentence, "g@x.example was invited many times today", "whoever named them")
}

func TestAStepNamesWhoeverTookIt(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	routed(t, h, func(r *schedule.TypeRouting) { r.People = []schedule.PoolMember{{Person: h.Colleague.ID, Weight: 1}} })
	b := book(t, h, "2026-05-05 10:00")
	letters(t, h, "harbour", 1)
	board, err := h.App.Board(ctx, again(t, h), app.BoardDays{From: "2026-05-05", Days: 1, Whose: h.Colleague.ID}, 0)
	require.NoError(t, err)
	id := board.Rows[0].Ribbon.Bookings[0].ID
	_, err = h.App.AskToChooseAgain(ctx, again(t, h), id, "The lamps are late.")
	require.NoError(t, err)
	text := letters(t, h, "harbour", 2)[1].Text
	assert.Contains(t, text, "Ines Valadares asks you to choose another time")
	assert.Contains(t, text, "Ines Valadares writes: The lamps are late.")
	require.NoError(t, h.App.HandTo(ctx, again(t, h), id, h.Host.ID, true))
	handed := letters(t, h, h.Colleague.Mail, 2)[1]
	assert.Contains(t, handed.Text, "handed your meeting with Harbour Maritime over to Ines Valadares")
	assert.NotContains(t, handed.Text, "Together with", "whoever has left takes part no more")
	_, err = h.App.Cancel(ctx, linkOf(b), "")
	require.NoError(t, err)
	require.Eventually(t, func() bool {
		for _, l := range h.Inbox.Letters() {
			if l.Method == "CANCEL" && strings.Contains(l.To, "harbour") {
				assert.NotContains(t, l.Calendar, "Move or cancel")
				return true
			}
		}
		return false
	}, time.Minute, 10*time.Millisecond)
}
