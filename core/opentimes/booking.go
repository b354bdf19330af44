package opentimes

import "corrim/core/span"

// clearOfBookings refuses starts whose meeting would overlap an existing booking or its buffers, or whose buffers would
// overlap its meeting. The buffers of neighbours are each kept whole, unless the workspace lets them share time.
func clearOfBookings(q *query, take func(Take)) {
	reach := q.reach()
	for _, b := range q.Host.Bookings {
		kept := b.kept()
		if !kept.Overlaps(reach) {
			continue
		}
		refused := q.reachingInto(kept)
		if q.ShareBuffers {
			refused = q.sharing(b.Meeting, kept)
		}
		take(Take{refused, Cause{Span: b.Meeting, Booking: b.ID}})
	}
}

// sharing is the starts whose meeting overlaps the kept time or whose own kept time overlaps the meeting; both conditions
// hold around the meeting, so together they are one stretch.
func (q *query) sharing(meeting, kept span.Span) span.Span {
	mine := q.reachingInto(meeting)
	return span.Span{Start: min(mine.Start, kept.Start-span.Instant(q.duration)+1), End: max(mine.End, kept.End)}
}
