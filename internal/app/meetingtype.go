package app

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"regexp"
	"strings"

	"corrim/core/civil"
	"corrim/core/opentimes"
	"corrim/core/span"
	"corrim/core/wording"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// TypeRules is the timing of a meeting type, as it is stored and edited. Lengths are in minutes.
type TypeRules struct {
	Duration      int         `json:"duration"`
	Before        int         `json:"before" doc:"Kept free before the meeting."`
	After         int         `json:"after" doc:"Kept free after the meeting."`
	BuffersInside bool        `json:"buffersInside,omitempty" doc:"Buffers must lie within the hours too."`
	Step          int         `json:"step" doc:"A start every so many minutes."`
	Offset        int         `json:"offset,omitempty" doc:"Of the clock grid from midnight."`
	Grid          string      `json:"grid,omitempty" enum:"clock,opening,packed" doc:"On the clock if left out."`
	Notice        int         `json:"notice" doc:"Minutes, or whole local days if noticeInDays is set."`
	NoticeInDays  bool        `json:"noticeInDays"`
	WindowDays    int         `json:"windowDays" doc:"Days ahead that can be booked; 0 is without end."`
	WindowFirst   string      `json:"windowFirst,omitempty" maxLength:"10" doc:"With windowLast: only between these dates, both included."`
	WindowLast    string      `json:"windowLast,omitempty" maxLength:"10"`
	Limits        []TypeLimit `json:"limits,omitempty" maxItems:"8"`
}

// TypeLimit is how much may be booked with the host in a day or week: so many, or so many minutes.
type TypeLimit struct {
	Of      string `json:"of" enum:"type,host" doc:"Bookings of this type, or all of the host's."`
	Per     string `json:"per" enum:"day,week"`
	Count   int    `json:"count,omitempty"`
	Minutes int    `json:"minutes,omitempty" doc:"Counts instead of count if it is not 0."`
}

// TypeDraft is a meeting type as the editor sends it.
type TypeDraft struct {
	Name        string    `json:"name" maxLength:"400"`
	Slug        string    `json:"slug" maxLength:"400" doc:"Its short address."`
	Description string    `json:"description" maxLength:"20000"`
	Rules       TypeRules `json:"rules"`
}

// MeetingType is a saved meeting type.
type MeetingType struct {
	ID int64 `json:"id"`
	TypeDraft
	Path string `json:"path" doc:"Of the client's page."`

	hostID int64
}

// The bounds of what makes sense; the same are told to whoever enters something else.
const (
	longest    = 24 * 60
	longestGap = 24 * 60
	farthest   = 730 // days
)

var slugPattern = regexp.MustCompile(`^[a-z0-9]+(-[a-z0-9]+)*$`)

// normal is the draft as it would be saved.
func (d TypeDraft) normal() TypeDraft {
	d.Name, d.Description = strings.TrimSpace(d.Name), strings.TrimSpace(d.Description)
	d.Slug = strings.ToLower(strings.TrimSpace(d.Slug))
	return d
}

// check says what is wrong with the rules.
func (r TypeRules) check(wrong complaints) {
	between := func(field string, value, low, high int, sentence string) {
		if value < low || value > high {
			wrong.add("rules."+field, sentence)
		}
	}
	between("duration", r.Duration, 1, longest, "A meeting lasts 1 to 1440 minutes.")
	between("before", r.Before, 0, longestGap, "A buffer is 0 to 1440 minutes.")
	between("after", r.After, 0, longestGap, "A buffer is 0 to 1440 minutes.")
	between("step", r.Step, 1, 1440, "Starts come every 1 to 1440 minutes.")
	between("offset", r.Offset, 0, 1439, "The first start of a day lies 0 to 1439 minutes after midnight.")
	between("windowDays", r.WindowDays, 0, farthest, "The booking window is 1 to 730 days, or 0 for no end.")
	if r.NoticeInDays {
		between("notice", r.Notice, 0, farthest, "The notice is 0 to 730 days.")
	} else {
		between("notice", r.Notice, 0, farthest*24*60, "The notice is 0 to 730 days.")
	}
	if _, err := r.window(); err != nil {
		wrong.add("rules.windowFirst", err.Error())
	}
	for i, l := range r.Limits {
		if l.Count < 0 || l.Minutes < 0 || l.Count == 0 && l.Minutes == 0 {
			wrong.add(fmt.Sprintf("rules.limits.%d", i), "A limit of 0 would close every day. Enter 1 or more, or remove the limit.")
		}
	}
}

// window is the booking window as core understands it.
func (r TypeRules) window() (opentimes.Window, error) {
	switch {
	case r.WindowFirst != "" || r.WindowLast != "":
		first, err1 := civil.ParseDate(r.WindowFirst)
		last, err2 := civil.ParseDate(r.WindowLast)
		if err1 != nil || err2 != nil || last.Before(first) {
			return opentimes.Window{}, refuse(Invalid, "Give the first and the last day that can be booked, the last not before the first.")
		}
		return opentimes.Window{Kind: opentimes.Dates, First: first, Last: last}, nil
	case r.WindowDays > 0:
		return opentimes.Window{Kind: opentimes.NextDays, Days: r.WindowDays}, nil
	}
	return opentimes.Window{}, nil
}

func (d TypeDraft) check() complaints {
	wrong := complaints{}
	switch {
	case d.Name == "":
		wrong.add("name", "Give the meeting type a name that clients will read.")
	case len([]rune(d.Name)) > 120:
		wrong.add("name", "A name has at most 120 letters.")
	}
	if len(d.Slug) > 60 || !slugPattern.MatchString(d.Slug) {
		wrong.add("slug", "A short address has letters a-z, figures and single hyphens, at most 60, like light-survey.")
	}
	if len([]rune(d.Description)) > 4000 {
		wrong.add("description", "A description has at most 4000 letters.")
	}
	d.Rules.check(wrong)
	return wrong
}

// timing is the rules as core understands them. Faulty ones must have been refused by check.
func (r TypeRules) timing() opentimes.Type {
	t := opentimes.Type{
		Durations: []int{r.Duration}, Before: r.Before, After: r.After, BuffersInsideOpen: r.BuffersInside, Step: r.Step, Offset: r.Offset,
		Grid: map[string]opentimes.Grid{"opening": opentimes.FromOpening, "packed": opentimes.Packed}[r.Grid],
	}
	if r.NoticeInDays {
		t.Notice.Days = r.Notice
	} else {
		t.Notice.Minutes = r.Notice
	}
	t.Window, _ = r.window()
	for _, l := range r.Limits {
		t.Limits = append(t.Limits, opentimes.Limit{
			Of: map[string]opentimes.LimitOf{"host": opentimes.OfHost}[l.Of], Per: map[string]opentimes.LimitPer{"week": opentimes.PerWeek}[l.Per],
			Count: l.Count, Minutes: l.Minutes, ByTime: l.Minutes > 0,
		})
	}
	return t
}

// MeetingTypes lists the types that the person hosts.
func (a *App) MeetingTypes(ctx context.Context, p Person) ([]MeetingType, error) {
	rows, err := a.Store.MeetingTypes(ctx, p.ID)
	if err != nil {
		return nil, err
	}
	types := make([]MeetingType, len(rows))
	for i, row := range rows {
		if types[i], err = meetingType(row, p.Workspace); err != nil {
			return nil, err
		}
	}
	return types, nil
}

func meetingType(row sqlc.MeetingType, workspace string) (MeetingType, error) {
	t := MeetingType{ID: row.ID, hostID: row.HostID, Path: "/p/" + workspace + "/" + row.Slug}
	t.Name, t.Slug, t.Description = row.Name, row.Slug, row.Description
	return t, json.Unmarshal([]byte(row.Rules), &t.Rules)
}

// MeetingType returns one of the person's types.
func (a *App) MeetingType(ctx context.Context, p Person, id int64) (MeetingType, error) {
	row, err := a.Store.MeetingType(ctx, id)
	if errors.Is(err, store.ErrNotFound) || err == nil && row.HostID != p.ID {
		return MeetingType{}, refuse(NotFound, "There is no such meeting type among yours. Choose one from the list.")
	}
	if err != nil {
		return MeetingType{}, err
	}
	return meetingType(row, p.Workspace)
}

// SaveMeetingType saves a draft over the type with the ID, or as a new one if it is 0.
func (a *App) SaveMeetingType(ctx context.Context, p Person, id int64, draft TypeDraft) (MeetingType, error) {
	var before *TypeDraft
	if id != 0 {
		saved, err := a.MeetingType(ctx, p, id)
		if err != nil {
			return MeetingType{}, err
		}
		before = &saved.TypeDraft
	}
	draft = draft.normal()
	wrong := draft.check()
	err := a.Store.Write(ctx, func(q *sqlc.Queries) error {
		workspace, err := q.Workspace(ctx, p.Workspace)
		if err != nil {
			return err
		}
		taken, err := q.SlugTaken(ctx, sqlc.SlugTakenParams{WorkspaceID: workspace.ID, Slug: draft.Slug, ID: id})
		if err != nil {
			return err
		}
		if taken > 0 {
			wrong.add("slug", "Another meeting type of this workspace has this short address. Choose a different one.")
		}
		if err := wrong.err(); err != nil {
			return err
		}
		if id, err = writeType(ctx, q, workspace.ID, p.ID, id, draft); err != nil || before == nil {
			return err
		}
		return a.remember(ctx, q, p, settingChange{subjectType, id, typeLabelOf(*before, draft), before})
	})
	if err != nil {
		return MeetingType{}, err
	}
	return a.MeetingType(ctx, p, id)
}

func writeType(ctx context.Context, q *sqlc.Queries, workspace, host, id int64, d TypeDraft) (int64, error) {
	rules, err := json.Marshal(d.Rules)
	if err != nil {
		return 0, err
	}
	if id == 0 {
		return q.AddMeetingType(ctx, sqlc.AddMeetingTypeParams{
			WorkspaceID: workspace, HostID: host, Slug: d.Slug, Name: d.Name, Description: d.Description, Rules: string(rules),
		})
	}
	return id, q.SetMeetingType(ctx, sqlc.SetMeetingTypeParams{ID: id, Slug: d.Slug, Name: d.Name, Description: d.Description, Rules: string(rules)})
}

// TypePreview is what a draft does to the coming days, before it is saved.
type TypePreview struct {
	Days   []Ribbon          `json:"days" doc:"The coming days with open hours."`
	Weeks  int               `json:"weeks" doc:"How many weeks the totals are for."`
	Open   int               `json:"open" doc:"Open starts in those weeks."`
	Gained int               `json:"gained"`
	Lost   int               `json:"lost"`
	Why    string            `json:"why,omitempty" doc:"If nothing would be open: the rule that takes most."`
	Past   int               `json:"past" doc:"Bookings of this type in the last 90 days."`
	Unmade []Unmade          `json:"unmade" doc:"Those of them that could not have been made."`
	Wrong  map[string]string `json:"wrong" doc:"What is wrong with the draft, by field."`
}

const (
	previewWeeks = 4
	previewDays  = 8
)

// PreviewMeetingType computes the open starts of a draft and holds them against those of the saved type, if there is
// one. Faults of the draft are told in the answer; days are empty if its rules cannot be used.
func (a *App) PreviewMeetingType(ctx context.Context, p Person, id int64, draft TypeDraft) (TypePreview, error) {
	draft = draft.normal()
	view := TypePreview{Days: []Ribbon{}, Weeks: previewWeeks, Unmade: []Unmade{}, Wrong: draft.check()}
	unusable := complaints{}
	draft.Rules.check(unusable)
	if len(unusable) > 0 {
		return view, nil
	}
	within := a.previewRange(p)
	agenda, err := a.agenda(ctx, a.Store.Queries, p, within, 0)
	if err != nil {
		return view, err
	}
	after := agenda.input(id, draft.Rules)
	open := opentimes.Search(after, within)
	difference := opentimes.Difference{Kept: open}
	if id != 0 {
		saved, err := a.MeetingType(ctx, p, id)
		if err != nil {
			return view, err
		}
		difference = opentimes.Compare(opentimes.Search(agenda.input(id, saved.Rules), within), open)
		if view.Past, view.Unmade, err = a.hindsight(ctx, p, saved, draft.Rules); err != nil {
			return view, err
		}
	}
	if len(open) == 0 {
		view.Why = wording.RuleName(opentimes.TakesMost(after, within, draft.Rules.Duration))
	}
	view.Open, view.Gained, view.Lost = len(open), len(difference.Gained), len(difference.Lost)
	for i := 0; i < 7*previewWeeks && len(view.Days) < previewDays; i++ {
		if r := agenda.drawPreview(a.todayOf(p).AddDays(i), after, draft.Rules.Duration, difference); len(r.Open) > 0 {
			view.Days = append(view.Days, r)
		}
	}
	return view, nil
}

// previewRange is the weeks that consequences are shown for, from today.
func (a *App) previewRange(p Person) span.Span {
	today := a.todayOf(p)
	return span.Span{Start: today.Start(p.zone), End: today.AddDays(7 * previewWeeks).Start(p.zone)}
}

// drawPreview draws one day with what the rules take and what the change does.
func (g agenda) drawPreview(date civil.Date, in opentimes.Input, minutes int, d opentimes.Difference) Ribbon {
	drawer := newDayDrawer(date, g.person.zone)
	r := drawer.ribbon()
	drawer.background(&r, in.Host, g.busy, g.bookings)
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
