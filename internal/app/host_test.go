package app_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/hours"
	"corrim/internal/app"
	"corrim/internal/testhouse"
)

func TestSigningIn(t *testing.T) {
	h := testhouse.New(t)
	person, err := h.App.SignIn(ctx, " INES@quillmere.example ", "a lamp in the hall")
	require.NoError(t, err)
	assert.Equal(t, "Ines Valadares", person.Name)
	for mail, password := range map[string]string{"ines@quillmere.example": "a lamp", "nobody@quillmere.example": "a lamp in the hall"} {
		_, err := h.App.SignIn(ctx, mail, password)
		assert.Contains(t, refused(t, err, app.NotSignedIn).Sentence, "don't belong together", "the same sentence, whoever exists")
	}
	people, err := h.App.DemoPeople(ctx)
	require.NoError(t, err)
	assert.Empty(t, people, "only a demo offers its people")
}

func TestHoursAreTypedDrawnAndSaved(t *testing.T) {
	h := testhouse.New(t)
	var week [7]app.DayInput
	week[0] = app.DayInput{Text: "9-12, 1-5pm"}
	week[1] = app.DayInput{Drawn: true, Intervals: []hours.Interval{{Start: 600, End: 780}, {Start: 780, End: 795}}}
	week[2] = app.DayInput{Text: "9-"}
	week[3] = app.DayInput{Drawn: true, Intervals: []hours.Interval{{Start: 600, End: 600}}}
	view := h.App.PreviewHours(h.Host, week)
	assert.Equal(t, []hours.Interval{{Start: 540, End: 720}, {Start: 780, End: 1020}}, view.Week[0].Intervals)
	assert.Equal(t, "9-12, 1-5pm", view.Week[0].Text, "what is being typed is not changed under the fingers")
	assert.Equal(t, "10-13:15", view.Week[1].Text)
	assert.Empty(t, view.Next, "nothing is foretold from hours that can't be read")

	_, err := h.App.SaveHours(ctx, h.Host, week)
	wrong := refused(t, err, app.Invalid)
	assert.Equal(t, `"9-": an end is missing`, wrong.Fields["week.2"])
	assert.NotEmpty(t, wrong.Fields["week.3"])
	assert.Contains(t, h.Open("2026-05-08"), "09:00", "nothing was changed")

	week[2], week[3] = app.DayInput{Text: "closed"}, app.DayInput{Text: "22-2"}
	view, err = h.App.SaveHours(ctx, h.Host, week)
	require.NoError(t, err)
	assert.Equal(t, "9-12, 13-17", view.Week[0].Text)
	assert.Len(t, view.Next, 14)
	assert.Equal(t, "2026-05-04", view.Next[0].Date)
	assert.Equal(t, []app.Mark{{From: 1320, To: 1440}}, view.Next[3].Open)
	assert.Equal(t, []app.Mark{{From: 0, To: 120}}, view.Next[4].Open, "past midnight it is the next day's")
	assert.Empty(t, h.Open("2026-05-06"))
	assert.Contains(t, h.Open("2026-05-05"), "10:00")
}

func TestMeetingTypesAreCheckedAndSaved(t *testing.T) {
	h := testhouse.New(t)
	draft := testhouse.Survey
	draft.Name, draft.Slug = " Light talk ", "Light-Talk"
	saved, err := h.App.SaveMeetingType(ctx, h.Host, 0, draft)
	require.NoError(t, err)
	assert.Equal(t, "/p/quillmere/light-talk", saved.Path, "short addresses are lower case")
	assert.Equal(t, "Light talk", saved.Name)
	page, err := h.App.Page(ctx, "quillmere", "light-talk")
	require.NoError(t, err)
	assert.Equal(t, "Ines Valadares", page.Host)

	draft.Slug, draft.Name = "survey", strings.Repeat("x", 121)
	draft.Rules = app.TypeRules{Duration: 0, Before: -1, After: 1441, Step: 0, Notice: -1, WindowDays: 731}
	_, err = h.App.SaveMeetingType(ctx, h.Host, saved.ID, draft)
	fields := refused(t, err, app.Invalid).Fields
	for _, field := range []string{"slug", "name", "rules.duration", "rules.before", "rules.after", "rules.step", "rules.notice", "rules.windowDays"} {
		assert.NotEmpty(t, fields[field], field)
	}
	types, err := h.App.MeetingTypes(ctx, h.Host)
	require.NoError(t, err)
	assert.Len(t, types, 2)
	assert.Equal(t, testhouse.Survey.Rules, types[1].Rules, "nothing was changed")

	stranger := h.Host
	stranger.ID = 99
	_, err = h.App.SaveMeetingType(ctx, stranger, saved.ID, testhouse.Survey)
	refused(t, err, app.NotFound)
}

func TestAPreviewShowsWhatAnUnsavedChangeDoes(t *testing.T) {
	h := testhouse.New(t)
	h.Run()
	book(t, h, "2026-05-05 10:00")
	require.NoError(t, h.Calendars.AddEvent("ines", 0, "Depot", h.At("2026-05-06 15:00"), h.At("2026-05-06 16:00")))
	h.Connect()
	preview := func(change func(*app.TypeRules)) app.TypePreview {
		draft := h.Type.TypeDraft
		change(&draft.Rules)
		view, err := h.App.PreviewMeetingType(ctx, h.Host, h.Type.ID, draft)
		require.NoError(t, err)
		return view
	}
	same := preview(func(*app.TypeRules) {})
	assert.Zero(t, same.Gained+same.Lost)
	assert.Equal(t, len(h.Open("2026-05-06")), len(same.Days[2].Kept), "the preview is what clients see")
	assert.Equal(t, "Harbour Maritime", same.Days[1].Bookings[0].Label)
	assert.Equal(t, []app.Mark{{From: 900, To: 960, Label: "Depot"}}, same.Days[2].Busy)
	assert.Equal(t, []app.Mark{{From: 0, To: 600}}, same.Days[0].TooSoon, "an hour's notice, at nine")

	coarser := preview(func(r *app.TypeRules) { r.Step, r.Notice = 60, 0 })
	assert.Positive(t, coarser.Lost)
	assert.Equal(t, []int{540}, coarser.Days[0].Gained, "9:00 today, without notice")
	assert.Equal(t, coarser.Open, same.Open-coarser.Lost+coarser.Gained)
	unusable := preview(func(r *app.TypeRules) { r.Step = 0 })
	assert.NotEmpty(t, unusable.Wrong["rules.step"])
	assert.Empty(t, unusable.Days)
}

func TestADayWithoutOpenTimesSaysWhenTheNextIs(t *testing.T) {
	h := testhouse.New(t)
	open, err := h.App.OpenTimes(ctx, "quillmere", "survey", "", h.At("2026-05-09 00:00"), h.At("2026-05-11 00:00"))
	require.NoError(t, err)
	assert.Empty(t, open.Starts)
	require.NotNil(t, open.Next)
	assert.True(t, h.At("2026-05-11 09:00").Equal(*open.Next))
	_, err = h.App.OpenTimes(ctx, "quillmere", "survey", "", h.At("2026-05-09 00:00"), h.At("2027-05-09 00:00"))
	refused(t, err, app.Invalid)
}
