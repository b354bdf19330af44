package hours

import (
	"time"

	"corrim/core/civil"
	"corrim/core/strict"
)

var weekdays = map[string]time.Weekday{
	"mon": time.Monday, "tue": time.Tuesday, "wed": time.Wednesday, "thu": time.Thursday, "fri": time.Friday, "sat": time.Saturday, "sun": time.Sunday,
}

var weekdayNames = []string{"mon", "tue", "wed", "thu", "fri", "sat", "sun"}

// ReadWeekday reads a day of the week like "mon"; Monday if it isn't given.
func ReadWeekday(n strict.Node) time.Weekday { return strict.Choice(n, time.Monday, weekdays) }

// WriteWeekday is the day as ReadWeekday reads it.
func WriteWeekday(day time.Weekday) string {
	return weekdayNames[(int(day)+6)%7]
}

// ReadWeek reads a week of hours texts by day: {"mon": "9-12, 13-17"}. A day left out is closed.
func ReadWeek(n strict.Node) Week {
	var week Week
	f := n.Fields(weekdayNames...)
	for name, day := range weekdays {
		week[day] = readDay(f[name])
	}
	return week
}

func readDay(n strict.Node) Day {
	if !n.Given() {
		return nil
	}
	day, err := ParseDay(n.Text())
	if err != nil {
		n.Refuse("%v", err)
	}
	return day
}

// ReadChanges reads changes of single days: {"date": "2026-05-06", "closed": true}, {"from": …, "to": …, "hours": "10-13"}.
func ReadChanges(n strict.Node) []Change {
	var out []Change
	for _, c := range n.List() {
		out = append(out, readChange(c))
	}
	return out
}

func readChange(n strict.Node) (change Change) {
	f := n.Fields("date", "from", "to", "closed", "hours", "extra")
	if f["date"].Given() {
		if f["from"].Given() || f["to"].Given() {
			n.Refuse("it has either date, or from and to")
		}
		change.First = f["date"].Date()
		change.Last = change.First
	} else {
		change.First, change.Last = f["from"].Required().Date(), f["to"].Required().Date()
	}
	if change.Last.Before(change.First) {
		f["to"].Refuse("it comes before from")
	}
	switch kind := strict.One(n, f, "closed", "hours", "extra"); kind {
	case "closed":
		if !f["closed"].Flag(true) {
			f["closed"].Refuse("only true makes sense; leave the change out instead")
		}
	case "hours":
		change.Kind, change.Day = Instead, readDay(f[kind])
	case "extra":
		change.Kind, change.Day = Extra, readDay(f[kind])
	}
	return change
}

// ReadTimeOff reads times off, of whole days {"from": "2026-05-11", "to": "2026-05-12"} or between two local times.
func ReadTimeOff(n strict.Node) []TimeOff {
	var out []TimeOff
	for _, t := range n.List() {
		f := t.Fields("from", "to")
		from, to := f["from"].Required(), f["to"].Required()
		off := TimeOff{}
		if len(from.Text()) == len("2026-05-11") {
			off.First, off.Last = from.Date(), to.Date()
			if off.Last.Before(off.First) {
				to.Refuse("it comes before from")
			}
		} else {
			off.From, off.To = from.Clock(), to.Clock()
			if off.To.UTC().Before(off.From.UTC()) {
				to.Refuse("it comes before from")
			}
		}
		out = append(out, off)
	}
	return out
}

// WriteWeek is the week as ReadWeek reads it.
func WriteWeek(week Week) map[string]string {
	out := map[string]string{}
	for name, day := range weekdays {
		if len(week[day]) > 0 {
			out[name] = week[day].String()
		}
	}
	return out
}

// WriteChanges is the changes as ReadChanges reads them.
func WriteChanges(changes []Change) []map[string]any {
	out := []map[string]any{}
	for _, c := range changes {
		change := map[string]any{"from": c.First.String(), "to": c.Last.String()}
		switch c.Kind {
		case Closed:
			change["closed"] = true
		case Instead:
			change["hours"] = c.Day.String()
		case Extra:
			change["extra"] = c.Day.String()
		}
		out = append(out, change)
	}
	return out
}

// WriteTimeOff is the times off as ReadTimeOff reads them.
func WriteTimeOff(off []TimeOff) []map[string]string {
	out := []map[string]string{}
	for _, t := range off {
		if t.Last != (civil.Date{}) {
			out = append(out, map[string]string{"from": t.First.String(), "to": t.Last.String()})
			continue
		}
		local := func(c civil.Clock) string { return c.UTC().Format("2006-01-02T15:04:05") }
		out = append(out, map[string]string{"from": local(t.From), "to": local(t.To)})
	}
	return out
}
