package hours

import (
	"time"

	"corrim/core/civil"
	"corrim/core/span"
)

// FromOpen finds the plan that comes to the open hours from first on for so many days: the week that most weeks are like,
// and changes for the days that differ. open must reach a day beyond the range on either side. Hours are on whole
// minutes, rounded inwards.
func FromOpen(open span.Set, zone *time.Location, first civil.Date, days int) Plan {
	byDate := map[civil.Date]Day{}
	for _, s := range open {
		for _, part := range cutLong(s, zone) {
			if date, i := intervalOf(part, zone); i.End > i.Start {
				byDate[date] = append(byDate[date], i)
			}
		}
	}
	plan := Plan{Zone: zone, Week: usualWeek(byDate, first, days)}
	for k := range days {
		date := first.AddDays(k)
		if day := byDate[date]; day.String() != plan.Week[date.Weekday()].String() && date.Exists(zone) {
			plan.Changes = appendChange(plan.Changes, date, day)
		}
	}
	return plan
}

// cutLong parts a stretch of more than a day at local midnights: an interval of a day can't hold it.
func cutLong(s span.Span, zone *time.Location) []span.Span {
	var parts []span.Span
	for {
		next := civil.DateOf(s.Start, zone).AddDays(1)
		i := Reading(s, zone)
		if i.End-i.Start <= dayMinutes {
			return append(parts, s)
		}
		midnight := next.Start(zone)
		parts = append(parts, span.Span{Start: s.Start, End: midnight})
		s.Start = midnight
	}
}

// intervalOf is a stretch as an interval of the date it starts on.
func intervalOf(s span.Span, zone *time.Location) (civil.Date, Interval) {
	return civil.DateOf(s.Start, zone), Reading(s, zone)
}

// Reading is a stretch on the wall clock of the date it starts on, in whole minutes, rounded inwards.
func Reading(s span.Span, zone *time.Location) Interval {
	from, to := civil.ClockOf(s.Start, zone), civil.ClockOf(s.End, zone)
	return Interval{(from.Seconds + 59) / 60, to.Seconds/60 + from.Date.DaysUntil(to.Date)*dayMinutes}
}

// usualWeek is, for each weekday, the hours that most of its dates have; the earliest where there are as many.
func usualWeek(byDate map[civil.Date]Day, first civil.Date, days int) Week {
	var week Week
	var counts [7]map[string]int
	for k := range days {
		date := first.AddDays(k)
		weekday := date.Weekday()
		if counts[weekday] == nil {
			counts[weekday] = map[string]int{}
		}
		day := byDate[date]
		counts[weekday][day.String()]++
		if counts[weekday][day.String()] > counts[weekday][week[weekday].String()] {
			week[weekday] = day
		}
	}
	return week
}

// appendChange makes a date's hours the given ones, joined with the change of the day before if that has the same.
func appendChange(changes []Change, date civil.Date, day Day) []Change {
	kind := Instead
	if len(day) == 0 {
		kind = Closed
	}
	if n := len(changes); n > 0 && changes[n-1].Last.AddDays(1) == date && changes[n-1].Kind == kind && changes[n-1].Day.String() == day.String() {
		changes[n-1].Last = date
		return changes
	}
	return append(changes, Change{First: date, Last: date, Kind: kind, Day: day})
}
