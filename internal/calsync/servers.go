// Package calsync keeps a copy of people's calendars and the busy times in it: it reads servers, addresses and files, as often as is
// asked for and on its own every few minutes, and keeps what of that went wrong.
package calsync

import (
	"context"
	"net/url"
	"strings"
	"time"

	"corrim/core/told"
)

// The kinds of accounts that calendars come from.
const (
	CalDAV = "caldav"
	Feed   = "feed"
	File   = "file"
)

// WholeCalendar is the href of a calendar that comes as one text.
const WholeCalendar = "calendar.ics"

// ErrChanged means that a calendar resource is not in the state it was expected in.
var ErrChanged = told.Error("calendar-entry-changed", "the calendar entry was changed meanwhile")

// ErrReadOnly means that nothing may be written to a calendar.
var ErrReadOnly = told.Error("calendar-only-read", "this calendar can only be read there, so the booking is not in it; choose another one that receives bookings")

// Login is how a person signs in to a calendar server.
type Login struct{ Address, Username, Password string }

// RemoteCalendar is a calendar found on a server.
type RemoteCalendar struct {
	Href, Name string
	ReadOnly   bool
}

// Resource is one calendar resource as the server holds it: all VEVENTs of one UID.
type Resource struct {
	Href, ETag string
	ICS        []byte
}

// Changes is what is new in a calendar since a state.
type Changes struct {
	State   string // to be given at the next reading
	Changed []Resource
	Removed []string      // hrefs
	Skew    time.Duration // how far the server's clock is ahead of ours, as far as it tells
}

// Reading is how a calendar is asked for changes.
type Reading struct {
	Calendar string                            // its href
	State    string                            // what the last reading returned
	Known    func() (map[string]string, error) // the ETags by href, for servers that can't tell what changed
	Progress func(done, total int)             // told now and then how many of the changed resources have come
}

// CalendarServer reads and writes calendars (RFC 4791). Its errors say in a sentence for the owner what went wrong.
type CalendarServer interface {
	Discover(ctx context.Context, login Login) ([]RemoteCalendar, error)
	// Changes returns what differs from the state, or, where the server cannot tell, from the known ETags.
	Changes(ctx context.Context, login Login, r Reading) (Changes, error)
	// Put writes a resource and returns its ETag. With an empty etag it must be new, else unchanged since that ETag;
	// otherwise the error is ErrChanged; where nothing may be written at all it is ErrReadOnly.
	Put(ctx context.Context, login Login, href, etag string, ics []byte) (string, error)
	// Delete removes a resource, whatever state it is in; one that is gone already is no error.
	Delete(ctx context.Context, login Login, href string) error
	// Get returns a resource as it is now; its ETag is "" if there is none.
	Get(ctx context.Context, login Login, href string) (Resource, error)
	// Find returns the event with a UID in a calendar, wherever the server keeps it; its ETag is "" if there is none.
	Find(ctx context.Context, login Login, calendar, uid string) (Resource, error)
	// Addresses are the mail addresses under which the server knows the user (RFC 6638, 2.4.1).
	Addresses(ctx context.Context, login Login) ([]string, error)
}

// PlaceOf is an address as it is compared: servers escape the same path in different ways, as %40 or @ (RFC 3986, 6.2.2.2), and
// end a folder's with a slash or not.
func PlaceOf(href string) string {
	u, err := url.Parse(href)
	if err != nil {
		return href
	}
	return strings.ToLower(u.Host) + strings.TrimSuffix(u.Path, "/")
}

// Fetched is what an iCalendar address answered: a text, or nil if nothing is new, and the state for the next fetch.
type Fetched struct {
	Text  []byte
	State string
	Skew  time.Duration // as in Changes
}

// Feeds fetches calendars from iCalendar addresses. state is what the last fetch returned. Errors say in a sentence for the owner what went wrong.
type Feeds interface {
	Fetch(ctx context.Context, address, state string) (Fetched, error)
}

// ServerName is the host of an address.
func ServerName(address string) string {
	if u, err := url.Parse(address); err == nil {
		return u.Host
	}
	return address
}
