package store_test

import (
	"context"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/internal/store"
	"corrim/internal/store/sqlc"
	"corrim/internal/store/storetest"
)

var ctx = context.Background()

// furnished is a database with one host and one meeting type.
func furnished(t *testing.T, folder string) *store.Store {
	t.Helper()
	s := storetest.Open(t, folder)
	require.NoError(t, s.Write(ctx, func(q *sqlc.Queries) error {
		workspace, err := q.AddWorkspace(ctx, sqlc.AddWorkspaceParams{Slug: "w", Name: "W"})
		require.NoError(t, err)
		host, err := q.AddPerson(ctx, sqlc.AddPersonParams{WorkspaceID: workspace, Name: "Ines", Mail: "i@x.example", Zone: "UTC", Week: "[]", Role: "owner"})
		require.NoError(t, err)
		_, err = q.AddMeetingType(ctx, sqlc.AddMeetingTypeParams{WorkspaceID: workspace, HostID: host, Slug: "s", Name: "S", Rules: "{}"})
		return err
	}))
	return s
}

func add(s *store.Store, name string, start, end, before, after int64) error {
	return s.Write(ctx, func(q *sqlc.Queries) error {
		meeting, err := q.AddMeeting(ctx, sqlc.AddMeetingParams{Uid: name, TypeID: 1, HostID: 1, StartAt: start, EndAt: end, KeptFrom: start - before, KeptUntil: end + after})
		if err != nil {
			return err
		}
		if _, err := q.AddSeat(ctx, sqlc.AddSeatParams{Keeps: 1, MeetingID: meeting, Life: "booked", Answers: "{}", LinkHash: name, RequestKey: name}); err != nil {
			return err
		}
		return q.AddMeetingHost(ctx, sqlc.AddMeetingHostParams{MeetingID: meeting, PersonID: 1})
	})
}

func TestTheDatabaseItselfRefusesADoubleBooking(t *testing.T) {
	s := furnished(t, t.TempDir())
	require.NoError(t, add(s, "a", 1000, 2000, 0, 600))
	require.ErrorIs(t, add(s, "b", 1500, 2500, 0, 0), store.ErrOverlap)
	require.ErrorIs(t, add(s, "b", 2500, 3000, 0, 0), store.ErrOverlap, "its buffer")
	require.ErrorIs(t, add(s, "b", 2700, 3000, 200, 0), store.ErrOverlap, "two buffers")
	require.NoError(t, add(s, "b", 2600, 3000, 0, 0), "touching is no overlap")

	move := func(start, end int64) error {
		return s.Write(ctx, func(q *sqlc.Queries) error {
			return q.MoveMeeting(ctx, sqlc.MoveMeetingParams{MeetingID: 2, StartAt: start, EndAt: end, KeptFrom: start, KeptUntil: end})
		})
	}
	require.ErrorIs(t, move(2599, 3000), store.ErrOverlap, "an update is refused like an insert")
	require.NoError(t, move(2700, 3000), "over its own old time")
	require.NoError(t, s.Write(ctx, func(q *sqlc.Queries) error { return q.SetLife(ctx, sqlc.SetLifeParams{ID: 1, Life: "cancelled"}) }))
	require.NoError(t, move(1000, 2000), "a cancelled one is not in the way")
}

func TestTheDatabaseItselfRefusesSeatsBeyondTheCapacity(t *testing.T) {
	s := furnished(t, t.TempDir())
	require.NoError(t, add(s, "a", 1000, 2000, 0, 0))
	sit := func(name, life string) (seat int64, err error) {
		err = s.Write(ctx, func(q *sqlc.Queries) (err error) {
			seat, err = q.AddSeat(ctx, sqlc.AddSeatParams{Keeps: 1, MeetingID: 1, Life: life, LinkHash: name, RequestKey: name})
			return err
		})
		return seat, err
	}
	set := func(seat int64, life string, keeps int64) error {
		return s.Write(ctx, func(q *sqlc.Queries) error {
			return q.SetLife(ctx, sqlc.SetLifeParams{ID: seat, Life: life, Keeps: keeps})
		})
	}
	state := func() string {
		hosts, err := s.HostsOfMeeting(ctx, 1)
		require.NoError(t, err)
		return hosts[0].State
	}
	_, err := sit("b", "booked")
	require.ErrorIs(t, err, store.ErrFull)
	require.NoError(t, set(1, "cancelled", 0))
	assert.Equal(t, "cancelled", state(), "nobody keeps a seat in it")
	second, err := sit("b", "requested")
	require.NoError(t, err, "the seat is free again")
	assert.Equal(t, "booked", state(), "and somebody has it")
	require.ErrorIs(t, set(1, "booked", 1), store.ErrFull, "an update is refused like an insert")
	require.NoError(t, s.Script(ctx, "UPDATE meeting SET capacity = 2"))
	require.NoError(t, set(1, "booked", 1))
	assert.Equal(t, "booked", state())
	require.NoError(t, set(1, "cancelled", 0))
	assert.Equal(t, "booked", state(), "the other seat is kept")
	require.NoError(t, set(1, "booked", 1))
	require.ErrorContains(t, s.Script(ctx, "UPDATE meeting SET capacity = 1"), "no seat left", "two are kept")
	require.NoError(t, set(second, "declined", 0))
	require.NoError(t, s.Script(ctx, "UPDATE meeting SET capacity = 1"))
}

// What is long reaches from far away into a range, and is found there however short everything else is.
func TestWhatLastsLongIsFoundInItsMiddle(t *testing.T) {
	const day = 86400
	s := furnished(t, t.TempDir())
	meetings := func(from, to int64) (ids []int64) {
		rows, err := s.TimesOfHosts(ctx, sqlc.TimesOfHostsParams{RangeFrom: from, RangeTo: to, People: []int64{1}})
		require.NoError(t, err)
		whole, err := s.BookingsOfHosts(ctx, sqlc.BookingsOfHostsParams{RangeFrom: from, RangeTo: to, People: []int64{1}})
		require.NoError(t, err)
		require.Len(t, whole, len(rows))
		for _, row := range rows {
			ids = append(ids, row.ID)
		}
		return ids
	}
	require.NoError(t, add(s, "short", 0, 60, 0, 0))
	require.NoError(t, add(s, "long", 10*day, 11*day, day, day))
	assert.Equal(t, []int64{2}, meetings(9*day+100, 9*day+200), "its buffer, when it ends days later")
	require.NoError(t, s.Write(ctx, func(q *sqlc.Queries) error {
		return q.MoveMeeting(ctx, sqlc.MoveMeetingParams{MeetingID: 2, StartAt: 20 * day, EndAt: 25 * day, KeptFrom: 20 * day, KeptUntil: 25 * day})
	}))
	assert.Equal(t, []int64{2}, meetings(20*day+100, 20*day+200), "made longer")
	assert.Empty(t, meetings(19*day, 20*day), "it begins as the range ends")

	require.NoError(t, s.Script(ctx, `INSERT INTO calendar_account (id, person_id, address, username, secret, kind) VALUES (1, 1, 'a', '', x'', 'file');
		INSERT INTO calendar (id, account_id, href, name, blocks, receives) VALUES (1, 1, 'c', 'C', 1, 0);
		INSERT INTO calendar_resource (calendar_id, href, etag, ics) VALUES (1, 'r', '', '')`))
	busy := func(from, to int64) []sqlc.BusyRow {
		rows, err := s.Busy(ctx, sqlc.BusyParams{RangeFrom: from, RangeTo: to, People: []int64{1}})
		require.NoError(t, err)
		return rows
	}
	event := func(start, end int64) error {
		return s.Write(ctx, func(q *sqlc.Queries) error {
			return q.AddBusy(ctx, sqlc.AddBusyParams{CalendarID: 1, Href: "r", StartAt: start, EndAt: end})
		})
	}
	require.NoError(t, event(0, 60))
	require.NoError(t, event(day, 400*day))
	assert.Len(t, busy(2*day, 2*day+1), 1, "a year away")
	assert.Empty(t, busy(100, 200))
}

func TestNeighbouringBuffersShareTimeOnlyWhereTheWorkspaceSaysSo(t *testing.T) {
	s := furnished(t, t.TempDir())
	share := func(share int64) {
		require.NoError(t, s.Write(ctx, func(q *sqlc.Queries) error {
			return q.SetWorkspace(ctx, sqlc.SetWorkspaceParams{ID: 1, Name: "W", Zone: "UTC", Zones: "client", FirstWeekday: 1, ShareBuffers: share, Rules: "{}"})
		}))
	}
	share(1)
	require.NoError(t, add(s, "a", 1000, 2000, 0, 600))
	require.ErrorIs(t, add(s, "b", 2500, 3000, 0, 0), store.ErrOverlap, "a meeting in a buffer")
	require.ErrorIs(t, add(s, "b", 2700, 3000, 800, 0), store.ErrOverlap, "a buffer in a meeting")
	require.NoError(t, add(s, "b", 2600, 3000, 600, 0), "two buffers")
	share(0)
	require.ErrorIs(t, add(s, "c", 3100, 3200, 200, 0), store.ErrOverlap)
	require.NoError(t, s.Write(ctx, func(q *sqlc.Queries) error {
		return q.SetRoom(ctx, sqlc.SetRoomParams{MeetingID: 2, Room: "{}"})
	}), "what was booked while they were shared can still be worked on")
}

func TestAWriteThatFailsChangesNothing(t *testing.T) {
	s := furnished(t, t.TempDir())
	err := s.Write(ctx, func(q *sqlc.Queries) error {
		require.NoError(t, q.SetWeek(ctx, sqlc.SetWeekParams{ID: 1, Week: "changed"}))
		return assert.AnError
	})
	require.ErrorIs(t, err, assert.AnError)
	person, err := s.Person(ctx, 1)
	require.NoError(t, err)
	assert.Equal(t, "[]", person.Week)
	assert.Error(t, s.SetWeek(ctx, sqlc.SetWeekParams{ID: 1, Week: "changed"}), "the read pool can't write")
}

func TestOpeningAgainKeepsEverything(t *testing.T) {
	folder := t.TempDir()
	first := furnished(t, folder)
	require.NoError(t, add(first, "a", 1000, 2000, 0, 0))
	require.NoError(t, first.Close())
	again, err := store.Open(ctx, folder)
	require.NoError(t, err)
	defer func() { require.NoError(t, again.Close()) }()
	booking, err := again.Booking(ctx, 1)
	require.NoError(t, err)
	assert.Equal(t, "a", booking.MeetingUid)
}

func TestSessionsEndWhenTheyExpire(t *testing.T) {
	sessions := store.Sessions{Store: furnished(t, t.TempDir())}
	require.NoError(t, sessions.Commit("fresh", []byte("data"), time.Now().Add(time.Hour)))
	require.NoError(t, sessions.Commit("old", []byte("data"), time.Now().Add(-time.Hour)))
	data, found, err := sessions.Find("fresh")
	require.NoError(t, err)
	assert.True(t, found)
	assert.Equal(t, "data", string(data))
	_, found, err = sessions.Find("old")
	require.NoError(t, err)
	assert.False(t, found)
	require.NoError(t, sessions.Delete("fresh"))
	_, found, err = sessions.Find("fresh")
	require.NoError(t, err)
	assert.False(t, found)
}

func TestOnlyItsOwnerReadsTheDatabaseWhateverItsFolder(t *testing.T) {
	folder := t.TempDir()
	require.NoError(t, os.Chmod(folder, 0o755))
	require.NoError(t, os.WriteFile(filepath.Join(folder, "corrim.db"), nil, 0o644))
	s, err := store.Open(ctx, folder)
	require.NoError(t, err)
	files, err := filepath.Glob(filepath.Join(folder, "corrim.db*"))
	require.NoError(t, err)
	assert.Greater(t, len(files), 1, "its log lies beside it")
	for _, file := range files {
		info, err := os.Stat(file)
		require.NoError(t, err)
		assert.Equal(t, os.FileMode(0o600), info.Mode().Perm(), file)
	}
	require.NoError(t, s.Close())
}
