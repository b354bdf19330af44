// Package share is prepared links: what a link to a meeting type's page chooses and fills in. They are written and read here alone;
// whatever such a link says beside what is known here is left out.
package share

import (
	"maps"
	"net/url"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"corrim/core/civil"
	"corrim/core/intake"
)

// Link is what a prepared link says. What is empty is left to the client.
type Link struct {
	Minutes  int    `json:"minutes,omitempty" doc:"The length."`
	With     string `json:"with,omitempty" doc:"The short name of a host."`
	Way      string `json:"way,omitempty" doc:"Of meeting: its ID."`
	Language string `json:"language,omitempty" doc:"As in BCP 47."`
	Day      string `json:"day,omitempty" doc:"To begin with, like 2026-12-04."`
	Colour   string `json:"colour,omitempty" doc:"Of what can be pressed, like #0b5a5e."`
	Via      string `json:"via,omitempty" doc:"The key of a link that was given a name."`

	Asked map[string]string `json:"asked,omitempty" doc:"Answers to what decides who takes it, by attribute."`
	Said  intake.Given      `json:"said,omitempty" doc:"Answers to the form's questions, by their IDs."`

	Name   string `json:"name,omitempty"`
	Mail   string `json:"mail,omitempty"`
	Remark string `json:"remark,omitempty"`
	Given  string `json:"given,omitempty" doc:"What the way of meeting needs."`
	Guests string `json:"guests,omitempty"`
}

// The parameters of a link's address. Those of answers end in what is answered.
const (
	askedPrefix = "a."
	saidPrefix  = "q."
)

// texts are the parameters that are one text each.
func (l *Link) texts() map[string]*string {
	return map[string]*string{
		"with": &l.With, "way": &l.Way, "language": &l.Language, "via": &l.Via,
		"name": &l.Name, "mail": &l.Mail, "remark": &l.Remark, "given": &l.Given, "guests": &l.Guests,
	}
}

// Longest is how long the address of a link gets, in letters, without what stands before its question mark. Programs that links are
// pasted into take 2,000 and more (common practice); pages themselves much more.
const Longest = 8000

var colourPattern = regexp.MustCompile(`^#[0-9a-f]{6}$`)

// Parse reads the parameters of an address. What can't be meant is left out, and so is whatever goes beyond Longest.
func Parse(values url.Values) Link {
	l := Link{Asked: map[string]string{}, Said: intake.Given{}}
	room := Longest
	take := func(value string) string {
		value = intake.AsWritten(value)
		if room -= len(value); room < 0 {
			return ""
		}
		return value
	}
	for name, field := range l.texts() {
		*field = take(values.Get(name))
	}
	if minutes, err := strconv.Atoi(values.Get("length")); err == nil && minutes > 0 && minutes <= 24*60 {
		l.Minutes = minutes
	}
	if _, err := civil.ParseDate(values.Get("day")); err == nil {
		l.Day = values.Get("day")
	}
	if colour := strings.ToLower(values.Get("colour")); colourPattern.MatchString(colour) {
		l.Colour = colour
	}
	for _, name := range slices.Sorted(maps.Keys(values)) {
		if attribute, is := strings.CutPrefix(name, askedPrefix); is && attribute != "" {
			if value := take(values.Get(name)); value != "" {
				l.Asked[attribute] = value
			}
		}
		if id, is := strings.CutPrefix(name, saidPrefix); is && id != "" {
			for _, value := range values[name] {
				if value = take(value); value != "" {
					l.Said[id] = append(l.Said[id], value)
				}
			}
		}
	}
	return l
}

// ParseQuery reads what stands behind an address's question mark; of one that is broken, what can be read.
func ParseQuery(query string) Link {
	values, _ := url.ParseQuery(strings.TrimPrefix(query, "?"))
	return Parse(values)
}

// Values is the link's parameters.
func (l Link) Values() url.Values {
	values := url.Values{}
	set := func(name, value string) {
		if value != "" && utf8.ValidString(value) {
			values.Add(name, value)
		}
	}
	for name, field := range l.texts() {
		set(name, *field)
	}
	if l.Minutes > 0 {
		set("length", strconv.Itoa(l.Minutes))
	}
	set("day", l.Day)
	set("colour", l.Colour)
	for attribute, value := range l.Asked {
		set(askedPrefix+attribute, value)
	}
	for id, answers := range l.Said {
		for _, value := range answers {
			set(saidPrefix+id, value)
		}
	}
	return values
}

// Query is what stands behind the address's question mark, always in the same order.
func (l Link) Query() string { return l.Values().Encode() }

// Over is the link with what another one says in its place.
func (l Link) Over(other Link) Link {
	values := l.Values()
	maps.Copy(values, other.Values())
	return Parse(values)
}
