package opentimes

import (
	"fmt"
	"time"

	"corrim/core/civil"
	"corrim/core/hours"
	"corrim/core/span"
	"corrim/core/told"
)

// Example is a made-up day on which one group of rules shows what it does, with and without it, and a sentence about that. It is
// Tuesday 5 May 2026, 8:40, in UTC; hours are from 9 to 12 and from 13 to 17, and a meeting stands in the morning.
type Example struct {
	Day           civil.Date
	With, Without Input
	Says          told.Words

	idle bool // as it is set, the rule refuses nothing
}

var exampleDay = civil.Date{Year: 2026, Month: time.May, Day: 5}

// Example shows what the group of that name does to meetings of so many minutes; false if there is no such group.
func (r BookingRules) Example(name string, minutes int) (Example, bool) {
	for _, g := range r.groups() {
		known, _ := g.group()
		if known != name {
			continue
		}
		e := newExample(minutes)
		if known != "step" {
			r.StepSettings.apply(&e.Without.Type)
		}
		e.With = e.Without
		g.apply(&e.With.Type)
		if g.example(&e); !e.idle && !e.differs() {
			e.Says = told.Say("example-no-difference", "{} On this day that makes no difference.", e.Says)
		}
		return e, true
	}
	return Example{}, false
}

func newExample(minutes int) Example {
	day := hours.Day{{Start: 9 * 60, End: 12 * 60}, {Start: 13 * 60, End: 17 * 60}}
	in := Input{Now: at(exampleDay, 8*60+40), Type: Type{Name: "shown", Durations: []int{minutes}, Step: 15}}
	in.Host.Hours = hours.Plan{Zone: time.UTC, Week: hours.Week{day, day, day, day, day, day, day}}
	in.Host.Bookings = []Booking{exampleBooking(exampleDay, 9*60+min(minutes, 120), minutes)} // one more just fits before it
	return Example{Day: exampleDay, Without: in}
}

func at(date civil.Date, minute int) span.Instant {
	return date.Start(time.UTC).Add(time.Duration(minute) * time.Minute)
}

func exampleBooking(date civil.Date, minute, minutes int) Booking {
	start := at(date, minute)
	return Booking{ID: fmt.Sprint("at ", minute), Type: "shown", Meeting: span.Span{Start: start, End: start.Add(time.Duration(minutes) * time.Minute)}}
}

// stand has meetings stand on the example's day, with the rule and without.
func (e *Example) stand(bookings ...Booking) {
	e.With.Host.Bookings, e.Without.Host.Bookings = bookings, bookings
}

// nothing says that the rule refuses nothing as it is set.
func (e *Example) nothing(because told.Words) { e.Says, e.idle = because, true }

func (e *Example) differs() bool {
	within := e.Day.Span(time.UTC)
	d := Compare(Search(e.Without, within), Search(e.With, within))
	return len(d.Gained)+len(d.Lost) > 0
}

func (b *BufferSettings) example(e *Example) {
	if b.Before == 0 && b.After == 0 {
		e.nothing(told.Say("example-buffers-none", "Nothing is kept free around a meeting, so nothing is refused."))
		return
	}
	kept := e.Without.Host.Bookings[0]
	kept.Before, kept.After = b.Before, b.After
	e.With.Host.Bookings = []Booking{kept}
	e.Says = told.Say("example-buffers", "A meeting stands at {}. What is kept free around it, and around each new one, takes the starts that are struck out.", told.Clock(kept.Meeting.Start, time.UTC))
}

func (n *NoticeSettings) example(e *Example) {
	if n.Notice == 0 {
		e.nothing(told.Say("example-notice-none", "No notice is set, so nothing is refused."))
		return
	}
	e.Day = civil.DateOf(e.With.Earliest(), time.UTC)
	if opens := at(e.Day, 9*60); e.With.Earliest() <= opens && exampleDay.Before(e.Day) {
		e.Day = e.Day.AddDays(-1) // all of the day before is too soon
	}
	e.Says = told.Say("example-notice", "It is Tuesday 5 May, 8:40. For a client who looks now, the starts that are struck out on {} are too soon.", told.LongDate(e.Day))
}

func (w *WindowSettings) example(e *Example) {
	window, limited := e.With.Bookable()
	if !limited {
		e.nothing(told.Say("example-window-endless", "The booking window has no end, so nothing is refused."))
		return
	}
	e.Day = civil.DateOf(window.End, time.UTC)
	e.Says = told.Say("example-window", "It is Tuesday 5 May. {} is beyond the booking window: its starts can't be booked yet.", told.LongDate(e.Day))
}

func (l *LimitSettings) example(e *Example) {
	if len(l.Limits) == 0 {
		e.nothing(told.Say("example-limit-none", "No limit is set, so nothing is refused."))
		return
	}
	first, minutes := l.Limits[0], e.With.Type.Durations[0]
	count := first.Count
	if first.Minutes > 0 {
		count = first.Minutes / max(1, minutes)
	}
	count = min(max(1, count), mostInExample)
	var bookings []Booking
	for i := range count {
		bookings = append(bookings, exampleBooking(exampleDay, 9*60+i*minutes%(8*60), minutes))
	}
	e.stand(bookings...)
	e.Says = told.Say("example-limit", "{} of {} on the day: the starts that are struck out would go over the limit.", told.Count(count, "meeting"), told.Count(minutes, "minute"))
}

// mostInExample is how many meetings an example draws.
const mostInExample = 12

func (s *StepSettings) example(e *Example) {
	e.stand(e.Without.Host.Bookings...)
	e.Says = told.Say("example-step", "Against a start every 15 minutes on the clock: those that rise are added, those that are struck out are taken.")
}

func (h *HolidaySettings) example(e *Example) {
	if len(h.Holidays) == 0 {
		e.nothing(told.Say("example-holidays-none", "No calendar of public holidays is chosen, so nothing is refused."))
		return
	}
	e.With.Type.Holidays.Days = []Holiday{{First: exampleDay, Last: exampleDay, Name: "Lamp Day"}}
	e.Says = told.Say("example-holidays", "“Lamp Day”, made up, stands in one of the calendars on that day.")
}
