package app_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/internal/app"
	"corrim/internal/refusal"
	"corrim/internal/testhouse"
)

func TestClientsGetMailInTheLanguageTheyBookedInAndHostsInTheirs(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	h.Connect()
	refused(t, h.App.Identity.ChangeLanguage(ctx, h.Host.Person, "xx"), refusal.Invalid)
	require.NoError(t, h.App.Identity.ChangeLanguage(ctx, h.Host.Person, "nl"))

	request := h.Request("2026-05-05 10:00")
	request.Language = "de-CH"
	booked, err := h.App.Book(ctx, "quillmere", "survey", "a German key, long enough", request)
	require.NoError(t, err)
	told := letters(t, h, request.Mail, 1)[0]
	assert.Contains(t, told.Subject, "mit Ines Valadares")
	assert.Contains(t, told.Text, "Ihr Termin ist gebucht.")
	assert.Contains(t, told.Text, "Wann: Dienstag, 5. Mai 2026, 06:00 bis 06:50 (Halifax, UTC−3)")
	assert.Contains(t, told.Text, "In der Zeitzone von Ines Valadares: Dienstag, 5. Mai 2026, 10:00 bis 10:50 (Lissabon, UTC+1)")
	assert.Contains(t, told.HTML, `<html lang="de">`)
	assert.Contains(t, strings.ReplaceAll(told.Calendar, "\r\n ", ""), "Verschieben oder absagen", "the entry in the calendar too")
	theirs := letters(t, h, h.Host.Mail, 1)[0]
	assert.Contains(t, theirs.Subject, "Geboekt: ")
	assert.Contains(t, theirs.Text, "Wanneer: dinsdag 5 mei 2026, 10:00 tot 10:50")
	file, err := h.App.BookingFile(ctx, linkOf(booked))
	require.NoError(t, err)
	assert.Contains(t, strings.ReplaceAll(string(file), "\r\n ", ""), "Harbour Maritime mit Ines Valadares")

	// What a host enters for them later is told in the language that is known; somebody else in the workspace's.
	hand := app.HandBooking{HandTimes: app.HandTimes{Type: h.Type.ID, Date: "2026-05-06", Minute: 600}, Name: "Harbour Maritime", Mail: request.Mail}
	require.NoError(t, byHand(h, hand))
	assert.Contains(t, letters(t, h, request.Mail, 2)[1].Text, "Ihr Termin ist gebucht.")
	h.Pass(time.Hour)
	hand.Date, hand.Mail = "2026-05-07", "other@x.example"
	require.NoError(t, byHand(h, hand))
	assert.Contains(t, letters(t, h, "other@x.example", 1)[0].Text, "Your meeting is booked.")
}
