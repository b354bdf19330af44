package app

import (
	"errors"
	"time"
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
	Kind     Kind
	Sentence string
	Fields   map[string]string // by field, where the fault lies in what was entered
	Nearest  []time.Time       // for a taken time: open ones around it
}

func (r *Refusal) Error() string { return r.Sentence }

// ErrChanged means that a calendar resource is not in the state it was expected in.
var ErrChanged = errors.New("the calendar entry was changed meanwhile")

// ErrReadOnly means that nothing may be written to a calendar.
var ErrReadOnly = errors.New("this calendar can only be read there, so the booking is not in it; choose another one that receives bookings")

func refuse(kind Kind, sentence string) *Refusal { return &Refusal{Kind: kind, Sentence: sentence} }

// complaints gathers what is wrong with the fields of a form.
type complaints map[string]string

func (c complaints) add(field, sentence string) {
	if c[field] == "" {
		c[field] = sentence
	}
}

// err is nil if there are none.
func (c complaints) err() error {
	if len(c) == 0 {
		return nil
	}
	return &Refusal{Kind: Invalid, Sentence: "Some of what was entered cannot be used; nothing was changed.", Fields: c}
}
