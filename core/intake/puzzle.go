package intake

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"
)

// Puzzle asks when a meeting ends. It keeps scripts away that only send forms, and takes a person a moment; it is words, so
// whoever can read the form can read it.
type Puzzle struct {
	Begin   int // minutes past midnight
	Minutes int // how long the meeting lasts
}

// The kinds of puzzles there are: begins from 8:00 on every five minutes until 16:55, lengths from 15 to 70 minutes.
const (
	puzzleBegins  = 108
	puzzleLengths = 12
)

// Puzzles is how many different ones there are.
const Puzzles = puzzleBegins * puzzleLengths

// NthPuzzle is one of them, n from 0 to Puzzles - 1.
func NthPuzzle(n int) Puzzle {
	return Puzzle{Begin: 8*60 + n%puzzleBegins*5, Minutes: 15 + n/puzzleBegins*5}
}

// Clock is when the meeting begins, like 10:40.
func (p Puzzle) Clock() string { return fmt.Sprintf("%d:%02d", p.Begin/60, p.Begin%60) }

var (
	figures   = regexp.MustCompile(`\d+`)
	afternoon = regexp.MustCompile(`(?i)p\.?\s?m\b`)
)

// Solved tells whether an answer is when the meeting ends, however it is written: 13:05, 13.05, 1305, 13h05, 1:05 pm.
func (p Puzzle) Solved(answer string) bool {
	hour, minute, ok := clockIn(answer)
	if !ok {
		return false
	}
	if hour < 12 && afternoon.MatchString(answer) {
		hour += 12
	}
	return hour*60+minute == p.Begin+p.Minutes
}

// clockIn finds the one time of day in a text.
func clockIn(text string) (hour, minute int, ok bool) {
	found := figures.FindAllString(strings.TrimSpace(text), 3)
	if len(found) == 1 && len(found[0]) >= 3 && len(found[0]) <= 4 {
		at := len(found[0]) - 2
		found = []string{found[0][:at], found[0][at:]}
	}
	if len(found) != 2 || len(found[0]) > 2 || len(found[1]) != 2 {
		return 0, 0, false
	}
	hour, _ = strconv.Atoi(found[0]) // two figures at most
	minute, _ = strconv.Atoi(found[1])
	return hour, minute, hour < 24 && minute < 60
}
