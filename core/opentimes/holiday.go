package opentimes

import (
	"corrim/core/civil"
	"corrim/core/span"
	"corrim/core/strict"
	"corrim/core/told"
)

// HolidayRule: the meeting touches no public holiday that the type keeps free.
const HolidayRule Rule = "holiday"

var holidayRule = rule{
	name: HolidayRule, title: told.Say("rule-holiday", "Public holidays"), takes: clearOfHolidays, yields: true, short: told.Say("short-holiday", "has a public holiday"),
	holds: func(in Input, _ Start, _ Reader) told.Words {
		if in.Type.Holidays.Calendars == 0 {
			return told.Say("holiday-holds-none", "Public holidays are not kept free.")
		}
		return told.Say("holiday-holds", "Not on a public holiday.")
	},
	fails: func(_ Input, c Cause, by Reader) told.Words {
		return told.Say("holiday-fails", "On a public holiday: {}, {}.", c.Title, told.Date(c.Span.Start, by.Zone))
	},
	note: func(t Type) told.Words {
		if t.Holidays.Calendars == 0 {
			return told.Say("holiday-note-none", "none kept free")
		}
		return told.Say("holiday-note", "those of {}", told.Count(t.Holidays.Calendars, "calendar"))
	},
	file: file{[]string{"holidays"}, readHolidays, writeHolidays},
}

// Holidays are the public holidays that a type keeps free. The zero value keeps none.
type Holidays struct {
	Calendars int // that they are from
	Days      []Holiday
}

// Holiday is a public holiday of one day or several, on the host's calendar.
type Holiday struct {
	First, Last civil.Date // both included
	Name        string
}

// HolidaySettings is how public holidays are set. What days they are has to be looked up.
type HolidaySettings struct {
	Holidays []int64 `json:"holidays,omitempty" maxItems:"12" doc:"The workspace's calendars of public holidays, by ID, on whose days nothing is open."`
}

func (*HolidaySettings) group() (string, Rule) { return "holidays", HolidayRule }

func (*HolidaySettings) check(func(string, told.Words)) {}

func (h *HolidaySettings) apply(t *Type) { t.Holidays.Calendars = len(h.Holidays) }

// clearOfHolidays refuses starts whose meeting would reach into a public holiday. Buffers may.
func clearOfHolidays(q *query, take func(Take)) {
	zone := q.Host.Hours.Zone
	first, last := civil.DateOf(q.starts.Start, zone), civil.DateOf(q.starts.End+span.Instant(q.duration), zone)
	for _, h := range q.Type.Holidays.Days {
		if h.Last.Before(first) || last.Before(h.First) {
			continue
		}
		day := span.Span{Start: h.First.Start(zone), End: h.Last.AddDays(1).Start(zone)}
		if !day.Empty() { // a zone may skip a day
			take(Take{span.Span{Start: day.Start - span.Instant(q.duration) + 1, End: day.End}, Cause{Span: day, Title: h.Name}})
		}
	}
}

func readHolidays(f map[string]strict.Node, t *Type) {
	if !f["holidays"].Given() {
		return
	}
	t.Holidays.Calendars = 1
	for _, n := range f["holidays"].List() {
		given := n.Fields("first", "last", "name")
		h := Holiday{First: given["first"].Required().Date(), Name: given["name"].Text()}
		if h.Last = h.First; given["last"].Given() {
			h.Last = given["last"].Date()
		}
		if h.Last.Before(h.First) {
			given["last"].Refuse("it comes before first")
		}
		t.Holidays.Days = append(t.Holidays.Days, h)
	}
}

func writeHolidays(t Type, out map[string]any) {
	if t.Holidays.Calendars == 0 {
		return
	}
	days := []map[string]string{}
	for _, h := range t.Holidays.Days {
		days = append(days, map[string]string{"first": h.First.String(), "last": h.Last.String(), "name": h.Name})
	}
	out["holidays"] = days
}
