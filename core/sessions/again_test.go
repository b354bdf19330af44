package sessions_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/civil"
	"corrim/core/sessions"
)

// What is written for a new term is read as it is meant: as many sessions, as far apart, at the same time of day.
func TestSessionsAreSetAgainAsTheyWere(t *testing.T) {
	today := civil.Date{Year: 2026, Month: time.January, Day: 1}
	first := civil.Date{Year: 2026, Month: time.April, Day: 14}
	for text, want := range map[string]struct {
		sentence string
		dates    []string
	}{
		"Tuesdays 17:30-19:00 from 6 Jan, 3 times":                {"Tuesday 17:30-19:00 from 14 April 2026, 3 times", []string{"2026-04-14", "2026-04-21", "2026-04-28"}},
		"Tuesdays 17:30-19:00 from 6 Jan, 3 times, not 13 Jan":    {"Tuesday 17:30-19:00 from 14 April 2026, 3 times", []string{"2026-04-14", "2026-04-21", "2026-04-28"}}, // another term has other holidays
		"every other week on Tuesday 9:00 from 6 Jan until 3 Feb": {"every 2 weeks on Tuesday 09:00-10:30 from 14 April 2026, 3 times", []string{"2026-04-14", "2026-04-28", "2026-05-12"}},
		"6 Jan, 8 Jan and 13 Jan at 17:30":                        {"14 April 2026, 16 April 2026, 21 April 2026 17:30-19:00", []string{"2026-04-14", "2026-04-16", "2026-04-21"}},
		"6 Jan at 17:30":                                          {"14 April 2026 17:30-19:00", []string{"2026-04-14"}},
	} {
		plan, err := sessions.Read(text, today)
		require.NoError(t, err, text)
		starts, err := plan.Starts(time.UTC)
		require.NoError(t, err, text)
		again := sessions.Again(starts, 90, first).Sentence
		assert.Equal(t, want.sentence, again)
		plan, err = sessions.Read(again, today)
		require.NoError(t, err, again)
		assert.Equal(t, 90, plan.Minutes())
		then, err := plan.Starts(time.UTC)
		require.NoError(t, err, again)
		dates := []string{}
		for _, s := range then {
			dates = append(dates, s.Date.String())
			assert.Equal(t, starts[0].Seconds, s.Seconds)
		}
		assert.Equal(t, want.dates, dates, text)
	}
	german, err := sessions.Read("Dienstag 17:30-19:00 ab 14. Apr., 8 mal", today)
	require.NoError(t, err)
	assert.Equal(t, 8, german.Times, "as it stands in German")
}
