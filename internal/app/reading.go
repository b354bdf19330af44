package app

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
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"corrim/core/busy"
	"corrim/core/invite"
	words "corrim/core/message"
	"corrim/core/span"
	"corrim/internal/job"
	"corrim/internal/message"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

const (
	freshEnough  = 3 * time.Second // a look at open times doesn't ask the calendar again so soon
	lookingTime  = 1500 * time.Millisecond
	bookingTime  = 2 * time.Second
	readEvery    = 2 * time.Minute
	fileEvery    = 6 * time.Hour        // which never changes, but whose times are worked out only so far ahead
	readingTime  = 2 * time.Minute      // each request has its own, shorter limits
	busyHorizon  = 400 * 24 * time.Hour // busy times are worked out so far ahead
	busyExtendAt = 370 * 24 * time.Hour
	readingLanes = 8                // of the background, with a few places each; calendars that somebody looks at don't wait for them
	lookAtOnce   = 24               // at most of these,
	lookAtServer = 6                // and at most of one server's
	firstRetry   = 30 * time.Second // doubled with each failure, up to
	longestRetry = time.Hour
	tellAfter    = 10 * time.Minute // trouble that lasts is told to the owner by mail, once
)

// lookAt brings a person's calendars up to date that were not read for maxAge, waiting at most for limit, and tells
// whether that could be done in time. A calendar that could not be read a moment ago is asked again only if maxAge is 0.
// Files never change.
func (a *App) lookAt(ctx context.Context, person int64, maxAge, limit time.Duration) (inTime bool) {
	calendars, err := a.Store.Calendars(ctx, person)
	if err != nil {
		a.Log.ErrorContext(ctx, "listing calendars", "person", person, "error", err)
		return false
	}
	now := a.Now()
	oldest := now.Add(-maxAge).Unix()
	var wait sync.WaitGroup
	hanging := false
	for _, c := range calendars {
		if c.Shown == 0 || c.Kind == kindFile || maxAge > 0 && (freshAt(c.ReadAt, oldest, now) || a.readings.of(c.ID).triedJustNow(now)) {
			continue
		}
		if patience := max(limit, lookingTime); a.readings.of(c.ID).hangs(patience) {
			hanging = true // whoever asked when it began to hang has waited already
			continue
		}
		wait.Go(func() { a.readCalendar(ctx, c.ID, false) })
	}
	done := make(chan struct{})
	go func() { wait.Wait(); close(done) }()
	select {
	case <-done:
		return !hanging
	case <-time.After(limit):
	case <-ctx.Done():
	}
	return false
}

// freshAt tells whether a calendar was read since. A time that has not come yet was written by a clock that was wrong.
func freshAt(readAt, since int64, now time.Time) bool {
	return readAt >= since && readAt <= now.Add(clockTolerance).Unix()
}

// clockTolerance is how far a moment may lie ahead before the clock that wrote it is distrusted.
const clockTolerance = time.Minute

// keepReading is the job that reads a calendar every few minutes, so that trouble is noticed without visitors. It ends with its calendar.
func (a *App) keepReading(ctx context.Context, j sqlc.Job) (job.Ending, error) {
	due, err := a.nextReading(ctx, j.SubjectID)
	if err != nil {
		return nil, err
	}
	if now := a.Now(); !due.After(now) {
		ctx = context.WithoutCancel(ctx) // a reading may take longer than other jobs
		a.readCalendar(ctx, j.SubjectID, true)
		if due, err = a.nextReading(ctx, j.SubjectID); err != nil {
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
func (a *App) nextReading(ctx context.Context, id int64) (time.Time, error) {
	c, err := a.Store.Calendar(ctx, id)
	if errors.Is(err, store.ErrNotFound) || err == nil && c.Shown == 0 {
		return time.Time{}, job.ErrDropped
	}
	if err != nil {
		return time.Time{}, err
	}
	account, err := a.Store.Account(ctx, c.AccountID)
	now := a.Now()
	next := time.Unix(c.ReadAt+id*37%40, 0).Add(readEvery)
	if account.Kind == kindFile {
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

// planReadings lets all calendars of an account be read from now on.
func (a *App) planReadings(ctx context.Context, q *sqlc.Queries, account int64) error {
	calendars, err := q.CalendarsOfAccount(ctx, account)
	for _, c := range calendars {
		if err == nil {
			err = a.planReading(ctx, q, c)
		}
	}
	return err
}

// planReading lets a calendar be read from now on. Those of different servers share few lanes, so that one that hangs delays few others.
func (a *App) planReading(ctx context.Context, q *sqlc.Queries, c sqlc.Calendar) error {
	account, err := q.Account(ctx, c.AccountID)
	if err != nil {
		return err
	}
	lane := fmt.Sprint(laneReadings, crc32.ChecksumIEEE([]byte(serverName(account.Address)))%readingLanes)
	now := a.Now()
	_, err = job.Plan(ctx, q, now, keyed(job.New{Kind: jobReading, Lane: lane, Subject: subjectCalendar, SubjectID: c.ID, Due: now}))
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
func (a *App) readCalendar(ctx context.Context, id int64, background bool) {
	person := a.readOnce(ctx, id, background)
	if person == 0 {
		return
	}
	ctx, cancel := context.WithTimeout(context.WithoutCancel(ctx), readingTime)
	defer cancel()
	if err := a.settleMissing(ctx, person, id); err != nil {
		a.Log.ErrorContext(ctx, "looking for missing entries", "calendar", id, "error", err)
	}
	a.Wake() // a booking may have followed its event
}

// readOnce returns whose calendar it is if it could be read.
func (a *App) readOnce(ctx context.Context, id int64, background bool) (person int64) {
	asked := time.Now()
	turn := a.readings.of(id)
	turn.mu.Lock()
	defer turn.mu.Unlock()
	if turn.began.After(asked) {
		return 0
	}
	ctx, cancel := context.WithTimeout(context.WithoutCancel(ctx), readingTime)
	defer cancel()
	calendar, err := a.Store.Calendar(ctx, id)
	if err != nil { // a calendar removed meanwhile needs no reading
		return 0
	}
	// First its own turn, then a place: those who wait for a server that hangs hold no place.
	place, err := a.placeFor(ctx, calendar)
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
		person, err = a.readSafely(ctx, id)
	}
	if err == nil || errors.Is(err, store.ErrNotFound) {
		turn.tried.Store(0)
		return person
	}
	turn.tried.Store(a.Now().Unix())
	a.Log.WarnContext(ctx, "reading a calendar failed", "calendar", id)
	if err := a.keepTrouble(ctx, id, err, background); err != nil {
		a.Log.ErrorContext(ctx, "keeping a calendar's trouble", "calendar", id, "error", err)
	}
	return 0
}

// readSafely makes a panic over something in a calendar the trouble of that calendar alone.
func (a *App) readSafely(ctx context.Context, id int64) (person int64, err error) {
	defer func() {
		if panicked := recover(); panicked != nil {
			a.Log.ErrorContext(ctx, "reading a calendar panicked", "calendar", id, "panic", fmt.Sprint(panicked), "stack", string(debug.Stack()))
			err = errors.New("something in this calendar can't be read, by a fault of Corrim's; tell whoever runs it")
		}
	}()
	return a.readChanges(ctx, id)
}

// placeFor is where a calendar is read: those of one server share a few places.
func (a *App) placeFor(ctx context.Context, calendar sqlc.Calendar) (place, error) {
	account, err := a.Store.Account(ctx, calendar.AccountID)
	return a.places.of(serverName(account.Address)), err
}

// places bounds how many calendars are read at once, of all servers and of each.
type places struct {
	mu      sync.Mutex
	all     chan struct{}
	servers map[string]chan struct{}
}

// place is where one reading takes place.
type place struct{ server, all chan struct{} }

func (p *places) of(server string) place {
	p.mu.Lock()
	defer p.mu.Unlock()
	if p.servers[server] == nil {
		p.servers[server] = make(chan struct{}, lookAtServer)
	}
	return place{p.servers[server], p.all}
}

func (p place) take(ctx context.Context) error {
	for i, places := range []chan struct{}{p.server, p.all} {
		select {
		case places <- struct{}{}:
		case <-ctx.Done():
			if i == 1 {
				<-p.server
			}
			return errors.New("too many calendars of this server are waited for at the moment. It will be asked again")
		}
	}
	return nil
}

func (p place) free() {
	<-p.all
	<-p.server
}

// keepTrouble remembers why a calendar could not be read. In the background it is asked again later with every failure, and not at
// the same moment as all others of its server; clients who look in vain don't make that longer. Trouble that lasts is told to its
// owner.
func (a *App) keepTrouble(ctx context.Context, id int64, failure error, background bool) error {
	ctx = context.WithoutCancel(ctx) // the reading may have used up its time
	now := a.Now()
	calendar, err := a.Store.Calendar(ctx, id)
	if err != nil {
		return err
	}
	err = a.Store.Write(ctx, func(q *sqlc.Queries) error {
		trouble := sqlc.SetCalendarTroubleParams{ID: id, Trouble: failure.Error(), TryAt: calendar.TryAt, Now: now.Unix()}
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
	err = a.Store.Write(ctx, func(q *sqlc.Queries) error {
		if err := a.tellOwner(ctx, q, calendar, failure.Error()); err != nil {
			return err
		}
		return q.SetCalendarTold(ctx, id)
	})
	a.Wake()
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

// tellOwner writes to whoever owns a calendar that it can't be read, and what is done until it can.
func (a *App) tellOwner(ctx context.Context, q *sqlc.Queries, calendar sqlc.Calendar, trouble string) error {
	row, err := q.CalendarOwner(ctx, calendar.ID)
	if err != nil {
		return err
	}
	owner, err := a.person(ctx, q, row)
	if err != nil {
		return err
	}
	w := words.In(owner.Language)
	meanwhile := w.Say("meanwhile."+owner.choices.Unreachable, words.With{"hours": owner.choices.TrustHours})
	told := []message.Fact{{w.Fact("why"), trouble}, {w.Fact("meanwhile"), meanwhile}}
	m := mailOf(message.Write(w, words.CalendarTrouble, words.With{"calendar": calendar.Name}, a.BaseURL+"/calendars", told))
	m.ID = fmt.Sprintf("calendar-%d-%d", calendar.ID, calendar.TroubleSince)
	m.FromName, m.To = owner.home.Name, owner.address()
	m.ReplyTo = owner.address()
	return a.post(ctx, q, owner.ID, m)
}

func (a *App) login(ctx context.Context, account int64) (Login, error) {
	row, err := a.Store.Account(ctx, account)
	if err != nil {
		return Login{}, err
	}
	password, err := a.secrets.open(row.Secret)
	return Login{row.Address, row.Username, password}, err
}

// readChanges fetches what is new in a calendar and works out busy times for just that. It returns whose calendar it is.
func (a *App) readChanges(ctx context.Context, id int64) (owner int64, err error) {
	calendar, err := a.Store.Calendar(ctx, id)
	if err != nil {
		return 0, err
	}
	person, err := a.ownerOf(ctx, a.Store.Queries, id)
	if err != nil {
		return 0, err
	}
	if err := a.learnAddresses(ctx, calendar); err != nil {
		return 0, err
	}
	changes, err := a.changesOf(ctx, calendar)
	if err != nil {
		return 0, err
	}
	if changes, err = a.asKnown(ctx, id, changes); err != nil {
		return 0, err
	}
	// The state moves on last: whatever cuts this short, the next reading brings the same changes again.
	reader, err := a.busyReader(ctx, a.Store.Queries, person, calendar)
	if err != nil {
		return 0, err
	}
	for _, r := range changes.Changed {
		if err := reader.mustBeKnown(r); err != nil {
			return 0, err
		}
	}
	for part := range slices.Chunk(changes.Changed, keptAtOnce) {
		if err := a.keepPart(ctx, reader, person, id, Changes{Changed: part}); err != nil {
			return 0, err
		}
	}
	now, until := a.Now(), calendar.ReadUntil
	return person.ID, a.Store.Write(ctx, func(q *sqlc.Queries) error {
		if until < now.Add(busyExtendAt).Unix() {
			until = int64(reader.within.End)
			if err := reader.again(ctx, q, id); err != nil {
				return err
			}
		}
		if err := a.noticeEvents(ctx, q, person, id, Changes{Removed: changes.Removed}); err != nil {
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
func (a *App) asKnown(ctx context.Context, calendar int64, changes Changes) (Changes, error) {
	if len(changes.Changed)+len(changes.Removed) == 0 {
		return changes, nil
	}
	rows, err := a.Store.Resources(ctx, calendar)
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
func (a *App) learnAddresses(ctx context.Context, calendar sqlc.Calendar) error {
	account, err := a.Store.Account(ctx, calendar.AccountID)
	if err != nil || account.Kind != kindCalDAV || account.Addresses != "" {
		return err
	}
	login, err := a.login(ctx, account.ID)
	if err != nil {
		return err
	}
	addresses, err := a.Servers.Addresses(ctx, login)
	if err != nil {
		return nil // the reading itself will say what is wrong
	}
	text, err := json.Marshal(addresses)
	if err != nil {
		return err
	}
	return a.Store.Write(ctx, func(q *sqlc.Queries) error {
		if err := q.SetAddresses(ctx, sqlc.SetAddressesParams{ID: account.ID, Addresses: string(text)}); err != nil || calendar.ReadAt == 0 {
			return err
		}
		return a.timesAgain(ctx, q, calendar.ID) // it was read without them
	})
}

// ownersOf is all mail addresses of a person that their calendar servers know.
func ownersOf(ctx context.Context, q *sqlc.Queries, p Person) ([]string, error) {
	accounts, err := q.AccountsOf(ctx, p.ID)
	owners := []string{p.Mail}
	for _, account := range accounts {
		var more []string
		_ = json.Unmarshal([]byte(account.Addresses), &more) // empty text: not asked yet
		owners = append(owners, more...)
	}
	return owners, err
}

// keptAtOnce is how many resources are written in one go, so that a large calendar doesn't keep bookings waiting.
const keptAtOnce = 250

func (a *App) keepPart(ctx context.Context, reader busyReader, owner Person, calendar int64, part Changes) error {
	return a.Store.Write(ctx, func(q *sqlc.Queries) error {
		if err := a.noticeEvents(ctx, q, owner, calendar, part); err != nil {
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
func (a *App) changesOf(ctx context.Context, calendar sqlc.Calendar) (Changes, error) {
	account, err := a.Store.Account(ctx, calendar.AccountID)
	if err != nil {
		return Changes{}, err
	}
	switch account.Kind {
	case kindFile:
		return Changes{State: calendar.State}, nil
	case kindFeed:
		address, err := a.secrets.open(account.Secret)
		if err != nil {
			return Changes{}, err
		}
		fetched, err := a.Feeds.Fetch(ctx, address, calendar.State)
		changes := Changes{State: fetched.State, Skew: fetched.Skew}
		if fetched.Text != nil {
			changes.Changed = []Resource{{Href: wholeCalendar, ICS: fetched.Text}}
		}
		return changes, err
	}
	login, err := a.login(ctx, calendar.AccountID)
	if err != nil {
		return Changes{}, err
	}
	return a.Servers.Changes(ctx, login, Reading{
		Calendar: calendar.Href, State: calendar.State, Progress: a.readings.of(calendar.ID).tell,
		Known: func() (map[string]string, error) { return a.knownETags(ctx, calendar.ID) },
	})
}

func (a *App) ownerOf(ctx context.Context, q *sqlc.Queries, calendar int64) (Person, error) {
	row, err := q.CalendarOwner(ctx, calendar)
	if err != nil {
		return Person{}, err
	}
	return a.person(ctx, q, row)
}

func (a *App) knownETags(ctx context.Context, calendar int64) (map[string]string, error) {
	rows, err := a.Store.Resources(ctx, calendar)
	known := make(map[string]string, len(rows))
	for _, r := range rows {
		known[r.Href] = r.Etag
	}
	return known, err
}

// busyReader works out busy times of one person's calendar resources, as one calendar's settings say.
type busyReader struct {
	options busy.Options
	opens   string // the title of events that open time
	within  span.Span
}

func (a *App) busyReader(ctx context.Context, q *sqlc.Queries, p Person, c sqlc.Calendar) (busyReader, error) {
	now, opens := a.Now(), ""
	if c.MayOpen == 1 {
		opens = p.choices.OpenTitle
	}
	owners, err := ownersOf(ctx, q, p)
	return busyReader{
		options: busy.Options{Zone: p.zone, Owners: owners, TentativeBusy: c.Tentative == 1, AllDayBusy: c.AllDay == 1},
		opens:   opens, within: span.Of(now.Add(-7*24*time.Hour), now.Add(busyHorizon)),
	}, err
}

// mustBeKnown refuses a text that may hide busy time: then the reading has failed, and the last copy stays. A text that is no
// calendar at all hides nothing that could be found.
func (r busyReader) mustBeKnown(resource Resource) error {
	calendar, err := busy.Read(resource.ICS, r.options)
	if err != nil || len(calendar.Unknown()) == 0 {
		return nil
	}
	return errors.New("It is not known when everything in it is, so the last copy counts. " + calendar.Unknown()[0].String() + ". Correct it in the calendar, or remove it there.")
}

// keep stores a resource and its busy times. What of it can't be read is kept beside it in words.
func (r busyReader) keep(ctx context.Context, q *sqlc.Queries, calendar int64, resource Resource) error {
	stretches, events, trouble := r.read(resource.ICS)
	err := q.SetResource(ctx, sqlc.SetResourceParams{
		CalendarID: calendar, Href: resource.Href, Etag: resource.ETag, Ics: string(resource.ICS), Trouble: trouble, Events: int64(events),
	})
	if err != nil {
		return err
	}
	return r.keepBusy(ctx, q, calendar, resource.Href, stretches)
}

// stretch is a busy time, or one that an event with the agreed title opens.
type stretch struct {
	busy.Busy
	opens bool
}

func (r busyReader) read(ics []byte) (stretches []stretch, events int, trouble string) {
	calendar, err := busy.Read(ics, r.options)
	if err != nil {
		return nil, 0, err.Error()
	}
	found, troubles := calendar.Busy(r.within)
	for _, b := range found {
		if !r.marks(b) {
			stretches = append(stretches, stretch{b, false})
		}
	}
	if r.opens != "" {
		stretches = append(stretches, r.marked(ics)...)
	}
	words := make([]string, len(troubles))
	for i, t := range troubles {
		words[i] = t.String()
	}
	return stretches, calendar.Events(), strings.Join(words, " ")
}

// marks tells whether a stretch opens time, whatever the case of its title.
func (r busyReader) marks(b busy.Busy) bool {
	return r.opens != "" && strings.EqualFold(oneLine(b.Title), r.opens)
}

// marked is what events with the agreed title open, those that are marked as free included.
func (r busyReader) marked(ics []byte) (stretches []stretch) {
	options := r.options
	options.FreeToo, options.TentativeBusy, options.AllDayBusy = true, true, true
	calendar, err := busy.Read(ics, options)
	if err != nil {
		return nil
	}
	found, _ := calendar.Busy(r.within)
	for _, b := range found {
		if r.marks(b) {
			stretches = append(stretches, stretch{b, true})
		}
	}
	return stretches
}

func (r busyReader) keepBusy(ctx context.Context, q *sqlc.Queries, calendar int64, href string, stretches []stretch) error {
	if err := q.RemoveBusy(ctx, sqlc.RemoveBusyParams{CalendarID: calendar, Href: href}); err != nil {
		return err
	}
	for _, b := range stretches {
		err := q.AddBusy(ctx, sqlc.AddBusyParams{
			CalendarID: calendar, Href: href, StartAt: int64(b.Start), EndAt: int64(b.End), Uid: invite.MeetingUID(b.UID), Title: b.Title, Opens: number(b.opens),
		})
		if err != nil {
			return err
		}
	}
	return nil
}

// again works out all busy times of a calendar from the kept texts, for a horizon that has moved on or other settings.
func (r busyReader) again(ctx context.Context, q *sqlc.Queries, calendar int64) error {
	texts, err := q.ResourceTexts(ctx, calendar)
	if err != nil {
		return err
	}
	for _, t := range texts {
		stretches, _, _ := r.read([]byte(t.Ics))
		if err := r.keepBusy(ctx, q, calendar, t.Href, stretches); err != nil {
			return err
		}
	}
	return nil
}

// timesAgain works out all busy times of a calendar after its settings or its owner's have changed.
func (a *App) timesAgain(ctx context.Context, q *sqlc.Queries, id int64) error {
	calendar, err := q.Calendar(ctx, id)
	if err != nil {
		return err
	}
	owner, err := a.ownerOf(ctx, q, id)
	if err != nil {
		return err
	}
	reader, err := a.busyReader(ctx, q, owner, calendar)
	if err != nil {
		return err
	}
	return reader.again(ctx, q, id)
}
