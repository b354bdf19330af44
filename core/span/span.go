// Package span is arithmetic on stretches of time.
//
// An Instant is a whole second in UTC. A Span is half-open, [Start, End): two spans that only touch do not overlap.
// A Set is a sorted list of spans of which no two overlap or touch, so that membership is a binary search.
//
//	[9:00, 10:00) + [10:00, 11:00)  = [9:00, 11:00)   touching spans join in a Set
//	[9:00, 12:00) − [10:00, 11:00)  = [9:00, 10:00), [11:00, 12:00)
package span

import (
	"slices"
	"sort"
	"time"
)

// Instant is a moment in whole seconds since 1 January 1970, 00:00 UTC.
type Instant int64

// At returns the instant of t; fractions of a second are cut off.
func At(t time.Time) Instant { return Instant(t.Unix()) }

// Time returns the instant as a time in UTC.
func (i Instant) Time() time.Time { return time.Unix(int64(i), 0).UTC() }

// Add returns the instant d later; fractions of a second are cut off.
func (i Instant) Add(d time.Duration) Instant { return i + Instant(d/time.Second) }

// String writes the instant as RFC 3339 in UTC.
func (i Instant) String() string { return i.Time().Format(time.RFC3339) }

// Span is the half-open stretch [Start, End). It is empty unless End lies after Start.
type Span struct{ Start, End Instant }

// Of returns the span between two times.
func Of(start, end time.Time) Span { return Span{At(start), At(end)} }

// Empty tells whether no instant lies in the span.
func (s Span) Empty() bool { return s.End <= s.Start }

// Seconds is the span's length; an empty span has none.
func (s Span) Seconds() int64 { return max(0, int64(s.End-s.Start)) }

// Holds tells whether the instant lies in the span.
func (s Span) Holds(i Instant) bool { return s.Start <= i && i < s.End }

// Overlaps tells whether an instant lies in both spans. An empty span overlaps nothing.
func (s Span) Overlaps(o Span) bool {
	return s.Start < o.End && o.Start < s.End && !s.Empty() && !o.Empty()
}

// Clip returns the part of the span that lies in bounds; it may be empty.
func (s Span) Clip(bounds Span) Span {
	return Span{max(s.Start, bounds.Start), min(s.End, bounds.End)}
}

// Grow returns the span with time added before and after it, in seconds.
func (s Span) Grow(before, after int64) Span {
	return Span{s.Start - Instant(before), s.End + Instant(after)}
}

// Set is a list of spans in order, none empty, no two overlapping or touching. The zero value is the empty set.
type Set []Span

// UnionInPlace returns the set of all instants that lie in at least one of the spans, which may come in any order and which the
// caller no longer needs: their memory is the set's.
func UnionInPlace(spans []Span) Set {
	byStart := func(a, b Span) int { return compare(a.Start, b.Start) }
	if !slices.IsSortedFunc(spans, byStart) {
		slices.SortFunc(spans, byStart)
	}
	out := spans[:0]
	for _, s := range spans {
		switch last := len(out) - 1; {
		case s.Empty():
		case last >= 0 && s.Start <= out[last].End:
			out[last].End = max(out[last].End, s.End)
		default:
			out = append(out, s)
		}
	}
	return Set(out)
}

func compare(a, b Instant) int {
	switch {
	case a < b:
		return -1
	case a > b:
		return 1
	}
	return 0
}

// after is the index of the first span that ends after i.
func (set Set) after(i Instant) int {
	return sort.Search(len(set), func(k int) bool { return set[k].End > i })
}

// Holds tells whether the instant lies in the set.
func (set Set) Holds(i Instant) bool {
	k := set.after(i)
	return k < len(set) && set[k].Start <= i
}

// Covers tells whether all of s lies in the set. An empty span is covered by any set.
func (set Set) Covers(s Span) bool {
	if s.Empty() {
		return true
	}
	k := set.after(s.Start)
	return k < len(set) && set[k].Start <= s.Start && s.End <= set[k].End
}

// Overlaps tells whether the set and s share an instant.
func (set Set) Overlaps(s Span) bool {
	k := set.after(s.Start)
	return k < len(set) && set[k].Overlaps(s)
}

// Clip returns the part of the set that lies in bounds.
func (set Set) Clip(bounds Span) Set {
	var out Set
	for k := set.after(bounds.Start); k < len(set) && set[k].Start < bounds.End; k++ {
		if part := set[k].Clip(bounds); !part.Empty() {
			out = append(out, part)
		}
	}
	return out
}

// Complement returns what of bounds the set leaves free.
func (set Set) Complement(bounds Span) Set {
	var out Set
	at := bounds.Start
	for k := set.after(bounds.Start); k < len(set) && set[k].Start < bounds.End; k++ {
		if set[k].Start > at {
			out = append(out, Span{at, set[k].Start})
		}
		at = max(at, set[k].End)
	}
	if at < bounds.End {
		out = append(out, Span{at, bounds.End})
	}
	return out
}

// Or returns the instants that lie in at least one of the sets, in time linear in their lengths.
func (set Set) Or(o Set) Set {
	switch {
	case len(set) == 0:
		return o
	case len(o) == 0:
		return set
	}
	both := make([]Span, 0, len(set)+len(o))
	for len(set) > 0 && len(o) > 0 {
		if set[0].Start <= o[0].Start {
			both, set = append(both, set[0]), set[1:]
		} else {
			both, o = append(both, o[0]), o[1:]
		}
	}
	return UnionInPlace(append(append(both, set...), o...))
}

// Minus returns the instants of the set that are not in o.
func (set Set) Minus(o Set) Set {
	var out Set
	for _, s := range set {
		out = append(out, o.Complement(s)...)
	}
	return out
}

// Intersect returns the instants that lie in both sets.
func (set Set) Intersect(o Set) Set {
	var out Set
	for _, s := range set {
		out = append(out, o.Clip(s)...)
	}
	return out
}

// Seconds is the total length of the set.
func (set Set) Seconds() int64 {
	var total int64
	for _, s := range set {
		total += s.Seconds()
	}
	return total
}
