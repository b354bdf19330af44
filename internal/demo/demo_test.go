package demo_test

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/internal/app"
	"corrim/internal/demo"
	"corrim/internal/testhouse"
)

// A demo that can't be planted on a Sunday would be found out on a Sunday.
func TestTheDemoCanBePlantedAroundAWeekend(t *testing.T) {
	t.Parallel()
	// Friday to Monday, from morning to night, over the end of summer time: weekends leave least to choose from.
	for day := range 4 {
		today := time.Date(2026, 10, 23+day, 6+5*day, 30, 0, 0, time.UTC)
		t.Run(today.Format("Monday 15:04"), func(t *testing.T) {
			clock := &demo.Clock{True: func() time.Time { return today }}
			h := testhouse.Empty(t, clock.Now)
			h.Run()
			ctx := context.Background()
			require.NoError(t, demo.Planter{App: h.App, Clock: clock, Calendars: h.Calendars, CalendarURL: h.CalendarURL}.Plant(ctx))
			ines, _, err := h.App.SignIn(ctx, "ines@quillmere.example", demo.Password, app.Whence{})
			require.NoError(t, err)
			view, err := h.App.Today(ctx, ines)
			require.NoError(t, err)
			assert.GreaterOrEqual(t, len(view.Meetings), 4)
			assert.NotEmpty(t, view.Recent)
			assert.Empty(t, view.Troubles)
			for _, kind := range view.Open {
				assert.Positive(t, kind.Count, kind.Name)
			}
			for _, m := range view.Meetings {
				assert.Contains(t, m.Mail, ".example", "only made-up addresses")
			}
		})
	}
}
