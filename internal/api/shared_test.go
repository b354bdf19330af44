package api_test

import (
	"bytes"
	"fmt"
	"image/png"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Codes and sheets are files for people of the workspace.
func TestCodesAndSheetsComeForWhoeverSharesThePage(t *testing.T) {
	h, c := serve(t, generous)
	of := fmt.Sprintf("kind=type&id=%d&language=nl", h.Type.ID)
	response, _ := c.send(http.MethodGet, "/api/share/code.svg?"+of, "")
	assert.Equal(t, http.StatusUnauthorized, response.StatusCode)
	response, _ = c.send(http.MethodGet, "/api/share/sheet?"+of, "")
	assert.Equal(t, http.StatusUnauthorized, response.StatusCode)
	c.send(http.MethodPost, "/api/session", `{"mail":"ines@quillmere.example","password":"a lamp in the hall"}`)
	get := func(path string) (*http.Response, []byte) {
		response, err := c.http.Get(c.base + path)
		require.NoError(t, err)
		defer func() { _ = response.Body.Close() }()
		var body bytes.Buffer
		_, err = body.ReadFrom(response.Body)
		require.NoError(t, err)
		return response, body.Bytes()
	}
	response, drawn := get("/api/share/code.png?pixels=3&" + of)
	assert.Equal(t, "image/png", response.Header.Get("Content-Type"))
	picture, err := png.Decode(bytes.NewReader(drawn))
	require.NoError(t, err)
	assert.Zero(t, picture.Bounds().Dx()%3)
	response, _ = get("/api/share/code.svg?" + of + "&says=remark%3D" + string(bytes.Repeat([]byte("x"), 3000)))
	assert.Equal(t, http.StatusRequestEntityTooLarge, response.StatusCode, "what has no room in a code is said")
	response, sheet := get("/api/share/sheet?size=a6&" + of)
	assert.Equal(t, http.StatusOK, response.StatusCode)
	assert.Contains(t, string(sheet), "Scan de code of open dit adres:")
	assert.Contains(t, string(sheet), "size: 105mm 148mm")
	response, _ = get("/api/share/sheet?kind=type&id=999")
	assert.Equal(t, http.StatusNotFound, response.StatusCode)
}
