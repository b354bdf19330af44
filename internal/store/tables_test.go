package store_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

func TestWritesCountByTableAndOnlyOnceTheyCanBeRead(t *testing.T) {
	s := furnished(t, t.TempDir())
	people, types := s.Written("person"), s.Written("meeting_type")
	within := int64(-1)
	change := func(outcome error) error {
		return s.Write(ctx, func(q *sqlc.Queries) error {
			require.NoError(t, q.SetWeek(ctx, sqlc.SetWeekParams{ID: 1, Week: "changed"}))
			within = s.Written("person")
			return outcome
		})
	}
	require.ErrorIs(t, change(assert.AnError), assert.AnError)
	assert.Equal(t, people, s.Written("person"), "what was not written counts for nothing")
	require.NoError(t, change(nil))
	assert.Equal(t, people, within, "while it is being written, what is kept still stands")
	assert.Equal(t, people+1, s.Written("person"))
	assert.Equal(t, types, s.Written("meeting_type"))
	assert.Equal(t, people+1+types, s.Written("person", "meeting_type"))
	require.NoError(t, add(s, "a", 1000, 2000, 0, 0))
	assert.Greater(t, s.Written("client"), int64(0), "what a trigger writes counts too")
}

func TestMailsThatWentOutAreKnownToTheNextRun(t *testing.T) {
	folder := t.TempDir()
	s, err := store.Open(ctx, folder)
	require.NoError(t, err)
	require.NoError(t, s.MarkSent("outbox-1-mail-client.a"))
	assert.False(t, s.WasSent("outbox-1-mail-client.a"), "in this run the database knows it")
	require.NoError(t, s.Close())
	s, err = store.Open(ctx, folder)
	require.NoError(t, err)
	assert.True(t, s.WasSent("outbox-1-mail-client.a"))
	assert.False(t, s.WasSent("outbox-1-mail-client.b"))
	for range 1000 {
		require.NoError(t, s.MarkSent("outbox-2-mail-host.a"))
	}
	require.NoError(t, s.AllWritten())
	require.NoError(t, s.Close())
	s, err = store.Open(ctx, folder)
	require.NoError(t, err)
	defer func() { require.NoError(t, s.Close()) }()
	assert.False(t, s.WasSent("outbox-1-mail-client.a"), "it doesn't grow without end")
}

func TestEachClientHasOneRowWithTheLatestBooking(t *testing.T) {
	s := furnished(t, t.TempDir())
	add := func(uid, name, mail, life string, start int64) (seat int64) {
		require.NoError(t, s.Write(ctx, func(q *sqlc.Queries) error {
			meeting, err := q.AddMeeting(ctx, sqlc.AddMeetingParams{Uid: uid, TypeID: 1, HostID: 1, StartAt: start, EndAt: start + 10, KeptFrom: start, KeptUntil: start + 10, CreatedAt: start})
			require.NoError(t, err)
			seat, err = q.AddSeat(ctx, sqlc.AddSeatParams{Keeps: 1, MeetingID: meeting, Life: life, ClientName: name, ClientMail: mail, LinkHash: uid, RequestKey: uid, CreatedAt: start})
			return err
		}))
		return seat
	}
	clients := func() []sqlc.ClientsRow {
		rows, err := s.Clients(ctx, sqlc.ClientsParams{WorkspaceID: 1})
		require.NoError(t, err)
		return rows
	}
	add("a", "Harbour", "keeper@harbour.example", "booked", 100)
	add("b", "Harbour Museum", "Keeper@Harbour.example", "booked", 200)
	unproved := add("c", "Nobody", "nobody@x.example", "unproved", 300)
	rows := clients()
	require.Len(t, rows, 1, "who has proved nothing is no client")
	assert.Equal(t, "Harbour Museum", rows[0].ClientName, "as they called themselves last")
	assert.Equal(t, []int64{2, 100, 200}, []int64{rows[0].Bookings, rows[0].FirstAt, rows[0].LatestStart})
	require.NoError(t, s.Write(ctx, func(q *sqlc.Queries) error {
		return q.SetLife(ctx, sqlc.SetLifeParams{ID: unproved, Life: "booked", Keeps: 1})
	}))
	rows = clients()
	require.Len(t, rows, 2)
	assert.Equal(t, "Nobody", rows[0].ClientName, "the latest first")
	found, err := s.Clients(ctx, sqlc.ClientsParams{WorkspaceID: 1, Search: "MUSEUM"})
	require.NoError(t, err)
	assert.Len(t, found, 1)
}
