package app

import (
	"cmp"
	"context"
	"slices"

	"corrim/core/civil"
	"corrim/core/life"
	"corrim/core/opentimes"
	"corrim/core/routing"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/calsync"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/store/sqlc"
)

// Moving a booking by hand: to another time, to a colleague, or both.

// Target is where a booking could be: with a person, on the mover's wall clock.
type Target struct {
	Person int64  `json:"person,omitempty" doc:"Of the mover's colleagues; the booking's host if left out."`
	Date   string `json:"date" format:"date"`
	Minute int    `json:"minute" minimum:"0" maximum:"1439" doc:"Of the mover's wall clock."`
}

// HandMove is where a host moves a booking to.
type HandMove struct {
	Target
	Outside bool   `json:"outside,omitempty" doc:"The host was warned that rules are broken, and wants it anyway."`
	Version *int64 `json:"version,omitempty" doc:"Of the booking as the host saw it: if it has changed since, nothing is moved."`
}

// TargetSays is whether a booking could be at a target, and why not.
type TargetSays struct {
	Open bool         `json:"open"`
	Why  []told.Words `json:"why" doc:"The rules that are broken there, in sentences."`
}

// OpenTargets is where a booking could be on one day of one person.
type OpenTargets struct {
	Person int64  `json:"person"`
	Date   string `json:"date"`
	Open   []int  `json:"open" doc:"Minutes of the viewer's wall clock."`
}

// Targets lists where one of the person's coming bookings could be, on the days that the board shows.
func (a *App) Targets(ctx context.Context, p schedule.Person, id int64, days BoardDays) ([]OpenTargets, error) {
	view, err := a.boardView(ctx, p, days)
	if err != nil {
		return nil, err
	}
	b, err := a.ownBooking(ctx, a.Store.Queries, p, id)
	if err != nil {
		return nil, err
	}
	kind, err := a.TypeOf(ctx, a.Store.Queries, p, b.Booking)
	if err != nil {
		return nil, err
	}
	others, err := a.otherHosts(ctx, a.Store.Queries, b)
	if err != nil {
		return nil, err
	}
	out := []OpenTargets{}
	agendas, err := a.Agendas(ctx, a.Store.Queries, view.people, view.within, id)
	if err != nil {
		return nil, err
	}
	together, err := a.Agendas(ctx, a.Store.Queries, others, view.within, id)
	if err != nil {
		return nil, err
	}
	for k, host := range view.people {
		starts := opentimes.Search(agendas[k].Input(kind.ID, kind.Rules), view.within)
		for i, other := range others {
			in := together[i].Input(kind.ID, kind.Rules)
			in.Type.Step, in.Type.Grid = 1, opentimes.OnTheClock // the grid is the first one's
			starts = slices.DeleteFunc(starts, func(s opentimes.Start) bool { return other.ID == host.ID || !opentimes.Explain(in, s).Open })
		}
		for i := range view.days {
			d := schedule.NewDayDrawer(view.first.AddDays(i), p.Local)
			out = append(out, OpenTargets{host.ID, d.Date.String(), d.Starts([]int{}, starts)})
		}
	}
	return out, nil
}

// CheckTarget tells whether one of the person's coming bookings could be at a target, and why not.
func (a *App) CheckTarget(ctx context.Context, p schedule.Person, id int64, to Target) (TargetSays, error) {
	b, err := a.ownBooking(ctx, a.Store.Queries, p, id)
	if err != nil {
		return TargetSays{}, err
	}
	t, err := a.landing(ctx, a.Store.Queries, p, b, to)
	if err != nil {
		return TargetSays{}, err
	}
	return TargetSays{len(t.broken) == 0, append([]told.Words{}, t.why...)}, nil
}

// landing is a target for a booking, looked at closely.
type landing struct {
	host   schedule.Person
	start  opentimes.Start
	broken []opentimes.Rule
	why    []told.Words
}

func (a *App) landing(ctx context.Context, q *sqlc.Queries, p schedule.Person, b schedule.Hosted, to Target) (t landing, err error) {
	if t.host, err = a.Colleague(ctx, q, p, cmp.Or(to.Person, b.Own.PersonID)); err != nil {
		return t, err
	}
	date, err := civil.ParseDate(to.Date)
	if err != nil {
		return t, refusal.Faulty("date", told.OfError(err))
	}
	kind, err := a.TypeOf(ctx, q, p, b.Booking)
	if err != nil {
		return t, err
	}
	t.start = opentimes.Start{At: civil.Clock{Date: date, Seconds: to.Minute * 60}.Instant(p.Local), Minutes: kind.Rules.Duration}
	if int64(t.start.At) <= a.Now().Unix() {
		return t, errGoneBy
	}
	t.broken, t.why, err = a.brokenRules(ctx, q, t.host, kind, t.start, b.ID, opentimes.Reader{Zone: p.Local, Titles: t.host.ID == p.ID})
	if err != nil {
		return t, err
	}
	return t, a.withTheOthers(ctx, q, p, b, kind, &t)
}

// withTheOthers looks at those who host the booking too and stay: what speaks against the place for them counts as well.
func (a *App) withTheOthers(ctx context.Context, q *sqlc.Queries, p schedule.Person, b schedule.Hosted, kind schedule.MeetingType, t *landing) error {
	others, err := a.otherHosts(ctx, q, b)
	if err != nil {
		return err
	}
	kind.Rules.Step, kind.Rules.Grid = 1, "" // together, the grid is the first one's
	for _, other := range others {
		if other.ID == t.host.ID {
			return refusal.New(refusal.Invalid, told.Say("takes-part-meeting", "{} takes part in this meeting already. Choose somebody else.", other.Name))
		}
		broken, why, err := a.brokenRules(ctx, q, other, kind, t.start, b.ID, opentimes.Reader{Zone: p.Local, Titles: other.ID == p.ID})
		if err != nil {
			return err
		}
		if len(broken) > 0 {
			t.broken, t.why = append(t.broken, broken...), append(t.why, ofHost(other.Name, why))
		}
	}
	return nil
}

// otherHosts is who hosts a booking beside the one whose part it is.
func (a *App) otherHosts(ctx context.Context, q *sqlc.Queries, b schedule.Hosted) ([]schedule.Person, error) {
	parts, err := q.HostsOfMeeting(ctx, b.MeetingID)
	if err != nil {
		return nil, err
	}
	var out []schedule.Person
	for _, part := range parts {
		if part.State == schedule.HostLeft || part.PersonID == b.Own.PersonID {
			continue
		}
		person, err := a.Anybody(ctx, q, part.PersonID)
		if err != nil {
			return nil, err
		}
		out = append(out, person)
	}
	return out, nil
}

// MoveByHand moves one of the person's coming bookings to another time, to a colleague, or both; the client is told. A
// target that is not open is refused with the broken rules, unless the host wants it anyway.
func (a *App) MoveByHand(ctx context.Context, p schedule.Person, id int64, m HandMove) error {
	if m.Person != 0 && m.Person != p.ID {
		a.calendars.Refresh(ctx, m.Person, calsync.FreshEnough, calsync.BookingTime)
	}
	_, err := a.settle(ctx, p, id, func(q *sqlc.Queries, b schedule.Hosted) error {
		if m.Version != nil && *m.Version != b.Version {
			return refusal.New(refusal.Conflict, told.Say("booking-changed-meanwhile", "Somebody has changed this booking since you opened it: it is at {} now. Look at it again, then move it.", told.At(span.Instant(b.StartAt), p.Local)))
		}
		t, err := a.landing(ctx, q, p, b, m.Target)
		if err != nil {
			return err
		}
		if t.host.ID == b.Own.PersonID && int64(t.start.At) == b.StartAt {
			return nil // it is there
		}
		if len(t.broken) > 0 && !m.Outside {
			return refusal.New(refusal.OutsideRules, told.Say("move-outside-rules", "This is outside the rules: {}", told.Join(t.why, " ")))
		}
		before := bookingState{Host: b.Own.PersonID, To: t.host.ID, Start: b.StartAt, Overlap: b.OverlapAllowed == 1}
		if err := a.carry(ctx, q, p, b, t); err != nil {
			return err
		}
		after, err := q.Booking(ctx, id)
		if err != nil {
			return err
		}
		before.Version = after.Version
		return a.Remember(ctx, q, p, subjectBooking, id, movedLabel(b, t, p), before)
	})
	return err
}

func movedLabel(b schedule.Hosted, t landing, p schedule.Person) told.Words {
	to := told.At(t.start.At, p.Local)
	if t.host.ID != b.Own.PersonID {
		return told.Say("undo-moved-and-handed", "Board: {} moved to {}, handed over to {}", b.ClientName, to, t.host.Name)
	}
	return told.Say("undo-moved", "Board: {} moved to {}", b.ClientName, to)
}

const stepReassigned = string(life.Reassign)

// carry brings a booking to its landing and records that.
func (a *App) carry(ctx context.Context, q *sqlc.Queries, p schedule.Person, b schedule.Hosted, t landing) error {
	from := b.Own.PersonID
	done := byHost(string(life.Move), p, "")
	if t.host.ID != from {
		done.kind, done.from, done.to = stepReassigned, from, t.host.ID
	}
	if _, err := a.nextOf(b.Booking, done); err != nil {
		return err
	}
	by := int64(t.start.At) - b.StartAt
	if t.host.ID != from {
		if err := q.LeaveMeeting(ctx, sqlc.LeaveMeetingParams{MeetingID: b.MeetingID, PersonID: from}); err != nil {
			return err
		}
		if b.HostID == from {
			if err := q.SetLead(ctx, sqlc.SetLeadParams{MeetingID: b.MeetingID, HostID: t.host.ID}); err != nil {
				return err
			}
		}
	}
	to := sqlc.MoveMeetingParams{MeetingID: b.MeetingID, StartAt: b.StartAt + by, EndAt: b.EndAt + by, KeptFrom: b.KeptFrom + by, KeptUntil: b.KeptUntil + by}
	if err := moveTo(ctx, q, to, slices.Contains(t.broken, opentimes.BookingRule)); err != nil {
		return err
	}
	if t.host.ID != from {
		if err := q.AddMeetingHost(ctx, sqlc.AddMeetingHostParams{MeetingID: b.MeetingID, PersonID: t.host.ID}); err != nil {
			return err
		}
		if err := q.GiveBackOf(ctx, sqlc.GiveBackOfParams{MeetingID: b.MeetingID, PersonID: from}); err != nil {
			return err
		}
		if err := a.Assign(ctx, q, b.Booking, []int64{t.host.ID}, schedule.Assigned{Kind: routing.ByHand, By: p.ID}); err != nil {
			return err
		}
	}
	if done.kind == stepReassigned && by != 0 { // told of in the same letter
		moved := byHost(string(life.Move), p, "")
		moved.silent, moved.from, moved.to = true, from, t.host.ID
		if err := a.recordForAll(ctx, q, b.ID, moved); err != nil {
			return err
		}
	}
	if err := a.recordForAll(ctx, q, b.ID, done); err != nil || b.Session == 0 {
		return err
	}
	return a.planDecisions(ctx, q, b.TypeID)
}

// bookingState is where a booking was before it was moved by hand, and its version after that: if it has gone on since,
// the move can't be undone.
type bookingState struct {
	Host, To, Start int64
	Version         int64 `json:"Sequence"` // as it was called first
	Overlap         bool
}

// restoreBooking puts a booking back to where and with whom it was.
func (a *App) restoreBooking(ctx context.Context, q *sqlc.Queries, p schedule.Person, id int64, before bookingState) error {
	b, err := q.Booking(ctx, id)
	if err != nil {
		return err
	}
	if b.Version != before.Version || before.Start <= a.Now().Unix() {
		return refusal.New(refusal.Invalid, told.Say("booking-been-changed", "The booking has been changed since, or its old time has gone by, so this can't be undone."))
	}
	row, err := q.BookingOfHost(ctx, sqlc.BookingOfHostParams{BookingID: b.ID, PersonID: before.To})
	if err != nil {
		return err
	}
	back := landing{start: opentimes.Start{At: span.Instant(before.Start)}}
	if before.Overlap {
		back.broken = []opentimes.Rule{opentimes.BookingRule}
	}
	if back.host, err = a.Colleague(ctx, q, p, before.Host); err != nil {
		return err
	}
	return a.carry(ctx, q, p, schedule.Hosted{Booking: row.Booking, Own: row.MeetingHost}, back)
}

// Taker is a colleague who could take a booking at its time.
type Taker struct {
	Person int64        `json:"person"`
	Name   string       `json:"name"`
	Hosts  bool         `json:"hosts" doc:"Do they host its meeting type?"`
	Open   bool         `json:"open"`
	Why    []told.Words `json:"why" doc:"What speaks against it."`
}

// Takers lists the colleagues to whom a booking could be handed over: hosts of its type first, those who are open first.
func (a *App) Takers(ctx context.Context, p schedule.Person, id int64) ([]Taker, error) {
	b, err := a.ownBooking(ctx, a.Store.Queries, p, id)
	if err != nil {
		return nil, err
	}
	row, err := a.Store.MeetingType(ctx, b.TypeID)
	if err != nil {
		return nil, err
	}
	o, err := a.BookableOf(ctx, a.Store.Queries, row)
	if err != nil {
		return nil, err
	}
	people, err := a.Colleagues(ctx, p)
	if err != nil {
		return nil, err
	}
	others, err := a.otherHosts(ctx, a.Store.Queries, b)
	if err != nil {
		return nil, err
	}
	out := []Taker{}
	for _, person := range people {
		already := slices.ContainsFunc(others, func(other schedule.Person) bool { return other.ID == person.ID })
		if person.ID == b.Own.PersonID || already || !person.Bookable {
			continue
		}
		t, err := a.landing(ctx, a.Store.Queries, p, b, targetOfStart(b, person.ID, p))
		if err != nil {
			return nil, err
		}
		out = append(out, Taker{person.ID, person.Name, o.Pool.Of(person.ID).ID != 0, len(t.broken) == 0, append([]told.Words{}, t.why...)})
	}
	rank := func(t Taker) int { return 2*int(number(!t.Open)) + int(number(!t.Hosts)) }
	slices.SortStableFunc(out, func(x, y Taker) int { return rank(x) - rank(y) })
	return out, nil
}

// targetOfStart is a booking's own time with somebody else, on the mover's clock.
func targetOfStart(b schedule.Hosted, person int64, mover schedule.Person) Target {
	clock := civil.ClockOf(span.Instant(b.StartAt), mover.Local)
	return Target{Person: person, Date: clock.Date.String(), Minute: clock.Seconds / 60}
}

// HandTo hands one booking over to a colleague at its own time; what speaks against it is told first.
func (a *App) HandTo(ctx context.Context, p schedule.Person, id, person int64, outside bool) error {
	b, err := a.ownBooking(ctx, a.Store.Queries, p, id)
	if err != nil {
		return err
	}
	return a.MoveByHand(ctx, p, id, HandMove{Target: targetOfStart(b, person, p), Outside: outside})
}
