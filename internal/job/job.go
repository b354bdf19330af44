// Package job does what has to happen after something was written: make a room, write a calendar entry, send a mail.
//
// A job is planned in the transaction of what it is about. One worker does jobs side by side, each in the lane of the service that
// it needs, so that a service in trouble holds up nothing but what needs it. That a job is begun is written down before anything
// leaves the house, so that what can't be written down isn't done over and over; how it ended, for several at once.
//
// A job is done at least once. It is named by a number that is never given again, so that whoever receives it twice can tell.
package job

import (
	"context"
	"errors"
	"fmt"
	"time"

	"corrim/internal/store/sqlc"
)

// New is a job to be planned. Its key makes it one: planned twice while it waits, it is done once; planned while it is being done,
// it is done once more.
type New struct {
	Key       string
	Kind      string
	Lane      string // the service that it needs
	Subject   string
	SubjectID int64
	Revision  int64 // the subject's
	Person    int64 // whom it is for, if it is for one
	Occasion  string
	Series    string
	Due       time.Time
	Expires   time.Time // it is given up then; zero is never
	After     int64     // the job that it waits for,
	Until     time.Time // but not longer than until then
}

// Plan writes a job down and returns its number: that of the one which waits already, if there is one.
func Plan(ctx context.Context, q *sqlc.Queries, now time.Time, n New) (int64, error) {
	err := q.PlanJob(ctx, sqlc.PlanJobParams{
		Key: n.Key, Kind: n.Kind, Lane: n.Lane, Subject: n.Subject, SubjectID: n.SubjectID, Revision: n.Revision, PersonID: n.Person, Occasion: n.Occasion,
		Series: n.Series, DueAt: n.Due.Unix(), ExpiresAt: seconds(n.Expires), AfterID: n.After, AfterUntil: seconds(n.Until), TouchedAt: now.Unix(),
	})
	if err != nil {
		return 0, err
	}
	planned, err := q.JobByKey(ctx, n.Key)
	return planned.ID, err
}

func seconds(t time.Time) int64 {
	if t.IsZero() {
		return 0
	}
	return t.Unix()
}

// Kind is how jobs of a kind are done. Do may return what is to be written together with the job's end.
type Kind struct {
	Do func(ctx context.Context, j sqlc.Job) (Ending, error)
	// GivenUp, if there is one, is told of a job that will not be tried again, with why.
	GivenUp func(ctx context.Context, q *sqlc.Queries, j sqlc.Job, trouble string) error
}

// Ending is written together with a job's end; nil is nothing.
type Ending func(ctx context.Context, q *sqlc.Queries) error

// ErrDropped means that a job no longer applies.
var ErrDropped = errors.New("no longer applies")

// Later is the outcome of a job that is not over: it is done again at a moment, and nothing was wrong. What has to be done now and then
// is such a job, and what was planned for a moment that has moved on.
type Later struct{ At time.Time }

func (l Later) Error() string { return "again at " + l.At.UTC().Format(time.RFC3339) }

// isAway tells whether an error is one of the whole service: then all that need it wait, and none is to blame.
func isAway(err error) bool {
	var away interface{ Away() bool }
	return errors.As(err, &away) && away.Away() || errors.Is(err, context.DeadlineExceeded)
}

const (
	timeFor  = 20 * time.Second // for one job
	mostOwn  = 12               // failures of its own; with back-off, about a day and a half
	firstTry = 5 * time.Second  // after the first failure, four times as long after each further one
	longest  = 6 * time.Hour
)

func backOff(fails int64) time.Duration {
	return min(longest, firstTry<<(2*min(max(fails, 1)-1, 10)))
}

// failure is a panic of a handler as an error.
func failure(panicked any) error { return fmt.Errorf("the program failed at this: %v", panicked) }

// Keyed is the job with the key under which it is planned once: of one kind, about one state of one subject, for one person and occasion.
func Keyed(n New) New {
	n.Key = fmt.Sprintf("%s %s %d.%d for %d %s", n.Subject, n.Kind, n.SubjectID, n.Revision, n.Person, n.Occasion)
	return n
}
