package app_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/told"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/testhouse"
)

// lamps is a calendar of public holidays: one every year on 6 May, free as such calendars say (TRANSP, RFC 5545, 3.8.2.7), and one of
// two days that is written from midnight to midnight.
const lamps = `BEGIN:VCALENDAR
VERSION:2.0
BEGIN:VEVENT
UID:lamp
DTSTART;VALUE=DATE:20200506
RRULE:FREQ=YEARLY
TRANSP:TRANSPARENT
SUMMARY:Lamp Day
END:VEVENT
BEGIN:VEVENT
UID:wick
DTSTART;TZID=Europe/Lisbon:20260514T000000
DTEND;TZID=Europe/Lisbon:20260516T000000
SUMMARY:Wick Days
END:VEVENT
BEGIN:VEVENT
UID:no day
DTSTART:20260507T090000Z
DTEND:20260507T100000Z
SUMMARY:An hour
END:VEVENT
END:VCALENDAR
`

func TestPublicHolidaysKeepTypesClosedThatHeedThem(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	view, err := h.App.AddHolidays(ctx, h.Host, settings.HolidayFile{Name: " Lampland ", Text: lamps})
	require.NoError(t, err)
	require.Len(t, view.Holidays, 1)
	calendar := view.Holidays[0]
	assert.Equal(t, "Lampland", calendar.Name)
	assert.Equal(t, schedule.HolidayDay{First: "2026-05-06", Last: "2026-05-06", Name: "Lamp Day"}, calendar.Next[0])
	assert.Equal(t, schedule.HolidayDay{First: "2026-05-14", Last: "2026-05-15", Name: "Wick Days"}, calendar.Next[1])
	assert.Equal(t, "2035-05-06", calendar.Until, "a yearly one is worked out for ten years")
	assert.NotEmpty(t, h.Open("2026-05-06"), "no rule says that it is kept free")

	h.Host = again(t, h)
	retype(t, h, func(r *schedule.TypeRules) { r.Holidays = []int64{calendar.ID} })
	assert.Empty(t, h.Open("2026-05-06"))
	assert.NotEmpty(t, h.Open("2026-05-07"), "an hour is no holiday")
	assert.Empty(t, h.Open("2026-05-15"))
	_, err = h.App.Book(ctx, "quillmere", "survey", "a key of its own", h.Request("2026-05-06 10:00"))
	assert.ErrorContains(t, err, "has just been taken")
	says, err := h.App.Reasons(ctx, h.Host, h.Type.ID, "2026-05-06", 600, 50, 0)
	require.NoError(t, err)
	said := ""
	for _, rule := range says.At.Rules {
		if !rule.Holds {
			said += strings.Join(told.Sentences(rule.Sentences), " ")
		}
	}
	assert.Equal(t, "On a public holiday: Lamp Day, Wed 6 May 2026.", said)
}

func TestTheWorkspacesPublicHolidaysAreFollowed(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	view, err := h.App.AddHolidays(ctx, h.Host, settings.HolidayFile{Name: "Lampland", Text: lamps})
	require.NoError(t, err)
	h.Host = again(t, h)
	retype(t, h, func(r *schedule.TypeRules) { r.Follows = []string{"holidays"} })
	id := view.Holidays[0].ID
	inWorkspace(t, h, func(w *schedule.Workspace) { w.Rules.Holidays = []int64{id} })
	assert.Empty(t, h.Open("2026-05-06"))

	h.Host = again(t, h)
	_, err = h.App.RemoveHolidays(ctx, h.Host, id)
	assert.ErrorContains(t, err, "“Lampland” is kept free by the workspace’s rules.")
	renewed, err := h.App.RenewHolidays(ctx, h.Host, id, settings.HolidayFile{Name: "Lampland", Text: strings.ReplaceAll(lamps, "20200506", "20200507")})
	require.NoError(t, err)
	assert.Equal(t, "2026-05-07", renewed.Holidays[0].Next[0].First)
	assert.NotEmpty(t, h.Open("2026-05-06"))
	assert.Empty(t, h.Open("2026-05-07"), "types go on naming the calendar, whatever days it has")
	_, err = h.App.Undo(ctx, h.Host)
	require.NoError(t, err)
	assert.Empty(t, h.Open("2026-05-06"), "undone")

	inWorkspace(t, h, func(w *schedule.Workspace) { w.Rules.Holidays = nil })
	h.Host = again(t, h)
	gone, err := h.App.RemoveHolidays(ctx, h.Host, id)
	require.NoError(t, err)
	assert.Empty(t, gone.Holidays)
	anew, err := h.App.AddHolidays(ctx, h.Host, settings.HolidayFile{Name: "Lampland", Text: lamps})
	require.NoError(t, err)
	assert.Greater(t, anew.Holidays[0].ID, id, "what names the old one doesn't mean the new one")
	h.Host = again(t, h)
	draft := h.Type.TypeDraft
	draft.Rules.Holidays = []int64{id}
	_, err = h.App.SaveMeetingType(ctx, h.Host, h.Type.ID, draft, settings.Saving{})
	assert.Contains(t, refused(t, err, refusal.Invalid).Fields, "rules.holidays", "it is gone")
}

func TestAFileOfPublicHolidaysIsReadWholeOrNotAtAll(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	for text, sentence := range map[string]string{
		"no calendar":                      "This is not an iCalendar file.",
		"BEGIN:VCALENDAR\nEND:VCALENDAR\n": "This file has no whole days in the coming years.",
		lamps[:300]:                        "Not all of this file can be read",
		strings.Replace(lamps, "RRULE:FREQ=YEARLY", "RRULE:FREQ=DAILY", 1): "more than 400 whole days",
	} {
		_, err := h.App.AddHolidays(ctx, h.Host, settings.HolidayFile{Name: "Lampland", Text: text})
		assert.Contains(t, refused(t, err, refusal.Invalid).Fields["file"].Sentence, sentence)
	}
	_, err := h.App.AddHolidays(ctx, h.Host, settings.HolidayFile{Text: lamps})
	assert.Contains(t, refused(t, err, refusal.Invalid).Fields, "name")
	_, err = h.App.AddHolidays(ctx, h.Host, settings.HolidayFile{Name: "Lampland", Text: lamps})
	require.NoError(t, err)
	h.Host = again(t, h)
	_, err = h.App.AddHolidays(ctx, h.Host, settings.HolidayFile{Name: "Lampland", Text: lamps})
	assert.Contains(t, refused(t, err, refusal.Invalid).Fields, "name", "one of each name")
	_, err = h.App.RenewHolidays(ctx, h.Host, 99, settings.HolidayFile{Name: "x", Text: lamps})
	assert.ErrorContains(t, err, "not there any more")
}
