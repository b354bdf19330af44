package opentimes

import "corrim/core/span"

// notice refuses starts sooner than the notice: now + minutes, or the beginning of the local day today + n for whole
// days. Nothing before now is ever open.
func notice(q *query, take func(Take)) {
	earliest := q.Now + span.Instant(q.Type.Notice.Minutes)*60
	if n := q.Type.Notice.Days; n != 0 {
		earliest = q.today().AddDays(n).Start(q.Host.Hours.Zone)
	}
	earliest = max(earliest, q.Now)
	if q.starts.Start < earliest {
		shut := span.Span{Start: q.starts.Start, End: earliest}
		take(Take{shut, Cause{Span: shut}})
	}
}
