package opentimes

import (
	"cmp"
	"slices"

	"corrim/core/span"
	"corrim/core/strict"
	"corrim/core/told"
)

// SeriesRule: where clients take a series of sessions whole, it begins then.
const SeriesRule Rule = "series"

var seriesRule = rule{
	name: SeriesRule, title: told.Say("rule-series", "Series"), takes: withinSeries, short: told.Say("short-series", "has no series beginning then"),
	holds: always(told.Say("series-holds", "A series begins then.")),
	fails: func(_ Input, c Cause, by Reader) told.Words {
		if c.Span.Empty() {
			return told.Say("series-fails-none", "This session belongs to no series.")
		}
		return told.Say("series-fails", "The series is taken whole, from its first session on {}.", told.At(c.Span.Start, by.Zone))
	},
	note:  func(Type) told.Words { return told.Say("series-note", "a series is taken whole") },
	file:  file{[]string{"whole"}, readWhole, writeWhole},
	about: func(t Type) bool { return t.Whole },
}

func readWhole(f map[string]strict.Node, t *Type) { t.Whole = f["whole"].Flag(false) }

func writeWhole(t Type, out map[string]any) {
	if t.Whole {
		out["whole"] = true
	}
}

// A Series is sessions that were set together, whoever hosts each, in order: those gone by among them, those called off not.
type Series []Part

// Part is one session of a series.
type Part struct {
	Meeting span.Span
	Filling Filling
}

// SeriesOf gathers the series that bookings belong to, by their names.
func SeriesOf(hosts ...Host) map[string]Series {
	out := map[string]Series{}
	for _, h := range hosts {
		for _, b := range h.Bookings {
			if b.Session && b.Series != "" {
				out[b.Series] = append(out[b.Series], Part{b.Meeting, b.Filling})
			}
		}
	}
	for _, s := range out {
		slices.SortFunc(s, func(a, b Part) int { return cmp.Compare(a.Meeting.Start, b.Meeting.Start) })
	}
	return out
}

// fullest is the session of a series with the fewest seats left: who takes it whole needs one in each.
func (s Series) fullest() Part {
	return slices.MinFunc(s, func(a, b Part) int { return cmp.Compare(a.Filling.Left(), b.Filling.Left()) })
}

// withinSeries refuses the starts of sessions other than those that begin a series. What isn't a session's is the sessions rule's to refuse.
func withinSeries(q *query, take func(Take)) {
	if !q.Type.Whole {
		return
	}
	for _, b := range q.Host.Bookings {
		at := b.Meeting.Start
		if !q.shares(b, q.minutes) || !q.starts.Holds(at) {
			continue
		}
		parts := q.Series[b.Series]
		switch {
		case len(parts) == 0:
			take(Take{Starts: instant(at)})
		case parts[0].Meeting.Start != at:
			take(Take{instant(at), Cause{Span: parts[0].Meeting, Booking: b.ID}})
		}
	}
}

// filling is how many seats of a meeting are taken for those who would join; of a series that is taken whole, where it is fullest.
func (in Input) filling(b Booking) Filling {
	if parts := in.Series[b.Series]; in.Type.Whole && len(parts) > 0 {
		return parts.fullest().Filling
	}
	return b.Filling
}
