// Package busy reads iCalendar (RFC 5545) as an answer to one question: when is the owner of this calendar busy?
//
// Busy are opaque events that are neither cancelled nor declined by the owner, with every exception of their
// recurrence, and what VFREEBUSY components call busy. Tentative and all-day events count as the calendar's settings
// say. A part that cannot be read is left out and reported; the rest counts.
//
//	calendar, err := busy.Read(text, busy.Options{Zone: lisbon, Owners: []string{"ines@example.org"}, TentativeBusy: true, AllDayBusy: true})
//	spans := calendar.Busy(span.Of(from, to))
package busy

import (
	"cmp"
	"errors"
	"slices"
	"strings"
	"time"

	"corrim/core/civil"
	"corrim/core/span"
	"corrim/core/told"
)

// Options are the settings of one calendar.
type Options struct {
	Zone          *time.Location // whose wall clock dates and floating times are on; nil means UTC
	Owners        []string       // mail addresses of the owner; events that one of these declined are free
	TentativeBusy bool
	AllDayBusy    bool
	FreeToo       bool // events that don't block count too: for lists of days, like public holidays
}

// Busy is one busy stretch and the event it comes from.
type Busy struct {
	span.Span
	UID    string
	Title  string // private to the calendar's owner
	AllDay bool   // a date, or from midnight to midnight
}

// Trouble is a part of a calendar that was left out, or one that counts otherwise than its owner may think, in words for them.
type Trouble struct {
	Title   string // of the event; may be empty
	Problem told.Words
	Counts  bool // it was not left out
}

// Told is the trouble as its owner is told of it.
func (t Trouble) Told() told.Words {
	switch {
	case t.Counts && t.Title == "":
		return told.Say("event-counts-otherwise", "An event {}.", t.Problem)
	case t.Counts:
		return told.Say("titled-counts-otherwise", "“{}” {}.", t.Title, t.Problem)
	case t.Title == "":
		return told.Say("event-left-out", "An event was left out: {}", t.Problem)
	}
	return told.Say("titled-left-out", "“{}” was left out: {}", t.Title, t.Problem)
}

func (t Trouble) String() string { return t.Told().Sentence }

// ErrNoCalendar means that the text holds no VCALENDAR at all.
var ErrNoCalendar = told.Error("icalendar-text-no", "this is not an iCalendar text: it has no BEGIN:VCALENDAR")

// Calendar is what was read; it is not changed by asking it.
type Calendar struct {
	options  Options
	series   []*series
	freeBusy []Busy
	stated   []stated
	troubles []Trouble
	unknown  []Trouble // those of them that may hide busy time
	events   int
}

// Read reads an iCalendar text with one or several VCALENDARs. The only error is ErrNoCalendar; parts that cannot be
// read are in Troubles.
func Read(text []byte, options Options) (*Calendar, error) {
	if options.Zone == nil {
		options.Zone = time.UTC
	}
	top, whole := parseComponents(text)
	calendar := &Calendar{options: options}
	byUID := map[string]*series{}
	found := false
	for _, c := range top {
		if c.name == "VCALENDAR" {
			found = true
			calendar.read(c, byUID)
		}
	}
	if !found {
		return nil, ErrNoCalendar
	}
	if !whole {
		trouble := Trouble{"", told.Say("text-cut-off", "the text ends in the middle of an entry, as a download that was cut off does"), false}
		calendar.troubles = append(calendar.troubles, trouble)
		calendar.unknown = []Trouble{trouble} // what else is wrong comes of that
	}
	return calendar, nil
}

// Unknown is the parts of which it is not known when they are: an event with a start that can't be read, or what came after the
// place at which the text breaks off. Who offers what such a calendar leaves free, offers time that may be taken.
func (c *Calendar) Unknown() []Trouble { return c.unknown }

func (c *Calendar) read(vcalendar *component, byUID map[string]*series) {
	z := newZones(c.options.Zone, vcalendar)
	for _, part := range vcalendar.children {
		switch part.name {
		case "VEVENT":
			c.events++
			e, err := readEvent(part, z, c.options.Owners)
			if err != nil {
				trouble := Trouble{e.title, told.OfError(err), false}
				c.troubles = append(c.troubles, trouble)
				if errors.Is(err, errUnreadableStart) {
					c.unknown = append(c.unknown, trouble)
				}
				continue
			}
			if e.length == (length{}) && !e.free {
				c.note(e, told.Say("event-no-end", "has no end, so it takes no time"))
			}
			e.free = e.free && !(c.options.FreeToo && !e.cancelled)
			c.add(e, byUID)
		case "VAVAILABILITY":
			c.readAvailability(part, z)
		case "VFREEBUSY":
			c.readFreeBusy(part, z)
		}
	}
	for _, name := range z.unknown {
		c.troubles = append(c.troubles, Trouble{"", told.Say("event-zone", "the time zone “{}” is not known; its times are read in the calendar's own zone", name), false})
	}
}

func (c *Calendar) add(e event, byUID map[string]*series) {
	s := byUID[e.uid]
	if s == nil || e.uid == "" { // events without a UID have nothing to do with each other
		s = &series{}
		byUID[e.uid] = s
		c.series = append(c.series, s)
	}
	if e.instead == nil && s.master != nil {
		c.note(e, told.Say("event-shares-uid", "shares its UID with another event, so only the newer of them counts"))
	}
	s.add(e)
}

func (c *Calendar) note(e event, says told.Words) {
	c.troubles = append(c.troubles, Trouble{e.title, says, true})
}

// readFreeBusy reads the busy periods of a VFREEBUSY (RFC 5545, 3.6.4).
func (c *Calendar) readFreeBusy(part *component, z *zones) {
	for _, p := range part.properties {
		kind := strings.ToUpper(p.param("FBTYPE"))
		if p.name != "FREEBUSY" || kind == "FREE" || kind == "BUSY-TENTATIVE" && !c.options.TentativeBusy {
			continue
		}
		for value := range strings.SplitSeq(p.value, ",") {
			start, length, err := z.period(value, "")
			if err != nil {
				c.troubles = append(c.troubles, Trouble{"", told.OfError(err), false})
				continue
			}
			c.freeBusy = append(c.freeBusy, Busy{Span: length.from(start), UID: part.text("UID")})
		}
	}
}

// Events is the number of VEVENTs in the text, those left out included.
func (c *Calendar) Events() int { return c.events }

// What one answer may cost, whatever stands in the calendar: the days and times that are looked at, and the stretches that come out. A
// single event has a share of its own, so that a hostile one doesn't cost the others theirs.
const (
	maxWork       = 2_000_000 // about half a second's worth
	workPerSeries = 500_000
	maxStretches  = 100_000

	leastStretches = 50 // that an event may have, however many the others had
)

// Busy returns the busy stretches that overlap the range, not clipped to it, sorted by start, and what could not be read or followed to
// its end, the parts that Read could not understand included. An event whose times are too many to be followed counts as busy from the
// last one found until its end: where it can't be known, it isn't free.
func (c *Calendar) Busy(within span.Span) ([]Busy, []Trouble) {
	troubles := slices.Clone(c.troubles)
	var out []Busy
	for _, b := range c.freeBusy {
		if b.Overlaps(within) {
			out = append(out, b)
		}
	}
	left := budget(maxWork)
	for _, s := range c.series {
		work := min(budget(workPerSeries), left)
		share := work
		own := stretches{most: max(leastStretches, maxStretches-len(out))}
		err := s.each(within, &work, func(e event, at span.Span) bool {
			return !c.blocks(e) || own.add(Busy{Span: at, UID: e.uid, Title: e.title, AllDay: e.start.date || wholeDays(at, e.start.zone)})
		})
		left -= share - work
		if err != nil {
			troubles = append(troubles, Trouble{s.master.title, told.OfError(err), true})
			if c.blocks(*s.master) {
				own.rest(s, within)
			}
		}
		out = append(out, own.list...)
	}
	slices.SortStableFunc(out, func(a, b Busy) int { return cmp.Or(cmp.Compare(a.Start, b.Start), cmp.Compare(a.End, b.End)) })
	return out, troubles
}

// blocks tells whether an event is busy time by the calendar's settings.
func (c *Calendar) blocks(e event) bool {
	return !e.free && (c.options.AllDayBusy || !e.start.date) && (c.options.TentativeBusy || !e.tentative)
}

// stretches are those of one event, in the order in which they are found.
type stretches struct {
	list []Busy
	most int
}

// fewStretches is how many an event may have before those that follow on each other are one.
const fewStretches = 1000

// add tells whether there was room for one more.
func (s *stretches) add(b Busy) bool {
	if n := len(s.list); n >= fewStretches && !b.AllDay {
		if last := &s.list[n-1]; b.Start >= last.Start && b.Start <= last.End && !last.AllDay {
			last.End = max(last.End, b.End)
			return true
		}
	}
	if len(s.list) >= s.most {
		return false
	}
	s.list = append(s.list, b)
	return true
}

// rest makes what was not followed busy, until the event ends for good.
func (s *stretches) rest(of *series, within span.Span) {
	unknown := Busy{Span: span.Span{Start: within.Start, End: min(within.End, of.endsBy())}, UID: of.master.uid, Title: of.master.title}
	for _, known := range s.list {
		unknown.Start = max(unknown.Start, known.End)
	}
	if !unknown.Empty() {
		s.list = append(s.list, unknown)
	}
}

// wholeDays tells whether a span goes from midnight to midnight: some programs write days so.
func wholeDays(s span.Span, zone *time.Location) bool {
	begins, ends := civil.ClockOf(s.Start, zone), civil.ClockOf(s.End, zone)
	return !s.Empty() && begins.Date.Start(zone) == s.Start && ends.Date.Start(zone) == s.End
}

// Merged returns the stretches as a set, clipped to the range.
func Merged(stretches []Busy, within span.Span) span.Set {
	spans := make([]span.Span, len(stretches))
	for i, b := range stretches {
		spans[i] = b.Clip(within)
	}
	return span.UnionInPlace(spans)
}
