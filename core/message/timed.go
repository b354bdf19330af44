package message

import (
	"cmp"
	"slices"
	"time"

	"corrim/core/life"
	"corrim/core/span"
	"corrim/core/told"
)

// Rule is a message that the clock brings about: so long before meetings start, or after they end.
type Rule struct {
	ID       int64  `json:"id" doc:"Stays; 0 for one that is new."`
	Receiver string `json:"receiver" enum:"client,hosts"`
	Minutes  int    `json:"minutes" doc:"Before the start or after the end, 1 to 43200."`
	Side     string `json:"side" enum:"before,after"`
	If       string `json:"if" enum:"always,unconfirmed,first,attended,missed" doc:"Only clients who have not said that they come; who never were booked before; who were marked as there, or as missing. After a meeting, always is unless they were marked as missing."`
}

// What the fields of a Rule say.
const (
	ToClient = "client"
	ToHosts  = "hosts"

	Before = "before"
	After  = "after"

	Always      = "always"
	Unconfirmed = "unconfirmed"
	First       = "first"
	Attended    = "attended"
	Missed      = "missed"
)

// Messages that the clock brings about.
const (
	ClientReminder Kind = "client-reminder"
	ClientThanks   Kind = "client-thanks"
	ClientMissed   Kind = "client-missed"
	HostReminder   Kind = "host-reminder"
)

const longestOffset = 30 * 24 * 60 // minutes

// MostRules is how many there may be.
const MostRules = 20

// Meeting is what counts of a booking for that.
type Meeting struct {
	Span      span.Span
	Since     span.Instant // when it was booked, or moved to this time
	State     life.State
	Confirmed bool // the client has said that they come
	First     bool // the client's first meeting here
}

// Fault is what is wrong with a rule, if something is.
func (r Rule) Fault() told.Words {
	switch {
	case r.Minutes < 1 || r.Minutes > longestOffset:
		return told.Say("message-minutes", "A message goes out between a minute and 30 days before or after the meeting.")
	case r.Side == Before && (r.If == Attended || r.If == Missed):
		return told.Say("message-marked-before", "Whether they were there isn't known before the meeting, so this would never be sent. Choose another condition, or send it afterwards.")
	case r.Side == After && r.If == Unconfirmed:
		return told.Say("message-unconfirmed-after", "Afterwards nobody says any more that they come. Choose whether they were there instead.")
	case r.Side == After && r.Receiver == ToHosts:
		return told.Say("message-hosts-after", "Hosts are only reminded before a meeting.")
	}
	return told.Words{}
}

// Faults is what is wrong with rules, by their places.
func Faults(rules []Rule) map[int]told.Words {
	faults := map[int]told.Words{}
	for i, r := range rules {
		same := func(other Rule) bool { r.ID, other.ID = 0, 0; return r == other }
		if fault := r.Fault(); fault.Any() {
			faults[i] = fault
		} else if slices.ContainsFunc(rules[:i], same) {
			faults[i] = told.Say("message-twice", "This message is there already.")
		}
	}
	return faults
}

// Kind is the message that a rule sends.
func (r Rule) Kind() Kind {
	switch {
	case r.Receiver == ToHosts:
		return HostReminder
	case r.Side == Before:
		return ClientReminder
	case r.If == Missed:
		return ClientMissed
	}
	return ClientThanks
}

// Due is when a rule's message about a meeting goes out. There is none if the moment lies before the meeting was booked or moved:
// its client has just been told then.
func (r Rule) Due(m Meeting) (at span.Instant, some bool) {
	offset := time.Duration(r.Minutes) * time.Minute
	if r.Side == After {
		at = m.Span.End.Add(offset)
	} else {
		at = m.Span.Start.Add(-offset)
	}
	return at, at > m.Since
}

// Holds tells whether a rule's message about a meeting is true as things stand.
func (r Rule) Holds(m Meeting) bool {
	standing := m.State == life.Booked || r.Side == After && m.State == life.Attended
	switch r.If {
	case Unconfirmed:
		return standing && !m.Confirmed
	case First:
		return standing && m.First
	case Attended:
		return m.State == life.Attended
	case Missed:
		return m.State == life.NoShow
	}
	return standing
}

// may tells whether it can still become true, by what a host may mark afterwards.
func (r Rule) may(m Meeting) bool {
	if m.State == life.Booked && (r.If == Attended || r.If == Missed) {
		return true
	}
	return r.Holds(m)
}

// Grace is how late a message may go out, if something held it up; afterwards it is no use any more.
func (r Rule) Grace() time.Duration {
	if r.Side == After {
		return 24 * time.Hour
	}
	return min(time.Hour, time.Duration(r.Minutes)*time.Minute/2)
}

// Coming is a message that will go out.
type Coming struct {
	At      span.Instant
	Rule    int // its place
	Meeting int // its place
}

// Ahead is the messages of rules about meetings that will go out after now, as things stand, the first one first.
func Ahead(rules []Rule, meetings []Meeting, now span.Instant) []Coming {
	var out []Coming
	for i, r := range rules {
		for j, m := range meetings {
			if at, some := r.Due(m); some && at > now && r.may(m) {
				out = append(out, Coming{at, i, j})
			}
		}
	}
	slices.SortFunc(out, func(a, b Coming) int {
		return cmp.Or(cmp.Compare(a.At, b.At), cmp.Compare(a.Meeting, b.Meeting), cmp.Compare(a.Rule, b.Rule))
	})
	return out
}
