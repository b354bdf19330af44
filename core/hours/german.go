package hours

import (
	"regexp"
	"strings"
)

// What people write in German, in the English words that are read.
var germanWords = map[string]string{
	"geschlossen": "closed", "zu": "closed", "frei": "off", "urlaub": "off", "extra": "extra", "zusätzlich": "extra", "nur": "only",
	"stattdessen": "instead", "bis": "to", "von": "from", "vom": "from", "jährlich": "every year", "uhr": "",

	"januar": "january", "jänner": "january", "jän": "jan", "februar": "february", "märz": "march", "mär": "mar", "mai": "may",
	"juni": "june", "juli": "july", "oktober": "october", "okt": "oct", "dezember": "december", "dez": "dec",

	"montag": "monday", "dienstag": "tuesday", "mittwoch": "wednesday", "donnerstag": "thursday", "freitag": "friday",
	"samstag": "saturday", "sonnabend": "saturday", "sonntag": "sunday",
	"mo": "mon", "di": "tue", "mi": "wed", "do": "thu", "fr": "fri", "sa": "sat", "so": "sun",
}

var (
	word       = regexp.MustCompile(`\p{L}+\.?`)
	ordinal    = regexp.MustCompile(`(\d)\.(\s|-|–)`) // as in "14.-16. Mai"
	onADay     = regexp.MustCompile(`^am\s`)
	everyYears = strings.NewReplacer("jedes jahr", "every year", "alle jahre", "every year", "am nächsten tag", "next day", "am folgetag", "next day")
)

// InEnglish is a text in the words that are read, without regard to letters' case. What isn't German stays as it is.
func InEnglish(text string) string {
	plain := everyYears.Replace(strings.ToLower(strings.TrimSpace(text)))
	plain = ordinal.ReplaceAllString(onADay.ReplaceAllString(plain, ""), "$1$2")
	plain = word.ReplaceAllStringFunc(plain, func(w string) string {
		w = strings.TrimSuffix(w, ".")
		if english, ok := germanWords[w]; ok {
			return english
		}
		return w
	})
	return strings.TrimSpace(plain)
}
