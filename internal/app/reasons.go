package app

import (
	"context"
	"slices"
	"time"

	"corrim/core/civil"
	"corrim/core/hours"
	"corrim/core/opentimes"
	"corrim/core/scenario"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/refusal"
)

// Reasons opens one day of a meeting type into a layer per rule, and says why one time of it is open or not.
type Reasons struct {
	Type    string      `json:"type"`
	Host    string      `json:"host"`
	Zone    string      `json:"zone"`
	Minutes int         `json:"minutes"`
	Lengths []int       `json:"lengths" doc:"All lengths that could be explained."`
	Kept    int         `json:"kept" doc:"Minutes of the host's day, with buffers."`
	Ribbon  Ribbon      `json:"ribbon"`
	Layers  []RuleLayer `json:"layers" doc:"In the order of the rules."`
	At      Answer      `json:"at"`

	Crew    Crew         `json:"crew"`
	Offered bool         `json:"offered" doc:"Can a client get the time from any of the hosts, as they are routed?"`
	Pool    []PoolAnswer `json:"pool" doc:"What each host says to the time."`
}

// PoolAnswer is whether one of a type's hosts is open at a time, or which rule closes it first.
type PoolAnswer struct {
	PageHost
	Open bool       `json:"open"`
	Why  told.Words `json:"why,omitzero"`
}

// RuleLayer is what one rule refers to on the day, and what it is set to.
type RuleLayer struct {
	Rule   opentimes.Rule `json:"rule"`
	Name   told.Words     `json:"name"`
	Note   told.Words     `json:"note"`
	Causes []Mark         `json:"causes"`
	Starts []int          `json:"starts" doc:"For the step: the grid."`
}

// Answer is why a time is open or not.
type Answer struct {
	Minute  int         `json:"minute"`
	Open    bool        `json:"open"`
	Rules   []RuleSays  `json:"rules"`
	Nearest []time.Time `json:"nearest" doc:"Open starts around it."`
}

// RuleSays is what one rule says about a time.
type RuleSays struct {
	Rule      opentimes.Rule `json:"rule"`
	Name      told.Words     `json:"name"`
	Holds     bool           `json:"holds"`
	Sentences []told.Words   `json:"sentences"`
}

// Reasons explains a day of one of the person's types for one of its hosts (0 is the person if they host it, else the first) and one
// of its lengths (0 is the first), and the time at a minute of the host's wall clock.
func (a *App) Reasons(ctx context.Context, p Person, id int64, date string, minute, minutes int, host int64) (Reasons, error) {
	kind, day, err := a.typeAndDay(ctx, p, id, date)
	if err != nil {
		return Reasons{}, err
	}
	if minutes, err = kind.Rules.length(minutes); err != nil {
		return Reasons{}, err
	}
	lengths := kind.Rules.lengths()
	kind.Rules = kind.Rules.only(minutes)
	// Bookings of the whole week count for limits; the nearest starts are looked for in three weeks around.
	around := day.Span(p.zone).Grow(23*24*3600, 23*24*3600)
	l, crew, err := a.crew(ctx, a.Store.Queries, p, kind, 0, around)
	if err != nil {
		return Reasons{}, err
	}
	i := l.whoseReasons(p, host)
	if i < 0 {
		return Reasons{}, refusal.New(refusal.NotFound, told.Say("nobody-who-takes", "Nobody who takes bookings hosts this meeting type, so there is nothing to explain. Choose who hosts it."))
	}
	g := l.agendas[i]
	crew.Host = g.person.ID
	drawer := newDayDrawer(day, g.person.zone)
	start := opentimes.Start{At: civil.Clock{Date: day, Seconds: minute * 60}.Instant(g.person.zone), Minutes: minutes}
	in := g.input(kind.ID, kind.Rules)
	r := Reasons{
		Type: kind.Name, Host: g.person.Name, Zone: g.person.Zone, Minutes: start.Minutes, Lengths: lengths, Kept: kind.Rules.Before + start.Minutes + kind.Rules.After,
		Ribbon: drawer.ribbon(), Crew: crew, Pool: []PoolAnswer{},
	}
	drawer.background(&r.Ribbon, g)
	r.Ribbon.Kept = drawer.starts(r.Ribbon.Kept, opentimes.Search(in, drawer.day))
	for _, layer := range opentimes.Layers(in, drawer.day, start.Minutes) {
		r.Layers = append(r.Layers, drawer.layer(in, layer, start.Minutes))
	}
	r.At = answer(in, start, minute)
	r.Offered = len(l.offers(span.Span{Start: start.At, End: start.At + 1})) > 0
	r.Pool = l.poolAnswers(start)
	return r, nil
}

// whoseReasons is which of the hosts is explained; -1 if there is none.
func (l lineup) whoseReasons(viewer Person, host int64) int {
	of := func(id int64) int {
		return slices.IndexFunc(l.agendas, func(g agenda) bool { return g.person.ID == id })
	}
	switch {
	case host != 0:
		return of(host)
	case of(viewer.ID) >= 0:
		return of(viewer.ID)
	}
	return min(0, len(l.agendas)-1)
}

// poolAnswers says for each host whether they are open at a start, or which rule closes it first.
func (l lineup) poolAnswers(start opentimes.Start) []PoolAnswer {
	in, pool := l.input()
	out := []PoolAnswer{}
	for i, e := range opentimes.ExplainPool(in, pool, start) {
		host := PoolAnswer{PageHost: PageHost{l.agendas[i].person.ID, l.agendas[i].person.Slug, l.agendas[i].person.Name}, Open: e.Open}
		if !e.Open {
			host.Why = e.Failing()[0].Title()
		}
		out = append(out, host)
	}
	return out
}

func (a *App) typeAndDay(ctx context.Context, p Person, id int64, date string) (MeetingType, civil.Date, error) {
	kind, err := a.MeetingType(ctx, p, id)
	if err != nil {
		return kind, civil.Date{}, err
	}
	day, err := civil.ParseDate(date)
	if err != nil {
		return kind, day, refusal.Faulty("date", told.OfError(err))
	}
	return kind, day, nil
}

func (d dayDrawer) layer(in opentimes.Input, l opentimes.Layer, minutes int) RuleLayer {
	out := RuleLayer{Rule: l.Rule, Name: l.Rule.Title(), Note: l.Rule.Note(in.Type), Causes: []Mark{}, Starts: []int{}}
	if l.Rule == opentimes.StepRule {
		for _, at := range opentimes.GridStarts(in, d.day, minutes) {
			out.Starts = append(out.Starts, d.minute(at))
		}
		return out
	}
	for _, take := range l.Takes {
		out.Causes = d.mark(out.Causes, take.Cause.Span, take.Cause.Title)
	}
	return out
}

func answer(in opentimes.Input, start opentimes.Start, minute int) Answer {
	e := opentimes.Explain(in, start)
	out := Answer{Minute: minute, Open: e.Open, Nearest: []time.Time{}}
	for _, reason := range e.Reasons {
		out.Rules = append(out.Rules, RuleSays{reason.Rule, reason.Rule.Title(), reason.Holds, reason.Say(in, opentimes.ToHost)})
	}
	if !e.Open {
		out.Nearest = times(opentimes.Nearest(in, start, 2))
	}
	return out
}

// scenarioDays is how many days a saved scenario lists starts for.
const scenarioDays = 14

// Scenario saves what the open times of a type depend on from a date on as a file for support, with all who host it. It holds no
// titles of events and no names of clients.
func (a *App) Scenario(ctx context.Context, p Person, id int64, date string) ([]byte, error) {
	kind, day, err := a.typeAndDay(ctx, p, id, date)
	if err != nil {
		return nil, err
	}
	within := span.Span{Start: day.Start(p.zone), End: day.AddDays(scenarioDays).Start(p.zone)}
	l, _, err := a.crew(ctx, a.Store.Queries, p, kind, 0, within.Grow(7*24*3600, 7*24*3600))
	if err != nil {
		return nil, err
	}
	if len(l.agendas) == 0 {
		return nil, refusal.New(refusal.NotFound, told.Say("nobody-who-takes-bookings", "Nobody who takes bookings hosts this meeting type, so there is nothing to save. Choose who hosts it."))
	}
	in, pool := l.input()
	for i, host := range pool.Hosts {
		if host.Hours.Elsewhere { // the file knows weeks and days that differ
			around := within.Grow(2*24*3600, 2*24*3600)
			pool.Hosts[i].Hours = hours.FromOpen(host.Hours.Open(around), l.agendas[i].person.zone, day, scenarioDays)
		}
	}
	return scenario.Scenario{Input: in, Pool: pool, Range: within}.Write()
}
