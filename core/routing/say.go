package routing

import (
	"time"

	"corrim/core/told"
)

// Say says why somebody got a booking, or, without a kind, why nobody can take it: "Next in turn. Torvald is busy; Ines is away
// until Mon 7 Dec." Names are by host; times are on the reader's clock.
func (r Reason) Say(names map[int64]string, zone *time.Location) told.Words {
	said := sentences[r.Kind]
	var passed []told.Words
	for _, p := range r.Passed {
		passed = append(passed, told.Say("passed-over", "{} {}", names[p.Host], p.Closed.say(zone)))
	}
	switch others := told.Join(passed, "; "); {
	case len(passed) == 0 && r.Kind == "":
		return told.Say("no-eligible-host", "No eligible host.")
	case len(passed) == 0:
		return said
	case !said.Any():
		return told.Say("only-passed-over", "{}.", others)
	default:
		return told.Say("found-and-passed-over", "{} {}.", said, others)
	}
}

var sentences = map[Kind]told.Words{
	Chosen: told.Say("found-chosen", "Chosen by the client."), Stays: told.Say("found-stays", "The client was here before and stays with their host."),
	Only: told.Say("found-only", "Only eligible host."), Next: told.Say("found-next", "Next in turn."), First: told.Say("found-first", "First in the set order who is open."),
	Least: told.Say("found-least", "Has least booked in the period."), Everybody: told.Say("found-everybody", "Everybody takes it together."),
	AlwaysWith: told.Say("found-always-with", "Next in turn, beside those who always take part."), ByHand: told.Say("found-by-hand", "Decided by hand."),
}

func (c Closed) say(zone *time.Location) told.Words {
	if c.Until != 0 {
		return told.Say("short-away", "is away until {}", told.ShortDate(c.Until, zone))
	}
	return c.Rule.Short()
}
