package job_test

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"log/slog"
	"path/filepath"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/internal/job"
	"corrim/internal/store/sqlc"
	"corrim/internal/store/storetest"
)

// desk is a worker on a database of its own, and what it has done.
type desk struct {
	*job.Worker
	t      testing.TB
	folder string
	mu     sync.Mutex
	did    map[int64]int // by subject
	stop   func()
}

func newDesk(t testing.TB, do func(sqlc.Job) error) *desk {
	folder := t.TempDir()
	opened := storetest.Open(t, folder)
	d := &desk{t: t, folder: folder, did: map[int64]int{}}
	kind := job.Kind{Do: func(_ context.Context, j sqlc.Job) (job.Ending, error) {
		d.mu.Lock()
		d.did[j.SubjectID]++
		d.mu.Unlock()
		return nil, do(j)
	}}
	d.Worker = job.NewWorker(opened, slog.New(slog.DiscardHandler), time.Now, map[string]job.Kind{"count": kind, "other": kind})
	return d
}

func (d *desk) run() {
	ctx, cancel := context.WithCancel(context.Background())
	done := make(chan struct{})
	go func() { d.Run(ctx); close(done) }()
	d.stop = func() { cancel(); <-done }
	d.t.Cleanup(d.stop)
}

func (d *desk) plan(jobs ...job.New) (ids []int64) {
	require.NoError(d.t, d.Store.Write(d.t.Context(), func(q *sqlc.Queries) error {
		for _, n := range jobs {
			n.Subject, n.Due = "thing", time.Now()
			if n.Kind == "" {
				n.Kind = "count"
			}
			id, err := job.Plan(d.t.Context(), q, time.Now(), n)
			if err != nil {
				return err
			}
			ids = append(ids, id)
		}
		return nil
	}))
	d.Wake()
	return ids
}

func (d *desk) times(subject int64) int {
	d.mu.Lock()
	defer d.mu.Unlock()
	return d.did[subject]
}

func (d *desk) waits() int64 {
	n, err := d.Store.AllJobs(context.Background())
	require.NoError(d.t, err)
	return n
}

// As after a week's pause; "make bench" does five times as many.
const manyJobs = 2000

func TestManyJobsDueAtOnceAreDoneOnceEach(t *testing.T) {
	d := newDesk(t, func(sqlc.Job) error { return nil })
	var jobs []job.New
	for i := range manyJobs {
		jobs = append(jobs, job.New{Key: fmt.Sprint(i), Lane: []string{"mail", "rooms", "calendars a", "calendars b"}[i%4], SubjectID: int64(i)})
	}
	d.plan(jobs...)
	d.run()
	require.Eventually(t, func() bool { return d.waits() == 0 }, time.Minute, 20*time.Millisecond)
	for i := range manyJobs {
		assert.Equal(t, 1, d.times(int64(i)))
	}
}

func TestAJobThatComesAgainStaysOneAndIsNoTrouble(t *testing.T) {
	again := true
	d := newDesk(t, func(sqlc.Job) error {
		if again {
			again = false
			return job.Later{At: time.Now()}
		}
		return nil
	})
	ids := d.plan(job.New{Key: "again", Lane: "x", SubjectID: 1})
	d.run()
	require.Eventually(t, func() bool { return d.times(1) == 2 && d.waits() == 0 }, time.Minute, 5*time.Millisecond)
	assert.Zero(t, d.Away("x"), "its service is well")
	d.stop()
	var outcome string
	var kept int
	database, err := sql.Open("sqlite", "file:"+filepath.Join(d.folder, "corrim.db"))
	require.NoError(t, err)
	defer func() { _ = database.Close() }()
	require.NoError(t, database.QueryRow("SELECT COUNT(*), MAX(outcome) FROM job_log WHERE id = ?", ids[0]).Scan(&kept, &outcome))
	assert.Equal(t, []any{1, "done"}, []any{kept, outcome}, "told once, when it was over")
}

func TestWhatIsPlannedTwiceIsDoneOnceAndAfterWhatItWaitsFor(t *testing.T) {
	var d *desk
	first := make(chan struct{})
	d = newDesk(t, func(j sqlc.Job) error {
		if j.SubjectID == 1 {
			<-first
		}
		return nil
	})
	ids := d.plan(job.New{Key: "a", Lane: "rooms", SubjectID: 1}, job.New{Key: "a", Lane: "rooms", SubjectID: 1})
	assert.Equal(t, ids[0], ids[1])
	d.plan(job.New{Key: "b", Lane: "mail", SubjectID: 2, After: ids[0], Until: time.Now().Add(time.Hour)},
		job.New{Key: "c", Lane: "mail", SubjectID: 3, After: ids[0], Until: time.Now().Add(-time.Second)})
	d.run()
	require.Eventually(t, func() bool { return d.times(3) == 1 }, time.Minute, 5*time.Millisecond, "it has waited long enough")
	assert.Zero(t, d.times(2))
	close(first)
	require.Eventually(t, func() bool { return d.waits() == 0 }, time.Minute, 5*time.Millisecond)
	assert.Equal(t, []int{1, 1, 1}, []int{d.times(1), d.times(2), d.times(3)})
}

func TestWhatIsPlannedWhileItIsBeingDoneIsDoneOnceMore(t *testing.T) {
	begun, goOn := make(chan struct{}, 2), make(chan struct{})
	d := newDesk(t, func(sqlc.Job) error {
		begun <- struct{}{}
		<-goOn
		return nil
	})
	d.plan(job.New{Key: "entry", Lane: "rooms", SubjectID: 1})
	d.run()
	<-begun
	d.plan(job.New{Key: "entry", Lane: "rooms", SubjectID: 1}) // what it is about has changed since it looked
	close(goOn)
	require.Eventually(t, func() bool { return d.waits() == 0 }, time.Minute, 5*time.Millisecond)
	assert.Equal(t, 2, d.times(1))
}

type awayError struct{ error }

func (awayError) Away() bool { return true }

func TestAServiceInTroubleHoldsUpNoOther(t *testing.T) {
	d := newDesk(t, func(j sqlc.Job) error {
		if j.Lane == "mail" {
			return awayError{errors.New("nobody answers")}
		}
		return nil
	})
	var jobs []job.New
	for i := range 100 {
		jobs = append(jobs, job.New{Key: fmt.Sprint("mail ", i), Lane: "mail", SubjectID: int64(i)}, job.New{Key: fmt.Sprint("room ", i), Kind: "other", Lane: "rooms", SubjectID: int64(1000 + i)})
	}
	d.plan(jobs...)
	d.run()
	require.Eventually(t, func() bool { return d.waits() == 100 }, time.Minute, 5*time.Millisecond)
	assert.Equal(t, []string{"mail"}, d.InTrouble())
	asked := 0
	for i := range 100 {
		asked += d.times(int64(i))
	}
	assert.LessOrEqual(t, asked, 20, "it is asked by one job after a pause, and not by all")
}

func BenchmarkTenThousandJobsDueAtOnce(b *testing.B) {
	for b.Loop() {
		b.StopTimer()
		d := newDesk(b, func(sqlc.Job) error { return nil })
		var jobs []job.New
		for i := range 5 * manyJobs {
			jobs = append(jobs, job.New{Key: fmt.Sprint(i), Lane: []string{"mail", "rooms", "calendars a", "calendars b"}[i%4], SubjectID: int64(i)})
		}
		d.plan(jobs...)
		b.StartTimer()
		d.run()
		for d.waits() > 0 {
			time.Sleep(10 * time.Millisecond)
		}
		d.stop()
	}
	b.ReportMetric(float64(b.N*5*manyJobs)/b.Elapsed().Seconds(), "jobs/s")
}
