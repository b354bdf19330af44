package app

import (
	"context"
	"errors"

	"corrim/core/civil"
	"corrim/core/hours"
	"corrim/core/opentimes"
	"corrim/core/span"
	"corrim/internal/store/sqlc"
)

// DayHours is one weekday's hours, each way of writing them saying what the other means.
type DayHours struct {
	Text      string           `json:"text" maxLength:"200"`
	Intervals []hours.Interval `json:"intervals" maxItems:"24"`
	Problem   string           `json:"problem,omitempty" doc:"Why the text cannot be read."`
}

// HoursView is a week and what it comes to.
type HoursView struct {
	Zone    string      `json:"zone"`
	Week    [7]DayHours `json:"week" doc:"Monday first."`
	Next    []Ribbon    `json:"next" doc:"The next two weeks as they result; empty if a day cannot be read."`
	Differs []DayChange `json:"differs" doc:"What differs from the week on some days; past days are left out."`
	Effects []Effect    `json:"effects" doc:"What an unsaved change does to the host's meeting types in four weeks; those it leaves alone are left out."`
}

// Effect is what changed hours do to the open starts of a meeting type.
type Effect struct {
	Type   string `json:"type"`
	Open   int    `json:"open"`
	Gained int    `json:"gained"`
	Lost   int    `json:"lost"`
}

// DayInput is one weekday as typed or as drawn: Intervals count if Drawn is set.
type DayInput struct {
	Text      string           `json:"text" maxLength:"200"`
	Drawn     bool             `json:"drawn,omitempty"`
	Intervals []hours.Interval `json:"intervals,omitempty" maxItems:"24"`
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

// Hours returns the person's week as it is saved.
func (a *App) Hours(p Person) HoursView {
	var input [7]DayInput
	for i, text := range p.week.Texts() {
		input[i].Text = text
	}
	return a.readHours(p, input)
}

// PreviewHours reads a week without saving it, and tries it on the person's meeting types.
func (a *App) PreviewHours(ctx context.Context, p Person, input [7]DayInput) (HoursView, error) {
	view := a.readHours(p, input)
	if len(view.Next) == 0 {
		return view, nil // a day can't be read
	}
	var err error
	view.Effects, err = a.effects(ctx, p, p.withWeek(view))
	return view, err
}

// withWeek is the person with the week of a view.
func (p Person) withWeek(view HoursView) Person {
	for i, day := range view.Week {
		p.week[hours.Weekdays[i]] = day.Intervals
	}
	return p
}

// effects holds the open starts of the person's types against those with changed hours.
func (a *App) effects(ctx context.Context, p, changed Person) ([]Effect, error) {
	out := []Effect{}
	types, err := a.MeetingTypes(ctx, p)
	if err != nil {
		return out, err
	}
	within := a.previewRange(p)
	agenda, err := a.agenda(ctx, a.Store.Queries, p, within, 0)
	if err != nil {
		return out, err
	}
	for _, t := range types {
		before := agenda.input(t.ID, t.Rules)
		after := before
		after.Host.Hours = changed.plan()
		open := opentimes.Search(after, within)
		if d := opentimes.Compare(opentimes.Search(before, within), open); len(d.Gained)+len(d.Lost) > 0 {
			out = append(out, Effect{t.Name, len(open), len(d.Gained), len(d.Lost)})
		}
	}
	return out, nil
}

// readHours reads a week. Text that was typed is kept as typed; drawn hours get their text.
func (a *App) readHours(p Person, input [7]DayInput) HoursView {
	view := HoursView{Zone: p.Zone, Next: []Ribbon{}, Differs: []DayChange{}, Effects: []Effect{}}
	for _, d := range p.differs {
		if d.Last >= a.todayOf(p).String() {
			view.Differs = append(view.Differs, d)
		}
	}
	plan := p.plan()
	readable := true
	for i, in := range input {
		day, err := in.read()
		view.Week[i] = DayHours{Text: in.Text, Intervals: append([]hours.Interval{}, day...)}
		if in.Drawn {
			view.Week[i].Text = day.String()
		}
		if err != nil {
			view.Week[i].Problem, readable = hoursProblem(err), false
		}
		plan.Week[hours.Weekdays[i]] = day
	}
	if readable {
		view.Next = a.nextDays(plan, 14)
	}
	return view
}

func hoursProblem(err error) string {
	var text *hours.TextError
	if errors.As(err, &text) {
		return text.Error()
	}
	return err.Error()
}

// nextDays draws the open hours from today on.
func (a *App) nextDays(plan hours.Plan, n int) []Ribbon {
	ribbons := make([]Ribbon, n)
	today := civil.DateOf(span.At(a.Now()), plan.Zone)
	for i := range ribbons {
		d := newDayDrawer(today.AddDays(i), plan.Zone)
		ribbons[i] = d.ribbon()
		ribbons[i].Origin = originOf(plan, d.date)
		for _, s := range plan.Open(d.day) {
			ribbons[i].Open = d.mark(ribbons[i].Open, s, "")
		}
	}
	return ribbons
}

// SaveHours saves the week; the fields of a refusal are "week.0" (Monday) to "week.6".
func (a *App) SaveHours(ctx context.Context, p Person, input [7]DayInput) (HoursView, error) {
	view := a.readHours(p, input)
	wrong := complaints{}
	for i, day := range view.Week {
		if day.Problem != "" {
			wrong.add("week."+string(rune('0'+i)), day.Problem)
		}
	}
	p = p.withWeek(view)
	if err := wrong.err(); err != nil {
		return view, err
	}
	err := a.Store.Write(ctx, func(q *sqlc.Queries) error {
		before, err := hoursOf(ctx, q, p.ID)
		if err != nil {
			return err
		}
		if err := q.SetWeek(ctx, sqlc.SetWeekParams{ID: p.ID, Week: weekJSON(p.week)}); err != nil {
			return err
		}
		return a.remember(ctx, q, p, settingChange{subjectHours, p.ID, weekLabel(before.Week, p.week.Texts()), before})
	})
	return a.Hours(p), err
}
