package schedule

import (
	"slices"
	"time"

	"corrim/core/civil"
	"corrim/core/opentimes"
	"corrim/core/routing"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/store/sqlc"
)

const TrialWeeks = 8

// trial is one meeting type's rules as they are and as they would be.
type trial struct {
	before, after opentimes.Input
}

// TrialRange is the weeks that consequences are shown for, from today.
func (s *Service) TrialRange(p Person) span.Span {
	today := s.TodayOf(p)
	return span.Span{Start: today.Start(p.Local), End: today.AddDays(7 * TrialWeeks).Start(p.Local)}
}

// CountIn is how many starts lie within a span.
func CountIn(starts []opentimes.Start, s span.Span) (n int) {
	for _, start := range starts {
		if s.Holds(start.At) {
			n++
		}
	}
	return n
}

// DrawPreview draws one day with what the change does. Of one host it shows what the rules take too; of several, when one of them
// works, or all if they come together.
func (l Lineup) DrawPreview(date civil.Date, zone *time.Location, d opentimes.Difference) Ribbon {
	drawer := NewDayDrawer(date, zone)
	r := drawer.Ribbon()
	if len(l.Agendas) == 1 {
		drawer.takes(&r, l)
	} else {
		for _, s := range l.hours(drawer.Day) {
			r.Open = drawer.Mark(r.Open, s, "")
		}
	}
	r.Kept, r.Gained, r.Lost = drawer.Starts(r.Kept, d.Kept), drawer.Starts(r.Gained, d.Gained), drawer.Starts(r.Lost, d.Lost)
	return r
}

// hours is when one of the hosts works, or all of them if they come together.
func (l Lineup) hours(within span.Span) span.Set {
	var out span.Set
	for i, g := range l.Agendas {
		open := g.Person.PlanFor(l.Bookable.ID).Open(within)
		switch {
		case i == 0:
			out = open
		case l.Bookable.Pool.Mode == routing.Together:
			out = out.Intersect(open)
		default:
			out = out.Or(open)
		}
	}
	return out
}

// takes draws the only host's day with what the rules take.
func (d DayDrawer) takes(r *Ribbon, l Lineup) {
	d.Background(r, l.Agendas[0])
	for _, layer := range opentimes.Layers(l.Agendas[0].Input(l.Bookable.ID, l.Bookable.Rules), d.Day, l.Bookable.Rules.Duration) {
		for _, take := range layer.Takes {
			switch layer.Rule {
			case opentimes.NoticeRule:
				r.TooSoon = d.Mark(r.TooSoon, take.Starts, "")
			case opentimes.WindowRule:
				r.Outside = d.Mark(r.Outside, take.Starts, "")
			}
		}
	}
}

// Unmade is a booking that could not be made under changed rules or hours.
type Unmade struct {
	Client  string       `json:"client" doc:"Empty where the viewer may not know."`
	Host    string       `json:"host"`
	ID      int64        `json:"id" doc:"The booking's."`
	Start   time.Time    `json:"start"`
	Reasons []told.Words `json:"reasons"`
}

// When is the agenda as it stood when the booking was made, without its busy times.
func (g Agenda) When(made sqlc.Booking) Agenda {
	then := Agenda{Person: g.Person, now: span.Instant(made.CreatedAt)}
	for _, b := range g.Taken {
		if b.ID < made.ID { // IDs rise in the order of booking
			then.Taken = append(then.Taken, b)
		}
	}
	return then
}

// outside tells whether a coming booking was within the rules and would not be under changed ones, and why. How soon a meeting is
// counts when it is booked, not afterwards.
func (g Agenda) outside(b Hosted, t trial) (Unmade, bool) {
	if b.StartAt <= int64(g.now) || t.after.Type.Name != typeLabel(b.TypeID) {
		return Unmade{}, false
	}
	before, after := without(t.before, b), without(t.after, b)
	failed := opentimes.Explain(before, StartOf(b.Booking)).Failing()
	e := opentimes.Explain(after, StartOf(b.Booking))
	broken := slices.DeleteFunc(e.Failing(), func(r opentimes.Rule) bool {
		return r == opentimes.NoticeRule || r == opentimes.WindowRule && after.Type.Window.Kind == opentimes.NextDays || slices.Contains(failed, r)
	})
	return g.UnmadeFor(b.Booking, after, broken, e), len(broken) > 0
}

// without is the input as if the booking were not made.
func without(in opentimes.Input, b Hosted) opentimes.Input {
	id := bookingLabel(b.ID)
	in.Host.Bookings = slices.DeleteFunc(slices.Clone(in.Host.Bookings), func(other opentimes.Booking) bool { return other.ID == id })
	return in
}

// StartOf is the booking's start with its length.
func StartOf(b sqlc.Booking) opentimes.Start {
	return opentimes.Start{At: span.Instant(b.StartAt), Minutes: int(b.EndAt-b.StartAt) / 60}
}

// UnmadeFor says why the rules that are broken refuse the booking.
func (g Agenda) UnmadeFor(b sqlc.Booking, in opentimes.Input, broken []opentimes.Rule, e opentimes.Explanation) Unmade {
	out := Unmade{Client: b.ClientName, Host: g.Person.Name, ID: b.ID, Start: time.Unix(b.StartAt, 0).UTC(), Reasons: []told.Words{}}
	for _, r := range e.Reasons {
		if slices.Contains(broken, r.Rule) {
			out.Reasons = append(out.Reasons, r.Say(in, opentimes.ToHost)...)
		}
	}
	return out
}
