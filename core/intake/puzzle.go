package intake

import (
	"crypto/sha256"
	"math/bits"
)

// PuzzleBits is how hard the puzzle is that a client's browser solves: 65,536 hashes on average, which take a slow phone a second
// or two while the form is filled in, and whoever sends forms by the thousand hours.
const PuzzleBits = 16

// mostPuzzleAnswer bounds an answer, in bytes.
const mostPuzzleAnswer = 32

// SolvesPuzzle tells whether an answer solves the puzzle of a token: the SHA-256 (FIPS 180-4) of the token, a colon and the answer
// begins with at least PuzzleBits zero bits.
func SolvesPuzzle(token, answer string) bool {
	if answer == "" || len(answer) > mostPuzzleAnswer {
		return false
	}
	sum := sha256.Sum256([]byte(token + ":" + answer))
	zeros := 0
	for _, b := range sum {
		zeros += bits.LeadingZeros8(b)
		if b != 0 {
			break
		}
	}
	return zeros >= PuzzleBits
}
