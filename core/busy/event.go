package busy

import (
	"net/mail"
	"slices"
	"strconv"
	"strings"

	"corrim/core/civil"
	"corrim/core/span"
	"corrim/core/told"
)

// An event is what one VEVENT says about busy time.
type event struct {
	uid, title   string
	sequence     int
	stamped      string // DTSTAMP, to tell which of two same events is newer
	start        stamp
	length       length
	rules        []rule
	extra        []occurrence // RDATE
	excluded     []stamp      // EXDATE
	instead      *stamp       // RECURRENCE-ID: the occurrence this one replaces
	andFollowing bool         // RANGE=THISANDFUTURE
	cancelled    bool
	free         bool // transparent, cancelled, or declined by the owner
	tentative    bool
}

// An occurrence is one start with its own length.
type occurrence struct {
	start  stamp
	length length
}

// errUnreadableStart means that an event may be at any time.
var errUnreadableStart = told.Error("start-read", "its start can't be read")

// readEvent reads a VEVENT. The error says what is wrong with it.
func readEvent(c *component, z *zones, owners []string) (event, error) {
	e := event{uid: c.text("UID"), title: plainText(c.text("SUMMARY")), stamped: c.text("DTSTAMP")}
	e.sequence, _ = strconv.Atoi(c.text("SEQUENCE"))
	start, ok := c.first("DTSTART")
	if !ok {
		return e, told.Error("no-start", "it has no start")
	}
	var err error
	if e.start, err = z.stamp(start.value, start.param("TZID")); err != nil {
		return e, told.Error("caused-by", "{}: {}", errUnreadableStart, err)
	}
	if e.length, err = eventLength(c, z, e.start); err != nil {
		return e, err
	}
	e.readState(c, owners)
	return e, e.readRecurrence(c, z)
}

// eventLength follows RFC 5545, 3.6.1: DTEND, else DURATION, else a day for a date and nothing for a time.
func eventLength(c *component, z *zones, start stamp) (length, error) {
	if p, ok := c.first("DTEND"); ok {
		end, err := z.stamp(p.value, p.param("TZID"))
		if err != nil {
			return length{}, err
		}
		l, err := between(start, end)
		if start.date && l == (length{}) {
			l.days = 1 // some programs write the same date twice for a day
		}
		return l, err
	}
	if p, ok := c.first("DURATION"); ok {
		return parseLength(p.value)
	}
	if start.date {
		return length{days: 1}, nil
	}
	return length{}, nil
}

func (e *event) readState(c *component, owners []string) {
	status := strings.ToUpper(c.text("STATUS"))
	e.cancelled = status == "CANCELLED"
	e.free = e.cancelled || strings.EqualFold(c.text("TRANSP"), "TRANSPARENT")
	e.tentative = status == "TENTATIVE"
	for _, p := range c.properties {
		own := func(mail string) bool { return mail != "" && strings.EqualFold(address(p.value), mail) }
		if p.name != "ATTENDEE" || !slices.ContainsFunc(owners, own) {
			continue
		}
		switch strings.ToUpper(p.param("PARTSTAT")) {
		case "DECLINED":
			e.free = true
		case "TENTATIVE":
			e.tentative = true
		}
	}
}

// address is the mail address of a calendar user: "mailto:ines@example.org", whatever the case of "mailto".
func address(value string) string {
	value = strings.TrimSpace(value)
	if len(value) > 7 && strings.EqualFold(value[:7], "mailto:") {
		value = value[7:]
	}
	if parsed, err := mail.ParseAddress(value); err == nil {
		return parsed.Address
	}
	return value
}

func (e *event) readRecurrence(c *component, z *zones) error {
	for _, p := range c.properties {
		var err error
		switch p.name {
		case "RRULE":
			var r rule
			r, err = parseRule(p.value, e.start, 0)
			e.rules = append(e.rules, r)
		case "EXDATE":
			var dates []stamp
			dates, err = z.stamps(p)
			e.excluded = append(e.excluded, dates...)
		case "RDATE":
			err = e.readExtra(p, z)
		case "RECURRENCE-ID":
			var s stamp
			s, err = z.stamp(p.value, p.param("TZID"))
			e.instead, e.andFollowing = &s, strings.EqualFold(p.param("RANGE"), "THISANDFUTURE")
		}
		if err != nil {
			return err
		}
	}
	return nil
}

func (e *event) readExtra(p property, z *zones) error {
	for value := range strings.SplitSeq(p.value, ",") {
		o := occurrence{length: e.length}
		var err error
		if strings.Contains(value, "/") {
			o.start, o.length, err = z.period(value, p.param("TZID"))
		} else {
			o.start, err = z.stamp(value, p.param("TZID"))
		}
		if err != nil {
			return told.Error("rdate", "RDATE: {}", err)
		}
		e.extra = append(e.extra, o)
	}
	return nil
}

// newer tells whether e replaces o, another state of the same event (RFC 5546, 2.1.5).
func (e event) newer(o event) bool {
	if e.sequence != o.sequence {
		return e.sequence > o.sequence
	}
	return e.stamped >= o.stamped
}

// A series is all VEVENTs of one UID: the master and the occurrences that were changed.
type series struct {
	master  *event
	changed []event
}

// add takes an event in, keeping the newest state of each occurrence.
func (s *series) add(e event) {
	if e.instead == nil {
		if s.master == nil || e.newer(*s.master) {
			s.master = &e
		}
		return
	}
	for k, known := range s.changed {
		if known.instead.instant() == e.instead.instant() {
			if e.newer(known) {
				s.changed[k] = e
			}
			return
		}
	}
	s.changed = append(s.changed, e)
}

// errTooMuch is reported for a rule that would take unreasonable work to follow to the end.
var errTooMuch = told.Error("recurrence-rule-makes", "has a recurrence rule that makes too many times to follow; from the last one found on it counts as busy all the time")

// each calls yield with every busy occurrence that overlaps the range, master and changed ones alike.
func (s *series) each(within span.Span, work *budget, yield func(event, span.Span) bool) error {
	for _, e := range s.changed {
		if at := e.length.from(e.start); !e.free && at.Overlaps(within) {
			_ = yield(e, at) // what they are bounded by is the text's length
		}
	}
	if s.master == nil {
		return nil
	}
	replaced := s.replaced()
	seen := 0
	var err error
	visit := func(o occurrence) bool {
		id := o.start.instant()
		if replaced.holds(o.start, id) {
			return true
		}
		e, at := s.shifted(o, id)
		if !e.free && at.Overlaps(within) {
			if seen++; seen > maxOccurrences || !yield(e, at) {
				err = errTooMuch
			}
		}
		return err == nil
	}
	if !s.occurrences(within, work, visit) && err == nil {
		err = errTooMuch
	}
	return err
}

// maxOccurrences bounds what one event may add to one range.
const maxOccurrences = 20_000

// endsBy is an instant by which the series is over for sure.
func (s *series) endsBy() span.Instant {
	end := int64(0)
	for _, r := range s.master.rules {
		end = max(end, r.until)
	}
	if end >= noEnd || len(s.master.extra) > 0 {
		return span.Instant(noEnd)
	}
	return span.Instant(end + s.master.length.atMost() + 2*day + s.farthestShift())
}

// occurrences calls visit for the master's own times, its rules' and its extra ones; false if the budget ran out.
func (s *series) occurrences(within span.Span, work *budget, visit func(occurrence) bool) bool {
	m := s.master
	visit(occurrence{m.start, m.length})
	for _, o := range m.extra {
		if !work.spend(1) || !visit(o) {
			return *work > 0
		}
	}
	// The range on the wall clock, with a margin for any offset and for occurrences that were shifted.
	margin := int64(2*day) + s.farthestShift()
	lower, upper := int64(within.Start)-m.length.atMost()-margin, int64(within.End)+margin
	for _, r := range m.rules {
		done := r.each(m.start.wall(), lower, upper, work, func(wall int64) bool {
			return wall == m.start.wall() || visit(occurrence{m.start.at(wall), m.length})
		})
		if !done {
			return false
		}
	}
	return true
}

// shifted applies a change to "this and all following" occurrences: same distance on the wall clock, its own length and
// state (RFC 5545, 3.2.13).
func (s *series) shifted(o occurrence, id span.Instant) (event, span.Span) {
	e := *s.master
	var from span.Instant
	for _, c := range s.changed {
		if c.andFollowing && c.instead.instant() <= id && (from == 0 || c.instead.instant() > from) {
			e, from = c, c.instead.instant()
		}
	}
	if from == 0 {
		return e, o.length.from(o.start)
	}
	return e, e.length.from(e.start.at(o.start.wall() + e.start.wall() - e.instead.wall()))
}

func (s *series) farthestShift() int64 {
	var farthest int64
	for _, c := range s.changed {
		if c.andFollowing {
			farthest = max(farthest, c.start.wall()-c.instead.wall(), c.instead.wall()-c.start.wall(), c.length.atMost())
		}
	}
	return farthest
}

// replacements are the occurrences that don't happen as the rule says: excluded or changed. A date stands for
// whatever begins on it.
type replacements struct {
	instants map[span.Instant]bool
	dates    map[civil.Date]bool
}

func (s *series) replaced() replacements {
	r := replacements{map[span.Instant]bool{}, map[civil.Date]bool{}}
	add := func(at stamp) {
		if at.date && !s.master.start.date {
			r.dates[at.clock.Date] = true
			return
		}
		r.instants[at.instant()] = true
	}
	for _, at := range s.master.excluded {
		add(at)
	}
	for _, c := range s.changed {
		add(*c.instead)
	}
	return r
}

func (r replacements) holds(start stamp, id span.Instant) bool {
	return r.instants[id] || len(r.dates) > 0 && r.dates[start.clock.Date]
}
