package app_test

import (
	"crypto/sha256"
	"encoding/binary"
	"fmt"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/internal/app"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/testhouse"
)

// solved is a puzzle with its answer, as a browser finds it.
func solved(t *testing.T, h *testhouse.House) schedule.Solution {
	t.Helper()
	task, err := h.App.Puzzle(ctx, "quillmere", "survey")
	require.NoError(t, err)
	for n := 0; ; n++ {
		if sum := sha256.Sum256(fmt.Appendf(nil, "%s:%d", task.Token, n)); binary.BigEndian.Uint64(sum[:])>>(64-task.Bits) == 0 {
			return schedule.Solution{Token: task.Token, Answer: fmt.Sprint(n)}
		}
	}
}

func TestAPuzzleStandsBeforeABooking(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	offers(t, h, func(c *settings.BookingPageChange) { c.Proof = "puzzle" })
	book := func(at string, s schedule.Solution) (app.ClientBooking, error) {
		return bookFor(t, h, at, func(r *schedule.BookingRequest) { r.Puzzle = s })
	}
	complaint := func(err error) string { return refused(t, err, refusal.Invalid).Fields["puzzle"].Sentence }

	_, err := book("2026-05-05 10:00", schedule.Solution{})
	assert.Contains(t, complaint(err), "not solved yet")
	_, err = book("2026-05-05 10:00", schedule.Solution{Token: "1777.x.made-up", Answer: "10"})
	assert.Contains(t, complaint(err), "too long ago")
	right := solved(t, h)
	_, err = book("2026-05-05 10:00", schedule.Solution{Token: strings.Replace(right.Token, ".", "1.", 1), Answer: right.Answer})
	assert.Contains(t, complaint(err), "too long ago", "a token that was tampered with")
	_, err = book("2026-05-05 10:00", schedule.Solution{Token: right.Token, Answer: right.Answer + "0"})
	assert.Contains(t, complaint(err), "was not solved")

	// A refusal for another reason doesn't use it up: nothing is asked twice.
	_, err = bookFor(t, h, "2026-05-05 10:00", func(r *schedule.BookingRequest) { r.Puzzle, r.Name = right, "" })
	assert.NotEmpty(t, refused(t, err, refusal.Invalid).Fields["name"])
	_, err = book("2026-05-05 03:00", right)
	refused(t, err, refusal.Taken)
	b, err := book("2026-05-05 10:00", right)
	require.NoError(t, err)
	assert.Equal(t, "booked", b.State)
	again, err := book("2026-05-05 10:00", right)
	require.NoError(t, err)
	assert.Equal(t, b.Link, again.Link, "sent twice, it is the same booking")
	_, err = book("2026-05-06 10:00", right)
	assert.Contains(t, complaint(err), "too long ago", "each is good for one booking")

	late := solved(t, h)
	h.Pass(2 * time.Hour)
	_, err = book("2026-05-06 10:00", late)
	assert.Contains(t, complaint(err), "too long ago")
}

func TestASolvedPuzzleBooksOnceHoweverOftenItIsSentAtOnce(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	offers(t, h, func(c *settings.BookingPageChange) { c.Proof = "puzzle" })
	one := solved(t, h)
	answers := make([]error, 12)
	var wait sync.WaitGroup
	for n := range answers {
		wait.Go(func() {
			_, answers[n] = bookFor(t, h, fmt.Sprintf("2026-05-%02d 10:00", 11+n%5), func(r *schedule.BookingRequest) {
				r.Mail, r.Puzzle = fmt.Sprintf("guess%d@x.example", n), one
			})
		})
	}
	wait.Wait()
	first := 0
	for _, err := range answers {
		if err == nil || !strings.Contains(refused(t, err, refusal.Invalid).Fields["puzzle"].Sentence, "too long ago") {
			first++
		}
	}
	assert.Equal(t, 1, first)
}

func TestPuzzlesDiffer(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	seen := map[string]bool{}
	for range 40 {
		task, err := h.App.Puzzle(ctx, "quillmere", "survey")
		require.NoError(t, err)
		seen[task.Token] = true
	}
	assert.Len(t, seen, 40)
	_, err := h.App.Puzzle(ctx, "quillmere", "nothing")
	refused(t, err, refusal.NotFound)
}
