package app_test

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/internal/app"
	"corrim/internal/identity"
	"corrim/internal/public"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/testhouse"
)

// refusing is a mail server that takes nothing for some addresses until it relents, and counts what it took.
type refusing struct {
	mu      sync.Mutex
	taken   map[string]int
	relents bool
	no      int // how often it has refused
}

func (r *refusing) Send(_ context.Context, m app.Mail) error {
	r.mu.Lock()
	defer r.mu.Unlock()
	if strings.HasSuffix(m.To.Mail, "@refused.example") && !r.relents {
		r.no++
		return errors.New("There is no such mailbox.")
	}
	r.taken[m.To.Mail]++
	return nil
}

func (r *refusing) refused() int {
	r.mu.Lock()
	defer r.mu.Unlock()
	return r.no
}

func (r *refusing) count(mail string) int {
	r.mu.Lock()
	defer r.mu.Unlock()
	return r.taken[mail]
}

func TestAGuestWhoseAddressIsRefusedRepeatsNobodysMail(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	server := &refusing{taken: map[string]int{}}
	h.App.Mailer = server
	offers(t, h, func(c *settings.BookingPageChange) { c.Guests, c.Always = 2, []string{"log@refused.example"} })
	stop := h.Run()
	_, err := bookFor(t, h, "2026-05-05 10:00", func(r *schedule.BookingRequest) {
		r.Guests = []string{"nobody@refused.example", "friend@x.example"}
	})
	require.NoError(t, err)
	once := func() bool { return server.count("friend@x.example") == 1 && server.count(h.Host.Mail) == 1 }
	require.Eventually(t, once, time.Minute, 10*time.Millisecond)
	shown := func() string {
		today, err := h.App.Today(ctx, h.Host)
		require.NoError(t, err)
		return fmt.Sprint(today.Troubles)
	}
	require.Eventually(t, func() bool {
		return strings.Contains(shown(), "nobody@refused.example: There is no such mailbox.") && strings.Contains(shown(), "log@refused.example")
	}, time.Minute, 10*time.Millisecond)
	assert.Contains(t, shown(), "Some mail about the meeting of Harbour Maritime could not be sent yet")
	later := func() { // a worker that starts does what is due
		stop()
		h.Pass(7 * time.Hour)
		stop = h.Run()
	}
	refusals := server.refused()
	for range 3 {
		later()
		require.Eventually(t, func() bool { return server.refused() > refusals }, time.Minute, 5*time.Millisecond)
		refusals = server.refused()
	}
	assert.True(t, once(), "whoever has had their mail gets it once, however often the rest is tried")
	assert.Equal(t, 1, server.count("keeper@harbour.example"))

	server.mu.Lock()
	server.relents = true
	server.mu.Unlock()
	later()
	require.Eventually(t, func() bool {
		return server.count("nobody@refused.example") == 1 && server.count("log@refused.example") == 1
	}, time.Minute, 10*time.Millisecond, "what was refused is tried again")
	assert.True(t, once())
	require.Eventually(t, func() bool { return !strings.Contains(shown(), "mailbox") }, time.Minute, 10*time.Millisecond)
	viewer := h.Host
	viewer.Role = identity.Viewer
	_, err = h.App.MakeOneOff(ctx, viewer, app.NewOneOff{Type: h.Type.ID, Until: "2026-05-20", Mail: "c@x.example", Starts: []public.HandPicked{{Date: "2026-05-11", Minute: 600}}})
	refused(t, err, refusal.Forbidden)
	assert.Zero(t, server.count("c@x.example"), "who may not offer, mails nobody")
}
