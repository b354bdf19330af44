package share

import (
	"cmp"
	"maps"
	"slices"
	"strconv"
	"strings"

	"corrim/core/intake"
)

// Page is what a meeting type's page lets a client choose and answer.
type Page struct {
	Lengths   []int               // in minutes
	Hosts     []string            // short names of those to choose among
	Ways      []string            // IDs of the ways of meeting
	Languages []string            // BCP 47
	Asks      map[string][]string // what decides who takes it: the answers there are, by attribute
	Questions []intake.Question
	Region    string // where phone numbers without a country code belong (ISO 3166)
}

// Misfit is something that a link says and its page has no place for.
type Misfit struct {
	What  string // the question's words, or what else it is: length, host, way, language
	Value string
}

// Fit keeps of a link what the page has a place for, and names the rest: types change, and links are printed.
func (l Link) Fit(page Page) (Link, []Misfit) {
	var misfits []Misfit
	misfit := func(what, value string) { misfits = append(misfits, Misfit{what, value}) }
	if l.Minutes != 0 && !slices.Contains(page.Lengths, l.Minutes) {
		misfit("length", strconv.Itoa(l.Minutes))
		l.Minutes = 0
	}
	for _, choice := range []struct {
		what  string
		value *string
		of    []string
	}{{"host", &l.With, page.Hosts}, {"way", &l.Way, page.Ways}, {"language", &l.Language, page.Languages}} {
		if *choice.value != "" && !slices.Contains(choice.of, *choice.value) {
			misfit(choice.what, *choice.value)
			*choice.value = ""
		}
	}
	asked := map[string]string{}
	for _, attribute := range slices.Sorted(maps.Keys(l.Asked)) {
		if value := l.Asked[attribute]; slices.Contains(page.Asks[attribute], value) {
			asked[attribute] = value
		} else {
			misfit(attribute, value)
		}
	}
	l.Asked = asked
	l.Said, misfits = fitting(l.Said, page, misfits)
	return l, misfits
}

// fitting keeps the answers that their questions take.
func fitting(said intake.Given, page Page, misfits []Misfit) (intake.Given, []Misfit) {
	kept := intake.Given{}
	for _, id := range slices.Sorted(maps.Keys(said)) {
		i := slices.IndexFunc(page.Questions, func(q intake.Question) bool { return q.ID == id })
		if i < 0 {
			misfits = append(misfits, Misfit{id, strings.Join(said[id], ", ")})
			continue
		}
		q := page.Questions[i]
		for _, value := range said[id] {
			if !takes(q, value, page.Region) {
				misfits = append(misfits, Misfit{cmp.Or(q.Label, id), value})
			} else {
				kept[id] = append(kept[id], value)
			}
		}
	}
	return kept, misfits
}

// takes tells whether a question could be answered with a value: not a file, and nothing that is agreed to, which are the client's to give.
func takes(q intake.Question, value, region string) bool {
	if q.Kind == intake.File || q.Kind == intake.Terms {
		return false
	}
	q.When = nil
	_, wrong := intake.Check([]intake.Question{q}, intake.Given{q.ID: {value}}, region)
	return len(wrong) == 0
}
