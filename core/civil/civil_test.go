package civil_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"corrim/core/civil"
	"corrim/core/span"
)

func zone(t testing.TB, name string) *time.Location {
	t.Helper()
	z, err := civil.LoadZone(name)
	require.NoError(t, err)
	return z
}

func clock(t *testing.T, text string) civil.Clock {
	t.Helper()
	parsed, err := time.Parse("2006-01-02 15:04", text)
	require.NoError(t, err)
	return civil.FromUTC(parsed)
}

// RFC 5545, 3.3.5: the New York examples are the RFC's own; the others follow its two sentences with the transitions
// of the IANA data (tz database, files europe, australasia, asia, northamerica, southamerica).
func TestWallClockReadingsBecomeInstantsAsRFC5545Says(t *testing.T) {
	for _, c := range []struct{ zone, reading, instant, why string }{
		{"America/New_York", "2007-11-04 01:30", "2007-11-04T05:30:00Z", "twice: the first, EDT (the RFC's example)"},
		{"America/New_York", "2007-03-11 02:30", "2007-03-11T07:30:00Z", "never: offset before the gap, so 03:30 EDT (the RFC's example)"},
		{"Europe/Berlin", "2026-03-29 02:30", "2026-03-29T01:30:00Z", "gap east of Greenwich"},
		{"Europe/Berlin", "2026-10-25 02:30", "2026-10-25T00:30:00Z", "fold east of Greenwich"},
		{"Europe/Lisbon", "2026-03-29 01:30", "2026-03-29T01:30:00Z", "gap at offset zero"},
		{"America/St_Johns", "2026-03-08 02:15", "2026-03-08T05:45:00Z", "gap with a half-hour offset"},
		{"America/St_Johns", "2026-11-01 01:15", "2026-11-01T03:45:00Z", "fold with a half-hour offset"},
		{"Australia/Lord_Howe", "2026-10-04 02:15", "2026-10-03T15:45:00Z", "a gap of 30 minutes"},
		{"Australia/Lord_Howe", "2026-04-05 01:45", "2026-04-04T14:45:00Z", "a fold of 30 minutes"},
		{"Asia/Kathmandu", "2026-05-05 09:00", "2026-05-05T03:15:00Z", "offset 5:45, no summer time"},
		{"America/Sao_Paulo", "2018-11-04 00:00", "2018-11-04T03:00:00Z", "a midnight that does not exist"},
		{"Pacific/Apia", "2011-12-30 12:00", "2011-12-30T22:00:00Z", "a day that does not exist, read with the offset before it"},
		{"Pacific/Apia", "2011-12-31 00:00", "2011-12-30T10:00:00Z", "the day after"},
	} {
		got := clock(t, c.reading).Instant(zone(t, c.zone))
		assert.Equal(t, c.instant, got.String(), "%s %s: %s", c.zone, c.reading, c.why)
	}
}

func TestADayIsAsLongAsItIs(t *testing.T) {
	for _, c := range []struct {
		zone, date string
		hours      float64
	}{
		{"Europe/Lisbon", "2026-03-29", 23}, {"Europe/Lisbon", "2026-10-25", 25}, {"Europe/Lisbon", "2026-07-01", 24},
		{"Australia/Lord_Howe", "2026-10-04", 23.5}, {"Australia/Lord_Howe", "2026-04-05", 24.5},
		{"America/Sao_Paulo", "2018-11-04", 23}, {"America/Sao_Paulo", "2018-02-17", 25},
		{"Pacific/Apia", "2011-12-30", 0}, {"Pacific/Apia", "2011-12-29", 24}, {"Pacific/Apia", "2011-12-31", 24},
	} {
		date, err := civil.ParseDate(c.date)
		require.NoError(t, err)
		day := date.Span(zone(t, c.zone))
		assert.InDelta(t, c.hours*3600, day.Seconds(), 0, "%s %s", c.zone, c.date)
		assert.Equal(t, c.hours > 0, date.Exists(zone(t, c.zone)))
	}
}

func TestEveryInstantBelongsToTheDayThatHoldsIt(t *testing.T) {
	zones := []string{"Europe/Lisbon", "America/Sao_Paulo", "Pacific/Apia", "Australia/Lord_Howe", "Asia/Kathmandu", "America/St_Johns", "Africa/Casablanca"}
	rapid.Check(t, func(t *rapid.T) {
		z, err := civil.LoadZone(rapid.SampledFrom(zones).Draw(t, "zone"))
		require.NoError(t, err)
		i := span.Instant(rapid.Int64Range(1_000_000_000, 2_200_000_000).Draw(t, "instant"))
		date := civil.DateOf(i, z)
		assert.True(t, date.Span(z).Holds(i), "%s in %s", i, z)
		shown := civil.ClockOf(i, z)
		back := shown.Instant(z)
		assert.Equal(t, shown, civil.ClockOf(back, z), "a reading that was shown exists")
		assert.LessOrEqual(t, back, i, "of two, the first")
	})
}

func TestZonesThatDependOnTheMachineAreRefused(t *testing.T) {
	for _, name := range []string{"", "Local", "local", "Europe/Nowhere", "../etc/passwd"} {
		_, err := civil.LoadZone(name)
		assert.ErrorContains(t, err, "Europe/Lisbon", "the sentence for %q says what to write instead", name)
	}
}

// ISO 8601: weeks begin on Monday, and week 1 holds the year's first Thursday; package time numbers them so.
func TestWeeksBeginWhereISO8601SaysOrWhereAsked(t *testing.T) {
	for d := (civil.Date{Year: 2019, Month: 12, Day: 20}); d.Year < 2034; d = d.AddDays(1) {
		monday := d.Week(time.Monday)
		require.Equal(t, time.Monday, monday.Weekday())
		year, week := isoWeek(d)
		mondaysYear, mondaysWeek := isoWeek(monday)
		require.Equal(t, [2]int{year, week}, [2]int{mondaysYear, mondaysWeek}, d.String())
		_, before := isoWeek(monday.AddDays(-1))
		require.NotEqual(t, week, before, d.String())
	}
	friday := civil.Date{Year: 2026, Month: 5, Day: 8}
	for first, want := range map[time.Weekday]string{time.Sunday: "2026-05-03", time.Friday: "2026-05-08", time.Saturday: "2026-05-02"} {
		assert.Equal(t, want, friday.Week(first).String())
	}
}

func isoWeek(d civil.Date) (year, week int) {
	return time.Date(d.Year, d.Month, d.Day, 12, 0, 0, 0, time.UTC).ISOWeek()
}

// Unicode CLDR 48.2, en/timeZoneNames.json; what isn't in it is called by the end of the zone's name.
func TestTownsAreCalledAsMapsDo(t *testing.T) {
	for zone, want := range map[string]string{
		"America/Sao_Paulo": "São Paulo", "America/St_Johns": "St. John’s", "Asia/Kolkata": "Kolkata", "Europe/Lisbon": "Lisbon",
		"America/Argentina/Buenos_Aires": "Buenos Aires", "UTC": "UTC",
	} {
		assert.Equal(t, want, civil.TownOf(zone, "en"), zone)
	}
	assert.Equal(t, "Lissabon", civil.TownOf("Europe/Lisbon", "de"))
	assert.Equal(t, "Lisboa", civil.TownOf("Europe/Lisbon", "pt"))
}
