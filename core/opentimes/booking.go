package opentimes

// clearOfBookings refuses starts whose meeting or buffers would overlap an existing booking or its buffers: the buffers
// of neighbours are each kept whole.
func clearOfBookings(q *query, take func(Take)) {
	reach := q.reach()
	for _, b := range q.Host.Bookings {
		if kept := b.kept(); kept.Overlaps(reach) {
			take(Take{q.reachingInto(kept), Cause{Span: b.Meeting, Booking: b.ID}})
		}
	}
}
