package identity

import (
	"context"
	"crypto/rand"
	"crypto/subtle"
	_ "embed"
	"encoding/base64"
	"fmt"
	"strings"
	"sync"
	"sync/atomic"
	"unicode"
	"unicode/utf8"

	"golang.org/x/crypto/argon2"
	"golang.org/x/crypto/bcrypt"

	"corrim/core/told"
	"corrim/internal/refusal"
)

// Passwords are kept as argon2id (RFC 9106) with the parameters that OWASP's Password Storage Cheat Sheet names (from memory):
// 19 MiB, two passes, one lane. Those of earlier versions are bcrypt; they are kept anew when somebody signs in.
const (
	argonMemory = 19 * 1024 // KiB
	argonPasses = 2
	argonLength = 32

	shortestPassword = 12
	longestPassword  = 1000 // bytes; hashing takes as long as it is
)

// PasswordRule is what a password has to be, for people.
var PasswordRule = told.Say("password-short", "A password has at least 12 characters. A few words are easy to remember.")

//go:embed common.txt
var commonText string

// common is passwords that many have, and words that many make theirs from.
var common = sync.OnceValue(func() map[string]bool {
	out := map[string]bool{}
	for line := range strings.Lines(commonText) {
		if line = strings.TrimSpace(line); line != "" && !strings.HasPrefix(line, "#") {
			out[line] = true
		}
	}
	return out
})

// CheckPassword says what is wrong with a password of somebody; about are words that anybody would try for them, like their name and
// mail. Empty if it can be used.
func CheckPassword(password string, about ...string) told.Words {
	switch {
	case utf8.RuneCountInString(password) < shortestPassword:
		return PasswordRule
	case len(password) > longestPassword:
		return told.Say("password-long", "A password has at most 1,000 characters.")
	case tooCommon(password, about):
		return told.Say("password-common", "Many people have this password, or it is easily guessed. Choose a few words that have nothing to do with each other.")
	}
	return told.Words{}
}

// tooCommon tells whether a password is a common one, or one with figures and marks around it, or the same letters again and again.
func tooCommon(password string, about []string) bool {
	lower := strings.ToLower(password)
	letters := strings.TrimFunc(lower, func(r rune) bool { return !unicode.IsLetter(r) })
	different := map[rune]bool{}
	for _, r := range lower {
		different[r] = true
	}
	if common()[lower] || common()[letters] || len(different) < 5 || letters == "" {
		return true
	}
	for _, word := range about {
		word, _, _ = strings.Cut(strings.ToLower(word), "@")
		if word = strings.TrimSpace(word); len(word) > 3 && (letters == word || strings.ReplaceAll(letters, " ", "") == strings.ReplaceAll(word, " ", "")) {
			return true
		}
	}
	return false
}

// gate lets so many passwords be worked on at once as there are processors: each takes argonMemory, and more at once would take no less
// time. A few wait; the rest are asked to come again.
type gate struct {
	inside  chan struct{}
	waiting atomic.Int32
}

const mostWaiting = 16 // for each processor: about a second

func newGate(atOnce int) *gate { return &gate{inside: make(chan struct{}, atOnce)} }

var errBusy = refusal.New(refusal.Busy, told.Say("sign-ins-busy", "Too many people are signing in right now. Try again in a few seconds."))

// do does something within the gate, or refuses to wait for it.
func (g *gate) do(ctx context.Context, work func()) error {
	if int(g.waiting.Add(1)) > cap(g.inside)*(1+mostWaiting) {
		g.waiting.Add(-1)
		return errBusy
	}
	defer g.waiting.Add(-1)
	select {
	case g.inside <- struct{}{}:
	case <-ctx.Done():
		return ctx.Err()
	}
	defer func() { <-g.inside }()
	work()
	return nil
}

// HashPassword is a password as it is kept: the PHC string of argon2id. It takes long, so it is never done within a transaction.
func (s *Service) HashPassword(ctx context.Context, password string) (hash string, err error) {
	err = s.gate.do(ctx, func() { hash = s.hashed(password) })
	return hash, err
}

func (s *Service) hashed(password string) string {
	salt := make([]byte, 16)
	_, _ = rand.Read(salt) // never fails (crypto/rand)
	memory := s.argonMemory()
	key := argon2.IDKey([]byte(password), salt, argonPasses, memory, 1, argonLength)
	b64 := base64.RawStdEncoding.EncodeToString
	return fmt.Sprintf("$argon2id$v=%d$m=%d,t=%d,p=1$%s$%s", argon2.Version, memory, argonPasses, b64(salt), b64(key))
}

func (s *Service) argonMemory() uint32 {
	if s.PasswordMemory != 0 {
		return s.PasswordMemory
	}
	return argonMemory
}

// passwordFits tells whether a password is the one that was kept, and whether it should be kept anew.
func (s *Service) passwordFits(ctx context.Context, kept, password string) (fits, again bool, err error) {
	err = s.gate.do(ctx, func() { fits, again = s.compared(kept, password) })
	return fits, again, err
}

func (s *Service) compared(kept, password string) (fits, again bool) {
	if strings.HasPrefix(kept, "$2") {
		return bcrypt.CompareHashAndPassword([]byte(kept), []byte(password)) == nil, true
	}
	var version, memory, passes uint32
	parts := strings.Split(kept, "$")
	if len(parts) != 6 {
		return false, false
	}
	if _, err := fmt.Sscanf(parts[2]+" "+parts[3], "v=%d m=%d,t=%d,p=1", &version, &memory, &passes); err != nil {
		return false, false
	}
	salt, err1 := base64.RawStdEncoding.DecodeString(parts[4])
	key, err2 := base64.RawStdEncoding.DecodeString(parts[5])
	if err1 != nil || err2 != nil || len(password) > longestPassword {
		return false, false
	}
	found := argon2.IDKey([]byte(password), salt, passes, memory, 1, uint32(len(key)))
	return subtle.ConstantTimeCompare(found, key) == 1, memory < s.argonMemory() || passes < argonPasses
}
