// Package invite writes meetings as iCalendar: the invitation that goes out by mail (RFC 5546 in RFC 6047), the entry in
// the host's own calendar, and the file a client can download. All three carry the same UID, so that a calendar that
// meets more than one of them keeps one entry.
package invite

import (
	"bytes"
	"cmp"
	"fmt"
	"net/url"
	"strings"
	"unicode/utf8"

	"github.com/emersion/go-ical"

	"corrim/core/life"
	"corrim/core/span"
)

// Party is somebody who takes part.
type Party struct{ Name, Mail string }

// Meeting is the facts of one booking.
type Meeting struct {
	UID       string
	Sequence  int          // rises with every change (RFC 5546, 2.1.4)
	Stamp     span.Instant // when this state was made
	When      span.Span
	Kept      span.Span // with its buffers, which its hosts see and its client doesn't
	Title     string
	Text      string // several lines, for people
	JoinURL   string // of the video room; may be empty
	JoinLabel string // how joining it is called
	Location  string // if one doesn't meet by video: an address or a phone number; may be empty
	Host      Party
	Client    Party
	Guests    []Party       // whom the client brings
	Standing  life.Standing // confirmed if it isn't said
}

// Method is the iTIP method of the meeting's invitation: REQUEST, or CANCEL once it is cancelled.
func (m Meeting) Method() string {
	if m.Standing == life.Withdrawn {
		return "CANCEL"
	}
	return "REQUEST"
}

// Invitation is the text for a mail: the client's, who sees all guests, or a guest's, with just that guest among them. Whoever
// gets it is one of its attendees, or their calendar would not take it as theirs (RFC 5546, 3.2.2).
func (m Meeting) Invitation() ([]byte, error) {
	event := m.event()
	event.Props.Add(attendee(m.Client, "REQ-PARTICIPANT", "ACCEPTED")) // the client asked for the meeting
	for _, guest := range m.Guests {
		event.Props.Add(attendee(guest, "OPT-PARTICIPANT", "NEEDS-ACTION"))
	}
	return encode(m.Method(), event)
}

func attendee(who Party, role, state string) *ical.Prop {
	p := party(ical.PropAttendee, who)
	p.Params.Set("ROLE", role)
	p.Params.Set("PARTSTAT", state)
	p.Params.Set("RSVP", "FALSE")
	return p
}

// Event is the entry for the host's calendar, without a method. The client stands in its text and not as an attendee,
// because calendar servers that schedule (RFC 6638) would send an invitation of their own.
func (m Meeting) Event() ([]byte, error) { return encode("", m.event()) }

// File is the text that a client downloads or subscribes to: their meeting, or all dates of what they booked as one. Unlike an invitation,
// which speaks of one meeting (RFC 5546, 2.1.4), what is published may have several (RFC 5546, 3.2.1).
func File(meetings ...Meeting) ([]byte, error) {
	events := make([]*ical.Component, len(meetings))
	for i, m := range meetings {
		events[i] = m.published()
	}
	return encodeAll("PUBLISH", "", events...)
}

// published is the meeting's event for whoever is not asked to take part: it has no attendees, so nothing to organise.
func (m Meeting) published() *ical.Component {
	event := m.event()
	event.Props.Del(ical.PropOrganizer)
	return event
}

func (m Meeting) event() *ical.Component {
	event := ical.NewComponent(ical.CompEvent)
	event.Props.SetText(ical.PropUID, m.UID)
	event.Props.SetDateTime(ical.PropDateTimeStamp, m.Stamp.Time())
	event.Props.SetDateTime(ical.PropDateTimeStart, m.When.Start.Time())
	event.Props.SetDateTime(ical.PropDateTimeEnd, m.When.End.Time())
	set(event, ical.PropSequence, fmt.Sprint(m.Sequence))
	event.Props.SetText(ical.PropSummary, m.Title)
	event.Props.SetText(ical.PropDescription, m.Text)
	event.Props.Add(party(ical.PropOrganizer, m.Host))
	set(event, ical.PropStatus, string(cmp.Or(m.Standing, life.Confirmed)))
	set(event, ical.PropTransparency, "OPAQUE")
	if place := m.location(); place != "" {
		event.Props.SetText(ical.PropLocation, place)
	}
	if m.JoinURL != "" {
		room := ical.NewProp(conference)
		room.Params.Set("VALUE", "URI")
		room.Params.Set("FEATURE", "VIDEO")
		room.Params.Set("LABEL", m.JoinLabel)
		room.Value = m.JoinURL
		event.Props.Add(room)
	}
	return event
}

const conference = "CONFERENCE" // RFC 7986, 5.11

// location is where the entry says that one meets.
func (m Meeting) location() string { return cmp.Or(m.JoinURL, m.Location) }

// set writes a value that needs no escapes, without the VALUE parameter that SetText may add.
func set(c *ical.Component, name, value string) {
	p := ical.NewProp(name)
	p.Value = value
	c.Props.Set(p)
}

func party(name string, who Party) *ical.Prop {
	p := ical.NewProp(name)
	p.Value = (&url.URL{Scheme: "mailto", Opaque: who.Mail}).String()
	if label := parameterText(who.Name); label != "" {
		p.Params.Set("CN", label)
	}
	return p
}

// parameterText writes quotes and carets as RFC 6868 does, and leaves out what a parameter value cannot hold even so (RFC 5545, 3.2).
func parameterText(s string) string {
	plain := strings.Map(func(r rune) rune {
		if r < ' ' || r == 0x7f {
			return -1
		}
		return r
	}, s)
	return strings.NewReplacer("^", "^^", `"`, "^'").Replace(plain)
}

// Feed is meetings as one calendar with a name, to be subscribed to (RFC 7986, 5.1 and 5.7 for the name and how often to ask).
func Feed(name string, meetings []Meeting) ([]byte, error) {
	var events []*ical.Component
	for _, m := range meetings {
		events = append(events, m.published())
		for _, side := range sides {
			if when := m.buffer(side); !when.Empty() {
				events = append(events, m.bufferEvent(side, when))
			}
		}
	}
	return encodeAll("PUBLISH", name, events...)
}

// Busy says when somebody is busy within a range and nothing more (VFREEBUSY; RFC 5545, 3.6.4). busy must lie within the range.
func Busy(who Party, within span.Span, stamp span.Instant, busy span.Set) ([]byte, error) {
	part := ical.NewComponent(ical.CompFreeBusy)
	part.Props.SetText(ical.PropUID, "busy-"+who.Mail)
	part.Props.SetDateTime(ical.PropDateTimeStamp, stamp.Time())
	part.Props.SetDateTime(ical.PropDateTimeStart, within.Start.Time())
	part.Props.SetDateTime(ical.PropDateTimeEnd, within.End.Time())
	part.Props.Add(party(ical.PropOrganizer, who))
	for _, s := range busy {
		period := ical.NewProp(ical.PropFreeBusy)
		period.Params.Set("FBTYPE", "BUSY")
		period.Value = s.Start.Time().UTC().Format("20060102T150405Z") + "/" + s.End.Time().UTC().Format("20060102T150405Z")
		part.Props.Add(period)
	}
	return encodeAll("PUBLISH", "When "+who.Name+" is busy", part)
}

func encode(method string, event *ical.Component) ([]byte, error) {
	return encodeAll(method, "", event)
}

func encodeAll(method, name string, parts ...*ical.Component) ([]byte, error) {
	calendar := ical.NewCalendar()
	calendar.Props.SetText(ical.PropProductID, "-//Corrim//Bookings//EN")
	calendar.Props.SetText(ical.PropVersion, "2.0")
	if method != "" {
		set(calendar.Component, ical.PropMethod, method)
	}
	if name != "" {
		calendar.Props.SetText("NAME", name)
		calendar.Props.SetText("X-WR-CALNAME", name) // for programs older than RFC 7986
		set(calendar.Component, "REFRESH-INTERVAL", "PT15M")
		calendar.Props.Get("REFRESH-INTERVAL").Params.Set("VALUE", "DURATION")
	}
	calendar.Children = append(calendar.Children, parts...)
	if len(parts) == 0 { // RFC 5545, 3.6 asks for at least one component
		calendar.Children = append(calendar.Children, nothing())
	}
	return written(calendar)
}

func written(calendar *ical.Calendar) ([]byte, error) {
	var out bytes.Buffer
	if err := ical.NewEncoder(&out).Encode(calendar); err != nil {
		return nil, fmt.Errorf("writing iCalendar: %w", err)
	}
	return fold(out.Bytes()), nil
}

// nothing is a part that says nothing, for a calendar that has no other yet.
func nothing() *ical.Component {
	zone := ical.NewComponent(ical.CompTimezone)
	set(zone, ical.PropTimezoneID, "Etc/UTC")
	standard := ical.NewComponent(ical.CompTimezoneStandard)
	set(standard, ical.PropDateTimeStart, "19700101T000000")
	set(standard, ical.PropTimezoneOffsetFrom, "+0000")
	set(standard, ical.PropTimezoneOffsetTo, "+0000")
	zone.Children = append(zone.Children, standard)
	return zone
}

// fold breaks lines longer than 75 octets, never within a character (RFC 5545, 3.1); the encoder leaves them long.
func fold(text []byte) []byte {
	var out bytes.Buffer
	for line := range bytes.Lines(text) {
		room := 75
		for _, r := range string(bytes.TrimSuffix(line, []byte("\r\n"))) {
			if utf8.RuneLen(r) > room {
				out.WriteString("\r\n ")
				room = 74
			}
			room -= utf8.RuneLen(r)
			out.WriteRune(r)
		}
		out.WriteString("\r\n")
	}
	return out.Bytes()
}
