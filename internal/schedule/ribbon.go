package schedule

import (
	"time"

	"corrim/core/civil"
	"corrim/core/hours"
	"corrim/core/opentimes"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/store/sqlc"
)

// Ribbon is one local day of a host, ready to be drawn. Positions are wall-clock minutes past the day's midnight.
type Ribbon struct {
	Date     string           `json:"date" format:"date"`
	Open     []Mark           `json:"open" doc:"Open hours."`
	Busy     []BusyMark       `json:"busy" doc:"Busy elsewhere; titles are the host's own."`
	Shown    []BusyMark       `json:"shown,omitempty" doc:"Events that block nothing."`
	Bookings []Booked         `json:"bookings"`
	TooSoon  []Mark           `json:"tooSoon" doc:"Refused by the notice."`
	Outside  []Mark           `json:"outside" doc:"Outside the booking window."`
	Kept     []int            `json:"kept" doc:"Open starts."`
	Gained   []int            `json:"gained" doc:"Open starts that the unsaved change adds."`
	Lost     []int            `json:"lost" doc:"Starts that the unsaved change takes."`
	Origin   told.Words       `json:"origin,omitzero" doc:"Where the day's hours come from, if asked for."`
	Begun    []hours.Interval `json:"begun,omitempty" doc:"The open intervals that begin on the day, if its origin was asked for."`
	Changes  []int64          `json:"changes,omitempty" doc:"The day changes that apply to the day, if its origin was asked for."`
}

// Mark is a stretch of a ribbon.
type Mark struct {
	From  int        `json:"from"`
	To    int        `json:"to"`
	Label string     `json:"label,omitempty"`
	Says  told.Words `json:"says,omitzero" doc:"The label, where the program says something itself."`
}

// BusyMark is an event of a calendar on a ribbon.
type BusyMark struct {
	Mark
	Calendar string `json:"calendar,omitempty" doc:"Where it lives."`
	Pattern  string `json:"pattern,omitempty" doc:"Of the hatch, as the calendar's look."`
	Tone     string `json:"tone,omitempty"`
}

// Booked is a booking on a ribbon, with the buffers that are kept around it.
type Booked struct {
	Mark
	ID        int64  `json:"id"`
	Version   int64  `json:"version" doc:"Rises with every change; a move carries the one that was seen."`
	KeptFrom  int    `json:"keptFrom"`
	KeptUntil int    `json:"keptUntil"`
	State     string `json:"state" enum:"unproved,requested,booked,attended,no-show,cancelled,declined,expired,scheduled" doc:"Only 'booked' where the viewer may not know more."`
	Begun     bool   `json:"begun"`

	Filling *Filling `json:"filling,omitempty" doc:"Of a meeting that clients share."`
}

// DayDrawer turns instants into positions on one day's ribbon.
type DayDrawer struct {
	Date civil.Date
	Day  span.Span
	Zone *time.Location
}

// NewDayDrawer draws a date in a zone.
func NewDayDrawer(date civil.Date, zone *time.Location) DayDrawer {
	return DayDrawer{date, date.Span(zone), zone}
}

// Ribbon is the empty ribbon of the day.
func (d DayDrawer) Ribbon() Ribbon {
	return Ribbon{
		Date: d.Date.String(), Open: []Mark{}, Busy: []BusyMark{}, Bookings: []Booked{}, TooSoon: []Mark{}, Outside: []Mark{},
		Kept: []int{}, Gained: []int{}, Lost: []int{},
	}
}

// Minute is the wall-clock minute of an instant of the day; its end is minute 1440.
func (d DayDrawer) Minute(i span.Instant) int {
	if i >= d.Day.End {
		return 24 * 60
	}
	return civil.ClockOf(max(i, d.Day.Start), d.Zone).Seconds / 60
}

// Mark adds the part of s that lies on the day.
func (d DayDrawer) Mark(marks []Mark, s span.Span, label string) []Mark {
	part := s.Clip(d.Day)
	if part.Empty() {
		return marks
	}
	return append(marks, Mark{From: d.Minute(part.Start), To: d.Minute(part.End), Label: label})
}

// busy adds the part of an event that lies on the day.
func (d DayDrawer) busy(marks []BusyMark, e sqlc.BusyRow) []BusyMark {
	for _, m := range d.Mark(nil, BusySpan(e), e.Title) {
		marks = append(marks, BusyMark{m, e.Calendar, e.Pattern, e.Tone})
	}
	return marks
}

// bookedMark is where a meeting lies, with its client's name if the viewer may know it.
func bookedMark(d DayDrawer, meeting span.Span, client string) Mark {
	m := Mark{From: d.Minute(meeting.Start), To: d.Minute(meeting.End), Label: client}
	if client == "" {
		m.Says = told.Say("mark-booked", "booked")
		m.Label = m.Says.Sentence
	}
	return m
}

// Background draws the host's hours, busy times, events that only are shown, and bookings.
func (d DayDrawer) Background(r *Ribbon, g Agenda) {
	for _, s := range g.Person.Plan().Open(d.Day) {
		r.Open = d.Mark(r.Open, s, "")
	}
	for _, b := range g.Busy {
		r.Busy = d.busy(r.Busy, b)
	}
	for _, u := range g.Unread {
		for _, m := range d.Mark(nil, u.Span, u.Says.Sentence) {
			m.Says = u.Says
			r.Busy = append(r.Busy, BusyMark{Mark: m, Calendar: u.Calendar})
		}
	}
	for _, b := range g.shown {
		r.Shown = d.busy(r.Shown, b)
	}
	for _, b := range g.Bookings {
		meeting := MeetingSpan(b.Booking)
		if !meeting.Overlaps(d.Day) {
			continue
		}
		r.Bookings = append(r.Bookings, Booked{
			Version: b.Version,
			Mark:    bookedMark(d, meeting, clientsOf(b.Booking)), ID: b.ID, Filling: FillingOf(b.Booking),
			KeptFrom: d.Minute(span.Instant(b.KeptFrom)), KeptUntil: d.Minute(span.Instant(b.KeptUntil)),
			State: b.Life, Begun: b.StartAt <= int64(g.now),
		})
	}
}

// Starts lists the minutes of those starts that lie on the day.
func (d DayDrawer) Starts(into []int, starts []opentimes.Start) []int {
	for _, s := range starts {
		if d.Day.Holds(s.At) {
			into = append(into, d.Minute(s.At))
		}
	}
	return into
}

// BoardRow is one day of one person. What colleagues have in their calendars stays private: only that they are busy.
type BoardRow struct {
	ID      int64   `json:"id" doc:"The person's."`
	Person  string  `json:"person"`
	Zone    string  `json:"zone"`
	Own     bool    `json:"own"`
	Handles bool    `json:"handles" doc:"May the viewer move and cancel its bookings?"`
	Ribbon  Ribbon  `json:"ribbon"`
	Blocks  []Block `json:"blocks"`
}

// Block is time that was blocked here.
type Block struct {
	Mark
	ID int64 `json:"id,omitempty"`
}

// BoardRowOf is the day of a person as somebody may see it.
func BoardRowOf(d DayDrawer, g Agenda, viewer Person) BoardRow {
	g = g.SeenBy(viewer)
	own := g.Person.ID == viewer.Eyes()
	row := BoardRow{ID: g.Person.ID, Person: g.Person.Name, Zone: g.Person.Zone, Own: own, Ribbon: d.Ribbon(), Blocks: []Block{}}
	d.Background(&row.Ribbon, g)
	for _, b := range g.Blocks {
		for _, mark := range d.Mark(nil, BlockSpan(b), b.Label) {
			row.Blocks = append(row.Blocks, Block{mark, b.ID})
		}
	}
	row.Handles = own || viewer.May(identity.SeeEverybodys)
	return row
}
