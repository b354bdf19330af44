package app

import (
	"context"
	"encoding/json"
	"slices"

	"corrim/core/busy"
	"corrim/core/civil"
	"corrim/core/intake"
	"corrim/core/opentimes"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/store/sqlc"
)

// holidays is a workspace's calendars of public holidays, as they are stored. Last is the highest number that one ever had: types
// name them by it, so it isn't given to another.
type holidays struct {
	Last      int64           `json:"last,omitempty"`
	Calendars []storedHoliday `json:"calendars,omitempty"`
}

type storedHoliday struct {
	ID   int64       `json:"id"`
	Name string      `json:"name"`
	Days []storedDay `json:"days"`
}

type storedDay struct {
	First string `json:"first"`
	Last  string `json:"last"`
	Name  string `json:"name"`
}

// HolidayFile is a calendar of public holidays to be read.
type HolidayFile struct {
	Name string `json:"name" maxLength:"400"`
	Text string `json:"text" maxLength:"1000000" doc:"An iCalendar text (RFC 5545); its events of whole days are the holidays."`
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

const (
	mostHolidayCalendars = 12
	mostHolidays         = 400
	holidaysBack         = 1  // years that are kept of a file
	holidaysAhead        = 10 // years that a yearly holiday is worked out for
	nextHolidays         = 5
)

// toldFrom is the calendars for screens, from a day on.
func (h holidays) toldFrom(today string) []HolidayCalendar {
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

func (h holidays) of(id int64) (storedHoliday, bool) {
	i := slices.IndexFunc(h.Calendars, func(c storedHoliday) bool { return c.ID == id })
	if i < 0 {
		return storedHoliday{}, false
	}
	return h.Calendars[i], true
}

// days are the holidays of some of the calendars, and whether one of these is gone.
func (h holidays) days(ids []int64) (out []opentimes.Holiday, gone bool) {
	for _, id := range ids {
		known, there := h.of(id)
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

// AddHolidays adds a calendar. The fields of a refusal are "name" and "file".
func (a *App) AddHolidays(ctx context.Context, p Person, file HolidayFile) (WorkspaceView, error) {
	days, err := a.readHolidays(p, file.Text)
	if err != nil {
		return WorkspaceView{}, err
	}
	return a.changeHolidays(ctx, p, func(_ *sqlc.Queries, h *holidays) (told.Words, error) {
		name, err := h.nameFor(0, file.Name)
		if err != nil {
			return told.Words{}, err
		}
		if len(h.Calendars) >= mostHolidayCalendars {
			return told.Words{}, refusal.Faulty("file", told.Say("workspace-most-calendars", "A workspace has at most {} calendars of public holidays. Remove one first.", mostHolidayCalendars))
		}
		h.Last++
		h.Calendars = append(h.Calendars, storedHoliday{h.Last, name, days})
		return told.Say("undo-holidays-added", "Public holidays “{}” added", name), nil
	})
}

// RenewHolidays gives a calendar a name and the days of a file; without a text it keeps its days.
func (a *App) RenewHolidays(ctx context.Context, p Person, id int64, file HolidayFile) (WorkspaceView, error) {
	var days []storedDay
	if file.Text != "" {
		var err error
		if days, err = a.readHolidays(p, file.Text); err != nil {
			return WorkspaceView{}, err
		}
	}
	return a.changeHolidays(ctx, p, func(_ *sqlc.Queries, h *holidays) (told.Words, error) {
		name, err := h.nameFor(id, file.Name)
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
func (a *App) RemoveHolidays(ctx context.Context, p Person, id int64) (WorkspaceView, error) {
	return a.changeHolidays(ctx, p, func(q *sqlc.Queries, h *holidays) (told.Words, error) {
		gone, found := h.of(id)
		if !found {
			return told.Words{}, errNoHolidays
		}
		if users, err := holidayUsers(ctx, q, p.home.id, id); err != nil || len(users) > 0 {
			if err == nil {
				err = refusal.New(refusal.Invalid, told.Say("kept-free-take", "“{}” is kept free by {}. Take it out of their rules first.", gone.Name, told.List(users)))
			}
			return told.Words{}, err
		}
		h.Calendars = slices.DeleteFunc(slices.Clone(h.Calendars), func(c storedHoliday) bool { return c.ID == id })
		return told.Say("undo-holidays-removed", "Public holidays “{}” removed", gone.Name), nil
	})
}

// changeHolidays changes the calendars and remembers how they were; change says what it did.
func (a *App) changeHolidays(ctx context.Context, p Person, change func(*sqlc.Queries, *holidays) (told.Words, error)) (WorkspaceView, error) {
	err := a.writeFor(ctx, p, identity.EditWorkspace, func(q *sqlc.Queries) error {
		row, err := q.WorkspaceByID(ctx, p.home.id)
		if err != nil {
			return err
		}
		home, err := workspaceOf(row)
		if err != nil {
			return err
		}
		before := home.holidays
		after := holidays{before.Last, slices.Clone(before.Calendars)}
		label, err := change(q, &after)
		if err != nil {
			return err
		}
		if err := writeHolidays(ctx, q, p.home.id, after); err != nil {
			return err
		}
		return a.remember(ctx, q, p, subjectHolidays, p.home.id, label, before)
	})
	if err != nil {
		return WorkspaceView{}, err
	}
	if p, err = a.personByID(ctx, a.Store.Queries, p.ID); err != nil {
		return WorkspaceView{}, err
	}
	return a.Workspace(ctx, p)
}

// mostUsersNamed bounds how many users of a calendar are named.
const mostUsersNamed = 5

// holidayUsers names the rules that keep a calendar's days free.
func holidayUsers(ctx context.Context, q *sqlc.Queries, workspace, id int64) (users []string, err error) {
	row, err := q.WorkspaceByID(ctx, workspace)
	if err != nil {
		return nil, err
	}
	home, err := workspaceOf(row)
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
		rules := TypeRules{}
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

func writeHolidays(ctx context.Context, q *sqlc.Queries, workspace int64, h holidays) error {
	text, err := json.Marshal(h)
	if err != nil {
		return err
	}
	return q.SetHolidays(ctx, sqlc.SetHolidaysParams{ID: workspace, Holidays: string(text)})
}

// restoreHolidays puts the calendars back; the numbers given since stay given.
func restoreHolidays(ctx context.Context, q *sqlc.Queries, _ Person, workspace int64, before holidays) error {
	row, err := q.WorkspaceByID(ctx, workspace)
	if err != nil {
		return err
	}
	home, err := workspaceOf(row)
	if err != nil {
		return err
	}
	before.Last = max(before.Last, home.holidays.Last)
	return writeHolidays(ctx, q, workspace, before)
}

// nameFor is a calendar's name as it is kept; it must be the only one of that name.
func (h holidays) nameFor(id int64, name string) (string, error) {
	name = intake.OneLine(name)
	if name == "" || len([]rune(name)) > 60 {
		return "", refusal.Faulty("name", told.Say("give-calendar-name", "Give the calendar a name of at most 60 letters, like the country or region whose holidays they are."))
	}
	if slices.ContainsFunc(h.Calendars, func(c storedHoliday) bool { return c.ID != id && c.Name == name }) {
		return "", refusal.Faulty("name", told.Say("another-calendar-public", "Another calendar of public holidays has this name. Choose a different one."))
	}
	return name, nil
}

// readHolidays reads the days of a file, from a year ago on.
func (a *App) readHolidays(p Person, text string) ([]storedDay, error) {
	today := a.todayOf(p)
	first, last := today, today
	first.Year, last.Year = today.Year-holidaysBack, today.Year+holidaysAhead
	first.Day, last.Day = min(first.Day, 28), min(last.Day, 28) // 29 February is not in every year
	days, troubles, err := busy.WholeDays([]byte(text), first, last, p.zone)
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
	out := make([]storedDay, len(days))
	for i, d := range days {
		out[i] = storedDay{d.First.String(), d.Last.String(), intake.FirstLetters(intake.OneLine(d.Title), 100)}
	}
	return out, nil
}
