package job

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"runtime/debug"
	"slices"
	"strings"
	"sync"
	"time"

	"corrim/internal/store"
	"corrim/internal/store/sqlc"
	"corrim/internal/trace"
)

// Worker does jobs. Its kinds are registered before it runs.
type Worker struct {
	Store *store.Store
	Log   *slog.Logger
	Now   func() time.Time

	kinds map[string]Kind
	wake  chan struct{}

	mu      sync.Mutex
	lanes   map[string]*lane
	ended   []ended // and not written down yet
	watched map[int64][]chan struct{}
	working bool // whether Run runs
	running sync.WaitGroup
}

// ended is a job and how it went.
type ended struct {
	job     sqlc.Job
	ending  Ending
	outcome error
}

// NewWorker makes a worker for some kinds of jobs.
func NewWorker(s *store.Store, log *slog.Logger, now func() time.Time, kinds map[string]Kind) *Worker {
	return &Worker{Store: s, Log: log, Now: now, kinds: kinds, wake: make(chan struct{}, 1), lanes: map[string]*lane{}, watched: map[int64][]chan struct{}{}}
}

// Wake lets the worker look for jobs.
func (w *Worker) Wake() {
	select {
	case w.wake <- struct{}{}:
	default: // it is awake already
	}
}

// Lanes begin with these words; what follows names one of several services of a kind.
var limits = map[string]int{"mail": 8, "rooms": 8, "calendars": 4, "readings": 2, "own": 4}

func (w *Worker) lane(name string) *lane {
	if w.lanes[name] == nil {
		kind, _, _ := strings.Cut(name, " ")
		w.lanes[name] = &lane{limit: max(1, limits[kind])}
	}
	return w.lanes[name]
}

// Away tells since when a service has been in trouble; zero if it is not, as far as is known.
func (w *Worker) Away(lane string) time.Time {
	w.mu.Lock()
	defer w.mu.Unlock()
	if l := w.lanes[lane]; l != nil {
		return l.since
	}
	return time.Time{}
}

// InTrouble lists the services that are.
func (w *Worker) InTrouble() []string {
	w.mu.Lock()
	defer w.mu.Unlock()
	var names []string
	for name, l := range w.lanes {
		if !l.since.IsZero() {
			names = append(names, name)
		}
	}
	slices.Sort(names)
	return names
}

// AskNow ends the pause of a service.
func (w *Worker) AskNow(lane string) {
	w.mu.Lock()
	w.lane(lane).until = time.Time{}
	w.mu.Unlock()
	w.Wake()
}

// Watch returns a channel that is closed once a job was tried, however it went; at once if no jobs are done at all. forget has to be called when it is waited for no more.
func (w *Worker) Watch(id int64) (tried <-chan struct{}, forget func()) {
	w.mu.Lock()
	defer w.mu.Unlock()
	done := make(chan struct{})
	if !w.working {
		close(done)
		return done, func() {}
	}
	w.watched[id] = append(w.watched[id], done)
	return done, func() {
		w.mu.Lock()
		defer w.mu.Unlock()
		if w.watched[id] = slices.DeleteFunc(w.watched[id], func(other chan struct{}) bool { return other == done }); len(w.watched[id]) == 0 {
			delete(w.watched, id)
		}
	}
}

const (
	prunesEvery  = time.Hour
	keptFor      = 90 * 24 * time.Hour
	longestSleep = time.Minute
	ahead        = time.Minute // what lies further in the future was written by a clock that was wrong
)

// Run does jobs until ctx ends; those that are begun are finished.
func (w *Worker) Run(ctx context.Context) {
	w.work(true)
	defer w.work(false)
	w.resume(ctx)
	var pruned time.Time
	for stuck := time.Duration(0); ctx.Err() == nil; {
		next, err := w.round(ctx)
		switch {
		case err != nil && ctx.Err() == nil:
			// What can't be written down isn't done either; nothing else is begun until it can.
			stuck = min(30*time.Second, max(time.Second, 2*stuck))
			next = stuck
			w.Log.ErrorContext(ctx, "the state of jobs can't be kept, so none is begun", "error", err)
		case err == nil:
			stuck = 0
			if now := w.Now(); now.Sub(pruned) > prunesEvery {
				pruned = now
				w.prune(ctx)
			}
		}
		w.sleep(ctx, next, stuck > 0)
	}
	w.running.Wait()
	if err := w.settle(context.WithoutCancel(ctx)); err != nil {
		w.Log.ErrorContext(ctx, "how jobs ended could not be kept", "error", err)
	}
}

func (w *Worker) work(working bool) {
	w.mu.Lock()
	defer w.mu.Unlock()
	w.working = working
}

// sleep waits for the next job; while nothing can be written, being woken changes nothing.
func (w *Worker) sleep(ctx context.Context, next time.Duration, stuck bool) {
	wake := w.wake
	if stuck {
		wake = nil
	}
	select {
	case <-ctx.Done():
	case <-wake:
	case <-time.After(next):
	}
}

// resume takes up what an earlier run of the program had begun, and what a clock that was ahead has planned.
func (w *Worker) resume(ctx context.Context) {
	err := w.Store.Write(ctx, func(q *sqlc.Queries) error {
		now := w.Now()
		begun, err := q.ResumeJobs(ctx, now.Unix())
		if err != nil {
			return err
		}
		ahead, err := q.DistrustFuture(ctx, sqlc.DistrustFutureParams{Now: now.Unix(), Horizon: now.Add(ahead).Unix()})
		if begun+ahead > 0 {
			w.Log.InfoContext(ctx, "taking up jobs", "begun", begun, "planned in the future", ahead)
		}
		return err
	})
	if err != nil {
		w.Log.ErrorContext(ctx, "taking up jobs", "error", err)
	}
}

func (w *Worker) prune(ctx context.Context) {
	err := w.Store.Write(ctx, func(q *sqlc.Queries) error {
		now := w.Now()
		if _, err := q.DistrustFuture(ctx, sqlc.DistrustFutureParams{Now: now.Unix(), Horizon: now.Add(ahead).Unix()}); err != nil {
			return err
		}
		return q.ForgetJobs(ctx, now.Add(-keptFor).Unix())
	})
	if err != nil {
		w.Log.ErrorContext(ctx, "pruning the log of jobs", "error", err)
	}
}

// round writes down how jobs ended and begins those that are due, in one transaction. It returns how long nothing is due then.
func (w *Worker) round(ctx context.Context) (next time.Duration, err error) {
	if err := w.settle(ctx); err != nil {
		return 0, err
	}
	due, next, err := w.due(ctx)
	if err != nil || len(due) == 0 {
		return next, err
	}
	now := w.Now()
	err = w.Store.Write(ctx, func(q *sqlc.Queries) error {
		for i, j := range due {
			due[i].Attempts++
			if err := q.BeginJob(ctx, sqlc.BeginJobParams{ID: j.ID, Now: now.Unix()}); err != nil {
				return err
			}
		}
		return nil
	})
	if err != nil {
		return 0, err
	}
	for _, j := range due {
		w.begin(ctx, j)
	}
	return next, nil
}

// idle tells whether nothing is under way.
func (w *Worker) idle() bool {
	w.mu.Lock()
	defer w.mu.Unlock()
	for _, l := range w.lanes {
		if l.running > 0 {
			return false
		}
	}
	return len(w.ended) == 0
}

// due is what can be begun now, and how long it is until more is.
func (w *Worker) due(ctx context.Context) (jobs []sqlc.Job, next time.Duration, err error) {
	now := w.Now()
	names, err := w.waiting(ctx)
	if err != nil {
		return nil, 0, err
	}
	next = longestSleep
	if w.idle() {
		if err := w.Store.AllWritten(); err != nil {
			w.Log.WarnContext(ctx, "what was noted of mails could not be forgotten", "error", err)
		}
	}
	sooner := func(at int64) {
		if at > now.Unix() {
			next = min(next, time.Duration(at-now.Unix())*time.Second)
		}
	}
	w.mu.Lock()
	defer w.mu.Unlock()
	for _, name := range names {
		l := w.lane(name)
		if l.pause > 0 && now.Before(l.until) {
			next = min(next, l.until.Sub(now))
		}
		room := l.room(now)
		found, err := w.dueIn(ctx, name, room, now)
		if err != nil {
			return nil, 0, err
		}
		jobs = append(jobs, found...)
		if len(found) == room { // it is full, and looked at again when one of them has ended
			continue
		}
		at, err := w.Store.NextJobOf(ctx, sqlc.NextJobOfParams{Lane: name, Now: now.Unix()})
		if err != nil {
			return nil, 0, err
		}
		sooner(at)
		if at, err = w.Store.NextAfter(ctx, sqlc.NextAfterParams{Lane: name, Now: now.Unix()}); err != nil {
			return nil, 0, err
		}
		sooner(at)
	}
	return jobs, next, nil
}

// waiting lists the lanes in which something waits.
func (w *Worker) waiting(ctx context.Context) (names []string, err error) {
	for name := ""; ; {
		if name, err = w.Store.NextLane(ctx, name); err != nil || name == "" {
			return names, err
		}
		names = append(names, name)
	}
}

func (w *Worker) dueIn(ctx context.Context, lane string, room int, now time.Time) ([]sqlc.Job, error) {
	if room <= 0 {
		return nil, nil
	}
	return w.Store.DueJobs(ctx, sqlc.DueJobsParams{Lane: lane, Now: now.Unix(), Most: int64(room)})
}

// begin does one job beside the others. Once begun, it is finished even if the program is asked to stop.
func (w *Worker) begin(ctx context.Context, j sqlc.Job) {
	w.mu.Lock()
	w.lane(j.Lane).running++
	w.mu.Unlock()
	w.running.Go(func() {
		ctx, cancel := context.WithTimeout(trace.With(context.WithoutCancel(ctx), "job", fmt.Sprint(j.ID)), timeFor)
		defer cancel()
		ending, outcome := w.do(ctx, j)
		w.mu.Lock()
		w.ended = append(w.ended, ended{j, ending, outcome})
		w.mu.Unlock()
		w.Wake()
	})
}

var errExpired = errors.New("it was tried until it was too late for it")

func (w *Worker) do(ctx context.Context, j sqlc.Job) (ending Ending, err error) {
	defer func() {
		if panicked := recover(); panicked != nil {
			w.Log.ErrorContext(ctx, "a job panicked", "kind", j.Kind, "panic", fmt.Sprint(panicked), "stack", string(debug.Stack()))
			err = failure(panicked)
		}
	}()
	if j.ExpiresAt != 0 && j.ExpiresAt <= w.Now().Unix() {
		if j.Attempts <= 1 { // the program was not running while it would have been of use
			return nil, ErrDropped
		}
		return nil, errExpired
	}
	kind, known := w.kinds[j.Kind]
	if !known {
		return nil, fmt.Errorf("this program doesn't know jobs of kind %q", j.Kind)
	}
	return kind.Do(ctx, j)
}

// settle writes down how jobs ended, all at once. If it can't, they stay ended here, and are not done again by this run.
func (w *Worker) settle(ctx context.Context) error {
	w.mu.Lock()
	all := w.ended
	w.mu.Unlock()
	if len(all) == 0 {
		return nil
	}
	ctx = context.WithoutCancel(ctx)
	if w.keep(ctx, all) == nil {
		w.settled(all)
		return nil
	}
	for _, e := range all { // one of them may be in the way of the others
		if err := w.keep(ctx, []ended{e}); err != nil {
			if !store.Refuses(err) {
				return err // it isn't the job, it is the writing
			}
			e.ending, e.outcome = nil, err
			if err := w.keep(ctx, []ended{e}); err != nil {
				return err
			}
		}
		w.settled([]ended{e})
	}
	return nil
}

// settled is what follows from ends that are written down: the first of those that were to be.
func (w *Worker) settled(these []ended) {
	now := w.Now()
	w.mu.Lock()
	defer w.mu.Unlock()
	w.ended = append([]ended(nil), w.ended[len(these):]...)
	for _, e := range these {
		l := w.lane(e.job.Lane)
		l.running--
		switch {
		case isAway(e.outcome):
			l.failed(now)
		case !errors.Is(e.outcome, ErrDropped) && !errors.Is(e.outcome, errExpired):
			l.answered() // even if it refused this one
		}
		for _, watcher := range w.watched[e.job.ID] {
			close(watcher)
		}
		delete(w.watched, e.job.ID)
	}
}

func (w *Worker) keep(ctx context.Context, these []ended) error {
	return w.Store.Write(ctx, func(q *sqlc.Queries) error {
		for _, e := range these {
			if err := w.keepEnd(ctx, q, e); err != nil {
				return err
			}
		}
		return nil
	})
}

func (w *Worker) keepEnd(ctx context.Context, q *sqlc.Queries, e ended) error {
	j, now := e.job, w.Now()
	ctx = trace.With(ctx, "job", fmt.Sprint(j.ID))
	var later Later
	switch {
	case errors.As(e.outcome, &later):
		return q.RetryJob(ctx, sqlc.RetryJobParams{ID: j.ID, DueAt: later.At.Unix()})
	case e.outcome == nil:
		if e.ending != nil {
			if err := e.ending(ctx, q); err != nil {
				return err
			}
		}
		return end(ctx, q, j, "done", "", now)
	case errors.Is(e.outcome, ErrDropped):
		return end(ctx, q, j, "dropped", "", now)
	case errors.Is(e.outcome, errExpired), !isAway(e.outcome) && j.Fails+1 >= mostOwn:
		return w.giveUp(ctx, q, j, e.outcome)
	}
	w.Log.WarnContext(ctx, "a job will be tried again", "kind", j.Kind, "subject", j.SubjectID, "attempts", j.Attempts, "service", isAway(e.outcome))
	retry := sqlc.RetryJobParams{ID: j.ID, Trouble: e.outcome.Error()}
	if isAway(e.outcome) {
		retry.Away, retry.DueAt = 1, now.Unix() // its lane decides when, and asks with another one first
	} else {
		retry.Own, retry.DueAt = 1, now.Add(backOff(j.Fails+1)).Unix()
	}
	return q.RetryJob(ctx, retry)
}

func (w *Worker) giveUp(ctx context.Context, q *sqlc.Queries, j sqlc.Job, outcome error) error {
	w.Log.ErrorContext(ctx, "a job was given up", "kind", j.Kind, "subject", j.SubjectID, "attempts", j.Attempts)
	trouble := outcome.Error()
	if errors.Is(outcome, errExpired) && j.Trouble != "" {
		trouble = j.Trouble
	}
	if given := w.kinds[j.Kind].GivenUp; given != nil {
		if err := given(ctx, q, j, trouble); err != nil {
			return err
		}
	}
	return end(ctx, q, j, "failed", trouble, w.Now())
}

func end(ctx context.Context, q *sqlc.Queries, j sqlc.Job, outcome, trouble string, now time.Time) error {
	err := q.LogJob(ctx, sqlc.LogJobParams{
		ID: j.ID, Kind: j.Kind, Subject: j.Subject, SubjectID: j.SubjectID, Occasion: j.Occasion, Outcome: outcome, Attempts: j.Attempts, Trouble: trouble, EndedAt: now.Unix(),
	})
	if err != nil {
		return err
	}
	if err := q.ForgetLettersGone(ctx, j.ID); err != nil {
		return err
	}
	anew, err := q.EndJob(ctx, j.ID)
	if err != nil || anew == 0 {
		return err
	}
	return q.PlanJob(ctx, sqlc.PlanJobParams{ // another job, with a number of its own
		Key: j.Key, Kind: j.Kind, Lane: j.Lane, Subject: j.Subject, SubjectID: j.SubjectID, Revision: j.Revision, PersonID: j.PersonID, Occasion: j.Occasion, Series: j.Series,
		DueAt: now.Unix(), ExpiresAt: j.ExpiresAt, TouchedAt: now.Unix(),
	})
}

// End ends a job together with another one, which has spoken for it too, or could not.
func End(ctx context.Context, q *sqlc.Queries, j sqlc.Job, trouble string, now time.Time) error {
	if trouble != "" {
		return end(ctx, q, j, "failed", trouble, now)
	}
	return end(ctx, q, j, "done", "", now)
}
