package app_test

import (
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/intake"
	"corrim/core/message"
	"corrim/internal/app"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/testhouse"
)

// allDone waits until nothing is left to do: else a room may come late, which is told in a mail of its own.
func allDone(t *testing.T, h *testhouse.House) {
	t.Helper()
	require.Eventually(t, func() bool { return h.JobsWaiting() == 0 }, time.Minute, 5*time.Millisecond)
}

func TestGuestsAndOtherAddressesAreTold(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	office := message.Rule{Receiver: message.ToAddress, Address: "office@quillmere.example", Minutes: 30, Side: message.After, If: message.Always}
	guests := message.Rule{Receiver: message.ToGuests, Minutes: 120, Side: message.Before, If: message.Always}
	for i, wrong := range []message.Rule{{Receiver: message.ToAddress, Address: "the office", Minutes: 30, Side: message.After, If: message.Always}, {Receiver: message.ToGuests, Minutes: 30, Side: message.After, If: message.Always}} {
		_, err := h.App.SaveMessages(ctx, h.Host, 0, clocked(wrong))
		assert.NotEmpty(t, refused(t, err, refusal.Invalid).Fields["rules.0"], i)
	}
	_, err := h.App.SaveMessages(ctx, h.Host, 0, clocked(guests, office))
	require.NoError(t, err)
	offers(t, h, func(c *settings.BookingPageChange) { c.Guests = 2 })
	_, err = bookFor(t, h, "2026-05-05 15:00", func(r *schedule.BookingRequest) {
		r.Guests, r.Remark = []string{"one@harbour.example", "two@harbour.example"}, "planted: a private word"
	})
	require.NoError(t, err)
	book(t, h, "2026-05-05 10:00") // who brings nobody
	allDone(t, h)
	until(t, h, "2026-05-05 13:05")
	for _, guest := range []string{"one@harbour.example", "two@harbour.example"} {
		mail := letters(t, h, guest, 2)[1]
		assert.Contains(t, mail.Subject, "Survey with Ines Valadares")
		assert.NotContains(t, string(mail.Raw), "planted", "guests get nothing of what the client wrote")
		assert.NotContains(t, mail.Text, "/b/", "nor their link")
		assert.Empty(t, mail.Calendar)
	}
	until(t, h, "2026-05-05 16:25")
	got := letters(t, h, "office@quillmere.example", 2)
	assert.Contains(t, lined(got[1]), "with Ines Valadares: Tuesday 5 May, 15:00")
	assert.Len(t, subjectsTo(h, "one@"), 2)
}

func TestWhatWasSentIsSentOnceMore(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	_, err := h.App.SaveMessages(ctx, h.Host, 0, clocked(clientRule(120, message.Before, message.Always)))
	require.NoError(t, err)
	b := book(t, h, "2026-05-05 10:00")
	allDone(t, h)
	until(t, h, "2026-05-05 08:10")
	letters(t, h, keeper, 2)
	today, err := h.App.Today(ctx, h.Host)
	require.NoError(t, err)
	id := today.Meetings[0].ID
	sheet, err := h.App.BookingSheet(ctx, h.Host, id)
	require.NoError(t, err)
	sent := map[string]int64{}
	for _, m := range sheet.Messages {
		sent[m.To+" "+m.Occasion] = m.Job
	}
	said, err := h.App.SaidLetters(ctx, h.Host, id, sent["client booked"])
	require.NoError(t, err)
	require.Len(t, said, 1)
	assert.Equal(t, letters(t, h, keeper, 1)[0].Subject, said[0].Subject)
	assert.Contains(t, said[0].Text, "Move or cancel:\n"+h.App.BaseURL+"/b/…\n")
	assert.NotContains(t, said[0].Text, linkOf(b), "the link is the client's")
	for i, which := range []string{"client booked", "client client-reminder"} {
		_, err = h.App.SendAgain(ctx, h.Host, id, sent[which])
		require.NoError(t, err, which)
		again := letters(t, h, keeper, 3+i)[2+i]
		assert.NotEqual(t, letters(t, h, keeper, 1)[0].MessageID, again.MessageID, "another mail, or programs would take it for the same")
		assert.Equal(t, which == "client booked", strings.Contains(again.Calendar, "METHOD:REQUEST"), which)
	}
	allDone(t, h)
	sheet, err = h.App.BookingSheet(ctx, h.Host, id)
	require.NoError(t, err)
	var reminders []bool
	for _, m := range sheet.Messages {
		if m.Occasion == "client-reminder" {
			reminders = append(reminders, m.Again)
		}
	}
	assert.Equal(t, []bool{false, true}, reminders, "only the last one offers it once more")
	_, err = h.App.SendAgain(ctx, h.Host, id, 4711)
	refused(t, err, refusal.NotFound)
	_, err = h.App.Cancel(ctx, linkOf(b), "")
	require.NoError(t, err)
	_, err = h.App.SendAgain(ctx, h.Host, id, sent["client booked"])
	refused(t, err, refusal.Over)
	allDone(t, h)
	assert.Len(t, subjectsTo(h, "keeper@"), 5, "a meeting that was cancelled is not told as booked")
}

func TestAnswersThatDecideAreThoseThatTheTypeAsks(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	offers(t, h, func(c *settings.BookingPageChange) {
		c.Questions = []intake.Question{{ID: "loan", Kind: intake.YesNo, Label: "Is it a loan?"}, {ID: "plan", Kind: intake.File, Label: "A plan"}}
	})
	view, err := h.App.Messages(ctx, h.Host, h.Type.ID)
	require.NoError(t, err)
	assert.Equal(t, []app.AskedInType{{ID: "loan", Label: "Is it a loan?", Options: []string{"yes", "no"}}}, view.Asks)
	when := func(question, is string) app.MessageDraft {
		r := clientRule(120, message.Before, message.Always)
		r.Also = []message.Condition{{What: message.ByAnswer, Question: question, Is: is}}
		return clocked(r)
	}
	for _, wrong := range []app.MessageDraft{when("loan", "perhaps"), when("gone", "yes")} {
		_, err = h.App.SaveMessages(ctx, h.Host, h.Type.ID, wrong)
		assert.NotEmpty(t, refused(t, err, refusal.Invalid).Fields["rules.0"])
	}
	_, err = h.App.SaveMessages(ctx, h.Host, 0, when("loan", "yes"))
	assert.NotEmpty(t, refused(t, err, refusal.Invalid).Fields["rules.0"], "a workspace asks nothing")
	_, err = h.App.SaveMessages(ctx, h.Host, h.Type.ID, when("loan", "yes"))
	require.NoError(t, err)
	for at, answer := range map[string]string{"2026-05-05 10:00": "yes", "2026-05-05 11:00": "no"} {
		_, err = bookFor(t, h, at, func(r *schedule.BookingRequest) {
			r.Mail, r.Said = answer+"@harbour.example", intake.Given{"loan": {answer}}
		})
		require.NoError(t, err)
	}
	allDone(t, h)
	until(t, h, "2026-05-05 09:30")
	letters(t, h, "yes@harbour.example", 2)
	assert.Len(t, subjectsTo(h, "no@harbour"), 1)
}

func TestTheCodeThatProvesAnAddressIsKeptForNobodyToRead(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	offers(t, h, func(c *settings.BookingPageChange) { c.Proof = "code" })
	b := book(t, h, "2026-05-05 10:00")
	code := regexp.MustCompile(`\b\d{6}\b`).FindString(letters(t, h, keeper, 1)[0].Text)
	require.NotEmpty(t, code)
	_, err := h.App.Prove(ctx, linkOf(b), code)
	require.NoError(t, err)
	letters(t, h, keeper, 2)
	allDone(t, h)
	var kept, withCode int
	require.NoError(t, h.Database().QueryRow("SELECT COUNT(*), COUNT(CASE WHEN instr(said || subject, ?) > 0 THEN 1 END) FROM mail_said", code).Scan(&kept, &withCode))
	assert.Positive(t, kept, "what came afterwards is kept")
	assert.Zero(t, withCode)
}
