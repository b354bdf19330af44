package waiting_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"corrim/core/waiting"
)

func TestASeatIsKeptForAShorterTimeTheNearerTheStartIs(t *testing.T) {
	const usual = 12 * time.Hour
	for left, hold := range map[time.Duration]time.Duration{
		30 * 24 * time.Hour: usual,
		48 * time.Hour:      usual,
		24 * time.Hour:      6 * time.Hour,
		2 * time.Hour:       30 * time.Minute,
		61 * time.Minute:    15 * time.Minute,
		30 * time.Minute:    15 * time.Minute,
		29 * time.Minute:    0,
		-time.Hour:          0,
	} {
		assert.Equal(t, hold, waiting.Hold(usual, left), left)
	}
	assert.Equal(t, time.Hour, waiting.Hold(time.Hour, 48*time.Hour))
}

// Whatever is left and whoever doesn't answer: the last one who is offered a seat has it before the meeting starts.
func TestOneOfferAfterTheOtherEndsBeforeTheStart(t *testing.T) {
	for left := 14 * 24 * time.Hour; ; {
		hold := waiting.Hold(12*time.Hour, left)
		if hold == 0 {
			assert.Less(t, left, 30*time.Minute)
			return
		}
		assert.Less(t, hold, left)
		left -= hold
	}
}
