package message

import "slices"

// News lists what hosts are told of about their meetings, in the order in which things happen.
func News() []Kind {
	var out []Kind
	for _, e := range table {
		if e.audience == Hosts && !slices.Contains(out, e.kind) {
			out = append(out, e.kind)
		}
	}
	return out
}
