package app

import (
	"context"
	"slices"

	"corrim/core/civil"
	"corrim/core/opentimes"
	"corrim/core/span"
	"corrim/core/wording"
)

// Trying first: what unsaved rules or hours do to the coming weeks, to bookings that stand, and to those of the last
// months.

// TypePreview is what a draft does, before it is saved.
type TypePreview struct {
	Days    []Ribbon          `json:"days" doc:"The first coming days with open hours."`
	Weeks   []WeekTotal       `json:"weeks" doc:"Totals by week, from the present one."`
	Open    int               `json:"open" doc:"Open starts in those weeks."`
	Gained  int               `json:"gained"`
	Lost    int               `json:"lost"`
	Why     string            `json:"why,omitempty" doc:"If nothing would be open: the rule that takes most."`
	Past    int               `json:"past" doc:"Bookings of this type in the last 90 days."`
	Unmade  []Unmade          `json:"unmade" doc:"Those of them that could not have been made."`
	Outside []Unmade          `json:"outside" doc:"Coming bookings that the change leaves outside the rules. They stay."`
	Wrong   map[string]string `json:"wrong" doc:"What is wrong with the draft, by field."`
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

// PreviewMeetingType computes the open starts of a draft and holds them against those of the saved type, if there is
// one. Faults of the draft are told in the answer; days are empty if its rules cannot be used.
func (a *App) PreviewMeetingType(ctx context.Context, p Person, id int64, draft TypeDraft) (TypePreview, error) {
	view := TypePreview{Days: []Ribbon{}, Weeks: []WeekTotal{}, Unmade: []Unmade{}, Outside: []Unmade{}}
	draft, err := a.normal(ctx, a.Store.Queries, p, draft)
	if err != nil {
		return view, err
	}
	view.Wrong = draft.check()
	unusable := complaints{}
	draft.Rules.check(unusable)
	if len(unusable) > 0 {
		return view, nil
	}
	within := a.trialRange(p)
	agenda, err := a.agenda(ctx, a.Store.Queries, p, within, 0)
	if err != nil {
		return view, err
	}
	after := agenda.input(id, draft.Rules)
	open := startsOf(after, within)
	difference := opentimes.Difference{Kept: open}
	if id != 0 {
		saved, err := a.MeetingType(ctx, p, id)
		if err != nil {
			return view, err
		}
		before := agenda.input(id, saved.Rules)
		difference = opentimes.Compare(startsOf(before, within), open)
		if view.Past, view.Unmade, err = a.hindsight(ctx, p, saved, draft.Rules); err != nil {
			return view, err
		}
		view.Outside = agenda.leftOutside([]trial{{before, after}})
	}
	if len(open) == 0 {
		view.Why = wording.RuleName(opentimes.TakesMost(after, within, draft.Rules.Duration))
	}
	view.Open, view.Gained, view.Lost = len(open), len(difference.Gained), len(difference.Lost)
	view.Weeks = a.weekTotals(p, difference)
	for i := 0; i < 7*trialWeeks && len(view.Days) < previewDays; i++ {
		if r := agenda.drawPreview(a.todayOf(p).AddDays(i), after, draft.Rules.Duration, difference); len(r.Open) > 0 {
			view.Days = append(view.Days, r)
		}
	}
	return view, nil
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

// startsOf is the open starts whatever their length: a change of lengths alone loses only starts that no length is left
// for.
func startsOf(in opentimes.Input, within span.Span) []opentimes.Start {
	starts := opentimes.Search(in, within)
	for i := range starts {
		starts[i].Minutes = 0
	}
	return slices.Compact(starts) // sorted by time
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

// mustOpen refuses rules under which nothing is open in the weeks of a trial, though the host has hours.
func (a *App) mustOpen(ctx context.Context, p Person, id int64, rules TypeRules) error {
	within := a.trialRange(p)
	agenda, err := a.agenda(ctx, a.Store.Queries, p, within, 0)
	if err != nil {
		return err
	}
	in := agenda.input(id, rules)
	if len(in.Host.Hours.Open(within)) == 0 || len(opentimes.Search(in, within)) > 0 {
		return nil
	}
	return refuse(NothingOpen, wording.NothingOpen(in, within, rules.Duration, trialWeeks))
}

// drawPreview draws one day with what the rules take and what the change does.
func (g agenda) drawPreview(date civil.Date, in opentimes.Input, minutes int, d opentimes.Difference) Ribbon {
	drawer := newDayDrawer(date, g.person.zone)
	r := drawer.ribbon()
	drawer.background(&r, g)
	for _, layer := range opentimes.Layers(in, drawer.day, minutes) {
		for _, take := range layer.Takes {
			switch layer.Rule {
			case opentimes.NoticeRule:
				r.TooSoon = drawer.mark(r.TooSoon, take.Starts, "")
			case opentimes.WindowRule:
				r.Outside = drawer.mark(r.Outside, take.Starts, "")
			}
		}
	}
	r.Kept, r.Gained, r.Lost = drawer.starts(r.Kept, d.Kept), drawer.starts(r.Gained, d.Gained), drawer.starts(r.Lost, d.Lost)
	return r
}
