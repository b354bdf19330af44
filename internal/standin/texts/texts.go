// Package texts is the stand-in for a gateway of text messages: phones whose messages can be read, that can answer, and numbers that
// fail. It reports what became of each message, and passes answers on, as docs/operate.md says.
package texts

import (
	"bytes"
	"crypto/subtle"
	"encoding/json"
	"errors"
	"net/http"
	"os"
	"slices"
	"strings"
	"sync"
	"time"

	"corrim/internal/standin"
)

// Message is what a phone got, or answered.
type Message struct {
	ID     string    `json:"id,omitempty"`
	Phone  string    `json:"to"`
	From   string    `json:"from"`
	Text   string    `json:"text"`
	At     time.Time `json:"at"`
	Answer bool      `json:"answer,omitempty"` // written by whoever holds the phone
	Failed bool      `json:"failed,omitempty"`
}

// Server is the stand-in as an http.Handler.
type Server struct {
	http.Handler
	token, hook, file string
	now               func() time.Time

	mu       sync.Mutex
	messages []Message
	away     bool
}

// Numbers that end like this fail: "the number does not exist".
const failing = "00"

// New returns a gateway that reports to hook. It keeps its messages in a file; an empty name keeps them in memory.
func New(hook, token, file string, now func() time.Time) (*Server, error) {
	s := &Server{token: token, hook: hook, file: file, now: now}
	mux := http.NewServeMux()
	mux.HandleFunc("PUT /texts/{id}", s.take)
	mux.HandleFunc("GET /{$}", s.list)
	mux.HandleFunc("POST /answer", s.answer)
	mux.HandleFunc("POST /mood", s.setMood)
	s.Handler = http.NewCrossOriginProtection().Handler(mux)
	text, err := os.ReadFile(file)
	if err == nil {
		err = json.Unmarshal(text, &s.messages)
	}
	if errors.Is(err, os.ErrNotExist) {
		err = nil
	}
	return s, err
}

// Messages are all there are, the first one first.
func (s *Server) Messages() []Message {
	s.mu.Lock()
	defer s.mu.Unlock()
	return slices.Clone(s.messages)
}

func (s *Server) take(w http.ResponseWriter, r *http.Request) {
	token := strings.TrimPrefix(r.Header.Get("Authorization"), "Bearer ")
	if subtle.ConstantTimeCompare([]byte(token), []byte(s.token)) != 1 {
		http.Error(w, "The token is wrong.", http.StatusUnauthorized)
		return
	}
	m := Message{}
	if err := json.NewDecoder(http.MaxBytesReader(w, r.Body, 1<<16)).Decode(&m); err != nil {
		http.Error(w, "The message can't be read.", http.StatusBadRequest)
		return
	}
	m.ID, m.At, m.Answer, m.Failed = r.PathValue("id"), s.now(), false, strings.HasSuffix(m.Phone, failing)
	s.mu.Lock()
	away := s.away
	known := slices.ContainsFunc(s.messages, func(one Message) bool { return one.ID == m.ID })
	if !away && !known {
		s.messages = append(s.messages, m)
	}
	err := s.keep()
	s.mu.Unlock()
	switch {
	case away:
		http.Error(w, "The gateway is away.", http.StatusServiceUnavailable)
		return
	case err != nil:
		http.Error(w, "The messages can't be kept.", http.StatusInternalServerError)
		return
	}
	w.WriteHeader(http.StatusAccepted)
	if !known {
		go s.report(map[string]string{"id": m.ID, "state": map[bool]string{true: "failed", false: "delivered"}[m.Failed]})
	}
}

// report tells what became of a message, or passes an answer on.
func (s *Server) report(what map[string]string) bool {
	body, err := json.Marshal(what)
	if err != nil || s.hook == "" {
		return false
	}
	request, err := http.NewRequest(http.MethodPost, s.hook, bytes.NewReader(body))
	if err != nil {
		return false
	}
	request.Header.Set("Authorization", "Bearer "+s.token)
	request.Header.Set("Content-Type", "application/json")
	response, err := (&http.Client{Timeout: 10 * time.Second}).Do(request)
	if err != nil {
		return false
	}
	_ = response.Body.Close()
	return response.StatusCode < 300
}

// keep needs the lock.
func (s *Server) keep() error {
	if s.file == "" {
		return nil
	}
	text, err := json.Marshal(s.messages)
	if err != nil {
		return err
	}
	return os.WriteFile(s.file, text, 0o600)
}

// answer is what whoever holds a phone writes back.
func (s *Server) answer(w http.ResponseWriter, r *http.Request) {
	m := Message{Phone: r.FormValue("phone"), Text: r.FormValue("text"), At: s.now(), Answer: true}
	s.mu.Lock()
	s.messages = append(s.messages, m)
	err := s.keep()
	s.mu.Unlock()
	if err != nil || !s.report(map[string]string{"from": m.Phone, "text": m.Text}) {
		http.Error(w, "The answer could not be passed on.", http.StatusBadGateway)
		return
	}
	http.Redirect(w, r, "/", http.StatusSeeOther)
}

// setMood lets the gateway be away, or there again.
func (s *Server) setMood(w http.ResponseWriter, r *http.Request) {
	s.mu.Lock()
	s.away = r.FormValue("mood") == "away"
	s.mu.Unlock()
	http.Redirect(w, r, "/", http.StatusSeeOther)
}

type phone struct {
	Number   string
	Messages []Message
}

var listPage = standin.Page(`<h1>Stand-in phones</h1><p class="faint">Every text message that was sent, by the phone that got it. Numbers that end in 00 fail.</p>
<form method="post" action="/mood">{{if .Away}}<p><strong>The gateway is away:</strong> nothing is taken. <button name="mood" value="">Let it be there again</button></p>
{{else}}<p>The gateway is there, as always. <button name="mood" value="away">Let it be away</button></p>{{end}}</form>
{{range .Phones}}<h2>{{.Number}}</h2><ul>{{range .Messages}}<li>{{if .Answer}}<strong>Answered:</strong> {{else}}<span class="faint">{{.From}}, {{.At.UTC.Format "2 January 15:04"}} UTC{{if .Failed}}, failed{{end}}:</span> {{end}}{{.Text}}</li>{{end}}</ul>
<form method="post" action="/answer"><input type="hidden" name="phone" value="{{.Number}}"><label><span>Answer from {{.Number}}</span><input name="text" required></label><button>Answer</button></form>
{{else}}<p>No messages yet.</p>{{end}}`)

func (s *Server) list(w http.ResponseWriter, _ *http.Request) {
	s.mu.Lock()
	defer s.mu.Unlock()
	var phones []phone
	for _, m := range s.messages {
		i := slices.IndexFunc(phones, func(p phone) bool { return p.Number == m.Phone })
		if i < 0 {
			i = len(phones)
			phones = append(phones, phone{Number: m.Phone})
		}
		phones[i].Messages = append(phones[i].Messages, m)
	}
	standin.Show(w, listPage, map[string]any{"Title": "Stand-in phones", "Phones": phones, "Away": s.away})
}
