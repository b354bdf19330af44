// Package undo keeps how settings were before they were changed, and puts them back.
//
// Whoever changes a setting remembers, in the same transaction, how it was before. Each kind of setting, a subject, registers how it
// is put back and who may do so; P is a person as those know them.
package undo

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"reflect"
	"time"

	"corrim/core/told"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// Subject is a kind of settings. Before is what was remembered, as JSON.
type Subject[P any] struct {
	// May tells whether somebody may still change what they changed then: roles change, and undoing is a change like any other.
	May func(ctx context.Context, q *sqlc.Queries, by P, c sqlc.SettingChange) error
	// Restore puts it back.
	Restore func(ctx context.Context, q *sqlc.Queries, by P, c sqlc.SettingChange) error
	// Before is what is remembered of it.
	Before reflect.Type
	// Tells is whether clients and colleagues were told of the change.
	Tells bool
}

// Subjects are all kinds of settings, by name.
type Subjects[P any] map[string]Subject[P]

// The reasons why nothing is undone.
var (
	ErrNothing      = errors.New("there is nothing to undo")
	ErrChangedSince = errors.New("somebody else has changed the same settings since")
)

// Change is a change to be remembered; Before is the state of its subject until then.
type Change struct {
	Subject string
	ID      int64
	Label   told.Words // what it changed
	Before  any
}

// SettingChange is a change of settings for people.
type SettingChange struct {
	ID     int64      `json:"id"`
	At     time.Time  `json:"at"`
	Label  told.Words `json:"label"`
	Undone bool       `json:"undone"`
	Tells  bool       `json:"tells" doc:"Clients and colleagues were told of it by mail, and are told again if it is undone."`
}

// Row is a change as it is kept.
type Row struct {
	ID, At, UndoneAt int64
	Label, Subject   string
}

// Told is a change as people are told of it.
func (s Subjects[P]) Told(r Row) SettingChange {
	return SettingChange{r.ID, time.Unix(r.At, 0).UTC(), told.FromStored(r.Label), r.UndoneAt > 0, s[r.Subject].Tells}
}

// Remember keeps how something was before somebody, by their ID, changed it.
func (s Subjects[P]) Remember(ctx context.Context, q *sqlc.Queries, by int64, at time.Time, c Change) error {
	if _, known := s[c.Subject]; !known {
		return fmt.Errorf("nobody knows how to put back a change of %q", c.Subject)
	}
	before, err := json.Marshal(c.Before)
	if err != nil {
		return err
	}
	return q.AddSettingChange(ctx, sqlc.AddSettingChangeParams{PersonID: by, At: at.Unix(), Subject: c.Subject, SubjectID: c.ID, Label: c.Label.Stored(), Before: string(before)})
}

// Last lists somebody's last changes, newest first.
func (s Subjects[P]) Last(ctx context.Context, q *sqlc.Queries, by int64) ([]SettingChange, error) {
	rows, err := q.SettingChanges(ctx, by)
	out := make([]SettingChange, len(rows))
	for i, r := range rows {
		out[i] = s.Told(Row{r.ID, r.At, r.UndoneAt, r.Label, r.Subject})
	}
	return out, err
}

// Undo puts back what somebody's last change changed. The errors are ErrNothing, ErrChangedSince and those of its subject.
func (s Subjects[P]) Undo(ctx context.Context, q *sqlc.Queries, by P, id int64, at time.Time) error {
	last, err := q.LastSettingChange(ctx, id)
	if errors.Is(err, store.ErrNotFound) {
		return ErrNothing
	}
	if err != nil {
		return err
	}
	since, err := q.ChangedSince(ctx, sqlc.ChangedSinceParams{Subject: last.Subject, SubjectID: last.SubjectID, ID: last.ID})
	if err != nil {
		return err
	}
	if since > 0 {
		return ErrChangedSince
	}
	subject, known := s[last.Subject]
	if !known {
		return fmt.Errorf("nobody knows how to put back a change of %q", last.Subject)
	}
	if err := subject.May(ctx, q, by, last); err != nil {
		return err
	}
	if err := subject.Restore(ctx, q, by, last); err != nil {
		return err
	}
	return q.MarkUndone(ctx, sqlc.MarkUndoneParams{ID: last.ID, UndoneAt: at.Unix()})
}

// Of is a subject whose state of type S is written back by write.
func Of[P, S any](may func(context.Context, *sqlc.Queries, P, sqlc.SettingChange) error, write func(ctx context.Context, q *sqlc.Queries, by P, id int64, before S) error) Subject[P] {
	restore := func(ctx context.Context, q *sqlc.Queries, by P, c sqlc.SettingChange) error {
		var before S
		if err := json.Unmarshal([]byte(c.Before), &before); err != nil {
			return err
		}
		return write(ctx, q, by, c.SubjectID, before)
	}
	return Subject[P]{May: may, Restore: restore, Before: reflect.TypeFor[S]()}
}

// Telling is the same for changes of which clients and colleagues are told.
func (s Subject[P]) Telling() Subject[P] {
	s.Tells = true
	return s
}
