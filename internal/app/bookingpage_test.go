package app_test

import (
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/intake"
	"corrim/core/routing"
	"corrim/core/told"
	"corrim/internal/app"
	"corrim/internal/identity"
	"corrim/internal/public"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/testhouse"
)

// offers lets the house's type meet its clients in some way.
func offers(t testing.TB, h *testhouse.House, change func(*settings.BookingPageChange)) {
	t.Helper()
	view, err := h.App.BookingPage(ctx, h.Host, h.Type.ID)
	require.NoError(t, err)
	change(&view.BookingPageChange)
	_, err = h.App.SaveBookingPage(ctx, h.Host, h.Type.ID, view.BookingPageChange)
	require.NoError(t, err)
}

func TestTheFormIsCheckedAsItIsAskedAndKeptAsItWasPut(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	offers(t, h, func(c *settings.BookingPageChange) {
		c.Questions = []intake.Question{
			{ID: "loan", Kind: intake.YesNo, Label: "Is it a loan?", Required: true},
			{ID: "lender", Kind: intake.Short, Label: "Who lends it?", Required: true, When: &intake.When{Question: "loan", Is: []string{"yes"}}},
		}
		c.Ways = []schedule.Way{{ID: "video", Kind: "video", Room: schedule.RoomOptions{Passcode: true, RecordingNotice: true}}, {ID: "call", Kind: "phone", Calls: "host"}}
		c.Guests, c.Always = 1, []string{"log@quillmere.example"}
		c.AfterWords, c.AfterAddress, c.AfterPass = "Bring your lux meter.", "https://quillmere.example/thanks?from=corrim", []string{"lender"}
	})
	wrong := func(change func(*schedule.BookingRequest)) map[string]told.Words {
		_, err := bookFor(t, h, "2026-05-05 10:00", change)
		return refused(t, err, refusal.Invalid).Fields
	}
	fields := wrong(func(r *schedule.BookingRequest) {
		r.Name, r.Said, r.Way, r.Guests = "", intake.Given{"loan": {"yes"}}, "call", []string{"a@x.example", "b@x.example", "no"}
	})
	for _, field := range []string{"name", "said.lender", "given", "guests"} {
		assert.NotEmpty(t, fields[field], "%s: all faults at once", field)
	}
	assert.NotEmpty(t, wrong(func(r *schedule.BookingRequest) { r.Way = "by pigeon" })["way"])

	b, err := bookFor(t, h, "2026-05-05 10:00", func(r *schedule.BookingRequest) {
		r.Said, r.Way, r.Given, r.Guests = intake.Given{"loan": {"yes"}, "lender": {" Fort\nErie "}}, "call", "+1 202 555 0123", []string{"guest@x.example"}
	})
	require.NoError(t, err)
	assert.Equal(t, []app.Fact{{Word: "Is it a loan?", What: "yes", Kind: intake.YesNo}, {Word: "Who lends it?", What: "Fort Erie", Kind: intake.Short}}, b.Said)
	assert.Equal(t, []string{"", "host", "+12025550123"}, []string{b.Where, b.Calls, b.Number})
	assert.Empty(t, b.JoinURL, "a call needs no room")
	assert.Equal(t, "https://quillmere.example/thanks?from=corrim&lender=Fort+Erie", b.AfterURL)

	client := letters(t, h, "harbour.example", 1)[0]
	assert.Contains(t, client.Text, "Who lends it?: Fort Erie")
	assert.Contains(t, client.Text, "Bring your lux meter.")
	assert.Contains(t, letters(t, h, h.Host.Mail, 1)[0].Text, "You call +12025550123")
	assert.Contains(t, letters(t, h, "log@quillmere.example", 1)[0].Subject, "Booked")
	guest := letters(t, h, "guest@x.example", 1)[0]
	assert.Equal(t, "REQUEST", guest.Method)
	assert.NotContains(t, guest.Text, "/b/", "the link to move it is the client's")

	byVideo, err := bookFor(t, h, "2026-05-05 14:00", func(r *schedule.BookingRequest) {
		r.Said, r.Mail = intake.Given{"loan": {"no"}}, "other@x.example"
	})
	require.NoError(t, err)
	assert.NotEmpty(t, byVideo.Passcode)
	assert.True(t, byVideo.Recorded)
	other := letters(t, h, "other@x.example", 1)[0].Text
	assert.Contains(t, other, "Passcode: "+byVideo.Passcode)
	assert.Contains(t, other, "The meeting is recorded.")

	offers(t, h, func(c *settings.BookingPageChange) { c.Questions[1].Label = "Which lender?" })
	b, err = h.App.BookingByLink(ctx, linkOf(b))
	require.NoError(t, err)
	assert.Equal(t, "Who lends it?", b.Said[1].Word, "as it was put then")
}

func TestAnOfferThatCantBeIsRefusedFieldByField(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	view, err := h.App.BookingPage(ctx, h.Host, h.Type.ID)
	require.NoError(t, err)
	draft := view.BookingPageChange
	draft.Ways = []schedule.Way{{ID: "a", Kind: "ours"}, {ID: "b", Kind: "own-room", Text: "javascript:alert(1)"}}
	draft.Questions = []intake.Question{{ID: "q", Kind: intake.One, Label: "Which?"}}
	draft.Always, draft.AfterAddress = []string{"nobody"}, "javascript:alert(1)"
	_, err = h.App.SaveBookingPage(ctx, h.Host, h.Type.ID, draft)
	fields := refused(t, err, refusal.Invalid).Fields
	for _, field := range []string{"ways.0", "ways.1", "questions.0", "always", "afterAddress"} {
		assert.NotEmpty(t, fields[field], field)
	}
	seen, err := h.App.PreviewBookingPage(ctx, h.Host, h.Type.ID, draft)
	require.NoError(t, err)
	for field, words := range fields {
		assert.Equal(t, words.Sentence, seen.Wrong[field].Sentence, "the preview says the same before saving")
	}
	_, err = h.App.SaveBookingPage(ctx, h.Colleague, h.Type.ID, view.BookingPageChange)
	refused(t, err, refusal.NotFound)
}

func TestARequestIsDecidedByTheHost(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	stop := h.Run()
	h.Connect()
	offers(t, h, func(c *settings.BookingPageChange) {
		c.OnRequest, c.KeepHours, c.CancelUntil, c.AskReason = true, 24, -1, true
	}) // a request can be withdrawn anyway
	ask := func(at, mail string) app.ClientBooking {
		b, err := bookFor(t, h, at, func(r *schedule.BookingRequest) { r.Mail = mail })
		require.NoError(t, err)
		assert.Equal(t, "requested", b.State)
		return b
	}
	asked := ask("2026-05-05 10:00", "one@x.example")
	assert.NotContains(t, h.Open("2026-05-05"), "10:00", "its time is kept")
	assert.Empty(t, letters(t, h, "one@x.example", 1)[0].Method, "no invitation yet")
	assert.Contains(t, letters(t, h, h.Host.Mail, 1)[0].Subject, "Request: ")
	assert.Empty(t, events(t, h), "nothing in the calendar yet")
	today, err := h.App.Today(ctx, h.Host)
	require.NoError(t, err)
	require.Len(t, today.Requests, 1)
	id := today.Requests[0].ID

	// Other times are proposed; the client takes one.
	_, err = h.App.Propose(ctx, h.Host, id, nil, "")
	refused(t, err, refusal.Invalid)
	_, err = h.App.Propose(ctx, h.Host, id, []public.HandPicked{{Date: "2026-05-06", Minute: 18 * 60}, {Date: "2026-05-07", Minute: 18 * 60}}, "I am away that day.")
	require.NoError(t, err)
	told := letters(t, h, "one@x.example", 2)
	assert.Contains(t, told[1].Text, "Proposed: Wednesday 6 May 2026, 14:00", "on the client's clock")
	_, err = h.App.TakeProposed(ctx, linkOf(asked), h.At("2026-05-08 18:00"))
	refused(t, err, refusal.Taken)
	taken, err := h.App.TakeProposed(ctx, linkOf(asked), h.At("2026-05-06 18:00"))
	require.NoError(t, err)
	assert.Equal(t, "booked", taken.State)
	assert.Contains(t, h.Open("2026-05-05"), "10:00")
	assert.Equal(t, "REQUEST", letters(t, h, "one@x.example", 3)[2].Method, "now comes the invitation, once")
	require.Eventually(t, func() bool { return len(events(t, h)) == 1 }, time.Minute, 10*time.Millisecond)

	// Approved, declined, withdrawn, and not decided in time.
	ask("2026-05-05 10:00", "two@x.example")
	letters(t, h, "two@x.example", 1)
	today, _ = h.App.Today(ctx, h.Host)
	today, err = h.App.Approve(ctx, h.Host, today.Requests[0].ID, "")
	require.NoError(t, err)
	assert.Empty(t, today.Requests)
	assert.Equal(t, "REQUEST", letters(t, h, "two@x.example", 2)[1].Method)
	declined := ask("2026-05-05 14:00", "three@x.example")
	letters(t, h, "three@x.example", 1)
	today, _ = h.App.Today(ctx, h.Host)
	_, err = h.App.Decline(ctx, h.Host, today.Requests[0].ID, "The lamps are being moved.\r\n\r\nCome in June\x00!")
	require.NoError(t, err)
	assert.Contains(t, letters(t, h, "three@x.example", 2)[1].Text, "The lamps are being moved.\r\n\r\nCome in June!", "its lines stay, as mail ends them")
	seen, err := h.App.BookingByLink(ctx, linkOf(declined))
	require.NoError(t, err)
	assert.Equal(t, "declined", seen.State)
	_, err = h.App.Move(ctx, linkOf(declined), h.At("2026-05-05 15:00"))
	refused(t, err, refusal.Over)
	withdrawn := ask("2026-05-05 14:00", "four@x.example")
	letters(t, h, "four@x.example", 1)
	_, err = h.App.Cancel(ctx, linkOf(withdrawn), "")
	require.NoError(t, err)
	assert.Empty(t, letters(t, h, "four@x.example", 2)[1].Method, "there is no invitation to take back")
	late := ask("2026-05-07 10:00", "five@x.example")
	letters(t, h, "five@x.example", 1)
	h.Pass(20 * time.Hour) // the moment moves on
	today, _ = h.App.Today(ctx, h.Host)
	_, err = h.App.Propose(ctx, h.Host, today.Requests[0].ID, []public.HandPicked{{Date: "2026-05-07", Minute: 15 * 60}}, "")
	require.NoError(t, err)
	letters(t, h, "five@x.example", 2)
	h.Pass(5 * time.Hour)
	held := ask("2026-05-06 10:00", "six@x.example") // done after the job of the first moment, if that had given back
	letters(t, h, "six@x.example", 1)
	still, err := h.App.BookingByLink(ctx, linkOf(late))
	require.NoError(t, err)
	assert.Equal(t, "requested", still.State, "the client has got time to answer")
	_, err = h.App.Cancel(ctx, linkOf(held), "")
	require.NoError(t, err)
	h.Pass(20 * time.Hour)
	stop()
	h.Restart() // it gives times back as soon as it starts
	h.Run()
	require.Eventually(t, func() bool {
		b, err := h.App.BookingByLink(ctx, linkOf(late))
		return err == nil && b.State == "expired"
	}, time.Minute, 10*time.Millisecond)
	assert.Contains(t, h.Open("2026-05-07"), "10:00", "given back")
	assert.Contains(t, letters(t, h, "five@x.example", 3)[2].Subject, "Not decided")
}

// A request of a meeting together waits for any of its hosts, and is told of once.
func TestARequestOfAMeetingTogetherIsAnyHostsToDecide(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	routed(t, h, func(r *schedule.TypeRouting) { r.Mode = routing.Together })
	offers(t, h, func(c *settings.BookingPageChange) { c.OnRequest = true })
	b, err := bookFor(t, h, "2026-05-05 10:00", asIs)
	require.NoError(t, err)
	for _, host := range []schedule.Person{h.Host, h.Colleague} {
		today, err := h.App.Today(ctx, host)
		require.NoError(t, err)
		require.Len(t, today.Requests, 1, host.Name)
	}
	today, err := h.App.Today(ctx, h.Colleague)
	require.NoError(t, err)
	id := today.Requests[0].ID
	_, err = h.App.AskToChooseAgain(ctx, h.Host, id, "")
	refused(t, err, refusal.Over)
	_, err = h.App.Approve(ctx, h.Colleague, id, "")
	require.NoError(t, err)
	seen, err := h.App.BookingByLink(ctx, linkOf(b))
	require.NoError(t, err)
	assert.Equal(t, "booked", seen.State)
}

func TestACodeProvesTheAddressFirst(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	offers(t, h, func(c *settings.BookingPageChange) { c.Proof = "code" })
	hold := func(mail string) (app.ClientBooking, string) {
		b, err := bookFor(t, h, "2026-05-05 10:00", func(r *schedule.BookingRequest) { r.Mail = mail })
		require.NoError(t, err)
		assert.Equal(t, "unproved", b.State)
		return b, regexp.MustCompile(`\d{6}`).FindString(letters(t, h, mail, 1)[0].Subject)
	}
	b, code := hold("one@x.example")
	assert.NotContains(t, h.Open("2026-05-05"), "10:00")
	plan, err := h.App.PlanHandover(ctx, h.Host, app.HandoverSpan{Person: h.Host.ID, From: "2026-05-05", To: "2026-05-05"})
	require.NoError(t, err)
	assert.Empty(t, plan.Moves, "what may be gone in minutes is not handed over")
	_, err = h.App.Prove(ctx, linkOf(b), "12345")
	assert.Contains(t, refused(t, err, refusal.Invalid).Fields["code"].Sentence, "tries left: 4")
	proved, err := h.App.Prove(ctx, linkOf(b), " "+code[:3]+" "+code[3:])
	require.NoError(t, err)
	assert.Equal(t, "booked", proved.State)
	assert.Len(t, letters(t, h, h.Host.Mail, 1), 1, "the host hears of it only now")
	_, err = h.App.Cancel(ctx, linkOf(b), "")
	require.NoError(t, err)

	b, code = hold("two@x.example")
	for range 4 {
		_, err = h.App.Prove(ctx, linkOf(b), "wrong")
		refused(t, err, refusal.Invalid)
	}
	_, err = h.App.Prove(ctx, linkOf(b), "wrong")
	assert.Contains(t, refused(t, err, refusal.Over).Sentence, "five times")
	after, err := h.App.Prove(ctx, linkOf(b), code)
	require.NoError(t, err)
	assert.Equal(t, "expired", after.State, "the right code comes too late")
	require.Eventually(t, func() bool { return h.JobsWaiting() == 0 }, time.Minute, 10*time.Millisecond)
	assert.Len(t, letters(t, h, "two@x.example", 1), 1, "nobody is told of what was never proved")
	assert.Contains(t, h.Open("2026-05-05"), "10:00")
}

func TestACodeComesAgainAlsoToACorrectedAddress(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	offers(t, h, func(c *settings.BookingPageChange) { c.Proof = "code" })
	codes := func(mail string, n int) (out []string) {
		for _, m := range letters(t, h, mail, n) {
			out = append(out, regexp.MustCompile(`\d{6}`).FindString(m.Subject))
		}
		return out
	}
	b, err := bookFor(t, h, "2026-05-05 10:00", func(r *schedule.BookingRequest) { r.Mail = "kepeer@x.example" })
	require.NoError(t, err)
	wrong := codes("kepeer@x.example", 1)[0]
	_, err = h.App.SendCode(ctx, linkOf(b), app.CodeTo{Mail: "keeper@"})
	assert.NotEmpty(t, refused(t, err, refusal.Invalid).Fields["mail"])
	b, err = h.App.SendCode(ctx, linkOf(b), app.CodeTo{Mail: "keeper@x.example"})
	require.NoError(t, err)
	assert.Equal(t, "keeper@x.example", b.Mail)
	right := codes("keeper@x.example", 1)[0]
	_, err = h.App.Prove(ctx, linkOf(b), wrong)
	refused(t, err, refusal.Invalid) // whoever read it at the wrong address has proved nothing about the right one
	_, err = h.App.SendCode(ctx, linkOf(b), app.CodeTo{Mail: ""})
	require.NoError(t, err)
	assert.Equal(t, []string{right, right}, codes("keeper@x.example", 2))
	_, err = h.App.SendCode(ctx, linkOf(b), app.CodeTo{Mail: "somebody@else.example"})
	refused(t, err, refusal.TooMany)
	b, err = h.App.Prove(ctx, linkOf(b), right)
	require.NoError(t, err)
	assert.Equal(t, "booked", b.State)
	b, err = h.App.SendCode(ctx, linkOf(b), app.CodeTo{Mail: "somebody@else.example"})
	require.NoError(t, err)
	assert.Equal(t, "keeper@x.example", b.Mail, "what is proved stays")
}

func TestMovingAndCancellingHaveTheirLimits(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	offers(t, h, func(c *settings.BookingPageChange) { c.MoveUntil, c.CancelUntil, c.AskReason = 24*60, 60, true })
	b := book(t, h, "2026-05-05 10:00")
	_, err := h.App.Cancel(ctx, linkOf(b), " ")
	assert.NotEmpty(t, refused(t, err, refusal.Invalid).Fields["reason"])
	h.Pass(2 * time.Hour) // 23 hours before it begins
	b, err = h.App.BookingByLink(ctx, linkOf(b))
	require.NoError(t, err)
	require.NotNil(t, b.CantMove)
	assert.Contains(t, b.CantMove.Sentence, "24 hours before it begins")
	assert.Nil(t, b.CantCancel)
	_, err = h.App.Move(ctx, linkOf(b), h.At("2026-05-06 10:00"))
	refused(t, err, refusal.Over)
	_, err = h.App.Cancel(ctx, linkOf(b), "The roof leaks.")
	require.NoError(t, err)
	offers(t, h, func(c *settings.BookingPageChange) { c.CancelUntil = -1 })
	b = book(t, h, "2026-05-07 10:00")
	_, err = h.App.Cancel(ctx, linkOf(b), "x")
	assert.Contains(t, refused(t, err, refusal.Over).Sentence, "Write to your host")
}

func TestTypesAreListedSwitchedOffCopiedAndRemoved(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	names := func() (all []string) {
		page, err := h.App.WorkspacePage(ctx, "quillmere")
		require.NoError(t, err)
		for _, group := range page.Groups {
			for _, kind := range group.Types {
				all = append(all, group.Category+"/"+kind.Name)
			}
		}
		return all
	}
	offers(t, h, func(c *settings.BookingPageChange) { c.Category = "Light" })
	assert.Equal(t, []string{"Light/Survey"}, names())
	copied, err := h.App.DuplicateType(ctx, h.Host, h.Type.ID)
	require.NoError(t, err)
	assert.Equal(t, "survey-2", copied.Slug)
	assert.Equal(t, []string{"Light/Survey"}, names(), "a copy is off until somebody has looked at it")
	types, err := h.App.OrderTypes(ctx, h.Host, []int64{copied.ID, h.Type.ID})
	require.NoError(t, err)
	assert.Equal(t, copied.ID, types[0].ID)
	types, err = h.App.OrderTypes(ctx, h.Colleague, []int64{h.Type.ID, copied.ID})
	require.NoError(t, err)
	assert.Empty(t, types, "she sees none")
	types, err = h.App.MeetingTypes(ctx, h.Host, settings.TypeFilter{All: true})
	require.NoError(t, err)
	assert.Equal(t, copied.ID, types[0].ID, "and moves none")

	offers(t, h, func(c *settings.BookingPageChange) { c.Listing = "link" })
	assert.Empty(t, names())
	b := book(t, h, "2026-05-05 10:00")
	offers(t, h, func(c *settings.BookingPageChange) { c.Listing = "off" })
	_, err = bookFor(t, h, "2026-05-05 14:00", asIs)
	assert.Contains(t, refused(t, err, refusal.Over).Sentence, "Nothing you typed is lost", "switched off while the form was open")
	_, err = h.App.RemoveType(ctx, h.Host, h.Type.ID)
	assert.Contains(t, refused(t, err, refusal.Invalid).Sentence, "1 coming bookings")
	_, err = h.App.Cancel(ctx, linkOf(b), "")
	require.NoError(t, err)
	types, err = h.App.RemoveType(ctx, h.Host, h.Type.ID)
	require.NoError(t, err)
	assert.Len(t, types, 1)
	_, err = h.App.Page(ctx, "quillmere", "survey", false)
	refused(t, err, refusal.NotFound)
	_, err = h.App.BookingByLink(ctx, linkOf(b))
	require.NoError(t, err, "what was booked can still be looked at")
	_, err = h.App.Undo(ctx, h.Host)
	require.NoError(t, err)
	_, err = h.App.Page(ctx, "quillmere", "survey", false)
	require.NoError(t, err)
}

func TestAPersonsPageShowsWhatSurelyGoesToThem(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	routed(t, h, func(r *schedule.TypeRouting) { r.Mode = routing.ByClient })
	page, err := h.App.PersonPage(ctx, "quillmere", "maren-achterberg")
	require.NoError(t, err)
	assert.Equal(t, "/p/quillmere/survey?with=maren-achterberg", page.Groups[0].Types[0].Path)
	routed(t, h, func(*schedule.TypeRouting) {})
	page, err = h.App.PersonPage(ctx, "quillmere", "maren-achterberg")
	require.NoError(t, err)
	assert.Empty(t, page.Groups, "in turn it may be anyone's")
	view, err := h.App.Workspace(ctx, h.Host)
	require.NoError(t, err)
	view.Front.Unpublished, view.Front.Hidden = true, true
	_, err = h.App.SaveWorkspace(ctx, h.Host, view.Workspace)
	require.NoError(t, err)
	_, err = h.App.PersonPage(ctx, "quillmere", "maren-achterberg")
	refused(t, err, refusal.NotFound)
	_, err = h.App.WorkspacePage(ctx, "quillmere")
	refused(t, err, refusal.NotFound)
	assert.True(t, h.App.KeptFromSearch(ctx, "quillmere"))
	_, err = h.App.ChangePerson(ctx, h.Host, h.Colleague.ID, app.PersonChange{Name: "M", Zone: "UTC", Role: identity.Member, Slug: "ines-valadares"})
	assert.NotEmpty(t, refused(t, err, refusal.Invalid).Fields["slug"])
}

func TestConsentIsAskedAndKeptWithItsWords(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	view, err := h.App.Workspace(ctx, h.Host)
	require.NoError(t, err)
	view.Front.Consent = "I agree to the keeping of what I enter."
	_, err = h.App.SaveWorkspace(ctx, h.Host, view.Workspace)
	require.NoError(t, err)
	_, err = bookFor(t, h, "2026-05-05 10:00", asIs)
	assert.NotEmpty(t, refused(t, err, refusal.Invalid).Fields["consent"])
	_, err = bookFor(t, h, "2026-05-05 10:00", func(r *schedule.BookingRequest) { r.Consent = true })
	require.NoError(t, err)
	client, err := h.App.ClientByMail(ctx, h.Host, "KEEPER@harbour.example")
	require.NoError(t, err)
	assert.Equal(t, []app.ConsentLog{{Text: "I agree to the keeping of what I enter.", At: h.Now().UTC()}}, client.Consents)
}

func TestClientsAreKnownByWhatTheyBooked(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	b := book(t, h, "2026-05-05 10:00")
	_, err := bookFor(t, h, "2026-05-06 10:00", func(r *schedule.BookingRequest) { r.Name, r.Mail = "Harbour (new name)", "Keeper@Harbour.example" })
	require.NoError(t, err)
	_, err = h.App.Cancel(ctx, linkOf(b), "The roof leaks.")
	require.NoError(t, err)
	list, err := h.App.Clients(ctx, h.Host, "HARB")
	require.NoError(t, err)
	require.Len(t, list, 1)
	assert.Equal(t, "Harbour (new name)", list[0].Name)
	assert.Equal(t, 2, list[0].Bookings)
	list, err = h.App.Clients(ctx, h.Colleague, "")
	require.NoError(t, err)
	assert.Empty(t, list, "a member sees their own")
	client, err := h.App.SaveClientNotes(ctx, h.Host, list0(t, h), "Prefers mornings.")
	require.NoError(t, err)
	assert.Equal(t, "Prefers mornings.", client.Notes)
	require.Len(t, client.History, 2)
	assert.Equal(t, "The roof leaks.", client.History[1].Steps[1].Note)

	// Whether somebody came is kept once the meeting has begun.
	id := client.History[0].ID
	refused(t, h.App.Attendance(ctx, h.Host, id, "attended"), refusal.Over)
	h.Pass(50 * time.Hour)
	require.NoError(t, h.App.Attendance(ctx, h.Host, id, "no-show"))
	require.NoError(t, h.App.Attendance(ctx, h.Host, id, "attended"))
	client, err = h.App.ClientByMail(ctx, h.Host, list0(t, h))
	require.NoError(t, err)
	assert.Equal(t, "attended", client.History[0].State)
	refused(t, h.App.Attendance(ctx, h.Colleague, id, "attended"), refusal.NotFound)
}

func list0(t *testing.T, h *testhouse.House) string {
	list, err := h.App.Clients(ctx, h.Host, "")
	require.NoError(t, err)
	return strings.ToLower(list[0].Mail)
}

var visitor = identity.Whence{Address: "192.0.2.1"}

func TestOneVisitorCannotUseUpTheRoomForFilesOfAll(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	offers(t, h, func(c *settings.BookingPageChange) {
		c.Questions = []intake.Question{{ID: "plan", Kind: intake.File, Label: "A floor plan?"}}
	})
	large := []byte(strings.Repeat("twelve lux ", 350_000))
	for n := range 7 {
		_, err := h.App.TakeFile(ctx, "quillmere", "survey", "plan.txt", large, visitor)
		if n < 6 {
			require.NoError(t, err)
			continue
		}
		assert.Contains(t, refused(t, err, refusal.TooMany).Sentence, "Nothing is lost")
	}
	sent, err := h.App.TakeFile(ctx, "quillmere", "survey", "plan.txt", large, identity.Whence{Address: "192.0.2.2"})
	require.NoError(t, err, "somebody else sends theirs")
	_, err = bookFor(t, h, "2026-05-05 10:00", func(r *schedule.BookingRequest) { r.Said = intake.Given{"plan": {sent.Token}} })
	require.NoError(t, err)
}

func TestFilesAreTakenByWhatIsInThemAndSeenByHostsOnly(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	pdf := []byte("%PDF-1.7 made up")
	_, err := h.App.TakeFile(ctx, "quillmere", "survey", "plan.pdf", pdf, visitor)
	refused(t, err, refusal.Invalid)
	offers(t, h, func(c *settings.BookingPageChange) {
		c.Questions = []intake.Question{{ID: "plan", Kind: intake.File, Label: "A floor plan?", Required: true}}
	})
	for name, data := range map[string][]byte{
		"plan.pdf": []byte("<script>alert(1)</script>"), "plan.html": []byte("hello there"), "plan.exe": pdf, "empty.txt": {}, "huge.txt": []byte(strings.Repeat("x", 5<<20)), "plan": pdf,
	} {
		_, err := h.App.TakeFile(ctx, "quillmere", "survey", name, data, visitor)
		assert.NotEmpty(t, refused(t, err, refusal.Invalid).Fields["file"], name)
	}
	sent, err := h.App.TakeFile(ctx, "quillmere", "survey", `C:\secret\..\..\etc\"plan"`+"\r\n.pdf", pdf, visitor)
	require.NoError(t, err)
	assert.Equal(t, `"plan" .pdf`, sent.Name, "no folders, one line")

	fields := func(token string) map[string]told.Words {
		_, err := bookFor(t, h, "2026-05-05 10:00", func(r *schedule.BookingRequest) { r.Said = intake.Given{"plan": {token}} })
		return refused(t, err, refusal.Invalid).Fields
	}
	assert.NotEmpty(t, fields("")["said.plan"])
	assert.Contains(t, fields("guessed")["said.plan"].Sentence, "Choose it again")
	b, err := bookFor(t, h, "2026-05-05 10:00", func(r *schedule.BookingRequest) { r.Said = intake.Given{"plan": {sent.Token}} })
	require.NoError(t, err)
	assert.Equal(t, `"plan" .pdf`, b.Said[0].What)
	_, err = bookFor(t, h, "2026-05-05 14:00", func(r *schedule.BookingRequest) { r.Said = intake.Given{"plan": {sent.Token}} })
	assert.NotEmpty(t, refused(t, err, refusal.Invalid).Fields["said.plan"], "one file is of one booking")
	client, err := h.App.ClientByMail(ctx, h.Host, "keeper@harbour.example")
	require.NoError(t, err)
	require.Len(t, client.History[0].Files, 1)
	id := client.History[0].Files[0].ID
	_, media, data, err := h.App.File(ctx, h.Host, id)
	require.NoError(t, err)
	assert.Equal(t, "application/pdf", media)
	assert.Equal(t, pdf, data)
	_, _, _, err = h.App.File(ctx, h.Colleague, id)
	refused(t, err, refusal.NotFound)
}

func TestAClientConfirmsShortlyBefore(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	b := book(t, h, "2026-05-07 10:00")
	assert.False(t, b.MayConfirm, "three days before, it would mean little")
	_, err := h.App.Confirm(ctx, linkOf(b))
	refused(t, err, refusal.Over)
	h.Pass(26 * time.Hour)
	for range 2 { // sent twice
		b, err = h.App.Confirm(ctx, linkOf(b))
		require.NoError(t, err)
	}
	assert.True(t, b.Confirmed)
	assert.False(t, b.MayConfirm)
	seen := func() (told []string, confirmed bool) {
		today, err := h.App.Today(ctx, h.Host)
		require.NoError(t, err)
		require.Len(t, today.Meetings, 1)
		for _, step := range today.Recent {
			told = append(told, step.Kind)
		}
		return told, today.Meetings[0].Confirmed
	}
	told, confirmed := seen()
	assert.Equal(t, []string{"confirmed", "booked"}, told)
	assert.True(t, confirmed)

	b, err = h.App.Move(ctx, linkOf(b), h.At("2026-05-06 15:00"))
	require.NoError(t, err)
	assert.False(t, b.Confirmed, "they said so of another time")
	assert.True(t, b.MayConfirm)
	_, confirmed = seen()
	assert.False(t, confirmed)
	assert.Len(t, letters(t, h, "harbour.example", 2), 2, "nobody is mailed about it: booked and moved")
	h.Pass(40 * time.Hour)
	_, err = h.App.Confirm(ctx, linkOf(b))
	refused(t, err, refusal.Over)
}

func TestClientsReadWhichNumberTheyCall(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	view, err := h.App.BookingPage(ctx, h.Host, h.Type.ID)
	require.NoError(t, err)
	view.Ways = []schedule.Way{{ID: "ring", Kind: "phone", Calls: "client"}}
	_, err = h.App.SaveBookingPage(ctx, h.Host, h.Type.ID, view.BookingPageChange)
	assert.Equal(t, "Enter the number that clients call.", refused(t, err, refusal.Invalid).Fields["ways.0"].Sentence)
	offers(t, h, func(c *settings.BookingPageChange) {
		c.Ways = []schedule.Way{{ID: "ring", Kind: "phone", Calls: "client", Text: "+351 21 000 0123"}}
	})
	b := book(t, h, "2026-05-05 10:00")
	assert.Equal(t, []string{"phone", "client", "+351 21 000 0123"}, []string{b.Way, b.Calls, b.Number})
	assert.Contains(t, letters(t, h, "harbour.example", 1)[0].Text, "You call us. +351 21 000 0123")
	assert.Contains(t, letters(t, h, h.Host.Mail, 1)[0].Text, "The client calls you.")
	file, err := h.App.BookingFile(ctx, linkOf(b))
	require.NoError(t, err)
	assert.Contains(t, string(file), "LOCATION:+351 21 000 0123")
}

// Several clients can ask for one time; it is the one's who is approved, and the others can be offered another.
func TestSeveralCanAskForOneTime(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	offers(t, h, func(c *settings.BookingPageChange) { c.OnRequest, c.Several, c.KeepHours = true, true, 24 })
	ask := func(at, mail string) app.ClientBooking {
		b, err := bookFor(t, h, at, func(r *schedule.BookingRequest) { r.Mail = mail })
		require.NoError(t, err)
		return b
	}
	first := ask("2026-05-05 10:00", "one@x.example")
	assert.True(t, first.Shared)
	assert.Contains(t, h.Open("2026-05-05"), "10:00", "it is kept for nobody")
	feeds, err := h.App.RenewFeeds(ctx, h.Host, true)
	require.NoError(t, err)
	busy, err := h.App.BusyFeed(ctx, strings.Split(feeds.Busy, "/")[4])
	require.NoError(t, err)
	assert.NotContains(t, string(busy), "\nFREEBUSY", "nobody is told that it is taken")
	assert.Contains(t, letters(t, h, "one@x.example", 1)[0].Text, "Others can ask for this time too; you hear from us by")
	second := ask("2026-05-05 10:00", "two@x.example")
	today, err := h.App.Today(ctx, h.Host)
	require.NoError(t, err)
	require.Len(t, today.Requests, 2)
	assert.Equal(t, []int64{1, 1}, []int64{today.Requests[0].Asking, today.Requests[1].Asking}, "they overlap")
	assert.False(t, today.Requests[0].Taken)
	id := map[string]int64{}
	for _, r := range today.Requests {
		id[r.Mail] = r.ID
	}

	today, err = h.App.Approve(ctx, h.Host, id["two@x.example"], "")
	require.NoError(t, err)
	require.Len(t, today.Requests, 1)
	assert.True(t, today.Requests[0].Taken)
	assert.NotContains(t, h.Open("2026-05-05"), "10:00", "now it is somebody's")
	_, err = h.App.Approve(ctx, h.Host, id["one@x.example"], "")
	assert.Contains(t, refused(t, err, refusal.Taken).Words.Sentence, "Propose other times")
	_, err = h.App.Move(ctx, linkOf(first), h.At("2026-05-06 10:00"))
	require.NoError(t, err, "the client asks for another time")
	assert.Contains(t, h.Open("2026-05-06"), "10:00", "which is kept for nobody either")
	_, err = h.App.Propose(ctx, h.Host, id["one@x.example"], []public.HandPicked{{Date: "2026-05-05", Minute: 10 * 60}, {Date: "2026-05-07", Minute: 18 * 60}}, "")
	require.NoError(t, err)
	_, err = h.App.TakeProposed(ctx, linkOf(first), h.At("2026-05-05 10:00"))
	refused(t, err, refusal.Taken)
	taken, err := h.App.TakeProposed(ctx, linkOf(first), h.At("2026-05-07 18:00"))
	require.NoError(t, err)
	assert.Equal(t, "booked", taken.State)
	assert.False(t, taken.Shared)
	_, err = h.App.Move(ctx, linkOf(second), h.At("2026-05-07 18:00"))
	refused(t, err, refusal.Taken)
}
