package calendar

import (
	"bytes"
	"context"
	"crypto/subtle"
	"errors"
	"fmt"
	"io"
	"net/http"
	"path"
	"strings"
	"time"

	"github.com/emersion/go-ical"
	"github.com/emersion/go-webdav"
	"github.com/emersion/go-webdav/caldav"
)

// Server is the whole stand-in as an http.Handler.
type Server struct {
	data    *data
	now     func() time.Time
	handler http.Handler
	moods   moods
	// WithoutSync turns sync-collection off, as on servers that only have ETags.
	WithoutSync bool
}

// New returns a server that keeps its calendars in a file; an empty name keeps them in memory. Its page begins today, by its clock.
func New(file string, now func() time.Time) (*Server, error) {
	data, err := load(file)
	if err != nil {
		return nil, fmt.Errorf("reading the stand-in calendars: %w", err)
	}
	s := &Server{data: data, now: now}
	mux := http.NewServeMux()
	s.addPages(mux)
	mux.Handle("/", s.signedIn(s.withSync(&caldav.Handler{Backend: backend{data}})))
	s.handler = http.NewCrossOriginProtection().Handler(mux)
	return s, nil
}

func (s *Server) ServeHTTP(w http.ResponseWriter, r *http.Request) { s.handler.ServeHTTP(w, r) }

type userKey struct{}

// signedIn asks for the user's password and lets nobody into another's calendars.
func (s *Server) signedIn(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		name, password, _ := r.BasicAuth()
		s.data.mu.RLock()
		user := s.data.users[name]
		s.data.mu.RUnlock()
		if user == nil || subtle.ConstantTimeCompare([]byte(password), []byte(user.Password)) != 1 {
			w.Header().Set("WWW-Authenticate", `Basic realm="stand-in calendar"`)
			http.Error(w, "Sign in with your user name and password.", http.StatusUnauthorized)
			return
		}
		if first := strings.Split(r.URL.Path, "/")[1]; first != "" && first != name && first != ".well-known" {
			http.Error(w, "This calendar is somebody else's.", http.StatusForbidden)
			return
		}
		if s.moody(w, r, name) {
			return
		}
		next.ServeHTTP(w, r.WithContext(context.WithValue(r.Context(), userKey{}, name)))
	})
}

// withSync answers sync-collection reports (RFC 6578), which go-webdav doesn't know. A token is a calendar's revision.
func (s *Server) withSync(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.Method != "REPORT" || s.WithoutSync {
			next.ServeHTTP(w, r)
			return
		}
		body, err := io.ReadAll(io.LimitReader(r.Body, 1<<20))
		if err != nil {
			http.Error(w, "The request can't be read.", http.StatusBadRequest)
			return
		}
		if bytes.Contains(body, []byte("sync-collection")) {
			s.sync(w, r.URL.Path, between(string(body), "<sync-token>", "</sync-token>"))
			return
		}
		r.Body = io.NopCloser(bytes.NewReader(body))
		next.ServeHTTP(w, r)
	})
}

func between(s, before, after string) string {
	_, rest, _ := strings.Cut(s, before)
	inside, _, _ := strings.Cut(rest, after)
	return inside
}

const tokenPrefix = "urn:corrim:stand-in:"

func (s *Server) sync(w http.ResponseWriter, at, token string) {
	user, calendar, _ := split(at)
	since := 0
	if token != "" {
		if _, err := fmt.Sscanf(token, tokenPrefix+"%d", &since); err != nil {
			http.Error(w, `<error xmlns="DAV:"><valid-sync-token/></error>`, http.StatusForbidden)
			return
		}
	}
	var out strings.Builder
	err := s.data.read(user, calendar, func(c *Calendar) error {
		out.WriteString(`<?xml version="1.0" encoding="utf-8"?><multistatus xmlns="DAV:">`)
		for name, o := range c.Objects {
			href := strings.TrimSuffix(at, "/") + "/" + name
			switch {
			case o.Revision <= since || o.Removed && since == 0:
			case o.Removed:
				fmt.Fprintf(&out, `<response><href>%s</href><status>HTTP/1.1 404 Not Found</status></response>`, href)
			default:
				fmt.Fprintf(&out, `<response><href>%s</href><propstat><prop><getetag>"%s"</getetag></prop><status>HTTP/1.1 200 OK</status></propstat></response>`, href, o.etag())
			}
		}
		fmt.Fprintf(&out, `<sync-token>%s%d</sync-token></multistatus>`, tokenPrefix, c.Revision)
		return nil
	})
	if err != nil {
		http.Error(w, "There is no such calendar.", http.StatusNotFound)
		return
	}
	w.Header().Set("Content-Type", "application/xml; charset=utf-8")
	w.WriteHeader(http.StatusMultiStatus)
	_, _ = io.WriteString(w, out.String())
}

// split takes "/ines/calendars/c1/event.ics" apart.
func split(at string) (user, calendar, name string) {
	parts := strings.Split(strings.Trim(at, "/"), "/")
	parts = append(parts, "", "", "", "")
	return parts[0], parts[2], parts[3]
}

// backend answers go-webdav.
type backend struct{ *data }

func userOf(ctx context.Context) string { return ctx.Value(userKey{}).(string) }

func (b backend) CurrentUserPrincipal(ctx context.Context) (string, error) {
	return "/" + userOf(ctx) + "/", nil
}

func (b backend) CalendarHomeSetPath(ctx context.Context) (string, error) {
	return "/" + userOf(ctx) + "/calendars/", nil
}

func (b backend) CreateCalendar(context.Context, *caldav.Calendar) error {
	return webdav.NewHTTPError(http.StatusForbidden, errors.New("the stand-in's calendars are given"))
}

func (b backend) ListCalendars(ctx context.Context) ([]caldav.Calendar, error) {
	b.mu.RLock()
	defer b.mu.RUnlock()
	user := userOf(ctx)
	var out []caldav.Calendar
	for i := 1; ; i++ {
		id := fmt.Sprintf("c%d", i)
		c := b.users[user].Calendars[id]
		if c == nil {
			return out, nil
		}
		out = append(out, caldav.Calendar{Path: "/" + user + "/calendars/" + id + "/", Name: c.Name, SupportedComponentSet: []string{"VEVENT"}})
	}
}

func (b backend) GetCalendar(ctx context.Context, at string) (*caldav.Calendar, error) {
	all, err := b.ListCalendars(ctx)
	for _, c := range all {
		if strings.Trim(c.Path, "/") == strings.Trim(at, "/") {
			return &c, err
		}
	}
	return nil, notFound()
}

func notFound() error { return webdav.NewHTTPError(http.StatusNotFound, errNone) }

func (b backend) GetCalendarObject(_ context.Context, at string, _ *caldav.CalendarCompRequest) (*caldav.CalendarObject, error) {
	user, calendar, name := split(at)
	var out *caldav.CalendarObject
	err := b.read(user, calendar, func(c *Calendar) (err error) {
		if o := c.Objects[name]; o != nil && !o.Removed {
			out, err = object(at, *o)
			return err
		}
		return errNone
	})
	if errors.Is(err, errNone) {
		return nil, notFound()
	}
	return out, err
}

// object is what go-webdav sends.
func object(at string, o Object) (*caldav.CalendarObject, error) {
	parsed, err := ical.NewDecoder(strings.NewReader(o.ICS)).Decode()
	if err != nil {
		return nil, err
	}
	return &caldav.CalendarObject{Path: at, ETag: o.etag(), ModTime: time.Unix(int64(o.Revision), 0), ContentLength: int64(len(o.ICS)), Data: parsed}, nil
}

func (b backend) ListCalendarObjects(_ context.Context, at string, _ *caldav.CalendarCompRequest) ([]caldav.CalendarObject, error) {
	user, calendar, _ := split(at)
	var out []caldav.CalendarObject
	err := b.read(user, calendar, func(c *Calendar) error {
		for name, o := range c.Objects {
			if o.Removed {
				continue
			}
			full, err := object(path.Join(at, name), *o)
			if err != nil {
				return err
			}
			out = append(out, *full)
		}
		return nil
	})
	return out, err
}

func (b backend) QueryCalendarObjects(ctx context.Context, at string, query *caldav.CalendarQuery) ([]caldav.CalendarObject, error) {
	all, err := b.ListCalendarObjects(ctx, at, nil)
	if err != nil {
		return nil, err
	}
	return caldav.Filter(query, all)
}

func (b backend) PutCalendarObject(_ context.Context, at string, c *ical.Calendar, options *caldav.PutCalendarObjectOptions) (*caldav.CalendarObject, error) {
	var text bytes.Buffer
	if err := ical.NewEncoder(&text).Encode(c); err != nil {
		return nil, webdav.NewHTTPError(http.StatusBadRequest, err)
	}
	user, calendar, name := split(at)
	o, err := b.put(user, calendar, name, text.String(), func(present *Object) error { return allowed(present, options) })
	if errors.Is(err, errNone) {
		return nil, notFound()
	}
	return &caldav.CalendarObject{Path: at, ETag: o.etag()}, err
}

// allowed checks If-None-Match and If-Match.
func allowed(present *Object, options *caldav.PutCalendarObjectOptions) error {
	if options == nil {
		return nil
	}
	changed := webdav.NewHTTPError(http.StatusPreconditionFailed, errors.New("the entry is not in the state you expect"))
	if options.IfNoneMatch.IsSet() && present != nil {
		return changed
	}
	if options.IfMatch.IsSet() {
		if want, err := options.IfMatch.ETag(); present == nil || err != nil || want != present.etag() {
			return changed
		}
	}
	return nil
}

func (b backend) DeleteCalendarObject(_ context.Context, at string) error {
	user, calendar, name := split(at)
	if err := b.remove(user, calendar, name); errors.Is(err, errNone) {
		return notFound()
	} else if err != nil {
		return err
	}
	return nil
}
