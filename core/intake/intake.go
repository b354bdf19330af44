// Package intake is what a client is asked before booking: the questions, which of them are shown, and how answers are
// checked and brought into one form. A page may follow the same rules to hint early; what is said here decides.
package intake

import (
	"cmp"
	"net/mail"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"
	"unicode"
	"unicode/utf8"

	"github.com/nyaruka/phonenumbers"

	"corrim/core/told"
)

// Kind is what sort of answer a question takes.
type Kind string

// The kinds.
const (
	Short   Kind = "short" // one line
	Long    Kind = "long"  // several lines
	Number  Kind = "number"
	One     Kind = "one"     // of the options
	Several Kind = "several" // of the options
	YesNo   Kind = "yes-no"
	Phone   Kind = "phone" // kept as E.164
	Address Kind = "address"
	Web     Kind = "web"
	Date    Kind = "date"  // YYYY-MM-DD
	File    Kind = "file"  // the token of a file that was sent before
	Terms   Kind = "terms" // has to be ticked
)

var kinds = []Kind{Short, Long, Number, One, Several, YesNo, Phone, Address, Web, Date, File, Terms}

// Question is one thing a client is asked.
type Question struct {
	ID       string   `json:"id" maxLength:"40" doc:"Stays when the question is reworded or moved."`
	Kind     Kind     `json:"kind" enum:"short,long,number,one,several,yes-no,phone,address,web,date,file,terms"`
	Label    string   `json:"label" maxLength:"400"`
	Help     string   `json:"help,omitempty" maxLength:"1000"`
	Required bool     `json:"required,omitempty"`
	Options  []string `json:"options,omitempty" maxItems:"40" doc:"Of the kinds one and several."`
	When     *When    `json:"when,omitempty" doc:"Shown only then; always if left out."`

	Everybody bool `json:"everybody,omitempty" doc:"Asked of everybody who comes along too, not just of the client."`
}

// OfAll tells whether everybody who comes along is asked too. Files and terms are the client's alone.
func (q Question) OfAll() bool { return q.Everybody && q.Kind != File && q.Kind != Terms }

// When is the condition of a question: an earlier one is shown, and answered with any of these.
type When struct {
	Question string   `json:"question" maxLength:"40"`
	Is       []string `json:"is" maxItems:"40"`
}

// Answer is what a client answered, with the question as it was put.
type Answer struct {
	ID     string   `json:"id"`
	Label  string   `json:"label"`
	Kind   Kind     `json:"kind"`
	Values []string `json:"values"`
}

// Text is the answer as people read it.
func (a Answer) Text() string { return strings.Join(a.Values, ", ") }

// The longest answers, in letters.
const (
	longestLine = 400
	longestText = 4000
)

// Given is what a client has entered, by the question's ID.
type Given map[string][]string

// Shown tells which questions are put, given the answers to the earlier ones.
func Shown(questions []Question, given Given) []bool {
	shown := make([]bool, len(questions))
	answers := map[string][]string{} // of shown questions only
	for i, q := range questions {
		shown[i] = q.When == nil || slices.ContainsFunc(answers[q.When.Question], func(v string) bool { return slices.Contains(q.When.Is, v) })
		if shown[i] {
			answers[q.ID] = tidied(q.Kind, given[q.ID])
		}
	}
	return shown
}

// Check brings answers into their normal form. What is wrong comes by the question's ID. Answers to questions
// that are not shown are left out. region is where phone numbers without a country code belong (ISO 3166, like "GB").
func Check(questions []Question, given Given, region string) ([]Answer, map[string]told.Words) {
	answers, wrong := []Answer{}, map[string]told.Words{}
	shown := Shown(questions, given)
	for i, q := range questions {
		if !shown[i] {
			continue
		}
		values := tidied(q.Kind, given[q.ID])
		if len(values) == 0 {
			if fault := q.missing(); fault.Any() {
				wrong[q.ID] = fault
			}
			continue
		}
		values, fault := q.normal(values, region)
		if fault.Any() {
			wrong[q.ID] = fault
			continue
		}
		answers = append(answers, Answer{q.ID, q.Label, q.Kind, values})
	}
	return answers, wrong
}

// missing is what is said of a question without an answer, if it needs one.
func (q Question) missing() told.Words {
	switch {
	case q.Kind == Terms:
		return told.Tick.Words()
	case !q.Required:
		return told.Words{}
	case q.Kind == One || q.Kind == Several || q.Kind == YesNo:
		return told.Choose.Words()
	}
	return told.Missing.Words()
}

// tidied is values without what is empty; all but long texts become one line.
func tidied(kind Kind, values []string) []string {
	var out []string
	for _, v := range values {
		v = AsWritten(v)
		if kind != Long && kind != Address {
			v = strings.Join(strings.Fields(v), " ")
		}
		if v != "" {
			out = append(out, v)
		}
	}
	return out
}

// FirstLetters is a text cut to so many letters.
func FirstLetters(s string, n int) string {
	if letters := []rune(s); len(letters) > n {
		return string(letters[:n])
	}
	return s
}

// OneLine joins white space of all kinds, so that a name stays a name in a mail header and a calendar.
func OneLine(s string) string { return AsWritten(strings.Join(strings.Fields(s), " ")) }

// AsWritten keeps the lines of a text. It leaves out control characters, which have no business in one, what isn't UTF-8, and
// the blank space around it; also those that turn the direction of what follows, so that no text changes how its neighbours
// read (UAX #9, 2.1 to 2.5). Letters of scripts that run from right to left need none of them.
func AsWritten(s string) string {
	return strings.TrimSpace(strings.Map(func(r rune) rune {
		if r == utf8.RuneError || turnsDirection(r) || unicode.IsControl(r) && r != '\n' && r != '\t' {
			return -1
		}
		return r
	}, s))
}

// turnsDirection tells the embeddings, overrides and isolates; the marks that only state a direction stay.
func turnsDirection(r rune) bool {
	return '\u202A' <= r && r <= '\u202E' || '\u2066' <= r && r <= '\u2069'
}

func (q Question) normal(values []string, region string) ([]string, told.Words) {
	if q.Kind != Several && len(values) > 1 {
		return nil, told.OnlyOne.Words()
	}
	if q.Kind == Several || q.Kind == One {
		return q.chosen(values)
	}
	read, known := readers[q.Kind]
	if !known {
		return nil, told.CantAnswer.Words()
	}
	value, fault := read(values[0], region)
	if fault.Any() {
		return nil, fault
	}
	return []string{value}, told.Words{}
}

// chosen keeps the order of the options, whatever the order of the answers.
func (q Question) chosen(values []string) ([]string, told.Words) {
	var out []string
	for _, option := range q.Options {
		if slices.Contains(values, option) {
			out = append(out, option)
		}
	}
	for _, v := range values {
		if !slices.Contains(q.Options, v) {
			return nil, told.NotAmong.With(v)
		}
	}
	return out, told.Words{}
}

// readers turn one value into its normal form, or say what is wrong with it.
var readers = map[Kind]func(value, region string) (string, told.Words){
	Short:   func(v, _ string) (string, told.Words) { return atMost(v, longestLine) },
	Long:    func(v, _ string) (string, told.Words) { return atMost(v, longestText) },
	Address: func(v, _ string) (string, told.Words) { return atMost(v, longestText) },
	Number:  number,
	YesNo:   yesNo,
	Phone:   PhoneNumber,
	Web:     web,
	Date:    date,
	File:    func(v, _ string) (string, told.Words) { return atMost(v, longestLine) },
	Terms:   func(string, string) (string, told.Words) { return "yes", told.Words{} },
}

func atMost(v string, letters int) (string, told.Words) {
	if utf8.RuneCountInString(v) > letters {
		return "", told.LongAnswer.With(letters)
	}
	return v, told.Words{}
}

// number takes a point or a comma before the decimals.
func number(v, _ string) (string, told.Words) {
	n, err := strconv.ParseFloat(strings.Replace(v, ",", ".", 1), 64)
	if err != nil || n > 1e15 || n < -1e15 || n != n {
		return "", told.NoNumber.Words()
	}
	return strconv.FormatFloat(n, 'f', -1, 64), told.Words{}
}

func yesNo(v, _ string) (string, told.Words) {
	if v != "yes" && v != "no" {
		return "", told.YesOrNo.Words()
	}
	return v, told.Words{}
}

// PhoneNumber is a number in the form of ITU-T E.164, "+442079460958", or what is wrong with it.
func PhoneNumber(v, region string) (string, told.Words) {
	n, err := phonenumbers.Parse(v, region)
	if err != nil || !phonenumbers.IsPossibleNumber(n) {
		return "", told.NoPhoneNumber.Words()
	}
	return phonenumbers.Format(n, phonenumbers.E164), told.Words{}
}

// MobileNumber is a phone number that text messages can go to, if what is known of the country's numbers is right; prefixes are those of
// the countries that they go to, all if there are none.
func MobileNumber(v, region string, prefixes []string) (string, told.Words) {
	number, fault := PhoneNumber(v, region)
	if fault.Any() {
		return "", fault
	}
	if len(prefixes) > 0 && !slices.ContainsFunc(prefixes, func(prefix string) bool { return strings.HasPrefix(number, prefix) }) {
		return "", told.TextsNotThere.Words()
	}
	parsed, err := phonenumbers.Parse(number, region)
	if err == nil && phonenumbers.GetNumberType(parsed) == phonenumbers.FIXED_LINE {
		return "", told.TextsToLandline.Words()
	}
	return number, told.Words{}
}

// MailAddress is an address that mail can be sent to, or what is wrong with it (RFC 5321, 4.5.3.1: 254 letters).
func MailAddress(v string) (string, told.Words) {
	v = strings.TrimSpace(v)
	parsed, err := mail.ParseAddress(v)
	if err != nil || parsed.Address != v || len(v) > 254 || !strings.Contains(v[strings.LastIndexByte(v, '@')+1:], ".") {
		return "", told.NoMailAddress.Words()
	}
	return v, told.Words{}
}

// PortFits tells whether an address names no port, or one that there can be (RFC 6335, 6).
func PortFits(u *url.URL) bool {
	port, err := strconv.ParseUint(cmp.Or(u.Port(), "443"), 10, 16)
	return err == nil && port > 0
}

// web is an http or https address; without a scheme it becomes https.
func web(v, _ string) (string, told.Words) {
	if !strings.Contains(v, "://") {
		v = "https://" + v
	}
	u, err := url.Parse(v)
	if err != nil || u.Scheme != "http" && u.Scheme != "https" || !strings.Contains(u.Hostname(), ".") || u.User != nil || !PortFits(u) || len(v) > 2000 {
		return "", told.NoWebAddress.Words()
	}
	return u.String(), told.Words{}
}

func date(v, _ string) (string, told.Words) {
	if _, err := time.Parse(time.DateOnly, v); err != nil {
		return "", told.NoDate.Words()
	}
	return v, told.Words{}
}

// Faults is what is wrong with the questions themselves, by their place.
func Faults(questions []Question) map[int]told.Words {
	faults := map[int]told.Words{}
	earlier := map[string]Question{}
	for i, q := range questions {
		if fault := q.fault(earlier); fault.Any() {
			faults[i] = fault
		}
		earlier[q.ID] = q
	}
	return faults
}

func (q Question) fault(earlier map[string]Question) told.Words {
	_, twice := earlier[q.ID]
	switch {
	case q.ID == "" || twice:
		return told.Say("give-question-id-own", "Give the question an ID of its own.")
	case !slices.Contains(kinds, q.Kind):
		return told.Say("choose-kind-answer-from", "Choose a kind of answer from the list.")
	case strings.TrimSpace(q.Label) == "":
		return told.Say("write-what-asked", "Write what is asked.")
	case utf8.RuneCountInString(q.Label) > 300:
		return told.Say("question-most-300-letters", "A question has at most 300 letters; put the rest into its help text.")
	case (q.Kind == One || q.Kind == Several) && len(tidied(Short, q.Options)) < 2:
		return told.Say("give-least-two-answers", "Give at least two answers to choose from.")
	case q.Kind != One && q.Kind != Several && len(q.Options) > 0:
		return told.Say("only-choice-answers-choose", "Only a choice has answers to choose from.")
	case hasTwice(q.Options):
		return told.Say("two-answers-same", "Two of the answers are the same.")
	}
	return q.conditionFault(earlier)
}

func hasTwice(options []string) bool {
	sorted := slices.Sorted(slices.Values(options))
	return len(slices.Compact(sorted)) < len(options)
}

func (q Question) conditionFault(earlier map[string]Question) told.Words {
	if q.When == nil {
		return told.Words{}
	}
	on, known := earlier[q.When.Question]
	if !known {
		return told.Say("condition-asks-earlier-question", "Its condition asks for an earlier question, and there is none such before it. Move it down, or choose another.")
	}
	options := on.Options
	if on.Kind == YesNo {
		options = []string{"yes", "no"}
	}
	for _, is := range q.When.Is {
		if !slices.Contains(options, is) {
			return told.Say("condition-never", "Its condition waits for “{}”, which “{}” can't be answered with.", is, on.Label)
		}
	}
	if len(q.When.Is) == 0 {
		return told.Say("condition-answers", "Choose which answers to “{}” show this question.", on.Label)
	}
	return told.Words{}
}
