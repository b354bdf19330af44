// Package opentimes computes which start times are really open, and why the others are not.
//
// A start is open if no rule refuses it. Everything about a rule is in one file: how it is set, kept and read, which stretches of
// starts it refuses and what makes it do so, and what is said of it. The rules stand in one table, in the file rules.go, in the
// order in which people are told about them. Search and Explain read the same table, so that a start is found if and only if its
// explanation has no failing rule.
package opentimes

import (
	"slices"
	"time"

	"corrim/core/civil"
	"corrim/core/hours"
	"corrim/core/span"
	"corrim/core/told"
)

// Input is all that open times depend on, for one meeting type and one host.
type Input struct {
	Now          span.Instant
	Type         Type
	Host         Host
	Series       map[string]Series // by name, where clients take them whole
	FirstWeekday time.Weekday      // on which a week begins, for limits; the zero value is Sunday
	ShareBuffers bool              // neighbouring buffers may share time
}

// Type is the timing of a meeting type. Lengths are in minutes.
type Type struct {
	Name              string // limits count bookings of this type
	Durations         []int  // at least one
	Before            int    // buffer kept free before the meeting
	After             int    // buffer kept free after it
	BuffersInsideOpen bool   // buffers must lie within the hours too
	Step              int    // 1 to 1440
	Offset            int    // of the clock grid from midnight
	Grid              Grid
	Notice            Notice
	Window            Window
	Limits            []Limit
	Holidays          Holidays
	Seats             int         // how many clients share a time; 0 and 1 are one
	Sessions          bool        // which they do at sessions only, on dates that the hosts set
	Whole             bool        // of which they take a series whole, in one booking
	IgnoreBusy        bool        // what is in the host's calendars doesn't count
	Hours             *hours.Plan // the type's own, which narrow the host's; nil for none; without a zone, in the host's
}

// Host is the person who would take the meeting.
type Host struct {
	Name     string
	Hours    hours.Plan
	Busy     Agenda
	Bookings []Booking // in any order; the one being moved is left out
}

// Booking is one that is already made.
type Booking struct {
	ID            string
	Type          string // its meeting type's name
	Meeting       span.Span
	Before, After int    // minutes kept free around it
	Filling              // if clients share it
	Session       bool   // it stands whether somebody has booked it or not, whatever else there is
	Series        string // of sessions that were set together; empty for none
}

// kept is the booking with its buffers.
func (b Booking) kept() span.Span {
	return b.Meeting.Grow(int64(b.Before)*60, int64(b.After)*60)
}

// Start is an open time for a meeting of so many minutes.
type Start struct {
	At      span.Instant
	Minutes int
}

// A Take is a stretch of starts that a rule refuses, and what it refers to.
type Take struct {
	Starts span.Span
	Cause  Cause
}

// Cause is what makes a rule refuse a start. Span is the closed, busy or booked time itself, or the time that the
// window or notice shuts; it may reach far beyond the starts asked for.
type Cause struct {
	Span     span.Span
	Calendar string     // of a busy stretch
	Title    string     // of a busy stretch; private to the host
	Says     told.Words // in its place, where the program says something itself
	Blocked  bool       // by the host here, not in a calendar
	Booking  string     // ID
	Filling  Filling    // of a meeting that is full
	Limit    *Reached
}

// A query is one duration and one stretch of starts, with lengths in seconds.
type query struct {
	Input
	starts                  span.Span // from ≤ s < to
	minutes                 int
	duration, before, after int64
	grid                    grid
	joins                   []span.Instant // starts of meetings that others can join
	sessions                []span.Instant // those of them that are sessions
}

func newQuery(in Input, starts span.Span, minutes int) *query {
	q := &query{
		Input: in, starts: starts, minutes: minutes,
		duration: int64(minutes) * 60, before: int64(in.Type.Before) * 60, after: int64(in.Type.After) * 60,
	}
	q.grid = newGrid(q)
	q.joins = q.sharedStarts(func(Booking) bool { return true })
	q.sessions = q.sharedStarts(func(b Booking) bool { return b.Session })
	return q
}

// reach is the time that the meetings in question can touch, buffers included.
func (q *query) reach() span.Span { return q.starts.Grow(q.before, q.duration+q.after) }

// today is the host's local day.
func (in Input) today() civil.Date { return civil.DateOf(in.Now, in.Host.Hours.Zone) }

// Search returns the open starts with from ≤ s < to, sorted by start, then minutes.
func Search(in Input, starts span.Span) []Start {
	var out []Start
	for _, minutes := range in.Type.Durations {
		out = search(newQuery(in, starts, minutes), out)
	}
	if len(in.Type.Durations) > 1 {
		slices.SortFunc(out, func(a, b Start) int {
			if a.At != b.At {
				return int(a.At - b.At)
			}
			return a.Minutes - b.Minutes
		})
	}
	return out
}

// search lays the grid over what the other rules leave.
func search(q *query, out []Start) []Start {
	for _, open := range q.free() {
		for s := q.next(open.Start); s < open.End; s = q.next(s + 1) {
			out = append(out, Start{s, q.minutes})
		}
	}
	return out
}

// free is what all rules but the last, the grid, leave of the starts.
func (q *query) free() span.Set {
	all := make([]takes, 0, len(rules))
	for _, rule := range rules[:len(rules)-1] {
		all = append(all, rule.refuse)
	}
	return q.freeOf(all...)
}

// freeOf is what some rules leave. A rule mostly takes in order, so that joining rule by rule needs no sorting.
func (q *query) freeOf(some ...takes) span.Set {
	var refused span.Set
	for _, rule := range some {
		var taken []span.Span
		rule(q, func(t Take) { taken = append(taken, t.Starts) })
		refused = refused.Or(span.UnionInPlace(taken))
	}
	return refused.Complement(q.starts)
}

// Reason is what one rule says about one start.
type Reason struct {
	Rule   Rule
	Holds  bool
	Causes []Cause // why not; empty if it holds
	start  Start
}

// Explanation is what every rule says about one start, in the order of the rules.
type Explanation struct {
	Start
	Open    bool
	Reasons []Reason
}

// Failing names the rules that refuse the start.
func (e Explanation) Failing() []Rule {
	var out []Rule
	for _, r := range e.Reasons {
		if !r.Holds {
			out = append(out, r.Rule)
		}
	}
	return out
}

// Explain answers for any instant, on the grid or not.
func Explain(in Input, s Start) Explanation {
	q := newQuery(in, span.Span{Start: s.At, End: s.At + 1}, s.Minutes)
	e := Explanation{Start: s, Open: true}
	for _, rule := range rulesOf(in.Type) {
		reason := Reason{Rule: rule.name, Holds: true, start: s}
		rule.refuse(q, func(t Take) {
			if t.Starts.Holds(s.At) {
				reason.Holds, e.Open = false, false
				reason.Causes = append(reason.Causes, t.Cause)
			}
		})
		e.Reasons = append(e.Reasons, reason)
	}
	return e
}

// Layer is what one rule refuses of a stretch of starts.
type Layer struct {
	Rule  Rule
	Takes []Take
}

// Layers opens a stretch of starts into one layer per rule, for starts of so many minutes.
func Layers(in Input, starts span.Span, minutes int) []Layer {
	q := newQuery(in, starts, minutes)
	out := make([]Layer, 0, len(rules))
	for _, rule := range rulesOf(in.Type) {
		layer := Layer{Rule: rule.name}
		rule.refuse(q, func(t Take) {
			if t.Starts.Overlaps(starts) {
				layer.Takes = append(layer.Takes, t)
			}
		})
		out = append(out, layer)
	}
	return out
}

// GridStarts lists the starts that the rule step allows, whatever the others say.
func GridStarts(in Input, starts span.Span, minutes int) []span.Instant {
	q := newQuery(in, starts, minutes)
	var out []span.Instant
	for s := q.next(starts.Start); s < starts.End; s = q.next(s + 1) {
		out = append(out, s)
	}
	return out
}

// TakesMost names the rule that refuses most of the starts that the hours would allow: window, notice, busy, bookings or
// limits. If the hours allow none, it is the hours; if all of these leave some and none is open, it is the step.
func TakesMost(in Input, starts span.Span, minutes int) Rule {
	if q := newQuery(in, starts, minutes); len(q.free()) > 0 && len(search(q, nil)) == 0 {
		return StepRule
	}
	layers := Layers(in, starts, minutes)
	refused := func(l Layer) span.Set {
		spans := make([]span.Span, len(l.Takes))
		for i, t := range l.Takes {
			spans[i] = t.Starts
		}
		return span.UnionInPlace(spans)
	}
	most, longest := HoursRule, int64(0)
	var allowed span.Set
	for _, l := range layers {
		if l.Rule == HoursRule {
			allowed = refused(l).Complement(starts)
		}
	}
	for _, l := range layers {
		if l.Rule == HoursRule || l.Rule == StepRule {
			continue
		}
		if taken := refused(l).Intersect(allowed).Seconds(); taken > longest {
			most, longest = l.Rule, taken
		}
	}
	return most
}

// nearestReach is how far Nearest looks to either side.
const nearestReach = 21 * 24 * time.Hour

// Nearest returns up to n open starts of the same length around a time, in order, the closest ones.
func Nearest(in Input, s Start, n int) []Start {
	in.Type.Durations = []int{s.Minutes}
	around := span.Span{Start: s.At.Add(-nearestReach), End: s.At.Add(nearestReach)}
	found := Search(in, around)
	distance := func(o Start) int64 { return max(int64(o.At-s.At), int64(s.At-o.At)) }
	slices.SortStableFunc(found, func(a, b Start) int { return int(distance(a) - distance(b)) })
	found = found[:min(n, len(found))]
	slices.SortFunc(found, func(a, b Start) int { return int(a.At - b.At) })
	return found
}

// Difference is what a change of rules does to the open starts.
type Difference struct {
	Gained, Lost, Kept []Start
}

// Compare holds two results of Search against each other.
func Compare(before, after []Start) Difference {
	had := make(map[Start]bool, len(before))
	for _, s := range before {
		had[s] = true
	}
	var d Difference
	for _, s := range after {
		if had[s] {
			d.Kept = append(d.Kept, s)
			delete(had, s)
		} else {
			d.Gained = append(d.Gained, s)
		}
	}
	for _, s := range before {
		if had[s] {
			d.Lost = append(d.Lost, s)
		}
	}
	return d
}
