package main

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"net/http/cookiejar"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"corrim/internal/standin/calendar"
)

// rig is an installation with one host who is open day and night, and services that can be made to fail.
type rig struct {
	*house
	services *services
	types    []string
	mu       sync.Mutex
	told     map[string]booked // what clients were told, by link
	from     atomic.Int64      // whence a request seems to come
}

// booked is what a client was told.
type booked struct {
	Link  string    `json:"link"`
	State string    `json:"state"`
	Start time.Time `json:"start"`
	mail  string
}

const password = "a trial of lamps and rain"

func newRig(ctx context.Context, types int) (*rig, error) {
	folder, err := os.MkdirTemp("", "corrim-trial")
	if err != nil {
		return nil, err
	}
	return newRigIn(ctx, folder, types)
}

func newRigIn(ctx context.Context, folder string, types int) (*rig, error) {
	s, err := newServices()
	if err != nil {
		return nil, err
	}
	port, err := freePort()
	if err != nil {
		return nil, err
	}
	jar, err := cookiejar.New(nil)
	if err != nil {
		return nil, err
	}
	r := &rig{
		house: &house{folder: folder, http: &http.Client{Jar: jar, Timeout: time.Minute, Transport: &http.Transport{MaxIdleConnsPerHost: 128}}}, services: s, told: map[string]booked{},
	}
	r.ports[0] = port
	setup := exec.CommandContext(ctx, binary, "setup", "--data", r.data(), "--workspace", "trial", "--title", "Trial", "--name", "Ann Host", "--mail", "ann@trial.example", "--zone", "UTC")
	setup.Env = append(os.Environ(), "CORRIM_PASSWORD="+password)
	if said, err := setup.CombinedOutput(); err != nil {
		return nil, fmt.Errorf("setting up: %w: %s", err, said)
	}
	if err := r.begin(ctx); err != nil {
		return nil, err
	}
	return r, r.furnish(types)
}

func (r *rig) data() string { return filepath.Join(r.folder, "data") }

// begin starts the program and waits until it answers.
func (r *rig) begin(ctx context.Context) error {
	if err := r.serve(); err != nil {
		return err
	}
	return r.answers(ctx)
}

func (r *rig) serve() error {
	r.log.Reset()
	r.command = exec.Command(binary, "serve", "--data", r.data(), "--addr", r.address(0), "--smtp", r.services.mailAt, "--mail-from", "bookings@trial.example",
		"--rooms", "http://"+r.services.roomsAt, "--rooms-token", "trial", "--allow-private", "--behind-proxy")
	r.command.Stderr = &r.log
	return r.command.Start()
}

func (r *rig) answers(ctx context.Context) error {
	for began := time.Now(); time.Since(began) < time.Minute && ctx.Err() == nil; time.Sleep(10 * time.Millisecond) {
		if status, _, err := r.get("/healthz"); err == nil && status == http.StatusOK {
			return nil
		}
	}
	return fmt.Errorf("the program does not answer: %s", r.log.String())
}

func (r *rig) furnish(types int) error {
	if err := r.signIn(); err != nil {
		return err
	}
	week := make([]map[string]string, 7)
	for i := range week {
		week[i] = map[string]string{"text": "0-24"}
	}
	if _, err := ask[any](r.house, "PUT", "/api/hours", map[string]any{"plan": 0, "week": week}); err != nil {
		return err
	}
	for i := range types {
		slug := fmt.Sprintf("type-%d", i)
		_, err := ask[any](r.house, "POST", "/api/types", map[string]any{
			"name": "Type " + slug, "slug": slug, "description": "",
			"rules": map[string]any{"duration": 15, "before": 0, "after": 0, "step": 15, "notice": 0, "noticeInDays": false, "windowDays": 300},
		})
		if err != nil {
			return err
		}
		r.types = append(r.types, slug)
	}
	if _, err := r.services.calendars.AddUser(calendar.User{Name: "ann", FullName: "Ann Host", Mail: "ann@trial.example", Zone: "UTC", Password: "light"}, "Work"); err != nil {
		return err
	}
	_, err := ask[any](r.house, "POST", "/api/calendar-accounts", map[string]any{"address": "http://" + r.services.calendarAt, "username": "ann", "password": "light"})
	return err
}

func (r *rig) signIn() error {
	_, err := ask[any](r.house, "POST", "/api/session", map[string]any{"mail": "ann@trial.example", "password": password})
	return err
}

// slot is the nth quarter of an hour from tomorrow on.
func (r *rig) slot(n int) time.Time {
	return time.Now().UTC().Truncate(24*time.Hour).AddDate(0, 0, 1).Add(time.Duration(n) * 15 * time.Minute)
}

// book books a slot and keeps what the client was told.
func (r *rig) book(slug string, slot int, mail, key string) (status int, err error) {
	from := r.from.Add(1)
	status, answer, err := r.send("POST", "/api/public/trial/"+slug+"/bookings", map[string]any{"start": r.slot(slot), "name": "Client", "mail": mail, "zone": "UTC"},
		"Idempotency-Key", key, "X-Forwarded-For", fmt.Sprintf("10.%d.%d.%d", from>>16&255, from>>8&255, from&255))
	if err != nil || status != http.StatusOK {
		return status, err
	}
	var told booked
	if err := json.Unmarshal(answer, &told); err != nil {
		return status, err
	}
	told.mail = mail
	r.mu.Lock()
	defer r.mu.Unlock()
	r.told[told.Link] = told
	return status, nil
}

// settled waits until nothing is left to be done, by the mails: every client who was told of a booking has theirs.
func (r *rig) settled(ctx context.Context, limit time.Duration) (missing int) {
	for began := time.Now(); time.Since(began) < limit && ctx.Err() == nil; time.Sleep(200 * time.Millisecond) {
		if missing = r.missing(); missing == 0 {
			time.Sleep(time.Second) // for what comes with them
			return 0
		}
	}
	return missing
}

func (r *rig) missing() (missing int) {
	sent := r.mails()
	r.mu.Lock()
	defer r.mu.Unlock()
	for _, b := range r.told {
		if sent[b.mail] == 0 {
			missing++
		}
	}
	return missing
}

// mails counts the messages to each address, by their names.
func (r *rig) mails() map[string]int {
	count := map[string]int{}
	for _, l := range r.services.inbox.Letters() {
		count[address(l.To)]++
	}
	return count
}

func address(to string) string {
	_, in, found := strings.Cut(to, "<")
	if !found {
		return to
	}
	in, _, _ = strings.Cut(in, ">")
	return in
}

// verified holds what clients were told against the database, the mails, the entries and the rooms.
type verified struct {
	lost, overlaps, noMail, surplus, noEntry, noRoom int
}

func (r *rig) verify(ctx context.Context) (v verified, err error) {
	r.mu.Lock()
	told := make([]booked, 0, len(r.told))
	for _, b := range r.told {
		told = append(told, b)
	}
	r.mu.Unlock()
	sent := r.mails()
	texts := strings.Join(r.services.calendars.Texts("ann", 0), "\n")
	starts := map[time.Time]int{}
	for _, b := range told {
		if ctx.Err() != nil {
			return v, ctx.Err()
		}
		status, answer, err := r.get("/api/bookings/" + strings.TrimPrefix(b.Link, "/b/"))
		if err != nil {
			return v, err
		}
		var now struct {
			State   string    `json:"state"`
			Start   time.Time `json:"start"`
			JoinURL string    `json:"joinUrl"`
		}
		_ = json.Unmarshal(answer, &now) // a refusal has none of it
		if status != 200 || now.State != "booked" || !now.Start.Equal(b.Start) {
			v.lost++
			continue
		}
		starts[now.Start]++
		v.noRoom += number(now.JoinURL == "")
		v.noMail += number(sent[b.mail] == 0)
		v.surplus += max(0, sent[b.mail]-1)
		v.noEntry += number(!strings.Contains(texts, "DTSTART:"+b.Start.UTC().Format("20060102T150405Z")) && !strings.Contains(texts, b.Start.UTC().Format("20060102T150405")))
	}
	for _, n := range starts {
		v.overlaps += number(n > 1)
	}
	return v, nil
}

func number(is bool) int {
	if is {
		return 1
	}
	return 0
}

func (v verified) String() string {
	return fmt.Sprintf("%d lost, %d overlaps, %d without mail, %d surplus mails, %d without entry, %d without room", v.lost, v.overlaps, v.noMail, v.surplus, v.noEntry, v.noRoom)
}

// sound tells whether nothing is lost or doubled.
func (v verified) sound() error {
	if v.lost+v.overlaps+v.noMail+v.noEntry+v.noRoom > 0 {
		return fmt.Errorf("not as clients were told: %s", v)
	}
	return nil
}

func (r *rig) end() {
	r.close()
	r.services.close()
}
