package app

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"

	"corrim/core/hours"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
	"corrim/internal/undo"
)

// The kinds of settings that can be undone.
const (
	subjectHours     = "hours"
	subjectType      = "meeting-type"
	subjectPlan      = "week-plan"
	subjectWorkspace = "workspace"
	subjectBlock     = "block"
	subjectBooking   = "booking"
	subjectOneOff    = "one-off" // of jobs
	subjectHandover  = "handover"
	subjectRouting   = "routing"
	subjectOffer     = "offer"
	subjectRemoved   = "removed-type"
	subjectHolidays  = "holidays"
	subjectClash     = "clash"
)

// undoable is how each of them is put back.
func (a *App) undoable() undo.Subjects[Person] {
	return undo.Subjects[Person]{
		subjectHours:     {May: mayPutBackOf(identity.LookAfterHours), Restore: undo.To(restoreHours)},
		subjectType:      {May: mayPutBackType, Restore: undo.To(restoreType)},
		subjectPlan:      {May: mayPutBackPlan, Restore: undo.To(restorePlan)},
		subjectWorkspace: {May: mayPutBack(identity.EditWorkspace), Restore: undo.To(restoreWorkspace)},
		subjectBlock:     {May: mayPutBack(identity.EditOwn), Restore: undo.To(restoreBlock)},
		subjectBooking:   {May: mayPutBackBooking, Restore: undo.To(a.restoreBooking), Tells: true},
		subjectHandover:  {May: mayPutBackOf(identity.HandleBookings), Restore: undo.To(a.restoreHandover), Tells: true},
		subjectRouting:   {May: mayPutBackRouting, Restore: undo.To(restoreRouting)},
		subjectOffer:     {May: mayPutBackType, Restore: undo.To(restoreOffer)},
		subjectRemoved:   {May: mayPutBackType, Restore: undo.To(restoreRemoved)},
		subjectClash:     {May: mayPutBackClash, Restore: undo.To(restoreClash)},
		subjectHolidays:  {May: mayPutBack(identity.EditWorkspace), Restore: undo.To(restoreHolidays)},
	}
}

// remember keeps how something was before the person changed it; label says what they changed.
func (a *App) remember(ctx context.Context, q *sqlc.Queries, p Person, subject string, id int64, label string, before any) error {
	if subject == subjectHours && p.LookedAfter() {
		label = p.Name + ": " + label
	}
	return a.history.Remember(ctx, q, p.Eyes(), a.Now(), undo.Change{Subject: subject, ID: id, Label: label, Before: before})
}

// History lists the person's last changes of settings, newest first.
func (a *App) History(ctx context.Context, p Person) ([]undo.SettingChange, error) {
	return a.history.Last(ctx, a.Store.Queries, p.ID)
}

// Undo puts back what the person's last change of settings changed, and returns the history.
func (a *App) Undo(ctx context.Context, p Person) ([]undo.SettingChange, error) {
	err := a.writeFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error { return a.history.Undo(ctx, q, p, p.ID, a.Now()) })
	switch {
	case errors.Is(err, undo.ErrNothing):
		err = refusal.New(refusal.NotFound, "There is nothing to undo.")
	case errors.Is(err, undo.ErrChangedSince):
		err = refusal.New(refusal.Invalid, "Somebody else has changed the same settings since, so this can't be undone. Change by hand what should be different.")
	case errors.Is(err, store.ErrOverlap):
		err = refusal.New(refusal.Taken, "Another booking lies there now, so this can't be undone. Move one of them by hand.")
	}
	if err != nil {
		return nil, err
	}
	a.Wake()
	return a.History(ctx, p)
}

// mayPutBack lets those put something back who may do something now.
func mayPutBack(action identity.Action) func(context.Context, *sqlc.Queries, Person, sqlc.SettingChange) error {
	return func(_ context.Context, _ *sqlc.Queries, p Person, _ sqlc.SettingChange) error { return p.Must(action) }
}

// mayPutBackOf is for what is somebody's: their own, or for those who may do something for others.
func mayPutBackOf(others identity.Action) func(context.Context, *sqlc.Queries, Person, sqlc.SettingChange) error {
	return func(_ context.Context, _ *sqlc.Queries, p Person, c sqlc.SettingChange) error {
		if c.SubjectID == p.ID {
			return p.Must(identity.EditOwn)
		}
		return p.Must(others)
	}
}

func mayPutBackPlan(ctx context.Context, q *sqlc.Queries, p Person, c sqlc.SettingChange) error {
	return mayChangePlan(ctx, q, p, c.SubjectID)
}

func mayPutBackType(ctx context.Context, q *sqlc.Queries, p Person, c sqlc.SettingChange) error {
	return mayChangeType(ctx, q, p, c.SubjectID)
}

func mayPutBackRouting(ctx context.Context, q *sqlc.Queries, p Person, c sqlc.SettingChange) error {
	if err := p.Must(identity.EditEverybodys); err == nil {
		return nil
	}
	return mayChangeType(ctx, q, p, c.SubjectID)
}

func mayPutBackBooking(_ context.Context, _ *sqlc.Queries, p Person, c sqlc.SettingChange) error {
	before := bookingState{}
	if err := json.Unmarshal([]byte(c.Before), &before); err != nil {
		return err
	}
	if before.Host == p.ID { // it was theirs, whoever has it now
		return p.Must(identity.EditOwn)
	}
	return p.Must(identity.HandleBookings)
}

func restoreWorkspace(ctx context.Context, q *sqlc.Queries, _ Person, id int64, before Workspace) error {
	return writeWorkspace(ctx, q, id, before)
}

func restorePlan(ctx context.Context, q *sqlc.Queries, p Person, _ int64, before WeekPlan) error {
	taken, err := q.PlanNameTaken(ctx, sqlc.PlanNameTakenParams{WorkspaceID: p.home.id, Name: before.Name, ID: before.ID})
	if err != nil {
		return err
	}
	if taken > 0 {
		return refusal.New(refusal.Invalid, "It can't be undone: another week plan is now called “"+before.Name+"”. Rename that one first.")
	}
	return q.PutBackWeekPlan(ctx, sqlc.PutBackWeekPlanParams{ID: before.ID, WorkspaceID: p.home.id, Name: before.Name, Week: before.weekJSON()})
}

// hoursState is a person's week, the plan they work by instead (0 for none), and what differs from it.
type hoursState struct {
	Week    [7]string
	Plan    int64
	Differs []DayChange
}

func (s hoursState) weekJSON() string { return weekTextsJSON(s.Week) }

func hoursOf(ctx context.Context, q *sqlc.Queries, person int64) (hoursState, error) {
	state := hoursState{}
	row, err := q.Person(ctx, person)
	if err != nil {
		return state, err
	}
	if err := json.Unmarshal([]byte(row.Week), &state.Week); err != nil {
		return state, err
	}
	state.Plan = row.PlanID.Int64
	state.Differs, err = dayChanges(ctx, q, person)
	return state, err
}

func restoreHours(ctx context.Context, q *sqlc.Queries, p Person, id int64, state hoursState) error {
	if state.Plan != 0 {
		if _, err := weekPlan(ctx, q, p.home, state.Plan); err != nil {
			return err
		}
	}
	if err := q.SetWeek(ctx, sqlc.SetWeekParams{ID: id, Week: state.weekJSON(), PlanID: nullID(state.Plan)}); err != nil {
		return err
	}
	return setDayChanges(ctx, q, id, state.Differs)
}

func restoreType(ctx context.Context, q *sqlc.Queries, _ Person, id int64, draft TypeDraft) error {
	row, err := q.MeetingType(ctx, id)
	if err != nil {
		return err
	}
	taken, err := q.SlugTaken(ctx, sqlc.SlugTakenParams{WorkspaceID: row.WorkspaceID, Slug: draft.Slug, ID: row.ID})
	if err != nil {
		return err
	}
	if taken > 0 {
		return refusal.New(refusal.Invalid, "It can't be undone: another meeting type now has the short address "+draft.Slug+". Change that one first.")
	}
	_, err = writeType(ctx, q, row.WorkspaceID, row.HostID, row.ID, draft)
	return err
}

func weekLabel(before, after [7]string) string {
	var days []string
	for i, weekday := range hours.Weekdays {
		if before[i] != after[i] {
			days = append(days, fmt.Sprintf("%s %s", weekday, after[i]))
		}
	}
	return strings.Join(days, "; ")
}

// typeLabelOf says what a change of a meeting type changed.
func typeLabelOf(before, after TypeDraft) string {
	return before.Name + ": " + changedFields(fieldsOf(before), fieldsOf(after))
}

// changedFields says which fields changed, from what to what.
func changedFields(old, next map[string]string) string {
	var changed []string
	for field, value := range next {
		if was := old[field]; was != value {
			changed = append(changed, field)
		}
	}
	for field := range old {
		if _, still := next[field]; !still {
			changed = append(changed, field)
		}
	}
	slices.Sort(changed)
	parts := make([]string, len(changed))
	for i, field := range changed {
		parts[i] = field
		if field != "description" {
			parts[i] = fmt.Sprintf("%s %s → %s", field, orNone(old[field]), orNone(next[field]))
		}
	}
	return strings.Join(parts, ", ")
}

func orNone(s string) string {
	if s == "" {
		return "none"
	}
	return s
}

// fieldsOf is a draft's fields, by the words people know them by.
func fieldsOf(d TypeDraft) map[string]string {
	out := map[string]string{"name": d.Name, "short address": d.Slug, "description": d.Description, "lengths": lengthsNote(d.Rules), "own hours": d.Rules.Hours.note()}
	out["following the workspace"] = strings.Join(slices.Sorted(slices.Values(d.Rules.Follows)), " ")
	for group, note := range d.Rules.Notes() {
		out[group] = note
	}
	return out
}

func lengthsNote(r TypeRules) string {
	if r.UpBy > 0 {
		return fmt.Sprintf("%d to %d min by %d", r.Duration, r.UpTo, r.UpBy)
	}
	lengths := r.lengths()
	texts := make([]string, len(lengths))
	for i, n := range lengths {
		texts[i] = fmt.Sprint(n)
	}
	return strings.Join(texts, ", ") + " min"
}

// note is the hours in a few words; empty if there are none.
func (o *OwnHours) note() string {
	switch {
	case o == nil:
		return ""
	case o.Plan != 0:
		return "a week plan"
	}
	return strings.Join(o.Week, " | ")
}
