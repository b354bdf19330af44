package caldav_test

import (
	"context"
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/internal/calsync"
	"corrim/internal/outside/caldav"
)

// scripted answers each request by the first rule whose words the request line and body hold.
func scripted(t *testing.T, rules ...[3]string) (calsync.Login, *[]string) {
	t.Helper()
	var seen []string
	server := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		body, _ := io.ReadAll(r.Body)
		line := r.Method + " " + r.URL.Path
		seen = append(seen, line)
		for _, rule := range rules {
			if strings.HasPrefix(line, rule[0]) && strings.Contains(string(body), rule[1]) {
				if strings.HasPrefix(rule[2], "30") {
					w.Header().Set("Location", rule[2][4:])
					w.WriteHeader(http.StatusMovedPermanently)
					return
				}
				if len(rule[2]) == 3 {
					var code int
					_, _ = fmt.Sscan(rule[2], &code)
					w.WriteHeader(code)
					return
				}
				w.WriteHeader(http.StatusMultiStatus)
				_, _ = io.WriteString(w, `<multistatus xmlns="DAV:" xmlns:C="urn:ietf:params:xml:ns:caldav" xmlns:S="http://calendarserver.org/ns/">`+rule[2]+`</multistatus>`)
				return
			}
		}
		w.WriteHeader(http.StatusNotFound)
	}))
	t.Cleanup(server.Close)
	return calsync.Login{Address: server.URL, Username: "u", Password: "p"}, &seen
}

func found(href, prop string) string {
	return `<response><href>` + href + `</href><propstat><prop>` + prop + `</prop><status>HTTP/1.1 200 OK</status></propstat><propstat><prop><displayname/></prop><status>HTTP/1.1 404 Not Found</status></propstat></response>`
}

var ctx = context.Background()

func reading(login calsync.Login, state string, known func() (map[string]string, error)) calsync.Reading {
	return calsync.Reading{Calendar: login.Address + "/c/", State: state, Known: known, Progress: func(int, int) {}}
}

func TestDiscoveryGoesByTheWellKnownAddressAndKeepsItsMethod(t *testing.T) {
	login, seen := scripted(t,
		[3]string{"PROPFIND /.well-known/caldav", "", "301 /dav/"},
		[3]string{"PROPFIND /dav/", "current-user-principal", found("/dav/", `<current-user-principal><href>/dav/p/u/</href></current-user-principal>`)},
		[3]string{"PROPFIND /dav/p/u/", "calendar-home-set", found("/dav/p/u/", `<C:calendar-home-set><href>/dav/c/u/</href></C:calendar-home-set>`)},
		[3]string{"PROPFIND /dav/c/u/", "", found("/dav/c/u/", `<resourcetype><collection/></resourcetype>`) +
			found("/dav/c/u/work/", `<resourcetype><collection/><C:calendar/></resourcetype><C:supported-calendar-component-set><C:comp name="VEVENT"/></C:supported-calendar-component-set><displayname>Work</displayname>`) +
			found("/dav/c/u/todo/", `<resourcetype><collection/><C:calendar/></resourcetype><C:supported-calendar-component-set><C:comp name="VTODO"/></C:supported-calendar-component-set>`)},
	)
	calendars, err := caldav.New(true).Discover(ctx, login)
	require.NoError(t, err)
	assert.Equal(t, []calsync.RemoteCalendar{{Href: login.Address + "/dav/c/u/work/", Name: "Work"}}, calendars, "calendars for events only (RFC 4791, 5.2.3)")
	assert.Equal(t, "PROPFIND /dav/", (*seen)[2])
}

func none() (map[string]string, error) { return map[string]string{}, nil }

func TestATokenTheServerForgotMeansComparingEverything(t *testing.T) {
	login, _ := scripted(t,
		[3]string{"REPORT /c/", "sync-collection", "403"},
		[3]string{"PROPFIND /c/", "getctag", found("/c/", `<S:getctag>7</S:getctag>`)},
		[3]string{"PROPFIND /c/", "getetag", found("/c/", `<resourcetype><collection/></resourcetype>`) + found("/c/same.ics", `<getetag>"1"</getetag>`) + found("/c/new.ics", `<getetag>"2"</getetag>`) + found("/c/vanishing.ics", `<getetag>"3"</getetag>`)},
		[3]string{"REPORT /c/", "calendar-multiget", found("/c/new.ics", `<getetag>"2"</getetag><C:calendar-data>BEGIN:VCALENDAR</C:calendar-data>`) +
			`<response><href>/c/vanishing.ics</href><status>HTTP/1.1 404 Not Found</status></response>`},
	)
	known := func() (map[string]string, error) {
		return map[string]string{login.Address + "/c/same.ics": `"1"`, login.Address + "/c/gone.ics": `"9"`}, nil
	}
	changes, err := caldav.New(true).Changes(ctx, login, reading(login, "sync:old", known))
	require.NoError(t, err)
	assert.Equal(t, "ctag:7", changes.State)
	require.Len(t, changes.Changed, 1, "a member missing from a multiget doesn't fail it")
	assert.Equal(t, login.Address+"/c/new.ics", changes.Changed[0].Href)
	assert.ElementsMatch(t, []string{login.Address + "/c/gone.ics", login.Address + "/c/vanishing.ics"}, changes.Removed)
}

func TestAnUnchangedCTagAsksNothingMore(t *testing.T) {
	login, seen := scripted(t, [3]string{"PROPFIND /c/", "getctag", found("/c/", `<S:getctag>7</S:getctag>`)})
	changes, err := caldav.New(true).Changes(ctx, login, reading(login, "ctag:7", none))
	require.NoError(t, err)
	assert.Empty(t, changes.Changed)
	assert.Equal(t, []string{"PROPFIND /c/"}, *seen)
}

func TestAServerInTroubleIsNotMistakenForAnEmptyOne(t *testing.T) {
	login, _ := scripted(t, [3]string{"REPORT /c/", "sync-collection", "503"})
	_, err := caldav.New(true).Changes(ctx, login, reading(login, "sync:t", none))
	assert.ErrorContains(t, err, "busy at the moment")
	login, _ = scripted(t, [3]string{"REPORT /c/", "", "401"})
	_, err = caldav.New(true).Changes(ctx, login, reading(login, "", none))
	assert.ErrorContains(t, err, "refuses this user name and password")
	login, _ = scripted(t, [3]string{"PROPFIND /", "", "301 /"})
	_, err = caldav.New(true).Discover(ctx, login)
	assert.ErrorContains(t, err, "redirects in circles")
	_, err = caldav.New(false).Discover(ctx, login)
	assert.ErrorContains(t, err, "private network")
	assert.NotContains(t, err.Error(), login.Password+"@")
}

func TestWritesAreConditional(t *testing.T) {
	var conditions []string
	server := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		conditions = append(conditions, r.Method+r.Header.Get("If-Match")+r.Header.Get("If-None-Match"))
		if r.Header.Get("If-Match") == `"old"` {
			w.WriteHeader(http.StatusPreconditionFailed)
			return
		}
		w.Header().Set("ETag", `"new"`)
		w.WriteHeader(http.StatusCreated)
	}))
	defer server.Close()
	login := calsync.Login{Address: server.URL}
	etag, err := caldav.New(true).Put(ctx, login, server.URL+"/c/x.ics", "", []byte("x"))
	require.NoError(t, err)
	assert.Equal(t, `"new"`, etag)
	_, err = caldav.New(true).Put(ctx, login, server.URL+"/c/x.ics", `"old"`, []byte("x"))
	require.ErrorIs(t, err, calsync.ErrChanged)
	assert.Equal(t, []string{"PUT*", `PUT"old"`}, conditions)
}

func TestAPasswordStaysWhereItWasGiven(t *testing.T) {
	var got []string
	stranger := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		got = append(got, r.Header.Get("Authorization"))
		w.WriteHeader(http.StatusNotFound)
	}))
	defer stranger.Close()
	login, _ := scripted(t, [3]string{"PROPFIND /", "", "301 " + stranger.URL + "/"})
	_, err := caldav.New(true).Discover(ctx, login)
	assert.ErrorContains(t, err, "which your password was not given for", "a redirect to another host")
	login, _ = scripted(t, [3]string{"PROPFIND /", "current-user-principal", found("/", `<current-user-principal><href>`+stranger.URL+`/u/</href></current-user-principal>`)})
	_, err = caldav.New(true).Discover(ctx, login)
	assert.ErrorContains(t, err, "which your password was not given for", "a principal on another host")
	login, _ = scripted(t)
	_, err = caldav.New(true).Put(ctx, login, stranger.URL+"/c/x.ics", "", []byte("x"))
	assert.ErrorContains(t, err, "which your password was not given for", "a stored address on another host")
	assert.Empty(t, got, "the other host was not even asked")
}
