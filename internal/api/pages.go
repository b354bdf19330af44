package api

import (
	"crypto/rand"
	"io/fs"
	"net/http"
	"strings"

	"github.com/go-chi/chi/v5"

	"corrim/ui"
)

// noncePlaceholder stands in the built pages where a fresh nonce goes.
const noncePlaceholder = "NONCE_OF_THIS_ANSWER"

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
	host := page(files, "index.html", "frame-src 'self'; frame-ancestors 'none'")
	client := page(files, "page.html", "frame-ancestors 'self'")
	r.Get("/p/{workspace}", s.mayBeKeptFromSearch(client))
	r.Get("/p/{workspace}/*", s.mayBeKeptFromSearch(client))
	r.Get("/robots.txt", func(w http.ResponseWriter, _ *http.Request) {
		_, _ = w.Write([]byte("User-agent: *\nDisallow: /b/\nDisallow: /o/\nDisallow: /api/\n"))
	})
	r.Get("/b/*", client)
	r.Get("/o/*", client)
	r.Get("/assets/*", assets(files))
	r.NotFound(func(w http.ResponseWriter, r *http.Request) {
		if r.Method != http.MethodGet && r.Method != http.MethodHead {
			http.Error(w, "There is nothing to change here.", http.StatusMethodNotAllowed)
			return
		}
		host(w, r)
	})
}

// page sends an HTML page under a policy that allows only what ships with it.
func page(files fs.FS, name, frames string) http.HandlerFunc {
	text, err := fs.ReadFile(files, name)
	if err != nil {
		panic("the built user interface lacks " + name) // it is compiled in, so this is a broken build
	}
	return func(w http.ResponseWriter, _ *http.Request) {
		nonce := rand.Text()
		h := w.Header()
		h.Set("Content-Type", "text/html; charset=utf-8")
		h.Set("Cache-Control", "no-store")
		h.Set("Content-Security-Policy", "default-src 'none'; script-src 'self' 'nonce-"+nonce+"'; style-src 'self' 'nonce-"+nonce+"'; img-src 'self' data:; font-src 'self'; connect-src 'self'; form-action 'self'; base-uri 'none'; "+frames)
		_, _ = w.Write([]byte(strings.ReplaceAll(string(text), noncePlaceholder, nonce)))
	}
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
