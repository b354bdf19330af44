package rooms_test

import (
	"context"
	"io"
	"net/http"
	"net/http/httptest"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/internal/app"
	"corrim/internal/outside/rooms"
	"corrim/internal/schedule"
	service "corrim/internal/standin/rooms"
)

var (
	ctx  = context.Background()
	noon = time.Date(2026, 12, 1, 12, 0, 0, 0, time.UTC)
)

func TestARoomIsMadeMovedAndClosed(t *testing.T) {
	now := noon.Add(-time.Hour)
	file := filepath.Join(t.TempDir(), "rooms.json")
	server, err := service.New("http://rooms.example", "token", file, func() time.Time { return now })
	require.NoError(t, err)
	listening := httptest.NewServer(server)
	defer listening.Close()
	client := rooms.New(listening.URL+"/", "token")
	room, err := client.Keep(ctx, "1@corrim", app.RoomWish{Title: "Survey <b>", From: noon, To: noon.Add(time.Hour)})
	require.NoError(t, err)
	page := func() string {
		response, err := http.Get(listening.URL + strings.TrimPrefix(room.URL, "http://rooms.example"))
		require.NoError(t, err)
		defer func() { _ = response.Body.Close() }()
		text, err := io.ReadAll(response.Body)
		require.NoError(t, err)
		return string(text)
	}
	assert.Contains(t, page(), "not open yet")
	assert.Contains(t, page(), "Tuesday 1 December 2026, 12:00 to 13:00 UTC")
	assert.Contains(t, page(), "Survey &lt;b&gt;")
	now = noon.Add(-9 * time.Minute)
	assert.Contains(t, page(), "This room is open.")

	moved, err := client.Keep(ctx, "1@corrim", app.RoomWish{Title: "Survey", From: noon.AddDate(0, 0, 1), To: noon.AddDate(0, 0, 1).Add(time.Hour)})
	require.NoError(t, err)
	assert.Equal(t, room, moved, "the link stays")
	assert.Contains(t, page(), "not open yet")
	wished, err := client.Keep(ctx, "1@corrim", app.RoomWish{Title: "Survey", From: noon.AddDate(0, 0, 1), To: noon.AddDate(0, 0, 1).Add(time.Hour), RoomOptions: schedule.RoomOptions{Passcode: true, RecordingNotice: true}})
	require.NoError(t, err)
	assert.Equal(t, room.URL, wished.URL)
	assert.NotEmpty(t, wished.Passcode)
	assert.Contains(t, page(), "The meeting is recorded.")
	assert.NotContains(t, page(), wished.Passcode, "who has the link alone doesn't know it")
	other, err := client.Keep(ctx, "2@corrim", app.RoomWish{Title: "Survey", From: noon, To: noon.Add(time.Hour)})
	require.NoError(t, err)
	assert.NotEqual(t, room.URL, other.URL, "each booking has its own")

	require.NoError(t, client.Close(ctx, "1@corrim"))
	assert.Contains(t, page(), "This room is closed.")
	require.NoError(t, client.Close(ctx, "never made"), "there is nothing to close")
	now = noon.AddDate(0, 1, 0)
	assert.Contains(t, page(), "closed")

	again, err := service.New("http://rooms.example", "token", file, time.Now)
	require.NoError(t, err)
	listening.Config.Handler = again
	assert.Contains(t, page(), "closed", "kept over a restart")
}

func TestTroubleWithTheServiceIsSaidWithoutItsAddress(t *testing.T) {
	server, err := service.New("http://rooms.example", "token", "", time.Now)
	require.NoError(t, err)
	listening := httptest.NewServer(server)
	defer listening.Close()
	_, err = rooms.New(listening.URL, "wrong").Keep(ctx, "1@corrim", app.RoomWish{Title: "Survey", From: noon, To: noon})
	assert.ErrorContains(t, err, "answered with an error (401)")
	_, err = rooms.New("http://127.0.0.1:1", "token").Keep(ctx, "1@corrim", app.RoomWish{Title: "Survey", From: noon, To: noon})
	assert.EqualError(t, err, "the video room service can't be reached")
	nonsense := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) { _, _ = w.Write([]byte("{}")) }))
	defer nonsense.Close()
	_, err = rooms.New(nonsense.URL, "token").Keep(ctx, "1@corrim", app.RoomWish{Title: "Survey", From: noon, To: noon})
	assert.ErrorContains(t, err, "something else than a room")
}
