package message_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"corrim/core/life"
	"corrim/core/message"
	"corrim/core/span"
)

// 160 characters of the default alphabet fit into one message and 153 into each of several; of UCS-2, 70 and 67 (3GPP TS 23.038 and
// 23.040). Characters of the extension table take two places, and are not cut apart.
func TestTextMessagesAreCountedAsTheyAreSent(t *testing.T) {
	for _, one := range []struct {
		text        string
		parts, used int
		plain       bool
	}{
		{"", 1, 0, true},
		{strings.Repeat("a", 160), 1, 160, true},
		{strings.Repeat("a", 161), 2, 161, true},
		{strings.Repeat("a", 306), 2, 306, true},
		{strings.Repeat("a", 307), 3, 307, true},
		{strings.Repeat("€", 80), 1, 160, true},
		{strings.Repeat("€", 81), 2, 162, true},
		{strings.Repeat("a", 152) + "€" + strings.Repeat("a", 152), 3, 306, true}, // the sign begins the second part
		{"Grüße, 10 Uhr: Größe ß", 1, 22, true},
		{"Até amanhã", 1, 10, false}, // ã is not in the alphabet
		{strings.Repeat("ã", 70), 1, 70, false},
		{strings.Repeat("ã", 71), 2, 71, false},
		{strings.Repeat("ã", 134), 2, 134, false},
		{strings.Repeat("ã", 135), 3, 135, false},
		{strings.Repeat("𝄞", 35), 1, 70, false},
		{strings.Repeat("𝄞", 36), 2, 72, false},
	} {
		counted := message.CountParts(one.text)
		assert.Equal(t, []any{one.parts, one.used, one.plain}, []any{counted.Parts, counted.Used, counted.Plain}, "%.20q…", one.text)
	}
}

func TestTextsKeepOffQuietHours(t *testing.T) {
	halifax := zoneOf(t, "America/Halifax") // UTC−3 in May
	meeting := func(start string) message.Meeting {
		from, err := time.ParseInLocation("2006-01-02 15:04", start, halifax)
		assert.NoError(t, err)
		return message.Meeting{Span: span.Of(from, from.Add(time.Hour)), State: life.Booked, Texts: true, ClientZone: halifax, Quiet: message.Quiet{From: "21:00", Until: "08:00"}}
	}
	due := func(minutes int, side string, m message.Meeting) string {
		at, some := message.Rule{Receiver: message.ToClient, By: message.ByText, Minutes: minutes, Side: side, If: message.Always}.Due(m)
		if !some {
			return "never"
		}
		return at.Time().In(halifax).Format("02 15:04")
	}
	assert.Equal(t, "05 10:00", due(120, message.Before, meeting("2026-05-05 12:00")))
	assert.Equal(t, "04 20:59", due(120, message.Before, meeting("2026-05-05 09:00")), "before they begin")
	later := meeting("2026-05-05 09:00")
	later.Quiet.Later = true
	assert.Equal(t, "05 08:00", due(120, message.Before, later))
	later = meeting("2026-05-05 07:30")
	later.Quiet.Later = true
	assert.Equal(t, "04 20:59", due(60, message.Before, later), "after them it would have begun")
	assert.Equal(t, "06 08:00", due(60, message.After, meeting("2026-05-05 20:30")), "what comes afterwards waits")
	assert.Equal(t, "05 21:00", due(60, message.Before, message.Meeting{Span: meeting("2026-05-05 22:00").Span, State: life.Booked, ClientZone: halifax}), "none are set")
	noon := meeting("2026-05-05 14:00")
	noon.Quiet = message.Quiet{From: "12:00", Until: "13:30"}
	assert.Equal(t, "05 11:59", due(60, message.Before, noon))
	for _, wrong := range []message.Quiet{{From: "21:00"}, {From: "9pm", Until: "08:00"}, {From: "08:00", Until: "08:00"}} {
		assert.True(t, wrong.Fault().Any())
	}
	assert.False(t, message.Quiet{}.Fault().Any())
}

// Whatever the quiet hours are: no text goes out in them, or after the start of what it reminds of, and none is overlooked.
func TestNoTextIsSentInQuietHours(t *testing.T) {
	clocks := []string{"00:00", "07:00", "08:30", "12:00", "21:00", "23:59"}
	zone := zoneOf(t, "Europe/Lisbon")
	rapid.Check(t, func(t *rapid.T) {
		start := span.Instant(rapid.Int64Range(1_767_225_600, 1_798_761_600).Draw(t, "start"))
		q := message.Quiet{From: rapid.SampledFrom(clocks).Draw(t, "from"), Until: rapid.SampledFrom(clocks).Draw(t, "until"), Later: rapid.Bool().Draw(t, "later")}
		if q.Fault().Any() {
			return
		}
		m := message.Meeting{Span: span.Span{Start: start, End: start.Add(time.Hour)}, State: life.Booked, Texts: true, ClientZone: zone, Quiet: q}
		r := message.Rule{Receiver: message.ToClient, By: message.ByText, Minutes: rapid.IntRange(1, 4000).Draw(t, "minutes"), Side: rapid.SampledFrom([]string{message.Before, message.After}).Draw(t, "side"), If: message.Always}
		at, some := r.Due(m)
		if !some {
			return
		}
		clock := at.Time().In(zone).Format("15:04")
		quiet := q.From <= clock && clock < q.Until
		if q.From > q.Until {
			quiet = clock >= q.From || clock < q.Until
		}
		marked := start
		if r.Side == message.After {
			marked = m.Span.End
		}
		if quiet || r.Side == message.Before && at >= start || !r.DueWithin(span.Span{Start: at, End: at + 1}).Holds(marked) {
			t.Fatalf("%+v with %+v goes out at %s", r, q, at)
		}
	})
}
