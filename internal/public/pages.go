// Package public is what anybody finds of a workspace: its pages and those of its people, teams and meeting types, how they look where
// they are shared, and the links that say already what a client would enter.
package public

import (
	"log/slog"
	"time"

	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/store"
)

// Config is what Pages are made from.
type Config struct {
	Settings *settings.Settings
	Store    *store.Store
	Now      func() time.Time
	Log      *slog.Logger
	BaseURL  string // without a slash at the end
}

// Pages shows and shares pages.
type Pages struct {
	*settings.Settings
	store   *store.Store
	now     func() time.Time
	log     *slog.Logger
	baseURL string

	pages  schedule.Kept[string, schedule.Showcase]
	opened openings
}

// New makes Pages. KeepOpenings must be called for their background work.
func New(c Config) *Pages {
	return &Pages{Settings: c.Settings, store: c.Store, now: c.Now, log: c.Log, baseURL: c.BaseURL}
}
