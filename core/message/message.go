// Package message is what Corrim writes to people: which message goes to whom on what occasion, as one table, and its words in each
// language. It sends nothing.
package message

import (
	"slices"

	"corrim/core/life"
)

// Kind names a message, as its words are named in each language's file.
type Kind string

// Audience is whom a message is for.
type Audience int

// The audiences. Guests are those whom a client brings; hosts are all who hold the meeting or have just handed it over.
const (
	Client Audience = iota
	Guests
	Hosts
	Person // somebody who works here, about themself
)

// RoomReady is the occasion that a video room came after a meeting had been told without one. It is no event in a booking's life.
const RoomReady life.Event = "room"

// Occasion is a step of a booking, with all that decides who is told of it.
type Occasion struct {
	Event   life.Event
	Invited bool // an invitation has gone out, or goes out now
	Guests  bool // the client brings some
	Place   bool // the client has said where one meets
	Waits   bool // the client has no seat yet, but is on the waiting list
	Session bool // it is a session itself, not a client's seat in one
}

type entry struct {
	kind     Kind
	audience Audience
	on       []life.Event
	while    func(Occasion) bool // nil: always
}

var invited = []life.Event{life.Book, life.Approve, life.Take, life.Move, life.Reassign, life.Change, RoomReady}

// Invites tells whether a step brings an invitation to a meeting that stands.
func Invites(event life.Event) bool { return slices.Contains(invited, event) }

// seat tells that it is about a client's seat, not about a session itself.
func seat(o Occasion) bool { return !o.Session }

// table is every message that a step of a booking brings about. One that no row lists tells nobody anything.
var table = []entry{
	{"client-held", Client, []life.Event{life.Hold}, nil},
	{"client-requested", Client, []life.Event{life.Request}, nil},
	{"client-booked", Client, []life.Event{life.Book, life.Approve, life.Take}, nil},
	{"client-moved", Client, []life.Event{life.Move}, func(o Occasion) bool { return !o.Waits }},
	{ListMoved, Client, []life.Event{life.Move}, func(o Occasion) bool { return o.Waits }},
	{"client-cancelled", Client, []life.Event{life.Cancel}, nil},
	{"client-handed", Client, []life.Event{life.Reassign}, nil},
	{"client-room", Client, []life.Event{RoomReady}, nil},
	{"client-changed", Client, []life.Event{life.Change}, func(o Occasion) bool { return o.Invited }},
	{"client-corrected", Client, []life.Event{life.Correct}, nil},
	{"client-asked", Client, []life.Event{life.Ask}, nil},
	{"client-proposed", Client, []life.Event{life.Propose}, nil},
	{"client-declined", Client, []life.Event{life.Decline}, nil},
	{"client-expired", Client, []life.Event{life.Expire}, nil},
	{"client-queued", Client, []life.Event{life.Queue}, nil},
	{"client-offered", Client, []life.Event{life.Free}, nil},
	{"client-notified", Client, []life.Event{life.Notify}, nil},
	{"client-given", Client, []life.Event{life.Give}, nil},
	{"client-dismissed", Client, []life.Event{life.Dismiss}, nil},
	{"client-called-off", Client, []life.Event{life.CallOff}, nil},
	{"guest-invited", Guests, invited, func(o Occasion) bool { return o.Invited && o.Guests }},
	{"guest-invited", Guests, []life.Event{life.Correct}, func(o Occasion) bool { return o.Invited && o.Guests && o.Place }},
	{"guest-cancelled", Guests, []life.Event{life.Cancel, life.CallOff, life.Give}, func(o Occasion) bool { return o.Invited && o.Guests }},
	{"host-booked", Hosts, []life.Event{life.Book}, nil},
	{"host-requested", Hosts, []life.Event{life.Request}, nil},
	{"host-approved", Hosts, []life.Event{life.Approve}, nil},
	{"host-taken", Hosts, []life.Event{life.Take}, nil},
	{SessionNews, Hosts, []life.Event{life.Schedule, life.Move, life.Reassign, life.Cancel}, func(o Occasion) bool { return o.Session }},
	{"host-moved", Hosts, []life.Event{life.Move}, seat},
	{"host-cancelled", Hosts, []life.Event{life.Cancel}, seat},
	{"host-given", Hosts, []life.Event{life.Give}, nil},
	{"host-doubted", Hosts, []life.Event{life.Doubt}, nil},
	{"host-called-off", Hosts, []life.Event{life.CallOff}, nil},
	{"host-handed", Hosts, []life.Event{life.Reassign}, seat},
	{"host-room", Hosts, []life.Event{RoomReady}, nil},
	{"host-corrected", Hosts, []life.Event{life.Correct}, nil},
	{"host-expired", Hosts, []life.Event{life.Expire}, nil},
}

// Messages that no step of a booking brings about.
const (
	StaffInvited    Kind = "staff-invited"
	SignedIn        Kind = "account-sign-in"
	Guessed         Kind = "account-guessed"
	PasswordChanged Kind = "account-password"
	AddressChanged  Kind = "account-address"
	PasswordReset   Kind = "account-reset"
	CalendarTrouble Kind = "calendar-trouble"
	Offer           Kind = "offer"
	ClientWritten   Kind = "client-written" // a host wrote to all who come
	Morning         Kind = "host-morning"
	HostAnswered    Kind = "host-answered"  // a client answered the invitation in a way that a host has to decide about
	HostForwarded   Kind = "host-forwarded" // somebody answered a mail
)

// Messages that two occasions of one step are told apart by.
const (
	ListMoved   Kind = "client-list-moved" // to whoever waits for a seat, instead of client-moved
	SessionNews Kind = "host-session"      // of a session that nobody has booked
)

// Planned is a message that is to go out.
type Planned struct {
	Kind     Kind
	Audience Audience
}

// Plan is every message that an occasion brings about.
func Plan(o Occasion) []Planned {
	var out []Planned
	for _, e := range table {
		if slices.Contains(e.on, o.Event) && (e.while == nil || e.while(o)) {
			out = append(out, Planned{e.kind, e.audience})
		}
	}
	return out
}

// For is the message that an occasion brings to an audience, if there is one.
func For(o Occasion, audience Audience) (Kind, bool) {
	for _, p := range Plan(o) {
		if p.Audience == audience {
			return p.Kind, true
		}
	}
	return "", false
}

// Kinds lists all messages once.
func Kinds() []Kind {
	out := []Kind{StaffInvited, SignedIn, Guessed, PasswordChanged, AddressChanged, PasswordReset, CalendarTrouble, Offer, ClientWritten, Morning, HostAnswered, HostForwarded, ClientReminder, ClientThanks, ClientMissed, GuestReminder, HostReminder, OfficeNote}
	for _, e := range table {
		if !slices.Contains(out, e.kind) {
			out = append(out, e.kind)
		}
	}
	return out
}
