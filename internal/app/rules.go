package app

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"

	"corrim/core/hours"
	"corrim/core/opentimes"
	"corrim/core/told"
	"corrim/internal/refusal"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// TypeRules is the timing of a meeting type, as it is stored and edited.
type TypeRules struct {
	Duration int   `json:"duration" doc:"The length in minutes, or the one that a client is offered first."`
	Others   []int `json:"others,omitempty" maxItems:"11" doc:"Further lengths to choose from."`
	UpTo     int   `json:"upTo,omitempty" doc:"With upBy: the client takes as long as needed, from duration up to this."`
	UpBy     int   `json:"upBy,omitempty"`
	Seats    int   `json:"seats,omitempty" doc:"How many clients share a time; one if left out."`
	Sessions bool  `json:"sessions,omitempty" doc:"They do on dates that the hosts set, and at no other time."`
	Whole    bool  `json:"whole,omitempty" doc:"Of these, a series is taken whole, in one booking."`
	opentimes.BookingRules
	Follows []string  `json:"follows,omitempty" maxItems:"20" doc:"Groups of rules that are the workspace's; what is sent for them doesn't count."`
	Hours   *OwnHours `json:"hours,omitempty" doc:"Hours of its own, which narrow the host's."`

	own  *hours.Plan         // Hours as core understands them
	days []opentimes.Holiday // of the calendars in Holidays
	gone bool                // one of these calendars is not there any more

	series map[string]opentimes.Series // that there are, where they are taken whole
}

// OwnHours are hours of a meeting type: a named week plan, or a week of its own. They are read on the host's clock.
type OwnHours struct {
	Plan int64    `json:"plan,omitempty" doc:"The ID of a week plan; the week doesn't count then."`
	Week []string `json:"week,omitempty" maxItems:"7" doc:"Seven hours texts, Monday first."`
}

// The bounds of what makes sense; the same are told to whoever enters something else.
const (
	longest     = 24 * 60
	mostLengths = 48
)

// resolved is the rules with what they follow and the plan they keep to put in. A plan that isn't the workspace's is
// refused.
func resolved(ctx context.Context, q *sqlc.Queries, w workspace, r TypeRules) (TypeRules, error) {
	r.Follows = slices.Compact(slices.Sorted(slices.Values(r.Follows)))
	r.Follow(r.Follows, w.Rules)
	r.days, r.gone = w.holidays.days(r.Holidays)
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
		return WeekPlan{}, refusal.New(refusal.NotFound, told.Say("no-such-week", "There is no such week plan any more. Choose one from the list."))
	}
	if err != nil {
		return WeekPlan{}, err
	}
	plan := WeekPlan{ID: row.ID, Name: row.Name}
	return plan, json.Unmarshal([]byte(row.Week), &plan.Week)
}

// ofRules complains of a field of the rules.
func ofRules(c refusal.Complaints) func(field string, words told.Words) {
	return func(field string, words told.Words) { c.Add("rules."+field, words) }
}

// bounds complains of values of the rules outside bounds, with a sentence.
func bounds(c refusal.Complaints) func(field string, value, low, high int, words told.Words) {
	return func(field string, value, low, high int, words told.Words) {
		if value < low || value > high {
			c.Add("rules."+field, words)
		}
	}
}

func (r TypeRules) check(wrong refusal.Complaints) {
	r.Check(ofRules(wrong))
	if r.gone {
		wrong.Add("rules.holidays", holidaysGone)
	}
	if unknown := r.NoGroups(r.Follows); len(unknown) > 0 {
		wrong.Add("rules.follows", told.Say("no-rules-called", "There are no rules called {} to follow.", told.List(unknown)))
	}
	between := bounds(wrong)
	between("duration", r.Duration, 1, longest, told.Say("meeting-lasts-1-1440", "A meeting lasts 1 to 1440 minutes."))
	between("seats", r.Seats, 0, opentimes.MostSeats, told.Say("seats-1-1000", "1 to 1000 clients share a time."))
	if r.Sessions && r.Seats <= 1 {
		wrong.Add("rules.seats", told.Say("sessions-need-seats", "Sessions are for several clients: say how many share one."))
	}
	if r.Whole && !r.Sessions {
		wrong.Add("rules.whole", told.Say("whole-needs-sessions", "A series is of sessions on dates that are set."))
	}
	for _, other := range r.Others {
		between("others", other, 1, longest, told.Say("each-length-1-1440", "Each length is 1 to 1440 minutes."))
	}
	if r.UpBy != 0 || r.UpTo != 0 {
		between("upBy", r.UpBy, 1, longest, told.Say("gets-longer-1-1440", "It gets longer by 1 to 1440 minutes at a time."))
		between("upTo", r.UpTo, r.Duration, longest, told.Say("longest-least-shortest-most", "The longest is at least the shortest, and at most 1440 minutes."))
		if r.UpBy > 0 {
			between("upBy", (r.UpTo-r.Duration)/r.UpBy, 0, mostLengths-1, told.Say("these-more-than-48", "These are more than 48 lengths. Let it get longer by more at a time."))
		}
	}
	if r.Hours == nil || r.Hours.Plan != 0 {
		return
	}
	if len(r.Hours.Week) != 7 {
		wrong.Add("rules.hours", told.Say("give-hours-all", "Give the hours of all seven days, or none."))
	}
	for i, text := range r.Hours.Week {
		if _, err := hours.ParseDay(text); err != nil {
			wrong.Add(fmt.Sprintf("rules.hours.%d", i), told.OfError(err))
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
	return 0, refusal.Faulty("minutes", told.NoLength.Words())
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

// timing is the rules as core understands them. Faulty ones must have been refused by check.
func (r TypeRules) timing() opentimes.Type {
	t := r.Timing()
	t.Durations, t.Hours, t.Holidays.Days, t.Seats, t.Sessions, t.Whole = r.lengths(), r.own, r.days, r.Seats, r.Sessions, r.Whole
	return t
}
