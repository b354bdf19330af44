package app

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

func refuse[S said](kind Kind, s S) *Refusal { return &Refusal{Kind: kind, Words: inWords(s)} }

// faulty refuses what was entered in one field.
func faulty[S said](field string, s S) error {
	wrong := complaints{}
	wrong.tell(field, inWords(s))
	return wrong.err()
}

// complaints gathers what is wrong with the fields of a form.
type complaints map[string]told.Words

func (c complaints) add(field, sentence string) { c.tell(field, inWords(sentence)) }

func (c complaints) tell(field string, words told.Words) {
	if !c[field].Any() {
		c[field] = words
	}
}

// sentences is what is wrong by field, in English.
func (c complaints) sentences() map[string]string {
	said := map[string]string{}
	for field, words := range c {
		said[field] = words.Sentence
	}
	return said
}

// err is nil if there are none.
func (c complaints) err() error {
	if len(c) == 0 {
		return nil
	}
	return &Refusal{Kind: Invalid, Words: told.FaultyForm.Words(), Fields: c}
}
