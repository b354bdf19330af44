package scenario

import (
	"fmt"
	"slices"
	"strings"

	"corrim/core/civil"
	"corrim/core/opentimes"
	"corrim/core/span"
)

// Answer is what a scenario comes to.
type Answer struct {
	Starts  []Start  `json:"starts"`  // by start, then minutes
	Reasons []Reason `json:"reasons"` // one for each asked instant and duration
}

// Start is an open time, with the hosts that are open then, in the file's order.
type Start struct {
	Start   string   `json:"start"`
	Minutes int      `json:"minutes"`
	Hosts   []string `json:"hosts"`
	Left    int      `json:"seats_left,omitempty"` // where clients share times
}

// Reason is why an asked time is open or not, for every host by name.
type Reason struct {
	At      string          `json:"at"`
	Minutes int             `json:"minutes"`
	Hosts   map[string]Host `json:"hosts"`
}

// Host is one host's part of a reason.
type Host struct {
	Open    bool             `json:"open"`
	Failing []opentimes.Rule `json:"failing"`
	Why     []Why            `json:"why"`
}

// Why is what one rule says; a rule that fails for several causes says it once for each.
type Why struct {
	Rule  opentimes.Rule `json:"rule"`
	Holds bool           `json:"holds"`
	Text  string         `json:"text"`
	From  string         `json:"from,omitempty"`
	To    string         `json:"to,omitempty"`
}

// Answer computes the open starts and the reasons asked for.
func (s Scenario) Answer() Answer {
	a := Answer{Starts: []Start{}, Reasons: []Reason{}}
	seatsLeft := opentimes.PoolSeatsLeft(s.Input, s.Pool)
	for _, o := range opentimes.SearchPool(s.Input, s.Pool, s.Range) {
		start := Start{Start: o.At.String(), Minutes: o.Minutes}
		if s.Input.Type.Seats > 1 {
			start.Left, _, _ = seatsLeft(o)
		}
		for _, k := range o.Hosts {
			start.Hosts = append(start.Hosts, s.Pool.Hosts[k].Name)
		}
		a.Starts = append(a.Starts, start)
	}
	for _, at := range s.Explain {
		for _, minutes := range s.Input.Type.Durations {
			a.Reasons = append(a.Reasons, s.reason(opentimes.Start{At: at, Minutes: minutes}))
		}
	}
	return a
}

func (s Scenario) reason(at opentimes.Start) Reason {
	r := Reason{At: at.At.String(), Minutes: at.Minutes, Hosts: map[string]Host{}}
	for k, e := range opentimes.ExplainPool(s.Input, s.Pool, at) {
		in := s.Input
		in.Host = s.Pool.Hosts[k]
		host := Host{Open: e.Open, Failing: append([]opentimes.Rule{}, e.Failing()...)}
		for _, reason := range e.Reasons {
			host.Why = append(host.Why, why(in, reason)...)
		}
		r.Hosts[in.Host.Name] = host
	}
	return r
}

func why(in opentimes.Input, r opentimes.Reason) []Why {
	sentences := r.Say(in, opentimes.ToHost)
	out := make([]Why, len(sentences))
	for i, words := range sentences {
		out[i] = Why{Rule: r.Rule, Holds: r.Holds, Text: words.Sentence}
		if i < len(r.Causes) && !r.Causes[i].Span.Empty() {
			out[i].From, out[i].To = r.Causes[i].Span.Start.String(), r.Causes[i].Span.End.String()
		}
	}
	return out
}

const (
	cell         = 15 // minutes that one letter of a ribbon stands for
	cellsOfDay   = 24 * 60 / cell
	ribbonLegend = ". closed   - open hours   # busy   B booked   | a start   (one letter is 15 minutes)"
)

// Ribbon draws each host's days as lines of text, on the host's own clock.
func (s Scenario) Ribbon() string {
	var b strings.Builder
	offers := opentimes.SearchPool(s.Input, s.Pool, s.Range)
	for k, host := range s.Pool.Hosts {
		fmt.Fprintf(&b, "%s, %s\n%16s", host.Name, host.Hours.Zone, "")
		for hour := range 24 {
			fmt.Fprintf(&b, "%-4d", hour)
		}
		b.WriteString("\n")
		last := civil.DateOf(max(s.Range.Start, s.Range.End-1), host.Hours.Zone)
		for date := civil.DateOf(s.Range.Start, host.Hours.Zone); !last.Before(date); date = date.AddDays(1) {
			fmt.Fprintf(&b, "%s  %s\n", date.Start(host.Hours.Zone).Time().In(host.Hours.Zone).Format("Mon 02 Jan 06"), line(host, date, offers, k))
		}
		b.WriteString("\n")
	}
	return b.String() + ribbonLegend + "\n"
}

// line draws one day of the host, the k-th of the pool.
func line(host opentimes.Host, date civil.Date, offers []opentimes.Offer, k int) string {
	zone := host.Hours.Zone
	day := date.Span(zone)
	cells := []byte(strings.Repeat(".", cellsOfDay))
	paint := func(s span.Span, letter byte) {
		for i := s.Clip(day).Start; i < s.Clip(day).End; i += cell * 60 {
			cells[civil.ClockOf(i, zone).Seconds/60/cell] = letter
		}
	}
	for _, s := range host.Hours.Open(day) {
		paint(s, '-')
	}
	for _, s := range host.Busy.Within(day) {
		paint(s.Span, '#')
	}
	for _, b := range host.Bookings {
		paint(b.Meeting, 'B')
	}
	for _, o := range offers {
		if day.Holds(o.At) && slices.Contains(o.Hosts, k) {
			cells[civil.ClockOf(o.At, zone).Seconds/60/cell] = '|'
		}
	}
	return string(cells)
}
