package opentimes

import (
	"fmt"
	"strings"
	"time"

	"corrim/core/phrase"
	"corrim/core/span"
)

// Reader is who reads a reason.
type Reader struct {
	Zone   *time.Location // whose clock they read; the host's if nil
	Titles bool           // may they know what the host's own events are about, and in which calendar they are?
}

// ToHost is the host themself.
var ToHost = Reader{Titles: true}

// Say says what the rule says about a start: one sentence if it holds, one for each cause if not.
func (r Reason) Say(in Input, by Reader) []string {
	if by.Zone == nil {
		by.Zone = in.Host.Hours.Zone
	}
	known := r.Rule.of()
	if r.Holds {
		return []string{known.holds(in, by)}
	}
	out := make([]string, len(r.Causes))
	for i, c := range r.Causes {
		out[i] = known.fails(in, c, by)
	}
	return out
}

// always is the sentence of a rule that says the same wherever it holds.
func always(sentence string) func(Input, Reader) string {
	return func(Input, Reader) string { return sentence }
}

// NothingOpen says why nothing is open in so many weeks, as plainly as it can be said.
func NothingOpen(in Input, within span.Span, minutes, weeks int) string {
	window, limited := in.Bookable()
	if limited && window.End <= in.Earliest() {
		return fmt.Sprintf("The notice (%s) reaches beyond the booking window (%s), so nothing can ever be booked.", NoticeRule.Note(in.Type), WindowRule.Note(in.Type))
	}
	switch most := TakesMost(in, within, minutes); most {
	case StepRule:
		return fmt.Sprintf("No start %s falls into the time that is left, so nothing would be open in the coming %s.", in.Type.gridWords(), phrase.Count(weeks, "week"))
	case HoursRule:
		return fmt.Sprintf("No opening is long enough for %d minutes within the hours, so nothing would be open in the coming %s.", minutes, phrase.Count(weeks, "week"))
	default:
		return fmt.Sprintf("Nothing would be open in the coming %s: mostly blocked by %s.", phrase.Count(weeks, "week"), strings.ToLower(most.Title()))
	}
}
