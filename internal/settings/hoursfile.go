package settings

import (
	"context"
	"errors"
	"slices"
	"time"

	"corrim/core/availability"
	"corrim/core/busy"
	"corrim/core/civil"
	"corrim/core/hours"
	"corrim/core/intake"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/store/sqlc"
)

// FileReading is what an iCalendar file says about hours: availability (RFC 7953) becomes a week and days that differ;
// all-day events, as in a list of public holidays, become time off.
type FileReading struct {
	Kind     string               `json:"kind" enum:"hours,days-off"`
	Week     []string             `json:"week" doc:"With kind hours: seven hours texts, Monday first."`
	Changes  []schedule.DayChange `json:"changes" doc:"Days that differ, from today on; those that are there already are left out."`
	Troubles []told.Words         `json:"troubles" doc:"What could not be read."`
}

// holidayYears is how far ahead days off are taken from a file.
const holidayYears = 3

// ReadHoursFile reads a file without keeping anything of it.
func (s *Settings) ReadHoursFile(p schedule.Person, text []byte) (FileReading, error) {
	plan, troubles, err := availability.Read(text, p.Local, s.TodayOf(p))
	switch {
	case errors.Is(err, availability.ErrNone):
		return s.readDaysOff(p, text)
	case err != nil:
		return FileReading{}, refusal.Faulty("file", told.Say("icalendar-file-choose", "This is not an iCalendar file. Choose one that ends in .ics."))
	}
	week := plan.Week.Texts()
	reading := FileReading{Kind: "hours", Week: week[:], Changes: []schedule.DayChange{}, Troubles: sentences(troubles)}
	for _, c := range plan.Changes {
		reading.Changes = append(reading.Changes, dayChange(hours.Differing{Change: c}))
	}
	return reading, nil
}

func (s *Settings) readDaysOff(p schedule.Person, text []byte) (FileReading, error) {
	today := s.TodayOf(p)
	days, troubles, err := busy.WholeDays(text, today, civil.Date{Year: today.Year + holidayYears, Month: today.Month, Day: 1}, p.Local)
	if err != nil {
		return FileReading{}, err
	}
	reading := FileReading{Kind: "days-off", Week: []string{}, Changes: []schedule.DayChange{}, Troubles: sentences(troubles)}
	known := map[string]bool{} // of what comes every year, its first days say all
	for _, d := range days {
		if d.Yearly && known[d.UID] {
			continue
		}
		known[d.UID] = true
		day := schedule.DayChange{First: d.First.String(), Last: d.Last.String(), Kind: schedule.KindOff, Yearly: d.Yearly, Label: intake.FirstLetters(intake.OneLine(d.Title), 100)}
		if !slices.ContainsFunc(p.Differs, day.SameDaysOff) && !slices.ContainsFunc(reading.Changes, day.SameDaysOff) {
			reading.Changes = append(reading.Changes, day)
		}
	}
	if len(days) == 0 && len(troubles) == 0 {
		return reading, refusal.Faulty("file", told.Say("file-neither-hours", "This file has neither hours (VAVAILABILITY) nor days in the next years. Choose another one."))
	}
	return reading, nil
}

func sentences(troubles []busy.Trouble) []told.Words {
	out := []told.Words{}
	for _, t := range troubles {
		if t.Title == "" {
			out = append(out, told.Say("file-trouble", "{}.", t.Problem))
			continue
		}
		out = append(out, told.Say("file-trouble-titled", "“{}”: {}.", t.Title, t.Problem))
	}
	return out
}

// TakeHoursFile keeps what a file says. Hours become the person's own week, and their days that differ take the place of
// those from today on; time off stays. Days off are added to what there is.
func (s *Settings) TakeHoursFile(ctx context.Context, p schedule.Person, text []byte) (HoursView, error) {
	reading, err := s.ReadHoursFile(p, text)
	if err != nil {
		return HoursView{}, err
	}
	if reading.Kind == "days-off" {
		return s.changeDays(ctx, p, told.Say("undo-days-from-file", "Exceptions: {} off from a file", told.Count(len(reading.Changes), "day")), func(now []schedule.DayChange) ([]schedule.DayChange, error) {
			return append(now, reading.Changes...), nil
		})
	}
	today := s.TodayOf(p).String()
	err = s.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		before, err := HoursOf(ctx, q, p.ID)
		if err != nil {
			return err
		}
		after := HoursState{Week: [7]string(reading.Week)}
		for _, c := range before.Differs {
			if c.Kind == schedule.KindOff || c.Last < today {
				after.Differs = append(after.Differs, c)
			}
		}
		after.Differs = append(after.Differs, reading.Changes...)
		if err := q.SetWeek(ctx, sqlc.SetWeekParams{ID: p.ID, Week: schedule.WeekTextsJSON(after.Week)}); err != nil {
			return err
		}
		if err := SetDayChanges(ctx, q, p.ID, after.Differs); err != nil {
			return err
		}
		return s.Remember(ctx, q, p, SubjectHours, p.ID, told.Say("undo-hours-from-file", "Hours: from a file"), before)
	})
	if err != nil {
		return HoursView{}, err
	}
	return s.hoursAgain(ctx, p)
}

// HoursFile is the person's hours of the coming year as VAVAILABILITY (RFC 7953).
func (s *Settings) HoursFile(p schedule.Person) ([]byte, error) {
	now := s.now()
	return availability.Write(p.Plan(), s.TodayOf(p), int(now.AddDate(1, 0, 0).Sub(now)/(24*time.Hour)), span.At(now))
}
