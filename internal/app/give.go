package app

import (
	"context"
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

// NewHolder is to whom a client gives their seat.
type NewHolder struct {
	Name string `json:"name" maxLength:"1000"`
	Mail string `json:"mail" maxLength:"1000"`
	All  bool   `json:"all,omitempty" doc:"With all seats of the same person that were taken with it at one go and can still be given."`
}

// GiveSeat gives a client's seat to somebody else. Whoever had it is out of it, calendar and link and all; whoever has it now begins as
// every client of the type does, with an invitation and a link of their own, and nothing that the other wrote. Nobody else gets the seat
// meanwhile.
func (a *App) GiveSeat(ctx context.Context, link string, to NewHolder) (ClientBooking, error) {
	err := a.Store.Write(ctx, func(q *sqlc.Queries) error {
		b, err := a.ByLink(ctx, q, link)
		if err != nil {
			return err
		}
		request, o, err := a.gift(ctx, q, b, to)
		if err != nil {
			return err
		}
		seats := []sqlc.Booking{b}
		if to.All {
			if seats, err = a.givableWith(ctx, q, b, o); err != nil {
				return err
			}
		}
		return a.giveSeats(ctx, q, o, seats, request)
	})
	if err != nil {
		return ClientBooking{}, err
	}
	a.Wake()
	return a.BookingByLink(ctx, link)
}

// mayGive tells whether a client can give their seat to somebody else: one that is booked, where others come too, as long as it could be
// cancelled.
func (a *App) mayGive(b sqlc.Booking, o schedule.Bookable) bool {
	_, err := a.nextOf(b, byClient(string(life.Give), ""))
	return err == nil && schedule.Shared(b) && a.cantCancel(b, o) == nil
}

// gift checks to whom a seat is given, within the limits of bookings.
func (a *App) gift(ctx context.Context, q *sqlc.Queries, b sqlc.Booking, to NewHolder) (schedule.BookingRequest, schedule.Bookable, error) {
	o, err := a.BookedType(ctx, q, b)
	if err != nil {
		return schedule.BookingRequest{}, o, err
	}
	if late := a.cantCancel(b, o); late != nil {
		return schedule.BookingRequest{}, o, refusal.New(refusal.Over, *late)
	}
	if !a.mayGive(b, o) {
		return schedule.BookingRequest{}, o, refusal.New(refusal.Over, told.GiveNot.Words())
	}
	request := schedule.BookingRequest{Name: to.Name, Mail: to.Mail, Zone: b.ClientZone, Language: b.Language}.Normal(o.Host.Home)
	wrong := request.Check()
	if request.Name == "" {
		wrong["name"] = told.GiveName.Words()
	}
	if request.Mail == "" {
		wrong["mail"] = told.GiveMail.Words()
	}
	if request.Name == b.ClientName && strings.EqualFold(request.Mail, b.ClientMail) {
		wrong.Add("name", told.GiveOther.Words())
	}
	if err := wrong.Err(); err != nil {
		return request, o, err
	}
	return request, o, a.withinLimits(ctx, q, o, request, nil)
}

// givableWith is a seat with the others of the same person that were taken with it and can still be given, the first date first.
func (a *App) givableWith(ctx context.Context, q *sqlc.Queries, b sqlc.Booking, o schedule.Bookable) ([]sqlc.Booking, error) {
	all, err := together(ctx, q, b)
	all = slices.DeleteFunc(all, func(s sqlc.Booking) bool {
		return s.ClientName != b.ClientName || !strings.EqualFold(s.ClientMail, b.ClientMail) || !a.mayGive(s, o)
	})
	slices.SortFunc(all, func(x, y sqlc.Booking) int { return int(x.StartAt - y.StartAt) })
	return all, err
}

// giveSeats takes seats from whoever has them and gives them to somebody else. There is one seat more for a moment, so that a meeting stands
// throughout that nobody else comes to.
func (a *App) giveSeats(ctx context.Context, q *sqlc.Queries, o schedule.Bookable, seats []sqlc.Booking, r schedule.BookingRequest) error {
	key, first := secrets.Hashed("given "+uuid.NewString()), sqlc.Booking{}
	by := insertion{step: byClient(string(o.Beginning()), ""), form: o.ByHand()}
	by.step.series, by.step.forOthers = seriesTo(key, r.Mail), true // hosts are told who gave it
	for b, s := range eachOf(seats, byClient(string(life.Give), r.Name)) {
		err := q.AddCapacity(ctx, b.MeetingID)
		if err != nil {
			return err
		}
		if first.ID == 0 {
			by.into, r.Start = b.MeetingID, time.Unix(b.StartAt, 0)
			first, err = a.insertBooking(ctx, q, o, key, r, by)
		} else {
			err = a.takeAlong(ctx, q, o, key, r, by, first, b)
		}
		if err != nil {
			return err
		}
		if err := enter(ctx, q, b, life.Cancelled, life.Give, 0); err != nil {
			return err
		}
		if err := q.TakeCapacity(ctx, b.MeetingID); err != nil {
			return err
		}
		if err := a.recordAnew(ctx, q, b.ID, s); err != nil {
			return err
		}
	}
	if len(seats) == 1 {
		return nil
	}
	return q.SetParty(ctx, sqlc.SetPartyParams{ID: first.ID, PartyID: first.ID})
}
