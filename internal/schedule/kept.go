package schedule

import (
	"fmt"
	"sync"
	"time"

	"golang.org/x/sync/singleflight"

	"corrim/internal/calsync"
)

// Kept keeps what was worked out from the store for as long as the tables that it comes from stay as they are. What it gives is
// shared by all who ask: nobody may change it.
type Kept[K comparable, V any] struct {
	mu     sync.Mutex
	values map[K]keptValue[V]
}

type keptValue[V any] struct {
	value  V
	writes int64
}

// mostKept bounds how many are kept.
const mostKept = 5000

// Get returns what is kept for a key, or finds it. writes has to be asked of the store before anything that is given to find was read.
func (k *Kept[K, V]) Get(key K, writes int64, find func() (V, error)) (V, error) {
	k.mu.Lock()
	known, ok := k.values[key]
	k.mu.Unlock()
	if ok && known.writes == writes {
		return known.value, nil
	}
	value, err := find()
	if err != nil {
		return value, err
	}
	k.mu.Lock()
	defer k.mu.Unlock()
	if k.values == nil || len(k.values) >= mostKept {
		k.values = map[K]keptValue[V]{}
	}
	k.values[key] = keptValue[V]{value, writes}
	return value, nil
}

// recentAnswers keeps answers about open times for as long as a look at the calendars counts as fresh, and only while
// nothing has been written. So many clients at one page cost as much as one; a booking is checked anew in any case.
type recentAnswers struct {
	mu      sync.Mutex
	answers map[string]recentAnswer
	flight  singleflight.Group
}

type recentAnswer struct {
	OpenTimes
	revision int64
	at       time.Time
}

// mostAnswers bounds how many are kept.
const mostAnswers = 500

// answer returns a kept answer, or finds one; find tells of which revision of the store its answer is.
func (r *recentAnswers) answer(question string, revision func() int64, now func() time.Time, find func() (OpenTimes, int64, error)) (OpenTimes, error) {
	if known, ok := r.known(question, revision(), now()); ok {
		return known, nil
	}
	// Whoever asks the same at the same time waits for one answer; a write since then makes it another question.
	value, err, _ := r.flight.Do(fmt.Sprint(revision(), " ", question), func() (any, error) {
		found, of, err := find()
		if err == nil {
			r.keep(question, recentAnswer{found, of, now()})
		}
		return found, err
	})
	answer, _ := value.(OpenTimes) // what was just put in
	return answer, err
}

func (r *recentAnswers) known(question string, revision int64, now time.Time) (OpenTimes, bool) {
	r.mu.Lock()
	defer r.mu.Unlock()
	known, ok := r.answers[question]
	return known.OpenTimes, ok && known.revision == revision && now.Sub(known.at).Abs() < calsync.FreshEnough
}

func (r *recentAnswers) keep(question string, a recentAnswer) {
	r.mu.Lock()
	defer r.mu.Unlock()
	if r.answers == nil || len(r.answers) >= mostAnswers {
		r.answers = map[string]recentAnswer{}
	}
	r.answers[question] = a
}
