package app_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/routing"
	"corrim/core/told"
	"corrim/internal/app"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/testhouse"
)

// routed lets the house's type be hosted by both, in some mode.
func routed(t testing.TB, h *testhouse.House, change func(*schedule.TypeRouting)) settings.RoutingView {
	t.Helper()
	r := schedule.TypeRouting{Mode: routing.InTurn, Period: "always", People: []schedule.PoolMember{{Person: h.Host.ID, Weight: 1}, {Person: h.Colleague.ID, Weight: 1}}}
	change(&r)
	view, err := h.App.SaveRouting(ctx, h.Host, h.Type.ID, settings.RoutingChange{Routing: r, Who: "anyone", Accept: true})
	require.NoError(t, err)
	return view
}

func bookFor(t testing.TB, h *testhouse.House, at string, change func(*schedule.BookingRequest)) (app.ClientBooking, error) {
	t.Helper()
	r := h.Request(at)
	change(&r)
	return h.App.Book(ctx, "quillmere", "survey", fmt.Sprintf("request for %s by %s with %d", at, r.Mail, r.Host), r)
}

func asIs(*schedule.BookingRequest) {}

func TestBookingsAreTakenInTurnByWhoeverIsOpen(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	routed(t, h, func(*schedule.TypeRouting) {})
	hosts := ""
	for _, at := range []string{"2026-05-05 10:00", "2026-05-05 14:00", "2026-05-06 10:00", "2026-05-06 14:00"} {
		b, err := bookFor(t, h, at, asIs)
		require.NoError(t, err)
		hosts += b.Host[:1]
	}
	assert.Equal(t, "IMIM", hosts)
	assert.Contains(t, h.Open("2026-05-05"), "10:00", "the other one is open still")

	// At nine it is ten for Maren, and Ines is busy then: she is passed over, and it says so.
	require.NoError(t, h.Calendars.AddEvent("ines", 0, "Dentist", h.At("2026-05-07 09:00"), h.At("2026-05-07 12:00")))
	h.Connect()
	b, err := bookFor(t, h, "2026-05-07 10:00", asIs)
	require.NoError(t, err)
	assert.Equal(t, h.Colleague.Name, b.Host)
	view, err := h.App.TypeRouting(ctx, h.Host, h.Type.ID)
	require.NoError(t, err)
	assert.Equal(t, "Next in turn. Ines Valadares is busy.", view.Given[0].Why.Sentence)
	assert.InDelta(t, -0.5, view.Ledger[0].Drift, 0.01)
	assert.Equal(t, []int{1, 2}, []int{view.Ledger[0].Next, view.Ledger[1].Next})
	_, err = h.App.Cancel(ctx, linkOf(b), "")
	require.NoError(t, err)
	view, err = h.App.TypeRouting(ctx, h.Host, h.Type.ID)
	require.NoError(t, err)
	assert.True(t, view.Given[0].Back, "a cancelled one is given back")
	assert.Equal(t, 2, view.Ledger[1].Given)
	view, err = h.App.CorrectLedger(ctx, h.Host, h.Type.ID, settings.LedgerCorrection{Person: h.Host.ID, Credit: 3, Remark: "Took calls by phone"})
	require.NoError(t, err)
	assert.Equal(t, 3, view.Ledger[0].Credit)
	assert.Equal(t, 1, view.Ledger[1].Next)
	_, err = h.App.CorrectLedger(ctx, h.Host, h.Type.ID, settings.LedgerCorrection{Person: h.Host.ID, Credit: 3})
	refused(t, err, refusal.Invalid)
}

// What is foretold is what then happens, if nothing else changes.
func TestTheForecastIsWhatHappens(t *testing.T) {
	t.Parallel()
	for _, mode := range []routing.Mode{routing.InTurn, routing.InOrder, routing.LeastBooked, routing.ByClient} {
		t.Run(string(mode), func(t *testing.T) {
			h := testhouse.New(t)
			h.Run()
			view := routed(t, h, func(r *schedule.TypeRouting) { r.Mode, r.Period, r.People[1].Weight = mode, "month", 2 })
			require.Len(t, view.Foresight.Next, 10)
			for _, told := range view.Foresight.Next {
				b, err := h.App.Book(ctx, "quillmere", "survey", "key for "+told.Start.String()+told.Hosts[0], schedule.BookingRequest{
					Start: told.Start, Name: "N", Mail: fmt.Sprintf("n%d@x.example", told.Start.Unix()), Zone: "UTC",
				})
				require.NoError(t, err)
				assert.Equal(t, told.Hosts[0], b.Host, told.Start)
			}
		})
	}
}

func TestTheClientChoosesAColleagueOrTakesAnyone(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	routed(t, h, func(r *schedule.TypeRouting) { r.Mode = routing.ByClient })
	page, err := h.App.Page(ctx, "quillmere", "survey", false)
	require.NoError(t, err)
	assert.Equal(t, []schedule.PageHost{{ID: h.Host.ID, Slug: "ines-valadares", Name: "Ines Valadares"}, {ID: h.Colleague.ID, Slug: "maren-achterberg", Name: "Maren Achterberg"}}, page.Choice)
	b, err := bookFor(t, h, "2026-05-05 10:00", func(r *schedule.BookingRequest) { r.Host = h.Colleague.ID })
	require.NoError(t, err)
	assert.Equal(t, "Maren Achterberg", b.Host)
	_, err = bookFor(t, h, "2026-05-05 10:00", func(r *schedule.BookingRequest) { r.Host, r.Mail = h.Colleague.ID, "other@x.example" })
	assert.NotEmpty(t, refused(t, err, refusal.Taken).Nearest, "she is booked now, and her nearest open times are offered")
	b, err = bookFor(t, h, "2026-05-05 10:00", func(r *schedule.BookingRequest) { r.Mail = "third@x.example" })
	require.NoError(t, err)
	assert.Equal(t, "Ines Valadares", b.Host)
}

func TestTogetherTheTypeOffersOnlyWhatSuitsBothAndBothHoldIt(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	h.Connect()
	routed(t, h, func(r *schedule.TypeRouting) { r.Mode = routing.Together })
	// Lisbon is an hour behind Amsterdam: 9-12 and 13-17 there is 8-11 and 12-16 here.
	open := h.Open("2026-05-05")
	assert.Equal(t, "09:00", open[0])
	assert.NotContains(t, open, "11:00")
	assert.NotContains(t, open, "16:00")
	b, err := bookFor(t, h, "2026-05-05 10:00", asIs)
	require.NoError(t, err)
	letter := letters(t, h, h.Host.Mail, 1)[0].Text
	assert.Contains(t, letter, "booked a meeting with you")
	assert.Contains(t, letter, "Together with: Maren Achterberg")
	assert.Contains(t, letters(t, h, h.Colleague.Mail, 1)[0].Text, "Together with: Ines Valadares")
	client := letters(t, h, "harbour.example", 1)[0]
	assert.Equal(t, "Survey with Ines Valadares and Maren Achterberg", client.Subject)
	assert.Contains(t, client.Text, "With: Ines Valadares and Maren Achterberg, Quillmere")
	require.Eventually(t, func() bool { return len(events(t, h)) == 1 }, time.Minute, 10*time.Millisecond)
	for _, p := range []schedule.Person{h.Host, h.Colleague} {
		board, err := h.App.Board(ctx, p, app.BoardDays{From: "2026-05-05", Days: 1, Whose: app.Own}, 0)
		require.NoError(t, err)
		assert.Len(t, board.Rows[0].Ribbon.Bookings, 1, p.Name)
	}
	assert.Equal(t, "Ines Valadares and Maren Achterberg", b.Host, "the client is told of both")
	board, err := h.App.Board(ctx, h.Host, app.BoardDays{From: "2026-05-05", Days: 1, Whose: app.Own}, 0)
	require.NoError(t, err)
	id := board.Rows[0].Ribbon.Bookings[0].ID
	says, err := h.App.CheckTarget(ctx, h.Host, id, app.Target{Date: "2026-05-05", Minute: 16 * 60})
	require.NoError(t, err)
	assert.Contains(t, told.Join(says.Why, " ").Sentence, "Maren Achterberg: Outside the open hours", "by hand both count too")
	places, err := h.App.Targets(ctx, h.Host, id, app.BoardDays{From: "2026-05-05", Days: 1, Whose: app.Own})
	require.NoError(t, err)
	assert.NotContains(t, places[0].Open, 16*60)
	assert.Contains(t, places[0].Open, 14*60)
	takers, err := h.App.Takers(ctx, h.Host, id)
	require.NoError(t, err)
	assert.Empty(t, takers, "she takes part already")
	refused(t, h.App.HandTo(ctx, h.Host, id, h.Colleague.ID, true), refusal.Invalid)
	_, err = h.App.Move(ctx, linkOf(b), h.At("2026-05-05 17:00"))
	refused(t, err, refusal.Taken)
	_, err = h.App.Move(ctx, linkOf(b), h.At("2026-05-05 14:00"))
	require.NoError(t, err)
	assert.Contains(t, h.Open("2026-05-05"), "10:00")
}

func TestAnswersDecideAndDeadEndsAreFoundFirst(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	_, err := h.App.ChangePerson(ctx, h.Host, h.Colleague.ID, app.PersonChange{Name: "Maren Achterberg", Zone: "Europe/Amsterdam", Role: identity.Member, Bookable: true, Attributes: map[string][]string{"Language ": {"Dutch", " German"}}})
	require.NoError(t, err)
	view := routed(t, h, func(r *schedule.TypeRouting) {
		r.Rules = []schedule.AnswerRule{{Attribute: "language", Values: []string{"Dutch", "Thai"}}}
	})
	require.Len(t, view.Foresight.Dead, 1, "nobody speaks Thai")
	assert.Equal(t, "Thai", view.Foresight.Dead[0].Answers["language"])
	assert.Equal(t, 3, view.Foresight.Cases)
	page, err := h.App.Page(ctx, "quillmere", "survey", false)
	require.NoError(t, err)
	assert.Equal(t, []schedule.PageAsk{{Attribute: "language", Values: []string{"Dutch", "Thai"}}}, page.Asks)
	b, err := bookFor(t, h, "2026-05-05 10:00", func(r *schedule.BookingRequest) { r.Answers = map[string]string{"language": "Dutch"} })
	require.NoError(t, err)
	assert.Equal(t, "Maren Achterberg", b.Host)
	_, err = bookFor(t, h, "2026-05-05 14:00", func(r *schedule.BookingRequest) { r.Answers = map[string]string{"language": "Thai"} })
	refused(t, err, refusal.Taken)

	// A returning client stays with their host, whoever's turn it is.
	routed(t, h, func(r *schedule.TypeRouting) { r.Returning = true })
	for _, at := range []string{"2026-05-06 10:00", "2026-05-06 14:00"} {
		b, err = bookFor(t, h, at, asIs)
		require.NoError(t, err)
		assert.Equal(t, "Maren Achterberg", b.Host)
	}
	// An attribute that a rule speaks of and nobody has any more is a dead end, not a fault.
	_, err = h.App.ChangePerson(ctx, h.Host, h.Colleague.ID, app.PersonChange{Name: "Maren Achterberg", Zone: "Europe/Amsterdam", Role: identity.Member, Bookable: true})
	require.NoError(t, err)
	foresight, err := h.App.PreviewRouting(ctx, h.Host, h.Type.ID, schedule.TypeRouting{
		Mode: routing.InTurn, People: []schedule.PoolMember{{Person: h.Colleague.ID, Weight: 1}}, Rules: []schedule.AnswerRule{{Attribute: "language", Values: []string{"Dutch"}}},
	})
	require.NoError(t, err)
	assert.Len(t, foresight.Dead, 1)
}

func TestWhoMayBookIsKept(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	who := func(who string) {
		_, err := h.App.SaveRouting(ctx, h.Host, h.Type.ID, settings.RoutingChange{Routing: schedule.TypeRouting{Mode: routing.InTurn, People: []schedule.PoolMember{{Person: h.Host.ID, Weight: 1}}}, Who: who})
		require.NoError(t, err)
	}
	who("organisation")
	_, err := bookFor(t, h, "2026-05-05 10:00", asIs)
	assert.Contains(t, refused(t, err, refusal.Forbidden).Sentence, "sign in first")
	_, err = bookFor(t, h, "2026-05-05 10:00", func(r *schedule.BookingRequest) { r.Inside = true })
	require.NoError(t, err)
	who("nobody")
	_, err = bookFor(t, h, "2026-05-05 14:00", func(r *schedule.BookingRequest) { r.Inside = true })
	refused(t, err, refusal.Forbidden)
	require.NoError(t, byHand(h, app.HandBooking{HandTimes: app.HandTimes{Type: h.Type.ID, Date: "2026-05-05", Minute: 14 * 60}, Name: "N", Mail: "n@x.example"}))
}

func TestAllBookingsOfADayAreHandedOverByTheRuleAndBack(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	routed(t, h, func(r *schedule.TypeRouting) { r.Mode = routing.InOrder })
	links := map[string]string{}
	for _, at := range []string{"2026-05-05 10:00", "2026-05-05 11:00", "2026-05-05 14:00", "2026-05-06 10:00"} {
		b, err := bookFor(t, h, at, func(r *schedule.BookingRequest) { r.Mail = "c" + at[8:10] + at[11:13] + "@x.example" })
		require.NoError(t, err)
		require.Equal(t, h.Host.Name, b.Host)
		links[at] = linkOf(b)
	}
	ill := app.HandoverSpan{Person: h.Host.ID, From: "2026-05-05", To: "2026-05-05"}
	plan, err := h.App.PlanHandover(ctx, h.Host, ill)
	require.NoError(t, err)
	require.Len(t, plan.Moves, 3)
	assert.Equal(t, h.Colleague.ID, plan.Moves[0].To)
	assert.Zero(t, plan.Moves[1].To, "at eleven in Lisbon Maren is at lunch")
	assert.Equal(t, "Maren Achterberg doesn't work then.", plan.Moves[1].Why.Sentence)
	_, err = h.App.PlanHandover(ctx, h.Colleague, ill)
	refused(t, err, refusal.Forbidden)

	left, err := h.App.GoAway(ctx, h.Host, app.Away{HandoverSpan: ill, Open: true})
	require.NoError(t, err)
	require.Len(t, left.Moves, 1, "what could not be placed is told")
	hostOf := func(at string) string {
		b, err := h.App.BookingByLink(ctx, links[at])
		require.NoError(t, err, "the client's link stays")
		return b.Host
	}
	assert.Equal(t, h.Colleague.Name, hostOf("2026-05-05 10:00"))
	assert.Equal(t, h.Host.Name, hostOf("2026-05-05 11:00"))
	assert.Equal(t, h.Host.Name, hostOf("2026-05-06 10:00"), "another day")
	told := letters(t, h, "c0510@x.example", 2)
	assert.Equal(t, []string{"REQUEST", "REQUEST"}, []string{told[0].Method, told[1].Method})
	_, err = h.App.Undo(ctx, h.Host)
	require.NoError(t, err)
	assert.Equal(t, h.Host.Name, hostOf("2026-05-05 10:00"))
	assert.Equal(t, h.Host.Name, hostOf("2026-05-05 14:00"))
}

func TestTwoWhoChangeOneTypeAtOnce(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	kind, err := h.App.MeetingType(ctx, h.Host, h.Type.ID)
	require.NoError(t, err)
	mine, theirs := kind.TypeDraft, kind.TypeDraft
	theirs.Name, mine.Name = "Theirs", "Mine"
	_, err = h.App.SaveMeetingType(ctx, h.Host, kind.ID, theirs, settings.Saving{Version: kind.Version})
	require.NoError(t, err)
	_, err = h.App.SaveMeetingType(ctx, h.Host, kind.ID, mine, settings.Saving{Version: kind.Version})
	assert.Contains(t, refused(t, err, refusal.Conflict).Sentence, "since you opened it")
	_, err = h.App.SaveMeetingType(ctx, h.Host, kind.ID, mine, settings.Saving{Version: kind.Version + 1})
	require.NoError(t, err)
}

// Every role tries every action; the table says how it ends.
func TestEveryRoleMayDoWhatTheTableSays(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	act := map[identity.Action]func(p schedule.Person) error{
		identity.ManagePeople: func(p schedule.Person) error { _, err := h.App.WithdrawInvitation(ctx, p, 99); return err },
		identity.ManageTeams: func(p schedule.Person) error {
			_, err := h.App.SaveTeam(ctx, p, 0, app.TeamChange{Name: "Team of " + string(p.Role)})
			return err
		},
		identity.EditWorkspace: func(p schedule.Person) error {
			view, err := h.App.Workspace(ctx, p)
			require.NoError(t, err)
			_, err = h.App.SaveWorkspace(ctx, p, view.Workspace)
			return err
		},
		identity.EditOwn: func(p schedule.Person) error {
			return h.App.AddBlock(ctx, p, app.NewBlock{Date: "2026-05-05", From: 60, To: 120})
		},
		identity.EditEverybodys: func(p schedule.Person) error {
			_, err := h.App.SaveRouting(ctx, p, h.Type.ID, settings.RoutingChange{Routing: schedule.TypeRouting{Mode: routing.InTurn, People: []schedule.PoolMember{{Person: h.Host.ID, Weight: 1}}}, Who: "anyone"})
			return err
		},
		identity.LookAfterHours: func(p schedule.Person) error { _, err := h.App.OnBehalfOf(ctx, p, h.Host.ID); return err },
		identity.HandleBookings: func(p schedule.Person) error {
			_, err := h.App.PlanHandover(ctx, p, app.HandoverSpan{Person: h.Host.ID, From: "2026-05-05", To: "2026-05-05"})
			return err
		},
		identity.SeeEverybodys: func(p schedule.Person) error {
			board, err := h.App.Board(ctx, p, app.BoardDays{From: "2026-05-05", Days: 1, Whose: app.Everybodys}, 0)
			require.NoError(t, err)
			if !board.Rows[0].Handles {
				return &refusal.Refusal{Kind: refusal.Forbidden}
			}
			return nil
		},
		identity.LookAtWorkspace: func(p schedule.Person) error { _, err := h.App.Staff(ctx, p); return err },
	}
	may := map[identity.Role][]identity.Action{
		identity.Owner:       {identity.ManagePeople, identity.ManageTeams, identity.EditWorkspace, identity.EditOwn, identity.EditEverybodys, identity.LookAfterHours, identity.HandleBookings, identity.SeeEverybodys, identity.LookAtWorkspace},
		identity.Coordinator: {identity.ManageTeams, identity.EditWorkspace, identity.EditOwn, identity.EditEverybodys, identity.LookAfterHours, identity.HandleBookings, identity.SeeEverybodys, identity.LookAtWorkspace},
		identity.Member:      {identity.EditOwn, identity.LookAtWorkspace},
		identity.Viewer:      {identity.LookAtWorkspace},
	}
	for role, allowed := range may {
		_, err := h.App.ChangePerson(ctx, h.Host, h.Colleague.ID, app.PersonChange{Name: "Maren", Zone: "Europe/Amsterdam", Role: role, Bookable: true})
		require.NoError(t, err)
		person, err := h.App.Person(ctx, h.Colleague.ID)
		require.NoError(t, err)
		for action, try := range act {
			err := try(person)
			if slices.Contains(allowed, action) {
				assert.NoError(t, err, "%s: %s", role, action)
			} else {
				assert.Error(t, err, "%s: %s", role, action)
			}
		}
	}
}

func TestAnInvitationWorksOnceAndForSevenDays(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	invite := func(mail string) string {
		_, err := h.App.Invite(ctx, h.Host, app.NewInvitation{Name: "Torvald Brekke", Mail: mail, Role: identity.Member})
		require.NoError(t, err)
		text := letters(t, h, mail, 1)[0].Text
		_, secret, _ := strings.Cut(text, "/join/")
		return secret[:24]
	}
	secret := invite("torvald@quillmere.example")
	seen, err := h.App.Invited(ctx, secret)
	require.NoError(t, err)
	assert.Equal(t, "Torvald Brekke", seen.Name)
	_, err = h.App.Join(ctx, secret, app.Joining{Name: "Torvald", Zone: "Europe/Oslo", Password: "short"})
	assert.NotEmpty(t, refused(t, err, refusal.Invalid).Fields["password"])
	joined, err := h.App.Join(ctx, secret, app.Joining{Name: "Torvald Brekke", Zone: "Europe/Oslo", Password: "a lamp in the hall"})
	require.NoError(t, err)
	assert.Equal(t, identity.Member, joined.Role)
	_, _, err = h.App.Identity.SignIn(ctx, "torvald@quillmere.example", "a lamp in the hall", identity.Whence{})
	require.NoError(t, err)
	_, err = h.App.Join(ctx, secret, app.Joining{Name: "Again", Zone: "Europe/Oslo", Password: "a lamp in the hall"})
	assert.Contains(t, refused(t, err, refusal.Over).Sentence, "used already")
	late := invite("late@quillmere.example")
	h.Pass(7*24*time.Hour + time.Second)
	_, err = h.App.Invited(ctx, late)
	assert.Contains(t, refused(t, err, refusal.Over).Sentence, "expired")
	_, err = h.App.Invited(ctx, "nothing")
	refused(t, err, refusal.NotFound)

	// The last owner stays; whoever still has bookings does too, until they are handed over.
	_, err = h.App.RemovePerson(ctx, h.Host, h.Host.ID)
	assert.Contains(t, refused(t, err, refusal.Invalid).Sentence, "needs an owner")
	routed(t, h, func(r *schedule.TypeRouting) { r.People = []schedule.PoolMember{{Person: joined.ID, Weight: 1}} })
	_, err = h.App.RemovePerson(ctx, h.Host, joined.ID)
	assert.Contains(t, refused(t, err, refusal.Invalid).Sentence, "Nobody but Torvald Brekke hosts the meeting type “Survey”")
	routed(t, h, func(*schedule.TypeRouting) {})
	staff, err := h.App.RemovePerson(ctx, h.Host, joined.ID)
	require.NoError(t, err)
	assert.Len(t, staff.People, 2)
	_, _, err = h.App.Identity.SignIn(ctx, "torvald@quillmere.example", "a lamp in the hall", identity.Whence{})
	refused(t, err, refusal.NotSignedIn)
	assert.NotEmpty(t, invite("torvald@quillmere.example"), "and can be invited again")
}

func TestACoordinatorLooksAfterAColleaguesHours(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	routed(t, h, func(r *schedule.TypeRouting) { r.People = r.People[1:] })
	maren, err := h.App.OnBehalfOf(ctx, h.Host, h.Colleague.ID)
	require.NoError(t, err)
	_, err = h.App.AddDayChanges(ctx, maren, "5 May off")
	require.NoError(t, err)
	assert.Empty(t, h.Open("2026-05-05"))
	assert.NotEmpty(t, h.Open("2026-05-06"))
	_, err = h.App.Undo(ctx, h.Colleague)
	refused(t, err, refusal.NotFound)
	_, err = h.App.Undo(ctx, h.Host)
	require.NoError(t, err, "whoever did it can take it back")
	assert.NotEmpty(t, h.Open("2026-05-05"))
}

func TestABookingByHandGoesByTheTypesRuleOrToWhomIsNamed(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	routed(t, h, func(*schedule.TypeRouting) {})
	series := app.HandBooking{HandTimes: app.HandTimes{Type: h.Type.ID, Date: "2026-05-05", Minute: 600, Repeat: "FREQ=DAILY;COUNT=4"}, Name: "N", Mail: "n@x.example"}
	require.NoError(t, byHand(h, series))
	view, err := h.App.TypeRouting(ctx, h.Host, h.Type.ID)
	require.NoError(t, err)
	assert.Equal(t, []int{2, 2}, []int{view.Ledger[0].Given, view.Ledger[1].Given}, "turns go on within a series")
	assert.Equal(t, "Next in turn.", view.Given[0].Why.Sentence)

	// At noon in Lisbon Ines is at lunch and Maren, an hour ahead, at work. At seven in the evening nobody is.
	named := app.HandBooking{HandTimes: app.HandTimes{Type: h.Type.ID, Date: "2026-05-12", Minute: 12 * 60, Host: h.Host.ID}, Name: "N", Mail: "n@x.example"}
	assert.Contains(t, refused(t, byHand(h, named), refusal.OutsideRules).Sentence, "Outside the open hours")
	named.Host = 0
	require.NoError(t, byHand(h, named), "the rule finds who is open")
	named.Minute = 19 * 60
	assert.Contains(t, refused(t, byHand(h, named), refusal.OutsideRules).Sentence, "Outside the open hours")
	named.Outside = true
	require.NoError(t, byHand(h, named))
	board, err := h.App.Board(ctx, h.Host, app.BoardDays{From: "2026-05-12", Days: 1, Whose: app.Own}, 0)
	require.NoError(t, err)
	assert.Len(t, board.Rows[0].Ribbon.Bookings, 1, "wanted anyway, it is the one's who entered it")

	_, err = h.App.BookByHand(ctx, h.Colleague, app.HandBooking{HandTimes: app.HandTimes{Type: h.Type.ID, Date: "2026-05-13", Minute: 600, Host: h.Host.ID}, Name: "N", Mail: "n@x.example"})
	assert.Contains(t, refused(t, err, refusal.Invalid).Fields["host"].Sentence, "Ask a coordinator")
	named.Host, named.Date = 99, "2026-05-14"
	assert.NotEmpty(t, refused(t, byHand(h, named), refusal.Invalid).Fields["host"])
}

// Everyone, teams and people host a type beside each other: who comes later is in it, who goes is out, and whoever was given a place of
// their own keeps it.
func TestAPoolIsOfEveryoneTeamsAndPeopleBesideEachOther(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	north, err := h.App.SaveTeam(ctx, h.Host, 0, app.TeamChange{Name: "North", Members: []int64{h.Colleague.ID}})
	require.NoError(t, err)
	team := north.Teams[0].ID
	hosts := func() []int64 {
		kind, err := h.App.MeetingType(ctx, h.Host, h.Type.ID)
		require.NoError(t, err)
		return kind.Hosts
	}
	routed(t, h, func(r *schedule.TypeRouting) {
		r.Teams, r.People = []int64{team}, []schedule.PoolMember{{Person: h.Host.ID, Weight: 2}}
	})
	assert.Equal(t, []int64{h.Host.ID, h.Colleague.ID}, hosts(), "a person and a team")
	view := routed(t, h, func(r *schedule.TypeRouting) {
		r.Teams, r.People = []int64{team}, []schedule.PoolMember{{Person: h.Colleague.ID, Weight: 3, Through: true}, {Person: h.Host.ID, Weight: 2}}
	})
	assert.Equal(t, []int64{h.Colleague.ID, h.Host.ID}, hosts(), "the set order holds for those of a team too")
	assert.Equal(t, []int{3, 2}, []int{view.Ledger[0].Weight, view.Ledger[1].Weight})
	_, err = h.App.SaveTeam(ctx, h.Host, team, app.TeamChange{Name: "North", Members: []int64{}})
	require.NoError(t, err)
	assert.Equal(t, []int64{h.Host.ID}, hosts(), "whoever leaves the team leaves the pool, their weight notwithstanding")

	h.Run()
	for _, at := range []string{"2026-05-05 10:00", "2026-05-05 14:00"} {
		_, err = bookFor(t, h, at, asIs)
		require.NoError(t, err)
	}
	h.Pass(time.Minute)
	view = routed(t, h, func(r *schedule.TypeRouting) { r.Everyone, r.People = true, []schedule.PoolMember{} })
	assert.Equal(t, []int64{h.Host.ID, h.Colleague.ID}, hosts())
	assert.Equal(t, []int{0, 2}, []int{view.Ledger[0].Credit, view.Ledger[1].Credit}, "whoever has been here for long and is new in the pool starts level")
	for takes, want := range map[bool][]int64{false: {h.Host.ID}, true: {h.Host.ID, h.Colleague.ID}} {
		_, err = h.App.ChangePerson(ctx, h.Host, h.Colleague.ID, app.PersonChange{Name: h.Colleague.Name, Zone: h.Colleague.Zone, Role: h.Colleague.Role, Bookable: takes, Slug: h.Colleague.Slug})
		require.NoError(t, err)
		assert.Equal(t, want, hosts(), "everyone who takes bookings: %v", takes)
	}
	view, err = h.App.TypeRouting(ctx, h.Host, h.Type.ID)
	require.NoError(t, err)
	assert.True(t, view.Routing.Everyone)
	_, err = h.App.SaveRouting(ctx, h.Host, h.Type.ID, settings.RoutingChange{Routing: schedule.TypeRouting{Mode: routing.InTurn, Teams: []int64{team + 9}}, Who: "anyone"})
	assert.Contains(t, refused(t, err, refusal.Invalid).Fields["people"].Sentence, "team")
	_, err = h.App.SaveRouting(ctx, h.Host, h.Type.ID, settings.RoutingChange{Routing: schedule.TypeRouting{Mode: routing.InTurn, People: []schedule.PoolMember{{Person: h.Host.ID, Weight: 1, Through: true}}}, Who: "anyone"})
	refused(t, err, refusal.Invalid)
}
