package message

import (
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/life"
)

var tag = regexp.MustCompile(`\{\{([#^/]?)([A-Za-z]+)\}\}`)

// names is what stands in a text for what differs, and under which conditions passages stand.
func names(text string) []string {
	var out []string
	for _, t := range tag.FindAllStringSubmatch(text, -1) {
		if t[1] != "/" && !slices.Contains(out, t[2]) {
			out = append(out, t[2])
		}
	}
	slices.Sort(out)
	return out
}

func (w *Words) all() map[string]string {
	out := map[string]string{"dates.day": w.dates.day.text, "dates.date": w.dates.date.text, "dates.moment": w.dates.moment.text, "dates.span": w.dates.dayAndSpan.text}
	for name, part := range w.parts {
		out[name] = part.text
	}
	for kind, l := range w.letters {
		for part, text := range map[string]string{"subject": l.subject.text, "opening": l.opening.text, "action": l.action.text, "closing": l.closing.text} {
			out[string(kind)+"."+part] = text
		}
	}
	return out
}

// Every message has its words in every language, no language has words for one that is gone, and all put in the same.
func TestAllLanguagesSayTheSame(t *testing.T) {
	english := In("en").all()
	for _, kind := range Kinds() {
		assert.NotEmpty(t, english[string(kind)+".subject"], kind)
		assert.NotEmpty(t, english[string(kind)+".opening"], kind)
	}
	for kind := range In("en").letters {
		assert.Contains(t, Kinds(), kind, "no message is called so")
	}
	require.Equal(t, []string{"de", "en", "fr", "nl", "pt"}, Languages())
	for _, language := range Languages() {
		w := In(language)
		said := w.all()
		assert.Len(t, w.dates.weekdays, 7, language)
		assert.Len(t, w.dates.months, 12, language)
		for name, text := range english {
			other, known := said[name]
			if !assert.True(t, known, "%s has no %s", language, name) {
				continue
			}
			assert.Equal(t, text == "", other == "", "%s: %s", language, name)
			assert.Equal(t, names(text), names(other), "%s: %s", language, name)
			assert.Equal(t, strings.Count(other, "{{#")+strings.Count(other, "{{^"), strings.Count(other, "{{/"), "%s: %s", language, name)
		}
		for name := range said {
			assert.Contains(t, english, name, "%s has words for what is not said", language)
		}
	}
}

func TestWordsAreThoseOfTheReadersLanguage(t *testing.T) {
	at := time.Date(2026, 5, 4, 14, 5, 0, 0, time.UTC) // a Monday
	for language, moment := range map[string]string{
		"en-GB": "Monday 4 May 2026, 14:05", "de-CH": "Montag, 4. Mai 2026, 14:05", "fr": "lundi 4 mai 2026 à 14:05", "nl": "maandag 4 mei 2026, 14:05",
		"pt-BR": "segunda-feira, 4 de maio de 2026, 14:05", "xx": "Monday 4 May 2026, 14:05", "no language": "Monday 4 May 2026, 14:05",
	} {
		assert.Equal(t, moment, In(language).Moment(at, "15:04"), language)
	}
	assert.Equal(t, "Ines, Maren und Theo", In("de").List([]string{"Ines", "Maren", "Theo"}))
	assert.Equal(t, "Ines", In("de").List([]string{"Ines"}))
	moved := In("de").Write("client-moved", With{"type": "Rundgang & Licht", "hosts": "Ines", "who": "Ines", "byHost": true, "invited": true})
	assert.Equal(t, "Verschoben: Rundgang & Licht mit Ines", moved.Subject, "values are put in as they are")
	assert.Equal(t, "Ines musste Ihren Termin verschieben. Wenn Ihnen die neue Zeit nicht passt, wählen Sie eine andere.", moved.Opening)
	assert.Equal(t, "Die beiliegende Einladung ersetzt die bisherige in Ihrem Kalender.", moved.Closing)
	assert.Equal(t, "Wann", In("de").Fact("when"))
}

func TestWhoIsToldOfWhat(t *testing.T) {
	told := func(o Occasion) (kinds []string) {
		for _, p := range Plan(o) {
			kinds = append(kinds, string(p.Kind))
		}
		return kinds
	}
	assert.Equal(t, []string{"client-booked", "host-booked"}, told(Occasion{Event: life.Book, Invited: true}))
	assert.Equal(t, []string{"client-booked", "guest-invited", "host-approved"}, told(Occasion{Event: life.Approve, Invited: true, Guests: true}))
	assert.Equal(t, []string{"client-held"}, told(Occasion{Event: life.Hold, Guests: true}), "guests hear of nothing that isn't booked")
	assert.Equal(t, []string{"client-corrected", "host-corrected"}, told(Occasion{Event: life.Correct, Invited: true, Guests: true}))
	assert.Equal(t, []string{"client-corrected", "guest-invited", "host-corrected"}, told(Occasion{Event: life.Correct, Invited: true, Guests: true, Place: true}), "where one meets concerns them")
	assert.Equal(t, []string{"client-cancelled", "guest-cancelled", "host-cancelled"}, told(Occasion{Event: life.Cancel, Invited: true, Guests: true}))
	assert.Equal(t, []string{"client-asked"}, told(Occasion{Event: life.Ask, Invited: true}), "its host has done it")
	for _, silent := range []life.Event{life.Confirm, life.Attend, life.Miss, life.Unmark} {
		assert.Empty(t, told(Occasion{Event: silent, Invited: true, Guests: true}), silent)
	}
}
