package busy

import (
	"slices"
	"strconv"
	"strings"
	"time"

	"corrim/core/told"
)

// A frequency is the unit that a recurrence rule counts its intervals in.
type frequency int

const (
	secondly frequency = iota
	minutely
	hourly
	daily
	weekly
	monthly
	yearly
)

var frequencies = map[string]frequency{
	"SECONDLY": secondly, "MINUTELY": minutely, "HOURLY": hourly, "DAILY": daily, "WEEKLY": weekly, "MONTHLY": monthly, "YEARLY": yearly,
}

var weekdays = map[string]time.Weekday{
	"SU": time.Sunday, "MO": time.Monday, "TU": time.Tuesday, "WE": time.Wednesday, "TH": time.Thursday, "FR": time.Friday, "SA": time.Saturday,
}

// A nthDay is a weekday, or the nth such weekday of a month or year, counted from its end if n is negative.
type nthDay struct {
	n   int
	day time.Weekday
}

// A rule is a recurrence rule (RFC 5545, 3.3.10), with what it leaves open already taken from DTSTART.
type rule struct {
	freq      frequency
	interval  int64
	count     int   // 0: no COUNT
	until     int64 // the last wall-clock second; noEnd without UNTIL
	weekStart time.Weekday

	months, weeks, yearDays, monthDays []int
	days                               []nthDay
	hours, minutes, seconds            []int
	positions                          []int
}

const noEnd = int64(1) << 60

// parseRule reads an RRULE. start is the event's DTSTART: it gives the parts the rule leaves open and the zone in which
// an UNTIL in UTC is understood. before, in seconds east, replaces that zone for VTIMEZONEs, whose own offset UNTIL uses.
func parseRule(value string, start stamp, before int64) (rule, error) {
	r := rule{freq: -1, interval: 1, until: noEnd, weekStart: time.Monday}
	for part := range strings.SplitSeq(strings.ToUpper(strings.TrimSpace(value)), ";") {
		if part == "" {
			continue
		}
		key, text, _ := strings.Cut(part, "=")
		if err := r.set(key, text, start, before); err != nil {
			return rule{}, told.Error("rule-part-cannot", "the rule part “{}” cannot be read: {}", part, err)
		}
	}
	if r.freq < 0 {
		return rule{}, told.Error("rule-names-no", "the rule names no FREQ")
	}
	r.fill(start)
	return r, nil
}

func (r *rule) set(key, text string, start stamp, before int64) (err error) {
	switch key {
	case "FREQ":
		freq, ok := frequencies[text]
		if !ok {
			return told.Error("no-such-frequency", "no such frequency")
		}
		r.freq = freq
	case "INTERVAL":
		n, err := strconv.ParseInt(text, 10, 32)
		if err != nil || n < 1 {
			return told.Error("must-1-more", "it must be 1 or more")
		}
		r.interval = n
	case "COUNT":
		n, err := strconv.Atoi(text)
		if err != nil || n < 1 {
			return told.Error("must-1-more", "it must be 1 or more")
		}
		r.count = n
	case "UNTIL":
		r.until, err = until(text, start, before)
	case "WKST":
		day, ok := weekdays[text]
		if !ok {
			return told.Error("no-such-weekday", "no such weekday")
		}
		r.weekStart = day
	case "BYMONTH":
		r.months, err = numbers(text, 1, 12)
	case "BYWEEKNO":
		r.weeks, err = numbers(text, -53, 53)
	case "BYYEARDAY":
		r.yearDays, err = numbers(text, -366, 366)
	case "BYMONTHDAY":
		r.monthDays, err = numbers(text, -31, 31)
	case "BYDAY":
		r.days, err = nthDays(text)
	case "BYHOUR":
		r.hours, err = numbers(text, 0, 23)
	case "BYMINUTE":
		r.minutes, err = numbers(text, 0, 59)
	case "BYSECOND":
		r.seconds, err = numbers(text, 0, 60)
	case "BYSETPOS":
		r.positions, err = numbers(text, -366, 366)
	case "RSCALE":
		if text != "GREGORIAN" {
			return told.Error("only-gregorian-rules", "only Gregorian rules are understood")
		}
	default:
		if !strings.HasPrefix(key, "X-") && key != "SKIP" {
			return told.Error("no-such-part", "no such part")
		}
	}
	return err
}

// until is the last wall-clock second that UNTIL allows. A date means all of that day.
func until(text string, start stamp, before int64) (int64, error) {
	z := zones{calendar: time.UTC}
	s, err := z.stamp(text, "")
	if err != nil {
		return 0, err
	}
	switch {
	case s.date:
		return s.wall() + 24*3600 - 1, nil
	case !strings.HasSuffix(text, "Z"):
		return s.wall(), nil
	case before != 0:
		return s.wall() + before, nil
	}
	_, offset := time.Unix(s.wall(), 0).In(start.zone).Zone()
	return s.wall() + int64(offset), nil
}

// numbers reads a list of whole numbers, sorted; 0 is refused where negative ones are allowed.
func numbers(text string, low, high int) ([]int, error) {
	var out []int
	for item := range strings.SplitSeq(text, ",") {
		n, err := strconv.Atoi(strings.TrimPrefix(item, "+"))
		if err != nil || n < low || n > high || n == 0 && low < 0 {
			return nil, told.Error("number-from", "“{}” is not a number from {} to {}", item, low, high)
		}
		out = append(out, n)
	}
	slices.Sort(out)
	return slices.Compact(out), nil
}

func nthDays(text string) ([]nthDay, error) {
	var out []nthDay
	for item := range strings.SplitSeq(text, ",") {
		if len(item) < 2 {
			return nil, told.Error("weekday", "“{}” is not a weekday", item)
		}
		name, ordinal := item[len(item)-2:], item[:len(item)-2]
		day, ok := weekdays[name]
		var n int
		if ordinal != "" {
			var err error
			if n, err = strconv.Atoi(strings.TrimPrefix(ordinal, "+")); err != nil || n == 0 {
				ok = false
			}
		}
		if !ok || n < -53 || n > 53 {
			return nil, told.Error("weekday", "“{}” is not a weekday", item)
		}
		out = append(out, nthDay{n, day})
	}
	return out, nil
}

// fill takes from DTSTART what the rule leaves open (RFC 5545, 3.3.10: "information, not contained in the rule, …").
func (r *rule) fill(start stamp) {
	at := start.clock.UTC()
	noDay := r.days == nil && r.monthDays == nil && r.yearDays == nil
	switch {
	case !noDay:
	case r.freq == yearly && r.weeks != nil, r.freq == weekly:
		r.days = []nthDay{{0, at.Weekday()}}
	case r.freq == monthly:
		r.monthDays = []int{at.Day()}
	case r.freq == yearly:
		r.monthDays = []int{at.Day()}
		if r.months == nil {
			r.months = []int{int(at.Month())}
		}
	}
	if r.hours == nil && r.freq > hourly {
		r.hours = []int{at.Hour()}
	}
	if r.minutes == nil && r.freq > minutely {
		r.minutes = []int{at.Minute()}
	}
	if r.seconds == nil && r.freq > secondly {
		r.seconds = []int{at.Second()}
	}
}

// plainYearly tells whether the rule is one date of every year, for ever.
func (r rule) plainYearly() bool {
	other := len(r.weeks) + len(r.yearDays) + len(r.days) + len(r.positions)
	return r.freq == yearly && r.interval == 1 && r.count == 0 && r.until == noEnd && other == 0 && len(r.months) == 1 && len(r.monthDays) == 1 && r.monthDays[0] > 0
}
