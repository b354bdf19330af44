package app_test

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/hours"
	"corrim/core/opentimes"
	"corrim/core/scenario"
	"corrim/core/told"
	"corrim/internal/app"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/store/sqlc"
	"corrim/internal/testhouse"
)

func TestSigningIn(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	person, _, err := h.App.Identity.SignIn(ctx, " INES@quillmere.example ", "a lamp in the hall", identity.Whence{})
	require.NoError(t, err)
	assert.Equal(t, "Ines Valadares", person.Name)
	for mail, password := range map[string]string{"ines@quillmere.example": "a lamp", "nobody@quillmere.example": "a lamp in the hall"} {
		_, _, err := h.App.Identity.SignIn(ctx, mail, password, identity.Whence{})
		assert.Contains(t, refused(t, err, refusal.NotSignedIn).Sentence, "don't belong together", "the same sentence, whoever exists")
	}
	people, err := h.App.DemoPeople(ctx)
	require.NoError(t, err)
	assert.Empty(t, people, "only a demo offers its people")
}

func TestHoursAreTypedDrawnAndSaved(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	var week [7]settings.DayInput
	week[0] = settings.DayInput{Text: "9-12, 1-5pm"}
	week[1] = settings.DayInput{Drawn: true, Intervals: []hours.Interval{{Start: 600, End: 780}, {Start: 780, End: 795}}}
	week[2] = settings.DayInput{Text: "9-"}
	week[3] = settings.DayInput{Drawn: true, Intervals: []hours.Interval{{Start: 600, End: 600}}}
	view, err := h.App.PreviewHours(ctx, h.Host, settings.WeekInput{Week: week})
	require.NoError(t, err)
	assert.Equal(t, []hours.Interval{{Start: 540, End: 720}, {Start: 780, End: 1020}}, view.Week[0].Intervals)
	assert.Equal(t, "9-12, 1-5pm", view.Week[0].Text, "what is being typed is not changed under the fingers")
	assert.Equal(t, "10-13:15", view.Week[1].Text)
	assert.Empty(t, view.Next, "nothing is foretold from hours that can't be read")

	_, err = h.App.SaveHours(ctx, h.Host, settings.WeekInput{Week: week})
	wrong := refused(t, err, refusal.Invalid)
	assert.Equal(t, "“9-”: an end is missing", wrong.Fields["week.2"].Sentence)
	assert.NotEmpty(t, wrong.Fields["week.3"])
	assert.Contains(t, h.Open("2026-05-08"), "09:00", "nothing was changed")

	week[2], week[3] = settings.DayInput{Text: "closed"}, settings.DayInput{Text: "22-2"}
	tried, err := h.App.PreviewHours(ctx, h.Host, settings.WeekInput{Week: week})
	require.NoError(t, err)
	require.Len(t, tried.Effects, 1)
	assert.Positive(t, tried.Effects[0].Gained, "Thursday nights")
	assert.Positive(t, tried.Effects[0].Lost, "Wednesdays, Fridays")
	assert.Contains(t, h.Open("2026-05-06"), "10:00", "nothing is saved yet")
	view, err = h.App.SaveHours(ctx, h.Host, settings.WeekInput{Week: week})
	require.NoError(t, err)
	assert.Equal(t, "9-12, 13-17", view.Week[0].Text)
	assert.Len(t, view.Next, 14)
	assert.Equal(t, "2026-05-04", view.Next[0].Date)
	assert.Equal(t, []schedule.Mark{{From: 1320, To: 1440}}, view.Next[3].Open)
	assert.Equal(t, []schedule.Mark{{From: 0, To: 120}}, view.Next[4].Open, "past midnight it is the next day's")
	assert.Empty(t, h.Open("2026-05-06"))
	assert.Contains(t, h.Open("2026-05-05"), "10:00")
}

func TestDaysThatDifferFromTheWeek(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	reading := h.App.ReadDayChanges(h.Host, "5 May 10-11, 6 May closed")
	assert.Equal(t, []schedule.DayChange{{First: "2026-05-05", Last: "2026-05-05", Kind: "instead", Hours: "10-11"}, {First: "2026-05-06", Last: "2026-05-06", Kind: "closed"}}, reading.Changes)
	assert.NotEmpty(t, h.App.ReadDayChanges(h.Host, "5 May 10-").Problem.Sentence)

	view, err := h.App.AddDayChanges(ctx, h.Host, "5 May 10-11, 6 May closed, 9 May extra 10-11, 7 to 8 May off")
	require.NoError(t, err)
	require.Len(t, view.Differs, 4)
	var origins []string
	for _, day := range view.Next[:6] {
		origins = append(origins, day.Origin.Sentence)
	}
	assert.Equal(t, []string{"plan", "other hours", "closed this day", "time off", "time off", "extra hours"}, origins)
	assert.Equal(t, []string{"10:00", "10:10"}, h.Open("2026-05-05"), "clients see it at once")
	for _, closed := range []string{"2026-05-06", "2026-05-07", "2026-05-08", "2026-05-10"} {
		assert.Empty(t, h.Open(closed), closed)
	}
	assert.NotEmpty(t, h.Open("2026-05-09"))

	_, err = h.App.AddDayChanges(ctx, h.Host, "31 June closed")
	assert.Contains(t, refused(t, err, refusal.Invalid).Fields["text"].Sentence, "no 31 June")
	ids, err := h.App.AddWorkspace(ctx, "elsewhere", "Elsewhere", app.NewPerson{Name: "S", Mail: "s@else.example", Password: "a lamp in the hall", Zone: "UTC"})
	require.NoError(t, err)
	stranger, err := h.App.Person(ctx, ids[0])
	require.NoError(t, err)
	_, err = h.App.RemoveDayChange(ctx, stranger, view.Differs[0].ID, "")
	refused(t, err, refusal.NotFound)
	view, err = h.App.RemoveDayChange(ctx, h.Host, view.Differs[1].ID, "")
	require.NoError(t, err)
	assert.Len(t, view.Differs, 3)
	assert.NotEmpty(t, h.Open("2026-05-06"))
}

func TestMeetingTypesAreCheckedAndSaved(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	draft := testhouse.Survey
	draft.Name, draft.Slug = " Light talk ", "Light-Talk"
	saved, err := h.App.SaveMeetingType(ctx, h.Host, 0, draft, settings.Saving{})
	require.NoError(t, err)
	assert.Equal(t, "/p/quillmere/light-talk", saved.Path, "short addresses are lower case")
	assert.Equal(t, "Light talk", saved.Name)
	page, err := h.App.Page(ctx, "quillmere", "light-talk", false)
	require.NoError(t, err)
	assert.Equal(t, "Ines Valadares", page.Host)

	draft.Slug, draft.Name = "survey", strings.Repeat("x", 121)
	draft.Rules = schedule.TypeRules{BookingRules: opentimes.PlainRules(1441, 0, -1, 731)}
	draft.Rules.Before = -1
	_, err = h.App.SaveMeetingType(ctx, h.Host, saved.ID, draft, settings.Saving{})
	fields := refused(t, err, refusal.Invalid).Fields
	for _, field := range []string{"slug", "name", "rules.duration", "rules.before", "rules.after", "rules.step", "rules.notice", "rules.windowDays"} {
		assert.NotEmpty(t, fields[field], field)
	}
	types, err := h.App.MeetingTypes(ctx, h.Host, settings.TypeFilter{})
	require.NoError(t, err)
	assert.Len(t, types, 2)
	assert.Equal(t, testhouse.Survey.Rules, types[1].Rules, "nothing was changed")

	_, err = h.App.SaveMeetingType(ctx, h.Colleague, saved.ID, testhouse.Survey, settings.Saving{})
	refused(t, err, refusal.NotFound)
}

func TestAPreviewShowsWhatAnUnsavedChangeDoes(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	book(t, h, "2026-05-05 10:00")
	require.NoError(t, h.Calendars.AddEvent("ines", 0, "Depot", h.At("2026-05-06 15:00"), h.At("2026-05-06 16:00")))
	h.Connect()
	preview := func(change func(*schedule.TypeRules)) settings.TypePreview {
		draft := h.Type.TypeDraft
		change(&draft.Rules)
		view, err := h.App.PreviewMeetingType(ctx, h.Host, h.Type.ID, draft, 0)
		require.NoError(t, err)
		return view
	}
	same := preview(func(*schedule.TypeRules) {})
	assert.Zero(t, same.Gained+same.Lost)
	assert.Equal(t, len(h.Open("2026-05-06")), len(same.Days[2].Kept), "the preview is what clients see")
	assert.Equal(t, "Harbour Maritime", same.Days[1].Bookings[0].Label)
	assert.Equal(t, []schedule.BusyMark{{Mark: schedule.Mark{From: 900, To: 960, Label: "Depot"}, Calendar: "Work", Pattern: "rising", Tone: "ink"}}, same.Days[2].Busy)
	assert.Equal(t, []schedule.Mark{{From: 0, To: 600}}, same.Days[0].TooSoon, "an hour's notice, at nine")

	coarser := preview(func(r *schedule.TypeRules) { r.Step, r.Notice = 60, 0 })
	assert.Positive(t, coarser.Lost)
	assert.Equal(t, []int{540}, coarser.Days[0].Gained, "9:00 today, without notice")
	assert.Equal(t, coarser.Open, same.Open-coarser.Lost+coarser.Gained)
	unusable := preview(func(r *schedule.TypeRules) { r.Step = 0 })
	assert.NotEmpty(t, unusable.Wrong["rules.step"].Sentence)
	assert.Empty(t, unusable.Days)
}

func TestADayWithoutOpenTimesSaysWhenTheNextIs(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	open, err := h.App.OpenTimes(ctx, "quillmere", "survey", schedule.TimesWanted{From: h.At("2026-05-09 00:00"), To: h.At("2026-05-11 00:00")})
	require.NoError(t, err)
	assert.Empty(t, open.Starts)
	require.NotNil(t, open.Next)
	assert.True(t, h.At("2026-05-11 09:00").Equal(*open.Next))
	_, err = h.App.OpenTimes(ctx, "quillmere", "survey", schedule.TimesWanted{From: h.At("2026-05-09 00:00"), To: h.At("2027-05-09 00:00")})
	refused(t, err, refusal.Invalid)
}

func TestHindsightNamesTheBookingsThatCouldNotHaveBeenMade(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	book(t, h, "2026-05-05 10:00")
	book(t, h, "2026-05-05 11:00")
	book(t, h, "2026-05-07 09:10")
	h.Pass(7 * 24 * time.Hour)
	preview := func(change func(*schedule.TypeRules)) settings.TypePreview {
		draft := h.Type.TypeDraft
		change(&draft.Rules)
		view, err := h.App.PreviewMeetingType(ctx, h.Host, h.Type.ID, draft, 0)
		require.NoError(t, err)
		return view
	}
	same := preview(func(*schedule.TypeRules) {})
	assert.Equal(t, 3, same.Past)
	assert.Empty(t, same.Unmade)
	hourly := preview(func(r *schedule.TypeRules) { r.Step = 60 })
	require.Len(t, hourly.Unmade, 1)
	assert.True(t, h.At("2026-05-07 09:10").Equal(hourly.Unmade[0].Start))
	assert.Contains(t, hourly.Unmade[0].Reasons[0].Sentence, "Not a start every 60 minutes on the clock")
	one := preview(func(r *schedule.TypeRules) { r.Limits = []opentimes.TypeLimit{{Of: "type", Per: "day", Count: 1}} })
	require.Len(t, one.Unmade, 1)
	assert.True(t, h.At("2026-05-05 11:00").Equal(one.Unmade[0].Start), "the first of the day was still possible")
	early := preview(func(r *schedule.TypeRules) { r.Notice = 48 * 60 })
	assert.Len(t, early.Unmade, 2, "each is held against the moment it was made")
	never := preview(func(r *schedule.TypeRules) { r.Notice, r.WindowDays = 90*24*60, 10 })
	assert.Equal(t, "Notice", never.Why.Sentence)
}

func TestReasonsOpenADayRuleByRule(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	book(t, h, "2026-05-05 10:00")
	require.NoError(t, h.Calendars.AddEvent("ines", 0, "Depot", h.At("2026-05-05 15:00"), h.At("2026-05-05 16:00")))
	h.Connect()
	r, err := h.App.Reasons(ctx, h.Host, h.Type.ID, "2026-05-05", 14*60+35, 0, 0)
	require.NoError(t, err)
	assert.False(t, r.At.Open)
	var failing []string
	for _, says := range r.At.Rules {
		if !says.Holds {
			failing = append(failing, says.Name.Sentence+": "+strings.Join(told.Sentences(says.Sentences), " "))
		}
	}
	assert.Equal(t, []string{"Busy: “Depot” (Work) 15:00–16:00.", "Start step: Not a start every 10 minutes on the clock; the next is 14:40."}, failing)
	require.Len(t, r.At.Nearest, 2)
	assert.True(t, h.At("2026-05-05 14:00").Equal(r.At.Nearest[1]), "the last that ends, with its buffer, before the depot")
	assert.Len(t, r.Layers, 8)
	assert.Equal(t, []schedule.Mark{{From: 900, To: 960, Label: "Depot"}}, r.Layers[4].Causes)
	assert.Len(t, r.Ribbon.Kept, len(h.Open("2026-05-05")), "the last line is what clients see")

	open, err := h.App.Reasons(ctx, h.Host, h.Type.ID, "2026-05-05", 14*60, 0, 0)
	require.NoError(t, err)
	assert.True(t, open.At.Open)
	_, err = h.App.Reasons(ctx, h.Host, h.Type.ID, "tomorrow", 0, 0, 0)
	refused(t, err, refusal.Invalid)

	text, err := h.App.Scenario(ctx, h.Host, h.Type.ID, "2026-05-05")
	require.NoError(t, err)
	assert.NotContains(t, string(text), "Depot")
	assert.NotContains(t, string(text), "Harbour")
	s, err := scenario.Read(text, nil)
	require.NoError(t, err)
	var tuesday []string
	for _, start := range s.Answer().Starts {
		if strings.HasPrefix(start.Start, "2026-05-05") {
			tuesday = append(tuesday, start.Start)
		}
	}
	assert.Len(t, tuesday, len(h.Open("2026-05-05")), "the command line finds the same open times")
}

func TestEveryTimingRuleReachesTheClient(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	save := func(change func(*schedule.TypeRules)) {
		draft := h.Type.TypeDraft
		change(&draft.Rules)
		_, err := h.App.SaveMeetingType(ctx, h.Host, h.Type.ID, draft, settings.Saving{})
		require.NoError(t, err)
	}
	save(func(r *schedule.TypeRules) { r.Grid, r.Step = "opening", 60 })
	assert.Equal(t, []string{"09:00", "10:00", "11:00", "13:00", "14:00", "15:00", "16:00"}, h.Open("2026-05-05"))
	save(func(r *schedule.TypeRules) { r.Step, r.Offset, r.BuffersInside = 60, 10, true })
	assert.Equal(t, []string{"09:10", "10:10", "13:10", "14:10", "15:10"}, h.Open("2026-05-05"), "11:10 would need until 12:10")
	save(func(r *schedule.TypeRules) { r.Step, r.WindowFirst, r.WindowLast = 60, "2026-05-06", "2026-05-07" })
	assert.Empty(t, h.Open("2026-05-05"))
	assert.NotEmpty(t, h.Open("2026-05-06"))
	save(func(r *schedule.TypeRules) {
		r.Step, r.Limits = 60, []opentimes.TypeLimit{{Of: "host", Per: "week", Minutes: 60}}
	})
	book(t, h, "2026-05-05 10:00")
	assert.Empty(t, h.Open("2026-05-08"), "an hour a week, and 50 minutes are taken")
	assert.NotEmpty(t, h.Open("2026-05-11"))
	rules := schedule.TypeRules{Duration: 10, BookingRules: opentimes.PlainRules(0, 10, 0, 0)}
	rules.WindowFirst, rules.Limits = "2026-05-06", []opentimes.TypeLimit{{Of: "type", Per: "day"}}
	_, err := h.App.SaveMeetingType(ctx, h.Host, h.Type.ID, schedule.TypeDraft{Name: "x", Slug: "survey", Rules: rules}, settings.Saving{})
	fields := refused(t, err, refusal.Invalid).Fields
	assert.NotEmpty(t, fields["rules.windowFirst"])
	assert.NotEmpty(t, fields["rules.limits.0"])
}

func TestChangesAreRememberedAndUndone(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	_, err := h.App.Undo(ctx, h.Host)
	refused(t, err, refusal.NotFound)

	var week [7]settings.DayInput
	for i := range week {
		week[i].Text = "10-11"
	}
	_, err = h.App.SaveHours(ctx, h.Host, settings.WeekInput{Week: week})
	require.NoError(t, err)
	h.Host, err = h.App.Person(ctx, h.Host.ID)
	require.NoError(t, err)
	_, err = h.App.AddDayChanges(ctx, h.Host, "5 May closed")
	require.NoError(t, err)
	draft := h.Type.TypeDraft
	draft.Slug, draft.Rules.After, draft.Rules.Limits = "light", 30, []opentimes.TypeLimit{{Of: "type", Per: "day", Count: 2}}
	_, err = h.App.SaveMeetingType(ctx, h.Host, h.Type.ID, draft, settings.Saving{})
	require.NoError(t, err)

	history, err := h.App.History(ctx, h.Host)
	require.NoError(t, err)
	require.Len(t, history, 3)
	assert.Equal(t, "Survey: buffers 0 min before, 10 after kept → 0 min before, 30 after kept, limit none → 2 a day, short address survey → light", history[0].Label.Sentence)
	assert.Equal(t, "Exceptions: added 5 May closed", history[1].Label.Sentence)
	assert.Contains(t, history[2].Label.Sentence, "Hours: Monday 10-11; Tuesday 10-11")

	_, err = h.App.Undo(ctx, h.Host)
	require.NoError(t, err)
	assert.Empty(t, h.Open("2026-05-05"), "the type has its address again; the day is still closed")
	_, err = h.App.Undo(ctx, h.Host)
	require.NoError(t, err)
	assert.Equal(t, []string{"10:00", "10:10"}, h.Open("2026-05-05"))
	history, err = h.App.Undo(ctx, h.Host)
	require.NoError(t, err)
	assert.Contains(t, h.Open("2026-05-05"), "14:00")
	assert.True(t, history[0].Undone && history[2].Undone)
	_, err = h.App.Undo(ctx, h.Host)
	refused(t, err, refusal.NotFound)
}

// The editor's consequence for eight weeks of one host with 300 events and 100 bookings; wanted are 50 ms.
func BenchmarkTheEditorsConsequence(b *testing.B) {
	h := testhouse.New(b)
	for i := range 300 {
		at := h.Now().Add(time.Duration(i) * 5 * time.Hour)
		require.NoError(b, h.Calendars.AddEvent("ines", 0, "Event", at, at.Add(time.Hour)))
	}
	h.Connect()
	h.Run()
	free, err := h.App.OpenTimes(ctx, "quillmere", "survey", schedule.TimesWanted{From: h.Now(), To: h.Now().AddDate(0, 0, 56)})
	require.NoError(b, err)
	for i, start := range free.Starts {
		if i%7 == 0 && i < 700 {
			request := h.Request("2026-05-05 10:00")
			request.Start = start
			_, err := h.App.Book(ctx, "quillmere", "survey", "key for "+start.String(), request)
			require.NoError(b, err)
		}
	}
	draft := h.Type.TypeDraft
	draft.Rules.Step, draft.Rules.Limits = 15, []opentimes.TypeLimit{{Of: "type", Per: "day", Count: 3}}
	for b.Loop() {
		view, err := h.App.PreviewMeetingType(ctx, h.Host, h.Type.ID, draft, 0)
		require.NoError(b, err)
		require.NotZero(b, view.Open)
	}
}

func TestOfManyTypesTheOwnComeFirstAndASearchFindsTheOthers(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	require.NoError(t, h.App.Store.Write(ctx, func(q *sqlc.Queries) error {
		for i := range 120 {
			slug := fmt.Sprintf("call-%d", i)
			if _, err := q.AddMeetingType(ctx, sqlc.AddMeetingTypeParams{WorkspaceID: 1, HostID: h.Colleague.ID, Slug: slug, Name: fmt.Sprintf("Call %03d", i), Rules: `{"duration":30,"step":30}`}); err != nil {
				return err
			}
		}
		return nil
	}))
	own, err := h.App.SaveMeetingType(ctx, h.Host, 0, schedule.TypeDraft{Name: "Made last", Slug: "made-last", Rules: h.Type.Rules}, settings.Saving{})
	require.NoError(t, err)
	types, err := h.App.MeetingTypes(ctx, h.Host, settings.TypeFilter{All: true})
	require.NoError(t, err)
	require.Len(t, types, 100)
	assert.Equal(t, own.ID, types[99].ID, "in their order, and there although 120 come before")
	found, err := h.App.MeetingTypes(ctx, h.Host, settings.TypeFilter{All: true, Search: "  CALL 11"})
	require.NoError(t, err)
	assert.Len(t, found, 11, "Call 011, and Call 110 to Call 119")
	list, err := h.App.TypeList(ctx, h.Host, settings.TypeFilter{All: true, Host: h.Host.ID, Listing: "listed"})
	require.NoError(t, err)
	assert.Equal(t, []any{2, 122}, []any{len(list.Types), list.Known}, "those that she hosts herself, of all there are")
	found, err = h.App.MeetingTypes(ctx, h.Host, settings.TypeFilter{All: true, Search: "119 achterberg"})
	require.NoError(t, err)
	assert.Len(t, found, 1, "by words of its name and its host's")
}
