package app

import (
	"sync"
)

// kept keeps what was worked out from the store for as long as the tables that it comes from stay as they are. What it gives is
// shared by all who ask: nobody may change it.
type kept[K comparable, V any] struct {
	mu     sync.Mutex
	values map[K]keptValue[V]
}

type keptValue[V any] struct {
	value  V
	writes int64
}

// mostKept bounds how many are kept.
const mostKept = 5000

// get returns what is kept for a key, or finds it. writes has to be asked of the store before anything that is given to find was read.
func (k *kept[K, V]) get(key K, writes int64, find func() (V, error)) (V, error) {
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
