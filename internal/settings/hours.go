package settings

import (
	"context"
	"fmt"

	"corrim/core/civil"
	"corrim/core/hours"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// DayHours is one weekday's hours, each way of writing them saying what the other means.
type DayHours struct {
	Text      string           `json:"text" maxLength:"200"`
	Intervals []hours.Interval `json:"intervals" maxItems:"24"`
	Problem   told.Words       `json:"problem,omitzero" doc:"Why the text cannot be read."`
}

// HoursView is a week and what it comes to.
type HoursView struct {
	Zone    string               `json:"zone"`
	Whose   string               `json:"whose,omitempty" doc:"The colleague's name, if a coordinator looks after theirs."`
	Plan    int64                `json:"plan" doc:"The week plan that the person works by; 0 for a week of their own."`
	Title   string               `json:"openTitle,omitempty" doc:"If set, events with this title open time, and the week doesn't count."`
	Own     [7]string            `json:"own" doc:"The person's own week, which a plan leaves untouched."`
	Week    [7]DayHours          `json:"week" doc:"Monday first."`
	Next    []schedule.Ribbon    `json:"next" doc:"The next two weeks as they result; empty if a day cannot be read."`
	Differs []schedule.DayChange `json:"differs" doc:"What differs from the week on some days; past days are left out."`
	Effects []schedule.Effect    `json:"effects" doc:"What an unsaved change does to meeting types in the weeks of a trial; those it leaves alone are left out."`
	Outside []schedule.Unmade    `json:"outside" doc:"Coming bookings that the change leaves outside the rules. They stay."`
}

// DayInput is one weekday as typed or as drawn: Intervals count if Drawn is set.
type DayInput struct {
	Text      string           `json:"text" maxLength:"200"`
	Drawn     bool             `json:"drawn,omitempty"`
	Intervals []hours.Interval `json:"intervals,omitempty" maxItems:"24"`
}

// WeekInput is a week as it is edited: the person's own, or that of a plan for all who use it.
type WeekInput struct {
	Plan int64       `json:"plan" doc:"The week plan to work by; 0 for a week of one's own."`
	Week [7]DayInput `json:"week" doc:"Monday first."`
}

func (d DayInput) read() (hours.Day, error) {
	if !d.Drawn {
		return hours.ParseDay(d.Text)
	}
	for _, i := range d.Intervals {
		if err := i.Check(); err != nil {
			return nil, err
		}
	}
	return hours.NewDay(d.Intervals...), nil
}

// ReadWeek reads a week without keeping it. Text that was typed is kept as typed; drawn hours get their text.
func ReadWeek(input [7]DayInput) (days [7]DayHours) {
	for i, in := range input {
		day, err := in.read()
		days[i] = DayHours{Text: in.Text, Intervals: append([]hours.Interval{}, day...)}
		if in.Drawn {
			days[i].Text = day.String()
		}
		if err != nil {
			days[i].Problem = told.OfError(err)
		}
	}
	return days
}

// readWeek is the week of the input; the fields of a refusal are "week.0" (Monday) to "week.6".
func readWeek(input [7]DayInput) (week hours.Week, err error) {
	wrong := refusal.Complaints{}
	for i, day := range ReadWeek(input) {
		if day.Problem.Any() {
			wrong.Add(fmt.Sprintf("week.%d", i), day.Problem)
		}
		week[hours.Weekdays[i]] = day.Intervals
	}
	return week, wrong.Err()
}

// Hours returns the person's week as it is saved.
func (s *Settings) Hours(p schedule.Person) HoursView {
	var input WeekInput
	input.Plan = p.PlanID
	for i, text := range p.Week.Texts() {
		input.Week[i].Text = text
	}
	return s.readHours(p, input)
}

// PreviewHours reads a week without saving it, and tries it on everybody's meeting types that depend on it.
func (s *Settings) PreviewHours(ctx context.Context, p schedule.Person, input WeekInput) (HoursView, error) {
	view := s.readHours(p, input)
	week, err := readWeek(input.Week)
	if err != nil {
		return view, nil // the view says which day can't be read
	}
	view.Effects, view.Outside, err = s.TryChange(ctx, p, func(someone schedule.Person) schedule.Person { return someone.Trying(p.ID, input.Plan, week) })
	return view, err
}

// readHours reads a week without trying it.
func (s *Settings) readHours(p schedule.Person, input WeekInput) HoursView {
	view := HoursView{
		Zone: p.Zone, Plan: input.Plan, Title: p.CalendarSettings.OpenTitle, Own: p.Own, Week: ReadWeek(input.Week),
		Next: []schedule.Ribbon{}, Differs: []schedule.DayChange{}, Effects: []schedule.Effect{}, Outside: []schedule.Unmade{},
	}
	if p.OnBehalf() {
		view.Whose = p.Name
	}
	for _, d := range p.Differs {
		if d.Yearly || d.Last >= s.TodayOf(p).String() {
			view.Differs = append(view.Differs, d)
		}
	}
	if week, err := readWeek(input.Week); err == nil {
		plan := p.Plan()
		plan.Week = week
		view.Next = s.daysFrom(p, plan, s.TodayOf(p), 14)
	}
	return view
}

// daysFrom draws the open hours of a plan from a date on.
func (a *Settings) daysFrom(p schedule.Person, plan hours.Plan, first civil.Date, n int) []schedule.Ribbon {
	ribbons := make([]schedule.Ribbon, n)
	for i := range ribbons {
		d := schedule.NewDayDrawer(first.AddDays(i), plan.Zone)
		ribbons[i] = d.Ribbon()
		ribbons[i].Origin, ribbons[i].Changes = p.Origin(plan, d.Date)
		for _, s := range plan.Open(d.Day) {
			ribbons[i].Open = d.Mark(ribbons[i].Open, s, "")
		}
		for _, s := range plan.Begun(d.Date) {
			ribbons[i].Begun = append(ribbons[i].Begun, hours.Reading(s, plan.Zone))
		}
	}
	return ribbons
}

// Days draws days as they result from what is saved, with where their hours come from.
func (s *Settings) Days(p schedule.Person, from string, n int) ([]schedule.Ribbon, error) {
	first, err := civil.ParseDate(from)
	if err != nil {
		return nil, refusal.Faulty("from", told.OfError(err))
	}
	return s.daysFrom(p, p.Plan(), first, n), nil
}

// SaveHours saves the week: as the person's own, or as that of the plan they work by from then on. The fields of a
// refusal are "week.0" (Monday) to "week.6".
func (s *Settings) SaveHours(ctx context.Context, p schedule.Person, input WeekInput) (HoursView, error) {
	week, err := readWeek(input.Week)
	if err != nil {
		return HoursView{}, err
	}
	err = s.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		if input.Plan != 0 {
			if err := s.setPlanWeek(ctx, q, p, input.Plan, week); err != nil {
				return err
			}
		}
		return s.setWeek(ctx, q, p, input.Plan, week)
	})
	if err != nil {
		return HoursView{}, err
	}
	return s.hoursAgain(ctx, p)
}

// setWeek lets the person work by a plan, or by the week if plan is 0.
func (s *Settings) setWeek(ctx context.Context, q *sqlc.Queries, p schedule.Person, plan int64, week hours.Week) error {
	before, err := HoursOf(ctx, q, p.ID)
	if err != nil {
		return err
	}
	after, label := before, told.Say("undo-own-week", "Hours: by a week of one's own")
	after.Plan = plan
	switch {
	case plan == 0:
		after.Week = week.Texts()
		if before.Plan == 0 {
			label = told.Say("undo-week", "Hours: {}", weekLabel(before.Week, after.Week))
		}
	case plan != before.Plan:
		label = told.Say("undo-other-plan", "Hours: by another week plan")
	}
	if before.Week == after.Week && before.Plan == after.Plan {
		return nil
	}
	if err := q.SetWeek(ctx, sqlc.SetWeekParams{ID: p.ID, Week: schedule.WeekTextsJSON(after.Week), PlanID: store.NullID(plan)}); err != nil {
		return err
	}
	return s.Remember(ctx, q, p, SubjectHours, p.ID, label, before)
}
