package app_test

import (
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/message"
	"corrim/internal/app"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	phones "corrim/internal/standin/texts"
	"corrim/internal/testhouse"
)

func textRule(minutes int, side, condition string) message.Rule {
	rule := clientRule(minutes, side, condition)
	rule.By = message.ByText
	return rule
}

// textTo books with a number for text messages.
func textTo(t *testing.T, h *testhouse.House, at, phone string) app.ClientBooking {
	t.Helper()
	b, err := bookFor(t, h, at, func(r *schedule.BookingRequest) { r.Phone, r.Texts = phone, true })
	require.NoError(t, err)
	return b
}

// got waits for the text messages of a number.
func got(t *testing.T, h *testhouse.House, phone string, count int) (texts []phones.Message) {
	t.Helper()
	require.Eventually(t, func() bool {
		texts = nil
		for _, m := range h.Phones.Messages() {
			if m.Phone == phone {
				texts = append(texts, m)
			}
		}
		return len(texts) >= count && h.JobsWaiting() == 0
	}, time.Minute, 5*time.Millisecond)
	require.Len(t, texts, count)
	return texts
}

func TestTextsGoToWhoAgreedAndUntilTheyStop(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	own := textRule(60, message.Before, message.Always)
	own.Words = message.Own{"en": {Opening: "Soon: {{time}}"}}
	_, err := h.App.SaveMessages(ctx, h.Host, 0, clocked(textRule(120, message.Before, message.Unconfirmed), own))
	require.NoError(t, err)
	const phone = "+13434569876"
	b := textTo(t, h, "2026-05-05 15:00", "+1 343 456-9876")
	_, err = bookFor(t, h, "2026-05-05 16:00", func(r *schedule.BookingRequest) { r.Mail = "other@harbour.example" })
	require.NoError(t, err)
	view, err := h.App.Messages(ctx, h.Host, 0)
	require.NoError(t, err)
	require.Len(t, view.Ahead, 2, "only who agreed gets some")
	assert.Equal(t, "text", view.Ahead[0].By)

	until(t, h, "2026-05-05 13:01")
	first := got(t, h, phone, 1)[0]
	assert.Equal(t, "Survey with Ines Valadares: Tuesday 5 May, 11:00. Will you be there? "+h.App.BaseURL+b.Link+" Answer STOP to end these texts.", first.Text)
	assert.Equal(t, "Quillmere L", first.From)
	assert.Len(t, subjectsTo(h, "keeper@"), 1, "it is no mail")

	// What the gateway reports is shown; a stranger's report changes nothing.
	refused(t, h.App.HeardFromGateway(ctx, "guessed", app.TextReport{From: phone, Text: "STOP"}), refusal.NotSignedIn)
	refused(t, h.App.HeardFromGateway(ctx, "token", app.TextReport{ID: first.ID}), refusal.Invalid)
	require.NoError(t, h.App.HeardFromGateway(ctx, "token", app.TextReport{ID: first.ID, State: "failed"}))
	sheet, err := h.App.BookingSheet(ctx, h.Host, view.Ahead[0].Booking)
	require.NoError(t, err)
	i := slices.IndexFunc(sheet.Messages, func(m app.SentMessage) bool { return m.By == "text" && m.State == "sent" })
	require.GreaterOrEqual(t, i, 0)
	sent := sheet.Messages[i]
	assert.Equal(t, []any{"text", "sent", strings.ReplaceAll(first.Text, linkOf(b), "…"), true}, []any{sent.By, sent.State, sent.Said, sent.Failed}, "without the client's link")
	assert.Equal(t, &app.TextsOf{Phone: phone}, sheet.Texts)
	client, err := h.App.ClientByMail(ctx, h.Host, "keeper@harbour.example")
	require.NoError(t, err)
	assert.Contains(t, client.Consents[0].Text, "may send me text messages about this meeting")

	// STOP ends them, START and the page begin them again.
	require.NoError(t, h.App.HeardFromGateway(ctx, "token", app.TextReport{From: phone, Text: " Stop. "}))
	page, err := h.App.BookingByLink(ctx, linkOf(b))
	require.NoError(t, err)
	assert.Equal(t, &app.TextsOf{Phone: phone, Stopped: true}, page.Texts)
	until(t, h, "2026-05-05 14:10")
	got(t, h, phone, 1)
	require.NoError(t, h.App.HeardFromGateway(ctx, "token", app.TextReport{From: phone, Text: "start"}))
	until(t, h, "2026-05-05 14:20")
	assert.Equal(t, "Soon: 11:00 Answer STOP to end these texts.", got(t, h, phone, 2)[1].Text, "it is of use still")
	page, err = h.App.SetTexts(ctx, linkOf(b), false)
	require.NoError(t, err)
	assert.True(t, page.Texts.Stopped)
	assert.NoError(t, h.App.HeardFromGateway(ctx, "token", app.TextReport{From: phone, Text: "see you"}))
}

func TestAgreeingToTextsTakesANumberAndATick(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	number := func(phone string, ticked bool) error {
		_, err := bookFor(t, h, "2026-05-05 15:00", func(r *schedule.BookingRequest) { r.Phone, r.Texts = phone, ticked })
		return err
	}
	page, err := h.App.Page(ctx, "quillmere", "survey", false)
	require.NoError(t, err)
	assert.Empty(t, page.Texts, "where none are sent, nobody is asked")
	_, err = h.App.SaveMessages(ctx, h.Host, 0, clocked(textRule(60, message.Before, message.Always)))
	require.NoError(t, err)
	page, err = h.App.Page(ctx, "quillmere", "survey", false)
	require.NoError(t, err)
	assert.Contains(t, page.Texts["de"], "darf mir zu diesem Termin SMS schicken")
	assert.Contains(t, refused(t, number("+1 343 456-9876", false), refusal.Invalid).Fields, "texts")
	assert.Contains(t, refused(t, number("12", true), refusal.Invalid).Fields, "phone")
	assert.Contains(t, refused(t, number("", true), refusal.Invalid).Fields, "phone")
	require.NoError(t, number("", false))
	_, err = h.App.SaveMessages(ctx, h.Host, 0, app.MessageDraft{Quiet: message.Quiet{From: "21:00"}, Rules: []message.Rule{{Receiver: message.ToHosts, By: message.ByText, Minutes: 60, Side: message.Before, If: message.Always}}})
	fields := refused(t, err, refusal.Invalid).Fields
	assert.Contains(t, fields, "quiet")
	assert.Contains(t, fields["rules.0"].Sentence, "who have agreed")
}

func TestAGatewayThatIsAwayCostsOnlyTexts(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	_, err := h.App.SaveMessages(ctx, h.Host, 0, clocked(textRule(120, message.Before, message.Always), clientRule(110, message.Before, message.Always)))
	require.NoError(t, err)
	textTo(t, h, "2026-05-05 15:00", "+1 343 456-9876")
	h.Pass(h.At("2026-05-05 12:59").Sub(h.Now()))
	h.TextsDown.Store(true)
	h.Pass(12 * time.Minute)
	letters(t, h, "keeper@harbour.example", 2)
	require.Eventually(t, func() bool {
		today, err := h.App.Today(ctx, again(t, h))
		require.NoError(t, err)
		for _, trouble := range today.Troubles {
			if trouble.Title.Sentence == "Text messages can't be sent at the moment" {
				return true
			}
		}
		return false
	}, time.Minute, 10*time.Millisecond)
	// An hour later it is no use any more.
	h.Pass(time.Hour)
	h.TextsDown.Store(false)
	h.Pass(10 * time.Minute)
	require.Eventually(t, func() bool { return h.JobsWaiting() == 0 }, time.Minute, 5*time.Millisecond)
	assert.Empty(t, h.Phones.Messages())
}

func TestWhatAHostDoesIsTextedToo(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	_, err := h.App.SaveMessages(ctx, h.Host, 0, app.MessageDraft{AlsoText: []message.Kind{"client-booked"}})
	assert.Contains(t, refused(t, err, refusal.Invalid).Fields, "alsoText")
	_, err = h.App.SaveMessages(ctx, h.Host, 0, app.MessageDraft{AlsoText: message.TextedAtOnce(), Quiet: message.Quiet{From: "21:00", Until: "08:00"}})
	require.NoError(t, err)
	phone := "+447700900789"
	b, err := bookFor(t, h, "2026-05-06 15:00", func(r *schedule.BookingRequest) { r.Phone, r.Texts = phone, true })
	require.NoError(t, err)
	book(t, h, "2026-05-06 10:00") // who agreed to none
	today, err := h.App.Today(ctx, h.Host)
	require.NoError(t, err)

	_, err = h.App.Move(ctx, linkOf(b), h.At("2026-05-06 16:00"))
	require.NoError(t, err)
	require.Eventually(t, func() bool { return h.JobsWaiting() == 0 }, time.Minute, 5*time.Millisecond)
	assert.Empty(t, h.Phones.Messages(), "who did it themself knows")
	until(t, h, "2026-05-06 06:00") // 02:00 where the client is
	for _, meeting := range today.Meetings {
		_, err = h.App.CancelByHost(ctx, h.Host, meeting.ID, "", false)
		require.NoError(t, err)
	}
	letters(t, h, keeper, 4)
	assert.Empty(t, h.Phones.Messages(), "at night it waits")
	until(t, h, "2026-05-06 12:01")
	texts := h.Phones.Messages()
	require.Len(t, texts, 1)
	assert.Contains(t, texts[0].Text, "Cancelled: Survey with Ines Valadares")
	assert.Contains(t, texts[0].Text, "Answer STOP")
}
