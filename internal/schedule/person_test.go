package schedule

import (
	"encoding/json"
	"reflect"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/hours"
	"corrim/internal/identity"
)

// People are sent in answers of the API as who they are: what their hours are worked out from stays here, whatever is added to it.
func TestAPersonIsSentWithoutTheirHours(t *testing.T) {
	p := Person{
		Person: identity.Person{ID: 7, Name: "Maren Holt"}, Home: Home{Workspace: Workspace{Name: "planted home"}}, Local: time.FixedZone("planted zone", 0),
		Own: [7]string{"planted week"}, PlanID: 4711, CalendarSettings: CalendarSettings{OpenTitle: "planted title"},
		Differs: []DayChange{{Label: "planted label"}}, Changes: []hours.Change{{}}, Off: []hours.TimeOff{{}},
	}
	for field := range reflect.TypeFor[Person]().NumField() {
		name := reflect.TypeFor[Person]().Field(field).Name
		if name != "Person" && name != "marked" && name != "Week" {
			assert.False(t, reflect.ValueOf(p).Field(field).IsZero(), "%s is planted too", name)
		}
	}
	whole, err := json.Marshal(p)
	require.NoError(t, err)
	who, err := json.Marshal(p.Person)
	require.NoError(t, err)
	assert.JSONEq(t, string(who), string(whole))
	assert.Contains(t, string(whole), "Maren Holt")
}

// A meeting type is sent without what finds its host: that is asked for by those who may change it.
func TestAMeetingTypeIsSentWithoutItsRouting(t *testing.T) {
	plain := MeetingType{ID: 3}
	full := plain
	full.HostID, full.Position, full.Routing, full.BookingPage = 4711, 4712, TypeRouting{Mode: "planted mode"}, BookingPage{Notes: "planted notes"}
	without, err := json.Marshal(plain)
	require.NoError(t, err)
	with, err := json.Marshal(full)
	require.NoError(t, err)
	assert.JSONEq(t, string(without), string(with))
}
