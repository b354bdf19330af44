package routing

import (
	"cmp"
	"slices"

	"corrim/core/span"
)

// Ledger is who was given how many bookings.
type Ledger map[int64]Account

// Account is one host's part of a ledger.
type Account struct {
	Given  int          // bookings, without those that were given back
	Credit int          // added so that a newcomer or returner starts level, or by hand
	Last   span.Instant // when the last one was given; 0 for never
}

func (a Account) counts() int { return a.Given + a.Credit }

// An Entry is one thing that happened to a ledger.
type Entry struct {
	At    span.Instant
	Host  int64
	What  What
	Count int // with Gave: as how many bookings it counts; with Corrected: how many are added
}

// What happened.
type What int

// What can happen.
const (
	Gave      What = iota // a booking was given
	Joined                // the host came into the pool, or back from leave
	Corrected             // somebody changed the count by hand
)

// Keep works out a ledger from what happened, in the order of time. Bookings that were cancelled are simply not among the
// entries: they are given back.
func Keep(hosts []Host, entries []Entry) Ledger {
	ledger := Ledger{}
	sorted := slices.Clone(entries)
	slices.SortStableFunc(sorted, func(a, b Entry) int { return cmp.Compare(a.At, b.At) })
	for _, e := range sorted {
		account := ledger[e.Host]
		switch e.What {
		case Gave:
			account.Given += e.Count
			account.Last = e.At
		case Joined:
			account.Credit += ledger.level(hosts, e.Host)
		case Corrected:
			account.Credit += e.Count
		}
		ledger[e.Host] = account
	}
	return ledger
}

// Give is the ledger after one more booking.
func (l Ledger) Give(host int64, at span.Instant) Ledger {
	out := Ledger{}
	for id, account := range l {
		out[id] = account
	}
	account := out[host]
	account.Given++
	account.Last = at
	out[host] = account
	return out
}

// level is what a host needs to have their share of what the others have, so that they neither catch up nor wait.
func (l Ledger) level(hosts []Host, id int64) int {
	weights, counts, own := 0, 0, 0
	for _, h := range hosts {
		if h.ID == id {
			own = h.Weight
			continue
		}
		weights += h.Weight
		counts += l[h.ID].counts()
	}
	if weights == 0 {
		return 0
	}
	return max(0, own*counts/weights-l[id].counts())
}

// inTurn sorts hosts by whose turn it is: among those with enough of their share outstanding, whoever would be a booking
// behind it soonest; then the others, whoever has most outstanding. Of equals whoever waits longest comes first, then the set
// order. Weights 5, 1, 1 give a a b a c a a, as smooth weighted round robin does; but while all are open, nobody of n is
// ever further from their share than 1 − 1/(2n − 2) bookings (R. Tijdeman, The chairman assignment problem, 1980).
func (l Ledger) inTurn(hosts []Host) {
	weights, counts := l.totals(hosts)
	n := max(1, 2*len(hosts)-2)
	outstanding := func(h Host) int { return h.Weight*(counts+1) - weights*l[h.ID].counts() } // in bookings × weights
	enough := func(h Host) bool { return n*outstanding(h) >= weights }
	slack := func(h Host) int { return (n-1)*weights - n*outstanding(h) } // until they are a booking behind, × their weight
	slices.SortStableFunc(hosts, func(a, b Host) int {
		order := cmp.Compare(outstanding(b), outstanding(a))
		switch {
		case enough(a) != enough(b):
			order = map[bool]int{true: -1, false: 1}[enough(a)]
		case enough(a):
			order = cmp.Compare(slack(a)*b.Weight, slack(b)*a.Weight)
		}
		return cmp.Or(order, cmp.Compare(l[a.ID].Last, l[b.ID].Last))
	})
}

func (l Ledger) totals(hosts []Host) (weights, counts int) {
	for _, h := range hosts {
		weights += h.Weight
		counts += l[h.ID].counts()
	}
	return weights, counts
}

// Drift is by how many bookings a host is ahead of their share (or behind it, if negative), credits included.
func (l Ledger) Drift(hosts []Host, id int64) float64 {
	weights, counts := l.totals(hosts)
	for _, h := range hosts {
		if h.ID == id && weights > 0 {
			return float64(l[id].counts()) - float64(h.Weight*counts)/float64(weights)
		}
	}
	return 0
}

// NextInTurn is the hosts in the order in which the next bookings would come to them.
func (l Ledger) NextInTurn(hosts []Host) []int64 {
	sorted := slices.Clone(hosts)
	l.inTurn(sorted)
	return ids(sorted)
}
