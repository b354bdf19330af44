package opentimes

import (
	"cmp"
	"slices"

	"corrim/core/span"
)

// Pool is the hosts of a meeting type. One of them takes a booking, or all take it together.
type Pool struct {
	Hosts    []Host
	Together bool
}

// Offer is an open start and which hosts are open then, by their place in the pool.
type Offer struct {
	Start
	Hosts []int
}

// SearchPool returns the starts that the pool is open for, sorted like Search: those at which at least one host is open,
// or, together, all. in's own host is not looked at. Together, the grid is the first host's.
func SearchPool(in Input, pool Pool, starts span.Span) []Offer {
	if pool.Together {
		var out []Offer
		for _, minutes := range in.Type.Durations {
			out = append(out, together(in, pool, starts, minutes)...)
		}
		slices.SortFunc(out, func(a, b Offer) int { return compareStarts(a.Start, b.Start) })
		return out
	}
	var found []single
	var buffer []Start
	for _, minutes := range in.Type.Durations {
		for k, host := range pool.Hosts {
			in.Host = host
			buffer = search(newQuery(in, starts, minutes), buffer[:0])
			for _, s := range buffer {
				found = append(found, single{s, k})
			}
		}
	}
	return joined(found)
}

// single is a start that one host of a pool is open for.
type single struct {
	Start
	host int
}

func compareStarts(a, b Start) int { return cmp.Or(cmp.Compare(a.At, b.At), a.Minutes-b.Minutes) }

// joined brings the hosts of each start together, in their order. All hosts stand in one list, of which offers are parts.
func joined(found []single) []Offer {
	slices.SortFunc(found, func(a, b single) int { return cmp.Or(compareStarts(a.Start, b.Start), a.host-b.host) })
	hosts := make([]int, len(found))
	var out []Offer
	first := 0
	for i, f := range found {
		hosts[i] = f.host
		if last := len(out) - 1; last >= 0 && out[last].Start == f.Start {
			out[last].Hosts = hosts[first : i+1 : i+1]
			continue
		}
		first = i
		out = append(out, Offer{f.Start, hosts[i : i+1 : i+1]})
	}
	return out
}

func together(in Input, pool Pool, starts span.Span, minutes int) []Offer {
	var out []Offer
	var everybody []int
	others := make([]span.Set, 0, len(pool.Hosts))
	for k, host := range pool.Hosts {
		everybody = append(everybody, k)
		if k > 0 {
			in.Host = host
			others = append(others, newQuery(in, starts, minutes).free())
		}
	}
	if len(pool.Hosts) == 0 {
		return nil
	}
	in.Host = pool.Hosts[0]
	for _, s := range search(newQuery(in, starts, minutes), nil) {
		if !slices.ContainsFunc(others, func(free span.Set) bool { return !free.Holds(s.At) }) {
			out = append(out, Offer{s, everybody})
		}
	}
	return out
}

// ExplainPool answers for every host of the pool. Together, the step is checked for the first host and holds for the others.
func ExplainPool(in Input, pool Pool, s Start) []Explanation {
	out := make([]Explanation, len(pool.Hosts))
	for k, host := range pool.Hosts {
		in.Host = host
		out[k] = Explain(in, s)
		if pool.Together && k > 0 {
			out[k].allow(StepRule)
		}
	}
	return out
}

// allow makes a rule hold.
func (e *Explanation) allow(rule Rule) {
	for i := range e.Reasons {
		if e.Reasons[i].Rule == rule {
			e.Reasons[i].Holds, e.Reasons[i].Causes = true, nil
		}
	}
	e.Open = len(e.Failing()) == 0
}
