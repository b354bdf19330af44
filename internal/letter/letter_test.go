package letter_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	words "corrim/core/message"
	"corrim/internal/letter"
)

func TestALetterSaysTheSameAsTextAndAsHTML(t *testing.T) {
	with := words.With{"type": "Light & <shade>", "hosts": "Ines", "host": "Ines", "invited": true, "dates": false}
	facts := []letter.Fact{{"Was", "Light & <shade>"}, {"Ihre Anmerkung", "Zwei\nZeilen"}}
	l := letter.Write(words.In("de"), "client-booked", with, "https://corrim.example/b/x", facts)
	assert.Equal(t, "Light & <shade> mit Ines", l.Subject)
	assert.Equal(t, "Ihr Termin ist gebucht.\n\nWas: Light & <shade>\nIhre Anmerkung: Zwei\nZeilen\n\nVerschieben oder absagen:\nhttps://corrim.example/b/x\n\n"+
		"Die Einladung für Ihren Kalender liegt dieser E-Mail bei. Antworten gehen an Ines.\n", l.Text())
	html := l.HTML()
	assert.Contains(t, html, `<html lang="de">`)
	assert.Contains(t, html, "Light &amp; &lt;shade&gt;", "what clients write is no markup")
	assert.NotContains(t, html, "<shade>")
	assert.Contains(t, html, `<a href="https://corrim.example/b/x"`)
}

func TestALetterWithoutActionAndClosingHasNone(t *testing.T) {
	l := letter.Write(words.In("fr"), "guest-invited", words.With{"type": "Visite", "hosts": "Ines", "by": "Musée"}, "", nil)
	assert.Equal(t, "Musée vous convie à ce rendez-vous.\n\n", l.Text())
	assert.Empty(t, l.Actions)
	assert.NotContains(t, l.HTML(), "<a ")
}
