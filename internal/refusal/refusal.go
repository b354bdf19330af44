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

// said is what a refusal is given in: what clients may be told, or, for people of the workspace only, a sentence without a code.
type said interface{ string | told.Words }

func inWords[S said](s S) told.Words {
	switch s := any(s).(type) {
	case told.Words:
		return s
	case string:
		return told.Words{Sentence: s}
	}
	return told.Words{}
}

// New is a refusal of a kind.
func New[S said](kind Kind, s S) *Refusal { return &Refusal{Kind: kind, Words: inWords(s)} }

// Faulty refuses what was entered in one field.
func Faulty[S said](field string, s S) error {
	wrong := Complaints{}
	wrong.Tell(field, inWords(s))
	return wrong.Err()
}

// Complaints gathers what is wrong with the fields of a form.
type Complaints map[string]told.Words

// Add complains about a field, to people of the workspace.
func (c Complaints) Add(field, sentence string) { c.Tell(field, inWords(sentence)) }

// Tell complains about a field; what was said of it first stays.
func (c Complaints) Tell(field string, words told.Words) {
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
