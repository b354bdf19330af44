package api

import (
	"context"
	"encoding/json"
	"net/http"
	"net/http/httptest"
	"os"
	"regexp"
	"slices"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"github.com/go-chi/chi/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/intake"
	"corrim/internal/schedule"
	"corrim/internal/testhouse"
)

// givenAt is what is given with the page of a type.
func givenAt(h *testhouse.House, slug string) string {
	route := chi.NewRouteContext()
	route.URLParams.Add("workspace", "quillmere")
	route.URLParams.Add("type", slug)
	request := httptest.NewRequest(http.MethodGet, "/p/quillmere/"+slug, nil)
	s := &server{app: h.App}
	return string(s.given(request.WithContext(context.WithValue(request.Context(), chi.RouteCtxKey, route))).json())
}

func TestATypesPageBringsItsFirstOpenTimes(t *testing.T) {
	h := testhouse.New(t)
	offer, err := h.App.BookingPage(t.Context(), h.Host, h.Type.ID)
	require.NoError(t, err)
	hostile := `</script><script>alert("over")</script>`
	offer.Questions = []intake.Question{{ID: "one", Kind: intake.Short, Label: hostile}}
	_, err = h.App.SaveBookingPage(t.Context(), h.Host, h.Type.ID, offer.BookingPageChange)
	require.NoError(t, err)

	text := givenAt(h, h.Type.Slug)
	assert.NotContains(t, strings.ToLower(text), "</script", "nothing in it ends the element it stands in")
	var given struct {
		Page struct{ Questions []struct{ Label string } }
		Open struct{ Starts []string }
	}
	require.NoError(t, json.Unmarshal([]byte(text), &given))
	require.Len(t, given.Page.Questions, 1)
	assert.Equal(t, hostile, given.Page.Questions[0].Label)
	tomorrow := h.At("2026-05-05 10:00").UTC().Format(time.RFC3339)
	assert.True(t, slices.Contains(given.Open.Starts, tomorrow), "its open times, of which %s is one", tomorrow)
}

func TestWithoutScriptsAPageTellsItsNextTimes(t *testing.T) {
	given := &first{Page: schedule.Page{Type: "A <b>call</b>", Host: "Ines", HostZone: "Europe/Lisbon", Zones: "client", Minutes: 30, Contact: "desk@quillmere.example"}}
	for day := range 30 {
		at := time.Date(2026, 7, 1+day, 9, 0, 0, 0, time.UTC)
		given.Open.Starts = append(given.Open.Starts, at, at.Add(time.Hour))
	}
	text := string(given.plain())
	assert.Contains(t, text, "Wednesday 1 July 2026: 10:00, 11:00<", "on the host's clock, an hour ahead of UTC in summer")
	assert.Contains(t, text, "on the clock of Lisbon")
	assert.Equal(t, mostWithoutScripts, strings.Count(text, "<li>"))
	assert.Contains(t, text, `href="mailto:desk@quillmere.example"`)
	assert.NotContains(t, text, "<b>")
	assert.Contains(t, string((*first)(nil).plain()), "allow scripts", "where nothing is known, nothing is claimed")
}

func TestATypesPageBringsNothingThatWouldBeRefused(t *testing.T) {
	h := testhouse.New(t)
	assert.Equal(t, "null", givenAt(h, "nothing-of-the-kind"))
	offer, err := h.App.BookingPage(t.Context(), h.Host, h.Type.ID)
	require.NoError(t, err)
	offer.Listing = "off"
	_, err = h.App.SaveBookingPage(t.Context(), h.Host, h.Type.ID, offer.BookingPageChange)
	require.NoError(t, err)
	assert.Equal(t, "null", givenAt(h, h.Type.Slug))
}

func TestEveryViewOfTheHostIsKnownAndNoOther(t *testing.T) {
	routes, err := os.ReadFile("../../ui/src/host/App.tsx")
	require.NoError(t, err)
	views := regexp.MustCompile(`path="(/[^"]*)"`).FindAllStringSubmatch(string(routes), -1)
	require.NotEmpty(t, views)
	for _, view := range views {
		assert.Equal(t, http.StatusOK, hostStatus(httptest.NewRequest(http.MethodGet, view[1], nil)), view[1])
	}
	assert.Equal(t, http.StatusNotFound, hostStatus(httptest.NewRequest(http.MethodGet, "/nothing-here", nil)))
}

func TestTheFolderOfAssetsIsNotListed(t *testing.T) {
	files := fstest.MapFS{"assets/a.js": {Data: []byte("1")}}
	for path, status := range map[string]int{"/assets/": 404, "/assets/a.js": 200, "/assets/b.js": 404, "/assets//": 404} {
		answer := httptest.NewRecorder()
		assets(files)(answer, httptest.NewRequest(http.MethodGet, path, nil))
		assert.Equal(t, status, answer.Code, path)
	}
}

// Before somebody has signed in, the browser's language counts; afterwards their own.
func TestTheHostsApplicationComesInItsReadersLanguage(t *testing.T) {
	h := testhouse.New(t)
	s := &server{app: h.App, sessions: newSessions(h.App)}
	comesIn := func(asked, cookie string) string {
		request := httptest.NewRequest(http.MethodGet, "/hours", nil)
		request.Header.Set("Accept-Language", asked)
		request.Header.Set("Cookie", cookie)
		return s.hostLanguage(request)
	}
	for asked, want := range map[string]string{"": "en", "de-AT, en;q=0.5": "de", "fr, de;q=0.7, en;q=0.3": "de", "fr-CA": "en", "*;q=,,": "en"} {
		assert.Equal(t, want, comesIn(asked, ""), asked)
	}
	assert.Equal(t, "de", comesIn("de", s.sessions.Cookie.Name+"=nobody's"), "of a session that has ended, nothing counts")

	answer := httptest.NewRecorder()
	entry := httptest.NewRequest(http.MethodPost, "/api/session", strings.NewReader(`{"mail":"ines@quillmere.example","password":"a lamp in the hall"}`))
	entry.Header.Set("Content-Type", "application/json")
	New(h.App, Options{SignInsPerMinute: 1000}).ServeHTTP(answer, entry)
	require.Equal(t, http.StatusOK, answer.Code)
	cookies := answer.Result().Cookies()
	cookie := cookies[slices.IndexFunc(cookies, func(c *http.Cookie) bool { return c.Name == s.sessions.Cookie.Name })].String()
	assert.Equal(t, "en", comesIn("de", cookie), "she reads English")
	require.NoError(t, h.App.Identity.ChangeLanguage(t.Context(), h.Host.Person, "de"))
	assert.Equal(t, "de", comesIn("en", cookie))
	require.NoError(t, h.App.Identity.ChangeLanguage(t.Context(), h.Host.Person, "fr"))
	assert.Equal(t, "en", comesIn("de", cookie), "a language that the application doesn't have is English")
}
