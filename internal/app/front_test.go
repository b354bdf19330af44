package app_test

import (
	"bytes"
	"image"
	"image/png"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/internal/app"
	"corrim/internal/identity"
	"corrim/internal/public"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/testhouse"
)

func TestLooksAreTriedOnTheServerUntilTheyArePublished(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	shown := func() *string {
		page, err := h.App.Page(ctx, "quillmere", "survey", false)
		require.NoError(t, err)
		if page.Looks.Light == nil {
			return nil
		}
		return &page.Looks.Light.Act
	}
	draft, err := h.App.LooksTried(ctx, h.Host)
	require.NoError(t, err)
	assert.False(t, draft.Tried)
	half := schedule.Looks{Colour: "#12"} // not right yet: it is still being typed
	draft, err = h.App.TryLooks(ctx, h.Host, half)
	require.NoError(t, err)
	assert.True(t, draft.Tried)
	_, err = h.App.PreviewLooks(again(t, h), half)
	assert.NotEmpty(t, refused(t, err, refusal.Invalid).Fields["front.looks.colour"])
	draft, err = h.App.TryLooks(ctx, h.Host, schedule.Looks{Colour: "#1f5a8b", Book: " Reserve  now "})
	require.NoError(t, err)
	assert.Equal(t, "Reserve now", draft.Looks.Book)
	assert.Nil(t, shown(), "clients see nothing of it")

	viewer := h.Colleague
	viewer.Role = identity.Viewer
	_, err = h.App.TryLooks(ctx, viewer, half)
	refused(t, err, refusal.Forbidden)

	inWorkspace(t, h, func(w *schedule.Workspace) { w.Front.Looks, w.Front.Short = draft.Looks, "Quillmere" })
	assert.Equal(t, "#1f5a8b", *shown())
	draft, err = h.App.LooksTried(ctx, again(t, h))
	require.NoError(t, err)
	assert.False(t, draft.Tried, "published")
	preview, err := h.App.PreviewLooks(again(t, h), schedule.Looks{})
	require.NoError(t, err)
	assert.Equal(t, "Quillmere", preview.Short, "as the page would have it")
}

func TestPagesAndMailsAreOnTheWorkspacesClock(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	inWorkspace(t, h, func(w *schedule.Workspace) { w.Front.Clock12 = true })
	page, err := h.App.Page(ctx, "quillmere", "survey", false)
	require.NoError(t, err)
	assert.True(t, page.Looks.Clock12)
	_, err = bookFor(t, h, "2026-05-05 14:00", asIs)
	require.NoError(t, err)
	mail := letters(t, h, "harbour.example", 1)[0]
	assert.Contains(t, mail.Text, "2:00 pm to ")
	assert.NotContains(t, mail.Text, "14:00")
}

func TestAPagesLanguageIsTheWorkspacesWhereverItsLinksLead(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	b, err := bookFor(t, h, "2026-05-05 14:00", asIs)
	require.NoError(t, err)
	offer, err := h.App.MakeOneOff(ctx, h.Host, app.NewOneOff{Type: h.Type.ID, Until: "2026-05-20", Starts: []public.HandPicked{{Date: "2026-05-11", Minute: 600}}})
	require.NoError(t, err)
	assert.Equal(t, "en", h.App.PageLanguage(ctx, "quillmere", ""))
	inWorkspace(t, h, func(w *schedule.Workspace) { w.Front.Language = "nl" })
	assert.Equal(t, "nl", h.App.PageLanguage(ctx, "quillmere", ""))
	assert.Equal(t, "nl", h.App.PageLanguage(ctx, "", linkOf(b)))
	assert.Equal(t, "nl", h.App.PageLanguage(ctx, "", offer.Path[len("/o/"):]))
	assert.Equal(t, "en", h.App.PageLanguage(ctx, "nowhere", "nothing"))
}

func TestPagesThatAreNotThereAreKnownAsSuch(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	b := book(t, h, "2026-05-05 10:00")
	for at, there := range map[public.PageAddress]bool{
		{Kind: "p", Workspace: "quillmere"}:                           true,
		{Kind: "p", Workspace: "quillmere", Type: "survey"}:           true,
		{Kind: "p", Workspace: "quillmere", Person: "ines-valadares"}: true,
		{Kind: "b", Link: linkOf(b)}:                                  true,
		{Kind: "p", Workspace: "nowhere"}:                             false,
		{Kind: "p", Workspace: "quillmere", Type: "nothing"}:          false,
		{Kind: "p", Workspace: "nowhere", Type: "survey"}:             false,
		{Kind: "p", Workspace: "quillmere", Person: "nobody"}:         false,
		{Kind: "p"}: false, {Kind: "b", Link: "x"}: false, {Kind: "o", Link: "x"}: false,
	} {
		found, err := h.App.HasPage(ctx, at)
		require.NoError(t, err)
		assert.Equal(t, there, found, "%v", at)
	}
}

func TestAPhotoStandsOnTheirPages(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	var picture bytes.Buffer
	require.NoError(t, png.Encode(&picture, image.NewGray(image.Rect(0, 0, 8, 8))))
	kept, err := h.App.KeepPicture(ctx, h.Host, picture.Bytes())
	require.NoError(t, err)
	change := app.PersonChange{Name: h.Host.Name, Zone: h.Host.Zone, Role: h.Host.Role, Bookable: true, Photo: "../../etc/passwd"}
	_, err = h.App.ChangePerson(ctx, h.Host, h.Host.ID, change)
	assert.NotEmpty(t, refused(t, err, refusal.Invalid).Fields["photo"])
	change.Photo = kept.Hash
	_, err = h.App.ChangePerson(ctx, h.Host, h.Host.ID, change)
	require.NoError(t, err)
	show, err := h.App.PersonPage(ctx, "quillmere", "ines-valadares")
	require.NoError(t, err)
	assert.Equal(t, kept.Path, show.Photo)
	front, err := h.App.WorkspacePage(ctx, "quillmere")
	require.NoError(t, err)
	require.NotEmpty(t, front.People)
	assert.Equal(t, kept.Path, front.People[0].Photo)
}

func TestATypesOwnColourIsThatOfItsPages(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	inWorkspace(t, h, func(w *schedule.Workspace) { w.Front.Looks.Colour = "#1f5a8b" })
	view, err := h.App.BookingPage(ctx, h.Host, h.Type.ID)
	require.NoError(t, err)
	view.Colour = "plum"
	_, err = h.App.SaveBookingPage(ctx, h.Host, h.Type.ID, view.BookingPageChange)
	assert.NotEmpty(t, refused(t, err, refusal.Invalid).Fields["colour"])
	b, err := bookFor(t, h, "2026-05-05 14:00", asIs)
	require.NoError(t, err)

	for colour, act := range map[string]string{"#7a1f4d": "#7a1f4d", "": "#1f5a8b"} {
		offers(t, h, func(c *settings.BookingPageChange) { c.Colour = colour })
		page, err := h.App.Page(ctx, "quillmere", "survey", false)
		require.NoError(t, err)
		assert.Equal(t, act, page.Looks.Light.Act, colour)
		booked, err := h.App.BookingByLink(ctx, linkOf(b))
		require.NoError(t, err)
		assert.Equal(t, act, booked.Looks.Light.Act, colour)
		front, err := h.App.WorkspacePage(ctx, "quillmere")
		require.NoError(t, err)
		assert.Equal(t, "#1f5a8b", front.Looks.Light.Act)
		listed := front.Groups[0].Types[0].Light
		if colour == "" {
			assert.Nil(t, listed)
			continue
		}
		assert.Equal(t, act, listed.Act)
	}
}

func TestAPersonMayHaveNoPage(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	change := app.PersonChange{Name: h.Host.Name, Zone: h.Host.Zone, Role: h.Host.Role, Bookable: true, NoPage: true}
	_, err := h.App.ChangePerson(ctx, h.Host, h.Host.ID, change)
	require.NoError(t, err)
	_, err = h.App.PersonPage(ctx, "quillmere", "ines-valadares")
	refused(t, err, refusal.NotFound)
	front, err := h.App.WorkspacePage(ctx, "quillmere")
	require.NoError(t, err)
	assert.Empty(t, front.People)
	assert.NotEmpty(t, front.Groups, "what they offer is there still")
}

func TestTheCancellationPolicyStandsInEveryMailToClientsWhileThereIsSomethingToCancel(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	inWorkspace(t, h, func(w *schedule.Workspace) { w.Front.Cancellation = "Tell us a day before." })
	request := h.Request("2026-05-05 10:00")
	request.Language = "de"
	booking, err := h.App.Book(ctx, "quillmere", "survey", "a key for the policy", request)
	require.NoError(t, err)
	assert.Regexp(t, `Stornierungsbedingungen:\s+Tell us a day before\.`, letters(t, h, request.Mail, 1)[0].Text, "the workspace's own words, under a word of the client's language")
	_, err = h.App.Cancel(ctx, linkOf(booking), "")
	require.NoError(t, err)
	for _, letter := range letters(t, h, request.Mail, 2) {
		if letter.Method == "CANCEL" {
			assert.NotContains(t, letter.Text, "Tell us a day before.")
		}
	}
}
