package api

import (
	"bytes"
	"html/template"
	"time"

	"corrim/core/civil"
)

// mostWithoutScripts is how many days with open times a client sees whose browser runs no scripts.
const mostWithoutScripts = 10

var withoutScripts = template.Must(template.New("plain").Parse(`<div lang="en">
{{- with .Page}}<h1>{{.Type}}</h1><p>{{.Workspace}}, with {{.Host}}, {{.Minutes}} minutes.</p>{{.Description}}{{end}}
{{- if .Days}}<p>The next open times, on the clock of {{.Zone}}:</p><ul>{{range .Days}}<li>{{.}}</li>{{end}}</ul>{{end}}
{{- with .Contact}}<p>Write to <a href="mailto:{{.}}">{{.}}</a> to have one entered for you.</p>{{end}}
<p>To book here yourself, allow scripts for this page.</p></div>`))

// plain is what a client reads whose browser runs no scripts: the next open times on the host's clock, and whom to write to.
func (f *first) plain() []byte {
	said := struct {
		Page          any
		Days          []string
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
		said.Zone = civil.TownOf(zone.String(), "en")
		said.Days = byDay(f.Open.Starts, zone)
	}
	var text bytes.Buffer
	if err := withoutScripts.Execute(&text, said); err != nil {
		return nil // it writes into memory from plain values
	}
	return text.Bytes()
}

// byDay is a line for each of the first days: "Monday 30 November 2026: 10:45, 11:00".
func byDay(starts []time.Time, zone *time.Location) (days []string) {
	last := ""
	for _, start := range starts {
		at := start.In(zone)
		day, clock := at.Format("Monday 2 January 2006"), at.Format("15:04")
		switch {
		case day == last:
			days[len(days)-1] += ", " + clock
		case len(days) == mostWithoutScripts:
			return days
		default:
			days, last = append(days, day+": "+clock), day
		}
	}
	return days
}
