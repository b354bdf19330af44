package app_test

import (
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/message"
	"corrim/internal/app"
	"corrim/internal/refusal"
	"corrim/internal/settings"
	"corrim/internal/testhouse"
)

func TestHostsAreToldOfWhatTheyChose(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	view, err := h.App.ChooseNews(ctx, h.Host, app.News{Untold: []message.Kind{"host-moved", "host-nothing"}, NotOwn: true})
	require.NoError(t, err)
	assert.Equal(t, []message.Kind{"host-moved"}, view.Untold, "only what there is")
	assert.Contains(t, view.Kinds, message.Kind("host-cancelled"))

	b := book(t, h, "2026-05-05 10:00")
	letters(t, h, "ines@quillmere.example", 1)
	_, err = h.App.Move(ctx, linkOf(b), h.At("2026-05-05 14:00"))
	require.NoError(t, err)
	letters(t, h, "keeper@harbour.example", 2)
	_, err = h.App.Cancel(ctx, linkOf(b), "")
	require.NoError(t, err)
	letters(t, h, "ines@quillmere.example", 2)
	got := subjectsTo(h, "ines@")
	assert.Contains(t, got[0], "Booked: Survey")
	assert.Contains(t, got[1], "Cancelled by the client", "they want nothing of what is moved")

	book(t, h, "2026-05-06 10:00")
	letters(t, h, "ines@quillmere.example", 3)
	today, err := h.App.Today(ctx, h.Host)
	require.NoError(t, err)
	_, err = h.App.CancelByHost(ctx, h.Host, today.Meetings[0].ID, "", false)
	require.NoError(t, err)
	letters(t, h, "keeper@harbour.example", 5)
	require.Eventually(t, func() bool { return h.JobsWaiting() == 0 }, time.Minute, 5*time.Millisecond)
	assert.Len(t, subjectsTo(h, "ines@"), 3, "nor of what they did themself")
}

func TestAMorningsMailHasTheDayAndWhatIsToDecide(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	_, err := h.App.ChooseNews(ctx, h.Host, app.News{Untold: message.News(), Morning: "7 o'clock"})
	assert.Contains(t, refused(t, err, refusal.Invalid).Fields["morning"].Sentence, "like 07:30")
	_, err = h.App.ChooseNews(ctx, h.Host, app.News{Untold: message.News(), Morning: "07:30"})
	require.NoError(t, err)
	book(t, h, "2026-05-05 14:00")
	book(t, h, "2026-05-05 10:00")
	book(t, h, "2026-05-06 10:00")
	offers(t, h, func(c *settings.BookingPageChange) { c.OnRequest = true })
	book(t, h, "2026-05-07 09:00")

	until(t, h, "2026-05-05 07:29")
	assert.Empty(t, subjectsTo(h, "ines@"), "the morning on which it was chosen was over")
	until(t, h, "2026-05-05 07:31")
	mail := letters(t, h, "ines@quillmere.example", 1)[0]
	assert.Equal(t, "Tuesday 5 May: your meetings", mail.Subject)
	text := lined(mail)
	assert.Regexp(t, `(?s)10:00–10:50.*Survey, .*14:00–14:50.*Survey, .*Your call.*Thursday 7 May, 09:00: Survey, `, text)
	assert.NotContains(t, text, "Wednesday")
	until(t, h, "2026-05-05 12:00")
	assert.Len(t, subjectsTo(h, "ines@"), 1, "once a day")

	stop := slices.Clip(subjectsTo(h, "ines@"))
	h.Pass(24 * time.Hour) // it was off until noon
	until(t, h, "2026-05-06 12:20")
	assert.Equal(t, stop, subjectsTo(h, "ines@"), "hours later a morning is no news")
}
