package busy

import (
	"time"

	"corrim/core/civil"
	"corrim/core/span"
)

// Days is one day or several in a row that an event takes whole.
type Days struct {
	First, Last civil.Date
	UID, Title  string
	Yearly      bool // they come again on these dates of every year, without end
}

// WholeDays lists the events of whole days that overlap a stretch of days, both ends included, whether they block time or not: a
// calendar of public holidays says that they don't. zone is whose midnights count for events that are written with times. The error
// is Read's.
func WholeDays(text []byte, first, last civil.Date, zone *time.Location) ([]Days, []Trouble, error) {
	calendar, err := Read(text, Options{Zone: zone, AllDayBusy: true, TentativeBusy: true, FreeToo: true})
	if err != nil {
		return nil, nil, err
	}
	events, troubles := calendar.Busy(span.Span{Start: first.Start(zone), End: last.AddDays(1).Start(zone)})
	var out []Days
	for _, e := range events {
		if e.AllDay && !e.Empty() {
			out = append(out, Days{civil.DateOf(e.Start, zone), civil.DateOf(e.End-1, zone), e.UID, e.Title, calendar.yearly(e.UID)})
		}
	}
	return out, troubles, nil
}

// yearly tells whether an event comes again on its own dates of every year for ever: FREQ=YEARLY with nothing that says otherwise.
func (c *Calendar) yearly(uid string) bool {
	for _, s := range c.series {
		if s.master == nil || s.master.uid != uid {
			continue
		}
		e := s.master
		return len(e.rules) == 1 && e.rules[0].plainYearly() && len(e.extra)+len(e.excluded)+len(s.changed) == 0
	}
	return false
}
