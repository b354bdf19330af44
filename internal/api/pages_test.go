package api_test

import (
	"bytes"
	"encoding/base64"
	"encoding/json"
	"image"
	"image/png"
	"io"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/intake"
	"corrim/internal/identity"
	"corrim/internal/refusal"
)

func TestFilesComeDownToBeSavedAndForHostsOnly(t *testing.T) {
	h, c := serve(t, generous)
	view, err := h.App.BookingPage(t.Context(), h.Host, h.Type.ID)
	require.NoError(t, err)
	view.Questions = []intake.Question{{ID: "plan", Kind: intake.File, Label: "A plan?"}}
	_, err = h.App.SaveBookingPage(t.Context(), h.Host, h.Type.ID, view.BookingPageChange)
	require.NoError(t, err)
	body, err := json.Marshal(map[string]string{"name": "plan \"of\" häuser.txt", "data": base64.StdEncoding.EncodeToString([]byte("twelve lux"))})
	require.NoError(t, err)
	response, sent := c.send("POST", survey+"/files", string(body))
	require.Equal(t, 200, response.StatusCode)
	booking := strings.TrimSuffix(bookingBody(h.At("2026-05-05 10:00")), "}") + `,"said":{"plan":["` + sent["token"].(string) + `"]}}`
	response, _ = c.send("POST", survey+"/bookings", booking, "Idempotency-Key", key)
	require.Equal(t, 200, response.StatusCode)

	response, problem := c.send("GET", "/api/files/1", "")
	assert.Equal(t, http.StatusUnauthorized, response.StatusCode)
	assert.NotEmpty(t, problem["detail"])
	response, _ = c.send("POST", "/api/session", `{"mail":"ines@quillmere.example","password":"a lamp in the hall"}`)
	cookie := strings.SplitN(response.Header.Get("Set-Cookie"), ";", 2)[0]
	request, err := http.NewRequest(http.MethodGet, c.base+"/api/files/1", nil)
	require.NoError(t, err)
	request.Header.Set("Cookie", cookie)
	response, err = c.http.Do(request)
	require.NoError(t, err)
	defer func() { _ = response.Body.Close() }()
	text, err := io.ReadAll(response.Body)
	require.NoError(t, err)
	assert.Equal(t, "twelve lux", string(text))
	assert.Contains(t, response.Header.Get("Content-Disposition"), "attachment")
	assert.NotContains(t, response.Header.Get("Content-Disposition"), "\n")
	assert.Equal(t, "nosniff", response.Header.Get("X-Content-Type-Options"))
}

func TestPicturesAreServedAsWhatTheyAre(t *testing.T) {
	h, c := serve(t, generous)
	var picture bytes.Buffer
	require.NoError(t, png.Encode(&picture, image.NewGray(image.Rect(0, 0, 4, 4))))
	kept, err := h.App.KeepPicture(t.Context(), h.Host, picture.Bytes())
	require.NoError(t, err)
	response, _ := c.send("GET", kept.Path, "")
	assert.Equal(t, 200, response.StatusCode)
	assert.Equal(t, "image/png", response.Header.Get("Content-Type"))
	assert.Contains(t, response.Header.Get("Cache-Control"), "immutable")
	response, _ = c.send("GET", "/i/nothing", "")
	assert.Equal(t, 404, response.StatusCode)
	for name, data := range map[string][]byte{"a drawing": []byte(`<svg xmlns="http://www.w3.org/2000/svg"/>`), "nothing": nil, "too large": append(picture.Bytes(), make([]byte, 2<<20)...)} {
		_, err := h.App.KeepPicture(t.Context(), h.Host, data)
		var refusal *refusal.Refusal
		require.ErrorAs(t, err, &refusal, name)
		assert.NotEmpty(t, refusal.Fields["picture"], name)
	}
	viewer := h.Colleague
	viewer.Role = identity.Viewer
	_, err = h.App.KeepPicture(t.Context(), viewer, picture.Bytes())
	assert.Error(t, err, "who looks only, sends nothing")
}
