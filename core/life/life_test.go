package life_test

import (
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"corrim/core/life"
)

func TestWhatCanHappenToABooking(t *testing.T) {
	for _, one := range []struct {
		from  life.State
		event life.Event
		by    life.Actor
		begun bool
		to    life.State // empty: refused
	}{
		{life.None, life.Book, life.Client, false, life.Booked},
		{life.None, life.Book, life.Client, true, ""},
		{life.Requested, life.Approve, life.Host, false, life.Booked},
		{life.Requested, life.Approve, life.Client, false, ""},
		{life.Requested, life.Approve, life.Host, true, ""},
		{life.Requested, life.Expire, life.Clock, true, life.Expired},
		{life.Requested, life.Take, life.Client, true, life.Booked},
		{life.Booked, life.Expire, life.Clock, false, ""},
		{life.Booked, life.Move, life.Client, true, ""},
		{life.Booked, life.Attend, life.Host, true, life.Attended},
		{life.Booked, life.Attend, life.Host, false, ""},
		{life.NoShow, life.Attend, life.Host, true, life.Attended},
		{life.Cancelled, life.Cancel, life.Client, false, ""},
		{life.Declined, life.Move, life.Client, false, ""},
		{life.Unproved, life.Move, life.Client, false, ""},
	} {
		to, err := life.Next(one.from, one.event, one.by, one.begun)
		if one.to == "" {
			var refused *life.Refused
			require.ErrorAs(t, err, &refused, one)
			assert.Equal(t, one.from, to, "it stays where it is")
			assert.Equal(t, one.from, refused.From)
			continue
		}
		require.NoError(t, err, one)
		assert.Equal(t, one.to, to, one)
	}
	_, err := life.Next(life.Booked, life.Move, life.Client, true)
	var refused *life.Refused
	require.ErrorAs(t, err, &refused)
	assert.True(t, refused.Begun, "it tells that only the time is in the way")
}

// Whatever happens, in any order: what has ended stays ended and keeps no time.
func TestWhatHasEndedStaysEnded(t *testing.T) {
	events := []life.Event{life.Hold, life.Request, life.Book, life.Approve, life.Decline, life.Propose, life.Take, life.Expire, life.Move, life.Reassign, life.Ask, life.Cancel, life.Attend, life.Miss, life.Unmark}
	actors := []life.Actor{life.Client, life.Host, life.Clock}
	rapid.Check(t, func(t *rapid.T) {
		state, ended := life.None, false
		for range rapid.IntRange(1, 30).Draw(t, "steps") {
			next, err := life.Next(state, rapid.SampledFrom(events).Draw(t, "event"), rapid.SampledFrom(actors).Draw(t, "by"), rapid.Bool().Draw(t, "begun"))
			if err == nil && ended {
				t.Fatalf("%s has ended, and became %s", state, next)
			}
			state = next
			ended = state == life.Cancelled || state == life.Declined || state == life.Expired
			if ended && state.Keeps() {
				t.Fatalf("%s keeps its time", state)
			}
		}
	})
}

func TestTheDocumentedDiagramIsTheTable(t *testing.T) {
	text, err := os.ReadFile("../../docs/booking-life.md")
	require.NoError(t, err)
	assert.True(t, strings.Contains(string(text), life.Diagram()), "put this into docs/booking-life.md:\n%s", life.Diagram())
}
