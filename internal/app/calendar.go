package app

import (
	"cmp"
	"context"
	"errors"
	"net"
	"net/url"
	"slices"
	"strings"
	"time"

	"corrim/core/intake"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/calsync"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// Calendar is one of a person's calendars.
type Calendar struct {
	ID       int64             `json:"id"`
	Account  int64             `json:"account"`
	Kind     string            `json:"kind" enum:"caldav,feed,file"`
	Server   string            `json:"server" doc:"Host name of its server; empty for a file."`
	Username string            `json:"username"`
	Name     string            `json:"name"`
	ReadAt   *time.Time        `json:"readAt,omitempty" doc:"When it was last read."`
	Events   int               `json:"events"`
	Takes    int               `json:"takes" doc:"Minutes of the open hours of the coming four weeks that its events take."`
	Trouble  told.Words        `json:"trouble,omitzero" doc:"Why it could not be read."`
	TryAt    *time.Time        `json:"tryAt,omitempty" doc:"When it is asked again, if it could not be read."`
	LeftOut  []told.Words      `json:"leftOut" doc:"Parts that could not be read; the rest counts."`
	Reading  *calsync.Progress `json:"reading,omitempty" doc:"While it is being read: how many of its changed events have come."`
	ReadOnly bool              `json:"readOnly" doc:"Its server lets nothing be written to it."`
	Skew     int               `json:"skew" doc:"Minutes that its server's clock is ahead of ours."`
	CalendarUse
}

// CalendarUse is what a calendar is used for.
type CalendarUse struct {
	Use       string `json:"use" enum:"blocks,shown,ignored" doc:"Its events block time; are only shown to the host; or it isn't read."`
	Receives  bool   `json:"receives" doc:"Are bookings written to it?"`
	Tentative bool   `json:"tentative" doc:"Do tentative events block?"`
	AllDay    bool   `json:"allDay" doc:"Do all-day events block?"`
	MayOpen   bool   `json:"mayOpen" doc:"Do its events with the agreed title open time, if any do?"`
	Details   string `json:"details" enum:"me,colleagues,nobody" doc:"Who sees what its events are about. Clients never do."`
	BusyStyle
}

// BusyStyle is how a calendar's busy times are drawn.
type BusyStyle struct {
	Pattern string `json:"pattern" enum:"rising,falling,wide,paired" doc:"Of the hatch."`
	Tone    string `json:"tone" enum:"ink,moss,lake,plum,clay"`
}

var (
	patterns = []string{"rising", "falling", "wide", "paired"}
	tones    = []string{"ink", "moss", "lake", "plum", "clay"}
)

// busyStyleOf is the look that the n-th calendar of a person gets at first, so that neighbours differ.
func busyStyleOf(n int) BusyStyle { return BusyStyle{patterns[n%len(patterns)], tones[n%len(tones)]} }

const (
	useBlocks  = "blocks"
	useShown   = "shown"
	useIgnored = "ignored"
)

// Account is how to reach a calendar server.
type Account struct {
	Address  string `json:"address" maxLength:"2000"`
	Username string `json:"username" maxLength:"300"`
	Password string `json:"password" maxLength:"1000"`
}

// Calendars lists the person's calendars.
func (a *App) Calendars(ctx context.Context, p schedule.Person) ([]Calendar, error) {
	rows, err := a.Store.Calendars(ctx, p.ID)
	if err != nil {
		return nil, err
	}
	taken, err := a.takenBy(ctx, p)
	if err != nil {
		return nil, err
	}
	out := make([]Calendar, len(rows))
	for i, row := range rows {
		out[i] = Calendar{
			ID: row.ID, Account: row.AccountID, Kind: row.Kind, Server: calsync.ServerName(row.Address), Username: row.Username, Name: row.Name,
			Events: int(row.Events), Takes: taken[row.ID], Trouble: told.FromStored(row.Trouble), LeftOut: []told.Words{}, CalendarUse: useOf(row),
			ReadAt: moment(row.ReadAt), TryAt: moment(row.TryAt), Reading: a.calendars.Progress(row.ID),
			ReadOnly: row.ReadOnly == 1, Skew: int(row.Skew) / 60,
		}
		if row.Troubled > 0 {
			kept, err := a.Store.ResourceTroubles(ctx, row.ID)
			if err != nil {
				return nil, err
			}
			for _, trouble := range kept {
				out[i].LeftOut = append(out[i].LeftOut, told.FromStored(trouble))
			}
		}
	}
	return out, nil
}

func useOf(row sqlc.CalendarsRow) CalendarUse {
	use := CalendarUse{
		Use: useShown, Receives: row.Receives == 1, Tentative: row.Tentative == 1, AllDay: row.AllDay == 1, MayOpen: row.MayOpen == 1,
		Details: row.Details, BusyStyle: BusyStyle{row.Pattern, row.Tone},
	}
	switch {
	case row.Shown == 0:
		use.Use = useIgnored
	case row.Blocks == 1:
		use.Use = useBlocks
	}
	return use
}

// moment is a time of the database; 0 is none.
func moment(seconds int64) *time.Time {
	if seconds == 0 {
		return nil
	}
	at := time.Unix(seconds, 0).UTC()
	return &at
}

// takenBy is how many minutes of the open hours of the coming four weeks each calendar's events take.
func (a *App) takenBy(ctx context.Context, p schedule.Person) (map[int64]int, error) {
	now := span.At(a.Now())
	within := span.Span{Start: now, End: now.Add(4 * 7 * 24 * time.Hour)}
	rows, err := a.Store.Busy(ctx, sqlc.BusyParams{People: []int64{p.ID}, RangeFrom: int64(within.Start), RangeTo: int64(within.End)})
	if err != nil {
		return nil, err
	}
	spans := map[int64][]span.Span{}
	for _, row := range rows {
		if row.Blocks == 1 && row.Opens == 0 {
			spans[row.CalendarID] = append(spans[row.CalendarID], schedule.BusySpan(row))
		}
	}
	open := p.Plan().Open(within)
	taken := map[int64]int{}
	for calendar, list := range spans {
		taken[calendar] = int(open.Intersect(span.UnionInPlace(list)).Seconds() / 60)
	}
	return taken, nil
}

// Connect finds the calendars of an account and keeps them: all block time, the first receives bookings if none does yet.
func (a *App) Connect(ctx context.Context, p schedule.Person, account Account) ([]Calendar, error) {
	if err := p.Must(identity.EditOwn); err != nil {
		return nil, err // before any server is asked
	}
	addresses := addressesOf(account.Address)
	login := calsync.Login{Username: strings.TrimSpace(account.Username), Password: account.Password}
	wrong := refusal.Complaints{}
	if len(addresses) == 0 {
		wrong.Add("address", told.Say("enter-address-calendar", "Enter the address of the calendar server, like https://calendar.example.org."))
	}
	if login.Username == "" {
		wrong.Add("username", told.Say("enter-user-name", "Enter the user name that you have on the calendar server."))
	}
	if err := wrong.Err(); err != nil {
		return nil, err
	}
	var found []calsync.RemoteCalendar
	var err error
	for _, login.Address = range addresses {
		if found, err = a.Servers.Discover(ctx, login); err == nil {
			break
		}
	}
	if err != nil {
		return nil, refusal.New(refusal.Unreachable, told.Say("tried", "{} Tried: {}.", told.OfError(err), told.List(addresses)))
	}
	if len(found) == 0 {
		return nil, refusal.New(refusal.Unreachable, told.Say("server-answered-but", "The server answered, but it has no calendars for this user. Make one there, then connect again."))
	}
	if err := a.keepAccount(ctx, p, login, found); err != nil {
		return nil, err
	}
	a.Wake()
	a.calendars.Refresh(ctx, p.ID, 0, connectingTime)
	return a.Calendars(ctx, p)
}

// connectingTime is how long the first reading is waited for; after that its progress is shown.
const connectingTime = 3 * time.Second

// addressesOf is where a server is looked for: at the address, or, if it doesn't say how, encrypted; and within the own network, where
// there often are no certificates, then without. A password is never sent in the clear to anywhere else unasked.
func addressesOf(text string) []string {
	address := normalAddress(text)
	if address == "" {
		return nil
	}
	u, err := url.Parse(address)
	if err != nil || strings.Contains(text, "://") || !ownNetwork(u.Hostname()) {
		return []string{address}
	}
	return []string{address, "http" + strings.TrimPrefix(address, "https")}
}

// ownNetwork tells whether a name or number is of this machine or of the network it is in.
func ownNetwork(host string) bool {
	if ip := net.ParseIP(host); ip != nil {
		return ip.IsLoopback() || ip.IsPrivate()
	}
	return host == "localhost" || strings.HasSuffix(host, ".local") || !strings.Contains(host, ".")
}

// normalAddress is a server's address in one spelling; empty if it is none.
func normalAddress(text string) string {
	text = strings.TrimSpace(text)
	if !strings.Contains(text, "://") {
		text = "https://" + text
	}
	u, err := url.Parse(text)
	if err != nil || u.Host == "" {
		return ""
	}
	u.Scheme, u.Host, u.Path = strings.ToLower(u.Scheme), strings.ToLower(u.Host), strings.TrimSuffix(u.Path, "/")
	usual := map[string]string{"https": ":443", "http": ":80"}[u.Scheme]
	if usual == "" {
		return ""
	}
	u.Host, u.RawQuery, u.Fragment = strings.TrimSuffix(u.Host, usual), "", ""
	return u.String()
}

// accountFor is the account that found calendars belong to: one that the person has already, under whatever address they gave
// then, or a new one.
func (a *App) accountFor(ctx context.Context, q *sqlc.Queries, p schedule.Person, login calsync.Login, found []calsync.RemoteCalendar) (int64, error) {
	secret := a.secrets.SealLogin(login.Password)
	accounts, err := q.AccountsOf(ctx, p.ID)
	if err != nil {
		return 0, err
	}
	for _, account := range accounts {
		if account.Kind != calsync.CalDAV {
			continue
		}
		known, err := q.CalendarsOfAccount(ctx, account.ID)
		if err != nil {
			return 0, err
		}
		same := func(c sqlc.Calendar) bool {
			return slices.ContainsFunc(found, func(f calsync.RemoteCalendar) bool { return calsync.PlaceOf(f.Href) == calsync.PlaceOf(c.Href) })
		}
		if slices.ContainsFunc(known, same) {
			return account.ID, q.SetAccountLogin(ctx, sqlc.SetAccountLoginParams{ID: account.ID, Address: login.Address, Username: login.Username, Secret: secret})
		}
	}
	return q.AddAccount(ctx, sqlc.AddAccountParams{PersonID: p.ID, Kind: calsync.CalDAV, Address: login.Address, Username: login.Username, Secret: secret})
}

// adoptEvents takes entries of coming bookings up again that lie in calendars which are connected again, and brings them to what
// their bookings are now.
func (a *App) adoptEvents(ctx context.Context, q *sqlc.Queries, p schedule.Person, account int64) error {
	orphans, err := q.OrphanedEvents(ctx, sqlc.OrphanedEventsParams{PersonID: p.ID, Now: a.Now().Unix()})
	if err != nil || len(orphans) == 0 {
		return err
	}
	calendars, err := q.CalendarsOfAccount(ctx, account)
	if err != nil {
		return err
	}
	for _, o := range orphans {
		for _, c := range calendars {
			if !strings.HasPrefix(calsync.PlaceOf(o.EventHref), calsync.PlaceOf(c.Href)+"/") {
				continue
			}
			err := q.AdoptEvent(ctx, sqlc.AdoptEventParams{MeetingID: o.MeetingID, PersonID: p.ID, EventCalendar: store.NullID(c.ID), EventHref: o.EventHref, EventEtag: o.EventEtag})
			if err == nil {
				err = a.planEntryAnew(ctx, q, sqlc.Booking{ID: o.BookingID, MeetingID: o.MeetingID, Revision: o.Revision})
			}
			if err != nil {
				return err
			}
		}
	}
	return nil
}

func (a *App) keepAccount(ctx context.Context, p schedule.Person, login calsync.Login, found []calsync.RemoteCalendar) error {
	return a.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		already, err := q.Calendars(ctx, p.ID)
		if err != nil {
			return err
		}
		id, err := a.accountFor(ctx, q, p, login, found)
		if err != nil {
			return err
		}
		known := map[string]string{}
		for _, c := range already {
			known[calsync.PlaceOf(c.Href)] = c.Href
		}
		_, err = q.ReceivingCalendar(ctx, p.ID)
		needed := errors.Is(err, store.ErrNotFound)
		if err != nil && !needed {
			return err
		}
		for i, c := range found {
			receives := int64(0)
			if needed && !c.ReadOnly {
				receives, needed = 1, false
			}
			look := busyStyleOf(len(already) + i)
			err := q.AddCalendar(ctx, sqlc.AddCalendarParams{
				AccountID: id, Href: cmp.Or(known[calsync.PlaceOf(c.Href)], c.Href), Name: c.Name, Blocks: 1, Receives: receives, ReadOnly: number(c.ReadOnly), Pattern: look.Pattern, Tone: look.Tone,
			})
			if err != nil {
				return err
			}
		}
		if err := a.calendars.PlanAccount(ctx, q, id); err != nil {
			return err
		}
		return a.adoptEvents(ctx, q, p, id)
	})
}

var errNotYourCalendar = refusal.New(refusal.NotFound, told.Say("no-such-calendar", "There is no such calendar among yours. Load the page again to see those there are."))

// ownCalendar finds one of the person's calendars.
func (a *App) ownCalendar(ctx context.Context, p schedule.Person, id int64) (sqlc.Calendar, error) {
	owner, err := a.Store.CalendarOwner(ctx, id)
	if errors.Is(err, store.ErrNotFound) || err == nil && owner.ID != p.ID {
		return sqlc.Calendar{}, errNotYourCalendar
	}
	if err != nil {
		return sqlc.Calendar{}, err
	}
	return a.Store.Calendar(ctx, id)
}

// UseCalendar sets what a calendar is used for. At most one calendar receives bookings, and only over CalDAV.
func (a *App) UseCalendar(ctx context.Context, p schedule.Person, id int64, use CalendarUse) ([]Calendar, error) {
	calendar, err := a.ownCalendar(ctx, p, id)
	if err != nil {
		return nil, err
	}
	account, err := a.Store.Account(ctx, calendar.AccountID)
	if err != nil {
		return nil, err
	}
	if use.Receives && account.Kind != calsync.CalDAV {
		return nil, refusal.New(refusal.Invalid, told.Say("nothing-written-calendar", "Nothing can be written to this calendar: it comes from an address or a file. Choose one that is connected over CalDAV."))
	}
	if use.Receives && calendar.ReadOnly == 1 {
		return nil, refusal.New(refusal.Invalid, told.Say("server-lets-nothing", "Its server lets nothing be written to this calendar. Choose another one, or change its sharing there and connect again."))
	}
	err = a.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		if use.Receives {
			if err := q.StopReceiving(ctx, sqlc.StopReceivingParams{PersonID: p.ID, Except: id}); err != nil {
				return err
			}
		}
		err := q.SetCalendarUse(ctx, sqlc.SetCalendarUseParams{
			ID: id, Blocks: number(use.Use == useBlocks), Shown: number(use.Use != useIgnored), Receives: number(use.Receives),
			Tentative: number(use.Tentative), AllDay: number(use.AllDay), MayOpen: number(use.MayOpen),
			Details: use.Details, Pattern: use.Pattern, Tone: use.Tone,
		})
		if err != nil {
			return err
		}
		if use.Use != useIgnored {
			if err := a.calendars.Plan(ctx, q, calendar); err != nil {
				return err
			}
		}
		return a.calendars.TimesAgain(ctx, q, id)
	})
	if err != nil {
		return nil, err
	}
	a.calendars.Refresh(ctx, p.ID, 0, calsync.LookingTime)
	return a.Calendars(ctx, p)
}

func number(b bool) int64 {
	if b {
		return 1
	}
	return 0
}

// Disconnect forgets an account with all its calendars. Nothing on the server changes.
func (a *App) Disconnect(ctx context.Context, p schedule.Person, account int64) ([]Calendar, error) {
	row, err := a.Store.Account(ctx, account)
	if errors.Is(err, store.ErrNotFound) || err == nil && row.PersonID != p.ID {
		return nil, errNotYourCalendar
	}
	if err != nil {
		return nil, err
	}
	if err := a.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error { return q.RemoveAccount(ctx, account) }); err != nil {
		return nil, err
	}
	return a.Calendars(ctx, p)
}

// CalendarSettings returns what the person decided about all their calendars.
func (a *App) CalendarSettings(p schedule.Person) schedule.CalendarSettings {
	return p.CalendarSettings
}

// SetCalendarSettings sets them.
func (a *App) SetCalendarSettings(ctx context.Context, p schedule.Person, c schedule.CalendarSettings) (schedule.CalendarSettings, error) {
	c.OpenTitle = intake.OneLine(c.OpenTitle)
	if c.OpenType != 0 {
		if _, err := a.MeetingType(ctx, p, c.OpenType); err != nil {
			return c, err
		}
	}
	err := a.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		err := q.SetCalendarSettings(ctx, sqlc.SetCalendarSettingsParams{ID: p.ID, Unreachable: c.Unreachable, TrustHours: int64(c.TrustHours), OpenTitle: c.OpenTitle, OpenType: store.NullID(c.OpenType), EventChange: c.EventChange})
		if err != nil || c.OpenTitle == p.CalendarSettings.OpenTitle {
			return err
		}
		calendars, err := q.Calendars(ctx, p.ID)
		if err != nil {
			return err
		}
		for _, calendar := range calendars {
			if err := a.calendars.TimesAgain(ctx, q, calendar.ID); err != nil {
				return err
			}
		}
		return nil
	})
	return c, err
}

// ReadCalendars reads the person's calendars now.
func (a *App) ReadCalendars(ctx context.Context, p schedule.Person) ([]Calendar, error) {
	a.calendars.Refresh(ctx, p.ID, 0, 10*time.Second)
	return a.Calendars(ctx, p)
}
