package app_test

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"net/mail"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/busy"
	"corrim/core/span"
	"corrim/internal/app"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/testhouse"
)

var ctx = context.Background()

func book(t testing.TB, h *testhouse.House, at string) app.ClientBooking {
	t.Helper()
	booking, err := h.App.Book(ctx, "quillmere", "survey", "request for "+at, h.Request(at))
	require.NoError(t, err)
	return booking
}

func linkOf(b app.ClientBooking) string { return strings.TrimPrefix(b.Link, "/b/") }

var (
	refused = testhouse.Refused
	letters = testhouse.Letters
)

// events lists what the host's calendar on the server holds in May, as "day hour: title", without buffers.
func events(t *testing.T, h *testhouse.House) []string {
	t.Helper()
	out := []string{}
	may := span.Of(h.At("2026-05-01 00:00"), h.At("2026-06-01 00:00"))
	for _, text := range h.Calendars.Texts("ines", 0) {
		calendar, err := busy.Read([]byte(text), busy.Options{})
		require.NoError(t, err)
		found, _ := calendar.Busy(may)
		for _, b := range found {
			if strings.HasPrefix(b.Title, "Buffer ") {
				continue
			}
			out = append(out, b.Start.Time().Add(time.Hour).Format("2 15:04: ")+b.Title)
		}
	}
	return out
}

func TestABookingReachesEverybody(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Connect()
	h.Run()
	booking := book(t, h, "2026-05-05 10:00")
	assert.Contains(t, booking.JoinURL, "http://rooms.example/r/")

	client := letters(t, h, "keeper@harbour.example", 1)
	require.Len(t, client, 1, "exactly one message with the invitation")
	assert.Equal(t, "multipart/mixed\n  multipart/alternative\n    text/plain\n    text/html\n    text/calendar\n  text/calendar\n", client[0].Structure, "RFC 6047, and as mail programs expect it")
	assert.Equal(t, "REQUEST", client[0].Method)
	assert.Contains(t, client[0].Text, "Tuesday 5 May 2026, 06:00 to 06:50 (Halifax, UTC−3)")
	assert.Contains(t, client[0].Text, "Tuesday 5 May 2026, 10:00 to 10:50 (Lisbon, UTC+1)")
	assert.Contains(t, client[0].Text, "https://corrim.example"+booking.Link)
	assert.Contains(t, strings.ReplaceAll(client[0].Calendar, "\r\n ", ""), "CONFERENCE;FEATURE=VIDEO;LABEL=Join the room;VALUE=URI:"+booking.JoinURL)
	assert.Equal(t, client[0].Calendar, string(client[0].Files[0].Data), "the attachment is the same")
	_, err := mail.ReadMessage(bytes.NewReader(client[0].Raw))
	require.NoError(t, err)

	host := letters(t, h, "ines@quillmere.example", 1)
	assert.Contains(t, host[0].Text, "Two pastels.")
	require.Eventually(t, func() bool { return len(events(t, h)) == 1 }, time.Minute, 10*time.Millisecond)
	assert.Equal(t, []string{"5 10:00: Survey: Harbour Maritime with Ines Valadares"}, events(t, h))

	_, err = h.App.ReadCalendars(ctx, h.Host)
	require.NoError(t, err)
	today, err := h.App.Today(ctx, h.Host)
	require.NoError(t, err)
	assert.Equal(t, booking.JoinURL, today.Meetings[0].JoinURL)
	assert.Empty(t, today.Troubles)
	open := h.Open("2026-05-05")
	assert.NotContains(t, open, "10:50", "the buffer after is kept")
	assert.Contains(t, open, "11:00", "its own event in the calendar takes nothing more")
	assert.Contains(t, open, "09:00", "50 minutes and 10 after fit before it")
	assert.NotContains(t, open, "09:10")
}

func TestMovingAndCancellingFollowEverywhere(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Connect()
	h.Run()
	booking := book(t, h, "2026-05-05 10:00")
	letters(t, h, "keeper@harbour.example", 1)
	link := linkOf(booking)

	open, err := h.App.OpenTimes(ctx, "quillmere", "survey", schedule.TimesWanted{Link: link, From: h.At("2026-05-05 00:00"), To: h.At("2026-05-06 00:00")})
	require.NoError(t, err)
	assert.Contains(t, open.Starts, h.At("2026-05-05 10:30").UTC(), "the booking being moved is not in its own way")
	moved, err := h.App.Move(ctx, link, h.At("2026-05-05 10:30"))
	require.NoError(t, err)
	assert.Equal(t, booking.Link, moved.Link)
	second := letters(t, h, "keeper@harbour.example", 2)[1]
	assert.Contains(t, second.Calendar, "SEQUENCE:1")
	assert.Equal(t, "REQUEST", second.Method)
	require.Eventually(t, func() bool { e := events(t, h); return len(e) == 1 && strings.HasPrefix(e[0], "5 10:30") }, time.Minute, 10*time.Millisecond)
	_, err = h.App.Move(ctx, link, h.At("2026-05-05 10:30"))
	require.NoError(t, err, "sent twice, nothing happens")
	_, err = h.App.Move(ctx, link, h.At("2026-05-05 12:30"))
	assert.NotEmpty(t, refused(t, err, refusal.Taken).Nearest, "outside the hours")

	cancelled, err := h.App.Cancel(ctx, link, "The roof leaks.")
	require.NoError(t, err)
	assert.Equal(t, "cancelled", cancelled.State)
	third := letters(t, h, "keeper@harbour.example", 3)[2]
	assert.Equal(t, "CANCEL", third.Method)
	assert.Contains(t, third.Calendar, "SEQUENCE:2")
	assert.Contains(t, third.Calendar, "STATUS:CANCELLED")
	assert.Contains(t, letters(t, h, "ines@quillmere.example", 3)[2].Text, "The roof leaks.")
	require.Eventually(t, func() bool { return len(events(t, h)) == 0 }, time.Minute, 10*time.Millisecond)
	assert.Contains(t, h.Open("2026-05-05"), "10:00", "the time is open again")
	_, err = h.App.Cancel(ctx, link, "")
	require.NoError(t, err, "sent twice")
	_, err = h.App.Move(ctx, link, h.At("2026-05-06 10:00"))
	refused(t, err, refusal.Over)
	assert.Len(t, h.Inbox.Letters(), 6, "three to each, none twice")
}

func TestManyClientsForOneTimeExactlyOneGetsIt(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	var won atomic.Int32
	var wait sync.WaitGroup
	for i := range 12 {
		wait.Go(func() {
			_, err := h.App.Book(ctx, "quillmere", "survey", fmt.Sprintf("client number %d", i), h.Request("2026-05-05 10:00"))
			if err == nil {
				won.Add(1)
				return
			}
			var r *refusal.Refusal
			if assert.ErrorAs(t, err, &r) {
				assert.Equal(t, refusal.Taken, r.Kind)
				assert.NotEmpty(t, r.Nearest)
			}
		})
	}
	wait.Wait()
	assert.EqualValues(t, 1, won.Load())
}

func TestARepeatedRequestFindsItsBooking(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	first := book(t, h, "2026-05-05 10:00")
	again := book(t, h, "2026-05-05 10:00")
	assert.Equal(t, first.Link, again.Link)
	assert.Len(t, letters(t, h, "keeper@harbour.example", 1), 1)

	other := h.Request("2026-05-05 10:00")
	other.Mail = "somebody@else.example"
	_, err := h.App.Book(ctx, "quillmere", "survey", "request for 2026-05-05 10:00", other)
	refused(t, err, refusal.Taken)
}

func TestTheCalendarIsAskedOnceMoreWhenBooking(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Connect()
	assert.Contains(t, h.Open("2026-05-05"), "10:00")
	require.NoError(t, h.Calendars.AddEvent("ines", 1, "Dentist", h.At("2026-05-05 10:30"), h.At("2026-05-05 11:00")))
	_, err := h.App.Book(ctx, "quillmere", "survey", "a request of mine", h.Request("2026-05-05 10:00"))
	taken := refused(t, err, refusal.Taken)
	assert.Contains(t, taken.Nearest, h.At("2026-05-05 09:30").UTC())
	assert.NotContains(t, taken.Sentence, "Dentist", "clients never see what is in the calendar")
	assert.NotContains(t, h.Open("2026-05-05"), "10:00")
}

func TestWhatAClientCanGetWrong(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	for field, spoil := range map[string]func(*schedule.BookingRequest){
		"name":   func(r *schedule.BookingRequest) { r.Name = "  " },
		"mail":   func(r *schedule.BookingRequest) { r.Mail = "keeper@harbour" },
		"remark": func(r *schedule.BookingRequest) { r.Remark = strings.Repeat("é", 4001) },
		"zone":   func(r *schedule.BookingRequest) { r.Zone = "Local" },
	} {
		request := h.Request("2026-05-05 10:00")
		spoil(&request)
		_, err := h.App.Book(ctx, "quillmere", "survey", "a wrong request", request)
		assert.NotEmpty(t, refused(t, err, refusal.Invalid).Fields[field], field)
	}
	_, err := h.App.Book(ctx, "quillmere", "gone", "a request too late", h.Request("2026-05-05 10:00"))
	refused(t, err, refusal.NotFound)
	_, err = h.App.Book(ctx, "quillmere", "survey", "a request too late", h.Request("2026-05-01 10:00"))
	assert.Contains(t, refused(t, err, refusal.Taken).Sentence, "already gone by")
	_, err = h.App.Book(ctx, "quillmere", "survey", "a request off the grid", h.Request("2026-05-05 10:05"))
	refused(t, err, refusal.Taken)
	_, err = h.App.BookingByLink(ctx, "no-such-link")
	refused(t, err, refusal.NotFound)
}

func TestAMeetingThatHasBegunCannotBeChanged(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	booking := book(t, h, "2026-05-04 11:00")
	h.Pass(3 * time.Hour)
	_, err := h.App.Move(ctx, linkOf(booking), h.At("2026-05-05 10:00"))
	refused(t, err, refusal.Over)
	_, err = h.App.Cancel(ctx, linkOf(booking), "")
	refused(t, err, refusal.Over)
}

func TestServicesThatAreDownLoseNothing(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Connect()
	h.RoomsDown.Store(true)
	h.CalendarDown.Store(true)
	stop := h.Run()
	booking := book(t, h, "2026-05-05 10:00")
	assert.Empty(t, booking.JoinURL, "it is booked anyway")
	require.Eventually(t, func() bool {
		today, err := h.App.Today(ctx, h.Host)
		return err == nil && len(today.Troubles) >= 3 // two calendars and the room
	}, time.Minute, 20*time.Millisecond)
	assert.Empty(t, h.Inbox.Letters(), "the mails wait for the room")

	// Stopped and started again, with everything back.
	stop()
	h.RoomsDown.Store(false)
	h.CalendarDown.Store(false)
	h.Pass(30 * time.Second)
	h.Restart()
	h.Run()
	assert.Contains(t, letters(t, h, "keeper@harbour.example", 1)[0].Text, "http://rooms.example/r/")
	require.Eventually(t, func() bool { return len(events(t, h)) == 1 }, time.Minute, 10*time.Millisecond)
	assert.NotContains(t, h.Log.String(), "keeper@harbour.example", "logs hold no private details")
}

func TestWhatNoLongerAppliesIsDropped(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	booking := book(t, h, "2026-05-05 10:00") // nothing works yet
	_, err := h.App.Cancel(ctx, linkOf(booking), "")
	require.NoError(t, err)
	h.Run()
	assert.Equal(t, "CANCEL", letters(t, h, "keeper@harbour.example", 1)[0].Method)
	letters(t, h, "ines@quillmere.example", 1)
	assert.Len(t, h.Inbox.Letters(), 2, "nobody is invited to what is cancelled already")
}

func TestAnEntryTheHostTouchedKeepsWhatTheyAdded(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Connect()
	h.Run()
	booking := book(t, h, "2026-05-05 10:00")
	require.Eventually(t, func() bool { return len(events(t, h)) == 1 }, time.Minute, 10*time.Millisecond)
	require.NoError(t, h.Calendars.Rewrite("ines", 0, func(ics string) string {
		ics = strings.Replace(ics, "DESCRIPTION:", "CATEGORIES:Loans\r\nX-ROOM:4\r\nDESCRIPTION:Bring the long cable.\\n", 1)
		return strings.Replace(ics, "END:VEVENT", "BEGIN:VALARM\r\nACTION:DISPLAY\r\nDESCRIPTION:Pack\r\nTRIGGER:-PT45M\r\nEND:VALARM\r\nEND:VEVENT", 1)
	}))
	_, err := h.App.Move(ctx, linkOf(booking), h.At("2026-05-06 10:00"))
	require.NoError(t, err)
	require.Eventually(t, func() bool { e := events(t, h); return len(e) == 1 && strings.HasPrefix(e[0], "6 10:00") }, time.Minute, 10*time.Millisecond)
	text := strings.ReplaceAll(strings.Join(h.Calendars.Texts("ines", 0), ""), "\r\n ", "")
	for _, own := range []string{"CATEGORIES:Loans", "X-ROOM:4", "Bring the long cable.", "TRIGGER:-PT45M"} {
		assert.Contains(t, text, own)
	}
	assert.Contains(t, text, "Wednesday 6 May", "our own words are those of the new time")
	assert.NotContains(t, text, "Tuesday 5 May")
}

func TestBuffersAreSeenInTheHostsCalendarAndNotInTheClients(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Connect()
	h.Run()
	booking := book(t, h, "2026-05-05 10:00") // 50 minutes and 10 after
	buffers := func() (out []string) {
		for _, text := range h.Calendars.Texts("ines", 0) {
			calendar, err := busy.Read([]byte(text), busy.Options{})
			require.NoError(t, err)
			found, _ := calendar.Busy(span.Of(h.At("2026-05-01 00:00"), h.At("2026-06-01 00:00")))
			for _, b := range found {
				if strings.HasPrefix(b.Title, "Buffer ") {
					out = append(out, b.Start.Time().Add(time.Hour).Format("2 15:04")+b.End.Time().Add(time.Hour).Format("-15:04"))
				}
			}
		}
		return out
	}
	is := func(want ...string) {
		t.Helper()
		require.Eventually(t, func() bool { return slices.Equal(want, buffers()) }, time.Minute, 10*time.Millisecond)
	}
	is("5 10:50-11:00")
	settled(t, h)
	assert.Contains(t, h.Open("2026-05-05"), "11:00", "it keeps no more time than the booking does")
	_, err := h.App.Move(ctx, linkOf(booking), h.At("2026-05-06 10:00"))
	require.NoError(t, err)
	is("6 10:50-11:00")
	assert.NotContains(t, letters(t, h, "harbour", 2)[0].Calendar, "Buffer")
	_, err = h.App.Cancel(ctx, linkOf(booking), "")
	require.NoError(t, err)
	is()
}

func TestAFileOfTheBookingToDownload(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	booking := book(t, h, "2026-05-05 10:00")
	text, err := h.App.BookingFile(ctx, linkOf(booking))
	require.NoError(t, err)
	assert.Contains(t, string(text), "METHOD:PUBLISH")
	assert.NotContains(t, string(text), "ATTENDEE")
	for line := range bytes.Lines(text) {
		assert.LessOrEqual(t, len(bytes.TrimRight(line, "\r\n")), 75, "RFC 5545, 3.1")
	}
	_, err = h.App.BookingFile(ctx, "no-such-link")
	assert.True(t, errors.As(err, new(*refusal.Refusal)))
}
