package demo_test

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/internal/demo"
	"corrim/internal/identity"
	"corrim/internal/testhouse"
)

// A demo that can't be planted on a Sunday would be found out on a Sunday.
func TestTheDemoCanBePlantedOnAnyDay(t *testing.T) {
	t.Parallel()
	for _, text := range []string{
		// Friday to Monday, from morning to night, over the end of summer time: weekends leave least to choose from.
		"2026-10-23 06:30", "2026-10-24 11:30", "2026-10-25 16:30", "2026-10-26 21:30",
		"2027-01-31 23:30", "2028-02-29 12:30", // months' ends, a leap day
		"2026-12-31 23:59", "2027-01-01 00:01",
		"2027-03-28 00:30", "2027-03-14 06:30", // the beginnings of summer time in Europe and in America
	} {
		today, err := time.Parse("2006-01-02 15:04", text)
		require.NoError(t, err)
		t.Run(today.Format("Monday 2 January 2006 15:04"), func(t *testing.T) {
			clock := &demo.Clock{True: func() time.Time { return today }}
			h := testhouse.Empty(t, clock.Now)
			h.Run()
			ctx := context.Background()
			require.NoError(t, demo.Planter{App: h.App, Clock: clock, Calendars: h.Calendars, CalendarURL: h.CalendarURL}.Plant(ctx))
			who, _, err := h.App.Identity.SignIn(ctx, "ines@quillmere.example", demo.Password, identity.Whence{})
			require.NoError(t, err)
			ines, err := h.App.Person(ctx, who.ID)
			require.NoError(t, err)
			view, err := h.App.Today(ctx, ines)
			require.NoError(t, err)
			assert.GreaterOrEqual(t, len(view.Meetings), 4)
			assert.NotEmpty(t, view.Recent)
			assert.Empty(t, view.Troubles, "and every type of hers has something open")
			for _, m := range view.Meetings {
				assert.Contains(t, m.Mail, ".example", "only made-up addresses")
			}
		})
	}
}
