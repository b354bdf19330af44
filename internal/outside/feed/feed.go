// Package feed fetches calendars from iCalendar addresses, politely: with the validators of the last answer (RFC 9110,
// 13.1), bounded in size, time and redirects, and not from private networks unless that is allowed.
package feed

import (
	"context"
	"io"
	"net/http"
	"net/url"
	"strings"

	"corrim/core/told"
	"corrim/internal/calsync"
	"corrim/internal/outside/reach"
)

// Client is an calsync.Feeds.
type Client struct{ http *http.Client }

// New returns a client; allowPrivate lets it reach loopback and private networks.
func New(allowPrivate bool) *Client { return &Client{reach.Client(allowPrivate)} }

const (
	maxRedirects = 5
	maxText      = 20 << 20
)

// Fetch returns the calendar's text, unless it has not changed since the state was returned, and what to give with the next
// fetch. Answers may come compressed; the bound is on what they unfold to. Errors are sentences for the calendar's owner and never hold the address, which may be secret.
func (c *Client) Fetch(ctx context.Context, address, state string) (calsync.Fetched, error) {
	at, err := url.Parse(address)
	if err != nil {
		return calsync.Fetched{}, told.Error("address-read-enter", "the address can't be read; enter it again")
	}
	for range maxRedirects {
		response, err := c.ask(ctx, at, state)
		if err != nil {
			return calsync.Fetched{}, reach.InWords(at.Host, err)
		}
		text, newState, location, err := answer(response, at.Host, state)
		if location == "" || err != nil {
			return calsync.Fetched{Text: text, State: newState, Skew: reach.Skew(response.Header)}, err
		}
		next, err := at.Parse(location)
		if err != nil || next.Scheme != "https" && next.Scheme != at.Scheme { // never on to less protection
			return calsync.Fetched{}, told.Error("server-redirects-address-used", "the server at {} redirects to an address that can't be used", at.Host)
		}
		at = next
	}
	return calsync.Fetched{}, told.Error("server-redirects-circles-check", "the server at {} redirects in circles; check the address", at.Host)
}

// ask sends the request with the validators of the last answer: an ETag and a date, a line each.
func (c *Client) ask(ctx context.Context, at *url.URL, state string) (*http.Response, error) {
	request, err := http.NewRequestWithContext(ctx, http.MethodGet, at.String(), nil)
	if err != nil {
		return nil, err
	}
	request.Header.Set("Accept", "text/calendar")
	etag, modified, _ := strings.Cut(state, "\n")
	if etag != "" {
		request.Header.Set("If-None-Match", etag)
	}
	if modified != "" {
		request.Header.Set("If-Modified-Since", modified)
	}
	return c.http.Do(request)
}

// answer reads a response: a text, nothing new, somewhere else, or what is wrong.
func answer(response *http.Response, host, state string) (text []byte, newState, location string, err error) {
	defer func() { _ = response.Body.Close() }()
	switch {
	case response.StatusCode == http.StatusNotModified:
		return nil, state, "", nil
	case response.StatusCode >= 300 && response.StatusCode < 400:
		if location = response.Header.Get("Location"); location == "" {
			err = told.Error("server-redirects-nowhere", "the server at {} redirects to nowhere; check the address", host)
		}
		return nil, state, location, err
	case response.StatusCode == http.StatusNotFound || response.StatusCode == http.StatusGone:
		return nil, state, "", told.Error("no-calendar-address-too", "there is no calendar at this address of {} any more; enter a new one", host)
	case response.StatusCode == http.StatusUnauthorized || response.StatusCode == http.StatusForbidden:
		return nil, state, "", told.Error("server-doesnt-give", "the server at {} doesn't give out this calendar; ask for a new address there", host)
	case response.StatusCode != http.StatusOK:
		return nil, state, "", told.Error("server-answered-error", "the server at {} answered with an error ({}); it will be asked again", host, response.StatusCode)
	}
	text, err = io.ReadAll(io.LimitReader(response.Body, maxText+1))
	switch {
	case err != nil:
		return nil, state, "", reach.InWords(host, err)
	case len(text) > maxText:
		return nil, state, "", told.Error("calendar-larger-than", "the calendar at {} is larger than 20 MB; subscribe to a smaller one", host)
	case !strings.Contains(strings.ToUpper(string(text[:min(len(text), 1000)])), "BEGIN:VCALENDAR"):
		return nil, state, "", told.Error("what-sends-calendar", "what {} sends is not a calendar; check that the address is that of an .ics file", host)
	}
	return text, response.Header.Get("ETag") + "\n" + response.Header.Get("Last-Modified"), "", nil
}
