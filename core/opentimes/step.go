package opentimes

import (
	"slices"
	"time"

	"corrim/core/civil"
	"corrim/core/phrase"
	"corrim/core/span"
	"corrim/core/strict"
	"corrim/core/told"
)

// StepRule: the start is on the grid.
const StepRule Rule = "step"

var stepRule = rule{
	name: StepRule, title: told.Say("rule-step", "Start step"), takes: onGrid,
	holds: func(in Input, s Start, _ Reader) told.Words {
		if _, _, joins := in.joined(s); joins {
			return told.Say("step-holds-joins", "A meeting that others share stands at this start.")
		}
		return told.Say("step-holds", "A start {}.", in.Type.gridWords())
	},
	fails: notOnGrid,
	note: func(t Type) told.Words {
		switch t.Grid {
		case FromOpening:
			return told.Say("step-note-opening", "every {} min from opening", t.Step)
		case Packed:
			return told.Say("step-note-packed", "every {} min, packed", t.Step)
		}
		return told.Say("step-note", "every {} min", t.Step)
	},
	file: file{[]string{"step", "offset", "grid"}, readSteps, writeSteps},
}

// Grid is how start times are laid out.
type Grid int

// The grids.
const (
	OnTheClock  Grid = iota // every step on the wall clock
	FromOpening             // every step from the beginning of each run of possible starts
	Packed                  // so that no useless gap is left
)

// StepSettings is how starts are laid out.
type StepSettings struct {
	Step   int    `json:"step" doc:"A start every so many minutes."`
	Offset int    `json:"offset,omitempty" doc:"Of the clock grid from midnight."`
	Grid   string `json:"grid,omitempty" enum:"clock,opening,packed" doc:"On the clock if left out."`
}

func (*StepSettings) group() (string, Rule) { return "step", StepRule }

func (s *StepSettings) check(complain func(field string, words told.Words)) {
	between(complain, "step", s.Step, 1, 1440, told.Say("starts-come-every", "Starts come every 1 to 1440 minutes."))
	between(complain, "offset", s.Offset, 0, 1439, told.Say("first-start-day", "The first start of a day lies 0 to 1439 minutes after midnight."))
}

func (s *StepSettings) apply(t *Type) { t.Step, t.Offset, t.Grid = s.Step, s.Offset, grids[s.Grid] }

var grids = map[string]Grid{"clock": OnTheClock, "opening": FromOpening, "packed": Packed}

func readSteps(f map[string]strict.Node, t *Type) {
	t.Step, t.Offset = f["step"].Number(30, 1, 1440), f["offset"].Number(0, 0, 1<<30)
	t.Grid = strict.Choice(f["grid"], OnTheClock, grids)
}

func writeSteps(t Type, out map[string]any) {
	out["step"], out["offset"], out["grid"] = t.Step, t.Offset, strict.Word(grids, t.Grid)
}

func notOnGrid(in Input, c Cause, by Reader) told.Words {
	switch {
	case c.Span.Empty():
		return told.Say("step-fails", "Not a start {}.", in.Type.gridWords())
	case phrase.Date(c.Span.Start, by.Zone) == phrase.Date(c.Span.End, by.Zone):
		return told.Say("step-fails-clock", "Not a start {}; the next is {}.", in.Type.gridWords(), told.Clock(c.Span.End, by.Zone))
	}
	return told.Say("step-fails-moment", "Not a start {}; the next is {}.", in.Type.gridWords(), told.At(c.Span.End, by.Zone))
}

func (t Type) gridWords() told.Words {
	step := told.Count(t.Step, "minute")
	switch t.Grid {
	case FromOpening:
		return told.Say("grid-opening", "every {} from the opening", step)
	case Packed:
		return told.Say("grid-packed", "every {}, packed so that no useless gap is left", step)
	default:
		return told.Say("grid-clock", "every {} on the clock", step)
	}
}

// onGrid refuses starts that are not on the type's grid, unless a meeting stands there that others can join. Its cause reaches to the next grid start; it is empty if there is
// none.
func onGrid(q *query, take func(Take)) {
	for gap := q.starts.Start; gap < q.starts.End; {
		next := q.next(gap)
		cause := span.Span{Start: gap, End: next}
		if next == beyond {
			cause = span.Span{}
		}
		if shut := (span.Span{Start: gap, End: min(next, q.starts.End)}); !shut.Empty() {
			take(Take{shut, Cause{Span: cause}})
		}
		gap = next + 1
	}
}

// A grid lists start times in order.
type grid interface {
	// next is the first grid start at or after i, or an instant beyond all ranges.
	next(i span.Instant) span.Instant
}

const beyond = span.Instant(1) << 60

func newGrid(q *query) grid {
	clock := newClockGrid(q.Host.Hours.Zone, q.Type.Step, q.Type.Offset)
	switch q.Type.Grid {
	case FromOpening:
		return listed(q.eachRun(func(run span.Span, add func(span.Instant)) {
			for s := run.Start; s <= run.End; s += span.Instant(q.Type.Step) * 60 {
				add(s)
			}
		}))
	case Packed:
		return listed(q.eachRun(func(run span.Span, add func(span.Instant)) { q.pack(run, clock, add) }))
	default:
		return clock
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
	g.utcOffset, g.segment = int64(offset), span.Span{Start: -beyond, End: beyond}
	if !begin.IsZero() {
		g.segment.Start = span.At(begin)
	}
	if !end.IsZero() {
		g.segment.End = span.At(end)
	}
}

// listed is a grid worked out beforehand.
type listed []span.Instant

func (l listed) next(i span.Instant) span.Instant {
	if k, _ := slices.BinarySearch(l, i); k < len(l) {
		return l[k]
	}
	return beyond
}

const (
	longestRun = 7 * daySeconds // longer ones are cut where weeks begin
	runReach   = longestRun + 2*daySeconds
	runGrain   = 5 * 60
)

// eachRun collects, in order, what of lists for the runs: the maximal intervals [a, b], both included, of instants at
// which a meeting of this length could start as far as hours, busy and bookings are concerned. a is rounded up and b down
// to five minutes of the wall clock; a run that vanishes by this has no starts. The range asked for, notice, window and
// limits do not cut runs.
func (q *query) eachRun(of func(run span.Span, add func(span.Instant))) []span.Instant {
	wide := *q
	wide.starts = q.starts.Grow(runReach, runReach)
	var out []span.Instant
	for _, free := range wide.freeOf(withinHours, clearOfBusy, clearOfBookings) {
		for _, part := range q.cut(free) {
			if run := q.rounded(part); run.Start <= run.End {
				of(run, func(s span.Instant) { out = append(out, s) })
			}
		}
	}
	return out
}

// cut parts a stretch longer than seven days, of hours that never close, at each local midnight that begins a week.
func (q *query) cut(free span.Span) []span.Span {
	if free.Seconds()-1 <= longestRun {
		return []span.Span{free}
	}
	zone := q.Host.Hours.Zone
	var parts []span.Span
	for week := civil.DateOf(free.Start, zone).Week(q.FirstWeekday).AddDays(7); ; week = week.AddDays(7) {
		midnight := week.Start(zone)
		if midnight >= free.End {
			return append(parts, free)
		}
		if midnight > free.Start {
			parts = append(parts, span.Span{Start: free.Start, End: midnight})
			free.Start = midnight
		}
	}
}

// rounded turns a half-open stretch into a run [a, b] on five minutes of the wall clock.
func (q *query) rounded(free span.Span) span.Span {
	shown := func(i span.Instant) int64 { return int64(civil.ClockOf(i, q.Host.Hours.Zone).Seconds % runGrain) }
	a, b := free.Start, free.End-1
	return span.Span{Start: a + span.Instant((runGrain-shown(a))%runGrain), End: b - span.Instant(shown(b))}
}

// pack lists the starts of a run that leave on either side nothing or room for one meeting more: among a, b and the clock
// grid between them. If there is none, a alone.
func (q *query) pack(run span.Span, clock grid, add func(span.Instant)) {
	room := span.Instant(q.before + q.duration + q.after)
	if q.ShareBuffers {
		room = span.Instant(q.duration + max(q.before, q.after))
	}
	none := true
	offer := func(s span.Instant) {
		left, right := s-run.Start, run.End-s
		if (left == 0 || left >= room) && (right == 0 || right >= room) {
			none = false
			add(s)
		}
	}
	offer(run.Start)
	for s := clock.next(run.Start + 1); s < run.End; s = clock.next(s + 1) {
		offer(s)
	}
	if run.End > run.Start {
		offer(run.End)
	}
	if none {
		add(run.Start)
	}
}
