package api

import (
	"context"
	"crypto/rand"
	"encoding/json"
	"io/fs"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"time"

	"github.com/go-chi/chi/v5"
	"golang.org/x/text/language"

	"corrim/internal/public"
	"corrim/internal/schedule"
	"corrim/internal/trace"
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
	host := document{name: "index.html", frames: always("frame-src 'self'; frame-ancestors 'none'"), language: s.hostLanguage, asked: inNone, given: givesNothing, status: hostStatus, head: noHead}.from(files)
	client := document{name: "page.html", frames: always("frame-ancestors 'self'"), language: s.language, asked: s.askedLanguage, given: givesNothing, status: s.clientStatus, head: noHead}
	one := document{name: "type.html", frames: s.frames, language: s.language, asked: s.askedLanguage, given: s.given, status: s.clientStatus, head: s.head}
	front := client
	front.frames, front.head = s.frames, s.head
	r.Get("/p/{workspace}", s.shown(front.from(files)))
	r.Get("/p/{workspace}/{type}", s.shown(s.counted(one.from(files))))
	r.Get("/p/{workspace}/with/{person}", s.shown(front.from(files)))
	r.Get("/p/{workspace}/team/{team}", s.shown(front.from(files)))
	r.Get("/p/*", client.from(files))
	r.Get("/card/p/{workspace}.png", s.cardPicture)
	r.Get("/card/p/{workspace}/{type}.png", s.cardPicture)
	r.Get("/card/p/{workspace}/with/{person}.png", s.cardPicture)
	r.Get("/card/p/{workspace}/team/{team}.png", s.cardPicture)
	r.Get("/embed.js", embedding(files))
	r.Get("/embed/try", s.tryEmbedding)
	r.Get("/robots.txt", func(w http.ResponseWriter, _ *http.Request) {
		_, _ = w.Write([]byte("User-agent: *\nDisallow: /b/\nDisallow: /o/\nDisallow: /api/\n"))
	})
	r.Get("/b/{link}", client.from(files))
	r.Get("/b/*", client.from(files))
	r.Get("/o/{link}", client.from(files))
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
	frames   func(*http.Request) string // the part of its policy about frames
	language func(*http.Request) string
	asked    func(*http.Request) string // the language that the link asks for, one of those there are
	given    func(*http.Request) *first
	status   func(*http.Request) int
	head     func(r *http.Request, language string) []byte // what its head says besides
}

func always(policy string) func(*http.Request) string {
	return func(*http.Request) string { return policy }
}

func noHead(*http.Request, string) []byte { return nil }

// hostViews are the first parts of the addresses in the host's application (ui/src/host/App.tsx).
var hostViews = []string{"", "begin", "board", "types", "people", "clients", "hours", "calendars", "workspace", "messages", "share", "account", "join", "reset"}

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
	at := pageAddress(r)
	at.Kind, _, _ = strings.Cut(strings.TrimPrefix(r.URL.Path, "/"), "/")
	at.Link = chi.URLParam(r, "link")
	there, err := s.app.HasPage(r.Context(), at)
	if err == nil && !there {
		return http.StatusNotFound
	}
	return http.StatusOK
}

// inBuilt is how the built pages say their language.
const inBuilt = `<html lang="en">`

// hostLanguages are those of the host's application (ui/src/say).
var hostLanguages = language.NewMatcher([]language.Tag{language.English, language.German})

// hostLanguage is that of whoever is signed in; for others what their browser asks for, of those that the host's application has.
func (s *server) hostLanguage(r *http.Request) string {
	asked := r.Header.Get("Accept-Language")
	if cookie, err := r.Cookie(s.sessions.Cookie.Name); err == nil {
		if ctx, err := s.sessions.Load(r.Context(), cookie.Value); err == nil {
			if person, err := s.signedIn(ctx); err == nil {
				asked = person.Language
			}
		}
	}
	tag, _ := language.MatchStrings(hostLanguages, asked)
	base, _ := tag.Base()
	return base.String()
}

func inNone(*http.Request) string { return "" }

func (s *server) askedLanguage(r *http.Request) string {
	return s.app.LinkLanguage(r.Context(), pageAddress(r), r.URL.RawQuery)
}

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
		h.Set("Content-Security-Policy", "default-src 'none'; script-src 'self' 'nonce-"+nonce+"'; style-src 'self' 'nonce-"+nonce+"'; img-src 'self' data:; font-src 'self'; connect-src 'self'; form-action 'self'; base-uri 'none'; "+d.frames(r))
		w.WriteHeader(d.status(r))
		language, asked := d.language(r), ""
		if wanted := d.asked(r); wanted != "" {
			language, asked = wanted, ` data-asked="`+wanted+`"`
		}
		spoken := strings.Replace(before, inBuilt, `<html lang="`+language+`"`+asked+`>`, 1)
		spoken = strings.Replace(spoken, "</head>", string(d.head(r, language))+"</head>", 1)
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

// first is what a type's page shows first: what it says, what the link chooses, and the open times for that.
type first struct {
	Page     schedule.Page      `json:"page"`
	Prepared public.Prepared    `json:"prepared"`
	Open     schedule.OpenTimes `json:"open"`
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
	ctx, stop := context.WithTimeout(r.Context(), s.app.Waits(givenFor))
	defer stop()
	answer := make(chan *first, 1)
	go func() {
		var found *first
		_ = trace.Guard(ctx, s.log, "what is given with a page", func() (err error) { // out of reach of what guards the request itself
			found, err = s.firstAnswers(ctx, chi.URLParam(r, "workspace"), chi.URLParam(r, "type"), r.URL.RawQuery)
			return err
		})
		answer <- found
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
func (s *server) firstAnswers(ctx context.Context, workspace, slug, query string) (*first, error) {
	page, err := s.app.Page(ctx, workspace, slug, false)
	if err != nil {
		return nil, err
	}
	prepared, err := s.app.Prepared(ctx, workspace, slug, query, false)
	if err != nil {
		return nil, err
	}
	today := s.app.Now().UTC().Truncate(24 * time.Hour)
	open, err := s.app.OpenTimes(ctx, workspace, slug, schedule.TimesWanted{
		From: today.AddDate(0, 0, -8), To: today.AddDate(0, 0, 38), Minutes: prepared.Minutes, Host: prepared.Host, Answers: prepared.Asked,
	})
	if err != nil {
		return nil, err
	}
	return &first{page, prepared, open}, nil
}

// head is a page's card, where robots may see it.
func (s *server) head(r *http.Request, language string) []byte {
	tags, _ := s.cardOf(r, language)
	return tags
}

// frames is who may show a page inside theirs.
func (s *server) frames(r *http.Request) string {
	return "frame-ancestors " + s.app.FrameAncestors(r.Context(), chi.URLParam(r, "workspace"))
}

// shown sends a page of a workspace: to where it is now if its address has a short name of before, with the wish that search engines
// stay away where there is one, and not into the page of somebody who may not show it.
func (s *server) shown(next http.HandlerFunc) http.HandlerFunc {
	return func(w http.ResponseWriter, r *http.Request) {
		at := pageAddress(r)
		if now, err := s.app.Moved(r.Context(), at); err == nil && now != at {
			to := url.URL{Path: now.Path(), RawQuery: r.URL.RawQuery}
			http.Redirect(w, r, to.String(), http.StatusPermanentRedirect)
			return
		}
		if !s.mayFrame(r) {
			notHere(w, s.app.BaseURL+r.URL.RequestURI())
			return
		}
		if _, seen := s.app.Card(r.Context(), at); !seen {
			w.Header().Set("X-Robots-Tag", "noindex, nofollow")
		}
		next(w, r)
	}
}

// counted counts that a page was opened by a named link; loading it ahead is not opening it.
func (s *server) counted(next http.HandlerFunc) http.HandlerFunc {
	return func(w http.ResponseWriter, r *http.Request) {
		if r.Method == http.MethodGet && r.Header.Get("Sec-Purpose") == "" {
			s.app.LinkOpened(r.Context(), chi.URLParam(r, "workspace"), chi.URLParam(r, "type"), r.URL.RawQuery)
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
