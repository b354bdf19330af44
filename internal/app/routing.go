package app

import (
	"context"
	"encoding/json"
	"errors"
	"slices"
	"strings"
	"time"

	"corrim/core/civil"
	"corrim/core/intake"
	"corrim/core/opentimes"
	"corrim/core/routing"
	"corrim/core/span"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// TypeRouting is how a meeting type's bookings find their hosts.
type TypeRouting struct {
	Way       routing.Way  `json:"way" enum:"client,turn,order,least,together,some"`
	Everyone  bool         `json:"everyone" doc:"All people of the workspace who take bookings host it, whoever comes later too."`
	Teams     []int64      `json:"teams" maxItems:"50" doc:"Whose members host it, whoever comes later too."`
	People    []PoolPlace  `json:"people" maxItems:"500" doc:"In the set order: who hosts it by name, and whoever of a team or of everyone has a place or weight of their own. The rest follow."`
	Rules     []AnswerRule `json:"rules" maxItems:"30" doc:"The first that fits an answer counts."`
	Strict    bool         `json:"strict" doc:"Where no rule fits, nobody takes it; else whoever of the pool."`
	Returning bool         `json:"returning" doc:"Clients stay with their last host where possible."`
	Period    string       `json:"period" enum:"always,year,quarter,month" doc:"Since when bookings count, for turns and for whoever has least booked."`
	BySeats   bool         `json:"bySeats,omitempty" doc:"What clients share counts in the ledger as often as it has clients; else once."`
}

// PoolPlace is somebody's place in a pool.
type PoolPlace struct {
	Person int64 `json:"person"`
	Weight int   `json:"weight" minimum:"1" maximum:"20"`
	Always bool  `json:"always,omitempty" doc:"For the way 'some': takes every booking."`

	Through bool `json:"through,omitempty" doc:"They host it only as long as a team, or everyone, brings them into the pool."`

	Since int64 `json:"since,omitempty" readOnly:"true" doc:"When they came into the pool."`
}

// AnswerRule points answers to hosts.
type AnswerRule struct {
	Attribute string   `json:"attribute" maxLength:"60" doc:"What clients are asked, and people have."`
	Values    []string `json:"values" maxItems:"40" doc:"Any of them."`
	People    []int64  `json:"people" maxItems:"100" doc:"Empty: whoever has the answer as an attribute."`
}

// alone is the routing of a type that only its own host takes.
func alone(host int64) TypeRouting {
	return TypeRouting{Way: routing.InTurn, Teams: []int64{}, People: []PoolPlace{{Person: host, Weight: 1}}, Rules: []AnswerRule{}, Period: "always"}
}

func routingOf(row sqlc.MeetingType) (TypeRouting, error) {
	if row.Routing == "" {
		return alone(row.HostID), nil
	}
	r := TypeRouting{}
	err := json.Unmarshal([]byte(row.Routing), &r)
	return r.whole(), err
}

// whole is the routing with lists that are never nil, for those who read its JSON.
func (r TypeRouting) whole() TypeRouting {
	r.Teams = append([]int64{}, r.Teams...)
	r.People = append([]PoolPlace{}, r.People...)
	r.Rules = append([]AnswerRule{}, r.Rules...)
	for i := range r.Rules {
		r.Rules[i].Values = append([]string{}, r.Rules[i].Values...)
		r.Rules[i].People = append([]int64{}, r.Rules[i].People...)
	}
	return r
}

// places is who is in the pool, in the set order, with when they came: first those whom the routing names, then the rest of its teams
// and of everyone. Whoever is brought by nothing any more is not.
func (r TypeRouting) places(ctx context.Context, q *sqlc.Queries, home int64) ([]PoolPlace, error) {
	brought, err := r.brought(ctx, q, home)
	if err != nil {
		return nil, err
	}
	since := make(map[int64]int64, len(brought))
	for _, b := range brought {
		if first, known := since[b.Person]; !known || b.Since < first {
			since[b.Person] = b.Since
		}
	}
	out, placed := make([]PoolPlace, 0, len(r.People)+len(brought)), map[int64]bool{}
	for _, place := range append(slices.Clone(r.People), brought...) {
		at, still := since[place.Person]
		if placed[place.Person] || place.Through && !still {
			continue
		}
		if place.Through {
			place.Since = max(place.Since, at) // they may have been there before the pool had them
		}
		placed[place.Person] = true
		out = append(out, place)
	}
	return out, nil
}

// brought is whom teams and everyone bring into the pool, perhaps several times, with when they came.
func (r TypeRouting) brought(ctx context.Context, q *sqlc.Queries, home int64) ([]PoolPlace, error) {
	var out []PoolPlace
	add := func(person, since int64) {
		out = append(out, PoolPlace{Person: person, Weight: 1, Through: true, Since: since})
	}
	for _, team := range r.Teams {
		members, err := q.TeamMembers(ctx, team)
		if err != nil {
			return nil, err
		}
		for _, m := range members {
			add(m.PersonID, m.JoinedAt)
		}
	}
	if !r.Everyone {
		return out, nil
	}
	everyone, err := q.PeopleOfWorkspace(ctx, home)
	for _, p := range everyone {
		if p.Bookable != 0 {
			add(p.ID, p.JoinedAt)
		}
	}
	return out, err
}

// pool is a meeting type's hosts and how one is found among them.
type pool struct {
	routing.Routing
	people  []Person // as in Routing.Hosts
	places  []PoolPlace
	period  string
	bySeats bool // the ledger counts each client of a meeting that several share
}

// pool is a routing's hosts. Whoever has left, or takes no bookings, is none.
func (a *App) pool(ctx context.Context, q *sqlc.Queries, home int64, r TypeRouting) (pool, error) {
	return poolOf(ctx, q, home, r, func(id int64) (Person, error) { return a.taker(ctx, q, id) })
}

// errNoTaker is about somebody who takes no bookings, or not any more.
var errNoTaker = errors.New("takes no bookings")

// taker is somebody who takes bookings, or errNoTaker.
func (a *App) taker(ctx context.Context, q *sqlc.Queries, id int64) (Person, error) {
	row, err := q.Person(ctx, id)
	if errors.Is(err, store.ErrNotFound) || err == nil && (row.RemovedAt != 0 || row.Bookable == 0) {
		return Person{}, errNoTaker
	}
	if err != nil {
		return Person{}, err
	}
	return a.person(ctx, q, row)
}

// poolOf is a routing's hosts as takers are known.
func poolOf(ctx context.Context, q *sqlc.Queries, home int64, r TypeRouting, taker func(id int64) (Person, error)) (pool, error) {
	out := pool{Routing: routing.Routing{Way: r.Way, Strict: r.Strict, Returning: r.Returning}, period: r.Period, bySeats: r.BySeats}
	for _, rule := range r.Rules {
		out.Rules = append(out.Rules, routing.Rule{Attribute: rule.Attribute, Values: rule.Values, Hosts: rule.People})
	}
	places, err := r.places(ctx, q, home)
	if err != nil {
		return out, err
	}
	for _, place := range places {
		person, err := taker(place.Person)
		if errors.Is(err, errNoTaker) {
			continue
		}
		if err != nil {
			return out, err
		}
		out.people = append(out.people, person)
		out.places = append(out.places, place)
		out.Hosts = append(out.Hosts, routing.Host{ID: person.ID, Weight: max(1, place.Weight), Always: place.Always, Attributes: person.Attributes})
	}
	return out, nil
}

func (p pool) ids() []int64 {
	ids := make([]int64, len(p.people))
	for i, person := range p.people {
		ids[i] = person.ID
	}
	return ids
}

// of finds somebody of the pool.
func (p pool) of(id int64) Person {
	for _, person := range p.people {
		if person.ID == id {
			return person
		}
	}
	return Person{}
}

// ask is what a client has said that decides who could take the booking.
type ask struct {
	wanted  int64             // whom they chose; 0 for anyone
	answers map[string]string // by attribute
	mail    string            // to know returning clients by; may be empty
	silent  map[int64]bool    // whose calendars don't answer, and who want nothing offered then
}

// lineup is those who could take a booking, with their agendas.
type lineup struct {
	o          offered
	ask        ask
	candidates []routing.Host
	agendas    []agenda // as the candidates
}

// lineup loads the agendas of all who could take a booking of the range, without one booking if it is being moved.
func (a *App) lineup(ctx context.Context, q *sqlc.Queries, o offered, asked ask, within span.Span, moving int64) (lineup, error) {
	l := lineup{o: o, ask: asked}
	l.candidates = o.candidates(asked)
	people := make([]Person, len(l.candidates))
	for i, c := range l.candidates {
		people[i] = o.pool.of(c.ID)
	}
	left, err := meetingLeft(ctx, q, moving)
	if err != nil {
		return l, err
	}
	if !shared(left) || left.Taken < 2 {
		l.agendas, err = a.agendas(ctx, q, people, within, moving)
		return l, err
	}
	l.agendas, err = a.agendas(ctx, q, people, within, 0)
	for _, g := range l.agendas {
		for i := range g.taken {
			if g.taken[i].MeetingID == left.MeetingID {
				g.taken[i].Taken-- // the others stay
			}
		}
	}
	return l, err
}

// candidates are those whom the answers point to, or the one whom the client chose among them.
func (o offered) candidates(asked ask) []routing.Host {
	hosts, _ := o.pool.Candidates(asked.answers)
	if asked.wanted == 0 {
		return hosts
	}
	return slices.DeleteFunc(hosts, func(h routing.Host) bool { return h.ID != asked.wanted })
}

// input is what the candidates' open times depend on.
func (l lineup) input() (opentimes.Input, opentimes.Pool) {
	if len(l.agendas) == 0 {
		return opentimes.Input{}, opentimes.Pool{}
	}
	in := l.agendas[0].input(l.o.ID, l.o.Rules)
	p := opentimes.Pool{Hosts: []opentimes.Host{in.Host}, Together: l.o.pool.Way == routing.Together}
	for _, g := range l.agendas[1:] {
		p.Hosts = append(p.Hosts, g.host(l.o.ID))
	}
	return in, p
}

// search is the starts that the candidates can honour.
func (l lineup) search(within span.Span) []opentimes.Offer {
	in, p := l.input()
	return l.searchOf(in, p, within)
}

// searchOf is the same with the lineup's input, for whoever needs that too.
func (l lineup) searchOf(in opentimes.Input, p opentimes.Pool, within span.Span) []opentimes.Offer {
	if len(p.Hosts) == 0 {
		return nil
	}
	offers := opentimes.SearchPool(in, p, within)
	if l.o.pool.Way != routing.SomeAndOne {
		return offers
	}
	return slices.DeleteFunc(offers, func(o opentimes.Offer) bool {
		return !l.o.pool.Offers(l.candidates, func(id int64) bool {
			return slices.ContainsFunc(o.Hosts, func(k int) bool { return l.candidates[k].ID == id })
		})
	})
}

func (l lineup) starts(within span.Span) []opentimes.Start { return startsOf(l.search(within)) }

func startsOf(offers []opentimes.Offer) []opentimes.Start {
	out := make([]opentimes.Start, len(offers))
	for i, o := range offers {
		out[i] = o.Start
	}
	return out
}

// nearest is open starts around one, the closest first, in the order of time.
func (l lineup) nearest(around span.Instant, most int) []opentimes.Start {
	starts := l.starts(span.Span{Start: around, End: around + 1}.Grow(21*24*3600, 21*24*3600))
	slices.SortStableFunc(starts, func(a, b opentimes.Start) int { return int(distance(a.At, around) - distance(b.At, around)) })
	starts = starts[:min(most, len(starts))]
	slices.SortFunc(starts, func(a, b opentimes.Start) int { return int(a.At - b.At) })
	return starts
}

func distance(a, b span.Instant) span.Instant { return max(a-b, b-a) }

// circumstances are those of a booking at a start: who is open, and why the others are not.
func (l lineup) circumstances(start opentimes.Start) routing.Circumstances {
	c := routing.Circumstances{Answers: l.ask.answers, Wanted: l.ask.wanted, Open: map[int64]bool{}, Closed: map[int64]routing.Closed{}}
	in, p := l.input()
	for i, e := range opentimes.ExplainPool(in, p, start) {
		id := l.candidates[i].ID
		if l.ask.silent[id] {
			c.Closed[id] = routing.Closed{Rule: opentimes.BusyRule}
			continue
		}
		if c.Open[id] = e.Open; !e.Open {
			c.Closed[id] = routing.Closed{Rule: e.Failing()[0], Until: l.agendas[i].person.backFrom(start.At)}
		}
	}
	return c
}

// backFrom is when somebody who is off at an instant is back; 0 if they are not off then.
func (p Person) backFrom(at span.Instant) span.Instant {
	until := at
	for moved := true; moved; {
		moved = false
		for _, off := range p.off {
			if s := off.Span(p.zone); s.Holds(until) {
				until, moved = s.End, true
			}
		}
	}
	if until == at {
		return 0
	}
	return until
}

// choose gives a booking at a start to its hosts, as things stand in the transaction.
func (a *App) choose(ctx context.Context, q *sqlc.Queries, l lineup, start opentimes.Start) (routing.Choice, error) {
	if len(l.agendas) == 0 {
		return routing.Choice{}, nil
	}
	c := l.circumstances(start)
	if host := l.joins(start, c.Open); host != 0 {
		return routing.Choice{Hosts: []int64{host}}, nil
	}
	return a.chooseIn(ctx, q, l, start, c)
}

func (a *App) chooseIn(ctx context.Context, q *sqlc.Queries, l lineup, start opentimes.Start, c routing.Circumstances) (routing.Choice, error) {
	p := l.o.pool
	var ledger routing.Ledger
	var err error
	if len(l.candidates) > 1 && p.Way != routing.Together { // else there is no turn
		if ledger, err = a.ledger(ctx, q, l.o.ID, p); err != nil {
			return routing.Choice{}, err
		}
	}
	if p.Returning && l.ask.mail != "" {
		c.Last, err = q.LastHostOfClient(ctx, sqlc.LastHostOfClientParams{ClientMail: l.ask.mail, WorkspaceID: l.o.host.home.id})
		if err != nil && !errors.Is(err, store.ErrNotFound) {
			return routing.Choice{}, err
		}
	}
	if p.Way == routing.LeastBooked {
		if c.Booked, err = a.bookedMinutes(ctx, q, p, start.At, l.o.host.home); err != nil {
			return routing.Choice{}, err
		}
	}
	return routing.Choose(p.Routing, ledger, c), nil
}

// bookedMinutes is how much each host has booked in the period around an instant, by the workspace's clock.
func (a *App) bookedMinutes(ctx context.Context, q *sqlc.Queries, p pool, at span.Instant, w workspace) (map[int64]int, error) {
	zone, err := civil.LoadZone(w.Zone)
	if err != nil {
		return nil, err
	}
	from, to := periodAround(p.period, at.Time().In(zone))
	rows, err := q.BookedMinutes(ctx, sqlc.BookedMinutesParams{RangeFrom: from.Unix(), RangeTo: to.Unix(), People: p.ids()})
	out := map[int64]int{}
	for _, row := range rows {
		out[row.PersonID] = int(row.Minutes)
	}
	return out, err
}

// periodAround is the month, quarter or year that a time lies in; or all time.
func periodAround(period string, at time.Time) (from, to time.Time) {
	first := time.Date(at.Year(), at.Month(), 1, 0, 0, 0, 0, at.Location())
	switch period {
	case "month":
		return first, first.AddDate(0, 1, 0)
	case "quarter":
		from = first.AddDate(0, -(int(at.Month())-1)%3, 0)
		return from, from.AddDate(0, 3, 0)
	case "year":
		from = time.Date(at.Year(), 1, 1, 0, 0, 0, 0, at.Location())
		return from, from.AddDate(1, 0, 0)
	}
	return time.Unix(0, 0), at.AddDate(100, 0, 0)
}

// ledger is who was given how many of a type's bookings in the present period.
func (a *App) ledger(ctx context.Context, q *sqlc.Queries, kind int64, p pool) (routing.Ledger, error) {
	since, _ := periodAround(p.period, a.Now().UTC())
	given, err := givenOf(ctx, q, kind, p, since.Unix())
	if err != nil {
		return nil, err
	}
	corrections, err := q.Corrections(ctx, sqlc.CorrectionsParams{TypeID: kind, Since: since.Unix()})
	if err != nil {
		return nil, err
	}
	entries := p.joined(since, a.Now()) // first: whoever came in a second came before what was given in it
	entries = append(entries, given...)
	for _, c := range corrections {
		entries = append(entries, routing.Entry{At: span.Instant(c.At), Host: c.PersonID, What: routing.Corrected, Count: int(c.Credit)})
	}
	return routing.Keep(p.Hosts, entries), nil
}

// givenOf is what was given of a type since a time: each meeting counts once; by seats as often as it has clients. One that nobody has booked
// yet counts once too: it takes its host's time, and the turn passes on while sessions are set.
func givenOf(ctx context.Context, q *sqlc.Queries, kind int64, p pool, since int64) (entries []routing.Entry, err error) {
	if !p.bySeats {
		rows, err := q.GivenOfType(ctx, sqlc.GivenOfTypeParams{TypeID: kind, Since: since})
		for _, g := range rows {
			entries = append(entries, routing.Entry{At: span.Instant(g.At), Host: g.PersonID, Count: 1})
		}
		return entries, err
	}
	rows, err := q.GivenSeatsOfType(ctx, sqlc.GivenSeatsOfTypeParams{TypeID: kind, Since: since})
	for _, g := range rows {
		entries = append(entries, routing.Entry{At: span.Instant(g.At), Host: g.PersonID, Count: int(max(1, g.Taken))})
	}
	return entries, err
}

// joined is who came into the pool, or back from leave, between two times.
func (p pool) joined(since, until time.Time) []routing.Entry {
	var entries []routing.Entry
	for i, person := range p.people {
		if place := p.places[i]; place.Since >= since.Unix() {
			entries = append(entries, routing.Entry{At: span.Instant(place.Since), Host: person.ID, What: routing.Joined})
		}
		for _, off := range person.off {
			back := off.Span(person.zone).End
			if off.Last != (civil.Date{}) && back >= span.At(since) && back <= span.At(until) {
				entries = append(entries, routing.Entry{At: back, Host: person.ID, What: routing.Joined})
			}
		}
	}
	return entries
}

// assigned is why somebody got a booking, as it is kept with it.
type assigned struct {
	Kind   routing.Kind     `json:"kind"`
	Rule   int              `json:"rule,omitempty"`
	Passed []routing.Passed `json:"passed,omitempty"`
	By     int64            `json:"by,omitempty"` // of a decision by hand: whose
}

// assign keeps who was given a booking, and why.
func (a *App) assign(ctx context.Context, q *sqlc.Queries, b sqlc.Booking, hosts []int64, why assigned) error {
	reason, err := json.Marshal(why)
	if err != nil {
		return err
	}
	for _, id := range hosts {
		err := q.AddAssignment(ctx, sqlc.AddAssignmentParams{MeetingID: b.MeetingID, BookingID: b.ID, TypeID: b.TypeID, PersonID: id, At: a.Now().Unix(), Reason: string(reason)})
		if err != nil {
			return err
		}
	}
	return nil
}

// normalAnswers is a client's answers without what is empty.
func normalAnswers(answers map[string]string) map[string]string {
	out := map[string]string{}
	for attribute, value := range answers {
		if value = intake.OneLine(value); value != "" {
			out[strings.TrimSpace(attribute)] = intake.FirstLetters(value, 100)
		}
	}
	return out
}

func answersJSON(answers map[string]string) string {
	text, _ := json.Marshal(normalAnswers(answers)) // texts always can be
	return string(text)
}
