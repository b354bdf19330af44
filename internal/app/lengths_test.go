package app_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/testhouse"
)

func TestAClientChoosesTheLength(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	retype(t, h, func(r *schedule.TypeRules) { r.Others, r.Step = []int{170, 25}, 60 })
	page, err := h.App.Page(ctx, "quillmere", "survey", false)
	require.NoError(t, err)
	assert.Equal(t, []int{25, 50, 170}, page.Lengths)
	assert.Equal(t, 50, page.Minutes, "the first one first")
	open := func(minutes int) (clocks []string) {
		answer, err := h.App.OpenTimes(ctx, "quillmere", "survey", schedule.TimesWanted{From: h.At("2026-05-05 00:00"), To: h.At("2026-05-06 00:00"), Minutes: minutes})
		require.NoError(t, err)
		for _, s := range answer.Starts {
			clocks = append(clocks, s.In(h.At("2026-05-05 00:00").Location()).Format("15:04"))
		}
		return clocks
	}
	assert.Equal(t, []string{"09:00", "13:00", "14:00"}, open(170), "170 minutes fit in three hours, not later")
	assert.Len(t, open(0), 7)
	_, err = h.App.OpenTimes(ctx, "quillmere", "survey", schedule.TimesWanted{From: h.At("2026-05-05 00:00"), To: h.At("2026-05-06 00:00"), Minutes: 60})
	assert.Contains(t, refused(t, err, refusal.Invalid).Fields["minutes"].Sentence, "not offered")

	request := h.Request("2026-05-05 13:00")
	request.Minutes = 170
	booking, err := h.App.Book(ctx, "quillmere", "survey", "key of a long one", request)
	require.NoError(t, err)
	assert.Equal(t, 170*time.Minute, booking.End.Sub(booking.Start))
	moved, err := h.App.Move(ctx, linkOf(booking), h.At("2026-05-05 09:00"))
	require.NoError(t, err)
	assert.Equal(t, 170*time.Minute, moved.End.Sub(moved.Start), "a move keeps the length")
	request.Minutes = 60
	_, err = h.App.Book(ctx, "quillmere", "survey", "key of a wrong one", request)
	refused(t, err, refusal.Invalid)
}

func TestAMeetingLastsAsLongAsNeededBetweenTwoLimits(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	retype(t, h, func(r *schedule.TypeRules) { r.Duration, r.UpBy, r.UpTo = 30, 20, 95 })
	page, err := h.App.Page(ctx, "quillmere", "survey", false)
	require.NoError(t, err)
	assert.Equal(t, []int{30, 50, 70, 90}, page.Lengths)
	draft := h.Type.TypeDraft
	for field, rules := range map[string]schedule.TypeRules{
		"rules.upBy":   {Duration: 1, UpBy: 1, UpTo: 200},
		"rules.upTo":   {Duration: 60, UpBy: 10, UpTo: 50},
		"rules.others": {Duration: 60, Others: []int{0}},
	} {
		rules.BookingRules = draft.Rules.BookingRules
		draft.Rules = rules
		_, err := h.App.SaveMeetingType(ctx, h.Host, h.Type.ID, draft, settings.Saving{})
		assert.NotEmpty(t, refused(t, err, refusal.Invalid).Fields[field], field)
	}
}

func TestAMeetingTypeNarrowsTheHoursAndNeverWidensThem(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	retype(t, h, func(r *schedule.TypeRules) {
		r.Step, r.Hours = 60, &schedule.OwnHours{Week: []string{"closed", "11-14", "closed", "closed", "closed", "9-17", "closed"}}
	})
	assert.Equal(t, []string{"11:00", "13:00"}, h.Open("2026-05-05"))
	assert.Empty(t, h.Open("2026-05-06"))
	assert.Empty(t, h.Open("2026-05-09"), "the host is closed on Saturdays")
	r, err := h.App.Reasons(ctx, h.Host, h.Type.ID, "2026-05-05", 10*60, 0, 0)
	require.NoError(t, err)
	assert.Equal(t, "the host's and the type's own", r.Layers[2].Note.Sentence)
	assert.False(t, r.At.Rules[2].Holds)

	draft := h.Type.TypeDraft
	draft.Rules.Hours = &schedule.OwnHours{Week: []string{"9-", "", "", "", "", "", ""}}
	_, err = h.App.SaveMeetingType(ctx, h.Host, h.Type.ID, draft, settings.Saving{})
	assert.Contains(t, refused(t, err, refusal.Invalid).Fields["rules.hours.0"].Sentence, "an end is missing")
	draft.Rules.Hours = &schedule.OwnHours{Plan: 99}
	_, err = h.App.SaveMeetingType(ctx, h.Host, h.Type.ID, draft, settings.Saving{})
	refused(t, err, refusal.NotFound)
}

func TestRulesThatLeaveNothingOpenAreSavedOnlyIfThatIsAccepted(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	for sentence, change := range map[string]func(*schedule.TypeRules){
		"The notice (90 whole days) reaches beyond the booking window (60 days)":         func(r *schedule.TypeRules) { r.NoticeInDays, r.Notice = true, 90 },
		"No start every 1440 minutes on the clock falls into the time that is left":      func(r *schedule.TypeRules) { r.Step = 1440 },
		"No opening is long enough for 300 minutes":                                      func(r *schedule.TypeRules) { r.Duration = 300 },
		"Nothing would be open in the coming 8 weeks: mostly blocked by booking window.": func(r *schedule.TypeRules) { r.WindowFirst, r.WindowLast = "2026-09-01", "2026-09-30" },
	} {
		draft := h.Type.TypeDraft
		change(&draft.Rules)
		_, err := h.App.SaveMeetingType(ctx, h.Host, h.Type.ID, draft, settings.Saving{})
		assert.Contains(t, refused(t, err, refusal.NothingOpen).Sentence, sentence)
		assert.NotEmpty(t, h.Open("2026-05-05"), "nothing was changed")
		_, err = h.App.SaveMeetingType(ctx, h.Host, h.Type.ID, draft, settings.Saving{Accept: true})
		require.NoError(t, err)
		assert.Empty(t, h.Open("2026-05-05"))
		_, err = h.App.Undo(ctx, h.Host)
		require.NoError(t, err)
	}
}
