package feed_test

import (
	"compress/gzip"
	"context"
	"io"
	"log"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/internal/outside/feed"
)

const calendar = "BEGIN:VCALENDAR\r\nEND:VCALENDAR\r\n"

func TestAFeedIsAskedWithItsLastValidators(t *testing.T) {
	server := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.URL.Path == "/old" {
			http.Redirect(w, r, "/new", http.StatusMovedPermanently)
			return
		}
		// RFC 9110, 13.1.2 and 13.1.3
		if r.Header.Get("If-None-Match") == `"1"` && r.Header.Get("If-Modified-Since") == "Mon, 04 May 2026 08:00:00 GMT" {
			w.WriteHeader(http.StatusNotModified)
			return
		}
		w.Header().Set("ETag", `"1"`)
		w.Header().Set("Last-Modified", "Mon, 04 May 2026 08:00:00 GMT")
		_, _ = w.Write([]byte(calendar))
	}))
	defer server.Close()
	first, err := feed.New(true).Fetch(context.Background(), server.URL+"/old", "")
	require.NoError(t, err)
	assert.Equal(t, calendar, string(first.Text))
	again, err := feed.New(true).Fetch(context.Background(), server.URL+"/old", first.State)
	require.NoError(t, err)
	assert.Nil(t, again.Text, "nothing new")
	assert.Equal(t, first.State, again.State)
}

func TestWhatIsWrongWithAFeedIsSaidWithoutItsAddress(t *testing.T) {
	mux := http.NewServeMux()
	mux.HandleFunc("/html", func(w http.ResponseWriter, _ *http.Request) { _, _ = w.Write([]byte("<html>sign in</html>")) })
	mux.HandleFunc("/huge", func(w http.ResponseWriter, _ *http.Request) {
		_, _ = w.Write([]byte(calendar + strings.Repeat("X", 21<<20)))
	})
	mux.HandleFunc("/packed", func(w http.ResponseWriter, _ *http.Request) { // 50 MB that fold to some 50 kB
		w.Header().Set("Content-Encoding", "gzip")
		packer := gzip.NewWriter(w)
		_, _ = io.WriteString(packer, calendar+strings.Repeat("X", 50<<20))
		_ = packer.Close()
	})
	mux.HandleFunc("/round", func(w http.ResponseWriter, r *http.Request) { http.Redirect(w, r, "/round", http.StatusFound) })
	mux.HandleFunc("/private", func(w http.ResponseWriter, _ *http.Request) { w.WriteHeader(http.StatusForbidden) })
	mux.HandleFunc("/broken", func(w http.ResponseWriter, _ *http.Request) { w.WriteHeader(http.StatusBadGateway) })
	mux.HandleFunc("/away", func(w http.ResponseWriter, r *http.Request) {
		http.Redirect(w, r, "file:///etc/passwd", http.StatusFound)
	})
	server := httptest.NewServer(mux)
	defer server.Close()
	for path, want := range map[string]string{
		"/html": "is not a calendar", "/huge": "larger than 20 MB", "/packed": "larger than 20 MB", "/round": "in circles", "/private": "doesn't give out", "/broken": "an error (502)",
		"/away": "can't be used", "/none": "any more",
	} {
		fetched, err := feed.New(true).Fetch(context.Background(), server.URL+path, "before")
		assert.ErrorContains(t, err, want, path)
		assert.NotContains(t, err.Error(), path, "the address may be a secret")
		assert.Nil(t, fetched.Text)
	}
	_, err := feed.New(false).Fetch(context.Background(), server.URL, "")
	assert.ErrorContains(t, err, "private network")
	server.Close()
	_, err = feed.New(true).Fetch(context.Background(), server.URL, "")
	assert.ErrorContains(t, err, "can't be reached")
}

func TestACertificateThatCantBeTrustedIsNamed(t *testing.T) {
	server := httptest.NewUnstartedServer(http.NotFoundHandler())
	server.Config.ErrorLog = log.New(io.Discard, "", 0) // the handshake that fails
	server.StartTLS()
	defer server.Close()
	_, err := feed.New(true).Fetch(context.Background(), server.URL+"/secret", "")
	assert.ErrorContains(t, err, "can't be trusted (nobody known has signed it)")
}

func TestAPackedFeedIsReadAndAClockThatIsWrongIsNoticed(t *testing.T) {
	server := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		assert.Equal(t, "gzip", r.Header.Get("Accept-Encoding"))
		w.Header().Set("Content-Encoding", "gzip")
		w.Header().Set("Date", time.Now().Add(-20*time.Minute).UTC().Format(http.TimeFormat))
		packer := gzip.NewWriter(w)
		_, _ = io.WriteString(packer, calendar)
		_ = packer.Close()
	}))
	defer server.Close()
	fetched, err := feed.New(true).Fetch(context.Background(), server.URL, "")
	require.NoError(t, err)
	assert.Equal(t, calendar, string(fetched.Text))
	assert.InDelta(t, -20, fetched.Skew.Minutes(), 0.1)
}
