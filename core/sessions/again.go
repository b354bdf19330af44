package sessions

import (
	"fmt"
	"slices"

	"corrim/core/civil"
	"corrim/core/told"
)

// Again is the sentence that sets sessions anew as they were, the first of them on a date: on a weekday, if all were on the same one at even
// distances, else on dates that are as far apart. Starts are in order; all begin at the time of day of the first. Read understands it.
func Again(starts []civil.Clock, minutes int, first civil.Date) told.Words {
	from, to := hoursOf(starts, minutes)
	switch weeks := weeksApart(starts); weeks {
	case 0:
		return onDates(starts, minutes, first)
	case 1:
		return told.Say("sessions-again", "{} {}-{} from {}, {} times", told.Weekday(first.Weekday()), from, to, told.FullDate(first), len(starts))
	default:
		return told.Say("sessions-again-weeks", "every {} weeks on {} {}-{} from {}, {} times", weeks, told.Weekday(first.Weekday()), from, to, told.FullDate(first), len(starts))
	}
}

// onDates names the dates one by one.
func onDates(starts []civil.Clock, minutes int, first civil.Date) told.Words {
	var dates []told.Words
	for _, s := range starts {
		dates = append(dates, told.Say("one-date", "{}", told.FullDate(first.AddDays(starts[0].Date.DaysUntil(s.Date)))))
	}
	from, to := hoursOf(starts, minutes)
	return told.Say("sessions-again-dates", "{} {}-{}", told.Join(dates, ", "), from, to)
}

func hoursOf(starts []civil.Clock, minutes int) (from, to told.Reading) {
	begin := starts[0].Seconds / 60
	return reading(begin), reading(begin + minutes)
}

func reading(minute int) told.Reading {
	return told.Reading{Clock: fmt.Sprintf("%02d:%02d", minute/60%24, minute%60)}
}

// Sentence says when sessions are, so that Read understands just these: those at the same time of day together. Starts are in order.
func Sentence(starts []civil.Clock, minutes int) told.Words {
	var parts []told.Words
	for _, at := range timesOfDay(starts) {
		these := slices.DeleteFunc(slices.Clone(starts), func(c civil.Clock) bool { return c.Seconds != at })
		parts = append(parts, sentenceOf(these, minutes))
	}
	return told.Join(parts, "; ")
}

// sentenceOf does so for those at one time of day. Two dates, and those that are far between, are rather named than counted.
func sentenceOf(starts []civil.Clock, minutes int) told.Words {
	first, out := starts[0].Date, leftOutOf(starts)
	switch {
	case len(starts) < 3 || len(out) > len(starts):
		return onDates(starts, minutes, first)
	case len(out) > 0:
		return told.Say("sessions-but", "{}, not {}", Again(starts, minutes, first), told.Join(out, ", "))
	}
	return Again(starts, minutes, first)
}

// timesOfDay are those at which sessions begin, in the order in which each comes first.
func timesOfDay(starts []civil.Clock) (out []int) {
	for _, s := range starts {
		if !slices.Contains(out, s.Seconds) {
			out = append(out, s.Seconds)
		}
	}
	return out
}

// leftOutOf is the dates between sessions that come every so many weeks on which there is none.
func leftOutOf(starts []civil.Clock) (out []told.Words) {
	apart := 7 * weeksApart(starts)
	for i := 1; i < len(starts) && apart > 0; i++ {
		for date := starts[i-1].Date.AddDays(apart); date.Before(starts[i].Date); date = date.AddDays(apart) {
			out = append(out, told.Say("one-date", "{}", told.FullDate(date)))
		}
	}
	return out
}

// weeksApart is how many weeks lie between one session and the next, if it is always so many, or a multiple of it where one was left out;
// 0 if it isn't.
func weeksApart(starts []civil.Clock) int {
	least := 0
	for i := 1; i < len(starts); i++ {
		if days := starts[i-1].Date.DaysUntil(starts[i].Date); least == 0 || days < least {
			least = days
		}
	}
	for i := 1; i < len(starts); i++ {
		if days := starts[i-1].Date.DaysUntil(starts[i].Date); least == 0 || days%least != 0 {
			return 0
		}
	}
	if least%7 != 0 {
		return 0
	}
	return least / 7
}

// After is the first date after another that is on the weekday of the first of some sessions.
func After(starts []civil.Clock, date civil.Date) civil.Date {
	for date = date.AddDays(1); date.Weekday() != starts[0].Date.Weekday(); {
		date = date.AddDays(1)
	}
	return date
}
