package app_test

import (
	"fmt"
	"maps"
	"regexp"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/intake"
	"corrim/internal/app"
	"corrim/internal/public"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/testhouse"
)

// courseOf lets so many clients take whole series of sessions of the house's type.
func courseOf(t *testing.T, h *testhouse.House, seats int) {
	t.Helper()
	ruled(t, h, func(r *schedule.TypeRules) { r.Seats, r.Sessions, r.Whole = seats, true, true })
}

func TestASeriesIsTakenWholeInOneBooking(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Connect()
	h.Run()
	courseOf(t, h, 2)
	all := setting(t, h, "Tuesdays 10:00 from 5 May, 3 times")
	require.Len(t, all, 3)
	assert.Equal(t, all[0].Series, all[2].Series)
	open, err := h.App.OpenTimes(ctx, "quillmere", "survey", schedule.TimesWanted{From: h.At("2026-05-05 00:00"), To: h.At("2026-06-05 00:00")})
	require.NoError(t, err)
	require.Len(t, open.Starts, 1, "it is open where it begins")
	assert.Len(t, open.Series["2026-05-05T09:00:00Z"], 3, "and the page can name all its dates")
	kind, err := h.App.MeetingType(ctx, h.Host, h.Type.ID)
	require.NoError(t, err)
	preview, err := h.App.PreviewMeetingType(ctx, h.Host, h.Type.ID, kind.TypeDraft, 0)
	require.NoError(t, err)
	assert.Zero(t, preview.Lost+preview.Gained, "a draft that changes nothing changes nothing")
	assert.Equal(t, 1, preview.Open)

	ada := seat(t, h, "2026-05-05 10:00", "Ada")
	require.Len(t, ada.Seats, 3)
	assert.NotNil(t, ada.CantMove)
	mail := letters(t, h, "ada@seats.example", 1)[0]
	assert.Contains(t, mail.Subject, "3 dates")
	assert.Contains(t, mail.Text, "Your 3 meetings are booked")
	assert.Contains(t, mail.Text, "19 May")
	require.Len(t, mail.Files, 1+3, "one with all dates, and an invitation for each session")
	for _, s := range listed(t, h) {
		assert.Equal(t, 1, s.Taken)
	}
	host := letters(t, h, "ines@quillmere.example", 1)[0]
	assert.Contains(t, host.Subject, "3 dates", "she is told once too")

	seat(t, h, "2026-05-05 10:00", "Bo")
	assert.Equal(t, -1, leftAt(t, h, "2026-05-05 10:00"))
	_, err = bookFor(t, h, "2026-05-12 10:00", func(r *schedule.BookingRequest) { r.Mail = "cy@seats.example" })
	refused(t, err, refusal.Taken)

	// One session of it given back: the others stay, and the series is as full as before.
	second := strings.TrimPrefix(ada.Seats[1].Link, "/b/")
	_, err = h.App.Cancel(ctx, second, "")
	require.NoError(t, err)
	assert.Equal(t, []int{2, 1, 2}, taken(t, h))
	assert.Equal(t, -1, leftAt(t, h, "2026-05-05 10:00"), "a seat in one session is no place in the series")
	assert.Contains(t, letters(t, h, "ada@seats.example", 2)[1].Text, "Your meeting is cancelled")

	// The rest given back at one go.
	left, err := h.App.CancelAll(ctx, linkOf(ada), "")
	require.NoError(t, err)
	assert.Equal(t, []string{"cancelled", "cancelled", "cancelled"}, []string{left.Seats[0].State, left.Seats[1].State, left.Seats[2].State})
	gone := letters(t, h, "ada@seats.example", 3)[2]
	assert.Contains(t, gone.Text, "Your 2 meetings are cancelled")
	assert.Equal(t, []int{1, 1, 1}, taken(t, h))
	assert.Equal(t, 1, leftAt(t, h, "2026-05-05 10:00"))
	h.Pass(time.Minute)
	assert.Len(t, entries(t, h), 3)
}

// taken is how many seats are taken of each session that is to come.
func taken(t *testing.T, h *testhouse.House) (out []int) {
	t.Helper()
	for _, s := range listed(t, h) {
		out = append(out, s.Taken)
	}
	return out
}

func TestASeriesThatGotFullMeanwhileIsRefusedWhole(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	courseOf(t, h, 1+1)
	setting(t, h, "Tuesdays 10:00 from 5 May, 3 times")
	// A host has given away the seats of the last one.
	for _, name := range []string{"Ada", "Bo"} {
		_, err := h.App.SeatByHand(ctx, h.Host, listed(t, h)[2].ID, app.NewSeat{Name: name, Mail: name + "@seats.example"})
		require.NoError(t, err)
	}
	_, err := bookFor(t, h, "2026-05-05 10:00", func(r *schedule.BookingRequest) { r.Mail = "cy@seats.example" })
	refused(t, err, refusal.Taken)
	assert.Equal(t, []int{0, 0, 2}, taken(t, h), "nothing of it is taken")
	reasons, err := h.App.Reasons(ctx, h.Host, h.Type.ID, "2026-05-05", 600, 0, 0)
	require.NoError(t, err)
	assert.False(t, reasons.Offered)
}

func TestASeriesIsProvedAndDecidedAtOneGo(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	courseOf(t, h, 3)
	setting(t, h, "Tuesdays 10:00 from 5 May, 3 times")
	offers(t, h, func(o *settings.BookingPageChange) { o.Proof, o.OnRequest = "code", true })

	ada := seat(t, h, "2026-05-05 10:00", "Ada")
	assert.Equal(t, []int{1, 1, 1}, taken(t, h), "all are kept while it is being proved")
	code := mailedCode(t, h, "ada@seats.example")
	asked, err := h.App.Prove(ctx, linkOf(ada), code)
	require.NoError(t, err)
	assert.Equal(t, []string{"requested", "requested", "requested"}, statesOf(asked))
	assert.Contains(t, letters(t, h, "ada@seats.example", 2)[1].Subject, "3 dates")

	today, err := h.App.Today(ctx, h.Host)
	require.NoError(t, err)
	require.Len(t, today.Requests, 1, "it is one request")
	_, err = h.App.Propose(ctx, h.Host, today.Requests[0].ID, []public.HandPicked{{Date: "2026-05-06", Minute: 600}}, "")
	refused(t, err, refusal.Over)
	_, err = h.App.Approve(ctx, h.Host, today.Requests[0].ID, "")
	require.NoError(t, err)
	booked, err := h.App.BookingByLink(ctx, linkOf(ada))
	require.NoError(t, err)
	assert.Equal(t, []string{"booked", "booked", "booked"}, statesOf(booked))
	assert.Contains(t, letters(t, h, "ada@seats.example", 3)[2].Text, "Your 3 meetings are booked")

	// Somebody who never enters the code gives all of it back.
	bo := seat(t, h, "2026-05-05 10:00", "Bo")
	assert.Equal(t, []int{2, 2, 2}, taken(t, h))
	h.Pass(time.Hour)
	h.Pass(0)
	assert.Equal(t, []int{1, 1, 1}, taken(t, h))
	lapsed, err := h.App.BookingByLink(ctx, linkOf(bo))
	require.NoError(t, err)
	assert.Equal(t, []string{"expired", "expired", "expired"}, statesOf(lapsed))

	// A request that is withdrawn is withdrawn whole.
	cy := seat(t, h, "2026-05-05 10:00", "Cy")
	_, err = h.App.Prove(ctx, linkOf(cy), mailedCode(t, h, "cy@seats.example"))
	require.NoError(t, err)
	_, err = h.App.Cancel(ctx, linkOf(cy), "")
	require.NoError(t, err)
	assert.Equal(t, []int{1, 1, 1}, taken(t, h))
}

// mailedCode is the code in the first letter to somebody.
func mailedCode(t *testing.T, h *testhouse.House, mail string) string {
	t.Helper()
	return regexp.MustCompile(`\b\d{6}\b`).FindString(letters(t, h, mail, 1)[0].Text)
}

func statesOf(b app.ClientBooking) (out []string) {
	for _, s := range b.Seats {
		out = append(out, s.State)
	}
	return out
}

func TestASeriesIsCalledOffWithOneLetterToEach(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	courseOf(t, h, 3)
	all := setting(t, h, "Tuesdays 10:00 from 5 May, 4 times")
	seat(t, h, "2026-05-05 10:00", "Ada")
	sheet, err := h.App.SeatByHand(ctx, h.Host, all[1].ID, app.NewSeat{Name: "Bo", Mail: "bo@seats.example", Rest: true})
	require.NoError(t, err)
	assert.Len(t, sheet.Participants, 2)
	assert.Equal(t, []int{1, 2, 2, 2}, taken(t, h), "who joins later comes from then on")
	assert.Contains(t, letters(t, h, "bo@seats.example", 1)[0].Text, "Your 3 meetings are booked")
	letters(t, h, "ada@seats.example", 1)
	_, err = h.App.SeatByHand(ctx, h.Host, all[1].ID, app.NewSeat{Name: "Bo", Mail: "BO@seats.example", Rest: true})
	assert.Contains(t, refused(t, err, refusal.OutsideRules).Sentence, "Tue 26 May", "each date that speaks against it is named")

	// Ada falls ill: the host takes her out of the last two.
	ada := ""
	last, err := h.App.BookingSheet(ctx, h.Host, all[2].ID)
	require.NoError(t, err)
	for _, one := range last.Participants {
		if one.Name == "Ada" {
			_, err = h.App.CancelByHost(ctx, h.Host, one.Booking, "Get well soon.", true)
			require.NoError(t, err)
			ada = one.Mail
		}
	}
	require.NotEmpty(t, ada)
	assert.Equal(t, []int{1, 2, 1, 1}, taken(t, h))
	assert.Contains(t, letters(t, h, ada, 2)[1].Text, "had to cancel your 2 meetings")

	_, err = h.App.CancelForAll(ctx, h.Host, all[1].ID, "The roof leaks.", true)
	require.NoError(t, err)
	assert.Equal(t, []int{1}, taken(t, h), "the first takes place")
	off := letters(t, h, "bo@seats.example", 2)[1]
	assert.Contains(t, off.Text, "had to cancel your 3 meetings")
	assert.Contains(t, off.Text, "The roof leaks.")
	assert.Contains(t, letters(t, h, ada, 3)[2].Text, "had to cancel your meeting")
	h.Pass(0)
	assert.Len(t, subjectsTo(h, "bo@"), 2)
}

func TestASeriesTakesPlaceAsAWholeOrNotAtAll(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	courseOf(t, h, 3)
	offers(t, h, func(o *settings.BookingPageChange) { o.Least, o.LeastHours = 2, 6 })
	setting(t, h, "Tuesdays 10:00 from 5 May, 3 times")
	setting(t, h, "Thursdays 10:00 from 7 May, 2 times")
	seat(t, h, "2026-05-05 10:00", "Ada")
	seat(t, h, "2026-05-07 10:00", "Bo")
	bo := seat(t, h, "2026-05-07 10:00", "Cy")
	h.Pass(h.At("2026-05-05 05:00").Sub(h.Now()))
	h.Pass(0)
	assert.Contains(t, letters(t, h, "ada@seats.example", 2)[1].Text, "these 3 meetings don't take place")
	assert.Equal(t, []int{2, 2}, taken(t, h))

	// Once it has begun, it goes on, whoever leaves.
	h.Pass(h.At("2026-05-07 11:00").Sub(h.Now()))
	h.Pass(0)
	second := strings.TrimPrefix(bo.Seats[1].Link, "/b/")
	_, err := h.App.Cancel(ctx, second, "")
	require.NoError(t, err)
	h.Pass(h.At("2026-05-14 09:00").Sub(h.Now()))
	h.Pass(0)
	assert.Equal(t, []int{1}, taken(t, h))
}

func TestASeriesIsSetAgainForANewTerm(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	courseOf(t, h, 3)
	first := setting(t, h, "Tuesdays 17:30 from 5 May, 3 times, not 12 May")
	again, err := h.App.GroupSeries(ctx, h.Host, h.Type.ID)
	require.NoError(t, err)
	require.Len(t, again, 1)
	assert.Equal(t, 3, again[0].Sessions)
	assert.Equal(t, "Tuesday 17:30-18:20 from 2 June 2026, 3 times", again[0].Again.Sentence)
	all := setting(t, h, again[0].Again.Sentence)
	require.Len(t, all, 6)
	assert.NotEqual(t, first[0].Series, all[3].Series)
	assert.Equal(t, h.At("2026-06-02 17:30").UTC(), all[3].Start)

	// One more date of the first.
	_, err = h.App.SetGroupSessions(ctx, h.Host, app.NewSessions{SessionWish: app.SessionWish{Type: h.Type.ID, Text: "28 May 17:30", Series: first[0].Series}, Outside: true})
	require.NoError(t, err)
	open, err := h.App.OpenTimes(ctx, "quillmere", "survey", schedule.TimesWanted{From: h.At("2026-05-05 00:00"), To: h.At("2026-06-05 00:00")})
	require.NoError(t, err)
	assert.Len(t, open.Series["2026-05-05T16:30:00Z"], 4)
	_, err = h.App.CheckGroupSessions(ctx, h.Host, app.SessionWish{Type: h.Type.ID, Text: "28 May 17:30", Series: 4711})
	refused(t, err, refusal.NotFound)
}

func TestAClientTakesSeatsForOthersToo(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Connect()
	h.Run()
	sessionsOf(t, h, 5)
	setting(t, h, "5 May and 12 May 10:00")
	h.Pass(0) // the rooms are there, so that no mail brings them later
	offers(t, h, func(o *settings.BookingPageChange) {
		o.Along = 3
		o.Questions = []intake.Question{
			{ID: "why", Kind: intake.Short, Label: "What brings you?", Required: true},
			{ID: "diet", Kind: intake.Short, Label: "What don't you eat?", Required: true, Everybody: true},
		}
	})
	page, err := h.App.Page(ctx, "quillmere", "survey", false)
	require.NoError(t, err)
	assert.Equal(t, 3, page.Along)
	request := func(name string, along ...schedule.Along) func(*schedule.BookingRequest) {
		return func(r *schedule.BookingRequest) {
			r.Name, r.Mail, r.Remark, r.Along = name, strings.ToLower(name)+"@seats.example", "A canary remark.", along
			r.Said = intake.Given{"why": {"The light."}, "diet": {"Nuts."}}
		}
	}
	eats := func(what string) intake.Given { return intake.Given{"diet": {what}} }

	_, err = bookFor(t, h, "2026-05-05 10:00", request("Ada", schedule.Along{Name: " "}, schedule.Along{Name: "Cy", Mail: "cy@", Said: eats("Eggs.")}))
	wrong := refused(t, err, refusal.Invalid).Fields
	assert.ElementsMatch(t, []string{"along.0.name", "along.0.said.diet", "along.1.mail"}, slices.Collect(maps.Keys(wrong)))
	_, err = bookFor(t, h, "2026-05-05 10:00", request("Ada", make([]schedule.Along, 4)...))
	assert.NotEmpty(t, refused(t, err, refusal.Invalid).Fields["along"])

	ada, err := bookFor(t, h, "2026-05-05 10:00", request("Ada", schedule.Along{Name: "Bo", Said: eats("Fish.")}, schedule.Along{Name: "Cy", Mail: "cy@seats.example", Said: eats("Eggs.")}))
	require.NoError(t, err)
	assert.Equal(t, []int{3, 0}, taken(t, h))
	require.Len(t, ada.Seats, 3)
	assert.Equal(t, []string{"Ada", "Bo", "Cy"}, []string{ada.Seats[0].Name, ada.Seats[1].Name, ada.Seats[2].Name})

	// One letter to each address. Whoever comes along sees their own seat, and neither the client's address nor their words.
	adas := letters(t, h, "ada@seats.example", 1)[0]
	assert.Contains(t, adas.Text, "Comes with: Bo, Cy")
	assert.Len(t, adas.Files, 1)
	cys := letters(t, h, "cy@seats.example", 1)[0]
	assert.Contains(t, cys.Text, "Booked by: Ada")
	assert.Contains(t, cys.Text, "Eggs.")
	for _, secret := range []string{"ada@seats.example", "A canary remark.", "The light.", linkOf(ada)} {
		assert.NotContains(t, string(cys.Raw), secret)
	}
	host := letters(t, h, "ines@quillmere.example", 1)[0]
	assert.Contains(t, host.Text, "Comes with: Bo, Cy")
	link := strings.TrimPrefix(ada.Seats[2].Link, "/b/")
	cy, err := h.App.BookingByLink(ctx, link)
	require.NoError(t, err)
	assert.Len(t, cy.Seats, 1, "their own")
	assert.Equal(t, []app.Fact{{Word: "What don't you eat?", What: "Eggs.", Kind: intake.Short}}, cy.Said)
	h.Pass(time.Minute)
	h.Pass(0)
	assert.Len(t, subjectsTo(h, "ada@"), 1)
	assert.Len(t, subjectsTo(h, "ines@"), 1)
	assert.Contains(t, strings.Join(entries(t, h), ""), "Survey: 3 of 5")

	sheet, err := h.App.BookingSheet(ctx, h.Host, listed(t, h)[0].ID)
	require.NoError(t, err)
	require.Len(t, sheet.Participants, 3)
	assert.Equal(t, []string{"", "Ada", "Ada"}, []string{sheet.Participants[0].With, sheet.Participants[1].With, sheet.Participants[2].With})

	// Three more don't fit; nothing of it is taken.
	_, err = bookFor(t, h, "2026-05-05 10:00", request("Dee", schedule.Along{Name: "E", Said: eats("x")}, schedule.Along{Name: "F", Said: eats("x")}))
	refused(t, err, refusal.Taken)
	assert.Equal(t, []int{3, 0}, taken(t, h))

	// Cy gives back their own seat, even if they ask for all; Ada then the rest.
	_, err = h.App.CancelAll(ctx, link, "")
	require.NoError(t, err)
	assert.Equal(t, []int{2, 0}, taken(t, h))
	_, err = h.App.CancelAll(ctx, linkOf(ada), "")
	require.NoError(t, err)
	assert.Equal(t, []int{0, 0}, taken(t, h))
	letters(t, h, "ada@seats.example", 2)
	h.Pass(time.Minute)
	h.Pass(0)
	assert.Len(t, subjectsTo(h, "ada@"), 2, "one letter for both of theirs")
	assert.Len(t, subjectsTo(h, "cy@"), 2)
}

func TestTwoTakeASeriesTogether(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	courseOf(t, h, 4)
	setting(t, h, "Tuesdays 10:00 from 5 May, 3 times")
	h.Pass(0)
	offers(t, h, func(o *settings.BookingPageChange) { o.Along, o.Proof = 1, "code" })
	ada, err := bookFor(t, h, "2026-05-05 10:00", func(r *schedule.BookingRequest) {
		r.Name, r.Mail, r.Along = "Ada", "ada@seats.example", []schedule.Along{{Name: "Cy", Mail: "cy@seats.example"}}
	})
	require.NoError(t, err)
	assert.Equal(t, []int{2, 2, 2}, taken(t, h))
	assert.Empty(t, subjectsTo(h, "cy@"), "nobody else hears of it before the client has proved their address")
	_, err = h.App.Prove(ctx, linkOf(ada), mailedCode(t, h, "ada@seats.example"))
	require.NoError(t, err)
	for mail, count := range map[string]int{"ada@seats.example": 2, "cy@seats.example": 1} { // hers was the code first
		all := letters(t, h, mail, count)
		assert.Contains(t, all[len(all)-1].Text, "Your 3 meetings are booked", mail)
	}
	h.Pass(time.Minute)
	h.Pass(0)
	assert.Len(t, subjectsTo(h, "ada@"), 2)
	assert.Len(t, subjectsTo(h, "cy@"), 1)
	assert.Len(t, subjectsTo(h, "ines@"), 1)
}

func TestASeatIsGivenToSomebodyElse(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Connect()
	h.Run()
	sessionsOf(t, h, 2)
	setting(t, h, "5 May and 12 May 10:00")
	offers(t, h, func(o *settings.BookingPageChange) { o.Waiting = "turn" })
	ada, err := bookFor(t, h, "2026-05-05 10:00", func(r *schedule.BookingRequest) {
		r.Name, r.Mail, r.Remark = "Ada", "ada@seats.example", "A canary remark."
	})
	require.NoError(t, err)
	seat(t, h, "2026-05-05 10:00", "Bo")
	_, err = bookFor(t, h, "2026-05-05 10:00", func(r *schedule.BookingRequest) { r.Name, r.Mail, r.Wait = "Cy", "cy@seats.example", true })
	require.NoError(t, err)
	letters(t, h, "ada@seats.example", 1)
	require.True(t, ada.MayGive)

	_, err = h.App.GiveSeat(ctx, linkOf(ada), app.NewHolder{Name: "Dee", Mail: "dee@"})
	assert.NotEmpty(t, refused(t, err, refusal.Invalid).Fields["mail"])
	_, err = h.App.GiveSeat(ctx, linkOf(ada), app.NewHolder{Name: "Ada", Mail: "ADA@seats.example"})
	assert.NotEmpty(t, refused(t, err, refusal.Invalid).Fields["name"])
	given, err := h.App.GiveSeat(ctx, linkOf(ada), app.NewHolder{Name: "Dee", Mail: "dee@seats.example"})
	require.NoError(t, err)
	assert.Equal(t, "cancelled", given.State)
	assert.Equal(t, "Dee", given.GivenTo)
	assert.Equal(t, []int{2, 0}, taken(t, h), "no seat more, none less, and none for those who wait")

	adas := letters(t, h, "ada@seats.example", 2)[1]
	assert.Equal(t, "CANCEL", adas.Method)
	assert.Contains(t, adas.Text, "Your seat is Dee’s now")
	dees := letters(t, h, "dee@seats.example", 1)[0]
	assert.Equal(t, "REQUEST", dees.Method)
	for _, secret := range []string{"ada@seats.example", "A canary remark.", linkOf(ada)} {
		assert.NotContains(t, string(dees.Raw), secret)
	}
	hosts := letters(t, h, "ines@quillmere.example", 3)
	assert.Contains(t, hosts[2].Text, "Ada has given their seat to Dee.")
	h.Pass(time.Minute)
	h.Pass(0)
	assert.Len(t, subjectsTo(h, "cy@"), 1)
	assert.Contains(t, strings.Join(entries(t, h), ""), "Dee <dee@seats.example>")
	_, err = h.App.GiveSeat(ctx, linkOf(ada), app.NewHolder{Name: "Eve", Mail: "eve@seats.example"})
	refused(t, err, refusal.Over)
}

// The only client of a time that isn't a session's gives it away: the meeting stands throughout.
func TestTheOnlySeatOfATimeIsGivenAway(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	shares(t, h, 2)
	ada := seat(t, h, "2026-05-05 10:00", "Ada")
	_, err := h.App.GiveSeat(ctx, linkOf(ada), app.NewHolder{Name: "Dee", Mail: "dee@seats.example"})
	require.NoError(t, err)
	assert.Equal(t, 1, leftAt(t, h, "2026-05-05 10:00"))
	assert.Equal(t, "REQUEST", letters(t, h, "dee@seats.example", 1)[0].Method)
}

func TestTheRestOfASeriesIsGivenToSomebodyElse(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	courseOf(t, h, 2)
	setting(t, h, "Tuesdays 10:00 from 5 May, 3 times")
	offers(t, h, func(o *settings.BookingPageChange) { o.Proof = "code" })
	ada := seat(t, h, "2026-05-05 10:00", "Ada")
	_, err := h.App.Prove(ctx, linkOf(ada), mailedCode(t, h, "ada@seats.example"))
	require.NoError(t, err)
	second := strings.TrimPrefix(ada.Seats[1].Link, "/b/")
	h.Pass(h.At("2026-05-06 10:00").Sub(h.Now()))
	_, err = h.App.GiveSeat(ctx, second, app.NewHolder{Name: "Dee", Mail: "dee@seats.example", All: true})
	require.NoError(t, err)
	code := mailedCode(t, h, "dee@seats.example")
	require.NotEmpty(t, code, "whoever has it now proves their address like everybody")
	assert.Equal(t, []int{1, 1}, taken(t, h))
	hosts := subjectsTo(h, "ines@")
	assert.Len(t, hosts, 2, "the booking, and that it was given")
	adas := letters(t, h, "ada@seats.example", 3)
	assert.Contains(t, adas[2].Text, "Your 2 seats are Dee’s now")

	// Dee never enters it: the seats are free again.
	h.Pass(time.Hour)
	h.Pass(0)
	assert.Equal(t, []int{0, 0}, taken(t, h))
}

func TestHostsAreAskedWhetherASessionWithTooFewTakesPlace(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	sessionsOf(t, h, 5)
	offers(t, h, func(o *settings.BookingPageChange) { o.Least, o.LeastHours, o.LeastAsk = 3, 6, true })
	setting(t, h, "5 May 10:00")
	h.Pass(0)
	seat(t, h, "2026-05-05 10:00", "Ada")
	letters(t, h, "ines@quillmere.example", 1)
	h.Pass(h.At("2026-05-05 05:00").Sub(h.Now()))
	h.Pass(0)
	asked := letters(t, h, "ines@quillmere.example", 2)[1]
	assert.Contains(t, asked.Text, "1/3")
	assert.Contains(t, asked.Text, "takes place unless you call it off")
	assert.Equal(t, []int{1}, taken(t, h))
	assert.Len(t, subjectsTo(h, "ada@"), 1, "clients hear of it only if it is called off")

	// It is there to be decided on her day and a coordinator's, and nobody else's; once two more have come, or it is decided, no more.
	doubts := func(p schedule.Person) []app.Doubt {
		today, err := h.App.Today(ctx, p)
		require.NoError(t, err)
		return today.Doubts
	}
	require.Len(t, doubts(h.Host), 1)
	assert.Equal(t, []any{1, 3, []string{"Ada"}}, []any{doubts(h.Host)[0].Booked, doubts(h.Host)[0].Least, doubts(h.Host)[0].Comers})
	assert.Empty(t, doubts(h.Colleague))
	bo := seat(t, h, "2026-05-05 10:00", "Bo")
	seat(t, h, "2026-05-05 10:00", "Cy")
	assert.Empty(t, doubts(h.Host))
	_, err := h.App.Cancel(ctx, linkOf(bo), "")
	require.NoError(t, err)
	id := doubts(h.Host)[0].ID
	_, err = h.App.TakesPlace(ctx, h.Colleague, id)
	refused(t, err, refusal.NotFound)
	today, err := h.App.TakesPlace(ctx, h.Host, id)
	require.NoError(t, err)
	assert.Empty(t, today.Doubts)
	sheet, err := h.App.BookingSheet(ctx, h.Host, id)
	require.NoError(t, err)
	assert.Equal(t, "kept", sheet.Steps[len(sheet.Steps)-1].Kind)
}

// Many take a series at once, each with somebody: the seats go to whole parties, and no session has more than it has.
func TestManyTakeASeriesAtOnce(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	courseOf(t, h, 7)
	setting(t, h, "Tuesdays 10:00 from 5 May, 3 times")
	offers(t, h, func(o *settings.BookingPageChange) { o.Along = 1 })
	var won, lost atomic.Int32
	var wait sync.WaitGroup
	for i := range 12 {
		wait.Go(func() {
			name := fmt.Sprintf("client%d", i)
			_, err := bookFor(t, h, "2026-05-05 10:00", func(r *schedule.BookingRequest) {
				r.Name, r.Mail, r.Along = name, name+"@seats.example", []schedule.Along{{Name: "With " + name}}
			})
			if err == nil {
				won.Add(1)
				return
			}
			var r *refusal.Refusal
			assert.ErrorAs(t, err, &r)
			lost.Add(1)
		})
	}
	wait.Wait()
	assert.EqualValues(t, 3, won.Load(), "three parties of two have room among seven")
	assert.EqualValues(t, 9, lost.Load())
	assert.Equal(t, []int{6, 6, 6}, taken(t, h))
}

// Who took seats for others moves with them, all or none; each is told, and who comes along can part from them.
func TestThoseWhoCameTogetherAreMovedTogether(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	sessionsOf(t, h, 3)
	offers(t, h, func(o *settings.BookingPageChange) { o.Along = 2 })
	setting(t, h, "5 May, 6 May and 7 May 10:00")
	ada, err := bookFor(t, h, "2026-05-05 10:00", func(r *schedule.BookingRequest) {
		r.Name, r.Mail, r.Along = "Ada", "ada@seats.example", []schedule.Along{{Name: "Bo", Mail: "bo@seats.example"}}
	})
	require.NoError(t, err)
	seat(t, h, "2026-05-06 10:00", "Cy")
	seat(t, h, "2026-05-06 10:00", "Dee")
	h.Pass(0)

	_, err = h.App.MoveAll(ctx, linkOf(ada), h.At("2026-05-06 10:00"))
	assert.Contains(t, refused(t, err, refusal.Taken).Sentence, "fewer seats left")
	assert.Equal(t, []int{2, 2, 0}, taken(t, h), "nobody was moved")
	moved, err := h.App.MoveAll(ctx, linkOf(ada), h.At("2026-05-07 10:00"))
	require.NoError(t, err)
	assert.Equal(t, []int{0, 2, 2}, taken(t, h))
	assert.Equal(t, h.At("2026-05-07 10:00").UTC(), moved.Start)
	require.Len(t, moved.Seats, 2)
	assert.True(t, moved.Seats[0].Start.Equal(moved.Seats[1].Start))
	letters(t, h, "ada@seats.example", 2)
	letters(t, h, "bo@seats.example", 2)
	_, err = h.App.MoveAll(ctx, linkOf(ada), h.At("2026-05-07 10:00"))
	require.NoError(t, err, "sent twice")

	// Bo looks after his own seat alone.
	var bos string
	for _, s := range moved.Seats {
		if s.Name == "Bo" {
			bos = strings.TrimPrefix(s.Link, "/b/")
		}
	}
	_, err = h.App.MoveAll(ctx, bos, h.At("2026-05-06 10:00"))
	require.NoError(t, err)
	assert.Equal(t, []int{0, 3, 1}, taken(t, h))
}

func TestHowManyAClientBringsGoesByTheSession(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	sessionsOf(t, h, 2)
	offers(t, h, func(o *settings.BookingPageChange) { o.Along = 5 })
	wish := app.NewSessions{SessionWish: app.SessionWish{Type: h.Type.ID, Text: "8 May 10:00", Seats: 6}, Outside: true}
	_, err := h.App.SetGroupSessions(ctx, h.Host, wish)
	require.NoError(t, err)
	party := func(n int) func(*schedule.BookingRequest) {
		return func(r *schedule.BookingRequest) {
			for i := range n {
				r.Along = append(r.Along, schedule.Along{Name: fmt.Sprint("Guest ", i)})
			}
		}
	}
	b, err := bookFor(t, h, "2026-05-08 10:00", party(3))
	require.NoError(t, err, "the session has more seats than the type")
	assert.Len(t, b.Seats, 4)
	_, err = bookFor(t, h, "2026-05-08 10:00", func(r *schedule.BookingRequest) { r.Mail = "more@seats.example"; party(3)(r) })
	refused(t, err, refusal.Taken)
}
