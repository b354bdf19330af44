package opentimes_test

import (
	"fmt"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"corrim/core/civil"
	"corrim/core/hours"
	"corrim/core/opentimes"
	"corrim/core/span"
	"corrim/core/told"
)

func plan(t require.TestingT, zone string, everyDay string) hours.Plan {
	z, err := civil.LoadZone(zone)
	require.NoError(t, err)
	day, err := hours.ParseDay(everyDay)
	require.NoError(t, err)
	p := hours.Plan{Zone: z}
	for i := range p.Week {
		p.Week[i] = day
	}
	return p
}

func at(t require.TestingT, zone *time.Location, text string) span.Instant {
	parsed, err := time.Parse("2006-01-02 15:04", text)
	require.NoError(t, err)
	return civil.FromUTC(parsed).Instant(zone)
}

// scene is a host in Lisbon, asked on 4 March 2026 at 10:00.
func scene(t require.TestingT, everyDay string, minutes, step int) opentimes.Input {
	p := plan(t, "Europe/Lisbon", everyDay)
	return opentimes.Input{
		Now:  at(t, p.Zone, "2026-03-04 10:00"),
		Type: opentimes.Type{Durations: []int{minutes}, Step: step},
		Host: opentimes.Host{Name: "Ines", Hours: p},
	}
}

// on lists the open starts of a local day as wall-clock readings.
func on(t require.TestingT, in opentimes.Input, date string) []string {
	d, err := civil.ParseDate(date)
	require.NoError(t, err)
	out := []string{}
	for _, s := range opentimes.Search(in, d.Span(in.Host.Hours.Zone)) {
		out = append(out, s.At.Time().In(in.Host.Hours.Zone).Format("15:04"))
	}
	return out
}

func busy(t require.TestingT, in *opentimes.Input, from, to string) {
	z := in.Host.Hours.Zone
	in.Host.Busy = opentimes.NewAgenda([]opentimes.Stretch{{Span: span.Span{Start: at(t, z, from), End: at(t, z, to)}, Calendar: "Work", Title: "Studio visit"}})
}

// Facts of the trade: common practice, as our design notes list them.
func TestFactsOfTheTrade(t *testing.T) {
	t.Run("hours 9-12, length 30, step 30: six starts", func(t *testing.T) {
		assert.Equal(t, []string{"09:00", "09:30", "10:00", "10:30", "11:00", "11:30"}, on(t, scene(t, "9-12", 30, 30), "2026-03-05"))
	})
	t.Run("hours 7-11 and 12-16, length 60, step 60", func(t *testing.T) {
		assert.Equal(t, []string{"07:00", "08:00", "09:00", "10:00", "12:00", "13:00", "14:00", "15:00"}, on(t, scene(t, "7-11, 12-16", 60, 60), "2026-03-05"))
	})
	t.Run("touching intervals are one", func(t *testing.T) {
		assert.Contains(t, on(t, scene(t, "9-12, 12-14", 60, 30), "2026-03-05"), "11:30")
	})
	t.Run("busy 11-13 takes these starts", func(t *testing.T) {
		lost := func(minutes int) []string {
			in := scene(t, "9-17", minutes, 30)
			before := on(t, in, "2026-03-05")
			busy(t, &in, "2026-03-05 11:00", "2026-03-05 13:00")
			after := on(t, in, "2026-03-05")
			return slices.DeleteFunc(before, func(s string) bool { return slices.Contains(after, s) })
		}
		assert.Equal(t, []string{"11:00", "11:30", "12:00", "12:30"}, lost(30))
		assert.Equal(t, []string{"10:30", "11:00", "11:30", "12:00", "12:30"}, lost(60))
	})
	t.Run("50 minutes and 10 after take an hour of the host", func(t *testing.T) {
		in := scene(t, "9-12", 50, 10)
		in.Type.After = 10
		in.Host.Bookings = []opentimes.Booking{{ID: "1", Meeting: span.Span{Start: at(t, in.Host.Hours.Zone, "2026-03-05 09:00"), End: at(t, in.Host.Hours.Zone, "2026-03-05 09:50")}, After: 10}}
		assert.Equal(t, []string{"10:00", "10:10", "10:20", "10:30", "10:40", "10:50", "11:00", "11:10"}, on(t, in, "2026-03-05"), "the last one's buffer runs past the hours")
	})
	t.Run("a 20-minute talk with 10 extra needs a free half hour", func(t *testing.T) {
		in := scene(t, "0-24", 20, 10)
		in.Type.After = 10
		z := in.Host.Hours.Zone
		in.Host.Busy = opentimes.NewAgenda([]opentimes.Stretch{
			{Span: span.Span{Start: at(t, z, "2026-03-05 00:00"), End: at(t, z, "2026-03-05 12:00")}},
			{Span: span.Span{Start: at(t, z, "2026-03-05 12:30"), End: at(t, z, "2026-03-05 18:00")}},
			{Span: span.Span{Start: at(t, z, "2026-03-05 18:20"), End: at(t, z, "2026-03-06 00:30")}},
		})
		assert.Equal(t, []string{"12:00"}, on(t, in, "2026-03-05"))
	})
	t.Run("notice of 24 hours against one whole day", func(t *testing.T) {
		in := scene(t, "9-17", 60, 60)
		in.Type.Notice = opentimes.Notice{Minutes: 24 * 60}
		assert.Empty(t, on(t, in, "2026-03-04"))
		assert.Equal(t, "10:00", on(t, in, "2026-03-05")[0])
		in.Type.Notice = opentimes.Notice{Days: 1}
		assert.Equal(t, "09:00", on(t, in, "2026-03-05")[0])
		in.Type.Notice = opentimes.Notice{}
		assert.Equal(t, "10:00", on(t, in, "2026-03-04")[0], "nothing before now is ever open")
	})
	t.Run("three weeks' window: the 21st day is open, the 22nd is not", func(t *testing.T) {
		in := scene(t, "9-17", 60, 60)
		in.Type.Window = opentimes.Window{Kind: opentimes.NextDays, Days: 21}
		assert.NotEmpty(t, on(t, in, "2026-03-25"))
		assert.Empty(t, on(t, in, "2026-03-26"))
	})
}

func TestLimitsCloseADayOrAWeek(t *testing.T) {
	in := scene(t, "9-12", 60, 60)
	in.Type.Name, in.FirstWeekday = "survey", time.Monday
	z := in.Host.Hours.Zone
	add := func(kind, text string) {
		start := at(t, z, text)
		in.Host.Bookings = append(in.Host.Bookings, opentimes.Booking{Type: kind, Meeting: span.Span{Start: start, End: start + 3600}})
	}
	add("survey", "2026-03-05 09:00")
	add("call", "2026-03-05 10:00")
	in.Type.Limits = []opentimes.Limit{{Of: opentimes.OfType, Per: opentimes.PerDay, Count: 2}}
	assert.Equal(t, []string{"11:00"}, on(t, in, "2026-03-05"), "one of two surveys is booked")
	add("survey", "2026-03-05 16:00")
	assert.Empty(t, on(t, in, "2026-03-05"), "at most 2 a day: the third isn't offered")
	assert.Len(t, on(t, in, "2026-03-06"), 3, "the next day's are")

	in.Type.Limits = []opentimes.Limit{{Of: opentimes.OfHost, Per: opentimes.PerWeek, ByTime: true, Minutes: 200}}
	e := opentimes.Explain(in, opentimes.Start{At: at(t, z, "2026-03-08 11:00"), Minutes: 60})
	assert.Equal(t, []opentimes.Rule{opentimes.LimitRule}, e.Failing())
	assert.Equal(t, 180, e.Reasons[6].Causes[0].Limit.Used)
	assert.Len(t, on(t, in, "2026-03-09"), 3, "a week begins on Monday")
	in.FirstWeekday = time.Sunday
	assert.Len(t, on(t, in, "2026-03-08"), 3, "or on Sunday")
}

func TestPublicHolidaysAreKeptFreeOnTheHostsCalendar(t *testing.T) {
	in := scene(t, "0-24", 60, 60)
	z := in.Host.Hours.Zone
	in.Type.After = 30
	friday := civil.Date{Year: 2026, Month: 3, Day: 6}
	in.Type.Holidays = opentimes.Holidays{Calendars: 1, Days: []opentimes.Holiday{{First: friday, Last: friday.AddDays(1), Name: "Lantern days"}}}
	assert.Empty(t, on(t, in, "2026-03-06"))
	assert.Empty(t, on(t, in, "2026-03-07"), "both days")
	before := on(t, in, "2026-03-05")
	assert.Equal(t, "23:00", before[len(before)-1], "it ends as the holiday begins; only the buffer reaches into it")
	assert.Equal(t, "00:00", on(t, in, "2026-03-08")[0])
	e := opentimes.Explain(in, opentimes.Start{At: at(t, z, "2026-03-05 23:30"), Minutes: 60})
	assert.Contains(t, e.Failing(), opentimes.HolidayRule, "half of it would be on the holiday")
	in.Type.Holidays.Days = nil
	assert.NotEmpty(t, on(t, in, "2026-03-06"))
}

func TestThePackedGridLeavesNoUselessGap(t *testing.T) {
	in := scene(t, "9-12", 60, 15)
	in.Type.Grid = opentimes.Packed
	assert.Equal(t, []string{"09:00", "10:00", "11:00"}, on(t, in, "2026-03-05"))
	busy(t, &in, "2026-03-05 10:30", "2026-03-05 10:40")
	assert.Equal(t, []string{"09:00", "10:40"}, on(t, in, "2026-03-05"), "9:00-10:30 has room for one: at its beginning, since neither end leaves room for another; what follows begins at 10:40")
	in.Type.Grid = opentimes.FromOpening
	assert.Equal(t, []string{"09:00", "09:15", "09:30", "10:40", "10:55"}, on(t, in, "2026-03-05"))
}

func TestAPoolIsOpenWhenOneIsOrWhenAllAre(t *testing.T) {
	in := scene(t, "9-12", 60, 60)
	ines := in.Host
	torvald := opentimes.Host{Name: "Torvald", Hours: plan(t, "Europe/Oslo", "11-14")} // 10-13 in Lisbon
	day := span.Span{Start: at(t, ines.Hours.Zone, "2026-03-05 00:00"), End: at(t, ines.Hours.Zone, "2026-03-06 00:00")}
	show := func(together bool) (out []string) {
		for _, o := range opentimes.SearchPool(in, opentimes.Pool{Hosts: []opentimes.Host{ines, torvald}, Together: together}, day) {
			out = append(out, o.At.Time().Format("15:04")+fmt.Sprint(o.Hosts))
		}
		return out
	}
	assert.Equal(t, []string{"09:00[0]", "10:00[0 1]", "11:00[0 1]", "12:00[1]"}, show(false))
	assert.Equal(t, []string{"10:00[0 1]", "11:00[0 1]"}, show(true))

	in.Type.Step, in.Type.Offset = 60, 30
	ines.Hours, torvald.Hours = plan(t, "Europe/Lisbon", "9-12"), plan(t, "Asia/Kathmandu", "0-24") // half past there is not half past here
	assert.Equal(t, []string{"09:30[0 1]", "10:30[0 1]"}, show(true), "the step is the first host's")
	all := opentimes.ExplainPool(in, opentimes.Pool{Hosts: []opentimes.Host{ines, torvald}, Together: true}, opentimes.Start{At: at(t, ines.Hours.Zone, "2026-03-05 09:30"), Minutes: 60})
	assert.True(t, all[0].Open && all[1].Open)
}

func TestTheGridIsOnTheHostsClock(t *testing.T) {
	kathmandu := opentimes.Input{Type: opentimes.Type{Durations: []int{30}, Step: 30}, Host: opentimes.Host{Hours: plan(t, "Asia/Kathmandu", "9-10:30")}}
	assert.Equal(t, []string{"09:00", "09:30", "10:00"}, on(t, kathmandu, "2026-03-05"), "UTC+5:45")
	late := scene(t, "9-11", 30, 60)
	late.Type.Offset = 20
	assert.Equal(t, []string{"09:20", "10:20"}, on(t, late, "2026-03-05"))
	lordHowe := opentimes.Input{Type: opentimes.Type{Durations: []int{60}, Step: 60}, Host: opentimes.Host{Hours: plan(t, "Australia/Lord_Howe", "0-5")}}
	assert.Equal(t, []string{"00:00", "01:00", "03:00", "04:00"}, on(t, lordHowe, "2026-10-04"), "clocks go from 02:00 to 02:30")
	lisbon := scene(t, "0-4", 60, 60)
	assert.Equal(t, []string{"00:00", "02:00", "03:00"}, on(t, lisbon, "2026-03-29"), "there is no 01:00")
	assert.Equal(t, []string{"00:00", "01:00", "01:00", "02:00", "03:00"}, on(t, lisbon, "2026-10-25"), "01:00 comes twice")
}

func TestEveryFailingRuleIsNamedWithItsCause(t *testing.T) {
	in := scene(t, "9-17", 60, 30)
	in.Type.Before = 15
	in.Type.Window = opentimes.Window{Kind: opentimes.NextDays, Days: 3}
	z := in.Host.Hours.Zone
	busy(t, &in, "2026-03-05 16:00", "2026-03-05 16:20")
	in.Host.Bookings = []opentimes.Booking{{ID: "b1", Meeting: span.Span{Start: at(t, z, "2026-03-05 17:00"), End: at(t, z, "2026-03-05 18:00")}}}
	e := opentimes.Explain(in, opentimes.Start{At: at(t, z, "2026-03-05 16:25"), Minutes: 60})
	assert.False(t, e.Open)
	assert.Equal(t, []opentimes.Rule{opentimes.HoursRule, opentimes.BusyRule, opentimes.BookingRule, opentimes.StepRule}, e.Failing())
	assert.Equal(t, "Studio visit", e.Reasons[4].Causes[0].Title)
	assert.Equal(t, "b1", e.Reasons[5].Causes[0].Booking)
	assert.Equal(t, "17:00", e.Reasons[2].Causes[0].Span.Start.Time().In(z).Format("15:04"), "the closed time it would reach into")
	outside := opentimes.Explain(in, opentimes.Start{At: at(t, z, "2026-03-08 12:00"), Minutes: 60})
	assert.Equal(t, []opentimes.Rule{opentimes.WindowRule}, outside.Failing())
	past := opentimes.Explain(in, opentimes.Start{At: at(t, z, "2026-03-04 09:30"), Minutes: 60})
	assert.Equal(t, []opentimes.Rule{opentimes.NoticeRule}, past.Failing())
}

// anyInput draws a host with hours, busy stretches and bookings around the clock change of March 2026.
func anyInput(t *rapid.T) opentimes.Input {
	zone := rapid.SampledFrom([]string{"Europe/Lisbon", "America/Toronto", "Asia/Kathmandu", "Australia/Lord_Howe", "America/St_Johns"}).Draw(t, "zone")
	in := opentimes.Input{
		Now: span.Instant(rapid.Int64Range(1_774_000_000, 1_775_500_000).Draw(t, "now")),
		Type: opentimes.Type{
			Durations: []int{rapid.IntRange(5, 180).Draw(t, "minutes")},
			Before:    rapid.IntRange(0, 40).Draw(t, "before"), After: rapid.IntRange(0, 40).Draw(t, "after"),
			Step: rapid.IntRange(5, 120).Draw(t, "step"), Offset: rapid.IntRange(0, 200).Draw(t, "offset"),
			Notice: opentimes.Notice{Minutes: rapid.IntRange(0, 3000).Draw(t, "notice"), Days: rapid.IntRange(0, 2).Draw(t, "days")},
			Window: opentimes.Window{Kind: opentimes.WindowKind(rapid.IntRange(0, 1).Draw(t, "window")), Days: rapid.IntRange(0, 9).Draw(t, "ahead")},
		},
		Host: opentimes.Host{Hours: plan(t, zone, rapid.SampledFrom([]string{"9-12, 13-17", "22-2", "0-24", "1-3", "closed"}).Draw(t, "hours"))},
	}
	stretch := func(name string) span.Span {
		start := int64(in.Now) + rapid.Int64Range(-50_000, 600_000).Draw(t, name)
		return span.Span{Start: span.Instant(start), End: span.Instant(start + rapid.Int64Range(0, 20_000).Draw(t, name+" length"))}
	}
	var stretches []opentimes.Stretch
	for range rapid.IntRange(0, 12).Draw(t, "stretches") {
		stretches = append(stretches, opentimes.Stretch{Span: stretch("busy")})
	}
	in.Host.Busy = opentimes.NewAgenda(stretches)
	for range rapid.IntRange(0, 4).Draw(t, "bookings") {
		in.Host.Bookings = append(in.Host.Bookings, opentimes.Booking{Meeting: stretch("booking"), Before: rapid.IntRange(0, 30).Draw(t, "b"), After: rapid.IntRange(0, 30).Draw(t, "a")})
	}
	return in
}

func TestAStartIsFoundIfAndOnlyIfItsExplanationHasNoFailingRule(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		in := anyInput(t)
		minutes := in.Type.Durations[0]
		from := in.Now + span.Instant(rapid.Int64Range(-90_000, 400_000).Draw(t, "from"))
		starts := span.Span{Start: from, End: from + 26*3600}
		found := map[span.Instant]bool{}
		for _, s := range opentimes.Search(in, starts) {
			found[s.At] = true
			assert.Empty(t, opentimes.Explain(in, s).Failing())
		}
		for i := starts.Start + (60-starts.Start%60)%60; i < starts.End; i += 60 {
			assert.Equal(t, found[i], opentimes.Explain(in, opentimes.Start{At: i, Minutes: minutes}).Open, "%s", i)
		}
		layers := opentimes.Layers(in, starts, minutes)
		for i := starts.Start; i < starts.End; i += 601 {
			e := opentimes.Explain(in, opentimes.Start{At: i, Minutes: minutes})
			for k, layer := range layers {
				refuses := slices.ContainsFunc(layer.Takes, func(t opentimes.Take) bool { return t.Starts.Holds(i) })
				assert.Equal(t, !e.Reasons[k].Holds, refuses, "layer %s at %s", layer.Rule, i)
			}
		}
	})
}

func TestABookingMadeIsNeverOfferedAgain(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		in := anyInput(t)
		week := span.Span{Start: in.Now, End: in.Now + 7*24*3600}
		for {
			open := opentimes.Search(in, week)
			if len(open) == 0 {
				return
			}
			s := rapid.SampledFrom(open).Draw(t, "start")
			made := opentimes.Booking{Meeting: span.Span{Start: s.At, End: s.At + span.Instant(s.Minutes)*60}, Before: in.Type.Before, After: in.Type.After}
			kept := made.Meeting.Grow(int64(made.Before)*60, int64(made.After)*60)
			in.Host.Bookings = append(in.Host.Bookings, made)
			for _, next := range opentimes.Search(in, week) {
				its := span.Span{Start: next.At, End: next.At + span.Instant(next.Minutes)*60}.Grow(int64(in.Type.Before)*60, int64(in.Type.After)*60)
				require.False(t, its.Overlaps(kept), "%s overlaps the booking at %s", next.At, s.At)
			}
		}
	})
}

func TestNearestAndCompare(t *testing.T) {
	in := scene(t, "9-12", 30, 30)
	z := in.Host.Hours.Zone
	busy(t, &in, "2026-03-05 09:30", "2026-03-05 11:00")
	var got []string
	for _, s := range opentimes.Nearest(in, opentimes.Start{At: at(t, z, "2026-03-05 10:00"), Minutes: 30}, 3) {
		got = append(got, s.At.Time().In(z).Format("2 15:04"))
	}
	assert.Equal(t, []string{"5 09:00", "5 11:00", "5 11:30"}, got)

	day := span.Span{Start: at(t, z, "2026-03-05 00:00"), End: at(t, z, "2026-03-06 00:00")}
	changed := in
	changed.Type.Step, changed.Host.Busy = 60, opentimes.Agenda{}
	d := opentimes.Compare(opentimes.Search(in, day), opentimes.Search(changed, day))
	assert.Len(t, d.Gained, 1, "10:00")
	assert.Len(t, d.Lost, 1, "11:30")
	assert.Len(t, d.Kept, 2, "9:00 and 11:00")
}

// busyHost has 2,000 prepared busy stretches.
func busyHost(b *testing.B, from span.Instant) opentimes.Host {
	var stretches []opentimes.Stretch
	for i := range span.Instant(2000) {
		stretches = append(stretches, opentimes.Stretch{Span: span.Span{Start: from + i*2600, End: from + i*2600 + 900}})
	}
	return opentimes.Host{Hours: plan(b, "Europe/Lisbon", "9-12, 13-17"), Busy: opentimes.NewAgenda(stretches)}
}

func sixtyDays(b *testing.B) (opentimes.Input, span.Span) {
	in := opentimes.Input{
		Now:  at(b, time.UTC, "2026-03-01 00:00"),
		Type: opentimes.Type{Durations: []int{30}, Step: 15, After: 10, Window: opentimes.Window{Kind: opentimes.NextDays, Days: 60}},
	}
	in.Host = busyHost(b, in.Now)
	return in, span.Span{Start: in.Now, End: in.Now + 60*24*3600}
}

func BenchmarkSixtyDaysStep15(b *testing.B) {
	in, sixty := sixtyDays(b)
	b.ReportAllocs()
	for b.Loop() {
		opentimes.Search(in, sixty)
	}
}

func BenchmarkSixtyDaysPacked(b *testing.B) {
	in, sixty := sixtyDays(b)
	in.Type.Grid = opentimes.Packed
	b.ReportAllocs()
	for b.Loop() {
		opentimes.Search(in, sixty)
	}
}

func BenchmarkPoolOfFiftySixtyDays(b *testing.B) {
	in, sixty := sixtyDays(b)
	pool := opentimes.Pool{}
	for range 50 {
		pool.Hosts = append(pool.Hosts, busyHost(b, in.Now))
	}
	b.ReportAllocs()
	for b.Loop() {
		opentimes.SearchPool(in, pool, sixty)
	}
}

// lesson is a type of five seats with a meeting of it at 10:00, of which some are taken.
func lesson(t *testing.T, taken int) opentimes.Input {
	in := spoken(t)
	in.Type.Name, in.Type.Seats, in.Type.Durations, in.Type.Limits = "lesson", 5, []int{60}, nil
	in.Host.Bookings = []opentimes.Booking{{ID: "1", Type: "lesson", Meeting: span.Span{Start: utc("2026-05-07 09:00"), End: utc("2026-05-07 10:00")}, After: 10, Filling: opentimes.Filling{Seats: 5, Taken: taken}}}
	return in
}

func TestAStartStaysOpenUntilItsSeatsAreTaken(t *testing.T) {
	// Common practice: eight seats, one taken: seven left.
	eight := lesson(t, 1)
	eight.Type.Seats, eight.Host.Bookings[0].Seats = 8, 8
	left, of, joins := opentimes.SeatsLeft(eight, opentimes.Start{At: utc("2026-05-07 09:00"), Minutes: 60})
	assert.Equal(t, []any{7, 8, true}, []any{left, of, joins})

	in := lesson(t, 4)
	morning := func(in opentimes.Input) (out []string) {
		for _, s := range opentimes.Search(in, span.Span{Start: utc("2026-05-07 08:00"), End: utc("2026-05-07 11:00")}) {
			out = append(out, s.At.Time().In(in.Host.Hours.Zone).Format("15:04"))
		}
		return out
	}
	assert.Equal(t, []string{"10:00"}, morning(in), "its neighbours stay closed")
	says := func(in opentimes.Input, at string) []string {
		var out []string
		for _, r := range opentimes.Explain(in, opentimes.Start{At: utc(at), Minutes: 60}).Reasons {
			if r.Rule == opentimes.SeatsRule || !r.Holds {
				out = append(out, told.Sentences(r.Say(in, opentimes.ToHost))...)
			}
		}
		return out
	}
	assert.Equal(t, []string{"1 seat is left of 5."}, says(in, "2026-05-07 09:00"))
	assert.Equal(t, []string{"Another booking is in the way, 10:00–11:00, or its buffers.", "Up to 5 clients share a time; nobody has booked this one yet."}, says(in, "2026-05-07 09:15"))
	assert.Empty(t, morning(lesson(t, 5)))
	assert.Equal(t, []string{"It is full: 5 of 5 seats are taken."}, says(lesson(t, 5), "2026-05-07 09:00"))
	assert.Equal(t, []string{"2 seats are left of 5."}, says(lesson(t, 3), "2026-05-07 09:00"))

	// Off the grid, on a day with no more meetings: whoever joins adds none.
	in = lesson(t, 2)
	in.Host.Bookings[0].Meeting = span.Span{Start: utc("2026-05-07 09:07"), End: utc("2026-05-07 10:07")}
	in.Type.Limits = []opentimes.Limit{{Of: opentimes.OfHost, Per: opentimes.PerDay, Count: 1}}
	assert.Equal(t, []string{"10:07"}, morning(in))
	// Another type's, another length's, and those of a type whose clients share no more, are in the way.
	for _, change := range []func(*opentimes.Input){
		func(in *opentimes.Input) { in.Host.Bookings[0].Type = "call" },
		func(in *opentimes.Input) { in.Type.Durations = []int{30} },
		func(in *opentimes.Input) { in.Type.Seats = 1 },
	} {
		other := lesson(t, 2)
		change(&other)
		assert.NotContains(t, morning(other), "10:00")
	}
}

func TestAPoolIsFilledUpBeforeAnotherHostBegins(t *testing.T) {
	in := lesson(t, 4)
	busy, idle := in.Host, in.Host
	idle.Bookings = nil
	offer := func(pool opentimes.Pool) opentimes.Offer {
		for _, o := range opentimes.SearchPool(in, pool, span.Span{Start: utc("2026-05-07 09:00"), End: utc("2026-05-07 09:01")}) {
			return o
		}
		return opentimes.Offer{}
	}
	pool := opentimes.Pool{Hosts: []opentimes.Host{idle, busy}}
	left, of, hosts := opentimes.PoolSeatsLeft(in, pool)(offer(pool))
	assert.Equal(t, []any{1, 5, []int{1}}, []any{left, of, hosts})
	pool.Hosts[1] = lesson(t, 5).Host
	left, of, hosts = opentimes.PoolSeatsLeft(in, pool)(offer(pool))
	assert.Equal(t, []any{5, 5, []int{0}}, []any{left, of, hosts}, "a full one leaves the others")
	pool = opentimes.Pool{Hosts: []opentimes.Host{busy, lesson(t, 2).Host}, Together: true}
	left, _, _ = opentimes.PoolSeatsLeft(in, pool)(offer(pool))
	assert.Equal(t, 1, left)
}
