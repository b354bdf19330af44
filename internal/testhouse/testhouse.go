// Package testhouse puts a whole Corrim together for tests: a fresh database, the real use cases, and the stand-ins for
// everything outside, each of which can be made to fail.
package testhouse

import (
	"context"
	"database/sql"
	"log/slog"
	"net"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"corrim/core/opentimes"
	"corrim/internal/app"
	"corrim/internal/outside/caldav"
	"corrim/internal/outside/feed"
	"corrim/internal/outside/mail"
	"corrim/internal/outside/rooms"
	"corrim/internal/outside/texts"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/standin/calendar"
	mailbox "corrim/internal/standin/mail"
	roomservice "corrim/internal/standin/rooms"
	phones "corrim/internal/standin/texts"
	"corrim/internal/store"
	"corrim/internal/store/storetest"
	"corrim/internal/trace"
)

// Monday is when a house's clock stands: Monday 4 May 2026, 8:00 UTC, 9:00 in Lisbon.
var Monday = time.Date(2026, 5, 4, 8, 0, 0, 0, time.UTC)

// House is a running Corrim.
type House struct {
	App         *app.App
	Host        schedule.Person // Ines in Lisbon, open on weekdays 9-12 and 13-17
	Colleague   schedule.Person // Maren in Amsterdam, with the same week
	Type        schedule.MeetingType
	Calendars   *calendar.Server
	CalendarURL string
	Inbox       *mailbox.Server
	Phones      *phones.Server
	Log         *Lines

	CalendarDown, RoomsDown, TextsDown Switch

	Rooms    http.Handler // of the room service
	now      atomic.Int64
	running  atomic.Bool
	t        testing.TB
	database *sql.DB
	folder   string
	config   app.Config
}

// Lines is what was logged.
type Lines struct {
	mu   sync.Mutex
	text strings.Builder
}

func (l *Lines) Write(line []byte) (int, error) {
	l.mu.Lock()
	defer l.mu.Unlock()
	return l.text.Write(line)
}

func (l *Lines) String() string {
	l.mu.Lock()
	defer l.mu.Unlock()
	return l.text.String()
}

// Switch makes a service answer with an error while it is on.
type Switch struct{ atomic.Bool }

func (s *Switch) before(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if s.Load() {
			http.Error(w, "down", http.StatusServiceUnavailable)
			return
		}
		next.ServeHTTP(w, r)
	})
}

// Survey is the meeting type of every house: 50 minutes and 10 after, every 10 minutes, an hour's notice.
var Survey = schedule.TypeDraft{Name: "Survey", Slug: "survey", Rules: schedule.TypeRules{Duration: 50, BookingRules: opentimes.PlainRules(10, 10, 60, 60)}}

// New makes a house with a host and a meeting type. Its background work starts with Run.
func New(t testing.TB) *House {
	t.Helper()
	h := Empty(t, nil)
	h.furnish()
	return h
}

// Empty makes a house without a workspace. clock, if not nil, takes the place of its own.
func Empty(t testing.TB, clock func() time.Time) *House {
	t.Helper()
	h := &House{t: t, Log: &Lines{}}
	h.now.Store(Monday.Unix())
	if clock == nil {
		clock = h.Now
	}

	var err error
	h.Calendars, err = calendar.New("", time.Now)
	require.NoError(t, err)
	calendarServer := httptest.NewServer(h.CalendarDown.before(h.Calendars))
	t.Cleanup(calendarServer.Close)
	h.CalendarURL = calendarServer.URL

	roomServer := httptest.NewUnstartedServer(nil)
	roomService, err := roomservice.New("http://rooms.example", "token", "", h.Now)
	require.NoError(t, err)
	h.Rooms = roomService
	roomServer.Config.Handler = h.RoomsDown.before(roomService)
	roomServer.Start()
	t.Cleanup(roomServer.Close)

	h.Phones, err = phones.New("", "token", "", h.Now)
	require.NoError(t, err)
	gateway := httptest.NewServer(h.TextsDown.before(h.Phones))
	t.Cleanup(gateway.Close)

	h.config = app.Config{
		MailFrom: "bookings@quillmere.example", TakesMail: true,
		Texter: texts.New(gateway.URL, "token"), TextsToken: "token",
		Store: h.openStore(), Servers: caldav.New(true), Feeds: feed.New(true), Mailer: h.mailer(), Rooms: rooms.New(roomServer.URL, "token"),
		Key: []byte(strings.Repeat("k", 32)), BaseURL: "https://corrim.example", Now: clock, Log: slog.New(trace.Handler{Handler: slog.NewTextHandler(h.Log, nil)}),
		PasswordMemory: 64, Patience: 20, // what tests of other things wait for
	}
	h.App, err = app.New(context.Background(), h.config)
	require.NoError(t, err)
	return h
}

func (h *House) openStore() *store.Store {
	h.folder = h.t.TempDir()
	return storetest.Open(h.t, h.folder)
}

func (h *House) mailer() app.Mailer {
	var err error
	h.Inbox, err = mailbox.New("")
	require.NoError(h.t, err)
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(h.t, err)
	go func() { _ = h.Inbox.SMTP.Serve(listener) }()
	h.t.Cleanup(func() { _ = h.Inbox.SMTP.Close() })
	sender, err := mail.New(listener.Addr().String(), "bookings@quillmere.example", "", "")
	require.NoError(h.t, err)
	return sender
}

// furnish makes the workspace, its host with a calendar, and the meeting type.
func (h *House) furnish() {
	ctx := context.Background()
	week := [7]string{"9-12, 13-17", "9-12, 13-17", "9-12, 13-17", "9-12, 13-17", "9-12, 13-17", "", ""}
	ids, err := h.App.AddWorkspace(ctx, "quillmere", "Quillmere Light Advisers",
		app.NewPerson{Name: "Ines Valadares", Mail: "ines@quillmere.example", Password: "a lamp in the hall", Zone: "Europe/Lisbon", Week: week},
		app.NewPerson{Name: "Maren Achterberg", Mail: "maren@quillmere.example", Password: "a lamp in the hall", Zone: "Europe/Amsterdam", Week: week})
	require.NoError(h.t, err)
	h.Host, err = h.App.Person(ctx, ids[0])
	require.NoError(h.t, err)
	h.Colleague, err = h.App.Person(ctx, ids[1])
	require.NoError(h.t, err)
	h.Type, err = h.App.SaveMeetingType(ctx, h.Host, 0, Survey, settings.Saving{})
	require.NoError(h.t, err)
	_, err = h.Calendars.AddUser(calendar.User{Name: "ines", FullName: "Ines Valadares", Mail: h.Host.Mail, Zone: "Europe/Lisbon", Password: "light"}, "Work", "Family")
	require.NoError(h.t, err)
}

// Connect connects the host's calendars.
func (h *House) Connect() {
	h.t.Helper()
	_, err := h.App.Connect(context.Background(), h.Host, app.Account{Address: h.CalendarURL, Username: "ines", Password: "light"})
	require.NoError(h.t, err)
}

// Run starts the background work until the test ends or the returned function is called.
func (h *House) Run() (stop func()) {
	ctx, cancel := context.WithCancel(context.Background())
	done := make(chan struct{})
	h.running.Store(true)
	go func() { h.App.Run(ctx); close(done) }()
	stop = func() { cancel(); <-done; h.running.Store(false) }
	h.t.Cleanup(stop)
	return stop
}

// Restart is the program started anew on the same data.
func (h *House) Restart() {
	var err error
	h.App, err = app.New(context.Background(), h.config)
	require.NoError(h.t, err)
}

// Copy is a copy of the database as it is, to be put back.
func (h *House) Copy() (file string) {
	file = filepath.Join(h.t.TempDir(), "copy.db")
	database, err := sql.Open("sqlite", "file:"+filepath.Join(h.folder, "corrim.db"))
	require.NoError(h.t, err)
	defer func() { _ = database.Close() }()
	_, err = database.Exec("VACUUM INTO ?", file)
	require.NoError(h.t, err)
	return file
}

// Restore puts a copy of the database in the place of the one that is there, as an operator does, and starts the program anew. Its
// background work must have stopped.
func (h *House) Restore(file string) {
	require.NoError(h.t, h.config.Store.Close())
	if h.database != nil {
		_ = h.database.Close()
		h.database = nil
	}
	copied, err := os.ReadFile(file)
	require.NoError(h.t, err)
	for _, left := range []string{"-wal", "-shm"} {
		_ = os.Remove(filepath.Join(h.folder, "corrim.db"+left)) // there may be none
	}
	require.NoError(h.t, os.WriteFile(filepath.Join(h.folder, "corrim.db"), copied, 0o600))
	h.config.Store, err = store.Open(context.Background(), h.folder)
	require.NoError(h.t, err)
	h.t.Cleanup(func() { require.NoError(h.t, h.config.Store.Close()) })
	h.Restart()
}

// Hurry lets the house wait for others only as long as it does for people: for tests of those who don't answer.
func (h *House) Hurry() {
	h.config.Patience = 1
	h.Restart()
}

// Now is the house's clock.
func (h *House) Now() time.Time { return time.Unix(h.now.Load(), 0) }

// Pass lets time go by, once everything is done that can be by now: on a slow machine too, nothing of before is done afterwards.
func (h *House) Pass(d time.Duration) {
	h.t.Helper()
	if h.running.Load() {
		require.Eventually(h.t, h.settles, time.Minute, time.Millisecond, "jobs that are due are done before time goes by")
	}
	h.now.Add(int64(d / time.Second))
	h.App.Wake()
}

// settles has the worker look for jobs, and tells whether nothing is left to do: what was planned without waking it is done within a
// minute of everybody's clock, which is longer than tests wait.
func (h *House) settles() bool {
	if h.settled() {
		return true
	}
	h.App.Wake()
	return false
}

// settled tells whether no job is under way, and none that can be begun was never tried. Those of a service that is away wait.
func (h *House) settled() bool {
	var open int
	err := h.Database().QueryRow(`SELECT COUNT(*) FROM job WHERE begun = 1 OR due_at <= ? AND attempts = 0
		AND (after_id = 0 OR after_until <= ? OR NOT EXISTS (SELECT 1 FROM job before WHERE before.id = job.after_id))
		AND NOT EXISTS (SELECT 1 FROM job away WHERE away.lane = job.lane AND away.away = 1)
		AND NOT EXISTS (SELECT 1 FROM job earlier WHERE earlier.subject = job.subject AND earlier.subject_id = job.subject_id
			AND earlier.kind = job.kind AND earlier.person_id = job.person_id AND earlier.id < job.id)
		AND (series = '' OR NOT EXISTS (SELECT 1 FROM job other WHERE other.series = job.series AND other.kind IN ('room', job.kind) AND other.id < job.id))`,
		h.Now().Unix(), h.Now().Unix()).Scan(&open)
	require.NoError(h.t, err)
	return open == 0
}

// Database is the program's, opened once more.
func (h *House) Database() *sql.DB {
	if h.database != nil {
		return h.database
	}
	database, err := sql.Open("sqlite", "file:"+filepath.Join(h.folder, "corrim.db")+"?_pragma=query_only(1)")
	require.NoError(h.t, err)
	h.t.Cleanup(func() { _ = database.Close() })
	h.database = database
	return database
}

// JobsWaiting counts the jobs that are not over, without those that come again and again or wait for their moment.
func (h *House) JobsWaiting() (n int) {
	err := h.Database().QueryRow("SELECT COUNT(*) FROM job WHERE kind NOT IN ('reading', 'lapse', 'decide', 'old-files', 'clock')").Scan(&n)
	require.NoError(h.t, err)
	return n
}

// LockDatabase takes the right to write from the program until it is given back.
func (h *House) LockDatabase() (unlock func()) {
	database, err := sql.Open("sqlite", "file:"+filepath.Join(h.folder, "corrim.db")+"?_txlock=immediate")
	require.NoError(h.t, err)
	held, err := database.Begin()
	require.NoError(h.t, err)
	return func() {
		require.NoError(h.t, held.Rollback())
		require.NoError(h.t, database.Close())
	}
}

// At is a wall-clock time in Lisbon, like "2026-05-05 10:00".
func (h *House) At(text string) time.Time {
	h.t.Helper()
	lisbon, err := time.LoadLocation("Europe/Lisbon")
	require.NoError(h.t, err)
	at, err := time.ParseInLocation("2006-01-02 15:04", text, lisbon)
	require.NoError(h.t, err)
	return at
}

// Request is a booking request for a time in Lisbon.
func (h *House) Request(at string) schedule.BookingRequest {
	h.t.Helper()
	return schedule.BookingRequest{Start: h.At(at), Name: "Harbour Maritime", Mail: "keeper@harbour.example", Zone: "America/Halifax", Remark: "Two pastels."}
}

// Open lists the open starts of a day in Lisbon, as "15:04".
func (h *House) Open(date string) []string {
	h.t.Helper()
	from := h.At(date + " 00:00")
	open, err := h.App.OpenTimes(context.Background(), "quillmere", "survey", schedule.TimesWanted{From: from, To: from.AddDate(0, 0, 1)})
	require.NoError(h.t, err)
	out := []string{}
	for _, s := range open.Starts {
		out = append(out, s.In(from.Location()).Format("15:04"))
	}
	return out
}
