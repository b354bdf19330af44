package calsync

import (
	"context"
	"log/slog"
	"time"

	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// Owner is whose a calendar is, as far as its busy times depend on it.
type Owner struct {
	ID        int64
	Mail      string
	Zone      *time.Location
	OpenTitle string // of events that open time instead of blocking it; empty for none
}

// Config is what reading calendars needs.
type Config struct {
	Store   *store.Store
	Servers CalendarServer
	Feeds   Feeds
	Log     *slog.Logger
	Now     func() time.Time

	Unseal func(secret []byte) (string, error) // passwords and addresses are kept sealed
	Owner  func(ctx context.Context, q *sqlc.Queries, calendar int64) (Owner, error)
	// Tell writes to a calendar's owner that it can't be read.
	Tell func(ctx context.Context, q *sqlc.Queries, calendar sqlc.Calendar, trouble string) error
	// Notice is told what is new in somebody's calendar, before it is kept: entries of bookings may be among it.
	Notice func(ctx context.Context, q *sqlc.Queries, owner, calendar int64, changes Changes) error
	// Settle decides about entries of bookings that are missing in somebody's calendar that was read.
	Settle func(ctx context.Context, owner, calendar int64) error
	// Waits is how long to wait for a calendar where a moment is usual.
	Waits func(usual time.Duration) time.Duration
	// Wake lets jobs be done that reading has planned.
	Wake func()
}

// Sync reads calendars.
type Sync struct {
	Config
	readings readings
	places   places
}

// New makes a Sync.
func New(c Config) *Sync {
	return &Sync{Config: c, readings: readings{calendar: map[int64]*reading{}}, places: places{all: make(chan struct{}, atOnce), servers: map[string]chan struct{}{}}}
}

// Progress is how far the present reading of a calendar has come; nil if there is none.
func (s *Sync) Progress(calendar int64) *Progress { return s.readings.of(calendar).progress.Load() }

// KeepText keeps a calendar that comes as one text, and plans its next readings.
func (s *Sync) KeepText(ctx context.Context, q *sqlc.Queries, calendar sqlc.Calendar, text []byte, state string) error {
	if err := s.Plan(ctx, q, calendar); err != nil {
		return err
	}
	owner, err := s.Owner(ctx, q, calendar.ID)
	if err != nil {
		return err
	}
	reader, err := s.busyReader(ctx, q, owner, calendar)
	if err != nil {
		return err
	}
	if err := reader.keep(ctx, q, calendar.ID, Resource{Href: WholeCalendar, ICS: text}); err != nil {
		return err
	}
	return q.SetCalendarRead(ctx, sqlc.SetCalendarReadParams{ID: calendar.ID, State: state, ReadAt: s.Now().Unix(), ReadUntil: s.Now().Add(busyHorizon).Unix()})
}
