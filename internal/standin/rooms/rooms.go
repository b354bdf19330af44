// Package rooms is the stand-in for a video room service: it makes, moves and closes rooms over HTTP, and a room's link
// opens a page that says which meeting it is, when, and whether it is open.
package rooms

import (
	"crypto/rand"
	"crypto/subtle"
	"encoding/json"
	"errors"
	"net/http"
	"os"
	"strings"
	"sync"
	"time"

	"corrim/internal/standin"
)

// opensBefore is how long before its meeting a room opens, and stays open after it.
const opensBefore = 10 * time.Minute

type room struct {
	ID     string
	Title  string
	From   time.Time
	To     time.Time
	Closed bool

	options
	Code string // if a passcode was wished for
}

// options is what a room was wished to be like.
type options struct {
	WaitingRoom, Passcode, NameRequired, RecordingNotice bool
}

// Server is the stand-in as an http.Handler.
type Server struct {
	http.Handler
	base, token, file string
	now               func() time.Time

	mu    sync.Mutex
	rooms map[string]*room // by booking
	away  bool             // for trying what happens then
}

// New returns a service whose links begin with base. It keeps its rooms in a file; an empty name keeps them in memory.
func New(base, token, file string, now func() time.Time) (*Server, error) {
	s := &Server{base: strings.TrimSuffix(base, "/"), token: token, file: file, now: now, rooms: map[string]*room{}}
	mux := http.NewServeMux()
	mux.HandleFunc("PUT /rooms/{booking}", s.allowed(s.keep))
	mux.HandleFunc("DELETE /rooms/{booking}", s.allowed(s.end))
	mux.HandleFunc("GET /r/{id}", s.show)
	mux.HandleFunc("GET /{$}", s.list)
	mux.HandleFunc("POST /mood", s.setMood)
	s.Handler = http.NewCrossOriginProtection().Handler(mux)
	text, err := os.ReadFile(file)
	if err == nil {
		err = json.Unmarshal(text, &s.rooms)
	}
	if errors.Is(err, os.ErrNotExist) {
		err = nil
	}
	return s, err
}

func (s *Server) allowed(next http.HandlerFunc) http.HandlerFunc {
	return func(w http.ResponseWriter, r *http.Request) {
		token := strings.TrimPrefix(r.Header.Get("Authorization"), "Bearer ")
		if subtle.ConstantTimeCompare([]byte(token), []byte(s.token)) != 1 {
			http.Error(w, "The token is wrong.", http.StatusUnauthorized)
			return
		}
		s.mu.Lock()
		defer s.mu.Unlock()
		if s.away {
			http.Error(w, "The service is away.", http.StatusServiceUnavailable)
			return
		}
		next(w, r)
	}
}

func (s *Server) keep(w http.ResponseWriter, r *http.Request) {
	var wish struct {
		Title    string
		From, To time.Time
		options
	}
	if err := json.NewDecoder(http.MaxBytesReader(w, r.Body, 1<<16)).Decode(&wish); err != nil {
		http.Error(w, "The room can't be read.", http.StatusBadRequest)
		return
	}
	known := s.rooms[r.PathValue("booking")]
	if known == nil {
		known = &room{ID: rand.Text()}
		s.rooms[r.PathValue("booking")] = known
	}
	known.Title, known.From, known.To, known.Closed, known.options = wish.Title, wish.From, wish.To, false, wish.options
	answer := map[string]string{"url": s.base + "/r/" + known.ID}
	if known.Passcode {
		if known.Code == "" {
			known.Code = rand.Text()[:6]
		}
		answer["passcode"] = known.Code
	}
	s.answer(w, answer)
}

func (s *Server) end(w http.ResponseWriter, r *http.Request) {
	known := s.rooms[r.PathValue("booking")]
	if known == nil {
		http.Error(w, "There is no such room.", http.StatusNotFound)
		return
	}
	known.Closed = true
	s.answer(w, map[string]bool{"closed": true})
}

// answer saves the rooms, then answers.
func (s *Server) answer(w http.ResponseWriter, value any) {
	text, err := json.Marshal(s.rooms)
	if err == nil && s.file != "" {
		err = os.WriteFile(s.file, text, 0o600)
	}
	if err != nil {
		http.Error(w, "The rooms can't be kept.", http.StatusInternalServerError)
		return
	}
	w.Header().Set("Content-Type", "application/json")
	_ = json.NewEncoder(w).Encode(value)
}

var roomPage = standin.Page(`<h1>{{.Room.Title}}</h1>
<p><time datetime="{{.From}}">{{.When}}</time></p>
{{if .Room.Closed}}<p><strong>This room is closed.</strong> The meeting was cancelled.</p>
{{else if .Over}}<p><strong>This room is closed.</strong> The meeting is over.</p>
{{else if .Open}}<p><strong>This room is open.</strong> Here you would see and hear each other.</p>
{{else}}<p><strong>This room is not open yet.</strong> It opens ten minutes before the meeting.</p>{{end}}
{{if not .Room.Closed}}<ul>{{if .Room.Passcode}}<li>A passcode has to be entered.</li>{{end}}{{if .Room.NameRequired}}<li>Everybody gives a name.</li>{{end}}
{{if .Room.WaitingRoom}}<li>The host lets everybody in.</li>{{end}}{{if .Room.RecordingNotice}}<li>The meeting is recorded.</li>{{end}}</ul>{{end}}`)

var listPage = standin.Page(`<h1>Stand-in video rooms</h1><p class="faint">Every room that was made.</p>
<form method="post" action="/mood">{{if .Away}}<p><strong>The service is away:</strong> no rooms are made. <button name="mood" value="">Let it be there again</button></p>
{{else}}<p>The service is there, as always. <button name="mood" value="away">Let it be away</button></p>{{end}}</form>
<ul>{{range .Rooms}}<li><a href="/r/{{.ID}}">{{.Title}}</a> <span class="faint">{{.From.UTC.Format "2 January 15:04"}} UTC{{if .Closed}} · closed{{end}}</span></li>{{else}}<li>No rooms yet.</li>{{end}}</ul>`)

func (s *Server) show(w http.ResponseWriter, r *http.Request) {
	s.mu.Lock()
	var found *room
	for _, one := range s.rooms {
		if one.ID == r.PathValue("id") {
			copied := *one
			found = &copied
		}
	}
	s.mu.Unlock()
	if found == nil {
		http.Error(w, "There is no such room. Check the link in your invitation.", http.StatusNotFound)
		return
	}
	now := s.now()
	standin.Show(w, roomPage, map[string]any{
		"Title": found.Title, "Room": found, "From": found.From.UTC().Format(time.RFC3339),
		"When": found.From.UTC().Format("Monday 2 January 2006, 15:04") + " to " + found.To.UTC().Format("15:04") + " UTC",
		"Open": now.After(found.From.Add(-opensBefore)), "Over": now.After(found.To.Add(opensBefore)),
	})
}

// setMood lets the service be away, or there again.
func (s *Server) setMood(w http.ResponseWriter, r *http.Request) {
	s.mu.Lock()
	s.away = r.FormValue("mood") == "away"
	s.mu.Unlock()
	http.Redirect(w, r, "/", http.StatusSeeOther)
}

func (s *Server) list(w http.ResponseWriter, _ *http.Request) {
	s.mu.Lock()
	defer s.mu.Unlock()
	standin.Show(w, listPage, map[string]any{"Title": "Stand-in video rooms", "Rooms": s.rooms, "Away": s.away})
}
