package settings

import (
	"context"
	"encoding/json"
	"slices"

	"corrim/core/busy"
	"corrim/core/intake"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/store/sqlc"
)

// HolidayFile is a calendar of public holidays to be read.
type HolidayFile struct {
	Name string `json:"name" maxLength:"400"`
	Text string `json:"text" maxLength:"1000000" doc:"An iCalendar text (RFC 5545); its events of whole days are the holidays."`
}

const (
	mostHolidayCalendars = 12
	mostHolidays         = 400
	holidaysBack         = 1  // years that are kept of a file
	holidaysAhead        = 10 // years that a yearly holiday is worked out for

)

// AddHolidays adds a calendar. The fields of a refusal are "name" and "file".
func (s *Settings) AddHolidays(ctx context.Context, p schedule.Person, file HolidayFile) (WorkspaceView, error) {
	days, err := s.readHolidays(p, file.Text)
	if err != nil {
		return WorkspaceView{}, err
	}
	return s.changeHolidays(ctx, p, func(_ *sqlc.Queries, h *schedule.Holidays) (told.Words, error) {
		name, err := h.NameFor(0, file.Name)
		if err != nil {
			return told.Words{}, err
		}
		if len(h.Calendars) >= mostHolidayCalendars {
			return told.Words{}, refusal.Faulty("file", told.Say("workspace-most-calendars", "A workspace has at most {} calendars of public holidays. Remove one first.", mostHolidayCalendars))
		}
		h.Last++
		h.Calendars = append(h.Calendars, schedule.StoredHoliday{ID: h.Last, Name: name, Days: days})
		return told.Say("undo-holidays-added", "Public holidays “{}” added", name), nil
	})
}

// RenewHolidays gives a calendar a name and the days of a file; without a text it keeps its days.
func (s *Settings) RenewHolidays(ctx context.Context, p schedule.Person, id int64, file HolidayFile) (WorkspaceView, error) {
	var days []schedule.StoredDay
	if file.Text != "" {
		var err error
		if days, err = s.readHolidays(p, file.Text); err != nil {
			return WorkspaceView{}, err
		}
	}
	return s.changeHolidays(ctx, p, func(_ *sqlc.Queries, h *schedule.Holidays) (told.Words, error) {
		name, err := h.NameFor(id, file.Name)
		if err != nil {
			return told.Words{}, err
		}
		for i, c := range h.Calendars {
			if c.ID != id {
				continue
			}
			h.Calendars[i].Name = name
			if days == nil {
				return told.Say("undo-holidays-renamed", "Public holidays “{}” are now called “{}”", c.Name, name), nil
			}
			h.Calendars[i].Days = days
			return told.Say("undo-holidays-days", "Public holidays “{}”: {}", name, told.Count(len(days), "day")), nil
		}
		return told.Words{}, errNoHolidays
	})
}

var errNoHolidays = refusal.New(refusal.NotFound, told.Say("calendar-public-holidays", "This calendar of public holidays is not there any more. Load the page again."))

// RemoveHolidays removes a calendar that no rule names.
func (s *Settings) RemoveHolidays(ctx context.Context, p schedule.Person, id int64) (WorkspaceView, error) {
	return s.changeHolidays(ctx, p, func(q *sqlc.Queries, h *schedule.Holidays) (told.Words, error) {
		gone, found := h.Of(id)
		if !found {
			return told.Words{}, errNoHolidays
		}
		if users, err := holidayUsers(ctx, q, p.Home.ID, id); err != nil || len(users) > 0 {
			if err == nil {
				err = refusal.New(refusal.Invalid, told.Say("kept-free-take", "“{}” is kept free by {}. Take it out of their rules first.", gone.Name, told.List(users)))
			}
			return told.Words{}, err
		}
		h.Calendars = slices.DeleteFunc(slices.Clone(h.Calendars), func(c schedule.StoredHoliday) bool { return c.ID == id })
		return told.Say("undo-holidays-removed", "Public holidays “{}” removed", gone.Name), nil
	})
}

// changeHolidays changes the calendars and remembers how they were; change says what it did.
func (s *Settings) changeHolidays(ctx context.Context, p schedule.Person, change func(*sqlc.Queries, *schedule.Holidays) (told.Words, error)) (WorkspaceView, error) {
	err := s.WriteFor(ctx, p, identity.EditWorkspace, func(q *sqlc.Queries) error {
		row, err := q.WorkspaceByID(ctx, p.Home.ID)
		if err != nil {
			return err
		}
		home, err := schedule.WorkspaceOf(row)
		if err != nil {
			return err
		}
		before := home.Holidays
		after := schedule.Holidays{Last: before.Last, Calendars: slices.Clone(before.Calendars)}
		label, err := change(q, &after)
		if err != nil {
			return err
		}
		if err := writeHolidays(ctx, q, p.Home.ID, after); err != nil {
			return err
		}
		return s.Remember(ctx, q, p, subjectHolidays, p.Home.ID, label, before)
	})
	if err != nil {
		return WorkspaceView{}, err
	}
	if p, err = s.PersonByID(ctx, s.store.Queries, p.ID); err != nil {
		return WorkspaceView{}, err
	}
	return s.Workspace(ctx, p)
}

// mostUsersNamed bounds how many users of a calendar are named.
const mostUsersNamed = 5

// holidayUsers names the rules that keep a calendar's days free.
func holidayUsers(ctx context.Context, q *sqlc.Queries, workspace, id int64) (users []string, err error) {
	row, err := q.WorkspaceByID(ctx, workspace)
	if err != nil {
		return nil, err
	}
	home, err := schedule.WorkspaceOf(row)
	if err != nil {
		return nil, err
	}
	if slices.Contains(home.Rules.Holidays, id) {
		users = append(users, "the workspace’s rules")
	}
	types, err := q.TypesOfWorkspace(ctx, workspace)
	if err != nil {
		return nil, err
	}
	for _, t := range types {
		rules := schedule.TypeRules{}
		if err := json.Unmarshal([]byte(t.Rules), &rules); err != nil {
			return nil, err
		}
		own := !slices.Contains(rules.Follows, "holidays")
		if own && slices.Contains(rules.Holidays, id) && len(users) < mostUsersNamed {
			users = append(users, "“"+t.Name+"”")
		}
	}
	return users, nil
}

func writeHolidays(ctx context.Context, q *sqlc.Queries, workspace int64, h schedule.Holidays) error {
	text, err := json.Marshal(h)
	if err != nil {
		return err
	}
	return q.SetHolidays(ctx, sqlc.SetHolidaysParams{ID: workspace, Holidays: string(text)})
}

// restoreHolidays puts the calendars back; the numbers given since stay given.
func restoreHolidays(ctx context.Context, q *sqlc.Queries, _ schedule.Person, workspace int64, before schedule.Holidays) error {
	row, err := q.WorkspaceByID(ctx, workspace)
	if err != nil {
		return err
	}
	home, err := schedule.WorkspaceOf(row)
	if err != nil {
		return err
	}
	before.Last = max(before.Last, home.Holidays.Last)
	return writeHolidays(ctx, q, workspace, before)
}

// readHolidays reads the days of a file, from a year ago on.
func (s *Settings) readHolidays(p schedule.Person, text string) ([]schedule.StoredDay, error) {
	today := s.TodayOf(p)
	first, last := today, today
	first.Year, last.Year = today.Year-holidaysBack, today.Year+holidaysAhead
	first.Day, last.Day = min(first.Day, 28), min(last.Day, 28) // 29 February is not in every year
	days, troubles, err := busy.WholeDays([]byte(text), first, last, p.Local)
	switch {
	case err != nil:
		return nil, refusal.Faulty("file", told.Say("icalendar-file-choose", "This is not an iCalendar file. Choose one that ends in .ics."))
	case len(troubles) > 0:
		return nil, refusal.Faulty("file", told.Say("all-file-read", "Not all of this file can be read, so days would be missing: {}", sentences(troubles)[0]))
	case len(days) == 0:
		return nil, refusal.Faulty("file", told.Say("file-no-whole", "This file has no whole days in the coming years. Choose another one."))
	case len(days) > mostHolidays:
		return nil, refusal.Faulty("file", told.Say("file-more-than", "This file has more than {} whole days, so it can't be public holidays. Choose another one.", mostHolidays))
	}
	out := make([]schedule.StoredDay, len(days))
	for i, d := range days {
		out[i] = schedule.StoredDay{First: d.First.String(), Last: d.Last.String(), Name: intake.FirstLetters(intake.OneLine(d.Title), 100)}
	}
	return out, nil
}
