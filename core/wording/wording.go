// Package wording puts the reasons of package opentimes into sentences for people. Reasons are data; words are made here,
// at the edge, so that the command line and the screens say the same.
package wording

import (
	"fmt"
	"strings"
	"time"

	"corrim/core/opentimes"
	"corrim/core/routing"
	"corrim/core/span"
)

// Reader is who reads a reason.
type Reader struct {
	Zone   *time.Location // whose clock they read; the host's if nil
	Titles bool           // may they know what the host's own events are about, and in which calendar they are?
}

// Host is the host themself.
var Host = Reader{Titles: true}

// Reason says what a rule says about a start: one sentence if it holds, one for each cause if not.
func Reason(in opentimes.Input, r opentimes.Reason, by Reader) []string {
	if by.Zone == nil {
		by.Zone = in.Host.Hours.Zone
	}
	if r.Holds {
		return []string{holds(in, r.Rule, by.Zone)}
	}
	out := make([]string, len(r.Causes))
	for i, c := range r.Causes {
		out[i] = fails(in, r.Rule, c, by)
	}
	return out
}

func holds(in opentimes.Input, rule opentimes.Rule, zone *time.Location) string {
	switch rule {
	case opentimes.WindowRule:
		if window, limited := in.Bookable(); limited {
			return "Inside the booking window, which ends with " + date(window.End-1, zone) + "."
		}
		return "The booking window has no end."
	case opentimes.NoticeRule:
		return "Not sooner than the notice allows: " + moment(in.Earliest(), zone) + "."
	case opentimes.HoursRule:
		return "Within the open hours."
	case opentimes.BusyRule:
		return "Nothing in the calendars is in the way."
	case opentimes.BookingRule:
		return "No other booking is in the way."
	case opentimes.LimitRule:
		return "No limit would be exceeded."
	default:
		return "A start " + grid(in.Type) + "."
	}
}

func fails(in opentimes.Input, rule opentimes.Rule, c opentimes.Cause, by Reader) string {
	zone := by.Zone
	switch rule {
	case opentimes.WindowRule:
		window, _ := in.Bookable()
		return fmt.Sprintf("Outside the booking window, %s to %s.", date(window.Start, zone), date(window.End-1, zone))
	case opentimes.NoticeRule:
		return "Too soon: the notice allows starts from " + moment(in.Earliest(), zone) + " on."
	case opentimes.HoursRule:
		return "Outside the open hours: closed " + stretch(c.Span, zone) + "."
	case opentimes.BusyRule:
		return busy(c, zone, by.Titles)
	case opentimes.BookingRule:
		return "Another booking is in the way, " + stretch(c.Span, zone) + ", or its buffers."
	case opentimes.LimitRule:
		return limit(c, zone)
	default:
		return notOnGrid(in, c, zone)
	}
}

func notOnGrid(in opentimes.Input, c opentimes.Cause, zone *time.Location) string {
	switch {
	case c.Span.Empty():
		return "Not a start " + grid(in.Type) + "."
	case date(c.Span.Start, zone) == date(c.Span.End, zone):
		return "Not a start " + grid(in.Type) + "; the next is " + clock(c.Span.End, zone) + "."
	}
	return "Not a start " + grid(in.Type) + "; the next is " + moment(c.Span.End, zone) + "."
}

func busy(c opentimes.Cause, zone *time.Location, titles bool) string {
	what := "Busy"
	if titles && c.Title != "" {
		what = "“" + c.Title + "”"
	}
	if titles && c.Calendar != "" {
		what += " (" + c.Calendar + ")"
	}
	return what + " " + stretch(c.Span, zone) + "."
}

func limit(c opentimes.Cause, zone *time.Location) string {
	l := c.Limit
	per, whose := "day, "+date(c.Span.Start, zone), "of this type"
	if l.Per == opentimes.PerWeek {
		per = "week from " + date(c.Span.Start, zone)
	}
	if l.Of == opentimes.OfHost {
		whose = "of this host"
	}
	if l.ByTime {
		return fmt.Sprintf("A limit is reached: %d of %d minutes of bookings %s are taken on that %s.", l.Used, l.Minutes, whose, per)
	}
	return fmt.Sprintf("A limit is reached: %d of %d bookings %s on that %s.", l.Used, l.Count, whose, per)
}

func grid(t opentimes.Type) string {
	every := "every " + Count(t.Step, "minute")
	switch t.Grid {
	case opentimes.FromOpening:
		return every + " from the opening"
	case opentimes.Packed:
		return every + ", packed so that no useless gap is left"
	default:
		return every + " on the clock"
	}
}

func date(i span.Instant, zone *time.Location) string {
	return i.Time().In(zone).Format("Mon 2 Jan 2006")
}

func clock(i span.Instant, zone *time.Location) string { return i.Time().In(zone).Format("15:04") }

func moment(i span.Instant, zone *time.Location) string {
	return i.Time().In(zone).Format("Mon 2 Jan, 15:04")
}

// stretch is "10:00–11:30", with dates if it isn't within a day.
func stretch(s span.Span, zone *time.Location) string {
	if date(s.Start, zone) == date(s.End-1, zone) {
		return clock(s.Start, zone) + "–" + clock(s.End, zone)
	}
	return moment(s.Start, zone) + " to " + moment(s.End, zone)
}

// RuleName is a rule's name for people.
func RuleName(rule opentimes.Rule) string {
	return map[opentimes.Rule]string{
		opentimes.WindowRule: "Booking window", opentimes.NoticeRule: "Notice", opentimes.HoursRule: "Hours", opentimes.BusyRule: "Busy",
		opentimes.BookingRule: "Bookings", opentimes.LimitRule: "Limits", opentimes.StepRule: "Start step",
	}[rule]
}

// RuleNote is how a rule is set, in a few words.
func RuleNote(in opentimes.Input, rule opentimes.Rule) string {
	t := in.Type
	switch rule {
	case opentimes.WindowRule:
		return windowNote(t.Window)
	case opentimes.NoticeRule:
		return noticeNote(t.Notice)
	case opentimes.HoursRule:
		if t.Hours != nil {
			return "the host's and the type's own"
		}
		return "the host's"
	case opentimes.BusyRule:
		return "the host's calendars"
	case opentimes.BookingRule:
		return fmt.Sprintf("%d min before, %d after kept", t.Before, t.After)
	case opentimes.LimitRule:
		return limitsNote(t.Limits)
	default:
		layout := map[opentimes.Grid]string{opentimes.FromOpening: " from opening", opentimes.Packed: ", packed"}[t.Grid]
		return fmt.Sprintf("every %d min%s", t.Step, layout)
	}
}

func limitsNote(limits []opentimes.Limit) string {
	if len(limits) == 0 {
		return "none"
	}
	notes := make([]string, len(limits))
	for i, l := range limits {
		per := map[opentimes.LimitPer]string{opentimes.PerDay: "a day", opentimes.PerWeek: "a week"}[l.Per]
		notes[i] = fmt.Sprintf("%d %s", l.Count, per)
		if l.ByTime {
			notes[i] = fmt.Sprintf("%d min %s", l.Minutes, per)
		}
		if l.Of == opentimes.OfHost {
			notes[i] += " in all"
		}
	}
	return strings.Join(notes, ", ")
}

func windowNote(w opentimes.Window) string {
	switch w.Kind {
	case opentimes.NextDays:
		return Count(w.Days, "day")
	case opentimes.Dates:
		return w.First.String() + " to " + w.Last.String()
	default:
		return "without end"
	}
}

func noticeNote(n opentimes.Notice) string {
	switch {
	case n.Days > 0:
		return Count(n.Days, "whole day")
	case n.Minutes%60 == 0 && n.Minutes > 0:
		return Count(n.Minutes/60, "hour")
	}
	return Count(n.Minutes, "minute")
}

// NothingOpen says why nothing is open in so many weeks, as plainly as it can be said.
func NothingOpen(in opentimes.Input, within span.Span, minutes, weeks int) string {
	window, limited := in.Bookable()
	if limited && window.End <= in.Earliest() {
		return fmt.Sprintf("The notice (%s) reaches beyond the booking window (%s), so nothing can ever be booked.", noticeNote(in.Type.Notice), windowNote(in.Type.Window))
	}
	most := opentimes.TakesMost(in, within, minutes)
	switch most {
	case opentimes.StepRule:
		return fmt.Sprintf("No start %s falls into the time that is left, so nothing would be open in the coming %d weeks.", grid(in.Type), weeks)
	case opentimes.HoursRule:
		return fmt.Sprintf("No opening is long enough for %d minutes within the hours, so nothing would be open in the coming %d weeks.", minutes, weeks)
	}
	return fmt.Sprintf("Nothing would be open in the coming %d weeks: mostly blocked by %s.", weeks, strings.ToLower(RuleName(most)))
}

// Count is so many of a thing: "1 hour", "24 hours".
func Count(n int, thing string) string {
	if n == 1 {
		return "1 " + thing
	}
	return fmt.Sprintf("%d %ss", n, thing)
}

// List is names in a sentence: "Ines", "Ines and Maren", "Ines, Maren and Siew Lin".
func List(names []string) string {
	if len(names) < 2 {
		return strings.Join(names, "")
	}
	return strings.Join(names[:len(names)-1], ", ") + " and " + names[len(names)-1]
}

// Choice says why somebody got a booking, or, without a kind, why nobody can take it: "Next in turn. Torvald is busy; Ines is
// away until Mon 7 Dec." Names are by host; times are on the reader's clock.
func Choice(r routing.Reason, names map[int64]string, zone *time.Location) string {
	said := kinds[r.Kind]
	var passed []string
	for _, p := range r.Passed {
		passed = append(passed, names[p.Host]+" "+closed(p.Closed, zone))
	}
	if len(passed) > 0 {
		said = strings.TrimSpace(said + " " + strings.Join(passed, "; ") + ".")
	}
	if r.Kind == "" && said == "" {
		return "No eligible host."
	}
	return said
}

var kinds = map[routing.Kind]string{
	routing.Chosen: "Chosen by the client.", routing.Stays: "The client was here before and stays with their host.",
	routing.Only: "Only eligible host.", routing.Next: "Next in turn.", routing.First: "First in the set order who is open.",
	routing.Least: "Has least booked in the period.", routing.Everybody: "Everybody takes it together.",
	routing.AlwaysWith: "Next in turn, beside those who always take part.", routing.ByHand: "Decided by hand.",
}

func closed(c routing.Closed, zone *time.Location) string {
	if c.Until != 0 {
		return "is away until " + c.Until.Time().In(zone).Format("Mon 2 Jan")
	}
	switch c.Rule {
	case opentimes.BusyRule:
		return "is busy"
	case opentimes.BookingRule:
		return "has another booking"
	case opentimes.LimitRule:
		return "has reached a limit"
	case opentimes.HoursRule:
		return "doesn't work then"
	}
	return "isn't open then"
}
