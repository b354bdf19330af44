package app

import (
	"cmp"
	"context"
	"slices"
	"time"

	"github.com/google/uuid"

	"corrim/core/busy"
	"corrim/core/civil"
	"corrim/core/life"
	"corrim/core/opentimes"
	"corrim/core/routing"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/calsync"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/secrets"
	"corrim/internal/store/sqlc"
)

// HandTimes is when a host wants to book for a client, once or by a rule at the same time of the clock.
type HandTimes struct {
	Type    int64    `json:"type" doc:"One of the host's meeting types."`
	Date    string   `json:"date" format:"date"`
	Minute  int      `json:"minute" minimum:"0" maximum:"1439" doc:"Of the host's wall clock."`
	Minutes int      `json:"minutes,omitempty" doc:"The length; that offered first if left out."`
	Host    int64    `json:"host,omitempty" doc:"Who is to host it; whoever the type's rule gives it to if left out."`
	Repeat  string   `json:"repeat,omitempty" maxLength:"500" doc:"A recurrence rule that ends (RFC 5545, 3.3.10)."`
	Without []string `json:"without,omitempty" doc:"Dates of it that are left out."`
}

// HandBooking is a booking that a host enters for a client.
type HandBooking struct {
	HandTimes
	Name    string `json:"name" maxLength:"1000"`
	Mail    string `json:"mail" maxLength:"1000"`
	Remark  string `json:"remark,omitempty" maxLength:"20000"`
	Outside bool   `json:"outside,omitempty" doc:"The host was warned that rules are broken, and wants it anyway."`
}

// KnownClient is somebody who has booked with the host before.
type KnownClient struct {
	Name string `json:"name"`
	Mail string `json:"mail"`
}

// KnownClients lists those who have booked with the person, the latest first.
func (a *App) KnownClients(ctx context.Context, p schedule.Person) ([]KnownClient, error) {
	rows, err := a.Store.KnownClients(ctx, p.ID)
	out := make([]KnownClient, len(rows))
	for i, r := range rows {
		out[i] = KnownClient{r.ClientName, r.ClientMail}
	}
	return out, err
}

// HandTime is one time of those that a host wants to book, with what speaks against it.
type HandTime struct {
	Date   string       `json:"date" format:"date"`
	Clock  string       `json:"clock"`
	Open   bool         `json:"open"`
	Why    []told.Words `json:"why" doc:"If it is not open: the rules that it breaks."`
	broken []opentimes.Rule
	start  opentimes.Start
	hosts  []int64 // who would take it
	why    schedule.Assigned
}

// mostRepeats bounds how often a booking by hand can come again.
const mostRepeats = 60

// CheckByHand lists the times that would be booked, each checked, before anything is.
func (a *App) CheckByHand(ctx context.Context, p schedule.Person, h HandTimes) ([]HandTime, error) {
	w, err := a.handWish(ctx, p, h)
	if err != nil {
		return nil, err
	}
	return a.checkAll(ctx, p, w)
}

func (a *App) checkAll(ctx context.Context, p schedule.Person, w handWish) (out []HandTime, err error) {
	out = make([]HandTime, len(w.starts))
	for i, start := range w.starts {
		if out[i], err = a.handTime(ctx, a.Store.Queries, p, w, start); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// handTime looks at one of the times: who would take it, and what speaks against that.
func (a *App) handTime(ctx context.Context, q *sqlc.Queries, p schedule.Person, w handWish, start opentimes.Start) (HandTime, error) {
	at := start.At.Time().In(p.Local)
	t := HandTime{Why: []told.Words{}, Date: at.Format(time.DateOnly), Clock: at.Format("15:04"), start: start, why: schedule.Assigned{Kind: routing.ByHand, By: p.ID}}
	if w.host == 0 {
		l, err := a.Lineup(ctx, q, w.Bookable, w.ask, span.Span{Start: start.At, End: start.At + 1}, 0)
		if err != nil {
			return t, err
		}
		choice, err := a.Choose(ctx, q, l, start)
		if err != nil {
			return t, err
		}
		if len(choice.Hosts) > 0 {
			t.Open, t.hosts, t.why = true, choice.Hosts, assignedBy(choice.Reason)
			return t, nil
		}
	}
	t.hosts = w.takenAnyway(p)
	for _, id := range t.hosts {
		host := w.person(id)
		broken, why, err := a.brokenRules(ctx, q, host, w.MeetingType, start, 0, opentimes.Reader{Zone: p.Local, Titles: id == p.ID})
		if err != nil {
			return t, err
		}
		if id != p.ID && len(why) > 0 {
			why = []told.Words{ofHost(host.Name, why)}
		}
		t.broken, t.Why = append(t.broken, broken...), append(t.Why, why...)
	}
	t.Open = len(t.broken) == 0
	return t, nil
}

// BookByHand books for a client, all times in one transaction. Times that are not open are refused with the broken rules,
// unless the host wants them anyway; one that overlaps another booking then carries a mark of its own.
func (a *App) BookByHand(ctx context.Context, p schedule.Person, h HandBooking) (made Made, err error) {
	request := schedule.BookingRequest{Name: h.Name, Mail: h.Mail, Remark: h.Remark, Zone: p.Zone, Minutes: h.Minutes}.Normal(p.Home)
	if err := request.Check().Err(); err != nil {
		return made, err
	}
	w, err := a.handWish(ctx, p, h.HandTimes)
	if err != nil {
		return made, err
	}
	if request.Language, err = a.languageOf(ctx, p, request.Mail); err != nil {
		return made, err
	}
	w.ask.Mail = request.Mail
	return a.enterByHand(ctx, p, w, request, h.Outside)
}

// enterByHand looks at the calendars once more, then writes everything in one transaction.
func (a *App) enterByHand(ctx context.Context, p schedule.Person, w handWish, request schedule.BookingRequest, outside bool) (made Made, err error) {
	a.RefreshCalendars(ctx, w.mayHost(), calsync.FreshEnough, calsync.BookingTime)
	err = a.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		made, err = a.writeByHand(ctx, q, p, w, request, outside)
		return err
	})
	if err != nil {
		return Made{}, err
	}
	a.Wake()
	return made, nil
}

// Made is what was booked by hand: how much, and where the first of it stands.
type Made struct {
	Booked int    `json:"booked"`
	ID     int64  `json:"id"`
	Date   string `json:"date" format:"date" doc:"On the clock of whoever booked."`
	Clock  string `json:"clock"`
	Host   string `json:"host"`
	Own    bool   `json:"own" doc:"Does whoever booked host it?"`
}

// writeByHand looks at each time as it stands after those before it, so that turns go on within a series.
func (a *App) writeByHand(ctx context.Context, q *sqlc.Queries, p schedule.Person, w handWish, request schedule.BookingRequest, outside bool) (made Made, err error) {
	var warnings []told.Words
	step := byHost(string(life.Book), p, "")
	if w.seats > 0 {
		step.kind, step.alone = string(life.Schedule), true
	}
	if len(w.starts) > 1 {
		step.series = uuid.NewString()
	}
	for _, start := range w.starts {
		t, err := a.handTime(ctx, q, p, w, start)
		if err != nil {
			return made, err
		}
		if warnings = append(warnings, t.warning(p)...); len(warnings) > 0 && !outside {
			continue // nothing will be written: the others are looked at for the warning only
		}
		request.Start = start.At.Time()
		by := insertion{step: step, overlap: slices.Contains(t.broken, opentimes.BookingRule), form: w.ByHand(), hosts: t.hosts, why: t.why, seats: w.seats, special: w.special}
		by.form.Way = w.special.wayOf(w.Bookable)
		b, err := a.insertBooking(ctx, q, w.Bookable, secrets.Hashed("by hand "+uuid.NewString()), request, by)
		if err != nil {
			return made, err
		}
		if w.ownSeats {
			if err := q.SetOwnCapacity(ctx, sqlc.SetOwnCapacityParams{MeetingID: b.MeetingID, Seats: int64(w.seats)}); err != nil {
				return made, err
			}
		}
		if w.seats > 0 {
			w.series = cmp.Or(w.series, b.MeetingID)
			if err := q.SetSeries(ctx, sqlc.SetSeriesParams{MeetingID: b.MeetingID, SeriesID: w.series}); err != nil {
				return made, err
			}
		}
		if made.Booked++; made.Booked == 1 {
			made.ID, made.Date, made.Clock = b.ID, t.Date, t.Clock
			made.Host, made.Own = w.person(b.HostID).Name, slices.Contains(t.hosts, p.ID)
		}
	}
	if len(warnings) > 0 && !outside {
		return made, refusal.New(refusal.OutsideRules, told.Say("outside-rules", "Outside the rules: {}", told.Join(warnings, " ")))
	}
	return made, nil
}

func (t HandTime) warning(p schedule.Person) []told.Words {
	if t.Open {
		return nil
	}
	return []told.Words{told.Say("time-warning", "{}: {}", told.At(t.start.At, p.Local), told.Join(t.Why, " "))}
}

// ofHost says for whom something holds.
func ofHost(name string, words []told.Words) told.Words {
	return told.Say("of-host", "{}: {}", name, told.Join(words, " "))
}

// handWish is what somebody wants to book by hand: a type with rules for just the length, the starts, and who is to host.
type handWish struct {
	schedule.Bookable
	starts   []opentimes.Start
	ask      schedule.Ask
	host     int64 // 0: whoever the type's rule gives it to
	by       schedule.Person
	seats    int   // of sessions that are set; 0 for a client's booking
	ownSeats bool  // these are set for them alone
	series   int64 // that they are added to; 0 for one of their own
	special  SessionDetails
}

// person is somebody who may host: of the pool, or whoever enters it.
func (w handWish) person(id int64) schedule.Person {
	if id == w.by.ID {
		return w.by
	}
	return w.Pool.Of(id)
}

// mayHost are those whose calendars count.
func (w handWish) mayHost() []routing.Host {
	if w.host != 0 {
		return []routing.Host{{ID: w.host}}
	}
	return w.Candidates(w.ask)
}

// takenAnyway is who hosts a time that the rule gives to nobody, if it is wanted anyway.
func (w handWish) takenAnyway(p schedule.Person) []int64 {
	if w.host != 0 {
		return []int64{w.host}
	}
	ids := make([]int64, len(w.Pool.People))
	for i, person := range w.Pool.People {
		ids[i] = person.ID
	}
	switch {
	case w.Pool.Mode == routing.Together:
		return ids
	case len(ids) == 0 || slices.Contains(ids, p.ID):
		return []int64{p.ID}
	}
	return ids[:1]
}

// handWish checks what somebody wants to book by hand.
func (a *App) handWish(ctx context.Context, p schedule.Person, h HandTimes) (handWish, error) {
	w, err := a.handWishOf(ctx, p, h)
	if err != nil {
		return w, err
	}
	clocks, err := h.clocks(p)
	if err != nil {
		return w, err
	}
	return w, w.startAt(clocks, a.Now())
}

// handWishOf is what somebody wants to book by hand, without its times.
func (a *App) handWishOf(ctx context.Context, p schedule.Person, h HandTimes) (handWish, error) {
	w := handWish{host: h.Host, by: p}
	kind, err := a.MeetingType(ctx, p, h.Type)
	if err != nil {
		return w, err
	}
	row, err := a.Store.MeetingType(ctx, kind.ID)
	if err != nil {
		return w, err
	}
	if w.Bookable, err = a.BookableOf(ctx, a.Store.Queries, row); err != nil {
		return w, err
	}
	if err := w.mayBeEntered(kind.Mine); err != nil {
		return w, err
	}
	minutes, err := w.Rules.Length(h.Minutes)
	if err != nil {
		return w, err
	}
	w.Rules = w.Rules.Only(minutes)
	return w, nil
}

// startAt takes times of whoever's wall clock it is for the starts; one that has gone by is refused.
func (w *handWish) startAt(clocks []civil.Clock, now time.Time) error {
	for _, c := range clocks {
		start := opentimes.Start{At: c.Instant(w.by.Local), Minutes: w.Rules.Duration}
		if int64(start.At) <= now.Unix() {
			return errGoneBy
		}
		w.starts = append(w.starts, start)
	}
	return nil
}

// mayBeEntered refuses what is a coordinator's: booking for a colleague whom they name, or a type they don't host.
func (w handWish) mayBeEntered(mine bool) error {
	switch {
	case w.by.May(identity.HandleBookings) && (w.host == 0 || w.person(w.host).ID != 0):
		return nil
	case w.by.May(identity.HandleBookings):
		return refusal.Faulty("host", told.Say("whom-chose-doesnt", "Whom you chose doesn't host this meeting type. Choose one of its hosts."))
	case !mine:
		return refusal.Faulty("type", told.Say("dont-host-meeting", "You don't host this meeting type, so book it on its page, or have a host of it do so."))
	case w.host != 0 && w.host != w.by.ID:
		return refusal.Faulty("host", told.Say("book-yourself-types", "You can book for yourself or by the type's rule. Ask a coordinator to book for a colleague."))
	}
	return nil
}

var errGoneBy = refusal.Faulty("date", told.Say("time-already-gone", "This time has already gone by. Choose a later one."))

// clocks is the wanted times on the person's wall clock, without the dates that are left out.
func (h HandTimes) clocks(p schedule.Person) ([]civil.Clock, error) {
	date, err := civil.ParseDate(h.Date)
	if err != nil {
		return nil, refusal.Faulty("date", told.OfError(err))
	}
	clocks := []civil.Clock{{Date: date, Seconds: h.Minute * 60}}
	if h.Repeat != "" {
		if clocks, err = busy.Repeat(h.Repeat, clocks[0], p.Local, mostRepeats); err != nil {
			return nil, refusal.Faulty("repeat", told.Say("followed", "This can't be followed: {}.", told.OfError(err)))
		}
	}
	clocks = slices.DeleteFunc(clocks, func(c civil.Clock) bool { return slices.Contains(h.Without, c.Date.String()) })
	if len(clocks) == 0 {
		return nil, refusal.Faulty("date", told.Say("all-dates-left", "All dates are left out, so there is nothing to book."))
	}
	return clocks, nil
}

// brokenRules is which rules a start breaks, and why in sentences; moving is a booking that is left out. A
// colleague's titles stay private.
func (a *App) brokenRules(ctx context.Context, q *sqlc.Queries, p schedule.Person, kind schedule.MeetingType, start opentimes.Start, moving int64, by opentimes.Reader) (broken []opentimes.Rule, why []told.Words, err error) {
	around := span.Span{Start: start.At, End: start.At + 1}
	g, err := a.Agenda(ctx, q, p, around, moving)
	if err != nil {
		return nil, nil, err
	}
	in := g.Input(kind.ID, kind.Rules)
	e := opentimes.Explain(in, start)
	for _, r := range e.Reasons {
		if r.Holds {
			continue
		}
		broken = append(broken, r.Rule)
		why = append(why, r.Say(in, by)...)
	}
	return broken, why, nil
}
