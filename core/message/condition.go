package message

import (
	"slices"
	"strconv"
	"strings"
	"time"

	"corrim/core/told"
)

// Condition is something more that has to be so for a message to be sent.
type Condition struct {
	What     string `json:"what" enum:"way,language,short,length,answer" doc:"How one meets; the language in which the client reads; that it was booked less than so many hours before; how long it is; what a question was answered with."`
	Is       string `json:"is" maxLength:"400" doc:"'video', 'phone', 'ours', 'theirs' or 'later'; a language (BCP 47); hours; minutes; an answer, in whatever case."`
	Question string `json:"question,omitempty" maxLength:"40" doc:"Which one, of the type's."`
	Not      bool   `json:"not,omitempty" doc:"It was not answered so, or not at all."`
}

// What the conditions of a message are about.
const (
	ByWay      = "way"
	ByLanguage = "language"
	ByShort    = "short"
	ByLength   = "length"
	ByAnswer   = "answer"
)

// Ways are how one meets, as a condition names it.
func Ways() []string { return []string{"video", "phone", "ours", "theirs", "later"} }

const (
	mostConditions = 4
	longestShort   = 30 * 24 // hours
)

// holds tells whether it is so of a meeting.
func (c Condition) holds(m Meeting) bool {
	n, _ := strconv.Atoi(c.Is)
	switch c.What {
	case ByWay:
		return m.Way == c.Is
	case ByLanguage:
		return m.Language == c.Is
	case ByShort:
		return m.Span.Start < m.Since.Add(time.Duration(n)*time.Hour)
	case ByLength:
		return m.Span.Seconds() == int64(n)*60
	case ByAnswer:
		so := slices.ContainsFunc(m.Answers[c.Question], func(value string) bool { return strings.EqualFold(value, c.Is) })
		return so != c.Not
	}
	return false
}

func (c Condition) fault() told.Words {
	n, err := strconv.Atoi(c.Is)
	switch {
	case c.What == ByWay && !slices.Contains(Ways(), c.Is):
		return told.Say("condition-way", "Choose how one meets from the list.")
	case c.What == ByLanguage && !slices.Contains(Languages(), c.Is):
		return told.Say("condition-language", "Choose a language from the list.")
	case c.What == ByShort && (err != nil || n < 1 || n > longestShort):
		return told.Say("condition-hours", "Give 1 to {} hours.", longestShort)
	case c.What == ByAnswer && strings.TrimSpace(c.Is) == "":
		return told.Say("condition-answer", "Give the answer that decides.")
	case c.What == ByLength && (err != nil || n < 1 || n > minutesOfDay):
		return told.Say("condition-minutes", "Give a length of 1 to {} minutes.", minutesOfDay)
	}
	return told.Words{}
}

// faultOfAlso is what is wrong with a rule's further conditions: also if they can never all be so.
func (r Rule) faultOfAlso() told.Words {
	if len(r.Also) > mostConditions {
		return told.Say("condition-most", "At most {} further conditions fit into a message.", mostConditions)
	}
	for i, c := range r.Also {
		if fault := c.fault(); fault.Any() {
			return fault
		}
		other := func(one Condition) bool { return one.What == c.What && one.Question == c.Question }
		if slices.ContainsFunc(r.Also[:i], other) {
			return told.Say("condition-contradicts", "Two of its conditions are about the same, so both are never so, or one is too many. Remove one.")
		}
		hours, _ := strconv.Atoi(c.Is)
		if c.What == ByShort && r.Side == Before && r.At == "" && r.Minutes >= hours*60 {
			return told.Say("condition-too-short", "What is booked less than {} before is booked after this message would go out, so it would never be sent.", told.Count(hours, "hour"))
		}
	}
	return told.Words{}
}
