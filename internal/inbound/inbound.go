// Package inbound is the door for mail that comes back: a server for SMTP (RFC 5321) or LMTP (RFC 2033) that the mail server in front
// hands it to. It takes mail only for addresses that were given out.
package inbound

import (
	"cmp"
	"context"
	"errors"
	"io"
	"log/slog"
	"maps"
	"net"
	"os"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"syscall"
	"time"

	"github.com/emersion/go-smtp"

	"corrim/internal/app"
	"corrim/internal/trace"
)

const (
	mostBytes      = 5 << 20
	mostReceivers  = 20
	mostAtOnce     = 20               // connections
	longestSilence = 30 * time.Second // of whoever hands mail over
)

// House is what mail comes in for.
type House interface {
	TakesMailFor(address string) bool
	Arrive(ctx context.Context, m app.Arrived) error
}

// Serve takes mail until ctx ends. The address is host:port, or a path of a socket; "lmtp:" before it has LMTP spoken there.
func Serve(ctx context.Context, address string, house House, log *slog.Logger) error {
	address, local := strings.CutPrefix(address, "lmtp:")
	network := "tcp"
	if strings.HasPrefix(address, "/") {
		network = "unix"
		dropOldSocket(ctx, address)
	}
	listener, err := new(net.ListenConfig).Listen(ctx, network, address)
	if err != nil {
		return err
	}
	return ServeOn(ctx, listener, local, house, log)
}

// dropOldSocket removes a socket that a program which was killed has left behind; one that somebody listens at stays.
func dropOldSocket(ctx context.Context, path string) {
	connection, err := new(net.Dialer).DialContext(ctx, "unix", path)
	if err == nil {
		_ = connection.Close()
		return
	}
	if errors.Is(err, syscall.ECONNREFUSED) {
		_ = os.Remove(path) // if that fails, listening says why
	}
}

// ServeOn is Serve on a listener, which it closes.
func ServeOn(ctx context.Context, listener net.Listener, lmtp bool, house House, log *slog.Logger) error {
	server := smtp.NewServer(smtp.BackendFunc(func(*smtp.Conn) (smtp.Session, error) { return &session{ctx: ctx, house: house, log: log}, nil }))
	server.Domain, server.LMTP, server.MaxMessageBytes, server.MaxRecipients = "corrim", lmtp, mostBytes, mostReceivers
	server.ReadTimeout, server.WriteTimeout = longestSilence, longestSilence
	server.ErrorLog = quiet{}
	go func() {
		<-ctx.Done()
		_ = server.Close()
	}()
	err := server.Serve(&bounded{Listener: listener, most: mostAtOnce, open: map[*held]bool{}})
	if ctx.Err() != nil {
		return nil
	}
	return err
}

// quiet drops what the library says of connections that broke off: nothing can be done about them.
type quiet struct{}

func (quiet) Printf(string, ...any) {}
func (quiet) Println(...any)        {}

// bounded is a listener that holds only so many connections. One more takes the place of the one that has been silent longest, of those
// that never said anything first: who only holds the door open doesn't shut it. A server whose mail is broken off sends it again.
type bounded struct {
	net.Listener
	most int
	mu   sync.Mutex
	open map[*held]bool
}

// Accept makes room first.
func (b *bounded) Accept() (net.Conn, error) {
	connection, err := b.Listener.Accept()
	if err != nil {
		return nil, err
	}
	b.mu.Lock()
	defer b.mu.Unlock()
	if len(b.open) >= b.most {
		longest := slices.MinFunc(slices.Collect(maps.Keys(b.open)), func(x, y *held) int { return cmp.Compare(x.heard.Load(), y.heard.Load()) })
		delete(b.open, longest)
		_ = longest.Conn.Close()
	}
	h := &held{Conn: connection, from: b}
	h.heard.Store(time.Now().UnixNano() - int64(longestSilence)) // less than what has said anything
	b.open[h] = true
	return h, nil
}

// held is one of its connections; heard is when it last said something.
type held struct {
	net.Conn
	from  *bounded
	heard atomic.Int64
}

// Read keeps when something was heard.
func (h *held) Read(b []byte) (int, error) {
	n, err := h.Conn.Read(b)
	if n > 0 {
		h.heard.Store(time.Now().UnixNano())
	}
	return n, err
}

// Close gives the place back.
func (h *held) Close() error {
	h.from.mu.Lock()
	delete(h.from.open, h)
	h.from.mu.Unlock()
	return h.Conn.Close()
}

// session takes one conversation.
type session struct {
	ctx   context.Context
	house House
	log   *slog.Logger
	to    []string
}

var (
	errUnknown = &smtp.SMTPError{Code: 550, EnhancedCode: smtp.EnhancedCode{5, 1, 1}, Message: "There is no such address here"}
	errLater   = &smtp.SMTPError{Code: 451, EnhancedCode: smtp.EnhancedCode{4, 3, 0}, Message: "This can't be taken at the moment"}
)

// Reset forgets the mail under way.
func (s *session) Reset() { s.to = nil }

// Logout has nothing to do.
func (*session) Logout() error { return nil }

// Mail takes mail from anybody: whom it is for decides.
func (*session) Mail(string, *smtp.MailOptions) error { return nil }

// Rcpt refuses addresses that were not given out.
func (s *session) Rcpt(to string, _ *smtp.RcptOptions) error {
	if !s.house.TakesMailFor(to) {
		return errUnknown
	}
	s.to = append(s.to, to)
	return nil
}

// Data hands the mail in before it is acknowledged.
func (s *session) Data(r io.Reader) error {
	raw, err := io.ReadAll(r)
	if err != nil {
		return err
	}
	for _, to := range s.to {
		if err := s.arrive(to, raw); err != nil {
			return err
		}
	}
	return nil
}

// LMTPData is Data with an answer for each receiver (RFC 2033, 4.2).
func (s *session) LMTPData(r io.Reader, status smtp.StatusCollector) error {
	raw, err := io.ReadAll(r)
	if err != nil {
		return err
	}
	for _, to := range s.to {
		status.SetStatus(to, s.arrive(to, raw))
	}
	return nil
}

func (s *session) arrive(to string, raw []byte) error {
	mail := app.Arrived{Raw: raw}                                               // of what can't even be taken apart, all goes on as it is
	_ = trace.Guard(s.ctx, s.log, "reading a mail that came in", func() error { // it is logged
		mail = Read(raw)
		return nil
	})
	mail.To, _, _ = strings.Cut(to, "@")
	err := s.house.Arrive(s.ctx, mail)
	switch {
	case err == nil:
		return nil
	case errors.Is(err, app.ErrNoMailbox):
		return errUnknown
	}
	s.log.ErrorContext(s.ctx, "mail that came in", "error", err)
	return errLater
}
