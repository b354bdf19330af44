package opentimes

import "corrim/core/span"

// notice refuses starts sooner than the notice.
func notice(q *query, take func(Take)) {
	if earliest := q.Earliest(); q.starts.Start < earliest {
		shut := span.Span{Start: q.starts.Start, End: earliest}
		take(Take{shut, Cause{Span: shut}})
	}
}

// Earliest is the first instant the notice allows: now + minutes, or the beginning of the local day today + n for whole
// days. Nothing before now is ever open.
func (in Input) Earliest() span.Instant {
	earliest := in.Now + span.Instant(in.Type.Notice.Minutes)*60
	if n := in.Type.Notice.Days; n != 0 {
		earliest = in.today().AddDays(n).Start(in.Host.Hours.Zone)
	}
	return max(earliest, in.Now)
}
