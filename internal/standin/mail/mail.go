// Package mail is the stand-in for a mail server: it takes messages by SMTP (RFC 5321) and shows them in a readable inbox.
package mail

import (
	"bytes"
	"encoding/base64"
	"fmt"
	"io"
	"mime"
	"mime/multipart"
	"mime/quotedprintable"
	"net/http"
	"net/mail"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"

	"github.com/emersion/go-smtp"

	"corrim/internal/standin"
)

const maxMessage = 5 << 20

// Server is the inbox: its SMTP side and its pages.
type Server struct {
	SMTP    *smtp.Server
	Pages   http.Handler
	Back    string // the SMTP server that what people answer is handed to; empty if there is none
	folder  string
	mu      sync.Mutex
	letters []*Letter // oldest first
}

// Letter is a message that came in.
type Letter struct {
	ID                      int
	From, To, Subject, Date string
	MessageID               string
	ReturnPath              string // where it comes back
	Text, HTML              string
	Calendar                string // the text/calendar alternative
	Method                  string // its method
	Structure               string // the tree of content types, for a look at how it is built
	Files                   []File
	Raw                     []byte
}

// File is an attachment.
type File struct {
	Name, Type string
	Data       []byte
}

// New returns an inbox that keeps messages as .eml files in a folder; an empty name keeps them in memory.
func New(folder string) (*Server, error) {
	s := &Server{folder: folder}
	s.SMTP = smtp.NewServer(smtp.BackendFunc(func(*smtp.Conn) (smtp.Session, error) { return &session{server: s}, nil }))
	s.SMTP.Domain, s.SMTP.MaxMessageBytes, s.SMTP.MaxRecipients, s.SMTP.AllowInsecureAuth = "localhost", maxMessage, 50, true
	mux := http.NewServeMux()
	mux.HandleFunc("GET /{$}", s.showInbox)
	mux.HandleFunc("GET /m/{id}", s.showLetter)
	mux.HandleFunc("POST /m/{id}/answer", s.answer)
	mux.HandleFunc("GET /m/{id}/html", s.showHTML)
	mux.HandleFunc("GET /m/{id}/file/{n}", s.sendFile)
	s.Pages = mux
	return s, s.load()
}

func (s *Server) load() error {
	if s.folder == "" {
		return nil
	}
	if err := os.MkdirAll(s.folder, 0o700); err != nil {
		return err
	}
	files, err := filepath.Glob(filepath.Join(s.folder, "*.eml"))
	if err != nil {
		return err
	}
	slices.Sort(files)
	for _, file := range files {
		raw, err := os.ReadFile(file)
		if err != nil {
			return err
		}
		s.add(raw)
	}
	return nil
}

// session takes one SMTP conversation.
type session struct {
	server *Server
	from   string
}

func (*session) Reset()                               {}
func (*session) Logout() error                        { return nil }
func (*session) Rcpt(string, *smtp.RcptOptions) error { return nil }
func (s *session) Mail(from string, _ *smtp.MailOptions) error {
	s.from = from
	return nil
}
func (s *session) Data(r io.Reader) error {
	raw, err := io.ReadAll(r)
	if err != nil {
		return err
	}
	return s.server.keep(append([]byte("Return-Path: <"+s.from+">\r\n"), raw...)) // RFC 5321, 4.4
}

// keep stores a message before it is acknowledged.
func (s *Server) keep(raw []byte) error {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.folder != "" {
		name := filepath.Join(s.folder, fmt.Sprintf("%06d.eml", len(s.letters)+1))
		if err := os.WriteFile(name, raw, 0o600); err != nil {
			return err
		}
	}
	s.add(raw)
	return nil
}

func (s *Server) add(raw []byte) {
	letter := read(raw)
	letter.ID = len(s.letters) + 1
	s.letters = append(s.letters, letter)
}

// Letters returns what came in so far, oldest first.
func (s *Server) Letters() []*Letter {
	s.mu.Lock()
	defer s.mu.Unlock()
	return slices.Clone(s.letters)
}

// read takes a message apart with the standard library; what can't be read is left out.
func read(raw []byte) *Letter {
	l := &Letter{Raw: raw}
	message, err := mail.ReadMessage(bytes.NewReader(raw))
	if err != nil {
		l.Subject, l.Text = "(a message that can't be read)", string(raw)
		return l
	}
	words := new(mime.WordDecoder)
	header := func(name string) string {
		if text, err := words.DecodeHeader(message.Header.Get(name)); err == nil {
			return text
		}
		return message.Header.Get(name)
	}
	l.ReturnPath = strings.Trim(header("Return-Path"), "<> ")
	l.From, l.To, l.Subject, l.Date, l.MessageID = header("From"), header("To"), header("Subject"), header("Date"), header("Message-Id")
	var tree strings.Builder
	l.part(message.Header.Get("Content-Type"), message.Header.Get("Content-Transfer-Encoding"), "", message.Body, &tree, 0)
	l.Structure = tree.String()
	return l
}

func (l *Letter) part(contentType, encoding, disposition string, body io.Reader, tree *strings.Builder, depth int) {
	kind, params, err := mime.ParseMediaType(contentType)
	if err != nil || depth > 8 {
		return
	}
	fmt.Fprintf(tree, "%s%s\n", strings.Repeat("  ", depth), kind)
	if strings.HasPrefix(kind, "multipart/") {
		reader := multipart.NewReader(body, params["boundary"])
		for {
			part, err := reader.NextRawPart()
			if err != nil {
				return
			}
			l.part(part.Header.Get("Content-Type"), part.Header.Get("Content-Transfer-Encoding"), part.Header.Get("Content-Disposition"), part, tree, depth+1)
		}
	}
	data, err := io.ReadAll(decoded(body, encoding))
	if err != nil {
		return
	}
	how, file, _ := mime.ParseMediaType(disposition)
	switch {
	case how == "attachment":
		l.Files = append(l.Files, File{file["filename"], kind, data})
	case kind == "text/plain":
		l.Text = string(data)
	case kind == "text/html":
		l.HTML = string(data)
	case kind == "text/calendar":
		l.Calendar, l.Method = string(data), params["method"]
	}
}

func decoded(body io.Reader, encoding string) io.Reader {
	switch strings.ToLower(encoding) {
	case "quoted-printable":
		return quotedprintable.NewReader(body)
	case "base64":
		return base64.NewDecoder(base64.StdEncoding, body)
	}
	return body
}

var inboxPage = standin.Page(`<h1>Stand-in mail server</h1><p class="faint">Everything that was sent to anybody, newest first.</p>
<ul>{{range .Letters}}<li><a href="/m/{{.ID}}">{{.Subject}}</a><br><span class="faint">to {{.To}} · {{.Date}}</span></li>{{else}}<li>No mail yet.</li>{{end}}</ul>`)

var letterPage = standin.Page(`<p><a href="/">All mail</a></p><h1>{{.Letter.Subject}}</h1>
<p class="faint">From {{.Letter.From}}<br>To {{.Letter.To}}<br>{{.Letter.Date}}</p>
{{if .Letter.HTML}}<iframe title="The message" src="/m/{{.Letter.ID}}/html" height="520" sandbox="allow-popups allow-popups-to-escape-sandbox allow-top-navigation-by-user-activation"></iframe>{{end}}
<h2>As plain text</h2><pre>{{range .Lines}}{{if .Link}}<a href="{{.Link}}">{{.Link}}</a>{{else}}{{.Text}}{{end}}
{{end}}</pre>
{{if .Letter.Calendar}}<h2>Invitation ({{.Letter.Method}})</h2><pre>{{.Letter.Calendar}}</pre>{{end}}
{{if .Letter.Files}}<h2>Files</h2><ul>{{range $n, $f := .Letter.Files}}<li><a href="/m/{{$.Letter.ID}}/file/{{$n}}">{{$f.Name}}</a> <span class="faint">{{$f.Type}}</span></li>{{end}}</ul>{{end}}
{{if .Answers}}<h2>Answer it</h2>
<form method="post" action="/m/{{.Letter.ID}}/answer"><p><label>In words <textarea name="text" rows="3"></textarea></label></p>
<p><button name="as" value="wrote">Write back</button> <button name="as" value="failed">This mailbox is gone</button></p>
{{if .Letter.Calendar}}<p><button name="as" value="accepted">Accept the invitation</button> <button name="as" value="declined">Decline it</button></p>
<p><label>Another time, in UTC <input type="datetime-local" name="at"></label> <button name="as" value="wished">Wish it</button></p>{{end}}</form>{{end}}
<h2>How it is built</h2><pre>{{.Letter.Structure}}</pre>`)

func (s *Server) showInbox(w http.ResponseWriter, _ *http.Request) {
	letters := s.Letters()
	slices.Reverse(letters)
	standin.Show(w, inboxPage, map[string]any{"Title": "Stand-in mail server", "Letters": letters})
}

func (s *Server) letter(w http.ResponseWriter, r *http.Request) *Letter {
	var id int
	_, _ = fmt.Sscan(r.PathValue("id"), &id)
	letters := s.Letters()
	if id < 1 || id > len(letters) {
		http.Error(w, "There is no such message.", http.StatusNotFound)
		return nil
	}
	return letters[id-1]
}

type textLine struct{ Text, Link string }

func (s *Server) showLetter(w http.ResponseWriter, r *http.Request) {
	l := s.letter(w, r)
	if l == nil {
		return
	}
	var lines []textLine
	for line := range strings.Lines(l.Text) {
		line = strings.TrimRight(line, "\r\n")
		if strings.HasPrefix(line, "http://") || strings.HasPrefix(line, "https://") {
			lines = append(lines, textLine{Link: line})
		} else {
			lines = append(lines, textLine{Text: line})
		}
	}
	standin.Show(w, letterPage, map[string]any{"Title": l.Subject, "Letter": l, "Lines": lines, "Answers": s.Back != "" && l.ReturnPath != ""})
}

// showHTML shows the message's HTML in its frame; links open outside it.
func (s *Server) showHTML(w http.ResponseWriter, r *http.Request) {
	if l := s.letter(w, r); l != nil {
		w.Header().Set("Content-Type", "text/html; charset=utf-8")
		w.Header().Set("Content-Security-Policy", "default-src 'none'; style-src 'unsafe-inline'; sandbox allow-popups allow-popups-to-escape-sandbox allow-top-navigation-by-user-activation")
		_, _ = io.WriteString(w, strings.Replace(l.HTML, "<html lang=\"en\">", "<html lang=\"en\"><base target=\"_top\">", 1))
	}
}

func (s *Server) sendFile(w http.ResponseWriter, r *http.Request) {
	l := s.letter(w, r)
	if l == nil {
		return
	}
	var n int
	if _, err := fmt.Sscan(r.PathValue("n"), &n); err != nil || n < 0 || n >= len(l.Files) {
		http.NotFound(w, r)
		return
	}
	w.Header().Set("Content-Type", l.Files[n].Type)
	w.Header().Set("Content-Disposition", mime.FormatMediaType("attachment", map[string]string{"filename": l.Files[n].Name}))
	_, _ = w.Write(l.Files[n].Data)
}
