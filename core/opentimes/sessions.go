package opentimes

import (
	"slices"

	"corrim/core/phrase"
	"corrim/core/span"
	"corrim/core/strict"
	"corrim/core/told"
)

// SessionsRule: where clients come on dates that are set, a session stands.
const SessionsRule Rule = "sessions"

var sessionsRule = rule{
	name: SessionsRule, title: told.Say("rule-sessions", "Sessions"), takes: withoutSession, short: told.Say("short-sessions", "has no session then"),
	holds: always(told.Say("sessions-holds", "A session is set then.")),
	fails: noSession,
	note:  func(Type) told.Words { return told.Say("sessions-note", "on dates that are set") },
	file:  file{[]string{"sessions"}, readSessions, writeSessions},
	about: func(t Type) bool { return t.Sessions },
}

func readSessions(f map[string]strict.Node, t *Type) { t.Sessions = f["sessions"].Flag(false) }

func writeSessions(t Type, out map[string]any) {
	if t.Sessions {
		out["sessions"] = true
	}
}

// withoutSession refuses all starts but those of meetings that stand, where clients come on dates that are set. Its cause reaches to the
// next of these; it is empty if there is none.
func withoutSession(q *query, take func(Take)) {
	if !q.Type.Sessions {
		return
	}
	around(q.joins, Take{Starts: q.starts}, func(t Take) {
		if k, _ := slices.BinarySearch(q.joins, t.Starts.Start); k < len(q.joins) {
			t.Cause.Span = span.Span{Start: t.Starts.Start, End: q.joins[k]}
		}
		take(t)
	})
}

func noSession(_ Input, c Cause, by Reader) told.Words {
	switch {
	case c.Span.Empty():
		return told.Say("sessions-fails-none", "No session is set then, and none comes after it.")
	case phrase.Date(c.Span.Start, by.Zone) == phrase.Date(c.Span.End, by.Zone):
		return told.Say("sessions-fails-clock", "No session is set then; the next is {}.", told.Clock(c.Span.End, by.Zone))
	}
	return told.Say("sessions-fails", "No session is set then; the next is {}.", told.At(c.Span.End, by.Zone))
}

// atSession tells whether a session stands at a start.
func (in Input) atSession(s Start) bool {
	return slices.ContainsFunc(in.Host.Bookings, func(b Booking) bool {
		return b.Session && b.Meeting.Start == s.At && in.shares(b, s.Minutes)
	})
}

// Full is at which starts within a range nothing but seats is missing, in order: of a pool, at none of its hosts is one left.
func Full(in Input, pool Pool, within span.Span, minutes int) (out []Start) {
	for _, host := range pool.Hosts {
		in.Host = host
		for _, b := range host.Bookings {
			s := Start{b.Meeting.Start, minutes}
			if within.Holds(s.At) && in.filling(b).Left() == 0 && in.shares(b, minutes) && slices.Equal(Explain(in, s).Failing(), []Rule{SeatsRule}) {
				out = append(out, s)
			}
		}
	}
	open := func(s Start) bool {
		return slices.ContainsFunc(pool.Hosts, func(h Host) bool { in.Host = h; return !pool.Together && Explain(in, s).Open })
	}
	slices.SortFunc(out, func(a, b Start) int { return int(a.At - b.At) })
	return slices.DeleteFunc(slices.Compact(out), open)
}
