package busy

import (
	"slices"
	"time"
)

const day = int64(24 * 3600)

// A budget bounds the work spent on rules, in looked-at days and times, so that a hostile calendar costs no more than
// a large one.
type budget int

// spend takes n from the budget and tells whether there was enough.
func (b *budget) spend(n int) bool {
	*b -= budget(n)
	return *b > 0
}

// each calls yield for every occurrence in [lower, upper), in order, on the wall clock dressed as UTC; yield returns
// false to stop. It jumps to lower keeping the interval's phase, unless COUNT makes it count from the start. The result
// is false if the budget ran out first.
func (r rule) each(start, lower, upper int64, work *budget, yield func(int64) bool) bool {
	last := min(r.until, upper-1)
	left := r.count
	first := true
	keep := func(t int64) bool {
		if t < start {
			return true
		}
		if t > last {
			return false
		}
		if left > 0 {
			if first && t != start {
				left-- // DTSTART counts as the first occurrence, even one that the rule itself does not make
			}
			if left == 0 {
				return false
			}
		}
		first = false
		if t >= lower && !yield(t) {
			return false
		}
		if left > 0 {
			left--
			return left > 0
		}
		return true
	}
	from := start
	if r.count == 0 {
		from = max(start, lower)
	}
	if last < from {
		return true
	}
	if r.freq < daily {
		return r.eachTime(start, from, last, work, keep)
	}
	return r.eachPeriod(start, from, last, work, keep)
}

// eachPeriod walks days, weeks, months or years.
func (r rule) eachPeriod(start, from, last int64, work *budget, keep func(int64) bool) bool {
	times := r.timesOfDay()
	var set []int64
	for k := r.skipped(start, from); ; k++ {
		begin, end := r.period(start, k)
		if begin*day > last {
			return true
		}
		set = set[:0]
		for d := begin; d < end; d++ {
			if !work.spend(1) {
				return false
			}
			if r.takesDay(d) {
				for _, t := range times {
					set = append(set, d*day+t)
				}
			}
		}
		if !work.spend(1+len(set)) || !r.eachOf(set, keep) {
			return *work > 0
		}
	}
}

// skipped is the number of the last period that begins well before from.
func (r rule) skipped(start, from int64) int64 {
	var length int64
	switch r.freq {
	case daily:
		length = day
	case weekly:
		length = 7 * day
	case monthly:
		length = 31 * day
	default:
		length = 366 * day
	}
	k := (from-start)/(length*r.interval) - 1
	return max(0, k)
}

// period is the k-th period as day numbers since 1970, end excluded.
func (r rule) period(start, k int64) (begin, end int64) {
	first := floorDiv(start, day)
	switch r.freq {
	case daily:
		begin = first + k*r.interval
		return begin, begin + 1
	case weekly:
		begin = first - int64((weekdayOf(first)-r.weekStart+7)%7) + 7*k*r.interval
		return begin, begin + 7
	}
	t := time.Unix(start, 0).UTC()
	year, month, months := t.Year(), t.Month(), 1
	if r.freq == yearly {
		year, month, months = year+int(min(k*r.interval, 10000)), time.January, 12
	} else {
		month += time.Month(min(k*r.interval, 120000))
	}
	return dayNumber(year, month, 1), dayNumber(year, month+time.Month(months), 1)
}

// eachOf calls keep for the period's occurrences, or for those that BYSETPOS picks.
func (r rule) eachOf(set []int64, keep func(int64) bool) bool {
	if r.positions == nil {
		for _, t := range set {
			if !keep(t) {
				return false
			}
		}
		return true
	}
	var picked []int64
	for _, p := range r.positions {
		if p < 0 {
			p += len(set) + 1
		}
		if p >= 1 && p <= len(set) {
			picked = append(picked, set[p-1])
		}
	}
	slices.Sort(picked)
	for _, t := range slices.Compact(picked) {
		if !keep(t) {
			return false
		}
	}
	return true
}

// eachTime walks hours, minutes or seconds; days and hours that a BYxxx part rules out are stepped over whole.
func (r rule) eachTime(start, from, last int64, work *budget, keep func(int64) bool) bool {
	unit := map[frequency]int64{secondly: 1, minutely: 60, hourly: 3600}[r.freq]
	step := unit * r.interval
	origin := floorDiv(start, unit) * unit
	// to is the first unit of the rule's phase that does not begin before t.
	to := func(t int64) int64 { return origin + max(0, floorDiv(t-origin+step-1, step))*step }
	known, takes := int64(-1)<<40, false // the day that was looked at last
	for t := max(origin, to(from)-step); t <= last; {
		if !work.spend(1) {
			return false
		}
		d, clock := floorDiv(t, day), t-floorDiv(t, day)*day
		if d != known {
			known, takes = d, r.takesDay(d)
		}
		switch {
		case !takes:
			t = to((d + 1) * day)
			continue
		case r.hours != nil && !slices.Contains(r.hours, int(clock/3600)):
			t = to((t/3600 + 1) * 3600)
			continue
		case r.freq < hourly && r.minutes != nil && !slices.Contains(r.minutes, int(clock/60%60)):
			t = to((t/60 + 1) * 60)
			continue
		case r.freq == secondly && r.seconds != nil && !slices.Contains(r.seconds, int(clock%60)):
			t += step
			continue
		}
		set := r.within(t)
		if !work.spend(len(set)) || !r.eachOf(set, keep) {
			return *work > 0
		}
		t += step
	}
	return true
}

// within is the occurrences of the hour, minute or second that begins at t.
func (r rule) within(t int64) []int64 {
	var set []int64
	switch r.freq {
	case hourly:
		for _, m := range r.minutes {
			for _, s := range r.seconds {
				set = append(set, t+int64(m*60+s))
			}
		}
	case minutely:
		for _, s := range r.seconds {
			set = append(set, t+int64(s))
		}
	default:
		set = append(set, t)
	}
	return set
}

func (r rule) timesOfDay() []int64 {
	var out []int64
	for _, h := range r.hours {
		for _, m := range r.minutes {
			for _, s := range r.seconds {
				out = append(out, int64(h*3600+m*60+s))
			}
		}
	}
	return out
}

// takesDay tells whether every BYxxx part about days allows the day. Whether the RFC's table calls a part "expand" or
// "limit", within one period it comes to the same: the days that all parts allow.
func (r rule) takesDay(d int64) bool {
	if r.days != nil && !r.takesWeekday(d) && !r.hasOrdinals() {
		return false
	}
	t := time.Unix(d*day, 0).UTC()
	if r.months != nil && !slices.Contains(r.months, int(t.Month())) {
		return false
	}
	if r.monthDays != nil && !takes(r.monthDays, t.Day(), int(dayNumber(t.Year(), t.Month()+1, 1)-dayNumber(t.Year(), t.Month(), 1))) {
		return false
	}
	if r.yearDays != nil && !takes(r.yearDays, t.YearDay(), daysOfYear(t.Year())) {
		return false
	}
	if r.weeks != nil && r.freq == yearly && !r.takesWeek(d) {
		return false
	}
	return r.days == nil || r.takesWeekday(d)
}

// takes tells whether n of total is named, from the front or from the end.
func takes(named []int, n, total int) bool {
	return slices.Contains(named, n) || slices.Contains(named, n-total-1)
}

func (r rule) hasOrdinals() bool {
	return slices.ContainsFunc(r.days, func(d nthDay) bool { return d.n != 0 })
}

func (r rule) takesWeekday(d int64) bool {
	weekday := weekdayOf(d)
	for _, want := range r.days {
		if want.day == weekday && (want.n == 0 || r.freq < monthly || r.isNth(d, want.n)) {
			return true
		}
	}
	return false
}

// isNth tells whether the day is the nth of its weekday: in the month, or in the year for a yearly rule without BYMONTH.
func (r rule) isNth(d int64, n int) bool {
	t := time.Unix(d*day, 0).UTC()
	begin, end := dayNumber(t.Year(), t.Month(), 1), dayNumber(t.Year(), t.Month()+1, 1)
	if r.freq == yearly && r.months == nil {
		begin, end = dayNumber(t.Year(), 1, 1), dayNumber(t.Year()+1, 1, 1)
	}
	if n > 0 {
		return (d-begin)/7+1 == int64(n)
	}
	return (end-1-d)/7+1 == int64(-n)
}

// takesWeek tells whether the day's week is named. Weeks begin on WKST; the first has at least four days in its year.
func (r rule) takesWeek(d int64) bool {
	weekBegin := d - int64((weekdayOf(d)-r.weekStart+7)%7)
	year := time.Unix((weekBegin+3)*day, 0).UTC().Year() // the year that holds most of the week
	first := r.firstWeek(year)
	return takes(r.weeks, int((weekBegin-first)/7)+1, int((r.firstWeek(year+1)-first)/7))
}

// firstWeek is the day on which the year's first week begins.
func (r rule) firstWeek(year int) int64 {
	fourth := dayNumber(year, 1, 4)
	return fourth - int64((weekdayOf(fourth)-r.weekStart+7)%7)
}

func dayNumber(year int, month time.Month, d int) int64 {
	return time.Date(year, month, d, 0, 0, 0, 0, time.UTC).Unix() / day
}

func daysOfYear(year int) int { return int(dayNumber(year+1, 1, 1) - dayNumber(year, 1, 1)) }

// weekdayOf: day 0, 1 January 1970, was a Thursday.
func weekdayOf(d int64) time.Weekday { return time.Weekday(((d+4)%7 + 7) % 7) }

func floorDiv(a, b int64) int64 {
	q := a / b
	if a%b != 0 && (a < 0) != (b < 0) {
		q--
	}
	return q
}
