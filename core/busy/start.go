package busy

import (
	"time"

	"corrim/core/span"
)

// StartOf is when the event with a UID begins, by the zones that the text names or defines itself. It is not told for a date, a time
// without a zone, or one in a zone that nobody knows.
func StartOf(text []byte, uid string) (at span.Instant, told bool) {
	top, _ := parseComponents(text)
	for _, vcalendar := range top {
		z := newZones(time.UTC, vcalendar)
		for _, part := range vcalendar.children {
			start, has := part.first("DTSTART")
			if part.name != "VEVENT" || part.text("UID") != uid || !has {
				continue
			}
			s, err := z.stamp(start.value, start.param("TZID"))
			floats := start.param("TZID") == "" && !isUTC(start.value)
			return s.instant(), err == nil && !s.date && !floats && len(z.unknown) == 0
		}
	}
	return 0, false
}

// HasEvent tells whether a text has an event with a UID, whenever that is.
func HasEvent(text []byte, uid string) bool {
	top, _ := parseComponents(text)
	for _, vcalendar := range top {
		for _, part := range vcalendar.children {
			if part.name == "VEVENT" && part.text("UID") == uid {
				return true
			}
		}
	}
	return false
}
