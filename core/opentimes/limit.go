package opentimes

import (
	"corrim/core/civil"
	"corrim/core/span"
)

// Limit bounds the bookings of one host by local day or by week. Either Count or Minutes counts.
type Limit struct {
	Of      LimitOf
	Per     LimitPer
	Count   int
	Minutes int  // without buffers
	ByTime  bool // Minutes counts instead of Count
}

// LimitOf is which bookings a limit counts.
type LimitOf int

// LimitPer is the time that a limit is for.
type LimitPer int

// What limits count.
const (
	OfType LimitOf = iota // bookings of this meeting type with this host
	OfHost                // all bookings of this host
)

// For which time they count it.
const (
	PerDay  LimitPer = iota // the host's local day on which a booking starts
	PerWeek                 // the week beginning on the workspace's first weekday
)

// Reached is a limit that a booking would exceed, and how much of it is used.
type Reached struct {
	Limit
	Used int // bookings, or minutes
}

// withinLimits refuses all starts of the days or weeks in which one booking more would exceed a limit. The cause is the
// day or week.
func withinLimits(q *query, take func(Take)) {
	for _, limit := range q.Type.Limits {
		used := q.used(limit)
		first := q.bucket(limit.Per, q.starts.Start)
		for bucket := first; bucket.Start(q.Host.Hours.Zone) < q.starts.End; bucket = bucket.AddDays(limit.Per.days()) {
			if limit.allows(used[bucket], q.minutes) {
				continue
			}
			zone := q.Host.Hours.Zone
			full := span.Span{Start: bucket.Start(zone), End: bucket.AddDays(limit.Per.days()).Start(zone)}
			take(Take{full, Cause{Span: full, Limit: &Reached{limit, used[bucket]}}})
		}
	}
}

// allows tells whether a booking of so many minutes may be added to what is used.
func (l Limit) allows(used, minutes int) bool {
	if l.ByTime {
		return used+minutes <= l.Minutes
	}
	return used+1 <= l.Count
}

// used adds up the bookings that the limit counts, by the first date of their day or week.
func (q *query) used(l Limit) map[civil.Date]int {
	used := map[civil.Date]int{}
	for _, b := range q.Host.Bookings {
		if l.Of == OfType && b.Type != q.Type.Name {
			continue
		}
		amount := 1
		if l.ByTime {
			amount = int(b.Meeting.Seconds() / 60)
		}
		used[q.bucket(l.Per, b.Meeting.Start)] += amount
	}
	return used
}

// bucket is the first date of the day or week that an instant belongs to.
func (q *query) bucket(per LimitPer, i span.Instant) civil.Date {
	date := civil.DateOf(i, q.Host.Hours.Zone)
	if per == PerDay {
		return date
	}
	return date.Week(q.FirstWeekday)
}

func (p LimitPer) days() int {
	if p == PerWeek {
		return 7
	}
	return 1
}
