// Package caldav reads and writes calendars over CalDAV (RFC 4791).
//
// A calendar is found from any address of its server: the principal, then its calendar home, then the calendars in it
// (RFC 6764). It is read incrementally: by sync-collection (RFC 6578) where the server has it, else only if its CTag
// changed, comparing ETags. Writing is conditional on the ETag, so nobody's change is lost.
package caldav

import (
	"bytes"
	"context"
	"encoding/xml"
	"errors"
	"io"
	"net"
	"net/http"
	"net/url"
	"path"
	"strconv"
	"strings"
	"time"

	"golang.org/x/net/publicsuffix"

	"corrim/core/busy"
	"corrim/core/told"
	"corrim/internal/calsync"
	"corrim/internal/outside/reach"
)

// Client is an calsync.CalendarServer.
type Client struct{ http *http.Client }

// New returns a client; allowPrivate lets it reach loopback and private networks.
func New(allowPrivate bool) *Client { return &Client{reach.Client(allowPrivate)} }

const (
	maxRedirects = 5
	maxAnswer    = 64 << 20
	multigetSize = 500 // some servers look through the whole calendar for each request
)

// statusError is an answer other than the expected.
type statusError struct {
	code  int
	host  string
	after time.Duration // what the server asks to wait, or 0
}

// Away tells that the server is in trouble, and not what was asked of it.
func (e *statusError) Away() bool { return e.code > 499 || e.code == http.StatusTooManyRequests }

// RetryAfter is how long the server asks to be left alone (RFC 9110, 10.2.3), or 0.
func (e *statusError) RetryAfter() time.Duration { return e.after }

// status is an answer as an error.
func (a answer) status() *statusError {
	seconds, _ := strconv.Atoi(a.header.Get("Retry-After")) // a date, or nothing, is no wish we know
	return &statusError{a.code, a.url.Host, time.Duration(seconds) * time.Second}
}

func (e *statusError) Error() string { return e.Told().Sentence }

// Told is the answer as its owner is told of it.
func (e *statusError) Told() told.Words {
	switch e.code {
	case http.StatusUnauthorized:
		return told.Say("calendar-refuses-user", "The server at {} refuses this user name and password. Check both and connect again.", e.host)
	case http.StatusForbidden:
		return told.Say("calendar-forbids", "The server at {} knows this user but doesn't allow the calendar to be used. Check its sharing there.", e.host)
	case http.StatusNotFound, http.StatusMethodNotAllowed, http.StatusNotImplemented:
		return told.Say("calendar-not-there", "There is no calendar server at this address of {}. Check the address with whoever runs it.", e.host)
	case http.StatusTooManyRequests, http.StatusServiceUnavailable:
		return told.Say("calendar-busy", "The server at {} is busy at the moment. It will be asked again.", e.host)
	}
	return told.Say("calendar-error", "The server at {} answered with an error ({}). It will be asked again.", e.host, e.code)
}

func hasStatus(err error, codes ...int) bool {
	var status *statusError
	if !errors.As(err, &status) {
		return false
	}
	for _, code := range codes {
		if status.code == code {
			return true
		}
	}
	return false
}

// answer is what came back, and the address that answered in the end.
type answer struct {
	code   int
	header http.Header
	body   []byte
	url    *url.URL
}

// do sends a request, following redirects itself: the standard client would turn a PROPFIND into a GET. Wherever an address
// comes from – a redirect, a principal, a stored href –, the password goes only to the place it was given for.
func (c *Client) do(ctx context.Context, login calsync.Login, method, address string, header map[string]string, body []byte) (answer, error) {
	given, err := resolve(login.Address, "")
	if err != nil {
		return answer{}, err
	}
	at, err := resolve(login.Address, address)
	if err != nil {
		return answer{}, err
	}
	home := at.Host
	for range maxRedirects {
		if !sameSite(given, at) {
			return answer{}, strangerError(given, at)
		}
		a, err := c.once(ctx, login, method, at, header, body)
		if err != nil {
			return a, err
		}
		location := a.header.Get("Location")
		if a.code < 300 || a.code > 399 || location == "" {
			return a, nil
		}
		if at, err = at.Parse(location); err != nil {
			return a, told.Error("server-redirects-address", "the server at {} redirects to an address that can't be read", home)
		}
	}
	return answer{}, told.Error("server-redirects-circles", "the server at {} redirects in circles. Check the address with whoever runs it", home)
}

func resolve(base, address string) (*url.URL, error) {
	from, err := url.Parse(base)
	if err != nil {
		return nil, told.Error("address-read", "the address “{}” can't be read", base)
	}
	at, err := from.Parse(address)
	if err != nil {
		return nil, told.Error("address-read", "the address “{}” can't be read", address)
	}
	return at, nil
}

// sameSite tells whether an address belongs to the place that a password was given for: the same host, never with less
// encryption, or over https another host of the same domain, as large services have them (RFC 6764, 8 leaves what to trust to
// the client).
func sameSite(given, at *url.URL) bool {
	if at.Scheme != "https" && at.Scheme != given.Scheme {
		return false
	}
	if at.Host == given.Host || at.Scheme == "https" && at.Port() == "" && at.Hostname() == given.Hostname() {
		return true
	}
	domain := func(u *url.URL) string {
		if net.ParseIP(u.Hostname()) != nil || u.Scheme != "https" || u.Port() != "" && u.Port() != "443" {
			return ""
		}
		name, _ := publicsuffix.EffectiveTLDPlusOne(strings.ToLower(u.Hostname())) // empty where there is none
		return name
	}
	return domain(given) != "" && domain(given) == domain(at)
}

// strangerError says where a server leads that the password was not given for.
func strangerError(given, at *url.URL) error {
	if at.Hostname() == given.Hostname() && at.Scheme != given.Scheme {
		return told.Error("server-leads-address", "the server at {} leads to an address of its own that is less protected, where a password could be read on the way. Check the address with whoever runs it", given.Host)
	}
	return told.Error("server-leads-which", "the server at {} leads to {}, which your password was not given for. If both are run by the same people, connect with the address of {}", given.Host, at.Host, at.Host)
}

func (c *Client) once(ctx context.Context, login calsync.Login, method string, at *url.URL, header map[string]string, body []byte) (answer, error) {
	request, err := http.NewRequestWithContext(ctx, method, at.String(), bytes.NewReader(body))
	if err != nil {
		return answer{}, err
	}
	for name, value := range header {
		request.Header.Set(name, value)
	}
	request.SetBasicAuth(login.Username, login.Password)
	response, err := c.http.Do(request)
	if err != nil {
		return answer{}, reach.InWords(at.Host, err)
	}
	defer func() { _ = response.Body.Close() }()
	text, err := io.ReadAll(io.LimitReader(response.Body, maxAnswer+1))
	if err != nil {
		return answer{}, reach.InWords(at.Host, err)
	}
	if len(text) > maxAnswer {
		return answer{}, told.Error("server-sends-more", "the server at {} sends more than can be read at once", at.Host)
	}
	return answer{response.StatusCode, response.Header, text, at}, nil
}

// query sends a PROPFIND or REPORT and reads the multistatus.
func (c *Client) query(ctx context.Context, login calsync.Login, method, address, depth, body string) (multistatus, place, error) {
	header := map[string]string{"Content-Type": "application/xml; charset=utf-8", "Depth": depth}
	a, err := c.do(ctx, login, method, address, header, []byte(xml.Header+body))
	if err != nil {
		return multistatus{}, place{}, err
	}
	if a.code != http.StatusMultiStatus {
		return multistatus{}, place{}, a.status()
	}
	var m multistatus
	if err := xml.Unmarshal(a.body, &m); err != nil {
		return multistatus{}, place{}, told.Error("server-answered-something", "the server at {} answered with something that isn't CalDAV. Check the address", a.url.Host)
	}
	return m, place{a.url, reach.Skew(a.header)}, nil
}

// place is where an answer came from in the end, and how far the clock there is ahead of ours.
type place struct {
	*url.URL
	skew time.Duration
}

// Discover finds the calendars of a user. The given address may be any of the server's: its root, the user's page, a
// single calendar.
func (c *Client) Discover(ctx context.Context, login calsync.Login) ([]calsync.RemoteCalendar, error) {
	principal, err := c.principal(ctx, login)
	if err != nil {
		return nil, err
	}
	m, at, err := c.query(ctx, login, "PROPFIND", principal, "0", propfindHome)
	if err != nil {
		return nil, err
	}
	home := first(m, func(p prop) string { return p.Home.Href })
	if home == "" {
		return nil, told.Error("server-doesnt-say", "the server at {} doesn't say where this user's calendars are. Check the address with whoever runs it", at.Host)
	}
	if m, at, err = c.query(ctx, login, "PROPFIND", absolute(at, home), "1", propfindCalendars); err != nil {
		return nil, err
	}
	var out []calsync.RemoteCalendar
	for _, r := range m.Responses {
		if p := r.found(); p.holdsEvents() {
			out = append(out, calsync.RemoteCalendar{Href: absolute(at, r.Href), Name: nameOf(p.DisplayName, r.Href), ReadOnly: p.readOnly()})
		}
	}
	return out, nil
}

// principal asks the given address who the user is, then the well-known one (RFC 6764, 5).
func (c *Client) principal(ctx context.Context, login calsync.Login) (string, error) {
	var failure error
	for _, address := range []string{login.Address, "/.well-known/caldav"} {
		m, at, err := c.query(ctx, login, "PROPFIND", address, "0", propfindPrincipal)
		if err == nil {
			if href := first(m, func(p prop) string { return p.Principal.Href }); href != "" {
				return absolute(at, href), nil
			}
			err = &statusError{code: http.StatusNotFound, host: at.Host}
		}
		if failure == nil || hasStatus(failure, http.StatusNotFound, http.StatusMethodNotAllowed) {
			failure = err
		}
		if !hasStatus(err, http.StatusNotFound, http.StatusMethodNotAllowed, http.StatusNotImplemented, http.StatusForbidden, http.StatusOK) {
			break
		}
	}
	return "", failure
}

func first(m multistatus, of func(prop) string) string {
	for _, r := range m.Responses {
		if value := of(r.found()); value != "" {
			return value
		}
	}
	return ""
}

func absolute(at place, href string) string {
	if u, err := at.Parse(href); err == nil {
		return u.String()
	}
	return href
}

func nameOf(display, href string) string {
	if display = strings.TrimSpace(display); display != "" {
		return display
	}
	return path.Base(href)
}

// The states that Changes hands out begin with the way they were found.
const (
	bySync = "sync:"
	byCTag = "ctag:"
)

// Changes returns what is new in a calendar.
func (c *Client) Changes(ctx context.Context, login calsync.Login, r calsync.Reading) (calsync.Changes, error) {
	changes, err := c.changes(ctx, login, r)
	if hasStatus(err, http.StatusNotFound, http.StatusGone) {
		return changes, told.Error("calendar-server-any", "this calendar is not on its server any more. If it was deleted there, disconnect it here")
	}
	return changes, err
}

func (c *Client) changes(ctx context.Context, login calsync.Login, r calsync.Reading) (calsync.Changes, error) {
	token, synced := strings.CutPrefix(r.State, bySync)
	if synced || r.State == "" {
		changes, err := c.sync(ctx, login, r.Calendar, token)
		if err == nil {
			err = c.withTexts(ctx, login, r, &changes)
			return changes, err
		}
		if token != "" && hasStatus(err, http.StatusForbidden, http.StatusConflict, http.StatusPreconditionFailed, http.StatusInsufficientStorage) {
			// The token is too old for the server: compare everything, then go on from a new one.
			r.State = ""
			return c.compare(ctx, login, r)
		}
		if !hasStatus(err, http.StatusBadRequest, http.StatusForbidden, http.StatusMethodNotAllowed, http.StatusNotImplemented, http.StatusUnsupportedMediaType, http.StatusConflict, http.StatusInternalServerError) {
			return calsync.Changes{}, err
		}
	}
	return c.compare(ctx, login, r)
}

// sync asks by sync-collection; an empty token asks for everything.
func (c *Client) sync(ctx context.Context, login calsync.Login, calendar, token string) (calsync.Changes, error) {
	m, at, err := c.query(ctx, login, "REPORT", calendar, "0", syncCollection(token))
	if err != nil {
		return calsync.Changes{}, err
	}
	if m.SyncToken == "" {
		return calsync.Changes{}, &statusError{code: http.StatusNotImplemented, host: at.Host}
	}
	changes := calsync.Changes{State: bySync + m.SyncToken, Skew: at.skew}
	for _, r := range m.Responses {
		href := absolute(at, r.Href)
		switch {
		case calsync.PlaceOf(href) == calsync.PlaceOf(calendar):
		case r.gone():
			changes.Removed = append(changes.Removed, href)
		default:
			changes.Changed = append(changes.Changed, calsync.Resource{Href: href, ETag: r.found().ETag})
		}
	}
	return changes, nil
}

// compare holds the server's ETags against the known ones, unless the CTag says that nothing changed.
func (c *Client) compare(ctx context.Context, login calsync.Login, r calsync.Reading) (calsync.Changes, error) {
	calendar, changes := r.Calendar, calsync.Changes{}
	m, at, err := c.query(ctx, login, "PROPFIND", calendar, "0", propfindCTag)
	if err != nil {
		return changes, err
	}
	changes.Skew = at.skew
	if ctag := first(m, func(p prop) string { return p.CTag }); ctag != "" {
		if changes.State = byCTag + ctag; changes.State == r.State {
			return changes, nil
		}
	} else {
		changes.State = byCTag
	}
	old, err := r.Known()
	if err != nil {
		return changes, err
	}
	m, at, err = c.query(ctx, login, "PROPFIND", calendar, "1", propfindETags)
	if err != nil {
		return changes, err
	}
	known := map[string]string{} // ETags by place
	for href, etag := range old {
		known[calsync.PlaceOf(href)] = etag
	}
	seen := map[string]bool{}
	for _, found := range m.Responses {
		href, p := absolute(at, found.Href), found.found()
		place := calsync.PlaceOf(href)
		if place == calsync.PlaceOf(calendar) || p.ResourceType.Collection != nil || found.gone() {
			continue
		}
		seen[place] = true
		if p.ETag == "" || known[place] != p.ETag {
			changes.Changed = append(changes.Changed, calsync.Resource{Href: href, ETag: p.ETag})
		}
	}
	for href := range old {
		if !seen[calsync.PlaceOf(href)] {
			changes.Removed = append(changes.Removed, href)
		}
	}
	err = c.withTexts(ctx, login, r, &changes)
	return changes, err
}

// withTexts fetches the changed resources. One that has vanished meanwhile counts as removed.
func (c *Client) withTexts(ctx context.Context, login calsync.Login, reading calsync.Reading, changes *calsync.Changes) error {
	wanted := changes.Changed
	total := len(wanted)
	changes.Changed = nil
	for len(wanted) > 0 {
		part := wanted[:min(multigetSize, len(wanted))]
		wanted = wanted[len(part):]
		got, err := c.texts(ctx, login, reading.Calendar, part)
		if err != nil {
			return err
		}
		reading.Progress(total-len(wanted), total)
		for _, r := range part {
			if text, ok := got[calsync.PlaceOf(r.Href)]; ok {
				text.Href = r.Href
				changes.Changed = append(changes.Changed, text)
			} else {
				changes.Removed = append(changes.Removed, r.Href)
			}
		}
	}
	return nil
}

// texts fetches resources and returns them by place.
func (c *Client) texts(ctx context.Context, login calsync.Login, calendar string, resources []calsync.Resource) (map[string]calsync.Resource, error) {
	hrefs := make([]string, len(resources))
	for i, r := range resources {
		u, err := url.Parse(r.Href)
		if err != nil {
			return nil, err
		}
		hrefs[i] = u.EscapedPath()
	}
	m, at, err := c.query(ctx, login, "REPORT", calendar, "1", multiget(hrefs))
	if err != nil {
		return nil, err
	}
	got := map[string]calsync.Resource{}
	for _, r := range m.Responses {
		if p := r.found(); p.CalendarData != "" {
			got[calsync.PlaceOf(absolute(at, r.Href))] = calsync.Resource{ETag: p.ETag, ICS: []byte(p.CalendarData)}
		}
	}
	return got, nil
}

// Put writes a resource; see calsync.CalendarServer.
func (c *Client) Put(ctx context.Context, login calsync.Login, href, etag string, ics []byte) (string, error) {
	header := map[string]string{"Content-Type": "text/calendar; charset=utf-8"}
	if etag == "" {
		header["If-None-Match"] = "*"
	} else {
		header["If-Match"] = etag
	}
	a, err := c.do(ctx, login, http.MethodPut, href, header, ics)
	switch {
	case err != nil:
		return "", err
	case a.code == http.StatusPreconditionFailed || a.code == http.StatusNotFound && etag != "":
		return "", calsync.ErrChanged
	case a.code == http.StatusForbidden || a.code == http.StatusMethodNotAllowed:
		return "", calsync.ErrReadOnly
	case a.code < 200 || a.code > 299:
		return "", a.status()
	}
	if written := a.header.Get("ETag"); written != "" {
		return written, nil
	}
	return c.etag(ctx, login, href) // the server changed what it keeps, so it tells no ETag
}

// Delete removes a resource.
func (c *Client) Delete(ctx context.Context, login calsync.Login, href string) error {
	a, err := c.do(ctx, login, http.MethodDelete, href, nil, nil)
	if err != nil {
		return err
	}
	if a.code == http.StatusNotFound || a.code == http.StatusGone || a.code >= 200 && a.code < 300 {
		return nil
	}
	return a.status()
}

// Get returns a resource as it is now.
func (c *Client) Get(ctx context.Context, login calsync.Login, href string) (calsync.Resource, error) {
	a, err := c.do(ctx, login, http.MethodGet, href, map[string]string{"Accept": "text/calendar"}, nil)
	switch {
	case err != nil:
		return calsync.Resource{}, err
	case a.code == http.StatusNotFound || a.code == http.StatusGone:
		return calsync.Resource{}, nil
	case a.code != http.StatusOK:
		return calsync.Resource{}, a.status()
	}
	found := calsync.Resource{Href: href, ETag: a.header.Get("ETag"), ICS: a.body}
	if found.ETag == "" {
		found.ETag, err = c.etag(ctx, login, href)
	}
	return found, err
}

// Find looks for an event by its UID. A text-match finds parts of a UID too (RFC 4791, 9.7.5), so what is found is looked at.
func (c *Client) Find(ctx context.Context, login calsync.Login, calendar, uid string) (calsync.Resource, error) {
	m, at, err := c.query(ctx, login, "REPORT", calendar, "1", withUID(uid))
	if err != nil {
		return calsync.Resource{}, err
	}
	for _, r := range m.Responses {
		p := r.found()
		if p.ETag != "" && busy.HasEvent([]byte(p.CalendarData), uid) {
			return calsync.Resource{Href: absolute(at, r.Href), ETag: p.ETag, ICS: []byte(p.CalendarData)}, nil
		}
	}
	return calsync.Resource{}, nil
}

// etag is the resource's present ETag, or "" if there is none.
func (c *Client) etag(ctx context.Context, login calsync.Login, href string) (string, error) {
	m, _, err := c.query(ctx, login, "PROPFIND", href, "0", propfindETag)
	if hasStatus(err, http.StatusNotFound, http.StatusGone) {
		return "", nil
	}
	return first(m, func(p prop) string { return p.ETag }), err
}

// Addresses asks for the user's addresses; servers that know none have none.
func (c *Client) Addresses(ctx context.Context, login calsync.Login) ([]string, error) {
	principal, err := c.principal(ctx, login)
	if err != nil {
		return nil, err
	}
	m, _, err := c.query(ctx, login, "PROPFIND", principal, "0", propfindAddresses)
	if err != nil {
		return nil, err
	}
	out := []string{}
	for _, r := range m.Responses {
		for _, href := range r.found().Addresses.Hrefs {
			if scheme, mail, ok := strings.Cut(strings.TrimSpace(href), ":"); ok && strings.EqualFold(scheme, "mailto") {
				if plain, err := url.PathUnescape(mail); err == nil {
					mail = plain
				}
				out = append(out, mail)
			}
		}
	}
	return out, nil
}
