package app

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"corrim/core/intake"
	"corrim/core/told"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// askedOf is a booking's offer with the questions that its client was asked: of somebody who comes along, those that everybody is asked.
func askedOf(ctx context.Context, q *sqlc.Queries, b sqlc.Booking, o schedule.Bookable) (schedule.Bookable, error) {
	party, err := beside(ctx, q, b)
	if err != nil || len(party) == 0 || party[0].ID == b.ID {
		return o, err
	}
	all := []intake.Question{}
	for _, question := range o.BookingPage.Questions {
		if question.OfAll() {
			question.When = nil // the client has answered what it depends on
			all = append(all, question)
		}
	}
	o.BookingPage.Questions = all
	return o, nil
}

// withinInvites refuses seats for an address that was given many lately.
func (a *App) withinInvites(ctx context.Context, q *sqlc.Queries, r schedule.BookingRequest, along []schedule.SeatFor) error {
	if r.Inside {
		return nil
	}
	day := a.Now().AddDate(0, 0, -1).Unix()
	for i, seat := range along {
		if strings.EqualFold(seat.Mail, r.Mail) {
			continue
		}
		made, err := q.MadeByClientSince(ctx, sqlc.MadeByClientSinceParams{ClientMail: seat.Mail, Since: day})
		if err != nil {
			return err
		}
		if made >= mostInvites {
			return refusal.Faulty(fmt.Sprintf("along.%d.mail", i), told.GuestBusy.With(seat.Mail))
		}
	}
	return nil
}

// beside are the seats of a booking's party in its own meeting, in the order in which they were taken; none if it is alone there.
func beside(ctx context.Context, q *sqlc.Queries, b sqlc.Booking) ([]sqlc.Booking, error) {
	if b.PartyID == 0 {
		return nil, nil
	}
	all, err := q.Party(ctx, b.PartyID)
	all = slices.DeleteFunc(all, func(other sqlc.Booking) bool { return other.MeetingID != b.MeetingID })
	if len(all) < 2 {
		return nil, err
	}
	return all, err
}

// spokenToWith is the seat of the same party and meeting before a booking that is told things at the same address; nil if there is none.
func spokenToWith(ctx context.Context, q *sqlc.Queries, b sqlc.Booking) (*sqlc.Booking, error) {
	party, err := beside(ctx, q, b)
	for i, other := range party {
		if other.ID < b.ID && strings.EqualFold(other.ClientMail, b.ClientMail) && other.State == "booked" {
			return &party[i], err
		}
	}
	return nil, err
}

// toldAlready tells whether a step is told with that of another seat, which was taken at the same moment and is told at the same address.
func (a *App) toldAlready(ctx context.Context, b sqlc.Booking, kind string) (bool, error) {
	party, err := beside(ctx, a.Store.Queries, b)
	if err != nil || len(party) == 0 {
		return false, err
	}
	own, err := a.stepAt(ctx, b, kind)
	if err != nil || own == 0 && kind != stepRoom {
		return false, err
	}
	for _, other := range party {
		if other.ID >= b.ID || !strings.EqualFold(other.ClientMail, b.ClientMail) {
			continue
		}
		if kind == stepRoom {
			return other.State == "booked", nil
		}
		if at, err := a.stepAt(ctx, other, kind); err != nil || at == own {
			return at == own, err
		}
	}
	return false, nil
}

// stepAt is when a booking's last step of a kind was taken; 0 if none was.
func (a *App) stepAt(ctx context.Context, b sqlc.Booking, kind string) (int64, error) {
	row, err := a.Store.LastStep(ctx, sqlc.LastStepParams{BookingID: b.ID, Kind: kind})
	if errors.Is(err, store.ErrNotFound) {
		return 0, nil
	}
	return row.At, err
}

// namesOfSeats lists who has some seats.
func namesOfSeats(seats []sqlc.Booking) string {
	names := make([]string, len(seats))
	for i, seat := range seats {
		names[i] = seat.ClientName
	}
	return strings.Join(names, ", ")
}
