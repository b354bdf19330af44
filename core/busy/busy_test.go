package busy_test

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/teambition/rrule-go"
	"pgregory.net/rapid"

	"corrim/core/busy"
	"corrim/core/civil"
	"corrim/core/span"
)

var may2026 = span.Of(time.Date(2026, 5, 1, 0, 0, 0, 0, time.UTC), time.Date(2026, 6, 1, 0, 0, 0, 0, time.UTC))

func lisbon(t testing.TB) *time.Location {
	t.Helper()
	z, err := civil.LoadZone("Europe/Lisbon")
	require.NoError(t, err)
	return z
}

func options(t testing.TB) busy.Options {
	return busy.Options{Zone: lisbon(t), Owners: []string{"ines@example.org"}, TentativeBusy: true, AllDayBusy: true}
}

// vevent wraps lines into a calendar with one event; several events are separated by a line "--".
func vevent(lines ...string) string {
	body := strings.ReplaceAll(strings.Join(lines, "\r\n"), "\r\n--\r\n", "\r\nEND:VEVENT\r\nBEGIN:VEVENT\r\n")
	return "BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\n" + body + "\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n"
}

// found lists the busy stretches of May 2026 in Lisbon's wall clock.
func found(t *testing.T, text string, o busy.Options) (out []string, troubles []busy.Trouble) {
	t.Helper()
	calendar, err := busy.Read([]byte(text), o)
	require.NoError(t, err)
	stretches, troubles := calendar.Busy(may2026)
	for _, b := range stretches {
		from, to := b.Start.Time().In(lisbon(t)), b.End.Time().In(lisbon(t))
		layout := "2 15:04"
		if from.Format(time.DateOnly) == to.Format(time.DateOnly) {
			layout = "15:04"
		}
		out = append(out, from.Format("2 15:04")+"-"+to.Format(layout))
	}
	return out, troubles
}

func TestWhatCountsAsBusy(t *testing.T) {
	base := []string{"UID:1", "DTSTART:20260505T090000Z", "DTEND:20260505T100000Z"}
	for _, c := range []struct {
		name  string
		lines []string
		busy  bool
	}{
		{"an opaque event", nil, true},
		{"one marked free", []string{"TRANSP:TRANSPARENT"}, false},
		{"a cancelled one", []string{"STATUS:CANCELLED"}, false},
		{"a tentative one, where the calendar counts them", []string{"STATUS:TENTATIVE"}, true},
		{"an invitation the owner declined", []string{"ATTENDEE;PARTSTAT=DECLINED:MAILTO:Ines@Example.org"}, false},
		{"one that somebody else declined", []string{"ATTENDEE;PARTSTAT=DECLINED:mailto:torvald@example.org", "ATTENDEE;PARTSTAT=ACCEPTED:mailto:ines@example.org"}, true},
		{"an unanswered invitation", []string{"ATTENDEE;PARTSTAT=NEEDS-ACTION:mailto:ines@example.org"}, true},
		{"an event with a colon in a quoted parameter", []string{`ATTENDEE;CN="Brekke: lamps; and more";PARTSTAT=DECLINED:mailto:ines@example.org`}, false},
	} {
		got, troubles := found(t, vevent(append(base, c.lines...)...), options(t))
		assert.Empty(t, troubles)
		assert.Equal(t, c.busy, len(got) == 1, c.name)
	}
	strict := options(t)
	strict.TentativeBusy, strict.AllDayBusy = false, false
	got, _ := found(t, vevent(append(base, "STATUS:TENTATIVE", "--", "UID:2", "DTSTART;VALUE=DATE:20260506")...), strict)
	assert.Empty(t, got, "neither tentative nor all-day ones where the calendar says so")
}

func TestLengths(t *testing.T) {
	for _, c := range []struct{ name, lines, want string }{
		{"a date alone is its whole day", "DTSTART;VALUE=DATE:20260505", "5 00:00-6 00:00"},
		{"an exclusive end date", "DTSTART;VALUE=DATE:20260505|DTEND;VALUE=DATE:20260507", "5 00:00-7 00:00"},
		{"a floating time is in the calendar's zone", "DTSTART:20260505T090000|DURATION:PT90M", "5 09:00-10:30"},
		{"a duration in weeks", "DTSTART:20260505T090000|DURATION:P1W", "5 09:00-12 09:00"},
		{"a time without an end takes no time", "DTSTART:20260505T090000", ""},
		{"start and end in different zones", "DTSTART;TZID=Europe/Oslo:20260505T100000|DTEND;TZID=Europe/Lisbon:20260505T100000", "5 09:00-10:00"},
		{"it began before the range and ends in it", "DTSTART:20260428T090000|DURATION:P5D", "28 09:00-3 09:00"},
	} {
		got, troubles := found(t, vevent(append([]string{"UID:1"}, strings.Split(c.lines, "|")...)...), options(t))
		if c.want == "" {
			require.Len(t, troubles, 1, c.name)
			assert.Equal(t, "An event has no end, so it takes no time.", troubles[0].String())
		} else {
			assert.Empty(t, troubles, c.name)
		}
		assert.Equal(t, c.want, strings.Join(got, " "), c.name)
	}
}

// RFC 5545, 3.3.6: days are nominal, hours exact; RFC 5545, 3.8.2.2 with 3.8.5.3: a DTEND fixes an exact length.
func TestDurationsOverAClockChange(t *testing.T) {
	over := span.Of(time.Date(2026, 3, 27, 0, 0, 0, 0, time.UTC), time.Date(2026, 4, 2, 0, 0, 0, 0, time.UTC))
	for lines, want := range map[string]time.Duration{
		"DTSTART;TZID=Europe/Lisbon:20260328T120000|DURATION:P1D":                                                                  23 * time.Hour,
		"DTSTART;TZID=Europe/Lisbon:20260328T120000|DURATION:PT24H":                                                                24 * time.Hour,
		"DTSTART;TZID=Europe/Lisbon:20260227T120000|DTEND;TZID=Europe/Lisbon:20260228T120000|RRULE:FREQ=DAILY;INTERVAL=29;COUNT=2": 24 * time.Hour,
		"DTSTART;VALUE=DATE:20260329": 23 * time.Hour,
	} {
		calendar, err := busy.Read([]byte(vevent(append([]string{"UID:1"}, strings.Split(lines, "|")...)...)), options(t))
		require.NoError(t, err)
		got, _ := calendar.Busy(over)
		require.Len(t, got, 1, lines)
		assert.Equal(t, want, time.Duration(got[0].Seconds())*time.Second, lines)
	}
}

func TestExceptionsOfARecurringEvent(t *testing.T) {
	weekly := "UID:1|DTSTART;TZID=Europe/Lisbon:20260407T090000|DTEND;TZID=Europe/Lisbon:20260407T100000|RRULE:FREQ=WEEKLY"
	for _, c := range []struct{ name, lines, want string }{
		{"as the rule says", "", "5 09:00-10:00, 12 09:00-10:00, 19 09:00-10:00, 26 09:00-10:00"},
		{"a list of excluded times", "|EXDATE;TZID=Europe/Lisbon:20260512T090000,20260519T090000", "5 09:00-10:00, 26 09:00-10:00"},
		{"excluded in UTC", "|EXDATE:20260512T080000Z", "5 09:00-10:00, 19 09:00-10:00, 26 09:00-10:00"},
		{"excluded by its date", "|EXDATE;VALUE=DATE:20260512", "5 09:00-10:00, 19 09:00-10:00, 26 09:00-10:00"},
		{"an extra date and an extra period", "|RDATE;TZID=Europe/Lisbon:20260506T150000|RDATE;VALUE=PERIOD:20260507T120000Z/PT2H,20260508T120000Z/20260508T123000Z",
			"5 09:00-10:00, 6 15:00-16:00, 7 13:00-15:00, 8 13:00-13:30, 12 09:00-10:00, 19 09:00-10:00, 26 09:00-10:00"},
		{"one moved", "|--|UID:1|RECURRENCE-ID;TZID=Europe/Lisbon:20260512T090000|DTSTART;TZID=Europe/Lisbon:20260513T140000|DURATION:PT30M",
			"5 09:00-10:00, 13 14:00-14:30, 19 09:00-10:00, 26 09:00-10:00"},
		{"one moved out of the range", "|--|UID:1|RECURRENCE-ID:20260512T080000Z|DTSTART:20260612T090000Z|DURATION:PT30M", "5 09:00-10:00, 19 09:00-10:00, 26 09:00-10:00"},
		{"one moved into the range", "|--|UID:1|RECURRENCE-ID:20260602T080000Z|DTSTART:20260529T080000Z|DURATION:PT30M",
			"5 09:00-10:00, 12 09:00-10:00, 19 09:00-10:00, 26 09:00-10:00, 29 09:00-09:30"},
		{"one cancelled", "|--|UID:1|RECURRENCE-ID:20260512T080000Z|DTSTART:20260512T080000Z|DURATION:PT1H|STATUS:CANCELLED", "5 09:00-10:00, 19 09:00-10:00, 26 09:00-10:00"},
		{"two states of one change: the higher sequence holds", "|--|UID:1|SEQUENCE:2|RECURRENCE-ID:20260512T080000Z|DTSTART:20260512T100000Z|DURATION:PT1H|--|UID:1|SEQUENCE:1|RECURRENCE-ID:20260512T080000Z|DTSTART:20260512T150000Z|DURATION:PT1H",
			"5 09:00-10:00, 12 11:00-12:00, 19 09:00-10:00, 26 09:00-10:00"},
		{"this and all following moved", "|--|UID:1|RECURRENCE-ID;RANGE=THISANDFUTURE;TZID=Europe/Lisbon:20260512T090000|DTSTART;TZID=Europe/Lisbon:20260513T110000|DURATION:PT2H",
			"5 09:00-10:00, 13 11:00-13:00, 20 11:00-13:00, 27 11:00-13:00"},
	} {
		got, troubles := found(t, vevent(strings.Split(weekly+c.lines, "|")...), options(t))
		assert.Empty(t, troubles, c.name)
		assert.Equal(t, c.want, strings.Join(got, ", "), c.name)
	}
}

func TestUntilIsReadInTheEventsZone(t *testing.T) {
	daily := func(until string) int {
		got, _ := found(t, vevent("UID:1", "DTSTART;TZID=America/Toronto:20260504T210000", "DURATION:PT1H", "RRULE:FREQ=DAILY;UNTIL="+until), options(t))
		return len(got)
	}
	assert.Equal(t, 2, daily("20260506T010000Z"), "21:00 in Toronto on 5 May is 01:00 UTC on 6 May")
	assert.Equal(t, 1, daily("20260506T005959Z"))
	assert.Equal(t, 2, daily("20260505T210000"), "without a zone it is the event's own clock")
	assert.Equal(t, 3, daily("20260506"), "a date means all of that day")
}

func TestTextsThatAreNotQuiteRight(t *testing.T) {
	plain := vevent("UID:1", "DTSTART:20260505T090000Z", "DTEND:20260505T100000Z", "SUMMARY:Café com a equipa")
	folded := strings.Replace(plain, "Café", "Caf\xc3\r\n \xa9", 1)
	for name, text := range map[string]string{
		"byte-order mark":                "\xef\xbb\xbf" + plain,
		"bare line feeds":                strings.ReplaceAll(plain, "\r\n", "\n"),
		"bare carriage returns":          strings.ReplaceAll(plain, "\r\n", "\r"),
		"lower case":                     strings.ReplaceAll(strings.ReplaceAll(strings.ToLower(plain), "café", "Café"), "t09", "T09"),
		"folded within a character":      folded,
		"lines that are no property":     strings.Replace(plain, "UID:1", "UID:1\r\nrubbish\r\n\r\n:x", 1),
		"text before and after":          "hello\r\n" + plain + "bye\r\n",
		"an END too many":                plain + "END:VEVENT\r\n",
		"an alarm with its own DURATION": strings.Replace(plain, "END:VEVENT", "BEGIN:VALARM\r\nDURATION:PT5M\r\nDTSTART:19990101T000000Z\r\nEND:VALARM\r\nEND:VEVENT", 1),
	} {
		calendar, err := busy.Read([]byte(text), options(t))
		require.NoError(t, err, name)
		got, troubles := calendar.Busy(may2026)
		assert.Empty(t, troubles, name)
		require.Len(t, got, 1, name)
		assert.Equal(t, "2026-05-05T09:00:00Z", got[0].Start.String(), name)
		assert.Contains(t, got[0].Title, "Café", name)
	}
}

func TestABrokenEventIsReportedAndTheRestCounts(t *testing.T) {
	good := "UID:9|SUMMARY:Good|DTSTART:20260505T090000Z|DTEND:20260505T100000Z"
	for lines, problem := range map[string]string{
		"SUMMARY:Bad":                                                       "no start",
		"SUMMARY:Bad|DTSTART:2026-05-05":                                    "is not a date",
		"SUMMARY:Bad|DTSTART:20260231T090000Z":                              "is not a date",
		"SUMMARY:Bad|DTSTART:20260505T090000Z|DTEND:20260505T080000Z":       "ends before it starts",
		"SUMMARY:Bad|DTSTART:20260505T090000Z|DURATION:-PT1H":               "ends before it starts",
		"SUMMARY:Bad|DTSTART:20260505T090000Z|DURATION:1 hour":              "is not a duration",
		"SUMMARY:Bad|DTSTART:20260505T090000Z|RRULE:FREQ=SOMETIMES":         `“FREQ=SOMETIMES” cannot be read`,
		"SUMMARY:Bad|DTSTART:20260505T090000Z|RRULE:FREQ=DAILY;INTERVAL=0":  "1 or more",
		"SUMMARY:Bad|DTSTART:20260505T090000Z|RRULE:FREQ=DAILY;BYMONTH=13":  "from 1 to 12",
		"SUMMARY:Bad|DTSTART:20260505T090000Z|RDATE;VALUE=PERIOD:2026/PT1H": "RDATE",
	} {
		got, troubles := found(t, vevent(strings.Split(lines+"|--|"+good, "|")...), options(t))
		assert.Equal(t, []string{"5 10:00-11:00"}, got, lines)
		require.Len(t, troubles, 1, lines)
		assert.Equal(t, "Bad", troubles[0].Title)
		assert.Contains(t, troubles[0].String(), problem)
	}
	_, err := busy.Read([]byte("<html>Sign in</html>"), options(t))
	assert.ErrorIs(t, err, busy.ErrNoCalendar)
	got, troubles := found(t, strings.TrimSuffix(vevent(strings.Split(good, "|")...), "END:VEVENT\r\nEND:VCALENDAR\r\n"), options(t))
	assert.Len(t, got, 1)
	require.Len(t, troubles, 1)
	assert.Contains(t, troubles[0].Problem.Sentence, "ends in the middle")
}

func TestSeveralCalendarsInOneTextAndFreeBusy(t *testing.T) {
	text := vevent("UID:1", "DTSTART:20260505T090000Z", "DURATION:PT1H") +
		vevent("UID:2", "DTSTART:20260506T090000Z", "DURATION:PT1H") +
		"BEGIN:VCALENDAR\nBEGIN:VFREEBUSY\nFREEBUSY:20260507T080000Z/PT1H,20260507T100000Z/20260507T110000Z\n" +
		"FREEBUSY;FBTYPE=FREE:20260508T080000Z/PT1H\nFREEBUSY;FBTYPE=BUSY-UNAVAILABLE:20260509T080000Z/PT1H\nEND:VFREEBUSY\nEND:VCALENDAR\n"
	got, troubles := found(t, text, options(t))
	assert.Empty(t, troubles)
	assert.Equal(t, []string{"5 10:00-11:00", "6 10:00-11:00", "7 09:00-10:00", "7 11:00-12:00", "9 09:00-10:00"}, got)
}

func TestTimeZonesByEveryName(t *testing.T) {
	own := `BEGIN:VTIMEZONE
TZID:Depot time
BEGIN:DAYLIGHT
DTSTART:19810329T020000
TZOFFSETFROM:+0100
TZOFFSETTO:+0200
RRULE:FREQ=YEARLY;BYMONTH=3;BYDAY=-1SU
END:DAYLIGHT
BEGIN:STANDARD
DTSTART:19961027T030000
TZOFFSETFROM:+0200
TZOFFSETTO:+0100
RRULE:FREQ=YEARLY;BYMONTH=10;BYDAY=-1SU
END:STANDARD
END:VTIMEZONE
`
	wrong := strings.ReplaceAll(strings.ReplaceAll(own, "Depot time", "Europe/Lisbon"), "+0200", "+0900")
	for _, c := range []struct{ tzid, definition, want, why string }{
		{"Europe/Oslo", "", "08:00", "an IANA name"},
		{"W. Europe Standard Time", "", "08:00", "a Windows name (CLDR)"},
		{"/example.org/20260101_1/Europe/Oslo", "", "08:00", "a name with a prefix"},
		{"Depot time", own, "08:00", "the calendar's own definition, summer"},
		{"Europe/Lisbon", wrong, "09:00", "a known name means the zone data, whatever its definition says"},
		{"Nobody knows", "", "09:00", "else the calendar's zone"},
	} {
		text := "BEGIN:VCALENDAR\n" + c.definition + "BEGIN:VEVENT\nUID:1\nDTSTART;TZID=" + c.tzid + ":20260505T100000\nDURATION:PT1H\nEND:VEVENT\nEND:VCALENDAR\n"
		calendar, err := busy.Read([]byte(text), options(t))
		require.NoError(t, err)
		got, troubles := calendar.Busy(may2026)
		require.Len(t, got, 1, c.why)
		assert.Equal(t, c.want, got[0].Start.Time().Format("15:04"), c.why)
		assert.Equal(t, c.tzid == "Nobody knows", len(troubles) == 1, "only a name that had to be guessed is reported")
	}
	winter := "BEGIN:VCALENDAR\n" + own + "BEGIN:VEVENT\nUID:1\nDTSTART;TZID=Depot time:20261205T100000\nDURATION:PT1H\nEND:VEVENT\nEND:VCALENDAR\n"
	calendar, err := busy.Read([]byte(winter), options(t))
	require.NoError(t, err)
	got, _ := calendar.Busy(span.Of(time.Date(2026, 12, 1, 0, 0, 0, 0, time.UTC), time.Date(2026, 12, 31, 0, 0, 0, 0, time.UTC)))
	require.Len(t, got, 1)
	assert.Equal(t, "09:00", got[0].Start.Time().Format("15:04"), "the calendar's own definition, winter")
}

// Unbounded these would take years.
func TestHostileRulesCostLittle(t *testing.T) {
	for _, rule := range []string{
		"FREQ=SECONDLY", "FREQ=SECONDLY;BYMONTH=2;BYMONTHDAY=30", "FREQ=DAILY;BYMONTH=2;BYMONTHDAY=30", "FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30;COUNT=5",
		"FREQ=SECONDLY;COUNT=2000000000", "FREQ=MINUTELY;BYHOUR=3;BYSETPOS=300", "FREQ=YEARLY;INTERVAL=2147483647", "FREQ=HOURLY;INTERVAL=7;BYDAY=5MO",
	} {
		_, troubles := found(t, vevent("UID:1", "DTSTART:19700101T000000Z", "DURATION:PT1S", "RRULE:"+rule), options(t))
		assert.LessOrEqual(t, len(troubles), 1, rule)
	}
	text := vevent(strings.Repeat("UID:1\r\nDTSTART:19700101T000000Z\r\nDURATION:PT1S\r\nRRULE:FREQ=SECONDLY;COUNT=2000000000\r\n--\r\n", 3000) + "UID:2\r\nDTSTART:20260505T090000Z")
	_, _ = found(t, strings.ReplaceAll(text, "UID:1", "X-NO-UID:1"), options(t))
}

func TestHostileRulesAreBoundedByWhatComesOut(t *testing.T) {
	minutes := make([]string, 60)
	for i := range minutes {
		minutes[i] = fmt.Sprint(i)
	}
	within := span.Of(time.Date(2026, 5, 1, 0, 0, 0, 0, time.UTC), time.Date(2027, 5, 1, 0, 0, 0, 0, time.UTC))
	each := "UID:%d\r\nDTSTART:20260101T000000Z\r\nDURATION:PT1S\r\nRRULE:FREQ=SECONDLY;INTERVAL=2;BYMINUTE=" + strings.Join(minutes, ",") + "\r\n--\r\n"
	var text strings.Builder
	for i := range 60 {
		fmt.Fprintf(&text, each, i)
	}
	calendar, err := busy.Read([]byte(vevent(text.String()+"UID:last\r\nDTSTART:20260505T090000Z\r\nDURATION:PT1H")), busy.Options{})
	require.NoError(t, err)
	got, troubles := calendar.Busy(within)
	assert.LessOrEqual(t, len(got), 100_000+61*51)
	assert.Equal(t, 60, len(troubles), "each is told")
	assert.Equal(t, within.End, busy.Merged(got, within)[0].End, "where it can't be known whether it is free, it isn't")

	// One that ends is unknown only until then; what doesn't block, stays free.
	for rule, want := range map[string]int{"RRULE:FREQ=SECONDLY;UNTIL=20260601T000000Z": 1, "RRULE:FREQ=SECONDLY;UNTIL=20260601T000000Z\r\nTRANSP:TRANSPARENT": 0} {
		calendar, err = busy.Read([]byte(vevent("UID:1\r\nDTSTART:19700101T000000Z\r\nDURATION:PT1S\r\n"+rule)), busy.Options{})
		require.NoError(t, err)
		got, _ = calendar.Busy(within)
		merged := busy.Merged(got, within)
		require.Len(t, merged, want, rule)
		if want == 1 {
			assert.Less(t, merged[0].End, span.At(time.Date(2026, 6, 4, 0, 0, 0, 0, time.UTC)))
		}
	}
}

// Random rules against rrule-go, an independent engine, run on the same wall clock.
func TestRandomRulesAgreeWithAnotherEngine(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		text, hasSetPos := randomRule(t)
		start := time.Date(2020, time.Month(rapid.IntRange(1, 12).Draw(t, "month")), rapid.IntRange(1, 28).Draw(t, "day"), rapid.IntRange(0, 23).Draw(t, "hour"), 30, 0, 0, time.UTC)
		reference, err := rrule.StrToRRule(text)
		require.NoError(t, err)
		reference.DTStart(start)
		from := start.AddDate(0, 0, rapid.IntRange(0, 900).Draw(t, "after"))
		within := span.Of(from, from.AddDate(0, 4, 0))

		want := map[string]bool{}
		first := reference.After(start, true)
		if strings.Contains(text, "COUNT") && !first.Equal(start) || hasSetPos && strings.Contains(text, "COUNT") {
			return // whether an unmatched DTSTART counts is where engines differ; the RFC says it does
		}
		for _, at := range reference.Between(from, within.End.Time().Add(-time.Second), true) {
			want[at.Format(time.RFC3339)] = true
		}
		if within.Holds(span.At(start)) {
			want[start.Format(time.RFC3339)] = true // DTSTART is always the first occurrence (RFC 5545, 3.8.5.3)
		}
		lines := fmt.Sprintf("UID:1\r\nDTSTART:%sZ\r\nDURATION:PT1S\r\nRRULE:%s", start.Format("20060102T150405"), text)
		calendar, err := busy.Read([]byte(vevent(lines)), busy.Options{})
		require.NoError(t, err)
		stretches, troubles := calendar.Busy(within)
		require.Empty(t, troubles)
		got := map[string]bool{}
		for _, b := range stretches {
			got[b.Start.String()] = true
		}
		assert.Equal(t, want, got, "%s from %s", text, start)
	})
}

func randomRule(t *rapid.T) (text string, hasSetPos bool) {
	freq := rapid.SampledFrom([]string{"YEARLY", "MONTHLY", "WEEKLY", "DAILY", "HOURLY"}).Draw(t, "freq")
	parts := []string{"FREQ=" + freq, fmt.Sprintf("INTERVAL=%d", rapid.IntRange(1, 5).Draw(t, "interval"))}
	maybe := func(name string, values ...string) bool {
		if !rapid.Bool().Draw(t, name+"?") {
			return false
		}
		picked := rapid.SliceOfNDistinct(rapid.SampledFrom(values), 1, 3, rapid.ID[string]).Draw(t, name)
		parts = append(parts, name+"="+strings.Join(picked, ","))
		return true
	}
	maybe("BYMONTH", "1", "2", "5", "11")
	byDay := false
	if freq == "MONTHLY" && rapid.Bool().Draw(t, "nth") {
		byDay = maybe("BYDAY", "1MO", "2TU", "-1FR", "3SU") // mixed with plain weekdays, the other engine wants both to hold
	} else {
		byDay = maybe("BYDAY", "MO", "TU", "FR", "SU")
	}
	// The other engine never ends on an hourly rule that nothing matches, so those stay simple.
	if freq != "WEEKLY" && freq != "HOURLY" {
		maybe("BYMONTHDAY", "1", "13", "28", "-1", "-3")
	}
	if freq != "HOURLY" {
		maybe("BYHOUR", "8", "9", "17")
	}
	if freq == "YEARLY" && byDay {
		maybe("BYWEEKNO", "1", "20", "53", "-1")
	}
	// With WEEKLY, the other engine counts BYSETPOS in a first week cut at DTSTART, we in the whole week.
	if byDay && freq != "HOURLY" && freq != "WEEKLY" {
		hasSetPos = maybe("BYSETPOS", "1", "2", "-1")
	}
	if rapid.Bool().Draw(t, "count?") {
		parts = append(parts, fmt.Sprintf("COUNT=%d", rapid.IntRange(1, 40).Draw(t, "count")))
	}
	parts = append(parts, "WKST="+rapid.SampledFrom([]string{"MO", "SU"}).Draw(t, "WKST"))
	return strings.Join(parts, ";"), hasSetPos
}

func FuzzRead(f *testing.F) {
	f.Add(vevent("UID:1", "DTSTART;TZID=Europe/Lisbon:20260407T090000", "DURATION:PT1H", "RRULE:FREQ=WEEKLY;BYDAY=TU,FR", "EXDATE:20260512T080000Z"))
	f.Add("BEGIN:VCALENDAR\nBEGIN:VFREEBUSY\nFREEBUSY:20260507T080000Z/PT1H\nEND:VFREEBUSY")
	f.Fuzz(func(t *testing.T, text string) {
		calendar, err := busy.Read([]byte(text), busy.Options{AllDayBusy: true, TentativeBusy: true})
		if err != nil {
			return
		}
		stretches, _ := calendar.Busy(may2026)
		for _, b := range stretches {
			assert.True(t, b.Overlaps(may2026))
		}
	})
}

func BenchmarkReadTwoThousandEvents(b *testing.B) {
	var text strings.Builder
	text.WriteString("BEGIN:VCALENDAR\r\n")
	for i := range 2000 {
		fmt.Fprintf(&text, "BEGIN:VEVENT\r\nUID:%d@example.org\r\nDTSTAMP:20260101T000000Z\r\nSUMMARY:Meeting %d\r\nDTSTART;TZID=Europe/Lisbon:2026%02d%02dT%02d0000\r\nDTEND;TZID=Europe/Lisbon:2026%02d%02dT%02d4500\r\n", i, i, i%12+1, i%28+1, 8+i%9, i%12+1, i%28+1, 8+i%9)
		if i%10 == 0 {
			text.WriteString("RRULE:FREQ=WEEKLY;BYDAY=MO,WE\r\nEXDATE;TZID=Europe/Lisbon:20260504T090000\r\n")
		}
		text.WriteString("END:VEVENT\r\n")
	}
	text.WriteString("END:VCALENDAR\r\n")
	raw := []byte(text.String())
	within := span.Of(time.Date(2026, 5, 1, 0, 0, 0, 0, time.UTC), time.Date(2026, 6, 30, 0, 0, 0, 0, time.UTC))
	for b.Loop() {
		calendar, err := busy.Read(raw, busy.Options{Zone: lisbon(b), TentativeBusy: true, AllDayBusy: true})
		require.NoError(b, err)
		calendar.Busy(within)
	}
}

// RFC 5545 contradicts itself: 3.3.10 has an occurrence at a local time that doesn't exist ignored and not counted, 3.3.5 has such a time
// read with the offset before the gap. Engines that people's calendars are drawn with do the latter (see docs/decisions.md), so it
// blocks, and counts.
func TestAnOccurrenceInAClockGapBlocksWithTheOffsetBeforeIt(t *testing.T) {
	// In Lisbon, 29 March 2026 has no 01:30; with the offset before the gap it is 01:30 UTC, which the clock there shows as 02:30.
	lines := "UID:1\r\nDTSTART;TZID=Europe/Lisbon:20260327T013000\r\nDURATION:PT10M\r\nRRULE:FREQ=DAILY;COUNT=4"
	calendar, err := busy.Read([]byte(vevent(lines)), options(t))
	require.NoError(t, err)
	got, troubles := calendar.Busy(span.Of(time.Date(2026, 3, 1, 0, 0, 0, 0, time.UTC), time.Date(2026, 5, 1, 0, 0, 0, 0, time.UTC)))
	assert.Empty(t, troubles)
	var days []string
	for _, b := range got {
		days = append(days, b.Start.Time().In(lisbon(t)).Format("2 Jan 15:04"))
	}
	assert.Equal(t, []string{"27 Mar 01:30", "28 Mar 01:30", "29 Mar 02:30", "30 Mar 01:30"}, days)
}

func TestZoneNamesAreFoundWithTheirEscapesAndInAnyCase(t *testing.T) {
	// As a mail server's calendar writes it; the definition is made up.
	own := "BEGIN:VTIMEZONE\nTZID:(UTC+05:00) Amsterdam\\, Berlin\\, Rome\nBEGIN:STANDARD\nDTSTART:19700101T000000\nTZOFFSETFROM:+0500\nTZOFFSETTO:+0500\nEND:STANDARD\nEND:VTIMEZONE\n"
	for tzid, want := range map[string]string{
		`"(UTC+05:00) Amsterdam, Berlin, Rome"`: "05:00", `(UTC+05:00) Amsterdam\, Berlin\, Rome`: "05:00", `(utc+05:00) amsterdam\, berlin\, rome`: "05:00",
		"EUROPE/OSLO": "08:00", "w. europe standard time": "08:00", "america/new_york": "14:00",
	} {
		name, _, _ := strings.Cut(tzid, `"`)
		if name == "" {
			name = tzid
		}
		text := "BEGIN:VCALENDAR\n" + own + "BEGIN:VEVENT\nUID:1\nDTSTART;TZID=" + tzid + ":20260505T100000\nDURATION:PT1H\nEND:VEVENT\nEND:VCALENDAR\n"
		calendar, err := busy.Read([]byte(text), options(t))
		require.NoError(t, err)
		got, troubles := calendar.Busy(may2026)
		assert.Empty(t, troubles, tzid)
		require.Len(t, got, 1, tzid)
		assert.Equal(t, want, got[0].Start.Time().UTC().Format("15:04"), tzid)
	}
}

func TestWhatMayHideBusyTimeIsKnownToBeUnknown(t *testing.T) {
	for text, unknown := range map[string]int{
		vevent("UID:1\r\nDTSTART:20260505T090000Z\r\nDURATION:PT1H"):                                           0,
		vevent("UID:1\r\nDTSTART:20260505T090000Z\r\nRRULE:FREQ=SOMETIMES"):                                    0,
		vevent("UID:1\r\nSUMMARY:Dentist\r\nDTSTART:next Tuesday\r\nDURATION:PT1H"):                            1,
		"BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\nUID:1\r\nDTSTART:20260505T090000Z\r\nEND:VEVENT\r\nBEGIN:VEVENT\r": 1,
	} {
		calendar, err := busy.Read([]byte(text), options(t))
		require.NoError(t, err)
		assert.Len(t, calendar.Unknown(), unknown, text)
	}
}

func TestADayMayBeWrittenFromMidnightToMidnight(t *testing.T) {
	calendar, err := busy.Read([]byte(vevent("UID:1\r\nDTSTART;TZID=Europe/Lisbon:20260501T000000\r\nDTEND;TZID=Europe/Lisbon:20260502T000000")), options(t))
	require.NoError(t, err)
	got, _ := calendar.Busy(may2026)
	require.Len(t, got, 1)
	assert.True(t, got[0].AllDay)
}

func TestAnInvitationDeclinedUnderAnyOfTheOwnersAddressesIsFree(t *testing.T) {
	o := options(t)
	o.Owners = append(o.Owners, "ines.valadares@work.example")
	got, _ := found(t, vevent("UID:1\r\nDTSTART:20260505T090000Z\r\nDURATION:PT1H\r\nATTENDEE;PARTSTAT=DECLINED:mailto:Ines.Valadares@work.example"), o)
	assert.Empty(t, got)
}

// An entry that its host made a whole day of is still the one with the UID.
func TestAnEventIsKnownByItsUIDWhateverBecameOfItsStart(t *testing.T) {
	text := []byte(vevent("UID:one@corrim\r\nDTSTART;VALUE=DATE:20260505"))
	assert.True(t, busy.HasEvent(text, "one@corrim"))
	assert.False(t, busy.HasEvent(text, "one@corri"), "a part of a UID is none")
	_, told := busy.StartOf(text, "one@corrim")
	assert.False(t, told)
}
