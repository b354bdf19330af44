package schedule

import (
	"cmp"
	"context"
	"fmt"
	"reflect"
	"slices"

	"corrim/core/opentimes"
	"corrim/core/phrase"
	"corrim/core/routing"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/store/sqlc"
)

// What people of the workspace are told about a meeting type's open times is what its clients get: those of its real hosts, as its
// routing has them, whoever looks.

// Crew is whom an answer about a type is for.
type Crew struct {
	Hosts []PageHost `json:"hosts" doc:"Who hosts the type."`
	Host  int64      `json:"host" doc:"The one whom the answer is for; 0 for all as they are routed."`
	Mode  string     `json:"mode" enum:"client,turn,order,least,together,some" doc:"How a booking finds its host among them."`
}

// Crew is a type's hosts with their agendas, as the viewer may see them; only one of them if host is not 0.
func (s *Service) Crew(ctx context.Context, q *sqlc.Queries, viewer Person, kind MeetingType, host int64, within span.Span) (Lineup, Crew, error) {
	return s.CrewFrom(ctx, q, s.Shelf(viewer, within), kind, host)
}

// CrewFrom is the same with agendas of a shelf.
func (s *Service) CrewFrom(ctx context.Context, q *sqlc.Queries, known Shelf, kind MeetingType, host int64) (Lineup, Crew, error) {
	crew := Crew{Hosts: []PageHost{}, Host: host, Mode: string(cmp.Or(kind.Routing.Mode, routing.InTurn))}
	o, err := known.offered(ctx, q, kind)
	if err != nil {
		return Lineup{}, crew, err
	}
	for _, person := range o.Pool.People {
		crew.Hosts = append(crew.Hosts, PageHost{person.ID, person.Slug, person.Name})
	}
	if host != 0 {
		if o.Pool = o.Pool.only(host); len(o.Pool.People) == 0 {
			return Lineup{}, crew, refusal.New(refusal.NotFound, told.Say("whoever-about-doesnt", "Whoever this was about doesn't host the meeting type any more. Choose one of its hosts."))
		}
		o.Host = o.Pool.People[0]
	}
	l, err := known.lineup(ctx, q, o)
	return l, crew, err
}

// Shelf is people with their agendas as one viewer may see them, each loaded once for all types that they host.
type Shelf struct {
	service *Service
	viewer  Person
	Within  span.Span
	agendas map[int64]Agenda
	takers  map[int64]takerOrNone
}

type takerOrNone struct {
	person Person
	err    error
}

// Shelf is all that is needed to look at many types within a range.
func (s *Service) Shelf(viewer Person, within span.Span) Shelf {
	return Shelf{s, viewer, within, map[int64]Agenda{}, map[int64]takerOrNone{}}
}

// offered is a type as its real hosts offer it.
func (s Shelf) offered(ctx context.Context, q *sqlc.Queries, kind MeetingType) (Bookable, error) {
	crew, err := poolOf(ctx, q, s.viewer.Home.ID, kind.Routing, func(id int64) (Person, error) {
		known, found := s.takers[id]
		if !found {
			known.person, known.err = s.service.taker(ctx, q, id)
			s.takers[id] = known
		}
		return known.person, known.err
	})
	if err != nil {
		return Bookable{}, err
	}
	kind.Rules, err = s.service.WithSeries(ctx, q, kind.ID, kind.Rules)
	return BookableWith(s.viewer, kind, crew), err
}

// lineup is all of a type's hosts, whatever clients answer: see offers.
func (s Shelf) lineup(ctx context.Context, q *sqlc.Queries, o Bookable) (Lineup, error) {
	l := Lineup{Bookable: o, Candidates: o.Pool.Hosts}
	var missing []Person
	for _, person := range o.Pool.People {
		if _, loaded := s.agendas[person.ID]; !loaded {
			missing = append(missing, person)
		}
	}
	loaded, err := s.service.WholeAgendas(ctx, q, missing, s.Within.Grow(AgendaMargin, AgendaMargin))
	if err != nil {
		return l, err
	}
	for _, g := range loaded {
		s.agendas[g.Person.ID] = g.SeenBy(s.viewer)
	}
	for _, person := range o.Pool.People {
		l.Agendas = append(l.Agendas, s.agendas[person.ID])
	}
	return l, nil
}

// only is the pool of a single one of its people.
func (p pool) only(id int64) pool {
	kept := p.Without(func(other int64) bool { return other != id })
	kept.Mode, kept.Rules, kept.Strict = routing.InTurn, nil, false
	return kept
}

// Under is the lineup if its type had other rules.
func (l Lineup) Under(rules TypeRules) Lineup {
	l.Bookable.Rules = rules
	return l
}

// byAnswers is the lineup for each set of hosts that some answers lead to.
func (l Lineup) byAnswers() []Lineup {
	if len(l.Bookable.Pool.Rules) == 0 {
		return []Lineup{l}
	}
	cases, whole := l.Bookable.Pool.Cases()
	if !whole {
		return []Lineup{l} // too many to look at all; the union is what most of them come to
	}
	var out []Lineup
	var seen [][]int64
	for _, c := range cases {
		if len(c.Hosts) == 0 || slices.ContainsFunc(seen, func(ids []int64) bool { return slices.Equal(ids, c.Hosts) }) {
			continue
		}
		seen = append(seen, c.Hosts)
		part := l
		part.Candidates, part.Agendas = nil, nil
		for i, h := range l.Candidates {
			if slices.Contains(c.Hosts, h.ID) {
				part.Candidates, part.Agendas = append(part.Candidates, h), append(part.Agendas, l.Agendas[i])
			}
		}
		out = append(out, part)
	}
	return out
}

// TakesMost is the rule that keeps most of the hosts' time closed, by the count of hosts.
func (l Lineup) TakesMost(within span.Span) opentimes.Rule {
	count := map[opentimes.Rule]int{}
	most := opentimes.HoursRule
	for _, g := range l.Agendas {
		rule := opentimes.TakesMost(g.Input(l.Bookable.ID, l.Bookable.Rules), within, l.Bookable.Rules.Duration)
		if count[rule]++; count[rule] > count[most] {
			most = rule
		}
	}
	return most
}

// NothingOpen says why nothing is open.
func (l Lineup) NothingOpen(within span.Span) told.Words {
	switch {
	case len(l.Agendas) == 0:
		return told.Say("nobody-hosts-nothing-open", "Nobody who takes bookings hosts it, so nothing would be open.")
	case len(l.Agendas) == 1:
		return opentimes.NothingOpen(l.Agendas[0].Input(l.Bookable.ID, l.Bookable.Rules), within, l.Bookable.Rules.Duration, TrialWeeks)
	case l.Bookable.Pool.Mode == routing.Together:
		return told.Say("no-time-together", "There is no time at which {} are all open, in the coming {}.", told.List(l.names()), told.Count(TrialWeeks, "week"))
	}
	return told.Say("none-would-be-open", "None of {} would be open in the coming {}: mostly blocked by {}.", told.List(l.names()), told.Count(TrialWeeks, "week"), l.TakesMost(within).InSentence())
}

func (l Lineup) names() []string {
	out := make([]string, len(l.Agendas))
	for i, g := range l.Agendas {
		out[i] = g.Person.Name
	}
	return out
}

// LeftOutside lists the coming bookings that were within the rules and would not be; each once, whoever hosts it.
func LeftOutside(before, after Lineup) []Unmade {
	out := []Unmade{}
	seen := map[int64]bool{}
	for i, g := range before.Agendas {
		t := trial{g.Input(before.Bookable.ID, before.Bookable.Rules), after.Agendas[i].Input(after.Bookable.ID, after.Bookable.Rules)}
		for _, b := range g.Bookings {
			if seen[b.ID] {
				continue
			}
			if unmade, found := g.outside(b, t); found {
				seen[b.ID] = true
				out = append(out, unmade)
			}
		}
	}
	slices.SortStableFunc(out, func(a, b Unmade) int { return a.Start.Compare(b.Start) })
	return out
}

// change is settings that are tried: how a person would be.
type change func(Person) Person

// leaves tells whether the change leaves people as they are.
func (c change) leaves(people []Person) bool {
	return !slices.ContainsFunc(people, func(p Person) bool { return !reflect.DeepEqual(p, c(p)) })
}

// TryChange computes what a change of people, or of their workspace, does to the types that they host, for the viewer to read.
func (s *Service) TryChange(ctx context.Context, viewer Person, change change) ([]Effect, []Unmade, error) {
	effects, outside := []Effect{}, []Unmade{}
	rows, err := s.store.TypesOfWorkspace(ctx, viewer.Home.ID)
	if err != nil {
		return effects, outside, err
	}
	within := s.TrialRange(viewer)
	known := s.Shelf(viewer, within)
	for _, row := range rows {
		kind, err := MeetingTypeOf(ctx, s.store.Queries, viewer.Home, row)
		if err != nil {
			return effects, outside, err
		}
		then, err := MeetingTypeOf(ctx, s.store.Queries, change(viewer).Home, row)
		if err != nil {
			return effects, outside, err
		}
		o, err := known.offered(ctx, s.store.Queries, kind)
		if err != nil {
			return effects, outside, err
		}
		if change.leaves(o.Pool.People) && reflect.DeepEqual(kind.Rules, then.Rules) {
			continue // their agendas need not even be looked at
		}
		before, err := known.lineup(ctx, s.store.Queries, o)
		if err != nil {
			return effects, outside, err
		}
		after := before.changed(change, then.Rules)
		if before.sameAs(after) {
			continue
		}
		outside = append(outside, LeftOutside(before, after)...)
		if e, differs := s.effect(before, after, within, viewer); differs {
			effects = append(effects, e)
		}
	}
	return effects, outside, nil
}

// changed is the lineup if its people were changed, and its type's rules with them.
func (l Lineup) changed(change change, rules TypeRules) Lineup {
	l.Bookable.Rules = rules
	l.Agendas = slices.Clone(l.Agendas)
	for i := range l.Agendas {
		l.Agendas[i].Person = change(l.Agendas[i].Person)
	}
	return l
}

// sameAs tells whether nothing that open times depend on differs: in a large workspace most types are left alone by a change.
func (l Lineup) sameAs(other Lineup) bool {
	for i, g := range l.Agendas {
		if !reflect.DeepEqual(g.Input(l.Bookable.ID, l.Bookable.Rules), other.Agendas[i].Input(other.Bookable.ID, other.Bookable.Rules)) {
			return false
		}
	}
	return true
}

// effectDays is how many of the days that change are named.
const effectDays = 6

// effect says what a change does to a type's open starts, and on which days.
func (s *Service) effect(before, after Lineup, within span.Span, viewer Person) (Effect, bool) {
	open := after.Open(within)
	d := opentimes.Compare(before.Open(within), open)
	e := Effect{Type: before.Bookable.Name, Host: phrase.List(before.names()), Weeks: TrialWeeks, Open: len(open), Gained: len(d.Gained), Lost: len(d.Lost), Days: []EffectDay{}}
	for i := 0; i < 7*TrialWeeks && len(e.Days) < effectDays; i++ {
		date := s.TodayOf(viewer).AddDays(i)
		day := date.Span(viewer.Local)
		if gained, lost := CountIn(d.Gained, day), CountIn(d.Lost, day); gained+lost > 0 {
			e.Days = append(e.Days, EffectDay{date.String(), gained, lost})
		}
	}
	return e, e.Gained+e.Lost > 0
}

// Open is the starts that some client can get, whatever they answer, sorted and whatever their length.
func (l Lineup) Open(within span.Span) []opentimes.Start {
	var out []opentimes.Start
	for _, part := range l.byAnswers() {
		out = append(out, part.Starts(within)...)
	}
	for i := range out {
		out[i].Minutes = 0
	}
	slices.SortFunc(out, func(a, b opentimes.Start) int { return cmp.Compare(a.At, b.At) })
	return slices.Compact(out)
}

// Mend says why nothing is open, and leads to where something can be done about it.
type Mend struct {
	Sentence told.Words `json:"sentence"`
	Path     string     `json:"path"`
	Label    told.Words `json:"label"`
}

// setBy is the sentence of a type's rules in which a rule is set, and what changing it is called.
var setBy = map[opentimes.Rule]struct {
	sentence string
	label    told.Words
}{
	opentimes.WindowRule:  {"window", told.Say("mend-window", "Change the booking window")},
	opentimes.NoticeRule:  {"notice", told.Say("mend-notice", "Change the notice")},
	opentimes.LimitRule:   {"limit", told.Say("mend-limit", "Change the limits")},
	opentimes.StepRule:    {"step", told.Say("mend-step", "Change the start step")},
	opentimes.HolidayRule: {"holidays", told.Say("mend-holidays", "Change the public holidays")},
}

// Mend says to a person why nothing of the lineup's type, as they see it, is open within a range that begins at their date, and where
// that is changed.
func (l Lineup) Mend(p Person, kind MeetingType, within span.Span, date string) Mend {
	path := fmt.Sprintf("/types/%d", kind.ID)
	if len(l.Agendas) == 0 {
		return Mend{told.Say("nobody-hosts", "Nobody who takes bookings hosts it."), path + "/routing", told.Say("mend-hosts", "Choose who hosts it")}
	}
	rule := l.TakesMost(within)
	m := Mend{l.whyEmpty(rule), path + "/why/" + date, told.Say("mend-see-why", "See why")}
	if rule == opentimes.SessionsRule {
		m.Path, m.Label = path+"/sessions", told.Say("mend-sessions", "Set sessions")
		if len(l.Full(within)) > 0 {
			m.Sentence = told.Say("sessions-all-full", "All sessions in that time are full.")
		}
		return m
	}
	switch set, found := setBy[rule]; {
	case found && kind.Edits:
		m.Path, m.Label = path+"?rule="+set.sentence, set.label
	case rule != opentimes.HoursRule || kind.Rules.Hours != nil:
	case kind.Mine:
		m.Path, m.Label = "/hours", told.Say("mend-your-hours", "Change your hours")
	case len(l.Agendas) == 1 && p.May(identity.LookAfterHours):
		m.Path, m.Label = fmt.Sprintf("/hours?for=%d", l.Agendas[0].Person.ID), told.Say("mend-their-hours", "Change their hours")
	}
	return m
}

// MendedBy tells whether a person can do something about it that nothing of the lineup's type is open: whoever may change the type can,
// and its hosts, where it comes from what is theirs.
func (l Lineup) MendedBy(kind MeetingType, within span.Span) bool {
	if kind.Edits || len(l.Agendas) == 0 {
		return kind.Edits
	}
	_, ofType := setBy[l.TakesMost(within)]
	return kind.Mine && !ofType
}

// ofHosts is what of the hosts a rule is about that isn't set for a type.
var ofHosts = map[opentimes.Rule]told.Words{
	opentimes.HoursRule: told.Say("by-hours", "the hours"), opentimes.BusyRule: told.Say("by-events", "events in the calendars"), opentimes.BookingRule: told.Say("by-bookings", "other bookings"),
}

// whyEmpty says which rule leaves nothing open, and how it is set if it is a rule of the type.
func (l Lineup) whyEmpty(rule opentimes.Rule) told.Words {
	theirs, ofHost := ofHosts[rule]
	switch {
	case rule == opentimes.SessionsRule:
		return told.Say("no-session-set", "No session is set in that time.")
	case !ofHost:
		return told.Say("blocked-by-rule", "Mostly blocked by {}: {}.", rule.InSentence(), rule.Note(l.Agendas[0].Input(l.Bookable.ID, l.Bookable.Rules).Type))
	case len(l.Agendas) > 1 && l.Bookable.Pool.Mode == routing.Together:
		return told.Say("never-all-open", "There is no time at which {} are all open; mostly blocked by {}.", told.List(l.names()), theirs)
	}
	return told.Say("blocked-by-theirs", "Mostly blocked by {} of {}.", theirs, told.List(l.names()))
}

// EmptyTrouble says that a type has nothing open, and why.
func (l Lineup) EmptyTrouble(p Person, kind MeetingType, within span.Span, date string) Trouble {
	m := l.Mend(p, kind, within, date)
	return Trouble{Title: told.Say("type-empty", "“{}” has nothing open in the next {} days", kind.Name, CountDays), Sentence: m.Sentence, Path: m.Path, Label: m.Label}
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

// WhoseReasons is which of the hosts is explained; -1 if there is none.
func (l Lineup) WhoseReasons(viewer Person, host int64) int {
	of := func(id int64) int {
		return slices.IndexFunc(l.Agendas, func(g Agenda) bool { return g.Person.ID == id })
	}
	switch {
	case host != 0:
		return of(host)
	case of(viewer.ID) >= 0:
		return of(viewer.ID)
	}
	return min(0, len(l.Agendas)-1)
}

// PoolAnswers says for each host whether they are open at a start, or which rule closes it first.
func (l Lineup) PoolAnswers(start opentimes.Start) []PoolAnswer {
	in, pool := l.Input()
	out := []PoolAnswer{}
	for i, e := range opentimes.ExplainPool(in, pool, start) {
		host := PoolAnswer{PageHost: PageHost{l.Agendas[i].Person.ID, l.Agendas[i].Person.Slug, l.Agendas[i].Person.Name}, Open: e.Open}
		if !e.Open {
			host.Why = e.Failing()[0].Title()
		}
		out = append(out, host)
	}
	return out
}

// Layer is what a rule takes of the day, drawn.
func (d DayDrawer) Layer(in opentimes.Input, l opentimes.Layer, minutes int) RuleLayer {
	out := RuleLayer{Rule: l.Rule, Name: l.Rule.Title(), Note: l.Rule.Note(in.Type), Causes: []Mark{}, Starts: []int{}}
	if l.Rule == opentimes.StepRule {
		for _, at := range opentimes.GridStarts(in, d.Day, minutes) {
			out.Starts = append(out.Starts, d.Minute(at))
		}
		return out
	}
	for _, take := range l.Takes {
		out.Causes = d.Mark(out.Causes, take.Cause.Span, take.Cause.Title)
	}
	return out
}

// Trouble is something that needs the host.
type Trouble struct {
	Title    told.Words `json:"title"`
	Sentence told.Words `json:"sentence"`
	Path     string     `json:"path,omitempty" doc:"Where to do something about it."`
	Label    told.Words `json:"label,omitzero"`
	Room     int64      `json:"room,omitempty" doc:"The booking whose room can be asked for now."`
}

const CountDays = 14

// Working tells whether there are hours or meetings on the day.
func (r Ribbon) Working() bool { return len(r.Open)+len(r.Bookings) > 0 }

// Meanwhile says what is done while a calendar can't be read.
func (c CalendarSettings) Meanwhile() told.Words {
	if c.Unreachable == OfferNothing {
		return told.Say("meanwhile-nothing", "Until it can be read, nothing is offered to clients, as you chose.")
	}
	return told.Say("meanwhile-copy", "Until it can be read, its last copy is used for up to {}; after that nothing is offered.", told.Count(int(c.TrustHours), "hour"))
}
