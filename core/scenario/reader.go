package scenario

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

// Error is a refusal of a scenario: where, and what is wrong there.
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

// reader reads JSON strictly, keeping the first refusal; after it everything is read as empty.
type reader struct{ err error }

// node is a value and where it stands.
type node struct {
	*reader
	place string
	raw   json.RawMessage
}

func (r *reader) refuse(place, format string, args ...any) {
	if r.err == nil {
		r.err = &Error{place, fmt.Sprintf(format, args...)}
	}
}

func (n node) refuse(format string, args ...any) { n.reader.refuse(n.place, format, args...) }

// rootOf checks that the text is one JSON value and returns it.
func (r *reader) rootOf(text []byte) node {
	if err := json.Unmarshal(text, new(any)); err != nil {
		var syntax *json.SyntaxError
		if errors.As(err, &syntax) {
			line := 1 + bytes.Count(text[:min(int(syntax.Offset), len(text))], []byte("\n"))
			r.refuse("", "line %d is not JSON: %v", line, err)
		} else {
			r.refuse("", "this is not JSON: %v", err)
		}
	}
	return node{r, "", text}
}

// given tells whether the value is there.
func (n node) given() bool { return n.raw != nil }

// fields reads an object that may have only the named keys; those not there come back as nodes that are not given.
func (n node) fields(names ...string) map[string]node {
	out := make(map[string]node, len(names))
	at := func(name string) string { return strings.TrimPrefix(n.place+"."+name, ".") }
	for _, name := range names {
		out[name] = node{n.reader, at(name), nil}
	}
	if !n.given() || n.err != nil {
		return out
	}
	var found map[string]json.RawMessage
	if err := json.Unmarshal(n.raw, &found); err != nil || found == nil {
		n.refuse("an object in braces is expected")
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
		out[key] = node{n.reader, at(key), found[key]}
	}
	return out
}

func (n node) list() []node {
	var found []json.RawMessage
	if !n.given() || n.err != nil {
		return nil
	}
	if err := json.Unmarshal(n.raw, &found); err != nil || found == nil {
		n.refuse("a list in brackets is expected")
	}
	out := make([]node, len(found))
	for i, raw := range found {
		out[i] = node{n.reader, fmt.Sprintf("%s[%d]", n.place, i), raw}
	}
	return out
}

// value decodes a scalar; null is none.
func value[T any](n node, what string, otherwise T) T {
	out := otherwise
	if !n.given() || n.err != nil {
		return out
	}
	if err := json.Unmarshal(n.raw, &out); err != nil || string(n.raw) == "null" {
		n.refuse("%s is expected", what)
		return otherwise
	}
	return out
}

func (n node) text() string { return value(n, "a text in quotes", "") }

func (n node) flag(otherwise bool) bool { return value(n, "true or false", otherwise) }

func (n node) number(otherwise, low, high int) int {
	out := value(n, "a whole number", otherwise)
	if n.given() && (out < low || out > high) {
		n.refuse("%d is not between %d and %d", out, low, high)
	}
	return out
}

// required refuses if the value is missing.
func (n node) required() node {
	if !n.given() {
		n.refuse("this is required")
	}
	return n
}

// choice reads one of several words.
func choice[T any](n node, otherwise T, words map[string]T) T {
	if !n.given() {
		return otherwise
	}
	word := n.text()
	chosen, ok := words[word]
	if !ok {
		known := make([]string, 0, len(words))
		for w := range words {
			known = append(known, w)
		}
		slices.Sort(known)
		n.refuse("%q is not one of %s", word, strings.Join(known, ", "))
	}
	return chosen
}

func (n node) instant() span.Instant {
	text := n.text()
	t, err := time.Parse(time.RFC3339, text)
	if err != nil {
		n.refuse("%q is not an instant like 2026-05-05T09:30:00Z", text)
	}
	return span.At(t)
}

func (n node) date() civil.Date {
	d, err := civil.ParseDate(n.text())
	if err != nil {
		n.refuse("%v", err)
	}
	return d
}

// clock reads a local date and time like 2026-05-07T13:00.
func (n node) clock() civil.Clock {
	text := n.text()
	for _, layout := range []string{"2006-01-02T15:04", "2006-01-02T15:04:05"} {
		if t, err := time.Parse(layout, text); err == nil {
			return civil.FromUTC(t)
		}
	}
	n.refuse("%q is not a local date and time like 2026-05-07T13:00", text)
	return civil.Clock{}
}

func (n node) zone() *time.Location {
	zone, err := civil.LoadZone(n.text())
	if err != nil {
		n.refuse("%v", err)
		return time.UTC
	}
	return zone
}

// one refuses unless exactly one of the fields is given, and returns its name.
func one(n node, f map[string]node, names ...string) string {
	var given []string
	for _, name := range names {
		if f[name].given() {
			given = append(given, name)
		}
	}
	if len(given) != 1 {
		n.refuse("exactly one of %s is expected", strings.Join(names, ", "))
		return ""
	}
	return given[0]
}
