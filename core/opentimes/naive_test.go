package opentimes_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"corrim/core/civil"
	"corrim/core/hours"
	"corrim/core/opentimes"
	"corrim/core/span"
)

// naive is a second implementation that shares nothing with the first but the types: it looks at every minute by itself
// and follows the sentences of the definition one by one. Everything must lie on whole minutes.
type naive struct {
	opentimes.Input
	minutes  int
	possible map[span.Instant]bool
}

const minute = span.Instant(60)

func (n *naive) zone() *time.Location { return n.Host.Hours.Zone }

func (n *naive) local(i span.Instant) time.Time { return i.Time().In(n.zone()) }

func (n *naive) date(i span.Instant) civil.Date { return civil.DateOf(i, n.zone()) }

// open: the minute lies in an interval of a week plan that begins on its own local day or the day before.
func (n *naive) open(p hours.Plan, i span.Instant) bool {
	today := civil.DateOf(i, p.Zone)
	for _, date := range []civil.Date{today, today.AddDays(-1)} {
		for _, interval := range p.Week[date.Weekday()] {
			at := func(m int) span.Instant {
				return civil.Clock{Date: date.AddDays(m / 1440), Seconds: m % 1440 * 60}.Instant(p.Zone)
			}
			if at(interval.Start) <= i && i < at(interval.End) {
				return true
			}
		}
	}
	return false
}

func (n *naive) holdsHours(s span.Instant) bool {
	from, to := s, s+span.Instant(n.minutes)*minute
	if n.Type.BuffersInsideOpen {
		from, to = from-span.Instant(n.Type.Before)*minute, to+span.Instant(n.Type.After)*minute
	}
	for i := from; i < to; i += minute {
		if !n.open(n.Host.Hours, i) || n.Type.Hours != nil && !n.open(*n.Type.Hours, i) {
			return false
		}
	}
	return true
}

func (n *naive) holdsBusy(s span.Instant, busy []span.Span) bool {
	for i := s - span.Instant(n.Type.Before)*minute; i < s+span.Instant(n.minutes+n.Type.After)*minute; i += minute {
		for _, b := range busy {
			if b.Start <= i && i < b.End {
				return false
			}
		}
	}
	return true
}

func (n *naive) holdsBooking(s span.Instant) bool {
	in := func(i span.Instant, from, to span.Instant) bool { return from <= i && i < to }
	for i := s - span.Instant(n.Type.Before)*minute; i < s+span.Instant(n.minutes+n.Type.After)*minute; i += minute {
		mine := in(i, s, s+span.Instant(n.minutes)*minute)
		for _, b := range n.Host.Bookings {
			if n.mayJoin(b, s) {
				continue
			}
			meeting := in(i, b.Meeting.Start, b.Meeting.End)
			kept := in(i, b.Meeting.Start-span.Instant(b.Before)*minute, b.Meeting.End+span.Instant(b.After)*minute)
			if mine && kept || meeting || kept && !n.ShareBuffers {
				return false
			}
		}
	}
	return true
}

// mayJoin: clients of this type share times, others have this one already, and it is as long.
func (n *naive) mayJoin(b opentimes.Booking, s span.Instant) bool {
	return n.Type.Seats > 1 && b.Seats > 1 && b.Type == n.Type.Name && b.Meeting.Start == s && b.Meeting.End-b.Meeting.Start == span.Instant(n.minutes)*minute
}

func (n *naive) joinsAny(s span.Instant) bool {
	for _, b := range n.Host.Bookings {
		if n.mayJoin(b, s) {
			return true
		}
	}
	return false
}

// session: its host has set one of this type then, whatever else there is.
func (n *naive) session(s span.Instant) bool {
	for _, b := range n.Host.Bookings {
		if b.Session && n.mayJoin(b, s) {
			return true
		}
	}
	return false
}

func (n *naive) holdsSeats(s span.Instant) bool {
	for _, b := range n.Host.Bookings {
		if !n.mayJoin(b, s) {
			continue
		}
		whole := n.Type.Whole && len(n.Series[b.Series]) > 0
		if !whole && b.Taken >= b.Seats {
			return false
		}
		for _, part := range n.Series[b.Series] {
			if whole && part.Filling.Taken >= part.Filling.Seats {
				return false
			}
		}
	}
	return true
}

// holdsSeries: no session of the same series comes before it.
func (n *naive) holdsSeries(s span.Instant) bool {
	for _, b := range n.Host.Bookings {
		if !n.Type.Whole || !n.mayJoin(b, s) {
			continue
		}
		first := span.Instant(1 << 60)
		for _, part := range n.Series[b.Series] {
			first = min(first, part.Meeting.Start)
		}
		if first != s {
			return false
		}
	}
	return true
}

func (n *naive) holdsWindow(s span.Instant) bool {
	if n.Type.Window.Kind == opentimes.Endless {
		return true
	}
	ahead := n.date(n.Now).DaysUntil(n.date(s))
	return ahead >= 0 && ahead <= n.Type.Window.Days
}

func (n *naive) holdsNotice(s span.Instant) bool {
	if days := n.Type.Notice.Days; days > 0 {
		return s >= n.Now && n.date(n.Now).DaysUntil(n.date(s)) >= days
	}
	return s >= n.Now+span.Instant(n.Type.Notice.Minutes)*minute
}

// holdsHolidays: no minute of the meeting is on a holiday's date.
func (n *naive) holdsHolidays(s span.Instant) bool {
	for i := s; i < s+span.Instant(n.minutes)*minute; i += minute {
		for _, h := range n.Type.Holidays.Days {
			if !n.date(i).Before(h.First) && !h.Last.Before(n.date(i)) {
				return false
			}
		}
	}
	return true
}

func (n *naive) holdsLimits(s span.Instant) bool {
	if n.joinsAny(s) {
		return true // it adds no meeting
	}
	for _, l := range n.Type.Limits {
		count, minutes := 1, n.minutes
		for _, b := range n.Host.Bookings {
			same := n.date(b.Meeting.Start) == n.date(s)
			if l.Per == opentimes.PerWeek {
				same = n.week(b.Meeting.Start) == n.week(s)
			}
			if same && (l.Of == opentimes.OfHost || b.Type == n.Type.Name) {
				count, minutes = count+1, minutes+int(b.Meeting.Seconds()/60)
			}
		}
		if l.ByTime && minutes > l.Minutes || !l.ByTime && count > l.Count {
			return false
		}
	}
	return true
}

// week is the first day of the week, found by walking back.
func (n *naive) week(i span.Instant) civil.Date {
	d := n.date(i)
	for d.Weekday() != n.FirstWeekday {
		d = d.AddDays(-1)
	}
	return d
}

func (n *naive) onClock(s span.Instant) bool {
	t := n.local(s)
	return t.Second() == 0 && ((t.Hour()*60+t.Minute()-n.Type.Offset)%n.Type.Step+n.Type.Step)%n.Type.Step == 0
}

func (n *naive) holdsStep(s span.Instant, busy []span.Span) bool {
	if n.joinsAny(s) {
		return true
	}
	if n.Type.Grid == opentimes.OnTheClock {
		return n.onClock(s)
	}
	can := func(i span.Instant) bool {
		known, ok := n.possible[i]
		if !ok {
			known = n.holdsHours(i) && n.holdsBusy(i, busy) && n.holdsBooking(i)
			n.possible[i] = known
		}
		return known
	}
	if !can(s) {
		return false
	}
	a, b := s, s
	for can(a - minute) {
		a -= minute
	}
	for can(b + minute) {
		b += minute
	}
	fives := func(i span.Instant) bool { return n.local(i).Minute()%5 == 0 }
	for !fives(a) {
		a += minute
	}
	for !fives(b) {
		b -= minute
	}
	if a > b || s < a || s > b {
		return false
	}
	if n.Type.Grid == opentimes.FromOpening {
		return (s-a)%(span.Instant(n.Type.Step)*minute) == 0
	}
	room := span.Instant(n.Type.Before+n.minutes+n.Type.After) * minute
	if n.ShareBuffers {
		room = span.Instant(n.minutes+max(n.Type.Before, n.Type.After)) * minute
	}
	fits := func(i span.Instant) bool { return (i == a || i-a >= room) && (i == b || b-i >= room) }
	any := false
	for i := a; i <= b; i += minute {
		if (i == a || i == b || n.onClock(i)) && fits(i) {
			any = true
			if i == s {
				return true
			}
		}
	}
	return !any && s == a
}

// anyRules draws an input on whole minutes that uses every rule, around the clock changes of March and October 2026.
func anyRules(t *rapid.T) (opentimes.Input, []span.Span) {
	zone := rapid.SampledFrom([]string{"Europe/Lisbon", "America/Toronto", "Asia/Kathmandu", "Australia/Lord_Howe", "America/St_Johns"}).Draw(t, "zone")
	now := span.Instant(rapid.SampledFrom([]int64{1_774_500_000, 1_772_900_000, 1_792_800_000, 1_790_900_000}).Draw(t, "season")/60*60) +
		span.Instant(rapid.IntRange(0, 3*1440).Draw(t, "now"))*minute
	somewhere := func(name string, longest int) span.Span {
		start := now + span.Instant(rapid.IntRange(-2*1440, 4*1440).Draw(t, name))*minute
		return span.Span{Start: start, End: start + span.Instant(rapid.IntRange(0, longest).Draw(t, name+" length"))*minute}
	}
	week := []string{"9-12, 13-17", "22-2", "1-3, 5-20", "8-11:20"}
	in := opentimes.Input{
		Now: now, FirstWeekday: time.Weekday(rapid.IntRange(0, 6).Draw(t, "first weekday")), ShareBuffers: rapid.Bool().Draw(t, "share"),
		Type: opentimes.Type{
			Name: "survey", Durations: []int{rapid.IntRange(5, 120).Draw(t, "minutes")}, Before: rapid.IntRange(0, 30).Draw(t, "before"), After: rapid.IntRange(0, 30).Draw(t, "after"),
			BuffersInsideOpen: rapid.Bool().Draw(t, "inside"), Step: rapid.IntRange(5, 90).Draw(t, "step"), Offset: rapid.IntRange(0, 100).Draw(t, "offset"),
			Grid:   opentimes.Grid(rapid.IntRange(0, 2).Draw(t, "grid")),
			Notice: opentimes.Notice{Minutes: rapid.IntRange(0, 600).Draw(t, "notice"), Days: rapid.IntRange(0, 1).Draw(t, "days")},
			Window: opentimes.Window{Kind: opentimes.WindowKind(rapid.IntRange(0, 1).Draw(t, "window")), Days: rapid.IntRange(0, 3).Draw(t, "ahead")},
		},
		Host: opentimes.Host{Hours: plan(t, zone, rapid.SampledFrom(week).Draw(t, "hours"))},
	}
	if rapid.Bool().Draw(t, "own hours") {
		own := plan(t, rapid.SampledFrom([]string{"Europe/Lisbon", "Asia/Kathmandu"}).Draw(t, "own zone"), rapid.SampledFrom(week).Draw(t, "own"))
		in.Type.Hours = &own
	}
	for range rapid.IntRange(0, 2).Draw(t, "limits") {
		in.Type.Limits = append(in.Type.Limits, opentimes.Limit{
			Of: opentimes.LimitOf(rapid.IntRange(0, 1).Draw(t, "of")), Per: opentimes.LimitPer(rapid.IntRange(0, 1).Draw(t, "per")),
			ByTime: rapid.Bool().Draw(t, "by time"), Count: rapid.IntRange(0, 3).Draw(t, "count"), Minutes: rapid.IntRange(0, 200).Draw(t, "limit minutes"),
		})
	}
	for range rapid.IntRange(0, 2).Draw(t, "holidays") {
		first := civil.DateOf(now, in.Host.Hours.Zone).AddDays(rapid.IntRange(-1, 2).Draw(t, "holiday"))
		in.Type.Holidays.Days = append(in.Type.Holidays.Days, opentimes.Holiday{First: first, Last: first.AddDays(rapid.IntRange(0, 1).Draw(t, "days of it"))})
	}
	var busy []span.Span
	var stretches []opentimes.Stretch
	for range rapid.IntRange(0, 8).Draw(t, "busy") {
		busy = append(busy, somewhere("busy at", 300))
		stretches = append(stretches, opentimes.Stretch{Span: busy[len(busy)-1]})
	}
	in.Host.Busy = opentimes.NewAgenda(stretches)
	in.Type.Seats = rapid.IntRange(0, 3).Draw(t, "seats")
	in.Type.Sessions = rapid.IntRange(0, 4).Draw(t, "sessions") == 0
	in.Type.Whole = in.Type.Sessions && rapid.Bool().Draw(t, "whole")
	for range rapid.IntRange(0, 4).Draw(t, "bookings") {
		meeting := somewhere("booking at", 90)
		meeting.End += minute
		if rapid.Bool().Draw(t, "as long") {
			meeting.End = meeting.Start + span.Instant(in.Type.Durations[0])*minute
		}
		in.Host.Bookings = append(in.Host.Bookings, opentimes.Booking{
			Type: rapid.SampledFrom([]string{"survey", "call"}).Draw(t, "type"), Meeting: meeting, Before: rapid.IntRange(0, 20).Draw(t, "b"), After: rapid.IntRange(0, 20).Draw(t, "a"),
			Filling: opentimes.Filling{Seats: rapid.IntRange(0, 3).Draw(t, "seats of it"), Taken: rapid.IntRange(0, 3).Draw(t, "taken")},
			Session: rapid.Bool().Draw(t, "session"), Series: rapid.SampledFrom([]string{"", "spring", "autumn"}).Draw(t, "series"),
		})
	}
	in.Series = opentimes.SeriesOf(in.Host)
	return in, busy
}

func TestEveryMinuteAgreesWithANaiveSecondImplementation(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		in, busy := anyRules(t)
		n := &naive{in, in.Type.Durations[0], map[span.Instant]bool{}}
		from := in.Now + span.Instant(rapid.IntRange(-200, 2*1440).Draw(t, "from"))*minute
		starts := span.Span{Start: from, End: from + 14*60*minute}
		found := map[span.Instant]bool{}
		for _, s := range opentimes.Search(in, starts) {
			found[s.At] = true
		}
		for i := starts.Start; i < starts.End; i += minute {
			want := map[opentimes.Rule]bool{
				opentimes.WindowRule: n.holdsWindow(i), opentimes.NoticeRule: n.holdsNotice(i), opentimes.HoursRule: n.session(i) || n.holdsHours(i),
				opentimes.BusyRule: n.session(i) || n.holdsBusy(i, busy), opentimes.BookingRule: n.session(i) || n.holdsBooking(i), opentimes.LimitRule: n.holdsLimits(i),
				opentimes.StepRule: n.holdsStep(i, busy), opentimes.HolidayRule: n.session(i) || n.holdsHolidays(i), opentimes.SeatsRule: n.holdsSeats(i),
				opentimes.SessionsRule: !in.Type.Sessions || n.joinsAny(i), opentimes.SeriesRule: n.holdsSeries(i),
			}
			open := true
			for _, holds := range want {
				open = open && holds
			}
			require.Equal(t, open, found[i], "%s: %v", n.local(i), want)
			if (i-starts.Start)/minute%47 == 0 {
				for _, r := range opentimes.Explain(in, opentimes.Start{At: i, Minutes: n.minutes}).Reasons {
					require.Equal(t, want[r.Rule], r.Holds, "%s at %s", r.Rule, n.local(i))
				}
			}
		}
	})
}

func TestHoursThatNeverCloseAreCutWhereWeeksBegin(t *testing.T) {
	in := scene(t, "0-24", 45, 50)
	in.FirstWeekday = time.Monday
	in.Type.Grid = opentimes.FromOpening
	z := in.Host.Hours.Zone
	monday := at(t, z, "2026-03-09 00:00")
	found := opentimes.Search(in, span.Span{Start: monday, End: monday + 3*3600})
	assert.Equal(t, monday, found[0].At, "Monday's midnight begins a run")
	assert.Equal(t, monday+50*minute, found[1].At)
	before := opentimes.Search(in, span.Span{Start: monday - 3600, End: monday})
	elapsed := before[0].At - at(t, z, "2026-03-02 00:00")
	assert.Zero(t, elapsed%(50*minute), "counted from the week before")
}
