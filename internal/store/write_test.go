package store_test

import (
	"context"
	"fmt"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// together has writers wait until the first has begun, so that they share its transaction, and returns what each got.
func together(s *store.Store, writers ...func(q *sqlc.Queries) error) []error {
	errs := make([]error, len(writers))
	var all sync.WaitGroup
	begun, goOn := make(chan struct{}), make(chan struct{})
	all.Go(func() {
		errs[0] = s.Write(ctx, func(q *sqlc.Queries) error {
			close(begun)
			<-goOn
			return writers[0](q)
		})
	})
	<-begun
	for i, w := range writers[1:] {
		all.Go(func() {
			defer func() {
				if panicked := recover(); panicked != nil {
					errs[i+1] = fmt.Errorf("panic: %v", panicked)
				}
			}()
			errs[i+1] = s.Write(ctx, w)
		})
	}
	time.Sleep(50 * time.Millisecond) // most wait by then; a test that finds fewer of them still holds
	close(goOn)
	all.Wait()
	return errs
}

func named(name string) func(q *sqlc.Queries) error {
	return func(q *sqlc.Queries) error {
		_, err := q.AddPerson(ctx, sqlc.AddPersonParams{WorkspaceID: 1, Name: name, Slug: name, Mail: name, Zone: "UTC", Week: "[]", Role: "member"})
		return err
	}
}

// added counts the people beside the one of a furnished database.
func added(t *testing.T, s *store.Store) int {
	t.Helper()
	people, err := s.PeopleOfWorkspace(ctx, 1)
	require.NoError(t, err)
	return len(people) - 1
}

func TestWritersThatShareATransactionTakeBackOnlyTheirOwn(t *testing.T) {
	s := furnished(t, t.TempDir())
	before := s.Revision()
	writers := []func(q *sqlc.Queries) error{named("first")}
	for i := range 9 {
		writers = append(writers, named(fmt.Sprint(i)), func(q *sqlc.Queries) error {
			require.NoError(t, named(fmt.Sprint("failing ", i))(q))
			return assert.AnError
		}, func(q *sqlc.Queries) error {
			require.NoError(t, named(fmt.Sprint("panicking ", i))(q))
			panic("of one")
		})
	}
	for i, err := range together(s, writers...) {
		switch {
		case i == 0 || i%3 == 1:
			assert.NoError(t, err)
		case i%3 == 2:
			assert.ErrorIs(t, err, assert.AnError)
		default:
			assert.EqualError(t, err, "panic: of one")
		}
	}
	assert.Less(t, s.Revision()-before, int64(10), "ten that wrote shared commits")
	assert.Equal(t, 10, added(t, s))
}

func TestNobodyIsToldOfAWriteThatWasTakenBack(t *testing.T) {
	s := furnished(t, t.TempDir())
	require.NoError(t, s.Script(ctx, "CREATE TRIGGER break_off BEFORE INSERT ON person WHEN NEW.name = 'breaks' BEGIN SELECT RAISE(ROLLBACK, 'broken off'); END"))
	errs := together(s, named("first"), named("breaks"))
	assert.ErrorContains(t, errs[1], "broken off")
	assert.ErrorContains(t, errs[0], "broken off", "its transaction is gone")
	require.NoError(t, s.Write(ctx, named("later")))
	assert.Equal(t, 1, added(t, s))
}

func TestAContextThatEndsInterruptsNoWriteAndBeginsNone(t *testing.T) {
	s := furnished(t, t.TempDir())
	ending, end := context.WithCancel(ctx)
	require.NoError(t, s.Write(ending, func(q *sqlc.Queries) error {
		end()
		return q.SetWeek(ending, sqlc.SetWeekParams{ID: 1, Week: "changed"})
	}))
	person, err := s.Person(ctx, 1)
	require.NoError(t, err)
	assert.Equal(t, "changed", person.Week)
	assert.ErrorIs(t, s.Write(ending, named("b")), context.Canceled)
	assert.Zero(t, added(t, s))
}
