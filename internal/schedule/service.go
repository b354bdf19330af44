// Package schedule says when somebody is open, and why: hours, agendas and meeting types as they are stored, who of a pool takes a
// booking, and the open times that core computes from all that. It reads; what changes any of it stands above.
package schedule

import (
	"context"
	"time"

	"corrim/internal/calsync"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// Config is what a Service is made from.
type Config struct {
	Store     *store.Store
	Now       func() time.Time
	Calendars *calsync.Sync
	Texts     func() bool // is there a gateway for text messages?
	TextsTo   []string    // the countries that they go to, as prefixes like "+44"; all if there are none

	// SendsTexts tells whether the messages of a workspace's meeting type are sent as texts too.
	SendsTexts func(ctx context.Context, q *sqlc.Queries, workspace, kind int64) (bool, error)
}

// Service answers about open times.
type Service struct {
	store      *store.Store
	now        func() time.Time
	calendars  *calsync.Sync
	texts      func() bool
	textsTo    []string
	sendsTexts func(ctx context.Context, q *sqlc.Queries, workspace, kind int64) (bool, error)

	lately recentAnswers
	people Kept[keptPerson, Person]
}

// New makes a Service.
func New(c Config) *Service {
	return &Service{store: c.Store, now: c.Now, calendars: c.Calendars, texts: c.Texts, textsTo: c.TextsTo, sendsTexts: c.SendsTexts}
}
