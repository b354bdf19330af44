package settings

import (
	"context"
	"errors"
	"time"

	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/store/sqlc"
)

// TypeFacts is what matters about a type beside its
type TypeFacts struct {
	ID int64 `json:"id"`
	schedule.Crew
	From string `json:"from" format:"date" doc:"Today, on the viewer's clock."`
	Open int    `json:"open" doc:"Open starts in the next 14 days, of its hosts as they are routed."`
	Days []int  `json:"days" doc:"Of those, how many are on each day of the viewer's, today first."`

	Next *time.Time     `json:"next,omitempty" doc:"The first open start, however far ahead."`
	Mend *schedule.Mend `json:"mend,omitempty" doc:"If nothing is open in the 14 days."`

	Coming    int64   `json:"coming" doc:"Bookings to come, of those that the viewer may see."`
	Ratings   Ratings `json:"ratings" doc:"How clients rated it, of the meetings that the viewer may see."`
	Requested int64   `json:"requested" doc:"Of the same, what waits for a host's answer."`
}

// mostFacts is of how many types the facts are told at once.
const mostFacts = 20

// TypeFacts tells of types who hosts them, and how much of each is really open. Those that the viewer may not see are left out.
func (s *Settings) TypeFacts(ctx context.Context, p schedule.Person, ids []int64) ([]TypeFacts, error) {
	if len(ids) > mostFacts {
		return nil, refusal.New(refusal.Invalid, told.Say("ask-facts-most", "Ask for the facts of at most {} meeting types at once.", mostFacts))
	}
	coming, err := s.comingByType(ctx, p, ids)
	if err != nil {
		return nil, err
	}
	rated, err := s.ratings(ctx, p, ids)
	if err != nil {
		return nil, err
	}
	known, out := s.Shelf(p, s.Fortnight(p)), []TypeFacts{}
	for _, id := range ids {
		kind, err := s.MeetingType(ctx, p, id)
		if errors.Is(err, ErrNotYourType) {
			continue
		}
		if err != nil {
			return nil, err
		}
		facts, err := s.typeFacts(ctx, p, known, kind)
		if err != nil {
			return nil, err
		}
		facts.Coming, facts.Requested, facts.Ratings = coming[id].Coming, coming[id].Requested, rated[id]
		out = append(out, facts)
	}
	return out, nil
}

// Fortnight is the next 14 days of the person, today included.
func (s *Settings) Fortnight(p schedule.Person) span.Span {
	today := s.TodayOf(p)
	return span.Span{Start: today.Start(p.Local), End: today.AddDays(schedule.CountDays).Start(p.Local)}
}

func (s *Settings) typeFacts(ctx context.Context, p schedule.Person, known schedule.Shelf, kind schedule.MeetingType) (TypeFacts, error) {
	l, crew, err := s.CrewFrom(ctx, s.store.Queries, known, kind, 0)
	if err != nil {
		return TypeFacts{}, err
	}
	facts := TypeFacts{ID: kind.ID, Crew: crew, From: s.TodayOf(p).String(), Days: make([]int, schedule.CountDays)}
	starts := l.Open(known.Within)
	facts.Open = len(starts)
	for i := range facts.Days {
		facts.Days[i] = schedule.CountIn(starts, s.TodayOf(p).AddDays(i).Span(p.Local))
	}
	if facts.Open > 0 {
		next := starts[0].At.Time()
		facts.Next = &next
		return facts, nil
	}
	mend := l.Mend(p, kind.SeenBy(p), known.Within, s.TodayOf(p).String())
	facts.Mend = &mend
	facts.Next, err = s.nextOfAll(ctx, p, kind, known.Within.End)
	return facts, err
}

// nextOfAll is the first start after an instant that some client can get.
func (s *Settings) nextOfAll(ctx context.Context, p schedule.Person, kind schedule.MeetingType, after span.Instant) (*time.Time, error) {
	beyond := span.Span{Start: after, End: after.Add(schedule.LongestRange)}
	l, _, err := s.Crew(ctx, s.store.Queries, p, kind, 0, beyond)
	if err != nil {
		return nil, err
	}
	starts := l.Open(beyond)
	if len(starts) == 0 {
		return nil, nil
	}
	next := starts[0].At.Time()
	return &next, nil
}

// comingByType counts the bookings to come of types that the viewer may see: everybody's, or those they host.
func (s *Settings) comingByType(ctx context.Context, p schedule.Person, ids []int64) (map[int64]sqlc.ComingOfTypesRow, error) {
	viewer := p.ID
	if p.May(identity.SeeEverybodys) {
		viewer = 0
	}
	rows, err := s.store.ComingOfTypes(ctx, sqlc.ComingOfTypesParams{Now: s.now().Unix(), Types: ids, Viewer: viewer})
	out := make(map[int64]sqlc.ComingOfTypesRow, len(rows))
	for _, row := range rows {
		out[row.TypeID] = row
	}
	return out, err
}

// Ratings is how often and how something was rated.
type Ratings struct {
	Count   int64   `json:"count"`
	Average float64 `json:"average" doc:"1 to 5; 0 if there are none."`
}

// ratings is how types were rated, of the meetings that the viewer may see.
func (s *Settings) ratings(ctx context.Context, p schedule.Person, types []int64) (map[int64]Ratings, error) {
	viewer := p.ID
	if p.May(identity.SeeEverybodys) {
		viewer = 0
	}
	rows, err := s.store.RatingsOfTypes(ctx, sqlc.RatingsOfTypesParams{Types: types, Viewer: viewer})
	out := make(map[int64]Ratings, len(rows))
	for _, row := range rows {
		out[row.TypeID] = Ratings{row.Count, float64(row.Sum) / float64(row.Count)}
	}
	return out, err
}
