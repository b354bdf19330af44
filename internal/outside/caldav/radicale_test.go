package caldav_test

import (
	"context"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/internal/calsync"
	"corrim/internal/outside/caldav"
	"corrim/internal/testhouse/radicale"
)

// signedUp starts a Radicale, and returns how to sign in and where its collections are.
func signedUp(t *testing.T) (calsync.Login, string) {
	t.Helper()
	address, collections := radicale.Start(t)
	return calsync.Login{Address: address, Username: "ines", Password: "light"}, collections
}

// makeCalendar makes a calendar as its owner would.
func makeCalendar(t *testing.T, login calsync.Login, name string) {
	t.Helper()
	body := `<?xml version="1.0"?><C:mkcalendar xmlns="DAV:" xmlns:C="urn:ietf:params:xml:ns:caldav"><set><prop><displayname>` + name + `</displayname></prop></set></C:mkcalendar>`
	request, err := http.NewRequest("MKCALENDAR", login.Address+"/ines/"+strings.ToLower(name)+"/", strings.NewReader(body))
	require.NoError(t, err)
	request.SetBasicAuth(login.Username, login.Password)
	response, err := http.DefaultClient.Do(request)
	require.NoError(t, err)
	require.NoError(t, response.Body.Close())
	require.Equal(t, http.StatusCreated, response.StatusCode)
}

func eventAt(uid, hour string) []byte {
	return []byte("BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//test//EN\r\nBEGIN:VEVENT\r\nUID:" + uid + "\r\nDTSTAMP:20260504T080000Z\r\nDTSTART:20260505T" + hour + "0000Z\r\nDURATION:PT1H\r\nSUMMARY:" + uid + "\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n")
}

// What Corrim needs of a calendar server, done with one that isn't ours: connect, read what was added, changed and
// removed, write, move, delete, and begin again after the server has forgotten its sync-token.
func TestRadicaleIsReadAndWritten(t *testing.T) {
	login, collections := signedUp(t)
	ctx, client := context.Background(), caldav.New(true)
	_, err := client.Discover(ctx, calsync.Login{Address: login.Address, Username: "ines", Password: "dark"})
	assert.ErrorContains(t, err, "refuses this user name and password")
	makeCalendar(t, login, "Work")
	makeCalendar(t, login, "Family")
	calendars, err := client.Discover(ctx, login)
	require.NoError(t, err)
	require.Len(t, calendars, 2)
	work := calendars[0]
	if work.Name != "Work" {
		work = calendars[1]
	}
	assert.Equal(t, "Work", work.Name)

	known := map[string]string{}
	state := ""
	read := func() calsync.Changes {
		t.Helper()
		changes, err := client.Changes(ctx, login, calsync.Reading{
			Calendar: work.Href, State: state, Progress: func(int, int) {},
			Known: func() (map[string]string, error) { return known, nil },
		})
		require.NoError(t, err)
		state = changes.State
		for _, r := range changes.Changed {
			known[r.Href] = r.ETag
		}
		for _, href := range changes.Removed {
			delete(known, href)
		}
		return changes
	}
	assert.Empty(t, read().Changed)
	depot, lamps := work.Href+"depot.ics", work.Href+"lamps.ics"
	etag, err := client.Put(ctx, login, depot, "", eventAt("depot", "10"))
	require.NoError(t, err)
	_, err = client.Put(ctx, login, lamps, "", eventAt("lamps", "12"))
	require.NoError(t, err)
	added := read().Changed
	require.Len(t, added, 2)
	assert.Contains(t, string(added[0].ICS), "BEGIN:VEVENT")
	assert.Empty(t, read().Changed, "nothing is read twice")

	_, err = client.Put(ctx, login, depot, "", eventAt("depot", "11"))
	assert.ErrorIs(t, err, calsync.ErrChanged, "what is there isn't written over")
	if etag == "" {
		current, getErr := client.Get(ctx, login, depot)
		etag, err = current.ETag, getErr
		require.NoError(t, err)
	}
	_, err = client.Put(ctx, login, depot, etag, eventAt("depot", "11"))
	require.NoError(t, err)
	_, err = client.Put(ctx, login, depot, etag, eventAt("depot", "12"))
	assert.ErrorIs(t, err, calsync.ErrChanged, "nor what somebody changed since")
	moved := read().Changed
	require.Len(t, moved, 1)
	assert.Contains(t, string(moved[0].ICS), "T110000Z")

	require.NoError(t, client.Delete(ctx, login, lamps))
	require.NoError(t, client.Delete(ctx, login, lamps), "what is gone is gone")
	gone := read()
	assert.Len(t, gone.Removed, 1)
	assert.Empty(t, gone.Changed)

	// The server loses its memory of what it told us.
	caches, err := filepath.Glob(filepath.Join(collections, "*", ".Radicale.cache"))
	require.NoError(t, err)
	require.NotEmpty(t, caches)
	for _, cache := range caches {
		require.NoError(t, os.RemoveAll(cache))
	}
	_, err = client.Put(ctx, login, lamps, "", eventAt("lamps", "15"))
	require.NoError(t, err)
	read()
	assert.Len(t, known, 2, "everything is there again, nothing twice")
}
