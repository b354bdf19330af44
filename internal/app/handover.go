package app

import (
	"context"
	"encoding/json"
	"slices"
	"time"

	"corrim/core/civil"
	"corrim/core/life"
	"corrim/core/opentimes"
	"corrim/core/routing"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/store/sqlc"
)

// Handing over: all bookings of somebody's span of days, by each type's own rule.

// HandoverPlan is who would take the bookings of somebody who can't.
type HandoverPlan struct {
	Person string         `json:"person"`
	Moves  []HandoverMove `json:"moves" doc:"In the order of their times."`
}

// HandoverMove is one booking of a plan.
type HandoverMove struct {
	Booking HostBooking `json:"booking"`
	To      int64       `json:"to,omitempty" doc:"0 if nobody can take it."`
	Name    string      `json:"name"`
	Why     told.Words  `json:"why"`
}

// HandoverSpan is whose bookings, and of which days.
type HandoverSpan struct {
	Person int64  `json:"person"`
	From   string `json:"from" format:"date"`
	To     string `json:"to" format:"date" doc:"Included."`
}

// PlanHandover shows who would take somebody's bookings, before anything is done.
func (a *App) PlanHandover(ctx context.Context, p schedule.Person, h HandoverSpan) (HandoverPlan, error) {
	return a.planHandover(ctx, a.Store.Queries, p, h)
}

func (a *App) planHandover(ctx context.Context, q *sqlc.Queries, p schedule.Person, h HandoverSpan) (HandoverPlan, error) {
	plan := HandoverPlan{Moves: []HandoverMove{}}
	if h.Person != p.ID {
		if err := p.Must(identity.HandleBookings); err != nil {
			return plan, err
		}
	}
	ill, err := a.Colleague(ctx, q, p, h.Person)
	if err != nil {
		return plan, err
	}
	plan.Person = ill.Name
	within, err := daysOf(h, ill.Local)
	if err != nil {
		return plan, err
	}
	coming, err := a.comingOf(ctx, q, ill.ID)
	if err != nil {
		return plan, err
	}
	given := map[int64][]schedule.Hosted{}
	for _, b := range coming {
		if !schedule.MeetingSpan(b.Booking).Overlaps(within) || b.Life == string(life.Unproved) {
			continue // what waits for its code may be gone in minutes
		}
		move, err := a.replacement(ctx, q, p, ill, b, given)
		if err != nil {
			return plan, err
		}
		plan.Moves = append(plan.Moves, move)
	}
	return plan, nil
}

func daysOf(h HandoverSpan, zone *time.Location) (span.Span, error) {
	first, err := civil.ParseDate(h.From)
	if err != nil {
		return span.Span{}, refusal.Faulty("from", told.OfError(err))
	}
	last, err := civil.ParseDate(h.To)
	if err != nil || last.Before(first) {
		return span.Span{}, refusal.Faulty("to", told.Say("last-day-doesnt", "The last day doesn't come before the first."))
	}
	return span.Span{Start: first.Start(zone), End: last.AddDays(1).Start(zone)}, nil
}

// replacement finds who takes a booking instead of somebody, by the type's rule, with what the plan has given before taken.
func (a *App) replacement(ctx context.Context, q *sqlc.Queries, p, ill schedule.Person, b schedule.Hosted, given map[int64][]schedule.Hosted) (HandoverMove, error) {
	move := HandoverMove{Booking: hostBooking(b.Booking)}
	row, err := q.MeetingType(ctx, b.TypeID)
	if err != nil {
		return move, err
	}
	o, err := a.BookableOf(ctx, q, row)
	if err != nil {
		return move, err
	}
	o.Rules = o.Rules.Only(schedule.StartOf(b.Booking).Minutes)
	parts, err := q.HostsOfMeeting(ctx, b.MeetingID)
	if err != nil {
		return move, err
	}
	o.Pool = o.Pool.Without(func(id int64) bool {
		return id == ill.ID || slices.ContainsFunc(parts, func(part sqlc.MeetingHost) bool { return part.PersonID == id && part.State != schedule.HostLeft })
	})
	if o.Pool.Mode == routing.Together || o.Pool.Mode == routing.SomeAndOne {
		o.Pool.Mode = routing.InTurn // one is replaced; the others stay
	}
	answers := map[string]string{}
	if err := json.Unmarshal([]byte(b.Answers), &answers); err != nil {
		return move, err
	}
	start := schedule.StartOf(b.Booking)
	l, err := a.Lineup(ctx, q, o, schedule.Ask{Answers: answers}, span.Span{Start: start.At, End: start.At + 1}, b.ID)
	if err != nil {
		return move, err
	}
	for i, c := range l.Candidates {
		for _, b := range given[c.ID] {
			l.Agendas[i].Taken = append(l.Agendas[i].Taken, b.Times())
		}
	}
	choice, err := a.chooseAgreed(ctx, q, l, start)
	if err != nil {
		return move, err
	}
	move.Why = choice.Reason.Say(o.Pool.Names(), p.Local)
	if len(choice.Hosts) > 0 {
		move.To, move.Name = choice.Hosts[0], o.Pool.Of(choice.Hosts[0]).Name
		given[move.To] = append(given[move.To], b)
	}
	return move, nil
}

// chooseAgreed chooses as for a new booking, but its start was agreed long ago: grid, notice and window don't matter.
func (a *App) chooseAgreed(ctx context.Context, q *sqlc.Queries, l schedule.Lineup, start opentimes.Start) (routing.Choice, error) {
	if len(l.Agendas) == 0 {
		return routing.Choice{}, nil
	}
	c := l.Circumstances(start)
	in, p := l.Input()
	for i, e := range opentimes.ExplainPool(in, p, start) {
		matters := func(r opentimes.Rule) bool {
			return r != opentimes.StepRule && r != opentimes.NoticeRule && r != opentimes.WindowRule
		}
		failing := slices.DeleteFunc(e.Failing(), func(r opentimes.Rule) bool { return !matters(r) })
		if id := l.Candidates[i].ID; len(failing) > 0 {
			c.Closed[id] = routing.Closed{Rule: failing[0], Until: c.Closed[id].Until}
		} else {
			c.Open[l.Candidates[i].ID] = true
			delete(c.Closed, l.Candidates[i].ID)
		}
	}
	return a.ChooseIn(ctx, q, l, start, c)
}

// handedState is a booking that was handed over, for undoing that.
type handedState struct {
	Booking int64
	bookingState
}

func (a *App) handOne(ctx context.Context, q *sqlc.Queries, p schedule.Person, from int64, move HandoverMove) (handedState, error) {
	row, err := q.BookingOfHost(ctx, sqlc.BookingOfHostParams{BookingID: move.Booking.ID, PersonID: from})
	if err != nil {
		return handedState{}, err
	}
	b := schedule.Hosted{Booking: row.Booking, Own: row.MeetingHost}
	state := handedState{b.ID, bookingState{Host: from, To: move.To, Start: b.StartAt, Overlap: b.OverlapAllowed == 1}}
	to, err := a.Colleague(ctx, q, p, move.To)
	if err != nil {
		return state, err
	}
	if err := a.carry(ctx, q, p, b, landing{host: to, start: schedule.StartOf(b.Booking)}); err != nil {
		return state, err
	}
	after, err := q.Booking(ctx, b.ID)
	state.Version = after.Version
	return state, err
}

func (a *App) restoreHandover(ctx context.Context, q *sqlc.Queries, p schedule.Person, _ int64, before []handedState) error {
	for _, state := range before {
		if err := a.restoreBooking(ctx, q, p, state.Booking, state.bookingState); err != nil {
			return err
		}
	}
	return nil
}
