package opentimes_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/civil"
	"corrim/core/hours"
	"corrim/core/opentimes"
	"corrim/core/span"
	"corrim/core/told"
)

// spoken is Ines in Lisbon on Monday 4 May 2026, 9:00, open 9-12 and 13-17 every day.
func spoken(t *testing.T) opentimes.Input {
	t.Helper()
	lisbon, err := civil.LoadZone("Europe/Lisbon")
	require.NoError(t, err)
	day, err := hours.ParseDay("9-12, 13-17")
	require.NoError(t, err)
	plan := hours.Plan{Zone: lisbon}
	for i := range plan.Week {
		plan.Week[i] = day
	}
	return opentimes.Input{
		Now: utc("2026-05-04 08:00"), FirstWeekday: time.Monday,
		Type: opentimes.Type{
			Name: "survey", Durations: []int{50}, After: 10, Step: 15, Notice: opentimes.Notice{Minutes: 24 * 60},
			Window: opentimes.Window{Kind: opentimes.NextDays, Days: 10}, Limits: []opentimes.Limit{{Of: opentimes.OfType, Per: opentimes.PerDay, Count: 1}},
		},
		Host: opentimes.Host{
			Hours: plan,
			Busy:  opentimes.NewAgenda([]opentimes.Stretch{{Span: span.Span{Start: utc("2026-05-06 14:00"), End: utc("2026-05-06 15:00")}, Calendar: "Work", Title: "Depot"}}),
			Bookings: []opentimes.Booking{
				{ID: "1", Type: "survey", Meeting: span.Span{Start: utc("2026-05-07 09:00"), End: utc("2026-05-07 09:50")}, After: 10},
			},
		},
	}
}

// utc is a UTC time, an hour behind Lisbon's summer time.
func utc(text string) span.Instant {
	t, err := time.Parse("2006-01-02 15:04", text)
	if err != nil {
		panic(err)
	}
	return span.At(t)
}

// failing lists the sentences of the rules that refuse a start.
func failing(in opentimes.Input, start string, by opentimes.Reader) (out []string) {
	for _, r := range opentimes.Explain(in, opentimes.Start{At: utc(start), Minutes: 50}).Reasons {
		if !r.Holds {
			out = append(out, told.Sentences(r.Say(in, by))...)
		}
	}
	return out
}

func TestEveryRuleSaysWhyNotOnTheHostsClock(t *testing.T) {
	in := spoken(t)
	assert.Equal(t, []string{"Too soon: the notice allows starts from Tue 5 May, 09:00 on."}, failing(in, "2026-05-04 12:00", opentimes.ToHost))
	assert.Equal(t, []string{"Outside the booking window, Mon 4 May 2026 to Thu 14 May 2026."}, failing(in, "2026-05-20 12:00", opentimes.ToHost))
	assert.Equal(t, []string{"Outside the open hours: closed 12:00–13:00.", "Not a start every 15 minutes on the clock; the next is 11:45."}, failing(in, "2026-05-06 10:35", opentimes.ToHost))
	assert.Equal(t, []string{"Outside the open hours: closed Wed 6 May, 17:00 to Thu 7 May, 09:00."}, failing(in, "2026-05-06 20:00", opentimes.ToHost))
	assert.Equal(t, []string{"“Depot” (Work) 15:00–16:00."}, failing(in, "2026-05-06 14:15", opentimes.ToHost))
	assert.Equal(t, []string{"Busy 15:00–16:00."}, failing(in, "2026-05-06 14:15", opentimes.Reader{}), "titles and the names of calendars are private")
	assert.Equal(t, []string{"Busy 16:00–17:00."}, failing(in, "2026-05-06 14:15", opentimes.Reader{Zone: time.FixedZone("an hour east", 2*3600)}), "on the reader's clock")
	assert.Equal(t, []string{"Another booking is in the way, 10:00–10:50, or its buffers.", "A limit is reached: 1 of 1 bookings of this type on that day, Thu 7 May 2026."}, failing(in, "2026-05-07 09:30", opentimes.ToHost))

	day := civil.Date{Year: 2026, Month: 5, Day: 8}
	in.Type.Holidays = opentimes.Holidays{Calendars: 1, Days: []opentimes.Holiday{{First: day, Last: day, Name: "Lamp Day"}}}
	assert.Equal(t, []string{"On a public holiday: Lamp Day, Fri 8 May 2026."}, failing(in, "2026-05-08 12:00", opentimes.Reader{}), "its name is no secret")
	in.Type.Holidays = opentimes.Holidays{}
	in.Type.Limits = []opentimes.Limit{{Of: opentimes.OfHost, Per: opentimes.PerWeek, ByTime: true, Minutes: 60}}
	assert.Equal(t, []string{"A limit is reached: 50 of 60 minutes of bookings of this host are taken on that week from Mon 4 May 2026."}, failing(in, "2026-05-08 12:00", opentimes.ToHost))
	in.Type.Limits, in.Type.Grid, in.Type.Step = nil, opentimes.FromOpening, 120
	assert.Equal(t, []string{"Not a start every 120 minutes from the opening; the next is 11:00."}, failing(in, "2026-05-08 09:00", opentimes.ToHost))
	in.Type.Grid = opentimes.Packed
	assert.Equal(t, []string{
		"Outside the open hours: closed Fri 8 May, 17:00 to Sat 9 May, 09:00.",
		"Not a start every 120 minutes, packed so that no useless gap is left; the next is Sat 9 May, 09:00.",
	}, failing(in, "2026-05-08 15:30", opentimes.ToHost))
}

func TestEveryRuleSaysWhatHolds(t *testing.T) {
	in := spoken(t)
	var said []string
	for _, r := range opentimes.Explain(in, opentimes.Start{At: utc("2026-05-06 08:00"), Minutes: 50}).Reasons {
		require.True(t, r.Holds, r.Rule)
		said = append(said, told.Sentences(r.Say(in, opentimes.ToHost))...)
	}
	assert.Equal(t, []string{
		"Inside the booking window, which ends with Thu 14 May 2026.", "Not sooner than the notice allows: Tue 5 May, 09:00.", "Within the open hours.", "Public holidays are not kept free.",
		"Nothing in the calendars is in the way.", "No other booking is in the way.", "No limit would be exceeded.", "A start every 15 minutes on the clock.",
	}, said)
}

func TestRulesAreNamedWithHowTheyAreSet(t *testing.T) {
	in := spoken(t)
	notes := func() (out []string) {
		for _, layer := range opentimes.Layers(in, span.Span{Start: in.Now, End: in.Now + 3600}, 50) {
			out = append(out, layer.Rule.Title().Sentence+": "+layer.Rule.Note(in.Type).Sentence)
		}
		return out
	}
	assert.Equal(t, []string{
		"Booking window: 10 days", "Notice: 24 hours", "Hours: the host's", "Public holidays: none kept free", "Busy: the host's calendars", "Bookings: 0 min before, 10 after kept",
		"Limits: 1 a day", "Start step: every 15 min",
	}, notes())
	in.Type.Window = opentimes.Window{Kind: opentimes.Dates, First: civil.Date{Year: 2026, Month: 5, Day: 4}, Last: civil.Date{Year: 2026, Month: 6, Day: 4}}
	in.Type.Notice, in.Type.Grid, in.Type.Hours = opentimes.Notice{Days: 2}, opentimes.Packed, &in.Host.Hours
	in.Type.Limits = []opentimes.Limit{{Of: opentimes.OfHost, Per: opentimes.PerWeek, ByTime: true, Minutes: 300}, {Count: 2}}
	in.Type.Holidays.Calendars = 2
	assert.Equal(t, []string{
		"Booking window: 2026-05-04 to 2026-06-04", "Notice: 2 whole days", "Hours: the host's and the type's own", "Public holidays: those of 2 calendars", "Busy: the host's calendars",
		"Bookings: 0 min before, 10 after kept", "Limits: 300 min a week in all, 2 a day", "Start step: every 15 min, packed",
	}, notes())
	in.Type.Window, in.Type.Notice = opentimes.Window{}, opentimes.Notice{Minutes: 45}
	assert.Equal(t, []string{"Booking window: without end", "Notice: 45 minutes"}, notes()[:2])
}
