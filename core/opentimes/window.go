package opentimes

import (
	"corrim/core/civil"
	"corrim/core/span"
	"corrim/core/strict"
	"corrim/core/told"
)

// WindowRule: the local day lies in the booking window.
const WindowRule Rule = "window"

var windowRule = rule{
	name: WindowRule, title: told.Say("rule-window", "Booking window"), takes: window,
	holds: func(in Input, _ Start, by Reader) told.Words {
		if window, limited := in.Bookable(); limited {
			return told.Say("window-holds", "Inside the booking window, which ends with {}.", told.Date(window.End-1, by.Zone))
		}
		return told.Say("window-holds-endless", "The booking window has no end.")
	},
	fails: func(in Input, _ Cause, by Reader) told.Words {
		window, _ := in.Bookable()
		return told.Say("window-fails", "Outside the booking window, {} to {}.", told.Date(window.Start, by.Zone), told.Date(window.End-1, by.Zone))
	},
	note: func(t Type) told.Words { return t.Window.note() },
	file: file{[]string{"window"}, readWindow, writeWindow},
}

// Window is how far ahead bookings are taken. The zero value is without end.
type Window struct {
	Days        int        // with Kind NextDays: from today to the end of the day so many days on
	First, Last civil.Date // with Kind Dates: both included
	Kind        WindowKind
}

// WindowKind tells which fields of a Window count.
type WindowKind int

// The kinds of windows.
const (
	Endless WindowKind = iota
	NextDays
	Dates
)

// WindowSettings is how the booking window is set.
type WindowSettings struct {
	WindowDays  int    `json:"windowDays" doc:"Days ahead that can be booked; 0 is without end."`
	WindowFirst string `json:"windowFirst,omitempty" maxLength:"10" doc:"With windowLast: only between these dates, both included."`
	WindowLast  string `json:"windowLast,omitempty" maxLength:"10"`
}

func (*WindowSettings) group() (string, Rule) { return "window", WindowRule }

func (w *WindowSettings) check(complain func(field string, words told.Words)) {
	between(complain, "windowDays", w.WindowDays, 0, farthest, told.Say("booking-window-1", "The booking window is 1 to 730 days. To let clients book without end, choose “without end”."))
	if _, sensible := w.window(); !sensible {
		complain("windowFirst", told.Say("give-first-last", "Give the first and the last day that can be booked, the last not before the first."))
	}
}

func (w *WindowSettings) apply(t *Type) { t.Window, _ = w.window() }

func (w *WindowSettings) window() (window Window, sensible bool) {
	switch {
	case w.WindowFirst != "" || w.WindowLast != "":
		first, err1 := civil.ParseDate(w.WindowFirst)
		last, err2 := civil.ParseDate(w.WindowLast)
		if err1 != nil || err2 != nil || last.Before(first) {
			return Window{}, false
		}
		return Window{Kind: Dates, First: first, Last: last}, true
	case w.WindowDays > 0:
		return Window{Kind: NextDays, Days: w.WindowDays}, true
	}
	return Window{}, true
}

func readWindow(f map[string]strict.Node, t *Type) {
	n := f["window"]
	if !n.Given() {
		return
	}
	given := n.Fields("days", "first", "last")
	if given["days"].Given() {
		if given["first"].Given() || given["last"].Given() {
			n.Refuse("it has either days, or first and last")
		}
		t.Window = Window{Kind: NextDays, Days: given["days"].Number(0, 0, 36500)}
		return
	}
	t.Window = Window{Kind: Dates, First: given["first"].Required().Date(), Last: given["last"].Required().Date()}
	if t.Window.Last.Before(t.Window.First) {
		given["last"].Refuse("it comes before first")
	}
}

func writeWindow(t Type, out map[string]any) {
	switch t.Window.Kind {
	case NextDays:
		out["window"] = map[string]int{"days": t.Window.Days}
	case Dates:
		out["window"] = map[string]string{"first": t.Window.First.String(), "last": t.Window.Last.String()}
	}
}

func (w Window) note() told.Words {
	switch w.Kind {
	case NextDays:
		return told.Say("window-days", "{}", told.Count(w.Days, "day"))
	case Dates:
		return told.Say("window-dates", "{} to {}", told.OnDate(w.First), told.OnDate(w.Last))
	default:
		return told.Say("window-endless", "without end")
	}
}

// window refuses starts whose local day, in the host's zone, lies outside the booking window.
func window(q *query, take func(Take)) {
	open, limited := q.Bookable()
	if !limited {
		return
	}
	for _, shut := range []span.Span{{Start: q.starts.Start, End: open.Start}, {Start: open.End, End: q.starts.End}} {
		if !shut.Empty() {
			take(Take{shut, Cause{Span: shut}})
		}
	}
}

// Bookable is the booking window as a span; limited is false if it has no end. "Next N days" begins today and ends with
// the end of the local day today + N.
func (in Input) Bookable() (open span.Span, limited bool) {
	first, last := in.Type.Window.First, in.Type.Window.Last
	switch in.Type.Window.Kind {
	case Endless:
		return span.Span{}, false
	case NextDays:
		first = in.today()
		last = first.AddDays(in.Type.Window.Days)
	}
	zone := in.Host.Hours.Zone
	return span.Span{Start: first.Start(zone), End: last.AddDays(1).Start(zone)}, true
}
