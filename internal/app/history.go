package app

import (
	"context"
	"encoding/json"
	"errors"

	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
	"corrim/internal/undo"
)

// The kinds of changes that can be undone beside those of settings.
const (
	subjectBlock    = "block"
	subjectBooking  = "booking"
	subjectOneOff   = "one-off" // of jobs
	subjectHandover = "handover"
	subjectClash    = "clash"
	subjectMessages = "messages"

	subjectTypeMessages = "type-messages"
)

// undoable is how each of them is put back.
func (a *App) undoable() undo.Subjects[schedule.Person] {
	return undo.Subjects[schedule.Person]{
		subjectBlock:    undo.Of(settings.MayPutBack(identity.EditOwn), restoreBlock),
		subjectBooking:  undo.Of(mayPutBackBooking, a.restoreBooking).Telling(),
		subjectHandover: undo.Of(settings.MayPutBackOf(identity.HandleBookings), a.restoreHandover).Telling(),
		subjectClash:    undo.Of(mayPutBackClash, restoreClash),
		subjectMessages: undo.Of(settings.MayPutBack(identity.EditWorkspace), a.restoreMessages),

		subjectTypeMessages: undo.Of(settings.MayPutBackType, a.restoreTypeMessages),
	}
}

// History lists the person's last changes of settings, newest first.
func (a *App) History(ctx context.Context, p schedule.Person) ([]undo.SettingChange, error) {
	return a.history.Last(ctx, a.Store.Queries, p.ID)
}

// Undo puts back what the person's last change of settings changed, and returns the history.
func (a *App) Undo(ctx context.Context, p schedule.Person) ([]undo.SettingChange, error) {
	err := a.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error { return a.history.Undo(ctx, q, p, p.ID, a.Now()) })
	switch {
	case errors.Is(err, undo.ErrNothing):
		err = refusal.New(refusal.NotFound, told.Say("nothing-undo", "There is nothing to undo."))
	case errors.Is(err, undo.ErrChangedSince):
		err = refusal.New(refusal.Invalid, told.Say("somebody-else-changed", "Somebody else has changed the same settings since, so this can't be undone. Change by hand what should be different."))
	case errors.Is(err, store.ErrOverlap):
		err = refusal.New(refusal.Taken, told.Say("another-booking-lies", "Another booking lies there now, so this can't be undone. Move one of them by hand."))
	}
	if err != nil {
		return nil, err
	}
	a.Wake()
	return a.History(ctx, p)
}

func mayPutBackBooking(_ context.Context, _ *sqlc.Queries, p schedule.Person, c sqlc.SettingChange) error {
	before := bookingState{}
	if err := json.Unmarshal([]byte(c.Before), &before); err != nil {
		return err
	}
	if before.Host == p.ID { // it was theirs, whoever has it now
		return p.Must(identity.EditOwn)
	}
	return p.Must(identity.HandleBookings)
}
