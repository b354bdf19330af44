package settings

import (
	"context"
	"slices"

	"corrim/core/opentimes"
	"corrim/core/span"
	"corrim/internal/schedule"
)

const hindsightDays = 90

// hindsight holds the last months' bookings of a type against changed rules, each at the moment it was made, for the host who had
// it, and with the bookings that stood then. What the calendars held is not known any more, so the rule busy is left out; and so
// are bookings that the saved rules would not have allowed either. host, if not 0, is whose bookings are looked at.
func (s *Settings) hindsight(ctx context.Context, viewer schedule.Person, saved schedule.MeetingType, changed schedule.TypeRules, host int64) (count int, unmade []schedule.Unmade, err error) {
	now := s.now()
	within := span.Of(now.AddDate(0, 0, -hindsightDays), now)
	l, _, err := s.Crew(ctx, s.store.Queries, viewer, saved, host, within)
	unmade = []schedule.Unmade{}
	if err != nil {
		return 0, unmade, err
	}
	for _, all := range l.Agendas {
		for _, b := range all.Bookings {
			if b.TypeID != saved.ID || b.HostID != all.Person.ID || !within.Holds(span.Instant(b.StartAt)) {
				continue // another type's, or one of another host whom this one only joined
			}
			count++
			then := all.When(b.Booking)
			before, after := then.Input(saved.ID, saved.Rules), then.Input(saved.ID, changed)
			wanted := schedule.StartOf(b.Booking)
			if !opentimes.Explain(before, wanted).Open {
				continue
			}
			wanted.Minutes = changed.NearestLength(wanted.Minutes)
			if e := opentimes.Explain(after, wanted); !e.Open {
				unmade = append(unmade, all.UnmadeFor(b.Booking, after, e.Failing(), e))
			}
		}
	}
	slices.SortStableFunc(unmade, func(a, b schedule.Unmade) int { return a.Start.Compare(b.Start) })
	return count, unmade, nil
}
