package schedule

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
	"corrim/core/told"
	"corrim/internal/refusal"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// TypeRouting is how a meeting type's bookings find their hosts.
type TypeRouting struct {
	Mode      routing.Mode `json:"mode" enum:"client,turn,order,least,together,some"`
	Everyone  bool         `json:"everyone" doc:"All people of the workspace who take bookings host it, whoever comes later too."`
	Teams     []int64      `json:"teams" maxItems:"50" doc:"Whose members host it, whoever comes later too."`
	People    []PoolMember `json:"people" maxItems:"500" doc:"In the set order: who hosts it by name, and whoever of a team or of everyone has a place or weight of their own. The rest follow."`
	Rules     []AnswerRule `json:"rules" maxItems:"30" doc:"The first that fits an answer counts."`
	Strict    bool         `json:"strict" doc:"Where no rule fits, nobody takes it; else whoever of the pool."`
	Returning bool         `json:"returning" doc:"Clients stay with their last host where possible."`
	Period    string       `json:"period" enum:"always,year,quarter,month" doc:"Since when bookings count, for turns and for whoever has least booked."`
	BySeats   bool         `json:"bySeats,omitempty" doc:"What clients share counts in the ledger as often as it has clients; else once."`
}

// PoolMember is somebody in a pool.
type PoolMember struct {
	Person int64 `json:"person"`
	Weight int   `json:"weight" minimum:"1" maximum:"20"`
	Always bool  `json:"always,omitempty" doc:"For the mode 'some': takes every booking."`

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
	return TypeRouting{Mode: routing.InTurn, Teams: []int64{}, People: []PoolMember{{Person: host, Weight: 1}}, Rules: []AnswerRule{}, Period: "always"}
}

// RoutingOf reads how a meeting type finds its hosts.
func RoutingOf(row sqlc.MeetingType) (TypeRouting, error) {
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
	r.People = append([]PoolMember{}, r.People...)
	r.Rules = append([]AnswerRule{}, r.Rules...)
	for i := range r.Rules {
		r.Rules[i].Values = append([]string{}, r.Rules[i].Values...)
		r.Rules[i].People = append([]int64{}, r.Rules[i].People...)
	}
	return r
}

// Members is who is in the pool, in the set order, with when they came: first those whom the routing names, then the rest of its teams
// and of everyone. Whoever is brought by nothing any more is not.
func (r TypeRouting) Members(ctx context.Context, q *sqlc.Queries, home int64) ([]PoolMember, error) {
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
	out, known := make([]PoolMember, 0, len(r.People)+len(brought)), map[int64]bool{}
	for _, member := range append(slices.Clone(r.People), brought...) {
		at, still := since[member.Person]
		if known[member.Person] || member.Through && !still {
			continue
		}
		if member.Through {
			member.Since = max(member.Since, at) // they may have been there before the pool had them
		}
		known[member.Person] = true
		out = append(out, member)
	}
	return out, nil
}

// brought is whom teams and everyone bring into the pool, perhaps several times, with when they came.
func (r TypeRouting) brought(ctx context.Context, q *sqlc.Queries, home int64) ([]PoolMember, error) {
	var out []PoolMember
	add := func(person, since int64) {
		out = append(out, PoolMember{Person: person, Weight: 1, Through: true, Since: since})
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

// pool is a meeting type’s hosts and how one is found among them.
type pool struct {
	routing.Routing
	People  []Person // as in Routing.Hosts
	members []PoolMember
	Period  string
	bySeats bool // the ledger counts each client of a meeting that several share
}

// Pool is a routing's hosts. Whoever has left, or takes no bookings, is none.
func (s *Service) Pool(ctx context.Context, q *sqlc.Queries, home int64, r TypeRouting) (pool, error) {
	return poolOf(ctx, q, home, r, func(id int64) (Person, error) { return s.taker(ctx, q, id) })
}

// errNoTaker is about somebody who takes no bookings, or not any more.
var errNoTaker = errors.New("takes no bookings")

// taker is somebody who takes bookings, or errNoTaker.
func (s *Service) taker(ctx context.Context, q *sqlc.Queries, id int64) (Person, error) {
	row, err := q.Person(ctx, id)
	if errors.Is(err, store.ErrNotFound) || err == nil && (row.RemovedAt != 0 || row.Bookable == 0) {
		return Person{}, errNoTaker
	}
	if err != nil {
		return Person{}, err
	}
	return s.PersonOf(ctx, q, row)
}

// poolOf is a routing's hosts as takers are known.
func poolOf(ctx context.Context, q *sqlc.Queries, home int64, r TypeRouting, taker func(id int64) (Person, error)) (pool, error) {
	out := pool{Routing: routing.Routing{Mode: r.Mode, Strict: r.Strict, Returning: r.Returning}, Period: r.Period, bySeats: r.BySeats}
	for _, rule := range r.Rules {
		out.Rules = append(out.Rules, routing.Rule{Attribute: rule.Attribute, Values: rule.Values, Hosts: rule.People})
	}
	members, err := r.Members(ctx, q, home)
	if err != nil {
		return out, err
	}
	for _, member := range members {
		person, err := taker(member.Person)
		if errors.Is(err, errNoTaker) {
			continue
		}
		if err != nil {
			return out, err
		}
		out.People = append(out.People, person)
		out.members = append(out.members, member)
		out.Hosts = append(out.Hosts, routing.Host{ID: person.ID, Weight: max(1, member.Weight), Always: member.Always, Attributes: person.Attributes})
	}
	return out, nil
}

func (p pool) ids() []int64 {
	ids := make([]int64, len(p.People))
	for i, person := range p.People {
		ids[i] = person.ID
	}
	return ids
}

// Of finds somebody of the pool.
func (p pool) Of(id int64) Person {
	for _, person := range p.People {
		if person.ID == id {
			return person
		}
	}
	return Person{}
}

// Ask is what a client has said that decides who could take the booking.
type Ask struct {
	wanted  int64             // whom they chose; 0 for anyone
	Answers map[string]string // by attribute
	Mail    string            // to know returning clients by; may be empty
	Silent  map[int64]bool    // whose calendars don't answer, and who want nothing offered then
}

// Lineup is those who could take a booking, with their agendas.
type Lineup struct {
	Bookable   Bookable
	Ask        Ask
	Candidates []routing.Host
	Agendas    []Agenda // as the candidates
}

// Lineup loads the agendas of all who could take a booking of the range, without one booking if it is being moved.
func (s *Service) Lineup(ctx context.Context, q *sqlc.Queries, o Bookable, asked Ask, within span.Span, moving int64) (Lineup, error) {
	l := Lineup{Bookable: o, Ask: asked}
	l.Candidates = o.Candidates(asked)
	people := make([]Person, len(l.Candidates))
	for i, c := range l.Candidates {
		people[i] = o.Pool.Of(c.ID)
	}
	left, err := meetingLeft(ctx, q, moving)
	if err != nil {
		return l, err
	}
	if !Shared(left) || left.Taken < 2 {
		l.Agendas, err = s.Agendas(ctx, q, people, within, moving)
		return l, err
	}
	l.Agendas, err = s.Agendas(ctx, q, people, within, 0)
	for _, g := range l.Agendas {
		for i := range g.Taken {
			if g.Taken[i].MeetingID == left.MeetingID {
				g.Taken[i].Taken-- // the others stay
			}
		}
	}
	return l, err
}

// Candidates are those whom the answers point to, or the one whom the client chose among them.
func (o Bookable) Candidates(asked Ask) []routing.Host {
	hosts, _ := o.Pool.Candidates(asked.Answers)
	if asked.wanted == 0 {
		return hosts
	}
	return slices.DeleteFunc(hosts, func(h routing.Host) bool { return h.ID != asked.wanted })
}

// Input is what the candidates' open times depend on.
func (l Lineup) Input() (opentimes.Input, opentimes.Pool) {
	if len(l.Agendas) == 0 {
		return opentimes.Input{}, opentimes.Pool{}
	}
	in := l.Agendas[0].Input(l.Bookable.ID, l.Bookable.Rules)
	p := opentimes.Pool{Hosts: []opentimes.Host{in.Host}, Together: l.Bookable.Pool.Mode == routing.Together}
	for _, g := range l.Agendas[1:] {
		p.Hosts = append(p.Hosts, g.host(l.Bookable.ID))
	}
	return in, p
}

// Search is the starts that the candidates can honour.
func (l Lineup) Search(within span.Span) []opentimes.Offer {
	in, p := l.Input()
	return l.searchOf(in, p, within)
}

// searchOf is the same with the lineup's input, for whoever needs that too.
func (l Lineup) searchOf(in opentimes.Input, p opentimes.Pool, within span.Span) []opentimes.Offer {
	if len(p.Hosts) == 0 {
		return nil
	}
	offers := opentimes.SearchPool(in, p, within)
	if l.Bookable.Pool.Mode != routing.SomeAndOne {
		return offers
	}
	return slices.DeleteFunc(offers, func(o opentimes.Offer) bool {
		return !l.Bookable.Pool.CanTake(l.Candidates, func(id int64) bool {
			return slices.ContainsFunc(o.Hosts, func(k int) bool { return l.Candidates[k].ID == id })
		})
	})
}

// Starts is the open starts within a range, for whoever can take them.
func (l Lineup) Starts(within span.Span) []opentimes.Start { return startsOf(l.Search(within)) }

func startsOf(offers []opentimes.Offer) []opentimes.Start {
	out := make([]opentimes.Start, len(offers))
	for i, o := range offers {
		out[i] = o.Start
	}
	return out
}

// Nearest is open starts around one, the closest first, in the order of time.
func (l Lineup) Nearest(around span.Instant, most int) []opentimes.Start {
	starts := l.Starts(span.Span{Start: around, End: around + 1}.Grow(21*24*3600, 21*24*3600))
	slices.SortStableFunc(starts, func(a, b opentimes.Start) int { return int(distance(a.At, around) - distance(b.At, around)) })
	starts = starts[:min(most, len(starts))]
	slices.SortFunc(starts, func(a, b opentimes.Start) int { return int(a.At - b.At) })
	return starts
}

func distance(a, b span.Instant) span.Instant { return max(a-b, b-a) }

// Circumstances are those of a booking at a start: who is open, and why the others are not.
func (l Lineup) Circumstances(start opentimes.Start) routing.Circumstances {
	c := routing.Circumstances{Answers: l.Ask.Answers, Wanted: l.Ask.wanted, Open: map[int64]bool{}, Closed: map[int64]routing.Closed{}}
	in, p := l.Input()
	for i, e := range opentimes.ExplainPool(in, p, start) {
		id := l.Candidates[i].ID
		if l.Ask.Silent[id] {
			c.Closed[id] = routing.Closed{Rule: opentimes.BusyRule}
			continue
		}
		if c.Open[id] = e.Open; !e.Open {
			c.Closed[id] = routing.Closed{Rule: e.Failing()[0], Until: l.Agendas[i].Person.backFrom(start.At)}
		}
	}
	return c
}

// backFrom is when somebody who is off at an instant is back; 0 if they are not off then.
func (p Person) backFrom(at span.Instant) span.Instant {
	until := at
	for moved := true; moved; {
		moved = false
		for _, off := range p.Off {
			if s := off.Span(p.Local); s.Holds(until) {
				until, moved = s.End, true
			}
		}
	}
	if until == at {
		return 0
	}
	return until
}

// Choose gives a booking at a start to its hosts, as things stand in the transaction.
func (s *Service) Choose(ctx context.Context, q *sqlc.Queries, l Lineup, start opentimes.Start) (routing.Choice, error) {
	if len(l.Agendas) == 0 {
		return routing.Choice{}, nil
	}
	c := l.Circumstances(start)
	if host := l.joins(start, c.Open); host != 0 {
		return routing.Choice{Hosts: []int64{host}}, nil
	}
	return s.ChooseIn(ctx, q, l, start, c)
}

// ChooseIn chooses who takes a start, of those who can.
func (s *Service) ChooseIn(ctx context.Context, q *sqlc.Queries, l Lineup, start opentimes.Start, c routing.Circumstances) (routing.Choice, error) {
	p := l.Bookable.Pool
	var ledger routing.Ledger
	var err error
	if len(l.Candidates) > 1 && p.Mode != routing.Together { // else there is no turn
		if ledger, err = s.Ledger(ctx, q, l.Bookable.ID, p); err != nil {
			return routing.Choice{}, err
		}
	}
	if p.Returning && l.Ask.Mail != "" {
		c.Last, err = q.LastHostOfClient(ctx, sqlc.LastHostOfClientParams{ClientMail: l.Ask.Mail, WorkspaceID: l.Bookable.Host.Home.ID})
		if err != nil && !errors.Is(err, store.ErrNotFound) {
			return routing.Choice{}, err
		}
	}
	if p.Mode == routing.LeastBooked {
		if c.Booked, err = s.BookedMinutes(ctx, q, p, start.At, l.Bookable.Host.Home); err != nil {
			return routing.Choice{}, err
		}
	}
	return routing.Choose(p.Routing, ledger, c), nil
}

// BookedMinutes is how much each host has booked in the period around an instant, by the workspace's clock.
func (s *Service) BookedMinutes(ctx context.Context, q *sqlc.Queries, p pool, at span.Instant, w Home) (map[int64]int, error) {
	zone, err := civil.LoadZone(w.Zone)
	if err != nil {
		return nil, err
	}
	from, to := PeriodAround(p.Period, at.Time().In(zone))
	rows, err := q.BookedMinutes(ctx, sqlc.BookedMinutesParams{RangeFrom: from.Unix(), RangeTo: to.Unix(), People: p.ids()})
	out := map[int64]int{}
	for _, row := range rows {
		out[row.PersonID] = int(row.Minutes)
	}
	return out, err
}

// PeriodAround is the month, quarter or year that a time lies in; or all time.
func PeriodAround(period string, at time.Time) (from, to time.Time) {
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

// Since is when the pool's present period began, by the workspace's clock.
func (p pool) Since(now time.Time) time.Time {
	zone := time.UTC
	if len(p.People) > 0 {
		if own, err := civil.LoadZone(p.People[0].Home.Zone); err == nil {
			zone = own
		}
	}
	since, _ := PeriodAround(p.Period, now.In(zone))
	return since
}

// Ledger is who was given how many of a type's bookings in the present period.
func (s *Service) Ledger(ctx context.Context, q *sqlc.Queries, kind int64, p pool) (routing.Ledger, error) {
	since := p.Since(s.now())
	given, err := givenOf(ctx, q, kind, p, since.Unix())
	if err != nil {
		return nil, err
	}
	corrections, err := q.Corrections(ctx, sqlc.CorrectionsParams{TypeID: kind, Since: since.Unix()})
	if err != nil {
		return nil, err
	}
	entries := p.joined(since, s.now()) // first: whoever came in a second came before what was given in it
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
	for i, person := range p.People {
		if member := p.members[i]; member.Since >= since.Unix() {
			entries = append(entries, routing.Entry{At: span.Instant(member.Since), Host: person.ID, What: routing.Joined})
		}
		for _, off := range person.Off {
			back := off.Span(person.Local).End
			if off.Last != (civil.Date{}) && back >= span.At(since) && back <= span.At(until) {
				entries = append(entries, routing.Entry{At: back, Host: person.ID, What: routing.Joined})
			}
		}
	}
	return entries
}

// Assigned is why somebody got a booking, as it is kept with it.
type Assigned struct {
	Kind   routing.Kind     `json:"kind"`
	Rule   int              `json:"rule,omitempty"`
	Passed []routing.Passed `json:"passed,omitempty"`
	By     int64            `json:"by,omitempty"` // of a decision by hand: whose
}

// Assign keeps who was given a booking, and why.
func (s *Service) Assign(ctx context.Context, q *sqlc.Queries, b sqlc.Booking, hosts []int64, why Assigned) error {
	reason, err := json.Marshal(why)
	if err != nil {
		return err
	}
	for _, id := range hosts {
		err := q.AddAssignment(ctx, sqlc.AddAssignmentParams{MeetingID: b.MeetingID, BookingID: b.ID, TypeID: b.TypeID, PersonID: id, At: s.now().Unix(), Reason: string(reason)})
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

// AnswersJSON is answers as they are stored with a booking.
func AnswersJSON(answers map[string]string) string {
	text, _ := json.Marshal(normalAnswers(answers)) // texts always can be
	return string(text)
}

// Hostable is somebody who could host a type.
type Hostable struct {
	ID         int64               `json:"id"`
	Name       string              `json:"name"`
	Bookable   bool                `json:"bookable" doc:"They take bookings."`
	Attributes map[string][]string `json:"attributes"`
}

// Check complains of what can't be, of those who can host and the teams there are.
func (r TypeRouting) Check(people []Hostable, teams []Team) refusal.Complaints {
	wrong := refusal.Complaints{}
	here := func(id int64) bool { return slices.ContainsFunc(people, func(h Hostable) bool { return h.ID == id }) }
	for _, team := range r.Teams {
		if !slices.ContainsFunc(teams, func(t Team) bool { return t.ID == team }) {
			wrong.Add("people", told.Say("team-among-hosts", "A team among the hosts doesn't exist any more. Take it out."))
		}
	}
	named := slices.ContainsFunc(r.People, func(p PoolMember) bool { return !p.Through })
	if !r.Everyone && len(r.Teams) == 0 && !named {
		wrong.Add("people", told.Say("choose-least-one", "Choose at least one person or team who hosts it."))
	}
	for _, member := range r.People {
		if !here(member.Person) {
			wrong.Add("people", told.Say("somebody-pool-workspace", "Somebody in the pool is not in the workspace any more. Take them out."))
		}
	}
	if r.Mode == routing.SomeAndOne {
		always := slices.ContainsFunc(r.People, func(p PoolMember) bool { return p.Always })
		if !always {
			wrong.Add("people", told.Say("say-who-always", "Say who always takes part, or let everybody take it in turn."))
		}
	}
	for i, rule := range r.Rules {
		if strings.TrimSpace(rule.Attribute) == "" || len(rule.Values) == 0 {
			wrong.Add("rules", told.Say("rule-needs-what", "Rule {} needs what is asked and at least one answer.", i+1))
		}
	}
	return wrong
}

// Normal is the routing without stray spaces and with its period named.
func (r TypeRouting) Normal() TypeRouting {
	if r.Period == "" {
		r.Period = "always"
	}
	for i := range r.Rules {
		r.Rules[i].Attribute = strings.ToLower(intake.OneLine(r.Rules[i].Attribute))
		for k, v := range r.Rules[i].Values {
			r.Rules[i].Values[k] = intake.OneLine(v)
		}
		r.Rules[i].Values = slices.DeleteFunc(r.Rules[i].Values, func(v string) bool { return v == "" })
	}
	return r
}

// BookableWith is a type as a crew offers it; where nobody does, somebody stands for its workspace.
func BookableWith(somebody Person, kind MeetingType, crew pool) Bookable {
	o := Bookable{MeetingType: kind, Host: somebody, Pool: crew}
	if len(crew.People) > 0 {
		o.Host = crew.People[0]
	}
	return o
}

// Names is what everybody in the pool is called, by ID.
func (p pool) Names() map[int64]string {
	names := map[int64]string{}
	for _, person := range p.People {
		names[person.ID] = person.Name
	}
	return names
}

// Words says why somebody got a booking.
func (w Assigned) Words(names map[int64]string, p Person) told.Words {
	said := routing.Reason{Kind: w.Kind, Rule: w.Rule, Passed: w.Passed}.Say(names, p.Local)
	if w.Kind == routing.ByHand && names[w.By] != "" {
		said = told.Say("decided-by", "Decided by {}.", names[w.By])
	}
	if w.Rule > 0 {
		said = told.Say("by-answer-rule", "By answer rule {}. {}", w.Rule, said)
	}
	return said
}

// Without is the pool without some people.
func (p pool) Without(out func(int64) bool) pool {
	kept := p
	kept.Hosts, kept.People, kept.members = nil, nil, nil
	for i, h := range p.Hosts {
		if !out(h.ID) {
			kept.Hosts, kept.People, kept.members = append(kept.Hosts, h), append(kept.People, p.People[i]), append(kept.members, p.members[i])
		}
	}
	return kept
}

// OfferedAs is a type as a routing, perhaps one not yet saved, would offer it.
func (s *Service) OfferedAs(ctx context.Context, q *sqlc.Queries, p Person, kind MeetingType, r TypeRouting) (Bookable, error) {
	crew, err := s.Pool(ctx, q, p.Home.ID, r)
	return BookableWith(p, kind, crew), err
}
