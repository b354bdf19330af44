package settings

import (
	"context"
	"slices"
	"strings"

	"corrim/core/civil"
	"corrim/core/hours"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/store/sqlc"
)

// The years around now for which yearly time off is laid out; no booking window reaches further.
const ()

func dayChange(d hours.Differing) schedule.DayChange {
	out := schedule.DayChange{First: d.First.String(), Last: d.Last.String(), Kind: schedule.ChangeKinds[d.Kind], Yearly: d.Yearly}
	if d.Off {
		out.Kind = schedule.KindOff
	}
	if len(d.Day) > 0 {
		out.Hours = d.Day.String()
	}
	return out
}

// DayTrial is what changed days would do.
type DayTrial struct {
	Effects []schedule.Effect `json:"effects" doc:"By meeting type, those left alone left out."`
	Outside []schedule.Unmade `json:"outside" doc:"Coming bookings that would lie outside the hours. They stay."`
}

// DayChangeReading is a sentence about days that differ, as it is understood.
type DayChangeReading struct {
	Changes []schedule.DayChange `json:"changes"`
	Problem told.Words           `json:"problem,omitzero"`
	DayTrial
}

// ReadDayChanges reads a sentence without keeping it.
func (s *Settings) ReadDayChanges(p schedule.Person, text string) DayChangeReading {
	found, err := hours.ParseDiffering(text, s.TodayOf(p))
	if err != nil {
		return DayChangeReading{Changes: []schedule.DayChange{}, Problem: told.OfError(err)}
	}
	out := make([]schedule.DayChange, len(found))
	for i, d := range found {
		out[i] = dayChange(d)
	}
	return DayChangeReading{Changes: out}
}

// AddDayChanges keeps what a sentence says. The field of a refusal is "text".
func (s *Settings) AddDayChanges(ctx context.Context, p schedule.Person, text string) (HoursView, error) {
	text = strings.TrimSpace(text)
	reading := s.ReadDayChanges(p, text)
	if reading.Problem.Any() {
		return HoursView{}, refusal.Faulty("text", reading.Problem)
	}
	return s.changeDays(ctx, p, told.Say("undo-exceptions-added", "Exceptions: added {}", text), func(now []schedule.DayChange) ([]schedule.DayChange, error) {
		return append(now, reading.Changes...), nil
	})
}

// RemoveDayChange takes a change back: on one of its dates, or with an empty date on all of them.
func (s *Settings) RemoveDayChange(ctx context.Context, p schedule.Person, id int64, date string) (HoursView, error) {
	label := told.Say("undo-exception-removed", "Exceptions: one removed")
	if date != "" {
		label = told.Say("undo-exception-usual", "Exceptions: {} as usual", date)
	}
	return s.changeDays(ctx, p, label, func(now []schedule.DayChange) ([]schedule.DayChange, error) {
		i := slices.IndexFunc(now, func(c schedule.DayChange) bool { return c.ID == id })
		if i < 0 {
			return nil, schedule.ErrGone
		}
		var kept []schedule.DayChange
		if date != "" {
			var err error
			if kept, err = now[i].Without(date); err != nil {
				return nil, err
			}
		}
		return slices.Replace(now, i, i+1, kept...), nil
	})
}

// DrawnDay is the hours of one day, drawn on the year's strip.
type DrawnDay struct {
	Date      string           `json:"date" format:"date"`
	Intervals []hours.Interval `json:"intervals" maxItems:"24"`
	Weekdays  []int            `json:"weekdays" maxItems:"7" doc:"The weekdays that get these hours in the week (0 is Sunday); empty for the date alone."`
}

// DrawDay gives a date other hours, or the weekdays of the person's week. Whatever differed on the date until now gives
// way; the rest of its series stays.
func (s *Settings) DrawDay(ctx context.Context, p schedule.Person, drawn DrawnDay) (HoursView, error) {
	if len(drawn.Weekdays) > 0 {
		day, err := drawn.hours()
		if err != nil {
			return HoursView{}, err
		}
		return s.drawWeekdays(ctx, p, day, drawn.Weekdays)
	}
	if _, err := drawn.Over(nil); err != nil {
		return HoursView{}, err
	}
	day, _ := drawn.hours() // over has read it
	return s.changeDays(ctx, p, told.Say("undo-exception-day", "Exceptions: {} {}", drawn.Date, day.String()), drawn.Over)
}

func (d DrawnDay) hours() (hours.Day, error) {
	day, err := DayInput{Drawn: true, Intervals: d.Intervals}.read()
	if err != nil {
		err = refusal.Faulty("intervals", told.OfError(err))
	}
	return day, err
}

// Over is day changes with the drawn hours of the date in place of whatever differed on it.
func (d DrawnDay) Over(now []schedule.DayChange) ([]schedule.DayChange, error) {
	day, err := d.hours()
	if err != nil {
		return nil, err
	}
	date, err := civil.ParseDate(d.Date)
	if err != nil {
		return nil, refusal.Faulty("date", told.OfError(err))
	}
	var kept []schedule.DayChange
	for _, c := range now {
		left, err := c.WithoutIfOn(date)
		if err != nil {
			return nil, err
		}
		kept = append(kept, left...)
	}
	change := schedule.DayChange{First: d.Date, Last: d.Date, Kind: schedule.ChangeKinds[hours.Closed]}
	if len(day) > 0 {
		change.Kind, change.Hours = schedule.ChangeKinds[hours.Instead], day.String()
	}
	return append(kept, change), nil
}

func (s *Settings) drawWeekdays(ctx context.Context, p schedule.Person, day hours.Day, weekdays []int) (HoursView, error) {
	week := p.Week
	for _, n := range weekdays {
		if n < 0 || n > 6 {
			return HoursView{}, refusal.Faulty("weekdays", told.Say("weekdays-0-sunday", "Weekdays are 0 (Sunday) to 6."))
		}
		week[n] = day
	}
	input := WeekInput{Plan: p.PlanID}
	for i, text := range week.Texts() {
		input.Week[i].Text = text
	}
	return s.SaveHours(ctx, p, input)
}

// changeDays changes what differs from the week, and remembers what was there before.
func (s *Settings) changeDays(ctx context.Context, p schedule.Person, label told.Words, change func([]schedule.DayChange) ([]schedule.DayChange, error)) (HoursView, error) {
	err := s.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		before, err := HoursOf(ctx, q, p.ID)
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
		if err := SetDayChanges(ctx, q, p.ID, after); err != nil {
			return err
		}
		return s.Remember(ctx, q, p, SubjectHours, p.ID, label, before)
	})
	if err != nil {
		return HoursView{}, err
	}
	return s.hoursAgain(ctx, p)
}

const mostDayChanges = 1000

// SetDayChanges writes all that differs from the person's week, in its order.
func SetDayChanges(ctx context.Context, q *sqlc.Queries, person int64, changes []schedule.DayChange) error {
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
func (s *Settings) hoursAgain(ctx context.Context, p schedule.Person) (HoursView, error) {
	changed, err := s.Person(ctx, p.ID)
	if err != nil {
		return HoursView{}, err
	}
	changed.Person = changed.By(p.Person)
	return s.Hours(changed), nil
}
