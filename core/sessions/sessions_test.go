package sessions_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/civil"
	"corrim/core/sessions"
)

func starts(t *testing.T, text, today, zone string) []string {
	day, err := civil.ParseDate(today)
	require.NoError(t, err)
	plan, err := sessions.Read(text, day)
	require.NoError(t, err, text)
	place, err := time.LoadLocation(zone)
	require.NoError(t, err)
	clocks, err := plan.Starts(place)
	require.NoError(t, err, text)
	out := make([]string, len(clocks))
	for i, c := range clocks {
		out[i] = c.UTC().Format("2006-01-02 15:04")
	}
	return out
}

// The examples of RFC 5545, 3.8.5.3, that are weekly, said in words.
func TestWeeklyExamplesOfTheStandard(t *testing.T) {
	for text, want := range map[string][]string{
		// FREQ=WEEKLY;COUNT=10
		"Tuesdays 9:00 from 2 Sep 1997, 10 times": {"1997-09-02 09:00", "1997-09-09 09:00", "1997-09-16 09:00", "1997-09-23 09:00", "1997-09-30 09:00", "1997-10-07 09:00", "1997-10-14 09:00", "1997-10-21 09:00", "1997-10-28 09:00", "1997-11-04 09:00"},
		// FREQ=WEEKLY;UNTIL=19971007T000000Z;WKST=SU;BYDAY=TU,TH
		"Tuesdays and Thursdays 9am from 2 Sep 1997 until 6 Oct": {"1997-09-02 09:00", "1997-09-04 09:00", "1997-09-09 09:00", "1997-09-11 09:00", "1997-09-16 09:00", "1997-09-18 09:00", "1997-09-23 09:00", "1997-09-25 09:00", "1997-09-30 09:00", "1997-10-02 09:00"},
		// FREQ=WEEKLY;INTERVAL=2;COUNT=8;WKST=SU;BYDAY=TU,TH
		"every other week on Tuesday and Thursday 9:00 from 2 Sep 1997, 8 times": {"1997-09-02 09:00", "1997-09-04 09:00", "1997-09-16 09:00", "1997-09-18 09:00", "1997-09-30 09:00", "1997-10-02 09:00", "1997-10-14 09:00", "1997-10-16 09:00"},
	} {
		assert.Equal(t, want, starts(t, text, "1997-09-01", "America/New_York"), text)
	}
}

func TestSessionsAreReadAsPeopleWriteThem(t *testing.T) {
	made := []string{"2026-01-06 17:30", "2026-01-13 17:30", "2026-01-27 17:30"}
	for _, text := range []string{
		"Tuesdays 17:30-19:00 from 6 Jan, 3 times, not 20 Jan",
		"tue 5.30pm, from 1 January until 27 Jan, except on 20 Jan",
		"Every Tuesday at 17:30 – 19:00 from 6 Jan, 3x, not on Tue 20 Jan",
		"6 Jan, Tue 13 Jan and 2026-01-27, 17:30",
		"dienstags 17:30–19:00 Uhr ab 6. Januar, 3 mal, nicht am 20. Januar",
		"jeden Dienstag um 17:30 Uhr ab dem 6. Jan., 3 Termine, ohne 20. Jan.",
	} {
		assert.Equal(t, made, starts(t, text, "2025-12-01", "Europe/Lisbon"), text)
	}
	assert.Equal(t, []string{"2026-01-05 08:00", "2026-01-06 08:00", "2026-01-07 08:00"}, starts(t, "Mon-Wed 8 from 5 Jan, 3 times", "2026-01-01", "UTC"))
	assert.Equal(t, []string{"2026-01-02 19:00", "2026-01-16 19:00"}, starts(t, "alle 2 Wochen freitags 19 Uhr, 2 mal", "2026-01-01", "UTC"))
}

func TestWhatCantBeReadSaysWhatToWrite(t *testing.T) {
	today := civil.Date{Year: 2026, Month: 1, Day: 1}
	for text, sentence := range map[string]string{
		"":                                                "“”: say at which time of day, like 17:30",
		"Tuesdays from 6 Jan, 8 times":                    "“Tuesdays from 6 Jan, 8 times”: say at which time of day, like 17:30",
		"Tuesdays 17:30":                                  "“Tuesdays 17:30”: say how many there are, like 8 times, or until which date",
		"17:30, 8 times":                                  "“17:30, 8 times”: say on which days, like Tuesdays from 6 Jan, 8 times, or on which dates",
		"6 Jan, 6 Jan 17:30":                              "“6 jan”: 6 January 2026 is named twice",
		"Mon 6 Jan 17:30":                                 "“mon 6 jan 17:30”: 6 January 2026 is a Tuesday",
		"Tuesdays 17:30 and 19:00, 8 times":               "“19:00”: there is a time of day already; put a semicolon before those at other times",
		"Tuesdays 17:30 from 6 Jan, weather":              "“weather”: this isn't understood here; write it like Tuesdays 17:30 from 6 Jan, 8 times, not 10 Feb",
		"Tuesdays 17:30 from 30 Feb, 8 times":             "“from 30 feb”: there is no 30 February",
		"Tuesdays, 9 Jan 17:30":                           "“Tuesdays, 9 Jan 17:30”: name either dates one by one, or weekdays from a date on",
		"Tuesdays 17:70 from 6 Jan, 8 times":              "“17:70”: “17:70” has more than 59 minutes",
		"Tuesdays 17:30 from 5 Jan 2027 until 4 Jan 2027": "“Tuesdays 17:30 from 5 Jan 2027 until 4 Jan 2027”: it ends before the first of them; write the later date after “until”",
		"Tuesdays 17:30, 8 times until 30 Mar":            "“Tuesdays 17:30, 8 times until 30 Mar”: say either how many there are or until which date",
		"every 0 weeks Tuesdays 17:30 8 times":            "“every 0 weeks Tuesdays 17:30 8 times”: they can come every week, every 2 weeks, and so on",
	} {
		_, err := sessions.Read(text, today)
		assert.EqualError(t, err, sentence, text)
	}
	for text, sentence := range map[string]string{
		"Tuesdays 17:30 from 6 Jan, 8 times, not 7 Jan": "No session would be on 7 January 2026, a Wednesday, so it can't be left out.",
		"Tuesdays 17:30 from 6 Jan, 61 times":           "At most 60 sessions can be set at once.",
		"6 Jan 17:30, not 6 Jan":                        "No session would be left of these.",
	} {
		plan, err := sessions.Read(text, today)
		require.NoError(t, err, text)
		_, err = plan.Starts(time.UTC)
		assert.EqualError(t, err, sentence, text)
	}
}
