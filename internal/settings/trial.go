package settings

import (
	"context"
	"slices"

	"corrim/core/opentimes"
	"corrim/core/routing"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
)

// Trying first: what unsaved rules or hours do to the coming weeks, to bookings that stand, and to those of the last
// months.

// TypePreview is what a draft does, before it is saved.
type TypePreview struct {
	Days    []schedule.Ribbon     `json:"days" doc:"The first coming days with open hours."`
	Weeks   []WeekTotal           `json:"weeks" doc:"Totals by week, from the present one."`
	Open    int                   `json:"open" doc:"Open starts in those weeks."`
	Gained  int                   `json:"gained"`
	Lost    int                   `json:"lost"`
	Why     told.Words            `json:"why,omitzero" doc:"If nothing would be open: the rule that takes most."`
	Past    int                   `json:"past" doc:"Bookings of this type in the last 90 days."`
	Unmade  []schedule.Unmade     `json:"unmade" doc:"Those of them that could not have been made."`
	Outside []schedule.Unmade     `json:"outside" doc:"Coming bookings that the change leaves outside the rules. They stay."`
	Wrong   map[string]told.Words `json:"wrong" doc:"What is wrong with the draft, by field."`
	Crew    schedule.Crew         `json:"crew"`
}

// WeekTotal is the open starts of a week.
type WeekTotal struct {
	First  string `json:"first" format:"date"`
	Open   int    `json:"open"`
	Gained int    `json:"gained"`
	Lost   int    `json:"lost"`
}

const previewDays = 8

// PreviewMeetingType computes the open starts of a draft, of all who host the type or of one of them, and holds them against those
// of the saved type, if there is one. Faults of the draft are told in the answer; days are empty if its rules cannot be used.
func (s *Settings) PreviewMeetingType(ctx context.Context, p schedule.Person, id int64, draft schedule.TypeDraft, host int64) (TypePreview, error) {
	view := TypePreview{Days: []schedule.Ribbon{}, Weeks: []WeekTotal{}, Unmade: []schedule.Unmade{}, Outside: []schedule.Unmade{}, Crew: schedule.Crew{Hosts: []schedule.PageHost{}, Mode: string(routing.InTurn)}}
	draft, err := s.normal(ctx, s.store.Queries, p, draft)
	if err != nil {
		return view, err
	}
	view.Wrong = draft.Check()
	unusable := refusal.Complaints{}
	draft.Rules.Complain(unusable)
	if len(unusable) > 0 {
		return view, nil
	}
	saved, err := s.typeOrNew(ctx, p, id, draft)
	if err != nil {
		return view, err
	}
	if draft.Rules, err = s.WithSeries(ctx, s.store.Queries, id, draft.Rules); err != nil {
		return view, err
	}
	within := s.TrialRange(p)
	before, crew, err := s.Crew(ctx, s.store.Queries, p, saved, host, within)
	if err != nil {
		return view, err
	}
	view.Crew = crew
	after := before.Under(draft.Rules)
	open := after.Open(within)
	difference := opentimes.Difference{Kept: open}
	if id != 0 {
		difference = opentimes.Compare(before.Open(within), open)
		if view.Past, view.Unmade, err = s.hindsight(ctx, p, saved, draft.Rules, host); err != nil {
			return view, err
		}
		view.Outside = schedule.LeftOutside(before, after)
	}
	if len(open) == 0 {
		view.Why = after.TakesMost(within).Title()
	}
	view.Open, view.Gained, view.Lost = len(open), len(difference.Gained), len(difference.Lost)
	view.Weeks = s.weekTotals(p, difference)
	for i := 0; i < 7*schedule.TrialWeeks && len(view.Days) < previewDays; i++ {
		if r := after.DrawPreview(s.TodayOf(p).AddDays(i), p.Local, difference); len(r.Open) > 0 {
			view.Days = append(view.Days, r)
		}
	}
	return view, nil
}

// typeOrNew is a saved type, or one not saved yet, which its maker hosts alone.
func (s *Settings) typeOrNew(ctx context.Context, p schedule.Person, id int64, draft schedule.TypeDraft) (schedule.MeetingType, error) {
	if id != 0 {
		return s.MeetingType(ctx, p, id)
	}
	return schedule.MeetingType{TypeDraft: draft, Routing: schedule.TypeRouting{Mode: routing.InTurn, People: []schedule.PoolMember{{Person: p.ID, Weight: 1}}}}, nil
}

// weekTotals adds a difference up by weeks, which begin on the workspace's first weekday.
func (s *Settings) weekTotals(p schedule.Person, d opentimes.Difference) []WeekTotal {
	today := s.TodayOf(p)
	first := today.Week(p.Home.WeekBegins())
	var weeks []WeekTotal
	for i := range schedule.TrialWeeks + 1 {
		date := first.AddDays(7 * i)
		week := span.Span{Start: date.Start(p.Local), End: date.AddDays(7).Start(p.Local)}
		gained, lost := schedule.CountIn(d.Gained, week), schedule.CountIn(d.Lost, week)
		weeks = append(weeks, WeekTotal{date.String(), schedule.CountIn(d.Kept, week) + gained, gained, lost})
	}
	if first == today {
		weeks = weeks[:schedule.TrialWeeks]
	}
	return weeks
}

// mustOpen refuses rules under which none of a type's hosts would offer anything in the weeks of a trial, though they have hours.
// Sessions are set once the rules are saved.
func (s *Settings) mustOpen(ctx context.Context, p schedule.Person, id int64, draft schedule.TypeDraft) error {
	if draft.Rules.Sessions {
		return nil
	}
	saved, err := s.typeOrNew(ctx, p, id, draft)
	if err != nil {
		return err
	}
	within := s.TrialRange(p)
	l, _, err := s.Crew(ctx, s.store.Queries, p, saved, 0, within)
	if err != nil {
		return err
	}
	l = l.Under(draft.Rules)
	works := func(g schedule.Agenda) bool { return len(g.Person.PlanFor(id).Open(within)) > 0 }
	if !slices.ContainsFunc(l.Agendas, works) || len(l.Open(within)) > 0 {
		return nil
	}
	return refusal.New(refusal.NothingOpen, l.NothingOpen(within))
}
