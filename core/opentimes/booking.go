package opentimes

import (
	"corrim/core/span"
	"corrim/core/strict"
	"corrim/core/told"
)

// BookingRule: meeting and buffers touch no other booking or its buffers.
const BookingRule Rule = "booking"

var bookingRule = rule{
	name: BookingRule, title: told.Say("rule-booking", "Bookings"), takes: clearOfBookings, yields: true, short: told.Say("short-booking", "has another booking"),
	holds: always(told.Say("booking-holds", "No other booking is in the way.")),
	fails: func(_ Input, c Cause, by Reader) told.Words {
		return told.Say("booking-fails", "Another booking is in the way, {}, or its buffers.", told.During(c.Span, by.Zone))
	},
	note: func(t Type) told.Words {
		return told.Say("booking-note", "{} min before, {} after kept", t.Before, t.After)
	},
	file: file{[]string{"before", "after", "buffers_inside_hours"}, readBuffers, writeBuffers},
}

// BufferSettings is how the time around a meeting is set. What is busy and the hours heed them too.
type BufferSettings struct {
	Before        int  `json:"before" doc:"Kept free before the meeting."`
	After         int  `json:"after" doc:"Kept free after the meeting."`
	BuffersInside bool `json:"buffersInside,omitempty" doc:"Buffers must lie within the hours too."`
}

func (*BufferSettings) group() (string, Rule) { return "buffers", BookingRule }

func (b *BufferSettings) check(complain func(field string, words told.Words)) {
	between(complain, "before", b.Before, 0, longestGap, told.Say("buffer-0-1440", "A buffer is 0 to 1440 minutes."))
	between(complain, "after", b.After, 0, longestGap, told.Say("buffer-0-1440", "A buffer is 0 to 1440 minutes."))
}

func (b *BufferSettings) apply(t *Type) {
	t.Before, t.After, t.BuffersInsideOpen = b.Before, b.After, b.BuffersInside
}

const maxMinutes = 7 * 24 * 60 // in files

func readBuffers(f map[string]strict.Node, t *Type) {
	t.Before, t.After = f["before"].Number(0, 0, maxMinutes), f["after"].Number(0, 0, maxMinutes)
	t.BuffersInsideOpen = f["buffers_inside_hours"].Flag(false)
}

func writeBuffers(t Type, out map[string]any) {
	out["before"], out["after"], out["buffers_inside_hours"] = t.Before, t.After, t.BuffersInsideOpen
}

// clearOfBookings refuses starts whose meeting would overlap an existing booking or its buffers, or whose buffers would
// overlap its meeting. The buffers of neighbours are each kept whole, unless the workspace lets them share time. Where clients share a
// meeting, its own start is left: the rule seats has the say there.
func clearOfBookings(q *query, take func(Take)) {
	reach := q.reach()
	for _, b := range q.Host.Bookings {
		kept := b.kept()
		if !kept.Overlaps(reach) {
			continue
		}
		refused := q.reachingInto(kept)
		if q.ShareBuffers {
			refused = q.sharing(b.Meeting, kept)
		}
		cause := Cause{Span: b.Meeting, Booking: b.ID}
		if !q.shares(b, q.minutes) {
			take(Take{refused, cause})
			continue
		}
		take(Take{span.Span{Start: refused.Start, End: b.Meeting.Start}, cause})
		take(Take{span.Span{Start: b.Meeting.Start + 1, End: refused.End}, cause})
	}
}

// sharing is the starts whose meeting overlaps the kept time or whose own kept time overlaps the meeting; both conditions
// hold around the meeting, so together they are one stretch.
func (q *query) sharing(meeting, kept span.Span) span.Span {
	mine := q.reachingInto(meeting)
	return span.Span{Start: min(mine.Start, kept.Start-span.Instant(q.duration)+1), End: max(mine.End, kept.End)}
}
