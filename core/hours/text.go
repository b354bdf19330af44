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
	clockPattern = regexp.MustCompile(`^(\d{1,2})(?:[:.](\d{2}))?\s*([ap]m?)?(\s*next day)?$`)
)

// ParseDay reads the hours of one day as people type them:
//
//	9-12, 13-17      two intervals
//	8:30-11, 3-5pm   minutes; 12-hour clock, where an end without am or pm is understood from the other end
//	9-5, 10-1        an end before its start is the afternoon, if that comes within twelve hours
//	10-11, 2-4       after a morning, a smaller hour is the afternoon
//	22-2, 22-02:00   past midnight, into the next day, where it can only be that, or the end says it by its 0
//	13-10 next day   or in words
//	0-24             all day
//	closed, or ""    no hours
//
// A semicolon does as a comma does. What could be either, like 13-5, is asked about. German words for these are understood too. The error
// is a *TextError.
func ParseDay(text string) (Day, error) { return dayOf(text, asMeant) }

// ParseStoredDay reads what Day.String wrote, in this version or an earlier one, as it stands: on a 24-hour clock, with an end before its
// start on the next day.
func ParseStoredDay(text string) (Day, error) { return dayOf(text, asWritten) }

// reader resolves the ends of an interval, by when the interval before it begins; -1 for the first.
type reader func(start, end reading, before int) (from, to int, problem told.Words)

func dayOf(text string, read reader) (Day, error) {
	if plain := InEnglish(text); plain == "" || plain == "closed" {
		return nil, nil
	}
	var intervals []Interval
	before := -1
	for _, piece := range strings.Split(strings.ReplaceAll(text, ";", ","), ",") {
		interval, problem := parseInterval(InEnglish(piece), read, before)
		if problem.Any() {
			return nil, &TextError{strings.TrimSpace(piece), problem}
		}
		intervals, before = append(intervals, interval), interval.Start
	}
	return NewDay(intervals...), nil
}

func parseInterval(piece string, read reader, before int) (Interval, told.Words) {
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
	from, to, problem := read(start, end, before)
	switch {
	case problem.Any():
		return Interval{}, problem
	case from >= dayMinutes:
		return Interval{}, told.Say("hours-24-end", "a day starts at 0:00, so 24:00 can only be an end")
	case from == to:
		return Interval{}, told.Say("hours-same-ends", "start and end are the same; write 0-24 for all day")
	case to < from:
		to += dayMinutes
	}
	return Interval{from, to}, told.Words{}
}

// reading is a time of day as typed; half is "a", "p" or "" when neither was said. One that begins with a 0 is meant on a 24-hour clock.
type reading struct {
	hour, minute int
	half         string
	zero         bool
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
	return reading{hour, minute, half, m[1][0] == '0' && len(m[1]) == 2 || m[4] != ""}, told.Words{}
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

// bare tells whether it could be the afternoon's as well as the morning's.
func (r reading) bare() bool { return r.half == "" && !r.zero && r.hour >= 1 && r.hour < 12 }

const noon = 12 * 60

// asWritten understands an end that lacks am or pm from the one that has it: the same half of the day if the interval
// then runs forward, else the other one. "3-5pm" is 15-17, "11-1pm" is 11-13, "10pm-2" is 22-2.
func asWritten(start, end reading, _ int) (from, to int, _ told.Words) {
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
	return from, to, told.Words{}
}

// asMeant is asWritten for what people type: nobody opens at night by leaving out twelve hours.
func asMeant(start, end reading, before int) (from, to int, problem told.Words) {
	from, to, _ = asWritten(start, end, before)
	if before >= 0 && before < noon && start.bare() && end.half == "" && from < before {
		if start.hour >= 8 { // 9 after 10 may be the evening, or out of order
			return from, to, told.Say("hours-which-half", "write {} or {}, so that it is clear which is meant", clockText(from)+"am", clockText(from+noon))
		}
		from += noon
	}
	if to >= from || !end.bare() || to+noon <= from {
		return from, to, told.Words{}
	}
	if start.half == "" && start.hour > 12 {
		return from, to, told.Say("hours-next-day", "write {}, or {} for the next day", clockText(from)+"-"+clockText(to+noon), clockText(from)+"-"+nightText(to))
	}
	return from, to + noon, told.Words{}
}
