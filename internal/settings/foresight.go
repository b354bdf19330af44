package settings

import (
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"time"

	"corrim/core/intake"
	"corrim/core/opentimes"
	"corrim/core/routing"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/store/sqlc"
)

// Foresight: what a routing will do, before and after it is saved.

// RoutingView is a type's routing with all that helps to judge it.
type RoutingView struct {
	Routing   schedule.TypeRouting `json:"routing"`
	Who       string               `json:"who" enum:"anyone,organisation,nobody"`
	Version   int64                `json:"version"`
	Edits     bool                 `json:"edits"`
	People    []schedule.Hostable  `json:"people" doc:"All who could be in the pool."`
	Teams     []schedule.Team      `json:"teams"`
	Foresight Foresight            `json:"foresight"`
	Ledger    []LedgerRow          `json:"ledger"`
	Given     []Given              `json:"given" doc:"The period's bookings, the latest first."`
	Since     string               `json:"since,omitempty" doc:"When the period began; empty for always."`
}

// Foresight is what a routing will do if nothing else changes.
type Foresight struct {
	Next  []Foretold            `json:"next" doc:"Who would get the next ten bookings, at the soonest open times."`
	Dead  []DeadEnd             `json:"dead" doc:"Combinations of answers that lead to nobody, or to somebody who offers no time."`
	Cases int                   `json:"cases" doc:"Combinations of answers that were looked at."`
	Days  []CrewDay             `json:"days" doc:"Who is open when, and all together."`
	Wrong map[string]told.Words `json:"wrong"`
}

// Foretold is a booking as it would be given.
type Foretold struct {
	Start time.Time  `json:"start"`
	Hosts []string   `json:"hosts"`
	Why   told.Words `json:"why"`
}

// DeadEnd is answers that lead nowhere.
type DeadEnd struct {
	Answers map[string]string `json:"answers"`
	Why     told.Words        `json:"why"`
}

// CrewDay is one day of everybody in a pool.
type CrewDay struct {
	Together schedule.Ribbon `json:"together" doc:"Open starts that can be honoured."`
	Rows     []CrewRow       `json:"rows"`
}

// CrewRow is a host's day.
type CrewRow struct {
	Person string          `json:"person"`
	Ribbon schedule.Ribbon `json:"ribbon"`
}

// LedgerRow is one host's part of a ledger.
type LedgerRow struct {
	Person int64   `json:"person"`
	Name   string  `json:"name"`
	Weight int     `json:"weight"`
	Given  int     `json:"given"`
	Credit int     `json:"credit" doc:"So that newcomers and returners start level, or by hand."`
	Drift  float64 `json:"drift" doc:"Bookings ahead of their share."`
	Next   int     `json:"next" doc:"Their place in the turn, from 1."`
}

// Given is a booking that was given to somebody.
type Given struct {
	At     time.Time  `json:"at"`
	Start  time.Time  `json:"start"`
	Client string     `json:"client"`
	Name   string     `json:"name"`
	Why    told.Words `json:"why"`
	Back   bool       `json:"back" doc:"It was cancelled or handed over, and so given back."`
}

const (
	foretold  = 10
	crewDays  = 3
	lookAhead = 8 * 7 * 24 * time.Hour
)

// TypeRouting returns how a type is routed, with its foresight and ledger.
func (s *Settings) TypeRouting(ctx context.Context, p schedule.Person, id int64) (RoutingView, error) {
	kind, err := s.MeetingType(ctx, p, id)
	if err != nil {
		return RoutingView{}, err
	}
	view := RoutingView{Routing: kind.Routing, Who: kind.Who, Version: kind.Version, Edits: kind.Edits}
	if view.People, view.Teams, err = s.hostable(ctx, p); err != nil {
		return view, err
	}
	o, err := s.OfferedAs(ctx, s.store.Queries, p, kind, kind.Routing)
	if err != nil {
		return view, err
	}
	ledger, err := s.Ledger(ctx, s.store.Queries, o.ID, o.Pool)
	if err != nil {
		return view, err
	}
	if view.Foresight, err = s.foresee(ctx, p, o, ledger); err != nil {
		return view, err
	}
	view.Foresight.Wrong = map[string]told.Words{}
	names, err := s.Names(ctx, p.Home.ID)
	if err != nil {
		return view, err
	}
	view.Ledger = ledgerRows(o.Pool.Hosts, ledger, names)
	view.Given, err = s.given(ctx, p, o, names)
	if since := o.Pool.Since(s.now()); since.Unix() > 0 {
		view.Since = since.Format(time.DateOnly)
	}
	return view, err
}

// hostable is everybody of the workspace, and its teams.
func (s *Settings) hostable(ctx context.Context, p schedule.Person) ([]schedule.Hostable, []schedule.Team, error) {
	colleagues, err := s.Colleagues(ctx, p)
	if err != nil {
		return nil, nil, err
	}
	people := make([]schedule.Hostable, len(colleagues))
	for i, c := range colleagues {
		people[i] = schedule.Hostable{ID: c.ID, Name: c.Name, Bookable: c.Bookable, Attributes: c.Attributes}
	}
	teams, err := s.Teams(ctx, p)
	return people, teams, err
}

// PreviewRouting tells what an unsaved routing would do.
func (s *Settings) PreviewRouting(ctx context.Context, p schedule.Person, id int64, r schedule.TypeRouting) (Foresight, error) {
	none := Foresight{Next: []Foretold{}, Dead: []DeadEnd{}, Days: []CrewDay{}}
	kind, err := s.MeetingType(ctx, p, id)
	if err != nil {
		return none, err
	}
	people, teams, err := s.hostable(ctx, p)
	if err != nil {
		return none, err
	}
	r = r.Normal()
	if wrong := r.Check(people, teams); len(wrong) > 0 {
		none.Wrong = wrong
		return none, nil
	}
	o, err := s.OfferedAs(ctx, s.store.Queries, p, kind, r)
	if err != nil {
		return none, err
	}
	ledger, err := s.Ledger(ctx, s.store.Queries, o.ID, o.Pool)
	if err != nil {
		return none, err
	}
	f, err := s.foresee(ctx, p, o, ledger)
	f.Wrong = map[string]told.Words{}
	return f, err
}

// RoutingChange is a routing to be saved.
type RoutingChange struct {
	Routing schedule.TypeRouting `json:"routing"`
	Who     string               `json:"who" enum:"anyone,organisation,nobody"`
	Version int64                `json:"version" doc:"Of the type that was changed; if it has changed since, that is told first. 0 doesn't look."`
	Accept  bool                 `json:"accept,omitempty" doc:"The host knows that it leads nowhere, for all or for some answers; without it such a routing is refused."`
}

// SaveRouting saves how a type is routed, and who may book it. Whoever is new in the pool starts level.
func (s *Settings) SaveRouting(ctx context.Context, p schedule.Person, id int64, c RoutingChange) (RoutingView, error) {
	kind, err := s.TypeToChange(ctx, p, id, c.Version)
	if err != nil {
		return RoutingView{}, err
	}
	people, teams, err := s.hostable(ctx, p)
	if err != nil {
		return RoutingView{}, err
	}
	c.Routing = c.Routing.Normal()
	if err := c.Routing.Check(people, teams).Err(); err != nil {
		return RoutingView{}, err
	}
	others := slices.ContainsFunc(c.Routing.People, func(place schedule.PoolMember) bool { return place.Person != kind.HostID })
	if (others || c.Routing.Everyone || len(c.Routing.Teams) > 0) && !p.May(identity.EditEverybodys) {
		return RoutingView{}, refusal.New(refusal.Forbidden, told.Say("only-coordinator-owner", "Only a coordinator or an owner can let others host a meeting type. Ask one of them."))
	}
	if !c.Accept {
		if err := s.mustLead(ctx, p, kind, c.Routing); err != nil {
			return RoutingView{}, err
		}
	}
	before, err := kind.Routing.Members(ctx, s.store.Queries, p.Home.ID)
	if err != nil {
		return RoutingView{}, err
	}
	// All who are in the pool from now on get their place, so that whoever is new in it starts level.
	if c.Routing.People, err = c.Routing.Members(ctx, s.store.Queries, p.Home.ID); err != nil {
		return RoutingView{}, err
	}
	for i, place := range c.Routing.People {
		c.Routing.People[i].Since = s.now().Unix()
		if known := slices.IndexFunc(before, func(b schedule.PoolMember) bool { return b.Person == place.Person }); known >= 0 {
			c.Routing.People[i].Since = before[known].Since
		}
	}
	text, err := json.Marshal(c.Routing)
	if err != nil {
		return RoutingView{}, err
	}
	err = s.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		before := routingState{kind.Routing, kind.Who}
		if err := q.SetRouting(ctx, sqlc.SetRoutingParams{ID: id, Routing: string(text), Who: c.Who}); err != nil {
			return err
		}
		return s.Remember(ctx, q, p, subjectRouting, id, told.Say("undo-hosts", "{}: hosts", kind.Name), before)
	})
	if err != nil {
		return RoutingView{}, err
	}
	return s.TypeRouting(ctx, p, id)
}

// mustLead refuses a routing that would lead nowhere: whatever is answered, or for some answers. Whose sessions there are, is another
// matter.
func (s *Settings) mustLead(ctx context.Context, p schedule.Person, kind schedule.MeetingType, r schedule.TypeRouting) error {
	if kind.Rules.Sessions {
		return nil
	}
	kind.Routing = r
	now := span.At(s.now())
	within := span.Span{Start: now, End: now.Add(lookAhead)}
	l, _, err := s.Crew(ctx, s.store.Queries, p, kind, 0, within)
	if err != nil {
		return err
	}
	if len(l.Open(within)) == 0 {
		return refusal.New(refusal.NothingOpen, l.NothingOpen(within))
	}
	dead, _ := deadEnds(l.Bookable, l.Agendas, within)
	if len(dead) == 0 {
		return nil
	}
	return refusal.New(refusal.NothingOpen, told.Say("clients-who-answer", "Clients who answer {} would find no time: {}{}", dead[0].words(), dead[0].Why, moreEnds(len(dead)-1)))
}

// words is the answers in a few words.
func (d DeadEnd) words() told.Names {
	var parts []string
	for _, attribute := range slices.Sorted(maps.Keys(d.Answers)) {
		parts = append(parts, attribute+" “"+cmp.Or(d.Answers[attribute], "other")+"”")
	}
	return told.List(parts)
}

func moreEnds(n int) told.Words {
	if n == 0 {
		return told.Words{}
	}
	return told.Say("more-dead-ends", " So would those with {} of answers.", told.Count(n, "other combination"))
}

// routingState is a routing for the history.
type routingState struct {
	Routing schedule.TypeRouting
	Who     string
}

func restoreRouting(ctx context.Context, q *sqlc.Queries, _ schedule.Person, id int64, before routingState) error {
	text, err := json.Marshal(before.Routing)
	if err != nil {
		return err
	}
	return q.SetRouting(ctx, sqlc.SetRoutingParams{ID: id, Routing: string(text), Who: before.Who})
}

// foresee works out what a routing does with the soonest open times, and where it leads nowhere.
func (s *Settings) foresee(ctx context.Context, p schedule.Person, o schedule.Bookable, ledger routing.Ledger) (Foresight, error) {
	f := Foresight{Next: []Foretold{}, Dead: []DeadEnd{}, Days: []CrewDay{}}
	now := span.At(s.now())
	within := span.Span{Start: now, End: now.Add(lookAhead)}
	o.Rules = o.Rules.Only(o.Rules.Duration)
	all, err := s.WholeAgendas(ctx, s.store.Queries, o.Pool.People, within.Grow(schedule.AgendaMargin, schedule.AgendaMargin))
	if err != nil {
		return f, err
	}
	if f.Next, err = s.foretell(ctx, p, o, ledger, all, within); err != nil {
		return f, err
	}
	f.Dead, f.Cases = deadEnds(o, all, within)
	f.Days = s.crewDays(p, o, all)
	return f, nil
}

// pick is the lineup for some answers from agendas already loaded.
func pick(o schedule.Bookable, all []schedule.Agenda, asked schedule.Ask) schedule.Lineup {
	l := schedule.Lineup{Bookable: o, Ask: asked, Candidates: o.Candidates(asked)}
	for _, c := range l.Candidates {
		l.Agendas = append(l.Agendas, all[slices.IndexFunc(o.Pool.People, func(p schedule.Person) bool { return p.ID == c.ID })])
	}
	return l
}

// foretell gives the next bookings to their hosts as they would be, each with those before it taken.
func (s *Settings) foretell(ctx context.Context, p schedule.Person, o schedule.Bookable, ledger routing.Ledger, all []schedule.Agenda, within span.Span) (_ []Foretold, err error) {
	names := o.Pool.Names()
	all = slices.Clone(all)
	out := []Foretold{}
	from := within
	for len(out) < foretold {
		l := pick(o, all, schedule.Ask{})
		starts := l.Search(from)
		if len(starts) == 0 {
			break
		}
		start := starts[0].Start
		c := l.Circumstances(start)
		if o.Pool.Mode == routing.LeastBooked {
			if c.Booked, err = s.BookedMinutes(ctx, s.store.Queries, o.Pool, start.At, o.Host.Home); err != nil {
				return nil, err
			}
			addForetold(c.Booked, out, names, o.Rules.Duration)
		}
		choice := routing.Choose(o.Pool.Routing, ledger, c)
		if len(choice.Hosts) == 0 {
			break
		}
		one := Foretold{Start: start.At.Time(), Why: choice.Reason.Say(names, p.Local)}
		for _, id := range choice.Hosts {
			one.Hosts = append(one.Hosts, names[id])
			ledger = ledger.Give(id, span.At(s.now()).Add(time.Duration(len(out))*time.Second))
			all = taken(o, all, id, start)
		}
		out = append(out, one)
		from.Start = start.At
	}
	return out, nil
}

func addForetold(booked map[int64]int, foretold []Foretold, names map[int64]string, minutes int) {
	for id, name := range names {
		for _, t := range foretold {
			if slices.Contains(t.Hosts, name) {
				booked[id] += minutes
			}
		}
	}
}

// taken is the agendas with one more booking of a host.
func taken(o schedule.Bookable, all []schedule.Agenda, host int64, start opentimes.Start) []schedule.Agenda {
	out := slices.Clone(all)
	for i, person := range o.Pool.People {
		if person.ID != host {
			continue
		}
		startAt, end, from, until := o.KeptTimes(start.At.Time())
		b := sqlc.TimesOfHostsRow{ID: -int64(len(out[i].Taken)) - 1, TypeID: o.ID, PersonID: host, StartAt: startAt, EndAt: end, KeptFrom: from, KeptUntil: until}
		out[i].Taken = append(slices.Clone(out[i].Taken), b)
	}
	return out
}

// deadEnds are the answers that lead to nobody, or only to those who offer no time.
func deadEnds(o schedule.Bookable, all []schedule.Agenda, within span.Span) ([]DeadEnd, int) {
	cases, whole := o.Pool.Cases()
	if !whole {
		return []DeadEnd{{map[string]string{}, told.Say("too-many-combinations", "There are too many combinations of answers to look at them all. Use fewer rules.")}}, 0
	}
	out := []DeadEnd{}
	open := map[string]bool{} // by who takes it: many cases lead to the same people
	for _, c := range cases {
		if len(c.Hosts) == 0 {
			out = append(out, DeadEnd{c.Answers, told.Say("no-eligible-host", "No eligible host.")})
			continue
		}
		key := fmt.Sprint(c.Hosts)
		if _, known := open[key]; !known {
			open[key] = len(pick(o, all, schedule.Ask{Answers: c.Answers}).Search(within)) > 0
		}
		if !open[key] {
			names := o.Pool.Names()
			who := make([]string, len(c.Hosts))
			for i, id := range c.Hosts {
				who[i] = names[id]
			}
			out = append(out, DeadEnd{c.Answers, told.Say("offers-no-time", "{} offers no time in the coming eight weeks.", told.List(who))})
		}
	}
	return out, len(cases)
}

// crewDays draws the first days on which somebody of the pool is open, on the viewer's clock.
func (s *Settings) crewDays(p schedule.Person, o schedule.Bookable, all []schedule.Agenda) []CrewDay {
	out := []CrewDay{}
	l := pick(o, all, schedule.Ask{})
	for i := 0; i < 14 && len(out) < crewDays; i++ {
		d := schedule.NewDayDrawer(s.TodayOf(p).AddDays(i), p.Local)
		starts := l.Starts(d.Day)
		if len(starts) == 0 {
			continue
		}
		day := CrewDay{Together: d.Ribbon()}
		day.Together.Kept = d.Starts(day.Together.Kept, starts)
		for _, g := range all {
			row := schedule.BoardRowOf(d, g, p)
			in := g.Input(o.ID, o.Rules)
			row.Ribbon.Kept = d.Starts(row.Ribbon.Kept, opentimes.Search(in, d.Day))
			day.Rows = append(day.Rows, CrewRow{row.Person, row.Ribbon})
		}
		out = append(out, day)
	}
	return out
}

// ledgerRows is the ledger for people to read.
func ledgerRows(hosts []routing.Host, ledger routing.Ledger, names map[int64]string) []LedgerRow {
	order := ledger.NextInTurn(hosts)
	rows := []LedgerRow{}
	for _, h := range hosts {
		account := ledger[h.ID]
		rows = append(rows, LedgerRow{h.ID, names[h.ID], h.Weight, account.Given, account.Credit, ledger.Drift(hosts, h.ID), slices.Index(order, h.ID) + 1})
	}
	return rows
}

// given is the present period's bookings, the latest first, as the person may see them.
func (s *Settings) given(ctx context.Context, p schedule.Person, o schedule.Bookable, names map[int64]string) ([]Given, error) {
	since := o.Pool.Since(s.now())
	rows, err := s.store.AssignmentsOfType(ctx, sqlc.AssignmentsOfTypeParams{TypeID: o.ID, Since: since.Unix()})
	list := []Given{}
	for _, g := range rows {
		why := schedule.Assigned{}
		if err := json.Unmarshal([]byte(g.Reason), &why); err != nil {
			return nil, err
		}
		row := Given{time.Unix(g.At, 0).UTC(), time.Unix(g.StartAt, 0).UTC(), g.ClientName, names[g.PersonID], why.Words(names, p), g.GivenBack == 1}
		if !p.May(identity.SeeEverybodys) && g.PersonID != p.ID {
			row.Client = ""
		}
		list = append(list, row)
	}
	return list, err
}

// LedgerCorrection changes a count by hand.
type LedgerCorrection struct {
	Person int64  `json:"person"`
	Credit int    `json:"credit" minimum:"-1000" maximum:"1000" doc:"Bookings to be added to the count, or taken from it."`
	Remark string `json:"remark" maxLength:"500"`
}

// CorrectLedger changes somebody's count in a type's ledger, with a remark.
func (s *Settings) CorrectLedger(ctx context.Context, p schedule.Person, id int64, c LedgerCorrection) (RoutingView, error) {
	if _, err := s.MeetingType(ctx, p, id); err != nil {
		return RoutingView{}, err
	}
	c.Remark = intake.OneLine(c.Remark)
	if c.Remark == "" || c.Credit == 0 {
		return RoutingView{}, refusal.Faulty("remark", told.Say("say-how-many", "Say by how many and why, so that colleagues can follow it."))
	}
	err := s.WriteFor(ctx, p, identity.EditEverybodys, func(q *sqlc.Queries) error {
		if _, err := s.Colleague(ctx, q, p, c.Person); err != nil {
			return err
		}
		return q.CorrectLedger(ctx, sqlc.CorrectLedgerParams{TypeID: id, PersonID: c.Person, At: s.now().Unix(), Credit: int64(c.Credit), Remark: c.Remark, ByID: p.ID})
	})
	if err != nil {
		return RoutingView{}, err
	}
	return s.TypeRouting(ctx, p, id)
}
