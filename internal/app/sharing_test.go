package app_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/intake"
	"corrim/core/share"
	"corrim/core/told"
	"corrim/internal/app"
	"corrim/internal/public"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/testhouse"
)

// A link that was given a name is counted as opened and as booked, its name stays with the booking, and of what it says only what fits
// gets onto the page.
func TestANamedLinkIsKnownByItsBookings(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	offers(t, h, func(c *settings.BookingPageChange) {
		c.Questions = []intake.Question{{ID: "which", Kind: intake.One, Label: "Which wing?", Options: []string{"North", "South"}}}
	})
	_, err := h.App.SaveLink(ctx, h.Host, h.Type.ID, 0, public.LinkDraft{Name: "  ", Says: share.Link{}})
	refused(t, err, refusal.Invalid)
	links, err := h.App.SaveLink(ctx, h.Host, h.Type.ID, 0, public.LinkDraft{Name: "Autumn <b>newsletter</b>", Says: share.ParseQuery("q.which=North&name=Silo&length=999&utm=1")})
	require.NoError(t, err)
	require.Len(t, links, 1)
	assert.Equal(t, "Autumn <b>newsletter</b>", links[0].Name, "whatever is in it is words")
	assert.Equal(t, []string{"“999” for length"}, told.Sentences(links[0].Misfits))
	query := strings.SplitN(links[0].Path, "?", 2)[1]

	prepared, err := h.App.Prepared(ctx, "quillmere", "survey", query+"&name=Salt+Barn", false)
	require.NoError(t, err)
	assert.Equal(t, intake.Given{"which": {"North"}}, prepared.Said)
	assert.Equal(t, "Salt Barn", prepared.Name, "what the address says itself comes first")
	assert.Zero(t, prepared.Minutes)
	h.App.LinkOpened(ctx, "quillmere", "survey", query)
	h.App.LinkOpened(ctx, "quillmere", "survey", query)
	h.App.LinkOpened(ctx, "quillmere", "survey", "via=nobodys")
	b, err := bookFor(t, h, "2026-05-05 10:00", func(r *schedule.BookingRequest) { r.Via, r.Said = prepared.Via, prepared.Said })
	require.NoError(t, err)
	_, err = bookFor(t, h, "2026-05-06 10:00", func(r *schedule.BookingRequest) { r.Via, r.Said = "nobodys", prepared.Said })
	require.NoError(t, err, "a link that isn't one is no reason to refuse a booking")
	links, err = h.App.SharedLinks(ctx, h.Host, h.Type.ID)
	require.NoError(t, err)
	assert.Equal(t, []int64{2, 1}, []int64{links[0].Opened, links[0].Booked})

	id := bookingID(t, h, b)
	links, err = h.App.SaveLink(ctx, h.Host, h.Type.ID, links[0].ID, public.LinkDraft{Name: "Winter newsletter", Says: share.ParseQuery("q.which=South")})
	require.NoError(t, err)
	assert.Equal(t, query, strings.SplitN(links[0].Path, "?", 2)[1], "its address stays")
	sheet, err := h.App.BookingSheet(ctx, h.Host, id)
	require.NoError(t, err)
	assert.Equal(t, "Winter newsletter", sheet.Via)
	links, err = h.App.RemoveLink(ctx, h.Host, h.Type.ID, links[0].ID)
	require.NoError(t, err)
	assert.Empty(t, links)
	prepared, err = h.App.Prepared(ctx, "quillmere", "survey", query, false)
	require.NoError(t, err)
	assert.Empty(t, prepared.Said, "one that was taken away fills in nothing")
	sheet, err = h.App.BookingSheet(ctx, h.Host, id)
	require.NoError(t, err)
	assert.Equal(t, "Winter newsletter", sheet.Via, "the name stays with the booking")

	_, err = h.App.SharedLinks(ctx, h.Colleague, h.Type.ID)
	refused(t, err, refusal.NotFound)
}

// bookingID is a booking's, by its client's link.
func bookingID(t *testing.T, h *testhouse.House, b app.ClientBooking) (id int64) {
	t.Helper()
	require.NoError(t, h.Database().QueryRow(`SELECT id FROM booking WHERE start_at = ?`, b.Start.Unix()).Scan(&id))
	return id
}

// Addresses with short names of before lead on, for as long as nobody else has the name.
func TestOldShortNamesLeadOn(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	rename := func(id int64, slug string) {
		kind, err := h.App.MeetingType(ctx, h.Host, id)
		require.NoError(t, err)
		kind.Slug = slug
		_, err = h.App.SaveMeetingType(ctx, h.Host, id, kind.TypeDraft, settings.Saving{Accept: true})
		require.NoError(t, err)
	}
	rename(h.Type.ID, "light-survey")
	moved, err := h.App.Moved(ctx, public.PageAddress{Kind: "p", Workspace: "quillmere", Type: "survey"})
	require.NoError(t, err)
	assert.Equal(t, "/p/quillmere/light-survey", moved.Path())
	_, err = bookFor(t, h, "2026-05-05 10:00", asIs)
	require.NoError(t, err, "a page that was open already goes on working")
	copied, err := h.App.DuplicateType(ctx, h.Host, h.Type.ID)
	require.NoError(t, err)
	rename(copied.ID, "survey")
	moved, err = h.App.Moved(ctx, public.PageAddress{Kind: "p", Workspace: "quillmere", Type: "survey"})
	require.NoError(t, err)
	assert.Equal(t, "/p/quillmere/survey", moved.Path(), "it is another's now")
	moved, err = h.App.Moved(ctx, public.PageAddress{Kind: "p", Workspace: "quillmere", Type: "never"})
	require.NoError(t, err)
	assert.Equal(t, "never", moved.Type)

	staff, err := h.App.SaveTeam(ctx, h.Host, 0, app.TeamChange{Name: "Nörth Room", Members: []int64{h.Host.ID}})
	require.NoError(t, err)
	team := staff.Teams[0]
	assert.Equal(t, "north-room", team.Slug)
	page, err := h.App.TeamPage(ctx, "quillmere", "north-room")
	require.NoError(t, err)
	assert.Equal(t, "Nörth Room", page.Team)
	require.NotEmpty(t, page.Groups, "what only people of it host")
	require.Len(t, page.People, 1)
	card, seen := h.App.Card(ctx, public.PageAddress{Kind: "p", Workspace: "quillmere", Team: "north-room"})
	assert.True(t, seen)
	assert.Equal(t, "Nörth Room", card.Title)
	_, err = h.App.SaveTeam(ctx, h.Host, team.ID, app.TeamChange{Name: "North", Slug: "No Spaces", Members: team.Members})
	refused(t, err, refusal.Invalid)
	_, err = h.App.SaveTeam(ctx, h.Host, team.ID, app.TeamChange{Name: "North", Slug: "north", Members: team.Members})
	require.NoError(t, err)
	page, err = h.App.TeamPage(ctx, "quillmere", "north-room")
	require.NoError(t, err)
	assert.Equal(t, "North", page.Team)
	_, err = h.App.TeamPage(ctx, "quillmere", "south")
	refused(t, err, refusal.NotFound)
	offers(t, h, func(c *settings.BookingPageChange) { c.Listing = "link" })
	_, err = h.App.TeamPage(ctx, "quillmere", "north")
	refused(t, err, refusal.NotFound) // its name is nobody's business while nothing of it is listed
	sharing, err := h.App.Sharing(ctx, h.Host, public.Shared{Kind: "team", ID: team.ID})
	require.NoError(t, err)
	assert.Contains(t, sharing.Closed.Sentence, "no page yet")
}

func TestWhatIsSharedSaysWhyClientsWouldFindNothing(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	s := public.Shared{Kind: "type", ID: h.Type.ID, Says: share.ParseQuery("name=Silo+%3Cb%3E&length=7"), Language: "de"}
	sharing, err := h.App.Sharing(ctx, h.Host, s)
	require.NoError(t, err)
	assert.Empty(t, sharing.Closed.Sentence)
	assert.True(t, strings.HasSuffix(sharing.Address, "/p/quillmere/survey?name=Silo+%3Cb%3E"), sharing.Address)
	assert.Equal(t, []string{"“7” for length"}, told.Sentences(sharing.Misfits))
	assert.Contains(t, sharing.Signature.HTML, `Termin wählen: `+h.Type.Name+`</a>`)
	assert.Contains(t, sharing.Signature.Plain, sharing.Address)
	offers(t, h, func(c *settings.BookingPageChange) { c.Listing = "off" })
	sharing, err = h.App.Sharing(ctx, h.Host, s)
	require.NoError(t, err)
	assert.Contains(t, sharing.Closed.Sentence, "switched off")
	person, err := h.App.Sharing(ctx, h.Colleague, public.Shared{Kind: "person", ID: h.Host.ID})
	require.NoError(t, err)
	assert.Contains(t, person.Address, "/with/"+h.Host.Slug)
	_, err = h.App.Sharing(ctx, h.Colleague, s)
	refused(t, err, refusal.NotFound)
	_, err = h.App.Sharing(ctx, h.Host, public.Shared{Kind: "team", ID: 99})
	refused(t, err, refusal.NotFound)
	sheet, err := h.App.Sheet(ctx, h.Host, s)
	require.NoError(t, err)
	assert.NotContains(t, sheet.Shown, "://", "as it is typed")
}

// Times for a mail are those that are open; each leads to the page with that time chosen.
func TestOpenTimesArePastedAsLinks(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	text, err := h.App.TimesToPaste(ctx, h.Host, h.Type.ID, public.TimesWish{Next: 5, Zone: "Asia/Tokyo", Language: "fr", Says: share.ParseQuery("name=Mus%C3%A9e")})
	require.NoError(t, err)
	require.Len(t, text.Starts, 5)
	assert.Contains(t, text.Plain, "heure de Tokyo")
	assert.Contains(t, text.HTML, "at="+text.Starts[0].UTC().Format("2006-01-02T15:04:05Z"))
	assert.Contains(t, text.HTML, "name=Mus%C3%A9e")
	assert.Equal(t, 5, strings.Count(text.HTML, "<li><a href="))
	open := h.Open("2026-05-06")
	at, err := time.Parse("15:04", open[0])
	require.NoError(t, err)
	picked := public.HandPicked{Date: "2026-05-06", Minute: at.Hour()*60 + at.Minute()}
	text, err = h.App.TimesToPaste(ctx, h.Host, h.Type.ID, public.TimesWish{Starts: []public.HandPicked{picked, {Date: "2026-05-06", Minute: 3 * 60}}, Zone: "Europe/Lisbon", Language: "en"})
	require.NoError(t, err)
	assert.Len(t, text.Starts, 1)
	assert.Len(t, text.Gone, 1, "nobody is offered what isn't open")
	assert.Contains(t, text.Plain, "Wednesday 6 May 2026, "+open[0])
	_, err = h.App.TimesToPaste(ctx, h.Host, h.Type.ID, public.TimesWish{Starts: []public.HandPicked{{Date: "2026-05-06", Minute: 180}}, Zone: "Europe/Lisbon"})
	refused(t, err, refusal.Invalid)
	_, err = h.App.TimesToPaste(ctx, h.Host, h.Type.ID, public.TimesWish{Next: 1, Zone: "Nowhere"})
	refused(t, err, refusal.Invalid)
}

func TestSitesThatMayShowPagesAreOrigins(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	assert.Equal(t, "*", h.App.FrameAncestors(ctx, "quillmere"))
	save := func(embed string, sites ...string) error {
		view, err := h.App.Workspace(ctx, h.Host)
		require.NoError(t, err)
		view.Front.Embed, view.Front.Sites = embed, sites
		_, err = h.App.SaveWorkspace(ctx, h.Host, view.Workspace)
		return err
	}
	require.NoError(t, save("sites", " https://Museum.example/visit?x=1 ", "http://localhost:8084", "https://museum.example"))
	assert.Equal(t, "'self' https://museum.example http://localhost:8084", h.App.FrameAncestors(ctx, "quillmere"), "paths are left out, ports count")
	require.NoError(t, save("nobody"))
	assert.Equal(t, "'self'", h.App.FrameAncestors(ctx, "quillmere"))
	for _, site := range []string{"museum.example", "https://a.example; script-src *", "https://*", "ftp://a.example", "javascript:alert(1)", "https://a.example:99999"} {
		assert.NotEmpty(t, refused(t, save("sites", site), refusal.Invalid).Fields["front.sites"], site)
	}
	refused(t, save("sites"), refusal.Invalid)
	assert.Equal(t, "'self'", h.App.FrameAncestors(ctx, "nobody"))
}

func TestCardsAreForPagesThatRobotsMaySee(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	page := public.PageAddress{Kind: "p", Workspace: "quillmere", Type: "survey"}
	card, seen := h.App.Card(ctx, page)
	assert.True(t, seen)
	assert.Equal(t, h.Type.Name, card.Title)
	for _, listing := range []string{"link", "off"} {
		offers(t, h, func(c *settings.BookingPageChange) { c.Listing = listing })
		_, seen = h.App.Card(ctx, page)
		assert.False(t, seen, listing)
	}
	_, seen = h.App.Card(ctx, public.PageAddress{Kind: "p", Workspace: "quillmere"})
	assert.True(t, seen)
	view, err := h.App.Workspace(ctx, h.Host)
	require.NoError(t, err)
	view.Front.Unpublished = true
	_, err = h.App.SaveWorkspace(ctx, h.Host, view.Workspace)
	require.NoError(t, err)
	_, seen = h.App.Card(ctx, public.PageAddress{Kind: "p", Workspace: "quillmere"})
	assert.False(t, seen)
}

// Five times for a letter, of a host with 300 events; wanted are 100 ms.
func BenchmarkTimesToPaste(b *testing.B) {
	h := testhouse.New(b)
	for i := range 300 {
		at := h.Now().Add(time.Duration(i) * 5 * time.Hour)
		require.NoError(b, h.Calendars.AddEvent("ines", 0, "Event", at, at.Add(time.Hour)))
	}
	h.Connect()
	for b.Loop() {
		text, err := h.App.TimesToPaste(ctx, h.Host, h.Type.ID, public.TimesWish{Next: 5, Zone: "Europe/Lisbon", Language: "en"})
		require.NoError(b, err)
		require.Len(b, text.Starts, 5)
	}
}
