package told_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"corrim/core/told"
)

func TestWhatDiffersStandsInTheSentenceAndBesideIt(t *testing.T) {
	w := told.ClientFull.With("5", "Quillmere {} & Co")
	assert.Equal(t, "client-full", w.Code)
	assert.Equal(t, []any{"5", "Quillmere {} & Co"}, w.With)
	assert.Equal(t, "At most 5 of these meetings can be booked ahead with one mail address. Move or cancel one of yours instead. If you need more, write to Quillmere {} & Co.", w.Sentence)
	assert.False(t, told.Words{}.Any())
}

func TestADeadlineIsSaidInItsLargestUnit(t *testing.T) {
	for until, want := range map[int]string{
		-1: "move-never", 0: "move-until-start", 1: "move-until-minute", 90: "move-until-minutes", 60: "move-until-hour",
		24 * 60: "move-until-hours", 48 * 60: "move-until-days",
	} {
		assert.Equal(t, want, told.Moving.Passed(until).Code, "%d minutes", until)
	}
	assert.Contains(t, told.Moving.Passed(24*60).Sentence, "24 hours before", "a day may have 23 hours")
	assert.Contains(t, told.Cancelling.Passed(72*60).Sentence, "cancelled until 3 days before")
}
