package opentimes

import "corrim/core/span"

// window refuses starts whose local day, in the host's zone, lies outside the booking window.
func window(q *query, take func(Take)) {
	open, limited := q.Bookable()
	if !limited {
		return
	}
	for _, shut := range []span.Span{{Start: q.starts.Start, End: open.Start}, {Start: open.End, End: q.starts.End}} {
		if !shut.Empty() {
			take(Take{shut, Cause{Span: shut}})
		}
	}
}

// Bookable is the booking window as a span; limited is false if it has no end. "Next N days" begins today and ends with
// the end of the local day today + N.
func (in Input) Bookable() (open span.Span, limited bool) {
	first, last := in.Type.Window.First, in.Type.Window.Last
	switch in.Type.Window.Kind {
	case Endless:
		return span.Span{}, false
	case NextDays:
		first = in.today()
		last = first.AddDays(in.Type.Window.Days)
	}
	zone := in.Host.Hours.Zone
	return span.Span{Start: first.Start(zone), End: last.AddDays(1).Start(zone)}, true
}
