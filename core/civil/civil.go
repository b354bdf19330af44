// Package civil knows dates, wall clocks and how they meet the one line of instants.
//
// A wall-clock reading belongs to an IANA zone. Turning it into an instant follows RFC 5545, 3.3.5:
//
//	a reading that does not exist (spring gap)  is read with the offset in force before the gap
//	a reading that exists twice (autumn fold)   means the first
//
// Go's time.Date does neither everywhere, which is why this package does it itself.
package civil

import (
	"fmt"
	"strings"
	"sync"
	"time"

	"corrim/core/span"
)

const (
	daySeconds = 24 * 60 * 60
	// farthestOffset bounds how far a wall clock is from UTC: offsets in the zone data stay within ±16 hours.
	farthestOffset = 16 * 60 * 60
)

// Date is a day of the Gregorian calendar, without a zone. The zero value is not a date.
type Date struct {
	Year  int
	Month time.Month
	Day   int
}

// DateOf returns the local date of an instant.
func DateOf(i span.Instant, zone *time.Location) Date {
	year, month, day := time.Unix(int64(i), 0).In(zone).Date()
	return Date{year, month, day}
}

// ParseDate reads "2026-05-14".
func ParseDate(text string) (Date, error) {
	t, err := time.Parse(time.DateOnly, text)
	if err != nil {
		return Date{}, fmt.Errorf("%q is not a date like 2026-05-14", text)
	}
	return DateOf(span.At(t), time.UTC), nil
}

// String writes the date as 2026-05-14.
func (d Date) String() string { return fmt.Sprintf("%04d-%02d-%02d", d.Year, d.Month, d.Day) }

func (d Date) utc() time.Time { return time.Date(d.Year, d.Month, d.Day, 0, 0, 0, 0, time.UTC) }

// AddDays returns the date n days later; n may be negative.
func (d Date) AddDays(n int) Date {
	return DateOf(span.At(time.Date(d.Year, d.Month, d.Day+n, 0, 0, 0, 0, time.UTC)), time.UTC)
}

// DaysUntil is the number of days from d to o, negative if o comes first.
func (d Date) DaysUntil(o Date) int { return int((o.utc().Unix() - d.utc().Unix()) / daySeconds) }

// Before tells whether d comes before o.
func (d Date) Before(o Date) bool { return d.utc().Before(o.utc()) }

// Weekday is the date's day of the week.
func (d Date) Weekday() time.Weekday { return d.utc().Weekday() }

// Week is the first day of the date's week, which begins on the given weekday: on Monday by ISO 8601.
func (d Date) Week(first time.Weekday) Date { return d.AddDays(-int((d.Weekday() - first + 7) % 7)) }

// Exists tells whether the zone has this day at all: Apia had no 30 December 2011.
func (d Date) Exists(zone *time.Location) bool { return !d.Span(zone).Empty() }

// Start is the first instant of the local day. Where midnight is skipped it is the instant the day begins.
func (d Date) Start(zone *time.Location) span.Instant {
	i := Clock{Date: d}.Instant(zone)
	if DateOf(i, zone).Before(d) { // midnight lies in a gap and was read with the offset before it
		_, end := time.Unix(int64(i), 0).In(zone).ZoneBounds()
		return span.At(end)
	}
	// In a gap east or west, the reading "00:00" may land later than the day's first instant.
	begin, _ := time.Unix(int64(i), 0).In(zone).ZoneBounds()
	if !begin.IsZero() && span.At(begin) < i && DateOf(span.At(begin), zone) == d {
		return span.At(begin)
	}
	return i
}

// Span is the local day from its first instant to the next day's: 23, 24 or 25 hours, 23½ on Lord Howe, none at all
// for a day the zone skipped.
func (d Date) Span(zone *time.Location) span.Span {
	return span.Span{Start: d.Start(zone), End: d.AddDays(1).Start(zone)}
}

// Clock is a wall-clock reading: a date and the seconds that a clock shows past its midnight. Seconds may be 86 400
// or more (24:00, or the far end of an interval that runs past midnight).
type Clock struct {
	Date    Date
	Seconds int
}

// ClockOf is what a wall clock in the zone shows at the instant.
func ClockOf(i span.Instant, zone *time.Location) Clock {
	t := time.Unix(int64(i), 0).In(zone)
	return Clock{DateOf(i, zone), t.Hour()*3600 + t.Minute()*60 + t.Second()}
}

// FromUTC reads a time whose UTC fields are meant as a wall-clock reading.
func FromUTC(t time.Time) Clock { return ClockOf(span.At(t), time.UTC) }

// UTC dresses the reading as a time in UTC, for arithmetic on wall clocks.
func (c Clock) UTC() time.Time { return c.Date.utc().Add(time.Duration(c.Seconds) * time.Second) }

// Compare orders what clocks show: negative if c comes before o.
func (c Clock) Compare(o Clock) int { return c.UTC().Compare(o.UTC()) }

// Instant is the moment at which a wall clock in the zone shows the reading (RFC 5545, 3.3.5; see the package comment).
func (c Clock) Instant(zone *time.Location) span.Instant {
	reading := c.UTC().Unix()
	at := time.Unix(reading-farthestOffset, 0).In(zone)
	for {
		_, offset := at.Zone()
		_, next := at.ZoneBounds()
		candidate := reading - int64(offset)
		if next.IsZero() || candidate < next.Unix() {
			// Segments are walked in order, so the first that still holds the reading is the earlier of a fold, and a
			// reading that the segment before did not reach and this one starts beyond lies in the gap between them.
			return span.Instant(candidate)
		}
		if _, later := next.Zone(); reading < next.Unix()+int64(later) {
			return span.Instant(candidate)
		}
		at = next
	}
}

// loaded keeps the zones found so far, which are only ever as many as the zone data names; reading one from disk costs
// more than reading a calendar event.
var loaded sync.Map

// LoadZone finds a zone by its IANA name: in the system's data, else in the copy compiled into the program. The empty
// name and "Local" are refused: they would mean something else on every machine.
func LoadZone(name string) (*time.Location, error) {
	if name == "" || strings.EqualFold(name, "local") {
		return nil, fmt.Errorf("%q is not a time zone: use an IANA name such as Europe/Lisbon", name)
	}
	if known, ok := loaded.Load(name); ok {
		return known.(*time.Location), nil
	}
	zone, err := time.LoadLocation(name)
	if err != nil {
		return nil, fmt.Errorf("there is no time zone %q: use an IANA name such as Europe/Lisbon", name)
	}
	loaded.Store(name, zone)
	return zone, nil
}
