package app

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"

	"corrim/core/civil"
	"corrim/core/hours"
	"corrim/core/opentimes"
	"corrim/core/told"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// BookingRules are the timing rules that a workspace sets for all its meeting types, and a type for itself if it doesn't
// follow. Lengths are in minutes.
type BookingRules struct {
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

// TypeRules is the timing of a meeting type, as it is stored and edited.
type TypeRules struct {
	Duration int   `json:"duration" doc:"The length in minutes, or the one that a client is offered first."`
	Others   []int `json:"others,omitempty" maxItems:"11" doc:"Further lengths to choose from."`
	UpTo     int   `json:"upTo,omitempty" doc:"With upBy: the client takes as long as needed, from duration up to this."`
	UpBy     int   `json:"upBy,omitempty"`
	BookingRules
	Follows []RuleGroup `json:"follows,omitempty" enum:"buffers,step,notice,window,limit" doc:"Groups of rules that are the workspace's; what is sent for them doesn't count."`
	Hours   *OwnHours   `json:"hours,omitempty" doc:"Hours of its own, which narrow the host's."`

	own *hours.Plan // Hours as core understands them
}

// RuleGroup is rules that are set together.
type RuleGroup string

// ruleGroups are the groups with what following the workspace means for each.
var ruleGroups = map[RuleGroup]func(own *BookingRules, w BookingRules){
	"buffers": func(own *BookingRules, w BookingRules) {
		own.Before, own.After, own.BuffersInside = w.Before, w.After, w.BuffersInside
	},
	"step": func(own *BookingRules, w BookingRules) { own.Step, own.Offset, own.Grid = w.Step, w.Offset, w.Grid },
	"notice": func(own *BookingRules, w BookingRules) {
		own.Notice, own.NoticeInDays = w.Notice, w.NoticeInDays
	},
	"window": func(own *BookingRules, w BookingRules) {
		own.WindowDays, own.WindowFirst, own.WindowLast = w.WindowDays, w.WindowFirst, w.WindowLast
	},
	"limit": func(own *BookingRules, w BookingRules) { own.Limits = w.Limits },
}

// OwnHours are hours of a meeting type: a named week plan, or a week of its own. They are read on the host's clock.
type OwnHours struct {
	Plan int64    `json:"plan,omitempty" doc:"The ID of a week plan; the week doesn't count then."`
	Week []string `json:"week,omitempty" maxItems:"7" doc:"Seven hours texts, Monday first."`
}

// TypeLimit is how much may be booked with the host in a day or week: so many, or so many minutes.
type TypeLimit struct {
	Of      string `json:"of" enum:"type,host" doc:"Bookings of this type, or all of the host's."`
	Per     string `json:"per" enum:"day,week"`
	Count   int    `json:"count,omitempty"`
	Minutes int    `json:"minutes,omitempty" doc:"Counts instead of count if it is not 0."`
}

// The bounds of what makes sense; the same are told to whoever enters something else.
const (
	longest     = 24 * 60
	longestGap  = 24 * 60
	farthest    = 730 // days
	mostLengths = 48
)

// resolved is the rules with what they follow and the plan they keep to put in. A plan that isn't the workspace's is
// refused.
func resolved(ctx context.Context, q *sqlc.Queries, w workspace, r TypeRules) (TypeRules, error) {
	r.Follows = slices.Compact(slices.Sorted(slices.Values(r.Follows)))
	for _, group := range r.Follows {
		if follow := ruleGroups[group]; follow != nil {
			follow(&r.BookingRules, w.Rules)
		}
	}
	r.own = nil
	if r.Hours == nil {
		return r, nil
	}
	texts := [7]string{}
	copy(texts[:], r.Hours.Week)
	if r.Hours.Plan != 0 {
		plan, err := weekPlan(ctx, q, w, r.Hours.Plan)
		if err != nil {
			return r, err
		}
		texts = plan.Week
	}
	week, err := hours.ParseWeek(texts)
	if err != nil {
		return r, nil // check says which day can't be read
	}
	r.own = &hours.Plan{Week: week}
	return r, nil
}

// weekPlan loads one of the workspace's week plans.
func weekPlan(ctx context.Context, q *sqlc.Queries, w workspace, id int64) (WeekPlan, error) {
	if w.tried != nil && w.tried.ID == id {
		return *w.tried, nil
	}
	row, err := q.WeekPlan(ctx, id)
	if errors.Is(err, store.ErrNotFound) || err == nil && row.WorkspaceID != w.id {
		return WeekPlan{}, refuse(NotFound, "There is no such week plan any more. Choose one from the list.")
	}
	if err != nil {
		return WeekPlan{}, err
	}
	plan := WeekPlan{ID: row.ID, Name: row.Name}
	return plan, json.Unmarshal([]byte(row.Week), &plan.Week)
}

// check says what is wrong with the rules.
func (r BookingRules) check(wrong complaints) {
	between := wrong.bounds()
	between("before", r.Before, 0, longestGap, "A buffer is 0 to 1440 minutes.")
	between("after", r.After, 0, longestGap, "A buffer is 0 to 1440 minutes.")
	between("step", r.Step, 1, 1440, "Starts come every 1 to 1440 minutes.")
	between("offset", r.Offset, 0, 1439, "The first start of a day lies 0 to 1439 minutes after midnight.")
	between("windowDays", r.WindowDays, 0, farthest, "The booking window is 1 to 730 days. To let clients book without end, choose “without end”.")
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

// bounds complains of values outside bounds, with a sentence.
func (c complaints) bounds() func(field string, value, low, high int, sentence string) {
	return func(field string, value, low, high int, sentence string) {
		if value < low || value > high {
			c.add("rules."+field, sentence)
		}
	}
}

func (r TypeRules) check(wrong complaints) {
	r.BookingRules.check(wrong)
	between := wrong.bounds()
	between("duration", r.Duration, 1, longest, "A meeting lasts 1 to 1440 minutes.")
	for _, other := range r.Others {
		between("others", other, 1, longest, "Each length is 1 to 1440 minutes.")
	}
	if r.UpBy != 0 || r.UpTo != 0 {
		between("upBy", r.UpBy, 1, longest, "It gets longer by 1 to 1440 minutes at a time.")
		between("upTo", r.UpTo, r.Duration, longest, "The longest is at least the shortest, and at most 1440 minutes.")
		if r.UpBy > 0 {
			between("upBy", (r.UpTo-r.Duration)/r.UpBy, 0, mostLengths-1, "These are more than 48 lengths. Let it get longer by more at a time.")
		}
	}
	if r.Hours == nil || r.Hours.Plan != 0 {
		return
	}
	if len(r.Hours.Week) != 7 {
		wrong.add("rules.hours", "Give the hours of all seven days, or none.")
	}
	for i, text := range r.Hours.Week {
		if _, err := hours.ParseDay(text); err != nil {
			wrong.add(fmt.Sprintf("rules.hours.%d", i), hoursProblem(err))
		}
	}
}

// lengths are the lengths that a client can choose from, in minutes, the shortest first.
func (r TypeRules) lengths() []int {
	out := append([]int{r.Duration}, r.Others...)
	if r.UpBy > 0 {
		for n := r.Duration + r.UpBy; n <= r.UpTo; n += r.UpBy {
			out = append(out, n)
		}
	}
	slices.Sort(out)
	return slices.Compact(out)
}

// length is the one of the lengths that a client asks for; 0 asks for the one offered first.
func (r TypeRules) length(asked int) (int, error) {
	switch {
	case asked == 0:
		return r.Duration, nil
	case slices.Contains(r.lengths(), asked):
		return asked, nil
	}
	return 0, faulty("minutes", told.NoLength.Words())
}

// only is the rules with a single length.
func (r TypeRules) only(minutes int) TypeRules {
	r.Duration, r.Others, r.UpTo, r.UpBy = minutes, nil, 0, 0
	return r
}

// nearestLength is the length closest to one that may not be offered any more.
func (r TypeRules) nearestLength(minutes int) int {
	return slices.MinFunc(r.lengths(), func(a, b int) int { return max(a-minutes, minutes-a) - max(b-minutes, minutes-b) })
}

// window is the booking window as core understands it.
func (r BookingRules) window() (opentimes.Window, error) {
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

// timing is the rules as core understands them. Faulty ones must have been refused by check.
func (r BookingRules) timing() opentimes.Type {
	t := opentimes.Type{
		Before: r.Before, After: r.After, BuffersInsideOpen: r.BuffersInside, Step: r.Step, Offset: r.Offset,
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

func (r TypeRules) timing() opentimes.Type {
	t := r.BookingRules.timing()
	t.Durations, t.Hours = r.lengths(), r.own
	return t
}
