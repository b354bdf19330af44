package hours

import (
	"regexp"

	"corrim/core/civil"
	"corrim/core/told"
)

// BeginsWithDate tells whether a text in English words begins with a date, like "6 jan", "tue 6 january 2026" or "2026-01-06".
func BeginsWithDate(text string) bool { return oneDay.MatchString(text) || isoDay.MatchString(text) }

// ReadDate reads the date that a text in English words begins with, and returns what follows it. Without a year it is the next such
// date from today on.
func ReadDate(text string, today civil.Date) (date civil.Date, rest string, problem told.Words) {
	date, weekday, rest, problem := readDate(text, today)
	if !problem.Any() {
		problem = rightOrder(&Differing{Change: Change{First: date, Last: date}}, weekday)
	}
	return date, rest, problem
}

var (
	oneClock = regexp.MustCompile(`^\d{1,2}(?:[:.]\d{2})?(?:\s*[ap]m?\b)?`)
	timeSpan = regexp.MustCompile(oneClock.String() + `\s*(?:-|–|—|to\b)\s*` + oneClock.String()[1:])
)

// ReadTimes reads the time of day that a text in English words begins with, or the two that an interval has, in minutes past midnight,
// and returns what follows; end is 0 if there is none.
func ReadTimes(text string) (start, end int, rest string, problem told.Words) {
	if m := timeSpan.FindString(text); m != "" {
		i, problem := parseInterval(m, asMeant, -1)
		return i.Start, i.End, text[len(m):], problem
	}
	m := oneClock.FindString(text)
	at, problem := parseClock(m)
	start = at.minutes(at.half)
	if !problem.Any() && start >= dayMinutes {
		problem = told.Say("hours-24-end", "a day starts at 0:00, so 24:00 can only be an end")
	}
	return start, 0, text[len(m):], problem
}
