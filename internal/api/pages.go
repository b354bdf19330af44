package api

import (
	"context"
	"crypto/rand"
	"encoding/json"
	"io/fs"
	"net/http"
	"slices"
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
	plainPlaceholder = "WITHOUT_SCRIPTS"
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
	host := document{"index.html", "frame-src 'self'; frame-ancestors 'none'", inEnglish, givesNothing, hostStatus}.from(files)
	client := document{"page.html", "frame-ancestors 'self'", s.language, givesNothing, s.clientStatus}.from(files)
	one := document{"type.html", "frame-ancestors 'self'", s.language, s.given, s.clientStatus}.from(files)
	r.Get("/p/{workspace}", s.mayBeKeptFromSearch(client))
	r.Get("/p/{workspace}/{type}", s.mayBeKeptFromSearch(one))
	r.Get("/p/{workspace}/with/{person}", s.mayBeKeptFromSearch(client))
	r.Get("/p/*", client)
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
	given    func(*http.Request) *first
	status   func(*http.Request) int
}

// hostViews are the first parts of the addresses in the host's application (ui/src/host/main.tsx).
var hostViews = []string{"", "begin", "board", "types", "people", "clients", "hours", "calendars", "workspace", "account", "join", "reset"}

// hostStatus tells whether the host's application has a view at an address.
func hostStatus(r *http.Request) int {
	first, _, _ := strings.Cut(strings.TrimPrefix(r.URL.Path, "/"), "/")
	if slices.Contains(hostViews, first) {
		return http.StatusOK
	}
	return http.StatusNotFound
}

// clientStatus tells whether there is a client's page at an address. One that is over, or can't be read, says so itself.
func (s *server) clientStatus(r *http.Request) int {
	part := func(name string) string { return chi.URLParam(r, name) }
	first, _, _ := strings.Cut(strings.TrimPrefix(r.URL.Path, "/"), "/")
	there, err := s.app.HasPage(r.Context(), app.PageAddress{Kind: first, Workspace: part("workspace"), Type: part("type"), Person: part("person"), Link: part("link")})
	if err == nil && !there {
		return http.StatusNotFound
	}
	return http.StatusOK
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
		w.WriteHeader(d.status(r))
		spoken := strings.Replace(before, inBuilt, `<html lang="`+d.language(r)+`">`, 1)
		_, _ = w.Write([]byte(strings.ReplaceAll(spoken, noncePlaceholder, nonce)))
		if !gives {
			return
		}
		_ = http.NewResponseController(w).Flush() // where it can't be, it all comes at once
		first := d.given(r)
		_, _ = w.Write(first.json())
		spoken = strings.ReplaceAll(after, noncePlaceholder, nonce)
		_, _ = w.Write([]byte(strings.Replace(spoken, plainPlaceholder, string(first.plain()), 1)))
	}
}

// givesNothing is for a page that asks for everything itself.
func givesNothing(*http.Request) *first { return nil }

// first is what a type's page shows first: what it says, and its open times.
type first struct {
	Page app.Page      `json:"page"`
	Open app.OpenTimes `json:"open"`
}

// json is null for nothing. Go escapes in it what could end the element it stands in.
func (f *first) json() []byte {
	text, err := json.Marshal(f)
	if err != nil {
		return []byte("null")
	}
	return text
}

// givenFor is how long a page waits for its open times; if calendars answer more slowly, it asks for them itself.
const givenFor = 200 * time.Millisecond

// given is what a type's page shows first, so that it need not ask: what it says and its open times, as the operations answer them
// to somebody who is not signed in. It is nothing if they would refuse.
func (s *server) given(r *http.Request) *first {
	ctx, stop := context.WithTimeout(r.Context(), givenFor)
	defer stop()
	answer := make(chan *first, 1)
	go func() {
		var found *first
		defer func() {
			if cause := recover(); cause != nil { // out of reach of what guards the request itself
				s.log.ErrorContext(r.Context(), "what is given with a page panicked", "cause", cause)
			}
			answer <- found
		}()
		if first, err := s.firstAnswers(ctx, chi.URLParam(r, "workspace"), chi.URLParam(r, "type")); err == nil {
			found = first
		}
	}()
	select {
	case found := <-answer:
		return found
	case <-ctx.Done():
		return nil
	}
}

// firstAnswers are what the operations answer. The range holds the five weeks that the
// page begins with (ui/src/page/open.ts), on whichever day weeks begin and whatever the client's zone.
func (s *server) firstAnswers(ctx context.Context, workspace, slug string) (*first, error) {
	page, err := s.app.Page(ctx, workspace, slug, false)
	if err != nil {
		return nil, err
	}
	today := s.app.Now().UTC().Truncate(24 * time.Hour)
	open, err := s.app.OpenTimes(ctx, workspace, slug, app.LookFor{From: today.AddDate(0, 0, -8), To: today.AddDate(0, 0, 38)})
	if err != nil {
		return nil, err
	}
	return &first{page, open}, nil
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
		if strings.HasSuffix(r.URL.Path, "/") { // what there is, is nobody's business
			http.NotFound(w, r)
			return
		}
		w.Header().Set("Cache-Control", "public, max-age=31536000, immutable")
		server.ServeHTTP(w, r)
	}
}
