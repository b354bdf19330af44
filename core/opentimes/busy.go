package opentimes

import (
	"cmp"
	"slices"
	"sort"

	"corrim/core/phrase"
	"corrim/core/span"
	"corrim/core/strict"
)

// BusyRule: meeting and buffers touch nothing in the host's calendars, unless the type ignores these.
const BusyRule Rule = "busy"

var busyRule = rule{
	name: BusyRule, title: "Busy", takes: clearOfBusy, short: "is busy",
	holds: func(in Input, _ Reader) string {
		if in.Type.IgnoreBusy {
			return "Nothing that was blocked is in the way; what calendars say doesn't count."
		}
		return "Nothing in the calendars is in the way."
	},
	fails: func(_ Input, c Cause, by Reader) string {
		what := "Busy"
		if by.Titles && c.Title != "" {
			what = "“" + c.Title + "”"
		}
		if by.Titles && c.Calendar != "" {
			what += " (" + c.Calendar + ")"
		}
		return what + " " + phrase.Stretch(c.Span, by.Zone) + "."
	},
	note: func(t Type) string {
		if t.IgnoreBusy {
			return "calendars don't count"
		}
		return "the host's calendars"
	},
	file: file{[]string{"ignore_calendars"}, readBusy, writeBusy},
}

// BusySettings is whether the hosts' calendars count. Other bookings do anyway.
type BusySettings struct {
	IgnoreCalendars bool `json:"ignoreCalendars,omitempty" doc:"What is in the hosts' calendars keeps nothing closed."`
}

func (*BusySettings) group() (string, Rule) { return "busy", BusyRule }

func (*BusySettings) check(func(field, sentence string)) {}

func (b *BusySettings) apply(t *Type) { t.IgnoreBusy = b.IgnoreCalendars }

func (b *BusySettings) example(e *Example) {
	lunch := NewAgenda([]Stretch{{Span: span.Span{Start: at(exampleDay, 14*60), End: at(exampleDay, 15*60)}, Title: "Dentist"}})
	e.With.Host.Busy, e.Without.Host.Busy = lunch, NewAgenda(nil)
	e.Says = "A calendar says “Dentist”, from 14:00 to 15:00: what is struck out is closed by it."
	if b.IgnoreCalendars {
		e.Without.Host.Busy = lunch
		e.Says = "A calendar says “Dentist”, from 14:00 to 15:00: what rises is open all the same."
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
	Title    string // private to the host
	Blocked  bool   // by the host here, not in a calendar: it counts for every type
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
		take(Take{q.reachingInto(s.Span), Cause{Span: s.Span, Calendar: s.Calendar, Title: s.Title}})
	}
}

// reachingInto is the starts whose meeting, with its buffers, overlaps the span: [s−before, s+d+after) and [x, y) share
// an instant if x − d − after < s < y + before.
func (q *query) reachingInto(s span.Span) span.Span {
	return span.Span{Start: s.Start - span.Instant(q.duration+q.after) + 1, End: s.End + span.Instant(q.before)}
}
