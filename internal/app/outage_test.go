package app_test

import (
	"context"
	"errors"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/internal/app"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/store/sqlc"
	"corrim/internal/testhouse"
)

// passing lets time go by until something is so: pauses and back-off are by the house's clock.
func passing(t *testing.T, h *testhouse.House, each time.Duration, so func() bool, what string) {
	t.Helper()
	require.Eventually(t, func() bool {
		if so() {
			return true
		}
		h.Pass(each)
		return false
	}, time.Minute, 20*time.Millisecond, what)
}

func TestARoomThatComesLateIsToldInTheSameInvitation(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Connect()
	h.RoomsDown.Store(true)
	h.Run()
	b := book(t, h, "2026-05-05 10:00")
	assert.True(t, b.RoomLate, "the page doesn't promise it for this moment")
	passing(t, h, 10*time.Second, func() bool { return len(h.Inbox.Letters()) >= 2 }, "the mails don't wait for it without end")
	first := letters(t, h, "keeper@harbour.example", 1)[0]
	assert.NotContains(t, first.Text, "rooms.example")
	today, err := h.App.Today(ctx, again(t, h))
	require.NoError(t, err)
	room := troubleOf(today, "Video rooms can't be made")
	assert.Contains(t, room.Sentence.Sentence, "For a room one meeting waits, that with Harbour Maritime, Tue 5 May, 10:00.")
	assert.NotZero(t, room.Room)

	h.Pass(7 * time.Minute)
	h.RoomsDown.Store(false)
	_, err = h.App.MakeRoomNow(ctx, again(t, h), room.Room)
	require.NoError(t, err)
	passing(t, h, time.Second, func() bool { return len(h.Inbox.Letters()) >= 4 }, "it is told once it is there")
	told := letters(t, h, "keeper@harbour.example", 2)[1]
	assert.Contains(t, told.Subject, "Video room ready")
	assert.Contains(t, told.Text, "http://rooms.example/r/")
	assert.Contains(t, first.Calendar, "SEQUENCE:0")
	assert.Contains(t, told.Calendar, "SEQUENCE:1", "RFC 5546, 2.1.4: a change of it, not another one")
	assert.Equal(t, uidIn(first.Calendar), uidIn(told.Calendar))
	require.Eventually(t, func() bool { return strings.Contains(strings.Join(h.Calendars.Texts("ines", 0), ""), "rooms.example") }, time.Minute, 20*time.Millisecond)
	today, err = h.App.Today(ctx, again(t, h))
	require.NoError(t, err)
	assert.Empty(t, troubleOf(today, "Video rooms").Title.Sentence)
	h.Pass(time.Hour)
	time.Sleep(100 * time.Millisecond)
	assert.Len(t, h.Inbox.Letters(), 4, "and only once")
}

func uidIn(calendar string) string {
	_, rest, _ := strings.Cut(calendar, "UID:")
	uid, _, _ := strings.Cut(rest, "\r\n")
	return uid
}

func troubleOf(today app.Today, title string) schedule.Trouble {
	for _, trouble := range today.Troubles {
		if strings.Contains(trouble.Title.Sentence, title) {
			return trouble
		}
	}
	return schedule.Trouble{}
}

// hangingMail takes nothing and says nothing until it is let go.
type hangingMail struct {
	app.Mailer
	hangs atomic.Bool
	asked atomic.Int64
}

func (m *hangingMail) Send(ctx context.Context, mail app.Mail) error {
	m.asked.Add(1)
	if m.hangs.Load() {
		return awayError{errors.New("the mail server can't be reached")}
	}
	return m.Mailer.Send(ctx, mail)
}

type awayError struct{ error }

func (awayError) Away() bool { return true }

func TestMailThatIsAwayHoldsUpNothingElseAndAllGoesOutWithOneSuccess(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	mail := &hangingMail{Mailer: h.App.Mailer}
	mail.hangs.Store(true)
	h.App.Mailer = mail
	h.Connect()
	h.Run()
	for _, at := range []string{"10:00", "11:00", "14:00", "15:00", "16:00"} {
		_, err := bookFor(t, h, "2026-05-05 "+at, func(r *schedule.BookingRequest) { r.Mail = "client" + at[:2] + "@x.example" })
		require.NoError(t, err)
	}
	require.Eventually(t, func() bool { return len(events(t, h)) == 5 }, time.Minute, 10*time.Millisecond, "rooms and entries are made meanwhile")
	asked := mail.asked.Load()
	assert.LessOrEqual(t, asked, int64(12), "a server that is away isn't asked for each mail")
	passing(t, h, 30*time.Second, func() bool { return mail.asked.Load() > asked }, "but now and then")
	today, err := h.App.Today(ctx, again(t, h))
	require.NoError(t, err)
	assert.Len(t, today.Troubles, 1, "one line for one cause")
	assert.Contains(t, troubleOf(today, "Mail can't be sent").Sentence.Sentence, "5 meetings wait, the next with Harbour Maritime, Tue 5 May, 10:00.")
	mail.hangs.Store(false)
	passing(t, h, time.Minute, func() bool { return len(h.Inbox.Letters()) >= 10 }, "one success lets all others follow")
	require.Eventually(t, func() bool { return h.JobsWaiting() == 0 }, time.Minute, 10*time.Millisecond)
	assert.Len(t, h.Inbox.Letters(), 10, "each once")
}

// lockingMail holds the database's write lock from its first letter on, so that how jobs end can't be written down.
type lockingMail struct {
	app.Mailer
	lock func()
	once sync.Once
	sent atomic.Int64
}

func (m *lockingMail) Send(ctx context.Context, mail app.Mail) error {
	m.once.Do(m.lock)
	m.sent.Add(1)
	return m.Mailer.Send(ctx, mail)
}

func TestWhatCantBeWrittenDownIsNotDoneOverAndOver(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	var unlock func()
	mail := &lockingMail{Mailer: h.App.Mailer, lock: func() { unlock = h.LockDatabase() }}
	h.App.Mailer = mail
	book(t, h, "2026-05-05 10:00")
	h.Run()
	require.Eventually(t, func() bool { return strings.Contains(h.Log.String(), "can't be kept") }, time.Minute, 10*time.Millisecond)
	time.Sleep(time.Second)
	assert.LessOrEqual(t, mail.sent.Load(), int64(2), "to the client and to the host, each once")
	unlock()
	require.Eventually(t, func() bool { return h.JobsWaiting() == 0 }, time.Minute, 20*time.Millisecond)
	assert.Len(t, h.Inbox.Letters(), 2, "none is sent twice")
}

func TestAPanicIsOneFailedAttempt(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.App.Mailer = panicking{}
	h.Run()
	book(t, h, "2026-05-05 10:00")
	require.Eventually(t, func() bool { return strings.Contains(h.Log.String(), "a job panicked") }, time.Minute, 10*time.Millisecond)
	today, err := h.App.Today(ctx, h.Host)
	require.NoError(t, err)
	require.Eventually(t, func() bool {
		today, err = h.App.Today(ctx, h.Host)
		return err == nil && strings.Contains(troubleOf(today, "Some mail about the meeting").Sentence.Sentence, "The program failed at this")
	}, time.Minute, 20*time.Millisecond)
}

type panicking struct{}

func (panicking) Send(context.Context, app.Mail) error { panic("a fault of ours") }

func TestWhatAClockThatWasAheadHasPlannedIsDoneNow(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	stop := h.Run()
	stop()
	h.Pass(30 * 24 * time.Hour)
	require.NoError(t, h.App.Store.Write(ctx, func(q *sqlc.Queries) error {
		return q.PlanJob(ctx, sqlc.PlanJobParams{Key: "ahead", Kind: "letter", Lane: "mail", Subject: "letter", SubjectID: 1, DueAt: h.Now().Unix(), TouchedAt: h.Now().Unix()})
	}))
	h.Pass(-30 * 24 * time.Hour)
	h.Run()
	require.Eventually(t, func() bool { return h.JobsWaiting() == 0 }, time.Minute, 20*time.Millisecond)
	assert.Contains(t, h.Log.String(), "planned in the future")
}

func TestClientsWhoLookInVainDontBlindAHost(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Connect()
	choices := schedule.CalendarSettings{EventChange: "ask", Unreachable: "nothing", TrustHours: 24}
	_, err := h.App.SetCalendarSettings(ctx, h.Host, choices)
	require.NoError(t, err)
	h.CalendarDown.Store(true)
	h.Pass(time.Minute)
	for i := range 12 {
		_, err := h.App.Book(ctx, "quillmere", "survey", strings.Repeat("k", 16+i), h.Request("2026-05-05 10:00"))
		refused(t, err, refusal.Unreachable)
	}
	assert.Empty(t, h.Open("2026-05-05"))
	h.CalendarDown.Store(false)
	h.Pass(2 * time.Minute)
	h.Run() // which reads in the background
	require.Eventually(t, func() bool { return len(h.Open("2026-05-05")) > 0 }, time.Minute, 50*time.Millisecond, "the next reading isn't put off by those who looked")
}

func TestAnInvitationThatWaitsForTheMailServerIsTold(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	mail := &hangingMail{Mailer: h.App.Mailer}
	mail.hangs.Store(true)
	h.App.Mailer = mail
	h.Run()
	_, err := h.App.Invite(ctx, h.Host, app.NewInvitation{Name: "Tomasz", Mail: "tomasz@x.example", Role: identity.Member})
	require.NoError(t, err)
	waits := func() string {
		today, err := h.App.Today(ctx, again(t, h))
		require.NoError(t, err)
		return troubleOf(today, "Mail to tomasz@x.example waits").Sentence.Sentence
	}
	require.Eventually(t, func() bool { return waits() != "" }, time.Minute, 10*time.Millisecond)
	mail.hangs.Store(false)
	passing(t, h, time.Minute, func() bool { return len(h.Inbox.Letters()) == 1 }, "and it goes out")
	require.Eventually(t, func() bool { return waits() == "" }, time.Minute, 10*time.Millisecond)
}
