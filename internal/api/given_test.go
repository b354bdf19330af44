package api

import (
	"context"
	"encoding/json"
	"net/http"
	"net/http/httptest"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/go-chi/chi/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/intake"
	"corrim/internal/testhouse"
)

// givenAt is what is given with the page of a type.
func givenAt(h *testhouse.House, slug string) string {
	route := chi.NewRouteContext()
	route.URLParams.Add("workspace", "quillmere")
	route.URLParams.Add("type", slug)
	request := httptest.NewRequest(http.MethodGet, "/p/quillmere/"+slug, nil)
	s := &server{app: h.App}
	return string(s.given(request.WithContext(context.WithValue(request.Context(), chi.RouteCtxKey, route))))
}

func TestATypesPageBringsItsFirstOpenTimes(t *testing.T) {
	h := testhouse.New(t)
	offer, err := h.App.TypeOffer(t.Context(), h.Host, h.Type.ID)
	require.NoError(t, err)
	hostile := `</script><script>alert("over")</script>`
	offer.Questions = []intake.Question{{ID: "one", Kind: intake.Short, Label: hostile}}
	_, err = h.App.SaveOffer(t.Context(), h.Host, h.Type.ID, offer.OfferChange)
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

func TestATypesPageBringsNothingThatWouldBeRefused(t *testing.T) {
	h := testhouse.New(t)
	assert.Equal(t, "null", givenAt(h, "nothing-of-the-kind"))
	offer, err := h.App.TypeOffer(t.Context(), h.Host, h.Type.ID)
	require.NoError(t, err)
	offer.Listing = "off"
	_, err = h.App.SaveOffer(t.Context(), h.Host, h.Type.ID, offer.OfferChange)
	require.NoError(t, err)
	assert.Equal(t, "null", givenAt(h, h.Type.Slug))
}
