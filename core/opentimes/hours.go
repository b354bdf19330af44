package opentimes

import "corrim/core/span"

// withinHours refuses starts whose meeting would not lie wholly inside the host's open hours; buffers may run past them.
// Its cause is the closed time that the meeting would reach into.
func withinHours(q *query, take func(Take)) {
	// A day more on either side, so that the closed time given as the cause is the whole of it.
	around := q.starts.Grow(daySeconds, daySeconds+q.duration)
	for _, closed := range q.Host.Hours.Open(around).Complement(around) {
		// A meeting [s, s+d) reaches into [x, y) if x − d < s < y.
		take(Take{span.Span{Start: closed.Start - span.Instant(q.duration) + 1, End: closed.End}, Cause{Span: closed}})
	}
}

const daySeconds = 24 * 60 * 60
