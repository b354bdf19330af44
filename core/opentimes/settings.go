package opentimes

import (
	"reflect"
	"slices"
	"strings"

	"corrim/core/told"
)

// group is rules that are set together: a part of BookingRules.
type group interface {
	// group is its name, and the rule that tells of it on screens.
	group() (string, Rule)
	// check complains of each value that makes no sense, by its field, with what to do.
	check(complain func(field string, words told.Words))
	// apply sets the type accordingly. Faulty values must have been refused before.
	apply(t *Type)
	// example draws what it does on a made-up day, and says it.
	example(e *Example)
}

// Group is rules that are set together, as screens need to know of them.
type Group struct {
	Name   string     `json:"name" doc:"What a type's follows names it by."`
	Fields []string   `json:"fields" doc:"Of the rules."`
	Note   told.Words `json:"note" doc:"How it is set, in a few words."`
}

// groups are the parts of the rules.
func (r *BookingRules) groups() []group {
	parts := reflect.ValueOf(r).Elem()
	out := make([]group, parts.NumField())
	for i := range out {
		out[i], _ = parts.Field(i).Addr().Interface().(group)
	}
	return out
}

// Check complains of each value that makes no sense, by its field, with what to do.
func (r BookingRules) Check(complain func(field string, words told.Words)) {
	for _, g := range r.groups() {
		g.check(complain)
	}
}

// Timing is the rules as they are computed with. Faulty ones must have been refused by Check.
func (r BookingRules) Timing() (t Type) {
	for _, g := range r.groups() {
		g.apply(&t)
	}
	return t
}

// Follow takes over some groups of other rules, by their names. What is no group is left out.
func (r *BookingRules) Follow(names []string, of BookingRules) {
	theirs := of.groups()
	for i, g := range r.groups() {
		if name, _ := g.group(); slices.Contains(names, name) {
			reflect.ValueOf(g).Elem().Set(reflect.ValueOf(theirs[i]).Elem())
		}
	}
}

// NoGroups is those of some names that are not names of groups.
func (r BookingRules) NoGroups(names []string) []string {
	groups := r.groups()
	return slices.DeleteFunc(slices.Clone(names), func(name string) bool {
		return slices.ContainsFunc(groups, func(g group) bool { known, _ := g.group(); return known == name })
	})
}

// Groups tells of all groups, in the order in which they are set.
func (r BookingRules) Groups() (out []Group) {
	t := r.Timing()
	for _, g := range r.groups() {
		name, rule := g.group()
		one := Group{Name: name, Note: rule.Note(t)}
		fields := reflect.TypeOf(g).Elem()
		for i := range fields.NumField() {
			name, _, _ := strings.Cut(fields.Field(i).Tag.Get("json"), ",")
			one.Fields = append(one.Fields, name)
		}
		out = append(out, one)
	}
	return out
}

// PlainRules are rules without more than what every type has: a buffer after, a step, a notice in minutes and a window in days.
func PlainRules(after, step, notice, days int) (r BookingRules) {
	r.After, r.Step, r.Notice, r.WindowDays = after, step, notice, days
	return r
}

// Notes says each group in a few words, by its name.
func (r BookingRules) Notes() map[string]told.Words {
	notes := map[string]told.Words{}
	for _, g := range r.Groups() {
		notes[g.Name] = g.Note
	}
	return notes
}

// between complains of a value outside bounds.
func between(complain func(field string, words told.Words), field string, value, low, high int, words told.Words) {
	if value < low || value > high {
		complain(field, words)
	}
}

// The bounds of what makes sense; the same are told to whoever enters something else.
const (
	longestGap = 24 * 60 // minutes
	farthest   = 730     // days
)
