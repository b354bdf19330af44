package app

import (
	"cmp"
	"context"
	"reflect"
	"slices"

	"corrim/core/opentimes"
	"corrim/core/phrase"
	"corrim/core/routing"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/refusal"
	"corrim/internal/store/sqlc"
)

// What people of the workspace are told about a meeting type's open times is what its clients get: those of its real hosts, as its
// routing has them, whoever looks.

// Crew is whom an answer about a type is for.
type Crew struct {
	Hosts []PageHost `json:"hosts" doc:"Who hosts the type."`
	Host  int64      `json:"host" doc:"The one whom the answer is for; 0 for all as they are routed."`
	Way   string     `json:"way" enum:"client,turn,order,least,together,some" doc:"How a booking finds its host among them."`
}

// crew is a type's hosts with their agendas, as the viewer may see them; only one of them if host is not 0.
func (a *App) crew(ctx context.Context, q *sqlc.Queries, viewer Person, kind MeetingType, host int64, within span.Span) (lineup, Crew, error) {
	return a.crewFrom(ctx, q, a.shelf(viewer, within), kind, host)
}

// crewFrom is the same with agendas of a shelf.
func (a *App) crewFrom(ctx context.Context, q *sqlc.Queries, known shelf, kind MeetingType, host int64) (lineup, Crew, error) {
	crew := Crew{Hosts: []PageHost{}, Host: host, Way: string(cmp.Or(kind.routing.Way, routing.InTurn))}
	o, err := known.offered(ctx, q, kind)
	if err != nil {
		return lineup{}, crew, err
	}
	for _, person := range o.pool.people {
		crew.Hosts = append(crew.Hosts, PageHost{person.ID, person.Slug, person.Name})
	}
	if host != 0 {
		if o.pool = o.pool.only(host); len(o.pool.people) == 0 {
			return lineup{}, crew, refusal.New(refusal.NotFound, told.Say("whoever-about-doesnt", "Whoever this was about doesn't host the meeting type any more. Choose one of its hosts."))
		}
		o.host = o.pool.people[0]
	}
	l, err := known.lineup(ctx, q, o)
	return l, crew, err
}

// shelf is people with their agendas as one viewer may see them, each loaded once for all types that they host.
type shelf struct {
	app     *App
	viewer  Person
	within  span.Span
	agendas map[int64]agenda
	takers  map[int64]takerOrNone
}

type takerOrNone struct {
	person Person
	err    error
}

func (a *App) shelf(viewer Person, within span.Span) shelf {
	return shelf{a, viewer, within, map[int64]agenda{}, map[int64]takerOrNone{}}
}

// offered is a type as its real hosts offer it.
func (s shelf) offered(ctx context.Context, q *sqlc.Queries, kind MeetingType) (offered, error) {
	crew, err := poolOf(ctx, q, s.viewer.home.id, kind.routing, func(id int64) (Person, error) {
		known, found := s.takers[id]
		if !found {
			known.person, known.err = s.app.taker(ctx, q, id)
			s.takers[id] = known
		}
		return known.person, known.err
	})
	if err != nil {
		return offered{}, err
	}
	kind.Rules, err = s.app.withSeries(ctx, q, kind.ID, kind.Rules)
	return offeredWith(s.viewer, kind, crew), err
}

// lineup is all of a type's hosts, whatever clients answer: see offers.
func (s shelf) lineup(ctx context.Context, q *sqlc.Queries, o offered) (lineup, error) {
	l := lineup{o: o, candidates: o.pool.Hosts}
	var missing []Person
	for _, person := range o.pool.people {
		if _, loaded := s.agendas[person.ID]; !loaded {
			missing = append(missing, person)
		}
	}
	loaded, err := s.app.wholeAgendas(ctx, q, missing, s.within.Grow(agendaMargin, agendaMargin))
	if err != nil {
		return l, err
	}
	for _, g := range loaded {
		s.agendas[g.person.ID] = g.seenBy(s.viewer)
	}
	for _, person := range o.pool.people {
		l.agendas = append(l.agendas, s.agendas[person.ID])
	}
	return l, nil
}

// only is the pool of a single one of its people.
func (p pool) only(id int64) pool {
	kept := p.without(func(other int64) bool { return other != id })
	kept.Way, kept.Rules, kept.Strict = routing.InTurn, nil, false
	return kept
}

// under is the lineup if its type had other rules.
func (l lineup) under(rules TypeRules) lineup {
	l.o.Rules = rules
	return l
}

// offers is the starts that some client can get, whatever they answer, sorted and whatever their length.
func (l lineup) offers(within span.Span) []opentimes.Start {
	var out []opentimes.Start
	for _, part := range l.byAnswers() {
		out = append(out, part.starts(within)...)
	}
	for i := range out {
		out[i].Minutes = 0
	}
	slices.SortFunc(out, func(a, b opentimes.Start) int { return cmp.Compare(a.At, b.At) })
	return slices.Compact(out)
}

// byAnswers is the lineup for each set of hosts that some answers lead to.
func (l lineup) byAnswers() []lineup {
	if len(l.o.pool.Rules) == 0 {
		return []lineup{l}
	}
	cases, whole := l.o.pool.Cases()
	if !whole {
		return []lineup{l} // too many to look at all; the union is what most of them come to
	}
	var out []lineup
	var seen [][]int64
	for _, c := range cases {
		if len(c.Hosts) == 0 || slices.ContainsFunc(seen, func(ids []int64) bool { return slices.Equal(ids, c.Hosts) }) {
			continue
		}
		seen = append(seen, c.Hosts)
		part := l
		part.candidates, part.agendas = nil, nil
		for i, h := range l.candidates {
			if slices.Contains(c.Hosts, h.ID) {
				part.candidates, part.agendas = append(part.candidates, h), append(part.agendas, l.agendas[i])
			}
		}
		out = append(out, part)
	}
	return out
}

// takesMost is the rule that keeps most of the hosts' time closed, by the count of hosts.
func (l lineup) takesMost(within span.Span) opentimes.Rule {
	count := map[opentimes.Rule]int{}
	most := opentimes.HoursRule
	for _, g := range l.agendas {
		rule := opentimes.TakesMost(g.input(l.o.ID, l.o.Rules), within, l.o.Rules.Duration)
		if count[rule]++; count[rule] > count[most] {
			most = rule
		}
	}
	return most
}

// nothingOpen says why nothing is open.
func (l lineup) nothingOpen(within span.Span) told.Words {
	switch {
	case len(l.agendas) == 0:
		return told.Say("nobody-hosts-nothing-open", "Nobody who takes bookings hosts it, so nothing would be open.")
	case len(l.agendas) == 1:
		return opentimes.NothingOpen(l.agendas[0].input(l.o.ID, l.o.Rules), within, l.o.Rules.Duration, trialWeeks)
	case l.o.pool.Way == routing.Together:
		return told.Say("no-time-together", "There is no time at which {} are all open, in the coming {}.", told.List(l.names()), told.Count(trialWeeks, "week"))
	}
	return told.Say("none-would-be-open", "None of {} would be open in the coming {}: mostly blocked by {}.", told.List(l.names()), told.Count(trialWeeks, "week"), l.takesMost(within).InSentence())
}

func (l lineup) names() []string {
	out := make([]string, len(l.agendas))
	for i, g := range l.agendas {
		out[i] = g.person.Name
	}
	return out
}

// leftOutside lists the coming bookings that were within the rules and would not be; each once, whoever hosts it.
func leftOutside(before, after lineup) []Unmade {
	out := []Unmade{}
	seen := map[int64]bool{}
	for i, g := range before.agendas {
		t := trial{g.input(before.o.ID, before.o.Rules), after.agendas[i].input(after.o.ID, after.o.Rules)}
		for _, b := range g.bookings {
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

// tryChange computes what a change of people, or of their workspace, does to the types that they host, for the viewer to read.
func (a *App) tryChange(ctx context.Context, viewer Person, change change) ([]Effect, []Unmade, error) {
	effects, outside := []Effect{}, []Unmade{}
	rows, err := a.Store.TypesOfWorkspace(ctx, viewer.home.id)
	if err != nil {
		return effects, outside, err
	}
	within := a.trialRange(viewer)
	known := a.shelf(viewer, within)
	for _, row := range rows {
		kind, err := meetingType(ctx, a.Store.Queries, viewer.home, row)
		if err != nil {
			return effects, outside, err
		}
		then, err := meetingType(ctx, a.Store.Queries, change(viewer).home, row)
		if err != nil {
			return effects, outside, err
		}
		o, err := known.offered(ctx, a.Store.Queries, kind)
		if err != nil {
			return effects, outside, err
		}
		if change.leaves(o.pool.people) && reflect.DeepEqual(kind.Rules, then.Rules) {
			continue // their agendas need not even be looked at
		}
		before, err := known.lineup(ctx, a.Store.Queries, o)
		if err != nil {
			return effects, outside, err
		}
		after := before.changed(change, then.Rules)
		if before.sameAs(after) {
			continue
		}
		outside = append(outside, leftOutside(before, after)...)
		if e, differs := a.effect(before, after, within, viewer); differs {
			effects = append(effects, e)
		}
	}
	return effects, outside, nil
}

// changed is the lineup if its people were changed, and its type's rules with them.
func (l lineup) changed(change change, rules TypeRules) lineup {
	l.o.Rules = rules
	l.agendas = slices.Clone(l.agendas)
	for i := range l.agendas {
		l.agendas[i].person = change(l.agendas[i].person)
	}
	return l
}

// sameAs tells whether nothing that open times depend on differs: in a large workspace most types are left alone by a change.
func (l lineup) sameAs(other lineup) bool {
	for i, g := range l.agendas {
		if !reflect.DeepEqual(g.input(l.o.ID, l.o.Rules), other.agendas[i].input(other.o.ID, other.o.Rules)) {
			return false
		}
	}
	return true
}

// effectDays is how many of the days that change are named.
const effectDays = 6

// effect says what a change does to a type's open starts, and on which days.
func (a *App) effect(before, after lineup, within span.Span, viewer Person) (Effect, bool) {
	open := after.offers(within)
	d := opentimes.Compare(before.offers(within), open)
	e := Effect{Type: before.o.Name, Host: phrase.List(before.names()), Weeks: trialWeeks, Open: len(open), Gained: len(d.Gained), Lost: len(d.Lost), Days: []EffectDay{}}
	for i := 0; i < 7*trialWeeks && len(e.Days) < effectDays; i++ {
		date := a.todayOf(viewer).AddDays(i)
		day := date.Span(viewer.zone)
		if gained, lost := countIn(d.Gained, day), countIn(d.Lost, day); gained+lost > 0 {
			e.Days = append(e.Days, EffectDay{date.String(), gained, lost})
		}
	}
	return e, e.Gained+e.Lost > 0
}
