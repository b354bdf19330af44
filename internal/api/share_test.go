package api

import (
	"bytes"
	"context"
	"image/png"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"

	"github.com/go-chi/chi/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/looks"
	"corrim/internal/public"
	"corrim/internal/testhouse"
)

// Who says that they show the page in a frame, and may not, gets a page with a link instead of a broken frame.
func TestOnlySitesThatMayShowAPageInAFrame(t *testing.T) {
	h := testhouse.New(t)
	s := &server{app: h.App, log: h.App.Log}
	view, err := h.App.Workspace(t.Context(), h.Host)
	require.NoError(t, err)
	view.Front.Embed, view.Front.Sites = "sites", []string{"https://museum.example:8443"}
	_, err = h.App.SaveWorkspace(t.Context(), h.Host, view.Workspace)
	require.NoError(t, err)
	for name, c := range map[string]struct {
		dest, referer string
		may           bool
	}{
		"a page of its own":         {"document", "https://other.example/", true},
		"a listed site":             {"iframe", "https://museum.example:8443/visit", true},
		"the same on another port":  {"iframe", "https://museum.example/visit", false},
		"another site":              {"iframe", "https://museum.example.evil.example/", false},
		"nobody says where":         {"iframe", "", true}, // the policy holds it
		"our own page, which shows": {"iframe", h.App.BaseURL + "/types/1", true},
	} {
		route := chi.NewRouteContext()
		route.URLParams.Add("workspace", "quillmere")
		r := httptest.NewRequest(http.MethodGet, "/p/quillmere/survey?x=<b>", nil)
		r = r.WithContext(context.WithValue(r.Context(), chi.RouteCtxKey, route))
		r.Header.Set("Sec-Fetch-Dest", c.dest)
		r.Header.Set("Referer", c.referer)
		assert.Equal(t, c.may, s.mayFrame(r), name)
	}
	answer := httptest.NewRecorder()
	notHere(answer, `http://x.example/p/q/t?x="><script>`)
	assert.NotContains(t, answer.Body.String(), "<script>")
	assert.Equal(t, "default-src 'none'; frame-ancestors *", answer.Header().Get("Content-Security-Policy"))
}

func TestCardsAreDrawnWhateverAPageIsCalled(t *testing.T) {
	act := looks.Colour{R: 0x7a, G: 0x1f, B: 0x4d}
	usual, err := drawCard(public.Card{Title: "Gallery light survey", Workspace: "Quillmere Light Advisers", Act: act})
	require.NoError(t, err)
	for name, title := range map[string]string{"long": strings.Repeat("Donaudampfschiff ", 40), "one word": strings.Repeat("x", 400), "other letters": "画廊の照明調査", "nothing": ""} {
		drawn, err := drawCard(public.Card{Title: title, Workspace: "W", Act: act})
		require.NoError(t, err, name)
		picture, err := png.Decode(bytes.NewReader(drawn))
		require.NoError(t, err, name)
		assert.Equal(t, cardWidth, picture.Bounds().Dx())
		assert.NotEqual(t, usual, drawn, name)
	}
}
