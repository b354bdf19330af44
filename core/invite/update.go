package invite

import (
	"slices"
	"strconv"
	"strings"

	"github.com/emersion/go-ical"

	"corrim/core/span"
)

// Written is what was last written into a host's calendar for a meeting. What differs from it there is the host's own.
type Written struct {
	Title, Text, Place string
	Before, After      bool // is there an entry for the buffer?
}

// Written is what Event and Update write.
func (m Meeting) Written() Written {
	return Written{m.Title, m.Text, m.location(), !m.buffer(Before).Empty(), !m.buffer(After).Empty()}
}

// Update brings the meeting's event within a calendar's text to the meeting's state. What else is in it stays: alarms,
// categories, properties that nobody here knows, and what the host wrote beside or instead of our words. Of a text that can't
// be read, or that has no such event, nothing can be kept.
func (m Meeting) Update(present []byte, last Written) ([]byte, error) {
	calendar, err := decoded(present)
	if err != nil {
		return m.Event()
	}
	for _, part := range calendar.Children {
		if uid, _ := part.Props.Text(ical.PropUID); part.Name == ical.CompEvent && uid == m.UID && part.Props.Get(ical.PropRecurrenceID) == nil {
			m.updateEvent(part, last)
			return written(calendar)
		}
	}
	return m.Event()
}

// ours are the properties that are always as the meeting has them.
var ours = []string{ical.PropDateTimeStamp, ical.PropDateTimeStart, ical.PropDateTimeEnd, ical.PropOrganizer, ical.PropStatus}

func (m Meeting) updateEvent(event *ical.Component, last Written) {
	next := m.event()
	for _, name := range ours {
		event.Props[name] = next.Props[name]
	}
	event.Props.Del(ical.PropDuration)
	if there := event.Props.Get(ical.PropSequence); there == nil || number(there.Value) < m.Sequence {
		event.Props[ical.PropSequence] = next.Props[ical.PropSequence]
	}
	text := func(name string) string { s, _ := event.Props.Text(name); return s }
	event.Props.SetText(ical.PropSummary, ownOr(text(ical.PropSummary), last.Title, m.Title))
	event.Props.SetText(ical.PropDescription, besideOurs(text(ical.PropDescription), last.Text, m.Text))
	if place := ownOr(text(ical.PropLocation), last.Place, m.location()); place != "" {
		event.Props.SetText(ical.PropLocation, place)
	} else {
		event.Props.Del(ical.PropLocation)
	}
	others := slices.DeleteFunc(slices.Clone(event.Props[conference]), func(p ical.Prop) bool {
		return p.Value == last.Place || p.Params.Get("LABEL") == m.JoinLabel // the room that was, in whatever language
	})
	event.Props[conference] = append(others, next.Props[conference]...)
}

func number(text string) int {
	n, _ := strconv.Atoi(text)
	return n
}

// ownOr is what the host made of a text, or the new one if they left the last as it was.
func ownOr(present, last, next string) string {
	if present == last || last == "" {
		return next
	}
	return present
}

// besideOurs is our new text with what the host wrote beside the last.
func besideOurs(present, last, next string) string {
	switch {
	case strings.TrimSpace(present) == strings.TrimSpace(last) || last == "":
		return next
	case strings.Contains(present, last):
		return strings.Replace(present, last, next, 1)
	}
	was := strings.Split(last, "\n")
	for line := range strings.SplitSeq(present, "\n") {
		if !slices.Contains(was, line) {
			next += "\n" + line
		}
	}
	return next
}

// Side is one of a meeting's buffers.
type Side string

// The sides.
const (
	Before Side = "before"
	After  Side = "after"
)

// Buffer is the entry for one of the meeting's buffers in the host's calendar; nil if it has none there.
func (m Meeting) Buffer(side Side) ([]byte, error) {
	when := m.buffer(side)
	if when.Empty() {
		return nil, nil
	}
	return encode("", m.bufferEvent(side, when))
}

var sides = []Side{Before, After}

func (m Meeting) buffer(side Side) span.Span {
	switch {
	case m.Kept.Empty(): // nobody said
		return span.Span{}
	case side == Before:
		return span.Span{Start: m.Kept.Start, End: m.When.Start}
	}
	return span.Span{Start: m.When.End, End: m.Kept.End}
}

func (m Meeting) bufferEvent(side Side, when span.Span) *ical.Component {
	event := ical.NewComponent(ical.CompEvent)
	event.Props.SetText(ical.PropUID, BufferUID(m.UID, side))
	event.Props.SetDateTime(ical.PropDateTimeStamp, m.Stamp.Time())
	event.Props.SetDateTime(ical.PropDateTimeStart, when.Start.Time())
	event.Props.SetDateTime(ical.PropDateTimeEnd, when.End.Time())
	set(event, ical.PropSequence, strconv.Itoa(m.Sequence))
	event.Props.SetText(ical.PropSummary, "Buffer "+string(side)+": "+m.Title)
	set(event, ical.PropTransparency, "OPAQUE")
	return event
}

// BufferUID is the UID of a buffer's entry.
func BufferUID(uid string, side Side) string { return uid + "-" + string(side) }

// MeetingUID is the UID of the meeting that an entry with this UID belongs to: its own, or that of a buffer.
func MeetingUID(uid string) string {
	for _, side := range sides {
		if meeting, ok := strings.CutSuffix(uid, "@corrim-"+string(side)); ok {
			return meeting + "@corrim"
		}
	}
	return uid
}
