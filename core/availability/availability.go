// Package availability reads and writes a person's hours as VAVAILABILITY (RFC 7953), the open form in which calendar
// programs keep them.
package availability

import (
	"bytes"
	"errors"
	"fmt"
	"strings"
	"time"

	"github.com/emersion/go-ical"

	"corrim/core/busy"
	"corrim/core/civil"
	"corrim/core/hours"
	"corrim/core/span"
)

// ErrNone means that the text is iCalendar but says nothing of availability.
var ErrNone = errors.New("this file has no VAVAILABILITY, so it says nothing about hours")

// yearOfWeeks is how many weeks of a file become a plan.
const yearOfWeeks = 53

// Read finds the hours that a text comes to in the 53 weeks from first on: the usual week, and changes for the days that
// differ. Times without a zone are read in the given one. Parts that can't be read are left out and told in troubles.
func Read(text []byte, zone *time.Location, first civil.Date) (plan hours.Plan, troubles []busy.Trouble, err error) {
	calendar, err := busy.Read(text, busy.Options{Zone: zone})
	if err != nil {
		return plan, nil, err
	}
	if calendar.Stated() == 0 {
		return plan, nil, ErrNone
	}
	days := 7 * yearOfWeeks
	around := span.Span{Start: first.AddDays(-1).Start(zone), End: first.AddDays(days + 2).Start(zone)}
	open, troubles := calendar.Available(around)
	return hours.FromOpen(open, zone, first, days), troubles, nil
}

// Write writes the hours from a date on, for so many days: an AVAILABLE for each interval of the week, repeated weekly,
// and one for each stretch of a day that differs. The zone is named and not described: it is an IANA name (RFC 7809).
func Write(plan hours.Plan, first civil.Date, days int, stamp span.Instant) ([]byte, error) {
	zone := plan.Zone
	part := component("VAVAILABILITY", "availability@corrim", stamp)
	setLocal(part, "DTSTART", first.Start(zone), zone)
	setLocal(part, "DTEND", first.AddDays(days).Start(zone), zone)
	differing := differing(plan, first, days)
	week := hours.Plan{Zone: zone, Week: plan.Week}
	for k := range 7 {
		date := first.AddDays(k)
		for n, s := range week.Begun(date) {
			available := component("AVAILABLE", fmt.Sprintf("week-%d-%d@corrim", date.Weekday(), n), stamp)
			setLocal(available, "DTSTART", s.Start, zone)
			setLocal(available, "DTEND", s.End, zone)
			set(available, "RRULE", "FREQ=WEEKLY")
			start := civil.ClockOf(s.Start, zone)
			for _, other := range differing {
				if other.Weekday() == date.Weekday() {
					except(available, civil.Clock{Date: other, Seconds: start.Seconds}, zone)
				}
			}
			part.Children = append(part.Children, available)
		}
	}
	for _, date := range differing {
		for n, s := range plan.Begun(date) {
			available := component("AVAILABLE", fmt.Sprintf("%s-%d@corrim", date, n), stamp)
			setLocal(available, "DTSTART", s.Start, zone)
			setLocal(available, "DTEND", s.End, zone)
			part.Children = append(part.Children, available)
		}
	}
	return encode(part)
}

// differing lists the dates on which a weekly repetition of the first week's stretches would not come to the plan's hours.
// A repetition keeps the exact length (RFC 5545, 3.8.5.3), so a night in which the clock changes can differ too.
func differing(plan hours.Plan, first civil.Date, days int) []civil.Date {
	week := hours.Plan{Zone: plan.Zone, Week: plan.Week}
	var repeated [7]string
	for k := range 7 {
		date := first.AddDays(k)
		repeated[date.Weekday()] = shape(week.Begun(date), plan.Zone)
	}
	var out []civil.Date
	for k := range days {
		date := first.AddDays(k)
		if shape(plan.Begun(date), plan.Zone) != repeated[date.Weekday()] {
			out = append(out, date)
		}
	}
	return out
}

// shape is when stretches start by the clock and how long they last.
func shape(spans span.Set, zone *time.Location) string {
	var b strings.Builder
	for _, s := range spans {
		fmt.Fprintf(&b, "%d+%d ", civil.ClockOf(s.Start, zone).Seconds, s.Seconds())
	}
	return b.String()
}

func component(name, uid string, stamp span.Instant) *ical.Component {
	c := ical.NewComponent(name)
	c.Props.SetText(ical.PropUID, uid)
	c.Props.SetDateTime(ical.PropDateTimeStamp, stamp.Time())
	return c
}

func setLocal(c *ical.Component, name string, at span.Instant, zone *time.Location) {
	c.Props.Set(local(name, civil.ClockOf(at, zone), zone))
}

func except(c *ical.Component, at civil.Clock, zone *time.Location) {
	c.Props.Add(local("EXDATE", at, zone))
}

// local is a wall-clock time with the name of its zone.
func local(name string, at civil.Clock, zone *time.Location) *ical.Prop {
	p := ical.NewProp(name)
	p.Value = at.UTC().Format("20060102T150405")
	if zone == time.UTC {
		p.Value += "Z"
		return p
	}
	p.Params.Set("TZID", zone.String())
	return p
}

func set(c *ical.Component, name, value string) {
	p := ical.NewProp(name)
	p.Value = value
	c.Props.Set(p)
}

func encode(part *ical.Component) ([]byte, error) {
	calendar := ical.NewCalendar()
	calendar.Props.SetText(ical.PropProductID, "-//Corrim//Hours//EN")
	calendar.Props.SetText(ical.PropVersion, "2.0")
	calendar.Children = append(calendar.Children, part)
	var out bytes.Buffer
	if err := ical.NewEncoder(&out).Encode(calendar); err != nil {
		return nil, fmt.Errorf("writing hours as iCalendar: %w", err)
	}
	return out.Bytes(), nil
}
