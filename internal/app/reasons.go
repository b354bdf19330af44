package app

import (
	"context"
	"time"

	"corrim/core/civil"
	"corrim/core/hours"
	"corrim/core/opentimes"
	"corrim/core/scenario"
	"corrim/core/span"
	"corrim/core/wording"
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
}

// RuleLayer is what one rule refers to on the day, and what it is set to.
type RuleLayer struct {
	Rule   opentimes.Rule `json:"rule"`
	Name   string         `json:"name"`
	Note   string         `json:"note"`
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
	Name      string         `json:"name"`
	Holds     bool           `json:"holds"`
	Sentences []string       `json:"sentences"`
}

// Reasons explains a day of one of the person's types for one of its lengths (0 is the first), and the time at a minute
// of its wall clock.
func (a *App) Reasons(ctx context.Context, p Person, id int64, date string, minute, minutes int) (Reasons, error) {
	kind, day, err := a.typeAndDay(ctx, p, id, date)
	if err != nil {
		return Reasons{}, err
	}
	if minutes, err = kind.Rules.length(minutes); err != nil {
		return Reasons{}, err
	}
	lengths := kind.Rules.lengths()
	kind.Rules = kind.Rules.only(minutes)
	drawer := newDayDrawer(day, p.zone)
	start := opentimes.Start{At: civil.Clock{Date: day, Seconds: minute * 60}.Instant(p.zone), Minutes: minutes}
	// Bookings of the whole week count for limits; the nearest starts are looked for in three weeks around.
	agenda, err := a.agenda(ctx, a.Store.Queries, p, drawer.day.Grow(22*24*3600, 22*24*3600), 0)
	if err != nil {
		return Reasons{}, err
	}
	in := agenda.input(kind.ID, kind.Rules)
	r := Reasons{Type: kind.Name, Host: p.Name, Zone: p.Zone, Minutes: start.Minutes, Lengths: lengths, Kept: kind.Rules.Before + start.Minutes + kind.Rules.After, Ribbon: drawer.ribbon()}
	drawer.background(&r.Ribbon, agenda)
	r.Ribbon.Kept = drawer.starts(r.Ribbon.Kept, opentimes.Search(in, drawer.day))
	for _, layer := range opentimes.Layers(in, drawer.day, start.Minutes) {
		r.Layers = append(r.Layers, drawer.layer(in, layer, start.Minutes))
	}
	r.At = answer(in, start, minute)
	return r, nil
}

func (a *App) typeAndDay(ctx context.Context, p Person, id int64, date string) (MeetingType, civil.Date, error) {
	kind, err := a.MeetingType(ctx, p, id)
	if err != nil {
		return kind, civil.Date{}, err
	}
	day, err := civil.ParseDate(date)
	if err != nil {
		return kind, day, complaints{"date": err.Error()}.err()
	}
	return kind, day, nil
}

func (d dayDrawer) layer(in opentimes.Input, l opentimes.Layer, minutes int) RuleLayer {
	out := RuleLayer{Rule: l.Rule, Name: wording.RuleName(l.Rule), Note: wording.RuleNote(in, l.Rule), Causes: []Mark{}, Starts: []int{}}
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
		out.Rules = append(out.Rules, RuleSays{reason.Rule, wording.RuleName(reason.Rule), reason.Holds, wording.Reason(in, reason, wording.Host)})
	}
	if !e.Open {
		out.Nearest = times(opentimes.Nearest(in, start, 2))
	}
	return out
}

// scenarioDays is how many days a saved scenario lists starts for.
const scenarioDays = 14

// Scenario saves what the open times of a type depend on from a date on as a file for support. It holds no titles of
// events and no names of clients.
func (a *App) Scenario(ctx context.Context, p Person, id int64, date string) ([]byte, error) {
	kind, day, err := a.typeAndDay(ctx, p, id, date)
	if err != nil {
		return nil, err
	}
	within := span.Span{Start: day.Start(p.zone), End: day.AddDays(scenarioDays).Start(p.zone)}
	agenda, err := a.agenda(ctx, a.Store.Queries, p, within.Grow(7*24*3600, 7*24*3600), 0)
	if err != nil {
		return nil, err
	}
	in := agenda.input(kind.ID, kind.Rules)
	if in.Host.Hours.Elsewhere { // the file knows weeks and days that differ
		around := within.Grow(2*24*3600, 2*24*3600)
		in.Host.Hours = hours.FromOpen(in.Host.Hours.Open(around), p.zone, day, scenarioDays)
	}
	return scenario.Scenario{Input: in, Pool: opentimes.Pool{Hosts: []opentimes.Host{in.Host}}, Range: within}.Write()
}
