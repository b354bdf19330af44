package app_test

import (
	"fmt"
	"strconv"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/internal/app"
	"corrim/internal/testhouse"
)

// solved is a puzzle with its answer, worked out here from what a client reads.
func solved(t *testing.T, h *testhouse.House) app.Solution {
	t.Helper()
	task, err := h.App.Puzzle(ctx, "quillmere", "survey")
	require.NoError(t, err)
	hour, minute, _ := strings.Cut(task.Begin, ":")
	hours, err := strconv.Atoi(hour)
	require.NoError(t, err)
	minutes, err := strconv.Atoi(minute)
	require.NoError(t, err)
	end := time.Date(2026, 5, 4, hours, minutes, 0, 0, time.UTC).Add(time.Duration(task.Minutes) * time.Minute)
	return app.Solution{Token: task.Token, Answer: end.Format("15:04")}
}

func TestAPuzzleStandsBeforeABooking(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	offers(t, h, func(c *app.OfferChange) { c.Proof = "puzzle" })
	book := func(at string, s app.Solution) (app.ClientBooking, error) {
		return bookFor(t, h, at, func(r *app.BookingRequest) { r.Puzzle = s })
	}
	complaint := func(err error) string { return refused(t, err, app.Invalid).Fields["puzzle"].Sentence }

	_, err := book("2026-05-05 10:00", app.Solution{})
	assert.Contains(t, complaint(err), "answer this")
	_, err = book("2026-05-05 10:00", app.Solution{Token: "3.1777.x.made-up", Answer: "10:15"})
	assert.Contains(t, complaint(err), "another one")
	right := solved(t, h)
	_, err = book("2026-05-05 10:00", app.Solution{Token: strings.Replace(right.Token, ".", "1.", 1), Answer: right.Answer})
	assert.Contains(t, complaint(err), "another one", "a token that was tampered with")

	wrong := solved(t, h)
	_, err = book("2026-05-05 10:00", app.Solution{Token: wrong.Token, Answer: "7:00"})
	assert.Contains(t, complaint(err), "not when it ends")
	_, err = book("2026-05-05 10:00", wrong)
	assert.Contains(t, complaint(err), "another one", "one wrong answer uses it up, so that it can't be guessed")

	// A refusal for another reason doesn't use it up: nothing is asked twice.
	_, err = bookFor(t, h, "2026-05-05 10:00", func(r *app.BookingRequest) { r.Puzzle, r.Name = right, "" })
	assert.NotEmpty(t, refused(t, err, app.Invalid).Fields["name"])
	_, err = book("2026-05-05 03:00", right)
	refused(t, err, app.Taken)
	b, err := book("2026-05-05 10:00", right)
	require.NoError(t, err)
	assert.Equal(t, "booked", b.State)
	again, err := book("2026-05-05 10:00", right)
	require.NoError(t, err)
	assert.Equal(t, b.Link, again.Link, "sent twice, it is the same booking")
	_, err = book("2026-05-06 10:00", right)
	assert.Contains(t, complaint(err), "another one", "each is good for one booking")

	late := solved(t, h)
	h.Pass(2 * time.Hour)
	_, err = book("2026-05-06 10:00", late)
	assert.Contains(t, complaint(err), "too long ago")
}

func TestGuessesSideBySideCountAsOne(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	offers(t, h, func(c *app.OfferChange) { c.Proof = "puzzle" })
	for _, guess := range []func(s app.Solution, n int) app.Solution{
		func(s app.Solution, n int) app.Solution { s.Answer = fmt.Sprintf("7:%02d", n); return s },
		func(s app.Solution, _ int) app.Solution { return s }, // the right one, for many times at once
	} {
		token := solved(t, h)
		answers := make([]error, 12)
		var wait sync.WaitGroup
		for n := range answers {
			wait.Go(func() {
				_, answers[n] = bookFor(t, h, fmt.Sprintf("2026-05-%02d 10:00", 11+n%5), func(r *app.BookingRequest) {
					r.Mail, r.Puzzle = fmt.Sprintf("guess%d@x.example", n), guess(token, n)
				})
			})
		}
		wait.Wait()
		first := 0
		for _, err := range answers {
			if err == nil || !strings.Contains(refused(t, err, app.Invalid).Fields["puzzle"].Sentence, "too long ago") {
				first++
			}
		}
		assert.Equal(t, 1, first)
	}
}

func TestPuzzlesDiffer(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	seen := map[string]bool{}
	for range 40 {
		task, err := h.App.Puzzle(ctx, "quillmere", "survey")
		require.NoError(t, err)
		seen[fmt.Sprint(task.Begin, task.Minutes)] = true
	}
	assert.Greater(t, len(seen), 20)
	_, err := h.App.Puzzle(ctx, "quillmere", "nothing")
	refused(t, err, app.NotFound)
}
