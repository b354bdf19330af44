package app

import (
	"context"
	"slices"
	"time"

	"corrim/core/opentimes"
	"corrim/core/span"
	"corrim/core/wording"
	"corrim/internal/store/sqlc"
)

// Unmade is a booking that could not be made under changed rules or hours.
type Unmade struct {
	Client  string    `json:"client"`
	Start   time.Time `json:"start"`
	Reasons []string  `json:"reasons"`
}

const hindsightDays = 90

// hindsight holds the last months' bookings of a type against changed rules, each at the moment it was made and with the
// bookings that stood then. What the calendars held is not known any more, so the rule busy is left out; and so are
// bookings that the saved rules would not have allowed either.
func (a *App) hindsight(ctx context.Context, p Person, saved MeetingType, changed TypeRules) (count int, unmade []Unmade, err error) {
	now := a.Now()
	from := now.AddDate(0, 0, -hindsightDays)
	past, err := a.Store.BookingsOfTypeBetween(ctx, sqlc.BookingsOfTypeBetweenParams{TypeID: saved.ID, RangeFrom: from.Unix(), RangeTo: now.Unix()})
	if err != nil || len(past) == 0 {
		return 0, []Unmade{}, err
	}
	all, err := a.agenda(ctx, a.Store.Queries, p, span.Of(from, now), 0)
	if err != nil {
		return 0, nil, err
	}
	unmade = []Unmade{}
	for _, b := range past {
		then := all.when(b)
		before, after := then.input(saved.ID, saved.Rules), then.input(saved.ID, changed)
		wanted := startOf(b)
		if !opentimes.Explain(before, wanted).Open {
			continue
		}
		wanted.Minutes = changed.nearestLength(wanted.Minutes)
		if e := opentimes.Explain(after, wanted); !e.Open {
			unmade = append(unmade, unmadeFor(b, after, e.Failing(), e))
		}
	}
	return len(past), unmade, nil
}

// when is the agenda as it stood when the booking was made, without its busy times.
func (g agenda) when(made sqlc.Booking) agenda {
	then := agenda{person: g.person, now: span.Instant(made.CreatedAt)}
	for _, b := range g.bookings {
		if b.ID < made.ID { // IDs rise in the order of booking
			then.bookings = append(then.bookings, b)
		}
	}
	return then
}

// leftOutside lists the coming bookings that were within the rules and would not be under changed ones. How soon a
// meeting is counts when it is booked, not afterwards.
func (g agenda) leftOutside(trials []trial) []Unmade {
	out := []Unmade{}
	for _, b := range g.bookings {
		for _, t := range trials {
			if b.StartAt <= int64(g.now) || t.after.Type.Name != typeLabel(b.TypeID) {
				continue
			}
			before, after := without(t.before, b), without(t.after, b)
			failed := opentimes.Explain(before, startOf(b.Booking)).Failing()
			e := opentimes.Explain(after, startOf(b.Booking))
			broken := slices.DeleteFunc(e.Failing(), func(r opentimes.Rule) bool {
				return r == opentimes.NoticeRule || r == opentimes.WindowRule && after.Type.Window.Kind == opentimes.NextDays || slices.Contains(failed, r)
			})
			if len(broken) > 0 {
				out = append(out, unmadeFor(b.Booking, after, broken, e))
			}
		}
	}
	return out
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
func unmadeFor(b sqlc.Booking, in opentimes.Input, broken []opentimes.Rule, e opentimes.Explanation) Unmade {
	out := Unmade{Client: b.ClientName, Start: time.Unix(b.StartAt, 0).UTC(), Reasons: []string{}}
	for _, r := range e.Reasons {
		if slices.Contains(broken, r.Rule) {
			out.Reasons = append(out.Reasons, wording.Reason(in, r, wording.Host)...)
		}
	}
	return out
}
