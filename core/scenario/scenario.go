// Package scenario reads a self-contained file of everything that open times depend on, and answers it: for support, for
// tests, for other programs. The file is JSON, read strictly: an unknown key or a value that makes no sense is refused with
// the place where it stands.
package scenario

import (
	"fmt"
	"time"

	"corrim/core/busy"
	"corrim/core/hours"
	"corrim/core/opentimes"
	"corrim/core/span"
)

// Scenario is a file that was read.
type Scenario struct {
	Input    opentimes.Input // without a host
	Pool     opentimes.Pool
	Range    span.Span // from ≤ s < to
	Explain  []span.Instant
	Troubles []string // what of the calendars could not be read
}

// MaxSize is the largest file that should be read, in bytes.
const MaxSize = 20 << 20

const (
	maxRange   = 400 * 24 * 3600
	maxMinutes = 7 * 24 * 60
	// busyMargin is how far beyond the range calendars are read: the grids look at whole runs, up to a week.
	busyMargin = 20 * 24 * 3600
)

// Read reads a scenario. open returns the text of a calendar file that the scenario names.
func Read(text []byte, open func(name string) ([]byte, error)) (Scenario, error) {
	r := &reader{}
	s := Scenario{}
	f := r.rootOf(text).fields("now", "from", "to", "first_weekday", "share_buffers", "type", "pool", "hosts", "explain")
	s.Input.Now = f["now"].required().instant()
	s.Range = span.Span{Start: f["from"].required().instant(), End: f["to"].required().instant()}
	if s.Range.End < s.Range.Start || s.Range.End-s.Range.Start > maxRange {
		f["to"].refuse("it must come after from, by at most 400 days")
	}
	s.Input.FirstWeekday = choice(f["first_weekday"], time.Monday, weekdays)
	s.Input.ShareBuffers = f["share_buffers"].flag(false)
	s.Input.Type = readType(f["type"].required())
	s.Pool.Together = choice(f["pool"], false, map[string]bool{"one": false, "together": true})
	reach := s.Range
	for _, n := range f["explain"].list() {
		at := n.instant()
		s.Explain = append(s.Explain, at)
		reach = span.Span{Start: min(reach.Start, at), End: max(reach.End, at)}
	}
	s.readHosts(f["hosts"].required(), reach.Grow(busyMargin, busyMargin), open)
	return s, r.err
}

var weekdayNames = []string{"mon", "tue", "wed", "thu", "fri", "sat", "sun"}

func readType(n node) opentimes.Type {
	f := n.fields("name", "durations", "before", "after", "buffers_inside_hours", "step", "offset", "grid", "notice", "window", "limits", "hours")
	t := opentimes.Type{
		Name: f["name"].text(), Before: f["before"].number(0, 0, maxMinutes), After: f["after"].number(0, 0, maxMinutes),
		BuffersInsideOpen: f["buffers_inside_hours"].flag(false), Step: f["step"].number(30, 1, 1440), Offset: f["offset"].number(0, 0, 1<<30),
		Grid: choice(f["grid"], opentimes.OnTheClock, grids),
	}
	seen := map[int]bool{}
	for _, d := range f["durations"].required().list() {
		minutes := d.number(0, 1, maxMinutes)
		if seen[minutes] {
			d.refuse("%d minutes are there already", minutes)
		}
		seen[minutes] = true
		t.Durations = append(t.Durations, minutes)
	}
	if len(t.Durations) == 0 {
		f["durations"].refuse("at least one duration is required")
	}
	readNotice(f["notice"], &t.Notice)
	readWindow(f["window"], &t.Window)
	for _, l := range f["limits"].list() {
		t.Limits = append(t.Limits, readLimit(l))
	}
	t.Hours = readOwnHours(f["hours"])
	return t
}

func readNotice(n node, notice *opentimes.Notice) {
	if !n.given() {
		return
	}
	f := n.fields("minutes", "days")
	switch one(n, f, "minutes", "days") {
	case "minutes":
		notice.Minutes = f["minutes"].number(0, 0, 1<<30)
	case "days":
		notice.Days = f["days"].number(0, 0, 36500)
	}
}

func readWindow(n node, window *opentimes.Window) {
	if !n.given() {
		return
	}
	f := n.fields("days", "first", "last")
	if f["days"].given() {
		if f["first"].given() || f["last"].given() {
			n.refuse("it has either days, or first and last")
		}
		window.Kind, window.Days = opentimes.NextDays, f["days"].number(0, 0, 36500)
		return
	}
	window.Kind, window.First, window.Last = opentimes.Dates, f["first"].required().date(), f["last"].required().date()
	if window.Last.Before(window.First) {
		f["last"].refuse("it comes before first")
	}
}

func readLimit(n node) opentimes.Limit {
	f := n.fields("of", "per", "count", "minutes")
	l := opentimes.Limit{
		Of:  choice(f["of"].required(), opentimes.OfType, limitOf),
		Per: choice(f["per"].required(), opentimes.PerDay, limitPer),
	}
	switch one(n, f, "count", "minutes") {
	case "count":
		l.Count = f["count"].number(0, 0, 1<<30)
	case "minutes":
		l.ByTime, l.Minutes = true, f["minutes"].number(0, 0, 1<<30)
	}
	return l
}

// readOwnHours reads a type's own hours; an empty object means none.
func readOwnHours(n node) *hours.Plan {
	f := n.fields("zone", "week", "changes")
	if !f["zone"].given() && !f["week"].given() && !f["changes"].given() {
		return nil
	}
	plan := &hours.Plan{Week: readWeek(f["week"]), Changes: readChanges(f["changes"])}
	if f["zone"].given() {
		plan.Zone = f["zone"].zone()
	}
	return plan
}

func readWeek(n node) hours.Week {
	var week hours.Week
	f := n.fields(weekdayNames...)
	for name, day := range weekdays {
		week[day] = readDay(f[name])
	}
	return week
}

func readDay(n node) hours.Day {
	if !n.given() {
		return nil
	}
	day, err := hours.ParseDay(n.text())
	if err != nil {
		n.refuse("%v", err)
	}
	return day
}

func readChanges(n node) []hours.Change {
	var out []hours.Change
	for _, c := range n.list() {
		f := c.fields("date", "from", "to", "closed", "hours", "extra")
		change := hours.Change{}
		if f["date"].given() {
			if f["from"].given() || f["to"].given() {
				c.refuse("it has either date, or from and to")
			}
			change.First = f["date"].date()
			change.Last = change.First
		} else {
			change.First, change.Last = f["from"].required().date(), f["to"].required().date()
		}
		if change.Last.Before(change.First) {
			f["to"].refuse("it comes before from")
		}
		switch kind := one(c, f, "closed", "hours", "extra"); kind {
		case "closed":
			if !f["closed"].flag(true) {
				f["closed"].refuse("only true makes sense; leave the change out instead")
			}
		case "hours":
			change.Kind, change.Day = hours.Instead, readDay(f[kind])
		case "extra":
			change.Kind, change.Day = hours.Extra, readDay(f[kind])
		}
		out = append(out, change)
	}
	return out
}

func (s *Scenario) readHosts(n node, reach span.Span, open func(string) ([]byte, error)) {
	seen := map[string]bool{}
	for _, h := range n.list() {
		f := h.fields("name", "zone", "week", "changes", "time_off", "calendars", "busy", "bookings")
		host := opentimes.Host{Name: f["name"].required().text()}
		if seen[host.Name] {
			f["name"].refuse("another host has this name already")
		}
		seen[host.Name] = true
		host.Hours = hours.Plan{
			Zone: f["zone"].required().zone(), Week: readWeek(f["week"]), Changes: readChanges(f["changes"]), TimeOff: readTimeOff(f["time_off"]),
		}
		stretches := readBusy(f["busy"])
		for _, c := range f["calendars"].list() {
			stretches = append(stretches, s.readCalendar(c, host.Hours.Zone, reach, open)...)
		}
		host.Busy = opentimes.NewAgenda(stretches)
		for _, b := range f["bookings"].list() {
			host.Bookings = append(host.Bookings, readBooking(b))
		}
		s.Pool.Hosts = append(s.Pool.Hosts, host)
	}
	if len(s.Pool.Hosts) == 0 {
		n.refuse("at least one host is required")
	}
}

func readTimeOff(n node) []hours.TimeOff {
	var out []hours.TimeOff
	for _, t := range n.list() {
		f := t.fields("from", "to")
		from, to := f["from"].required(), f["to"].required()
		off := hours.TimeOff{}
		if len(from.text()) == len("2026-05-11") {
			off.First, off.Last = from.date(), to.date()
			if off.Last.Before(off.First) {
				to.refuse("it comes before from")
			}
		} else {
			off.From, off.To = from.clock(), to.clock()
			if off.To.UTC().Before(off.From.UTC()) {
				to.refuse("it comes before from")
			}
		}
		out = append(out, off)
	}
	return out
}

func readBusy(n node) []opentimes.Stretch {
	var out []opentimes.Stretch
	for _, pair := range n.list() {
		ends := pair.list()
		if len(ends) != 2 {
			pair.refuse("a start and an end are expected")
			continue
		}
		s := span.Span{Start: ends[0].instant(), End: ends[1].instant()}
		if s.End < s.Start {
			ends[1].refuse("the end comes before the start")
		}
		out = append(out, opentimes.Stretch{Span: s})
	}
	return out
}

func (s *Scenario) readCalendar(n node, zone *time.Location, reach span.Span, open func(string) ([]byte, error)) []opentimes.Stretch {
	f := n.fields("ics", "file", "zone", "owner", "tentative_busy", "all_day_busy")
	options := busy.Options{Zone: zone, Owners: []string{f["owner"].text()}, TentativeBusy: f["tentative_busy"].flag(true), AllDayBusy: f["all_day_busy"].flag(true)}
	if f["zone"].given() {
		options.Zone = f["zone"].zone()
	}
	kind := one(n, f, "ics", "file")
	text := []byte(f[kind].text())
	if n.err != nil {
		return nil
	}
	if kind == "file" {
		var err error
		if text, err = open(string(text)); err != nil {
			f[kind].refuse("%v", err)
			return nil
		}
	}
	calendar, err := busy.Read(text, options)
	if err != nil {
		f[kind].refuse("%v", err)
		return nil
	}
	stretches, troubles := calendar.Busy(reach)
	for _, t := range troubles {
		s.Troubles = append(s.Troubles, fmt.Sprintf("%s: %s", n.place, t))
	}
	out := make([]opentimes.Stretch, len(stretches))
	for i, b := range stretches {
		out[i] = opentimes.Stretch{Span: b.Span, Title: b.Title}
	}
	return out
}

func readBooking(n node) opentimes.Booking {
	f := n.fields("type", "start", "minutes", "before", "after")
	start := f["start"].required().instant()
	minutes := f["minutes"].required().number(0, 1, maxMinutes)
	return opentimes.Booking{
		Type: f["type"].text(), Meeting: span.Span{Start: start, End: start + span.Instant(minutes)*60},
		Before: f["before"].number(0, 0, maxMinutes), After: f["after"].number(0, 0, maxMinutes),
	}
}
