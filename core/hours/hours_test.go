package hours_test

import (
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"corrim/core/civil"
	"corrim/core/hours"
	"corrim/core/span"
)

func TestHoursAreReadAsPeopleTypeThem(t *testing.T) {
	for text, want := range map[string]string{
		"9-12, 13-17":      "9-12, 13-17",
		"8:30-11, 3-5pm":   "8:30-11, 15-17",
		"9.15 – 10.45":     "9:15-10:45",
		"9am to 5pm":       "9-17",
		"9am-12":           "9-12",
		"11-1pm":           "11-13",
		"12-1pm":           "12-13",
		"12am-6am":         "0-6",
		"10pm-2":           "22-2",
		"22-2":             "22-2",
		"0-24":             "0-24",
		"18-24":            "18-24",
		"13-17; 9-12":      "9-12, 13-17",
		"9-12,12-14":       "9-14",
		"":                 "closed",
		" Closed ":         "closed",
		"9-10:30, 10-11pm": "9-10:30, 22-23",
		// What people mean who leave out twelve hours (common practice).
		"10-11, 2-4": "10-11, 14-16", "9-12, 1-5": "9-12, 13-17", "9-5": "9-17", "12-1": "12-13", "10-1": "10-13", "9-12, 12:30-2": "9-12, 12:30-14", "8:30-5:15": "8:30-17:15",
		"10-11, 2-16": "10-11, 14-16", "13-17, 9-12": "9-12, 13-17", "9-11; 1-3": "9-11, 13-15",
		// Past midnight only where it is said.
		"22-02:00": "22-2", "9-05:00": "9-05:00", "9-05": "9-05:00", "18-6": "18-6", "15-10 next day": "15-10 next day", "15-10 Uhr am nächsten Tag": "15-10 next day", "17-1": "17-1",
	} {
		day, err := hours.ParseDay(text)
		require.NoError(t, err, text)
		assert.Equal(t, want, day.String(), text)
	}
}

func TestHoursThatCannotBeReadSayWhichPieceAndWhy(t *testing.T) {
	for text, problem := range map[string]string{
		"9-":          `“9-”: an end is missing`,
		"-9":          `“-9”: a start is missing`,
		"25-26":       `“25” is later than 24:00`,
		"17-9 9":      `“9 9” is not a time`,
		"9-12 13":     `“12 13” is not a time`,
		"9-12,, 13":   `an interval is missing beside a comma`,
		"9-9":         `start and end are the same`,
		"24-2":        `24:00 can only be an end`,
		"9:75-10":     `more than 59 minutes`,
		"13pm-14":     `with am or pm the hour is 1 to 12`,
		"nine":        `write a start and an end, like 9-12`,
		"9-12,":       `an interval is missing beside a comma`,
		"13-5":        `write 13-17, or 13-05:00 for the next day`,
		"10-11, 9-10": `write 9am or 21`,
	} {
		_, err := hours.ParseDay(text)
		assert.ErrorContains(t, err, problem, text)
	}
}

func TestWhatIsWrittenReadsBackAsTheSame(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var intervals []hours.Interval
		for range rapid.IntRange(0, 4).Draw(t, "n") {
			start := rapid.IntRange(0, 1439).Draw(t, "start")
			intervals = append(intervals, hours.Interval{Start: start, End: start + rapid.IntRange(1, 1439).Draw(t, "length")})
		}
		day := hours.NewDay(intervals...)
		if slices.ContainsFunc(day, func(i hours.Interval) bool { return i.End-i.Start >= 24*60 }) {
			return // joined they are a whole day or more, which is written 0-24
		}
		for _, read := range []func(string) (hours.Day, error){hours.ParseDay, hours.ParseStoredDay} {
			back, err := read(day.String())
			require.NoError(t, err)
			assert.Equal(t, day, back, day.String())
		}
	})
}

// What an earlier version has stored stays as it was.
func TestStoredHoursAreReadAsTheyStand(t *testing.T) {
	day, err := hours.ParseStoredDay("9-5")
	require.NoError(t, err)
	assert.Equal(t, hours.Day{{Start: 9 * 60, End: 29 * 60}}, day)
}

func week(t *testing.T, texts ...string) hours.Week {
	t.Helper()
	var all [7]string
	copy(all[:], texts)
	w, err := hours.ParseWeek(all)
	require.NoError(t, err)
	return w
}

func open(t *testing.T, zone string, w hours.Week, from, to string) []string {
	t.Helper()
	z, err := civil.LoadZone(zone)
	require.NoError(t, err)
	first, err := civil.ParseDate(from)
	require.NoError(t, err)
	last, err := civil.ParseDate(to)
	require.NoError(t, err)
	var out []string
	for _, s := range (hours.Plan{Zone: z, Week: w}).Open(span.Span{Start: first.Start(z), End: last.Start(z)}) {
		out = append(out, s.Start.Time().In(z).Format("Mon 15:04")+" "+s.End.Time().In(z).Format("Mon 15:04")+" "+(time.Duration(s.Seconds())*time.Second).String())
	}
	return out
}

func TestAnIntervalPastMidnightBelongsToTheDayItStartsOn(t *testing.T) {
	w := week(t, "", "", "", "", "22-2")
	assert.Equal(t, []string{"Fri 22:00 Sat 02:00 4h0m0s"}, open(t, "Europe/Lisbon", w, "2026-05-04", "2026-05-11"))
	assert.Equal(t, []string{"Sat 00:00 Sat 02:00 2h0m0s"}, open(t, "Europe/Lisbon", w, "2026-05-09", "2026-05-11"), "only the part within the bounds")
}

func TestHoursKeepTheirWallClockWhenTheClocksChange(t *testing.T) {
	w := week(t, "9-12", "", "", "", "", "", "0-24")
	assert.Equal(t, []string{"Sun 00:00 Mon 00:00 23h0m0s", "Mon 09:00 Mon 12:00 3h0m0s"}, open(t, "Europe/Lisbon", w, "2026-03-29", "2026-04-04"))
	assert.Equal(t, []string{"Sun 00:00 Mon 00:00 25h0m0s"}, open(t, "Europe/Lisbon", w, "2026-10-25", "2026-10-26"))
	assert.Empty(t, open(t, "Europe/Berlin", week(t, "", "", "", "", "", "", "2:15-2:45"), "2026-03-29", "2026-03-29"), "no bounds, no hours")
	assert.Equal(t, []string{"Sun 03:15 Sun 03:45 30m0s"}, open(t, "Europe/Berlin", week(t, "", "", "", "", "", "", "2:15-2:45"), "2026-03-29", "2026-03-30"), "in a gap, read with the offset before it (RFC 5545, 3.3.5)")
}

func TestADayTheZoneSkippedHasNoHours(t *testing.T) {
	everyDay := week(t, "9-12", "9-12", "9-12", "9-12", "9-12", "9-12", "9-12")
	assert.Equal(t, []string{"Thu 09:00 Thu 12:00 3h0m0s", "Sat 09:00 Sat 12:00 3h0m0s"}, open(t, "Pacific/Apia", everyDay, "2011-12-29", "2012-01-01"))
}

func date(t *testing.T, text string) civil.Date {
	t.Helper()
	d, err := civil.ParseDate(text)
	require.NoError(t, err)
	return d
}

func day(t *testing.T, text string) hours.Day {
	t.Helper()
	d, err := hours.ParseDay(text)
	require.NoError(t, err)
	return d
}

func TestChangesApplyInTheirOrderAndTimeOffLast(t *testing.T) {
	z, err := civil.LoadZone("Europe/Lisbon")
	require.NoError(t, err)
	p := hours.Plan{Zone: z, Week: week(t, "9-12", "9-12", "9-12", "9-12", "22-2", "", "")}
	p.Changes = []hours.Change{
		{First: date(t, "2026-05-05"), Last: date(t, "2026-05-06"), Kind: hours.Closed},
		{First: date(t, "2026-05-06"), Last: date(t, "2026-05-06"), Kind: hours.Extra, Day: day(t, "14-15")},
		{First: date(t, "2026-05-07"), Last: date(t, "2026-05-07"), Kind: hours.Extra, Day: day(t, "11-13")},
		{First: date(t, "2026-05-04"), Last: date(t, "2026-05-04"), Kind: hours.Instead, Day: day(t, "10-11")},
	}
	assert.Equal(t, "10-11", p.On(date(t, "2026-05-04")).String())
	assert.Equal(t, "closed", p.On(date(t, "2026-05-05")).String())
	assert.Equal(t, "14-15", p.On(date(t, "2026-05-06")).String(), "added to what the earlier change left")
	assert.Equal(t, "9-13", p.On(date(t, "2026-05-07")).String())

	p.TimeOff = []hours.TimeOff{
		{First: date(t, "2026-05-09"), Last: date(t, "2026-05-09")}, // Saturday: only its own instants
		{From: civil.Clock{Date: date(t, "2026-05-07"), Seconds: 10 * 3600}, To: civil.Clock{Date: date(t, "2026-05-07"), Seconds: 11 * 3600}},
	}
	var got []string
	for _, s := range p.Open(span.Span{Start: date(t, "2026-05-07").Start(z), End: date(t, "2026-05-10").Start(z)}) {
		got = append(got, s.Start.Time().In(z).Format("Mon 15:04")+"-"+s.End.Time().In(z).Format("Mon 15:04"))
	}
	assert.Equal(t, []string{"Thu 09:00-Thu 10:00", "Thu 11:00-Thu 13:00", "Fri 22:00-Sat 00:00"}, got, "Friday's part of the night stays")
	p.TimeOff = []hours.TimeOff{{First: date(t, "2026-05-08"), Last: date(t, "2026-05-08")}}
	assert.Len(t, p.Open(date(t, "2026-05-09").Span(z)), 1, "with Friday off, the part of its night that lies on Saturday stays")
}

func TestDaysThatDifferAreReadAsPeopleWriteThem(t *testing.T) {
	today := date(t, "2026-11-25")
	show := func(text string) string {
		found, err := hours.ParseDiffering(text, today)
		if err != nil {
			return err.Error()
		}
		var out []string
		for _, d := range found {
			what := map[hours.ChangeKind]string{hours.Closed: "closed", hours.Instead: "instead " + d.Day.String(), hours.Extra: "extra " + d.Day.String()}[d.Kind]
			if d.Off {
				what = "off"
				if len(d.Day) > 0 {
					what += " " + d.Day.String()
				}
			}
			if d.Yearly {
				what += " yearly"
			}
			out = append(out, d.First.String()+" "+d.Last.String()+" "+what)
		}
		return strings.Join(out, "; ")
	}
	for text, want := range map[string]string{
		"14-16 May 10-13, 4 June closed":                "2027-05-14 2027-05-16 instead 10-13; 2027-06-04 2027-06-04 closed",
		"5 Dec extra 10-13":                             "2026-12-05 2026-12-05 extra 10-13",
		"25 November 9-12, 13-15":                       "2026-11-25 2026-11-25 instead 9-12, 13-15",
		"21 Dec to 3 Jan off":                           "2026-12-21 2027-01-03 off",
		"21 Dec 2026 – 3 Jan 2027 off":                  "2026-12-21 2027-01-03 off",
		"2026-12-01 to 2026-12-02 only 3-5pm":           "2026-12-01 2026-12-02 instead 15-17",
		"Sat 5 December extra 10-13":                    "2026-12-05 2026-12-05 extra 10-13",
		"14 to 16 May, 10-13 only":                      "2027-05-14 2027-05-16 instead 10-13",
		"from 14th until 16th May: only 10-13, 14-15":   "2027-05-14 2027-05-16 instead 10-13, 14-15",
		"on Fri 14 May 10-13 only, Sat 5 Dec: closed":   "2027-05-14 2027-05-14 instead 10-13; 2026-12-05 2026-12-05 closed",
		"8 May off 13-15":                               "2027-05-08 2027-05-08 off 13-15",
		"25 Dec off every year, 6 June off 9-12 yearly": "2026-12-25 2026-12-25 off yearly; 2027-06-06 2027-06-06 off 9-12 yearly",
		"21 Dec to 3 Jan off each year":                 "2026-12-21 2027-01-03 off yearly",
		"7 May 13:00 to 10 May 12:00 off":               "2027-05-07 2027-05-07 off 13-24; 2027-05-08 2027-05-09 off; 2027-05-10 2027-05-10 off 0-12",
		"7 May 13:00 to 8 May 12:00 off":                "2027-05-07 2027-05-07 off 13-24; 2027-05-08 2027-05-08 off 0-12",
		"7 May 13:00 to 8 May off":                      `“7 May 13:00 to 8 May off”: write a clock time after the last day too, like 9 May 12:00`,
		"7 May 13:00 to 8 May 12:00 closed":             `“7 May 13:00 to 8 May 12:00 closed”: from a moment to a moment of a later day there can only be time off`,
		"7 May 13:00 to 8 May 25:00 off":                `“7 May 13:00 to 8 May 25:00 off”: a clock time is between 0:00 and 24:00`,
		"4 June 10-12 every year":                       `“4 June 10-12 every year”: only time off can come again every year; write off every year`,
		"29 Feb closed":                                 "2028-02-29 2028-02-29 closed",
		"Sun 5 December closed":                         `“Sun 5 December closed”: 5 December 2026 is a Saturday`,
		"31 June closed":                                `“31 June closed”: there is no 31 June`,
		"16-14 May 10-13":                               `“16-14 May 10-13”: the last day comes before the first`,
		"4 June":                                        `“4 June”: say what is different: hours like 10-13, extra 10-13, closed, or off`,
		"4 June 9-":                                     `“4 June 9-”: “9-”: an end is missing`,
		"14.-16. Mai 10-13, 4. Juni geschlossen":        "2027-05-14 2027-05-16 instead 10-13; 2027-06-04 2027-06-04 closed",
		"am Fr., 14. Mai nur 10-13 Uhr":                 "2027-05-14 2027-05-14 instead 10-13",
		"vom 21. Dez. bis 3. Jan. frei":                 "2026-12-21 2027-01-03 off",
		"25. Dezember frei jedes Jahr":                  "2026-12-25 2026-12-25 off yearly",
		"5. Dez. zusätzlich 10-13":                      "2026-12-05 2026-12-05 extra 10-13",
		"7. März 13:00 bis 10. März 12:00 frei":         "2027-03-07 2027-03-07 off 13-24; 2027-03-08 2027-03-09 off; 2027-03-10 2027-03-10 off 0-12",
		"So., 5. Dezember geschlossen":                  `“So., 5. Dezember geschlossen”: 5 December 2026 is a Saturday`,
		"Fri, 14 May 10-13, 14-15, Sat, 5 Dec closed":   "2027-05-14 2027-05-14 instead 10-13, 14-15; 2026-12-05 2026-12-05 closed",
		"tomorrow closed":                               `“tomorrow closed”: begin with a date, like 14 May or 14-16 May`,
		"":                                              `“”: write a date and what is different, like 14-16 May 10-13, or 4 June closed`,
	} {
		assert.Equal(t, want, show(text), text)
	}
}

func TestTimeOffComesAgainEveryYear(t *testing.T) {
	z, err := civil.LoadZone("Europe/Lisbon")
	require.NoError(t, err)
	read := func(text string) hours.Differing {
		found, err := hours.ParseDiffering(text, date(t, "2026-11-25"))
		require.NoError(t, err)
		return found[0]
	}
	var years []string
	for _, off := range read("29 Feb off every year").TimeOff(2024, 2033) {
		years = append(years, off.First.String())
	}
	assert.Equal(t, []string{"2024-02-29", "2028-02-29", "2032-02-29"}, years, "only in years that have the date")

	turn := read("21 Dec to 3 Jan off every year")
	assert.Len(t, turn.TimeOff(2026, 2027), 2)
	for text, want := range map[string]bool{"2026-12-21": true, "2029-01-03": true, "2029-01-04": false, "2028-12-20": false} {
		assert.Equal(t, want, turn.Applies(date(t, text)), text)
	}
	lunch := read("1 Dec off 12-13, 3 Dec closed").TimeOff(2026, 2026)
	require.Len(t, lunch, 1)
	assert.Equal(t, "12:00 13:00", lunch[0].Span(z).Start.Time().In(z).Format("15:04 ")+lunch[0].Span(z).End.Time().In(z).Format("15:04"))
}

func TestAPlanIsFoundInOpenHours(t *testing.T) {
	z, err := civil.LoadZone("Europe/Lisbon")
	require.NoError(t, err)
	first := date(t, "2026-05-04")
	p := hours.Plan{Zone: z, Week: week(t, "9-12, 13-17", "9-17", "0-24", "0-24", "22-2", "", "")}
	p.Changes = []hours.Change{{First: date(t, "2026-05-18"), Last: date(t, "2026-05-19"), Kind: hours.Instead, Day: day(t, "10-11")}}
	p.TimeOff = []hours.TimeOff{{First: date(t, "2026-05-27"), Last: date(t, "2026-05-27")}}
	around := span.Span{Start: first.AddDays(-1).Start(z), End: first.AddDays(58).Start(z)}
	found := hours.FromOpen(p.Open(around), z, first, 56)
	assert.Equal(t, p.Week.Texts(), found.Week.Texts())
	var changes []string
	for _, c := range found.Changes {
		changes = append(changes, c.First.String()+" "+c.Last.String()+" "+c.Day.String())
	}
	assert.Equal(t, []string{"2026-05-18 2026-05-19 10-11", "2026-05-27 2026-05-27 closed"}, changes, "days alike are one change")
}
