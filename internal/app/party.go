package app

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"iter"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"corrim/core/life"
	"corrim/core/told"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/secrets"
	"corrim/internal/store/sqlc"
)

// A party is the seats that a client takes at one go: one in each session of a series, and for each who comes along. They are proved,
// decided and told of together; once they are booked, each has a life of its own, and can be given back alone or with the others.

// takeParty takes a client's seat, and all that they take with it: one for each who comes along, and of a series in each session that
// comes after the first.
func (a *App) takeParty(ctx context.Context, q *sqlc.Queries, o schedule.Bookable, key string, r schedule.BookingRequest, by insertion) (sqlc.Booking, error) {
	name := ""
	if o.Rules.Whole || len(by.form.Along) > 0 {
		name = uuid.NewString()
	}
	by.step.series = seriesTo(name, r.Mail)
	first, err := a.insertBooking(ctx, q, o, key, r, by)
	if err != nil {
		return first, err
	}
	meetings := []sqlc.Booking{first}
	if o.Rules.Whole {
		rest, err := q.RestOfSeries(ctx, sqlc.RestOfSeriesParams{TypeID: o.ID, SeriesID: first.SeriesID, Since: first.StartAt})
		if err != nil {
			return first, err
		}
		meetings = append(meetings, rest...)
	}
	people := append([]schedule.SeatFor{{Name: r.Name, Mail: r.Mail, Said: by.form.Said}}, by.form.Along...)
	if len(meetings)*len(people) == 1 {
		return first, nil
	}
	by.form.Files = nil // they are kept with the first
	for i, meeting := range meetings {
		wanted := people
		if i == 0 {
			wanted = people[1:]
		}
		if err := seatsFor(meeting, len(wanted), o.Rules.Whole); err != nil {
			return first, err
		}
		for _, person := range wanted {
			if err := a.takeAlong(ctx, q, o, key, r.Of(person), by.of(person, name), first, meeting); err != nil {
				return first, err
			}
		}
	}
	if err := q.SetParty(ctx, sqlc.SetPartyParams{ID: first.ID, PartyID: first.ID}); err != nil {
		return first, err
	}
	return q.Booking(ctx, first.ID)
}

// seatsFor refuses a meeting that has fewer seats left than are wanted.
func seatsFor(meeting sqlc.Booking, wanted int, series bool) error {
	left := int(meeting.Capacity - meeting.Taken)
	switch {
	case left >= wanted:
		return nil
	case series && left <= 0:
		return refusal.New(refusal.Taken, told.SeriesFull.Words())
	}
	return refusal.New(refusal.Taken, told.FewSeats.Words())
}

// of is how somebody's seat comes about, told together with what else goes to their address.
func (by insertion) of(person schedule.SeatFor, party string) insertion {
	by.form.Said, by.step.series = person.Said, seriesTo(party, person.Mail)
	return by
}

// takeAlong takes a seat in a meeting together with one that was taken first. What has to be proved is proved with that. Hosts are told once
// of each meeting.
func (a *App) takeAlong(ctx context.Context, q *sqlc.Queries, o schedule.Bookable, key string, r schedule.BookingRequest, by insertion, first, into sqlc.Booking) error {
	r.Start = time.Unix(into.StartAt, 0)
	o.Rules = o.Rules.Only(schedule.StartOf(into).Minutes)
	by.into, by.party, by.step.silent = into.MeetingID, first.ID, by.step.kind == string(life.Hold)
	by.step.forOthers = by.step.forOthers || r.Name != first.ClientName || into.MeetingID == first.MeetingID
	by.lapses = first.LapsesAt
	_, err := a.insertBooking(ctx, q, o, secrets.Hashed(fmt.Sprint(key, "\n", into.MeetingID, "\n", uuid.NewString())), r, by)
	return err
}

// together is a booking with those that were taken with it at one go and stand as it does; itself first.
func together(ctx context.Context, q *sqlc.Queries, b sqlc.Booking) ([]sqlc.Booking, error) {
	if b.PartyID == 0 {
		return []sqlc.Booking{b}, nil
	}
	all, err := q.Party(ctx, b.PartyID)
	all = slices.DeleteFunc(all, func(other sqlc.Booking) bool { return other.ID == b.ID || other.Life != b.Life })
	return append([]sqlc.Booking{b}, all...), err
}

// togetherThen is a seat with those in the same meeting that were taken with it and that its client looks after; itself first.
func togetherThen(ctx context.Context, q *sqlc.Queries, b sqlc.Booking) ([]sqlc.Booking, error) {
	all, err := together(ctx, q, b)
	return slices.DeleteFunc(lookedAfter(b, all), func(one sqlc.Booking) bool { return one.MeetingID != b.MeetingID }), err
}

// advanceTogether takes a step with a booking and those that stand with it. Whoever has taken them is told in one letter.
func (a *App) advanceTogether(ctx context.Context, q *sqlc.Queries, b sqlc.Booking, s step, lapsesAt int64) error {
	all, err := together(ctx, q, b)
	if err != nil {
		return err
	}
	for one, s := range eachOf(all, s) {
		if err := a.advance(ctx, q, one, s, lapsesAt); err != nil {
			return err
		}
	}
	return nil
}

// eachOf is a step that is taken with several seats at one go: what goes to the same address is told in one letter, and hosts are told once
// of each meeting.
func eachOf(all []sqlc.Booking, s step) iter.Seq2[sqlc.Booking, step] {
	name := ""
	if len(all) > 1 {
		name = uuid.NewString()
	}
	return func(yield func(sqlc.Booking, step) bool) {
		met := map[int64]bool{}
		for _, one := range all {
			s.series, s.forOthers = seriesTo(name, one.ClientMail), met[one.MeetingID]
			met[one.MeetingID] = true
			if !yield(one, s) {
				return
			}
		}
	}
}

// CancelAll gives back a seat with all that were taken with it at one go, as far as that can still be done.
func (a *App) CancelAll(ctx context.Context, link, reason string) (ClientBooking, error) {
	return a.cancel(ctx, link, reason, true)
}

// seriesTo names what one client is told of together, of all that happens at one go; empty if that is one thing alone.
func seriesTo(series, mail string) string {
	if series == "" {
		return ""
	}
	return series + " " + strings.ToLower(mail)
}

// cancelRestOf cancels a client's seat, with those that they took with it and that come after it.
func (a *App) cancelRestOf(ctx context.Context, q *sqlc.Queries, p schedule.Person, b sqlc.Booking, word string) error {
	all, err := together(ctx, q, b)
	if err != nil {
		return err
	}
	all = slices.DeleteFunc(all, func(one sqlc.Booking) bool { return one.StartAt < b.StartAt })
	for one, s := range eachOf(all, byHost(string(life.Cancel), p, word)) {
		if err := a.advance(ctx, q, one, s, 0); err != nil {
			return err
		}
	}
	return nil
}

// cancelSeries cancels a session, and those of its series that come after it, for all who come. All must be of hosts whom the person can
// cancel for.
func (a *App) cancelSeries(ctx context.Context, q *sqlc.Queries, p schedule.Person, b sqlc.Booking, word string) error {
	rest, err := q.RestOfSeries(ctx, sqlc.RestOfSeriesParams{TypeID: b.TypeID, SeriesID: b.SeriesID, Since: b.StartAt})
	if err != nil {
		return err
	}
	series := uuid.NewString()
	if err := a.cancelWhole(ctx, q, p, b, word, series); err != nil {
		return err
	}
	for _, session := range rest {
		if _, err := a.ownBooking(ctx, q, p, session.ID); err != nil {
			return err
		}
		if err := a.cancelWhole(ctx, q, p, session, word, series); err != nil {
			return err
		}
	}
	return a.offerRest(ctx, q, b)
}

// InSeries is where a session stands in its series.
type InSeries struct {
	Position int `json:"position" doc:"The first is 1."`
	Of       int `json:"of"`
	After    int `json:"after" doc:"How many sessions come after it."`
	Seats    int `json:"seats" doc:"How many seats the client took with this one come after it."`
}

// seriesFacts is nil for a booking that isn't of a series with several sessions.
func (a *App) seriesFacts(ctx context.Context, b sqlc.Booking) (*InSeries, error) {
	if b.SeriesID == 0 {
		return nil, nil
	}
	all, err := a.Store.RestOfSeries(ctx, sqlc.RestOfSeriesParams{TypeID: b.TypeID, SeriesID: b.SeriesID})
	if err != nil || len(all) < 2 {
		return nil, err
	}
	in := InSeries{Of: len(all), Position: 1}
	for _, session := range all {
		if session.StartAt > b.StartAt {
			in.After++
		}
		if session.StartAt < b.StartAt {
			in.Position++
		}
	}
	if onList(b) {
		return &in, nil
	}
	seats, err := together(ctx, a.Store.Queries, b)
	for _, seat := range seats {
		if seat.StartAt > b.StartAt {
			in.Seats++
		}
	}
	return &in, err
}

// SeatTaken is one of the seats that a client took at one go.
type SeatTaken struct {
	Link  string    `json:"link" doc:"Path of its own page."`
	Start time.Time `json:"start"`
	End   time.Time `json:"end"`
	Name  string    `json:"name" doc:"Whose it is."`
	State string    `json:"state" enum:"unproved,requested,booked,attended,no-show,cancelled,declined,expired,waiting,offered"`
	This  bool      `json:"this,omitempty" doc:"The one that was asked for."`
}

// seatsTaken are the seats of a booking's party that its client looks after, in order of their dates; none if it is one alone.
func (a *App) seatsTaken(ctx context.Context, q *sqlc.Queries, b sqlc.Booking) ([]SeatTaken, error) {
	out := []SeatTaken{}
	if b.PartyID == 0 {
		return out, nil
	}
	all, err := q.Party(ctx, b.PartyID)
	for _, s := range lookedAfter(b, all) {
		if s.Invited == 0 && s.Life == string(life.Cancelled) && s.ID != b.ID {
			continue // it was never theirs
		}
		out = append(out, SeatTaken{"/b/" + a.secrets.Link(s.Uid), time.Unix(s.StartAt, 0).UTC(), time.Unix(s.EndAt, 0).UTC(), s.ClientName, s.Life, s.ID == b.ID})
	}
	slices.SortStableFunc(out, func(x, y SeatTaken) int { return x.Start.Compare(y.Start) })
	return out, err
}

// datesTaken are the seats of a booking's party by their dates, one for each meeting: the same person's as the booking, which is the only
// one if it was taken alone.
func datesTaken(ctx context.Context, q *sqlc.Queries, b sqlc.Booking) ([]sqlc.Booking, error) {
	if b.PartyID == 0 {
		return []sqlc.Booking{b}, nil
	}
	all, err := q.Party(ctx, b.PartyID)
	all = slices.DeleteFunc(lookedAfter(b, all), func(s sqlc.Booking) bool {
		never := s.Invited == 0 && !life.State(s.Life).Admits() && s.Life != b.Life
		return s.ID != b.ID && (never || s.ClientName != b.ClientName || s.MeetingID == b.MeetingID)
	})
	slices.SortStableFunc(all, func(x, y sqlc.Booking) int { return cmp.Compare(x.StartAt, y.StartAt) })
	return all, err
}

// lookedAfter is which seats of a booking's party its client may see and give back: whoever took them all of them, whoever comes along
// just their own.
func lookedAfter(b sqlc.Booking, all []sqlc.Booking) []sqlc.Booking {
	return slices.DeleteFunc(slices.Clone(all), func(s sqlc.Booking) bool {
		return !strings.EqualFold(b.ClientMail, s.ClientMail) && !slices.ContainsFunc(all, func(first sqlc.Booking) bool {
			return first.ID == first.PartyID && strings.EqualFold(first.ClientMail, b.ClientMail)
		})
	})
}

// ofSeries tells whether a booking was taken with others of a series, so that its client can't move it by itself.
func ofSeries(seats []SeatTaken) bool {
	seats = slices.DeleteFunc(slices.Clone(seats), func(s SeatTaken) bool { return s.State == string(life.Waiting) || s.State == string(life.Offered) })
	return slices.ContainsFunc(seats, func(s SeatTaken) bool { return !s.Start.Equal(seats[0].Start) })
}

// passedOver tells whether a step was refused, so that others can still be taken.
func passedOver(err error) bool {
	var refused *refusal.Refusal
	return errors.As(err, &refused)
}
