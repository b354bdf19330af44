package intake_test

import (
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/intake"
)

func TestAPuzzleIsSolvedByAHashThatBeginsWithZeros(t *testing.T) {
	// FIPS 180-4's "abc" with its known hash shows that it is the hash that is meant.
	require.Equal(t, "ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad", fmt.Sprintf("%x", sha256.Sum256([]byte("abc"))))
	solved := 0
	for n := range 300_000 {
		answer := fmt.Sprint(n)
		sum := sha256.Sum256([]byte("a token:" + answer))
		want := strings.HasPrefix(hex.EncodeToString(sum[:]), strings.Repeat("0", intake.PuzzleBits/4))
		if got := intake.SolvesPuzzle("a token", answer); got != want {
			t.Fatalf("%s: %v", answer, got)
		} else if got {
			solved++
			assert.False(t, intake.SolvesPuzzle("another token", answer), "it is of no use for another one")
		}
	}
	assert.Positive(t, solved, "some of 300,000 solve it: all miss with a chance of 1 in 97")
	assert.False(t, intake.SolvesPuzzle("a token", ""))
	assert.False(t, intake.SolvesPuzzle("a token", strings.Repeat("1", 33)))
}
