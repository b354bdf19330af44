package main

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/http/cookiejar"
	"os"
	"os/exec"
	"path/filepath"
	"syscall"
	"time"
)

var binary string

// house is a running demo.
type house struct {
	folder  string
	args    []string
	ports   [8]int // the program, calendars, inbox, rooms, SMTP, the museum, phones, mail that comes in
	command *exec.Cmd
	log     bytes.Buffer
	http    *http.Client
}

// build plants a demo in a folder of its own and waits until it answers.
func build(ctx context.Context, args ...string) (*house, error) {
	folder, err := os.MkdirTemp("", "corrim-trial")
	if err != nil {
		return nil, err
	}
	return buildIn(ctx, folder, args...)
}

func buildIn(ctx context.Context, folder string, args ...string) (*house, error) {
	h := &house{folder: folder, args: args}
	for i := range h.ports {
		port, err := freePort()
		if err != nil {
			return nil, err
		}
		h.ports[i] = port
	}
	jar, err := cookiejar.New(nil)
	if err != nil {
		return nil, err
	}
	h.http = &http.Client{Jar: jar, Timeout: time.Minute, Transport: &http.Transport{MaxIdleConnsPerHost: 64}}
	return h, h.start(ctx)
}

func freePort() (int, error) {
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return 0, err
	}
	port := listener.Addr().(*net.TCPAddr).Port
	return port, listener.Close()
}

func (h *house) address(i int) string { return fmt.Sprintf("127.0.0.1:%d", h.ports[i]) }

func (h *house) start(ctx context.Context) error {
	args := append([]string{
		"demo", "--data", filepath.Join(h.folder, "data"), "--addr", h.address(0), "--calendar-addr", h.address(1), "--inbox-addr", h.address(2),
		"--rooms-addr", h.address(3), "--museum-addr", h.address(5), "--phones-addr", h.address(6), "--smtp-addr", h.address(4), "--inbound-addr", h.address(7),
	}, h.args...)
	h.command = exec.Command(binary, args...)
	h.command.Stderr = &h.log
	if err := h.command.Start(); err != nil {
		return err
	}
	for began := time.Now(); time.Since(began) < 5*time.Minute; {
		if ctx.Err() != nil {
			return ctx.Err()
		}
		if status, _, err := h.get("/healthz"); err == nil && status == http.StatusOK {
			return nil
		}
		time.Sleep(20 * time.Millisecond)
	}
	return fmt.Errorf("the program did not start: %s", h.log.String())
}

// kill ends the program as a power cut does.
func (h *house) kill() error {
	if err := h.command.Process.Kill(); err != nil {
		return err
	}
	_ = h.command.Wait() // it was killed, and says so
	return nil
}

// close stops the program and takes its folder away.
func (h *house) close() {
	_ = h.command.Process.Signal(syscall.SIGINT)
	done := make(chan struct{})
	go func() { _ = h.command.Wait(); close(done) }()
	select {
	case <-done:
	case <-time.After(15 * time.Second):
		_ = h.command.Process.Kill()
	}
	_ = os.RemoveAll(h.folder)
}

func (h *house) get(path string) (status int, body []byte, err error) {
	return h.send("GET", path, nil)
}

func (h *house) send(method, path string, body any, header ...string) (status int, answer []byte, err error) {
	var text io.Reader
	if body != nil {
		packed, err := json.Marshal(body)
		if err != nil {
			return 0, nil, err
		}
		text = bytes.NewReader(packed)
	}
	request, err := http.NewRequest(method, "http://"+h.address(0)+path, text)
	if err != nil {
		return 0, nil, err
	}
	if body != nil {
		request.Header.Set("Content-Type", "application/json")
	}
	for i := 0; i < len(header); i += 2 {
		request.Header.Set(header[i], header[i+1])
	}
	response, err := h.http.Do(request)
	if err != nil {
		return 0, nil, err
	}
	defer func() { _ = response.Body.Close() }()
	answer, err = io.ReadAll(response.Body)
	return response.StatusCode, answer, err
}

// ask is a request that has to succeed, with its answer.
func ask[T any](h *house, method, path string, body any) (value T, err error) {
	status, answer, err := h.send(method, path, body)
	if err != nil {
		return value, err
	}
	if status > 299 {
		return value, fmt.Errorf("%s %s: %d %s", method, path, status, answer)
	}
	return value, json.Unmarshal(answer, &value)
}

// enter signs in as one of the demo's people.
func (h *house) enter(mail string) error {
	me, err := ask[struct {
		Demo []struct {
			ID   int64  `json:"id"`
			Mail string `json:"mail"`
		} `json:"demo"`
	}](h, "GET", "/api/me", nil)
	if err != nil {
		return err
	}
	for _, person := range me.Demo {
		if person.Mail == mail {
			_, err = ask[any](h, "POST", "/api/demo-session", map[string]any{"person": person.ID})
			return err
		}
	}
	return errors.New("there is nobody called " + mail)
}
