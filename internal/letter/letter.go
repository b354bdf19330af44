// Package letter turns what is to be said into mails: as plain text and as HTML, by one renderer for all.
package letter

import (
	"bytes"
	"fmt"
	"html/template"
	"strings"

	"corrim/core/message"
)

// Letter is what a mail says, written once and sent as text and as HTML.
type Letter struct {
	Language string // BCP 47
	Subject  string
	Opening  string
	Facts    []Fact
	Actions  []Action
	Closing  string
}

// Fact is a word for something, and what it is.
type Fact [2]string

// Action is something that can be done, and where.
type Action struct{ Label, URL string }

// Write makes a letter of a message's words; url is where its action leads.
func Write(w *message.Words, kind message.Kind, with message.With, url string, facts []Fact) Letter {
	return Of(w, w.Write(kind, with), url, facts)
}

// Of makes a letter of what is said; url is where its action leads.
func Of(w *message.Words, said message.Letter, url string, facts []Fact) Letter {
	l := Letter{Language: w.Language, Subject: said.Subject, Opening: said.Opening, Facts: facts, Closing: said.Closing}
	if said.Action != "" {
		l.Actions = []Action{{said.Action, url}}
	}
	return l
}

var page = template.Must(template.New("letter").Parse(`<!doctype html>
<html lang="{{.Language}}"><body style="margin:0;background:#f5f6f2;color:#17211f;font:15px/1.5 'IBM Plex Sans',Helvetica,Arial,sans-serif">
<div style="max-width:560px;margin:0 auto;padding:28px 20px">
<p style="font:500 19px/1.35 Newsreader,Georgia,serif;margin:0 0 18px;white-space:pre-line">{{.Opening}}</p>
<table role="presentation" style="border-collapse:collapse;width:100%">
{{range .Facts}}<tr><td style="padding:7px 14px 7px 0;border-top:1px solid #d9ddd5;color:#4a5753;vertical-align:top;white-space:nowrap">{{index . 0}}</td><td style="padding:7px 0;border-top:1px solid #d9ddd5;white-space:pre-line">{{index . 1}}</td></tr>
{{end}}</table>
{{range .Actions}}<p style="margin:16px 0 0"><a href="{{.URL}}" style="color:#0b5a5e">{{.Label}}</a></p>
{{end}}{{if .Closing}}<p style="margin:20px 0 0;color:#4a5753;white-space:pre-line">{{.Closing}}</p>{{end}}
</div></body></html>
`))

// HTML is the letter for programs that show it.
func (l Letter) HTML() string {
	var html bytes.Buffer
	_ = page.Execute(&html, l) // writes to memory, and the template is fixed
	return html.String()
}

// Text is the letter for all others.
func (l Letter) Text() string {
	var b strings.Builder
	fmt.Fprintf(&b, "%s\n\n%s", l.Opening, Lines(l.Facts))
	for _, a := range l.Actions {
		fmt.Fprintf(&b, "\n%s:\n%s\n", a.Label, a.URL)
	}
	if l.Closing != "" {
		fmt.Fprintf(&b, "\n%s\n", l.Closing)
	}
	return b.String()
}

// Lines are facts as text, one a line.
func Lines(facts []Fact) string {
	var b strings.Builder
	for _, f := range facts {
		fmt.Fprintf(&b, "%s: %s\n", f[0], f[1])
	}
	return b.String()
}
