package hours

import (
	"regexp"
	"strconv"
	"strings"

	"corrim/core/told"
)

// TextError says which piece of an hours text cannot be read and why.
type TextError struct {
	Piece   string     // as typed
	Problem told.Words // what is wrong and what to write instead
}

func (e *TextError) Error() string { return e.Told().Sentence }

// Told is the error in its reader's language.
func (e *TextError) Told() told.Words {
	return told.Say("hours-text", "“{}”: {}", e.Piece, e.Problem)
}

var (
	rangePattern = regexp.MustCompile(`^(.*?)\s*(?:-|–|—|\bto\b)\s*(.*)$`)
	clockPattern = regexp.MustCompile(`^(\d{1,2})(?:[:.](\d{2}))?\s*([ap]m?)?$`)
)

// ParseDay reads the hours of one day as people type them:
//
//	9-12, 13-17      two intervals
//	8:30-11, 3-5pm   minutes; 12-hour clock, where an end without am or pm is understood from the other end
//	22-2             past midnight, into the next day
//	0-24             all day
//	closed, or ""    no hours
//
// German words for these are understood too. The error is a *TextError.
func ParseDay(text string) (Day, error) {
	if plain := InEnglish(text); plain == "" || plain == "closed" {
		return nil, nil
	}
	var intervals []Interval
	for _, piece := range strings.Split(strings.ReplaceAll(text, ";", ","), ",") {
		interval, problem := parseInterval(InEnglish(piece))
		if problem.Any() {
			return nil, &TextError{strings.TrimSpace(piece), problem}
		}
		intervals = append(intervals, interval)
	}
	return NewDay(intervals...), nil
}

func parseInterval(piece string) (Interval, told.Words) {
	ends := rangePattern.FindStringSubmatch(piece)
	switch {
	case piece == "":
		return Interval{}, told.Say("hours-no-interval", "an interval is missing beside a comma")
	case ends == nil:
		return Interval{}, told.Say("hours-two-ends", "write a start and an end, like 9-12")
	case ends[1] == "":
		return Interval{}, told.Say("hours-no-start", "a start is missing")
	case ends[2] == "":
		return Interval{}, told.Say("hours-no-end", "an end is missing")
	}
	start, problem := parseClock(ends[1])
	if problem.Any() {
		return Interval{}, problem
	}
	end, problem := parseClock(ends[2])
	if problem.Any() {
		return Interval{}, problem
	}
	from, to := resolve(start, end)
	switch {
	case from >= dayMinutes:
		return Interval{}, told.Say("hours-24-end", "a day starts at 0:00, so 24:00 can only be an end")
	case from == to:
		return Interval{}, told.Say("hours-same-ends", "start and end are the same; write 0-24 for all day")
	case to < from:
		to += dayMinutes
	}
	return Interval{from, to}, told.Words{}
}

// reading is a time of day as typed; half is "a", "p" or "" when neither was said.
type reading struct {
	hour, minute int
	half         string
}

func parseClock(text string) (reading, told.Words) {
	m := clockPattern.FindStringSubmatch(text)
	if m == nil {
		return reading{}, told.Say("hours-no-time", "“{}” is not a time; write 9, 9:30, 17 or 5pm", text)
	}
	hour, _ := strconv.Atoi(m[1])
	minute, _ := strconv.Atoi("0" + m[2])
	half := strings.TrimSuffix(m[3], "m")
	switch {
	case minute > 59:
		return reading{}, told.Say("hours-59", "“{}” has more than 59 minutes", text)
	case half != "" && (hour < 1 || hour > 12):
		return reading{}, told.Say("hours-am-pm", "“{}”: with am or pm the hour is 1 to 12", text)
	case hour > 24 || hour == 24 && minute > 0:
		return reading{}, told.Say("hours-after-24", "“{}” is later than 24:00", text)
	}
	return reading{hour, minute, half}, told.Words{}
}

// minutes is the reading in minutes past midnight, understood in the given half of the day.
func (r reading) minutes(half string) int {
	hour := r.hour
	if half != "" && hour >= 1 && hour <= 12 {
		hour %= 12
		if half == "p" {
			hour += 12
		}
	}
	return hour*60 + r.minute
}

// resolve understands an end that lacks am or pm from the one that has it: the same half of the day if the interval
// then runs forward, else the other one. "3-5pm" is 15-17, "11-1pm" is 11-13, "10pm-2" is 22-2.
func resolve(start, end reading) (from, to int) {
	other := map[string]string{"a": "p", "p": "a"}
	from, to = start.minutes(start.half), end.minutes(end.half)
	switch {
	case start.half == "" && end.half != "":
		if from = start.minutes(end.half); from >= to {
			from = start.minutes(other[end.half])
		}
	case start.half != "" && end.half == "":
		if to = end.minutes(start.half); to <= from {
			to = end.minutes(other[start.half])
		}
	}
	return from, to
}
