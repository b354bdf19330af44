package app

import (
	"context"
	"crypto/hmac"
	"crypto/rand"
	"fmt"
	"maps"
	"strings"
	"sync"
	"time"

	"corrim/core/intake"
	"corrim/core/told"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/secrets"
)

// puzzleTime is how long a puzzle can be answered, from its asking to the booking.
const puzzleTime = time.Hour

// PuzzleTask is a puzzle for a client's browser: which text, put behind the token and a colon, makes a SHA-256 that begins with so many
// zero bits?
type PuzzleTask struct {
	Token string `json:"token" doc:"Goes back with the answer."`
	Bits  int    `json:"bits"`
}

// puzzles makes puzzles and takes answers. A puzzle is its token, which only this installation can make; what is kept, until they are
// too old, is which were used up and by which request.
type puzzles struct {
	secrets secrets.Keys
	mu      sync.Mutex
	spent   map[string]spending
}

type spending struct {
	request string // that it was answered for
	until   time.Time
}

// Puzzle asks a fresh one, for a type that wants it.
func (a *App) Puzzle(ctx context.Context, workspace, slug string) (PuzzleTask, error) {
	if _, err := a.BookableAt(ctx, a.Store.Queries, workspace, slug); err != nil {
		return PuzzleTask{}, err
	}
	return PuzzleTask{a.puzzles.token(fmt.Sprintf("%d.%s", a.Now().Unix(), rand.Text())), intake.PuzzleBits}, nil
}

// token is a text with what shows that it was made here.
func (p *puzzles) token(text string) string {
	return text + "." + p.secrets.Puzzle(text)
}

// fresh tells whether a token was made here, and not too long ago.
func (p *puzzles) fresh(token string, now time.Time) bool {
	text := token[:max(0, strings.LastIndex(token, "."))]
	var at int64
	if _, err := fmt.Sscanf(text, "%d.", &at); err != nil {
		return false
	}
	return hmac.Equal([]byte(p.token(text)), []byte(token)) && now.Before(time.Unix(at, 0).Add(puzzleTime))
}

// claim refuses a request whose puzzle isn't solved, and uses the puzzle up for any other request. release gives it back if nothing
// was booked.
func (p *puzzles) claim(s schedule.Solution, request string, now time.Time) error {
	switch {
	case s.Answer == "":
		return refusal.Faulty("puzzle", told.NoPuzzle.Words())
	case !p.fresh(s.Token, now):
		return refusal.Faulty("puzzle", told.OldPuzzle.Words())
	case !intake.SolvesPuzzle(s.Token, s.Answer):
		return refusal.Faulty("puzzle", told.WrongPuzzle.Words())
	case !p.spend(s.Token, request, now):
		return refusal.Faulty("puzzle", told.OldPuzzle.Words())
	}
	return nil
}

// spend uses a puzzle up for a request; it answers false if another has used it up before.
func (p *puzzles) spend(token, request string, now time.Time) bool {
	p.mu.Lock()
	defer p.mu.Unlock()
	if spent, found := p.spent[token]; found && spent.request != request {
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
