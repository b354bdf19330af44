package job

import "time"

// lane is what waits for one service, and how that service is.
type lane struct {
	limit   int // how many are done at once
	running int
	pause   time.Duration // how long the service was left alone last; 0 is well
	until   time.Time     // nothing is asked of it until then
	since   time.Time     // of its trouble
}

const (
	firstPause   = 2 * time.Second
	longestPause = 30 * time.Second
)

// room is how many more can be begun. One that is in trouble is asked by a single job, whose success lets all others follow.
func (l *lane) room(now time.Time) int {
	switch {
	case l.pause == 0:
		return l.limit - l.running
	case now.Before(l.until) || l.running > 0:
		return 0
	}
	return 1
}

func (l *lane) failed(now time.Time) {
	if l.pause == 0 {
		l.since = now
	}
	l.pause = min(longestPause, max(firstPause, l.pause*3))
	l.until = now.Add(l.pause)
}

func (l *lane) answered() { l.pause, l.until, l.since = 0, time.Time{}, time.Time{} }
