package scenario

import (
	"encoding/json"
	"time"

	"corrim/core/civil"
	"corrim/core/hours"
	"corrim/core/opentimes"
	"corrim/core/span"
)

// Write is the scenario as a file that Read reads back to the same answer. Calendars become plain busy times: titles of
// events, which are private to their owners, and names of clients are not in it.
func (s Scenario) Write() ([]byte, error) {
	file := object{
		"now": s.Input.Now.String(), "from": s.Range.Start.String(), "to": s.Range.End.String(),
		"first_weekday": nameOf(weekdays, s.Input.FirstWeekday), "share_buffers": s.Input.ShareBuffers,
		"type": writeType(s.Input.Type), "pool": map[bool]string{false: "one", true: "together"}[s.Pool.Together],
	}
	var hosts []object
	for _, h := range s.Pool.Hosts {
		hosts = append(hosts, writeHost(h))
	}
	file["hosts"] = hosts
	explain := []string{}
	for _, at := range s.Explain {
		explain = append(explain, at.String())
	}
	file["explain"] = explain
	return json.MarshalIndent(file, "", "  ")
}

type object map[string]any

func nameOf[T comparable](words map[string]T, value T) string {
	for word, v := range words {
		if v == value {
			return word
		}
	}
	return ""
}

func writeType(t opentimes.Type) object {
	out := object{
		"name": t.Name, "durations": t.Durations, "before": t.Before, "after": t.After, "buffers_inside_hours": t.BuffersInsideOpen,
		"step": t.Step, "offset": t.Offset, "grid": nameOf(grids, t.Grid),
	}
	if t.Notice.Days > 0 {
		out["notice"] = object{"days": t.Notice.Days}
	} else if t.Notice.Minutes > 0 {
		out["notice"] = object{"minutes": t.Notice.Minutes}
	}
	switch t.Window.Kind {
	case opentimes.NextDays:
		out["window"] = object{"days": t.Window.Days}
	case opentimes.Dates:
		out["window"] = object{"first": t.Window.First.String(), "last": t.Window.Last.String()}
	}
	limits := []object{}
	for _, l := range t.Limits {
		limit := object{"of": nameOf(limitOf, l.Of), "per": nameOf(limitPer, l.Per)}
		if l.ByTime {
			limit["minutes"] = l.Minutes
		} else {
			limit["count"] = l.Count
		}
		limits = append(limits, limit)
	}
	out["limits"] = limits
	if t.Hours != nil {
		own := object{"week": writeWeek(t.Hours.Week), "changes": writeChanges(t.Hours.Changes)}
		if t.Hours.Zone != nil {
			own["zone"] = t.Hours.Zone.String()
		}
		out["hours"] = own
	}
	return out
}

func writeHost(h opentimes.Host) object {
	busy := [][2]string{}
	for _, s := range h.Busy.Within(span.Span{Start: -1 << 40, End: 1 << 40}) {
		busy = append(busy, [2]string{s.Start.String(), s.End.String()})
	}
	bookings := []object{}
	for _, b := range h.Bookings {
		bookings = append(bookings, object{
			"type": b.Type, "start": b.Meeting.Start.String(), "minutes": b.Meeting.Seconds() / 60, "before": b.Before, "after": b.After,
		})
	}
	return object{
		"name": h.Name, "zone": h.Hours.Zone.String(), "week": writeWeek(h.Hours.Week), "changes": writeChanges(h.Hours.Changes),
		"time_off": writeTimeOff(h.Hours.TimeOff), "busy": busy, "bookings": bookings,
	}
}

func writeWeek(week hours.Week) object {
	out := object{}
	for name, day := range weekdays {
		if len(week[day]) > 0 {
			out[name] = week[day].String()
		}
	}
	return out
}

func writeChanges(changes []hours.Change) []object {
	out := []object{}
	for _, c := range changes {
		change := object{"from": c.First.String(), "to": c.Last.String()}
		switch c.Kind {
		case hours.Closed:
			change["closed"] = true
		case hours.Instead:
			change["hours"] = c.Day.String()
		case hours.Extra:
			change["extra"] = c.Day.String()
		}
		out = append(out, change)
	}
	return out
}

func writeTimeOff(off []hours.TimeOff) []object {
	out := []object{}
	for _, t := range off {
		if t.Last != (civil.Date{}) {
			out = append(out, object{"from": t.First.String(), "to": t.Last.String()})
			continue
		}
		local := func(c civil.Clock) string { return c.UTC().Format("2006-01-02T15:04:05") }
		out = append(out, object{"from": local(t.From), "to": local(t.To)})
	}
	return out
}

var (
	weekdays = map[string]time.Weekday{
		"mon": time.Monday, "tue": time.Tuesday, "wed": time.Wednesday, "thu": time.Thursday, "fri": time.Friday, "sat": time.Saturday, "sun": time.Sunday,
	}
	grids    = map[string]opentimes.Grid{"clock": opentimes.OnTheClock, "opening": opentimes.FromOpening, "packed": opentimes.Packed}
	limitOf  = map[string]opentimes.LimitOf{"type": opentimes.OfType, "host": opentimes.OfHost}
	limitPer = map[string]opentimes.LimitPer{"day": opentimes.PerDay, "week": opentimes.PerWeek}
)
