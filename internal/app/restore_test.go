package app_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"corrim/internal/testhouse"
)

// A copy of the database is put back while mails that went out since are remembered by their names, here and by mail servers.
func TestARestoredCopySwallowsNoMail(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	stop := h.Run()
	book(t, h, "2026-05-05 10:00")
	letters(t, h, "keeper@harbour.example", 1)
	stop()
	copied := h.Copy()
	h.Restart()
	stop = h.Run()
	book(t, h, "2026-05-05 14:00")
	letters(t, h, "keeper@harbour.example", 2)
	stop()

	h.Restore(copied)
	h.Run()
	h.Pass(time.Minute)
	book(t, h, "2026-05-05 15:00")
	again := letters(t, h, "keeper@harbour.example", 3)
	assert.Len(t, again, 3, "what is booked after the restore is told, though its job's number was given before")
	ids := map[string]bool{}
	for _, l := range h.Inbox.Letters() {
		assert.False(t, ids[l.MessageID], "%s names two mails", l.MessageID)
		ids[l.MessageID] = true
	}
}
