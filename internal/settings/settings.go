// Package settings is what people and their workspace set: hours, week plans, public holidays, meeting types, booking pages and the
// workspace itself. A change is tried before it is saved, and remembered in the transaction that makes it, so that it can be undone.
package settings

import (
	"context"
	"time"

	"corrim/internal/identity"
	"corrim/internal/schedule"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
	"corrim/internal/undo"
)

// Config is what Settings are made from.
type Config struct {
	Schedule *schedule.Service
	Store    *store.Store
	Now      func() time.Time
	History  undo.Subjects[schedule.Person] // that what is set here registers with
	Texts    func() bool                    // there is a gateway for text messages

	// RaiseSeats gives the sessions to come of a meeting type that has more seats now these too.
	RaiseSeats func(ctx context.Context, q *sqlc.Queries, kind int64, seats int) error
	// PlanDecisions plans anew when the sessions to come of a meeting type need their least number.
	PlanDecisions func(ctx context.Context, q *sqlc.Queries, kind int64) error
}

// Settings reads and changes what is set.
type Settings struct {
	*schedule.Service
	store         *store.Store
	now           func() time.Time
	history       undo.Subjects[schedule.Person]
	texts         func() bool
	raiseSeats    func(ctx context.Context, q *sqlc.Queries, kind int64, seats int) error
	planDecisions func(ctx context.Context, q *sqlc.Queries, kind int64) error

	types schedule.Kept[int64, []schedule.MeetingType]
}

// New makes Settings.
func New(c Config) *Settings {
	s := &Settings{
		Service: c.Schedule, store: c.Store, now: c.Now, history: c.History, texts: c.Texts, raiseSeats: c.RaiseSeats, planDecisions: c.PlanDecisions,
	}
	s.register()
	return s
}

// WriteFor writes in one transaction what the person must be allowed to do.
func (s *Settings) WriteFor(ctx context.Context, p schedule.Person, action identity.Action, f func(*sqlc.Queries) error) error {
	if err := p.Must(action); err != nil {
		return err
	}
	return s.store.Write(ctx, f)
}
