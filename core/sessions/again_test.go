package sessions_test

import (
	"math/rand/v2"
	"slices"
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
		minutes, err := plan.Minutes()
		require.NoError(t, err)
		assert.Equal(t, 90, minutes)
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
	assert.Equal(t, 8, german[0].Times, "as it stands in German")
}

func TestWhatIsDrawnIsSaidInASentence(t *testing.T) {
	clock := func(date string, hour int) civil.Clock {
		day, err := civil.ParseDate(date)
		require.NoError(t, err)
		return civil.Clock{Date: day, Seconds: hour * 3600}
	}
	for sentence, drawn := range map[string][]civil.Clock{
		"5 May 2026 17:00-18:30":                                        {clock("2026-05-05", 17)},
		"5 May 2026, 12 May 2026 17:00-18:30":                           {clock("2026-05-05", 17), clock("2026-05-12", 17)},
		"Tuesday 17:00-18:30 from 5 May 2026, 3 times":                  {clock("2026-05-05", 17), clock("2026-05-12", 17), clock("2026-05-19", 17)},
		"Tuesday 17:00-18:30 from 5 May 2026, 3 times, not 19 May 2026": {clock("2026-05-05", 17), clock("2026-05-12", 17), clock("2026-05-26", 17)},
		"5 May 2026 17:00-18:30; 6 May 2026 09:00-10:30":                {clock("2026-05-05", 17), clock("2026-05-06", 9)},
	} {
		assert.Equal(t, sentence, sessions.Sentence(drawn, 90).Sentence)
	}
}

// Whatever is drawn, its sentence is read as just that.
func TestSentencesOfDrawnSessionsAreReadAsTheyAreMeant(t *testing.T) {
	random := rand.New(rand.NewPCG(19, 35))
	today := civil.Date{Year: 2026, Month: time.January, Day: 1}
	for range 2000 {
		var drawn []civil.Clock
		from, step := random.IntN(300), []int{1, 7, 7, 14}[random.IntN(4)]
		for range 1 + random.IntN(9) {
			drawn = append(drawn, civil.Clock{Date: today.AddDays(from + step*random.IntN(12)), Seconds: 900 * (32 + random.IntN(2))})
		}
		slices.SortFunc(drawn, civil.Clock.Compare)
		drawn = slices.Compact(drawn)
		sentence := sessions.Sentence(drawn, 45).Sentence
		plans, err := sessions.Read(sentence, today)
		require.NoError(t, err, sentence)
		starts, err := plans.Starts(time.UTC)
		require.NoError(t, err, sentence)
		require.Equal(t, drawn, starts, sentence)
	}
}

func TestSeveralPlansAtOnceSayWhatIsWrong(t *testing.T) {
	today := civil.Date{Year: 2026, Month: time.January, Day: 1}
	plans, err := sessions.Read("6 Jan 17:30; Tuesdays 17:30 from 6 Jan, 2 times", today)
	require.NoError(t, err)
	_, err = plans.Starts(time.UTC)
	require.EqualError(t, err, "There would be two on 6 January 2026 at the same time.")
	plans, err = sessions.Read("6 Jan 17:30-18:00; 7 Jan 9:00-10:00;", today)
	require.NoError(t, err)
	_, err = plans.Minutes()
	require.ErrorContains(t, err, "one length at a time")
	plans, err = sessions.Read("Mon-Sun 9:00 from 5 Jan, 40 times; Mon-Sun 10:00 from 5 Jan, 40 times", today)
	require.NoError(t, err)
	_, err = plans.Starts(time.UTC)
	require.ErrorContains(t, err, "At most 60")
	_, err = sessions.Read("6 Jan 17:30; 7 Jan 9:00; 8 Jan", today)
	require.EqualError(t, err, "“8 Jan”: say at which time of day, like 17:30")
}
