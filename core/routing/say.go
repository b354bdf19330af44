package routing

import (
	"strings"
	"time"
)

// Say says why somebody got a booking, or, without a kind, why nobody can take it: "Next in turn. Torvald is busy; Ines is away
// until Mon 7 Dec." Names are by host; times are on the reader's clock.
func (r Reason) Say(names map[int64]string, zone *time.Location) string {
	said := sentences[r.Kind]
	var passed []string
	for _, p := range r.Passed {
		passed = append(passed, names[p.Host]+" "+p.Closed.say(zone))
	}
	if len(passed) > 0 {
		said = strings.TrimSpace(said + " " + strings.Join(passed, "; ") + ".")
	}
	if r.Kind == "" && said == "" {
		return "No eligible host."
	}
	return said
}

var sentences = map[Kind]string{
	Chosen: "Chosen by the client.", Stays: "The client was here before and stays with their host.",
	Only: "Only eligible host.", Next: "Next in turn.", First: "First in the set order who is open.",
	Least: "Has least booked in the period.", Everybody: "Everybody takes it together.",
	AlwaysWith: "Next in turn, beside those who always take part.", ByHand: "Decided by hand.",
}

func (c Closed) say(zone *time.Location) string {
	if c.Until != 0 {
		return "is away until " + c.Until.Time().In(zone).Format("Mon 2 Jan")
	}
	return c.Rule.Short()
}
