package app

import (
	"context"
	"slices"
	"strings"
	"time"

	"corrim/core/civil"
	"corrim/core/hours"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/store/sqlc"
)

// DayChange is days on which a person's hours differ from the week.
type DayChange struct {
	ID     int64  `json:"id,omitempty"`
	First  string `json:"first" format:"date"`
	Last   string `json:"last" format:"date"`
	Kind   string `json:"kind" enum:"closed,instead,extra,off"`
	Hours  string `json:"hours" doc:"For instead and extra; for off the hours of each day, or empty for whole days."`
	Yearly bool   `json:"yearly,omitempty" doc:"Time off that comes again every year."`
	Label  string `json:"label,omitempty" maxLength:"200" doc:"What the time off is for, like a public holiday's name."`
}

var changeKinds = map[hours.ChangeKind]string{hours.Closed: "closed", hours.Instead: "instead", hours.Extra: "extra"}

const kindOff = "off"

// dayChanges loads what differs from the person's week.
func dayChanges(ctx context.Context, q *sqlc.Queries, person int64) ([]DayChange, error) {
	rows, err := q.DayChanges(ctx, person)
	out := make([]DayChange, len(rows))
	for i, row := range rows {
		out[i] = DayChange{row.ID, row.First, row.Last, row.Kind, row.Hours, row.Yearly != 0, row.Label}
	}
	return out, err
}

// The years around now for which yearly time off is laid out; no booking window reaches further.
const (
	yearsBack  = 2
	yearsAhead = 5
)

// differing is day changes as parts of a plan.
func (a *App) differing(rows []DayChange, zone *time.Location) (changes []hours.Change, off []hours.TimeOff, err error) {
	year := civil.DateOf(span.At(a.Now()), zone).Year
	for _, row := range rows {
		d, err := row.read()
		if err != nil {
			return nil, nil, err
		}
		if d.Off {
			off = append(off, d.TimeOff(year-yearsBack, year+yearsAhead)...)
		} else {
			changes = append(changes, d.Change)
		}
	}
	return changes, off, nil
}

// read is the change as core understands it.
func (c DayChange) read() (hours.Differing, error) {
	d := hours.Differing{Off: c.Kind == kindOff, Yearly: c.Yearly}
	for kind, name := range changeKinds {
		if name == c.Kind {
			d.Kind = kind
		}
	}
	var err error
	if d.First, err = civil.ParseDate(c.First); err != nil {
		return d, err
	}
	if d.Last, err = civil.ParseDate(c.Last); err != nil {
		return d, err
	}
	d.Day, err = hours.ParseDay(c.Hours)
	return d, err
}

func dayChange(d hours.Differing) DayChange {
	out := DayChange{First: d.First.String(), Last: d.Last.String(), Kind: changeKinds[d.Kind], Yearly: d.Yearly}
	if d.Off {
		out.Kind = kindOff
	}
	if len(d.Day) > 0 {
		out.Hours = d.Day.String()
	}
	return out
}

// DayChangeReading is a sentence about days that differ, as it is understood.
type DayChangeReading struct {
	Changes []DayChange `json:"changes"`
	Problem told.Words  `json:"problem,omitzero"`
	DayTrial
}

// ReadDayChanges reads a sentence without keeping it.
func (a *App) ReadDayChanges(p Person, text string) DayChangeReading {
	found, err := hours.ParseDiffering(text, a.todayOf(p))
	if err != nil {
		return DayChangeReading{Changes: []DayChange{}, Problem: told.OfError(err)}
	}
	out := make([]DayChange, len(found))
	for i, d := range found {
		out[i] = dayChange(d)
	}
	return DayChangeReading{Changes: out}
}

func (a *App) todayOf(p Person) civil.Date { return civil.DateOf(span.At(a.Now()), p.zone) }

// AddDayChanges keeps what a sentence says. The field of a refusal is "text".
func (a *App) AddDayChanges(ctx context.Context, p Person, text string) (HoursView, error) {
	text = strings.TrimSpace(text)
	reading := a.ReadDayChanges(p, text)
	if reading.Problem.Any() {
		return HoursView{}, refusal.Faulty("text", reading.Problem)
	}
	return a.changeDays(ctx, p, told.Say("undo-exceptions-added", "Exceptions: added {}", text), func(now []DayChange) ([]DayChange, error) {
		return append(now, reading.Changes...), nil
	})
}

var errGone = refusal.New(refusal.NotFound, told.Say("change-any-more", "This change is not there any more. Load the page again to see those there are."))

// RemoveDayChange takes a change back: on one of its dates, or with an empty date on all of them.
func (a *App) RemoveDayChange(ctx context.Context, p Person, id int64, date string) (HoursView, error) {
	label := told.Say("undo-exception-removed", "Exceptions: one removed")
	if date != "" {
		label = told.Say("undo-exception-usual", "Exceptions: {} as usual", date)
	}
	return a.changeDays(ctx, p, label, func(now []DayChange) ([]DayChange, error) {
		i := slices.IndexFunc(now, func(c DayChange) bool { return c.ID == id })
		if i < 0 {
			return nil, errGone
		}
		var kept []DayChange
		if date != "" {
			var err error
			if kept, err = now[i].without(date); err != nil {
				return nil, err
			}
		}
		return slices.Replace(now, i, i+1, kept...), nil
	})
}

// without is the change on all of its dates but one: what is left before and after it.
func (c DayChange) without(date string) ([]DayChange, error) {
	d, err := c.read()
	if err != nil {
		return nil, err
	}
	day, err := civil.ParseDate(date)
	if err != nil || !d.Applies(day) {
		return nil, errGone
	}
	if c.Yearly {
		return nil, refusal.New(refusal.Invalid, told.Say("day-taken-off", "This day is taken off every year. Remove it for all years, or add the hours that this year should have as extra."))
	}
	var kept []DayChange
	if before := day.AddDays(-1); !before.Before(d.First) {
		kept = append(kept, c.on(d.First, before))
	}
	if after := day.AddDays(1); !d.Last.Before(after) {
		kept = append(kept, c.on(after, d.Last))
	}
	return kept, nil
}

func (c DayChange) on(first, last civil.Date) DayChange {
	c.First, c.Last = first.String(), last.String()
	return c
}

// DrawnDay is the hours of one day, drawn on the year's strip.
type DrawnDay struct {
	Date      string           `json:"date" format:"date"`
	Intervals []hours.Interval `json:"intervals" maxItems:"24"`
	Weekdays  []int            `json:"weekdays" maxItems:"7" doc:"The weekdays that get these hours in the week (0 is Sunday); empty for the date alone."`
}

// DrawDay gives a date other hours, or the weekdays of the person's week. Whatever differed on the date until now gives
// way; the rest of its series stays.
func (a *App) DrawDay(ctx context.Context, p Person, drawn DrawnDay) (HoursView, error) {
	if len(drawn.Weekdays) > 0 {
		day, err := drawn.hours()
		if err != nil {
			return HoursView{}, err
		}
		return a.drawWeekdays(ctx, p, day, drawn.Weekdays)
	}
	if _, err := drawn.over(nil); err != nil {
		return HoursView{}, err
	}
	day, _ := drawn.hours() // over has read it
	return a.changeDays(ctx, p, told.Say("undo-exception-day", "Exceptions: {} {}", drawn.Date, day.String()), drawn.over)
}

func (d DrawnDay) hours() (hours.Day, error) {
	day, err := DayInput{Drawn: true, Intervals: d.Intervals}.read()
	if err != nil {
		err = refusal.Faulty("intervals", told.OfError(err))
	}
	return day, err
}

// over is day changes with the drawn hours of the date in place of whatever differed on it.
func (d DrawnDay) over(now []DayChange) ([]DayChange, error) {
	day, err := d.hours()
	if err != nil {
		return nil, err
	}
	date, err := civil.ParseDate(d.Date)
	if err != nil {
		return nil, refusal.Faulty("date", told.OfError(err))
	}
	var kept []DayChange
	for _, c := range now {
		left, err := c.withoutIfOn(date)
		if err != nil {
			return nil, err
		}
		kept = append(kept, left...)
	}
	change := DayChange{First: d.Date, Last: d.Date, Kind: changeKinds[hours.Closed]}
	if len(day) > 0 {
		change.Kind, change.Hours = changeKinds[hours.Instead], day.String()
	}
	return append(kept, change), nil
}

// withoutIfOn is the change without a date, whether it holds it or not.
func (c DayChange) withoutIfOn(date civil.Date) ([]DayChange, error) {
	d, err := c.read()
	if err != nil {
		return nil, err
	}
	if !d.Applies(date) {
		return []DayChange{c}, nil
	}
	return c.without(date.String())
}

func (a *App) drawWeekdays(ctx context.Context, p Person, day hours.Day, weekdays []int) (HoursView, error) {
	week := p.week
	for _, n := range weekdays {
		if n < 0 || n > 6 {
			return HoursView{}, refusal.Faulty("weekdays", told.Say("weekdays-0-sunday", "Weekdays are 0 (Sunday) to 6."))
		}
		week[n] = day
	}
	input := WeekInput{Plan: p.planID}
	for i, text := range week.Texts() {
		input.Week[i].Text = text
	}
	return a.SaveHours(ctx, p, input)
}

// changeDays changes what differs from the week, and remembers what was there before.
func (a *App) changeDays(ctx context.Context, p Person, label told.Words, change func([]DayChange) ([]DayChange, error)) (HoursView, error) {
	err := a.writeFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		before, err := hoursOf(ctx, q, p.ID)
		if err != nil {
			return err
		}
		after, err := change(slices.Clone(before.Differs))
		if err != nil {
			return err
		}
		if len(after) > mostDayChanges {
			return refusal.New(refusal.Invalid, told.Say("days-ranges-differ", "There can be {} days or ranges that differ. Remove some that have gone by.", mostDayChanges))
		}
		if err := setDayChanges(ctx, q, p.ID, after); err != nil {
			return err
		}
		return a.remember(ctx, q, p, subjectHours, p.ID, label, before)
	})
	if err != nil {
		return HoursView{}, err
	}
	return a.hoursAgain(ctx, p)
}

const mostDayChanges = 1000

// setDayChanges writes all that differs from the person's week, in its order.
func setDayChanges(ctx context.Context, q *sqlc.Queries, person int64, changes []DayChange) error {
	if err := q.RemoveDayChanges(ctx, person); err != nil {
		return err
	}
	for _, c := range changes {
		yearly := int64(0)
		if c.Yearly {
			yearly = 1
		}
		err := q.AddDayChange(ctx, sqlc.AddDayChangeParams{PersonID: person, First: c.First, Last: c.Last, Kind: c.Kind, Hours: c.Hours, Yearly: yearly, Label: c.Label})
		if err != nil {
			return err
		}
	}
	return nil
}

// hoursAgain is the hours after a change, still for whoever looks after them.
func (a *App) hoursAgain(ctx context.Context, p Person) (HoursView, error) {
	changed, err := a.Person(ctx, p.ID)
	if err != nil {
		return HoursView{}, err
	}
	changed.Person = changed.By(p.Person)
	return a.Hours(changed), nil
}

// origin is where a day's hours come from, and the changes that apply to it.
func (p Person) origin(plan hours.Plan, date civil.Date) (origin told.Words, changes []int64) {
	switch {
	case plan.Elsewhere:
		origin = told.Say("origin-calendar", "your calendar")
	case len(plan.Week[date.Weekday()]) > 0:
		origin = told.Say("origin-plan", "plan")
	}
	var off told.Words
	for _, c := range p.differs {
		d, err := c.read()
		if err != nil || !d.Applies(date) {
			continue
		}
		changes = append(changes, c.ID)
		switch {
		case d.Off:
			off = c.offOrigin()
		default:
			origin = originOf[d.Kind]
		}
	}
	if off.Any() {
		return off, changes
	}
	return origin, changes
}

var originOf = map[hours.ChangeKind]told.Words{
	hours.Closed: told.Say("origin-closed", "closed this day"), hours.Instead: told.Say("origin-other", "other hours"), hours.Extra: told.Say("origin-extra", "extra hours"),
}

func (c DayChange) offOrigin() told.Words {
	switch {
	case c.Label != "":
		return told.Plain(c.Label)
	case c.Hours != "":
		return told.Say("origin-hours-off", "hours off")
	}
	return told.Say("origin-time-off", "time off")
}
