package message

import (
	"cmp"
	"regexp"
	"slices"
	"strings"
	"unicode/utf8"

	"github.com/cbroglie/mustache"

	"corrim/core/life"
	"corrim/core/told"
)

// Text is a message's own words in one language: templates in Mustache, with the names of Placeholders. What is between them, the
// facts of the meeting and where a link leads, is always said.
type Text struct {
	Subject string `json:"subject"`
	Opening string `json:"opening" doc:"What is said before the facts."`
	Closing string `json:"closing" doc:"What is said after them."`
}

// Own is a message's own words, by language. In a language that has none it says what is built in.
type Own map[string]Text

// Placeholder is a name that stands for a fact, or for whether something is so.
type Placeholder struct {
	Name      string `json:"name"`
	Condition bool   `json:"condition" doc:"It is no fact, but can decide whether a passage is said."`
	Optional  bool   `json:"optional" doc:"There may be none; so it too can decide."`
	Question  string `json:"question,omitempty" doc:"Of an answer: what was asked."`
}

// The longest own words, in letters as they are typed, and what becomes of them at most.
const (
	longestSubject = 200
	longestPart    = 4000
	longestSaid    = 16000
	mostTags       = 60
)

// meetingFacts are those that every message about a booking may use.
var meetingFacts = []string{"type", "host", "hosts", "workspace", "when", "day", "time", "minutes"}

// factsFor are those that an audience may know besides; "?" marks what is so or not, "~" what there may be none of. Guests get nothing of what the client wrote: nobody may have made sure yet
// who the client is.
var factsFor = map[Audience][]string{
	Client: {"client", "~where", "link", "~remark", "?video"},
	Guests: {"by"},
	Hosts:  {"client", "mail", "~where", "~remark", "?video"},
}

// factsOf are those that only some messages have, marked alike.
var factsOf = map[Kind][]string{
	"client-held":      {"code", "until", "?shared"},
	"client-requested": {"until", "?shared", "~dates"},
	"client-booked":    {"~dates"},
	"client-moved":     {"who", "?byHost", "?invited"},
	"client-cancelled": {"who", "?byHost", "?invited", "~dates"},
	"client-handed":    {"to", "from", "?moved"},
	"client-corrected": {"?invited"},
	"client-asked":     {"who"},
	"client-proposed":  {"who", "?shared"},
	"client-declined":  {"who", "~dates"},
	"client-offered":   {"until"},
	"client-dismissed": {"who"},
	"client-changed":   {"who"},
	ListMoved:          {"who"},
	"client-given":     {"to", "~dates"},

	ClientWritten:       {"who"},
	"client-called-off": {"?invited", "~dates"},
	ClientReminder:      {"?confirms"},
	"host-booked":       {"?byClient", "?bySelf", "~colleague", "~dates"},
	"host-requested":    {"until", "?shared", "~dates"},
	"host-approved":     {"?bySelf", "~colleague"},
	"host-moved":        {"?byClient", "?bySelf", "~colleague"},
	"host-cancelled":    {"?byClient", "?bySelf", "~colleague", "~dates"},
	SessionNews:         {"?set", "?moved", "?handed", "?off", "~colleague", "~dates"},
	"host-doubted":      {"count"},
	"host-given":        {"to", "~dates"},
	"host-handed":       {"to", "from", "?getsIt", "?gaveIt", "?stays", "?moved", "?bySelf", "~colleague"},
}

// Entries in calendars, whose titles and texts can be in own words too: a title is a subject, and a text stands before the facts.
const (
	EntryClient Kind = "entry-client"
	EntryHosts  Kind = "entry-hosts"
)

// IsEntry tells whether a kind is an entry in calendars.
func (k Kind) IsEntry() bool { return k == EntryClient || k == EntryHosts }

// unlisted is whom those are for that no row of the table lists: the clock's messages, and entries in calendars.
var unlisted = map[Kind]Audience{ClientReminder: Client, ClientThanks: Client, ClientMissed: Client, GuestReminder: Guests, HostReminder: Hosts, OfficeNote: Hosts, EntryClient: Client, EntryHosts: Hosts}

// AudienceOf is whom a message about a booking is for; some are about none.
func AudienceOf(kind Kind) (audience Audience, some bool) {
	if audience, some = unlisted[kind]; some {
		return audience, true
	}
	i := slices.IndexFunc(table, func(e entry) bool { return e.kind == kind })
	if i < 0 {
		return 0, false
	}
	return table[i].audience, true
}

// EventOf is the step that brings a message about, the first one if there are several; the clock's have none.
func EventOf(kind Kind) (event life.Event, some bool) {
	i := slices.IndexFunc(table, func(e entry) bool { return e.kind == kind })
	if i < 0 {
		return "", false
	}
	return table[i].on[0], true
}

// ToldAtOnce lists the messages that steps of a booking bring about, in the order in which they come up.
func ToldAtOnce() []Kind {
	var out []Kind
	for _, e := range table {
		if !slices.Contains(out, e.kind) {
			out = append(out, e.kind)
		}
	}
	return out
}

// Placeholders are the names that a message's own words may use, in the order in which they are offered.
func Placeholders(kind Kind) []Placeholder {
	audience, some := AudienceOf(kind)
	if !some {
		return nil
	}
	var out []Placeholder
	for _, name := range slices.Concat(factsFor[audience][:1], meetingFacts, factsFor[audience][1:], factsOf[kind]) {
		out = append(out, Placeholder{Name: strings.TrimLeft(name, "?~"), Condition: name[0] == '?', Optional: name[0] == '~'})
	}
	return out
}

// nameOfAnswer is what the ID of a question has to be like for its answer to have a name.
var nameOfAnswer = regexp.MustCompile(`^[\p{L}\p{N}_-]+$`)

// Answers are the names of answers to questions, by their IDs, in messages to those who may know them.
func Answers(kind Kind, id, question string) []Placeholder {
	audience, some := AudienceOf(kind)
	if !some || audience == Guests || !nameOfAnswer.MatchString(id) {
		return nil
	}
	return []Placeholder{{Name: AnswersName + "." + id, Optional: true, Question: question}}
}

// AnswersName is what names of answers begin with.
const AnswersName = "answer"

// Fault is what is wrong with a template, and where: from one character to another, in the units of JavaScript's strings (UTF-16).
type Fault struct {
	Words told.Words `json:"words"`
	From  int        `json:"from"`
	To    int        `json:"to"`
}

// longestText is how long a text message may be typed, in characters.
const longestText = 600

// TextFaults is what is wrong with the own words of a text message, which is its opening alone.
func (t Text) TextFaults(known []Placeholder) map[string]Fault {
	faults := map[string]Fault{}
	if fault, wrong := faultOf(t.Opening, longestText, true, known); wrong {
		faults["opening"] = fault
	}
	if t.Subject != "" || t.Closing != "" {
		faults["subject"] = Fault{Words: told.Say("words-text-alone", "A text message has neither a subject nor a closing.")}
	}
	return faults
}

// EntryFaults is what is wrong with the own words of an entry in calendars, which are its title and what stands before the facts.
func (t Text) EntryFaults(known []Placeholder) map[string]Fault {
	if t.Opening == "" {
		t.Opening = "-" // it needs none
	}
	faults := t.Faults(known)
	if t.Closing != "" {
		faults["closing"] = Fault{Words: told.Say("words-entry-closing", "An entry in calendars has nothing after the facts.")}
	}
	return faults
}

// Faults is what is wrong with own words, by the part that it is wrong with.
func (t Text) Faults(known []Placeholder) map[string]Fault {
	faults := map[string]Fault{}
	if strings.ContainsAny(t.Subject, "\r\n") {
		faults["subject"] = Fault{Words: told.Say("words-subject-lines", "A subject is one line. Remove the line break.")}
	}
	for part, one := range t.parts() {
		if fault, wrong := faultOf(one.text, one.longest, one.needed, known); wrong && faults[part].To == 0 {
			faults[part] = fault
		}
	}
	return faults
}

type partOf struct {
	text    string
	longest int
	needed  bool
}

func (t Text) parts() map[string]partOf {
	return map[string]partOf{"subject": {t.Subject, longestSubject, true}, "opening": {t.Opening, longestPart, true}, "closing": {t.Closing, longestPart, false}}
}

// tagPattern is a tag, or the beginning of one that never ends.
var tagPattern = regexp.MustCompile(`\{\{([^{}\n]*)\}\}|\{\{`)

// place makes the fault's place of one in bytes.
func place(text string, from, to int, words told.Words) (Fault, bool) {
	return Fault{words, units(text[:from]), units(text[:to])}, true
}

// units counts the UTF-16 units of a text.
func units(text string) (n int) {
	for _, r := range text {
		n++
		if r > 0xFFFF {
			n++
		}
	}
	return n
}

// faultOf finds the first thing that is wrong with a template.
func faultOf(text string, longest int, needed bool, known []Placeholder) (Fault, bool) {
	switch length := utf8.RuneCountInString(text); {
	case !utf8.ValidString(text):
		return Fault{Words: told.Say("words-no-text", "This is no text. Type it anew.")}, true
	case needed && strings.TrimSpace(text) == "":
		return Fault{Words: told.Say("words-missing", "Something has to stand here. Write it, or go back to the built-in words.")}, true
	case length > longest:
		return place(text, len(text), len(text), told.Say("words-too-long", "This is {} characters too long.", length-longest))
	}
	tags := tagPattern.FindAllStringSubmatchIndex(text, -1)
	if len(tags) > mostTags {
		return Fault{Words: told.Say("words-too-many", "At most {} facts and conditions fit into a text.", mostTags)}, true
	}
	if fault, wrong := faultOfTags(text, tags, known); wrong {
		return fault, true
	}
	if _, err := mustache.ParseStringRaw(text, true); err != nil {
		return Fault{Words: told.Say("words-unreadable", "This can't be read as a template. Remove what stands in braces, and insert it anew.")}, true
	}
	return Fault{}, false
}

type passage struct {
	name     string
	from, to int
}

// faultOfTags goes through the tags of a template, and through the passages that they begin and end.
func faultOfTags(text string, tags [][]int, known []Placeholder) (Fault, bool) {
	var within []passage
	for _, tag := range tags {
		from, to := tag[0], tag[1]
		if tag[2] < 0 {
			return place(text, from, to, told.Say("words-brace", "Two braces begin a fact here, and it doesn't end. Insert it anew."))
		}
		inner := strings.TrimSpace(text[tag[2]:tag[3]])
		sign := strings.IndexAny(inner, "#^/")
		if sign != 0 {
			if fault, wrong := unknown(text, from, to, inner, known, false); wrong {
				return fault, true
			}
			continue
		}
		name := strings.TrimSpace(inner[1:])
		if inner[0] != '/' {
			if fault, wrong := unknown(text, from, to, name, known, true); wrong {
				return fault, true
			}
			within = append(within, passage{name, from, to})
			continue
		}
		if len(within) == 0 || within[len(within)-1].name != name {
			return place(text, from, to, told.Say("words-ends-nothing", "The passage “{}” ends here, but doesn't begin right before. Move or remove its end.", name))
		}
		within = within[:len(within)-1]
	}
	if len(within) > 0 {
		open := within[len(within)-1]
		return place(text, open.from, open.to, told.Say("words-unclosed", "The passage “{}” begins here and doesn't end. Add its end, or remove it.", open.name))
	}
	return Fault{}, false
}

// unknown finds fault with a name that stands for nothing, or for no fact where one is to be said.
func unknown(text string, from, to int, name string, known []Placeholder, deciding bool) (Fault, bool) {
	i := slices.IndexFunc(known, func(p Placeholder) bool { return p.Name == name })
	switch {
	case i < 0:
		if like := nearest(name, known); like != "" {
			return place(text, from, to, told.Say("words-unknown-like", "“{}” stands for nothing. Is “{}” meant?", name, like))
		}
		return place(text, from, to, told.Say("words-unknown", "“{}” stands for nothing that this message knows. Choose a fact from “Insert”.", name))
	case known[i].Condition && !deciding:
		return place(text, from, to, told.Say("words-no-fact", "“{}” is so or not; it can only decide whether a passage is said.", name))
	}
	return Fault{}, false
}

// nearest is the known name that is most like another, if it differs in no more than two letters.
func nearest(name string, known []Placeholder) string {
	if len(name) > 40 || len(known) == 0 {
		return ""
	}
	best := slices.MinFunc(known, func(a, b Placeholder) int { return cmp.Compare(edits(name, a.Name), edits(name, b.Name)) })
	if edits(name, best.Name) > min(2, len(name)/2) {
		return ""
	}
	return best.Name
}

// edits is how many letters have to be changed, added or removed to make one word of another (Levenshtein's distance).
func edits(a, b string) int {
	row := make([]int, len(b)+1)
	for j := range row {
		row[j] = j
	}
	for i := range len(a) {
		before := row[0]
		row[0] = i + 1
		for j := range len(b) {
			change := before
			if a[i] != b[j] {
				change++
			}
			before = row[j+1]
			row[j+1] = min(change, row[j]+1, before+1)
		}
	}
	return row[len(b)]
}

// BuiltInText is what a text message says in these words, as a template: it has neither subject nor closing.
func (w *Words) BuiltInText(kind Kind) Text {
	return Text{Opening: w.parts["texts."+string(kind)].text}
}

// BuiltIn is what a mail says in these words, as templates.
func (w *Words) BuiltIn(kind Kind) Text {
	if kind.IsEntry() {
		return Text{Subject: w.parts["entry.title"].text}
	}
	l := w.letters[kind]
	return Text{l.subject.text, l.opening.text, l.closing.text}
}

// Write is a message in its own words. What leads on isn't among them.
func (t Text) Write(with With) Letter {
	return Letter{Subject: strings.Join(strings.Fields(say(t.Subject, with)), " "), Opening: strings.TrimSpace(say(t.Opening, with)), Closing: strings.TrimSpace(say(t.Closing, with))}
}

// say renders a template that has no faults. What it says is bounded, whatever its facts are.
func say(text string, with With) string {
	parsed, err := mustache.ParseStringRaw(text, true)
	if err != nil {
		return text
	}
	said := template{text, parsed}.with(with)
	if letters := []rune(said); len(letters) > longestSaid {
		return string(letters[:longestSaid]) + "…"
	}
	return said
}
