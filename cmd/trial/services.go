package main

import (
	"fmt"
	"io"
	"net"
	"net/http"
	"sync/atomic"
	"time"

	"corrim/internal/standin/calendar"
	"corrim/internal/standin/mail"
	"corrim/internal/standin/rooms"
)

// A service is well, refuses to be connected, says nothing, or answers with nonsense.
const (
	well int32 = iota
	refuses
	hangs
	lies
)

var moodWords = map[int32]string{refuses: "refused", hangs: "hanging", lies: "lying"}

// services are the stand-ins, in this process, so that they outlive the program that is killed.
type services struct {
	calendars           *calendar.Server
	inbox               *mail.Server
	rooms               *rooms.Server
	calendarMood        atomic.Int32
	mailMood, roomsMood atomic.Int32
	calendarAt, mailAt  string
	roomsAt             string
	roomsMade           atomic.Int64
	closers             []io.Closer
}

func newServices() (*services, error) {
	s := &services{}
	var err error
	if s.calendars, err = calendar.New("", time.Now); err != nil {
		return nil, err
	}
	if s.inbox, err = mail.New(""); err != nil {
		return nil, err
	}
	if s.calendarAt, err = s.serve(s.calendars, &s.calendarMood); err != nil {
		return nil, err
	}
	if s.rooms, err = rooms.New("http://rooms.example", "trial", "", time.Now); err != nil {
		return nil, err
	}
	counted := http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.Method == http.MethodPut {
			s.roomsMade.Add(1)
		}
		s.rooms.ServeHTTP(w, r)
	})
	if s.roomsAt, err = s.serve(counted, &s.roomsMood); err != nil {
		return nil, err
	}
	s.mailAt, err = s.serveMail()
	return s, err
}

// serve serves HTTP as a mood has it.
func (s *services) serve(next http.Handler, mood *atomic.Int32) (string, error) {
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return "", err
	}
	moody := http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		switch mood.Load() {
		case refuses:
			if connection, _, err := w.(http.Hijacker).Hijack(); err == nil {
				_ = connection.Close()
			}
		case hangs:
			<-r.Context().Done()
		case lies:
			_, _ = io.WriteString(w, "<!doctype html><title>Welcome to the hotel's network</title>")
		default:
			next.ServeHTTP(w, r)
		}
	})
	server := &http.Server{Handler: moody, ReadHeaderTimeout: time.Minute}
	s.closers = append(s.closers, server)
	go func() { _ = server.Serve(listener) }()
	return listener.Addr().String(), nil
}

// serveMail lets the mail server's connections through as its mood has it.
func (s *services) serveMail() (string, error) {
	inside, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return "", err
	}
	outside, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return "", err
	}
	s.closers = append(s.closers, s.inbox.SMTP, outside)
	go func() { _ = s.inbox.SMTP.Serve(inside) }()
	go func() {
		for {
			connection, err := outside.Accept()
			if err != nil {
				return
			}
			go s.passOn(connection, inside.Addr().String())
		}
	}()
	return outside.Addr().String(), nil
}

func (s *services) passOn(connection net.Conn, to string) {
	defer func() { _ = connection.Close() }()
	switch s.mailMood.Load() {
	case refuses:
		return
	case hangs:
		time.Sleep(30 * time.Second)
		return
	case lies:
		_, _ = fmt.Fprint(connection, "HTTP/1.1 200 OK\r\n\r\nWelcome to the hotel's network\r\n")
		return
	}
	server, err := net.Dial("tcp", to)
	if err != nil {
		return
	}
	defer func() { _ = server.Close() }()
	go func() { _, _ = io.Copy(server, connection); _ = server.Close() }()
	_, _ = io.Copy(connection, server)
}

func (s *services) close() {
	for _, closer := range s.closers {
		_ = closer.Close()
	}
}
