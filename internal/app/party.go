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
	"corrim/core/opentimes"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/refusal"
	"corrim/internal/secrets"
	"corrim/internal/store/sqlc"
)

// A party is the seats that a client takes at one go: one in each session of a series. They are proved, decided and told of together;
// once they are booked, each has a life of its own, and can be given back alone or with the others.

// withSeries is a type's rules with the series that are not over, where they are taken whole.
func (a *App) withSeries(ctx context.Context, q *sqlc.Queries, kind int64, r TypeRules) (TypeRules, error) {
	if !r.Whole {
		return r, nil
	}
	rows, err := q.SessionsOfSeries(ctx, sqlc.SessionsOfSeriesParams{TypeID: kind, Since: a.Now().Unix()})
	r.series = map[string]opentimes.Series{}
	for _, s := range rows {
		label := seriesLabel(s.SeriesID)
		r.series[label] = append(r.series[label], opentimes.Part{
			Meeting: span.Span{Start: span.Instant(s.StartAt), End: span.Instant(s.EndAt)}, Filling: opentimes.Filling{Seats: int(s.Capacity), Taken: int(s.Taken)},
		})
	}
	return r, err
}

// seriesAt is when the sessions are of each series that begins at one of some starts.
func (r TypeRules) seriesAt(starts []time.Time) map[string][]time.Time {
	if !r.Whole {
		return nil
	}
	out := map[string][]time.Time{}
	for _, series := range r.series {
		first := series[0].Meeting.Start.Time()
		if !slices.ContainsFunc(starts, first.Equal) {
			continue
		}
		for _, part := range series {
			out[series[0].Meeting.Start.String()] = append(out[series[0].Meeting.Start.String()], part.Meeting.Start.Time())
		}
	}
	return out
}

// takeSeries takes a seat in the first session of a series, and in all that come after it.
func (a *App) takeSeries(ctx context.Context, q *sqlc.Queries, o offered, key string, r BookingRequest, by insertion) (sqlc.Booking, error) {
	by.step.series = uuid.NewString()
	first, err := a.insertBooking(ctx, q, o, key, r, by)
	if err != nil {
		return first, err
	}
	rest, err := q.RestOfSeries(ctx, sqlc.RestOfSeriesParams{TypeID: o.ID, SeriesID: first.SeriesID, Since: first.StartAt})
	if err != nil {
		return first, err
	}
	by.form.files = nil // they are kept with the first
	for _, session := range rest {
		if session.Taken >= session.Capacity {
			return first, refusal.New(refusal.Taken, told.SeriesFull.Words())
		}
		if err := a.takeAlong(ctx, q, o, key, r, by, first, session); err != nil {
			return first, err
		}
	}
	if len(rest) == 0 {
		return first, nil
	}
	if err := q.SetParty(ctx, sqlc.SetPartyParams{ID: first.ID, PartyID: first.ID}); err != nil {
		return first, err
	}
	return q.Booking(ctx, first.ID)
}

// takeAlong takes a seat in a meeting together with one that was taken first. What has to be proved is proved with that.
func (a *App) takeAlong(ctx context.Context, q *sqlc.Queries, o offered, key string, r BookingRequest, by insertion, first, into sqlc.Booking) error {
	r.Start = time.Unix(into.StartAt, 0)
	o.Rules = o.Rules.only(startOf(into).Minutes)
	by.into, by.party, by.step.silent = into.MeetingID, first.ID, by.step.kind == string(life.Hold)
	by.lapses = first.LapsesAt
	_, err := a.insertBooking(ctx, q, o, secrets.Hashed(fmt.Sprint(key, "\n", into.MeetingID)), r, by)
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

// advanceTogether takes a step with a booking and those that stand with it. Whoever has taken them is told in one letter.
func (a *App) advanceTogether(ctx context.Context, q *sqlc.Queries, b sqlc.Booking, s step, lapsesAt int64) error {
	all, err := together(ctx, q, b)
	if err != nil {
		return err
	}
	if len(all) > 1 {
		s.series = uuid.NewString()
	}
	for _, one := range all {
		if err := a.advance(ctx, q, one, s, lapsesAt); err != nil {
			return err
		}
	}
	return nil
}

// CancelAll gives back a seat with all that were taken with it at one go, as far as that can still be done.
func (a *App) CancelAll(ctx context.Context, link, reason string) (ClientBooking, error) {
	return a.cancel(ctx, link, reason, true)
}

// seriesTo names what one client is told of together, of all that happens at one go; empty if that is one thing alone.
func seriesTo(series string, b sqlc.Booking) string {
	if series == "" {
		return ""
	}
	return series + " " + strings.ToLower(b.ClientMail)
}

// cancelRestOf cancels a client's seat, with those that they took with it and that come after it.
func (a *App) cancelRestOf(ctx context.Context, q *sqlc.Queries, p Person, b sqlc.Booking, word string) error {
	all, err := together(ctx, q, b)
	if err != nil {
		return err
	}
	s := byHost(string(life.Cancel), p, word)
	s.series = uuid.NewString()
	for _, one := range all {
		if one.StartAt < b.StartAt {
			continue
		}
		if err := a.advance(ctx, q, one, s, 0); err != nil {
			return err
		}
	}
	return nil
}

// cancelSeries cancels a session, and those of its series that come after it, for all who come. All must be of hosts whom the person can
// cancel for.
func (a *App) cancelSeries(ctx context.Context, q *sqlc.Queries, p Person, b sqlc.Booking, word string) error {
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
	return nil
}

// InSeries is where a session stands in its series.
type InSeries struct {
	Place int `json:"place" doc:"The first is 1."`
	Of    int `json:"of"`
	After int `json:"after" doc:"How many sessions come after it."`
	Seats int `json:"seats" doc:"How many seats the client took with this one come after it."`
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
	in := InSeries{Of: len(all), Place: 1}
	for _, session := range all {
		if session.StartAt > b.StartAt {
			in.After++
		}
		if session.StartAt < b.StartAt {
			in.Place++
		}
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
	State string    `json:"state" enum:"unproved,requested,booked,attended,no-show,cancelled,declined,expired,waiting,offered"`
	This  bool      `json:"this,omitempty" doc:"The one that was asked for."`
}

// seatsTaken are the seats that a client took together, in order of their dates; none if it is one alone.
func (a *App) seatsTaken(ctx context.Context, b sqlc.Booking) ([]SeatTaken, error) {
	out := []SeatTaken{}
	if b.PartyID == 0 {
		return out, nil
	}
	all, err := a.Store.Party(ctx, b.PartyID)
	for _, s := range all {
		out = append(out, SeatTaken{"/b/" + a.secrets.Link(s.Uid), time.Unix(s.StartAt, 0).UTC(), time.Unix(s.EndAt, 0).UTC(), s.Life, s.ID == b.ID})
	}
	slices.SortStableFunc(out, func(x, y SeatTaken) int { return x.Start.Compare(y.Start) })
	return out, err
}

// ofSeries tells whether a booking was taken with others of a series, so that its client can't move it by itself.
func ofSeries(seats []SeatTaken) bool {
	return slices.ContainsFunc(seats, func(s SeatTaken) bool { return !s.Start.Equal(seats[0].Start) })
}

// passedOver tells whether a step was refused, so that others can still be taken.
func passedOver(err error) bool {
	var refused *refusal.Refusal
	return errors.As(err, &refused)
}
