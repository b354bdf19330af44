package app_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/invite"
	"corrim/core/span"
	"corrim/internal/app"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/testhouse"
)

const keeper = "keeper@harbour.example"

// comesBack is the address to which a booking's mail to the client comes back, without its domain, and the meeting's UID.
func comesBack(t *testing.T, h *testhouse.House, letter int) (to, uid string) {
	t.Helper()
	mail := letters(t, h, keeper, letter)[letter-1]
	local, domain, _ := strings.Cut(mail.ReturnPath, "@")
	require.Equal(t, "quillmere.example", domain)
	require.Regexp(t, `^bookings\+c[0-9a-z]+-[a-z2-7]{16}$`, local, "no longer than 64 octets, and no care of case (RFC 5321, 4.5.3.1.1)")
	assert.Contains(t, strings.ReplaceAll(mail.Calendar, "\r\n ", ""), "mailto:"+mail.ReturnPath, "answers to the invitation go there too")
	for line := range strings.Lines(mail.Calendar) {
		if rest, is := strings.CutPrefix(line, "UID:"); is {
			uid = strings.TrimSpace(rest)
		}
	}
	return local, uid
}

func says(to, uid string, answer invite.Answer) app.Arrived {
	return app.Arrived{To: to, From: schedule.Address{Mail: keeper}, Subject: "Re: Survey", Reply: &invite.Reply{UID: uid, From: []string{keeper}, Answer: answer}, Raw: []byte(string(answer) + uid)}
}

func arrives(t *testing.T, h *testhouse.House, m app.Arrived) app.Today {
	t.Helper()
	require.NoError(t, h.App.Arrive(ctx, m))
	today, err := h.App.Today(ctx, h.Host)
	require.NoError(t, err)
	return today
}

func TestAnswersToInvitationsDoWhatTheySay(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	b := book(t, h, "2026-05-05 10:00")
	to, uid := comesBack(t, h, 1)

	today := arrives(t, h, says(to, uid, invite.Accepted))
	assert.True(t, today.Meetings[0].Confirmed, "they say they come")

	declined := says(strings.ToUpper(to), uid, invite.Declined)
	declined.Reply.Comment = "We’re at sea that day."
	today = arrives(t, h, declined)
	require.Len(t, today.Clashes, 1)
	assert.Equal(t, "declined", today.Clashes[0].Kind)
	assert.Equal(t, "Harbour Maritime declined the invitation. “We’re at sea that day.”", today.Clashes[0].Sentence.Sentence)
	told := letters(t, h, "ines@quillmere.example", 2)[1]
	assert.Equal(t, "Declined: Survey, Harbour Maritime", told.Subject)
	assert.Contains(t, told.Text, "at sea")
	require.NoError(t, h.App.Arrive(ctx, declined), "sent twice")
	today, err := h.App.KeepBoth(ctx, h.Host, today.Clashes[0].Booking.ID)
	require.NoError(t, err)
	assert.Empty(t, today.Clashes)

	wish := says(to, uid, invite.Wished)
	wish.Reply.Start = span.At(h.At("2026-05-06 14:00"))
	today = arrives(t, h, wish)
	require.Len(t, today.Clashes, 1)
	assert.Equal(t, "wished", today.Clashes[0].Kind)
	today, err = h.App.MoveAlong(ctx, h.Host, today.Clashes[0].Booking.ID)
	require.NoError(t, err)
	assert.Empty(t, today.Clashes)
	view, err := h.App.BookingByLink(ctx, linkOf(b))
	require.NoError(t, err)
	assert.True(t, h.At("2026-05-06 14:00").Equal(view.Start))
	require.Eventually(t, func() bool { return h.JobsWaiting() == 0 }, time.Minute, 5*time.Millisecond)
	assert.Len(t, subjectsTo(h, "ines@"), 4, "booked, declined, wished, moved: nothing twice")

	old := says(to, uid, invite.Declined)
	old.Reply.Start = span.At(h.At("2026-05-05 10:00"))
	assert.Empty(t, arrives(t, h, old).Clashes, "it was about the time before")
	letters(t, h, "ines@quillmere.example", 5)
}

func TestDecliningCancelsWhereTheTypeSaysSo(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	offers(t, h, func(c *settings.BookingPageChange) { c.DeclineCancels, c.AskReason, c.CancelUntil = true, true, 120 })
	b := book(t, h, "2026-05-05 10:00")
	late := book(t, h, "2026-05-05 14:00")
	decline := func(b app.ClientBooking) {
		for _, mail := range letters(t, h, keeper, 2) { // whichever came first
			if strings.Contains(mail.Text, linkOf(b)) {
				local, _, _ := strings.Cut(mail.ReturnPath, "@")
				uid := strings.TrimSpace(mail.Calendar[strings.Index(mail.Calendar, "UID:")+4:])
				uid, _, _ = strings.Cut(uid, "\r\n")
				require.NoError(t, h.App.Arrive(ctx, says(local, uid, invite.Declined)))
				return
			}
		}
		t.Fatal("no mail about it")
	}
	decline(b)
	h.Pass(h.At("2026-05-05 13:00").Sub(h.Now()))
	decline(late)
	first, err := h.App.BookingByLink(ctx, linkOf(b))
	require.NoError(t, err)
	assert.Equal(t, "cancelled", first.State)
	second, err := h.App.BookingByLink(ctx, linkOf(late))
	require.NoError(t, err)
	assert.Equal(t, "booked", second.State, "too late to cancel: its host is asked")
	today, err := h.App.Today(ctx, h.Host)
	require.NoError(t, err)
	assert.Len(t, today.Clashes, 1)
}

func TestMailThatComesBackIsToldOf(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	book(t, h, "2026-05-05 10:00")
	to, _ := comesBack(t, h, 1)
	report := app.Arrived{To: to, Report: true, Failed: []app.Failed{{Mail: "elsewhere@harbour.example", Status: "5.1.1", Said: "550 no such\r\nmailbox"}}}
	today := arrives(t, h, report)
	trouble := troubleOf(today, "Mail to "+keeper+" comes back")
	assert.Equal(t, "It is about Survey with Harbour Maritime on Tue 5 May, 10:00. Their server said: “550 no such mailbox”", trouble.Sentence.Sentence)
	sheet, err := h.App.BookingSheet(ctx, h.Host, today.Meetings[0].ID)
	require.NoError(t, err)
	require.NotNil(t, sheet.Returned)
	client, err := h.App.MailWorks(ctx, h.Host, keeper)
	require.NoError(t, err)
	assert.Nil(t, client.Returned)

	assert.Empty(t, troubleOf(arrives(t, h, app.Arrived{To: to, Report: true}), "Mail to").Title, "a delay is no news")
	assert.Len(t, subjectsTo(h, "ines@"), 1, "reports are forwarded to nobody")
}

func TestWhatElseIsWrittenGoesToTheHost(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	book(t, h, "2026-05-05 10:00")
	to, uid := comesBack(t, h, 1)
	require.NoError(t, h.App.Arrive(ctx, app.Arrived{To: to, From: schedule.Address{Name: "Odile", Mail: "odile@harbour.example"}, Subject: "Which door?", Text: "Front or back?", Raw: []byte("the mail")}))
	mail := letters(t, h, "ines@quillmere.example", 2)[1]
	assert.Equal(t, "Odile: Which door?", mail.Subject)
	assert.Contains(t, string(mail.Raw), "Reply-To: \"Odile\" <odile@harbour.example>")
	assert.Contains(t, mail.Text, "Front or back?")
	assert.Equal(t, "the mail", string(mail.Files[0].Data))

	other := says(to, "another@corrim", invite.Declined)
	stranger := says(to, uid, invite.Declined)
	stranger.Reply.From = []string{"stranger@x.example"}
	tentative := says(to, uid, "")
	for i, m := range []app.Arrived{other, stranger, tentative} {
		m.Raw = append(m.Raw, byte('0'+i))
		assert.Empty(t, arrives(t, h, m).Clashes, "an answer for another booking, by somebody else, or a perhaps")
	}
	letters(t, h, "ines@quillmere.example", 5)

	for _, unknown := range []string{"bookings", "bookings+", "bookings+c1", strings.Replace(to, "+c", "+h", 1), to[:len(to)-1] + "_", strings.Replace(to, "bookings", "sales", 1)} {
		require.ErrorIs(t, h.App.Arrive(ctx, app.Arrived{To: unknown}), app.ErrNoMailbox, unknown)
		assert.False(t, h.App.TakesMailFor(unknown+"@quillmere.example"), unknown)
	}
	assert.True(t, h.App.TakesMailFor(to+"@Quillmere.example"))
	assert.False(t, h.App.TakesMailFor(to+"@elsewhere.example"))
	var err error
	for i := range 10 {
		err = h.App.Arrive(ctx, app.Arrived{To: to, Raw: []byte{byte(i)}})
	}
	require.Error(t, err, "more than anybody writes in an hour comes later")
}
