// Package strict reads JSON that people write by hand: an unknown key or a value that makes no sense is refused with the place where
// it stands. The first refusal is kept; after it everything is read as empty.
package strict

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"corrim/core/civil"
	"corrim/core/span"
)

// Error is a refusal: where, and what is wrong there.
type Error struct {
	Place   string // like hosts[0].week.tue; empty for the file as a whole
	Problem string
}

func (e *Error) Error() string {
	if e.Place == "" {
		return e.Problem
	}
	return e.Place + ": " + e.Problem
}

// reader keeps the first refusal.
type reader struct{ err error }

// Node is a value and where it stands.
type Node struct {
	*reader
	place string
	raw   json.RawMessage
}

func (r *reader) refuse(place, format string, args ...any) {
	if r.err == nil {
		r.err = &Error{place, fmt.Sprintf(format, args...)}
	}
}

// Refuse says what is wrong with the value. Only the first refusal of a text is kept.
func (n Node) Refuse(format string, args ...any) { n.reader.refuse(n.place, format, args...) }

// Err is the first refusal, an *Error; nil as long as there is none.
func (n Node) Err() error { return n.err }

// Path is where the value stands, like hosts[0].week.tue.
func (n Node) Path() string { return n.place }

// Root is the whole of a text, which has to be one JSON value.
func Root(text []byte) Node {
	r := &reader{}
	if err := json.Unmarshal(text, new(any)); err != nil {
		var syntax *json.SyntaxError
		if errors.As(err, &syntax) {
			line := 1 + bytes.Count(text[:min(int(syntax.Offset), len(text))], []byte("\n"))
			r.refuse("", "line %d is not JSON: %v", line, err)
		} else {
			r.refuse("", "this is not JSON: %v", err)
		}
	}
	return Node{r, "", text}
}

// Given tells whether the value is there.
func (n Node) Given() bool { return n.raw != nil }

// Fields reads an object that may have only the named keys; those not there come back as nodes that are not given.
func (n Node) Fields(names ...string) map[string]Node {
	out := make(map[string]Node, len(names))
	at := func(name string) string { return strings.TrimPrefix(n.place+"."+name, ".") }
	for _, name := range names {
		out[name] = Node{n.reader, at(name), nil}
	}
	if !n.Given() || n.err != nil {
		return out
	}
	var found map[string]json.RawMessage
	if err := json.Unmarshal(n.raw, &found); err != nil || found == nil {
		n.Refuse("an object in braces is expected")
		return out
	}
	keys := make([]string, 0, len(found))
	for key := range found {
		keys = append(keys, key)
	}
	slices.Sort(keys)
	for _, key := range keys {
		if !slices.Contains(names, key) {
			n.reader.refuse(at(key), "this key is not known; known here are %s", strings.Join(names, ", "))
			return out
		}
		out[key] = Node{n.reader, at(key), found[key]}
	}
	return out
}

// List reads an array; none is empty.
func (n Node) List() []Node {
	var found []json.RawMessage
	if !n.Given() || n.err != nil {
		return nil
	}
	if err := json.Unmarshal(n.raw, &found); err != nil || found == nil {
		n.Refuse("a list in brackets is expected")
	}
	out := make([]Node, len(found))
	for i, raw := range found {
		out[i] = Node{n.reader, fmt.Sprintf("%s[%d]", n.place, i), raw}
	}
	return out
}

// value decodes a scalar; null is none.
func value[T any](n Node, what string, otherwise T) T {
	out := otherwise
	if !n.Given() || n.err != nil {
		return out
	}
	if err := json.Unmarshal(n.raw, &out); err != nil || string(n.raw) == "null" {
		n.Refuse("%s is expected", what)
		return otherwise
	}
	return out
}

// Text reads a string; none is empty.
func (n Node) Text() string { return value(n, "a text in quotes", "") }

// Flag reads true or false.
func (n Node) Flag(otherwise bool) bool { return value(n, "true or false", otherwise) }

// Number reads a whole number between low and high.
func (n Node) Number(otherwise, low, high int) int {
	out := value(n, "a whole number", otherwise)
	if n.Given() && (out < low || out > high) {
		n.Refuse("%d is not between %d and %d", out, low, high)
	}
	return out
}

// Required refuses if the value is missing.
func (n Node) Required() Node {
	if !n.Given() {
		n.Refuse("this is required")
	}
	return n
}

// Choice reads one of several words.
func Choice[T any](n Node, otherwise T, words map[string]T) T {
	if !n.Given() {
		return otherwise
	}
	word := n.Text()
	chosen, ok := words[word]
	if !ok {
		known := make([]string, 0, len(words))
		for w := range words {
			known = append(known, w)
		}
		slices.Sort(known)
		n.Refuse("%q is not one of %s", word, strings.Join(known, ", "))
	}
	return chosen
}

// Instant reads a time with its offset (RFC 3339).
func (n Node) Instant() span.Instant {
	text := n.Text()
	t, err := time.Parse(time.RFC3339, text)
	if err != nil {
		n.Refuse("%q is not an instant like 2026-05-05T09:30:00Z", text)
	}
	return span.At(t)
}

// Date reads a date like 2026-05-07.
func (n Node) Date() civil.Date {
	d, err := civil.ParseDate(n.Text())
	if err != nil {
		n.Refuse("%v", err)
	}
	return d
}

// Clock reads a local date and time like 2026-05-07T13:00.
func (n Node) Clock() civil.Clock {
	text := n.Text()
	for _, layout := range []string{"2006-01-02T15:04", "2006-01-02T15:04:05"} {
		if t, err := time.Parse(layout, text); err == nil {
			return civil.FromUTC(t)
		}
	}
	n.Refuse("%q is not a local date and time like 2026-05-07T13:00", text)
	return civil.Clock{}
}

// Zone reads the name of a time zone (IANA).
func (n Node) Zone() *time.Location {
	zone, err := civil.LoadZone(n.Text())
	if err != nil {
		n.Refuse("%v", err)
		return time.UTC
	}
	return zone
}

// One refuses unless exactly one of the fields is given, and returns its name.
func One(n Node, f map[string]Node, names ...string) string {
	var given []string
	for _, name := range names {
		if f[name].Given() {
			given = append(given, name)
		}
	}
	if len(given) != 1 {
		n.Refuse("exactly one of %s is expected", strings.Join(names, ", "))
		return ""
	}
	return given[0]
}

// Word is the word that Choice reads a value from.
func Word[T comparable](words map[string]T, value T) string {
	for word, v := range words {
		if v == value {
			return word
		}
	}
	return ""
}
