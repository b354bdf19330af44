package invite

import (
	"bytes"
	"errors"
	"strings"
	"time"

	"github.com/emersion/go-ical"

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
	calendar, err := ical.NewDecoder(bytes.NewReader(text)).Decode()
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
	if start := event.Props.Get(ical.PropDateTimeStart); start != nil {
		r.Start = instantOf(start)
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

func valueOf(c *ical.Component, name string) string {
	if p := c.Props.Get(name); p != nil {
		return strings.TrimSpace(p.Value)
	}
	return ""
}

func instantOf(p *ical.Prop) span.Instant {
	utc := strings.HasSuffix(p.Value, "Z")
	if !utc && p.Params.Get(ical.PropTimezoneID) == "" {
		return 0
	}
	at, err := p.DateTime(time.UTC)
	if err != nil {
		return 0
	}
	return span.At(at)
}

// mailOf is the address in a calendar address: "mailto:" in any case (RFC 3986, 3.1), or left out as some programs do.
func mailOf(value string) string {
	if scheme, rest, has := strings.Cut(value, ":"); has && strings.EqualFold(scheme, "mailto") {
		value = rest
	}
	return strings.ToLower(strings.TrimSpace(value))
}
