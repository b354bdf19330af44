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

// Letters waits for mail to somebody, and until all that can be done by now is, so that what follows overtakes nothing; then it returns
// that mail.
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
		return len(found) >= count && (!h.running.Load() || h.settles())
	}, time.Minute, 10*time.Millisecond, "mail to %s", to)
	return found
}
