package app_test

import (
	"fmt"
	"slices"
	"strings"
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

func TestTheBoardShowsOwnDaysAndOnlyThatColleaguesAreBusy(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	book(t, h, "2026-05-05 10:00")
	require.NoError(t, h.Calendars.AddEvent("ines", 0, "Dentist", h.At("2026-05-05 15:00"), h.At("2026-05-05 16:00")))
	h.Connect()
	require.NoError(t, h.App.AddBlock(ctx, h.Host, app.NewBlock{Date: "2026-05-05", From: 16 * 60, To: 24 * 60, Label: "Reading"}))
	mine, err := h.App.Board(ctx, h.Host, app.BoardDays{From: "2026-05-04", Days: 7, Whose: app.Own}, 0)
	require.NoError(t, err)
	require.Len(t, mine.Rows, 7)
	tuesday := mine.Rows[1]
	assert.Equal(t, []schedule.BusyMark{{Mark: schedule.Mark{From: 900, To: 960, Label: "Dentist"}, Calendar: "Work", Pattern: "rising", Tone: "ink"}}, tuesday.Ribbon.Busy)
	assert.Equal(t, "Harbour Maritime", tuesday.Ribbon.Bookings[0].Label)
	assert.Equal(t, schedule.Mark{From: 960, To: 1440, Label: "Reading"}, tuesday.Blocks[0].Mark)
	assert.NotContains(t, h.Open("2026-05-05"), "16:00", "what is blocked is not open")

	theirs, err := h.App.Board(ctx, h.Colleague, app.BoardDays{From: "2026-05-05", Days: 7, Whose: app.Everybodys}, 0)
	require.NoError(t, err)
	require.Len(t, theirs.Rows, 2, "one day of everybody")
	ines := theirs.Rows[0]
	assert.Equal(t, []schedule.BusyMark{{Mark: schedule.Mark{From: 960, To: 1020}, Pattern: "rising", Tone: "ink"}}, ines.Ribbon.Busy, "on the viewer's clock in Amsterdam, without its title")
	assert.Equal(t, "booked", ines.Ribbon.Bookings[0].Label)
	assert.Empty(t, ines.Blocks[0].Label)

	calendars, err := h.App.Calendars(ctx, h.Host)
	require.NoError(t, err)
	seen := func(details string) (mine, theirs string) {
		calendars[0].Details = details
		_, err := h.App.UseCalendar(ctx, h.Host, calendars[0].ID, calendars[0].CalendarUse)
		require.NoError(t, err)
		own, err := h.App.Board(ctx, h.Host, app.BoardDays{From: "2026-05-05", Days: 1, Whose: app.Own}, h.Type.ID)
		require.NoError(t, err)
		assert.NotEmpty(t, own.Rows[0].Ribbon.Kept, "open starts of the type asked for")
		all, err := h.App.Board(ctx, h.Colleague, app.BoardDays{From: "2026-05-05", Days: 1, Whose: app.Everybodys}, 0)
		require.NoError(t, err)
		return own.Rows[0].Ribbon.Busy[0].Label, all.Rows[0].Ribbon.Busy[0].Label
	}
	for details, want := range map[string][2]string{"me": {"Dentist", ""}, "colleagues": {"Dentist", "Dentist"}, "nobody": {"", ""}} {
		own, others := seen(details)
		assert.Equal(t, want, [2]string{own, others}, details)
	}

	err = h.App.RemoveBlock(ctx, h.Colleague, tuesday.Blocks[0].ID)
	refused(t, err, refusal.NotFound)
	require.NoError(t, h.App.RemoveBlock(ctx, h.Host, tuesday.Blocks[0].ID))
	assert.Contains(t, h.Open("2026-05-05"), "16:00")
	_, err = h.App.Undo(ctx, h.Host)
	require.NoError(t, err)
	assert.NotContains(t, h.Open("2026-05-05"), "16:00", "blocked again")
	_, err = h.App.Undo(ctx, h.Host)
	require.NoError(t, err)
	assert.Contains(t, h.Open("2026-05-05"), "16:00", "and as before")
	err = h.App.AddBlock(ctx, h.Host, app.NewBlock{Date: "2026-05-05", From: 600, To: 600})
	assert.NotEmpty(t, refused(t, err, refusal.Invalid).Fields["to"])
}

func byHand(h *testhouse.House, b app.HandBooking) error {
	_, err := h.App.BookByHand(ctx, h.Host, b)
	return err
}

func TestABookingByHandComesAgainEveryFewWeeks(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	_, err := h.App.AddDayChanges(ctx, h.Host, "19 May closed")
	require.NoError(t, err)
	h.Host = again(t, h)
	hand := app.HandBooking{HandTimes: app.HandTimes{Type: h.Type.ID, Date: "2026-05-05", Minute: 600, Repeat: "FREQ=WEEKLY;COUNT=4"}, Name: "Fort Erie", Mail: "keeper@forterie.example"}
	sentence := refused(t, byHand(h, hand), refusal.OutsideRules).Sentence
	assert.Contains(t, sentence, "Tue 19 May, 10:00: Outside the open hours")
	assert.NotContains(t, sentence, "12 May 10:00")
	assert.Contains(t, h.Open("2026-05-05"), "10:00", "all or none")
	times, err := h.App.CheckByHand(ctx, h.Host, hand.HandTimes)
	require.NoError(t, err)
	require.Len(t, times, 4)
	assert.True(t, times[1].Open)
	assert.False(t, times[2].Open)
	assert.Contains(t, told.Join(times[2].Why, " ").Sentence, "Outside the open hours")
	hand.Without = []string{"2026-05-19"}
	made, err := h.App.BookByHand(ctx, h.Host, hand)
	require.NoError(t, err)
	assert.Equal(t, app.Made{Booked: 3, ID: made.ID, Date: "2026-05-05", Clock: "10:00", Host: h.Host.Name, Own: true}, made, "where the first of them stands")
	skyline, err := h.App.BoardSkyline(ctx, h.Host, app.BoardDays{From: "2026-05-04"})
	require.NoError(t, err)
	assert.Equal(t, []int{0, 1, 0, 0, 0, 0, 0, 0, 1}, skyline[:9])
	assert.Equal(t, 1, skyline[22])
	for date, taken := range map[string]bool{"2026-05-05": true, "2026-05-12": true, "2026-05-26": true, "2026-06-02": false} {
		assert.Equal(t, taken, len(nearest(h.Open(date), "10:00")) == 0, date)
	}

	// One letter each tells of all three.
	for _, to := range []string{"keeper@forterie.example", h.Host.Mail} {
		letters(t, h, to, 1)
	}
	require.Eventually(t, func() bool { return h.JobsWaiting() == 0 }, time.Minute, 10*time.Millisecond)
	for _, to := range []string{"keeper@forterie.example", h.Host.Mail} {
		told := letters(t, h, to, 1)
		require.Len(t, told, 1, to)
		assert.Contains(t, told[0].Subject, "3 dates")
		for _, day := range []string{"5 May 2026", "12 May 2026", "26 May 2026"} {
			assert.Contains(t, told[0].Text, day)
		}
	}
	client := letters(t, h, "keeper@forterie.example", 1)[0]
	assert.Equal(t, 3, strings.Count(client.Text, "/b/"), "a link for each")
	assert.Equal(t, 3, strings.Count(client.Text, "Video room"))
	require.Len(t, client.Files, 3+1, "an invitation for each, and all in one")
	for i, day := range []string{"20260505", "20260512", "20260526"} {
		assert.Contains(t, string(client.Files[i].Data), "DTSTART:"+day)
	}
}

func TestADateOfASeriesThatIsChangedAtOnceHasItsOwnLetter(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	hand := app.HandBooking{HandTimes: app.HandTimes{Type: h.Type.ID, Date: "2026-05-05", Minute: 600, Repeat: "FREQ=WEEKLY;COUNT=3"}, Name: "Fort Erie", Mail: "keeper@forterie.example"}
	_, err := h.App.BookByHand(ctx, h.Host, hand)
	require.NoError(t, err)
	board, err := h.App.Board(ctx, h.Host, app.BoardDays{From: "2026-05-05", Days: 1, Whose: app.Own}, 0)
	require.NoError(t, err)
	_, err = h.App.CancelByHost(ctx, h.Host, board.Rows[0].Ribbon.Bookings[0].ID, "", false)
	require.NoError(t, err)
	h.Run()
	told := letters(t, h, "keeper@forterie.example", 2)
	require.Len(t, told, 2)
	subjects := []string{told[0].Subject, told[1].Subject}
	slices.Sort(subjects)
	assert.Contains(t, subjects[0], "Cancelled")
	assert.Contains(t, subjects[1], "2 dates")
}

func TestABookingByHandIsWarnedOfTheRulesItBreaks(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	book(t, h, "2026-05-05 10:00")
	hand := app.HandBooking{HandTimes: app.HandTimes{Type: h.Type.ID, Date: "2026-05-05", Minute: 14 * 60}, Name: "Fort Erie", Mail: "keeper@forterie.example"}
	require.NoError(t, byHand(h, hand))
	assert.NotContains(t, h.Open("2026-05-05"), "14:00")
	told := letters(t, h, "forterie", 1)
	assert.Equal(t, "REQUEST", told[0].Method)

	hand.Minute, hand.Mail = 10*60+15, "other@forterie.example"
	err := byHand(h, hand)
	sentence := refused(t, err, refusal.OutsideRules).Sentence
	assert.Contains(t, sentence, "Another booking is in the way, 10:00–10:50")
	assert.Contains(t, sentence, "Not a start every 10 minutes")
	hand.Outside = true
	require.NoError(t, byHand(h, hand))
	today, err := h.App.Board(ctx, h.Host, app.BoardDays{From: "2026-05-05", Days: 1, Whose: app.Own}, 0)
	require.NoError(t, err)
	assert.Len(t, today.Rows[0].Ribbon.Bookings, 3, "two of them deliberately over each other")

	first := today.Rows[0].Ribbon.Bookings[0].ID
	err = h.App.MoveByHand(ctx, h.Host, first, app.HandMove{Target: app.Target{Date: "2026-05-09", Minute: 600}})
	assert.Contains(t, refused(t, err, refusal.OutsideRules).Sentence, "Outside the open hours")
	require.NoError(t, h.App.MoveByHand(ctx, h.Host, first, app.HandMove{Target: app.Target{Date: "2026-05-09", Minute: 600}, Outside: true}))
	require.NoError(t, h.App.MoveByHand(ctx, h.Host, first, app.HandMove{Target: app.Target{Date: "2026-05-06", Minute: 600}}))
	moved, err := h.App.Board(ctx, h.Host, app.BoardDays{From: "2026-05-06", Days: 1, Whose: app.Own}, 0)
	require.NoError(t, err)
	assert.Equal(t, 600, moved.Rows[0].Ribbon.Bookings[0].From)

	// Outside the hours alone it needs no mark, and the one from before didn't go along: the database guards it again.
	require.NoError(t, h.App.MoveByHand(ctx, h.Host, first, app.HandMove{Target: app.Target{Date: "2026-05-09", Minute: 600}, Outside: true}))
	bookings, err := h.App.Store.BookingsOfHosts(ctx, sqlc.BookingsOfHostsParams{People: []int64{h.Host.ID}, RangeTo: 1 << 40})
	require.NoError(t, err)
	marks := map[string]int64{}
	for _, b := range bookings {
		marks[b.Booking.ClientMail] += b.Booking.OverlapAllowed
	}
	assert.Equal(t, map[string]int64{"keeper@harbour.example": 0, "keeper@forterie.example": 0, "other@forterie.example": 1}, marks)

	hand.Date, hand.Mail = "2026-05-03", "nobody"
	fields := refused(t, byHand(h, hand), refusal.Invalid).Fields
	assert.NotEmpty(t, fields["mail"])
	hand.Mail = "x@y.example"
	assert.Contains(t, refused(t, byHand(h, hand), refusal.Invalid).Fields["date"].Sentence, "gone by")
}

// The board of eight people over a day, and of one over fourteen days, with 300 events; wanted are under 100 ms.
func BenchmarkTheBoard(b *testing.B) {
	h := testhouse.New(b)
	for i := range 300 {
		at := h.Now().Add(time.Duration(i) * 2 * time.Hour)
		require.NoError(b, h.Calendars.AddEvent("ines", 0, "Event", at, at.Add(time.Hour)))
	}
	h.Connect()
	for b.Loop() {
		for range 4 { // eight rows of two people
			_, err := h.App.Board(ctx, h.Host, app.BoardDays{From: "2026-05-04", Days: 1, Whose: app.Everybodys}, 0)
			require.NoError(b, err)
		}
		_, err := h.App.Board(ctx, h.Host, app.BoardDays{From: "2026-05-04", Days: 14, Whose: app.Own}, 0)
		require.NoError(b, err)
	}
}

func TestABookingGoesOverToAColleagueAndBack(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	h.Connect()
	link := book(t, h, "2026-05-05 10:00").Link
	letters(t, h, "harbour", 1)
	require.Eventually(t, func() bool { return len(events(t, h)) == 1 }, time.Minute, 20*time.Millisecond)
	mine, err := h.App.Board(ctx, h.Host, app.BoardDays{From: "2026-05-05", Days: 1, Whose: app.Own}, 0)
	require.NoError(t, err)
	id := mine.Rows[0].Ribbon.Bookings[0].ID

	places, err := h.App.Targets(ctx, h.Host, id, app.BoardDays{From: "2026-05-06", Days: 1, Whose: app.Everybodys})
	require.NoError(t, err)
	require.Len(t, places, 2)
	theirs := places[1]
	assert.Equal(t, h.Colleague.ID, theirs.Person)
	require.NotEmpty(t, theirs.Open)
	to := app.Target{Person: h.Colleague.ID, Date: "2026-05-06", Minute: theirs.Open[0]}
	says, err := h.App.CheckTarget(ctx, h.Host, id, to)
	require.NoError(t, err)
	assert.True(t, says.Open, told.Join(says.Why, " ").Sentence)
	says, err = h.App.CheckTarget(ctx, h.Host, id, app.Target{Date: "2026-05-06", Minute: 3 * 60})
	require.NoError(t, err)
	assert.Contains(t, told.Join(says.Why, " ").Sentence, "Outside the open hours")

	refused(t, h.App.MoveByHand(ctx, h.Colleague, id, app.HandMove{Target: to}), refusal.NotFound)
	require.NoError(t, h.App.MoveByHand(ctx, h.Host, id, app.HandMove{Target: to}))
	told := letters(t, h, "harbour", 2)[1]
	assert.Contains(t, told.Text, h.Colleague.Name+" takes your meeting instead of "+h.Host.Name)
	assert.Equal(t, "REQUEST", told.Method)
	assert.Contains(t, letters(t, h, h.Colleague.Mail, 1)[0].Text, "handed a meeting with Harbour Maritime over to you")
	require.Eventually(t, func() bool { return len(events(t, h)) == 0 }, time.Minute, 20*time.Millisecond, "its event leaves the calendar")
	assert.Contains(t, h.Open("2026-05-05"), "10:00")
	client, err := h.App.BookingByLink(ctx, link[len("/b/"):])
	require.NoError(t, err)
	assert.Equal(t, h.Colleague.Name, client.Host, "the client's link stays")

	_, err = h.App.Undo(ctx, h.Host)
	require.NoError(t, err)
	assert.NotContains(t, h.Open("2026-05-05"), "10:00")
	require.Eventually(t, func() bool { return len(events(t, h)) == 1 }, time.Minute, 20*time.Millisecond)
	_, err = h.App.Undo(ctx, h.Host)
	refused(t, err, refusal.NotFound)
}

func TestABoardOfManyColleaguesShowsThemBitByBit(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	var names []string
	for i := range 40 {
		name := fmt.Sprintf("Adviser %02d", i)
		require.NoError(t, h.App.Store.Write(ctx, func(q *sqlc.Queries) error {
			_, err := q.AddPerson(ctx, sqlc.AddPersonParams{WorkspaceID: 1, Name: name, Mail: name + "@quillmere.example", Zone: "UTC", Week: `["9-17","","","","","",""]`, Role: "member", Slug: fmt.Sprintf("adviser-%d", i)})
			return err
		}))
		names = append(names, name)
	}
	names = append([]string{h.Host.Name, h.Colleague.Name}, names...)
	days := app.BoardDays{From: "2026-05-05", Days: 1, Whose: app.Everybodys}
	first, err := h.App.Board(ctx, h.Host, days, 0)
	require.NoError(t, err)
	assert.Equal(t, 42, first.People)
	days.Skip = len(first.Rows)
	rest, err := h.App.Board(ctx, h.Host, days, 0)
	require.NoError(t, err)
	var shown []string
	for _, row := range append(first.Rows, rest.Rows...) {
		shown = append(shown, row.Person)
	}
	assert.Equal(t, names, shown, "everybody once, in the same order")
	assert.Less(t, len(first.Rows), 42)

	staff, err := h.App.SaveTeam(ctx, h.Host, 0, app.TeamChange{Name: "Evening", Members: []int64{h.Colleague.ID}})
	require.NoError(t, err)
	team, err := h.App.Board(ctx, h.Host, app.BoardDays{From: "2026-05-05", Days: 1, Whose: app.Everybodys, Team: staff.Teams[0].ID}, 0)
	require.NoError(t, err)
	require.Len(t, team.Rows, 1)
	assert.Equal(t, h.Colleague.Name, team.Rows[0].Person)
	assert.Equal(t, 1, team.People)
}

func TestOfTwoHostsWhoMoveABookingOneIsTold(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	b := book(t, h, "2026-05-05 10:00")
	letters(t, h, "keeper@harbour.example", 1)
	board, err := h.App.Board(ctx, h.Host, app.BoardDays{From: "2026-05-05", Days: 1}, 0)
	require.NoError(t, err)
	seen := board.Rows[0].Ribbon.Bookings[0]
	id, version := seen.ID, seen.Version
	to := func(hour int, person int64, version *int64) error {
		return h.App.MoveByHand(ctx, h.Host, id, app.HandMove{Target: app.Target{Person: person, Date: "2026-05-05", Minute: hour * 60}, Version: version, Outside: true})
	}
	require.NoError(t, to(10, 0, &version), "where it is, nothing happens")
	require.NoError(t, to(11, 0, &version))
	assert.Contains(t, refused(t, to(14, 0, &version), refusal.Conflict).Sentence, "11:00")
	h.Pass(0)
	assert.Len(t, letters(t, h, "keeper@harbour.example", 2), 2, "she was told of the one that moved it")
	assert.Equal(t, h.At("2026-05-05 11:00").UTC(), stateOf(t, h, b).Start)

	// Handed over and moved at once: both are said, in one letter.
	require.NoError(t, to(14, h.Colleague.ID, nil))
	h.Pass(0)
	told := letters(t, h, "keeper@harbour.example", 3)
	require.Len(t, told, 3)
	assert.Contains(t, told[2].Text, "Maren Achterberg takes your meeting instead of Ines Valadares. It also begins at another time: ")
	assert.Contains(t, letters(t, h, "maren@quillmere.example", 1)[0].Text, "It also begins at another time: ")
	require.NoError(t, h.App.HandTo(ctx, h.Host, id, h.Host.ID, true))
	h.Pass(0)
	assert.NotContains(t, letters(t, h, "keeper@harbour.example", 4)[3].Text, "another time: ")
}
