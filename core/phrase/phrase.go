// Package phrase is how amounts, lists and times are put in English sentences.
package phrase

import (
	"fmt"
	"strings"
	"time"

	"corrim/core/span"
)

// Count is so many of a thing: "1 hour", "24 hours".
func Count(n int, thing string) string {
	if n == 1 {
		return "1 " + thing
	}
	return fmt.Sprintf("%d %ss", n, thing)
}

// List is names in a sentence: "Ines", "Ines and Maren", "Ines, Maren and Siew Lin".
func List(names []string) string {
	if len(names) < 2 {
		return strings.Join(names, "")
	}
	return strings.Join(names[:len(names)-1], ", ") + " and " + names[len(names)-1]
}

// Date is "Mon 4 May 2026".
func Date(i span.Instant, zone *time.Location) string {
	return i.Time().In(zone).Format("Mon 2 Jan 2006")
}

// Clock is "15:04".
func Clock(i span.Instant, zone *time.Location) string { return i.Time().In(zone).Format("15:04") }

// Moment is "Mon 4 May, 15:04".
func Moment(i span.Instant, zone *time.Location) string {
	return i.Time().In(zone).Format("Mon 2 Jan, 15:04")
}

// Stretch is "10:00–11:30", with dates if it isn't within a day.
func Stretch(s span.Span, zone *time.Location) string {
	if Date(s.Start, zone) == Date(s.End-1, zone) {
		return Clock(s.Start, zone) + "–" + Clock(s.End, zone)
	}
	return Moment(s.Start, zone) + " to " + Moment(s.End, zone)
}
