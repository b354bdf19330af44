package api_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// RFC 8058, 3.1 and 3.2: a mail program posts one field, as a form of either kind, signed in nowhere and sent from no page.
func TestOnePressInAMailProgramEndsFollowUps(t *testing.T) {
	h, c := serve(t, generous)
	b, err := h.App.Book(t.Context(), "quillmere", "survey", "a key for leaving", h.Request("2026-05-05 10:00"))
	require.NoError(t, err)
	left := func() bool {
		t.Helper()
		view, err := h.App.BookingByLink(t.Context(), strings.TrimPrefix(b.Link, "/b/"))
		require.NoError(t, err)
		return view.Left
	}
	post := func(kind, body string) int {
		t.Helper()
		response, err := http.Post(c.base+b.Link+"/leave", kind, strings.NewReader(body))
		require.NoError(t, err)
		require.NoError(t, response.Body.Close())
		return response.StatusCode
	}
	assert.Equal(t, http.StatusBadRequest, post("application/x-www-form-urlencoded", ""))
	response, err := http.Get(c.base + b.Link + "/leave")
	require.NoError(t, err)
	require.NoError(t, response.Body.Close())
	assert.Equal(t, b.Link+"?answer=leave", response.Request.URL.RequestURI())
	assert.False(t, left(), "following a link changes nothing")
	assert.Equal(t, http.StatusOK, post("application/x-www-form-urlencoded", "List-Unsubscribe=One-Click"))
	assert.True(t, left())
	_, err = h.App.SetFollowUps(t.Context(), strings.TrimPrefix(b.Link, "/b/"), true)
	require.NoError(t, err)
	assert.False(t, left())
	assert.Equal(t, http.StatusOK, post("multipart/form-data; boundary=x", "--x\r\nContent-Disposition: form-data; name=\"List-Unsubscribe\"\r\n\r\nOne-Click\r\n--x--\r\n"))
	assert.True(t, left())
	response, err = http.Post(c.base+"/b/nobodys/leave", "application/x-www-form-urlencoded", strings.NewReader("List-Unsubscribe=One-Click"))
	require.NoError(t, err)
	require.NoError(t, response.Body.Close())
	assert.Equal(t, http.StatusNotFound, response.StatusCode)
}
