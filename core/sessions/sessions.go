// Package sessions reads on which dates sessions are, as people write it, and lists them.
package sessions

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"corrim/core/busy"
	"corrim/core/civil"
	"corrim/core/hours"
	"corrim/core/told"
)

// Plan is when sessions are: on weekdays from a date on, or on dates named one by one. Times of day are minutes past midnight.
type Plan struct {
	Weekdays []time.Weekday // in the order of a week; none if the dates are named
	Every    int            // so many weeks
	First    civil.Date     // the earliest possible
	Until    civil.Date     // the latest possible; the zero date if Times is given
	Times    int            // how many there are
	Without  []civil.Date   // these are left out
	Dates    []civil.Date   // named one by one
	Start    int
	End      int // 0 if it isn't said
}

// Plans are sessions at different times of day, each with a plan of its own.
type Plans []Plan

// Most is how many sessions can be set at once.
const Most = 60

// Read reads when sessions are:
//
//	Tuesdays 17:30-19:00 from 6 Jan, 8 times, not 10 Feb
//	                         eight of them take place
//	every other week on Tuesday and Thursday 9:00 from 6 Jan until 30 Mar
//	                         in every second week, counted from that of the first
//	6 Jan, 13 Jan and 3 Feb 2027 at 5pm
//	                         on these dates
//	6 Jan 17:30; Thursdays 9:00 from 8 Jan, 4 times
//	                         both: where times of day differ, a semicolon is between
//
// German words for these are understood too. A date without a year is the next one from today on. The error is a *hours.TextError.
func Read(text string, today civil.Date) (Plans, error) {
	plan, err := readOne(text, today)
	if err == nil || !strings.Contains(text, ";") {
		return Plans{plan}, err
	}
	var all Plans
	for piece := range strings.SplitSeq(text, ";") {
		if strings.TrimSpace(piece) == "" {
			continue
		}
		plan, err := readOne(piece, today)
		if err != nil {
			return nil, err
		}
		all = append(all, plan)
	}
	return all, nil
}

func readOne(text string, today civil.Date) (Plan, error) {
	r := reader{rest: inEnglish(text), today: today, Plan: Plan{Every: 1, Start: -1}}
	for r.skip(); r.rest != ""; r.skip() {
		before := r.rest
		if problem := r.next(); problem.Any() {
			return Plan{}, &hours.TextError{Piece: strings.TrimSpace(strings.TrimSuffix(before, r.rest)), Problem: problem}
		}
	}
	if problem := r.whole(); problem.Any() {
		return Plan{}, &hours.TextError{Piece: strings.TrimSpace(text), Problem: problem}
	}
	return r.Plan, nil
}

// reader is what of a text is read already, and what is left.
type reader struct {
	Plan
	rest    string
	today   civil.Date
	without bool // the dates that come are left out
}

const weekdayNames = `(mon(?:days?)?|tue(?:s(?:days?)?)?|wed(?:s|nesdays?)?|thu(?:r(?:s(?:days?)?)?)?|fri(?:days?)?|sat(?:urdays?)?|sun(?:days?)?)\b`

var (
	filler      = regexp.MustCompile(`^(?:[\s,;:.]+|(?:and|at|on|the|each|but)\b)+`)
	otherWeek   = regexp.MustCompile(`^(?:every\s+(?:other|second|2nd)\s+week|fortnightly)\b`)
	everyWeeks  = regexp.MustCompile(`^every\s+(\d{1,2})\s+weeks?\b`)
	everyWeek   = regexp.MustCompile(`^(?:every\s+week\b|weekly\b|every\b)`)
	leftOut     = regexp.MustCompile(`^(?:not|except|without)\b`)
	since       = regexp.MustCompile(`^(?:from|starting|beginning)\s+(?:on\s+)?`)
	until       = regexp.MustCompile(`^(?:until|till|to|-|–)\s*`)
	count       = regexp.MustCompile(`^(\d{1,3})\s*(?:times|x|sessions|dates)(?:\s|,|;|$)`)
	weekdaySpan = regexp.MustCompile(`^` + weekdayNames + `\s*(?:-|–|to\b)\s*` + weekdayNames)
	weekday     = regexp.MustCompile(`^` + weekdayNames)
	figure      = regexp.MustCompile(`^\d`)
	wordAhead   = regexp.MustCompile(`^\S+`)
	piece       = regexp.MustCompile(`^[^,;]*`)
)

func (r *reader) skip() { r.rest = r.rest[len(filler.FindString(r.rest)):] }

// take cuts off what a pattern finds at the beginning; nil if it finds nothing.
func (r *reader) take(pattern *regexp.Regexp) []string {
	m := pattern.FindStringSubmatch(r.rest)
	if m != nil {
		r.rest = r.rest[len(m[0]):]
	}
	return m
}

// next reads one piece of the text.
func (r *reader) next() told.Words {
	switch {
	case r.take(otherWeek) != nil:
		r.Every = 2
	case r.weeks() || r.take(everyWeek) != nil || r.days():
	case r.take(leftOut) != nil:
		r.without = true
	case hours.BeginsWithDate(r.rest) && since.FindString(r.rest) == "":
		return r.date()
	case r.take(since) != nil:
		return r.dateInto(&r.First, r.today)
	case r.times():
	case r.take(until) != nil:
		return r.dateInto(&r.Until, r.from())
	case figure.MatchString(r.rest):
		return r.clock()
	default:
		r.take(wordAhead)
		return told.Say("sessions-unknown", "this isn't understood here; write it like Tuesdays 17:30 from 6 Jan, 8 times, not 10 Feb")
	}
	return told.Words{}
}

func (r *reader) weeks() bool {
	m := r.take(everyWeeks)
	if m != nil {
		r.Every, _ = strconv.Atoi(m[1]) // it is one or two figures
	}
	return m != nil
}

func (r *reader) times() bool {
	m := r.take(count)
	if m != nil {
		r.Times, _ = strconv.Atoi(m[1]) // it is at most three figures
	}
	return m != nil
}

// days reads weekdays, unless they only say which one a date is.
func (r *reader) days() bool {
	if hours.BeginsWithDate(r.rest) {
		return false
	}
	if m := r.take(weekdaySpan); m != nil {
		for day := weekdayOf(m[1]); ; day = (day + 1) % 7 {
			r.Weekdays = append(r.Weekdays, day)
			if day == weekdayOf(m[2]) {
				return true
			}
		}
	}
	m := r.take(weekday)
	if m != nil {
		r.Weekdays = append(r.Weekdays, weekdayOf(m[1]))
	}
	return m != nil
}

func weekdayOf(name string) time.Weekday {
	return time.Weekday(slices.Index([]string{"sun", "mon", "tue", "wed", "thu", "fri", "sat"}, name[:3]))
}

// from is the date that those after it are counted from.
func (r *reader) from() civil.Date {
	if r.First == (civil.Date{}) {
		return r.today
	}
	return r.First
}

// date reads one that sessions are on, or that is left out.
func (r *reader) date() told.Words {
	into := &r.Dates
	if r.without {
		into = &r.Without
	}
	date := civil.Date{}
	if problem := r.dateInto(&date, r.from()); problem.Any() {
		return problem
	}
	if slices.Contains(*into, date) {
		return told.Say("sessions-twice", "{} is named twice", told.FullDate(date))
	}
	*into = append(*into, date)
	return told.Words{}
}

func (r *reader) dateInto(into *civil.Date, from civil.Date) told.Words {
	date, rest, problem := hours.ReadDate(r.rest, from)
	if problem.Any() {
		r.take(piece)
		return problem
	}
	*into, r.rest = date, rest
	return told.Words{}
}

func (r *reader) clock() told.Words {
	start, end, rest, problem := hours.ReadTimes(r.rest)
	r.rest = rest
	switch {
	case problem.Any():
		return problem
	case r.Start >= 0:
		return told.Say("sessions-two-times", "there is a time of day already; put a semicolon before those at other times")
	}
	r.Start, r.End = start, end
	return told.Words{}
}

// whole looks at what was read together.
func (r *reader) whole() told.Words {
	slices.SortFunc(r.Weekdays, func(a, b time.Weekday) int { return int((a+6)%7) - int((b+6)%7) })
	r.Weekdays = slices.Compact(r.Weekdays)
	slices.SortFunc(r.Dates, func(a, b civil.Date) int { return b.DaysUntil(a) })
	switch {
	case r.Start < 0:
		return told.Say("sessions-no-time", "say at which time of day, like 17:30")
	case len(r.Dates) > 0 && (len(r.Weekdays) > 0 || r.Times > 0 || r.Until != civil.Date{} || r.First != civil.Date{}):
		return told.Say("sessions-both", "name either dates one by one, or weekdays from a date on")
	case len(r.Dates) == 0 && len(r.Weekdays) == 0:
		return told.Say("sessions-no-day", "say on which days, like Tuesdays from 6 Jan, 8 times, or on which dates")
	case len(r.Dates) > 0:
		return told.Words{}
	case r.Times == 0 && r.Until == civil.Date{}:
		return told.Say("sessions-no-end", "say how many there are, like 8 times, or until which date")
	case r.Times > 0 && r.Until != civil.Date{}:
		return told.Say("sessions-two-ends", "say either how many there are or until which date")
	case r.Every == 0:
		return told.Say("sessions-every-week", "they can come every week, every 2 weeks, and so on")
	}
	r.First = r.from()
	for !slices.Contains(r.Weekdays, r.First.Weekday()) {
		r.First = r.First.AddDays(1)
	}
	if (r.Until != civil.Date{}) && r.Until.Before(r.First) {
		return told.Say("sessions-until-before", "it ends before the first of them; write the later date after “until”")
	}
	return told.Words{}
}

// Starts lists when the sessions begin, on the clock of a zone, in order. The error says what is wrong.
func (all Plans) Starts(zone *time.Location) (out []civil.Clock, err error) {
	for _, plan := range all {
		starts, err := plan.starts(zone)
		if err != nil {
			return nil, err
		}
		out = append(out, starts...)
	}
	slices.SortFunc(out, civil.Clock.Compare)
	for i := 1; i < len(out); i++ {
		if out[i] == out[i-1] {
			return nil, told.Error("sessions-twice-then", "There would be two on {} at the same time.", told.FullDate(out[i].Date))
		}
	}
	if len(out) > Most {
		return nil, errTooMany
	}
	return out, nil
}

func (p Plan) starts(zone *time.Location) ([]civil.Clock, error) {
	at := func(d civil.Date) civil.Clock { return civil.Clock{Date: d, Seconds: p.Start * 60} }
	var out []civil.Clock
	for _, date := range p.Dates {
		out = append(out, at(date))
	}
	if len(p.Weekdays) > 0 {
		var err error
		if out, err = busy.Repeat(p.rule(), at(p.First), zone, Most+len(p.Without)); err != nil {
			return nil, errTooMany
		}
	}
	for _, date := range p.Without {
		before := len(out)
		if out = slices.DeleteFunc(out, func(c civil.Clock) bool { return c.Date == date }); len(out) == before {
			return nil, told.Error("sessions-not-among", "No session would be on {}, a {}, so it can't be left out.", told.FullDate(date), told.Weekday(date.Weekday()))
		}
	}
	if p.Times > 0 {
		out = out[:min(p.Times, len(out))]
	}
	switch {
	case len(out) == 0:
		return nil, told.Error("sessions-none", "No session would be left of these.")
	case len(out) > Most:
		return nil, errTooMany
	}
	return out, nil
}

var errTooMany = told.Error("sessions-most", "At most {} sessions can be set at once.", Most)

// Minutes is how long each session is; 0 if it isn't said. The error says that they differ.
func (all Plans) Minutes() (minutes int, err error) {
	for i, plan := range all {
		if i > 0 && plan.minutes() != minutes {
			return 0, told.Error("sessions-lengths", "All sessions that are set at once last equally long. Set these one length at a time.")
		}
		minutes = plan.minutes()
	}
	return minutes, nil
}

func (p Plan) minutes() int {
	if p.End == 0 {
		return 0
	}
	return p.End - p.Start
}

// rule is the recurrence rule of sessions on weekdays (RFC 5545, 3.3.10). What is left out is made up for, where it is said how many
// take place.
func (p Plan) rule() string {
	names := []string{"SU", "MO", "TU", "WE", "TH", "FR", "SA"}
	days := make([]string, len(p.Weekdays))
	for i, day := range p.Weekdays {
		days[i] = names[day]
	}
	rule := fmt.Sprintf("FREQ=WEEKLY;INTERVAL=%d;BYDAY=%s", p.Every, strings.Join(days, ","))
	if p.Times > 0 {
		rule += fmt.Sprintf(";COUNT=%d", p.Times+len(p.Without))
	}
	if p.Until != (civil.Date{}) {
		rule += fmt.Sprintf(";UNTIL=%sT235959", strings.ReplaceAll(p.Until.String(), "-", ""))
	}
	return rule
}

// What people write in German, beside what package hours reads, in the English words that are read.
var germanWords = strings.NewReplacer(
	"jede zweite woche", "every other week", "alle zwei wochen", "every 2 weeks", "zweiwöchentlich", "every 2 weeks", "jede woche", "every week", "wöchentlich", "every week",
	"montags", "monday", "dienstags", "tuesday", "mittwochs", "wednesday", "donnerstags", "thursday", "freitags", "friday", "samstags", "saturday", "sonnabends", "saturday", "sonntags", "sunday",
)

var (
	germanWeeks = regexp.MustCompile(`\balle (\d+) wochen\b`)
	germanCount = regexp.MustCompile(`(\d)\s*(?:mal|termine)(\s|,|;|$)`)
	germanDay   = regexp.MustCompile(`(\d)\.(\s*[,;]|$)`)
	germanSmall = map[string]string{"ab": "from", "und": "and", "nicht": "not", "ohne": "not", "außer": "not", "ausser": "not", "am": "on", "um": "at", "jeden": "every", "dem": ""}
	anyWord     = regexp.MustCompile(`\p{L}+`)
)

func inEnglish(text string) string {
	plain := germanWords.Replace(strings.ToLower(text))
	plain = germanWeeks.ReplaceAllString(plain, "every $1 weeks")
	plain = germanCount.ReplaceAllString(plain, "$1 times$2")
	plain = germanDay.ReplaceAllString(plain, "$1$2")
	plain = anyWord.ReplaceAllStringFunc(plain, func(w string) string {
		if english, ok := germanSmall[w]; ok {
			return english
		}
		return w
	})
	return hours.InEnglish(plain)
}
