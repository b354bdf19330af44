package calsync

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"hash/crc32"
	"math/rand/v2"
	"runtime/debug"
	"slices"
	"sync"
	"sync/atomic"
	"time"

	"corrim/core/told"
	"corrim/internal/job"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
	"corrim/internal/trace"
)

// JobReading is the kind of the jobs that read a calendar, again and again (see Again).
const JobReading = "reading"

const (
	subject = "calendar" // of these jobs
	lanes   = "readings "
)

// How long one waits: a look at open times doesn't ask the calendar again so soon; it waits so long for one that is asked; a booking
// waits longer.
const (
	FreshEnough = 3 * time.Second
	LookingTime = 1500 * time.Millisecond
	BookingTime = 2 * time.Second
)

const (
	readEvery    = 2 * time.Minute
	fileEvery    = 6 * time.Hour        // which never changes, but whose times are worked out only so far ahead
	readingTime  = 2 * time.Minute      // each request has its own, shorter limits
	busyHorizon  = 400 * 24 * time.Hour // busy times are worked out so far ahead
	busyExtendAt = 370 * 24 * time.Hour
	readingLanes = 8                // of the background, with a few places each; calendars that somebody looks at don't wait for them
	firstRetry   = 30 * time.Second // doubled with each failure, up to
	longestRetry = time.Hour
	tellAfter    = 10 * time.Minute // trouble that lasts is told to the owner by mail, once
)

// Refresh brings a person's calendars up to date that were not read for maxAge, waiting at most for limit (as the house waits), and tells
// whether that could be done in time. A calendar that could not be read a moment ago is asked again only if maxAge is 0.
// Files never change.
func (s *Sync) Refresh(ctx context.Context, person int64, maxAge, limit time.Duration) (inTime bool) {
	calendars, err := s.Store.Calendars(ctx, person)
	if err != nil {
		s.Log.ErrorContext(ctx, "listing calendars", "person", person, "error", err)
		return false
	}
	now, limit := s.Now(), s.Waits(limit)
	oldest := now.Add(-maxAge).Unix()
	var wait sync.WaitGroup
	hanging, failed := false, atomic.Bool{}
	for _, c := range calendars {
		if c.Shown == 0 || c.Kind == File || maxAge > 0 && (FreshAt(c.ReadAt, oldest, now) || s.readings.of(c.ID).triedJustNow(now)) {
			continue
		}
		if patience := max(limit, s.Waits(LookingTime)); s.readings.of(c.ID).hangs(patience) {
			hanging = true // whoever asked when it began to hang has waited already
			continue
		}
		wait.Go(func() {
			if s.readGuarded(ctx, c.ID) != nil {
				failed.Store(true)
			}
		})
	}
	done := make(chan struct{})
	go func() { wait.Wait(); close(done) }()
	select {
	case <-done:
		return !hanging && !failed.Load()
	case <-time.After(limit):
	case <-ctx.Done():
	}
	return false
}

// readGuarded reads a calendar beside others: what panics in it costs only its own reading.
func (s *Sync) readGuarded(ctx context.Context, id int64) error {
	return trace.Guard(ctx, s.Log, fmt.Sprintf("reading calendar %d", id), func() error {
		s.readCalendar(ctx, id, false)
		return nil
	})
}

// FreshAt tells whether a calendar was read since. A time that has not come yet was written by a clock that was wrong.
func FreshAt(readAt, since int64, now time.Time) bool {
	return readAt >= since && readAt <= now.Add(clockTolerance).Unix()
}

// clockTolerance is how far a moment may lie ahead before the clock that wrote it is distrusted.
const clockTolerance = time.Minute

// Again is the job that reads a calendar every few minutes, so that trouble is noticed without visitors. It ends with its calendar.
func (s *Sync) Again(ctx context.Context, j sqlc.Job) (job.Ending, error) {
	due, err := s.nextReading(ctx, j.SubjectID)
	if err != nil {
		return nil, err
	}
	if now := s.Now(); !due.After(now) {
		ctx = context.WithoutCancel(ctx) // a reading may take longer than other jobs
		s.readCalendar(ctx, j.SubjectID, true)
		if due, err = s.nextReading(ctx, j.SubjectID); err != nil {
			return nil, err
		}
		if soon := now.Add(tryingAgain); due.Before(soon) { // nothing came of it
			due = soon
		}
	}
	return nil, job.Later{At: due}
}

// nextReading is when a calendar is to be read without anybody asking. Each has its own moment, so that they don't all come at once.
// Moments that a clock which was ahead has written don't count.
func (s *Sync) nextReading(ctx context.Context, id int64) (time.Time, error) {
	c, err := s.Store.Calendar(ctx, id)
	if errors.Is(err, store.ErrNotFound) || err == nil && c.Shown == 0 {
		return time.Time{}, job.ErrDropped
	}
	if err != nil {
		return time.Time{}, err
	}
	account, err := s.Store.Account(ctx, c.AccountID)
	now := s.Now()
	next := time.Unix(c.ReadAt+id*37%40, 0).Add(readEvery)
	if account.Kind == File {
		next = time.Unix(c.ReadAt, 0).Add(fileEvery)
	}
	if c.ReadAt > now.Add(clockTolerance).Unix() {
		next = now
	}
	if tryAt := time.Unix(c.TryAt, 0); tryAt.After(next) && tryAt.Before(now.Add(2*longestRetry)) {
		next = tryAt
	}
	return next, err
}

// PlanAccount lets all calendars of an account be read from now on.
func (s *Sync) PlanAccount(ctx context.Context, q *sqlc.Queries, account int64) error {
	calendars, err := q.CalendarsOfAccount(ctx, account)
	for _, c := range calendars {
		if err == nil {
			err = s.Plan(ctx, q, c)
		}
	}
	return err
}

// Plan lets a calendar be read from now on. Those of different servers share few lanes, so that one that hangs delays few others.
func (s *Sync) Plan(ctx context.Context, q *sqlc.Queries, c sqlc.Calendar) error {
	account, err := q.Account(ctx, c.AccountID)
	if err != nil {
		return err
	}
	lane := fmt.Sprint(lanes, crc32.ChecksumIEEE([]byte(ServerName(account.Address)))%readingLanes)
	now := s.Now()
	_, err = job.Plan(ctx, q, now, job.Keyed(job.New{Kind: JobReading, Lane: lane, Subject: subject, SubjectID: c.ID, Due: now}))
	return err
}

// readings makes sure that one calendar is read once at a time, and that whoever asks gets a reading that began after
// they asked: at the moment of booking an earlier one would not do.
type readings struct {
	mu       sync.Mutex
	calendar map[int64]*reading
}

type reading struct {
	mu       sync.Mutex
	began    time.Time
	since    atomic.Int64             // when the present reading began, in nanoseconds; 0 if there is none
	tried    atomic.Int64             // when one failed last; 0 if the last one didn't
	progress atomic.Pointer[Progress] // nil while it is not being read
}

// Progress is how far the reading of a calendar has come.
type Progress struct {
	Done  int `json:"done"`
	Total int `json:"total"`
}

// hangs tells whether a reading is under way that has taken longer than somebody would wait for it.
func (r *reading) hangs(patience time.Duration) bool {
	since := r.since.Load()
	return since != 0 && time.Since(time.Unix(0, since)) > patience
}

// tryingAgain is how long looks leave a calendar alone that was tried, whatever came of it.
const tryingAgain = 10 * time.Second

func (r *reading) triedJustNow(now time.Time) bool {
	since := now.Sub(time.Unix(r.tried.Load(), 0))
	return since >= 0 && since < tryingAgain
}

func (r *reading) tell(done, total int) { r.progress.Store(&Progress{done, total}) }

func (r *readings) of(calendar int64) *reading {
	r.mu.Lock()
	defer r.mu.Unlock()
	if r.calendar[calendar] == nil {
		r.calendar[calendar] = &reading{}
	}
	return r.calendar[calendar]
}

// readCalendar reads one calendar, unless another reading of it has begun meanwhile. It goes on if its caller stops waiting.
// If the entry of a booking is missing there, the person's other calendars are read too: it may be in one of them.
func (s *Sync) readCalendar(ctx context.Context, id int64, background bool) {
	person := s.ReadOnce(ctx, id, background)
	if person == 0 {
		return
	}
	ctx, cancel := context.WithTimeout(context.WithoutCancel(ctx), readingTime)
	defer cancel()
	if err := s.Settle(ctx, person, id); err != nil {
		s.Log.ErrorContext(ctx, "looking for missing entries", "calendar", id, "error", err)
	}
	s.Wake() // a booking may have followed its event
}

// ReadOnce returns whose calendar it is if it could be read.
func (s *Sync) ReadOnce(ctx context.Context, id int64, background bool) (person int64) {
	asked := time.Now()
	turn := s.readings.of(id)
	turn.mu.Lock()
	defer turn.mu.Unlock()
	if turn.began.After(asked) {
		return 0
	}
	ctx, cancel := context.WithTimeout(context.WithoutCancel(ctx), readingTime)
	defer cancel()
	calendar, err := s.Store.Calendar(ctx, id)
	if err != nil { // a calendar removed meanwhile needs no reading
		return 0
	}
	// First its own turn, then a place: those who wait for a server that hangs hold no place.
	place, err := s.placeFor(ctx, calendar)
	if err == nil {
		err = place.take(ctx)
	}
	if err == nil {
		defer place.free()
		turn.began = time.Now()
		turn.since.Store(turn.began.UnixNano())
		defer turn.since.Store(0)
		turn.tell(0, 0)
		defer turn.progress.Store(nil)
		person, err = s.readSafely(ctx, id)
	}
	if err == nil || errors.Is(err, store.ErrNotFound) {
		turn.tried.Store(0)
		return person
	}
	turn.tried.Store(s.Now().Unix())
	s.Log.WarnContext(ctx, "reading a calendar failed", "calendar", id)
	if err := s.keepTrouble(ctx, id, err, background); err != nil {
		s.Log.ErrorContext(ctx, "keeping a calendar's trouble", "calendar", id, "error", err)
	}
	return 0
}

// readSafely makes a panic over something in a calendar the trouble of that calendar alone.
func (s *Sync) readSafely(ctx context.Context, id int64) (person int64, err error) {
	defer func() {
		if panicked := recover(); panicked != nil {
			s.Log.ErrorContext(ctx, "reading a calendar panicked", "calendar", id, "panic", fmt.Sprint(panicked), "stack", string(debug.Stack()))
			err = told.Error("something-calendar-read", "something in this calendar can't be read, by a fault of Corrim's; tell whoever runs it")
		}
	}()
	return s.readChanges(ctx, id)
}

// placeFor is where a calendar is read: those of one server share a few places.
func (s *Sync) placeFor(ctx context.Context, calendar sqlc.Calendar) (place, error) {
	account, err := s.Store.Account(ctx, calendar.AccountID)
	return s.places.of(ServerName(account.Address)), err
}

// keepTrouble remembers why a calendar could not be read. In the background it is asked again later with every failure, and not at
// the same moment as all others of its server; clients who look in vain don't make that longer. Trouble that lasts is told to its
// owner.
func (s *Sync) keepTrouble(ctx context.Context, id int64, failure error, background bool) error {
	ctx = context.WithoutCancel(ctx) // the reading may have used up its time
	now := s.Now()
	calendar, err := s.Store.Calendar(ctx, id)
	if err != nil {
		return err
	}
	err = s.Store.Write(ctx, func(q *sqlc.Queries) error {
		trouble := sqlc.SetCalendarTroubleParams{ID: id, Trouble: told.OfError(failure).Stored(), TryAt: calendar.TryAt, Now: now.Unix()}
		switch asked := askedFor(failure); {
		case background:
			trouble.Failed, trouble.TryAt = 1, now.Add(retryAfter(calendar.Fails, failure)).Unix()
		case asked > 0 || calendar.TryAt <= now.Unix():
			trouble.TryAt = now.Add(retryAfter(0, failure)).Unix()
		}
		return q.SetCalendarTrouble(ctx, trouble)
	})
	lasting := calendar.TroubleSince != 0 && now.Sub(time.Unix(calendar.TroubleSince, 0)) >= tellAfter
	if err != nil || !lasting || calendar.Told == 1 || calendar.Blocks == 0 {
		return err
	}
	err = s.Store.Write(ctx, func(q *sqlc.Queries) error {
		if err := s.Tell(ctx, q, calendar, failure.Error()); err != nil {
			return err
		}
		return q.SetCalendarTold(ctx, id)
	})
	s.Wake()
	return err
}

// retryAfter is how long a calendar is left alone after so many failures before this one; what its server asks for counts
// if that is longer.
func retryAfter(fails int64, failure error) time.Duration {
	wait := min(longestRetry, max(firstRetry<<min(fails, 10), askedFor(failure)))
	return wait + rand.N(wait/4)
}

// askedFor is how long a server wants to be left alone.
func askedFor(failure error) time.Duration {
	var asks interface{ RetryAfter() time.Duration }
	if errors.As(failure, &asks) {
		return asks.RetryAfter()
	}
	return 0
}

// Login is how to sign in to an account's server.
func (s *Sync) Login(ctx context.Context, account int64) (Login, error) {
	row, err := s.Store.Account(ctx, account)
	if err != nil {
		return Login{}, err
	}
	password, err := s.Unseal(row.Secret)
	return Login{row.Address, row.Username, password}, err
}

// readChanges fetches what is new in a calendar and works out busy times for just that. It returns whose calendar it is.
func (s *Sync) readChanges(ctx context.Context, id int64) (person int64, err error) {
	calendar, err := s.Store.Calendar(ctx, id)
	if err != nil {
		return 0, err
	}
	owner, err := s.Owner(ctx, s.Store.Queries, id)
	if err != nil {
		return 0, err
	}
	if err := s.learnAddresses(ctx, calendar); err != nil {
		return 0, err
	}
	changes, err := s.changesOf(ctx, calendar)
	if err != nil {
		return 0, err
	}
	if changes, err = s.asKnown(ctx, id, changes); err != nil {
		return 0, err
	}
	// The state moves on last: whatever cuts this short, the next reading brings the same changes again.
	reader, err := s.busyReader(ctx, s.Store.Queries, owner, calendar)
	if err != nil {
		return 0, err
	}
	for _, r := range changes.Changed {
		if err := reader.mustBeKnown(r); err != nil {
			return 0, err
		}
	}
	for part := range slices.Chunk(changes.Changed, keptAtOnce) {
		if err := s.keepPart(ctx, reader, owner.ID, id, Changes{Changed: part}); err != nil {
			return 0, err
		}
	}
	now, until := s.Now(), calendar.ReadUntil
	return owner.ID, s.Store.Write(ctx, func(q *sqlc.Queries) error {
		if until < now.Add(busyExtendAt).Unix() {
			until = int64(reader.within.End)
			if err := reader.again(ctx, q, id); err != nil {
				return err
			}
		}
		if err := s.Notice(ctx, q, owner.ID, id, Changes{Removed: changes.Removed}); err != nil {
			return err
		}
		for _, href := range changes.Removed {
			if err := q.RemoveResource(ctx, sqlc.RemoveResourceParams{CalendarID: id, Href: href}); err != nil {
				return err
			}
		}
		return q.SetCalendarRead(ctx, sqlc.SetCalendarReadParams{
			ID: id, State: changes.State, ReadAt: now.Unix(), ReadUntil: until, Skew: int64(changes.Skew / time.Second),
		})
	})
}

// asKnown is changes with their addresses as we have them: a server may write them differently from one answer to the next, and
// differently from what we asked for.
func (s *Sync) asKnown(ctx context.Context, calendar int64, changes Changes) (Changes, error) {
	if len(changes.Changed)+len(changes.Removed) == 0 {
		return changes, nil
	}
	rows, err := s.Store.Resources(ctx, calendar)
	if err != nil {
		return changes, err
	}
	known := make(map[string]string, len(rows))
	for _, r := range rows {
		known[PlaceOf(r.Href)] = r.Href
	}
	for i, r := range changes.Changed {
		changes.Changed[i].Href = cmp.Or(known[PlaceOf(r.Href)], r.Href)
	}
	for i, href := range changes.Removed {
		changes.Removed[i] = cmp.Or(known[PlaceOf(href)], href)
	}
	return changes, nil
}

// learnAddresses asks a server once under which addresses it knows its user: invitations come to those. Without an answer, the
// next reading asks again.
func (s *Sync) learnAddresses(ctx context.Context, calendar sqlc.Calendar) error {
	account, err := s.Store.Account(ctx, calendar.AccountID)
	if err != nil || account.Kind != CalDAV || account.Addresses != "" {
		return err
	}
	login, err := s.Login(ctx, account.ID)
	if err != nil {
		return err
	}
	addresses, err := s.Servers.Addresses(ctx, login)
	if err != nil {
		return nil // the reading itself will say what is wrong
	}
	text, err := json.Marshal(addresses)
	if err != nil {
		return err
	}
	return s.Store.Write(ctx, func(q *sqlc.Queries) error {
		if err := q.SetAddresses(ctx, sqlc.SetAddressesParams{ID: account.ID, Addresses: string(text)}); err != nil || calendar.ReadAt == 0 {
			return err
		}
		return s.TimesAgain(ctx, q, calendar.ID) // it was read without them
	})
}

// keptAtOnce is how many resources are written in one go, so that a large calendar doesn't keep bookings waiting.
const keptAtOnce = 250

func (s *Sync) keepPart(ctx context.Context, reader busyReader, owner, calendar int64, part Changes) error {
	return s.Store.Write(ctx, func(q *sqlc.Queries) error {
		if err := s.Notice(ctx, q, owner, calendar, part); err != nil {
			return err
		}
		for _, r := range part.Changed {
			if err := reader.keep(ctx, q, calendar, r); err != nil {
				return err
			}
		}
		return nil
	})
}

// changesOf asks where the calendar comes from what is new since it was last read.
func (s *Sync) changesOf(ctx context.Context, calendar sqlc.Calendar) (Changes, error) {
	account, err := s.Store.Account(ctx, calendar.AccountID)
	if err != nil {
		return Changes{}, err
	}
	switch account.Kind {
	case File:
		return Changes{State: calendar.State}, nil
	case Feed:
		address, err := s.Unseal(account.Secret)
		if err != nil {
			return Changes{}, err
		}
		fetched, err := s.Feeds.Fetch(ctx, address, calendar.State)
		changes := Changes{State: fetched.State, Skew: fetched.Skew}
		if fetched.Text != nil {
			changes.Changed = []Resource{{Href: WholeCalendar, ICS: fetched.Text}}
		}
		return changes, err
	}
	login, err := s.Login(ctx, calendar.AccountID)
	if err != nil {
		return Changes{}, err
	}
	return s.Servers.Changes(ctx, login, Reading{
		Calendar: calendar.Href, State: calendar.State, Progress: s.readings.of(calendar.ID).tell,
		Known: func() (map[string]string, error) { return s.knownETags(ctx, calendar.ID) },
	})
}

func (s *Sync) knownETags(ctx context.Context, calendar int64) (map[string]string, error) {
	rows, err := s.Store.Resources(ctx, calendar)
	known := make(map[string]string, len(rows))
	for _, r := range rows {
		known[r.Href] = r.Etag
	}
	return known, err
}

// TimesAgain works out all busy times of a calendar after its settings or its owner's have changed.
func (s *Sync) TimesAgain(ctx context.Context, q *sqlc.Queries, id int64) error {
	calendar, err := q.Calendar(ctx, id)
	if err != nil {
		return err
	}
	owner, err := s.Owner(ctx, q, id)
	if err != nil {
		return err
	}
	reader, err := s.busyReader(ctx, q, owner, calendar)
	if err != nil {
		return err
	}
	return reader.again(ctx, q, id)
}
