package hours

import (
	"time"

	"corrim/core/civil"
	"corrim/core/span"
)

// TimeOff is time taken away from the hours: whole local days, both included, or, if Last is the zero date, from one
// wall-clock reading to another.
type TimeOff struct {
	First, Last civil.Date
	From, To    civil.Clock
}

// Span is the time off as instants.
func (t TimeOff) Span(zone *time.Location) span.Span {
	if t.Last != (civil.Date{}) {
		return span.Span{Start: t.First.Start(zone), End: t.Last.AddDays(1).Start(zone)}
	}
	return span.Span{Start: t.From.Instant(zone), End: t.To.Instant(zone)}
}

// TimeOff is the time off that begins in the years from first to last; nothing if d isn't time off. What comes again
// every year is listed for each of them, except on a date that a year doesn't have.
func (d Differing) TimeOff(first, last int) []TimeOff {
	if !d.Off {
		return nil
	}
	if !d.Yearly {
		return d.timeOff(0)
	}
	var out []TimeOff
	for year := first; year <= last; year++ {
		out = append(out, d.timeOff(year-d.First.Year)...)
	}
	return out
}

// timeOff is the time off, so many years later.
func (d Differing) timeOff(years int) []TimeOff {
	from, to := yearsOn(d.First, years), yearsOn(d.Last, years)
	if len(d.Day) == 0 {
		if !isDate(from) || !isDate(to) {
			return nil
		}
		return []TimeOff{{First: from, Last: to}}
	}
	var out []TimeOff
	for date := from; !to.Before(date); date = date.AddDays(1) {
		if !isDate(date) {
			continue
		}
		for _, i := range d.Day {
			out = append(out, TimeOff{From: clockOn(date, i.Start), To: clockOn(date, i.End)})
		}
	}
	return out
}

// Applies tells whether the days that differ hold a date, in whatever year if they come again.
func (d Differing) Applies(date civil.Date) bool {
	years := 0
	if d.Yearly {
		years = date.Year - d.First.Year
		if date.Before(yearsOn(d.First, years)) {
			years-- // it began last year: 21 December to 3 January
		}
	}
	return !date.Before(yearsOn(d.First, years)) && !yearsOn(d.Last, years).Before(date)
}

func yearsOn(d civil.Date, years int) civil.Date {
	d.Year += years
	return d
}

// isDate tells whether there is such a date: there is no 29 February in most years.
func isDate(d civil.Date) bool { return d.AddDays(0) == d }

// clockOn is a wall-clock minute of a date, which may lie on the date after.
func clockOn(date civil.Date, minute int) civil.Clock {
	if minute >= dayMinutes {
		date, minute = date.AddDays(1), minute-dayMinutes
	}
	return civil.Clock{Date: date, Seconds: minute * 60}
}
