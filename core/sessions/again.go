package sessions

import (
	"fmt"

	"corrim/core/civil"
	"corrim/core/told"
)

// Again is the sentence that sets sessions anew as they were, the first of them on a date: on a weekday, if all were on the same one at even
// distances, else on dates that are as far apart. Starts are in order; all begin at the time of day of the first. Read understands it.
func Again(starts []civil.Clock, minutes int, first civil.Date) told.Words {
	from, to := reading(starts[0].Seconds/60), reading(starts[0].Seconds/60+minutes)
	switch weeks := weeksApart(starts); weeks {
	case 0:
		var dates []told.Words
		for _, s := range starts {
			dates = append(dates, told.Say("one-date", "{}", told.FullDate(first.AddDays(starts[0].Date.DaysUntil(s.Date)))))
		}
		return told.Say("sessions-again-dates", "{} {}-{}", told.Join(dates, ", "), from, to)
	case 1:
		return told.Say("sessions-again", "{} {}-{} from {}, {} times", told.Weekday(first.Weekday()), from, to, told.FullDate(first), len(starts))
	default:
		return told.Say("sessions-again-weeks", "every {} weeks on {} {}-{} from {}, {} times", weeks, told.Weekday(first.Weekday()), from, to, told.FullDate(first), len(starts))
	}
}

func reading(minute int) told.Reading {
	return told.Reading{Clock: fmt.Sprintf("%02d:%02d", minute/60%24, minute%60)}
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
