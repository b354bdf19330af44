package main

import (
	"bytes"
	"context"
	"fmt"
	"strings"
	"time"
)

// looks is every screen's and client's request, as the screens send them.
func looks(types string) []string {
	day := time.Now().AddDate(0, 0, 1)
	from, to := day.UTC().Format(time.RFC3339), day.AddDate(0, 0, 35).UTC().Format(time.RFC3339)
	return []string{
		"/p/quillmere/loan-call", "/api/public/quillmere", "/api/public/quillmere/loan-call", "/api/public/quillmere/loan-call/open?from=" + from + "&to=" + to,
		"/api/today", "/api/board?from=" + day.Format(time.DateOnly) + "&days=7", "/api/board?from=" + day.Format(time.DateOnly) + "&days=7&everybody=true",
		"/api/find?search=mu", "/api/find?search=nordic%20mus", "/api/types/facts?id=" + types + "&id=1&id=3&id=4&id=5&id=6&id=7&id=8&id=9&id=10",
		"/api/board/skyline?from=" + day.Format(time.DateOnly), "/api/board/skyline?from=" + day.Format(time.DateOnly) + "&everybody=true",
		"/api/clients", "/api/known-clients", "/api/staff", "/api/workspace", "/api/types?all=true", "/api/types/" + types + "/routing", "/api/types/" + types + "/booking-page",
		"/api/types/" + types + "/reasons/" + day.Format(time.DateOnly) + "?minute=600",
		"/api/hours", "/api/week-plans", "/api/calendars", "/api/history", "/api/one-offs", "/api/sessions", "/api/feeds",
	}
}

const growthLimit = 1.5

// growth holds every look at a demo with years of use against one without.
func growth(ctx context.Context, r *report) error {
	small, err := build(ctx)
	if err != nil {
		return err
	}
	defer small.close()
	large, err := build(ctx, "--grow", "200")
	if err != nil {
		return err
	}
	defer large.close()
	for _, h := range []*house{small, large} {
		if err := h.enter("ines@quillmere.example"); err != nil {
			return err
		}
	}
	if err := gathered(ctx, large); err != nil {
		return err
	}
	var slow int
	for _, path := range looks("2") {
		before, _, err := timed(small, path)
		if err != nil {
			return err
		}
		after, size, err := timed(large, path)
		if err != nil {
			return err
		}
		ratio := float64(after) / float64(before)
		mark := ""
		if ratio > growthLimit && after-before > time.Millisecond {
			mark, slow = "  above", slow+1
		}
		r.add("growth: GET "+named(path), "%6.1f → %6.1f ms  × %.1f  %5d kB%s", ms(before), ms(after), ratio, size/1000, mark)
	}
	before, after, err := bookBoth(small, large)
	if err != nil {
		return err
	}
	r.add("growth: booking", "%6.1f → %6.1f ms  × %.1f", ms(before), ms(after), float64(after)/float64(before))
	r.add("growth: looks above × 1.5", "%d", slow)
	return nil
}

// gathered waits until what coordinators are told of a large team is known.
func gathered(ctx context.Context, h *house) error {
	for ctx.Err() == nil {
		status, body, err := h.get("/api/today")
		if err != nil || status != 200 {
			return fmt.Errorf("GET /api/today: %d %w", status, err)
		}
		if !bytes.Contains(body, []byte(`"gathering":true`)) {
			return nil
		}
		time.Sleep(100 * time.Millisecond)
	}
	return ctx.Err()
}

func named(path string) string {
	path, query, _ := strings.Cut(path, "?")
	if strings.Contains(query, "everybody=true") {
		return path + " (everybody)"
	}
	return path
}

func ms(d time.Duration) float64 { return float64(d.Microseconds()) / 1000 }

// timed is the median of several looks, and how much comes.
func timed(h *house, path string) (time.Duration, int, error) {
	const times = 9
	var all []time.Duration
	size := 0
	for i := range times + 1 {
		began := time.Now()
		status, body, err := h.get(path)
		if err != nil || status != 200 {
			return 0, 0, fmt.Errorf("GET %s: %d %w", path, status, err)
		}
		if i > 0 { // the first one warms up
			all = append(all, time.Since(began))
		}
		size = len(body)
	}
	return median(all), size, nil
}

// bookBoth books the same in both.
func bookBoth(small, large *house) (before, after time.Duration, err error) {
	if before, err = bookings(small, 15); err == nil {
		after, err = bookings(large, 15)
	}
	return before, after, err
}

func bookings(h *house, n int) (time.Duration, error) {
	starts, err := openStarts(h, "loan-call")
	if err != nil {
		return 0, err
	}
	var all []time.Duration
	for i, start := range starts {
		if len(all) == n {
			break
		}
		if i%3 > 0 {
			continue // its neighbours are closed by it
		}
		began := time.Now()
		if status, answer, err := book(h, "loan-call", start, fmt.Sprintf("growth-%d@x.example", i), fmt.Sprintf("growth key %d %d", i, began.UnixNano())); err != nil || status > 299 {
			if status == 409 {
				continue
			}
			return 0, fmt.Errorf("booking: %d %s %w", status, answer, err)
		}
		all = append(all, time.Since(began))
	}
	if len(all) == 0 {
		return 0, fmt.Errorf("nothing could be booked")
	}
	return median(all), nil
}

func openStarts(h *house, slug string) ([]time.Time, error) {
	now := time.Now().UTC()
	open, err := ask[struct {
		Starts []time.Time `json:"starts"`
	}](h, "GET", "/api/public/quillmere/"+slug+"/open?from="+now.Format(time.RFC3339)+"&to="+now.AddDate(0, 0, 40).Format(time.RFC3339), nil)
	return open.Starts, err
}

func book(h *house, slug string, start time.Time, mail, key string) (int, []byte, error) {
	return h.send("POST", "/api/public/quillmere/"+slug+"/bookings", map[string]any{"start": start, "name": "Trial", "mail": mail, "zone": "UTC"}, "Idempotency-Key", key)
}
