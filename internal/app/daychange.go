package app

import (
	"context"
	"strings"

	"corrim/core/civil"
	"corrim/core/hours"
	"corrim/core/span"
	"corrim/internal/store/sqlc"
)

// DayChange is days on which a person's hours differ from the week.
type DayChange struct {
	ID    int64  `json:"id,omitempty"`
	First string `json:"first" format:"date"`
	Last  string `json:"last" format:"date"`
	Kind  string `json:"kind" enum:"closed,instead,extra,off"`
	Hours string `json:"hours" doc:"For instead and extra."`
}

var changeKinds = map[hours.ChangeKind]string{hours.Closed: "closed", hours.Instead: "instead", hours.Extra: "extra"}

const kindOff = "off"

// dayChanges loads what differs from the person's week, as rows and as part of a plan.
func dayChanges(ctx context.Context, q *sqlc.Queries, person int64) ([]DayChange, []hours.Change, []hours.TimeOff, error) {
	rows, err := q.DayChanges(ctx, person)
	if err != nil {
		return nil, nil, nil, err
	}
	views := []DayChange{}
	var changes []hours.Change
	var off []hours.TimeOff
	for _, row := range rows {
		d, err := differing(row)
		if err != nil {
			return nil, nil, nil, err
		}
		views = append(views, DayChange{row.ID, row.First, row.Last, row.Kind, row.Hours})
		if d.Off {
			off = append(off, hours.TimeOff{First: d.First, Last: d.Last})
		} else {
			changes = append(changes, d.Change)
		}
	}
	return views, changes, off, nil
}

func differing(row sqlc.DayChange) (hours.Differing, error) {
	d := hours.Differing{Off: row.Kind == kindOff}
	for kind, name := range changeKinds {
		if name == row.Kind {
			d.Kind = kind
		}
	}
	var err error
	if d.First, err = civil.ParseDate(row.First); err != nil {
		return d, err
	}
	if d.Last, err = civil.ParseDate(row.Last); err != nil {
		return d, err
	}
	d.Day, err = hours.ParseDay(row.Hours)
	return d, err
}

func dayChange(d hours.Differing) DayChange {
	out := DayChange{First: d.First.String(), Last: d.Last.String(), Kind: changeKinds[d.Kind]}
	if d.Off {
		out.Kind = kindOff
	} else if d.Kind != hours.Closed {
		out.Hours = d.Day.String()
	}
	return out
}

// DayChangeReading is a sentence about days that differ, as it is understood.
type DayChangeReading struct {
	Changes []DayChange `json:"changes"`
	Problem string      `json:"problem,omitempty"`
}

// ReadDayChanges reads a sentence without keeping it.
func (a *App) ReadDayChanges(p Person, text string) DayChangeReading {
	found, err := hours.ParseDiffering(text, a.todayOf(p))
	if err != nil {
		return DayChangeReading{Changes: []DayChange{}, Problem: err.Error()}
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
	reading := a.ReadDayChanges(p, strings.TrimSpace(text))
	if reading.Problem != "" {
		return HoursView{}, complaints{"text": reading.Problem}.err()
	}
	err := a.changeDays(ctx, p, "Days that differ: added "+strings.TrimSpace(text), func(q *sqlc.Queries) error {
		return addDayChanges(ctx, q, p.ID, reading.Changes)
	})
	if err != nil {
		return HoursView{}, err
	}
	return a.hoursAgain(ctx, p)
}

// RemoveDayChange takes a change back.
func (a *App) RemoveDayChange(ctx context.Context, p Person, id int64) (HoursView, error) {
	err := a.changeDays(ctx, p, "Days that differ: one removed", func(q *sqlc.Queries) error {
		removed, err := q.RemoveDayChange(ctx, sqlc.RemoveDayChangeParams{ID: id, PersonID: p.ID})
		if err == nil && removed == 0 {
			err = refuse(NotFound, "This change is not there any more. Load the page again to see those there are.")
		}
		return err
	})
	if err != nil {
		return HoursView{}, err
	}
	return a.hoursAgain(ctx, p)
}

// changeDays changes what differs from the week, and remembers what was there before.
func (a *App) changeDays(ctx context.Context, p Person, label string, change func(*sqlc.Queries) error) error {
	return a.Store.Write(ctx, func(q *sqlc.Queries) error {
		before, err := hoursOf(ctx, q, p.ID)
		if err != nil {
			return err
		}
		if err := change(q); err != nil {
			return err
		}
		return a.remember(ctx, q, p, settingChange{subjectHours, p.ID, label, before})
	})
}

func addDayChanges(ctx context.Context, q *sqlc.Queries, person int64, changes []DayChange) error {
	for _, c := range changes {
		if err := q.AddDayChange(ctx, sqlc.AddDayChangeParams{PersonID: person, First: c.First, Last: c.Last, Kind: c.Kind, Hours: c.Hours}); err != nil {
			return err
		}
	}
	return nil
}

func (a *App) hoursAgain(ctx context.Context, p Person) (HoursView, error) {
	p, err := a.Person(ctx, p.ID)
	if err != nil {
		return HoursView{}, err
	}
	return a.Hours(p), nil
}

// originOf is where a day's hours come from.
func originOf(plan hours.Plan, date civil.Date) string {
	origin := "plan"
	for _, c := range plan.Changes {
		if date.Before(c.First) || c.Last.Before(date) {
			continue
		}
		origin = map[hours.ChangeKind]string{hours.Closed: "closed this day", hours.Instead: "other hours", hours.Extra: "extra hours"}[c.Kind]
	}
	for _, t := range plan.TimeOff {
		if !date.Before(t.First) && !t.Last.Before(date) {
			origin = "time off"
		}
	}
	if origin == "plan" && len(plan.Week[date.Weekday()]) == 0 {
		return ""
	}
	return origin
}
