package app_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/intake"
	"corrim/core/message"
	"corrim/internal/app"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	mailbox "corrim/internal/standin/mail"
	"corrim/internal/testhouse"
)

func inEnglish(subject, opening string) message.Own {
	return message.Own{"en": {Subject: subject, Opening: opening}}
}

// lined is the text of a letter, its lines ended as the program writes them.
func lined(l *mailbox.Letter) string { return strings.ReplaceAll(l.Text, "\r\n", "\n") }

func TestOwnWordsAreWhatGoesOut(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	reminder := clientRule(60, message.Before, message.Always)
	reminder.Words = inEnglish("{{time}} today", "{{client}}, see you at {{time}} for {{minutes}} minutes.{{#remark}} You wrote: {{remark}}{{/remark}}")
	second := clientRule(120, message.Before, message.Always)
	_, err := h.App.SaveMessages(ctx, h.Host, 0, app.MessageDraft{
		Rules: []message.Rule{reminder, second},
		Words: map[message.Kind]message.Own{
			"client-booked": inEnglish("Yours: {{type}}", "We look forward to {{day}}.\nBring the plans."),
		},
	})
	require.NoError(t, err)
	_, err = bookFor(t, h, "2026-05-05 15:00", func(r *schedule.BookingRequest) { r.Remark = "<b>Bring</b> {{code}}" })
	require.NoError(t, err)
	first := letters(t, h, "keeper@harbour.example", 1)[0]
	assert.Equal(t, "Yours: Survey", first.Subject)
	assert.True(t, strings.HasPrefix(lined(first), "We look forward to Tuesday 5 May.\nBring the plans.\n\nWhat: Survey\n"), first.Text)
	assert.NotEmpty(t, first.Calendar, "the invitation comes with it, whatever the words are")
	until(t, h, "2026-05-05 14:01")
	reminders := letters(t, h, "keeper@harbour.example", 3)[1:]
	assert.Contains(t, reminders[0].Text, "Your meeting begins", "another reminder has its own words, or none")
	assert.Equal(t, "11:00 today", reminders[1].Subject, "on the client's clock")
	assert.Contains(t, lined(reminders[1]), "Harbour Maritime, see you at 11:00 for 50 minutes. You wrote: <b>Bring</b> {{code}}\n", "what the client writes is no template")
	assert.Contains(t, reminders[1].HTML, "&lt;b&gt;Bring", "and no markup")

	_, err = bookFor(t, h, "2026-05-06 15:00", func(r *schedule.BookingRequest) { r.Language, r.Mail = "de", "lotse@harbour.example" })
	require.NoError(t, err)
	assert.Equal(t, "Ihr Termin ist gebucht.", strings.Split(lined(letters(t, h, "lotse@harbour.example", 1)[0]), "\n")[0], "a language without own words has the built-in ones")
}

func TestEntriesInCalendarsHaveTitlesOfTheirOwn(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Connect()
	h.Run()
	_, err := h.App.SaveMessages(ctx, h.Host, h.Type.ID, app.MessageDraft{Words: map[message.Kind]message.Own{
		message.EntryClient: {"en": {Subject: "Light with {{host}}", Opening: "Bring the plans, {{client}}."}}, message.EntryHosts: {"en": {Subject: "{{client}}: {{time}}"}},
	}})
	require.NoError(t, err)
	book(t, h, "2026-05-05 15:00")
	invitation := string(letters(t, h, "keeper@harbour.example", 1)[0].Calendar)
	unfolded := strings.ReplaceAll(invitation, "\r\n ", "")
	assert.Contains(t, unfolded, "SUMMARY:Light with Ines Valadares\r\n")
	assert.Contains(t, unfolded, `DESCRIPTION:Bring the plans\, Harbour Maritime.\n\nWhat: Survey\n`)
	require.Eventually(t, func() bool {
		return strings.Contains(strings.Join(h.Calendars.Texts("ines", 0), ""), "SUMMARY:Harbour Maritime: 15:00")
	}, time.Minute, 10*time.Millisecond)
	shown, err := h.App.ShowMessage(ctx, h.Host, app.MessageWish{Kind: message.EntryClient, Language: "en", Text: message.Text{Subject: "X {{type}}", Opening: "So."}})
	require.NoError(t, err)
	assert.Equal(t, []string{"X Consultation", "So."}, []string{shown.Subject, shown.Opening})
	_, err = h.App.SaveMessages(ctx, h.Host, 0, app.MessageDraft{Words: map[message.Kind]message.Own{message.EntryHosts: {"en": {Opening: "x", Closing: "y"}}}})
	fields := refused(t, err, refusal.Invalid).Fields
	assert.Contains(t, fields, "words.entry-hosts.en.subject")
	assert.Contains(t, fields, "words.entry-hosts.en.closing")
}

func TestATypesWordsKnowItsAnswers(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	offer, err := h.App.BookingPage(ctx, h.Host, h.Type.ID)
	require.NoError(t, err)
	offer.Questions = []intake.Question{{ID: "rooms", Kind: "number", Label: "How many rooms?"}, {ID: "other", Kind: "short", Label: "Anything else?"}}
	_, err = h.App.SaveBookingPage(ctx, h.Host, h.Type.ID, offer.BookingPageChange)
	require.NoError(t, err)
	draft := app.MessageDraft{Words: map[message.Kind]message.Own{"client-booked": inEnglish("x", "For {{answer.rooms}} rooms.{{#answer.other}} And {{answer.other}}.{{/answer.other}}")}}
	_, err = h.App.SaveMessages(ctx, h.Host, 0, draft)
	assert.Contains(t, refused(t, err, refusal.Invalid).Fields, "words.client-booked.en.opening", "a workspace has no questions")
	_, err = h.App.SaveMessages(ctx, h.Host, h.Type.ID, draft)
	require.NoError(t, err)
	_, err = bookFor(t, h, "2026-05-05 15:00", func(r *schedule.BookingRequest) { r.Said = intake.Given{"rooms": {"7"}} })
	require.NoError(t, err)
	assert.Equal(t, "For 7 rooms.", strings.Split(lined(letters(t, h, "keeper@harbour.example", 1)[0]), "\n")[0])
	guests := app.MessageDraft{Words: map[message.Kind]message.Own{"guest-invited": inEnglish("x", "{{answer.rooms}}")}}
	_, err = h.App.SaveMessages(ctx, h.Host, h.Type.ID, guests)
	assert.Contains(t, refused(t, err, refusal.Invalid).Fields, "words.guest-invited.en.opening", "guests know nothing that the client wrote")
}

func TestOwnWordsWithFaultsAreRefusedAtTheirPlace(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	rule := clientRule(60, message.Before, message.Always)
	rule.Words = inEnglish("x", "{{#confirms}}")
	_, err := h.App.SaveMessages(ctx, h.Host, 0, app.MessageDraft{Rules: []message.Rule{rule}, Words: map[message.Kind]message.Own{
		"client-moved": inEnglish("", "{{whne}}"), "offer": inEnglish("x", "x"), "client-booked": {"tlh": {Subject: "x", Opening: "x"}},
	}})
	fields := refused(t, err, refusal.Invalid).Fields
	assert.Contains(t, fields["rules.0.words.en.opening"].Sentence, "doesn't end")
	assert.Contains(t, fields["words.client-moved.en.opening"].Sentence, "Is “when” meant?")
	assert.Contains(t, fields["words.client-moved.en.subject"].Sentence, "Something has to stand here")
	assert.Contains(t, fields["words.offer"].Sentence, "no such message")
	assert.Contains(t, fields["words.client-booked"].Sentence, "not in this language")
}

func TestAMessageIsShownAsItWouldBeSent(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	wish := app.MessageWish{Kind: message.ClientReminder, Language: "en"}
	shown, err := h.App.ShowMessage(ctx, h.Host, wish)
	require.NoError(t, err)
	assert.Contains(t, shown.To, "Robin Example", "who has no bookings yet sees a made-up one")
	b := book(t, h, "2026-05-05 15:00")
	letters(t, h, "ines@", 1)
	shown, err = h.App.ShowMessage(ctx, h.Host, wish)
	require.NoError(t, err)
	require.Len(t, shown.Bookings, 1)
	wish.Booking, wish.Text = shown.Bookings[0].ID, message.Text{Subject: "{{client}}", Opening: "Here: {{link}}"}
	shown, err = h.App.ShowMessage(ctx, h.Host, wish)
	require.NoError(t, err)
	assert.Equal(t, "Harbour Maritime", shown.Subject)
	assert.NotContains(t, shown.Text, linkOf(b), "the client's link is the client's")
	require.NoError(t, h.App.SendMessageToMe(ctx, h.Host, wish))
	mine := letters(t, h, "ines@", 2)[1]
	assert.Equal(t, shown.Subject, mine.Subject)
	assert.Equal(t, shown.Text, lined(mine))

	for _, kind := range message.Kinds() {
		wish := app.MessageWish{Kind: kind, Language: "pt", Booking: wish.Booking}
		if _, some := message.AudienceOf(kind); !some {
			_, err := h.App.ShowMessage(ctx, h.Host, wish)
			refused(t, err, refusal.NotFound)
			continue
		}
		shown, err := h.App.ShowMessage(ctx, h.Host, wish)
		require.NoError(t, err)
		assert.NotEmpty(t, shown.Subject, kind)
		assert.NotContains(t, shown.Text+shown.Subject, "<nil>", kind)
		// Each fact that is offered is one that the message can say.
		for _, p := range shown.Placeholders {
			wish.Text = message.Text{Subject: "x", Opening: "{{#" + p.Name + "}}so{{/" + p.Name + "}}{{^" + p.Name + "}}not so{{/" + p.Name + "}}"}
			said, err := h.App.ShowMessage(ctx, h.Host, wish)
			require.NoError(t, err)
			assert.Regexp(t, "^(not )?so\n", said.Text, "%s: %s", kind, p.Name)
		}
	}

	wish.Text = message.Text{Subject: "x", Opening: "{{whne}}"}
	shown, err = h.App.ShowMessage(ctx, h.Host, wish)
	require.NoError(t, err)
	assert.Contains(t, shown.Wrong, "opening")
	refused(t, h.App.SendMessageToMe(ctx, h.Host, wish), refusal.Invalid)
	member := as(t, h, h.Colleague, identity.Member)
	_, err = h.App.ShowMessage(ctx, member, wish)
	refused(t, err, refusal.Forbidden)
}

func TestATypeHasItsOwnMessagesOrThoseOfTheWorkspace(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	_, err := h.App.SaveMessages(ctx, h.Host, 0, clocked(clientRule(120, message.Before, message.Always)))
	require.NoError(t, err)
	kind := h.Type.ID
	theirs, err := h.App.Messages(ctx, h.Host, kind)
	require.NoError(t, err)
	assert.False(t, theirs.Own)
	require.Len(t, theirs.Rules, 1)
	own, err := h.App.SaveMessages(ctx, h.Host, kind, clocked(append(theirs.Rules, clientRule(60, message.Before, message.Always))...))
	require.NoError(t, err)
	assert.True(t, own.Own)
	assert.Equal(t, []int64{1, 2}, []int64{own.Rules[0].ID, own.Rules[1].ID}, "a message that was there stays the same, so nobody gets it twice")
	copied, err := h.App.DuplicateType(ctx, h.Host, kind)
	require.NoError(t, err)
	theirs, err = h.App.Messages(ctx, h.Host, copied.ID)
	require.NoError(t, err)
	assert.Equal(t, own.Rules, theirs.Rules, "a copy has the copied messages")
	_, err = h.App.FollowMessages(ctx, h.Host, copied.ID)
	require.NoError(t, err)
	home, err := h.App.SaveMessages(ctx, h.Host, 0, app.MessageDraft{})
	require.NoError(t, err)
	assert.Equal(t, []app.TypeNamed{{ID: kind, Name: "Survey"}}, home.Types)
	home, err = h.App.SaveMessages(ctx, h.Host, 0, clocked(clientRule(30, message.Before, message.Always)))
	require.NoError(t, err)
	assert.Equal(t, int64(3), home.Rules[0].ID, "numbers are given once in a workspace and its types")

	book(t, h, "2026-05-05 15:00")
	until(t, h, "2026-05-05 13:01")
	letters(t, h, "keeper@harbour.example", 2)
	until(t, h, "2026-05-05 14:01")
	letters(t, h, "keeper@harbour.example", 3)
	until(t, h, "2026-05-05 14:40")
	assert.Len(t, subjectsTo(h, "keeper@"), 3, "the workspace's are none of this type's business")

	// Back to those of the workspace, nothing is sent that was due before.
	_, err = h.App.FollowMessages(ctx, h.Host, kind)
	require.NoError(t, err)
	until(t, h, "2026-05-05 14:59")
	assert.Len(t, subjectsTo(h, "keeper@"), 3)
	book(t, h, "2026-05-06 15:00")
	until(t, h, "2026-05-06 14:31")
	assert.Len(t, subjectsTo(h, "keeper@"), 5, "its confirmation, and the workspace's reminder")

	_, err = h.App.Undo(ctx, h.Host)
	require.NoError(t, err)
	theirs, err = h.App.Messages(ctx, h.Host, kind)
	require.NoError(t, err)
	assert.True(t, theirs.Own)
	assert.Len(t, theirs.Rules, 2)
	member := as(t, h, h.Colleague, identity.Member)
	_, err = h.App.Messages(ctx, member, kind)
	refused(t, err, refusal.NotFound)
}
