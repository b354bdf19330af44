package app_test

import (
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/internal/app"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/testhouse"
)

func TestEventsOfConnectedCalendarsTakeTimesAway(t *testing.T) {
	t.Parallel()
	for name, withoutSync := range map[string]bool{"a server with sync-collection": false, "a server with ETags only": true} {
		t.Run(name, func(t *testing.T) {
			h := testhouse.New(t)
			h.Calendars.WithoutSync = withoutSync
			require.NoError(t, h.Calendars.AddEvent("ines", 0, "Depot", h.At("2026-05-05 10:00"), h.At("2026-05-05 11:00")))
			require.NoError(t, h.Calendars.AddEvent("ines", 1, "Weekly", h.At("2026-04-28 14:00"), h.At("2026-04-28 15:00"), "RRULE:FREQ=WEEKLY"))
			h.Connect()
			calendars, err := h.App.Calendars(ctx, h.Host)
			require.NoError(t, err)
			require.Len(t, calendars, 2)
			assert.True(t, calendars[0].Receives)
			assert.False(t, calendars[1].Receives, "one calendar receives bookings")
			assert.Equal(t, []string{"09:00", "11:00", "13:00", "15:00"}, nearest(h.Open("2026-05-05"), "09:00", "09:10", "11:00", "13:00", "13:10", "15:00"))

			// What changes on the server is seen at the next look: moved, added, removed.
			h.Pass(time.Minute)
			require.NoError(t, h.Calendars.AddEvent("ines", 0, "Lamps", h.At("2026-05-05 16:00"), h.At("2026-05-05 17:00")))
			assert.NotContains(t, h.Open("2026-05-05"), "16:00")
			h.Calendars.RemoveAll("ines", 0)
			h.Pass(time.Minute)
			assert.Contains(t, h.Open("2026-05-05"), "16:00")
			assert.Contains(t, h.Open("2026-05-05"), "10:00")

			_, err = h.App.UseCalendar(ctx, h.Host, calendars[1].ID, app.CalendarUse{Use: "shown", Receives: true, Tentative: true, AllDay: true, Details: "me", BusyStyle: app.BusyStyle{Pattern: "wide", Tone: "moss"}})
			require.NoError(t, err)
			assert.Contains(t, h.Open("2026-05-05"), "14:00", "a calendar that doesn't block takes nothing")
			calendars, err = h.App.Calendars(ctx, h.Host)
			require.NoError(t, err)
			assert.False(t, calendars[0].Receives)
			assert.True(t, calendars[1].Receives)

			calendars, err = h.App.Disconnect(ctx, h.Host, calendars[0].Account)
			require.NoError(t, err)
			assert.Empty(t, calendars)
		})
	}
}

// nearest keeps those of the wanted times that are open.
func nearest(open []string, wanted ...string) []string {
	var out []string
	for _, w := range wanted {
		for _, o := range open {
			if o == w {
				out = append(out, w)
			}
		}
	}
	return out
}

func TestABrokenEventIsToldToItsOwnerAndTheRestCounts(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	require.NoError(t, h.Calendars.AddEvent("ines", 0, "Odd", h.At("2026-05-05 10:00"), h.At("2026-05-05 11:00"), "RRULE:FREQ=SOMETIMES"))
	require.NoError(t, h.Calendars.AddEvent("ines", 0, "Fine", h.At("2026-05-05 15:00"), h.At("2026-05-05 16:00")))
	h.Connect()
	calendars, err := h.App.Calendars(ctx, h.Host)
	require.NoError(t, err)
	require.Len(t, calendars[0].LeftOut, 1)
	assert.Contains(t, calendars[0].LeftOut[0].Sentence, `“Odd” was left out`)
	assert.NotContains(t, h.Open("2026-05-05"), "15:00")
}

func TestACalendarServerThatIsAwayKeepsItsLastCopy(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	require.NoError(t, h.Calendars.AddEvent("ines", 0, "Depot", h.At("2026-05-05 10:00"), h.At("2026-05-05 11:00")))
	h.Connect()
	h.CalendarDown.Store(true)
	h.Pass(time.Minute)
	assert.NotContains(t, h.Open("2026-05-05"), "10:00")
	calendars, err := h.App.ReadCalendars(ctx, h.Host)
	require.NoError(t, err)
	assert.Contains(t, calendars[0].Trouble.Sentence, "busy at the moment")
	assert.Equal(t, testhouse.Monday, *calendars[0].ReadAt)
	h.CalendarDown.Store(false)
	calendars, err = h.App.ReadCalendars(ctx, h.Host)
	require.NoError(t, err)
	assert.Empty(t, calendars[0].Trouble.Sentence)
	assert.Equal(t, testhouse.Monday.Add(time.Minute), *calendars[0].ReadAt)
}

func TestRecurringEventsStillCountAYearLater(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	require.NoError(t, h.Calendars.AddEvent("ines", 0, "Weekly", h.At("2026-05-05 10:00"), h.At("2026-05-05 11:00"), "RRULE:FREQ=WEEKLY"))
	h.Connect()
	h.Pass(500 * 24 * time.Hour)
	day := h.Now().In(h.At("2026-05-05 00:00").Location())
	for day.Weekday() != time.Tuesday {
		day = day.AddDate(0, 0, 1)
	}
	open := h.Open(day.Format(time.DateOnly))
	assert.Contains(t, open, "15:00")
	assert.NotContains(t, open, "10:00")
}

func TestConnectingSaysWhatWentWrong(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	elsewhere := httptest.NewServer(http.NotFoundHandler())
	defer elsewhere.Close()
	for sentence, account := range map[string]app.Account{
		"refuses this user name and password": {Address: h.CalendarURL, Username: "ines", Password: "dark"},
		"can't be reached":                    {Address: "http://127.0.0.1:1", Username: "ines"},
		"There is no calendar server":         {Address: elsewhere.URL, Username: "ines", Password: "light"},
	} {
		_, err := h.App.Connect(ctx, h.Host, account)
		assert.Contains(t, refused(t, err, refusal.Unreachable).Sentence, sentence)
	}
	bare := strings.TrimPrefix(h.CalendarURL, "http://") // an IP address of this machine
	_, err := h.App.Connect(ctx, h.Host, app.Account{Address: bare, Username: "ines", Password: "dark"})
	assert.Contains(t, refused(t, err, refusal.Unreachable).Sentence, "Tried: https://"+bare+" and http://"+bare+".")
	_, err = h.App.Connect(ctx, h.Host, app.Account{Address: "calendar.nowhere.invalid", Username: "ines", Password: "dark"})
	assert.Contains(t, refused(t, err, refusal.Unreachable).Sentence, "Tried: https://calendar.nowhere.invalid.", "a password never goes out in the clear unasked")
	_, err = h.App.Connect(ctx, h.Host, app.Account{Address: "ftp://x"})
	fields := refused(t, err, refusal.Invalid).Fields
	assert.Contains(t, fields["address"].Sentence, "https://calendar.example.org")
	assert.NotEmpty(t, fields["username"])

	_, err = h.App.Connect(ctx, h.Host, app.Account{Address: h.CalendarURL + "/page", Username: "ines", Password: "light"})
	require.NoError(t, err, "the well-known address helps from any page of the server (RFC 6764, 5)")

	stranger := h.Host
	stranger.ID = 99
	calendars, err := h.App.Calendars(ctx, h.Host)
	require.NoError(t, err)
	_, err = h.App.UseCalendar(ctx, stranger, calendars[0].ID, app.CalendarUse{Use: "blocks"})
	refused(t, err, refusal.NotFound)
	_, err = h.App.Disconnect(ctx, stranger, calendars[0].Account)
	refused(t, err, refusal.NotFound)
}

func TestAServerThatIsSlowOrAwayIsTreatedAsTheHostChose(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Hurry()
	h.Connect()
	h.Run()
	choices := schedule.CalendarSettings{EventChange: "ask", Unreachable: "nothing", TrustHours: 24}
	_, err := h.App.SetCalendarSettings(ctx, h.Host, choices)
	require.NoError(t, err)
	h.Calendars.SetMood("ines", "slow")
	_, err = h.App.Book(ctx, "quillmere", "survey", "key of a careful one", h.Request("2026-05-05 10:00"))
	assert.Contains(t, refused(t, err, refusal.Unreachable).Sentence, "doesn't answer at the moment")
	choices.Unreachable = "trust"
	_, err = h.App.SetCalendarSettings(ctx, h.Host, choices)
	require.NoError(t, err)
	_, err = h.App.Book(ctx, "quillmere", "survey", "key of a trusting one", h.Request("2026-05-05 10:00"))
	require.NoError(t, err)

	h.Calendars.SetMood("ines", "away")
	calendars, err := h.App.ReadCalendars(ctx, h.Host)
	require.NoError(t, err)
	assert.WithinDuration(t, h.Now().Add(2*time.Minute), *calendars[0].TryAt, 35*time.Second, "as long as the server asks for, and a little")
	h.Calendars.SetMood("ines", "refusing")
	calendars, err = h.App.ReadCalendars(ctx, h.Host)
	require.NoError(t, err)
	assert.Contains(t, calendars[0].Trouble.Sentence, "refuses this user name and password")
	h.Calendars.SetMood("ines", "")
	calendars, err = h.App.ReadCalendars(ctx, h.Host)
	require.NoError(t, err)
	assert.Empty(t, calendars[0].Trouble.Sentence)
}

// A first reading of 10,000 events over CalDAV, and a later one with 10 changes; wanted are under 5 s and 150 MB, and 100 ms
// apart from the network. The stand-in server's time and memory are in it.
func BenchmarkReadingACalendar(b *testing.B) {
	h := testhouse.New(b)
	for i := range 10_000 {
		at := h.Now().Add(time.Duration(i) * time.Hour)
		require.NoError(b, h.Calendars.AddEvent("ines", 0, "Event", at, at.Add(30*time.Minute)))
	}
	began, stop := time.Now(), peakMemory()
	h.Connect()
	for {
		calendars, err := h.App.Calendars(ctx, h.Host)
		require.NoError(b, err)
		if calendars[0].ReadAt != nil {
			break
		}
		time.Sleep(50 * time.Millisecond)
	}
	first, memory := time.Since(began).Seconds(), stop()
	for b.Loop() {
		b.StopTimer()
		for i := range 10 {
			at := h.Now().Add(time.Duration(i) * time.Hour)
			require.NoError(b, h.Calendars.AddEvent("ines", 0, "Later", at, at.Add(30*time.Minute)))
		}
		b.StartTimer()
		_, err := h.App.ReadCalendars(ctx, h.Host)
		require.NoError(b, err)
	}
	b.ReportMetric(first, "s/first")
	b.ReportMetric(memory, "MB/first")
}
