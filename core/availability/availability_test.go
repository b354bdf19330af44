package availability_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"corrim/core/availability"
	"corrim/core/civil"
	"corrim/core/hours"
	"corrim/core/span"
)

func zone(t require.TestingT, name string) *time.Location {
	z, err := civil.LoadZone(name)
	require.NoError(t, err)
	return z
}

func date(t require.TestingT, text string) civil.Date {
	d, err := civil.ParseDate(text)
	require.NoError(t, err)
	return d
}

func calendar(parts ...string) []byte {
	text := "BEGIN:VCALENDAR\nVERSION:2.0\n" + strings.Join(parts, "") + "END:VCALENDAR\n"
	return []byte(strings.ReplaceAll(text, "\n", "\r\n"))
}

// RFC 7953, 3.1, first and second example (from memory): Monday to Friday 9 to 5 in Montreal; and from 2 October to
// 2 December 2011 Monday to Thursday 9 to 5 and, the RFC says, Friday 9 to 12, whose DTSTART is a Thursday.
const (
	always = `BEGIN:VAVAILABILITY
ORGANIZER:mailto:bernard@example.com
UID:0428C7D2-688E-4D2E-AC52-CD112E2469DF
DTSTAMP:20111005T133225Z
BEGIN:AVAILABLE
UID:34EDA59B-6BB1-4E94-A66C-64999089C0AF
SUMMARY:Monday to Friday from 9:00 to 17:00
DTSTART;TZID=America/Montreal:20111002T090000
DTEND;TZID=America/Montreal:20111002T170000
RRULE:FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR
END:AVAILABLE
END:VAVAILABILITY
`
	branch = `BEGIN:VAVAILABILITY
ORGANIZER:mailto:bernard@example.com
UID:84D0F948-7FC6-4C1D-BBF3-BA9827B424B5
DTSTAMP:20111005T133225Z
PRIORITY:2
DTSTART;TZID=America/Montreal:20111002T000000
DTEND;TZID=America/Montreal:20111202T000000
BEGIN:AVAILABLE
UID:7B33093A-7F98-4EED-B381-A5652530F04D
SUMMARY:Monday to Thursday from 9:00 to 17:00
DTSTART;TZID=America/Montreal:20111003T090000
DTEND;TZID=America/Montreal:20111003T170000
RRULE:FREQ=WEEKLY;BYDAY=MO,TU,WE,TH
LOCATION:Main Office
END:AVAILABLE
BEGIN:AVAILABLE
UID:DF39DC9E-D8C3-492F-9101-0434E8FC1896
SUMMARY:Friday from 9:00 to 12:00
DTSTART;TZID=America/Montreal:20111007T090000
DTEND;TZID=America/Montreal:20111007T120000
RRULE:FREQ=WEEKLY
LOCATION:Branch Office
END:AVAILABLE
END:VAVAILABILITY
`
)

func TestTheAvailabilityOfRFC7953IsTheHoursItSays(t *testing.T) {
	montreal := zone(t, "America/Montreal")
	plan, troubles, err := availability.Read(calendar(always), montreal, date(t, "2011-10-03"))
	require.NoError(t, err)
	assert.Empty(t, troubles)
	assert.Equal(t, [7]string{"9-17", "9-17", "9-17", "9-17", "9-17", "closed", "closed"}, plan.Week.Texts())
	assert.Empty(t, plan.Changes)

	// RFC 7953, 4: the one with the higher priority counts in its own time, the other outside of it.
	plan, _, err = availability.Read(calendar(branch, always), montreal, date(t, "2011-10-03"))
	require.NoError(t, err)
	assert.Equal(t, "9-17", plan.Week.Texts()[4], "most Fridays of the year")
	require.Len(t, plan.Changes, 8)
	assert.Equal(t, "2011-10-07", plan.Changes[0].First.String())
	assert.Equal(t, "9-12", plan.Changes[0].Day.String())
	assert.Equal(t, "2011-11-25", plan.Changes[7].First.String())
	plan, _, err = availability.Read(calendar(branch), montreal, date(t, "2011-10-03"))
	require.NoError(t, err)
	assert.Equal(t, "closed", plan.Week.Texts()[0], "what nothing speaks of is not open, and that is most of the year")
	assert.Equal(t, "9-17", plan.On(date(t, "2011-12-01")).String())
	assert.Equal(t, "closed", plan.On(date(t, "2011-12-02")).String())
}

func TestAFileWithoutAvailabilityIsRefused(t *testing.T) {
	_, _, err := availability.Read(calendar("BEGIN:VEVENT\nUID:1\nDTSTART:20111003T100000Z\nEND:VEVENT\n"), time.UTC, date(t, "2011-10-03"))
	assert.ErrorIs(t, err, availability.ErrNone)
	_, _, err = availability.Read([]byte("<html>"), time.UTC, date(t, "2011-10-03"))
	assert.ErrorContains(t, err, "BEGIN:VCALENDAR")
	_, troubles, err := availability.Read(calendar(strings.Replace(always, "T090000", "T9", 1)), time.UTC, date(t, "2011-10-03"))
	require.NoError(t, err)
	assert.NotEmpty(t, troubles, "a part that can't be read is told")
}

// What is written reads back as the same open hours, whatever the zone and the season.
func TestHoursWrittenAreReadBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		z := zone(t, rapid.SampledFrom([]string{"Europe/Lisbon", "America/Sao_Paulo", "Australia/Lord_Howe", "Asia/Kathmandu", "UTC"}).Draw(t, "zone"))
		first := date(t, rapid.SampledFrom([]string{"2026-03-20", "2026-10-20", "2018-10-30"}).Draw(t, "first"))
		day := func(name string) hours.Day {
			d, err := hours.ParseDay(rapid.SampledFrom([]string{"closed", "9-17", "9-12, 13:30-17", "0-24", "22-2", "0-1, 23-24", "1:30-3"}).Draw(t, name))
			require.NoError(t, err)
			return d
		}
		plan := hours.Plan{Zone: z}
		for i := range plan.Week {
			plan.Week[i] = day("weekday")
		}
		for range rapid.IntRange(0, 3).Draw(t, "changes") {
			from := first.AddDays(rapid.IntRange(0, 20).Draw(t, "from"))
			kind := rapid.SampledFrom([]hours.ChangeKind{hours.Closed, hours.Instead, hours.Extra}).Draw(t, "kind")
			plan.Changes = append(plan.Changes, hours.Change{First: from, Last: from.AddDays(rapid.IntRange(0, 3).Draw(t, "days")), Kind: kind, Day: day("change")})
		}
		if rapid.Bool().Draw(t, "off") {
			from := first.AddDays(rapid.IntRange(0, 20).Draw(t, "off from"))
			plan.TimeOff = append(plan.TimeOff, hours.TimeOff{First: from, Last: from.AddDays(2)})
		}
		text, err := availability.Write(plan, first, 7*54, first.Start(z))
		require.NoError(t, err)
		read, troubles, err := availability.Read(text, z, first)
		require.NoError(t, err)
		require.Empty(t, troubles)
		// Within the range an interval of the day before may still run; the plan that is read begins with the first day.
		within := span.Span{Start: first.AddDays(1).Start(z), End: first.AddDays(30).Start(z)}
		require.Equal(t, plan.Open(within), read.Open(within), string(text))
	})
}
