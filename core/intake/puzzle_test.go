package intake_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"corrim/core/intake"
)

func TestAPuzzleIsSolvedHoweverTheTimeIsWritten(t *testing.T) {
	p := intake.Puzzle{Begin: 12*60 + 40, Minutes: 25}
	assert.Equal(t, "12:40", p.Clock())
	for _, answer := range []string{"13:05", " 13.05 ", "1305", "13h05", "13 Uhr 05", "um 13:05", "1:05 pm", "1.05 p.m.", "1:05pm", "13:05 pm"} {
		assert.True(t, p.Solved(answer), answer)
	}
	for _, answer := range []string{"", "13", "05", "12:40", "13:06", "1:05", "1:05 am", "13:5", "25", "13:05:00", "113:05", "-", "13:65", "½", "99999999999999999999:05"} {
		assert.False(t, p.Solved(answer), answer)
	}
}

func TestEveryPuzzleEndsOnItsDayAndIsItsOwn(t *testing.T) {
	seen := map[string]bool{}
	for n := range intake.Puzzles {
		p := intake.NthPuzzle(n)
		end := p.Begin + p.Minutes
		assert.Less(t, end, 24*60)
		assert.True(t, p.Solved(fmt.Sprintf("%d:%02d", end/60, end%60)))
		seen[fmt.Sprint(p)] = true
	}
	assert.Len(t, seen, intake.Puzzles)
}
