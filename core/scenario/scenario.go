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
	"corrim/core/strict"
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
	s := Scenario{}
	root := strict.Root(text)
	f := root.Fields("now", "from", "to", "first_weekday", "share_buffers", "type", "pool", "hosts", "explain")
	s.Input.Now = f["now"].Required().Instant()
	s.Range = span.Span{Start: f["from"].Required().Instant(), End: f["to"].Required().Instant()}
	if s.Range.End < s.Range.Start || s.Range.End-s.Range.Start > maxRange {
		f["to"].Refuse("it must come after from, by at most 400 days")
	}
	s.Input.FirstWeekday = hours.ReadWeekday(f["first_weekday"])
	s.Input.ShareBuffers = f["share_buffers"].Flag(false)
	s.Input.Type = readType(f["type"].Required())
	s.Pool.Together = strict.Choice(f["pool"], false, map[string]bool{"one": false, "together": true})
	reach := s.Range
	for _, n := range f["explain"].List() {
		at := n.Instant()
		s.Explain = append(s.Explain, at)
		reach = span.Span{Start: min(reach.Start, at), End: max(reach.End, at)}
	}
	s.readHosts(f["hosts"].Required(), reach.Grow(busyMargin, busyMargin), open)
	s.Input.Series = opentimes.SeriesOf(s.Pool.Hosts...)
	return s, root.Err()
}

func readType(n strict.Node) opentimes.Type {
	f := n.Fields(append([]string{"name", "durations"}, opentimes.FileKeys()...)...)
	t := opentimes.Type{Name: f["name"].Text()}
	seen := map[int]bool{}
	for _, d := range f["durations"].Required().List() {
		minutes := d.Number(0, 1, maxMinutes)
		if seen[minutes] {
			d.Refuse("%d minutes are there already", minutes)
		}
		seen[minutes] = true
		t.Durations = append(t.Durations, minutes)
	}
	if len(t.Durations) == 0 {
		f["durations"].Refuse("at least one duration is required")
	}
	opentimes.ReadRules(f, &t)
	return t
}

func (s *Scenario) readHosts(n strict.Node, reach span.Span, open func(string) ([]byte, error)) {
	seen := map[string]bool{}
	for _, h := range n.List() {
		f := h.Fields("name", "zone", "week", "changes", "time_off", "calendars", "busy", "blocked", "bookings")
		host := opentimes.Host{Name: f["name"].Required().Text()}
		if seen[host.Name] {
			f["name"].Refuse("another host has this name already")
		}
		seen[host.Name] = true
		host.Hours = hours.Plan{
			Zone: f["zone"].Required().Zone(), Week: hours.ReadWeek(f["week"]), Changes: hours.ReadChanges(f["changes"]), TimeOff: hours.ReadTimeOff(f["time_off"]),
		}
		stretches := append(readBusy(f["busy"], false), readBusy(f["blocked"], true)...)
		for _, c := range f["calendars"].List() {
			stretches = append(stretches, s.readCalendar(c, host.Hours.Zone, reach, open)...)
		}
		host.Busy = opentimes.NewAgenda(stretches)
		for _, b := range f["bookings"].List() {
			host.Bookings = append(host.Bookings, readBooking(b))
		}
		s.Pool.Hosts = append(s.Pool.Hosts, host)
	}
	if len(s.Pool.Hosts) == 0 {
		n.Refuse("at least one host is required")
	}
}

func readBusy(n strict.Node, blocked bool) []opentimes.Stretch {
	var out []opentimes.Stretch
	for _, pair := range n.List() {
		ends := pair.List()
		if len(ends) != 2 {
			pair.Refuse("a start and an end are expected")
			continue
		}
		s := span.Span{Start: ends[0].Instant(), End: ends[1].Instant()}
		if s.End < s.Start {
			ends[1].Refuse("the end comes before the start")
		}
		out = append(out, opentimes.Stretch{Span: s, Blocked: blocked})
	}
	return out
}

func (s *Scenario) readCalendar(n strict.Node, zone *time.Location, reach span.Span, open func(string) ([]byte, error)) []opentimes.Stretch {
	f := n.Fields("ics", "file", "zone", "owner", "tentative_busy", "all_day_busy")
	options := busy.Options{Zone: zone, Owners: []string{f["owner"].Text()}, TentativeBusy: f["tentative_busy"].Flag(true), AllDayBusy: f["all_day_busy"].Flag(true)}
	if f["zone"].Given() {
		options.Zone = f["zone"].Zone()
	}
	kind := strict.One(n, f, "ics", "file")
	text := []byte(f[kind].Text())
	if n.Err() != nil {
		return nil
	}
	if kind == "file" {
		var err error
		if text, err = open(string(text)); err != nil {
			f[kind].Refuse("%v", err)
			return nil
		}
	}
	calendar, err := busy.Read(text, options)
	if err != nil {
		f[kind].Refuse("%v", err)
		return nil
	}
	stretches, troubles := calendar.Busy(reach)
	for _, t := range troubles {
		s.Troubles = append(s.Troubles, fmt.Sprintf("%s: %s", n.Path(), t))
	}
	out := make([]opentimes.Stretch, len(stretches))
	for i, b := range stretches {
		out[i] = opentimes.Stretch{Span: b.Span, Title: b.Title}
	}
	return out
}

func readBooking(n strict.Node) opentimes.Booking {
	f := n.Fields("type", "start", "minutes", "before", "after", "seats", "taken", "session", "series")
	start := f["start"].Required().Instant()
	minutes := f["minutes"].Required().Number(0, 1, maxMinutes)
	session, taken := f["session"].Flag(false), 1
	if session {
		taken = 0
	}
	filling := opentimes.Filling{Seats: f["seats"].Number(1, 1, opentimes.MostSeats), Taken: f["taken"].Number(taken, 0, 2*opentimes.MostSeats)}
	return opentimes.Booking{
		Filling: filling, Session: session, Series: f["series"].Text(), Type: f["type"].Text(), Meeting: span.Span{Start: start, End: start + span.Instant(minutes)*60},
		Before: f["before"].Number(0, 0, maxMinutes), After: f["after"].Number(0, 0, maxMinutes),
	}
}
