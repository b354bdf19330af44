package busy_test

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/busy"
	"corrim/core/civil"
	"corrim/core/span"
)

// The examples of RFC 5545, 3.8.5.3, in its order, with the dates that the RFC lists. All are in New York time. Dates
// are written "Sep 2-11" or "Sep 2,4"; a year heads the months that follow. Where the RFC ends a list with "...", the
// list is compared as far as it goes.
var rfcExamples = []struct{ name, start, rule, want string }{
	{"daily for 10 occurrences", "19970902T090000", "RRULE:FREQ=DAILY;COUNT=10", "1997 Sep 2-11"},
	{"daily until December 24, 1997", "19970902T090000", "RRULE:FREQ=DAILY;UNTIL=19971224T000000Z", "1997 Sep 2-30 Oct 1-31 Nov 1-30 Dec 1-23"},
	{"every other day - forever", "19970902T090000", "RRULE:FREQ=DAILY;INTERVAL=2", "1997 Sep 2,4,6,8,10,12,14,16,18,20,22,24,26,28,30 Oct 2,4,6,8,10,12,14,16,18,20,22,24,26,28,30 Nov 1,3,5,7,9,11,13,15,17,19,21,23,25,27,29 Dec 1,3 ..."},
	{"every 10 days, 5 occurrences", "19970902T090000", "RRULE:FREQ=DAILY;INTERVAL=10;COUNT=5", "1997 Sep 2,12,22 Oct 2,12"},
	{"every day in January, for 3 years, yearly", "19980101T090000", "RRULE:FREQ=YEARLY;UNTIL=20000131T140000Z;BYMONTH=1;BYDAY=SU,MO,TU,WE,TH,FR,SA", "1998 Jan 1-31 1999 Jan 1-31 2000 Jan 1-31"},
	{"every day in January, for 3 years, daily", "19980101T090000", "RRULE:FREQ=DAILY;UNTIL=20000131T140000Z;BYMONTH=1", "1998 Jan 1-31 1999 Jan 1-31 2000 Jan 1-31"},
	{"weekly for 10 occurrences", "19970902T090000", "RRULE:FREQ=WEEKLY;COUNT=10", "1997 Sep 2,9,16,23,30 Oct 7,14,21,28 Nov 4"},
	{"weekly until December 24, 1997", "19970902T090000", "RRULE:FREQ=WEEKLY;UNTIL=19971224T000000Z", "1997 Sep 2,9,16,23,30 Oct 7,14,21,28 Nov 4,11,18,25 Dec 2,9,16,23"},
	{"every other week - forever", "19970902T090000", "RRULE:FREQ=WEEKLY;INTERVAL=2;WKST=SU", "1997 Sep 2,16,30 Oct 14,28 Nov 11,25 Dec 9,23 1998 Jan 6,20 Feb 3,17 ..."},
	{"weekly on Tuesday and Thursday for five weeks", "19970902T090000", "RRULE:FREQ=WEEKLY;UNTIL=19971007T000000Z;WKST=SU;BYDAY=TU,TH", "1997 Sep 2,4,9,11,16,18,23,25,30 Oct 2"},
	{"weekly on Tuesday and Thursday, 10 occurrences", "19970902T090000", "RRULE:FREQ=WEEKLY;COUNT=10;WKST=SU;BYDAY=TU,TH", "1997 Sep 2,4,9,11,16,18,23,25,30 Oct 2"},
	{"every other week on Monday, Wednesday, and Friday", "19970901T090000", "RRULE:FREQ=WEEKLY;INTERVAL=2;UNTIL=19971224T000000Z;WKST=SU;BYDAY=MO,WE,FR", "1997 Sep 1,3,5,15,17,19,29 Oct 1,3,13,15,17,27,29,31 Nov 10,12,14,24,26,28 Dec 8,10,12,22"},
	{"every other week on Tuesday and Thursday, 8 occurrences", "19970902T090000", "RRULE:FREQ=WEEKLY;INTERVAL=2;COUNT=8;WKST=SU;BYDAY=TU,TH", "1997 Sep 2,4,16,18,30 Oct 2,14,16"},
	{"monthly on the first Friday for 10 occurrences", "19970905T090000", "RRULE:FREQ=MONTHLY;COUNT=10;BYDAY=1FR", "1997 Sep 5 Oct 3 Nov 7 Dec 5 1998 Jan 2 Feb 6 Mar 6 Apr 3 May 1 Jun 5"},
	{"monthly on the first Friday until December 24, 1997", "19970905T090000", "RRULE:FREQ=MONTHLY;UNTIL=19971224T000000Z;BYDAY=1FR", "1997 Sep 5 Oct 3 Nov 7 Dec 5"},
	{"every other month on the first and last Sunday", "19970907T090000", "RRULE:FREQ=MONTHLY;INTERVAL=2;COUNT=10;BYDAY=1SU,-1SU", "1997 Sep 7,28 Nov 2,30 1998 Jan 4,25 Mar 1,29 May 3,31"},
	{"monthly on the second-to-last Monday for 6 months", "19970922T090000", "RRULE:FREQ=MONTHLY;COUNT=6;BYDAY=-2MO", "1997 Sep 22 Oct 20 Nov 17 Dec 22 1998 Jan 19 Feb 16"},
	{"monthly on the third-to-the-last day of the month", "19970928T090000", "RRULE:FREQ=MONTHLY;BYMONTHDAY=-3", "1997 Sep 28 Oct 29 Nov 28 Dec 29 1998 Jan 29 Feb 26 ..."},
	{"monthly on the 2nd and 15th, 10 occurrences", "19970902T090000", "RRULE:FREQ=MONTHLY;COUNT=10;BYMONTHDAY=2,15", "1997 Sep 2,15 Oct 2,15 Nov 2,15 Dec 2,15 1998 Jan 2,15"},
	{"monthly on the first and last day, 10 occurrences", "19970930T090000", "RRULE:FREQ=MONTHLY;COUNT=10;BYMONTHDAY=1,-1", "1997 Sep 30 Oct 1,31 Nov 1,30 Dec 1,31 1998 Jan 1,31 Feb 1"},
	{"every 18 months on the 10th thru 15th", "19970910T090000", "RRULE:FREQ=MONTHLY;INTERVAL=18;COUNT=10;BYMONTHDAY=10,11,12,13,14,15", "1997 Sep 10-15 1999 Mar 10-13"},
	{"every Tuesday, every other month", "19970902T090000", "RRULE:FREQ=MONTHLY;INTERVAL=2;BYDAY=TU", "1997 Sep 2,9,16,23,30 Nov 4,11,18,25 1998 Jan 6,13,20,27 Mar 3,10,17,24,31 ..."},
	{"yearly in June and July for 10 occurrences", "19970610T090000", "RRULE:FREQ=YEARLY;COUNT=10;BYMONTH=6,7", "1997 Jun 10 Jul 10 1998 Jun 10 Jul 10 1999 Jun 10 Jul 10 2000 Jun 10 Jul 10 2001 Jun 10 Jul 10"},
	{"every other year in January, February, and March", "19970310T090000", "RRULE:FREQ=YEARLY;INTERVAL=2;COUNT=10;BYMONTH=1,2,3", "1997 Mar 10 1999 Jan 10 Feb 10 Mar 10 2001 Jan 10 Feb 10 Mar 10 2003 Jan 10 Feb 10 Mar 10"},
	{"every third year on the 1st, 100th, and 200th day", "19970101T090000", "RRULE:FREQ=YEARLY;INTERVAL=3;COUNT=10;BYYEARDAY=1,100,200", "1997 Jan 1 Apr 10 Jul 19 2000 Jan 1 Apr 9 Jul 18 2003 Jan 1 Apr 10 Jul 19 2006 Jan 1"},
	{"every 20th Monday of the year", "19970519T090000", "RRULE:FREQ=YEARLY;BYDAY=20MO", "1997 May 19 1998 May 18 1999 May 17 ..."},
	{"Monday of week number 20", "19970512T090000", "RRULE:FREQ=YEARLY;BYWEEKNO=20;BYDAY=MO", "1997 May 12 1998 May 11 1999 May 17 ..."},
	{"every Thursday in March", "19970313T090000", "RRULE:FREQ=YEARLY;BYMONTH=3;BYDAY=TH", "1997 Mar 13,20,27 1998 Mar 5,12,19,26 1999 Mar 4,11,18,25 ..."},
	{"every Thursday, but only during June, July, and August", "19970605T090000", "RRULE:FREQ=YEARLY;BYDAY=TH;BYMONTH=6,7,8", "1997 Jun 5,12,19,26 Jul 3,10,17,24,31 Aug 7,14,21,28 1998 Jun 4,11,18,25 Jul 2,9,16,23,30 Aug 6,13,20,27 ..."},
	{"every Friday the 13th", "19970902T090000", "EXDATE;TZID=America/New_York:19970902T090000\r\nRRULE:FREQ=MONTHLY;BYDAY=FR;BYMONTHDAY=13", "1998 Feb 13 Mar 13 Nov 13 1999 Aug 13 2000 Oct 13 ..."},
	{"the first Saturday that follows the first Sunday", "19970913T090000", "RRULE:FREQ=MONTHLY;BYDAY=SA;BYMONTHDAY=7,8,9,10,11,12,13", "1997 Sep 13 Oct 11 Nov 8 Dec 13 1998 Jan 10 Feb 7 Mar 7 Apr 11 May 9 Jun 13 ..."},
	{"U.S. Presidential Election day", "19961105T090000", "RRULE:FREQ=YEARLY;INTERVAL=4;BYMONTH=11;BYDAY=TU;BYMONTHDAY=2,3,4,5,6,7,8", "1996 Nov 5 2000 Nov 7 2004 Nov 2 ..."},
	{"the third of Tuesday, Wednesday, or Thursday, for 3 months", "19970904T090000", "RRULE:FREQ=MONTHLY;COUNT=3;BYDAY=TU,WE,TH;BYSETPOS=3", "1997 Sep 4 Oct 7 Nov 6"},
	{"the second-to-last weekday of the month", "19970929T090000", "RRULE:FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-2", "1997 Sep 29 Oct 30 Nov 27 Dec 30 1998 Jan 29 Feb 26 Mar 30 ..."},
	{"WKST=MO", "19970805T090000", "RRULE:FREQ=WEEKLY;INTERVAL=2;COUNT=4;BYDAY=TU,SU;WKST=MO", "1997 Aug 5,10,19,24"},
	{"WKST=SU changes the result", "19970805T090000", "RRULE:FREQ=WEEKLY;INTERVAL=2;COUNT=4;BYDAY=TU,SU;WKST=SU", "1997 Aug 5,17,19,31"},
	{"an invalid date is ignored", "20070115T090000", "RRULE:FREQ=MONTHLY;BYMONTHDAY=15,30;COUNT=5", "2007 Jan 15,30 Feb 15 Mar 15,30"},
}

func TestRFC5545RecurrenceExamples(t *testing.T) {
	newYork, err := civil.LoadZone("America/New_York")
	require.NoError(t, err)
	for _, example := range rfcExamples {
		want, open := dates(t, example.want)
		got := starts(t, example.start, example.rule, newYork)
		for _, at := range got {
			assert.Equal(t, "09:00", at.Format("15:04"), "%s keeps its wall clock", example.name)
		}
		var days []string
		for _, at := range got {
			days = append(days, at.Format(time.DateOnly))
		}
		if open && len(days) > len(want) {
			days = days[:len(want)]
		}
		assert.Equal(t, want, days, example.name)
	}
}

// RFC 5545, 3.8.5.3: the examples that repeat within a day.
func TestRFC5545ExamplesWithinADay(t *testing.T) {
	newYork, err := civil.LoadZone("America/New_York")
	require.NoError(t, err)
	clocks := func(rule string, n int) (out []string) {
		for _, at := range starts(t, "19970902T090000", rule, newYork)[:n] {
			out = append(out, at.Format("2 15:04"))
		}
		return out
	}
	assert.Equal(t, []string{"2 09:00", "2 12:00", "2 15:00"}, clocks("RRULE:FREQ=HOURLY;INTERVAL=3;UNTIL=19970902T210000Z", 3),
		"every 3 hours from 9:00 AM to 5:00 PM; the RFC writes UNTIL=19970902T170000Z, which is 1 PM in New York; 5 PM is what its sentence and its dates mean")
	assert.Equal(t, []string{"2 09:00", "2 09:15", "2 09:30", "2 09:45", "2 10:00", "2 10:15"}, clocks("RRULE:FREQ=MINUTELY;INTERVAL=15;COUNT=6", 6))
	assert.Equal(t, []string{"2 09:00", "2 10:30", "2 12:00", "2 13:30"}, clocks("RRULE:FREQ=MINUTELY;INTERVAL=90;COUNT=4", 4))
	daily := clocks("RRULE:FREQ=DAILY;BYHOUR=9,10,11,12,13,14,15,16;BYMINUTE=0,20,40", 48)
	assert.Equal(t, []string{"2 09:00", "2 09:20", "2 09:40", "2 10:00"}, daily[:4])
	assert.Equal(t, []string{"2 16:40", "3 09:00"}, daily[23:25])
	assert.Equal(t, daily, clocks("RRULE:FREQ=MINUTELY;INTERVAL=20;BYHOUR=9,10,11,12,13,14,15,16", 48))
}

// starts lists the local starts of an event of one hour with the rule, over twelve years.
func starts(t *testing.T, start, rule string, zone *time.Location) []time.Time {
	t.Helper()
	text := "BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\nUID:1\r\nDTSTART;TZID=America/New_York:" + start + "\r\nDURATION:PT1M\r\n" + rule + "\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n"
	calendar, err := busy.Read([]byte(text), busy.Options{})
	require.NoError(t, err)
	from := time.Date(1996, 1, 1, 0, 0, 0, 0, time.UTC)
	years := 12
	if strings.Contains(rule, "BYHOUR") {
		years = 3 // many times a day
	}
	found, troubles := calendar.Busy(span.Of(from, from.AddDate(years, 0, 0)))
	require.Empty(t, troubles, rule)
	var out []time.Time
	for _, b := range found {
		out = append(out, b.Start.Time().In(zone))
	}
	return out
}

// dates reads "1997 Sep 2-4 Oct 1,3 ..." as dates; open tells whether the list goes on.
func dates(t *testing.T, text string) (out []string, open bool) {
	t.Helper()
	year, month := "", ""
	for word := range strings.FieldsSeq(text) {
		switch {
		case word == "...":
			open = true
		case len(word) == 4 && word > "1900" && !strings.ContainsAny(word, ",-"):
			year = word
		case word[0] > '9':
			month = word
		default:
			for part := range strings.SplitSeq(word, ",") {
				var first, last int
				if n, _ := fmt.Sscanf(part, "%d-%d", &first, &last); n == 1 {
					last = first
				}
				for d := first; d <= last; d++ {
					at, err := time.Parse("2006 Jan 2", fmt.Sprintf("%s %s %d", year, month, d))
					require.NoError(t, err)
					out = append(out, at.Format(time.DateOnly))
				}
			}
		}
	}
	return out, open
}

// RFC 5545, 3.8.5.3: weekly for ten occurrences; every other week on Monday, Wednesday and Friday until December 24; the
// second-to-last weekday of the month. Times are New York's clock, as in its examples.
func TestARuleRepeatsAWallClockTime(t *testing.T) {
	zone, err := civil.LoadZone("America/New_York")
	require.NoError(t, err)
	at := func(date string) civil.Clock {
		d, err := civil.ParseDate(date)
		require.NoError(t, err)
		return civil.Clock{Date: d, Seconds: 9 * 3600}
	}
	for rule, want := range map[string][2]string{
		"FREQ=WEEKLY;COUNT=10": {"1997-09-02", "1997-11-04"},
		"FREQ=WEEKLY;INTERVAL=2;UNTIL=19971224T000000Z;WKST=SU;BYDAY=MO,WE,FR": {"1997-09-01", "1997-12-22"},
		"FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-2;COUNT=7":                {"1997-09-29", "1998-03-30"},
	} {
		times, err := busy.Repeat(rule, at(want[0]), zone, 60)
		require.NoError(t, err, rule)
		assert.Equal(t, at(want[0]), times[0])
		assert.Equal(t, at(want[1]), times[len(times)-1], rule)
	}
	for rule, why := range map[string]string{
		"FREQ=DAILY": "more than 60 times", "FREQ=HOURLY;COUNT=3": "within a day", "COUNT=3": "no FREQ", "FREQ=WEEKLY;BYDAY=XX": "BYDAY=XX",
	} {
		_, err := busy.Repeat(rule, at("1997-09-02"), zone, 60)
		assert.ErrorContains(t, err, why)
	}
}
