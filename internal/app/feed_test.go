package app_test

import (
	"bytes"
	"fmt"
	"net/http"
	"net/http/httptest"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"github.com/emersion/go-ical"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/busy"
	"corrim/core/span"
	"corrim/internal/app"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/testhouse"
)

// published is a calendar at an address that can be changed, and be away.
type published struct {
	*httptest.Server
	text  atomic.Value
	away  testhouse.Switch
	sent  atomic.Int64 // whole answers
	asked atomic.Int64
}

func publish(t *testing.T, events ...string) *published {
	p := &published{}
	p.set(events...)
	p.Server = httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		p.asked.Add(1)
		text := p.text.Load().(string)
		tag := fmt.Sprintf("%q", fmt.Sprint(len(text)))
		switch {
		case p.away.Load():
			http.Error(w, "down", http.StatusServiceUnavailable)
		case r.Header.Get("If-None-Match") == tag:
			w.WriteHeader(http.StatusNotModified)
		default:
			p.sent.Add(1)
			w.Header().Set("ETag", tag)
			_, _ = w.Write([]byte(text))
		}
	}))
	t.Cleanup(p.Close)
	return p
}

func (p *published) set(events ...string) {
	text := "BEGIN:VCALENDAR\r\n"
	for i, e := range events {
		text += fmt.Sprintf("BEGIN:VEVENT\r\nUID:%d\r\n%sEND:VEVENT\r\n", i, e)
	}
	p.text.Store(text + "END:VCALENDAR\r\n")
}

// at is an event in Lisbon on 5 May 2026.
func at(from, to, more string) string {
	return "DTSTART;TZID=Europe/Lisbon:20260505T" + from + "00\r\nDTEND;TZID=Europe/Lisbon:20260505T" + to + "00\r\n" + more
}

func TestASubscribedAddressIsFetchedAgainOnlyWhenItChanged(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	feed := publish(t, at("1000", "1100", "SUMMARY:Depot\r\n"), at("1500", "1600", ""))
	_, err := h.App.Subscribe(ctx, h.Host, app.Subscription{Address: "ftp://x.example"})
	assert.NotEmpty(t, refused(t, err, refusal.Invalid).Fields["address"])
	calendars, err := h.App.Subscribe(ctx, h.Host, app.Subscription{Name: "Depot plan", Address: feed.URL + "/secret.ics"})
	require.NoError(t, err)
	require.Len(t, calendars, 1)
	assert.Equal(t, "feed", calendars[0].Kind)
	assert.Equal(t, 2, calendars[0].Events)
	assert.Equal(t, 120, calendars[0].Takes)
	assert.NotContains(t, fmt.Sprint(calendars), "secret.ics", "the address stays secret")
	assert.NotContains(t, h.Open("2026-05-05"), "10:00")
	_, err = h.App.UseCalendar(ctx, h.Host, calendars[0].ID, app.CalendarUse{Use: "blocks", Receives: true})
	assert.Contains(t, refused(t, err, refusal.Invalid).Sentence, "can be written")

	h.Pass(time.Minute)
	h.Open("2026-05-05")
	assert.EqualValues(t, 1, feed.sent.Load(), "the second time it had not changed")
	assert.EqualValues(t, 2, feed.asked.Load())
	feed.set(at("1300", "1400", ""))
	h.Pass(time.Minute)
	assert.Contains(t, h.Open("2026-05-05"), "10:00")
	assert.NotContains(t, h.Open("2026-05-05"), "13:00")
}

func TestWhatCountsOfACalendarIsItsOwnersChoice(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	file := "BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\nUID:1\r\n" + at("1000", "1100", "STATUS:TENTATIVE\r\n") + "END:VEVENT\r\n" +
		"BEGIN:VEVENT\r\nUID:2\r\nDTSTART;VALUE=DATE:20260506\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n"
	_, err := h.App.AddCalendarFile(ctx, h.Host, app.CalendarFile{Name: "x", Text: "hello"})
	assert.NotEmpty(t, refused(t, err, refusal.Invalid).Fields["file"])
	calendars, err := h.App.AddCalendarFile(ctx, h.Host, app.CalendarFile{Name: "plan.ics", Text: file})
	require.NoError(t, err)
	assert.Equal(t, "plan", calendars[0].Name)
	use := func(u app.CalendarUse) {
		u.Details, u.BusyStyle = "me", calendars[0].BusyStyle
		_, err := h.App.UseCalendar(ctx, h.Host, calendars[0].ID, u)
		require.NoError(t, err)
	}
	open := func(date, clock string) bool { return len(nearest(h.Open(date), clock)) == 1 }
	assert.False(t, open("2026-05-05", "10:00"))
	assert.False(t, open("2026-05-06", "10:00"))
	use(app.CalendarUse{Use: "blocks", AllDay: true})
	assert.True(t, open("2026-05-05", "10:00"), "tentative events don't count")
	assert.False(t, open("2026-05-06", "10:00"))
	use(app.CalendarUse{Use: "blocks", Tentative: true})
	assert.False(t, open("2026-05-05", "10:00"))
	assert.True(t, open("2026-05-06", "10:00"), "all-day events don't count")
	use(app.CalendarUse{Use: "shown", Tentative: true, AllDay: true})
	assert.True(t, open("2026-05-05", "10:00"))
	h.Pass(24 * time.Hour)
	today, err := h.App.Today(ctx, again(t, h))
	require.NoError(t, err)
	assert.Len(t, today.Ribbon.Shown, 1, "it is only shown")
	assert.Empty(t, today.Ribbon.Busy)
	use(app.CalendarUse{Use: "ignored"})
	today, err = h.App.Today(ctx, again(t, h))
	require.NoError(t, err)
	assert.Empty(t, today.Ribbon.Shown)
}

func TestEventsWithAnAgreedTitleOpenTimeInsteadOfTheWeek(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	feed := publish(t, at("1800", "2100", "SUMMARY:open for  CLIENTS\r\nTRANSP:TRANSPARENT\r\n"), at("1900", "1930", "SUMMARY:Telephone\r\n"))
	_, err := h.App.Subscribe(ctx, h.Host, app.Subscription{Address: feed.URL})
	require.NoError(t, err)
	assert.Contains(t, h.Open("2026-05-05"), "09:00")
	_, err = h.App.SetCalendarSettings(ctx, h.Host, schedule.CalendarSettings{EventChange: "ask", Unreachable: "trust", TrustHours: 24, OpenTitle: "Open for clients"})
	require.NoError(t, err)
	assert.Equal(t, []string{"18:00", "19:30", "19:40", "19:50", "20:00", "20:10"}, h.Open("2026-05-05"))
	assert.Empty(t, h.Open("2026-05-06"), "the week doesn't count any more")
	feed.set(at("0700", "0800", "SUMMARY:Open for clients\r\n"))
	h.Pass(time.Minute)
	assert.Equal(t, []string{"07:00", "07:10"}, h.Open("2026-05-05"), "editing the calendar is enough")

	other := testhouse.Survey
	other.Name, other.Slug = "Other", "other"
	kind, err := h.App.SaveMeetingType(ctx, again(t, h), 0, other, settings.Saving{Accept: true})
	require.NoError(t, err)
	choices := schedule.CalendarSettings{EventChange: "ask", Unreachable: "trust", TrustHours: 24, OpenTitle: "Open for clients", OpenType: kind.ID}
	_, err = h.App.SetCalendarSettings(ctx, again(t, h), choices)
	require.NoError(t, err)
	assert.Contains(t, h.Open("2026-05-05"), "09:00", "for that type only; the week counts for this one")
	choices.OpenType = h.Type.ID
	_, err = h.App.SetCalendarSettings(ctx, again(t, h), choices)
	require.NoError(t, err)
	assert.Equal(t, []string{"07:00", "07:10"}, h.Open("2026-05-05"))
	calendars, err := h.App.Calendars(ctx, again(t, h))
	require.NoError(t, err)
	calendars[0].MayOpen = false
	_, err = h.App.UseCalendar(ctx, again(t, h), calendars[0].ID, calendars[0].CalendarUse)
	require.NoError(t, err)
	assert.Empty(t, h.Open("2026-05-05"), "not in this calendar")
	choices.OpenType = 99
	_, err = h.App.SetCalendarSettings(ctx, again(t, h), choices)
	refused(t, err, refusal.NotFound)

	_, err = h.App.SetCalendarSettings(ctx, again(t, h), schedule.CalendarSettings{EventChange: "ask", Unreachable: "trust", TrustHours: 24})
	require.NoError(t, err)
	assert.Contains(t, h.Open("2026-05-05"), "09:00")
}

func TestWhileACalendarCantBeReadTheHostsChoiceCounts(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	feed := publish(t, at("1000", "1100", ""))
	_, err := h.App.Subscribe(ctx, h.Host, app.Subscription{Name: "Depot", Address: feed.URL})
	require.NoError(t, err)
	feed.away.Store(true)
	h.Pass(time.Minute)
	assert.Contains(t, h.Open("2026-05-05"), "09:00", "its last copy is trusted")
	asked := feed.asked.Load()
	h.Pass(5 * time.Second)
	h.Open("2026-05-05")
	assert.Equal(t, asked, feed.asked.Load(), "a server in trouble is left alone for a while")
	h.Pass(25 * time.Hour)
	assert.Empty(t, h.Open("2026-05-06"), "a day is as long as it is trusted")
	_, err = h.App.SetCalendarSettings(ctx, h.Host, schedule.CalendarSettings{EventChange: "ask", Unreachable: "trust", TrustHours: 48})
	require.NoError(t, err)
	assert.NotEmpty(t, h.Open("2026-05-06"))
	_, err = h.App.SetCalendarSettings(ctx, h.Host, schedule.CalendarSettings{EventChange: "ask", Unreachable: "nothing", TrustHours: 48})
	require.NoError(t, err)
	assert.Empty(t, h.Open("2026-05-06"))
	r, err := h.App.Reasons(ctx, again(t, h), h.Type.ID, "2026-05-06", 10*60, 0, 0)
	require.NoError(t, err)
	assert.Contains(t, r.At.Rules[4].Sentences[0].Sentence, "Can't be read, so nothing is offered” (Depot)")

	// Its owner was told once by mail, and is told again only if it fails anew.
	require.Len(t, letters(t, h, "ines", 1), 1)
	assert.Contains(t, h.Inbox.Letters()[0].Text, "“Depot” can't be read")
	h.Pass(3 * time.Hour)
	h.Open("2026-05-06")
	assert.Len(t, h.Inbox.Letters(), 1)
	feed.away.Store(false)
	h.Pass(3 * time.Hour)
	assert.NotEmpty(t, h.Open("2026-05-06"))
}

func TestOthersSubscribeToBookingsAndBusyTimes(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	require.NoError(t, h.Calendars.AddEvent("ines", 0, "Dentist", h.At("2026-05-06 15:00"), h.At("2026-05-06 16:00")))
	h.Connect()
	addresses, err := h.App.FeedAddresses(ctx, h.Host)
	require.NoError(t, err)
	assert.Empty(t, addresses.Bookings, "nothing is given out unasked")
	addresses, err = h.App.RenewFeeds(ctx, h.Host, true)
	require.NoError(t, err)
	secret := strings.Split(addresses.Bookings, "/")[4]
	empty, err := h.App.BookingsFeed(ctx, secret)
	require.NoError(t, err)
	assert.Contains(t, string(empty), "BEGIN:VCALENDAR")
	h.Run()
	book(t, h, "2026-05-05 10:00")

	text, err := h.App.BookingsFeed(ctx, secret)
	require.NoError(t, err)
	calendar, err := ical.NewDecoder(bytes.NewReader(text)).Decode() // go-ical reads it
	require.NoError(t, err)
	require.Len(t, calendar.Events(), 2, "the meeting and its buffer")
	summary, err := calendar.Events()[0].Props.Text("SUMMARY")
	require.NoError(t, err)
	assert.Contains(t, summary, "Harbour Maritime")

	require.NoError(t, h.App.AddBlock(ctx, h.Host, app.NewBlock{Date: "2026-05-07", From: 600, To: 660, Label: "Archive"}))
	text, err = h.App.BusyFeed(ctx, secret)
	require.NoError(t, err)
	assert.NotContains(t, string(text), "Dentist")
	assert.NotContains(t, string(text), "Archive")
	assert.NotContains(t, string(text), "Harbour")
	read, err := busy.Read(text, busy.Options{})
	require.NoError(t, err)
	found, _ := read.Busy(span.Of(h.Now(), h.Now().AddDate(0, 0, 7)))
	var when []string
	for _, b := range found {
		when = append(when, b.Start.Time().Format("2 15:04-")+b.End.Time().Format("15:04"))
	}
	assert.Equal(t, []string{"5 09:00-10:00", "6 14:00-15:00", "7 09:00-10:00"}, when, "UTC; with buffers and what is blocked here")

	renewed, err := h.App.RenewFeeds(ctx, h.Host, true)
	require.NoError(t, err)
	assert.NotEqual(t, addresses, renewed)
	_, err = h.App.BookingsFeed(ctx, secret)
	refused(t, err, refusal.NotFound)
	ended, err := h.App.RenewFeeds(ctx, h.Host, false)
	require.NoError(t, err)
	assert.Equal(t, app.FeedAddresses{}, ended)
	for _, old := range []string{strings.Split(renewed.Bookings, "/")[4], ""} {
		_, err = h.App.BusyFeed(ctx, old)
		refused(t, err, refusal.NotFound)
	}
}
