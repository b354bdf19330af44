package busy

import (
	"cmp"
	"slices"
	"strconv"

	"corrim/core/span"
	"corrim/core/told"
)

// stated is one VAVAILABILITY (RFC 7953, 3.1): within its own time, only its AVAILABLE parts are open.
type stated struct {
	within    span.Span // all time if it has neither start nor end
	rank      int       // 9 for the lowest priority to 1 for the highest; none given is lower still
	available []*series
}

const (
	noPriority = 10
	ever       = span.Instant(1) << 60
)

// readAvailability reads a VAVAILABILITY. A part that can't be read is left out and reported.
func (c *Calendar) readAvailability(part *component, z *zones) {
	s := stated{within: span.Span{Start: -ever, End: ever}, rank: noPriority}
	if n, err := strconv.Atoi(part.text("PRIORITY")); err == nil && n > 0 {
		s.rank = n
	}
	if start, ok := part.first("DTSTART"); ok {
		from, err := z.stamp(start.value, start.param("TZID"))
		if err != nil {
			c.troubles = append(c.troubles, Trouble{plainText(part.text("SUMMARY")), told.OfError(err), false})
			return
		}
		s.within.Start = from.instant()
		_, ends := part.first("DTEND")
		_, lasts := part.first("DURATION")
		if ends || lasts {
			l, err := eventLength(part, z, from)
			if err != nil {
				c.troubles = append(c.troubles, Trouble{plainText(part.text("SUMMARY")), told.OfError(err), false})
				return
			}
			s.within = l.from(from)
		}
	}
	// A calendar within the calendar: AVAILABLEs recur, are excepted and replaced as events are.
	open := &Calendar{options: c.options}
	byUID := map[string]*series{}
	for _, child := range part.children {
		if child.name != "AVAILABLE" {
			continue
		}
		e, err := readEvent(child, z, nil)
		if err != nil {
			c.troubles = append(c.troubles, Trouble{e.title, told.OfError(err), false})
			continue
		}
		open.add(e, byUID)
	}
	s.available = open.series
	c.stated = append(c.stated, s)
}

// Stated is the number of VAVAILABILITY components that were read.
func (c *Calendar) Stated() int { return len(c.stated) }

// Available is what the VAVAILABILITY components leave open of the range (RFC 7953, 4): from the lowest priority to the
// highest, each closes its own time and opens its AVAILABLE parts. Time that none of them speaks of is not open. Troubles
// are those of the whole calendar.
func (c *Calendar) Available(within span.Span) (span.Set, []Trouble) {
	troubles := slices.Clone(c.troubles)
	ranked := slices.Clone(c.stated)
	slices.SortStableFunc(ranked, func(a, b stated) int { return cmp.Compare(b.rank, a.rank) })
	var open span.Set
	left := budget(maxWork)
	for _, s := range ranked {
		own := s.within.Clip(within)
		if own.Empty() {
			continue
		}
		var parts []span.Span
		for _, series := range s.available {
			work := min(budget(workPerSeries), left)
			share := work
			err := series.each(own, &work, func(_ event, at span.Span) bool {
				parts = append(parts, at)
				return len(parts) < maxStretches
			})
			left -= share - work
			if err != nil {
				troubles = append(troubles, Trouble{"", told.OfError(err), true})
			}
		}
		open = open.Minus(span.Set{own}).Or(span.UnionInPlace(parts).Clip(own))
	}
	return open, troubles
}
