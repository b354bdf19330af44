package settings

import (
	"context"
	"time"

	"corrim/core/civil"
	"corrim/core/hours"
	"corrim/core/opentimes"
	"corrim/core/scenario"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
)

// Reasons opens one day of a meeting type into a layer per rule, and says why one time of it is open or not.
type Reasons struct {
	Type    string               `json:"type"`
	Host    string               `json:"host"`
	Zone    string               `json:"zone"`
	Minutes int                  `json:"minutes"`
	Lengths []int                `json:"lengths" doc:"All lengths that could be explained."`
	Kept    int                  `json:"kept" doc:"Minutes of the host's day, with buffers."`
	Ribbon  schedule.Ribbon      `json:"ribbon"`
	Layers  []schedule.RuleLayer `json:"layers" doc:"In the order of the rules."`
	At      Answer               `json:"at"`

	Crew    schedule.Crew         `json:"crew"`
	Offered bool                  `json:"offered" doc:"Can a client get the time from any of the hosts, as they are routed?"`
	Pool    []schedule.PoolAnswer `json:"pool" doc:"What each host says to the time."`
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
func (s *Settings) Reasons(ctx context.Context, p schedule.Person, id int64, date string, minute, minutes int, host int64) (Reasons, error) {
	kind, day, err := s.typeAndDay(ctx, p, id, date)
	if err != nil {
		return Reasons{}, err
	}
	if minutes, err = kind.Rules.Length(minutes); err != nil {
		return Reasons{}, err
	}
	lengths := kind.Rules.Lengths()
	kind.Rules = kind.Rules.Only(minutes)
	// Bookings of the whole week count for limits; the nearest starts are looked for in three weeks around.
	around := day.Span(p.Local).Grow(23*24*3600, 23*24*3600)
	l, crew, err := s.Crew(ctx, s.store.Queries, p, kind, 0, around)
	if err != nil {
		return Reasons{}, err
	}
	i := l.WhoseReasons(p, host)
	if i < 0 {
		return Reasons{}, refusal.New(refusal.NotFound, told.Say("nobody-who-takes", "Nobody who takes bookings hosts this meeting type, so there is nothing to explain. Choose who hosts it."))
	}
	g := l.Agendas[i]
	crew.Host = g.Person.ID
	drawer := schedule.NewDayDrawer(day, g.Person.Local)
	start := opentimes.Start{At: civil.Clock{Date: day, Seconds: minute * 60}.Instant(g.Person.Local), Minutes: minutes}
	in := g.Input(kind.ID, kind.Rules)
	r := Reasons{
		Type: kind.Name, Host: g.Person.Name, Zone: g.Person.Zone, Minutes: start.Minutes, Lengths: lengths, Kept: kind.Rules.Before + start.Minutes + kind.Rules.After,
		Ribbon: drawer.Ribbon(), Crew: crew, Pool: []schedule.PoolAnswer{},
	}
	drawer.Background(&r.Ribbon, g)
	r.Ribbon.Kept = drawer.Starts(r.Ribbon.Kept, opentimes.Search(in, drawer.Day))
	for _, layer := range opentimes.Layers(in, drawer.Day, start.Minutes) {
		r.Layers = append(r.Layers, drawer.Layer(in, layer, start.Minutes))
	}
	r.At = answer(in, start, minute)
	r.Offered = len(l.Open(span.Span{Start: start.At, End: start.At + 1})) > 0
	r.Pool = l.PoolAnswers(start)
	return r, nil
}

func (s *Settings) typeAndDay(ctx context.Context, p schedule.Person, id int64, date string) (schedule.MeetingType, civil.Date, error) {
	kind, err := s.MeetingType(ctx, p, id)
	if err != nil {
		return kind, civil.Date{}, err
	}
	day, err := civil.ParseDate(date)
	if err != nil {
		return kind, day, refusal.Faulty("date", told.OfError(err))
	}
	return kind, day, nil
}

func answer(in opentimes.Input, start opentimes.Start, minute int) Answer {
	e := opentimes.Explain(in, start)
	out := Answer{Minute: minute, Open: e.Open, Nearest: []time.Time{}}
	for _, reason := range e.Reasons {
		out.Rules = append(out.Rules, RuleSays{reason.Rule, reason.Rule.Title(), reason.Holds, reason.Say(in, opentimes.ToHost)})
	}
	if !e.Open {
		out.Nearest = schedule.Times(opentimes.Nearest(in, start, 2))
	}
	return out
}

// scenarioDays is how many days a saved scenario lists starts for.
const scenarioDays = 14

// Scenario saves what the open times of a type depend on from a date on as a file for support, with all who host it. It holds no
// titles of events and no names of clients.
func (s *Settings) Scenario(ctx context.Context, p schedule.Person, id int64, date string) ([]byte, error) {
	kind, day, err := s.typeAndDay(ctx, p, id, date)
	if err != nil {
		return nil, err
	}
	within := span.Span{Start: day.Start(p.Local), End: day.AddDays(scenarioDays).Start(p.Local)}
	l, _, err := s.Crew(ctx, s.store.Queries, p, kind, 0, within.Grow(7*24*3600, 7*24*3600))
	if err != nil {
		return nil, err
	}
	if len(l.Agendas) == 0 {
		return nil, refusal.New(refusal.NotFound, told.Say("nobody-who-takes-bookings", "Nobody who takes bookings hosts this meeting type, so there is nothing to save. Choose who hosts it."))
	}
	in, pool := l.Input()
	for i, host := range pool.Hosts {
		if host.Hours.Elsewhere { // the file knows weeks and days that differ
			around := within.Grow(2*24*3600, 2*24*3600)
			pool.Hosts[i].Hours = hours.FromOpen(host.Hours.Open(around), l.Agendas[i].Person.Local, day, scenarioDays)
		}
	}
	return scenario.Scenario{Input: in, Pool: pool, Range: within}.Write()
}
