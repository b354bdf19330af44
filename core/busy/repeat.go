package busy

import (
	"time"

	"corrim/core/civil"
	"corrim/core/told"
)

// Repeat lists the wall-clock times that a recurrence rule (RFC 5545, 3.3.10) makes from a start on, the start first. A
// rule that makes more than so many, or never ends, is an error, and so is one that can't be read. Nothing is looked for
// beyond five years.
func Repeat(text string, start civil.Clock, zone *time.Location, most int) ([]civil.Clock, error) {
	from := stamp{clock: start, zone: zone}
	rule, err := parseRule(text, from, 0)
	if err != nil {
		return nil, err
	}
	if rule.freq < daily {
		return nil, told.Error("repeats-within-day", "it repeats within a day; a meeting can repeat daily, weekly, monthly or yearly")
	}
	times := []civil.Clock{start}
	work := budget(1_000_000)
	done := rule.each(from.wall(), from.wall(), from.wall()+5*366*day, &work, func(wall int64) bool {
		if wall != from.wall() {
			times = append(times, from.at(wall).clock)
		}
		return len(times) <= most
	})
	if !done || len(times) > most {
		return nil, told.Error("makes-more-than", "it makes more than {} times; end it with COUNT or UNTIL", most)
	}
	return times, nil
}
