package schedule

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
)

// On the first of the month in Auckland it is still the last of the month before in UTC.
func TestALedgersPeriodTurnsByTheWorkspacesClock(t *testing.T) {
	p := pool{Period: "month", People: []Person{{Home: Home{Workspace: Workspace{Zone: "Pacific/Auckland"}}}}}
	now := time.Date(2026, 5, 31, 20, 0, 0, 0, time.UTC) // 1 June, 8:00
	assert.Equal(t, "2026-06-01 00:00 +1200", p.Since(now).Format("2006-01-02 15:04 -0700"))
}
