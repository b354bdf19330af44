package opentimes

import (
	"strings"

	"corrim/core/strict"
	"corrim/core/told"
)

// A Rule is a rule's name, the same in code, API, screens and tests.
type Rule string

// rules is the one place where a rule is entered. The last one is the grid, on which the others have no hold.
var rules = []rule{windowRule, noticeRule, hoursRule, holidayRule, busyRule, bookingRule, sessionsRule, seriesRule, seatsRule, limitRule, stepRule}

// BookingRules are the rules as people set them: a workspace for all its meeting types, and a type for itself where it doesn't
// follow. Lengths are in minutes. Each part is set, or followed, as a whole.
type BookingRules struct {
	BufferSettings
	StepSettings
	NoticeSettings
	WindowSettings
	LimitSettings
	HolidaySettings
	BusySettings
}

// rule is all there is to know of a rule.
type rule struct {
	name  Rule
	title told.Words                                    // for people
	takes takes                                         // what it refuses
	holds func(in Input, s Start, by Reader) told.Words // the sentence where it holds
	fails func(in Input, c Cause, by Reader) told.Words // the sentence for a cause why it doesn't
	note  func(t Type) told.Words                       // how it is set, in a few words
	short told.Words                                    // of a host whom it keeps from being open: "is busy"
	file  file                                          // how it stands in a scenario
	about func(t Type) bool                             // which types it has to do with; nil for all

	yields bool // to a session: its hosts have set it whatever this rule says
}

// refuse calls take for every stretch of starts that the rule refuses, sessions left out that it yields to.
func (r rule) refuse(q *query, take func(Take)) {
	if !r.yields || len(q.sessions) == 0 {
		r.takes(q, take)
		return
	}
	r.takes(q, func(t Take) { around(q.sessions, t, take) })
}

// takes calls take for every stretch of starts that a rule refuses.
type takes func(q *query, take func(Take))

// file is how a rule's settings stand in a scenario's type.
type file struct {
	keys  []string
	read  func(f map[string]strict.Node, t *Type)
	write func(t Type, out map[string]any)
}

// rulesOf are the rules that have to do with a type.
func rulesOf(t Type) []rule {
	out := make([]rule, 0, len(rules))
	for _, r := range rules {
		if r.about == nil || r.about(t) {
			out = append(out, r)
		}
	}
	return out
}

// of is what the table says of a rule.
func (r Rule) of() rule {
	for _, known := range rules {
		if known.name == r {
			return known
		}
	}
	return rule{name: r, title: told.Plain(string(r))}
}

// Title is the rule's name for people.
func (r Rule) Title() told.Words { return r.of().title }

// InSentence is its name inside a sentence.
func (r Rule) InSentence() told.Words {
	words := r.of().title
	words.Sentence = strings.ToLower(words.Sentence)
	return words
}

// Note is how the rule is set for a type, in a few words.
func (r Rule) Note(t Type) told.Words { return r.of().note(t) }

// Short says of a host what keeps them from being open: "is busy".
func (r Rule) Short() told.Words {
	if said := r.of().short; said.Any() {
		return said
	}
	return told.Say("short-not-open", "isn't open then")
}

// ReadRules reads the settings of all rules from a scenario's type; fields are those of FileKeys.
func ReadRules(f map[string]strict.Node, t *Type) {
	for _, r := range rules {
		if r.file.read != nil {
			r.file.read(f, t)
		}
	}
}

// WriteRules adds the settings of all rules to a scenario's type.
func WriteRules(t Type, out map[string]any) {
	for _, r := range rules {
		if r.file.write != nil {
			r.file.write(t, out)
		}
	}
}

// FileKeys are the keys of the rules in a scenario's type.
func FileKeys() (keys []string) {
	for _, r := range rules {
		keys = append(keys, r.file.keys...)
	}
	return keys
}
