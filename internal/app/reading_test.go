package app_test

import (
	"net/http"
	"net/http/httptest"
	"runtime"
	"runtime/metrics"
	"slices"
	"strings"
	"sync/atomic"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/internal/app"
	"corrim/internal/refusal"
	"corrim/internal/standin/calendar"
	"corrim/internal/store/sqlc"
	"corrim/internal/testhouse"
)

// gate stands before the house's calendar server and can answer instead of it.
type gate struct {
	*httptest.Server
	calendars http.Handler
	instead   atomic.Pointer[func(http.ResponseWriter, *http.Request) bool]
}

func beforeCalendars(t testing.TB, h *testhouse.House) *gate {
	t.Helper()
	g := &gate{calendars: h.Calendars}
	g.Server = httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if instead := g.instead.Load(); instead == nil || !(*instead)(w, r) {
			h.Calendars.ServeHTTP(w, r)
		}
	}))
	t.Cleanup(g.Close)
	return g
}

// dieAt lets the server die at its nth request of a method for addresses that end so: in the middle of the answer, after the work behind it was done.
func (g *gate) dieAt(nth int64, method, path string) {
	var count atomic.Int64
	instead := func(w http.ResponseWriter, r *http.Request) bool {
		if r.Method != method || !strings.HasSuffix(r.URL.Path, path) || count.Add(1) != nth {
			return false
		}
		g.calendars.ServeHTTP(httptest.NewRecorder(), r)
		if connection, _, err := w.(http.Hijacker).Hijack(); err == nil {
			_, _ = connection.Write([]byte("HTTP/1.1 207 Multi-Status\r\nContent-Length: 100000\r\n\r\n<multi"))
			_ = connection.Close()
		}
		return true
	}
	g.instead.Store(&instead)
}

// refuse answers requests of a method on addresses that end so with a status.
func (g *gate) refuse(method, path string, status int) {
	instead := func(w http.ResponseWriter, r *http.Request) bool {
		if r.Method != method || !strings.HasSuffix(r.URL.Path, path) {
			return false
		}
		w.WriteHeader(status)
		return true
	}
	g.instead.Store(&instead)
}

func TestAServerKilledInTheMiddleOfAReadingLosesAndDoublesNothing(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	server := beforeCalendars(t, h)
	for i := range 1050 { // three multigets, three events on each of 350 days
		at := h.At("2026-05-05 09:00").Add(time.Duration(i%350) * 24 * time.Hour)
		require.NoError(t, h.Calendars.AddEvent("ines", 0, "Event", at, at.Add(30*time.Minute)))
	}
	server.dieAt(3, "REPORT", "/c1/") // the sync, and one multiget, went through
	calendars, err := h.App.Connect(ctx, h.Host, app.Account{Address: server.URL, Username: "ines", Password: "light"})
	require.NoError(t, err)
	assert.NotEmpty(t, calendars[0].Trouble.Sentence)
	assert.Empty(t, calendars[1].Trouble.Sentence, "the other calendar was read")
	calendars, err = h.App.ReadCalendars(ctx, h.Host)
	require.NoError(t, err)
	assert.Empty(t, calendars[0].Trouble.Sentence)
	assert.Equal(t, 1050, calendars[0].Events)

	require.NoError(t, h.Calendars.AddEvent("ines", 0, "Later", h.At("2026-05-06 14:00"), h.At("2026-05-06 15:00")))
	server.dieAt(1, "REPORT", "/c1/")
	calendars, err = h.App.ReadCalendars(ctx, h.Host)
	require.NoError(t, err)
	assert.NotEmpty(t, calendars[0].Trouble.Sentence)
	assert.Equal(t, 1050, calendars[0].Events, "what was known stays known")
	calendars, err = h.App.ReadCalendars(ctx, h.Host)
	require.NoError(t, err)
	assert.Equal(t, 1051, calendars[0].Events)
	assert.Equal(t, 19*30+60, calendars[0].Takes, "nineteen mornings within the hours, and the later one")
}

func TestAServerKilledInTheMiddleOfAWriteHasTheEventOnce(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	server := beforeCalendars(t, h)
	_, err := h.App.Connect(ctx, h.Host, app.Account{Address: server.URL, Username: "ines", Password: "light"})
	require.NoError(t, err)
	server.dieAt(1, http.MethodPut, ".ics")
	h.Run()
	link := linkOf(book(t, h, "2026-05-05 10:00"))
	waiting := func() bool {
		today, err := h.App.Today(ctx, again(t, h))
		require.NoError(t, err)
		for _, trouble := range today.Troubles {
			if strings.Contains(trouble.Title.Sentence, "doesn't answer") {
				return true
			}
		}
		return false
	}
	require.Eventually(t, waiting, time.Minute, 10*time.Millisecond, "it was written, but its answer got lost")
	assert.Len(t, events(t, h), 1)
	h.Pass(time.Minute)
	_, err = h.App.Move(ctx, link, h.At("2026-05-05 14:00")) // wakes the worker; the write is repeated over the first
	require.NoError(t, err)
	moved := []string{"5 14:00: Survey: Harbour Maritime with Ines Valadares"}
	require.Eventually(t, func() bool { return slices.Equal(moved, events(t, h)) }, time.Minute, 10*time.Millisecond)
	require.Eventually(t, func() bool { return !waiting() }, time.Minute, 10*time.Millisecond)
	today, err := h.App.Today(ctx, again(t, h))
	require.NoError(t, err)
	assert.Empty(t, today.Clashes)
}

func TestACalendarDeletedOverThereAndOneThatIsReadOnlyAreNamed(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	server := beforeCalendars(t, h)
	_, err := h.App.Connect(ctx, h.Host, app.Account{Address: server.URL, Username: "ines", Password: "light"})
	require.NoError(t, err)
	server.refuse("REPORT", "/c1/", http.StatusNotFound)
	calendars, err := h.App.ReadCalendars(ctx, h.Host)
	require.NoError(t, err)
	assert.Contains(t, calendars[0].Trouble.Sentence, "not on its server any more")
	assert.Empty(t, calendars[1].Trouble.Sentence)

	server.refuse(http.MethodPut, ".ics", http.StatusForbidden)
	h.Run()
	book(t, h, "2026-05-05 10:00")
	require.Eventually(t, func() bool {
		calendars, err = h.App.Calendars(ctx, h.Host)
		require.NoError(t, err)
		return calendars[0].ReadOnly
	}, time.Minute, 10*time.Millisecond)
	_, err = h.App.UseCalendar(ctx, h.Host, calendars[0].ID, calendars[0].CalendarUse)
	assert.Contains(t, refused(t, err, refusal.Invalid).Sentence, "lets nothing be written")
}

// What is odd about an event is said on its calendar's row, and the rest counts.
func TestOddEventsAreNamedAndTheRestCounts(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	text := "BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\nUID:1\r\nSUMMARY:Deadline\r\nDTSTART:20260505T090000Z\r\nEND:VEVENT\r\n" +
		"BEGIN:VEVENT\r\nUID:2\r\nSUMMARY:One\r\nDTSTART:20260505T100000Z\r\nDTEND:20260505T110000Z\r\nEND:VEVENT\r\n" +
		"BEGIN:VEVENT\r\nUID:2\r\nSUMMARY:Two\r\nDTSTAMP:20260501T000000Z\r\nDTSTART:20260505T130000Z\r\nDTEND:20260505T140000Z\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n"
	calendars, err := h.App.AddCalendarFile(ctx, h.Host, app.CalendarFile{Name: "odd.ics", Text: text})
	require.NoError(t, err)
	require.Len(t, calendars[0].LeftOut, 1)
	assert.Contains(t, calendars[0].LeftOut[0].Sentence, `“Deadline” has no end, so it takes no time.`)
	assert.Contains(t, calendars[0].LeftOut[0].Sentence, `“Two” shares its UID with another event, so only the newer of them counts.`)
	assert.Equal(t, 60, calendars[0].Takes)
}

// BenchmarkThousandCalendars reads 1,000 calendars in which nothing is new, as the background does, and reports what share
// of one core that takes if each is read every five minutes; wanted is under 10 %. The stand-in server's work is in it.
func BenchmarkThousandCalendars(b *testing.B) {
	h := testhouse.New(b)
	names := make([]string, 1000)
	for i := range names {
		names[i] = "Calendar " + strings.Repeat("x", i%7)
	}
	_, err := h.Calendars.AddUser(calendar.User{Name: "thousand", Password: "light", Zone: "UTC"}, names...)
	require.NoError(b, err)
	calendars, err := h.App.Connect(ctx, h.Host, app.Account{Address: h.CalendarURL, Username: "thousand", Password: "light"})
	require.NoError(b, err)
	require.Len(b, calendars, 1000)
	_, err = h.App.ReadCalendars(ctx, h.Host)
	require.NoError(b, err)
	began := cpuTime()
	rounds := 0
	for b.Loop() {
		_, err := h.App.ReadCalendars(ctx, h.Host)
		require.NoError(b, err)
		rounds++
	}
	b.ReportMetric((cpuTime()-began).Seconds()/float64(rounds)/300*100, "%core")
}

func cpuTime() time.Duration {
	var used syscall.Rusage
	_ = syscall.Getrusage(syscall.RUSAGE_SELF, &used)
	return time.Duration(used.Utime.Nano() + used.Stime.Nano())
}

// peakMemory samples the memory that the program holds until the returned function is called; that returns the most of it
// beyond what was held at first, in MB.
func peakMemory() (stop func() float64) {
	sample := []metrics.Sample{{Name: "/memory/classes/total:bytes"}, {Name: "/memory/classes/heap/released:bytes"}}
	held := func() float64 {
		metrics.Read(sample)
		return float64(sample[0].Value.Uint64()-sample[1].Value.Uint64()) / (1 << 20)
	}
	runtime.GC()
	first, most := held(), atomic.Uint64{}
	done, ended := make(chan struct{}), make(chan struct{})
	go func() {
		defer close(ended)
		for {
			most.Store(max(most.Load(), uint64(held())))
			select {
			case <-done:
				return
			case <-time.After(5 * time.Millisecond):
			}
		}
	}()
	return func() float64 {
		close(done)
		<-ended
		return float64(most.Load()) - first
	}
}

func TestCalendarsAreReadWithoutAnybodyLookingAsLongAsTheyAreConnected(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Connect()
	h.Run()
	titles := func() (all []string) { // what is known, without looking at the calendar
		rows, err := h.App.Store.Busy(ctx, sqlc.BusyParams{People: []int64{h.Host.ID}, RangeTo: 1 << 40})
		require.NoError(t, err)
		for _, row := range rows {
			all = append(all, row.Title)
		}
		return all
	}
	readings := func() (n int) {
		require.NoError(t, h.Database().QueryRow("SELECT COUNT(*) FROM job WHERE kind = 'reading'").Scan(&n))
		return n
	}
	assert.Equal(t, 2, readings(), "one for each calendar")
	require.NoError(t, h.Calendars.AddEvent("ines", 0, "Dentist", h.At("2026-05-05 15:00"), h.At("2026-05-05 16:00")))
	passing(t, h, time.Minute, func() bool { return slices.Contains(titles(), "Dentist") }, "within minutes")

	calendars, err := h.App.Calendars(ctx, h.Host)
	require.NoError(t, err)
	_, err = h.App.Disconnect(ctx, h.Host, calendars[0].Account)
	require.NoError(t, err)
	passing(t, h, time.Minute, func() bool { return readings() == 0 }, "it ends with its calendar")
}
