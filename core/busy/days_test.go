package busy_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/busy"
	"corrim/core/civil"
)

func TestItIsKnownWhatComesEveryYear(t *testing.T) {
	t.Parallel()
	day := func(uid, start, more string) string {
		return "BEGIN:VEVENT\r\nUID:" + uid + "\r\nSUMMARY:" + uid + "\r\nDTSTART;VALUE=DATE:" + start + "\r\n" + more + "END:VEVENT\r\n"
	}
	text := "BEGIN:VCALENDAR\r\n" +
		day("Christmas", "20201225", "RRULE:FREQ=YEARLY\r\n") +
		day("Labour Day", "20200501", "RRULE:FREQ=YEARLY;BYMONTH=5;BYMONTHDAY=1\r\n") +
		day("Thanksgiving", "20201126", "RRULE:FREQ=YEARLY;BYMONTH=11;BYDAY=4TH\r\n") + // another date each year
		day("Jubilee", "20250101", "RRULE:FREQ=YEARLY;COUNT=3\r\n") + // it ends
		day("Moved", "20200303", "RRULE:FREQ=YEARLY\r\nEXDATE;VALUE=DATE:20270303\r\n") + // not each year
		"END:VCALENDAR\r\n"
	days, troubles, err := busy.WholeDays([]byte(text), civil.Date{Year: 2026, Month: time.January, Day: 1}, civil.Date{Year: 2027, Month: time.December, Day: 31}, time.UTC)
	require.NoError(t, err)
	require.Empty(t, troubles)
	found := map[string][]string{}
	for _, d := range days {
		said := d.First.String()
		if d.Yearly {
			said += " every year"
		}
		found[d.Title] = append(found[d.Title], said)
	}
	assert.Equal(t, map[string][]string{
		"Christmas": {"2026-12-25 every year", "2027-12-25 every year"}, "Labour Day": {"2026-05-01 every year", "2027-05-01 every year"}, "Thanksgiving": {"2026-11-26", "2027-11-25"},
		"Jubilee": {"2026-01-01", "2027-01-01"}, "Moved": {"2026-03-03"},
	}, found)
}
