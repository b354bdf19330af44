package app

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"corrim/core/hours"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// History of settings: whoever changes one remembers, in the same transaction, how it was before. Undoing puts that back.
// A new kind of setting needs a subject, a state that can be written as JSON, and a line in restore.

const (
	subjectHours     = "hours"
	subjectType      = "meeting-type"
	subjectPlan      = "week-plan"
	subjectWorkspace = "workspace"
	subjectBlock     = "block"
	subjectBooking   = "booking"
	subjectHandover  = "handover"
	subjectRouting   = "routing"
	subjectOffer     = "offer"
	subjectRemoved   = "removed-type"
)

// settingChange is a change to be remembered; before is the state of its subject until then.
type settingChange struct {
	subject string
	id      int64
	label   string
	before  any
}

// SettingChange is a change of settings for people.
type SettingChange struct {
	ID     int64     `json:"id"`
	At     time.Time `json:"at"`
	Label  string    `json:"label"`
	Undone bool      `json:"undone"`
	Tells  bool      `json:"tells" doc:"Clients and colleagues were told of it by mail, and are told again if it is undone."`
}

func settingChangeOf(id, at int64, label, subject string, undone int64) SettingChange {
	return SettingChange{id, time.Unix(at, 0).UTC(), label, undone > 0, subject == subjectBooking || subject == subjectHandover}
}

func (a *App) remember(ctx context.Context, q *sqlc.Queries, p Person, c settingChange) error {
	before, err := json.Marshal(c.before)
	if err != nil {
		return err
	}
	return q.AddSettingChange(ctx, sqlc.AddSettingChangeParams{
		PersonID: cmp.Or(p.actor, p.ID), At: a.Now().Unix(), Subject: c.subject, SubjectID: c.id, Label: c.label, Before: string(before),
	})
}

// History lists the person's last changes of settings, newest first.
func (a *App) History(ctx context.Context, p Person) ([]SettingChange, error) {
	rows, err := a.Store.SettingChanges(ctx, p.ID)
	out := make([]SettingChange, len(rows))
	for i, row := range rows {
		out[i] = settingChangeOf(row.ID, row.At, row.Label, row.Subject, row.UndoneAt)
	}
	return out, err
}

// Undo puts back what the person's last change of settings changed, and returns the history.
func (a *App) Undo(ctx context.Context, p Person) ([]SettingChange, error) {
	err := a.writeFor(ctx, p, EditOwn, func(q *sqlc.Queries) error {
		last, err := q.LastSettingChange(ctx, p.ID)
		if errors.Is(err, store.ErrNotFound) {
			return refuse(NotFound, "There is nothing to undo.")
		}
		if err != nil {
			return err
		}
		since, err := q.ChangedSince(ctx, sqlc.ChangedSinceParams{Subject: last.Subject, SubjectID: last.SubjectID, ID: last.ID})
		if err != nil {
			return err
		}
		if since > 0 {
			return refuse(Invalid, "Somebody else has changed the same settings since, so this can't be undone. Change by hand what should be different.")
		}
		if err := a.mayPutBack(ctx, q, p, last); err != nil {
			return err
		}
		if err := a.restore(ctx, q, p, last); err != nil {
			return err
		}
		return q.MarkUndone(ctx, sqlc.MarkUndoneParams{ID: last.ID, UndoneAt: a.Now().Unix()})
	})
	if errors.Is(err, store.ErrOverlap) {
		err = refuse(Taken, "Another booking lies there now, so this can't be undone. Move one of them by hand.")
	}
	if err != nil {
		return nil, err
	}
	a.Wake()
	return a.History(ctx, p)
}

// mayPutBack tells whether the person may still change what they changed then: roles change, and undoing is a change like
// any other.
func (a *App) mayPutBack(ctx context.Context, q *sqlc.Queries, p Person, c sqlc.SettingChange) error {
	switch c.Subject {
	case subjectHours, subjectHandover:
		if c.SubjectID == p.ID {
			return p.must(EditOwn)
		}
		return p.must(map[string]Action{subjectHours: LookAfterHours, subjectHandover: HandleBookings}[c.Subject])
	case subjectPlan:
		return mayChangePlan(ctx, q, p, c.SubjectID)
	case subjectWorkspace:
		return p.must(EditWorkspace)
	case subjectBooking:
		before := bookingState{}
		if err := json.Unmarshal([]byte(c.Before), &before); err != nil {
			return err
		}
		if before.Host == p.ID { // it was theirs, whoever has it now
			return p.must(EditOwn)
		}
		return p.must(HandleBookings)
	case subjectBlock:
		return p.must(EditOwn)
	case subjectRouting:
		if err := p.must(EditEverybodys); err == nil {
			return nil
		}
		return mayChangeType(ctx, q, p, c.SubjectID)
	default:
		return mayChangeType(ctx, q, p, c.SubjectID)
	}
}

func (a *App) restore(ctx context.Context, q *sqlc.Queries, p Person, c sqlc.SettingChange) error {
	switch c.Subject {
	case subjectHours:
		return restoreHours(ctx, q, p, c)
	case subjectPlan:
		return restorePlan(ctx, q, p, c)
	case subjectBooking:
		return a.restoreBooking(ctx, q, p, c)
	case subjectHandover:
		return a.restoreHandover(ctx, q, p, c)
	case subjectRouting:
		return restoreRouting(ctx, q, c)
	case subjectOffer:
		return restoreOffer(ctx, q, c)
	case subjectRemoved:
		return restoreRemoved(ctx, q, c)
	case subjectBlock:
		return restoreBlock(ctx, q, c)
	case subjectWorkspace:
		return restoreWorkspace(ctx, q, c)
	default:
		return restoreType(ctx, q, c)
	}
}

func restoreWorkspace(ctx context.Context, q *sqlc.Queries, c sqlc.SettingChange) error {
	before := Workspace{}
	if err := json.Unmarshal([]byte(c.Before), &before); err != nil {
		return err
	}
	return writeWorkspace(ctx, q, c.SubjectID, before)
}

func restorePlan(ctx context.Context, q *sqlc.Queries, p Person, c sqlc.SettingChange) error {
	before := WeekPlan{}
	if err := json.Unmarshal([]byte(c.Before), &before); err != nil {
		return err
	}
	taken, err := q.PlanNameTaken(ctx, sqlc.PlanNameTakenParams{WorkspaceID: p.home.id, Name: before.Name, ID: before.ID})
	if err != nil {
		return err
	}
	if taken > 0 {
		return refuse(Invalid, "It can't be undone: another week plan is now called “"+before.Name+"”. Rename that one first.")
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

func restoreHours(ctx context.Context, q *sqlc.Queries, p Person, c sqlc.SettingChange) error {
	state := hoursState{}
	if err := json.Unmarshal([]byte(c.Before), &state); err != nil {
		return err
	}
	if state.Plan != 0 {
		if _, err := weekPlan(ctx, q, p.home, state.Plan); err != nil {
			return err
		}
	}
	if err := q.SetWeek(ctx, sqlc.SetWeekParams{ID: c.SubjectID, Week: state.weekJSON(), PlanID: nullID(state.Plan)}); err != nil {
		return err
	}
	return setDayChanges(ctx, q, c.SubjectID, state.Differs)
}

func restoreType(ctx context.Context, q *sqlc.Queries, c sqlc.SettingChange) error {
	draft := TypeDraft{}
	if err := json.Unmarshal([]byte(c.Before), &draft); err != nil {
		return err
	}
	row, err := q.MeetingType(ctx, c.SubjectID)
	if err != nil {
		return err
	}
	taken, err := q.SlugTaken(ctx, sqlc.SlugTakenParams{WorkspaceID: row.WorkspaceID, Slug: draft.Slug, ID: row.ID})
	if err != nil {
		return err
	}
	if taken > 0 {
		return refuse(Invalid, "It can't be undone: another meeting type now has the short address "+draft.Slug+". Change that one first.")
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
