package api

import (
	"html/template"
	"io/fs"
	"net/http"
	"net/url"
	"slices"
	"strings"

	"github.com/go-chi/chi/v5"
)

// mayFrame tells whether a request for a frame comes from a site that may show the page. Browsers keep to the policy in any case (CSP
// Level 3, frame-ancestors), but show a broken frame; so whoever says where they are and may not is told instead.
func (s *server) mayFrame(r *http.Request) bool {
	if r.Header.Get("Sec-Fetch-Dest") != "iframe" {
		return true
	}
	from, err := url.Parse(r.Referer())
	if err != nil || from.Host == "" {
		return true
	}
	origin := strings.ToLower(from.Scheme + "://" + from.Host)
	sources := strings.Fields(s.app.FrameAncestors(r.Context(), chi.URLParam(r, "workspace")))
	return slices.Contains(sources, "*") || slices.Contains(sources, origin) || origin == strings.ToLower(s.app.BaseURL) || from.Host == r.Host
}

var elsewhere = template.Must(template.New("elsewhere").Parse(`<!doctype html>
<html lang="en">
<head><meta charset="utf-8"><title>Opens on its own</title></head>
<body><p>This page can’t be shown inside this site. <a href="{{.}}" target="_blank" rel="noopener">Open it on its own</a></p></body>
</html>
`))

// notHere sends a plain page with a link, which any site may show: it has nothing to be misused.
func notHere(w http.ResponseWriter, address string) {
	w.Header().Set("Content-Type", "text/html; charset=utf-8")
	w.Header().Set("Content-Security-Policy", "default-src 'none'; frame-ancestors *")
	w.Header().Set("X-Robots-Tag", "noindex")
	_ = elsewhere.Execute(w, address) // a browser that is gone needs no answer
}

// embedding sends the script that puts pages into others' pages. Its name stays, so it is asked for again after an hour.
func embedding(files fs.FS) http.HandlerFunc {
	return func(w http.ResponseWriter, r *http.Request) {
		text, err := fs.ReadFile(files, "embed.js")
		if err != nil {
			http.NotFound(w, r)
			return
		}
		w.Header().Set("Content-Type", "text/javascript; charset=utf-8")
		w.Header().Set("Cache-Control", "public, max-age=3600")
		w.Header().Set("Access-Control-Allow-Origin", "*") // for pages that load it with crossorigin and integrity
		_, _ = w.Write(text)
	}
}
