package api

import (
	"bytes"
	"html/template"
	"time"

	"corrim/core/civil"
	"corrim/internal/app"
)

// mostWithoutScripts is how many open times a client sees whose browser runs no scripts.
const mostWithoutScripts = 20

var withoutScripts = template.Must(template.New("plain").Parse(`<div lang="en">
{{- with .Page}}<h1>{{.Type}}</h1><p>{{.Workspace}}, with {{.Host}}, {{.Minutes}} minutes.</p>{{.Description}}{{end}}
{{- if .Times}}<p>The next open times, on the clock of {{.Zone}}:</p><ul>{{range .Times}}<li>{{.}}</li>{{end}}</ul>{{end}}
{{- with .Contact}}<p>Write to <a href="mailto:{{.}}">{{.}}</a> to have one entered for you.</p>{{end}}
<p>To book here yourself, allow scripts for this page.</p></div>`))

// plain is what a client reads whose browser runs no scripts: the next open times on the host's clock, and whom to write to.
func (f *first) plain() []byte {
	said := struct {
		Page          any
		Times         []string
		Zone, Contact string
	}{}
	if f != nil {
		said.Page, said.Contact = f.Page, f.Page.Contact
		said.Zone = f.Page.HostZone
		if f.Page.Zones != "client" { // the workspace shows its own clock, or none
			said.Zone = f.Page.Zone
		}
		zone, err := civil.LoadZone(said.Zone)
		if err != nil {
			zone = time.UTC
		}
		said.Zone = app.TownOf(zone)
		for _, start := range f.Open.Starts[:min(len(f.Open.Starts), mostWithoutScripts)] {
			said.Times = append(said.Times, start.In(zone).Format("Monday 2 January 2006, 15:04"))
		}
	}
	var text bytes.Buffer
	if err := withoutScripts.Execute(&text, said); err != nil {
		return nil // it writes into memory from plain values
	}
	return text.Bytes()
}
