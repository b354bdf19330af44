package app_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/routing"
	"corrim/internal/app"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/testhouse"
)

// sessionsOf lets so many clients come to sessions of the house's type.
func sessionsOf(t *testing.T, h *testhouse.House, seats int) {
	t.Helper()
	ruled(t, h, func(r *schedule.TypeRules) { r.Seats, r.Sessions = seats, true })
}

// setting sets sessions of the house's type, whatever stands in the way.
func setting(t *testing.T, h *testhouse.House, text string) []app.GroupSession {
	t.Helper()
	_, err := h.App.SetGroupSessions(ctx, h.Host, app.NewSessions{SessionWish: app.SessionWish{Type: h.Type.ID, Text: text}, Outside: true})
	require.NoError(t, err)
	return listed(t, h)
}

func listed(t *testing.T, h *testhouse.House) []app.GroupSession {
	t.Helper()
	all, err := h.App.GroupSessions(ctx, h.Host, h.Type.ID)
	require.NoError(t, err)
	return all
}

func TestSessionsStandWithoutClientsAndTakeTheirHostsTime(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Connect()
	h.Run()
	sessionsOf(t, h, 3)
	assert.Empty(t, h.Open("2026-05-05"), "nothing is open as long as no session is set")

	wish := app.SessionWish{Type: h.Type.ID, Text: "Tuesdays 19:30 from 5 May, 3 times, not 12 May"}
	times, err := h.App.CheckGroupSessions(ctx, h.Host, wish)
	require.NoError(t, err)
	require.Len(t, times, 3)
	assert.Equal(t, []string{"2026-05-05", "2026-05-19", "2026-05-26"}, []string{times[0].Date, times[1].Date, times[2].Date})
	assert.False(t, times[0].Open, "it is outside her hours")
	require.Len(t, times[0].Why, 1)
	_, err = h.App.SetGroupSessions(ctx, h.Host, app.NewSessions{SessionWish: wish})
	refused(t, err, refusal.OutsideRules)
	assert.Empty(t, listed(t, h), "nothing is set as long as she doesn't want it anyway")

	all := setting(t, h, wish.Text)
	require.Len(t, all, 3)
	assert.Equal(t, schedule.Filling{Taken: 0, Seats: 3}, all[0].Filling)
	assert.Equal(t, []string{h.Host.Name}, all[0].Hosts)
	assert.Equal(t, []string{"19:30"}, h.Open("2026-05-05"), "open to clients, though outside her hours")
	facts, err := h.App.TypeFacts(ctx, h.Host, []int64{h.Type.ID})
	require.NoError(t, err)
	assert.Equal(t, 1, facts[0].Open, "in the 14 days that are counted")
	preview, err := h.App.PreviewMeetingType(ctx, h.Host, h.Type.ID, h.Type.TypeDraft, 0)
	require.NoError(t, err)
	assert.Positive(t, preview.Lost+preview.Gained, "and a draft is held against them")
	h.Pass(time.Minute)
	there := entries(t, h)
	require.Len(t, there, 3, "each is in her calendar at once")
	assert.Contains(t, there[0], "Survey: 0 of 3")

	// Nobody has booked it, and yet nothing else can be there.
	times, err = h.App.CheckGroupSessions(ctx, h.Host, app.SessionWish{Type: h.Type.ID, Text: "5 May 19:40"})
	require.NoError(t, err)
	assert.False(t, times[0].Open)
	assert.Contains(t, times[0].Why[1].Sentence, "Another booking is in the way")
	view, err := h.App.Board(ctx, h.Host, app.BoardDays{From: "2026-05-05", Days: 1}, 0)
	require.NoError(t, err)
	require.Len(t, view.Rows[0].Ribbon.Bookings, 1)
	assert.Equal(t, &schedule.Filling{Taken: 0, Seats: 3}, view.Rows[0].Ribbon.Bookings[0].Filling)

	// Clients come and go; it stands, with one entry and no mail to anybody else.
	ada := seat(t, h, "2026-05-05 19:30", "Ada")
	seat(t, h, "2026-05-05 19:30", "Bo")
	seat(t, h, "2026-05-05 19:30", "Cy")
	letters(t, h, "cy@seats.example", 1)
	open, err := h.App.OpenTimes(ctx, "quillmere", "survey", schedule.TimesWanted{From: h.At("2026-05-05 00:00"), To: h.At("2026-05-06 00:00")})
	require.NoError(t, err)
	assert.Empty(t, open.Starts)
	require.Len(t, open.Full, 1, "the page can say that it is full")
	assert.Equal(t, h.At("2026-05-05 19:30").UTC(), open.Full[0].Start.UTC())
	facts, err = h.App.TypeFacts(ctx, h.Host, []int64{h.Type.ID})
	require.NoError(t, err)
	assert.Equal(t, "All sessions in that time are full.", facts[0].Mend.Sentence.Sentence)
	_, err = h.App.Cancel(ctx, linkOf(ada), "")
	require.NoError(t, err)
	assert.Equal(t, 1, leftAt(t, h, "2026-05-05 19:30"))
	letters(t, h, "ada@seats.example", 2)
	assert.Len(t, entries(t, h), 3)
	assert.Len(t, subjectsTo(h, "bo@"), 1)
}

func TestASessionIsMovedAndCalledOffWithAllWhoCome(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Connect()
	h.Run()
	sessionsOf(t, h, 3)
	all := setting(t, h, "5 May and 12 May 10:00")
	ada, bo := seat(t, h, "2026-05-05 10:00", "Ada"), seat(t, h, "2026-05-05 10:00", "Bo")
	letters(t, h, "bo@seats.example", 1)

	require.NoError(t, h.App.MoveByHand(ctx, h.Host, all[0].ID, app.HandMove{Target: app.Target{Date: "2026-05-06", Minute: 11 * 60}}))
	letters(t, h, "ada@seats.example", 2)
	assert.Len(t, subjectsTo(h, "bo@"), 2)
	moved, err := h.App.BookingByLink(ctx, linkOf(bo))
	require.NoError(t, err)
	assert.Equal(t, h.At("2026-05-06 11:00").UTC(), moved.Start)
	_, err = h.App.Undo(ctx, h.Host)
	require.NoError(t, err)
	assert.Equal(t, h.At("2026-05-05 10:00").UTC(), listed(t, h)[0].Start)

	// One of them goes over to the other session; the first one stands with the one who stays.
	_, err = h.App.Move(ctx, linkOf(ada), h.At("2026-05-12 10:00"))
	require.NoError(t, err)
	_, err = h.App.Move(ctx, linkOf(ada), h.At("2026-05-12 10:10"))
	refused(t, err, refusal.Taken)
	_, err = h.App.Cancel(ctx, linkOf(bo), "")
	require.NoError(t, err)
	fillings := func() (out []schedule.Filling) {
		for _, s := range listed(t, h) {
			out = append(out, s.Filling)
		}
		return out
	}
	assert.Equal(t, []schedule.Filling{{Taken: 0, Seats: 3}, {Taken: 1, Seats: 3}}, fillings())
	_, err = h.App.Move(ctx, linkOf(ada), h.At("2026-05-05 10:00"))
	require.NoError(t, err)
	assert.Equal(t, []schedule.Filling{{Taken: 1, Seats: 3}, {Taken: 0, Seats: 3}}, fillings(), "the session that she left stands empty")

	h.Pass(time.Minute)
	before := len(subjectsTo(h, "ada@"))
	_, err = h.App.CancelByHost(ctx, h.Host, all[0].ID, "The roof leaks.", false)
	require.NoError(t, err)
	last := letters(t, h, "ada@seats.example", before+1)
	assert.Contains(t, string(last[before].Raw), "The roof leaks.")
	assert.Equal(t, []schedule.Filling{{Taken: 0, Seats: 3}}, fillings())
	h.Pass(time.Minute)
	assert.Len(t, entries(t, h), 1, "it is taken out of her calendar")
	assert.Empty(t, h.Open("2026-05-05"))
	_, err = h.App.CancelByHost(ctx, h.Host, all[0].ID, "", false)
	refused(t, err, refusal.Over)
}

func TestAHostGivesSeatsByHandAlsoBeyondTheNumber(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	sessionsOf(t, h, 2)
	id := setting(t, h, "5 May 10:00")[0].ID
	give := func(mail string, outside bool) error {
		_, err := h.App.SeatByHand(ctx, h.Host, id, app.NewSeat{Name: "Ada", Mail: mail, Outside: outside})
		return err
	}
	require.NoError(t, give("ada@seats.example", false))
	letters(t, h, "ada@seats.example", 1)
	assert.Contains(t, refused(t, give("Ada@Seats.example", false), refusal.OutsideRules).Sentence, "Ada has a seat in it already")
	seat(t, h, "2026-05-05 10:00", "Bo")
	assert.Contains(t, refused(t, give("cy@seats.example", false), refusal.OutsideRules).Sentence, "It is full: 2 of 2 seats are taken.")
	require.NoError(t, give("cy@seats.example", true))
	assert.Equal(t, schedule.Filling{Taken: 3, Seats: 3}, listed(t, h)[0].Filling)
	refused(t, give("", false), refusal.Invalid)
	sheet, err := h.App.BookingSheet(ctx, h.Host, id)
	require.NoError(t, err)
	assert.Len(t, sheet.Participants, 3)
	_, err = h.App.SeatByHand(ctx, h.Colleague, id, app.NewSeat{Name: "Dee", Mail: "dee@seats.example"})
	refused(t, err, refusal.NotFound)
}

func TestASessionIsCalledOffByItselfIfTooFewCome(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Connect()
	h.Run()
	sessionsOf(t, h, 5)
	all := setting(t, h, "7 May, 8 May and 9 May 10:00")
	offers(t, h, func(c *settings.BookingPageChange) { c.Least, c.LeastHours = 2, 12 })
	page, err := h.App.Page(ctx, "quillmere", "survey", false)
	require.NoError(t, err)
	assert.Equal(t, 2, page.Least)
	ada := seat(t, h, "2026-05-07 10:00", "Ada")
	for _, name := range []string{"Bo", "Cy"} {
		seat(t, h, "2026-05-08 10:00", name)
	}
	// One is moved: it is decided about as late as that wants.
	require.NoError(t, h.App.MoveByHand(ctx, h.Host, all[2].ID, app.HandMove{Target: app.Target{Date: "2026-05-11", Minute: 600}, Outside: true}))

	until(t, h, "2026-05-06 21:59")
	h.Pass(0)
	assert.Len(t, listed(t, h), 3, "it isn't decided yet")
	passes(h, 2*time.Minute)
	assert.Len(t, listed(t, h), 2, "one is not enough")
	last := letters(t, h, "ada@seats.example", 2)[1]
	assert.Contains(t, last.Text, "Too few people have signed up")
	assert.Contains(t, string(last.Raw), "METHOD:CANCEL")
	assert.Equal(t, "cancelled", stateOf(t, h, ada).State)
	told := 0
	for _, subject := range subjectsTo(h, "ines@") {
		if subject == "Called off: Survey" {
			told++
		}
	}
	assert.Equal(t, 1, told, "the host once")
	passes(h, time.Minute)
	assert.Len(t, entries(t, h), 2)

	until(t, h, "2026-05-09 12:00")
	h.Pass(0)
	rest := listed(t, h)
	require.Len(t, rest, 1, "two came on the 8th, which is over; the moved one stands until its own time")
	until(t, h, "2026-05-10 22:01")
	passes(h, time.Minute)
	assert.Empty(t, listed(t, h))
}

func TestAHostWritesToAllWhoCome(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	sessionsOf(t, h, 3)
	id := setting(t, h, "5 May 10:00")[0].ID
	write := func(p schedule.Person, word string) error {
		_, err := h.App.WriteToAll(ctx, p, id, word)
		return err
	}
	refused(t, write(h.Host, "Bring a lamp."), refusal.Over)
	ada := seat(t, h, "2026-05-05 10:00", "Ada")
	_, err := bookFor(t, h, "2026-05-05 10:00", func(r *schedule.BookingRequest) { r.Name, r.Mail, r.Language = "Bo", "bo@seats.example", "de" })
	require.NoError(t, err)
	letters(t, h, "bo@seats.example", 1)
	refused(t, write(h.Host, "  "), refusal.Invalid)
	refused(t, write(h.Colleague, "Bring a lamp."), refusal.NotFound)
	require.NoError(t, write(h.Host, "Bring a lamp."))
	h.Pass(0)
	require.NoError(t, write(h.Host, "And a cable."))
	all := letters(t, h, "bo@seats.example", 3)
	assert.Contains(t, all[1].Subject, "schreibt zu Survey", "in the language in which they booked")
	assert.Contains(t, all[1].Text, "Bring a lamp.")
	assert.Contains(t, all[2].Text, "And a cable.")
	assert.NotContains(t, string(all[1].Raw), "ada@seats", "nobody learns who else comes")
	letters(t, h, "ada@seats.example", 3)
	assert.Equal(t, "And a cable.", stateOf(t, h, ada).Word, "it stands on their page")
	sheet, err := h.App.BookingSheet(ctx, h.Host, id)
	require.NoError(t, err)
	assert.Equal(t, "And a cable.", sheet.Steps[len(sheet.Steps)-1].Note)
}

func TestWhatSpeaksAgainstSessions(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	wish := func(text string) error {
		_, err := h.App.CheckGroupSessions(ctx, h.Host, app.SessionWish{Type: h.Type.ID, Text: text})
		return err
	}
	refused(t, wish("5 May 10:00"), refusal.Invalid)
	sessionsOf(t, h, 3)
	for text, sentence := range map[string]string{
		"Tuesdays from 5 May": "say at which time of day",
		"5 May 10:00-11:07":   "That is 67 minutes, and “Survey” doesn't last that long.",
		"4 May 6:00":          "already gone by",
		"Tuesdays 10:00 from 5 May, 8 times, not 10 June": "No session would be on 10 June 2026",
	} {
		err := wish(text)
		require.Error(t, err, text)
		var r *refusal.Refusal
		require.ErrorAs(t, err, &r)
		assert.Contains(t, r.Fields["text"].Sentence, sentence)
	}
	draft := testhouse.Survey
	draft.Rules.Sessions = true
	_, err := h.App.SaveMeetingType(ctx, h.Host, h.Type.ID, draft, settings.Saving{})
	refused(t, err, refusal.Invalid)
}

func TestSessionsAreGivenToHostsByTheTypesRule(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	sessionsOf(t, h, 3)
	routed(t, h, func(r *schedule.TypeRouting) { r.Mode = routing.InTurn })
	hosts := []string{}
	for _, s := range setting(t, h, "Tuesdays 10:00 from 5 May, 4 times") {
		hosts = append(hosts, s.Hosts...)
	}
	assert.ElementsMatch(t, []string{h.Host.Name, h.Host.Name, h.Colleague.Name, h.Colleague.Name}, hosts)
	seat(t, h, "2026-05-05 10:00", "Ada")
	for _, s := range listed(t, h) {
		assert.Equal(t, s.Start.Equal(h.At("2026-05-05 10:00")), s.Taken == 1, "whose session it is, there the client is")
	}
}

// A type with 2,000 sessions and 20,000 seats: 40 a day in 50 days.
func BenchmarkOpenTimesOf2000Sessions(b *testing.B) {
	h := testhouse.New(b)
	ruled(b, h, func(r *schedule.TypeRules) { r.Duration, r.Before, r.After, r.Seats, r.Sessions = 30, 0, 0, 11, true })
	for minute := 4 * 60; minute < 24*60; minute += 30 {
		text := fmt.Sprintf("Mon-Sun %d:%02d from 5 May, 50 times", minute/60, minute%60)
		_, err := h.App.SetGroupSessions(ctx, h.Host, app.NewSessions{SessionWish: app.SessionWish{Type: h.Type.ID, Text: text}, Outside: true})
		require.NoError(b, err)
	}
	require.NoError(b, h.App.Store.Script(ctx, `INSERT INTO seat (meeting_id, uid, life, keeps, client_name, client_mail, client_zone, remark, link_hash, request_key, created_at)
		SELECT own.meeting_id, 's' || own.meeting_id || '-' || n.value, 'booked', 1, 'C', 'c@x.example', 'UTC', '', 'l' || own.meeting_id || '-' || n.value, 'k' || own.meeting_id || '-' || n.value, 0
		FROM seat own CROSS JOIN json_each('[0,1,2,3,4,5,6,7,8,9]') n WHERE own.session = 1`))
	from := h.At("2026-05-04 00:00")
	b.ResetTimer()
	for i := range b.N {
		open, err := h.App.OpenTimes(ctx, "quillmere", "survey", schedule.TimesWanted{From: from.Add(time.Duration(i) * time.Second), To: from.AddDate(0, 0, 37)})
		require.NoError(b, err)
		require.NotEmpty(b, open.Starts)
	}
}

func TestSessionsHaveSeatsOfTheirOwn(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	sessionsOf(t, h, 2)
	offers(t, h, func(o *settings.BookingPageChange) { o.Waiting = "turn" })
	wish := app.SessionWish{Type: h.Type.ID, Text: "5 May 10:00", Seats: 1}
	_, err := h.App.CheckGroupSessions(ctx, h.Host, wish)
	assert.NotEmpty(t, refused(t, err, refusal.Invalid).Fields["seats"])
	wish.Seats = 3
	_, err = h.App.SetGroupSessions(ctx, h.Host, app.NewSessions{SessionWish: wish, Outside: true})
	require.NoError(t, err)
	setting(t, h, "12 May 10:00")
	assert.Equal(t, 3, leftAt(t, h, "2026-05-05 10:00"), "a client reads how many it has, though nobody has come yet")
	for _, name := range []string{"Ada", "Bo", "Cy"} {
		seat(t, h, "2026-05-05 10:00", name)
	}
	_, err = bookFor(t, h, "2026-05-05 10:00", func(r *schedule.BookingRequest) { r.Name, r.Mail, r.Wait = "Dee", "dee@seats.example", true })
	require.NoError(t, err)

	// The type's seats are raised: what was set for this one alone stays.
	sessionsOf(t, h, 5)
	all := listed(t, h)
	assert.Equal(t, []int{3, 5}, []int{all[0].Seats, all[1].Seats})
	_, err = h.App.SetSeats(ctx, h.Host, all[0].ID, 2)
	assert.Contains(t, refused(t, err, refusal.Invalid).Fields["seats"].Sentence, "3 have a seat already")
	letters(t, h, "dee@seats.example", 1)
	sheet, err := h.App.SetSeats(ctx, h.Host, all[0].ID, 4)
	require.NoError(t, err)
	assert.Equal(t, &schedule.Filling{Taken: 4, Seats: 4}, sheet.Filling, "the new one is offered to who waits")
	letters(t, h, "dee@seats.example", 2)
}

func TestClientsDontSeeHowManySeatsAreLeftIfTheirHostsHideIt(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	sessionsOf(t, h, 2)
	setting(t, h, "5 May and 12 May 10:00")
	offers(t, h, func(o *settings.BookingPageChange) { o.HideLeft, o.Waiting = true, "turn" })
	seat(t, h, "2026-05-05 10:00", "Ada")
	seat(t, h, "2026-05-12 10:00", "Bo")
	seat(t, h, "2026-05-12 10:00", "Cy")
	_, err := bookFor(t, h, "2026-05-12 10:00", func(r *schedule.BookingRequest) { r.Name, r.Mail, r.Wait = "Dee", "dee@seats.example", true })
	require.NoError(t, err)
	open, err := h.App.OpenTimes(ctx, "quillmere", "survey", schedule.TimesWanted{From: h.At("2026-05-05 00:00"), To: h.At("2026-06-05 00:00")})
	require.NoError(t, err)
	assert.Len(t, open.Starts, 1)
	assert.Empty(t, open.Left)
	require.Len(t, open.Full, 1, "what is full can be told, since nobody can book it")
	assert.Zero(t, open.Full[0].Waiting)
	page, err := h.App.Page(ctx, "quillmere", "survey", false)
	require.NoError(t, err)
	assert.True(t, page.HideLeft)
}

// A colleague for whom sessions are set, moved and called off is told, though nobody has booked them; whoever did it isn't.
func TestHostsAreToldOfSessionsThatNobodyHasBooked(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	routed(t, h, func(*schedule.TypeRouting) {})
	sessionsOf(t, h, 3)
	_, err := h.App.SetGroupSessions(ctx, h.Host, app.NewSessions{SessionWish: app.SessionWish{Type: h.Type.ID, Text: "5 May and 12 May 10:00", Host: h.Colleague.ID}, Outside: true})
	require.NoError(t, err)
	h.Pass(0)
	theirs := h.Colleague.Mail
	set := letters(t, h, theirs, 1)[0]
	assert.Contains(t, set.Subject, "Set: Survey")
	assert.Contains(t, set.Subject, "2 dates")
	assert.Contains(t, set.Text, "Ines Valadares has set these 2 sessions")
	assert.Contains(t, set.Text, "12 May")
	all := listed(t, h)
	require.NoError(t, h.App.MoveByHand(ctx, h.Host, all[0].ID, app.HandMove{Target: app.Target{Person: h.Colleague.ID, Date: "2026-05-06", Minute: 11 * 60}, Outside: true}))
	assert.Contains(t, letters(t, h, theirs, 2)[1].Subject, "Moved: Survey")
	_, err = h.App.CancelForAll(ctx, h.Host, all[0].ID, "", false)
	require.NoError(t, err)
	assert.Contains(t, letters(t, h, theirs, 3)[2].Subject, "Called off: Survey")
	require.NoError(t, h.App.HandTo(ctx, h.Host, all[1].ID, h.Host.ID, true))
	assert.Contains(t, letters(t, h, theirs, 4)[3].Subject, "Handed over: Survey")
	h.Pass(0)
	assert.Empty(t, subjectsTo(h, h.Host.Mail), "she did all of it herself")

	// Where somebody has a seat, the client's own step tells them, once.
	seat(t, h, "2026-05-12 10:00", "Ada")
	h.Pass(0)
	was := len(subjectsTo(h, h.Host.Mail))
	_, err = h.App.CancelForAll(ctx, h.Host, all[1].ID, "", false)
	require.NoError(t, err)
	h.Pass(0)
	assert.Len(t, subjectsTo(h, h.Host.Mail), was+1)
}

// Whoever waits for a session that is moved waits for its new time, and is told.
func TestWhoWaitsIsToldWhenTheSessionIsMoved(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	id, _ := listOf(t, h, "turn", 2)
	bo, err := waitsFor(h, "2026-05-08 10:00", "Bo")
	require.NoError(t, err)
	letters(t, h, "bo@wait.example", 1)
	require.NoError(t, h.App.MoveByHand(ctx, h.Host, id, app.HandMove{Target: app.Target{Date: "2026-05-08", Minute: 11 * 60}, Outside: true}))
	moved := letters(t, h, "bo@wait.example", 2)[1]
	assert.Contains(t, moved.Subject, "Moved: Survey")
	assert.Contains(t, moved.Text, "still on the waiting list")
	assert.Empty(t, moved.Calendar, "there is no meeting of theirs yet")
	now := stateOf(t, h, bo)
	assert.Equal(t, []any{"waiting", h.At("2026-05-08 11:00").UTC()}, []any{now.State, now.Start})
}
