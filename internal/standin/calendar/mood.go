package calendar

import (
	"net/http"
	"sync"
	"time"
)

// A mood is how the server treats one user's programs, to be tried: as always, away, slow, or refusing the password.
type mood string

const (
	asAlways mood = ""
	away     mood = "away"
	slow     mood = "slow"
	refusing mood = "refusing"
)

// slowness is how long a slow server takes for every answer: longer than a booking waits.
const slowness = 4 * time.Second

// moods are the users' moods by name. They are not kept over a restart.
type moods struct{ byUser sync.Map }

func (m *moods) of(user string) mood {
	if found, ok := m.byUser.Load(user); ok {
		return found.(mood)
	}
	return asAlways
}

type shownMood struct {
	Name, Words string
	Now         bool
}

// list is all moods, for a form.
func (m *moods) list(user string) []shownMood {
	now := m.of(user)
	return []shownMood{
		{string(asAlways), "there, as always", now == asAlways}, {string(away), "away", now == away},
		{string(slow), "slow", now == slow}, {string(refusing), "refusing the password", now == refusing},
	}
}

// SetMood makes the server away, slow or refusing for one user's programs, or with "" as always.
func (s *Server) SetMood(user, name string) { s.moods.byUser.Store(user, mood(name)) }

// moody treats a signed-in user's request as their mood says; it tells whether it was answered already.
func (s *Server) moody(w http.ResponseWriter, r *http.Request, user string) (answered bool) {
	switch s.moods.of(user) {
	case away:
		w.Header().Set("Retry-After", "120")
		http.Error(w, "The server is away.", http.StatusServiceUnavailable)
		return true
	case refusing:
		http.Error(w, "Your password is not valid any more.", http.StatusUnauthorized)
		return true
	case slow:
		select {
		case <-time.After(slowness):
		case <-r.Context().Done():
		}
	}
	return false
}
