// Package life is the life of a booking as one table: which event leads from which state to which, who may bring it about,
// and whether before or after the meeting has begun. Nothing else changes a booking's state.
package life

import (
	"fmt"
	"slices"
	"strings"
)

// State is where a booking stands.
type State string

// The states. None is a booking that doesn't exist yet.
const (
	None      State = ""
	Unproved  State = "unproved"  // the client still has to enter the code that was mailed
	Requested State = "requested" // the host still has to decide
	Booked    State = "booked"
	Attended  State = "attended"
	NoShow    State = "no-show"
	Cancelled State = "cancelled"
	Declined  State = "declined"
	Expired   State = "expired"   // nobody verified or decided it in time
	Waiting   State = "waiting"   // on the waiting list of a meeting that is full
	Offered   State = "offered"   // a seat that got free is kept for them
	Scheduled State = "scheduled" // of a session: a meeting that its hosts set on a date, whoever books it
)

// Keeps tells whether the booking's time is kept for it.
func (s State) Keeps() bool {
	return slices.Contains([]State{Unproved, Requested, Booked, Attended, NoShow, Offered, Scheduled}, s)
}

// Standing is how far a meeting can be counted on by who has a seat in it, asked for one, or had one (RFC 5545, 3.8.1.11).
type Standing string

// The standings. What is tentative can still come to nothing; what is cancelled never was, or is no more.
const (
	Confirmed Standing = "CONFIRMED"
	Tentative Standing = "TENTATIVE"
	Withdrawn Standing = "CANCELLED"
)

// Stands is the standing of a booking in a state.
func (s State) Stands() Standing {
	switch s {
	case Booked, Attended, NoShow, Scheduled:
		return Confirmed
	case Unproved, Requested, Waiting, Offered:
		return Tentative
	}
	return Withdrawn
}

// Admits tells whether whoever holds a booking's link, and whom they bring, may know how to get into the meeting: its video room and
// passcode are for who has the seat. An unproven address, a request, a waiting list and an offered seat have none yet; what was
// declined, cancelled or given away has none any more.
func (s State) Admits() bool { return s.Stands() == Confirmed }

// Event is something that happens to a booking, named as it stands in its history.
type Event string

// The events.
const (
	Hold     Event = "held"
	Request  Event = "requested"
	Book     Event = "booked"
	Approve  Event = "approved"
	Decline  Event = "declined"
	Propose  Event = "proposed" // other times, for the client to take one
	Take     Event = "taken"    // one of those times
	Expire   Event = "expired"
	Move     Event = "rescheduled"
	Reassign Event = "reassigned"
	Ask      Event = "asked" // to choose another time
	Cancel   Event = "cancelled"
	Confirm  Event = "confirmed" // the client says that they come
	Correct  Event = "corrected" // what the client wrote with it
	Attend   Event = "attended"
	Miss     Event = "no-show"
	Unmark   Event = "unmarked"   // whether they came is open again
	Queue    Event = "queued"     // on the waiting list
	Free     Event = "offered"    // a seat that got free, for a while
	Notify   Event = "notified"   // that a seat is free, for whoever is first
	Lapse    Event = "lapsed"     // the offered seat, since it wasn't taken in time
	Dismiss  Event = "dismissed"  // from the waiting list, by the host
	CallOff  Event = "called-off" // since too few people came together
	Schedule Event = "scheduled"  // a session, on its date
	Doubt    Event = "doubted"    // whether it takes place, since too few people came together; its hosts decide
	Change   Event = "changed"    // where it is, or what is special about it
	Keep     Event = "kept"       // a session takes place, though few come
	Give     Event = "given"      // a seat, to somebody else, who has one of their own from then on
)

// Actor is who brings an event about.
type Actor string

// The actors. Clock is Corrim itself, when a time limit has passed.
const (
	Client Actor = "client"
	Host   Actor = "host"
	Clock  Actor = "clock"
)

// when is when an event can happen, by the start of the meeting.
type when int

const (
	always when = iota
	ahead       // only before the meeting begins
	begun       // only once it has begun
)

type row struct {
	from  State
	event Event
	to    State
	by    []Actor
	when  when
}

var table = []row{
	{None, Hold, Unproved, []Actor{Client}, ahead},
	{None, Request, Requested, []Actor{Client}, ahead},
	{None, Book, Booked, []Actor{Client, Host}, ahead},
	{Unproved, Request, Requested, []Actor{Client}, ahead},
	{Unproved, Book, Booked, []Actor{Client}, ahead},
	{Unproved, Cancel, Cancelled, []Actor{Client}, always},
	{Unproved, Expire, Expired, []Actor{Client, Clock}, always},
	{Requested, Approve, Booked, []Actor{Host}, ahead},
	{Requested, Decline, Declined, []Actor{Host}, always},
	{Requested, Propose, Requested, []Actor{Host}, ahead},
	{Requested, Take, Booked, []Actor{Client}, always}, // the time it was requested for may have gone by
	{Requested, Move, Requested, []Actor{Client, Host}, ahead},
	{Requested, Change, Requested, []Actor{Host}, ahead},
	{Requested, Correct, Requested, []Actor{Client}, ahead},
	{Requested, Reassign, Requested, []Actor{Host}, ahead},
	{Requested, Cancel, Cancelled, []Actor{Client, Host}, ahead},
	{Requested, Expire, Expired, []Actor{Clock}, always},
	{Booked, Move, Booked, []Actor{Client, Host}, ahead},
	{Booked, Reassign, Booked, []Actor{Host}, ahead},
	{Booked, Ask, Booked, []Actor{Host}, ahead},
	{Booked, Change, Booked, []Actor{Host}, ahead},
	{Booked, Correct, Booked, []Actor{Client}, ahead},
	{Booked, Confirm, Booked, []Actor{Client}, ahead},
	{Booked, Cancel, Cancelled, []Actor{Client, Host}, ahead},
	{Booked, Give, Cancelled, []Actor{Client}, ahead},
	{Booked, Attend, Attended, []Actor{Host}, begun},
	{Booked, Miss, NoShow, []Actor{Host}, begun},
	{Attended, Miss, NoShow, []Actor{Host}, always},
	{NoShow, Attend, Attended, []Actor{Host}, always},
	{Attended, Unmark, Booked, []Actor{Host}, always},
	{NoShow, Unmark, Booked, []Actor{Host}, always},
	{None, Queue, Waiting, []Actor{Client}, ahead},
	{Waiting, Free, Offered, []Actor{Clock}, ahead},
	{Waiting, Notify, Waiting, []Actor{Clock}, ahead},
	{Waiting, Hold, Unproved, []Actor{Client}, ahead}, // whoever is first
	{Waiting, Book, Booked, []Actor{Client}, ahead},
	{Waiting, Request, Requested, []Actor{Client}, ahead},
	{Waiting, Cancel, Cancelled, []Actor{Client}, always},
	{Waiting, Dismiss, Cancelled, []Actor{Host}, always},
	{Offered, Hold, Unproved, []Actor{Client}, ahead},
	{Offered, Book, Booked, []Actor{Client}, ahead},
	{Offered, Request, Requested, []Actor{Client}, ahead},
	{Offered, Cancel, Cancelled, []Actor{Client}, always},
	{Offered, Dismiss, Cancelled, []Actor{Host}, always},
	{Offered, Lapse, Expired, []Actor{Clock}, always},
	{None, Schedule, Scheduled, []Actor{Host}, ahead},
	{Scheduled, Move, Scheduled, []Actor{Host}, ahead},
	{Scheduled, Reassign, Scheduled, []Actor{Host}, ahead},
	{Scheduled, Change, Scheduled, []Actor{Host}, ahead},
	{Scheduled, Cancel, Cancelled, []Actor{Host}, ahead},
	{Scheduled, CallOff, Cancelled, []Actor{Clock}, ahead},
	{Scheduled, Keep, Scheduled, []Actor{Host}, ahead},
	{Scheduled, Doubt, Scheduled, []Actor{Clock}, ahead},
	{Unproved, CallOff, Cancelled, []Actor{Clock}, ahead},
	{Waiting, CallOff, Cancelled, []Actor{Clock}, ahead},
	{Offered, CallOff, Cancelled, []Actor{Clock}, ahead},
	{Requested, CallOff, Cancelled, []Actor{Clock}, ahead},
	{Booked, CallOff, Cancelled, []Actor{Clock}, ahead},
}

// Refused is why an event can't happen to a booking.
type Refused struct {
	From  State
	Event Event
	Begun bool // it could, were it not for the meeting having begun, or not having
}

func (r *Refused) Error() string {
	if r.Begun {
		return fmt.Sprintf("a booking that is %q can't be %s at this time", r.From, r.Event)
	}
	return fmt.Sprintf("a booking that is %q can't be %s", r.From, r.Event)
}

// Next is the state that an event leads to, or a *Refused.
func Next(from State, event Event, by Actor, begun bool) (State, error) {
	refused := &Refused{From: from, Event: event}
	for _, r := range table {
		if r.from != from || r.event != event || !slices.Contains(r.by, by) {
			continue
		}
		if r.possible(begun) {
			return r.to, nil
		}
		refused.Begun = true
	}
	return from, refused
}

func (r row) possible(hasBegun bool) bool {
	return r.when == always || (r.when == begun) == hasBegun
}

// Diagram draws the table as a Mermaid state diagram, for the documentation.
func Diagram() string {
	var b strings.Builder
	b.WriteString("stateDiagram-v2\n")
	for _, r := range table {
		from := r.from.drawn()
		if r.from == None {
			from = "[*]"
		}
		by := make([]string, len(r.by))
		for i, actor := range r.by {
			by[i] = string(actor)
		}
		note := map[when]string{ahead: ", before it begins", begun: ", once it has begun"}[r.when]
		fmt.Fprintf(&b, "    %s --> %s: %s (%s%s)\n", from, r.to.drawn(), r.event, strings.Join(by, ", "), note)
	}
	for _, s := range []State{Attended, NoShow, Cancelled, Declined, Expired} {
		fmt.Fprintf(&b, "    %s --> [*]\n", s.drawn())
	}
	return b.String()
}

// drawn is the state in a diagram, whose names have no hyphens.
func (s State) drawn() string { return strings.ReplaceAll(string(s), "-", "_") }
