// Package refusal says no: why a request can't be done, in sentences that people can act on.
package refusal

import (
	"time"

	"corrim/core/told"
)

// Kind says what sort of refusal it is; the API gives each its status and a stable problem type.
type Kind string

// The kinds of refusals.
const (
	Invalid     Kind = "invalid-input"
	NotFound    Kind = "not-found"
	NotSignedIn Kind = "not-signed-in"
	Unsure      Kind = "confirm-identity" // the password is to be entered once more first
	Taken       Kind = "time-taken"
	Over        Kind = "over"
	Unreachable Kind = "calendar-unreachable"
	Forbidden   Kind = "forbidden"
	Conflict    Kind = "changed-meanwhile" // to be looked at, then sent again
	TooMany     Kind = "too-many-requests"
	TooLarge    Kind = "too-large"
	NothingOpen Kind = "nothing-open" // to be accepted first
	Busy        Kind = "busy"         // too much is asked for at once; to be sent again

	// OutsideRules is a booking by hand at a time that is not open; to be accepted first.
	OutsideRules Kind = "outside-rules"
)

// Refusal is why a request can't be done, in a sentence that a person can act on.
type Refusal struct {
	Kind Kind
	told.Words
	Fields  map[string]told.Words // by field, where the fault lies in what was entered
	Nearest []time.Time           // for a taken time: open ones around it
}

func (r *Refusal) Error() string { return r.Sentence }

// New is a refusal of a kind.
func New(kind Kind, words told.Words) *Refusal { return &Refusal{Kind: kind, Words: words} }

// Faulty refuses what was entered in one field.
func Faulty(field string, words told.Words) error {
	return Complaints{field: words}.Err()
}

// Complaints gathers what is wrong with the fields of a form.
type Complaints map[string]told.Words

// Add complains about a field; what was said of it first stays.
func (c Complaints) Add(field string, words told.Words) {
	if !c[field].Any() {
		c[field] = words
	}
}

// Sentences is what is wrong by field, in English.
func (c Complaints) Sentences() map[string]string {
	said := map[string]string{}
	for field, words := range c {
		said[field] = words.Sentence
	}
	return said
}

// Err is nil if there are none.
func (c Complaints) Err() error {
	if len(c) == 0 {
		return nil
	}
	return &Refusal{Kind: Invalid, Words: told.FaultyForm.Words(), Fields: c}
}
