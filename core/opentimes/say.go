package opentimes

import (
	"time"

	"corrim/core/span"
	"corrim/core/told"
)

// Reader is who reads a reason.
type Reader struct {
	Zone   *time.Location // whose clock they read; the host's if nil
	Titles bool           // may they know what the host's own events are about, and in which calendar they are?
}

// ToHost is the host themself.
var ToHost = Reader{Titles: true}

// Say says what the rule says about a start: one sentence if it holds, one for each cause if not.
func (r Reason) Say(in Input, by Reader) []told.Words {
	if by.Zone == nil {
		by.Zone = in.Host.Hours.Zone
	}
	known := r.Rule.of()
	if r.Holds && known.yields && in.atSession(r.start) {
		return []told.Words{told.Say("session-holds", "Whatever else there is, its host has set a session then.")}
	}
	if r.Holds {
		return []told.Words{known.holds(in, r.start, by)}
	}
	out := make([]told.Words, len(r.Causes))
	for i, c := range r.Causes {
		out[i] = known.fails(in, c, by)
	}
	return out
}

// always is the sentence of a rule that says the same wherever it holds.
func always(words told.Words) func(Input, Start, Reader) told.Words {
	return func(Input, Start, Reader) told.Words { return words }
}

// NothingOpen says why nothing is open in so many weeks, as plainly as it can be said.
func NothingOpen(in Input, within span.Span, minutes, weeks int) told.Words {
	window, limited := in.Bookable()
	if limited && window.End <= in.Earliest() {
		return told.Say("notice-beyond-window", "The notice ({}) reaches beyond the booking window ({}), so nothing can ever be booked.", NoticeRule.Note(in.Type), WindowRule.Note(in.Type))
	}
	switch most := TakesMost(in, within, minutes); most {
	case StepRule:
		return told.Say("no-start-left", "No start {} falls into the time that is left, so nothing would be open in the coming {}.", in.Type.gridWords(), told.Count(weeks, "week"))
	case HoursRule:
		return told.Say("no-opening-long-enough", "No opening is long enough for {} minutes within the hours, so nothing would be open in the coming {}.", minutes, told.Count(weeks, "week"))
	default:
		return told.Say("nothing-would-be-open", "Nothing would be open in the coming {}: mostly blocked by {}.", told.Count(weeks, "week"), most.InSentence())
	}
}
