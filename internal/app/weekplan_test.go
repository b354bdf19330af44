package app_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/hours"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/testhouse"
)

func weekOf(texts ...string) (week [7]settings.DayInput) {
	for i, text := range texts {
		week[i].Text = text
	}
	return week
}

// again loads the host anew, as every request does.
func again(t *testing.T, h *testhouse.House) schedule.Person {
	t.Helper()
	p, err := h.App.Person(ctx, h.Host.ID)
	require.NoError(t, err)
	return p
}

func TestAWeekPlanIsSharedByPeopleAndTypes(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	view, err := h.App.AddWeekPlan(ctx, h.Host, " Short  week ", weekOf("10-12", "10-12", "10-12", "", "", "", ""))
	require.NoError(t, err)
	plan := view.Plan
	assert.NotZero(t, plan)
	assert.Equal(t, "9-12, 13-17", view.Own[0], "the own week is still there")
	assert.Contains(t, h.Open("2026-05-05"), "10:00")
	assert.NotContains(t, h.Open("2026-05-05"), "09:00")
	_, err = h.App.AddWeekPlan(ctx, h.Host, "short WEEK", weekOf("9-10"))
	assert.Contains(t, refused(t, err, refusal.Invalid).Fields["name"].Sentence, "Another week plan")

	maren := h.Colleague
	_, err = h.App.SaveHours(ctx, maren, settings.WeekInput{Plan: plan, Week: weekOf("10-12", "10-12", "10-12", "", "", "", "")})
	require.NoError(t, err)
	retype(t, h, func(r *schedule.TypeRules) { r.Hours = &schedule.OwnHours{Plan: plan} })
	plans, err := h.App.WeekPlans(ctx, maren)
	require.NoError(t, err)
	require.Len(t, plans, 1)
	assert.Equal(t, "Short week", plans[0].Name)
	assert.Equal(t, []string{"Ines Valadares", "Maren Achterberg", "“Survey”"}, plans[0].Users)

	// Maren, who looks after her colleagues, changes the plan: first she sees what it does to Ines, then it is so for Ines too.
	as(t, h, maren, identity.Coordinator)
	later := settings.WeekInput{Plan: plan, Week: weekOf("10-12", "14-16", "10-12", "", "", "", "")}
	if maren, err = h.App.Person(ctx, maren.ID); err != nil {
		t.Fatal(err)
	}
	tried, err := h.App.PreviewHours(ctx, maren, later)
	require.NoError(t, err)
	require.Len(t, tried.Effects, 1)
	assert.Equal(t, "Ines Valadares", tried.Effects[0].Host)
	assert.Positive(t, tried.Effects[0].Gained)
	assert.NotContains(t, h.Open("2026-05-05"), "14:00")
	_, err = h.App.SaveHours(ctx, maren, later)
	require.NoError(t, err)
	assert.Contains(t, h.Open("2026-05-05"), "14:00")

	_, err = h.App.RemoveWeekPlan(ctx, h.Host, plan)
	assert.Contains(t, refused(t, err, refusal.Invalid).Sentence, "still used by Ines Valadares, Maren Achterberg, “Survey”")
	_, err = h.App.Undo(ctx, maren)
	require.NoError(t, err)
	assert.NotContains(t, h.Open("2026-05-05"), "14:00", "the plan is as it was")
	_, err = h.App.Undo(ctx, maren)
	require.NoError(t, err)
	plans, err = h.App.WeekPlans(ctx, maren)
	require.NoError(t, err)
	assert.Len(t, plans[0].Users, 2, "and Maren has her own week again")
}

func TestAnUnusedPlanIsRenamedAndRemovedAndComesBack(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	view, err := h.App.AddWeekPlan(ctx, h.Host, "Summer", weekOf("8-12"))
	require.NoError(t, err)
	_, err = h.App.SaveHours(ctx, again(t, h), settings.WeekInput{Week: weekOf("9-17", "9-17")})
	require.NoError(t, err)
	plans, err := h.App.RenameWeekPlan(ctx, h.Host, view.Plan, "Summer weeks")
	require.NoError(t, err)
	assert.Equal(t, "Summer weeks", plans[0].Name)
	plans, err = h.App.RemoveWeekPlan(ctx, h.Host, view.Plan)
	require.NoError(t, err)
	assert.Empty(t, plans)
	_, err = h.App.Undo(ctx, h.Host)
	require.NoError(t, err)
	plans, err = h.App.WeekPlans(ctx, h.Host)
	require.NoError(t, err)
	require.Len(t, plans, 1)
	assert.Equal(t, "8-12", plans[0].Week[0])
}

func TestADayIsDrawnForItselfOrForWeekdays(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	_, err := h.App.AddDayChanges(ctx, h.Host, "4-8 May 10-12, 6 May extra 18-19")
	require.NoError(t, err)
	drawn := settings.DrawnDay{Date: "2026-05-06", Intervals: []hours.Interval{{Start: 540, End: 600}}}
	view, err := h.App.DrawDay(ctx, again(t, h), drawn)
	require.NoError(t, err)
	var origins, begun []string
	for _, day := range view.Next[:5] {
		origins = append(origins, day.Origin.Sentence)
		begun = append(begun, hours.Day(day.Begun).String())
	}
	assert.Equal(t, []string{"10-12", "10-12", "9-10", "10-12", "10-12"}, begun, "the rest of the series stays")
	assert.Equal(t, "other hours", origins[2])

	days, err := h.App.Days(again(t, h), "2026-05-08", 1)
	require.NoError(t, err)
	require.Len(t, days[0].Changes, 1)
	view, err = h.App.RemoveDayChange(ctx, again(t, h), days[0].Changes[0], "2026-05-08")
	require.NoError(t, err)
	assert.Equal(t, "plan", view.Next[4].Origin.Sentence, "one day of the series removed")
	assert.Equal(t, "other hours", view.Next[3].Origin.Sentence)
	_, err = h.App.RemoveDayChange(ctx, again(t, h), days[0].Changes[0], "2026-05-08")
	refused(t, err, refusal.NotFound)

	drawn.Weekdays = []int{1, 0}
	view, err = h.App.DrawDay(ctx, again(t, h), drawn)
	require.NoError(t, err)
	assert.Equal(t, "9-10", view.Week[0].Text)
	assert.Equal(t, "9-10", view.Week[6].Text)
	assert.Equal(t, "9-12, 13-17", view.Week[1].Text)
	drawn.Intervals, drawn.Weekdays = nil, nil
	view, err = h.App.DrawDay(ctx, again(t, h), drawn)
	require.NoError(t, err)
	assert.Equal(t, "closed this day", view.Next[2].Origin.Sentence)
}

func TestTimeOffByTheHourAndEveryYear(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	view, err := h.App.AddDayChanges(ctx, h.Host, "5 May off 10-12, 6 May off every year, 7 May 12:00 to 11 May 14:00 off")
	require.NoError(t, err)
	assert.Len(t, view.Differs, 5)
	assert.NotContains(t, h.Open("2026-05-05"), "10:00")
	assert.Contains(t, h.Open("2026-05-05"), "09:00")
	assert.Empty(t, h.Open("2026-05-06"))
	assert.NotContains(t, h.Open("2026-05-07"), "13:00")
	assert.Empty(t, h.Open("2026-05-08"))
	assert.Contains(t, h.Open("2026-05-11"), "14:00")
	assert.NotContains(t, h.Open("2026-05-11"), "13:00")
	days, err := h.App.Days(again(t, h), "2028-05-06", 1)
	require.NoError(t, err)
	assert.Equal(t, "time off", days[0].Origin.Sentence, "again two years on")
	_, err = h.App.DrawDay(ctx, again(t, h), settings.DrawnDay{Date: "2028-05-06"})
	assert.Contains(t, refused(t, err, refusal.Invalid).Sentence, "every year")
}

const holidays = `BEGIN:VCALENDAR
VERSION:2.0
BEGIN:VEVENT
UID:1
SUMMARY:Day of the Lamp
DTSTART;VALUE=DATE:20200505
TRANSP:TRANSPARENT
RRULE:FREQ=YEARLY
END:VEVENT
BEGIN:VEVENT
UID:2
SUMMARY:Museum night
DTSTART:20260506T200000Z
END:VEVENT
END:VCALENDAR
`

func TestPublicHolidaysComeFromAFile(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	reading, err := h.App.ReadHoursFile(h.Host, []byte(holidays))
	require.NoError(t, err)
	assert.Equal(t, "days-off", reading.Kind)
	require.Len(t, reading.Changes, 1, "what isn't a whole day is no day off")
	assert.Equal(t, schedule.DayChange{First: "2026-05-05", Last: "2026-05-05", Kind: "off", Yearly: true, Label: "Day of the Lamp"}, reading.Changes[0], "every year, as the file says")
	view, err := h.App.TakeHoursFile(ctx, h.Host, []byte(holidays))
	require.NoError(t, err)
	assert.Equal(t, "Day of the Lamp", view.Next[1].Origin.Sentence)
	assert.Empty(t, h.Open("2026-05-05"))
	reading, err = h.App.ReadHoursFile(again(t, h), []byte(holidays))
	require.NoError(t, err)
	assert.Empty(t, reading.Changes, "they are there already")

	_, err = h.App.ReadHoursFile(h.Host, []byte("<html>"))
	assert.Contains(t, refused(t, err, refusal.Invalid).Fields["file"].Sentence, "not an iCalendar file")
	_, err = h.App.ReadHoursFile(h.Host, []byte("BEGIN:VCALENDAR\nEND:VCALENDAR\n"))
	assert.Contains(t, refused(t, err, refusal.Invalid).Fields["file"].Sentence, "neither hours")
}

func TestHoursGoOutAndComeInAsAvailability(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	_, err := h.App.AddDayChanges(ctx, h.Host, "6 May 10-11, 25 Dec off every year")
	require.NoError(t, err)
	text, err := h.App.HoursFile(again(t, h))
	require.NoError(t, err)
	before := h.Open("2026-05-06")

	_, err = h.App.SaveHours(ctx, again(t, h), settings.WeekInput{Week: weekOf("1-2")})
	require.NoError(t, err)
	reading, err := h.App.ReadHoursFile(again(t, h), text)
	require.NoError(t, err)
	assert.Equal(t, "9-12, 13-17|9-12, 13-17|9-12, 13-17|9-12, 13-17|9-12, 13-17|closed|closed", strings.Join(reading.Week, "|"))
	view, err := h.App.TakeHoursFile(ctx, again(t, h), text)
	require.NoError(t, err)
	assert.Equal(t, "9-12, 13-17", view.Week[0].Text)
	assert.Equal(t, before, h.Open("2026-05-06"))
	assert.Contains(t, h.Open("2026-05-07"), "09:00")
}
