package testhouse

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"corrim/internal/refusal"
	mailbox "corrim/internal/standin/mail"
)

// Refused is the refusal that an error has to be.
func Refused(t testing.TB, err error, kind refusal.Kind) *refusal.Refusal {
	t.Helper()
	var r *refusal.Refusal
	require.ErrorAs(t, err, &r)
	require.Equal(t, kind, r.Kind)
	return r
}

// Letters waits for mail to somebody and returns it.
func Letters(t testing.TB, h *House, to string, count int) []*mailbox.Letter {
	t.Helper()
	var found []*mailbox.Letter
	require.Eventually(t, func() bool {
		found = nil
		for _, l := range h.Inbox.Letters() {
			if strings.Contains(l.To, to) {
				found = append(found, l)
			}
		}
		return len(found) >= count
	}, time.Minute, 10*time.Millisecond, "mail to %s", to)
	return found
}
