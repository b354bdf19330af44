package app_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/opentimes"
	"corrim/internal/app"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/testhouse"
)

// inWorkspace changes the workspace and returns what was answered.
func inWorkspace(t *testing.T, h *testhouse.House, change func(*schedule.Workspace)) settings.WorkspaceView {
	t.Helper()
	view, err := h.App.Workspace(ctx, again(t, h))
	require.NoError(t, err)
	change(&view.Workspace)
	view, err = h.App.SaveWorkspace(ctx, h.Host, view.Workspace)
	require.NoError(t, err)
	return view
}

// retype saves the house's type with other rules.
func retype(t *testing.T, h *testhouse.House, change func(*schedule.TypeRules)) {
	t.Helper()
	draft := h.Type.TypeDraft
	change(&draft.Rules)
	_, err := h.App.SaveMeetingType(ctx, h.Host, h.Type.ID, draft, settings.Saving{})
	require.NoError(t, err)
}

func TestMeetingTypesFollowTheWorkspaceUntilTheySetTheirOwn(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	inWorkspace(t, h, func(w *schedule.Workspace) { w.Rules.Step, w.Rules.Notice = 60, 0 })
	assert.Contains(t, h.Open("2026-05-05"), "09:10", "the type has its own step")
	retype(t, h, func(r *schedule.TypeRules) { r.Follows = []string{"step", "notice"} })
	assert.Equal(t, []string{"09:00", "10:00", "11:00", "13:00", "14:00", "15:00", "16:00"}, h.Open("2026-05-05"))
	assert.Contains(t, h.Open("2026-05-04"), "09:00", "without notice")

	changed := inWorkspace(t, h, func(w *schedule.Workspace) { w.Rules.Step = 180 })
	assert.Equal(t, []string{"09:00", "15:00"}, h.Open("2026-05-05"), "what follows changes with it")
	assert.Equal(t, "every 180 min", changed.Rules.Notes()["step"].Sentence)
	assert.Equal(t, "Workspace: step every 60 min → every 180 min", changed.Changes[0].Label.Sentence)
	assert.Equal(t, "Ines Valadares", changed.Changes[0].Person)
	_, err := h.App.Undo(ctx, h.Host)
	require.NoError(t, err)
	assert.Len(t, h.Open("2026-05-05"), 7)

	bad := changed.Workspace
	bad.Name, bad.Zone, bad.Rules.Step = " ", "Local", 0
	_, err = h.App.SaveWorkspace(ctx, h.Host, bad)
	fields := refused(t, err, refusal.Invalid).Fields
	assert.Len(t, fields, 3)
	assert.Contains(t, fields["rules.step"].Sentence, "1 to 1440")
}

func TestSettingsOfTheWorkspaceAreTriedOnEverybodysTypes(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	retype(t, h, func(r *schedule.TypeRules) { r.Follows = []string{"step"} })
	book(t, h, "2026-05-05 10:15")
	view, err := h.App.Workspace(ctx, h.Host)
	require.NoError(t, err)
	view.Rules.Step = 60
	trial, err := h.App.TryWorkspace(ctx, h.Host, view.Workspace)
	require.NoError(t, err)
	require.Len(t, trial.Effects, 1)
	assert.Positive(t, trial.Effects[0].Lost)
	require.Len(t, trial.Outside, 1, "the booking stays, and is named")
	assert.Contains(t, trial.Outside[0].Reasons[0].Sentence, "Not a start every 60 minutes")
	assert.Contains(t, h.Open("2026-05-06"), "10:15", "nothing is saved yet")
	view.Rules.Step = 0
	trial, err = h.App.TryWorkspace(ctx, h.Host, view.Workspace)
	require.NoError(t, err)
	assert.NotEmpty(t, trial.Wrong["rules.step"].Sentence)
}

func TestWhoeverChangedSomethingSinceIsNotUndone(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	saved, err := h.App.Workspace(ctx, h.Colleague)
	require.NoError(t, err)
	_, err = h.App.SaveWorkspace(ctx, h.Colleague, saved.Workspace)
	refused(t, err, refusal.Forbidden)
	_, err = h.App.ChangePerson(ctx, h.Host, h.Colleague.ID, app.PersonChange{Name: "Maren Achterberg", Zone: "Europe/Amsterdam", Role: identity.Coordinator, Bookable: true})
	require.NoError(t, err)
	maren, err := h.App.Person(ctx, h.Colleague.ID)
	require.NoError(t, err)
	inWorkspace(t, h, func(w *schedule.Workspace) { w.FirstWeekday = 0 })
	view, err := h.App.Workspace(ctx, maren)
	require.NoError(t, err)
	view.Zone = "Europe/Oslo"
	_, err = h.App.SaveWorkspace(ctx, maren, view.Workspace)
	require.NoError(t, err)
	_, err = h.App.Undo(ctx, h.Host)
	assert.Contains(t, refused(t, err, refusal.Invalid).Sentence, "Somebody else has changed")
	_, err = h.App.Undo(ctx, maren)
	require.NoError(t, err)
	_, err = h.App.Undo(ctx, h.Host)
	require.NoError(t, err, "once theirs is taken back")
	view, err = h.App.Workspace(ctx, maren)
	require.NoError(t, err)
	assert.Equal(t, 1, view.FirstWeekday)
	assert.Equal(t, "Europe/Lisbon", view.Zone)
}

func TestWeeksForLimitsBeginWhenTheWorkspaceSays(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	retype(t, h, func(r *schedule.TypeRules) { r.Limits = []opentimes.TypeLimit{{Of: "type", Per: "week", Count: 1}} })
	book(t, h, "2026-05-08 10:00")
	assert.Empty(t, h.Open("2026-05-07"))
	assert.NotEmpty(t, h.Open("2026-05-11"), "a new week on Monday")
	inWorkspace(t, h, func(w *schedule.Workspace) { w.FirstWeekday = int(time.Friday) })
	assert.NotEmpty(t, h.Open("2026-05-07"))
	assert.Empty(t, h.Open("2026-05-11"), "the week from Friday the 8th")
}

func TestNeighbouringBuffersShareTimeIfTheWorkspaceLetsThem(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	retype(t, h, func(r *schedule.TypeRules) { r.Duration, r.Before, r.After = 30, 15, 15 })
	book(t, h, "2026-05-05 10:00")
	assert.NotContains(t, h.Open("2026-05-05"), "10:50")
	inWorkspace(t, h, func(w *schedule.Workspace) { w.ShareBuffers = true })
	assert.Contains(t, h.Open("2026-05-05"), "10:50", "a quarter of an hour is between them, for both")
	assert.NotContains(t, h.Open("2026-05-05"), "10:40", "a meeting never lies in another's buffer")
	book(t, h, "2026-05-05 10:50")
	inWorkspace(t, h, func(w *schedule.Workspace) { w.ShareBuffers = false })
	h.Pass(time.Minute)
	booking, err := h.App.Book(ctx, "quillmere", "survey", "key of another one", h.Request("2026-05-05 14:00"))
	require.NoError(t, err, "the two that share stay, and others can be booked")
	assert.Equal(t, "booked", booking.State)
}

func TestClientsSeeTheClockThatTheWorkspaceShows(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	inWorkspace(t, h, func(w *schedule.Workspace) { w.Zones = "hidden" })
	page, err := h.App.Page(ctx, "quillmere", "survey", false)
	require.NoError(t, err)
	assert.Equal(t, "hidden", page.Zones)
	booking, err := h.App.Book(ctx, "quillmere", "survey", "key of a local one", h.Request("2026-05-05 10:00"))
	require.NoError(t, err)
	assert.Equal(t, "Europe/Lisbon", booking.Zone, "whatever the client sends")
	for _, m := range append(letters(t, h, "harbour", 1), letters(t, h, "ines", 1)...) {
		assert.Contains(t, m.Text, "Tuesday 5 May 2026, 10:00 to 10:50")
		assert.NotContains(t, m.Text, "UTC")
		assert.NotContains(t, m.Text, "Halifax")
	}
}

// Whoever was looked up before a change must not leave what was true then for all who ask after it.
func TestWhatIsKeptOfTypesIsNeverFromBeforeAChange(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	retype(t, h, func(r *schedule.TypeRules) { r.Follows = []string{"step"} })
	before := again(t, h)
	inWorkspace(t, h, func(w *schedule.Workspace) { w.Rules.Step = 45 })
	_, err := h.App.MeetingTypes(ctx, before, settings.TypeFilter{})
	require.NoError(t, err)
	types, err := h.App.MeetingTypes(ctx, again(t, h), settings.TypeFilter{})
	require.NoError(t, err)
	require.Len(t, types, 1)
	assert.Equal(t, 45, types[0].Rules.Step)
}
