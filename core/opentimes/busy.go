package opentimes

import (
	"cmp"
	"slices"
	"sort"

	"corrim/core/span"
	"corrim/core/strict"
	"corrim/core/told"
)

// BusyRule: meeting and buffers touch nothing in the host's calendars, unless the type ignores these.
const BusyRule Rule = "busy"

var busyRule = rule{
	name: BusyRule, title: told.Say("rule-busy", "Busy"), takes: clearOfBusy, yields: true, short: told.Say("short-busy", "is busy"),
	holds: func(in Input, _ Start, _ Reader) told.Words {
		if in.Type.IgnoreBusy {
			return told.Say("busy-holds-ignored", "Nothing that was blocked is in the way; what calendars say doesn't count.")
		}
		return told.Say("busy-holds", "Nothing in the calendars is in the way.")
	},
	fails: busyFails,
	note: func(t Type) told.Words {
		if t.IgnoreBusy {
			return told.Say("busy-note-ignored", "calendars don't count")
		}
		return told.Say("busy-note", "the host's calendars")
	},
	file: file{[]string{"ignore_calendars"}, readBusy, writeBusy},
}

func busyFails(_ Input, c Cause, by Reader) told.Words {
	when := told.During(c.Span, by.Zone)
	calendar, title := told.Plain(c.Calendar), c.Says
	if c.Blocked {
		calendar = told.Say("blocked-here", "blocked here")
	}
	if !title.Any() {
		title = told.Plain(c.Title)
	}
	if !by.Titles {
		title, calendar = told.Words{}, told.Words{}
	}
	switch {
	case title.Any() && calendar.Any():
		return told.Say("busy-fails-titled", "“{}” ({}) {}.", title, calendar, when)
	case title.Any():
		return told.Say("busy-fails-title", "“{}” {}.", title, when)
	case calendar.Any():
		return told.Say("busy-fails-calendar", "Busy ({}) {}.", calendar, when)
	}
	return told.Say("busy-fails", "Busy {}.", when)
}

// BusySettings is whether the hosts' calendars count. Other bookings do anyway.
type BusySettings struct {
	IgnoreCalendars bool `json:"ignoreCalendars,omitempty" doc:"What is in the hosts' calendars keeps nothing closed."`
}

func (*BusySettings) group() (string, Rule) { return "busy", BusyRule }

func (*BusySettings) check(func(string, told.Words)) {}

func (b *BusySettings) apply(t *Type) { t.IgnoreBusy = b.IgnoreCalendars }

func (b *BusySettings) example(e *Example) {
	lunch := NewAgenda([]Stretch{{Span: span.Span{Start: at(exampleDay, 14*60), End: at(exampleDay, 15*60)}, Title: "Dentist"}})
	e.With.Host.Busy, e.Without.Host.Busy = lunch, NewAgenda(nil)
	e.Says = told.Say("example-busy", "A calendar says “Dentist”, from 14:00 to 15:00: what is struck out is closed by it.")
	if b.IgnoreCalendars {
		e.Without.Host.Busy = lunch
		e.Says = told.Say("example-busy-ignored", "A calendar says “Dentist”, from 14:00 to 15:00: what rises is open all the same.")
	}
}

func readBusy(f map[string]strict.Node, t *Type) { t.IgnoreBusy = f["ignore_calendars"].Flag(false) }

func writeBusy(t Type, out map[string]any) {
	if t.IgnoreBusy {
		out["ignore_calendars"] = true
	}
}

// Stretch is a busy stretch of one of the host's calendars.
type Stretch struct {
	span.Span
	Calendar string
	Title    string     // private to the host
	Says     told.Words // in its place, where the program says something itself
	Blocked  bool       // by the host here, not in a calendar: it counts for every type
}

// Agenda is busy stretches made ready for asking: in order, and with the latest end up to each, so that what lies
// outside a range costs the logarithm of its number. The zero value is never busy.
type Agenda struct {
	stretches []Stretch
	latestEnd []span.Instant
}

// NewAgenda takes stretches in any order; they may overlap. Empty ones block nothing and are left out.
func NewAgenda(stretches []Stretch) Agenda {
	kept := make([]Stretch, 0, len(stretches))
	for _, s := range stretches {
		if !s.Empty() {
			kept = append(kept, s)
		}
	}
	slices.SortStableFunc(kept, func(a, b Stretch) int { return cmp.Compare(a.Start, b.Start) })
	latest := make([]span.Instant, len(kept))
	for i, s := range kept {
		latest[i] = s.End
		if i > 0 {
			latest[i] = max(s.End, latest[i-1])
		}
	}
	return Agenda{kept, latest}
}

// overlapping returns the stretches that share an instant with the range, and perhaps some that don't.
func (a Agenda) overlapping(within span.Span) []Stretch {
	first := sort.Search(len(a.stretches), func(i int) bool { return a.latestEnd[i] > within.Start })
	end := sort.Search(len(a.stretches), func(i int) bool { return a.stretches[i].Start >= within.End })
	if end < first {
		return nil
	}
	return a.stretches[first:end]
}

// Within returns the stretches that share an instant with the range, in order.
func (a Agenda) Within(bounds span.Span) []Stretch {
	var out []Stretch
	for _, s := range a.overlapping(bounds) {
		if s.Overlaps(bounds) {
			out = append(out, s)
		}
	}
	return out
}

// clearOfBusy refuses starts whose meeting, with its buffers, would overlap a busy stretch.
func clearOfBusy(q *query, take func(Take)) {
	for _, s := range q.Host.Busy.overlapping(q.reach()) {
		if q.Type.IgnoreBusy && !s.Blocked {
			continue
		}
		take(Take{q.reachingInto(s.Span), Cause{Span: s.Span, Calendar: s.Calendar, Title: s.Title, Says: s.Says, Blocked: s.Blocked}})
	}
}

// reachingInto is the starts whose meeting, with its buffers, overlaps the span: [s−before, s+d+after) and [x, y) share
// an instant if x − d − after < s < y + before.
func (q *query) reachingInto(s span.Span) span.Span {
	return span.Span{Start: s.Start - span.Instant(q.duration+q.after) + 1, End: s.End + span.Instant(q.before)}
}
