package api

import (
	"context"
	"crypto/rand"
	"encoding/json"
	"io/fs"
	"net/http"
	"strings"
	"time"

	"github.com/go-chi/chi/v5"

	"corrim/internal/app"
	"corrim/ui"
)

// What stands in the built pages where a fresh nonce goes, and what is given with the client's page.
const (
	noncePlaceholder = "NONCE_OF_THIS_ANSWER"
	givenPlaceholder = `"GIVEN_WITH_THIS_ANSWER"`
)

const notBuilt = `<!doctype html><html lang="en"><title>Corrim</title><body><h1>The user interface is not built yet</h1>
<p>This program was compiled without it. Run <code>make build</code> in Corrim's folder, then start <code>bin/corrim</code>.</p></body></html>`

// pages serves the built user interface: the client's page under /p and /b, the host's application everywhere else.
func (s *server) pages(r chi.Router) {
	files, built := ui.Files()
	if !built {
		r.NotFound(func(w http.ResponseWriter, _ *http.Request) {
			w.Header().Set("Content-Type", "text/html; charset=utf-8")
			_, _ = w.Write([]byte(notBuilt))
		})
		return
	}
	// A client's page may stand in a frame of the host's application, which shows it while its looks are changed.
	host := document{"index.html", "frame-src 'self'; frame-ancestors 'none'", inEnglish, givesNothing}.from(files)
	client := document{"page.html", "frame-ancestors 'self'", s.language, givesNothing}.from(files)
	one := document{"type.html", "frame-ancestors 'self'", s.language, s.given}.from(files)
	r.Get("/p/{workspace}", s.mayBeKeptFromSearch(client))
	r.Get("/p/{workspace}/{type}", s.mayBeKeptFromSearch(one))
	r.Get("/p/{workspace}/*", s.mayBeKeptFromSearch(client))
	r.Get("/robots.txt", func(w http.ResponseWriter, _ *http.Request) {
		_, _ = w.Write([]byte("User-agent: *\nDisallow: /b/\nDisallow: /o/\nDisallow: /api/\n"))
	})
	r.Get("/b/{link}", client)
	r.Get("/b/*", client)
	r.Get("/o/{link}", client)
	r.Get("/assets/*", assets(files))
	r.NotFound(func(w http.ResponseWriter, r *http.Request) {
		if r.Method != http.MethodGet && r.Method != http.MethodHead {
			http.Error(w, "There is nothing to change here.", http.StatusMethodNotAllowed)
			return
		}
		host(w, r)
	})
}

// document is a built HTML page, and what differs about it from one request to the next.
type document struct {
	name     string
	frames   string // the part of its policy about frames
	language func(*http.Request) string
	given    func(*http.Request) []byte
}

// inBuilt is how the built pages say their language.
const inBuilt = `<html lang="en">`

func inEnglish(*http.Request) string { return "en" }

// language is that of a client's page where the client's browser asks for none that it has.
func (s *server) language(r *http.Request) string {
	return s.app.PageLanguage(r.Context(), chi.URLParam(r, "workspace"), chi.URLParam(r, "link"))
}

// from sends the page under a policy that allows only what ships with it. Whatever it needs is on its way to the browser while
// what is given with it is still being computed.
func (d document) from(files fs.FS) http.HandlerFunc {
	text, err := fs.ReadFile(files, d.name)
	if err != nil {
		panic("the built user interface lacks " + d.name) // it is compiled in, so this is a broken build
	}
	before, after, gives := strings.Cut(string(text), givenPlaceholder)
	return func(w http.ResponseWriter, r *http.Request) {
		nonce := rand.Text()
		h := w.Header()
		h.Set("Content-Type", "text/html; charset=utf-8")
		h.Set("Cache-Control", "no-store")
		h.Set("Content-Security-Policy", "default-src 'none'; script-src 'self' 'nonce-"+nonce+"'; style-src 'self' 'nonce-"+nonce+"'; img-src 'self' data:; font-src 'self'; connect-src 'self'; form-action 'self'; base-uri 'none'; "+d.frames)
		spoken := strings.Replace(before, inBuilt, `<html lang="`+d.language(r)+`">`, 1)
		_, _ = w.Write([]byte(strings.ReplaceAll(spoken, noncePlaceholder, nonce)))
		if !gives {
			return
		}
		_ = http.NewResponseController(w).Flush() // where it can't be, it all comes at once
		_, _ = w.Write(d.given(r))
		_, _ = w.Write([]byte(strings.ReplaceAll(after, noncePlaceholder, nonce)))
	}
}

// givesNothing is for a page that asks for everything itself.
func givesNothing(*http.Request) []byte { return []byte("null") }

// givenFor is how long a page waits for its open times; if calendars answer more slowly, it asks for them itself.
const givenFor = 200 * time.Millisecond

// given is what a type's page shows first, so that it need not ask: what it says and its open times, as the operations answer them
// to somebody who is not signed in. It is null if they would refuse.
func (s *server) given(r *http.Request) []byte {
	ctx, stop := context.WithTimeout(r.Context(), givenFor)
	defer stop()
	answer := make(chan []byte, 1)
	go func() {
		text := givesNothing(r)
		defer func() {
			if cause := recover(); cause != nil { // out of reach of what guards the request itself
				s.log.Error("what is given with a page panicked", "cause", cause)
			}
			answer <- text
		}()
		if first, err := s.firstAnswers(ctx, chi.URLParam(r, "workspace"), chi.URLParam(r, "type")); err == nil {
			text = first
		}
	}()
	select {
	case text := <-answer:
		return text
	case <-ctx.Done():
		return givesNothing(r)
	}
}

// firstAnswers are as JSON, in which Go escapes what could end the element it stands in. The range holds the five weeks that the
// page begins with (ui/src/page/open.ts), on whichever day weeks begin and whatever the client's zone.
func (s *server) firstAnswers(ctx context.Context, workspace, slug string) ([]byte, error) {
	page, err := s.app.Page(ctx, workspace, slug)
	if err != nil {
		return nil, err
	}
	today := s.app.Now().UTC().Truncate(24 * time.Hour)
	open, err := s.app.OpenTimes(ctx, workspace, slug, app.LookFor{From: today.AddDate(0, 0, -8), To: today.AddDate(0, 0, 38)})
	if err != nil {
		return nil, err
	}
	return json.Marshal(map[string]any{"page": page, "open": open})
}

// mayBeKeptFromSearch asks search engines to stay away from the pages of a workspace that wants it.
func (s *server) mayBeKeptFromSearch(next http.HandlerFunc) http.HandlerFunc {
	return func(w http.ResponseWriter, r *http.Request) {
		if s.app.KeptFromSearch(r.Context(), chi.URLParam(r, "workspace")) {
			w.Header().Set("X-Robots-Tag", "noindex, nofollow")
		}
		next(w, r)
	}
}

// assets sends the hashed files, which never change under their name.
func assets(files fs.FS) http.HandlerFunc {
	server := http.FileServerFS(files)
	return func(w http.ResponseWriter, r *http.Request) {
		w.Header().Set("Cache-Control", "public, max-age=31536000, immutable")
		server.ServeHTTP(w, r)
	}
}
