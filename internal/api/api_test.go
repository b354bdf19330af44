package api_test

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/internal/api"
	"corrim/internal/identity"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/store/sqlc"
	"corrim/internal/testhouse"
)

type client struct {
	t    testing.TB
	base string
	http *http.Client
}

func serve(t testing.TB, o api.Options) (*testhouse.House, client) {
	h := testhouse.New(t)
	server := httptest.NewServer(api.New(h.App, o))
	t.Cleanup(server.Close)
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	return h, client{t, server.URL, &http.Client{Jar: jar, Transport: &http.Transport{MaxIdleConnsPerHost: 64}}}
}

var generous = api.Options{SignInsPerMinute: 1000, BookingsPerMinute: 1_000_000}

// send returns the answer with its body read.
func (c client) send(method, path, body string, header ...string) (*http.Response, map[string]any) {
	request, err := http.NewRequest(method, c.base+path, strings.NewReader(body))
	require.NoError(c.t, err)
	if body != "" {
		request.Header.Set("Content-Type", "application/json")
	}
	for i := 0; i < len(header); i += 2 {
		request.Header.Set(header[i], header[i+1])
	}
	response, err := c.http.Do(request)
	require.NoError(c.t, err)
	defer func() { _ = response.Body.Close() }()
	text, err := io.ReadAll(response.Body)
	require.NoError(c.t, err)
	var value map[string]any
	_ = json.Unmarshal(text, &value) // some answers are not objects
	return response, value
}

const (
	survey = "/api/public/quillmere/survey"
	key    = "0123456789abcdef"
)

func bookingBody(at time.Time) string {
	return fmt.Sprintf(`{"start":%q,"name":"Harbour","mail":"keeper@harbour.example","zone":"America/Halifax"}`, at.Format(time.RFC3339))
}

func TestEveryRefusalIsAProblemDocument(t *testing.T) {
	h, c := serve(t, generous)
	at := bookingBody(h.At("2026-05-05 10:00"))
	for _, one := range []struct {
		name, method, path, body string
		status                   int
		problem                  string
	}{
		{"not signed in", "GET", "/api/today", "", 401, "not-signed-in"},
		{"wrong password", "POST", "/api/session", `{"mail":"ines@quillmere.example","password":"x"}`, 401, "not-signed-in"},
		{"no such page", "GET", "/api/public/quillmere/nothing", "", 404, "not-found"},
		{"no such link", "GET", "/api/bookings/nothing", "", 404, "not-found"},
		{"no such operation", "GET", "/api/nothing", "", 404, ""},
		{"wrong method", "DELETE", "/api/today", "", 405, ""},
		{"unreadable", "POST", survey + "/bookings", `{"start":`, 400, "invalid-input"},
		{"wrong form", "POST", survey + "/bookings", `{"start":5,"name":"secret words"}`, 422, "invalid-input"},
		{"oversized", "POST", survey + "/bookings", `{"name":"` + strings.Repeat("x", 200_000) + `"}`, 413, "too-large"},
		{"outside the hours", "POST", survey + "/bookings", strings.Replace(at, "T10:", "T12:", 1), 409, "time-taken"},
		{"a range too long", "GET", survey + "/open?from=2026-01-01T00:00:00Z&to=2027-01-01T00:00:00Z", "", 422, "invalid-input"},
		{"demo sign-in outside of a demo", "POST", "/api/demo-session", `{"person":1}`, 404, "not-found"},
	} {
		response, problem := c.send(one.method, one.path, one.body, "Idempotency-Key", key)
		assert.Equal(t, one.status, response.StatusCode, one.name)
		assert.Equal(t, "application/problem+json", response.Header.Get("Content-Type"), one.name)
		assert.Contains(t, problem["type"], one.problem, one.name)
		assert.NotEmpty(t, problem["detail"], one.name)
		assert.NotContains(t, fmt.Sprint(problem), "secret words", "nothing that was sent is repeated")
	}
	_, problem := c.send("POST", survey+"/bookings", strings.Replace(at, "T10:", "T12:", 1), "Idempotency-Key", key)
	assert.Len(t, problem["nearest"], 6)
	assert.Equal(t, "time-taken", problem["code"], "the page says it in the client's language")
	_, problem = c.send("POST", survey+"/bookings", strings.Replace(at, "keeper@harbour.example", "keeper", 1), "Idempotency-Key", key)
	fields := problem["fields"].(map[string]any)
	assert.Equal(t, "mail-incomplete", fields["mail"].(map[string]any)["code"])
	assert.NotContains(t, h.Log.String(), "harbour.example")
	assert.NotContains(t, h.Log.String(), "/bookings/nothing", "links are secrets; logs have the route")
}

func TestSigningInAndOut(t *testing.T) {
	_, c := serve(t, generous)
	response, me := c.send("POST", "/api/session", `{"mail":"ines@quillmere.example","password":"a lamp in the hall"}`)
	require.Equal(t, 200, response.StatusCode)
	assert.Equal(t, "Ines Valadares", me["person"].(map[string]any)["name"])
	set := response.Header.Values("Set-Cookie")
	cookie := set[slices.IndexFunc(set, func(c string) bool { return !strings.Contains(c, "device") })]
	assert.Contains(t, cookie, "HttpOnly")
	assert.Contains(t, cookie, "Secure", "the address begins with https")
	assert.Contains(t, cookie, "SameSite=Lax")
	assert.Contains(t, cookie, "__Host-corrim=")
	assert.Contains(t, response.Header.Get("Strict-Transport-Security"), "max-age=", "RFC 6797")

	token, _, _ := strings.Cut(strings.TrimPrefix(cookie, "__Host-corrim="), ";")
	today := func() int {
		response, _ := c.send("GET", "/api/today", "", "Cookie", "__Host-corrim="+token)
		return response.StatusCode
	}
	assert.Equal(t, 200, today())
	response, _ = c.send("DELETE", "/api/session", "", "Cookie", "__Host-corrim="+token)
	require.Equal(t, 200, response.StatusCode)
	assert.Equal(t, 401, today(), "the session has ended on the server, not only in the browser")
}

func TestRequestsFromOtherSitesAreRefused(t *testing.T) {
	h, c := serve(t, generous)
	response, _ := c.send("POST", survey+"/bookings", bookingBody(h.At("2026-05-05 10:00")), "Idempotency-Key", key, "Sec-Fetch-Site", "cross-site")
	assert.Equal(t, http.StatusForbidden, response.StatusCode)
}

func TestABrowserIsKnownOnceSomebodySignedInWithIt(t *testing.T) {
	h, c := serve(t, generous)
	response, _ := c.send("POST", "/api/session", fmt.Sprintf(`{"mail":%q,"password":"a lamp in the hall"}`, h.Host.Mail))
	require.Equal(t, 200, response.StatusCode)
	kept := response.Cookies()
	i := slices.IndexFunc(kept, func(c *http.Cookie) bool { return c.Name == "__Host-corrim-device" })
	require.GreaterOrEqual(t, i, 0)
	assert.True(t, kept[i].HttpOnly && kept[i].Secure && kept[i].SameSite == http.SameSiteLaxMode && kept[i].MaxAge > 0)
	assert.NotEmpty(t, h.App.Identity.Keys.DeviceOf(h.Host.ID, kept[i].Value))
	assert.Empty(t, h.App.Identity.Keys.DeviceOf(h.Colleague.ID, kept[i].Value), "it proves nothing for anybody else")
}

func TestTooManyAttemptsAreToldToWait(t *testing.T) {
	_, c := serve(t, api.Options{SignInsPerMinute: 3, BookingsPerMinute: 1})
	for i := range 4 {
		response, problem := c.send("POST", "/api/session", `{"mail":"x@y.example","password":"x"}`)
		if i < 3 {
			assert.Equal(t, 401, response.StatusCode)
			continue
		}
		assert.Equal(t, http.StatusTooManyRequests, response.StatusCode)
		assert.Contains(t, problem["detail"], "wait a minute")
	}
}

// Only the last line that the proxy in front writes can be trusted: a client can send lines of its own before it.
func TestALineThatAClientSendsLiftsNoLimit(t *testing.T) {
	_, c := serve(t, api.Options{SignInsPerMinute: 3, BookingsPerMinute: 1, BehindProxy: true})
	status := 0
	for i, hop := range []string{"198.51.100.7", "198.51.100.7:4711", " 198.51.100.7:4712 ", "198.51.100.7:4713"} { // a port is another one each time
		request, err := http.NewRequest("POST", c.base+"/api/session", strings.NewReader(`{"mail":"x@y.example","password":"x"}`))
		require.NoError(t, err)
		request.Header.Set("Content-Type", "application/json")
		request.Header.Add("X-Forwarded-For", fmt.Sprintf("10.0.0.%d", i))
		request.Header.Add("X-Forwarded-For", hop)
		response, err := c.http.Do(request)
		require.NoError(t, err)
		require.NoError(t, response.Body.Close())
		status = response.StatusCode
	}
	assert.Equal(t, http.StatusTooManyRequests, status)
}

func TestPagesAllowOnlyWhatShipsWithThem(t *testing.T) {
	_, c := serve(t, generous)
	response, _ := c.send("GET", "/healthz", "")
	assert.Equal(t, 200, response.StatusCode)
	assert.Equal(t, "default-src 'none'; frame-ancestors 'none'", response.Header.Get("Content-Security-Policy"))
	assert.Equal(t, "no-referrer", response.Header.Get("Referrer-Policy"))
	response, _ = c.send("GET", "/readyz", "")
	assert.Equal(t, 200, response.StatusCode)
	response, _ = c.send("GET", "/", "")
	assert.Equal(t, 200, response.StatusCode, "with or without a built user interface")
	assert.NotContains(t, response.Header.Get("Content-Security-Policy"), "unsafe")
}

// Durable bookings through the whole stack, with all that follows from them, against bare transactions that write the same rows;
// wanted is a quarter of those.
func BenchmarkBookings(b *testing.B) {
	h, c := serve(b, generous)
	h.Run()
	starts := openStarts(h)
	slugs := manyTypes(b, h, 20)
	var next atomic.Int64
	b.Run("through the stack", func(b *testing.B) {
		b.SetParallelism(8)
		began := next.Load()
		b.RunParallel(func(pb *testing.PB) {
			for pb.Next() {
				i := next.Add(1) - 1
				body := strings.Replace(bookingBody(starts[i]), "keeper@", fmt.Sprintf("keeper-%d@", i), 1)
				response, problem := c.send("POST", "/api/public/quillmere/"+slugs[int(i)%len(slugs)]+"/bookings", body, "Idempotency-Key", fmt.Sprintf("key number %d of many", i))
				if response.StatusCode != 200 {
					b.Errorf("booking %d: %d %v", i, response.StatusCode, problem["detail"])
				}
			}
		})
		b.ReportMetric(float64(next.Load()-began)/b.Elapsed().Seconds(), "bookings/s")
	})
	at := h.Now().AddDate(5, 0, 0).Unix() // where no other booking is
	b.Run("bare transactions", func(b *testing.B) {
		for range b.N {
			at += 3600
			require.NoError(b, h.App.Store.Write(b.Context(), func(q *sqlc.Queries) error { return sameRows(b.Context(), q, h, at, fmt.Sprint(at)) }))
		}
		b.ReportMetric(float64(b.N)/b.Elapsed().Seconds(), "transactions/s")
	})
}

func manyTypes(b *testing.B, h *testhouse.House, n int) (slugs []string) {
	for i := range n {
		draft := testhouse.Survey
		draft.Name, draft.Slug, draft.Rules.Follows = fmt.Sprintf("Survey %d", i), fmt.Sprintf("survey-%d", i), []string{"buffers"}
		draft.Rules.WindowDays = daysAhead
		_, err := h.App.SaveMeetingType(b.Context(), h.Host, 0, draft, settings.Saving{})
		require.NoError(b, err)
		slugs = append(slugs, draft.Slug)
	}
	return slugs
}

// sameRows writes what a booking writes, and nothing else.
func sameRows(ctx context.Context, q *sqlc.Queries, h *testhouse.House, at int64, name string) error {
	meeting, err := q.AddMeeting(ctx, sqlc.AddMeetingParams{
		Uid: "bare " + name, TypeID: h.Type.ID, HostID: h.Host.ID, StartAt: at, EndAt: at + 1800, KeptFrom: at, KeptUntil: at + 2400, TypeName: "Survey", Way: "{}", CreatedAt: at,
	})
	if err != nil {
		return err
	}
	booking, err := q.AddSeat(ctx, sqlc.AddSeatParams{
		Keeps:     1,
		MeetingID: meeting, Life: "booked", ClientName: "Bare", ClientMail: "bare@x.example", ClientZone: "UTC", Language: "en", LinkHash: "bare " + name, RequestKey: "bare " + name, CreatedAt: at,
		Answers: "{}", Said: "[]", Guests: "[]",
	})
	if err != nil {
		return err
	}
	err = errors.Join(
		q.AddMeetingHost(ctx, sqlc.AddMeetingHostParams{MeetingID: meeting, PersonID: h.Host.ID}),
		q.AddAssignment(ctx, sqlc.AddAssignmentParams{BookingID: booking, TypeID: h.Type.ID, PersonID: h.Host.ID, At: at, Reason: "{}"}),
		q.AddStep(ctx, sqlc.AddStepParams{BookingID: booking, At: at, Kind: "booked", By: "client"}),
	)
	for _, kind := range []string{"room", "calendar", "mail-client", "mail-host"} {
		far := at + 100*365*24*3600 // nobody begins it
		err = errors.Join(err, q.PlanJob(ctx, sqlc.PlanJobParams{Key: kind + name, Kind: kind, Lane: "bare", Subject: "booking", SubjectID: booking, DueAt: far, TouchedAt: at}))
	}
	return err
}

// daysAhead is how far one can book in the benchmarks: more starts than are booked in the time they take.
const daysAhead = 600

func openStarts(h *testhouse.House) (starts []time.Time) {
	for day := h.Now(); day.Sub(h.Now()) < (daysAhead-1)*24*time.Hour; day = day.AddDate(0, 0, 1) {
		at := h.At(day.Format(time.DateOnly) + " 09:00")
		for _, hour := range []int{0, 1, 2, 4, 5, 6, 7} {
			if s := at.Add(time.Duration(hour) * time.Hour); day.Weekday() != 0 && day.Weekday() != 6 && s.After(h.Now().Add(time.Hour)) {
				starts = append(starts, s)
			}
		}
	}
	return starts
}

func BenchmarkOpenTimes(b *testing.B) {
	h, c := serve(b, generous)
	for i := range 200 {
		at := h.Now().Add(time.Duration(i) * 7 * time.Hour)
		require.NoError(b, h.Calendars.AddEvent("ines", 0, "Event", at, at.Add(time.Hour)))
	}
	h.Connect()
	path := survey + "/open?from=2026-05-04T00:00:00Z&to=2026-06-08T00:00:00Z"
	b.SetParallelism(4)
	b.ResetTimer()
	b.RunParallel(func(pb *testing.PB) {
		for pb.Next() {
			if response, _ := c.send("GET", path, ""); response.StatusCode != 200 {
				b.Error(response.StatusCode)
			}
		}
	})
	b.ReportMetric(float64(b.N)/b.Elapsed().Seconds(), "requests/s")
}

// BenchmarkAPoolOfFifty asks for 60 days of a type that 50 people host in turn, 20 clients at once, through the whole stack.
// Wanted are under 60 ms for 99 of 100 answers.
func BenchmarkAPoolOfFifty(b *testing.B) {
	h, c := serve(b, generous)
	people := []schedule.PoolMember{{Person: h.Host.ID, Weight: 1}}
	for i := range 49 {
		people = append(people, schedule.PoolMember{Person: newPerson(b, h, i), Weight: 1})
	}
	_, err := h.App.SaveRouting(b.Context(), h.Host, h.Type.ID, settings.RoutingChange{Routing: schedule.TypeRouting{Mode: "turn", Period: "always", People: people}, Who: "anyone"})
	require.NoError(b, err)
	from := h.Now().UTC()
	path := survey + "/open?from=" + from.Format(time.RFC3339) + "&to=" + from.AddDate(0, 0, 60).Format(time.RFC3339)
	var mu sync.Mutex
	var took []time.Duration
	b.SetParallelism(10) // goroutines for each of two cores
	b.ResetTimer()
	b.RunParallel(func(pb *testing.PB) {
		for pb.Next() {
			began := time.Now()
			response, err := c.http.Get(c.base + path)
			require.NoError(b, err)
			require.Equal(b, http.StatusOK, response.StatusCode)
			_, _ = io.Copy(io.Discard, response.Body)
			_ = response.Body.Close()
			mu.Lock()
			took = append(took, time.Since(began))
			mu.Unlock()
		}
	})
	slices.Sort(took)
	b.ReportMetric(float64(took[len(took)*99/100].Microseconds())/1000, "ms/p99")
	b.ReportMetric(float64(took[len(took)/2].Microseconds())/1000, "ms/p50")
}

func newPerson(b *testing.B, h *testhouse.House, i int) int64 {
	return joins(b, h, fmt.Sprintf("Host %d", i), fmt.Sprintf("host%d@quillmere.example", i), identity.Member)
}

// What gives somebody more than their own, or opens a door to it, asks for the password once more after a while.
func TestRiskyThingsAskForThePasswordOnceMore(t *testing.T) {
	h, c := serve(t, generous)
	signIn := fmt.Sprintf(`{"mail":%q,"password":"a lamp in the hall"}`, h.Host.Mail)
	response, _ := c.send("POST", "/api/session", signIn)
	require.Equal(t, 200, response.StatusCode)
	person := func(role string) string {
		return fmt.Sprintf(`{"name":"Maren","zone":"Europe/Berlin","role":%q,"bookable":true,"attributes":{},"slug":"maren"}`, role)
	}
	risky := []struct{ method, path, body string }{
		{"PUT", fmt.Sprintf("/api/staff/%d", h.Colleague.ID), person("coordinator")},
		{"POST", "/api/invitations", `{"name":"Tomasz","mail":"tomasz@quillmere.example","role":"owner"}`},
		{"POST", "/api/feeds", ""},
		{"DELETE", fmt.Sprintf("/api/staff/%d", h.Colleague.ID), ""},
	}
	h.Pass(20 * time.Minute)
	for _, one := range risky {
		_, problem := c.send(one.method, one.path, one.body)
		assert.Contains(t, problem["type"], "confirm-identity", one.path)
	}
	response, _ = c.send("PUT", risky[0].path, person(string(h.Colleague.Role)))
	assert.Equal(t, 200, response.StatusCode, "nothing risky in a name")
	response, _ = c.send("POST", "/api/session/check", `{"password":"a lamp in the hall"}`)
	require.Equal(t, 200, response.StatusCode)
	for _, one := range risky {
		response, problem := c.send(one.method, one.path, one.body)
		assert.Equal(t, 200, response.StatusCode, "%s: %v", one.path, problem)
	}
}
