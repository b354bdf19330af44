package api_test

import (
	"encoding/base64"
	"encoding/json"
	"fmt"
	"io"
	"maps"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"net/url"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/go-chi/chi/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/intake"
	"corrim/internal/api"
	"corrim/internal/app"
	"corrim/internal/identity"
	"corrim/internal/public"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/standin/calendar"
	"corrim/internal/testhouse"
)

// Unmistakable words are planted in every private place. Then every operation is called as everybody, every feed is read,
// and so is every mail and every line of the log: whoever sees a word that the table below doesn't grant them fails the test.
// So does an operation that has no row in calls.

// reader is somebody who looks.
type reader string

const (
	owner       reader = "owner"       // Ines; looks after every type
	coordinator reader = "coordinator" // Maren
	host        reader = "host"        // Torvald, a member, who hosts the booking of client A
	member      reader = "member"      // Siew Lin, who hosts that of client B
	viewer      reader = "viewer"
	removed     reader = "removed" // was a member, with a session from then
	stranger    reader = "stranger"
	clientA     reader = "client A"
	clientB     reader = "client B"
	clientC     reader = "client C" // got a one-off offer
	clientD     reader = "client D" // still has to enter a code
	guest       reader = "guest of A"
	log         reader = "log"
)

var readers = []reader{owner, coordinator, host, member, viewer, removed, stranger, clientA, clientB, clientC, clientD}

// granted is who may see which planted word. The words are made by plant.
var granted = map[string][]reader{
	"event of the owner": {owner}, "event of the coordinator": {coordinator}, "event of the host": {host}, "event of the member": {member},
	"told event of the member": {owner, coordinator, host, member, viewer}, // its calendar tells colleagues
	"unread event":             {},                                         // its calendar tells nobody
	"block of the owner":       {owner}, "block of the host": {host},
	"name of A": {owner, coordinator, host, clientA}, "mail of A": {owner, coordinator, host, clientA, guest},
	"remark of A": {owner, coordinator, host, clientA}, "answer of A": {owner, coordinator, host, clientA},
	"file of A": {owner, coordinator, host, clientA}, "contents of A's file": {owner, coordinator, host}, "guest of A": {owner, coordinator, host, clientA, guest},
	"link of A": {clientA}, "room of A": {owner, coordinator, host, clientA, guest},
	"name of B": {owner, coordinator, member, clientB}, "mail of B": {owner, coordinator, member, clientB}, "remark of B": {owner, coordinator, member, clientB},
	"link of B":     {clientB},
	"notes of type": {owner, coordinator, host}, "checklist of type": {owner, coordinator, host}, "copies of type": {owner, coordinator, host},
	"note about A": {owner, coordinator, host},
	"name of C":    {owner, coordinator, clientC}, "mail of C": {owner, coordinator, clientC}, "word to C": {owner, coordinator, clientC}, "link of C": {clientC},
	"name of D": {owner, coordinator, host, clientD}, "mail of D": {owner, coordinator, host, clientD}, "code of D": {clientD}, "link of D": {clientD},
	"calendar password": {}, "secret address": {}, "feed of the host": {host}, "feed of the removed": {},
	"invited mail": {owner, coordinator, host, member, viewer}, "invitation": {}, "password": {},
}

// planted is a house full of words.
type planted struct {
	t       *testing.T
	h       *testhouse.House
	base    string
	words   map[string]string // by the names of granted
	clients map[reader]client // with their sessions
	ids     map[string]string // that paths and bodies are made of
	links   map[reader]string
	people  map[reader]schedule.Person
}

func plant(t *testing.T) *planted {
	h, c := serve(t, generous)
	h.Run()
	p := &planted{t: t, h: h, base: c.base, words: map[string]string{}, clients: map[reader]client{}, ids: map[string]string{}, links: map[reader]string{}, people: map[reader]schedule.Person{owner: h.Host, coordinator: h.Colleague}}
	for name := range granted {
		p.words[name] = "zq" + strings.ToLower(regexp.MustCompile(`[^A-Za-z]`).ReplaceAllString(name, "")) + "qz"
	}
	p.staff()
	p.calendars()
	p.types()
	p.bookings()
	for _, r := range readers {
		p.clients[r] = p.session(r)
	}
	p.leave()
	return p
}

const canaryPassword = "zqpasswordqz in the hall"

func (p *planted) staff() {
	for r, role := range map[reader]identity.Role{host: identity.Member, member: identity.Member, viewer: identity.Viewer, removed: identity.Member} {
		person, err := p.h.App.Person(p.t.Context(), joins(p.t, p.h, "The "+string(r), string(r)+"@quillmere.example", identity.Member))
		require.NoError(p.t, err)
		p.people[r] = person
		p.role(r, role)
	}
	p.role(coordinator, identity.Coordinator)
	_, err := p.h.App.Invite(p.t.Context(), p.people[owner], app.NewInvitation{Name: "Newcomer", Mail: p.words["invited mail"] + "@x.example", Role: identity.Member})
	require.NoError(p.t, err)
	p.words["invitation"] = secretIn(p.t, p.h, p.words["invited mail"], "/join/")
}

func (p *planted) role(r reader, role identity.Role) {
	person := p.people[r]
	_, err := p.h.App.ChangePerson(p.t.Context(), p.people[owner], person.ID, app.PersonChange{Name: person.Name, Zone: person.Zone, Role: role, Bookable: true})
	require.NoError(p.t, err)
	p.people[r], err = p.h.App.Person(p.t.Context(), person.ID)
	require.NoError(p.t, err)
}

// calendars gives everybody a calendar with an event over their open hours, and some blocked time.
func (p *planted) calendars() {
	ctx, at := p.t.Context(), p.h.At("2026-05-06 13:00")
	for _, r := range []reader{owner, coordinator, host, member} {
		name := "cal-" + string(r)
		_, err := p.h.Calendars.AddUser(calendar.User{Name: name, FullName: name, Mail: p.people[r].Mail, Zone: "Europe/Lisbon", Password: p.words["calendar password"]}, "Work", "Told", "Silent")
		require.NoError(p.t, err)
		require.NoError(p.t, p.h.Calendars.AddEvent(name, 0, p.words["event of the "+string(r)], at, at.Add(time.Hour)))
		if r == member {
			require.NoError(p.t, p.h.Calendars.AddEvent(name, 1, p.words["told event of the member"], at.Add(2*time.Hour), at.Add(3*time.Hour)))
			require.NoError(p.t, p.h.Calendars.AddEvent(name, 2, p.words["unread event"], at.Add(3*time.Hour), at.Add(4*time.Hour)))
		}
		list, err := p.h.App.Connect(ctx, p.people[r], app.Account{Address: p.h.CalendarURL, Username: name, Password: p.words["calendar password"]})
		require.NoError(p.t, err)
		for i, details := range []string{"me", "colleagues", "nobody"} {
			use := list[i].CalendarUse
			use.Details = details
			_, err = p.h.App.UseCalendar(ctx, p.people[r], list[i].ID, use)
			require.NoError(p.t, err)
		}
		p.ids["calendar of "+string(r)], p.ids["account of "+string(r)] = fmt.Sprint(list[0].ID), fmt.Sprint(list[0].Account)
	}
	for r, label := range map[reader]string{owner: "block of the owner", host: "block of the host"} {
		require.NoError(p.t, p.h.App.AddBlock(ctx, p.people[r], app.NewBlock{Date: "2026-05-06", From: 720, To: 750, Label: p.words[label]}))
	}
	feed := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) {
		_, _ = w.Write([]byte("BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:x\r\nEND:VCALENDAR\r\n"))
	}))
	p.t.Cleanup(feed.Close)
	for _, r := range []reader{host, removed} {
		_, err := p.h.App.Subscribe(ctx, p.people[r], app.Subscription{Address: feed.URL + "/" + p.words["secret address"], Name: "Subscribed"})
		require.NoError(p.t, err)
	}
	for r, word := range map[reader]string{host: "feed of the host", removed: "feed of the removed"} {
		addresses, err := p.h.App.RenewFeeds(ctx, p.people[r], true)
		require.NoError(p.t, err)
		p.words[word] = strings.Split(strings.TrimPrefix(addresses.Busy, "https://corrim.example/f/"), "/")[0]
	}
}

// types are one hosted by a member, one by another, and one that wants a code.
func (p *planted) types() {
	ctx := p.t.Context()
	add := func(slug string, r reader, change func(*settings.BookingPageChange)) {
		draft := testhouse.Survey
		draft.Name, draft.Slug, draft.Rules.Follows = "Type "+slug, slug, []string{"buffers"}
		kind, err := p.h.App.SaveMeetingType(ctx, p.people[owner], 0, draft, settings.Saving{})
		require.NoError(p.t, err)
		routing := schedule.TypeRouting{Mode: "turn", Period: "always", People: []schedule.PoolMember{{Person: p.people[r].ID, Weight: 1}}}
		_, err = p.h.App.SaveRouting(ctx, p.people[owner], kind.ID, settings.RoutingChange{Routing: routing, Who: "anyone"})
		require.NoError(p.t, err)
		view, err := p.h.App.BookingPage(ctx, p.people[owner], kind.ID)
		require.NoError(p.t, err)
		change(&view.BookingPageChange)
		view.Version = 0
		_, err = p.h.App.SaveBookingPage(ctx, p.people[owner], kind.ID, view.BookingPageChange)
		require.NoError(p.t, err)
		p.ids["type "+slug] = fmt.Sprint(kind.ID)
	}
	add("a", host, func(o *settings.BookingPageChange) {
		o.Guests, o.Notes, o.Checklist, o.Always = 2, p.words["notes of type"], []string{p.words["checklist of type"]}, []string{p.words["copies of type"] + "@x.example"}
		o.Questions = []intake.Question{{ID: "q", Kind: intake.Short, Label: "Why"}, {ID: "f", Kind: intake.File, Label: "Plan"}}
	})
	add("b", member, func(*settings.BookingPageChange) {})
	add("d", host, func(o *settings.BookingPageChange) { o.Proof = "code" })
}

func (p *planted) bookings() {
	ctx := p.t.Context()
	book := func(slug, at, who string, change func(*schedule.BookingRequest)) app.ClientBooking {
		r := schedule.BookingRequest{Start: p.h.At(at), Name: p.words["name of "+who], Mail: p.words["mail of "+who] + "@x.example", Zone: "Europe/Lisbon"}
		change(&r)
		b, err := p.h.App.Book(ctx, "quillmere", slug, "a key for the booking of "+who, r)
		require.NoError(p.t, err)
		p.links[reader("client "+who)] = strings.TrimPrefix(b.Link, "/b/")
		p.words["link of "+who] = p.links[reader("client "+who)]
		return b
	}
	file, err := p.h.App.TakeFile(ctx, "quillmere", "a", p.words["file of A"]+".txt", []byte(p.words["contents of A's file"]), identity.Whence{Address: "192.0.2.1"})
	require.NoError(p.t, err)
	book("a", "2026-05-06 10:00", "A", func(r *schedule.BookingRequest) {
		r.Remark, r.Guests = p.words["remark of A"], []string{p.words["guest of A"] + "@x.example"}
		r.Said = intake.Given{"q": {p.words["answer of A"]}, "f": {file.Token}}
	})
	require.Eventually(p.t, func() bool { // a slow machine makes the room after the answer
		now, err := p.h.App.BookingByLink(ctx, p.links[clientA])
		p.words["room of A"] = now.JoinURL
		return err == nil && now.JoinURL != ""
	}, time.Minute, 10*time.Millisecond)
	book("b", "2026-05-06 11:00", "B", func(r *schedule.BookingRequest) { r.Remark = p.words["remark of B"] })
	book("d", "2026-05-07 10:00", "D", func(*schedule.BookingRequest) {})
	p.words["code of D"] = secretIn(p.t, p.h, p.words["mail of D"], "Your code is ")[:6]
	_, err = p.h.App.SaveClientNotes(ctx, p.people[owner], p.words["mail of A"]+"@x.example", p.words["note about A"])
	require.NoError(p.t, err)
	type30 := p.h.Type.ID
	_, err = p.h.App.MakeOneOff(ctx, p.people[owner], app.NewOneOff{
		Type: type30, Name: p.words["name of C"], Mail: p.words["mail of C"] + "@x.example", Word: p.words["word to C"], Until: "2026-05-20", Starts: []public.HandPicked{{Date: "2026-05-11", Minute: 600}},
	})
	require.NoError(p.t, err)
	p.words["link of C"] = secretIn(p.t, p.h, p.words["mail of C"], "/o/")
	p.links[clientC] = p.words["link of C"]
	today, err := p.h.App.Today(ctx, p.people[host])
	require.NoError(p.t, err)
	for _, b := range today.Meetings {
		if b.Client == p.words["name of A"] {
			p.ids["booking"], p.ids["file"] = fmt.Sprint(b.ID), fmt.Sprint(b.Files[0].ID)
		}
	}
	require.NotEmpty(p.t, p.ids["booking"])
	p.ids["guarded"] = fmt.Sprint(type30)
}

// session is a browser signed in as the reader, if they sign in at all.
func (p *planted) session(r reader) client {
	jar, err := cookiejar.New(nil)
	require.NoError(p.t, err)
	c := client{p.t, p.base, &http.Client{Jar: jar}}
	if person, inside := p.people[r]; inside {
		password := canaryPassword
		if r == owner || r == coordinator {
			password = "a lamp in the hall"
		}
		response, _ := c.send("POST", "/api/session", fmt.Sprintf(`{"mail":%q,"password":%q}`, person.Mail, password))
		require.Equal(p.t, 200, response.StatusCode, r)
	}
	return c
}

// leave takes out the one who is removed, after they signed in.
func (p *planted) leave() {
	_, err := p.h.App.RemovePerson(p.t.Context(), p.people[owner], p.people[removed].ID)
	require.NoError(p.t, err)
}

// joins lets somebody take an invitation, and returns their ID.
func joins(t testing.TB, h *testhouse.House, name, mail string, role identity.Role) int64 {
	mail = strings.ReplaceAll(mail, " ", ".")
	_, err := h.App.Invite(t.Context(), h.Host, app.NewInvitation{Name: name, Mail: mail, Role: role})
	require.NoError(t, err)
	person, err := h.App.Join(t.Context(), secretIn(t, h, mail, "/join/"), app.Joining{Name: name, Zone: "Europe/Lisbon", Password: canaryPassword})
	require.NoError(t, err)
	return person.ID
}

// secretIn waits for somebody's mail with the words and returns what follows them.
func secretIn(t testing.TB, h *testhouse.House, to, after string) (secret string) {
	require.Eventually(t, func() bool {
		for _, l := range h.Inbox.Letters() {
			if _, rest, found := strings.Cut(l.Text, after); found && strings.Contains(l.To, to) {
				secret = strings.Fields(strings.TrimRight(rest, "."))[0]
			}
		}
		return secret != ""
	}, time.Minute, time.Millisecond, "a mail to %s", to)
	return secret
}

// call is how an operation is called: its path and body. $… stand for what plant made, $link for the reader's own link.
type call struct{ path, body string }

const (
	canaryDraft   = `{"name":"N","slug":"n-$n","description":"","rules":{"duration":50,"after":10,"before":0,"step":10,"notice":60,"noticeInDays":false,"windowDays":60}}`
	canaryWeek    = `[{"text":"10-11"},{"text":"10-11"},{"text":"10-11"},{"text":"10-11"},{"text":"10-11"},{"text":""},{"text":""}]`
	canaryRouting = `{"people":[{"person":$owner,"weight":1,"always":false},{"person":$host,"weight":1,"always":false},{"person":$member,"weight":1,"always":false}],"period":"always","returning":false,"rules":[],"strict":false,"everyone":false,"teams":[],"way":"turn"}`
	canaryPage    = `{"afterAddress":"","afterPass":[],"afterWords":"","always":[],"askReason":false,"cancelUntil":0,"correctUntil":0,"category":"","checklist":[],"guests":0,"keepHours":48,"listing":"listed","moveUntil":0,"notes":"","onRequest":false,"perClient":5,"proof":"","questions":[],"ways":[{"id":"video","kind":"video"}]}`
	canaryLooks   = `{"ask":"","banner":"","book":"","colour":"","logo":""}`
	// Buffers so long that everything clashes: what is in the way then is told in words.
	canarySpace   = `{"firstWeekday":1,"name":"W","zone":"Europe/Lisbon","zones":"client","shareBuffers":false,"rules":{"before":120,"after":600,"step":10,"notice":60,"noticeInDays":false,"windowDays":60},"front":{"address":"","cancellation":"","clock12":false,"consent":"","country":"","description":"","hidden":false,"language":"","looks":` + canaryLooks + `,"mail":"","phone":"","privacy":"","short":"","unpublished":false,"web":""}}`
	canaryRequest = `{"start":"2026-05-08T10:00:00+01:00","name":"N","mail":"n@x.example","zone":"Europe/Lisbon"}`
)

// calls has a row for each operation, by method and route; those that take things away are called last.
const canaryMessages = `{"rules":[{"id":0,"receiver":"client","minutes":30,"side":"before","if":"always","by":"text"}],"quiet":{"from":"","until":"","later":false},"words":{}}`
const canaryLetter = `{"kind":"client-reminder","type":0,"language":"en","booking":$booking,"text":{"subject":"","opening":"","closing":""}}`

var calls = map[string]call{
	"GET /healthz": {"/healthz", ""}, "GET /readyz": {"/readyz", ""},
	"GET /b/{link}/meeting.ics": {"/b/$link/meeting.ics", ""}, "GET /b/{link}/leave": {"/b/$link/leave", ""}, "POST /b/{link}/leave": {"/b/$link/leave", ""}, "GET /i/{hash}": {"/i/nothing", ""},
	"HEAD /f/{secret}/bookings.ics": {"/f/$link/bookings.ics", ""}, "HEAD /f/{secret}/busy.ics": {"/f/$link/busy.ics", ""},
	"GET /f/{secret}/bookings.ics": {"/f/$link/bookings.ics", ""}, "GET /f/{secret}/busy.ics": {"/f/$link/busy.ics", ""},
	"GET /api/types/{id}/reasons/{date}/scenario.json": {"/api/types/$type a/reasons/2026-05-06/scenario.json", ""},
	"GET /api/hours/availability.ics":                  {"/api/hours/availability.ics", ""}, "GET /api/files/{id}": {"/api/files/$file", ""},
	"GET /api/host-bookings/{id}/participants.csv": {"/api/host-bookings/$booking/participants.csv", ""},
	"GET /api/openapi.json":                        {"/api/openapi.json", ""}, "GET /api/openapi.yaml": {"/api/openapi.yaml", ""},
	"GET /api/openapi-3.0.json": {"/api/openapi-3.0.json", ""}, "GET /api/openapi-3.0.yaml": {"/api/openapi-3.0.yaml", ""},
	"GET /p/{workspace}": {"/p/quillmere", ""}, "GET /p/{workspace}/{type}": {"/p/quillmere/a", ""}, "GET /p/*": {"/p/quillmere/no/such/page", ""}, "GET /p/{workspace}/with/{person}": {"/p/quillmere/with/ines-valadares", ""},
	"GET /p/{workspace}/team/{team}": {"/p/quillmere/team/north", ""}, "GET /embed.js": {"/embed.js", ""}, "GET /embed/try": {"/embed/try?path=/p/quillmere/a&as=inside", ""},
	"GET /card/p/{workspace}.png": {"/card/p/quillmere.png", ""}, "GET /card/p/{workspace}/{type}.png": {"/card/p/quillmere/a.png", ""},
	"GET /card/p/{workspace}/with/{person}.png": {"/card/p/quillmere/with/ines-valadares.png", ""}, "GET /card/p/{workspace}/team/{team}.png": {"/card/p/quillmere/team/north.png", ""},
	"GET /api/share/code.{form:svg|png}": {"/api/share/code.svg?kind=type&id=$type a", ""}, "GET /api/share/sheet": {"/api/share/sheet?kind=type&id=$type a", ""},
	"POST /api/share": {"/api/share?kind=type&id=$type a", `{"name":"N"}`}, "GET /api/types/{id}/links": {"/api/types/$type a/links", ""},
	"GET /api/public/{workspace}/{type}/prepared": {"/api/public/quillmere/a/prepared?says=name%3DX", ""}, "GET /api/public/{workspace}/team/{team}": {"/api/public/quillmere/team/north", ""},
	"POST /api/types/{id}/links": {"/api/types/$type a/links", `{"name":"L $n","says":{"name":"X"}}`}, "PUT /api/types/{id}/links/{link}": {"/api/types/$type a/links/1", `{"name":"L","says":{}}`},
	"POST /api/types/{id}/times": {"/api/types/$type a/times", `{"starts":[],"next":3,"zone":"UTC","language":"en"}`}, "DELETE /api/types/{id}/links/{link}": {"/api/types/$type a/links/1", ""},
	"GET /robots.txt": {"/robots.txt", ""}, "GET /b/{link}": {"/b/$link", ""}, "GET /b/*": {"/b/x/y", ""}, "GET /o/{link}": {"/o/$link", ""}, "GET /assets/*": {"/assets/x", ""},

	"GET /api/me": {"/api/me", ""}, "GET /api/today": {"/api/today", ""}, "GET /api/history": {"/api/history", ""},
	"GET /api/board": {"/api/board?from=2026-05-06&days=3&everybody=true", ""}, "GET /api/calendars": {"/api/calendars", ""}, "GET /api/calendars/settings": {"/api/calendars/settings", ""},
	"GET /api/clients": {"/api/clients", ""}, "GET /api/clients/{mail}": {"/api/clients/$mail", ""}, "GET /api/known-clients": {"/api/known-clients", ""},
	"GET /api/feeds": {"/api/feeds", ""}, "GET /api/hours": {"/api/hours", ""}, "GET /api/hours/days": {"/api/hours/days?from=2026-05-05&days=5", ""},
	"GET /api/find":               {"/api/find?search=a", ""},
	"GET /api/host-bookings/{id}": {"/api/host-bookings/$booking", ""}, "GET /api/board/skyline": {"/api/board/skyline?from=2026-05-05&everybody=true", ""},
	"GET /api/host-bookings/{id}/targets": {"/api/host-bookings/$booking/targets?from=2026-05-05&days=3", ""}, "GET /api/host-bookings/{id}/takers": {"/api/host-bookings/$booking/takers", ""},
	"GET /api/one-offs": {"/api/one-offs", ""}, "GET /api/staff": {"/api/staff", ""}, "GET /api/types": {"/api/types?all=true", ""},
	"GET /api/types/{id}": {"/api/types/$type a", ""}, "GET /api/types/facts": {"/api/types/facts?id=$type a&id=$type b", ""}, "GET /api/types/{id}/booking-page": {"/api/types/$type a/booking-page", ""}, "GET /api/types/{id}/routing": {"/api/types/$type a/routing", ""},
	"GET /api/types/{id}/reasons/{date}": {"/api/types/$type a/reasons/2026-05-06?minute=780", ""},
	"GET /api/week-plans":                {"/api/week-plans", ""}, "GET /api/workspace": {"/api/workspace", ""}, "GET /api/workspace/looks/draft": {"/api/workspace/looks/draft", ""},
	"GET /api/public/{workspace}": {"/api/public/quillmere", ""}, "GET /api/public/{workspace}/with/{person}": {"/api/public/quillmere/with/ines-valadares", ""},
	"GET /api/public/{workspace}/{type}":        {"/api/public/quillmere/a", ""},
	"GET /api/public/{workspace}/{type}/open":   {"/api/public/quillmere/a/open?from=2026-05-05T00:00:00Z&to=2026-05-09T00:00:00Z", ""},
	"GET /api/public/{workspace}/{type}/puzzle": {"/api/public/quillmere/a/puzzle", ""},
	"GET /api/bookings/{link}":                  {"/api/bookings/$link", ""}, "GET /api/offers/{link}": {"/api/offers/$link", ""}, "GET /api/offers/{link}/open": {"/api/offers/$link/open", ""},
	"GET /api/join/{secret}": {"/api/join/$link", ""},

	"POST /api/rules/example":     {"/api/rules/example", `{"group":"notice","minutes":30,"rules":{"before":0,"after":0,"step":15,"notice":60,"noticeInDays":false,"windowDays":60}}`},
	"POST /api/workspace/preview": {"/api/workspace/preview", canarySpace}, "POST /api/workspace/looks": {"/api/workspace/looks", canaryLooks},
	"POST /api/hours/preview": {"/api/hours/preview", `{"plan":0,"week":` + canaryWeek + `}`}, "POST /api/week/read": {"/api/week/read", `{"week":` + canaryWeek + `}`},
	"POST /api/hours/differing/preview": {"/api/hours/differing/preview", `{"text":"4 June closed"}`}, "POST /api/hours/file/preview": {"/api/hours/file/preview", `{"text":"BEGIN:VCALENDAR"}`},
	"POST /api/types/preview": {"/api/types/preview?saved=$type a", canaryDraft}, "POST /api/types/{id}/booking-page/preview": {"/api/types/$type a/booking-page/preview", canaryPage},
	"POST /api/types/{id}/routing/preview": {"/api/types/$type a/routing/preview", canaryRouting}, "POST /api/handover/plan": {"/api/handover/plan", `{"from":"2026-05-05","to":"2026-05-09","person":$host}`},
	"GET /api/types/{id}/series":         {"/api/types/$guarded/series", ""},
	"GET /api/types/{id}/group-sessions": {"/api/types/$guarded/group-sessions", ""}, "POST /api/group-sessions/sentence": {"/api/group-sessions/sentence", `{"type":$guarded,"times":[{"date":"2026-05-06","minute":780}]}`}, "POST /api/group-sessions/check": {"/api/group-sessions/check", `{"type":$guarded,"host":$member,"text":"6 May 13:00"}`},
	"POST /api/host-bookings/check":              {"/api/host-bookings/check", `{"date":"2026-05-06","minute":780,"type":$guarded,"host":$member}`},
	"POST /api/host-bookings/{id}/targets/check": {"/api/host-bookings/$booking/targets/check", `{"date":"2026-05-06","minute":780,"person":$member}`},

	"POST /api/begin":        {"/api/begin", `{"code":"x","mail":"x@x.example","name":"N","password":"long enough to be one","slug":"w","workspace":"W","zone":"UTC"}`},
	"PUT /api/begin/step":    {"/api/begin/step", `{"step":0}`},
	"POST /api/demo-session": {"/api/demo-session", `{"person":1}`}, "POST /api/blocks": {"/api/blocks", `{"date":"2026-05-12","from":600,"to":630}`},
	"POST /api/bookings/{link}/give":    {"/api/bookings/$link/give", `{"name":"Holder","mail":"holder@x.example"}`},
	"POST /api/bookings/{link}/correct": {"/api/bookings/$link/correct", `{"said":{}}`},
	"POST /api/bookings/{link}/confirm": {"/api/bookings/$link/confirm", ""}, "POST /api/bookings/{link}/prove": {"/api/bookings/$link/prove", `{"code":"000000"}`},
	"POST /api/bookings/{link}/code": {"/api/bookings/$link/code", `{"mail":"other@x.example"}`},
	"POST /api/bookings/{link}/seat": {"/api/bookings/$link/seat", ""},
	"POST /api/bookings/{link}/take": {"/api/bookings/$link/take", `{"start":"2026-05-08T09:00:00Z"}`}, "POST /api/bookings/{link}/move": {"/api/bookings/$link/move", `{"start":"2026-05-08T14:00:00Z"}`},
	"POST /api/calendar-accounts":         {"/api/calendar-accounts", `{"address":"$calendars","username":"nobody","password":"wrong"}`},
	"POST /api/calendars/files":           {"/api/calendars/files", `{"name":"F","text":"BEGIN:VCALENDAR\r\nEND:VCALENDAR\r\n"}`},
	"POST /api/calendars/read":            {"/api/calendars/read", ""},
	"POST /api/calendars/subscriptions":   {"/api/calendars/subscriptions", `{"address":"http://127.0.0.1:1/x","name":"N"}`},
	"PUT /api/calendars/{id}":             {"/api/calendars/$calendar of host", `{"allDay":true,"details":"me","mayOpen":true,"pattern":"rising","receives":false,"tentative":true,"tone":"ink","use":"blocks"}`},
	"PUT /api/calendars/settings":         {"/api/calendars/settings", `{"eventChange":"ask","openTitle":"","openType":0,"trustHours":24,"unreachable":"trust"}`},
	"POST /api/clients/{mail}/mail-works": {"/api/clients/$mail/mail-works", ""}, "POST /api/bookings/{link}/follow-ups": {"/api/bookings/$link/follow-ups", `{"wanted":true}`},
	"PUT /api/clients/{mail}/notes":             {"/api/clients/$mail/notes", `{"notes":"$note about A"}`},
	"POST /api/feeds":                           {"/api/feeds", ""},
	"POST /api/group-sessions":                  {"/api/group-sessions", `{"type":$guarded,"host":$member,"text":"6 May 13:00"}`},
	"POST /api/host-bookings":                   {"/api/host-bookings", `{"date":"2026-05-06","minute":780,"type":$guarded,"host":$member,"name":"N","mail":"n@x.example"}`},
	"POST /api/host-bookings/{id}/takes-place":  {"/api/host-bookings/$booking/takes-place", `{}`},
	"POST /api/host-bookings/{id}/details":      {"/api/host-bookings/$booking/details", `{"about":"Bring a lamp."}`},
	"POST /api/host-bookings/{id}/seat-count":   {"/api/host-bookings/$booking/seat-count", `{"seats":5}`},
	"POST /api/host-bookings/{id}/seats":        {"/api/host-bookings/$booking/seats", `{"name":"N","mail":"n@x.example"}`},
	"POST /api/host-bookings/{id}/write-to-all": {"/api/host-bookings/$booking/write-to-all", `{"word":"Bring a lamp."}`},
	"POST /api/host-bookings/{id}/ask":          {"/api/host-bookings/$booking/ask", `{}`}, "POST /api/host-bookings/{id}/approve": {"/api/host-bookings/$booking/approve", `{}`},
	"POST /api/host-bookings/{id}/attendance": {"/api/host-bookings/$booking/attendance", `{"event":"attended"}`}, "POST /api/host-bookings/{id}/decline": {"/api/host-bookings/$booking/decline", `{}`},
	"POST /api/host-bookings/{id}/keep": {"/api/host-bookings/$booking/keep", ""}, "POST /api/host-bookings/{id}/move-along": {"/api/host-bookings/$booking/move-along", ""},
	"POST /api/host-bookings/{id}/room":     {"/api/host-bookings/$booking/room", ""},
	"POST /api/host-bookings/{id}/put-back": {"/api/host-bookings/$booking/put-back", ""}, "POST /api/host-bookings/{id}/propose": {"/api/host-bookings/$booking/propose", `{"starts":[{"date":"2026-05-12","minute":600}]}`},
	"POST /api/host-bookings/{id}/move": {"/api/host-bookings/$booking/move", `{"date":"2026-05-06","minute":780,"person":$host}`},
	"PUT /api/hours":                    {"/api/hours", `{"plan":0,"week":` + canaryWeek + `}`}, "PUT /api/hours/days": {"/api/hours/days", `{"date":"2026-05-13","intervals":[],"weekdays":[]}`},
	"POST /api/hours/differing": {"/api/hours/differing", `{"text":"4 June closed"}`}, "POST /api/hours/file": {"/api/hours/file", `{"text":"BEGIN:VCALENDAR"}`},
	"POST /api/history/undo": {"/api/history/undo", ""}, "POST /api/invitations": {"/api/invitations", `{"mail":"again@x.example","name":"N","role":"member"}`},
	"POST /api/join/{secret}":                      {"/api/join/$link", `{"name":"N","password":"long enough to be one","zone":"UTC"}`},
	"POST /api/one-offs":                           {"/api/one-offs", `{"type":$guarded,"until":"2026-05-20","starts":[{"date":"2026-05-13","minute":600}]}`},
	"POST /api/offers/{link}/bookings":             {"/api/offers/$link/bookings", `{"start":"2026-05-11T09:00:00Z","name":"$name of C","mail":"$mail of C@x.example","zone":"Europe/Lisbon"}`},
	"POST /api/public/{workspace}/{type}/bookings": {"/api/public/quillmere/a/bookings", canaryRequest},
	"POST /api/public/{workspace}/{type}/files":    {"/api/public/quillmere/a/files", `{"name":"f.txt","data":"eA=="}`},
	"PUT /api/staff/{id}":                          {"/api/staff/$member", `{"attributes":{},"bookable":true,"name":"The member","role":"member","zone":"Europe/Lisbon"}`},
	"POST /api/teams":                              {"/api/teams", `{"members":[$host],"name":"T $n"}`}, "PUT /api/teams/{id}": {"/api/teams/1", `{"members":[$host],"name":"U $n"}`},
	"POST /api/types": {"/api/types", canaryDraft}, "PUT /api/types/{id}": {"/api/types/$type a", canaryDraft}, "PUT /api/types/order": {"/api/types/order", `{"order":[$guarded]}`},
	"POST /api/types/{id}/duplicate": {"/api/types/$type a/duplicate", ""}, "PUT /api/types/{id}/routing": {"/api/types/$guarded/routing", `{"routing":` + canaryRouting + `,"version":0,"who":"anyone"}`},
	"POST /api/types/{id}/routing/corrections": {"/api/types/$type a/routing/corrections", `{"credit":1,"person":$host,"remark":"R"}`},
	"PUT /api/types/{id}/booking-page":         {"/api/types/$type b/booking-page", canaryPage},
	"POST /api/week-plans":                     {"/api/week-plans", `{"name":"P $n","week":` + canaryWeek + `}`}, "PUT /api/week-plans/{id}": {"/api/week-plans/1", `{"name":"Q $n"}`},
	"POST /api/workspace/holidays": {"/api/workspace/holidays", `{"name":"H $n","text":"x"}`}, "PUT /api/workspace/holidays/{id}": {"/api/workspace/holidays/1", `{"name":"I $n","text":""}`},
	"GET /api/messages": {"/api/messages", ""}, "POST /api/messages/preview": {"/api/messages/preview", canaryMessages}, "PUT /api/messages": {"/api/messages?type=$type a", canaryMessages},
	"DELETE /api/messages": {"/api/messages?type=$type a", ""}, "POST /api/messages/letter": {"/api/messages/letter", canaryLetter}, "POST /api/messages/letter/send": {"/api/messages/letter/send", canaryLetter},
	"POST /api/bookings/{link}/rate": {"/api/bookings/$link/rate", `{"rating":4}`}, "POST /api/bookings/{link}/texts": {"/api/bookings/$link/texts", `{"wanted":false}`},
	"GET /api/host-bookings/{id}/sent/{job}":       {"/api/host-bookings/$booking/sent/1", ""},
	"POST /api/host-bookings/{id}/sent/{job}":      {"/api/host-bookings/$booking/sent/1", ""},
	"POST /api/host-bookings/{id}/messages/{rule}": {"/api/host-bookings/$booking/messages/1", ""}, "DELETE /api/host-bookings/{id}/messages/{rule}": {"/api/host-bookings/$booking/messages/1", ""},
	"POST /api/texts/report": {"/api/texts/report", `{"from":"+447700900789","text":"STOP"}`},
	"PUT /api/workspace":     {"/api/workspace", canarySpace}, "PUT /api/workspace/looks/draft": {"/api/workspace/looks/draft", canaryLooks}, "POST /api/workspace/pictures": {"/api/workspace/pictures", `{"data":"eA=="}`},
	"POST /api/host-bookings/{id}/hand": {"/api/host-bookings/$booking/hand", `{"person":$coordinator,"outside":true}`}, "POST /api/away": {"/api/away", `{"from":"2026-05-05","to":"2026-05-09","person":$member,"rest":[]}`},
	"POST /api/hours/days/preview": {"/api/hours/days/preview", `{"date":"2026-05-06","intervals":[],"weekdays":[]}`},

	"DELETE /api/blocks/{id}": {"/api/blocks/1", ""}, "DELETE /api/calendar-accounts/{id}": {"/api/calendar-accounts/$account of host", ""}, "DELETE /api/feeds": {"/api/feeds", ""},
	"DELETE /api/hours/differing/{id}": {"/api/hours/differing/1", ""}, "DELETE /api/invitations/{id}": {"/api/invitations/1", ""}, "DELETE /api/one-offs/{id}": {"/api/one-offs/1", ""},
	"DELETE /api/teams/{id}": {"/api/teams/1", ""}, "DELETE /api/types/{id}": {"/api/types/$type b", ""}, "DELETE /api/week-plans/{id}": {"/api/week-plans/1", ""},
	"DELETE /api/workspace/holidays/{id}": {"/api/workspace/holidays/1", ""},
	"DELETE /api/staff/{id}":              {"/api/staff/$viewer", ""}, "POST /api/bookings/{link}/cancel": {"/api/bookings/$link/cancel", `{}`},
	"POST /api/host-bookings/{id}/cancel-for-all": {"/api/host-bookings/$booking/cancel-for-all", `{}`},
	"POST /api/host-bookings/{id}/cancel":         {"/api/host-bookings/$booking/cancel", `{}`}, "DELETE /api/session": {"/api/session", ""},
	"POST /api/session": {"/api/session", `{"mail":"x@x.example","password":"x"}`},
	"GET /api/sessions": {"/api/sessions", ""}, "DELETE /api/sessions/{id}": {"/api/sessions/99", ""}, "DELETE /api/sessions": {"/api/sessions", ""},
	"POST /api/session/check": {"/api/session/check", `{"password":"wrong"}`}, "PUT /api/me/password": {"/api/me/password", `{"current":"wrong","password":"something quite new"}`},
	"POST /api/me/phone": {"/api/me/phone", `{"phone":"+351 912 000 123"}`}, "PUT /api/me/phone": {"/api/me/phone", `{"phone":"","code":""}`},
	"GET /api/me/news": {"/api/me/news", ""}, "PUT /api/me/news": {"/api/me/news", `{"untold":["host-room"],"texted":[],"notOwn":true,"morning":""}`},
	"PUT /api/me/language":      {"/api/me/language", `{"language":"en"}`},
	"PUT /api/me/mail":          {"/api/me/mail", `{"current":"wrong","mail":"new@x.example"}`},
	"POST /api/password-resets": {"/api/password-resets", `{"mail":"ines@quillmere.example"}`}, "POST /api/password-resets/{secret}": {"/api/password-resets/$link", `{"password":"something quite new"}`},
}

// routes are all operations that the server has, those that only look first and those that take things away last.
func routes(t *testing.T, h *testhouse.House) []string {
	mux, ok := api.New(h.App, generous).(chi.Routes)
	require.True(t, ok)
	var out []string
	require.NoError(t, chi.Walk(mux, func(method, route string, _ http.Handler, _ ...func(http.Handler) http.Handler) error {
		out = append(out, method+" "+route)
		return nil
	}))
	rank := func(route string) int {
		method, path, _ := strings.Cut(route, " ")
		switch {
		case method == "GET":
			return 0
		case strings.HasSuffix(path, "/preview") || strings.HasSuffix(path, "/check") || strings.HasSuffix(path, "/plan") || strings.HasSuffix(path, "/looks"):
			return 1
		case method == "DELETE" || strings.HasSuffix(path, "/cancel") || strings.HasSuffix(path, "/session"):
			return 3
		}
		return 2
	}
	slices.SortFunc(out, func(a, b string) int {
		if ra, rb := rank(a), rank(b); ra != rb {
			return ra - rb
		}
		return strings.Compare(a, b)
	})
	return slices.Compact(out)
}

func TestNobodyReadsWhatIsNotTheirs(t *testing.T) {
	for _, r := range readers {
		t.Run(string(r), func(t *testing.T) {
			t.Parallel()
			p := plant(t)
			for i, route := range routes(t, p.h) {
				c, known := calls[route]
				require.True(t, known, "%s has no row in this test: add how it is called", route)
				method, _, _ := strings.Cut(route, " ")
				status, text := p.ask(r, method, c, i)
				if status != http.StatusBadGateway { // a calendar server that can't be reached
					assert.Less(t, status, 500, "%s as %s: %s", route, r, text)
				}
				p.mayRead(r, route, text)
			}
			p.mails()
			p.entries()
			p.mayRead(log, "the log", p.h.Log.String())
		})
	}
}

// Calls that never reach what they ask for would prove nothing.
func TestTheCanariesAreSeenByThoseWhoMay(t *testing.T) {
	p := plant(t)
	for _, one := range []struct {
		r     reader
		route string
		words []string
	}{
		{owner, "GET /api/board", []string{"event of the owner", "told event of the member", "block of the owner", "name of A", "name of B"}},
		{host, "GET /api/today", []string{"name of A", "remark of A", "answer of A", "file of A", "guest of A", "notes of type", "checklist of type"}},
		{host, "GET /api/files/{id}", []string{"contents of A's file"}}, {host, "GET /api/feeds", []string{"feed of the host"}},
		{coordinator, "GET /api/clients/{mail}", []string{"note about A", "remark of A"}}, {owner, "GET /api/one-offs", []string{"name of C", "mail of C"}},
		{host, "GET /api/types/{id}/booking-page", []string{"copies of type"}}, {viewer, "GET /api/staff", []string{"invited mail"}},
		{clientA, "GET /api/bookings/{link}", []string{"link of A", "remark of A", "room of A"}}, {clientA, "GET /b/{link}/meeting.ics", []string{"remark of A"}},
		{owner, "POST /api/workspace/preview", []string{"name of A", "name of B"}},
	} {
		method, _, _ := strings.Cut(one.route, " ")
		_, text := p.ask(one.r, method, calls[one.route], 0)
		for _, word := range one.words {
			assert.Contains(t, text, p.words[word], "%s as %s should tell %q", one.route, one.r, word)
		}
	}
}

func TestAFeedTellsNoMoreThanItSays(t *testing.T) {
	p := plant(t)
	feed := func(secret, which string) (int, string) {
		return p.ask(stranger, "GET", call{"/f/" + p.words[secret] + "/" + which + ".ics", ""}, 0)
	}
	_, text := feed("feed of the host", "bookings")
	p.mayRead(host, "bookings.ics", text)
	assert.Contains(t, unfolded(text), p.words["remark of A"])
	for _, which := range []string{"bookings", "busy"} {
		address := p.base + "/f/" + p.words["feed of the host"] + "/" + which + ".ics"
		head, err := http.Head(address)
		require.NoError(t, err)
		require.NoError(t, head.Body.Close())
		assert.Equal(t, 200, head.StatusCode)
		p.h.Pass(time.Minute)
		again, err := http.NewRequest(http.MethodGet, address, nil)
		require.NoError(t, err)
		again.Header.Set("If-None-Match", head.Header.Get("ETag"))
		response, err := http.DefaultClient.Do(again)
		require.NoError(t, err)
		require.NoError(t, response.Body.Close())
		assert.Equal(t, http.StatusNotModified, response.StatusCode, "nothing is new (RFC 9110, 15.4.5)")
	}
	_, text = feed("feed of the host", "busy")
	assert.Contains(t, text, "X-WR-CALNAME")
	p.mayRead(stranger, "busy.ics", text)
	assert.Contains(t, text, "FREEBUSY")
	for _, which := range []string{"bookings", "busy"} {
		status, _ := feed("feed of the removed", which)
		assert.Equal(t, http.StatusNotFound, status, "whoever has left has no feeds")
	}
	secrets, err := p.h.App.Store.SealedAccounts(t.Context())
	require.NoError(t, err)
	for _, account := range secrets {
		owned, err := p.h.App.Store.Account(t.Context(), account.ID)
		require.NoError(t, err)
		assert.NotEqual(t, p.people[removed].ID, owned.PersonID, "nor a calendar password kept here")
	}
}

func (p *planted) ask(r reader, method string, c call, n int) (int, string) {
	from, known := p.clients[r]
	if !known {
		from = p.clients[stranger]
	}
	link := p.links[r]
	if link == "" {
		link = "nothing"
	}
	pairs := []string{"$link", link, "$mail of C", p.words["mail of C"], "$mail", url.PathEscape(p.words["mail of A"] + "@x.example"), "$calendars", p.h.CalendarURL, "$note about A", p.words["note about A"], "$name of C", p.words["name of C"], "$n", fmt.Sprint(n)}
	for _, name := range slices.SortedFunc(maps.Keys(p.ids), func(a, b string) int { return len(b) - len(a) }) {
		pairs = append(pairs, "$"+name, p.ids[name])
	}
	for r, person := range p.people {
		pairs = append(pairs, "$"+string(r), fmt.Sprint(person.ID))
	}
	fill := strings.NewReplacer(pairs...).Replace
	request, err := http.NewRequest(method, p.base+strings.ReplaceAll(fill(c.path), " ", "%20"), strings.NewReader(fill(c.body)))
	require.NoError(p.t, err)
	request.Header.Set("Idempotency-Key", fmt.Sprintf("canary key %d of %s", n, r))
	if c.body != "" {
		request.Header.Set("Content-Type", "application/json")
	}
	response, err := from.http.Do(request)
	require.NoError(p.t, err)
	defer func() { _ = response.Body.Close() }()
	body, err := io.ReadAll(response.Body)
	require.NoError(p.t, err)
	headers, err := json.Marshal(response.Header)
	require.NoError(p.t, err)
	return response.StatusCode, string(body) + string(headers)
}

// mayRead fails for every planted word in the text that is not granted to the reader.
func (p *planted) mayRead(r reader, where, text string) {
	text = unfolded(text)
	for name, word := range p.words {
		if strings.Contains(text, word) && !slices.Contains(granted[name], r) {
			assert.Fail(p.t, "a word reaches whom it is not for", "%s sees “%s” in %s", r, name, where)
		}
	}
}

func unfolded(text string) string { return strings.NewReplacer("\r\n ", "", "\n ", "").Replace(text) }

// entries looks at what stands in everybody's calendar on their calendar server: their own events, and entries of their bookings.
func (p *planted) entries() {
	for _, r := range []reader{owner, coordinator, host, member} {
		texts := p.h.Calendars.Texts("cal-"+string(r), 0)
		require.NotEmpty(p.t, texts)
		p.mayRead(r, "their calendar on its server", strings.Join(texts, "\n"))
	}
}

// mails looks at every mail that was sent: whoever gets it must be granted what it says.
func (p *planted) mails() {
	addresses := map[string]reader{
		p.words["mail of A"]: clientA, p.words["mail of B"]: clientB, p.words["mail of C"]: clientC, p.words["mail of D"]: clientD, p.words["guest of A"]: guest,
		p.words["copies of type"]: host, // told of every booking, as its host is
	}
	for r, person := range p.people {
		addresses[person.Mail] = r
	}
	for _, l := range p.h.Inbox.Letters() {
		for mail, r := range addresses {
			if !strings.Contains(l.To, mail) {
				continue
			}
			text := l.Subject + "\n" + l.Text + "\n" + l.HTML + "\n" + l.Calendar + "\n" + l.Structure
			for _, f := range l.Files {
				text += string(f.Data) + base64.StdEncoding.EncodeToString(f.Data)
			}
			p.mayRead(r, "the mail “"+l.Subject+"”", text)
		}
	}
}
