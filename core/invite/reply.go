package invite

import (
	"bytes"
	"errors"
	"strings"

	"github.com/emersion/go-ical"

	"corrim/core/busy"
	"corrim/core/span"
)

// Answer is what an invited person answered (RFC 5545, 3.2.12, and RFC 5546, 3.2.7 for a wish).
type Answer string

// The answers. A tentative one, a delegation and whatever else is none of them.
const (
	Accepted Answer = "accepted"
	Declined Answer = "declined"
	Wished   Answer = "wished" // another time instead: iTIP's COUNTER
)

// Reply is an answer to an invitation, as a calendar program writes it.
type Reply struct {
	UID      string
	Sequence int          // of the invitation that is answered
	From     []string     // in small letters; a wish may name all who take part
	Answer   Answer       // empty if it is none that we know
	Start    span.Instant // the meeting's as they know it, or the wished one; 0 if it isn't told
	Comment  string
}

// errNoReply means that a calendar object is not an answer to an invitation.
var errNoReply = errors.New("no answer to an invitation")

// ReadReply reads an answer: an object with the method REPLY (RFC 5546, 3.2.3) or COUNTER (3.2.7) about one meeting. Times without a
// zone, and in zones whose names nobody knows, are not told.
func ReadReply(text []byte) (Reply, error) {
	text = bytes.TrimPrefix(text, byteOrderMark)
	calendar, err := decoded(text)
	if err != nil {
		return Reply{}, err
	}
	method := strings.ToUpper(valueOf(calendar.Component, ical.PropMethod))
	events := calendar.Events()
	if method != "REPLY" && method != "COUNTER" || len(events) == 0 {
		return Reply{}, errNoReply
	}
	event := events[0]
	r := Reply{UID: valueOf(event.Component, ical.PropUID), Sequence: number(valueOf(event.Component, ical.PropSequence))}
	if start, told := busy.StartOf(text, r.UID); told {
		r.Start = start
	}
	if comment, err := event.Props.Text(ical.PropComment); err == nil {
		r.Comment = comment
	}
	who := event.Props.Values(ical.PropAttendee)
	if r.UID == "" || len(who) == 0 {
		return Reply{}, errNoReply
	}
	for _, attendee := range who {
		r.From = append(r.From, mailOf(attendee.Value))
	}
	r.Answer = map[string]Answer{"ACCEPTED": Accepted, "DECLINED": Declined}[strings.ToUpper(who[0].Params.Get("PARTSTAT"))]
	if method == "COUNTER" {
		r.Answer = ""
		if r.Start != 0 {
			r.Answer = Wished
		}
	}
	return r, nil
}

var byteOrderMark = []byte("\ufeff") // in UTF-8, which some programs write before everything

// decoded is the first calendar object in a text. What the library can't read at all, so that it panics, is an error like any other.
func decoded(text []byte) (calendar *ical.Calendar, err error) {
	defer func() {
		if cause := recover(); cause != nil {
			calendar, err = nil, errUnreadable
		}
	}()
	return ical.NewDecoder(bytes.NewReader(text)).Decode()
}

var errUnreadable = errors.New("a calendar object that can't be read")

func valueOf(c *ical.Component, name string) string {
	if p := c.Props.Get(name); p != nil {
		return strings.TrimSpace(p.Value)
	}
	return ""
}

// mailOf is the address in a calendar address: "mailto:" in any case (RFC 3986, 3.1), or left out as some programs do.
func mailOf(value string) string {
	if scheme, rest, has := strings.Cut(value, ":"); has && strings.EqualFold(scheme, "mailto") {
		value = rest
	}
	return strings.ToLower(strings.TrimSpace(value))
}
