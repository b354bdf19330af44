package api

import (
	"cmp"
	"corrim/internal/public"
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

var embedded = template.Must(template.New("embedded").Parse(`<!doctype html>
<html lang="{{.Language}}">
<head><meta charset="utf-8"><title>As it stands in a page</title></head>
<body>
<corrim-page as="{{.As}}"{{with .Colour}} colour="{{.}}"{{end}}{{with .Wanted}} language="{{.}}"{{end}}><a href="{{.Address}}">{{.Words}}</a></corrim-page>
<script src="/embed.js"></script>
</body>
</html>
`))

// tryEmbedding is a page of ours that has one of our pages inside, for the host's application to show beside the code.
func (s *server) tryEmbedding(w http.ResponseWriter, r *http.Request) {
	asked := r.URL.Query()
	path, err := url.Parse(asked.Get("path"))
	if err != nil || path.Host != "" || path.Scheme != "" || !strings.HasPrefix(path.Path, "/p/") {
		http.NotFound(w, r) // only ours
		return
	}
	w.Header().Set("Content-Type", "text/html; charset=utf-8")
	w.Header().Set("Content-Security-Policy", "default-src 'none'; script-src 'self'; frame-src 'self'; style-src 'self'; frame-ancestors 'self'")
	language := s.app.LinkLanguage(r.Context(), public.PageAddress{}, "language="+url.QueryEscape(asked.Get("language")))
	_ = embedded.Execute(w, map[string]string{ // a browser that is gone needs no answer
		"As": asked.Get("as"), "Colour": asked.Get("colour"), "Wanted": language, "Language": cmp.Or(language, "en"), "Words": asked.Get("words"), "Address": path.String(),
	})
}
