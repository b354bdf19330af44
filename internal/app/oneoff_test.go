package app_test

import (
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/internal/app"
	"corrim/internal/identity"
	"corrim/internal/public"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/testhouse"
)

func TestAOneOffOfferIsTakenOnceAtATimePickedByHand(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	h.Connect()
	draft := app.NewOneOff{
		Type: h.Type.ID, Until: "2026-05-20", Name: "Harbour Maritime", Mail: "keeper@harbour.example", Word: "As we said on the phone.",
		Starts: []public.HandPicked{{Date: "2026-05-09", Minute: 20 * 60}, {Date: "2026-05-10", Minute: 600}, {Date: "2026-05-11", Minute: 600}},
	}
	for field, change := range map[string]func(*app.NewOneOff){
		"starts": func(n *app.NewOneOff) { n.Starts = nil },
		"mail":   func(n *app.NewOneOff) { n.Mail = "nobody" },
		"until":  func(n *app.NewOneOff) { n.Until = "2026-05-01" },
	} {
		wrong := draft
		change(&wrong)
		_, err := h.App.MakeOneOff(ctx, h.Host, wrong)
		assert.NotEmpty(t, refused(t, err, refusal.Invalid).Fields[field], field)
	}
	offer, err := h.App.MakeOneOff(ctx, h.Host, draft)
	require.NoError(t, err)
	link := strings.TrimPrefix(offer.Path, "/o/")
	mailed := letters(t, h, "harbour.example", 1)[0]
	assert.Contains(t, mailed.Text, offer.Path)
	assert.Contains(t, mailed.Text, "Saturday 9 May 2026, 20:00 (Lisbon)", "far outside the rules, as the host picked it")

	// Opened, with what a colleague or a calendar has taken since left out.
	require.NoError(t, h.Calendars.AddEvent("ines", 0, "Dentist", h.At("2026-05-10 09:30"), h.At("2026-05-10 11:00")))
	page, err := h.App.OneOffPage(ctx, link)
	require.NoError(t, err)
	assert.Equal(t, "As we said on the phone.", page.Description)
	h.Pass(time.Minute)
	open, err := h.App.OneOffTimes(ctx, link)
	require.NoError(t, err)
	require.Len(t, open.Starts, 2)
	list, err := h.App.OneOffs(ctx, h.Host)
	require.NoError(t, err)
	assert.NotNil(t, list[0].Opened)
	assert.Empty(t, list[0].Path, "the link is known to nobody but its client")

	take := func(at, key string) (app.ClientBooking, error) {
		return h.App.TakeOneOff(ctx, link, key, h.Request(at))
	}
	_, err = take("2026-05-10 10:00", "the busy one, sixteen")
	refused(t, err, refusal.Taken)
	_, err = take("2026-05-12 10:00", "one that was not offered")
	refused(t, err, refusal.Taken)
	b, err := take("2026-05-09 20:00", "the first one, sixteen")
	require.NoError(t, err)
	assert.Equal(t, "booked", b.State)
	again, err := take("2026-05-09 20:00", "the first one, sixteen")
	require.NoError(t, err)
	assert.Equal(t, b.Link, again.Link, "sent twice, it is the same booking")
	_, err = take("2026-05-11 10:00", "another one, sixteen")
	assert.Contains(t, refused(t, err, refusal.Over).Sentence, "taken already")
	_, err = h.App.WithdrawOneOff(ctx, h.Host, offer.ID)
	refused(t, err, refusal.Over)

	// Withdrawn, and expired.
	second, err := h.App.MakeOneOff(ctx, h.Host, draft)
	require.NoError(t, err)
	_, err = h.App.WithdrawOneOff(ctx, h.Colleague, second.ID)
	refused(t, err, refusal.NotFound)
	list, err = h.App.WithdrawOneOff(ctx, h.Host, second.ID)
	require.NoError(t, err)
	assert.Equal(t, []string{"withdrawn", "taken"}, []string{list[0].State, list[1].State})
	_, err = h.App.OneOffPage(ctx, strings.TrimPrefix(second.Path, "/o/"))
	assert.Contains(t, refused(t, err, refusal.Over).Sentence, "withdrawn")
	third, err := h.App.MakeOneOff(ctx, h.Host, draft)
	require.NoError(t, err)
	h.Pass(17 * 24 * time.Hour)
	_, err = h.App.OneOffPage(ctx, strings.TrimPrefix(third.Path, "/o/"))
	assert.Contains(t, refused(t, err, refusal.Over).Sentence, "expired")
	_, err = h.App.OneOffPage(ctx, "nothing")
	refused(t, err, refusal.NotFound)
}

func TestAOneOffOfferCanGoByRulesOfItsOwn(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	draft := app.NewOneOff{Type: h.Type.ID, Until: "2026-05-08", Rules: &app.OneOffRules{Minutes: 75, Notice: 0, Step: 45}}
	both := draft
	both.Starts = []public.HandPicked{{Date: "2026-05-06", Minute: 600}}
	_, err := h.App.MakeOneOff(ctx, h.Host, both)
	assert.Contains(t, refused(t, err, refusal.Invalid).Fields["starts"].Sentence, "not both")
	long := draft
	long.Until = "2026-09-30"
	_, err = h.App.MakeOneOff(ctx, h.Host, long)
	assert.Contains(t, refused(t, err, refusal.Invalid).Fields["until"].Sentence, "100 days")

	odd := draft
	odd.Rules = &app.OneOffRules{Minutes: 4, Step: 0}
	_, err = h.App.MakeOneOff(ctx, h.Host, odd)
	assert.Len(t, refused(t, err, refusal.Invalid).Fields, 2, "a length and a step that can't be")

	offer, err := h.App.MakeOneOff(ctx, h.Host, draft)
	require.NoError(t, err)
	assert.Empty(t, offer.Starts)
	link := strings.TrimPrefix(offer.Path, "/o/")
	page, err := h.App.OneOffPage(ctx, link)
	require.NoError(t, err)
	assert.Equal(t, []int{75}, page.Lengths, "a length that the type doesn't have")
	open := func() []string {
		answer, err := h.App.OneOffTimes(ctx, link)
		require.NoError(t, err)
		var out []string
		for _, s := range answer.Starts {
			out = append(out, s.In(h.Now().Location()).Format("2 15:04"))
		}
		return out
	}
	// Starts every 45 minutes from midnight, within the host's hours (9 to 12, 13 to 17), 75 minutes long.
	local := func(text string) string { return h.At("2026-05-0" + text).In(h.Now().Location()).Format("2 15:04") }
	assert.Contains(t, open(), local("6 09:00"))
	assert.Contains(t, open(), local("6 10:30"))
	assert.NotContains(t, open(), local("6 11:15"), "it would run into the break")
	assert.Contains(t, open(), local("8 15:00"))
	for _, start := range open() {
		assert.Less(t, start[:1], "9", "nothing after the offer's last day")
	}

	_, err = h.App.TakeOneOff(ctx, link, "between two starts, 16", h.Request("2026-05-06 09:10"))
	refused(t, err, refusal.Taken)
	b, err := h.App.TakeOneOff(ctx, link, "the one at half past", h.Request("2026-05-06 10:30"))
	require.NoError(t, err)
	assert.Equal(t, 75*time.Minute, b.End.Sub(b.Start))
	assert.Equal(t, h.Host.Name, b.Host)
	assert.NotContains(t, h.Open("2026-05-06"), "10:30")
	_, err = h.App.TakeOneOff(ctx, link, "once more, sixteen", h.Request("2026-05-07 10:30"))
	assert.Contains(t, refused(t, err, refusal.Over).Sentence, "taken already")
}

func TestTheFirstRunIsForWhoeverStartedTheProgram(t *testing.T) {
	t.Parallel()
	h := testhouse.Empty(t, nil)
	empty, err := h.App.Empty(ctx)
	require.NoError(t, err)
	assert.True(t, empty)
	b := app.Beginning{Code: "guessed", Slug: "Not so", Mail: "ines", Password: "short", Zone: "Nowhere"}
	_, err = h.App.Begin(ctx, b)
	fields := refused(t, err, refusal.Invalid).Fields
	for _, field := range []string{"code", "workspace", "slug", "name", "mail", "zone", "password"} {
		assert.NotEmpty(t, fields[field], field)
	}
	b = app.Beginning{Code: h.App.SetupCode(), Workspace: "Lamp House", Slug: "lamp-house", Name: "Ada", Mail: "ada@lamphouse.example", Zone: "Europe/Lisbon", Password: "a lamp in the hall"}
	ada, err := h.App.Begin(ctx, b)
	require.NoError(t, err)
	assert.Equal(t, identity.Owner, ada.Role)
	assert.Equal(t, app.SetupHours, ada.SetupStep())
	_, err = h.App.WorkspacePage(ctx, "lamp-house")
	refused(t, err, refusal.NotFound)
	draft := testhouse.Survey
	_, err = h.App.SaveMeetingType(ctx, ada, 0, draft, settings.Saving{})
	require.NoError(t, err)
	look := schedule.TimesWanted{From: h.Now(), To: h.Now().AddDate(0, 0, 7)}
	_, err = h.App.OpenTimes(ctx, ada.Workspace, draft.Slug, look)
	assert.Contains(t, refused(t, err, refusal.Over).Sentence, "not published yet", "nothing can be booked before its owner says so")
	_, err = h.App.Book(ctx, ada.Workspace, draft.Slug, "a key for one who is early", h.Request("2026-05-05 10:00"))
	refused(t, err, refusal.Over)
	_, err = h.App.Prepared(ctx, ada.Workspace, draft.Slug, "", false)
	refused(t, err, refusal.NotFound)
	_, err = h.App.Page(ctx, ada.Workspace, draft.Slug, false)
	refused(t, err, refusal.NotFound)
	_, err = h.App.Page(ctx, ada.Workspace, draft.Slug, true)
	require.NoError(t, err)
	look.Inside = true
	_, err = h.App.OpenTimes(ctx, ada.Workspace, draft.Slug, look)
	require.NoError(t, err, "its owner can look at it as a client would")
	_, err = h.App.Begin(ctx, b)
	assert.Contains(t, refused(t, err, refusal.Over).Sentence, "already")
	require.NoError(t, h.App.GoOnSettingUp(ctx, ada, app.SetupPublish))
	ada, err = h.App.Person(ctx, ada.ID)
	require.NoError(t, err)
	assert.Equal(t, app.SetupPublish, ada.SetupStep(), "it can be left and gone on with")
}

// Times that were offered may be kept for that client: nobody else gets them until the offer was taken, withdrawn or is over.
func TestOfferedTimesCanBeKeptForTheirClient(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	offer := func() app.OneOff {
		made, err := h.App.MakeOneOff(ctx, h.Host, app.NewOneOff{
			Type: h.Type.ID, Until: "2026-05-08", Keep: true, Name: "Silo Museum", Starts: []public.HandPicked{{Date: "2026-05-05", Minute: 10 * 60}, {Date: "2026-05-06", Minute: 10 * 60}},
		})
		require.NoError(t, err)
		return made
	}
	secretOf := func(o app.OneOff) string { return strings.TrimPrefix(o.Path, "/o/") }
	made := offer()
	assert.NotContains(t, h.Open("2026-05-05"), "10:00", "it is kept")
	_, err := bookFor(t, h, "2026-05-05 10:00", asIs)
	refused(t, err, refusal.Taken)
	times, err := h.App.OneOffTimes(ctx, secretOf(made))
	require.NoError(t, err)
	assert.Len(t, times.Starts, 2, "for whoever has the link")
	_, err = h.App.TakeOneOff(ctx, secretOf(made), "the only request for it", h.Request("2026-05-05 10:00"))
	require.NoError(t, err)
	assert.Contains(t, h.Open("2026-05-06"), "10:00", "the other one is free again")

	made = offer()
	assert.NotContains(t, h.Open("2026-05-06"), "10:00")
	_, err = h.App.WithdrawOneOff(ctx, h.Host, made.ID)
	require.NoError(t, err)
	assert.Contains(t, h.Open("2026-05-06"), "10:00")
	_, err = h.App.MakeOneOff(ctx, h.Host, app.NewOneOff{Type: h.Type.ID, Until: "2026-05-05", Keep: true, Starts: []public.HandPicked{{Date: "2026-05-07", Minute: 10 * 60}}})
	require.NoError(t, err)
	assert.NotContains(t, h.Open("2026-05-07"), "10:00")
	h.Pass(48 * time.Hour)
	require.Eventually(t, func() bool { return slices.Contains(h.Open("2026-05-07"), "10:00") }, time.Minute, 20*time.Millisecond, "an offer that is over keeps nothing")
	_, err = h.App.MakeOneOff(ctx, h.Host, app.NewOneOff{Type: h.Type.ID, Until: "2026-05-20", Keep: true, Rules: &app.OneOffRules{Minutes: 30, Step: 30}})
	refused(t, err, refusal.Invalid)
}
