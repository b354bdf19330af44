package app

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"corrim/core/life"
	"corrim/core/routing"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/core/waiting"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/secrets"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// The waiting list of a meeting that clients share. Whoever waits has a seat that keeps no place yet, with a link of its own. A seat that
// gets free is offered to the first of them in the same transaction, so that nobody else comes between.

// mostOnList is how many can wait for one meeting.
const mostOnList = 200

// onList tells whether a booking is on a waiting list, or is offered a seat from there.
func onList(b sqlc.Booking) bool {
	return b.Life == string(life.Waiting) || b.Life == string(life.Offered)
}

// waitingBetween is how many wait for each of a type's meetings that start within a range.
func (a *App) waitingBetween(ctx context.Context, kind, from, to int64) (map[int64]int64, error) {
	rows, err := a.Store.WaitingAt(ctx, sqlc.WaitingAtParams{TypeID: kind, RangeFrom: from, RangeTo: to})
	out := map[int64]int64{}
	for _, row := range rows {
		out[row.ID] = row.Waiting
	}
	return out, err
}

// waitFor puts a client on a waiting list, within the limits of bookings.
func (a *App) waitFor(ctx context.Context, q *sqlc.Queries, o schedule.Bookable, key string, r schedule.BookingRequest, form schedule.FilledForm, asked schedule.Ask) (sqlc.Booking, error) {
	if err := a.withinLimits(ctx, q, o, r, form.Guests); err != nil {
		return sqlc.Booking{}, err
	}
	booking, err := a.joinList(ctx, q, o, key, r, form, asked)
	if err != nil {
		return booking, err
	}
	return booking, a.agreeToTexts(ctx, q, o, booking, form.Phone)
}

// joinList puts a client on the waiting list of the meeting that is full at the wanted time; if any will do, on those of all that are full.
func (a *App) joinList(ctx context.Context, q *sqlc.Queries, o schedule.Bookable, key string, r schedule.BookingRequest, form schedule.FilledForm, asked schedule.Ask) (sqlc.Booking, error) {
	if o.Waiting() == "" {
		return sqlc.Booking{}, refusal.New(refusal.Over, told.NoList.Words())
	}
	wanted, err := a.fullMeetings(ctx, q, o, asked, span.Span{Start: span.At(r.Start), End: span.At(r.Start) + 1})
	if err != nil {
		return sqlc.Booking{}, err
	}
	if len(wanted) == 0 {
		return sqlc.Booking{}, refusal.New(refusal.Taken, told.NotFull.Words())
	}
	by := insertion{step: byClient(string(life.Queue), ""), form: form}
	if r.Any || o.Rules.Whole {
		by.step.series = seriesTo(uuid.NewString(), r.Mail) // one letter tells of all
	}
	first, err := a.joinOne(ctx, q, o, key, r, by, wanted[0])
	switch {
	case err != nil:
		return first, err
	case o.Rules.Whole:
		err = a.joinRest(ctx, q, o, key, r, by, first)
	case r.Any:
		by.party = first.ID
		err = a.joinOthers(ctx, q, o, key, r, by, asked, first)
	default:
		return first, nil
	}
	if err != nil {
		return first, err
	}
	return q.Booking(ctx, first.ID)
}

// joinRest puts whoever waits for a series on the lists of all its sessions: they wait for a seat in each of them, and go on together.
func (a *App) joinRest(ctx context.Context, q *sqlc.Queries, o schedule.Bookable, key string, r schedule.BookingRequest, by insertion, first sqlc.Booking) error {
	rest, err := q.RestOfSeries(ctx, sqlc.RestOfSeriesParams{TypeID: o.ID, SeriesID: first.SeriesID, Since: first.StartAt})
	if err != nil {
		return err
	}
	for _, session := range rest {
		if err := a.takeAlong(ctx, q, o, key, r, by, first, session); err != nil {
			return err
		}
	}
	return q.SetParty(ctx, sqlc.SetPartyParams{ID: first.ID, PartyID: first.ID})
}

// joinOne puts a client on one list.
func (a *App) joinOne(ctx context.Context, q *sqlc.Queries, o schedule.Bookable, key string, r schedule.BookingRequest, by insertion, meeting int64) (sqlc.Booking, error) {
	queue, err := q.WaitingSeats(ctx, sqlc.WaitingSeatsParams{MeetingID: meeting, Most: mostOnList})
	if err != nil {
		return sqlc.Booking{}, err
	}
	if slices.ContainsFunc(queue, func(w sqlc.Booking) bool { return strings.EqualFold(w.ClientMail, r.Mail) }) {
		return sqlc.Booking{}, refusal.New(refusal.Over, told.OnList.Words())
	}
	if len(queue) >= mostOnList {
		return sqlc.Booking{}, refusal.New(refusal.TooMany, told.ListFull.With(o.Host.Home.Name))
	}
	by.into = meeting
	return a.insertBooking(ctx, q, o, key, r, by)
}

// joinOthers puts a client on the lists of all other meetings that are full; where they are already, or nobody else can wait, they aren't.
// Whoever takes one seat of these waits for the others no longer.
func (a *App) joinOthers(ctx context.Context, q *sqlc.Queries, o schedule.Bookable, key string, r schedule.BookingRequest, by insertion, asked schedule.Ask, first sqlc.Booking) error {
	now := span.At(a.Now())
	others, err := a.fullMeetings(ctx, q, o, asked, span.Span{Start: now, End: now.Add(schedule.LongestRange)})
	if err != nil {
		return err
	}
	for _, meeting := range others {
		if meeting == first.MeetingID {
			continue
		}
		if _, err := a.joinOne(ctx, q, o, secrets.Hashed(fmt.Sprint(key, "\n", meeting)), r, by, meeting); err != nil && !passedOver(err) {
			return err
		}
	}
	return q.SetParty(ctx, sqlc.SetPartyParams{ID: first.ID, PartyID: first.ID})
}

// leaveOtherLists takes somebody who has a seat now off the lists on which they waited for any.
func (a *App) leaveOtherLists(ctx context.Context, q *sqlc.Queries, b sqlc.Booking) error {
	if b.PartyID == 0 {
		return nil
	}
	all, err := q.Party(ctx, b.PartyID)
	for _, other := range all {
		if err != nil {
			return err
		}
		if other.ID != b.ID && onList(other) {
			s := byClient(string(life.Cancel), "")
			s.silent = true
			err = a.advance(ctx, q, other, s, 0)
		}
	}
	return err
}

// fullMeetings are the meetings within a range that are full, where nothing but a seat is missing.
func (a *App) fullMeetings(ctx context.Context, q *sqlc.Queries, o schedule.Bookable, asked schedule.Ask, within span.Span) (out []int64, err error) {
	l, err := a.Lineup(ctx, q, o, asked, within, 0)
	if err != nil {
		return nil, err
	}
	for _, full := range l.Full(within) {
		start, end, _, _ := o.KeptTimes(full.At.Time())
		there, err := q.SharedAt(ctx, sqlc.SharedAtParams{TypeID: o.ID, StartAt: start, EndAt: end})
		if err != nil {
			return nil, err
		}
		for _, m := range there {
			hosted, err := heldByOneOf(ctx, q, m.ID, l.Candidates)
			if err != nil {
				return nil, err
			}
			if hosted && (o.Rules.Whole || m.Taken >= m.Capacity) { // of a series, another session may be the full one
				out = append(out, m.ID)
				break
			}
		}
	}
	return out, nil
}

// heldByOneOf tells whether one of some hosts holds a meeting.
func heldByOneOf(ctx context.Context, q *sqlc.Queries, meeting int64, hosts []routing.Host) (bool, error) {
	parts, err := q.HostsOfMeeting(ctx, meeting)
	return slices.ContainsFunc(parts, func(part sqlc.MeetingHost) bool {
		return part.State != schedule.HostLeft && slices.ContainsFunc(hosts, func(h routing.Host) bool { return h.ID == part.PersonID })
	}), err
}

// offerSeats finds somebody for the seats of a booking's meeting that got free: it offers them to those who have waited longest, or tells
// all who wait, as the type has it.
func (a *App) offerSeats(ctx context.Context, q *sqlc.Queries, meeting int64) error {
	m, err := q.LeadSeat(ctx, meeting)
	if err != nil {
		return err
	}
	row, err := q.MeetingType(ctx, m.TypeID)
	if err != nil {
		return err
	}
	offer, err := schedule.BookingPageOf(row)
	if err != nil {
		return err
	}
	whole, err := takenWhole(row)
	if err != nil {
		return err
	}
	free := m.Capacity - m.Taken
	if whole {
		if m, free, err = seriesLeft(ctx, q, m); err != nil {
			return err
		}
	}
	if free <= 0 || m.MeetingState != "booked" {
		return nil
	}
	return a.offerTo(ctx, q, m, free, offer, whole)
}

// seriesLeft is the first of a series' sessions that stand, and how many more can take it whole. If none stands, nobody can.
func seriesLeft(ctx context.Context, q *sqlc.Queries, of sqlc.Booking) (first sqlc.Booking, left int64, err error) {
	all, err := q.RestOfSeries(ctx, sqlc.RestOfSeriesParams{TypeID: of.TypeID, SeriesID: of.SeriesID})
	if err != nil || len(all) == 0 {
		return of, 0, err
	}
	left = all[0].Capacity - all[0].Taken
	for _, session := range all[1:] {
		left = min(left, session.Capacity-session.Taken)
	}
	return all[0], left, nil
}

// offerTo offers so many seats of a meeting to those who wait, or tells all of them; of a series taken whole, in each of its sessions.
func (a *App) offerTo(ctx context.Context, q *sqlc.Queries, m sqlc.Booking, free int64, offer schedule.BookingPage, whole bool) error {
	now := a.Now()
	if m.StartAt <= now.Unix() {
		return nil
	}
	s, until := step{kind: string(life.Free), by: string(life.Clock)}, int64(0)
	if offer.Waiting == waiting.First {
		s.kind, free = string(life.Notify), mostOnList
	} else {
		hold := waiting.Hold(offer.WaitTime(), time.Unix(m.StartAt, 0).Sub(now))
		if hold == 0 {
			return nil
		}
		until = now.Add(hold).Unix()
	}
	queue, err := q.WaitingSeats(ctx, sqlc.WaitingSeatsParams{MeetingID: m.MeetingID, Most: free})
	if err != nil {
		return err
	}
	for _, w := range queue {
		if err := a.advanceListed(ctx, q, w, s, until, whole); err != nil {
			return err
		}
	}
	return nil
}

// advanceListed takes a step with somebody on a list: of a series taken whole, on the lists of all its sessions; else on this one alone,
// even if they wait for others too.
func (a *App) advanceListed(ctx context.Context, q *sqlc.Queries, b sqlc.Booking, s step, lapsesAt int64, whole bool) error {
	if whole {
		return a.advanceTogether(ctx, q, b, s, lapsesAt)
	}
	return a.advance(ctx, q, b, s, lapsesAt)
}

// isTakenWhole tells whether clients of a type take a series whole.
func isTakenWhole(ctx context.Context, q *sqlc.Queries, kind int64) (bool, error) {
	row, err := q.MeetingType(ctx, kind)
	if err != nil {
		return false, err
	}
	return takenWhole(row)
}

// offerSeatsOf does so for all coming meetings of a type, after it was given more seats.
func (a *App) offerSeatsOf(ctx context.Context, q *sqlc.Queries, kind int64) error {
	meetings, err := q.MeetingsWaitedFor(ctx, sqlc.MeetingsWaitedForParams{TypeID: kind, Now: a.Now().Unix()})
	if err != nil {
		return err
	}
	for _, meeting := range meetings {
		if err := a.offerSeats(ctx, q, meeting); err != nil {
			return err
		}
	}
	return nil
}

// TakeSeat takes the seat that a client is offered from the waiting list; where it is whoever's is first, any that is free.
func (a *App) TakeSeat(ctx context.Context, link string) (ClientBooking, error) {
	err := a.Store.Write(ctx, func(q *sqlc.Queries) error {
		b, err := a.ByLink(ctx, q, link)
		if err != nil || b.State == "booked" && b.Life != string(life.Offered) {
			return err // sent twice
		}
		o, err := a.BookedType(ctx, q, b)
		if err != nil {
			return err
		}
		if err := a.mayTake(ctx, q, b, o); err != nil {
			return err
		}
		whole, err := isTakenWhole(ctx, q, b.TypeID)
		if err != nil {
			return err
		}
		begins := o.Beginning() // a code is asked for, or a host decides, as with every booking
		if err := a.advanceListed(ctx, q, b, byClient(string(begins), ""), a.lapsing(o, begins, b.StartAt), whole); err != nil {
			return err
		}
		if begins == life.Hold { // it isn't sure yet that they have it
			return nil
		}
		return a.leaveOtherLists(ctx, q, b)
	})
	if errors.Is(err, store.ErrOverlap) {
		err = refusal.New(refusal.Taken, told.SeatGone.Words())
	}
	if err != nil {
		return ClientBooking{}, err
	}
	a.Wake()
	return a.afterwards(ctx, link)
}

// mayTake refuses a seat that isn't offered to whoever wants to take it, or not any more.
func (a *App) mayTake(ctx context.Context, q *sqlc.Queries, b sqlc.Booking, o schedule.Bookable) error {
	whole, err := isTakenWhole(ctx, q, b.TypeID)
	if err != nil {
		return err
	}
	left := b.Capacity - b.Taken
	if whole {
		if _, left, err = seriesLeft(ctx, q, b); err != nil {
			return err
		}
	}
	switch {
	case b.Life == string(life.Offered) && b.LapsesAt > a.Now().Unix():
		return nil
	case b.Life == string(life.Offered), b.Life == string(life.Expired):
		return refusal.New(refusal.Over, told.SeatOver.Words())
	case b.Life == string(life.Waiting) && o.BookingPage.Waiting == waiting.First && left <= 0:
		return refusal.New(refusal.Taken, told.SeatGone.Words())
	case b.Life == string(life.Waiting) && o.BookingPage.Waiting != waiting.First:
		return refusal.New(refusal.Over, told.StillWaiting.Words())
	}
	return nil
}

// dismissAll takes everybody off a meeting's waiting list, and those who are offered a seat.
func (a *App) dismissAll(ctx context.Context, q *sqlc.Queries, p schedule.Person, b sqlc.Booking, word string) error {
	queue, err := q.WaitingSeats(ctx, sqlc.WaitingSeatsParams{MeetingID: b.MeetingID, Most: mostOnList})
	if err != nil {
		return err
	}
	held, err := q.SeatsOffered(ctx, b.MeetingID)
	if err != nil {
		return err
	}
	whole, err := isTakenWhole(ctx, q, b.TypeID)
	if err != nil {
		return err
	}
	for _, w := range append(queue, held...) {
		s := byHost(string(life.Dismiss), p, word)
		if whole { // whoever waits for the other sessions goes on waiting
			all, err := together(ctx, q, w)
			if err != nil {
				return err
			}
			s.silent = len(all) > 1
		}
		if err := a.advance(ctx, q, w, s, 0); err != nil {
			return err
		}
	}
	return nil
}

// inSessionsHistory keeps what happens on a session's waiting list in its own history too, with whose it was.
func (a *App) inSessionsHistory(ctx context.Context, q *sqlc.Queries, b sqlc.Booking, s step) error {
	if !slices.Contains([]life.Event{life.Queue, life.Free, life.Lapse, life.Dismiss}, life.Event(s.kind)) {
		return nil
	}
	own, err := sessionOf(ctx, q, b)
	if err != nil || own == nil {
		return err
	}
	return q.AddStep(ctx, sqlc.AddStepParams{BookingID: own.ID, At: a.Now().Unix(), Kind: s.kind, By: s.by, Note: b.ClientName, PersonID: store.NullID(s.person)})
}

// aheadOf is how many wait before a booking; nil if it doesn't wait.
func (a *App) aheadOf(ctx context.Context, b sqlc.Booking) (*int64, error) {
	if b.Life != string(life.Waiting) {
		return nil, nil
	}
	n, err := a.Store.WaitingAhead(ctx, sqlc.WaitingAheadParams{MeetingID: b.MeetingID, ID: b.ID})
	return &n, err
}
