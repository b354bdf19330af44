package opentimes

import (
	"fmt"

	"corrim/core/civil"
	"corrim/core/span"
	"corrim/core/strict"
	"corrim/core/told"
)

// LimitRule: no limit of bookings by day or week would be exceeded.
const LimitRule Rule = "limit"

var limitRule = rule{
	name: LimitRule, title: told.Say("rule-limit", "Limits"), takes: withinLimits, short: told.Say("short-limit", "has reached a limit"),
	holds: always(told.Say("limit-holds", "No limit would be exceeded.")),
	fails: func(_ Input, c Cause, by Reader) told.Words { return c.Limit.say(c.Span, by) },
	note:  limitsNote,
	file:  file{[]string{"limits"}, readLimits, writeLimits},
}

// LimitSettings is how limits are set.
type LimitSettings struct {
	Limits []TypeLimit `json:"limits,omitempty" maxItems:"8"`
}

// TypeLimit is how much may be booked with the host in a day or week: so many, or so many minutes.
type TypeLimit struct {
	Of      string `json:"of" enum:"type,host" doc:"Bookings of this type, or all of the host's."`
	Per     string `json:"per" enum:"day,week"`
	Count   int    `json:"count,omitempty"`
	Minutes int    `json:"minutes,omitempty" doc:"Counts instead of count if it is not 0."`
}

func (*LimitSettings) group() (string, Rule) { return "limit", LimitRule }

func (l *LimitSettings) check(complain func(field string, words told.Words)) {
	for i, one := range l.Limits {
		if one.Count < 0 || one.Minutes < 0 || one.Count == 0 && one.Minutes == 0 {
			complain(fmt.Sprintf("limits.%d", i), told.Say("limit-0-would", "A limit of 0 would close every day. Enter 1 or more, or remove the limit."))
		}
	}
}

func (l *LimitSettings) apply(t *Type) {
	for _, one := range l.Limits {
		t.Limits = append(t.Limits, Limit{Of: limitOf[one.Of], Per: limitPer[one.Per], Count: one.Count, Minutes: one.Minutes, ByTime: one.Minutes > 0})
	}
}

var (
	limitOf  = map[string]LimitOf{"type": OfType, "host": OfHost}
	limitPer = map[string]LimitPer{"day": PerDay, "week": PerWeek}
)

func readLimits(f map[string]strict.Node, t *Type) {
	for _, n := range f["limits"].List() {
		given := n.Fields("of", "per", "count", "minutes")
		l := Limit{Of: strict.Choice(given["of"].Required(), OfType, limitOf), Per: strict.Choice(given["per"].Required(), PerDay, limitPer)}
		switch strict.One(n, given, "count", "minutes") {
		case "count":
			l.Count = given["count"].Number(0, 0, 1<<30)
		case "minutes":
			l.ByTime, l.Minutes = true, given["minutes"].Number(0, 0, 1<<30)
		}
		t.Limits = append(t.Limits, l)
	}
}

func writeLimits(t Type, out map[string]any) {
	limits := []map[string]any{}
	for _, l := range t.Limits {
		limit := map[string]any{"of": strict.Word(limitOf, l.Of), "per": strict.Word(limitPer, l.Per)}
		if l.ByTime {
			limit["minutes"] = l.Minutes
		} else {
			limit["count"] = l.Count
		}
		limits = append(limits, limit)
	}
	out["limits"] = limits
}

func (l *Reached) say(full span.Span, by Reader) told.Words {
	from := told.Date(full.Start, by.Zone)
	per, whose := told.Say("limit-that-day", "day, {}", from), told.Say("limit-type", "of this type")
	if l.Per == PerWeek {
		per = told.Say("limit-that-week", "week from {}", from)
	}
	if l.Of == OfHost {
		whose = told.Say("limit-host", "of this host")
	}
	if l.ByTime {
		return told.Say("limit-fails-minutes", "A limit is reached: {} of {} minutes of bookings {} are taken on that {}.", l.Used, l.Minutes, whose, per)
	}
	return told.Say("limit-fails", "A limit is reached: {} of {} bookings {} on that {}.", l.Used, l.Count, whose, per)
}

func limitsNote(t Type) told.Words {
	if len(t.Limits) == 0 {
		return told.Say("limit-note-none", "none")
	}
	notes := make([]told.Words, len(t.Limits))
	for i, l := range t.Limits {
		notes[i] = l.note()
	}
	return told.Join(notes, ", ")
}

func (l Limit) note() told.Words {
	per := told.Say("limit-a-day", "a day")
	if l.Per == PerWeek {
		per = told.Say("limit-a-week", "a week")
	}
	note := told.Say("limit-note", "{} {}", l.Count, per)
	if l.ByTime {
		note = told.Say("limit-note-minutes", "{} min {}", l.Minutes, per)
	}
	if l.Of == OfHost {
		return told.Say("limit-note-in-all", "{} in all", note)
	}
	return note
}

// Limit bounds the bookings of one host by local day or by week. Either Count or Minutes counts.
type Limit struct {
	Of      LimitOf
	Per     LimitPer
	Count   int
	Minutes int  // without buffers
	ByTime  bool // Minutes counts instead of Count
}

// LimitOf is which bookings a limit counts.
type LimitOf int

// LimitPer is the time that a limit is for.
type LimitPer int

// What limits count.
const (
	OfType LimitOf = iota // bookings of this meeting type with this host
	OfHost                // all bookings of this host
)

// For which time they count it.
const (
	PerDay  LimitPer = iota // the host's local day on which a booking starts
	PerWeek                 // the week beginning on the workspace's first weekday
)

// Reached is a limit that a booking would exceed, and how much of it is used.
type Reached struct {
	Limit
	Used int // bookings, or minutes
}

// withinLimits refuses all starts of the days or weeks in which one meeting more would exceed a limit; whoever joins one adds none. The
// cause is the day or week.
func withinLimits(q *query, take func(Take)) {
	for _, limit := range q.Type.Limits {
		used := q.used(limit)
		first := q.bucket(limit.Per, q.starts.Start)
		for bucket := first; bucket.Start(q.Host.Hours.Zone) < q.starts.End; bucket = bucket.AddDays(limit.Per.days()) {
			if limit.allows(used[bucket], q.minutes) {
				continue
			}
			zone := q.Host.Hours.Zone
			full := span.Span{Start: bucket.Start(zone), End: bucket.AddDays(limit.Per.days()).Start(zone)}
			around(q.joins, Take{full, Cause{Span: full, Limit: &Reached{limit, used[bucket]}}}, take)
		}
	}
}

// allows tells whether a booking of so many minutes may be added to what is used.
func (l Limit) allows(used, minutes int) bool {
	if l.ByTime {
		return used+minutes <= l.Minutes
	}
	return used+1 <= l.Count
}

// used adds up the bookings that the limit counts, by the first date of their day or week.
func (q *query) used(l Limit) map[civil.Date]int {
	used := map[civil.Date]int{}
	for _, b := range q.Host.Bookings {
		if l.Of == OfType && b.Type != q.Type.Name {
			continue
		}
		amount := 1
		if l.ByTime {
			amount = int(b.Meeting.Seconds() / 60)
		}
		used[q.bucket(l.Per, b.Meeting.Start)] += amount
	}
	return used
}

// bucket is the first date of the day or week that an instant belongs to.
func (q *query) bucket(per LimitPer, i span.Instant) civil.Date {
	date := civil.DateOf(i, q.Host.Hours.Zone)
	if per == PerDay {
		return date
	}
	return date.Week(q.FirstWeekday)
}

func (p LimitPer) days() int {
	if p == PerWeek {
		return 7
	}
	return 1
}
