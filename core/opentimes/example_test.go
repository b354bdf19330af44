package opentimes_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/opentimes"
)

// shown is what an example gains and loses, and its day.
func shown(t *testing.T, name string, r opentimes.BookingRules) (gained, lost int, day, says string) {
	t.Helper()
	e, found := r.Example(name, 30)
	require.True(t, found, name)
	span := e.Day.Span(time.UTC)
	d := opentimes.Compare(opentimes.Search(e.Without, span), opentimes.Search(e.With, span))
	return len(d.Gained), len(d.Lost), e.Day.String(), e.Says.Sentence
}

func TestEachGroupOfRulesShowsWhatItDoes(t *testing.T) {
	plain := opentimes.PlainRules(0, 30, 0, 0)
	for name, c := range map[string]struct {
		set          func(*opentimes.BookingRules)
		gained, lost int
		day          string
	}{
		"buffers": {func(r *opentimes.BookingRules) { r.After = 30 }, 0, 2, "2026-05-05"}, // 9:30, after which none is free, and 10:30
		"notice":  {func(r *opentimes.BookingRules) { r.Notice = 120 }, 0, 3, "2026-05-05"},
		"window":  {func(r *opentimes.BookingRules) { r.WindowDays = 10 }, 0, 14, "2026-05-16"},
		"limit": {func(r *opentimes.BookingRules) {
			r.Limits = []opentimes.TypeLimit{{Of: "type", Per: "day", Count: 2}}
		}, 0, 12, "2026-05-05"},
		"step":     {func(r *opentimes.BookingRules) { r.Step = 10 }, 0, 0, "2026-05-05"},
		"holidays": {func(r *opentimes.BookingRules) { r.Holidays = []int64{1} }, 0, 13, "2026-05-05"},
	} {
		set := plain
		c.set(&set)
		gained, lost, day, says := shown(t, name, set)
		if name == "step" { // every 10 minutes instead of every 15: both come and go
			assert.Positive(t, gained)
			assert.Positive(t, lost)
		} else {
			assert.Equal(t, []int{c.gained, c.lost}, []int{gained, lost}, name)
		}
		assert.Equal(t, c.day, day, name)
		assert.NotEmpty(t, says, name)
		if name != "step" {
			_, lost, _, says = shown(t, name, plain)
			assert.Zero(t, lost, name)
			assert.Contains(t, says, "nothing is refused", name)
		}
	}
	nextMorning := plain
	nextMorning.Notice = 24 * 60
	_, lost, day, _ := shown(t, "notice", nextMorning)
	assert.Equal(t, []any{13, "2026-05-05"}, []any{lost, day}, "the last day on which it takes something")
	late := plain
	late.After = 5
	_, _, _, says := shown(t, "step", late)
	assert.NotContains(t, says, "no difference", "every half hour instead of every quarter")
	late.Step = 15
	_, _, _, says = shown(t, "step", late)
	assert.Contains(t, says, "makes no difference")
	for _, group := range plain.Groups() {
		_, found := plain.Example(group.Name, 30)
		assert.True(t, found, group.Name)
	}
	_, found := plain.Example("no such group", 30)
	assert.False(t, found)
}
