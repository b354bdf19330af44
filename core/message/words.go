package message

import (
	"embed"
	"fmt"
	"path"
	"slices"
	"strings"
	"time"

	"github.com/cbroglie/mustache"
	"go.yaml.in/yaml/v3"
	"golang.org/x/text/language"
)

// Words is what messages say in one language.
type Words struct {
	Language string // BCP 47

	dates struct {
		weekdays, months              []string
		and                           string
		day, date, moment, dayAndSpan template
	}
	parts   map[string]template // by group and name: "facts.when"
	letters map[Kind]letterWords
}

// With is what differs in a text, by the names that stand for it. A bool says whether something is so.
type With map[string]any

type letterWords struct{ subject, opening, action, closing template }

// Letter is what a message says. Some have neither action nor closing.
type Letter struct {
	Subject, Opening, Action, Closing string
}

// template is a text with places for what differs, in Mustache.
type template struct {
	text   string
	parsed *mustache.Template
}

func (t *template) UnmarshalYAML(node *yaml.Node) (err error) {
	t.text = node.Value
	t.parsed, err = mustache.ParseStringRaw(t.text, true) // values are put in as they are: what is made of them escapes them
	return err
}

func (t template) with(differs With) string {
	said, err := t.parsed.Render(map[string]any(differs))
	if err != nil {
		return t.text // it was parsed, and writes to memory
	}
	return said
}

//go:embed texts/*.yaml
var texts embed.FS

var languages = func() map[string]*Words {
	files, err := texts.ReadDir("texts")
	if err != nil {
		panic(err) // they are part of the program
	}
	all := map[string]*Words{}
	for _, file := range files {
		name := strings.TrimSuffix(file.Name(), ".yaml")
		words, err := read(path.Join("texts", file.Name()))
		if err != nil {
			panic(fmt.Sprintf("%s: %v", file.Name(), err))
		}
		words.Language = name
		all[name] = words
	}
	return all
}()

type file struct {
	Dates struct {
		Weekdays, Months        []string
		And                     string
		Day, Date, Moment, Span template
	}
	Facts, Share, Entry, Answers, Texts, Roles, Meanwhile map[string]template
	Letters                                               map[Kind]struct{ Subject, Opening, Action, Closing template }
}

func read(name string) (*Words, error) {
	text, err := texts.ReadFile(name)
	if err != nil {
		return nil, err
	}
	var f file
	reading := yaml.NewDecoder(strings.NewReader(string(text)))
	reading.KnownFields(true)
	if err := reading.Decode(&f); err != nil {
		return nil, err
	}
	w := &Words{parts: map[string]template{}, letters: map[Kind]letterWords{}}
	w.dates.weekdays, w.dates.months, w.dates.and = f.Dates.Weekdays, f.Dates.Months, f.Dates.And
	w.dates.day, w.dates.date, w.dates.moment, w.dates.dayAndSpan = f.Dates.Day, f.Dates.Date, f.Dates.Moment, f.Dates.Span
	for group, parts := range map[string]map[string]template{"facts": f.Facts, "share": f.Share, "entry": f.Entry, "answers": f.Answers, "texts": f.Texts, "roles": f.Roles, "meanwhile": f.Meanwhile} {
		for name, part := range parts {
			w.parts[group+"."+name] = part
		}
	}
	for kind, l := range f.Letters {
		w.letters[kind] = letterWords{l.Subject, l.Opening, l.Action, l.Closing}
	}
	return w, nil
}

// Languages lists those in which there are words, by their codes.
func Languages() []string {
	out := make([]string, 0, len(languages))
	for name := range languages {
		out = append(out, name)
	}
	slices.Sort(out)
	return out
}

// In is the words for who reads a language (BCP 47): those of its base language, or English if there are none.
func In(tag string) *Words {
	parsed, err := language.Parse(tag)
	if err == nil {
		base, _ := parsed.Base()
		if words := languages[base.String()]; words != nil {
			return words
		}
	}
	return languages["en"]
}

// Write is a message in these words.
func (w *Words) Write(kind Kind, with With) Letter {
	l := w.letters[kind]
	return Letter{l.subject.with(with), l.opening.with(with), l.action.with(with), l.closing.with(with)}
}

// Say is a part of a message by its name in the words' file, like "facts.when".
func (w *Words) Say(name string, with With) string {
	part, known := w.parts[name]
	if !known {
		return name // a test holds the program to what there is
	}
	return part.with(with)
}

// Fact is the word for a fact.
func (w *Words) Fact(name string) string { return w.Say("facts."+name, nil) }

func (w *Words) of(t time.Time, layout string) With {
	return With{
		"weekday": w.dates.weekdays[t.Weekday()], "day": t.Day(), "month": w.dates.months[t.Month()-1], "year": t.Year(), "clock": t.Format(layout),
	}
}

// Day is a date of this year: "Thursday 3 December".
func (w *Words) Day(t time.Time) string { return w.dates.day.with(w.of(t, "")) }

// Date is a date with its year.
func (w *Words) Date(t time.Time) string { return w.dates.date.with(w.of(t, "")) }

// Moment is a date with its year and a time, by the layout of its clock.
func (w *Words) Moment(t time.Time, layout string) string {
	return w.dates.moment.with(With{"date": w.Date(t), "clock": t.Format(layout)})
}

// DayAndClock is the same without a year.
func (w *Words) DayAndClock(t time.Time, layout string) string {
	return w.dates.moment.with(With{"date": w.Day(t), "clock": t.Format(layout)})
}

// Span is from when to when on a day, with clocks as they are to be read.
func (w *Words) Span(day time.Time, from, to string) string {
	return w.dates.dayAndSpan.with(With{"date": w.Date(day), "from": from, "to": to})
}

// List names several: "Ines, Maren and Theo".
func (w *Words) List(names []string) string {
	if len(names) < 2 {
		return strings.Join(names, "")
	}
	last := len(names) - 1
	return strings.Join(names[:last], ", ") + " " + w.dates.and + " " + names[last]
}
