package app

import (
	"context"
	"errors"
	"slices"

	"corrim/core/intake"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// Away: somebody's days are closed and their bookings looked after, as one action.

// Away is whose days are closed, and what happens to those bookings that nobody can take by the rules.
type Away struct {
	HandoverSpan
	Open  bool       `json:"open,omitempty" doc:"The days stay open: only their bookings are looked after."`
	Label string     `json:"label,omitempty" maxLength:"200" doc:"What the time off is for; only colleagues read it."`
	Rest  []AwayRest `json:"rest" maxItems:"500" doc:"For bookings that the plan places with nobody; those left out stay as they are."`
}

// AwayRest is what happens to one booking that the rules place with nobody.
type AwayRest struct {
	Booking int64  `json:"booking"`
	Do      string `json:"do" enum:"ask,cancel,give,leave" doc:"The client is asked to choose again; it is cancelled; a colleague takes it whatever speaks against it; it stays."`
	To      int64  `json:"to,omitempty" doc:"To give it to."`
	Word    string `json:"word,omitempty" maxLength:"10000" doc:"To the client."`
}

const (
	awayAsk    = "ask"
	awayCancel = "cancel"
	awayGive   = "give"
)

// GoAway closes days of somebody, hands over what can be by each type's rule, and does with each of the rest what was chosen, in one
// transaction. It returns what stays. Time off and handovers can be undone; clients who were asked or told of a cancellation can't.
func (a *App) GoAway(ctx context.Context, p schedule.Person, away Away) (HandoverPlan, error) {
	for _, rest := range away.Rest {
		if err := checkWord(rest.Word); err != nil {
			return HandoverPlan{}, err
		}
	}
	left := HandoverPlan{Moves: []HandoverMove{}}
	err := a.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		left.Moves = []HandoverMove{}
		plan, err := a.planHandover(ctx, q, p, away.HandoverSpan)
		if err != nil {
			return err
		}
		left.Person = plan.Person
		if err := a.closeDays(ctx, q, p, away); err != nil {
			return err
		}
		var before []handedState
		for _, move := range plan.Moves {
			state, stays, err := a.lookAfterBooking(ctx, q, p, away, move)
			if err != nil {
				return err
			}
			if state.Booking != 0 {
				before = append(before, state)
			}
			if stays {
				left.Moves = append(left.Moves, move)
			}
		}
		if len(before) == 0 {
			return nil
		}
		label := told.Say("undo-handed-over", "{} of {} handed over", told.Count(len(before), "booking"), plan.Person)
		return a.Remember(ctx, q, p, subjectHandover, away.Person, label, before)
	})
	if errors.Is(err, store.ErrOverlap) {
		err = refusal.New(refusal.Taken, told.Say("somebody-booked-meanwhile", "Somebody was booked meanwhile, so nothing was done. Look at the plan again."))
	}
	if err != nil {
		return left, err
	}
	a.Wake()
	return left, nil
}

// closeDays takes the days off.
func (a *App) closeDays(ctx context.Context, q *sqlc.Queries, p schedule.Person, away Away) error {
	if away.Open {
		return nil
	}
	if away.Person != p.ID {
		if err := p.Must(identity.LookAfterHours); err != nil {
			return err
		}
	}
	before, err := settings.HoursOf(ctx, q, away.Person)
	if err != nil {
		return err
	}
	off := schedule.DayChange{First: away.From, Last: away.To, Kind: schedule.KindOff, Label: intake.FirstLetters(intake.OneLine(away.Label), 100)}
	if slices.ContainsFunc(before.Differs, off.SameDaysOff) {
		return nil // they are closed already
	}
	if err := settings.SetDayChanges(ctx, q, away.Person, append(slices.Clone(before.Differs), off)); err != nil {
		return err
	}
	label := told.Say("undo-days-off", "Exceptions: {} to {} off", away.From, away.To)
	return a.Remember(ctx, q, p, settings.SubjectHours, away.Person, label, before)
}

// lookAfterBooking does what the plan or the person says about one booking; the state is set if it was handed over.
func (a *App) lookAfterBooking(ctx context.Context, q *sqlc.Queries, p schedule.Person, away Away, move HandoverMove) (state handedState, stays bool, err error) {
	if move.To != 0 {
		state, err = a.handOne(ctx, q, p, away.Person, move)
		return state, false, err
	}
	i := slices.IndexFunc(away.Rest, func(r AwayRest) bool { return r.Booking == move.Booking.ID })
	rest := AwayRest{}
	if i >= 0 {
		rest = away.Rest[i]
	}
	row, err := q.BookingOfHost(ctx, sqlc.BookingOfHostParams{BookingID: move.Booking.ID, PersonID: away.Person})
	if err != nil {
		return state, false, err
	}
	b := schedule.Hosted{Booking: row.Booking, Own: row.MeetingHost}
	switch rest.Do {
	case awayAsk:
		return state, false, a.askAgain(ctx, q, p, b, intake.AsWritten(rest.Word))
	case awayCancel:
		return state, false, a.cancelWhole(ctx, q, p, b.Booking, intake.AsWritten(rest.Word), "")
	case awayGive:
		state, err = a.giveAnyway(ctx, q, p, b, rest.To)
		return state, false, err
	}
	return state, true, nil
}

// giveAnyway hands a booking over to a colleague whatever speaks against it.
func (a *App) giveAnyway(ctx context.Context, q *sqlc.Queries, p schedule.Person, b schedule.Hosted, to int64) (handedState, error) {
	state := handedState{b.ID, bookingState{Host: b.Own.PersonID, To: to, Start: b.StartAt, Overlap: b.OverlapAllowed == 1}}
	if to == 0 || to == b.Own.PersonID {
		return state, refusal.Faulty("rest", told.Say("choose-who-takes", "Choose who takes the meeting of {}.", b.ClientName))
	}
	t, err := a.landing(ctx, q, p, b, targetOfStart(b, to, p))
	if err != nil {
		return state, err
	}
	if err := a.carry(ctx, q, p, b, t); err != nil {
		return state, err
	}
	after, err := q.Booking(ctx, b.ID)
	state.Version = after.Version
	return state, err
}

// tryDays tries other day changes of a person.
func (a *App) tryDays(ctx context.Context, p schedule.Person, differs []schedule.DayChange) (settings.DayTrial, error) {
	changes, off, err := a.Differing(differs, p.Local)
	if err != nil {
		return settings.DayTrial{}, err
	}
	effects, outside, err := a.TryChange(ctx, p, func(someone schedule.Person) schedule.Person {
		if someone.ID == p.ID {
			someone.Differs, someone.Changes, someone.Off = differs, changes, off
		}
		return someone
	})
	return settings.DayTrial{Effects: effects, Outside: outside}, err
}

// TryDayChanges reads a sentence without keeping it, and says what it would do.
func (a *App) TryDayChanges(ctx context.Context, p schedule.Person, text string) (settings.DayChangeReading, error) {
	reading := a.ReadDayChanges(p, text)
	reading.DayTrial = settings.DayTrial{Effects: []schedule.Effect{}, Outside: []schedule.Unmade{}}
	if len(reading.Changes) == 0 {
		return reading, nil
	}
	var err error
	reading.DayTrial, err = a.tryDays(ctx, p, append(slices.Clone(p.Differs), reading.Changes...))
	return reading, err
}

// TryDrawnDay says what hours drawn for one date would do.
func (a *App) TryDrawnDay(ctx context.Context, p schedule.Person, drawn settings.DrawnDay) (settings.DayTrial, error) {
	differs, err := drawn.Over(p.Differs)
	if err != nil {
		return settings.DayTrial{}, err
	}
	return a.tryDays(ctx, p, differs)
}
