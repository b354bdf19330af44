package app

import (
	"encoding"
	"os"
	"reflect"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/invite"
	"corrim/internal/schedule"
	"corrim/internal/settings"
)

// What stands in the database as JSON, in years of rows that nobody writes anew. Many of these types are also what the API speaks:
// whoever changes a name for its sake changes what is read of all that was stored before. A field that is added reads as its zero;
// one that is renamed, removed or of another type needs a migration, settings to be undone included. Then: STORED=1 go test -run Stored.
func TestStoredDocumentsStayAsTheyAre(t *testing.T) {
	const file = "testdata/stored.txt"
	documents := map[string]reflect.Type{
		"meeting_type.rules": reflect.TypeFor[schedule.TypeRules](), "meeting_type.routing": reflect.TypeFor[schedule.TypeRouting](), "meeting_type.offer": reflect.TypeFor[schedule.BookingPage](),
		"workspace.rules": reflect.TypeFor[schedule.Workspace]().Field(fieldOf[schedule.Workspace]("Rules")).Type, "workspace.front": reflect.TypeFor[schedule.Front](),
		"workspace.looks": reflect.TypeFor[schedule.Looks](), "workspace.holidays": reflect.TypeFor[schedule.Holidays](),
		"seat.said": reflect.TypeFor[schedule.FilledForm]().Field(fieldOf[schedule.FilledForm]("Said")).Type, "meeting.way": reflect.TypeFor[schedule.FilledForm]().Field(fieldOf[schedule.FilledForm]("Way")).Type,
		"meeting.room": reflect.TypeFor[Room](), "assignment.reason": reflect.TypeFor[schedule.Assigned](), "meeting_host.event_written": reflect.TypeFor[invite.Written](),
		"letter.sealed": reflect.TypeFor[Mail](), "one_off.rules": reflect.TypeFor[OneOffRules](),
		"workspace.messages": reflect.TypeFor[messageRules](), "meeting_type.messages": reflect.TypeFor[messageRules](),
	}
	a := &App{}
	a.history = a.undoable()
	settings.New(settings.Config{History: a.history}) // registers its own
	for subject, kind := range a.history {
		documents["setting_change.before of "+subject] = kind.Before
	}
	var lines []string
	for name, document := range documents {
		lines = append(lines, shape(name, document, nil)...)
	}
	slices.Sort(lines)
	now := strings.Join(lines, "\n") + "\n"
	if os.Getenv("STORED") != "" {
		require.NoError(t, os.WriteFile(file, []byte(now), 0o644))
	}
	kept, err := os.ReadFile(file)
	require.NoError(t, err)
	assert.Equal(t, string(kept), now)
}

func fieldOf[T any](name string) int {
	field, _ := reflect.TypeFor[T]().FieldByName(name)
	return field.Index[0]
}

// shape is a line for each value of a document: where it stands, and its kind.
func shape(at string, t reflect.Type, above []reflect.Type) []string {
	for t.Kind() == reflect.Pointer {
		t = t.Elem()
	}
	switch {
	case t == reflect.TypeFor[time.Time]() || t.Implements(reflect.TypeFor[encoding.TextMarshaler]()):
		return []string{at + " text"}
	case t.Kind() == reflect.Slice && t.Elem().Kind() == reflect.Uint8:
		return []string{at + " bytes"}
	case t.Kind() == reflect.Slice || t.Kind() == reflect.Array:
		return shape(at+"[]", t.Elem(), above)
	case t.Kind() == reflect.Map:
		return shape(at+"{"+t.Key().Kind().String()+"}", t.Elem(), above)
	case t.Kind() != reflect.Struct || slices.Contains(above, t):
		return []string{at + " " + t.Kind().String()}
	}
	var lines []string
	for field := range t.Fields() {
		name, _, _ := strings.Cut(field.Tag.Get("json"), ",")
		switch {
		case name == "-" || !field.IsExported() && !field.Anonymous:
		case field.Anonymous && name == "":
			lines = append(lines, shape(at, field.Type, append(above, t))...)
		default:
			if name == "" {
				name = field.Name
			}
			lines = append(lines, shape(at+"."+name, field.Type, append(above, t))...)
		}
	}
	return lines
}
