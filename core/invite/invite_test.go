package invite_test

import (
	"bytes"
	"strings"
	"testing"

	"github.com/emersion/go-ical"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/busy"
	"corrim/core/invite"
	"corrim/core/life"
	"corrim/core/span"
)

func meeting() invite.Meeting {
	return invite.Meeting{
		UID: "1@corrim", Sequence: 2, Stamp: 1_777_000_000, When: span.Span{Start: 1_778_000_400, End: 1_778_003_400},
		Title: "Survey; two rooms, one lamp: Café", Text: "What: Survey\nRemark: \"très fragile\" " + strings.Repeat("été ", 40), JoinURL: "https://rooms.example/r/X?a=1;b,c",
		Host: invite.Party{Name: `Ines "Lux" Valadares, Lisbon`, Mail: "ines@quillmere.example"}, Client: invite.Party{Name: "Harbour\r\nBCC: x@y.example", Mail: "keeper@harbour.example"},
	}
}

// decoded reads the text with a library that had no part in folding it.
func decoded(t *testing.T, text []byte) (*ical.Calendar, *ical.Component) {
	t.Helper()
	calendar, err := ical.NewDecoder(bytes.NewReader(text)).Decode()
	require.NoError(t, err)
	require.Len(t, calendar.Children, 1)
	return calendar, calendar.Children[0]
}

func TestAnInvitationHoldsEverythingAndReadsBack(t *testing.T) {
	text, err := meeting().Invitation()
	require.NoError(t, err)
	calendar, event := decoded(t, text)
	value := func(name string) string {
		s, err := event.Props.Text(name)
		require.NoError(t, err)
		return s
	}
	assert.Equal(t, "REQUEST", calendar.Props.Get(ical.PropMethod).Value)
	assert.Equal(t, meeting().Title, value(ical.PropSummary))
	assert.Equal(t, meeting().Text, value(ical.PropDescription))
	assert.Equal(t, meeting().JoinURL, value(ical.PropLocation))
	assert.Equal(t, meeting().JoinURL, event.Props.Get("CONFERENCE").Value, "RFC 7986, 5.11: a URI is not escaped")
	assert.Equal(t, "VIDEO", event.Props.Get("CONFERENCE").Params.Get("FEATURE"))
	assert.Equal(t, "2", event.Props.Get(ical.PropSequence).Value)
	assert.Equal(t, "CONFIRMED", event.Props.Get(ical.PropStatus).Value)
	assert.Equal(t, "mailto:ines@quillmere.example", event.Props.Get(ical.PropOrganizer).Value)
	client := event.Props.Get(ical.PropAttendee)
	assert.Equal(t, "mailto:keeper@harbour.example", client.Value)
	assert.Equal(t, "HarbourBCC: x@y.example", client.Params.Get("CN"), "a name can't begin a line of its own")
	read, err := busy.Read(text, busy.Options{})
	require.NoError(t, err)
	found, troubles := read.Busy(span.Span{Start: 1_777_000_000, End: 1_779_000_000})
	assert.Empty(t, troubles)
	require.Len(t, found, 1)
	assert.Equal(t, meeting().When, found[0].Span)
}

func TestLinesAreFoldedAt75OctetsNeverWithinACharacter(t *testing.T) {
	text, err := meeting().Invitation()
	require.NoError(t, err)
	for line := range bytes.Lines(text) {
		assert.True(t, bytes.HasSuffix(line, []byte("\r\n")))
		assert.LessOrEqual(t, len(line)-2, 75, "RFC 5545, 3.1")
		assert.NotContains(t, string(line), "\uFFFD")
		assert.Equal(t, string(line), strings.ToValidUTF8(string(line), "?"))
	}
}

func TestWhoStandsInWhichText(t *testing.T) {
	cancelled := meeting()
	cancelled.Standing, cancelled.JoinURL = life.Withdrawn, ""
	text, err := cancelled.Invitation()
	require.NoError(t, err)
	calendar, event := decoded(t, text)
	assert.Equal(t, "CANCEL", calendar.Props.Get(ical.PropMethod).Value, "RFC 5546, 3.2.5")
	assert.Equal(t, "CANCELLED", event.Props.Get(ical.PropStatus).Value)
	assert.Nil(t, event.Props.Get("CONFERENCE"))

	text, err = meeting().Event()
	require.NoError(t, err)
	calendar, event = decoded(t, text)
	assert.Nil(t, calendar.Props.Get(ical.PropMethod), "RFC 4791, 4.1: no method in a calendar collection")
	assert.Nil(t, event.Props.Get(ical.PropAttendee), "a scheduling server would invite the client once more")

	text, err = invite.File(meeting())
	require.NoError(t, err)
	calendar, event = decoded(t, text)
	assert.Equal(t, "PUBLISH", calendar.Props.Get(ical.PropMethod).Value)
	assert.Nil(t, event.Props.Get(ical.PropAttendee), "RFC 5546, 3.2.1: a published event has no attendees")
	assert.Equal(t, meeting().UID, event.Props.Get(ical.PropUID).Value)
}

// RFC 6868, 3.1, from memory: ATTENDEE;CN=George Herman ^'Babe^' Ruth:mailto:babe@example.com
func TestQuotesInNamesAreWrittenAsCarets(t *testing.T) {
	m := meeting()
	m.Client.Name = `George Herman "Babe" Ruth`
	text, err := m.Invitation()
	require.NoError(t, err)
	assert.Contains(t, strings.ReplaceAll(string(text), "\r\n ", ""), "CN=George Herman ^'Babe^' Ruth;")
	m.Client.Name = "Up ^ down"
	text, err = m.Invitation()
	require.NoError(t, err)
	assert.Contains(t, string(text), "CN=Up ^^ down;")
}
