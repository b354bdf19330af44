package app

import (
	"context"
	"crypto/hmac"
	"crypto/rand"
	"fmt"
	"maps"
	"math/big"
	"strings"
	"sync"
	"time"

	"corrim/core/intake"
	"corrim/core/told"
)

// puzzleTime is how long a puzzle can be answered, from its asking to the booking.
const puzzleTime = time.Hour

// PuzzleTask is a puzzle as a client's page asks it: when does a meeting end that begins then and lasts so long?
type PuzzleTask struct {
	Begin   string `json:"begin" doc:"Like 10:40."`
	Minutes int    `json:"minutes"`
	Token   string `json:"token" doc:"Goes back with the answer."`
}

// Solution is a client's answer to a puzzle.
type Solution struct {
	Token  string `json:"token" maxLength:"100"`
	Answer string `json:"answer" maxLength:"100"`
}

// puzzles makes puzzles and takes answers. A puzzle is in its token, which only this installation can make; what is kept, until
// they are too old, is which were used up and by which request.
type puzzles struct {
	secrets secrets
	mu      sync.Mutex
	spent   map[string]spending
}

type spending struct {
	request string // that it was answered for; none after a wrong answer
	until   time.Time
}

// Puzzle asks a fresh one, for a type that wants it.
func (a *App) Puzzle(ctx context.Context, workspace, slug string) (PuzzleTask, error) {
	if _, err := a.offered(ctx, a.Store.Queries, workspace, slug); err != nil {
		return PuzzleTask{}, err
	}
	return a.puzzles.ask(a.Now())
}

func (p *puzzles) ask(now time.Time) (PuzzleTask, error) {
	n, err := rand.Int(rand.Reader, big.NewInt(intake.Puzzles))
	if err != nil {
		return PuzzleTask{}, err
	}
	puzzle := intake.NthPuzzle(int(n.Int64()))
	return PuzzleTask{puzzle.Clock(), puzzle.Minutes, p.token(fmt.Sprintf("%d.%d.%s", n, now.Unix(), rand.Text()[:8]))}, nil
}

// token is a puzzle with what shows that it was made here.
func (p *puzzles) token(puzzle string) string {
	return puzzle + "." + p.secrets.derived(forPuzzles, "puzzle:"+puzzle)
}

// asked is the puzzle of a token; ok is false if it was not made here, or too long ago.
func (p *puzzles) asked(token string, now time.Time) (puzzle intake.Puzzle, ok bool) {
	text := token[:max(0, strings.LastIndex(token, "."))]
	if !hmac.Equal([]byte(p.token(text)), []byte(token)) {
		return puzzle, false
	}
	var n int
	var at int64
	if _, err := fmt.Sscanf(text, "%d.%d.", &n, &at); err != nil {
		return puzzle, false
	}
	return intake.NthPuzzle(n), now.Before(time.Unix(at, 0).Add(puzzleTime))
}

// claim refuses a request whose puzzle isn't solved, and uses the puzzle up for any other request. After a right answer release
// gives it back if nothing was booked.
func (p *puzzles) claim(s Solution, request string, now time.Time) error {
	puzzle, ok := p.asked(s.Token, now)
	if strings.TrimSpace(s.Answer) == "" {
		return faulty("puzzle", told.NoPuzzle.Words())
	}
	right := ok && puzzle.Solved(s.Answer)
	if !right {
		request = ""
	}
	switch {
	case !ok, !p.spend(s.Token, request, now):
		return faulty("puzzle", told.OldPuzzle.Words())
	case !right:
		return faulty("puzzle", told.WrongPuzzle.Words())
	}
	return nil
}

// spend uses a puzzle up for a request, for nobody if that is empty; it answers false if another has used it up before.
func (p *puzzles) spend(token, request string, now time.Time) bool {
	p.mu.Lock()
	defer p.mu.Unlock()
	if spent, found := p.spent[token]; found && (spent.request != request || request == "") {
		return false
	}
	maps.DeleteFunc(p.spent, func(_ string, s spending) bool { return now.After(s.until) })
	if p.spent == nil {
		p.spent = map[string]spending{}
	}
	p.spent[token] = spending{request, now.Add(puzzleTime)}
	return true
}

func (p *puzzles) release(token, request string) {
	p.mu.Lock()
	defer p.mu.Unlock()
	if p.spent[token].request == request {
		delete(p.spent, token)
	}
}
