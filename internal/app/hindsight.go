package app

import (
	"context"
	"slices"
	"time"

	"corrim/core/opentimes"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/store/sqlc"
)

// Unmade is a booking that could not be made under changed rules or hours.
type Unmade struct {
	Client  string       `json:"client" doc:"Empty where the viewer may not know."`
	Host    string       `json:"host"`
	ID      int64        `json:"id" doc:"The booking's."`
	Start   time.Time    `json:"start"`
	Reasons []told.Words `json:"reasons"`
}

const hindsightDays = 90

// hindsight holds the last months' bookings of a type against changed rules, each at the moment it was made, for the host who had
// it, and with the bookings that stood then. What the calendars held is not known any more, so the rule busy is left out; and so
// are bookings that the saved rules would not have allowed either. host, if not 0, is whose bookings are looked at.
func (a *App) hindsight(ctx context.Context, viewer Person, saved MeetingType, changed TypeRules, host int64) (count int, unmade []Unmade, err error) {
	now := a.Now()
	within := span.Of(now.AddDate(0, 0, -hindsightDays), now)
	l, _, err := a.crew(ctx, a.Store.Queries, viewer, saved, host, within)
	unmade = []Unmade{}
	if err != nil {
		return 0, unmade, err
	}
	for _, all := range l.agendas {
		for _, b := range all.bookings {
			if b.TypeID != saved.ID || b.HostID != all.person.ID || !within.Holds(span.Instant(b.StartAt)) {
				continue // another type's, or one of another host whom this one only joined
			}
			count++
			then := all.when(b.Booking)
			before, after := then.input(saved.ID, saved.Rules), then.input(saved.ID, changed)
			wanted := startOf(b.Booking)
			if !opentimes.Explain(before, wanted).Open {
				continue
			}
			wanted.Minutes = changed.nearestLength(wanted.Minutes)
			if e := opentimes.Explain(after, wanted); !e.Open {
				unmade = append(unmade, all.unmadeFor(b.Booking, after, e.Failing(), e))
			}
		}
	}
	slices.SortStableFunc(unmade, func(a, b Unmade) int { return a.Start.Compare(b.Start) })
	return count, unmade, nil
}

// when is the agenda as it stood when the booking was made, without its busy times.
func (g agenda) when(made sqlc.Booking) agenda {
	then := agenda{person: g.person, now: span.Instant(made.CreatedAt)}
	for _, b := range g.taken {
		if b.ID < made.ID { // IDs rise in the order of booking
			then.taken = append(then.taken, b)
		}
	}
	return then
}

// outside tells whether a coming booking was within the rules and would not be under changed ones, and why. How soon a meeting is
// counts when it is booked, not afterwards.
func (g agenda) outside(b hosted, t trial) (Unmade, bool) {
	if b.StartAt <= int64(g.now) || t.after.Type.Name != typeLabel(b.TypeID) {
		return Unmade{}, false
	}
	before, after := without(t.before, b), without(t.after, b)
	failed := opentimes.Explain(before, startOf(b.Booking)).Failing()
	e := opentimes.Explain(after, startOf(b.Booking))
	broken := slices.DeleteFunc(e.Failing(), func(r opentimes.Rule) bool {
		return r == opentimes.NoticeRule || r == opentimes.WindowRule && after.Type.Window.Kind == opentimes.NextDays || slices.Contains(failed, r)
	})
	return g.unmadeFor(b.Booking, after, broken, e), len(broken) > 0
}

// without is the input as if the booking were not made.
func without(in opentimes.Input, b hosted) opentimes.Input {
	id := bookingLabel(b.ID)
	in.Host.Bookings = slices.DeleteFunc(slices.Clone(in.Host.Bookings), func(other opentimes.Booking) bool { return other.ID == id })
	return in
}

// startOf is the booking's start with its length.
func startOf(b sqlc.Booking) opentimes.Start {
	return opentimes.Start{At: span.Instant(b.StartAt), Minutes: int(b.EndAt-b.StartAt) / 60}
}

// unmadeFor says why the rules that are broken refuse the booking.
func (g agenda) unmadeFor(b sqlc.Booking, in opentimes.Input, broken []opentimes.Rule, e opentimes.Explanation) Unmade {
	out := Unmade{Client: b.ClientName, Host: g.person.Name, ID: b.ID, Start: time.Unix(b.StartAt, 0).UTC(), Reasons: []told.Words{}}
	for _, r := range e.Reasons {
		if slices.Contains(broken, r.Rule) {
			out.Reasons = append(out.Reasons, r.Say(in, opentimes.ToHost)...)
		}
	}
	return out
}
