package busy

import (
	"errors"
	"fmt"
	"time"

	"corrim/core/civil"
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
		return nil, errors.New("it repeats within a day; a meeting can repeat daily, weekly, monthly or yearly")
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
		return nil, fmt.Errorf("it makes more than %d times; end it with COUNT or UNTIL", most)
	}
	return times, nil
}
