package invite_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/invite"
	"corrim/core/span"
)

func object(lines ...string) []byte {
	return []byte("BEGIN:VCALENDAR\r\nPRODID:-//Example/ExampleCalendarClient//EN\r\nVERSION:2.0\r\n" + strings.Join(lines, "\r\n") + "\r\nEND:VCALENDAR\r\n")
}

// After RFC 5546, 4.2.2 (reply to a request) and 4.2.4 (countering a proposal), from memory.
func TestAnswersToInvitationsAreRead(t *testing.T) {
	reply := object("METHOD:REPLY", "BEGIN:VEVENT", "ATTENDEE;PARTSTAT=ACCEPTED:mailto:b@example.com", "ORGANIZER:mailto:a@example.com",
		"UID:calsrv.example.com-873970198738777@example.com", "SEQUENCE:0", "REQUEST-STATUS:2.0;Success", "DTSTAMP:19970612T190000Z", "END:VEVENT")
	got, err := invite.ReadReply(reply)
	require.NoError(t, err)
	assert.Equal(t, invite.Reply{UID: "calsrv.example.com-873970198738777@example.com", From: []string{"b@example.com"}, Answer: invite.Accepted}, got)

	counter := object("METHOD:COUNTER", "BEGIN:VEVENT", "ORGANIZER:mailto:a@example.com", "ATTENDEE;ROLE=CHAIR;PARTSTAT=ACCEPTED:mailto:a@example.com",
		"DTSTART:19970701T160000Z", "DTEND:19970701T190000Z", "UID:guid-1@example.com", "SUMMARY:Discuss the Merits of the election results", "SEQUENCE:2",
		"COMMENT:This time works much better and I think the big\r\n  conference room is too big", "DTSTAMP:19970615T190000Z", "END:VEVENT")
	got, err = invite.ReadReply(counter)
	require.NoError(t, err)
	assert.Equal(t, invite.Wished, got.Answer)
	assert.Equal(t, span.At(time.Date(1997, 7, 1, 16, 0, 0, 0, time.UTC)), got.Start)
	assert.Equal(t, 2, got.Sequence)
	assert.Equal(t, "This time works much better and I think the big conference room is too big", got.Comment)
}

func TestAnswersOfManyProgramsAreReadAndOthersRefused(t *testing.T) {
	answer := func(attendee, start string) []byte {
		return object("METHOD:REPLY", "BEGIN:VEVENT", attendee, "UID:one@corrim", "DTSTAMP:20260504T080000Z", start, "END:VEVENT")
	}
	for text, want := range map[string]invite.Answer{
		`ATTENDEE;CN="Zoë; K.";PARTSTAT=declined:MAILTO:Keeper@Harbour.example`: invite.Declined,
		"ATTENDEE;PARTSTAT=ACCEPTED:keeper@harbour.example":                     invite.Accepted,
		"ATTENDEE;PARTSTAT=TENTATIVE:mailto:keeper@harbour.example":             "",
		"ATTENDEE:mailto:keeper@harbour.example":                                "",
	} {
		got, err := invite.ReadReply(answer(text, "DTSTART;TZID=Europe/Lisbon:20260505T100000"))
		require.NoError(t, err, text)
		assert.Equal(t, want, got.Answer, text)
		assert.Equal(t, []string{"keeper@harbour.example"}, got.From, text)
		assert.Equal(t, span.At(time.Date(2026, 5, 5, 9, 0, 0, 0, time.UTC)), got.Start, text)
	}
	for _, start := range []string{"DTSTART:20260505T100000", "DTSTART;TZID=Studio time:20260505T100000", "SUMMARY:No start"} {
		got, err := invite.ReadReply(answer("ATTENDEE;PARTSTAT=ACCEPTED:mailto:k@x.example", start))
		require.NoError(t, err, start)
		assert.Zero(t, got.Start, start)
	}
	// A zone of the program's own, and a Windows name (CLDR).
	own := []string{"BEGIN:VTIMEZONE", "TZID:Studio time", "BEGIN:STANDARD", "DTSTART:19700101T000000", "TZOFFSETFROM:+0500", "TZOFFSETTO:+0500", "END:STANDARD", "END:VTIMEZONE"}
	for tzid, hour := range map[string]int{"Studio time": 5, "W. Europe Standard Time": 8} {
		wish := object(append([]string{"METHOD:COUNTER"}, append(own, "BEGIN:VEVENT", "ATTENDEE:mailto:k@x.example", "UID:one@corrim", "DTSTAMP:20260504T080000Z", "DTSTART;TZID="+tzid+":20260505T100000", "END:VEVENT")...)...)
		got, err := invite.ReadReply(append([]byte("\ufeff"), wish...))
		require.NoError(t, err, tzid)
		assert.Equal(t, invite.Wished, got.Answer)
		assert.Equal(t, span.At(time.Date(2026, 5, 5, hour, 0, 0, 0, time.UTC)), got.Start, tzid)
	}
	for _, text := range [][]byte{
		[]byte("BEGIN:VCALENDAR\r\nMETHOD:REPLY\r\n0;0=\r\nEND:VCALENDAR\r\n"), []byte("0;0="), // which the library panics at
		nil, []byte("BEGIN:VCALENDAR"), object("METHOD:REQUEST", "BEGIN:VEVENT", "UID:one", "DTSTAMP:20260504T080000Z", "END:VEVENT"),
		object("METHOD:REPLY"), answer("SUMMARY:Nobody", "LOCATION:Nowhere"),
	} {
		_, err := invite.ReadReply(text)
		assert.Error(t, err, string(text))
	}
}
