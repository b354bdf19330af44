package app

import (
	"context"
	"slices"

	"github.com/google/uuid"

	"corrim/core/intake"
	"corrim/core/life"
	words "corrim/core/message"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/letter"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// stepWritten is that a host wrote to all who come to a meeting. It changes nothing about the booking.
const stepWritten = "written"

// WriteToAll mails everybody who has a seat in one of the person's meetings, each on their own and in their language; what was written
// stands in each booking's history, and on its client's page.
func (a *App) WriteToAll(ctx context.Context, p schedule.Person, id int64, word string) (BookingSheet, error) {
	word = intake.AsWritten(word)
	if word == "" {
		return BookingSheet{}, refusal.Faulty("word", told.Say("write-something", "Write what all who come should know."))
	}
	if err := checkWord(word); err != nil {
		return BookingSheet{}, err
	}
	b, err := a.anyBooking(ctx, a.Store.Queries, p, id)
	if err != nil {
		return BookingSheet{}, err
	}
	seats, err := a.whoComes(ctx, b.Booking)
	if err != nil {
		return BookingSheet{}, err
	}
	letters := make([]Mail, len(seats))
	for i, seat := range seats {
		if letters[i], err = a.written(ctx, p, seat, word); err != nil {
			return BookingSheet{}, err
		}
	}
	err = a.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error { return a.postToAll(ctx, q, p, seats, letters, word) })
	if err != nil {
		return BookingSheet{}, err
	}
	a.Wake()
	return a.BookingSheet(ctx, p, id)
}

// whoComes are those who have a seat in a booking's meeting for sure.
func (a *App) whoComes(ctx context.Context, b sqlc.Booking) ([]sqlc.Booking, error) {
	seats, err := seatsStanding(ctx, a.Store.Queries, b)
	comes := []life.State{life.Booked, life.Attended, life.NoShow}
	seats = slices.DeleteFunc(seats, func(s sqlc.Booking) bool { return !slices.Contains(comes, life.State(s.Life)) })
	if err == nil && len(seats) == 0 {
		err = refusal.New(refusal.Over, told.Say("nobody-left", "Nobody has a seat in this meeting any more."))
	}
	return seats, err
}

func (a *App) written(ctx context.Context, p schedule.Person, seat sqlc.Booking, word string) (Mail, error) {
	f, err := a.facts(ctx, seat)
	if err != nil {
		return Mail{}, err
	}
	f = f.forClient()
	l := f.write(words.ClientWritten, f.clientZone(), words.With{"who": p.Name}, f.link, f.heading())
	l.Facts = append(l.Facts, letter.Fact{f.w.Say("facts.writes", words.With{"name": p.Name}), word})
	m := mailOf(l)
	m.ID, m.FromName, m.ReplyTo = "written-"+uuid.NewString(), f.workspace, p.Address()
	m.To, m.Back = schedule.Address{Name: seat.ClientName, Mail: seat.ClientMail}, a.back(backOfClient, seat.ID)
	return m, nil
}

func (a *App) postToAll(ctx context.Context, q *sqlc.Queries, p schedule.Person, seats []sqlc.Booking, letters []Mail, word string) error {
	about := seats
	own, err := sessionOf(ctx, q, seats[0])
	if err != nil {
		return err
	}
	if own != nil {
		about = append(slices.Clone(seats), *own)
	}
	for _, b := range about {
		if err := q.AddStep(ctx, sqlc.AddStepParams{BookingID: b.ID, At: a.Now().Unix(), Kind: stepWritten, By: string(life.Host), Note: word, PersonID: store.NullID(p.ID)}); err != nil {
			return err
		}
	}
	for _, m := range letters {
		if err := a.post(ctx, q, p.ID, m); err != nil {
			return err
		}
	}
	return nil
}
