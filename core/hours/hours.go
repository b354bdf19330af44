// Package hours says when a person is open: a week plan in the person's own zone, laid onto real days.
//
// An interval is written on the wall clock. One that ends earlier by the clock than it starts runs past midnight and
// belongs to the day it starts on: "22-2" on Friday ends on Saturday at 2:00.
package hours

import (
	"fmt"
	"strings"
	"time"

	"corrim/core/civil"
	"corrim/core/span"
)

const dayMinutes = 24 * 60

// Interval is a stretch of one day in wall-clock minutes past its midnight. Start lies in [0, 1440); End comes after
// Start and reaches past 1440 where the interval runs into the next day.
type Interval struct {
	Start int `json:"start" minimum:"0" maximum:"1439"`
	End   int `json:"end" minimum:"1" maximum:"2880"`
}

// Check tells in a sentence what is wrong with an interval that did not come from ParseDay.
func (i Interval) Check() error {
	if i.Start < 0 || i.Start >= dayMinutes || i.End <= i.Start || i.End-i.Start > dayMinutes {
		return fmt.Errorf("an interval from minute %d to minute %d is not within a day: start at 0-1439 and end later, at most 24 hours on", i.Start, i.End)
	}
	return nil
}

// Day is the intervals of one day, in order, none touching another.
type Day []Interval

// NewDay joins intervals that touch or overlap and puts them in order.
func NewDay(intervals ...Interval) Day {
	spans := make([]span.Span, 0, len(intervals))
	for _, i := range intervals {
		spans = append(spans, span.Span{Start: span.Instant(i.Start), End: span.Instant(i.End)})
	}
	var day Day
	for _, s := range span.UnionInPlace(spans) {
		// A join can outgrow one day (22-2 with 1-23); it stays within what Check allows.
		day = append(day, Interval{int(s.Start), min(int(s.End), int(s.Start)+dayMinutes)})
	}
	return day
}

// Week is a week plan: the day of each time.Weekday, Sunday first as in package time.
type Week [7]Day

// Weekdays in the order a plan is read and written, Monday first (ISO 8601).
var Weekdays = [7]time.Weekday{time.Monday, time.Tuesday, time.Wednesday, time.Thursday, time.Friday, time.Saturday, time.Sunday}

// ParseWeek reads seven texts, Monday first.
func ParseWeek(texts [7]string) (Week, error) {
	var week Week
	for i, weekday := range Weekdays {
		day, err := ParseDay(texts[i])
		if err != nil {
			return Week{}, fmt.Errorf("%s, %w", weekday, err)
		}
		week[weekday] = day
	}
	return week, nil
}

// ParseStoredWeek reads seven texts that Texts wrote, in this version or an earlier one.
func ParseStoredWeek(texts [7]string) (week Week, err error) {
	for i, weekday := range Weekdays {
		if week[weekday], err = ParseStoredDay(texts[i]); err != nil {
			return Week{}, fmt.Errorf("%s, %w", weekday, err)
		}
	}
	return week, nil
}

// Texts writes the week as seven texts, Monday first; ParseWeek and ParseStoredWeek read them back.
func (w Week) Texts() [7]string {
	var texts [7]string
	for i, weekday := range Weekdays {
		texts[i] = w[weekday].String()
	}
	return texts
}

// Plan is a person's hours: a week plan, what differs from it on some days, and time off, all on one zone's wall clock.
type Plan struct {
	Zone    *time.Location
	Week    Week
	Changes []Change // each applies to what the earlier ones left
	TimeOff []TimeOff

	// Elsewhere means that Marked says what is open instead of the week and its changes: stretches that the person has
	// marked in a calendar of theirs. Time off is taken away anyway.
	Elsewhere bool
	Marked    span.Set
}

// Change is what differs from the week plan on the dates from First to Last, both included.
type Change struct {
	First, Last civil.Date
	Kind        ChangeKind
	Day         Day // for Instead and Extra
}

// ChangeKind is what a change does to a day.
type ChangeKind int

// The kinds of changes.
const (
	Closed  ChangeKind = iota // no hours begin on the day
	Instead                   // its hours are the change's
	Extra                     // the change's hours are added
)

// Open returns the open hours within bounds.
func (p Plan) Open(bounds span.Span) span.Set {
	if bounds.Empty() {
		return nil
	}
	var spans []span.Span
	last := civil.DateOf(bounds.End, p.Zone)
	// An interval of the day before may still run at the beginning of bounds.
	for date := civil.DateOf(bounds.Start, p.Zone).AddDays(-1); !last.Before(date); date = date.AddDays(1) {
		spans = p.appendDay(spans, date)
	}
	open := span.UnionInPlace(spans).Clip(bounds)
	if p.Elsewhere {
		open = p.Marked.Clip(bounds)
	}
	if len(p.TimeOff) == 0 {
		return open
	}
	off := make([]span.Span, len(p.TimeOff))
	for i, t := range p.TimeOff {
		off[i] = t.Span(p.Zone)
	}
	return open.Minus(span.UnionInPlace(off))
}

// Begun returns what is open of the intervals that begin on the date: its hours less the time off. Hours marked elsewhere
// have no such intervals.
func (p Plan) Begun(date civil.Date) span.Set {
	if p.Elsewhere {
		return nil
	}
	var off []span.Span
	for _, t := range p.TimeOff {
		off = append(off, t.Span(p.Zone))
	}
	return span.UnionInPlace(p.appendDay(nil, date)).Minus(span.UnionInPlace(off))
}

// On returns the hours that begin on the date: what the week plan says, then the changes in their order. Time off is
// not taken away yet.
func (p Plan) On(date civil.Date) Day {
	day := p.Week[date.Weekday()]
	for _, c := range p.Changes {
		if date.Before(c.First) || c.Last.Before(date) {
			continue
		}
		switch c.Kind {
		case Closed:
			day = nil
		case Instead:
			day = c.Day
		case Extra:
			day = NewDay(append(append(Day{}, day...), c.Day...)...)
		}
	}
	return day
}

// appendDay adds the spans of the intervals that begin on the date. A date the zone skipped has none.
func (p Plan) appendDay(spans []span.Span, date civil.Date) []span.Span {
	day := p.On(date)
	if len(day) == 0 || !date.Exists(p.Zone) {
		return spans
	}
	for _, i := range day {
		spans = append(spans, span.Span{Start: at(date, i.Start, p.Zone), End: at(date, i.End, p.Zone)})
	}
	return spans
}

// at is the instant of a wall-clock minute, which may lie on the date after.
func at(date civil.Date, minute int, zone *time.Location) span.Instant {
	return clockOn(date, minute).Instant(zone)
}

// String writes the day as ParseDay reads it: "9-12, 13:30-17"; a day without intervals is "closed".
func (d Day) String() string {
	if len(d) == 0 {
		return "closed"
	}
	parts := make([]string, len(d))
	for k, i := range d {
		parts[k] = clockText(i.Start) + "-" + endText(i)
	}
	return strings.Join(parts, ", ")
}

func endText(i Interval) string {
	if end := i.End - dayMinutes; end > 0 {
		if end < noon && end+noon > i.Start {
			return nightText(end)
		}
		return clockText(end)
	}
	return clockText(i.End)
}

// nightText is a time of the next day that could be taken for the afternoon's, written so that it is the morning's.
func nightText(minute int) string {
	if minute >= 10*60 { // no 0 before it can say so
		return clockText(minute) + " next day"
	}
	return fmt.Sprintf("%02d:%02d", minute/60, minute%60)
}

func clockText(minute int) string {
	if minute%60 == 0 {
		return fmt.Sprint(minute / 60)
	}
	return fmt.Sprintf("%d:%02d", minute/60, minute%60)
}
