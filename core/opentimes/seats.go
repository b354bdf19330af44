package opentimes

import (
	"slices"

	"corrim/core/span"
	"corrim/core/strict"
	"corrim/core/told"
)

// SeatsRule: where clients share a time, a seat is left.
const SeatsRule Rule = "seats"

var seatsRule = rule{
	name: SeatsRule, title: told.Say("rule-seats", "Seats"), takes: fullOnes, short: told.Say("short-seats", "has no seat left"),
	holds: func(in Input, s Start, _ Reader) told.Words {
		switch left, of, joins := in.joined(s); {
		case !joins:
			return told.Say("seats-holds-new", "Up to {} clients share a time; nobody has booked this one yet.", in.Type.Seats)
		case left == 1:
			return told.Say("seats-holds-last", "1 seat is left of {}.", of)
		default:
			return told.Say("seats-holds", "{} seats are left of {}.", left, of)
		}
	},
	fails: func(in Input, c Cause, _ Reader) told.Words {
		if in.Type.Whole {
			return told.Say("seats-fails-series", "A session of the series is full: {} of {} seats are taken.", c.Filling.Taken, c.Filling.Seats)
		}
		return told.Say("seats-fails", "It is full: {} of {} seats are taken.", c.Filling.Taken, c.Filling.Seats)
	},
	note: func(t Type) told.Words {
		return told.Say("seats-note", "up to {} clients share a time", t.Seats)
	},
	file:  file{[]string{"seats"}, readSeats, writeSeats},
	about: func(t Type) bool { return t.Seats > 1 },
}

// MostSeats is how many clients may share a time at most.
const MostSeats = 1000

func readSeats(f map[string]strict.Node, t *Type) { t.Seats = f["seats"].Number(1, 1, MostSeats) }

func writeSeats(t Type, out map[string]any) {
	if t.Seats > 1 {
		out["seats"] = t.Seats
	}
}

// Filling is how many seats of a meeting are taken. A meeting that nobody can join has one, or none.
type Filling struct {
	Seats, Taken int
}

// Left is how many more can join.
func (f Filling) Left() int { return max(0, f.Seats-f.Taken) }

// shares tells whether clients of the type share the booking's time: then its start is open as long as a seat is left, and nothing
// else that touches it is. One of another type or length is in the way like any other.
func (in Input) shares(b Booking, minutes int) bool {
	return in.Type.Seats > 1 && b.Seats > 1 && b.Type == in.Type.Name && b.Meeting.Seconds() == int64(minutes)*60
}

// joined is how many seats are left, and of how many, in the meeting that a client who starts then would join; false if they would be
// the first.
func (in Input) joined(s Start) (left, of int, joins bool) {
	for _, b := range in.Host.Bookings {
		if b.Meeting.Start == s.At && in.shares(b, s.Minutes) {
			f := in.filling(b)
			return f.Left(), f.Seats, true
		}
	}
	return 0, 0, false
}

// SeatsLeft is how many clients can still have a start, and of how many, where it is open; and whether some have it already.
func SeatsLeft(in Input, s Start) (left, of int, joins bool) {
	if left, of, joins = in.joined(s); joins {
		return left, of, joins
	}
	seats := max(1, in.Type.Seats)
	return seats, seats, false
}

// PoolSeatsLeft tells the same of offers of a pool, and which of its hosts a client would join: those who have a meeting then that others
// share, if there are any. Together, the fewest seats count.
func PoolSeatsLeft(in Input, pool Pool) func(Offer) (left, of int, hosts []int) {
	type place struct {
		at      span.Instant
		seconds int64
	}
	shared := make([]map[place]Filling, len(pool.Hosts))
	for k, host := range pool.Hosts {
		shared[k] = map[place]Filling{}
		for _, b := range host.Bookings {
			at := place{b.Meeting.Start, b.Meeting.Seconds()}
			if _, known := shared[k][at]; !known && in.shares(b, int(at.seconds/60)) {
				shared[k][at] = in.filling(b)
			}
		}
	}
	return func(o Offer) (left, of int, hosts []int) {
		for _, k := range o.Hosts {
			f, joins := shared[k][place{o.At, int64(o.Minutes) * 60}]
			if !joins {
				continue
			}
			if len(hosts) == 0 || (f.Left() < left) == pool.Together {
				left, of = f.Left(), f.Seats
			}
			hosts = append(hosts, k)
		}
		if len(hosts) == 0 {
			seats := max(1, in.Type.Seats)
			return seats, seats, o.Hosts
		}
		return left, of, hosts
	}
}

// fullOnes refuses the starts of meetings that have no seat left.
func fullOnes(q *query, take func(Take)) {
	for _, b := range q.Host.Bookings {
		if f := q.filling(b); q.shares(b, q.minutes) && f.Left() == 0 && q.starts.Holds(b.Meeting.Start) {
			take(Take{instant(b.Meeting.Start), Cause{Span: b.Meeting, Booking: b.ID, Filling: f}})
		}
	}
}

func instant(at span.Instant) span.Span { return span.Span{Start: at, End: at + 1} }

// sharedStarts are the starts at which clients join a meeting that stands, of those that are wanted, in order. Whoever joins adds no
// meeting: neither other bookings nor limits nor the grid have a say in it.
func (q *query) sharedStarts(wanted func(Booking) bool) (out []span.Instant) {
	if q.Type.Seats <= 1 {
		return nil
	}
	for _, b := range q.Host.Bookings {
		if q.shares(b, q.minutes) && wanted(b) {
			out = append(out, b.Meeting.Start)
		}
	}
	slices.Sort(out)
	return slices.Compact(out)
}

// around takes a stretch of starts without some of them, which are in order.
func around(leave []span.Instant, t Take, take func(Take)) {
	first, _ := slices.BinarySearch(leave, t.Starts.Start)
	for _, start := range leave[first:] {
		if start >= t.Starts.End {
			break
		}
		if part := (span.Span{Start: t.Starts.Start, End: start}); !part.Empty() {
			take(Take{part, t.Cause})
		}
		t.Starts.Start = start + 1
	}
	if !t.Starts.Empty() {
		take(t)
	}
}

// next is the first start at or after an instant that is on the grid, or at which a meeting stands that others can join.
func (q *query) next(i span.Instant) span.Instant {
	next := q.grid.next(i)
	if k, _ := slices.BinarySearch(q.joins, i); k < len(q.joins) {
		return min(next, q.joins[k])
	}
	return next
}
