package app

import (
	"context"
	"time"

	"corrim/core/opentimes"
	"corrim/core/span"
	"corrim/core/wording"
	"corrim/internal/store/sqlc"
)

// Unmade is a past booking that could not have been made under changed rules.
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
		before := then.input(saved.ID, saved.Rules)
		after := then.input(saved.ID, changed)
		wanted := func(rules TypeRules) opentimes.Start {
			return opentimes.Start{At: span.Instant(b.StartAt), Minutes: rules.Duration}
		}
		if !opentimes.Explain(before, wanted(saved.Rules)).Open {
			continue
		}
		if e := opentimes.Explain(after, wanted(changed)); !e.Open {
			unmade = append(unmade, Unmade{b.ClientName, time.Unix(b.StartAt, 0).UTC(), failures(after, e)})
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

func failures(in opentimes.Input, e opentimes.Explanation) []string {
	var out []string
	for _, r := range e.Reasons {
		if !r.Holds {
			out = append(out, wording.Reason(in, r, true)...)
		}
	}
	return out
}
