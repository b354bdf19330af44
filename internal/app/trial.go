package app

import (
	"context"
	"slices"
	"time"

	"corrim/core/civil"
	"corrim/core/opentimes"
	"corrim/core/routing"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/refusal"
)

// Trying first: what unsaved rules or hours do to the coming weeks, to bookings that stand, and to those of the last
// months.

// TypePreview is what a draft does, before it is saved.
type TypePreview struct {
	Days    []Ribbon              `json:"days" doc:"The first coming days with open hours."`
	Weeks   []WeekTotal           `json:"weeks" doc:"Totals by week, from the present one."`
	Open    int                   `json:"open" doc:"Open starts in those weeks."`
	Gained  int                   `json:"gained"`
	Lost    int                   `json:"lost"`
	Why     told.Words            `json:"why,omitzero" doc:"If nothing would be open: the rule that takes most."`
	Past    int                   `json:"past" doc:"Bookings of this type in the last 90 days."`
	Unmade  []Unmade              `json:"unmade" doc:"Those of them that could not have been made."`
	Outside []Unmade              `json:"outside" doc:"Coming bookings that the change leaves outside the rules. They stay."`
	Wrong   map[string]told.Words `json:"wrong" doc:"What is wrong with the draft, by field."`
	Crew    Crew                  `json:"crew"`
}

// WeekTotal is the open starts of a week.
type WeekTotal struct {
	First  string `json:"first" format:"date"`
	Open   int    `json:"open"`
	Gained int    `json:"gained"`
	Lost   int    `json:"lost"`
}

const (
	trialWeeks  = 8
	previewDays = 8
)

// PreviewMeetingType computes the open starts of a draft, of all who host the type or of one of them, and holds them against those
// of the saved type, if there is one. Faults of the draft are told in the answer; days are empty if its rules cannot be used.
func (a *App) PreviewMeetingType(ctx context.Context, p Person, id int64, draft TypeDraft, host int64) (TypePreview, error) {
	view := TypePreview{Days: []Ribbon{}, Weeks: []WeekTotal{}, Unmade: []Unmade{}, Outside: []Unmade{}, Crew: Crew{Hosts: []PageHost{}, Way: string(routing.InTurn)}}
	draft, err := a.normal(ctx, a.Store.Queries, p, draft)
	if err != nil {
		return view, err
	}
	view.Wrong = draft.check()
	unusable := refusal.Complaints{}
	draft.Rules.check(unusable)
	if len(unusable) > 0 {
		return view, nil
	}
	saved, err := a.typeOrNew(ctx, p, id, draft)
	if err != nil {
		return view, err
	}
	if draft.Rules, err = a.withSeries(ctx, a.Store.Queries, id, draft.Rules); err != nil {
		return view, err
	}
	within := a.trialRange(p)
	before, crew, err := a.crew(ctx, a.Store.Queries, p, saved, host, within)
	if err != nil {
		return view, err
	}
	view.Crew = crew
	after := before.under(draft.Rules)
	open := after.offers(within)
	difference := opentimes.Difference{Kept: open}
	if id != 0 {
		difference = opentimes.Compare(before.offers(within), open)
		if view.Past, view.Unmade, err = a.hindsight(ctx, p, saved, draft.Rules, host); err != nil {
			return view, err
		}
		view.Outside = leftOutside(before, after)
	}
	if len(open) == 0 {
		view.Why = after.takesMost(within).Title()
	}
	view.Open, view.Gained, view.Lost = len(open), len(difference.Gained), len(difference.Lost)
	view.Weeks = a.weekTotals(p, difference)
	for i := 0; i < 7*trialWeeks && len(view.Days) < previewDays; i++ {
		if r := after.drawPreview(a.todayOf(p).AddDays(i), p.zone, difference); len(r.Open) > 0 {
			view.Days = append(view.Days, r)
		}
	}
	return view, nil
}

// typeOrNew is a saved type, or one not saved yet, which its maker hosts alone.
func (a *App) typeOrNew(ctx context.Context, p Person, id int64, draft TypeDraft) (MeetingType, error) {
	if id != 0 {
		return a.MeetingType(ctx, p, id)
	}
	return MeetingType{TypeDraft: draft, routing: TypeRouting{Way: routing.InTurn, People: []PoolPlace{{Person: p.ID, Weight: 1}}}}, nil
}

// trial is one meeting type's rules as they are and as they would be.
type trial struct {
	before, after opentimes.Input
}

// trialRange is the weeks that consequences are shown for, from today.
func (a *App) trialRange(p Person) span.Span {
	today := a.todayOf(p)
	return span.Span{Start: today.Start(p.zone), End: today.AddDays(7 * trialWeeks).Start(p.zone)}
}

// weekTotals adds a difference up by weeks, which begin on the workspace's first weekday.
func (a *App) weekTotals(p Person, d opentimes.Difference) []WeekTotal {
	today := a.todayOf(p)
	first := today.Week(p.home.firstWeekday())
	var weeks []WeekTotal
	for i := range trialWeeks + 1 {
		date := first.AddDays(7 * i)
		week := span.Span{Start: date.Start(p.zone), End: date.AddDays(7).Start(p.zone)}
		gained, lost := countIn(d.Gained, week), countIn(d.Lost, week)
		weeks = append(weeks, WeekTotal{date.String(), countIn(d.Kept, week) + gained, gained, lost})
	}
	if first == today {
		weeks = weeks[:trialWeeks]
	}
	return weeks
}

func countIn(starts []opentimes.Start, s span.Span) (n int) {
	for _, start := range starts {
		if s.Holds(start.At) {
			n++
		}
	}
	return n
}

// mustOpen refuses rules under which none of a type's hosts would offer anything in the weeks of a trial, though they have hours.
// Sessions are set once the rules are saved.
func (a *App) mustOpen(ctx context.Context, p Person, id int64, draft TypeDraft) error {
	if draft.Rules.Sessions {
		return nil
	}
	saved, err := a.typeOrNew(ctx, p, id, draft)
	if err != nil {
		return err
	}
	within := a.trialRange(p)
	l, _, err := a.crew(ctx, a.Store.Queries, p, saved, 0, within)
	if err != nil {
		return err
	}
	l = l.under(draft.Rules)
	works := func(g agenda) bool { return len(g.person.planFor(id).Open(within)) > 0 }
	if !slices.ContainsFunc(l.agendas, works) || len(l.offers(within)) > 0 {
		return nil
	}
	return refusal.New(refusal.NothingOpen, l.nothingOpen(within))
}

// drawPreview draws one day with what the change does. Of one host it shows what the rules take too; of several, when one of them
// works, or all if they come together.
func (l lineup) drawPreview(date civil.Date, zone *time.Location, d opentimes.Difference) Ribbon {
	drawer := newDayDrawer(date, zone)
	r := drawer.ribbon()
	if len(l.agendas) == 1 {
		drawer.takes(&r, l)
	} else {
		for _, s := range l.hours(drawer.day) {
			r.Open = drawer.mark(r.Open, s, "")
		}
	}
	r.Kept, r.Gained, r.Lost = drawer.starts(r.Kept, d.Kept), drawer.starts(r.Gained, d.Gained), drawer.starts(r.Lost, d.Lost)
	return r
}

// hours is when one of the hosts works, or all of them if they come together.
func (l lineup) hours(within span.Span) span.Set {
	var out span.Set
	for i, g := range l.agendas {
		open := g.person.planFor(l.o.ID).Open(within)
		switch {
		case i == 0:
			out = open
		case l.o.pool.Way == routing.Together:
			out = out.Intersect(open)
		default:
			out = out.Or(open)
		}
	}
	return out
}

// takes draws the only host's day with what the rules take.
func (d dayDrawer) takes(r *Ribbon, l lineup) {
	d.background(r, l.agendas[0])
	for _, layer := range opentimes.Layers(l.agendas[0].input(l.o.ID, l.o.Rules), d.day, l.o.Rules.Duration) {
		for _, take := range layer.Takes {
			switch layer.Rule {
			case opentimes.NoticeRule:
				r.TooSoon = d.mark(r.TooSoon, take.Starts, "")
			case opentimes.WindowRule:
				r.Outside = d.mark(r.Outside, take.Starts, "")
			}
		}
	}
}
