package schedule

import (
	"context"
	"slices"
	"time"

	"corrim/core/civil"
	"corrim/core/hours"
	"corrim/core/intake"
	"corrim/core/opentimes"
	"corrim/core/span"
	"corrim/core/told"
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

var ChangeKinds = map[hours.ChangeKind]string{hours.Closed: "closed", hours.Instead: "instead", hours.Extra: "extra"}

const KindOff = "off"

// DayChanges loads what differs from the person's week.
func DayChanges(ctx context.Context, q *sqlc.Queries, person int64) ([]DayChange, error) {
	rows, err := q.DayChanges(ctx, person)
	out := make([]DayChange, len(rows))
	for i, row := range rows {
		out[i] = DayChange{row.ID, row.First, row.Last, row.Kind, row.Hours, row.Yearly != 0, row.Label}
	}
	return out, err
}

const yearsBack = 2

// Differing is day changes as parts of a plan.
func (s *Service) Differing(rows []DayChange, zone *time.Location) (changes []hours.Change, off []hours.TimeOff, err error) {
	year := civil.DateOf(span.At(s.now()), zone).Year
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
	d := hours.Differing{Off: c.Kind == KindOff, Yearly: c.Yearly}
	for kind, name := range ChangeKinds {
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
	d.Day, err = hours.ParseStoredDay(c.Hours)
	return d, err
}

// TodayOf is the date where the person is.
func (s *Service) TodayOf(p Person) civil.Date { return civil.DateOf(span.At(s.now()), p.Local) }

var ErrGone = refusal.New(refusal.NotFound, told.Say("change-any-more", "This change is not there any more. Load the page again to see those there are."))

// Without is the change on all of its dates but one: what is left before and after it.
func (c DayChange) Without(date string) ([]DayChange, error) {
	d, err := c.read()
	if err != nil {
		return nil, err
	}
	day, err := civil.ParseDate(date)
	if err != nil || !d.Applies(day) {
		return nil, ErrGone
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

// WithoutIfOn is the change without a date, whether it holds it or not.
func (c DayChange) WithoutIfOn(date civil.Date) ([]DayChange, error) {
	d, err := c.read()
	if err != nil {
		return nil, err
	}
	if !d.Applies(date) {
		return []DayChange{c}, nil
	}
	return c.Without(date.String())
}

// Origin is where a day's hours come from, and the changes that apply to it.
func (p Person) Origin(plan hours.Plan, date civil.Date) (origin told.Words, changes []int64) {
	switch {
	case plan.Elsewhere:
		origin = told.Say("origin-calendar", "your calendar")
	case len(plan.Week[date.Weekday()]) > 0:
		origin = told.Say("origin-plan", "plan")
	}
	var off told.Words
	for _, c := range p.Differs {
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

const yearsAhead = 5

// Holidays is a workspace's calendars of public holidays, as they are stored. Last is the highest number that one ever had: types
// name them by it, so it isn't given to another.
type Holidays struct {
	Last      int64           `json:"last,omitempty"`
	Calendars []StoredHoliday `json:"calendars,omitempty"`
}

// StoredHoliday is a calendar of public holidays, as it is stored.
type StoredHoliday struct {
	ID   int64       `json:"id"`
	Name string      `json:"name"`
	Days []StoredDay `json:"days"`
}

// StoredDay is a date, or days in a row, of a calendar of public holidays, as it is stored.
type StoredDay struct {
	First string `json:"first"`
	Last  string `json:"last"`
	Name  string `json:"name"`
}

// HolidayCalendar is a calendar of public holidays of the workspace.
type HolidayCalendar struct {
	ID    int64        `json:"id"`
	Name  string       `json:"name"`
	Next  []HolidayDay `json:"next" doc:"The coming ones, at most five."`
	Ahead int          `json:"ahead" doc:"How many are to come."`
	Until string       `json:"until" doc:"The last day that it knows; empty if none is to come."`
}

// HolidayDay is a public holiday.
type HolidayDay struct {
	First string `json:"first"`
	Last  string `json:"last"`
	Name  string `json:"name"`
}

const nextHolidays = 5

// ToldFrom is the calendars for screens, from a day on.
func (h Holidays) ToldFrom(today string) []HolidayCalendar {
	out := make([]HolidayCalendar, len(h.Calendars))
	for i, c := range h.Calendars {
		out[i] = HolidayCalendar{ID: c.ID, Name: c.Name, Next: []HolidayDay{}}
		for _, d := range c.Days {
			if d.Last < today {
				continue
			}
			if out[i].Ahead++; len(out[i].Next) < nextHolidays {
				out[i].Next = append(out[i].Next, HolidayDay(d))
			}
			out[i].Until = max(out[i].Until, d.Last)
		}
	}
	return out
}

// Of is the calendar with an ID.
func (h Holidays) Of(id int64) (StoredHoliday, bool) {
	i := slices.IndexFunc(h.Calendars, func(c StoredHoliday) bool { return c.ID == id })
	if i < 0 {
		return StoredHoliday{}, false
	}
	return h.Calendars[i], true
}

// days are the holidays of some of the calendars, and whether one of these is gone.
func (h Holidays) days(ids []int64) (out []opentimes.Holiday, gone bool) {
	for _, id := range ids {
		known, there := h.Of(id)
		gone = gone || !there
		for _, d := range known.Days {
			first, err1 := civil.ParseDate(d.First)
			last, err2 := civil.ParseDate(d.Last)
			if err1 == nil && err2 == nil { // as readHolidays has written them
				out = append(out, opentimes.Holiday{First: first, Last: last, Name: d.Name})
			}
		}
	}
	return out, gone
}

var holidaysGone = told.Say("holidays-gone", "One of these calendars of public holidays is not there any more. Choose again which are kept free.")

// NameFor is a calendar's name as it is kept; it must be the only one of that name.
func (h Holidays) NameFor(id int64, name string) (string, error) {
	name = intake.OneLine(name)
	if name == "" || len([]rune(name)) > 60 {
		return "", refusal.Faulty("name", told.Say("give-calendar-name", "Give the calendar a name of at most 60 letters, like the country or region whose holidays they are."))
	}
	if slices.ContainsFunc(h.Calendars, func(c StoredHoliday) bool { return c.ID != id && c.Name == name }) {
		return "", refusal.Faulty("name", told.Say("another-calendar-public", "Another calendar of public holidays has this name. Choose a different one."))
	}
	return name, nil
}

// SameDaysOff tells whether two changes are the same days off.
func (c DayChange) SameDaysOff(o DayChange) bool {
	return c.First == o.First && c.Last == o.Last && c.Yearly == o.Yearly && o.Kind == KindOff && o.Hours == ""
}

// WeekPlan is a week with a name, which several people can work by and several meeting types can keep to.
type WeekPlan struct {
	ID    int64     `json:"id"`
	Name  string    `json:"name"`
	Week  [7]string `json:"week" doc:"Hours texts, Monday first."`
	Users []string  `json:"users" doc:"Who works by it and which meeting types keep to it."`
}

// WeekJSON is the plan's week as it is stored.
func (p WeekPlan) WeekJSON() string { return WeekTextsJSON(p.Week) }
