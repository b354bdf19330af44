package scenario

import (
	"encoding/json"

	"corrim/core/hours"
	"corrim/core/opentimes"
	"corrim/core/span"
)

// Write is the scenario as a file that Read reads back to the same answer. Calendars become plain busy times: titles of
// events, which are private to their owners, and names of clients are not in it.
func (s Scenario) Write() ([]byte, error) {
	file := object{
		"now": s.Input.Now.String(), "from": s.Range.Start.String(), "to": s.Range.End.String(),
		"first_weekday": hours.WriteWeekday(s.Input.FirstWeekday), "share_buffers": s.Input.ShareBuffers,
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

func writeType(t opentimes.Type) object {
	out := object{"name": t.Name, "durations": t.Durations}
	opentimes.WriteRules(t, out)
	return out
}

func writeHost(h opentimes.Host) object {
	busy, blocked := [][2]string{}, [][2]string{}
	for _, s := range h.Busy.Within(span.Span{Start: -1 << 40, End: 1 << 40}) {
		pair := [2]string{s.Start.String(), s.End.String()}
		if s.Blocked {
			blocked = append(blocked, pair)
		} else {
			busy = append(busy, pair)
		}
	}
	bookings := []object{}
	for _, b := range h.Bookings {
		booking := object{"type": b.Type, "start": b.Meeting.Start.String(), "minutes": b.Meeting.Seconds() / 60, "before": b.Before, "after": b.After}
		if b.Seats > 1 {
			booking["seats"], booking["taken"], booking["session"] = b.Seats, b.Taken, b.Session
		}
		if b.Series != "" {
			booking["series"] = b.Series
		}
		bookings = append(bookings, booking)
	}
	return object{
		"name": h.Name, "zone": h.Hours.Zone.String(), "week": hours.WriteWeek(h.Hours.Week), "changes": hours.WriteChanges(h.Hours.Changes),
		"time_off": hours.WriteTimeOff(h.Hours.TimeOff), "busy": busy, "blocked": blocked, "bookings": bookings,
	}
}
