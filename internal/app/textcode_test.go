package app_test

import (
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/message"
	"corrim/internal/app"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/testhouse"
)

const (
	mobile = "+13434569876"
	other  = "+13434569877"
)

// codeIn is the code in the last of some text messages.
func codeIn(t *testing.T, h *testhouse.House, phone string, count int) string {
	t.Helper()
	texts := got(t, h, phone, count)
	code := regexp.MustCompile(`\b\d{6}\b`).FindString(texts[count-1].Text)
	require.NotEmpty(t, code)
	return code
}

// held books with a number that the code goes to.
func held(h *testhouse.House, t *testing.T, at, phone string) (app.ClientBooking, error) {
	return bookFor(t, h, at, func(r *schedule.BookingRequest) { r.Phone = phone })
}

func TestACodeByTextProvesAClient(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	offers(t, h, func(c *settings.BookingPageChange) { c.Proof = "text" })
	for given, says := range map[string]string{"": "Enter your mobile number", "12": "phone number", "+44 20 7946 0958": "landline"} {
		_, err := held(h, t, "2026-05-05 10:00", given)
		assert.Contains(t, refused(t, err, refusal.Invalid).Fields["phone"].Sentence, says)
	}
	b, err := held(h, t, "2026-05-05 10:00", "+1 343 456-9876")
	require.NoError(t, err)
	assert.Equal(t, []any{"unproved", mobile, (*app.TextsOf)(nil)}, []any{b.State, b.CodeTo, b.Texts}, "asking for a code agrees to nothing else")
	first := codeIn(t, h, mobile, 1)
	assert.Equal(t, first+" is your code for Quillmere Light Advisers. If you didn’t ask for it, do nothing. Answer STOP to end these texts.", got(t, h, mobile, 1)[0].Text)
	assert.Empty(t, subjectsTo(h, "keeper@"), "by mail it would prove nothing about the number")

	// The gateway says that it never arrived; a corrected number has a code of its own.
	require.NoError(t, h.App.HeardFromGateway(ctx, "token", app.TextReport{ID: got(t, h, mobile, 1)[0].ID, State: "failed"}))
	b, err = h.App.BookingByLink(ctx, linkOf(b))
	require.NoError(t, err)
	assert.True(t, b.CodeLost)
	_, err = h.App.SendCode(ctx, linkOf(b), app.CodeTo{Phone: "+44 20 7946 0958"})
	assert.NotEmpty(t, refused(t, err, refusal.Invalid).Fields["phone"])
	b, err = h.App.SendCode(ctx, linkOf(b), app.CodeTo{Phone: "+1 343 456 9877", Mail: "stranger@x.example"})
	require.NoError(t, err)
	assert.Equal(t, []any{other, false, "keeper@harbour.example"}, []any{b.CodeTo, b.CodeLost, b.Mail})
	second := codeIn(t, h, other, 1)
	_, err = h.App.Prove(ctx, linkOf(b), first)
	assert.NotEmpty(t, refused(t, err, refusal.Invalid).Fields["code"], "it proves the first number only")
	b, err = h.App.Prove(ctx, linkOf(b), second)
	require.NoError(t, err)
	assert.Equal(t, []string{"booked", ""}, []string{b.State, b.CodeTo})

	// What the house keeps and shows of it has no code.
	today, err := h.App.Today(ctx, h.Host)
	require.NoError(t, err)
	sheet, err := h.App.BookingSheet(ctx, h.Host, today.Meetings[0].ID)
	require.NoError(t, err)
	var said []string
	for _, m := range sheet.Messages {
		said = append(said, m.Said)
	}
	assert.Contains(t, strings.Join(said, "\n"), "······ is your code")
	assert.NotContains(t, strings.Join(said, "\n")+h.Log.String(), first)
	assert.NotContains(t, strings.Join(said, "\n")+h.Log.String(), second)
}

func TestNobodyIsPesteredWithCodes(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	offers(t, h, func(c *settings.BookingPageChange) { c.Proof, c.PerClient = "text", 0 })
	times := []string{"09:00", "10:00", "11:00", "13:00", "14:00"}
	for _, at := range times {
		_, err := held(h, t, "2026-05-05 "+at, mobile)
		require.NoError(t, err)
	}
	_, err := held(h, t, "2026-05-06 10:00", mobile)
	assert.Contains(t, refused(t, err, refusal.TooMany).Sentence, "Give another number, or write to Quillmere")
	got(t, h, mobile, len(times))
	require.NoError(t, h.App.HeardFromGateway(ctx, "token", app.TextReport{From: mobile, Text: "STOP"}))
	_, err = held(h, t, "2026-05-06 10:00", mobile)
	assert.Contains(t, refused(t, err, refusal.Invalid).Fields["phone"].Sentence, "Send START")
	assert.Contains(t, h.Open("2026-05-06"), "10:00", "what was refused keeps nothing")
}

func TestWithoutAGatewayCodesComeByMail(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	offers(t, h, func(c *settings.BookingPageChange) { c.Proof = "text" })
	h.App.Texter = nil
	_, err := held(h, t, "2026-05-05 10:00", "")
	require.NoError(t, err)
	assert.Contains(t, letters(t, h, "keeper@", 1)[0].Subject, "Your code is")
	view, err := h.App.BookingPage(ctx, h.Host, h.Type.ID)
	require.NoError(t, err)
	view.Proof = "text"
	_, err = h.App.SaveBookingPage(ctx, h.Host, h.Type.ID, view.BookingPageChange)
	assert.Contains(t, refused(t, err, refusal.Invalid).Fields["proof"].Sentence, "sends no text messages")
}

func TestHostsGetNewsByTextAtANumberThatTheyHaveProven(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	view, err := h.App.ChooseNews(ctx, h.Host, app.News{Texted: []message.Kind{"host-booked", "host-cancelled"}, NotOwn: true})
	require.NoError(t, err)
	assert.True(t, view.ByText)
	b := book(t, h, "2026-05-05 10:00")
	letters(t, h, "keeper@", 1)
	assert.Empty(t, h.Phones.Messages(), "there is no number yet")

	_, err = h.App.SendPhoneCode(ctx, h.Host, "+44 20 7946 0958")
	assert.NotEmpty(t, refused(t, err, refusal.Invalid).Fields["phone"])
	number, err := h.App.SendPhoneCode(ctx, h.Host, "+1 343 456 9876")
	require.NoError(t, err)
	code := codeIn(t, h, number, 1)
	_, err = h.App.ProvePhone(ctx, h.Colleague, number, code)
	assert.NotEmpty(t, refused(t, err, refusal.Invalid).Fields["code"], "it is the host's")
	view, err = h.App.ProvePhone(ctx, h.Host, number, code)
	require.NoError(t, err)
	assert.Equal(t, mobile, view.Phone)

	_, err = h.App.Move(ctx, linkOf(b), h.At("2026-05-05 14:00"))
	require.NoError(t, err)
	letters(t, h, "keeper@", 2)
	got(t, h, mobile, 1)
	_, err = h.App.Cancel(ctx, linkOf(b), "")
	require.NoError(t, err)
	assert.Equal(t, "Cancelled by the client: Survey, Harbour Maritime. Tuesday 5 May, 14:00. https://corrim.example Answer STOP to end these texts.", got(t, h, mobile, 2)[1].Text)
	book(t, h, "2026-05-06 10:00")
	assert.Contains(t, got(t, h, mobile, 3)[2].Text, "Booked: Survey")
	today, err := h.App.Today(ctx, h.Host)
	require.NoError(t, err)
	_, err = h.App.CancelByHost(ctx, h.Host, today.Meetings[0].ID, "", false)
	require.NoError(t, err)
	letters(t, h, "keeper@", 5)
	got(t, h, mobile, 3) // nor of what they did themself

	require.NoError(t, h.App.HeardFromGateway(ctx, "token", app.TextReport{From: mobile, Text: "STOP"}))
	view, err = h.App.NewsOf(ctx, h.Host)
	require.NoError(t, err)
	assert.True(t, view.Stopped)
	book(t, h, "2026-05-06 14:00")
	letters(t, h, "keeper@", 6)
	got(t, h, mobile, 3)
	_, err = h.App.SendPhoneCode(ctx, h.Colleague, number)
	assert.Contains(t, refused(t, err, refusal.Invalid).Fields["phone"].Sentence, "Send START", "nobody else makes it ring")
	_, err = h.App.SendPhoneCode(ctx, h.Host, number)
	require.NoError(t, err)
	view, err = h.App.ProvePhone(ctx, h.Host, number, code)
	require.NoError(t, err)
	assert.False(t, view.Stopped, "who enters it anew wants them again")
	view, err = h.App.ProvePhone(ctx, h.Host, "", "")
	require.NoError(t, err)
	assert.Empty(t, view.Phone)
}

func TestNewsByTextWaitForTheMorning(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	draft := clocked()
	draft.Quiet = message.Quiet{From: "20:00", Until: "08:00"}
	_, err := h.App.SaveMessages(ctx, h.Host, 0, draft)
	require.NoError(t, err)
	number, err := h.App.SendPhoneCode(ctx, h.Host, mobile)
	require.NoError(t, err)
	_, err = h.App.ProvePhone(ctx, h.Host, number, codeIn(t, h, number, 1))
	require.NoError(t, err)
	_, err = h.App.ChooseNews(ctx, h.Host, app.News{Texted: []message.Kind{"host-booked"}})
	require.NoError(t, err)
	h.Pass(h.At("2026-05-04 21:00").Sub(h.Now()))
	book(t, h, "2026-05-05 14:00")
	letters(t, h, "keeper@", 1)
	assert.Len(t, h.Phones.Messages(), 1)
	h.Pass(h.At("2026-05-05 08:01").Sub(h.Now()))
	got(t, h, mobile, 2)
}
