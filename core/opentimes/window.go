package opentimes

import "corrim/core/span"

// window refuses starts whose local day, in the host's zone, lies outside the booking window. "Next N days" begins today
// and ends with the end of the local day today + N.
func window(q *query, take func(Take)) {
	first, last := q.Type.Window.First, q.Type.Window.Last
	switch q.Type.Window.Kind {
	case Endless:
		return
	case NextDays:
		first = q.today()
		last = first.AddDays(q.Type.Window.Days)
	}
	zone := q.Host.Hours.Zone
	takeOutside(span.Span{Start: first.Start(zone), End: last.AddDays(1).Start(zone)}, q.starts, take)
}

// takeOutside refuses the starts before and after allowed.
func takeOutside(allowed, starts span.Span, take func(Take)) {
	for _, shut := range []span.Span{{Start: starts.Start, End: allowed.Start}, {Start: allowed.End, End: starts.End}} {
		if !shut.Empty() {
			take(Take{shut, Cause{Span: shut}})
		}
	}
}
