package hours

import (
	"regexp"
	"strconv"
	"strings"
	"time"

	"corrim/core/civil"
	"corrim/core/told"
)

// Differing is days that differ from the week plan: a change, or time off.
type Differing struct {
	Change
	Off    bool // the days are time off, or if Day isn't empty these hours of each; Kind doesn't count
	Yearly bool // the time off comes again every year
}

var (
	monthNames  = "jan(?:uary)?|feb(?:ruary)?|mar(?:ch)?|apr(?:il)?|may|june?|july?|aug(?:ust)?|sept?(?:ember)?|oct(?:ober)?|nov(?:ember)?|dec(?:ember)?"
	opening     = `(?:(?:on|from)\s+)?` // says nothing
	weekdayName = `(?:mon|tue|wed|thu|fri|sat|sun)[a-z]*`
	weekdayRest = `(?:` + weekdayName + `\s+)?`
	weekdayRef  = `(?:(mon|tue|wed|thu|fri|sat|sun)[a-z]*\s+)?`
	dayRange    = regexp.MustCompile(`^` + opening + weekdayRef + `(\d{1,2})(?:st|nd|rd|th)?\s*(?:-|–|to|until)\s*` + weekdayRest + `(\d{1,2})(?:st|nd|rd|th)?\s+(` + monthNames + `)\b(?:\s+(\d{4}))?\s*`)
	oneDay      = regexp.MustCompile(`^` + opening + weekdayRef + `(\d{1,2})(?:st|nd|rd|th)?\s+(` + monthNames + `)\b(?:\s+(\d{4}))?\s*`)
	moment      = regexp.MustCompile(`^(\d{1,2}:\d{2})\s*`)
	everyYear   = regexp.MustCompile(`\s*\b(every year|each year|yearly)$`)
	onlyWeekday = regexp.MustCompile(`^` + opening + weekdayName + `$`)
	isoDay      = regexp.MustCompile(`^` + opening + `(\d{4}-\d{2}-\d{2})\s*`)
	upTo        = regexp.MustCompile(`^(?:-|–|to\b|until\b)\s*`)
)

// ParseDiffering reads days that differ as people write them, several with commas between:
//
//	14-16 May 10-13         those days have these hours instead of the plan's
//	14 to 16 May, 10-13 only
//	                        the same
//	5 Dec extra 10-13       these hours are added
//	4 June closed           no hours
//	21 Dec to 3 Jan off     time off
//	7 May off 13-15         these hours off
//	25 Dec off every year   time off that comes again
//	7 May 13:00 to 9 May 12:00 off
//	                        from a moment to a moment
//	2026-05-14 9-12, 13-15  a comma within hours is understood
//
// German words for these are understood too. A date without a year is the next one from today on. The error is a *TextError.
func ParseDiffering(text string, today civil.Date) ([]Differing, error) {
	var out []Differing
	for _, item := range items(text) {
		found, problem := betweenMoments(item.plain, today)
		if len(found) == 0 && !problem.Any() {
			found = make([]Differing, 1)
			found[0], problem = parseDiffering(item.plain, today)
		}
		if problem.Any() {
			return nil, &TextError{item.typed, problem}
		}
		out = append(out, found...)
	}
	if len(out) == 0 {
		return nil, &TextError{text, told.Say("exception-empty", "write a date and what is different, like 14-16 May 10-13, or 4 June closed")}
	}
	return out, nil
}

// item is what is said of one date: as it was typed, and in the words that are read.
type item struct{ typed, plain string }

// items splits at commas, but not at those within hours, since a new item begins with a date, nor after the name of a weekday.
func items(text string) []item {
	var out []item
	for piece := range strings.SplitSeq(text, ",") {
		next := item{strings.TrimSpace(piece), InEnglish(piece)}
		last := len(out) - 1
		switch {
		case next.plain == "":
		case last < 0 || beginsWithDate(next.plain) && !onlyWeekday.MatchString(out[last].plain):
			out = append(out, next)
		default:
			out[last] = out[last].with(next)
		}
	}
	return out
}

func (i item) with(next item) item {
	between := ", "
	if onlyWeekday.MatchString(i.plain) {
		between = " "
	}
	return item{i.typed + ", " + next.typed, i.plain + between + next.plain}
}

func beginsWithDate(s string) bool {
	return dayRange.MatchString(s) || oneDay.MatchString(s) || isoDay.MatchString(s) || onlyWeekday.MatchString(s)
}

func parseDiffering(item string, today civil.Date) (Differing, told.Words) {
	d := Differing{}
	rest, problem := readDates(item, today, &d)
	if problem.Any() {
		return d, problem
	}
	rest = strings.TrimLeft(rest, ",: ")
	if again := everyYear.FindStringIndex(rest); again != nil {
		d.Yearly, rest = true, rest[:again[0]]
	}
	if hours, off := cutOff(rest); off {
		return timeOffOf(d, hours)
	}
	if d.Yearly {
		return d, told.Say("exception-yearly-off", "only time off can come again every year; write off every year")
	}
	switch rest {
	case "closed":
		d.Kind = Closed
		return d, told.Words{}
	case "":
		return d, told.Say("exception-what", "say what is different: hours like 10-13, extra 10-13, closed, or off")
	}
	d.Kind = Instead
	for word, kind := range map[string]ChangeKind{"extra ": Extra, "instead ": Instead, "only ": Instead} {
		if hours, ok := strings.CutPrefix(rest, word); ok {
			d.Kind, rest = kind, hours
		}
	}
	day, err := ParseDay(strings.TrimSuffix(strings.TrimSuffix(rest, " only"), ","))
	if err != nil {
		return d, told.OfError(err)
	}
	d.Day = day
	return d, told.Words{}
}

// cutOff is what follows "off" or "time off".
func cutOff(rest string) (after string, off bool) {
	rest = strings.TrimPrefix(rest, "time ")
	if rest == "off" {
		return "", true
	}
	return strings.CutPrefix(rest, "off ")
}

func timeOffOf(d Differing, hours string) (Differing, told.Words) {
	d.Off = true
	day, err := ParseDay(hours)
	if err != nil {
		return d, told.OfError(err)
	}
	d.Day = day
	if years := d.Last.Year - d.First.Year; d.Yearly && (years > 1 || years == 1 && !yearsOn(d.Last, -1).Before(d.First)) {
		return d, told.Say("exception-yearly-short", "what comes again every year is shorter than a year")
	}
	return d, told.Words{}
}

// betweenMoments reads time off from a moment of one day to a moment of another: the rest of the first day, the days
// between, and the beginning of the last. It finds nothing in an item of another kind.
func betweenMoments(item string, today civil.Date) ([]Differing, told.Words) {
	first, _, rest, problem := readDate(item, today)
	from := moment.FindStringSubmatch(rest)
	if problem.Any() || from == nil {
		return nil, told.Words{}
	}
	rest = rest[len(from[0]):]
	to := upTo.FindString(rest)
	if to == "" || !beginsWithDate(rest[len(to):]) {
		return nil, told.Words{}
	}
	last, _, rest, problem := readDate(rest[len(to):], first)
	until := moment.FindStringSubmatch(rest)
	if problem.Any() || until == nil {
		return nil, orElse(problem, told.Say("exception-two-clocks", "write a clock time after the last day too, like 9 May 12:00"))
	}
	if hours, off := cutOff(rest[len(until[0]):]); !off || hours != "" || !first.Before(last) {
		return nil, told.Say("exception-moments-off", "from a moment to a moment of a later day there can only be time off")
	}
	begin, err1 := ParseDay(from[1] + "-24")
	end, err2 := ParseDay("0-" + until[1])
	if err1 != nil || err2 != nil {
		return nil, told.Say("exception-clock", "a clock time is between 0:00 and 24:00")
	}
	off := func(first, last civil.Date, day Day) Differing {
		return Differing{Change: Change{First: first, Last: last, Day: day}, Off: true}
	}
	out := []Differing{off(first, first, begin)}
	if between := first.AddDays(1); between.Before(last) {
		out = append(out, off(between, last.AddDays(-1), nil))
	}
	return append(out, off(last, last, end)), told.Words{}
}

func orElse(problem, otherwise told.Words) told.Words {
	if !problem.Any() {
		return otherwise
	}
	return problem
}

// readDates reads the dates at the beginning and returns what follows them.
func readDates(item string, today civil.Date, d *Differing) (rest string, problem told.Words) {
	if m := dayRange.FindStringSubmatch(item); m != nil {
		if d.First, problem = namedDate(m[2], m[4], m[5], today); problem.Any() {
			return "", problem
		}
		d.Last, problem = namedDate(m[3], m[4], strconv.Itoa(d.First.Year), today)
		if !problem.Any() {
			problem = rightOrder(d, m[1])
		}
		return item[len(m[0]):], problem
	}
	first, weekday, rest, problem := readDate(item, today)
	if problem.Any() {
		return "", problem
	}
	d.First, d.Last = first, first
	if to := upTo.FindString(rest); to != "" && beginsWithDate(rest[len(to):]) {
		if d.Last, _, rest, problem = readDate(rest[len(to):], first); problem.Any() {
			return "", problem
		}
	}
	return rest, rightOrder(d, weekday)
}

func readDate(text string, today civil.Date) (date civil.Date, weekday, rest string, problem told.Words) {
	if m := isoDay.FindStringSubmatch(text); m != nil {
		date, err := civil.ParseDate(m[1])
		if err != nil {
			return date, "", "", told.OfError(err)
		}
		return date, "", text[len(m[0]):], told.Words{}
	}
	m := oneDay.FindStringSubmatch(text)
	if m == nil {
		return date, "", "", told.Say("exception-date-first", "begin with a date, like 14 May or 14-16 May")
	}
	date, problem = namedDate(m[2], m[3], m[4], today)
	return date, m[1], text[len(m[0]):], problem
}

// namedDate is the date of a day and a month's name; without a year, the next such date from today on.
func namedDate(day, month, year string, today civil.Date) (civil.Date, told.Words) {
	d, _ := strconv.Atoi(day) // it is one or two figures
	at, err := time.Parse("Jan", strings.ToUpper(month[:1])+month[1:3])
	if err != nil {
		return civil.Date{}, told.Say("exception-month", "“{}” is not a month", month)
	}
	years := []int{today.Year, today.Year + 1, today.Year + 2, today.Year + 3, today.Year + 4}
	if year != "" {
		y, _ := strconv.Atoi(year) // it is four figures
		years = []int{y}
	}
	for _, y := range years {
		date := civil.Date{Year: y, Month: at.Month(), Day: d}
		if date.AddDays(0) == date && (year != "" || !date.Before(today)) {
			return date, told.Words{}
		}
	}
	return civil.Date{}, told.Say("exception-no-day", "there is no {} {}", day, told.Month(at.Month()))
}

func rightOrder(d *Differing, weekday string) told.Words {
	if d.Last.Before(d.First) {
		return told.Say("exception-order", "the last day comes before the first")
	}
	if full := d.First.Weekday().String(); weekday != "" && !strings.HasPrefix(strings.ToLower(full), weekday) {
		return told.Say("exception-weekday", "{} is a {}", told.FullDate(d.First), told.Weekday(d.First.Weekday()))
	}
	return told.Words{}
}
