package calendar_test

import (
	"context"
	"io"
	"net/http"
	"net/http/httptest"
	"net/url"
	"path/filepath"
	"testing"
	"time"

	"github.com/emersion/go-webdav"
	"github.com/emersion/go-webdav/caldav"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/internal/standin/calendar"
)

func serve(t *testing.T, file string) (*calendar.Server, string) {
	t.Helper()
	s, err := calendar.New(file, time.Now)
	require.NoError(t, err)
	_, err = s.AddUser(calendar.User{Name: "ines", FullName: "Ines", Zone: "Europe/Lisbon", Password: "light"}, "Work", "Family")
	require.NoError(t, err)
	server := httptest.NewServer(s)
	t.Cleanup(server.Close)
	return s, server.URL
}

var (
	ctx  = context.Background()
	noon = time.Date(2026, 12, 1, 12, 0, 0, 0, time.UTC)
)

// The stand-in must speak real CalDAV, so it is asked here by a client that isn't ours: go-webdav's.
func TestAnotherClientFindsAndReadsTheCalendars(t *testing.T) {
	s, base := serve(t, "")
	require.NoError(t, s.AddEvent("ines", 0, "Depot, north; wing", noon, noon.Add(time.Hour)))
	client, err := caldav.NewClient(webdav.HTTPClientWithBasicAuth(nil, "ines", "light"), base)
	require.NoError(t, err)
	principal, err := client.FindCurrentUserPrincipal(ctx)
	require.NoError(t, err)
	home, err := client.FindCalendarHomeSet(ctx, principal)
	require.NoError(t, err)
	calendars, err := client.FindCalendars(ctx, home)
	require.NoError(t, err)
	require.Len(t, calendars, 2)
	assert.Equal(t, "Work", calendars[0].Name)
	found, err := client.QueryCalendar(ctx, calendars[0].Path, &caldav.CalendarQuery{
		CompRequest: caldav.CalendarCompRequest{Name: "VCALENDAR", AllProps: true, AllComps: true},
		CompFilter:  caldav.CompFilter{Name: "VCALENDAR", Comps: []caldav.CompFilter{{Name: "VEVENT", Start: noon.Add(-time.Hour), End: noon.Add(time.Minute)}}},
	})
	require.NoError(t, err)
	require.Len(t, found, 1)
	title, err := found[0].Data.Events()[0].Props.Text("SUMMARY")
	require.NoError(t, err)
	assert.Equal(t, "Depot, north; wing", title)
	require.NoError(t, client.RemoveAll(ctx, found[0].Path))
	assert.Empty(t, s.Texts("ines", 0))
}

func TestNobodyGetsIntoAnothersCalendar(t *testing.T) {
	s, base := serve(t, "")
	_, err := s.AddUser(calendar.User{Name: "torvald", Zone: "Europe/Oslo", Password: "dark"}, "Work")
	require.NoError(t, err)
	ask := func(user, password, path string) int {
		request, err := http.NewRequest("PROPFIND", base+path, nil)
		require.NoError(t, err)
		request.SetBasicAuth(user, password)
		response, err := http.DefaultClient.Do(request)
		require.NoError(t, err)
		require.NoError(t, response.Body.Close())
		return response.StatusCode
	}
	assert.Equal(t, http.StatusUnauthorized, ask("ines", "dark", "/ines/calendars/"))
	assert.Equal(t, http.StatusForbidden, ask("torvald", "dark", "/ines/calendars/"))
	assert.Equal(t, http.StatusMultiStatus, ask("torvald", "dark", "/torvald/calendars/"))
}

func TestAPersonAddsMovesAndRemovesEventsOnThePage(t *testing.T) {
	file := filepath.Join(t.TempDir(), "calendars.json")
	s, base := serve(t, file)
	day := time.Now().AddDate(0, 0, 3).Format(time.DateOnly)
	post := func(action string, form url.Values) int {
		response, err := http.PostForm(base+"/page/ines/"+action, form)
		require.NoError(t, err)
		require.NoError(t, response.Body.Close())
		return response.StatusCode
	}
	page := func() string {
		response, err := http.Get(base + "/page/ines")
		require.NoError(t, err)
		defer func() { _ = response.Body.Close() }()
		text, err := io.ReadAll(response.Body)
		require.NoError(t, err)
		return string(text)
	}
	form := url.Values{"title": {"<b>Dentist</b>"}, "calendar": {"c2"}, "date": {day}, "from": {"09:00"}, "to": {"10:00"}, "as": {"busy"}}
	assert.Equal(t, 200, post("add", form))
	assert.Contains(t, page(), "&lt;b&gt;Dentist&lt;/b&gt;")
	assert.Contains(t, page(), "09:00–10:00")
	form.Set("to", "08:00")
	assert.Equal(t, http.StatusBadRequest, post("add", form), "an end before its start")
	require.Len(t, s.Texts("ines", 1), 1)

	name := s.Names("ines", 1)[0]
	assert.Equal(t, 200, post("move", url.Values{"calendar": {"c2"}, "name": {name}, "date": {day}, "from": {"14:00"}, "to": {"14:30"}}))
	assert.Contains(t, page(), "14:00–14:30")

	again, err := calendar.New(file, time.Now)
	require.NoError(t, err)
	assert.Equal(t, s.Texts("ines", 1), again.Texts("ines", 1), "kept over a restart")
	assert.Equal(t, 200, post("remove", url.Values{"calendar": {"c2"}, "name": {name}}))
	assert.Empty(t, s.Texts("ines", 1))
	assert.Equal(t, http.StatusNotFound, post("remove", url.Values{"calendar": {"c2"}, "name": {name}}))
}
