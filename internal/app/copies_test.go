package app_test

import (
	"context"
	"errors"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/internal/app"
	"corrim/internal/testhouse"
)

// refusing is a mail server that takes nothing for some addresses, and counts what it took for the others.
type refusing struct {
	mu    sync.Mutex
	taken map[string]int
}

func (r *refusing) Send(_ context.Context, m app.Mail) error {
	r.mu.Lock()
	defer r.mu.Unlock()
	if strings.HasSuffix(m.To.Mail, "@refused.example") {
		return errors.New("no such mailbox")
	}
	r.taken[m.To.Mail]++
	return nil
}

func (r *refusing) count(mail string) int {
	r.mu.Lock()
	defer r.mu.Unlock()
	return r.taken[mail]
}

func TestAGuestWhoseAddressIsRefusedRepeatsNobodysMail(t *testing.T) {
	h := testhouse.New(t)
	server := &refusing{taken: map[string]int{}}
	h.App.Mailer = server
	offers(t, h, func(c *app.OfferChange) { c.Guests, c.Always = 2, []string{"log@refused.example"} })
	h.Run()
	_, err := bookFor(t, h, "2026-05-05 10:00", func(r *app.BookingRequest) {
		r.Guests = []string{"nobody@refused.example", "friend@x.example"}
	})
	require.NoError(t, err)
	require.Eventually(t, func() bool { return server.count("friend@x.example") == 1 && server.count(h.Host.Mail) == 1 }, 5*time.Second, 10*time.Millisecond)
	require.Eventually(t, func() bool {
		waiting, err := h.App.Store.DueTasks(ctx, h.Now().Add(24*time.Hour).Unix())
		return err == nil && len(waiting) == 0
	}, 5*time.Second, 10*time.Millisecond, "nothing is tried again")
	assert.Equal(t, 1, server.count("keeper@harbour.example"))
	viewer := h.Host
	viewer.Role = app.Viewer
	_, err = h.App.MakeOneOff(ctx, viewer, app.NewOneOff{Type: h.Type.ID, Until: "2026-05-20", Mail: "c@x.example", Starts: []app.HandPicked{{Date: "2026-05-11", Minute: 600}}})
	refused(t, err, app.Forbidden)
	assert.Zero(t, server.count("c@x.example"), "who may not offer, mails nobody")
}
