package app_test

import (
	"fmt"
	"maps"
	"math/rand"
	"regexp"
	"slices"
	"strings"
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

// waitsFor puts somebody on the waiting list of a time.
func waitsFor(h *testhouse.House, at, name string) (app.ClientBooking, error) {
	r := h.Request(at)
	r.Name, r.Mail, r.Wait = name, strings.ToLower(name)+"@wait.example", true
	b, err := h.App.Book(ctx, "quillmere", "survey", "waiting "+at+name, r)
	h.Pass(0) // else a mail that waits could be overtaken by the next
	return b, err
}

// listOf lets clients wait for sessions of so many seats, and fills one.
func listOf(t *testing.T, h *testhouse.House, how string, seats int) (id int64, taken []app.ClientBooking) {
	t.Helper()
	sessionsOf(t, h, seats)
	offers(t, h, func(c *settings.BookingPageChange) { c.Waiting, c.WaitHours = how, 4 })
	id = setting(t, h, "8 May 10:00")[0].ID
	for i := range seats {
		taken = append(taken, seat(t, h, "2026-05-08 10:00", fmt.Sprintf("Ada%d", i)))
	}
	h.Pass(0)
	return id, taken
}

// passes lets time go by, and what is to be done then be done.
func passes(h *testhouse.House, d time.Duration) {
	h.Pass(d)
	h.Pass(0)
}

func stateOf(t *testing.T, h *testhouse.House, b app.ClientBooking) app.ClientBooking {
	t.Helper()
	now, err := h.App.BookingByLink(ctx, linkOf(b))
	require.NoError(t, err)
	return now
}

func TestASeatThatGetsFreeIsOfferedToOneAfterTheOther(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Connect()
	h.Run()
	id, taken := listOf(t, h, waiting.InTurn, 2)
	const at = "2026-05-08 10:00"
	cy, err := waitsFor(h, at, "Cy")
	require.NoError(t, err)
	dee, err := waitsFor(h, at, "Dee")
	require.NoError(t, err)
	_, err = waitsFor(h, "2026-05-08 11:00", "Eve")
	refused(t, err, refusal.Taken)
	r := h.Request(at)
	r.Name, r.Mail, r.Wait = "Cy", "CY@wait.example", true
	_, err = h.App.Book(ctx, "quillmere", "survey", "once more", r)
	assert.Contains(t, refused(t, err, refusal.Over).Sentence, "already")

	assert.Equal(t, []any{"waiting", int64(0)}, []any{cy.State, *cy.Ahead})
	assert.Equal(t, []any{"waiting", int64(1)}, []any{dee.State, *dee.Ahead})
	assert.Contains(t, letters(t, h, "dee@wait.example", 1)[0].Subject, "On the waiting list")
	open, err := h.App.OpenTimes(ctx, "quillmere", "survey", schedule.TimesWanted{From: h.At(at), To: h.At("2026-05-09 00:00")})
	require.NoError(t, err)
	assert.Equal(t, []schedule.FullTime{{Start: h.At(at).UTC(), Waiting: 2}}, open.Full)
	assert.EqualValues(t, 2, listed(t, h)[0].Waiting)
	_, err = h.App.TakeSeat(ctx, linkOf(cy))
	refused(t, err, refusal.Over)
	assert.Len(t, entries(t, h), 1)
	assert.NotContains(t, entries(t, h)[0], "Cy", "who waits doesn't come yet")

	// A seat gets free: it is kept for the first, and nobody else gets it meanwhile.
	_, err = h.App.Cancel(ctx, linkOf(taken[0]), "")
	require.NoError(t, err)
	assert.Equal(t, -1, leftAt(t, h, at))
	assert.Contains(t, letters(t, h, "cy@wait.example", 2)[1].Subject, "A place is free")
	offered := stateOf(t, h, cy)
	assert.Equal(t, "offered", offered.State)
	assert.True(t, offered.MayTake)
	require.NotNil(t, offered.Lapses)
	assert.Equal(t, h.Now().Add(4*time.Hour).Unix(), offered.Lapses.Unix())
	assert.Zero(t, *stateOf(t, h, dee).Ahead)

	// The first doesn't answer: then it is the next one's.
	passes(h, 4*time.Hour+time.Minute)
	assert.Equal(t, "expired", stateOf(t, h, cy).State)
	_, err = h.App.TakeSeat(ctx, linkOf(cy))
	refused(t, err, refusal.Over)
	booked, err := h.App.TakeSeat(ctx, linkOf(dee))
	require.NoError(t, err)
	assert.Equal(t, []any{"booked", false}, []any{booked.State, booked.Waited})
	_, err = h.App.TakeSeat(ctx, linkOf(dee))
	require.NoError(t, err, "sent twice")
	all := letters(t, h, "dee@wait.example", 3)
	assert.Contains(t, string(all[2].Raw), "text/calendar", "with an invitation")
	h.Pass(time.Minute)
	assert.Contains(t, entries(t, h)[0], "Dee")
	assert.Equal(t, schedule.Filling{Taken: 2, Seats: 2}, listed(t, h)[0].Filling)

	sheet, err := h.App.BookingSheet(ctx, h.Host, id)
	require.NoError(t, err)
	var steps []string
	for _, s := range sheet.Steps {
		steps = append(steps, strings.TrimSpace(s.Kind+" "+s.Note))
	}
	assert.Equal(t, []string{"scheduled", "queued Cy", "queued Dee", "offered Cy", "lapsed Cy", "offered Dee"}, steps)
}

func TestAFreeSeatIsWhoeversIsFirstIfTheTypeHasItSo(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	_, taken := listOf(t, h, waiting.First, 2)
	const at = "2026-05-08 10:00"
	cy, err := waitsFor(h, at, "Cy")
	require.NoError(t, err)
	dee, err := waitsFor(h, at, "Dee")
	require.NoError(t, err)
	_, err = h.App.Cancel(ctx, linkOf(taken[1]), "")
	require.NoError(t, err)
	letters(t, h, "cy@wait.example", 2)
	letters(t, h, "dee@wait.example", 2)
	assert.Equal(t, 1, leftAt(t, h, at), "anybody can have it")
	assert.True(t, stateOf(t, h, dee).MayTake)
	_, err = h.App.TakeSeat(ctx, linkOf(dee))
	require.NoError(t, err)
	_, err = h.App.TakeSeat(ctx, linkOf(cy))
	refused(t, err, refusal.Taken)
	assert.Equal(t, "waiting", stateOf(t, h, cy).State, "the other one stays on the list")
}

func TestWhoWaitsHearsOfWhatBecomesOfTheSession(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	id, _ := listOf(t, h, waiting.InTurn, 2)
	const at = "2026-05-08 10:00"
	var waiters []app.ClientBooking
	for _, name := range []string{"Cy", "Dee", "Eve", "Flo"} {
		b, err := waitsFor(h, at, name)
		require.NoError(t, err)
		waiters = append(waiters, b)
	}
	// One leaves the list, without a mail to anybody.
	before := len(subjectsTo(h, "ines@"))
	left, err := h.App.Cancel(ctx, linkOf(waiters[0]), "")
	require.NoError(t, err)
	assert.Equal(t, []any{"cancelled", true}, []any{left.State, left.Waited})
	// The host takes one off it.
	sheet, err := h.App.BookingSheet(ctx, h.Host, id)
	require.NoError(t, err)
	eve := slices.IndexFunc(sheet.Participants, func(p app.Participant) bool { return p.Name == "Eve" })
	_, err = h.App.CancelByHost(ctx, h.Host, sheet.Participants[eve].Booking, "It will not get free.", false)
	require.NoError(t, err)
	assert.Contains(t, letters(t, h, "eve@wait.example", 2)[1].Text, "It will not get free.")
	assert.Len(t, subjectsTo(h, "cy@"), 1)

	// More seats are offered the same way.
	sessionsOf(t, h, 3)
	assert.Equal(t, "offered", stateOf(t, h, waiters[1]).State)
	assert.Equal(t, "waiting", stateOf(t, h, waiters[3]).State)

	h.Pass(0)
	// Called off, everybody hears of it: who comes, who has an offer, and who waits.
	_, err = h.App.CancelByHost(ctx, h.Host, id, "The roof leaks.", false)
	require.NoError(t, err)
	assert.Contains(t, letters(t, h, "dee@wait.example", 3)[2].Text, "The roof leaks.")
	assert.Contains(t, letters(t, h, "flo@wait.example", 2)[1].Text, "called off")
	letters(t, h, "ada0@seats.example", 2)
	assert.Equal(t, "cancelled", stateOf(t, h, waiters[3]).State)
	h.Pass(time.Minute)
	assert.Greater(t, len(subjectsTo(h, "ines@")), before)
	_, err = waitsFor(h, at, "Gil")
	refused(t, err, refusal.Taken)
}

func TestWhoTakesASeatProvesTheirAddressWhereATypeWantsIt(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	_, taken := listOf(t, h, waiting.InTurn, 2)
	offers(t, h, func(c *settings.BookingPageChange) { c.Waiting, c.Proof = waiting.InTurn, "code" })
	cy, err := waitsFor(h, "2026-05-08 10:00", "Cy")
	require.NoError(t, err)
	_, err = h.App.Cancel(ctx, linkOf(taken[0]), "")
	require.NoError(t, err)
	letters(t, h, "cy@wait.example", 2)
	took, err := h.App.TakeSeat(ctx, linkOf(cy))
	require.NoError(t, err)
	assert.Equal(t, "unproved", took.State, "the link stood in an answer that anybody could have")
	code := regexp.MustCompile(`\d{6}`).FindString(letters(t, h, "cy@wait.example", 3)[2].Subject)
	proved, err := h.App.Prove(ctx, linkOf(cy), code)
	require.NoError(t, err)
	assert.Equal(t, "booked", proved.State)
}

func TestNobodyWaitsWhereThereIsNoList(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	listOf(t, h, "", 2)
	_, err := waitsFor(h, "2026-05-08 10:00", "Cy")
	refused(t, err, refusal.Over)
}

// queue is a second count of a waiting list, which knows nothing of the first: who sits, who is asked, who waits in which order.
type queue struct {
	seats               int
	sit, asked, waiting []string
}

func (c *queue) ask() {
	for len(c.sit)+len(c.asked) < c.seats && len(c.waiting) > 0 {
		c.asked, c.waiting = append(c.asked, c.waiting[0]), c.waiting[1:]
	}
}

func without(names []string, name string) []string {
	return slices.DeleteFunc(slices.Clone(names), func(n string) bool { return n == name })
}

func (c *queue) leave(name string) {
	c.sit, c.asked, c.waiting = without(c.sit, name), without(c.asked, name), without(c.waiting, name)
	c.ask()
}

func TestRandomRunsOfAWaitingListAgreeWithASecondCount(t *testing.T) {
	t.Parallel()
	for seed := range int64(5) {
		t.Run(fmt.Sprint(seed), func(t *testing.T) {
			t.Parallel()
			h, random := testhouse.New(t), rand.New(rand.NewSource(seed))
			h.Run()
			sessionsOf(t, h, 2)
			offers(t, h, func(c *settings.BookingPageChange) { c.Waiting, c.WaitHours = waiting.InTurn, 1 })
			setting(t, h, "18 May 10:00")
			const at = "2026-05-18 10:00"
			c, links := &queue{seats: 2}, map[string]string{}
			for n := range 40 {
				name := fmt.Sprintf("c%d", n)
				switch does := random.Intn(9); {
				case does < 4:
					full := len(c.sit)+len(c.asked) >= c.seats
					b, err := waitsFor(h, at, name)
					require.Equal(t, full, err == nil, "step %d: %v", n, err)
					if full {
						c.waiting = append(c.waiting, name)
					} else {
						b, c.sit = seat(t, h, at, name), append(c.sit, name)
					}
					links[name] = linkOf(b)
				case does < 6 && len(links) > 0:
					names := slices.Sorted(maps.Keys(links))
					name = names[random.Intn(len(names))]
					_, err := h.App.Cancel(ctx, links[name], "")
					require.NoError(t, err)
					delete(links, name)
					c.leave(name)
				case does < 7 && len(c.asked) > 0:
					name = c.asked[random.Intn(len(c.asked))]
					_, err := h.App.TakeSeat(ctx, links[name])
					require.NoError(t, err)
					c.asked, c.sit = without(c.asked, name), append(c.sit, name)
				case does < 8 && len(c.asked) > 0:
					passes(h, time.Hour+time.Minute)
					gone := c.asked
					c.asked = nil
					for _, name := range gone {
						delete(links, name)
					}
					c.ask()
				case does == 8 && c.seats < 5:
					c.seats++
					sessionsOf(t, h, c.seats)
					c.ask()
				}
				for name, link := range links {
					b, err := h.App.BookingByLink(ctx, link)
					require.NoError(t, err)
					want := "waiting"
					if slices.Contains(c.sit, name) {
						want = "booked"
					} else if slices.Contains(c.asked, name) {
						want = "offered"
					}
					require.Equal(t, want, b.State, "step %d: %s of %+v", n, name, c)
					if want == "waiting" {
						require.EqualValues(t, slices.Index(c.waiting, name), *b.Ahead, "step %d: %s of %+v", n, name, c)
					}
				}
				require.LessOrEqual(t, listed(t, h)[0].Taken, c.seats)
			}
		})
	}
}

func TestWhoeverWaitsForAnyTakesWhateverGetsFreeFirst(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	sessionsOf(t, h, 2)
	offers(t, h, func(c *settings.BookingPageChange) { c.Waiting, c.WaitHours = waiting.InTurn, 4 })
	setting(t, h, "8 May, 15 May and 22 May 10:00")
	h.Pass(0)
	var second []app.ClientBooking
	for _, name := range []string{"Ada", "Bo"} {
		seat(t, h, "2026-05-08 10:00", name)
		second = append(second, seat(t, h, "2026-05-15 10:00", name))
	}
	fern, err := bookFor(t, h, "2026-05-08 10:00", func(r *schedule.BookingRequest) {
		r.Name, r.Mail, r.Wait, r.Any = "Fern", "fern@wait.example", true, true
	})
	require.NoError(t, err)
	gorse, err := waitsFor(h, "2026-05-15 10:00", "Gorse")
	require.NoError(t, err)
	require.Len(t, fern.Seats, 2, "what is open is not waited for")
	letter := letters(t, h, "fern@wait.example", 1)[0]
	assert.Contains(t, letter.Text, "Friday 15 May 2026", "one letter names all dates")
	h.Pass(0)
	require.Len(t, subjectsTo(h, "fern@"), 1)
	waits, err := h.App.BookingSheet(ctx, h.Host, waitingIn(t, h, listed(t, h)[0].ID, "Fern"))
	require.NoError(t, err)
	assert.Zero(t, waits.Series.Seats, "a host takes them off one list at a time")

	_, err = h.App.Cancel(ctx, linkOf(second[0]), "")
	require.NoError(t, err)
	letters(t, h, "fern@wait.example", 2)
	theirs := strings.TrimPrefix(stateOf(t, h, fern).Seats[1].Link, "/b/")
	took, err := h.App.TakeSeat(ctx, theirs)
	require.NoError(t, err)
	assert.Equal(t, "booked", took.State)
	assert.Nil(t, took.CantMove)
	assert.Equal(t, "cancelled", stateOf(t, h, fern).State, "they wait for the others no longer")
	letters(t, h, "fern@wait.example", 3)
	h.Pass(0)
	assert.Len(t, subjectsTo(h, "fern@"), 3, "and need no letter about that")
	assert.Equal(t, "waiting", stateOf(t, h, gorse).State)
}

// waitingIn is the booking of somebody who comes to a session, or waits for a seat in it.
func waitingIn(t *testing.T, h *testhouse.House, session int64, name string) int64 {
	t.Helper()
	sheet, err := h.App.BookingSheet(ctx, h.Host, session)
	require.NoError(t, err)
	i := slices.IndexFunc(sheet.Participants, func(p app.Participant) bool { return p.Name == name })
	require.GreaterOrEqual(t, i, 0)
	return sheet.Participants[i].Booking
}

// Who waits for any and is offered two seats, at different times, loses only the one whose time is over.
func TestAnOfferThatLapsesLeavesAnotherOne(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	sessionsOf(t, h, 2)
	offers(t, h, func(c *settings.BookingPageChange) { c.Waiting, c.WaitHours = "turn", 4 })
	setting(t, h, "8 May and 9 May 10:00")
	first, second := seat(t, h, "2026-05-08 10:00", "Ada"), seat(t, h, "2026-05-09 10:00", "Ada")
	seat(t, h, "2026-05-08 10:00", "Bo")
	seat(t, h, "2026-05-09 10:00", "Bo")
	h.Pass(0)
	waits, err := bookFor(t, h, "2026-05-08 10:00", func(r *schedule.BookingRequest) { r.Mail, r.Wait, r.Any = "cy@wait.example", true, true })
	require.NoError(t, err)
	_, err = h.App.Cancel(ctx, linkOf(first), "")
	require.NoError(t, err)
	passes(h, 2*time.Hour)
	_, err = h.App.Cancel(ctx, linkOf(second), "")
	require.NoError(t, err)
	h.Pass(0)
	assert.Equal(t, []string{"offered", "offered"}, statesOf(stateOf(t, h, waits)))
	passes(h, 3*time.Hour)
	assert.Equal(t, []string{"expired", "offered"}, statesOf(stateOf(t, h, waits)))
}

// A session that is called off by itself is off for those who wait too, and for whoever is being offered a seat.
func TestWhoWaitsIsToldThatTooFewCame(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	sessionsOf(t, h, 3)
	offers(t, h, func(c *settings.BookingPageChange) { c.Waiting, c.WaitHours, c.Least, c.LeastHours = "turn", 4, 3, 6 })
	setting(t, h, "8 May 10:00")
	at := "2026-05-08 10:00"
	ada := seat(t, h, at, "Ada")
	seat(t, h, at, "Bo")
	seat(t, h, at, "Cy")
	dee, err := waitsFor(h, at, "Dee")
	require.NoError(t, err)
	eve, err := waitsFor(h, at, "Eve")
	require.NoError(t, err)
	passes(h, h.At("2026-05-08 03:00").Sub(h.Now()))
	_, err = h.App.Cancel(ctx, linkOf(ada), "")
	require.NoError(t, err)
	h.Pass(0)
	require.Equal(t, []string{"offered", "waiting"}, []string{stateOf(t, h, dee).State, stateOf(t, h, eve).State})
	passes(h, time.Hour)
	assert.Equal(t, []string{"cancelled", "cancelled"}, []string{stateOf(t, h, dee).State, stateOf(t, h, eve).State})
	assert.Contains(t, letters(t, h, "eve@wait.example", 2)[1].Subject, "Called off")
	assert.Contains(t, letters(t, h, "dee@wait.example", 3)[2].Subject, "Called off")
	assert.Empty(t, listed(t, h))
}
