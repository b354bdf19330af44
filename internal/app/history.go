package app

import (
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
	subjectHours = "hours"
	subjectType  = "meeting-type"
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
}

func (a *App) remember(ctx context.Context, q *sqlc.Queries, p Person, c settingChange) error {
	before, err := json.Marshal(c.before)
	if err != nil {
		return err
	}
	return q.AddSettingChange(ctx, sqlc.AddSettingChangeParams{
		PersonID: p.ID, At: a.Now().Unix(), Subject: c.subject, SubjectID: c.id, Label: c.label, Before: string(before),
	})
}

// History lists the person's last changes of settings, newest first.
func (a *App) History(ctx context.Context, p Person) ([]SettingChange, error) {
	rows, err := a.Store.SettingChanges(ctx, p.ID)
	out := make([]SettingChange, len(rows))
	for i, row := range rows {
		out[i] = SettingChange{row.ID, time.Unix(row.At, 0).UTC(), row.Label, row.UndoneAt > 0}
	}
	return out, err
}

// Undo puts back what the person's last change of settings changed, and returns the history.
func (a *App) Undo(ctx context.Context, p Person) ([]SettingChange, error) {
	err := a.Store.Write(ctx, func(q *sqlc.Queries) error {
		last, err := q.LastSettingChange(ctx, p.ID)
		if errors.Is(err, store.ErrNotFound) {
			return refuse(NotFound, "There is nothing to undo.")
		}
		if err != nil {
			return err
		}
		if err := restore(ctx, q, last); err != nil {
			return err
		}
		return q.MarkUndone(ctx, sqlc.MarkUndoneParams{ID: last.ID, UndoneAt: a.Now().Unix()})
	})
	if err != nil {
		return nil, err
	}
	return a.History(ctx, p)
}

func restore(ctx context.Context, q *sqlc.Queries, c sqlc.SettingChange) error {
	switch c.Subject {
	case subjectHours:
		return restoreHours(ctx, q, c)
	default:
		return restoreType(ctx, q, c)
	}
}

// hoursState is a person's week and what differs from it.
type hoursState struct {
	Week    [7]string
	Differs []DayChange
}

func hoursOf(ctx context.Context, q *sqlc.Queries, person int64) (hoursState, error) {
	state := hoursState{}
	row, err := q.Person(ctx, person)
	if err != nil {
		return state, err
	}
	if err := json.Unmarshal([]byte(row.Week), &state.Week); err != nil {
		return state, err
	}
	state.Differs, _, _, err = dayChanges(ctx, q, person)
	return state, err
}

func restoreHours(ctx context.Context, q *sqlc.Queries, c sqlc.SettingChange) error {
	state := hoursState{}
	if err := json.Unmarshal([]byte(c.Before), &state); err != nil {
		return err
	}
	week, err := hours.ParseWeek(state.Week)
	if err != nil {
		return err
	}
	if err := q.SetWeek(ctx, sqlc.SetWeekParams{ID: c.SubjectID, Week: weekJSON(week)}); err != nil {
		return err
	}
	if err := q.RemoveDayChanges(ctx, c.SubjectID); err != nil {
		return err
	}
	return addDayChanges(ctx, q, c.SubjectID, state.Differs)
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
	return "Hours: " + strings.Join(days, "; ")
}

// typeLabelOf says what a change of a meeting type changed.
func typeLabelOf(before, after TypeDraft) string {
	old, next := fieldsOf(before), fieldsOf(after)
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
	return before.Name + ": " + strings.Join(parts, ", ")
}

func orNone(s string) string {
	if s == "" {
		return "none"
	}
	return s
}

var fieldWords = map[string]string{
	"duration": "length", "before": "buffer before", "after": "buffer after", "buffersInside": "buffers inside hours", "slug": "short address",
	"noticeInDays": "notice in days", "windowDays": "window in days", "windowFirst": "first day", "windowLast": "last day",
}

// fieldsOf is a draft's fields, by the words people know them by.
func fieldsOf(d TypeDraft) map[string]string {
	out := map[string]string{"name": d.Name, "short address": d.Slug, "description": d.Description}
	var rules map[string]json.RawMessage
	text, _ := json.Marshal(d.Rules) // plain values always can be
	_ = json.Unmarshal(text, &rules)
	for field, value := range rules {
		if word, ok := fieldWords[field]; ok {
			field = word
		}
		out[field] = strings.Trim(string(value), `"`)
	}
	return out
}
