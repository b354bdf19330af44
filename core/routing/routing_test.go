package routing_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"corrim/core/opentimes"
	"corrim/core/routing"
	"corrim/core/span"
)

func pool(weights ...int) []routing.Host {
	hosts := make([]routing.Host, len(weights))
	for i, w := range weights {
		hosts[i] = routing.Host{ID: int64(i + 1), Weight: w}
	}
	return hosts
}

func open(ids ...int64) map[int64]bool {
	out := map[int64]bool{}
	for _, id := range ids {
		out[id] = true
	}
	return out
}

// given takes bookings in turn and names the hosts a, b, c …; away tells who is not open at the nth.
func given(hosts []routing.Host, ledger routing.Ledger, n int, away func(nth int, id int64) bool) (string, routing.Ledger) {
	r := routing.Routing{Mode: routing.InTurn, Hosts: hosts}
	said := ""
	for i := range n {
		ready := map[int64]bool{}
		for _, h := range hosts {
			ready[h.ID] = !away(i, h.ID)
		}
		choice := routing.Choose(r, ledger, routing.Circumstances{Open: ready})
		for _, id := range choice.Hosts {
			said += string(rune('a' + id - 1))
			ledger = ledger.Give(id, span.Instant(1000+i))
		}
	}
	return said, ledger
}

func never(int, int64) bool { return false }

// The sequence that smooth weighted round robin is known by, from its description in the nginx source (commit 52327e0627f4,
// 2012; from memory): weights 5, 1, 1 give a a b a c a a, and so on in every round.
func TestInTurnByWeightIsSmoothWeightedRoundRobin(t *testing.T) {
	said, _ := given(pool(5, 1, 1), nil, 14, never)
	assert.Equal(t, "aabacaaaabacaa", said)
}

// With these, most outstanding first – smooth weighted round robin – lets somebody fall a whole booking behind.
func TestTheBoundHoldsWhereSmoothRoundRobinFails(t *testing.T) {
	hosts := pool(5, 1, 3, 1, 3, 1, 3, 1)
	_, ledger := given(hosts, nil, 30, never)
	for _, h := range hosts {
		assert.LessOrEqual(t, math.Abs(ledger.Drift(hosts, h.ID)), 13.0/14+1e-9)
	}
}

// The bound is Tijdeman's (1980): 1 − 1/(2n − 2) bookings for n hosts; from memory.
func TestWhileAllAreOpenCountsStayWithinOneOfTheShare(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		weights := rapid.SliceOfN(rapid.IntRange(1, 6), 1, 8).Draw(t, "weights")
		hosts := pool(weights...)
		_, ledger := given(hosts, nil, rapid.IntRange(0, 60).Draw(t, "bookings"), never)
		least, most := math.MaxInt, 0
		bound := 1 - 1/float64(max(1, 2*len(hosts)-2))
		for _, h := range hosts {
			assert.LessOrEqual(t, math.Abs(ledger.Drift(hosts, h.ID)), bound+1e-9, "drift of %d", h.ID)
			least, most = min(least, ledger[h.ID].Given), max(most, ledger[h.ID].Given)
		}
		if strings.Count(fmt.Sprint(weights), fmt.Sprint(weights[0])) == len(weights) {
			assert.LessOrEqual(t, most-least, 1, "equal weights")
		}
	})
}

// Nobody gets a booking that they are not open for, however hosts, weights, answers and modes fall.
func TestNobodyIsChosenWhoIsNotOpen(t *testing.T) {
	modes := []routing.Mode{routing.ByClient, routing.InTurn, routing.InOrder, routing.LeastBooked, routing.Together, routing.SomeAndOne}
	rapid.Check(t, func(t *rapid.T) {
		hosts := pool(rapid.SliceOfN(rapid.IntRange(1, 3), 1, 5).Draw(t, "weights")...)
		c := routing.Circumstances{Open: map[int64]bool{}, Booked: map[int64]int{}, Answers: map[string]string{"language": rapid.SampledFrom([]string{"", "Dutch", "Thai"}).Draw(t, "answer")}}
		for i := range hosts {
			hosts[i].Always = rapid.Bool().Draw(t, "always")
			hosts[i].Attributes = map[string][]string{"language": {rapid.SampledFrom([]string{"Dutch", "English"}).Draw(t, "speaks")}}
			c.Open[hosts[i].ID] = rapid.Bool().Draw(t, "open")
			c.Booked[hosts[i].ID] = rapid.IntRange(0, 100).Draw(t, "booked")
		}
		c.Wanted, c.Last = rapid.Int64Range(0, 6).Draw(t, "wanted"), rapid.Int64Range(0, 6).Draw(t, "last")
		r := routing.Routing{Mode: rapid.SampledFrom(modes).Draw(t, "mode"), Hosts: hosts, Returning: true, Strict: rapid.Bool().Draw(t, "strict"),
			Rules: []routing.Rule{{Attribute: "language", Values: []string{"Dutch", "Thai"}}}}
		choice := routing.Choose(r, nil, c)
		for _, id := range choice.Hosts {
			assert.True(t, c.Open[id])
		}
		candidates, _ := r.Candidates(c.Answers)
		offers := r.CanTake(candidates, func(id int64) bool { return c.Open[id] })
		if c.Wanted == 0 {
			assert.Equal(t, offers, len(choice.Hosts) > 0, "what is offered is what can be honoured")
		} else if len(choice.Hosts) > 0 {
			assert.True(t, offers)
		}
		assert.Equal(t, choice, routing.Choose(r, nil, c), "deterministic")
	})
}

func TestANewcomerAndSomebodyBackStartLevel(t *testing.T) {
	hosts := pool(1, 1, 2)
	entries := []routing.Entry{}
	for i := range 20 {
		entries = append(entries, routing.Entry{At: span.Instant(i), Host: int64(i%2 + 1), Count: 1})
	}
	entries = append(entries, routing.Entry{At: 50, Host: 3, What: routing.Joined})
	ledger := routing.Keep(hosts, entries)
	assert.Equal(t, routing.Account{Credit: 20}, ledger[3], "twice the weight, so twice what each of the others has")
	said, _ := given(hosts, ledger, 4, never)
	assert.Equal(t, 2, strings.Count(said, "c"), "the newcomer gets their share and is not flooded: %s", said)
	ledger = routing.Keep(hosts, append(entries, routing.Entry{At: 60, Host: 1, What: routing.Corrected, Count: 5}))
	said, _ = given(hosts, ledger, 4, never)
	assert.NotContains(t, said, "a", "a correction counts")
	assert.InDelta(t, 3.75, ledger.Drift(hosts, 1), 0.01, "15 of 45, where a quarter is the share")
}

func TestEveryWayFindsItsHostAndSaysWhy(t *testing.T) {
	hosts := pool(1, 1, 1)
	busy := routing.Closed{Rule: opentimes.BusyRule}
	for name, check := range map[string]struct {
		r    routing.Routing
		c    routing.Circumstances
		want routing.Choice
	}{
		"in turn, one passed over": {routing.Routing{Mode: routing.InTurn, Hosts: hosts}, routing.Circumstances{Open: open(2, 3), Closed: map[int64]routing.Closed{1: busy}},
			routing.Choice{Hosts: []int64{2}, Reason: routing.Reason{Kind: routing.Next, Passed: []routing.Passed{{Host: 1, Closed: busy}}}}},
		"set order":                   {routing.Routing{Mode: routing.InOrder, Hosts: hosts}, routing.Circumstances{Open: open(1, 2, 3)}, routing.Choice{Hosts: []int64{1}, Reason: routing.Reason{Kind: routing.First}}},
		"least booked":                {routing.Routing{Mode: routing.LeastBooked, Hosts: hosts}, routing.Circumstances{Open: open(1, 2, 3), Booked: map[int64]int{1: 60, 2: 30, 3: 90}}, routing.Choice{Hosts: []int64{2}, Reason: routing.Reason{Kind: routing.Least}}},
		"the client chooses":          {routing.Routing{Mode: routing.ByClient, Hosts: hosts}, routing.Circumstances{Open: open(1, 3), Wanted: 3}, routing.Choice{Hosts: []int64{3}, Reason: routing.Reason{Kind: routing.Chosen}}},
		"whom they choose is busy":    {routing.Routing{Mode: routing.ByClient, Hosts: hosts}, routing.Circumstances{Open: open(1), Wanted: 3, Closed: map[int64]routing.Closed{3: busy}}, routing.Choice{Reason: routing.Reason{Passed: []routing.Passed{{Host: 3, Closed: busy}}}}},
		"a returning client":          {routing.Routing{Mode: routing.InTurn, Hosts: hosts, Returning: true}, routing.Circumstances{Open: open(1, 2, 3), Last: 2}, routing.Choice{Hosts: []int64{2}, Reason: routing.Reason{Kind: routing.Stays}}},
		"whose host has left":         {routing.Routing{Mode: routing.InTurn, Hosts: hosts, Returning: true}, routing.Circumstances{Open: open(1, 2, 3), Last: 9}, routing.Choice{Hosts: []int64{1}, Reason: routing.Reason{Kind: routing.Next}}},
		"together":                    {routing.Routing{Mode: routing.Together, Hosts: hosts}, routing.Circumstances{Open: open(1, 2, 3)}, routing.Choice{Hosts: []int64{1, 2, 3}, Reason: routing.Reason{Kind: routing.Everybody}}},
		"together, but one is busy":   {routing.Routing{Mode: routing.Together, Hosts: hosts}, routing.Circumstances{Open: open(1, 2), Closed: map[int64]routing.Closed{3: busy}}, routing.Choice{Reason: routing.Reason{Passed: []routing.Passed{{Host: 3, Closed: busy}}}}},
		"some always and one of rest": {routing.Routing{Mode: routing.SomeAndOne, Hosts: []routing.Host{{ID: 1, Weight: 1}, {ID: 2, Weight: 1, Always: true}, {ID: 3, Weight: 1}}}, routing.Circumstances{Open: open(2, 1, 3)}, routing.Choice{Hosts: []int64{2, 1}, Reason: routing.Reason{Kind: routing.AlwaysWith}}},
	} {
		assert.Equal(t, check.want, routing.Choose(check.r, nil, check.c), name)
	}
}

// deadEnds are the cases that lead to nobody.
func deadEnds(cases []routing.Case) []routing.Case {
	return slices.DeleteFunc(slices.Clone(cases), func(c routing.Case) bool { return len(c.Hosts) > 0 })
}

func TestAnswersPointToHostsAndDeadEndsAreFound(t *testing.T) {
	hosts := pool(1, 1, 1)
	hosts[0].Attributes = map[string][]string{"region": {"Americas"}}
	r := routing.Routing{Mode: routing.InTurn, Hosts: hosts, Strict: true, Rules: []routing.Rule{
		{Attribute: "language", Values: []string{"Dutch"}, Hosts: []int64{3}},
		{Attribute: "region", Values: []string{"Americas", "Asia"}},
	}}
	all := open(1, 2, 3)
	choose := func(language, region string) routing.Choice {
		return routing.Choose(r, nil, routing.Circumstances{Open: all, Answers: map[string]string{"language": language, "region": region}})
	}
	assert.Equal(t, routing.Choice{Hosts: []int64{3}, Reason: routing.Reason{Kind: routing.Only, Rule: 1}}, choose("Dutch", "Americas"), "the first rule counts")
	assert.Equal(t, []int64{1}, choose("English", "Americas").Hosts)
	assert.Empty(t, choose("English", "Asia").Hosts, "nobody there")
	assert.Empty(t, choose("English", "Europe").Hosts, "strict")
	cases, whole := r.Cases()
	require.True(t, whole)
	assert.Len(t, cases, 2*3)
	dead := deadEnds(cases)
	require.Len(t, dead, 2)
	assert.Equal(t, map[string]string{"language": routing.Other, "region": "Asia"}, dead[0].Answers)
	assert.Equal(t, map[string]string{"language": routing.Other, "region": routing.Other}, dead[1].Answers)
	r.Strict = false
	cases, _ = r.Cases()
	assert.Len(t, deadEnds(cases), 1, "those for whom no rule fits go to anyone")
	attributes, values := r.Attributes()
	assert.Equal(t, []string{"language", "region"}, attributes)
	assert.Equal(t, []string{"Americas", "Asia"}, values["region"])
}

// Fairness by simulation: 10,000 bookings over 8 colleagues who are open for 30 to 90 % of them. What is reported is the
// largest drift from the share, in bookings and in percent of it; and how long one choice takes.
func BenchmarkFairness(b *testing.B) {
	hosts := pool(1, 1, 1, 1, 2, 2, 2, 2)
	var ledger routing.Ledger
	for b.Loop() {
		chance := rand.New(rand.NewPCG(7, 7))
		_, ledger = given(hosts, nil, 10_000, func(_ int, id int64) bool { return chance.Float64() > 0.3+0.6*float64(id)/8 })
	}
	worst, percent := 0.0, 0.0
	for _, h := range hosts {
		drift := math.Abs(ledger.Drift(hosts, h.ID))
		worst = max(worst, drift)
		percent = max(percent, 100*drift/(float64(ledger[h.ID].Given)-ledger.Drift(hosts, h.ID)))
	}
	b.ReportMetric(worst, "drift")
	b.ReportMetric(percent, "drift-%")
	b.ReportMetric(float64(b.Elapsed().Nanoseconds())/float64(b.N)/10_000, "ns/choice")
}
