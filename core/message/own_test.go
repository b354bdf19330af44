package message_test

import (
	"strings"
	"testing"
	"unicode/utf16"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"corrim/core/message"
)

// Every message about a booking can have own words, and they can begin as a copy of the built-in ones, in each language.
func TestBuiltInWordsAreWordsThatSomebodyCouldWrite(t *testing.T) {
	for _, kind := range message.Kinds() {
		known := message.Placeholders(kind)
		_, some := message.AudienceOf(kind)
		assert.Equal(t, some, known != nil, kind)
		for _, language := range message.Languages() {
			if some {
				assert.Empty(t, message.In(language).BuiltIn(kind).Faults(known), "%s in %s", kind, language)
			}
		}
	}
}

func TestOwnWordsSayWhatTheyAreGiven(t *testing.T) {
	text := message.Text{
		Subject: "{{time}}:\t{{type}}", Opening: "Good day {{client}},\n{{#where}}\nwe meet here: {{where}}\n{{/where}}\n{{^where}}\nwhere is to be agreed\n{{/where}}\nsee you {{day}}.",
		Closing: "{{#remark}}You wrote: {{remark}}{{/remark}}",
	}
	with := message.With{"time": "10:15", "type": "Survey\nand more", "client": "<b>Anouk</b>", "day": "Thursday", "where": "", "remark": ""}
	said := text.Write(with)
	assert.Equal(t, "10:15: Survey and more", said.Subject, "a subject stays one line, whatever stands in its facts")
	assert.Equal(t, "Good day <b>Anouk</b>,\nwhere is to be agreed\nsee you Thursday.", said.Opening, "lines that only decide leave no empty line (Mustache's specification, standalone tags)")
	assert.Empty(t, said.Closing)
	with["where"], with["remark"] = "Room {{client}}", strings.Repeat("long ", 10_000)
	said = text.Write(with)
	assert.Contains(t, said.Opening, "we meet here: Room {{client}}\n", "a fact is no template")
	assert.Less(t, len(said.Closing), 20_000)
}

func TestWhatIsWrongWithOwnWordsIsSaidAtItsPlace(t *testing.T) {
	known := message.Placeholders(message.ClientReminder)
	for _, one := range []struct{ opening, at, says string }{
		{"See you {{whne}}.", "{{whne}}", "Is “when” meant?"},
		{"𝄞 See you {{tomorrow}}.", "{{tomorrow}}", "stands for nothing"},
		{"{{#confirms}}Say so.", "{{#confirms}}", "doesn't end"},
		{"Say so.{{/confirms}}", "{{/confirms}}", "ends here"},
		{"{{#remark}}{{#where}}x{{/remark}}{{/where}}", "{{/remark}}", "ends here"},
		{"{{confirms}}", "{{confirms}}", "is so or not"},
		{"See you {{when", "{{", "doesn't end"},
		{"{{{when}}}", "{{", "doesn't end"},
		{"{{> facts}}", "{{> facts}}", "stands for nothing"},
		{"{{=<% %>=}}", "{{=<% %>=}}", "stands for nothing"},
		{"{{}}", "{{}}", "stands for nothing"},
		{"{{code}}", "{{code}}", "stands for nothing"},
		{"  ", "", "Something has to stand here"},
		{strings.Repeat("x", 4001), "", "1 characters too long"},
		{strings.Repeat("{{when}} ", 61), "", "At most 60"},
		{"\xff", "", "no text"},
	} {
		fault, wrong := message.Text{Subject: "x", Opening: one.opening}.Faults(known)["opening"]
		if assert.True(t, wrong, one.opening) {
			assert.Contains(t, fault.Words.Sentence, one.says)
			assert.Equal(t, one.at, string(utf16.Decode(utf16.Encode([]rune(one.opening))[fault.From:fault.To])))
		}
	}
	assert.Contains(t, message.Text{Subject: "a\r\nBcc: everybody@example.org", Opening: "x"}.Faults(known)["subject"].Words.Sentence, "one line")
	assert.Contains(t, message.Text{Opening: "x"}.Faults(known), "subject")
}

// Guests are told nothing that the client wrote, as long as nobody has made sure who that is.
func TestGuestsWordsKnowNothingOfTheClient(t *testing.T) {
	for _, p := range message.Placeholders("guest-invited") {
		assert.NotContains(t, []string{"client", "remark", "where", "link", "mail", "code"}, p.Name)
	}
}

// Whatever somebody types: it is refused, or said without braces and without end.
func TestOwnWordsNeverShowBraces(t *testing.T) {
	known := message.Placeholders(message.ClientReminder)
	rapid.Check(t, func(t *rapid.T) {
		pieces := []string{"{{when}}", "{{ client }}", "{{#where}}", "{{/where}}", "{{^remark}}", "{{/remark}}", "{{", "}}", "{", "#", "/", "text", "\n", " ", "é", "{{!x}}", "{{&when}}"}
		opening := strings.Join(rapid.SliceOfN(rapid.SampledFrom(pieces), 1, 12).Draw(t, "pieces"), "")
		text := message.Text{Subject: "x", Opening: opening}
		if len(text.Faults(known)) > 0 {
			return
		}
		said := text.Write(message.With{"when": "soon", "client": "Anouk", "where": "", "remark": nil}).Opening
		if strings.Contains(said, "<nil>") || strings.Contains(said, "{{") {
			t.Fatalf("%q says %q", opening, said)
		}
	})
}
