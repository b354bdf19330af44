// Package api is Corrim's HTTP side: typed operations under /api, the pages of the user interface, and what every
// request passes on its way: limits, sessions, security headers, a log line.
package api

import (
	"compress/gzip"
	"context"
	"log/slog"
	"net"
	"net/http"
	"runtime/debug"
	"strings"
	"time"

	"github.com/alexedwards/scs/v2"
	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humachi"
	"github.com/go-chi/chi/v5"
	"github.com/go-chi/chi/v5/middleware"
	"github.com/go-chi/httprate"

	"corrim/core/told"
	"corrim/internal/app"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/store"
	"corrim/internal/trace"
)

// Options are what an operator may set.
type Options struct {
	SignInsPerMinute  int  // by network address
	BookingsPerMinute int  // by network address
	BehindProxy       bool // take a client's network address from the proxy in front
}

const (
	maxBody     = 128 << 10
	maxFile     = 2 << 20
	maxUpload   = 6 << 20 // a file of 4 MB in base64
	sessionDays = 14
	insideKey   = "sign-in" // which of a person's sessions it is
)

type server struct {
	app      *app.App
	sessions *scs.SessionManager
	log      *slog.Logger
	options  Options
}

// New returns the whole of Corrim as a handler.
func New(a *app.App, o Options) http.Handler {
	s := &server{a, newSessions(a), a.Log, o}
	r := chi.NewRouter()
	r.Use(traced, s.logged, s.recovered, s.secured, http.NewCrossOriginProtection().Handler)
	r.Get("/healthz", func(w http.ResponseWriter, _ *http.Request) { _, _ = w.Write([]byte("ok\n")) })
	r.Get("/readyz", s.ready)
	r.Get("/b/{link}/meeting.ics", s.bookingFile)
	r.Post("/b/{link}/leave", s.leaveFollowUps)
	r.Get("/b/{link}/leave", func(w http.ResponseWriter, r *http.Request) {
		http.Redirect(w, r, "/b/"+chi.URLParam(r, "link")+"?answer=leave", http.StatusSeeOther)
	})
	r.Get("/i/{hash}", s.picture)
	for path, feed := range map[string]http.HandlerFunc{"/f/{secret}/bookings.ics": s.feed(s.app.BookingsFeed), "/f/{secret}/busy.ics": s.feed(s.app.BusyFeed)} {
		r.Get(path, feed)
		r.Head(path, feed)
	}
	r.Route("/api", func(r chi.Router) {
		r.Use(answersQuickly, s.sessions.LoadAndSave, noStore, named, s.fromWhere)
		r.NotFound(func(w http.ResponseWriter, _ *http.Request) {
			(&Problem{Type: "about:blank", Title: "Not Found", Status: http.StatusNotFound, Detail: "There is no such operation. /api/openapi.json lists those there are."}).write(w)
		})
		r.MethodNotAllowed(func(w http.ResponseWriter, _ *http.Request) {
			(&Problem{Type: "about:blank", Title: "Method Not Allowed", Status: http.StatusMethodNotAllowed, Detail: "The operation is there, but not with this method. /api/openapi.json lists which."}).write(w)
		})
		r.Get("/types/{id}/reasons/{date}/scenario.json", s.scenarioFile)
		r.Get("/hours/availability.ics", s.availabilityFile)
		r.Get("/files/{id}", s.sentFile)
		r.Get("/host-bookings/{id}/participants.csv", s.participantsFile)
		r.Get("/share/code.{form:svg|png}", s.codeFile)
		r.Get("/share/sheet", s.sheetPage)
		s.operations(humachi.New(r, config()))
	})
	s.pages(r.With(packsTightly))
	return r
}

// Answers are packed anew each time, so the quickest way is best; what ships is asked for once and kept by browsers.
var (
	answersQuickly = middleware.Compress(gzip.BestSpeed, "application/json", "application/problem+json")
	packsTightly   = middleware.Compress(gzip.BestCompression, "text/html", "text/css", "text/javascript")
)

// OpenAPI describes the operations (OpenAPI 3.1), as JSON.
func OpenAPI() ([]byte, error) {
	s := &server{app: &app.App{}, sessions: scs.New(), log: slog.Default()}
	api := humachi.New(chi.NewRouter(), config())
	s.operations(api)
	return api.OpenAPI().MarshalJSON()
}

// The library keeps these for the whole program, so they are set before anything runs beside anything else.
func init() {
	huma.NewError, huma.DefaultArrayNullable = humaProblem, false
}

func config() huma.Config {
	c := huma.DefaultConfig("Corrim", "0.1")
	c.CreateHooks = nil // no $schema in answers
	c.DocsPath, c.SchemasPath, c.OpenAPIPath = "", "", "/openapi"
	c.Servers = []*huma.Server{{URL: "/api"}}
	return c
}

func newSessions(a *app.App) *scs.SessionManager {
	m := scs.New()
	m.Store = store.Sessions{Store: a.Store}
	m.HashTokenInStore = true
	m.Lifetime = sessionDays * 24 * time.Hour
	m.Cookie.Name, m.Cookie.HttpOnly, m.Cookie.SameSite = "corrim", true, http.SameSiteLaxMode
	if onHTTPS(a) {
		m.Cookie.Secure, m.Cookie.Name = true, "__Host-corrim" // which no other host, and nothing unencrypted, can set
	}
	return m
}

func onHTTPS(a *app.App) bool { return strings.HasPrefix(a.BaseURL, "https://") }

func (s *server) operations(api huma.API) {
	s.sessionOperations(api)
	s.accountOperations(api)
	s.hostOperations(api)
	s.publicOperations(api)
}

// out is an answer with a body.
type out[T any] struct{ Body T }

// operation registers one operation. Handlers return plain values and errors of use cases.
func operation[I, O any](s *server, api huma.API, method, path, id, summary string, handle func(context.Context, *I) (O, error), with ...option) {
	op := huma.Operation{OperationID: id, Method: method, Path: path, Summary: summary, MaxBodyBytes: maxBody}
	for _, set := range with {
		set(&op)
	}
	huma.Register(api, op, func(ctx context.Context, in *I) (*out[O], error) {
		value, err := handle(ctx, in)
		if err != nil {
			return nil, problemOf(ctx, s.log, err)
		}
		return &out[O]{value}, nil
	})
}

// option is what is different about an operation.
type option func(*huma.Operation)

// through sends an operation's requests through a standard middleware.
func through(m func(http.Handler) http.Handler) option {
	return func(op *huma.Operation) {
		op.Middlewares = append(op.Middlewares, func(ctx huma.Context, next func(huma.Context)) {
			r, w := humachi.Unwrap(ctx)
			m(http.HandlerFunc(func(http.ResponseWriter, *http.Request) { next(ctx) })).ServeHTTP(w, r)
		})
	}
}

// takesUploads lets an operation's body be as long as a file that clients send.
func takesUploads(op *huma.Operation) { op.MaxBodyBytes = maxUpload }

// takesFiles lets an operation's body be as long as a calendar file.
func takesFiles(op *huma.Operation) { op.MaxBodyBytes = maxFile }

// signedIn returns who sent the request.
func (s *server) signedIn(ctx context.Context) (schedule.Person, error) {
	id := s.sessions.GetInt64(ctx, insideKey)
	if id == 0 {
		return schedule.Person{}, &refusal.Refusal{Kind: refusal.NotSignedIn, Words: told.Say("please-sign", "Please sign in.")}
	}
	person, err := s.app.Identity.PersonIn(ctx, id)
	if err != nil {
		return schedule.Person{}, err
	}
	return s.app.Person(ctx, person)
}

// forHost wraps a handler that needs somebody signed in.
func forHost[I, O any](s *server, handle func(context.Context, schedule.Person, *I) (O, error)) func(context.Context, *I) (O, error) {
	return func(ctx context.Context, in *I) (O, error) {
		person, err := s.signedIn(ctx)
		if err != nil {
			var none O
			return none, err
		}
		return handle(ctx, person, in)
	}
}

// limited lets so many requests a minute through from one network address.
func (s *server) limited(perMinute int) func(http.Handler) http.Handler {
	refuse := func(w http.ResponseWriter, _ *http.Request) {
		refused(refusal.New(refusal.TooMany, told.TooOften.Words())).write(w)
	}
	return httprate.LimitBy(max(1, perMinute), time.Minute, s.clientAddress, httprate.WithLimitHandler(refuse))
}

// clientAddress is where a request comes from. The last entry of the last X-Forwarded-For is the one that the proxy in front has
// written itself; earlier ones, and earlier lines, can be made up by anybody.
func (s *server) clientAddress(r *http.Request) (string, error) {
	if s.options.BehindProxy {
		hops := strings.Split(strings.Join(r.Header.Values("X-Forwarded-For"), ","), ",")
		return httprate.CanonicalizeIP(hostOf(hops[len(hops)-1])), nil
	}
	host, _, err := net.SplitHostPort(r.RemoteAddr)
	return httprate.CanonicalizeIP(host), err
}

// hostOf is the address in what a proxy writes: alone, or with the port, which differs each time (RFC 7239, 6; common practice), and in
// brackets or not. What is no address stands for itself.
func hostOf(hop string) string {
	hop = strings.TrimSpace(hop)
	if host, _, err := net.SplitHostPort(hop); err == nil {
		return host
	}
	return strings.TrimSuffix(strings.TrimPrefix(hop, "["), "]")
}

func (s *server) ready(w http.ResponseWriter, r *http.Request) {
	if err := s.app.Store.Ready(r.Context()); err != nil {
		s.log.ErrorContext(r.Context(), "not ready", "error", err)
		http.Error(w, "Not ready: "+err.Error()+".", http.StatusServiceUnavailable)
		return
	}
	_, _ = w.Write([]byte("ready\n"))
}

// traced gives each request a name that its log lines carry, and its answer, for whoever asks about it.
func traced(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		id := trace.NewID()
		w.Header().Set("Request-Id", id)
		next.ServeHTTP(w, r.WithContext(trace.With(r.Context(), "request", id)))
	})
}

// logged writes one line per request: its route, never its path, query or body, which may hold links and names.
func (s *server) logged(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		began := time.Now()
		seen := middleware.NewWrapResponseWriter(w, r.ProtoMajor)
		next.ServeHTTP(seen, r)
		s.log.InfoContext(r.Context(), "request", "method", r.Method, "route", chi.RouteContext(r.Context()).RoutePattern(), "status", seen.Status(), "bytes", seen.BytesWritten(), "ms", time.Since(began).Milliseconds())
	})
}

func (s *server) recovered(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		defer func() {
			if cause := recover(); cause != nil && cause != http.ErrAbortHandler {
				s.log.ErrorContext(r.Context(), "a request panicked", "cause", cause, "stack", string(debug.Stack()))
				http.Error(w, "Something went wrong here.", http.StatusInternalServerError)
			}
		}()
		next.ServeHTTP(w, r)
	})
}

// secured sets the headers that every answer carries; pages replace the policy by one with their nonce.
func (s *server) secured(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		h := w.Header()
		h.Set("Content-Security-Policy", "default-src 'none'; frame-ancestors 'none'")
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "no-referrer") // addresses hold clients' links
		h.Set("Permissions-Policy", "camera=(), microphone=(), geolocation=()")
		h.Set("Cross-Origin-Opener-Policy", "same-origin")
		if onHTTPS(s.app) {
			h.Set("Strict-Transport-Security", "max-age=31536000") // RFC 6797
		}
		next.ServeHTTP(w, r)
	})
}

func noStore(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		w.Header().Set("Cache-Control", "no-store")
		next.ServeHTTP(w, r)
	})
}
