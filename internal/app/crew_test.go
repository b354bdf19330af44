package app_test

import (
	"bytes"
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/hours"
	"corrim/core/routing"
	"corrim/core/scenario"
	"corrim/internal/app"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/store/sqlc"
	"corrim/internal/testhouse"
)

// marens is a house whose type Maren hosts alone, and where Ines, who looks after it, is busy all morning.
func marens(t *testing.T) *testhouse.House {
	h := testhouse.New(t)
	routed(t, h, func(r *schedule.TypeRouting) { r.People = []schedule.PoolMember{{Person: h.Colleague.ID, Weight: 1}} })
	require.NoError(t, h.App.AddBlock(ctx, h.Host, app.NewBlock{Date: "2026-05-05", From: 540, To: 720}))
	return h
}

func TestPreviewReasonsAndScenarioAnswerForTheHostsWhoeverLooks(t *testing.T) {
	t.Parallel()
	h := marens(t)
	clients := h.Open("2026-05-05")
	view, err := h.App.PreviewMeetingType(ctx, again(t, h), h.Type.ID, testhouse.Survey, 0)
	require.NoError(t, err)
	assert.Equal(t, []schedule.PageHost{{ID: h.Colleague.ID, Slug: h.Colleague.Slug, Name: h.Colleague.Name}}, view.Crew.Hosts)
	assert.Equal(t, "2026-05-05", view.Days[1].Date)
	assert.Len(t, view.Days[1].Kept, len(clients), "what clients get, not what Ines would have")

	why, err := h.App.Reasons(ctx, again(t, h), h.Type.ID, "2026-05-05", 10*60, 0, 0)
	require.NoError(t, err)
	assert.Equal(t, h.Colleague.Name, why.Host)
	assert.Equal(t, "Europe/Amsterdam", why.Zone, "her clock")
	assert.True(t, why.At.Open, "it is Ines who is busy")
	text, err := h.App.Scenario(ctx, again(t, h), h.Type.ID, "2026-05-05")
	require.NoError(t, err)
	saved, err := scenario.Read(text, nil)
	require.NoError(t, err)
	require.Len(t, saved.Pool.Hosts, 1)
	assert.Equal(t, h.Colleague.Name, saved.Pool.Hosts[0].Name)
}

// factsOf is the facts of the house's type, as somebody sees them.
func factsOf(t *testing.T, h *testhouse.House, viewer schedule.Person) settings.TypeFacts {
	t.Helper()
	facts, err := h.App.TypeFacts(ctx, viewer, []int64{h.Type.ID, 404})
	require.NoError(t, err)
	require.Len(t, facts, 1, "what there is not, or not for the viewer, is left out")
	return facts[0]
}

func TestTheFactsOfATypeAreThoseOfItsHostsWhoeverLooks(t *testing.T) {
	t.Parallel()
	h := marens(t)
	facts := factsOf(t, h, again(t, h))
	assert.Equal(t, []schedule.PageHost{{ID: h.Colleague.ID, Slug: h.Colleague.Slug, Name: h.Colleague.Name}}, facts.Hosts)
	open, err := h.App.OpenTimes(ctx, "quillmere", "survey", schedule.TimesWanted{From: h.Now(), To: h.At("2026-05-18 00:00")})
	require.NoError(t, err)
	assert.Len(t, open.Starts, facts.Open, "what clients are offered until the fourteenth day ends")
	assert.Equal(t, open.Starts[0], *facts.Next)
	assert.Len(t, h.Open("2026-05-05"), facts.Days[1])
	assert.Nil(t, facts.Mend)

	require.NoError(t, h.App.Store.Write(ctx, func(q *sqlc.Queries) error {
		return q.SetWeek(ctx, sqlc.SetWeekParams{ID: h.Colleague.ID, Week: `["","","","","","",""]`})
	}))
	facts = factsOf(t, h, again(t, h))
	assert.Equal(t, "Mostly blocked by the hours of Maren Achterberg.", facts.Mend.Sentence.Sentence)
	assert.Equal(t, fmt.Sprintf("Change their hours /hours?for=%d", h.Colleague.ID), facts.Mend.Label.Sentence+" "+facts.Mend.Path)
	assert.Nil(t, facts.Next, "there is none at all")
}

func TestATypeWithNothingOpenLeadsToTheRuleThatIsChanged(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	draft := h.Type.TypeDraft
	draft.Rules.Notice, draft.Rules.Follows = 21*24*60, nil
	_, err := h.App.SaveMeetingType(ctx, h.Host, h.Type.ID, draft, settings.Saving{})
	require.NoError(t, err)
	facts := factsOf(t, h, again(t, h))
	require.NotNil(t, facts.Mend)
	assert.Equal(t, fmt.Sprintf("/types/%d?rule=notice", h.Type.ID), facts.Mend.Path)
	assert.Contains(t, facts.Mend.Sentence.Sentence, "Mostly blocked by notice: ")
	require.NotNil(t, facts.Next, "beyond the fortnight")
	assert.True(t, facts.Next.After(h.At("2026-05-25 00:00")))
	today, err := h.App.Today(ctx, again(t, h))
	require.NoError(t, err)
	var paths []string
	for _, trouble := range today.Troubles {
		paths = append(paths, trouble.Path)
	}
	assert.Contains(t, paths, facts.Mend.Path, "Today leads there too")
}

func TestWhatIsToldOfATeamDoesNotDependOnWhoLookedFirst(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	require.NoError(t, h.App.Store.Write(ctx, func(q *sqlc.Queries) error {
		return q.SetWeek(ctx, sqlc.SetWeekParams{ID: h.Host.ID, Week: `["","","","","","",""]`})
	}))
	_, err := h.App.ChangePerson(ctx, h.Host, h.Colleague.ID, app.PersonChange{Name: h.Colleague.Name, Zone: h.Colleague.Zone, Role: identity.Coordinator, Bookable: true, Slug: h.Colleague.Slug})
	require.NoError(t, err)
	path := func(id int64) string {
		p, err := h.App.Person(ctx, id)
		require.NoError(t, err)
		today, err := h.App.Today(ctx, p)
		require.NoError(t, err)
		for _, trouble := range today.Troubles {
			if strings.Contains(trouble.Title.Sentence, "nothing open") {
				return trouble.Path
			}
		}
		return ""
	}
	assert.Equal(t, "/hours", path(h.Host.ID), "their own")
	assert.Equal(t, fmt.Sprintf("/hours?for=%d", h.Host.ID), path(h.Colleague.ID), "a coordinator is led to the host's, not to their own")
}

func TestBookingsToComeAreCountedForWhoMaySeeThem(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	routed(t, h, func(*schedule.TypeRouting) {}) // both in turn
	book(t, h, "2026-05-05 10:00")
	book(t, h, "2026-05-06 10:00")
	assert.EqualValues(t, 2, factsOf(t, h, again(t, h)).Coming, "a coordinator sees everybody's")
	colleague, err := h.App.Person(ctx, h.Colleague.ID)
	require.NoError(t, err)
	require.False(t, colleague.May(identity.SeeEverybodys))
	assert.EqualValues(t, 1, factsOf(t, h, colleague).Coming, "a member only their own")
	h.Pass(40 * time.Hour)
	assert.EqualValues(t, 1, factsOf(t, h, again(t, h)).Coming, "one is over")
}

func TestAPoolIsToldAsItIsRoutedAndOneByOne(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	require.NoError(t, h.App.AddBlock(ctx, h.Host, app.NewBlock{Date: "2026-05-05", From: 540, To: 720}))
	count := func(host int64) int {
		view, err := h.App.PreviewMeetingType(ctx, again(t, h), h.Type.ID, testhouse.Survey, host)
		require.NoError(t, err)
		return len(view.Days[1].Kept)
	}
	alone := count(0)
	routed(t, h, func(*schedule.TypeRouting) {})
	either := count(0)
	assert.Greater(t, either, alone, "in turn: whoever is open")
	assert.Equal(t, alone, count(h.Host.ID))
	assert.Equal(t, len(h.Open("2026-05-05")), either)
	routed(t, h, func(r *schedule.TypeRouting) { r.Mode = routing.Together })
	assert.Less(t, count(0), alone, "together: only when both are")
	assert.Equal(t, len(h.Open("2026-05-05")), count(0))
	why, err := h.App.Reasons(ctx, again(t, h), h.Type.ID, "2026-05-05", 10*60, 0, h.Colleague.ID)
	require.NoError(t, err)
	assert.True(t, why.At.Open)
	assert.False(t, why.Offered, "Ines is busy then, and they come together")
	require.Len(t, why.Pool, 2)
	assert.Equal(t, "Busy", why.Pool[0].Why.Sentence)
	text, err := h.App.Scenario(ctx, again(t, h), h.Type.ID, "2026-05-05")
	require.NoError(t, err)
	assert.True(t, bytes.Contains(text, []byte(`"pool": "together"`)))
	_, err = h.App.PreviewMeetingType(ctx, again(t, h), h.Type.ID, testhouse.Survey, 99)
	refused(t, err, refusal.NotFound)
}

func TestATypeWithNothingOpenIsToldToWhoeverCanMendIt(t *testing.T) {
	t.Parallel()
	h := marens(t)
	mentioned := func(p schedule.Person) bool {
		today, err := h.App.Today(ctx, p)
		require.NoError(t, err)
		for _, trouble := range today.Troubles {
			if trouble.Title.Sentence == "“Survey” has nothing open in the next 14 days" {
				assert.Contains(t, trouble.Sentence.Sentence, "Mostly blocked by ")
				return true
			}
		}
		return false
	}
	assert.False(t, mentioned(again(t, h)))
	_, err := h.App.AddDayChanges(ctx, h.Colleague, "4 May to 5 June off")
	require.NoError(t, err)
	assert.True(t, mentioned(again(t, h)), "Ines made it")
	maren, err := h.App.Person(ctx, h.Colleague.ID)
	require.NoError(t, err)
	assert.True(t, mentioned(maren), "she only hosts it, but they are her hours")
}

func TestOnlyWhoMayChangeATypeIsToldOfWhatItsRulesLeave(t *testing.T) {
	t.Parallel()
	h := marens(t)
	draft := h.Type.TypeDraft
	draft.Rules.Notice, draft.Rules.Follows = 21*24*60, nil
	_, err := h.App.SaveMeetingType(ctx, h.Host, h.Type.ID, draft, settings.Saving{})
	require.NoError(t, err)
	maren, err := h.App.Person(ctx, h.Colleague.ID)
	require.NoError(t, err)
	told := func(p schedule.Person) bool {
		today, err := h.App.Today(ctx, p)
		require.NoError(t, err)
		return slices.ContainsFunc(today.Troubles, func(trouble schedule.Trouble) bool { return strings.Contains(trouble.Title.Sentence, "nothing open") })
	}
	assert.True(t, told(again(t, h)))
	assert.False(t, told(maren), "she can't do anything about the notice")
}

func TestARoutingThatLeadsNowhereIsAskedAboutOnce(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	_, err := h.App.AddDayChanges(ctx, h.Colleague, "4 May to 30 July off")
	require.NoError(t, err)
	change := settings.RoutingChange{Who: "anyone", Routing: schedule.TypeRouting{Mode: routing.Together, People: []schedule.PoolMember{{Person: h.Host.ID, Weight: 1}, {Person: h.Colleague.ID, Weight: 1}}}}
	_, err = h.App.SaveRouting(ctx, h.Host, h.Type.ID, change)
	assert.Contains(t, refused(t, err, refusal.NothingOpen).Sentence, "no time at which Ines Valadares and Maren Achterberg are all open")
	change.Routing.Mode = routing.InTurn
	change.Routing.Rules = []schedule.AnswerRule{{Attribute: "language", Values: []string{"Dutch"}, People: []int64{h.Colleague.ID}}}
	_, err = h.App.SaveRouting(ctx, h.Host, h.Type.ID, change)
	assert.Contains(t, refused(t, err, refusal.NothingOpen).Sentence, "language “Dutch” would find no time")
	change.Accept = true
	_, err = h.App.SaveRouting(ctx, h.Host, h.Type.ID, change)
	require.NoError(t, err)
	view, err := h.App.PreviewMeetingType(ctx, again(t, h), h.Type.ID, testhouse.Survey, 0)
	require.NoError(t, err)
	assert.Positive(t, view.Open, "whoever answers otherwise finds times")
}

func TestARuleOfTheWorkspaceShowsDaysAndBookings(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	retype(t, h, func(r *schedule.TypeRules) { r.Follows = []string{"buffers"} })
	book(t, h, "2026-05-05 10:00")
	_, err := h.App.Book(ctx, "quillmere", "survey", "a key for its neighbour", h.Request("2026-05-05 11:00"))
	require.NoError(t, err)
	space, err := h.App.Workspace(ctx, again(t, h))
	require.NoError(t, err)
	space.Rules.After = 120
	trial, err := h.App.TryWorkspace(ctx, again(t, h), space.Workspace)
	require.NoError(t, err)
	require.Len(t, trial.Effects, 1)
	require.NotEmpty(t, trial.Effects[0].Days)
	assert.Positive(t, trial.Effects[0].Days[0].Lost)
	require.Len(t, trial.Outside, 1)
	assert.Equal(t, "Harbour Maritime", trial.Outside[0].Client)
	assert.Equal(t, h.At("2026-05-05 10:00").UTC(), trial.Outside[0].Start.In(time.UTC))
	assert.Equal(t, h.Host.Name, trial.Outside[0].Host)
}

func TestAwayClosesTheDaysAndLooksAfterEveryBooking(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	routed(t, h, func(r *schedule.TypeRouting) { r.Mode = routing.InOrder })
	require.NoError(t, h.App.AddBlock(ctx, h.Colleague, app.NewBlock{Date: "2026-05-06", From: 0, To: 1440}))
	for i, at := range []string{"2026-05-05 10:00", "2026-05-06 10:00", "2026-05-06 11:00", "2026-05-06 14:00"} {
		_, err := bookFor(t, h, at, func(r *schedule.BookingRequest) { r.Mail = string(rune('a'+i)) + "@x.example" })
		require.NoError(t, err)
	}
	plan, err := h.App.PlanHandover(ctx, h.Host, app.HandoverSpan{Person: h.Host.ID, From: "2026-05-05", To: "2026-05-06"})
	require.NoError(t, err)
	require.Len(t, plan.Moves, 4)
	assert.Equal(t, h.Colleague.ID, plan.Moves[0].To, "on Tuesday Maren can")
	away := app.Away{HandoverSpan: app.HandoverSpan{Person: h.Host.ID, From: "2026-05-05", To: "2026-05-06"}, Label: "Flu", Rest: []app.AwayRest{
		{Booking: plan.Moves[1].Booking.ID, Do: "ask", Word: "I have the flu."},
		{Booking: plan.Moves[2].Booking.ID, Do: "cancel", Word: "Sorry."},
	}}
	left, err := h.App.GoAway(ctx, h.Host, away)
	require.NoError(t, err)
	require.Len(t, left.Moves, 1, "what nothing was said about stays")
	assert.Equal(t, "d@x.example", left.Moves[0].Booking.Mail)
	assert.Empty(t, h.App.Hours(again(t, h)).Next[1].Open, "Tuesday is off")
	assert.Contains(t, letters(t, h, "b@x.example", 2)[1].Text, "I have the flu.")
	assert.Equal(t, "CANCEL", letters(t, h, "c@x.example", 2)[1].Method)
	assert.Contains(t, letters(t, h, "a@x.example", 2)[1].Subject, "Now with Maren")
	away.Rest = []app.AwayRest{{Booking: left.Moves[0].Booking.ID, Do: "give", To: h.Colleague.ID}}
	left, err = h.App.GoAway(ctx, again(t, h), away)
	require.NoError(t, err)
	assert.Len(t, left.Moves, 1, "the one who was asked has not chosen yet")
	assert.Contains(t, letters(t, h, "d@x.example", 2)[1].Subject, "Now with Maren")
	history, err := h.App.Undo(ctx, again(t, h))
	require.NoError(t, err)
	assert.Contains(t, history[0].Label.Sentence, "1 booking of Ines Valadares handed over")
	refusedAs := as(t, h, h.Colleague, identity.Member)
	_, err = h.App.GoAway(ctx, refusedAs, away)
	refused(t, err, refusal.Forbidden)
}

func TestTimeOffOverBookingsNamesThemBeforeItIsSaved(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	book(t, h, "2026-05-06 10:00")
	reading, err := h.App.TryDayChanges(ctx, again(t, h), "6 May off")
	require.NoError(t, err)
	require.Len(t, reading.Outside, 1)
	assert.Equal(t, "Harbour Maritime", reading.Outside[0].Client)
	require.Len(t, reading.Effects, 1)
	assert.Equal(t, "2026-05-06", reading.Effects[0].Days[0].Date)
	assert.Contains(t, h.Open("2026-05-06"), "11:00", "nothing is saved")
	trial, err := h.App.TryDrawnDay(ctx, again(t, h), settings.DrawnDay{Date: "2026-05-06", Intervals: []hours.Interval{{Start: 840, End: 960}}})
	require.NoError(t, err)
	assert.Len(t, trial.Outside, 1)
	trial, err = h.App.TryDrawnDay(ctx, again(t, h), settings.DrawnDay{Date: "2026-05-06", Intervals: []hours.Interval{{Start: 540, End: 660}}})
	require.NoError(t, err)
	assert.Empty(t, trial.Outside)
}

func TestHoursThatACoordinatorChangesStayTheColleagues(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	maren, err := h.App.OnBehalfOf(ctx, h.Host, h.Colleague.ID)
	require.NoError(t, err)
	view, err := h.App.AddDayChanges(ctx, maren, "6 May off")
	require.NoError(t, err)
	assert.Equal(t, "Maren Achterberg", view.Whose)
}
