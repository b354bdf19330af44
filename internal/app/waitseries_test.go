package app_test

import (
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/waiting"
	"corrim/internal/app"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/testhouse"
)

// fullCourse sets a series of three sessions of so many seats and fills it; clients wait for it as said.
func fullCourse(t *testing.T, h *testhouse.House, how string, seats int) (sessions []app.GroupSession, taken []app.ClientBooking) {
	t.Helper()
	courseOf(t, h, seats)
	offers(t, h, func(c *settings.BookingPageChange) { c.Waiting, c.WaitHours = how, 4 })
	sessions = setting(t, h, "8 May, 15 May and 22 May 10:00")
	for i := range seats {
		taken = append(taken, seat(t, h, "2026-05-08 10:00", string(rune('A'+i))+"da"))
	}
	h.Pass(0)
	return sessions, taken
}

// Whoever waits for a series waits in each of its sessions, is offered a seat in each at one go, and takes or leaves them together.
func TestASeriesIsWaitedForWhole(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Connect()
	h.Run()
	sessions, ada := fullCourse(t, h, waiting.InTurn, 2)
	at := "2026-05-08 10:00"
	open, err := h.App.OpenTimes(ctx, "quillmere", "survey", schedule.TimesWanted{From: h.At("2026-05-05 00:00"), To: h.At("2026-06-05 00:00")})
	require.NoError(t, err)
	require.Len(t, open.Full, 1)

	bo, err := waitsFor(h, at, "Bo")
	require.NoError(t, err)
	require.Len(t, bo.Seats, 3)
	assert.Equal(t, []any{"waiting", int64(0)}, []any{bo.State, *bo.Ahead})
	assert.Contains(t, letters(t, h, "bo@wait.example", 1)[0].Subject, "On the waiting list", "of all dates in one mail")
	cy, err := waitsFor(h, at, "Cy")
	require.NoError(t, err)
	_, err = bookFor(t, h, at, func(r *schedule.BookingRequest) { r.Mail, r.Wait = "BO@wait.example", true })
	refused(t, err, refusal.Over)
	for _, s := range listed(t, h) {
		assert.Equal(t, int64(2), s.Waiting)
	}

	// A seat in one session is no place in the series; once there is one in each, it is offered.
	_, err = h.App.Cancel(ctx, linkOf(app.ClientBooking{Link: ada[0].Seats[1].Link}), "")
	require.NoError(t, err)
	h.Pass(0)
	assert.Equal(t, []string{"waiting", "waiting", "waiting"}, statesOf(stateOf(t, h, bo)))
	_, err = h.App.CancelAll(ctx, linkOf(ada[0]), "")
	require.NoError(t, err)
	h.Pass(0)
	assert.Equal(t, []string{"offered", "offered", "offered"}, statesOf(stateOf(t, h, bo)))
	assert.Equal(t, []string{"waiting", "waiting", "waiting"}, statesOf(stateOf(t, h, cy)))
	assert.Len(t, subjectsTo(h, "bo@"), 2, "one mail offers all of it")
	_, err = bookFor(t, h, at, func(r *schedule.BookingRequest) { r.Mail = "dee@seats.example" })
	refused(t, err, refusal.Taken)

	// Not taken in time, all of it goes to the next, who takes it.
	passes(h, 5*time.Hour)
	assert.Equal(t, []string{"expired", "expired", "expired"}, statesOf(stateOf(t, h, bo)))
	assert.Equal(t, []string{"offered", "offered", "offered"}, statesOf(stateOf(t, h, cy)))
	took, err := h.App.TakeSeat(ctx, linkOf(cy))
	require.NoError(t, err)
	assert.Equal(t, []string{"booked", "booked", "booked"}, statesOf(took))
	h.Pass(0)
	booked := letters(t, h, "cy@wait.example", 3)[2]
	assert.Contains(t, booked.Subject, "3 dates")
	assert.Len(t, booked.Files, 1+3)
	assert.Equal(t, []int{2, 2, 2}, taken(t, h))

	// A session that is called off is no longer waited for; the others are.
	dee, err := waitsFor(h, at, "Dee")
	require.NoError(t, err)
	_, err = h.App.CancelForAll(ctx, h.Host, sessions[1].ID, "", false)
	require.NoError(t, err)
	h.Pass(0)
	assert.Equal(t, "waiting", stateOf(t, h, dee).State)
	assert.Len(t, subjectsTo(h, "dee@"), 1, "she waits on for the rest")
	_, err = h.App.CancelForAll(ctx, h.Host, sessions[0].ID, "", true)
	require.NoError(t, err)
	h.Pass(0)
	assert.Equal(t, "cancelled", stateOf(t, h, dee).State)
	assert.Contains(t, letters(t, h, "dee@wait.example", 2)[1].Subject, "Off the waiting list")
}

// The session that was the full one is called off: there is a place in the rest now.
func TestASeriesWithoutItsFullestSessionIsOffered(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	sessions, ada := fullCourse(t, h, waiting.First, 2)
	bo, err := waitsFor(h, "2026-05-08 10:00", "Bo")
	require.NoError(t, err)
	for _, i := range []int{0, 2} {
		_, err = h.App.Cancel(ctx, linkOf(app.ClientBooking{Link: ada[0].Seats[i].Link}), "")
		require.NoError(t, err)
	}
	h.Pass(0)
	assert.False(t, stateOf(t, h, bo).MayTake, "the second is full still")
	_, err = h.App.TakeSeat(ctx, linkOf(bo))
	refused(t, err, refusal.Taken)
	_, err = h.App.CancelForAll(ctx, h.Host, sessions[1].ID, "", false)
	require.NoError(t, err)
	h.Pass(0)
	assert.True(t, stateOf(t, h, bo).MayTake)
	took, err := h.App.TakeSeat(ctx, linkOf(bo))
	require.NoError(t, err)
	assert.Equal(t, "booked", took.State)
	assert.Equal(t, []int{2, 2}, taken(t, h))

	// A host takes somebody off the list of a series, with all its dates.
	cy, err := waitsFor(h, "2026-05-08 10:00", "Cy")
	require.NoError(t, err)
	_, err = h.App.CancelByHost(ctx, h.Host, waitingIn(t, h, sessions[0].ID, "Cy"), "", false)
	require.NoError(t, err)
	assert.Equal(t, "cancelled", stateOf(t, h, cy).State)
	for _, s := range listed(t, h) {
		assert.Zero(t, s.Waiting)
	}
}

// Joining, giving back and lapsing at random: nobody is ever in a part of a series only, no session is over its number, and whoever came
// first is offered first.
func TestWhoWaitsForASeriesIsNeverInAPartOfIt(t *testing.T) {
	t.Parallel()
	for seed := range uint64(3) {
		random := rand.New(rand.NewPCG(19, seed))
		h := testhouse.New(t)
		h.Run()
		_, in := fullCourse(t, h, waiting.InTurn, 2)
		var queue []app.ClientBooking
		for step := range 25 {
			switch random.IntN(4) {
			case 0, 1:
				if b, err := waitsFor(h, "2026-05-08 10:00", "W"+string(rune('a'+step))); err == nil {
					queue = append(queue, b)
				}
			case 2:
				if len(in) > 0 {
					_, err := h.App.CancelAll(ctx, linkOf(in[0]), "")
					require.NoError(t, err)
					in = in[1:]
				}
			case 3:
				passes(h, time.Duration(random.IntN(3))*time.Hour)
			}
			h.Pass(0)
			var left []app.ClientBooking
			waits := false
			for _, b := range queue {
				states := statesOf(stateOf(t, h, b))
				require.Len(t, states, 3)
				require.Equal(t, []string{states[0], states[0], states[0]}, states)
				if states[0] == "offered" {
					require.False(t, waits, "nobody is passed over")
					if random.IntN(2) == 0 {
						took, err := h.App.TakeSeat(ctx, linkOf(b))
						require.NoError(t, err)
						in = append(in, took)
						continue
					}
				}
				if waits = waits || states[0] == "waiting"; states[0] == "waiting" || states[0] == "offered" {
					left = append(left, b)
				}
			}
			queue = left
			for _, n := range taken(t, h) {
				require.LessOrEqual(t, n, 2)
			}
		}
	}
}
