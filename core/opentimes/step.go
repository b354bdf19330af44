package opentimes

import (
	"time"

	"corrim/core/span"
)

// onGrid refuses starts that are not on the clock grid. Its cause is the gap between the grid's neighbours.
func onGrid(q *query, take func(Take)) {
	gap := q.starts.Start
	for gap < q.starts.End {
		next := q.grid.next(gap)
		if shut := (span.Span{Start: gap, End: next}); !shut.Empty() {
			take(Take{shut, Cause{Span: shut}})
		}
		gap = next + 1
	}
}

// clockGrid is the starts at which (wall-clock minutes since midnight − offset) mod step is 0: 09:00 and 09:30 also in
// Kathmandu. It remembers the stretch of constant UTC offset it last looked at.
type clockGrid struct {
	zone         *time.Location
	step, offset int64 // seconds
	segment      span.Span
	utcOffset    int64
}

func newClockGrid(zone *time.Location, step, offset int) *clockGrid {
	return &clockGrid{zone: zone, step: int64(step) * 60, offset: int64(offset%step) * 60}
}

// next is the first grid start at or after i.
func (g *clockGrid) next(i span.Instant) span.Instant {
	for {
		g.lookAt(i)
		local := int64(i) + g.utcOffset
		midnight := local - (local%daySeconds+daySeconds)%daySeconds
		k := max(0, (local-midnight-g.offset+g.step-1)/g.step)
		reading := min(g.offset+k*g.step, daySeconds) // no start left today: the next midnight
		at := span.Instant(midnight + reading - g.utcOffset)
		switch {
		case at >= g.segment.End:
			i = g.segment.End
		case reading < daySeconds:
			return at
		default:
			i = at
		}
	}
}

// lookAt finds the stretch of constant UTC offset that holds i.
func (g *clockGrid) lookAt(i span.Instant) {
	if g.segment.Holds(i) {
		return
	}
	t := time.Unix(int64(i), 0).In(g.zone)
	_, offset := t.Zone()
	begin, end := t.ZoneBounds()
	g.utcOffset, g.segment = int64(offset), span.Span{Start: -1 << 60, End: 1 << 60}
	if !begin.IsZero() {
		g.segment.Start = span.At(begin)
	}
	if !end.IsZero() {
		g.segment.End = span.At(end)
	}
}
