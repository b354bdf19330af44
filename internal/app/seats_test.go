package app_test

import (
	"bytes"
	"encoding/csv"
	"fmt"
	"maps"
	"math/rand"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/intake"
	"corrim/core/invite"
	"corrim/core/span"
	"corrim/internal/app"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/testhouse"
)

// shares lets so many clients share the times of the house's type.
func shares(t *testing.T, h *testhouse.House, seats int) {
	t.Helper()
	ruled(t, h, func(r *schedule.TypeRules) { r.Seats = seats })
}

// ruled gives the house's type other rules than the usual ones.
func ruled(t testing.TB, h *testhouse.House, change func(*schedule.TypeRules)) {
	t.Helper()
	draft := testhouse.Survey
	change(&draft.Rules)
	_, err := h.App.SaveMeetingType(ctx, h.Host, h.Type.ID, draft, settings.Saving{})
	require.NoError(t, err)
}

// seat books a seat for somebody.
func seat(t *testing.T, h *testhouse.House, at, name string) app.ClientBooking {
	t.Helper()
	b, err := bookFor(t, h, at, func(r *schedule.BookingRequest) { r.Name, r.Mail = name, strings.ToLower(name)+"@seats.example" })
	require.NoError(t, err)
	return b
}

// leftAt is how many seats are left of a start, as the page says; -1 if it isn't open.
func leftAt(t *testing.T, h *testhouse.House, at string) int {
	t.Helper()
	start := h.At(at)
	open, err := h.App.OpenTimes(ctx, "quillmere", "survey", schedule.TimesWanted{From: start, To: start.Add(time.Minute)})
	require.NoError(t, err)
	if len(open.Starts) == 0 {
		return -1
	}
	page, err := h.App.Page(ctx, "quillmere", "survey", false)
	require.NoError(t, err)
	if left, some := open.Left[start.UTC().Format(time.RFC3339)]; some {
		return left
	}
	return page.Seats
}

// entries are the host's calendar entries of meetings, without those of buffers, each on unfolded lines.
func entries(t *testing.T, h *testhouse.House) (out []string) {
	t.Helper()
	for _, text := range h.Calendars.Texts("ines", 0) {
		if text = strings.ReplaceAll(text, "\r\n ", ""); !strings.Contains(text, "SUMMARY:Buffer ") {
			out = append(out, text)
		}
	}
	return out
}

func TestClientsShareATimeUntilItIsFull(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Connect()
	h.Run()
	shares(t, h, 3)
	const at = "2026-05-05 10:00"
	assert.Equal(t, 3, leftAt(t, h, at))
	ada, bo := seat(t, h, at, "Ada"), seat(t, h, at, "Bo")
	assert.Equal(t, 1, leftAt(t, h, at))
	assert.NotContains(t, h.Open("2026-05-05"), "10:10", "its neighbours stay closed")
	seat(t, h, at, "Cy")
	assert.Equal(t, -1, leftAt(t, h, at))
	_, err := bookFor(t, h, at, func(r *schedule.BookingRequest) { r.Mail = "dee@seats.example" })
	refused(t, err, refusal.Taken)
	assert.NotEqual(t, ada.Link, bo.Link, "each has a link of their own")

	// One meeting, one entry that says who comes, one mark on the day.
	letters(t, h, "cy@seats.example", 1)
	today, err := h.App.Today(ctx, h.Host)
	require.NoError(t, err)
	require.Len(t, today.Meetings, 1)
	assert.Equal(t, &schedule.Filling{Taken: 3, Seats: 3}, today.Meetings[0].Filling)
	there := entries(t, h)
	require.Len(t, there, 1)
	assert.Contains(t, there[0], "Survey: 3 of 3")
	for _, name := range []string{"Ada", "Bo", "Cy"} {
		assert.Contains(t, there[0], name)
	}
	for _, l := range letters(t, h, "ada@seats.example", 1) {
		assert.NotContains(t, string(l.Raw), "bo@seats", "nobody learns who else comes")
	}

	// One gives the seat back: the others' meeting stands, and theirs alone is cancelled.
	_, err = h.App.Cancel(ctx, linkOf(ada), "")
	require.NoError(t, err)
	letters(t, h, "ada@seats.example", 2)
	assert.Equal(t, 1, leftAt(t, h, at))
	assert.Len(t, subjectsTo(h, "bo@"), 1, "nobody else is told")
	there = entries(t, h)
	require.Len(t, there, 1)
	assert.Contains(t, there[0], "Survey: 2 of 3")
	assert.NotContains(t, there[0], "Ada")
	_, err = h.App.Cancel(ctx, linkOf(ada), "")
	require.NoError(t, err, "given back twice, it is given back once")
	assert.Equal(t, 1, leftAt(t, h, at))

	// The host sees them all, and calls the whole meeting off.
	sheet, err := h.App.BookingSheet(ctx, h.Host, today.Meetings[0].ID)
	require.NoError(t, err)
	var who []string
	for _, p := range sheet.Participants {
		who = append(who, p.Name+" "+p.State)
	}
	assert.Equal(t, []string{"Bo booked", "Cy booked", "Ada cancelled"}, who)
	_, err = h.App.CancelForAll(ctx, h.Host, sheet.Participants[0].Booking, "The roof leaks.", false)
	require.NoError(t, err)
	for _, name := range []string{"bo@seats.example", "cy@seats.example"} {
		assert.Contains(t, letters(t, h, name, 2)[1].Text, "The roof leaks.")
	}
	assert.Empty(t, entries(t, h))
	assert.Contains(t, h.Open("2026-05-05"), "10:10")
	assert.Equal(t, 3, leftAt(t, h, at))
}

func TestAClientOfSeveralMovesAlone(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Connect()
	h.Run()
	shares(t, h, 3)
	ada, bo := seat(t, h, "2026-05-05 10:00", "Ada"), seat(t, h, "2026-05-05 10:00", "Bo")
	cy := seat(t, h, "2026-05-06 10:00", "Cy")
	letters(t, h, "cy@", 1)

	// Into the meeting that stands there.
	ada, err := h.App.Move(ctx, linkOf(ada), h.At("2026-05-06 10:00"))
	require.NoError(t, err)
	assert.Contains(t, letters(t, h, "ada@", 2)[1].Text, "6 May")
	assert.Equal(t, []int{2, 1}, []int{leftAt(t, h, "2026-05-05 10:00"), leftAt(t, h, "2026-05-06 10:00")})
	assert.Len(t, append(subjectsTo(h, "bo@"), subjectsTo(h, "cy@")...), 2)
	// To a time of its own.
	_, err = h.App.Move(ctx, linkOf(ada), h.At("2026-05-07 10:00"))
	require.NoError(t, err)
	letters(t, h, "ada@", 3)
	assert.Equal(t, []int{2, 2}, []int{leftAt(t, h, "2026-05-06 10:00"), leftAt(t, h, "2026-05-07 10:00")})
	assert.Len(t, entries(t, h), 3)
	// The last one leaves a meeting for another: nothing is left of it.
	_, err = h.App.Move(ctx, linkOf(bo), h.At("2026-05-06 10:00"))
	require.NoError(t, err)
	letters(t, h, "bo@", 2)
	assert.Len(t, entries(t, h), 2)
	assert.Contains(t, h.Open("2026-05-05"), "10:10")
	// An hour's neighbour is in the way as long as somebody stays.
	_, err = h.App.Move(ctx, linkOf(cy), h.At("2026-05-06 10:10"))
	refused(t, err, refusal.Taken)
	_, err = h.App.Move(ctx, linkOf(ada), h.At("2026-05-07 10:10"))
	require.NoError(t, err, "alone, one may move a little")
}

func TestAHostMovesAMeetingWithAllInIt(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	shares(t, h, 3)
	seat(t, h, "2026-05-05 10:00", "Ada")
	seat(t, h, "2026-05-05 10:00", "Bo")
	letters(t, h, "bo@", 1)
	hosts := len(subjectsTo(h, "ines@"))
	today, err := h.App.Today(ctx, h.Host)
	require.NoError(t, err)
	require.NoError(t, h.App.MoveByHand(ctx, h.Host, today.Meetings[0].ID, app.HandMove{Target: app.Target{Date: "2026-05-05", Minute: 10*60 + 20}}))
	for _, name := range []string{"ada@", "bo@"} {
		assert.Contains(t, letters(t, h, name, 2)[1].Text, "10:20")
	}
	assert.Len(t, subjectsTo(h, "ines@"), hosts+1, "the host is told once")
	assert.Equal(t, 1, leftAt(t, h, "2026-05-05 10:20"))
}

// crowd lets so many clients book one time, some at once, and returns how many got a seat and how long each waited for the answer.
func crowd(t testing.TB, h *testhouse.House, at string, clients, atOnce int) (booked int, took []time.Duration) {
	t.Helper()
	var wait sync.WaitGroup
	var mu sync.Mutex
	queue := make(chan int)
	for range atOnce {
		wait.Go(func() {
			for n := range queue {
				began := time.Now()
				_, err := h.App.Book(ctx, "quillmere", "survey", fmt.Sprint("crowd ", n), schedule.BookingRequest{Start: h.At(at), Name: "Client", Mail: fmt.Sprintf("c%d@seats.example", n), Zone: "UTC"})
				mu.Lock()
				if took = append(took, time.Since(began)); err == nil {
					booked++
				}
				mu.Unlock()
			}
		})
	}
	for n := range clients {
		queue <- n
	}
	close(queue)
	wait.Wait()
	return booked, took
}

func TestAHundredClientsForTwelveSeatsMakeTwelve(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	shares(t, h, 12)
	booked, _ := crowd(t, h, "2026-05-05 10:00", 100, 16)
	assert.Equal(t, 12, booked)
	var kept int
	require.NoError(t, h.Database().QueryRow("SELECT COUNT(*) FROM seat WHERE keeps = 1").Scan(&kept))
	assert.Equal(t, 12, kept)
}

// BenchmarkAClassOf500 fills 500 seats by 500 clients, 50 at once. Wanted are none over, and 99 of 100 answers in under 300 ms.
func BenchmarkAClassOf500(b *testing.B) {
	for b.Loop() {
		b.StopTimer()
		h := testhouse.New(b)
		draft := testhouse.Survey
		draft.Rules.Seats = 500
		_, err := h.App.SaveMeetingType(ctx, h.Host, h.Type.ID, draft, settings.Saving{})
		require.NoError(b, err)
		b.StartTimer()
		booked, took := crowd(b, h, "2026-05-05 10:00", 500, 50)
		require.Equal(b, 500, booked)
		slices.Sort(took)
		b.ReportMetric(float64(took[len(took)*99/100].Microseconds())/1000, "ms/p99")

		b.StopTimer()
		today, err := h.App.Today(ctx, h.Host)
		require.NoError(b, err)
		began := time.Now()
		_, err = h.App.CancelForAll(ctx, h.Host, today.Meetings[0].ID, "", false)
		require.NoError(b, err)
		b.ReportMetric(float64(time.Since(began).Microseconds())/1000, "ms/cancel-500")
		b.StartTimer()
	}
}

func TestClientsWhoShareATimeMeetInOnePlace(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	shares(t, h, 3)
	view, err := h.App.BookingPage(ctx, h.Host, h.Type.ID)
	require.NoError(t, err)
	view.Version, view.Ways = 0, []schedule.Way{{ID: "theirs", Kind: "theirs"}}
	_, err = h.App.SaveBookingPage(ctx, h.Host, h.Type.ID, view.BookingPageChange)
	assert.Contains(t, refused(t, err, refusal.Invalid).Fields["ways.0"].Sentence, "one place")
	draft := testhouse.Survey
	draft.Rules.Seats = 1
	_, err = h.App.SaveMeetingType(ctx, h.Host, h.Type.ID, draft, settings.Saving{})
	require.NoError(t, err)
	_, err = h.App.SaveBookingPage(ctx, h.Host, h.Type.ID, view.BookingPageChange)
	require.NoError(t, err)
	draft.Rules.Seats = 5
	_, err = h.App.SaveMeetingType(ctx, h.Host, h.Type.ID, draft, settings.Saving{})
	assert.Contains(t, refused(t, err, refusal.Invalid).Fields["rules.seats"].Sentence, "one place")
	draft.Rules.Seats = 1001
	_, err = h.App.SaveMeetingType(ctx, h.Host, h.Type.ID, draft, settings.Saving{})
	assert.NotEmpty(t, refused(t, err, refusal.Invalid).Fields["rules.seats"])
}

func TestSeatsOfATypeAreRaisedAndLowered(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	shares(t, h, 2)
	const at = "2026-05-05 10:00"
	seat(t, h, at, "Ada")
	seat(t, h, at, "Bo")
	assert.Equal(t, -1, leftAt(t, h, at))
	shares(t, h, 4)
	assert.Equal(t, 2, leftAt(t, h, at), "raised, there is room")
	seat(t, h, at, "Cy")
	shares(t, h, 2)
	assert.Equal(t, -1, leftAt(t, h, at), "lowered, it is full; nobody is put out")
	assert.Equal(t, 2, leftAt(t, h, "2026-05-06 10:00"))
	shares(t, h, 1)
	_, err := bookFor(t, h, at, func(r *schedule.BookingRequest) { r.Mail = "dee@seats.example" })
	refused(t, err, refusal.Taken)
}

func TestWhatSpeaksAgainstASharedMeetingIsToldToAll(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Connect()
	h.Run()
	shares(t, h, 3)
	seat(t, h, "2026-05-05 10:00", "Ada")
	seat(t, h, "2026-05-05 10:00", "Bo")
	letters(t, h, "bo@", 1)
	hosts := len(subjectsTo(h, "ines@"))
	today, err := h.App.Today(ctx, h.Host)
	require.NoError(t, err)
	_, err = h.App.AskToChooseAgain(ctx, h.Host, today.Meetings[0].ID, "I am on a train then.")
	require.NoError(t, err)
	for _, name := range []string{"ada@", "bo@"} {
		assert.Contains(t, letters(t, h, name, 2)[1].Text, "I am on a train then.")
	}
	_, err = h.App.CancelForAll(ctx, h.Host, today.Meetings[0].ID, "", false)
	require.NoError(t, err)
	letters(t, h, "ada@", 3)
	letters(t, h, "bo@", 3)
	assert.Len(t, subjectsTo(h, "ines@"), hosts+1, "the host is told once")
	assert.Empty(t, entries(t, h))
	_, err = h.App.CancelForAll(ctx, h.Host, today.Meetings[0].ID, "", false)
	assert.Error(t, err)
}

// counted is a second count of who sits where, which knows nothing of the first: a list of names for each time, and how many fit.
type counted struct {
	seats int
	who   map[string][]string // by time
	fits  map[string]int      // of the meeting that stands there
}

func (c *counted) join(at, name string) bool {
	if len(c.who[at]) == 0 {
		c.fits[at] = c.seats
	}
	if len(c.who[at]) >= c.fits[at] {
		return false
	}
	c.who[at] = append(c.who[at], name)
	return true
}

func (c *counted) leave(name string) (at string) {
	for when, names := range c.who {
		if i := slices.Index(names, name); i >= 0 {
			c.who[when] = slices.Delete(names, i, i+1)
			return when
		}
	}
	return ""
}

func (c *counted) move(name, to string) bool {
	from := c.leave(name)
	if len(c.who[to]) > 0 && len(c.who[to]) >= c.fits[to] {
		c.who[from] = append(c.who[from], name) // full: one stays where one was
		return false
	}
	if len(c.who[to]) == 0 && len(c.who[from]) == 0 {
		c.who[to], c.fits[to] = []string{name}, c.fits[from] // the meeting itself is moved
		return true
	}
	return c.join(to, name)
}

func (c *counted) resize(seats int) {
	c.seats = seats
	for at, names := range c.who {
		c.fits[at] = max(seats, len(names))
	}
}

func TestRandomRunsAgreeWithASecondCount(t *testing.T) {
	t.Parallel()
	for seed := range int64(6) {
		t.Run(fmt.Sprint(seed), func(t *testing.T) {
			t.Parallel()
			h, random := testhouse.New(t), rand.New(rand.NewSource(seed))
			c := &counted{2, map[string][]string{}, map[string]int{}}
			shares(t, h, c.seats)
			times := []string{"2026-05-05 09:00", "2026-05-05 10:00", "2026-05-05 14:00"}
			links := map[string]string{}
			somebody := func() string { // who has a seat
				names := slices.Sorted(maps.Keys(links))
				return names[random.Intn(len(names))]
			}
			for n := range 60 {
				at := times[random.Intn(len(times))]
				switch does := random.Intn(8); {
				case does < 4 || len(links) == 0:
					name := fmt.Sprintf("c%d", n)
					b, err := bookFor(t, h, at, func(r *schedule.BookingRequest) { r.Mail = name + "@seats.example" })
					require.Equal(t, c.join(at, name), err == nil, "step %d: %s joins %s: %v", n, name, at, err)
					if err == nil {
						links[name] = linkOf(b)
					}
				case does < 5:
					name := somebody()
					_, err := h.App.Cancel(ctx, links[name], "")
					require.NoError(t, err)
					c.leave(name)
					delete(links, name)
				case does < 7:
					name := somebody()
					if slices.Contains(c.who[at], name) {
						continue
					}
					_, err := h.App.Move(ctx, links[name], h.At(at))
					require.Equal(t, c.move(name, at), err == nil, "step %d: %s moves to %s: %v", n, name, at, err)
				default:
					seats := 2 + random.Intn(3)
					shares(t, h, seats)
					c.resize(seats)
				}
				for _, at := range times {
					left := c.seats
					if taken := len(c.who[at]); taken > 0 {
						left = c.fits[at] - taken
					}
					if left == 0 {
						left = -1 // it isn't open
					}
					require.Equal(t, left, leftAt(t, h, at), "step %d at %s: %v", n, at, c.who)
				}
			}
		})
	}
}

func TestOneOfSeveralAnswersForThemselvesOnly(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	shares(t, h, 3)
	ada := seat(t, h, "2026-05-05 10:00", "Ada")
	book(t, h, "2026-05-05 10:00") // the keeper, who comes second
	to, uid := comesBack(t, h, 1)

	declined := says(to, uid, invite.Declined)
	today := arrives(t, h, declined)
	require.Len(t, today.Clashes, 1)
	assert.Contains(t, today.Clashes[0].Sentence.Sentence, "Harbour Maritime declined")
	wish := says(to, uid, invite.Wished)
	wish.Reply.Start = span.At(h.At("2026-05-06 14:00"))
	today = arrives(t, h, wish)
	require.Len(t, today.Clashes, 1)
	today, err := h.App.MoveAlong(ctx, h.Host, today.Clashes[0].Booking.ID)
	require.NoError(t, err)
	assert.Empty(t, today.Clashes)
	assert.Contains(t, letters(t, h, keeper, 2)[1].Text, "6 May")
	assert.Len(t, subjectsTo(h, "ada@"), 1, "Ada stays where she is")
	still, err := h.App.BookingByLink(ctx, linkOf(ada))
	require.NoError(t, err)
	assert.True(t, h.At("2026-05-05 10:00").Equal(still.Start))
	assert.Equal(t, []int{2, 2}, []int{leftAt(t, h, "2026-05-05 10:00"), leftAt(t, h, "2026-05-06 14:00")})
}

func TestTheListOfWhoComesIsATableWithoutFormulas(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	shares(t, h, 3)
	offers(t, h, func(c *settings.BookingPageChange) {
		c.Questions = []intake.Question{{ID: "meter", Kind: intake.Short, Label: "Which meter?"}}
	})
	for name, meter := range map[string]string{"Ada": "=HYPERLINK(\"x\")", "Bo": "old, \"brass\""} {
		_, err := bookFor(t, h, "2026-05-05 10:00", func(r *schedule.BookingRequest) {
			r.Name, r.Mail, r.Said, r.Remark = name, name+"@seats.example", intake.Given{"meter": {meter}}, "two\nlines"
		})
		require.NoError(t, err)
	}
	today, err := h.App.Today(ctx, h.Host)
	require.NoError(t, err)
	id := today.Meetings[0].ID
	text, err := h.App.ParticipantsFile(ctx, h.Host, id)
	require.NoError(t, err)
	lines, err := csv.NewReader(bytes.NewReader(text)).ReadAll()
	require.NoError(t, err)
	require.Len(t, lines, 3)
	assert.Equal(t, []string{"Name", "Mail", "State", "Confirmed", "Booked", "Remark", "Which meter?"}, lines[0])
	cells := map[string]string{lines[1][0]: lines[1][6], lines[2][0]: lines[2][6]}
	assert.Equal(t, map[string]string{"Ada": "'=HYPERLINK(\"x\")", "Bo": "old, \"brass\""}, cells)
	assert.Equal(t, "two\nlines", strings.ReplaceAll(lines[1][5], "\r", ""))
	_, err = h.App.ParticipantsFile(ctx, h.Colleague, id)
	refused(t, err, refusal.NotFound)
}

// A meeting counts once for its host, or as often as it has clients. Whoever of them came first can leave it: it is counted with the others.
func TestTheLedgerCountsMeetingsOrTheirClients(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	counted := func(bySeats bool) (given []int) {
		for _, row := range routed(t, h, func(r *schedule.TypeRouting) { r.BySeats = bySeats }).Ledger {
			given = append(given, row.Given)
		}
		return given
	}
	counted(false)
	sessionsOf(t, h, 3)
	set := setting(t, h, "5 May, 6 May, 7 May and 8 May 10:00")
	assert.Equal(t, []string{h.Host.Name, h.Colleague.Name, h.Host.Name, h.Colleague.Name}, []string{set[0].Hosts[0], set[1].Hosts[0], set[2].Hosts[0], set[3].Hosts[0]})
	first := seat(t, h, "2026-05-05 10:00", "Ada")
	seat(t, h, "2026-05-05 10:00", "Bo")
	seat(t, h, "2026-05-05 10:00", "Cy")
	assert.Equal(t, []int{2, 2}, counted(false))
	assert.Equal(t, []int{4, 2}, counted(true), "three clients and an empty session; two empty ones")
	_, err := h.App.Cancel(ctx, linkOf(first), "")
	require.NoError(t, err)
	assert.Equal(t, []int{3, 2}, counted(true))
	assert.Equal(t, []int{2, 2}, counted(false))

	require.NoError(t, h.App.HandTo(ctx, h.Host, set[0].ID, h.Colleague.ID, true))
	assert.Equal(t, []int{1, 4}, counted(true), "it went over with all who come")
	_, err = h.App.CancelForAll(ctx, h.Host, set[2].ID, "", false)
	require.NoError(t, err)
	assert.Equal(t, []int{0, 4}, counted(true))
}

// Where clients share open times, whoever goes over to another time takes no count away from those who stay.
func TestWhoMovesOutOfASharedMeetingLeavesItCounted(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	shares(t, h, 3)
	given := func() int {
		view, err := h.App.TypeRouting(ctx, h.Host, h.Type.ID)
		require.NoError(t, err)
		return view.Ledger[0].Given
	}
	ada, bo := seat(t, h, "2026-05-05 10:00", "Ada"), seat(t, h, "2026-05-05 10:00", "Bo")
	assert.Equal(t, 1, given())
	_, err := h.App.Move(ctx, linkOf(ada), h.At("2026-05-06 10:00"))
	require.NoError(t, err)
	assert.Equal(t, 2, given(), "a meeting more")
	_, err = h.App.Cancel(ctx, linkOf(bo), "")
	require.NoError(t, err)
	assert.Equal(t, 1, given(), "the first has nobody any more")
	_, err = h.App.Move(ctx, linkOf(ada), h.At("2026-05-07 10:00"))
	require.NoError(t, err)
	assert.Equal(t, 1, given())
}
