package app_test

import (
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/internal/app"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/testhouse"
)

func TestASessionHasWordsAndALocationOfItsOwn(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Connect()
	h.Run()
	sessionsOf(t, h, 3)
	set := func(text string, special app.SessionDetails) error {
		_, err := h.App.SetGroupSessions(ctx, h.Host, app.NewSessions{SessionWish: app.SessionWish{Type: h.Type.ID, Text: text, SessionDetails: special}, Outside: true})
		return err
	}
	theirs, hall := schedule.Way{Kind: "theirs"}, schedule.Way{Kind: "ours", Text: "Hall 3, Rua do Sol 9"}
	assert.Contains(t, refused(t, set("5 May 10:00", app.SessionDetails{Way: &theirs}), refusal.Invalid).Fields["way"].Sentence, "meet in one place")
	assert.NotEmpty(t, refused(t, set("5 May 10:00", app.SessionDetails{Way: &schedule.Way{Kind: "ours"}}), refusal.Invalid).Fields["way"])
	assert.NotEmpty(t, refused(t, set("5 May 10:00", app.SessionDetails{About: strings.Repeat("a", 2001)}), refusal.Invalid).Fields["about"])
	require.NoError(t, set("5 May 10:00", app.SessionDetails{About: "Bring a lamp.", Way: &hall}))
	require.NoError(t, set("6 May 10:00", app.SessionDetails{}))

	// Clients read it before they book, in their mail and in both calendars.
	open, err := h.App.OpenTimes(ctx, "quillmere", "survey", schedule.TimesWanted{From: h.At("2026-05-05 00:00"), To: h.At("2026-05-07 00:00")})
	require.NoError(t, err)
	require.Len(t, open.Special, 1)
	special := open.Special[h.At("2026-05-05 10:00").UTC().Format(time.RFC3339)]
	assert.Equal(t, []string{"Bring a lamp.", "Hall 3, Rua do Sol 9"}, []string{special.About, special.Way.Text})
	ada, usual := seat(t, h, "2026-05-05 10:00", "Ada"), seat(t, h, "2026-05-06 10:00", "Bo")
	assert.Equal(t, []string{"Bring a lamp.", "Hall 3, Rua do Sol 9", "ours"}, []string{ada.About, ada.Where, ada.Way})
	assert.Empty(t, usual.About+usual.Where)
	h.Pass(0)
	mail := letters(t, h, "ada@seats.example", 1)[0]
	assert.Contains(t, mail.Text, "Good to know: Bring a lamp.")
	assert.Contains(t, mail.Text, "Hall 3, Rua do Sol 9")
	there := strings.Join(entries(t, h), "\n")
	assert.Contains(t, there, "Bring a lamp.")
	assert.Contains(t, there, "Hall 3")

	// What is said of a date that isn't shown is nobody's to read.
	between := func(first, last string) {
		ruled(t, h, func(r *schedule.TypeRules) {
			r.Seats, r.Sessions, r.WindowFirst, r.WindowLast = 3, true, first, last
		})
	}
	between("2026-05-06", "2026-05-06")
	open, err = h.App.OpenTimes(ctx, "quillmere", "survey", schedule.TimesWanted{From: h.At("2026-05-05 00:00"), To: h.At("2026-05-07 00:00")})
	require.NoError(t, err)
	assert.Len(t, open.Starts, 1)
	assert.Empty(t, open.Special)
	between("", "")

	// Changed, everybody who comes is told once, with an invitation that replaces the other; to say the same again tells nobody.
	id := listed(t, h)[0].ID
	change := app.SessionDetails{About: "Bring two lamps."}
	sheet, err := h.App.SetDetails(ctx, h.Host, id, change)
	require.NoError(t, err)
	assert.Equal(t, "Bring two lamps.", sheet.Details.About)
	assert.Nil(t, sheet.Details.Way)
	_, err = h.App.SetDetails(ctx, h.Host, id, change)
	require.NoError(t, err)
	h.Pass(0)
	h.Pass(0)
	mails := letters(t, h, "ada@seats.example", 2)
	assert.Contains(t, mails[1].Subject, "Changed: Survey")
	assert.Contains(t, mails[1].Text, "Bring two lamps.")
	assert.NotContains(t, mails[1].Text, "Hall 3")
	assert.Contains(t, mails[1].Calendar, "SEQUENCE:")
	assert.NotContains(t, mails[1].Calendar, "SEQUENCE:0\r\n")
	assert.Len(t, subjectsTo(h, "bo@"), 1, "the other date is as it was")
	now := stateOf(t, h, ada)
	assert.Equal(t, []string{"Bring two lamps.", "video"}, []string{now.About, now.Way})
	assert.NotEmpty(t, now.JoinURL, "it has the type's room again")
	steps := sheet.Steps
	assert.Equal(t, "changed", steps[len(steps)-1].Kind)

	shares(t, h, 3)
	seat(t, h, "2026-05-08 10:00", "Cy")
	view, err := h.App.Board(ctx, h.Host, app.BoardDays{From: "2026-05-08", Days: 1}, 0)
	require.NoError(t, err)
	_, err = h.App.SetDetails(ctx, h.Host, view.Rows[0].Ribbon.Bookings[0].ID, change)
	refused(t, err, refusal.Over)
}

// A session that is somewhere else now lets its room go, and clients no longer read the way into it.
func TestASessionThatLeavesItsRoomClosesIt(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	sessionsOf(t, h, 3)
	id := setting(t, h, "5 May 10:00")[0].ID
	ada := seat(t, h, "2026-05-05 10:00", "Ada")
	h.Pass(0)
	h.Pass(0)
	url := stateOf(t, h, ada).JoinURL
	require.NotEmpty(t, url)
	room := func() string {
		answer := httptest.NewRecorder()
		h.Rooms.ServeHTTP(answer, httptest.NewRequestWithContext(ctx, http.MethodGet, url, nil))
		return answer.Body.String()
	}
	require.NotContains(t, room(), "closed")
	_, err := h.App.SetDetails(ctx, h.Host, id, app.SessionDetails{Way: &schedule.Way{Kind: "phone", Calls: "client", Text: "+351 21 000 0123"}})
	require.NoError(t, err)
	h.Pass(0)
	h.Pass(0)
	now := stateOf(t, h, ada)
	assert.Equal(t, []string{"", "phone", "+351 21 000 0123"}, []string{now.JoinURL, now.Way, now.Number})
	assert.Contains(t, room(), "closed")
}
