package app

import (
	"context"
	"errors"
	"net/url"
	"strings"
	"sync"
	"time"

	"corrim/core/busy"
	"corrim/core/span"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// Calendar is one of a person's calendars.
type Calendar struct {
	ID       int64      `json:"id"`
	Account  int64      `json:"account"`
	Server   string     `json:"server" doc:"Host name of its server."`
	Username string     `json:"username"`
	Name     string     `json:"name"`
	Blocks   bool       `json:"blocks" doc:"Do its events block time?"`
	Receives bool       `json:"receives" doc:"Are bookings written to it?"`
	ReadAt   *time.Time `json:"readAt,omitempty" doc:"When it was last read."`
	Events   int        `json:"events"`
	Trouble  string     `json:"trouble,omitempty" doc:"Why it could not be read."`
	LeftOut  []string   `json:"leftOut" doc:"Parts that could not be read; the rest counts."`
}

// Account is how to reach a calendar server.
type Account struct {
	Address  string `json:"address" maxLength:"2000"`
	Username string `json:"username" maxLength:"300"`
	Password string `json:"password" maxLength:"1000"`
}

// Calendars lists the person's calendars.
func (a *App) Calendars(ctx context.Context, p Person) ([]Calendar, error) {
	rows, err := a.Store.Calendars(ctx, p.ID)
	if err != nil {
		return nil, err
	}
	out := make([]Calendar, len(rows))
	for i, row := range rows {
		out[i] = Calendar{
			ID: row.ID, Account: row.AccountID, Server: serverName(row.Address), Username: row.Username, Name: row.Name,
			Blocks: row.Blocks == 1, Receives: row.Receives == 1, Events: int(row.Resources), Trouble: row.Trouble, LeftOut: []string{},
		}
		if row.ReadAt > 0 {
			at := time.Unix(row.ReadAt, 0).UTC()
			out[i].ReadAt = &at
		}
		if row.Troubled > 0 {
			if out[i].LeftOut, err = a.Store.ResourceTroubles(ctx, row.ID); err != nil {
				return nil, err
			}
		}
	}
	return out, nil
}

func serverName(address string) string {
	if u, err := url.Parse(address); err == nil {
		return u.Host
	}
	return address
}

// Connect finds the calendars of an account and keeps them: all block time, the first receives bookings if none does yet.
func (a *App) Connect(ctx context.Context, p Person, account Account) ([]Calendar, error) {
	login := Login{strings.TrimSpace(account.Address), strings.TrimSpace(account.Username), account.Password}
	if !strings.Contains(login.Address, "://") {
		login.Address = "https://" + login.Address
	}
	wrong := complaints{}
	if u, err := url.Parse(login.Address); err != nil || u.Host == "" || u.Scheme != "https" && u.Scheme != "http" {
		wrong.add("address", "Enter the address of the calendar server, like https://calendar.example.org.")
	}
	if login.Username == "" {
		wrong.add("username", "Enter the user name that you have on the calendar server.")
	}
	if err := wrong.err(); err != nil {
		return nil, err
	}
	found, err := a.Servers.Discover(ctx, login)
	if err != nil {
		return nil, &Refusal{Kind: Unreachable, Sentence: err.Error()}
	}
	if len(found) == 0 {
		return nil, refuse(Unreachable, "The server answered, but it has no calendars for this user. Make one there, then connect again.")
	}
	if err := a.keepAccount(ctx, p, login, found); err != nil {
		return nil, err
	}
	a.lookAt(ctx, p.ID, 0, 10*time.Second)
	return a.Calendars(ctx, p)
}

func (a *App) keepAccount(ctx context.Context, p Person, login Login, found []RemoteCalendar) error {
	return a.Store.Write(ctx, func(q *sqlc.Queries) error {
		id, err := q.AddAccount(ctx, sqlc.AddAccountParams{PersonID: p.ID, Address: login.Address, Username: login.Username, Secret: a.secrets.seal(login.Password)})
		if err != nil {
			return err
		}
		_, err = q.ReceivingCalendar(ctx, p.ID)
		needed := errors.Is(err, store.ErrNotFound)
		if err != nil && !needed {
			return err
		}
		for i, c := range found {
			receives := int64(0)
			if needed && i == 0 {
				receives = 1
			}
			if err := q.AddCalendar(ctx, sqlc.AddCalendarParams{AccountID: id, Href: c.Href, Name: c.Name, Blocks: 1, Receives: receives}); err != nil {
				return err
			}
		}
		return nil
	})
}

var errNotYourCalendar = refuse(NotFound, "There is no such calendar among yours. Load the page again to see those there are.")

// ownCalendar finds one of the person's calendars.
func (a *App) ownCalendar(ctx context.Context, p Person, id int64) (sqlc.Calendar, error) {
	owner, err := a.Store.CalendarOwner(ctx, id)
	if errors.Is(err, store.ErrNotFound) || err == nil && owner.ID != p.ID {
		return sqlc.Calendar{}, errNotYourCalendar
	}
	if err != nil {
		return sqlc.Calendar{}, err
	}
	return a.Store.Calendar(ctx, id)
}

// UseCalendar sets whether a calendar blocks time and receives bookings. At most one calendar receives them.
func (a *App) UseCalendar(ctx context.Context, p Person, id int64, blocks, receives bool) ([]Calendar, error) {
	if _, err := a.ownCalendar(ctx, p, id); err != nil {
		return nil, err
	}
	err := a.Store.Write(ctx, func(q *sqlc.Queries) error {
		if receives {
			if err := q.StopReceiving(ctx, sqlc.StopReceivingParams{PersonID: p.ID, Except: id}); err != nil {
				return err
			}
		}
		return q.SetCalendarUse(ctx, sqlc.SetCalendarUseParams{ID: id, Blocks: number(blocks), Receives: number(receives)})
	})
	if err != nil {
		return nil, err
	}
	a.lookAt(ctx, p.ID, 0, lookingTime)
	return a.Calendars(ctx, p)
}

func number(b bool) int64 {
	if b {
		return 1
	}
	return 0
}

// Disconnect forgets an account with all its calendars. Nothing on the server changes.
func (a *App) Disconnect(ctx context.Context, p Person, account int64) ([]Calendar, error) {
	row, err := a.Store.Account(ctx, account)
	if errors.Is(err, store.ErrNotFound) || err == nil && row.PersonID != p.ID {
		return nil, errNotYourCalendar
	}
	if err != nil {
		return nil, err
	}
	if err := a.Store.Write(ctx, func(q *sqlc.Queries) error { return q.RemoveAccount(ctx, account) }); err != nil {
		return nil, err
	}
	return a.Calendars(ctx, p)
}

// ReadCalendars reads the person's calendars now.
func (a *App) ReadCalendars(ctx context.Context, p Person) ([]Calendar, error) {
	a.lookAt(ctx, p.ID, 0, 10*time.Second)
	return a.Calendars(ctx, p)
}

const (
	freshEnough  = 3 * time.Second // a look at open times doesn't ask the calendar again so soon
	lookingTime  = 1500 * time.Millisecond
	bookingTime  = 2 * time.Second
	readEvery    = 2 * time.Minute
	readingTime  = 30 * time.Second
	busyHorizon  = 400 * 24 * time.Hour // busy times are worked out so far ahead
	busyExtendAt = 370 * 24 * time.Hour
)

// lookAt brings the blocking calendars of a person up to date that were not read for maxAge, waiting at most for limit.
// A calendar that can't be read keeps its last copy and its trouble is shown to its owner.
func (a *App) lookAt(ctx context.Context, person int64, maxAge, limit time.Duration) {
	calendars, err := a.Store.Calendars(ctx, person)
	if err != nil {
		a.Log.Error("listing calendars", "person", person, "error", err)
		return
	}
	oldest := a.Now().Add(-maxAge).Unix()
	var wait sync.WaitGroup
	for _, c := range calendars {
		if c.Blocks == 1 && (c.ReadAt < oldest || maxAge == 0) {
			wait.Go(func() { a.readCalendar(c.ID) })
		}
	}
	done := make(chan struct{})
	go func() { wait.Wait(); close(done) }()
	select {
	case <-done:
	case <-time.After(limit):
	case <-ctx.Done():
	}
}

// readCalendarsForever reads every blocking calendar every few minutes, so that trouble is noticed without visitors.
func (a *App) readCalendarsForever(ctx context.Context) {
	tick := time.NewTicker(10 * time.Second)
	defer tick.Stop()
	for {
		due, err := a.Store.CalendarsToRead(ctx, a.Now().Add(-readEvery).Unix())
		if err != nil && ctx.Err() == nil {
			a.Log.Error("listing calendars to read", "error", err)
		}
		for _, c := range due {
			if ctx.Err() != nil {
				return
			}
			a.readCalendar(c.ID)
		}
		select {
		case <-ctx.Done():
			return
		case <-tick.C:
		}
	}
}

// readings makes sure that one calendar is read once at a time, and that whoever asks gets a reading that began after
// they asked: at the moment of booking an earlier one would not do.
type readings struct {
	mu       sync.Mutex
	calendar map[int64]*reading
}

type reading struct {
	mu    sync.Mutex
	began time.Time
}

func (r *readings) of(calendar int64) *reading {
	r.mu.Lock()
	defer r.mu.Unlock()
	if r.calendar[calendar] == nil {
		r.calendar[calendar] = &reading{}
	}
	return r.calendar[calendar]
}

// readCalendar reads one calendar, unless another reading of it has begun meanwhile. It goes on if its caller stops waiting.
func (a *App) readCalendar(id int64) {
	asked := time.Now()
	turn := a.readings.of(id)
	turn.mu.Lock()
	defer turn.mu.Unlock()
	if turn.began.After(asked) {
		return
	}
	turn.began = time.Now()
	ctx, cancel := context.WithTimeout(context.Background(), readingTime)
	defer cancel()
	err := a.readChanges(ctx, id)
	if err == nil || errors.Is(err, store.ErrNotFound) { // a calendar removed meanwhile needs no reading
		return
	}
	a.Log.Warn("reading a calendar failed", "calendar", id)
	a.keepTrouble(id, err.Error())
}

func (a *App) keepTrouble(calendar int64, trouble string) {
	ctx := context.Background()
	err := a.Store.Write(ctx, func(q *sqlc.Queries) error {
		return q.SetCalendarTrouble(ctx, sqlc.SetCalendarTroubleParams{ID: calendar, Trouble: trouble})
	})
	if err != nil {
		a.Log.Error("keeping a calendar's trouble", "calendar", calendar, "error", err)
	}
}

func (a *App) login(ctx context.Context, account int64) (Login, error) {
	row, err := a.Store.Account(ctx, account)
	if err != nil {
		return Login{}, err
	}
	password, err := a.secrets.open(row.Secret)
	return Login{row.Address, row.Username, password}, err
}

// readChanges fetches what is new in a calendar and works out busy times for just that.
func (a *App) readChanges(ctx context.Context, id int64) error {
	calendar, err := a.Store.Calendar(ctx, id)
	if err != nil {
		return err
	}
	owner, err := a.Store.CalendarOwner(ctx, id)
	if err != nil {
		return err
	}
	person, err := a.person(ctx, a.Store.Queries, owner)
	if err != nil {
		return err
	}
	login, err := a.login(ctx, calendar.AccountID)
	if err != nil {
		return err
	}
	changes, err := a.Servers.Changes(ctx, login, calendar.Href, calendar.State, func() (map[string]string, error) {
		return a.knownETags(ctx, id)
	})
	if err != nil {
		return err
	}
	now := a.Now()
	reader := busyReader{person, span.Of(now.Add(-7*24*time.Hour), now.Add(busyHorizon))}
	until := calendar.ReadUntil
	return a.Store.Write(ctx, func(q *sqlc.Queries) error {
		if until < now.Add(busyExtendAt).Unix() {
			until = int64(reader.within.End)
			if err := reader.again(ctx, q, id); err != nil {
				return err
			}
		}
		for _, href := range changes.Removed {
			if err := q.RemoveResource(ctx, sqlc.RemoveResourceParams{CalendarID: id, Href: href}); err != nil {
				return err
			}
		}
		for _, r := range changes.Changed {
			if err := reader.keep(ctx, q, id, r); err != nil {
				return err
			}
		}
		return q.SetCalendarRead(ctx, sqlc.SetCalendarReadParams{ID: id, State: changes.State, ReadAt: now.Unix(), ReadUntil: until})
	})
}

func (a *App) knownETags(ctx context.Context, calendar int64) (map[string]string, error) {
	rows, err := a.Store.Resources(ctx, calendar)
	known := make(map[string]string, len(rows))
	for _, r := range rows {
		known[r.Href] = r.Etag
	}
	return known, err
}

// busyReader works out busy times of one person's calendar resources.
type busyReader struct {
	person Person
	within span.Span
}

// keep stores a resource and its busy times. What of it can't be read is kept beside it in words.
func (r busyReader) keep(ctx context.Context, q *sqlc.Queries, calendar int64, resource Resource) error {
	stretches, trouble := r.read(resource.ICS)
	err := q.SetResource(ctx, sqlc.SetResourceParams{CalendarID: calendar, Href: resource.Href, Etag: resource.ETag, Ics: string(resource.ICS), Trouble: trouble})
	if err != nil {
		return err
	}
	return r.keepBusy(ctx, q, calendar, resource.Href, stretches)
}

func (r busyReader) read(ics []byte) ([]busy.Busy, string) {
	calendar, err := busy.Read(ics, busy.Options{Zone: r.person.zone, Owner: r.person.Mail, TentativeBusy: true, AllDayBusy: true})
	if err != nil {
		return nil, err.Error()
	}
	stretches, troubles := calendar.Busy(r.within)
	words := make([]string, len(troubles))
	for i, t := range troubles {
		words[i] = t.String()
	}
	return stretches, strings.Join(words, " ")
}

func (r busyReader) keepBusy(ctx context.Context, q *sqlc.Queries, calendar int64, href string, stretches []busy.Busy) error {
	if err := q.RemoveBusy(ctx, sqlc.RemoveBusyParams{CalendarID: calendar, Href: href}); err != nil {
		return err
	}
	for _, b := range stretches {
		err := q.AddBusy(ctx, sqlc.AddBusyParams{CalendarID: calendar, Href: href, StartAt: int64(b.Start), EndAt: int64(b.End), Uid: b.UID, Title: b.Title})
		if err != nil {
			return err
		}
	}
	return nil
}

// again works out all busy times of a calendar from the kept texts, for a horizon that has moved on.
func (r busyReader) again(ctx context.Context, q *sqlc.Queries, calendar int64) error {
	texts, err := q.ResourceTexts(ctx, calendar)
	if err != nil {
		return err
	}
	for _, t := range texts {
		stretches, _ := r.read([]byte(t.Ics))
		if err := r.keepBusy(ctx, q, calendar, t.Href, stretches); err != nil {
			return err
		}
	}
	return nil
}
