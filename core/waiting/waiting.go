// Package waiting is the waiting list of a meeting that is full: who is offered a seat that gets free, and for how long it is kept.
package waiting

import "time"

// How a seat that gets free finds somebody who waits for it.
const (
	InTurn = "turn"  // it is offered to one after the other, each for a while
	First  = "first" // all are told, and it is whoever's is first
)

const (
	leastHold = 15 * time.Minute // less is no offer: people look at their mail now and then
	lastOffer = 30 * time.Minute // before the start; after that a free seat is anybody's
	share     = 4                // an offer takes a part of the time that is left, so that those behind have a chance too
)

// Hold is how long a seat is kept for whoever it is offered to: as long as usual, but no longer than a quarter of the time that is left
// until the meeting starts; 0 if that is too near to offer it to anybody.
func Hold(usual, left time.Duration) time.Duration {
	if left < lastOffer {
		return 0
	}
	return max(leastHold, min(usual, left/share)).Truncate(time.Minute)
}
