package opentimes

import (
	"corrim/core/hours"
	"corrim/core/span"
)

// withinHours refuses starts whose meeting would not lie wholly inside the host's open hours, and inside the type's own
// if it has some. Buffers may run past them, unless the type keeps them inside. The cause is the closed time that the
// meeting would reach into.
func withinHours(q *query, take func(Take)) {
	q.within(q.Host.Hours, take)
	if own := q.Type.Hours; own != nil {
		plan := *own
		if plan.Zone == nil {
			plan.Zone = q.Host.Hours.Zone
		}
		q.within(plan, take)
	}
}

func (q *query) within(plan hours.Plan, take func(Take)) {
	before, length := int64(0), q.duration
	if q.Type.BuffersInsideOpen {
		before, length = q.before, q.duration+q.after
	}
	// A day more on either side, so that the closed time given as the cause is the whole of it.
	around := q.reach().Grow(daySeconds, daySeconds)
	for _, closed := range plan.Open(around).Complement(around) {
		// A meeting [s−before, s+length) reaches into [x, y) if x − length < s < y + before.
		take(Take{span.Span{Start: closed.Start - span.Instant(length) + 1, End: closed.End + span.Instant(before)}, Cause{Span: closed}})
	}
}

const daySeconds = 24 * 60 * 60
