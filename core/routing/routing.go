// Package routing gives a booking to the right colleague, and says why.
//
// It is pure and deterministic: the same pool, ledger and circumstances always choose the same hosts. Reasons are data;
// Say makes sentences of them.
package routing

import (
	"cmp"
	"slices"

	"corrim/core/opentimes"
	"corrim/core/span"
)

// A Mode is how one is found among those who could take a booking.
type Mode string

// The modes.
const (
	ByClient    Mode = "client"   // the client chooses; whoever says "anyone" gets the next in turn
	InTurn      Mode = "turn"     // by weight
	InOrder     Mode = "order"    // the first in the set order who is open
	LeastBooked Mode = "least"    // whoever has least booked in the period
	Together    Mode = "together" // everybody
	SomeAndOne  Mode = "some"     // some always, and one of the rest in turn
)

// A Host is somebody of a pool. The pool's order is the set order.
type Host struct {
	ID         int64
	Weight     int  // 1 or more
	Always     bool // for SomeAndOne: takes every booking
	Attributes map[string][]string
}

// A Rule points answers to hosts: to those named, or to all of the pool who have the answer as an attribute.
type Rule struct {
	Attribute string
	Values    []string // any of them
	Hosts     []int64  // empty: whoever has the attribute
}

// Routing is how the bookings of a meeting type find their hosts.
type Routing struct {
	Mode      Mode
	Hosts     []Host
	Rules     []Rule // the first that fits counts
	Strict    bool   // where no rule fits, nobody takes it; else whoever of the pool
	Returning bool   // clients stay with their last host where possible
}

// Circumstances are those of one booking.
type Circumstances struct {
	Answers map[string]string
	Open    map[int64]bool   // who is open for it
	Closed  map[int64]Closed // why the others are not
	Wanted  int64            // the host that the client chose; 0 for anyone
	Last    int64            // the host of the client's last booking; 0 for a new client
	Booked  map[int64]int    // minutes in the period, for LeastBooked
}

// Closed is why a host is not open.
type Closed struct {
	Rule  opentimes.Rule
	Until span.Instant // if the host is away: when they are back
}

// A Kind is why somebody got a booking.
type Kind string

// The kinds of reasons.
const (
	Chosen     Kind = "chosen"    // by the client
	Stays      Kind = "stays"     // a returning client's host
	Only       Kind = "only"      // the only eligible host
	Next       Kind = "next"      // in turn
	First      Kind = "first"     // in the set order
	Least      Kind = "least"     // booked
	Everybody  Kind = "everybody" // together
	AlwaysWith Kind = "always"    // some always, and this one in turn
	ByHand     Kind = "hand"      // a colleague's decision
)

// Reason is why a choice was made, and who would have come before but was not open.
type Reason struct {
	Kind   Kind
	Rule   int // the answer rule that applied, counted from 1; 0 for none
	Passed []Passed
}

// Passed is somebody who would have come before.
type Passed struct {
	Host int64
	Closed
}

// Choice is who takes a booking. Without hosts, nobody can.
type Choice struct {
	Hosts  []int64 // the one who leads it first
	Reason Reason
}

// Candidates are those whom the answers point to, in the pool's order, and which rule did so (0 for none).
func (r Routing) Candidates(answers map[string]string) (hosts []Host, rule int) {
	for i, rule := range r.Rules {
		answer := answers[rule.Attribute]
		if !slices.Contains(rule.Values, answer) {
			continue
		}
		for _, h := range r.Hosts {
			named := slices.Contains(rule.Hosts, h.ID)
			if named || len(rule.Hosts) == 0 && slices.Contains(h.Attributes[rule.Attribute], answer) {
				hosts = append(hosts, h)
			}
		}
		return hosts, i + 1
	}
	if len(r.Rules) > 0 && r.Strict {
		return nil, 0
	}
	return slices.Clone(r.Hosts), 0
}

// CanTake tells whether the candidates could take a booking that those are open for.
func (r Routing) CanTake(candidates []Host, open func(int64) bool) bool {
	ready := 0
	for _, h := range candidates {
		switch {
		case open(h.ID):
			if r.Mode != SomeAndOne || !h.Always {
				ready++
			}
		case r.Mode == Together || r.Mode == SomeAndOne && h.Always:
			return false
		}
	}
	if r.Mode == Together {
		return len(candidates) > 0
	}
	return ready > 0
}

// Choose gives a booking to its hosts.
func Choose(r Routing, ledger Ledger, c Circumstances) Choice {
	candidates, rule := r.Candidates(c.Answers)
	choice := choose(r, candidates, ledger, c)
	choice.Reason.Rule = rule
	return choice
}

func choose(r Routing, candidates []Host, ledger Ledger, c Circumstances) Choice {
	open := func(id int64) bool { return c.Open[id] }
	if !r.CanTake(candidates, open) {
		return Choice{Reason: Reason{Passed: passed(candidates, c)}}
	}
	if r.Mode == Together {
		return Choice{ids(candidates), Reason{Kind: Everybody}}
	}
	var always, rest []Host
	for _, h := range candidates {
		if r.Mode == SomeAndOne && h.Always {
			always = append(always, h)
		} else {
			rest = append(rest, h)
		}
	}
	one, reason := oneOf(r, rest, ledger, c)
	if one == 0 {
		return Choice{Reason: reason}
	}
	if len(always) > 0 && reason.Kind == Next {
		reason.Kind = AlwaysWith
	}
	return Choice{append(ids(always), one), reason}
}

// oneOf finds one among hosts, at least one of whom is open.
func oneOf(r Routing, hosts []Host, ledger Ledger, c Circumstances) (int64, Reason) {
	is := func(id int64) bool {
		return id != 0 && c.Open[id] && slices.ContainsFunc(hosts, func(h Host) bool { return h.ID == id })
	}
	switch {
	case is(c.Wanted):
		return c.Wanted, Reason{Kind: Chosen}
	case c.Wanted != 0:
		return 0, Reason{Passed: []Passed{{c.Wanted, c.Closed[c.Wanted]}}}
	case r.Returning && is(c.Last):
		return c.Last, Reason{Kind: Stays}
	case len(hosts) == 1:
		return hosts[0].ID, Reason{Kind: Only}
	}
	kind, ranked := r.ranked(hosts, ledger, c)
	for i, h := range ranked {
		if c.Open[h.ID] {
			return h.ID, Reason{Kind: kind, Passed: passed(ranked[:i], c)}
		}
	}
	return 0, Reason{}
}

// ranked is the hosts in the order in which they would be given a booking if all were open.
func (r Routing) ranked(hosts []Host, ledger Ledger, c Circumstances) (Kind, []Host) {
	ranked := slices.Clone(hosts)
	switch r.Mode {
	case InOrder:
		return First, ranked
	case LeastBooked:
		slices.SortStableFunc(ranked, func(a, b Host) int { return cmp.Compare(c.Booked[a.ID], c.Booked[b.ID]) })
		return Least, ranked
	default:
		ledger.inTurn(ranked)
		return Next, ranked
	}
}

func passed(hosts []Host, c Circumstances) []Passed {
	var out []Passed
	for _, h := range hosts {
		if !c.Open[h.ID] {
			out = append(out, Passed{h.ID, c.Closed[h.ID]})
		}
	}
	return out
}

func ids(hosts []Host) []int64 {
	out := make([]int64, 0, len(hosts)+1)
	for _, h := range hosts {
		out = append(out, h.ID)
	}
	return out
}
