package app

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"corrim/core/life"
	words "corrim/core/message"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/job"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// comingMessages is what the clock will send about a booking, as things stand, and what somebody left out by hand.
func (a *App) comingMessages(ctx context.Context, p schedule.Person, b sqlc.Booking) ([]SentMessage, error) {
	m, err := a.messagesWithQuiet(ctx, a.Store.Queries, p.Home.ID, b.TypeID)
	if err != nil {
		return nil, err
	}
	meeting, err := a.timedMeeting(ctx, a.Store.Queries, p.Home.ID, b)
	if err != nil {
		return nil, err
	}
	rows, err := a.Store.MessagesDone(ctx, []int64{b.ID})
	if err != nil {
		return nil, err
	}
	look := aheadView{now: a.Now(), hidesFirst: p.WhoseClients() != 0}
	out := []SentMessage{}
	for _, r := range m.Rules {
		i := slices.IndexFunc(rows, func(d sqlc.MessageDone) bool { return d.RuleID == r.ID && d.StartAt == b.StartAt })
		switch {
		case i < 0:
			out = append(out, look.planned(r, meeting, m.Quiet)...)
		case rows[i].JobID == 0:
			out = append(out, sentBy(r, "left"))
		}
	}
	slices.SortStableFunc(out, func(x, y SentMessage) int {
		if x.At == nil || y.At == nil {
			return cmp.Compare(x.State, y.State)
		}
		return x.At.Compare(*y.At)
	})
	return out, nil
}

func sentBy(r messageRule, state string) SentMessage {
	return SentMessage{By: cmp.Or(r.By, words.ByMail), To: r.Receiver, Occasion: string(r.Kind()), State: state, Rule: r.ID}
}

// planned is a rule's message about one meeting, if it will be sent.
func (l aheadView) planned(r messageRule, m words.Meeting, quiet words.Quiet) []SentMessage {
	m.Quiet = quiet
	coming := words.Ahead(l.seen([]words.Rule{r.Rule}), []words.Meeting{m}, span.At(l.now))
	if len(coming) == 0 {
		return nil
	}
	at := coming[0].At.Time()
	one := sentBy(r, "planned")
	one.At = &at
	if !r.Holds(m) || l.hidden(r) {
		one.If = r.If
	}
	return []SentMessage{one}
}

// messagesWithQuiet are the messages that hold for a type's bookings, with the workspace's quiet hours.
func (a *App) messagesWithQuiet(ctx context.Context, q *sqlc.Queries, workspace, kind int64) (messageRules, error) {
	m, err := messagesHeld(ctx, q, workspace, kind)
	if err != nil || !m.Own {
		return m, err
	}
	home, err := messagesOfWorkspace(ctx, q, workspace)
	m.Quiet = home.Quiet
	return m, err
}

// SendNow sends a message that the clock would send later, at once.
func (a *App) SendNow(ctx context.Context, p schedule.Person, booking, rule int64) (BookingSheet, error) {
	return a.settleMessage(ctx, p, booking, rule, func(q *sqlc.Queries, b sqlc.Booking, r messageRule) error {
		m, err := a.timedMeeting(ctx, q, p.Home.ID, b)
		if err != nil {
			return err
		}
		if !r.Holds(m) {
			return errNotTrue
		}
		return a.planMessage(ctx, q, r, b, a.Now(), a.Now().Add(time.Hour))
	})
}

// LeaveOut lets a message of the clock not be sent about one booking, at its present time.
func (a *App) LeaveOut(ctx context.Context, p schedule.Person, booking, rule int64) (BookingSheet, error) {
	return a.settleMessage(ctx, p, booking, rule, func(q *sqlc.Queries, b sqlc.Booking, r messageRule) error {
		return q.AddMessageDone(ctx, sqlc.AddMessageDoneParams{RuleID: r.ID, BookingID: b.ID, StartAt: b.StartAt}) // by no job
	})
}

// SendAgain sends a message about a booking once more, as things stand now.
func (a *App) SendAgain(ctx context.Context, p schedule.Person, booking, sent int64) (BookingSheet, error) {
	err := a.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		b, err := a.anyBooking(ctx, q, p, booking)
		if err != nil {
			return err
		}
		j, err := q.EndedJob(ctx, sqlc.EndedJobParams{ID: sent, Subject: subjectBooking, SubjectID: b.ID})
		if errors.Is(err, store.ErrNotFound) {
			return errNoSuchMessage
		}
		if err != nil {
			return err
		}
		if j.Kind == jobTimed || j.Kind == jobText {
			return a.sendTimedAgain(ctx, q, p, b.Booking, j)
		}
		if again, err := a.maySendAgain(ctx, q, b.Booking, j); err != nil {
			return err
		} else if !again {
			return errNotTrue
		}
		_, err = job.Plan(ctx, q, a.Now(), a.again(b.Booking, j, laneMail))
		return err
	})
	if err != nil {
		return BookingSheet{}, err
	}
	a.Wake()
	return a.BookingSheet(ctx, p, booking)
}

func (a *App) again(b sqlc.Booking, j sqlc.JobLog, lane string) job.New {
	now := a.Now()
	return job.New{Key: fmt.Sprintf("again %d at %d", j.ID, now.Unix()), Kind: j.Kind, Lane: lane, Subject: subjectBooking, SubjectID: b.ID, Revision: b.Revision, Occasion: j.Occasion, Due: now, Expires: now.Add(tellFor)}
}

// maySendAgain tells whether a mail of the log is still true: it says how the booking is now, so it has to be about its last step, or,
// while the booking stands, about any that made it so.
func (a *App) maySendAgain(ctx context.Context, q *sqlc.Queries, b sqlc.Booking, j sqlc.JobLog) (bool, error) {
	if _, mail := mailed[j.Kind]; !mail {
		return false, nil
	}
	steps, err := q.StepsOf(ctx, b.ID)
	if err != nil || len(steps) == 0 {
		return false, err
	}
	return steps[len(steps)-1].Kind == j.Occasion || b.Life == string(life.Booked) && words.Invites(life.Event(j.Occasion)), nil
}

func (a *App) sendTimedAgain(ctx context.Context, q *sqlc.Queries, p schedule.Person, b sqlc.Booking, j sqlc.JobLog) error {
	planned, err := q.MessageOfJob(ctx, j.ID)
	if errors.Is(err, store.ErrNotFound) || err == nil && planned.StartAt != b.StartAt {
		return errNotTrue
	}
	if err != nil {
		return err
	}
	rules, err := messagesHeld(ctx, q, p.Home.ID, b.TypeID)
	if err != nil {
		return err
	}
	m, err := a.timedMeeting(ctx, q, p.Home.ID, b)
	if err != nil {
		return err
	}
	i := slices.IndexFunc(rules.Rules, func(r messageRule) bool { return r.ID == planned.RuleID })
	if i < 0 || !rules.Rules[i].Holds(m) {
		return errNotTrue
	}
	lane := laneMail
	if j.Kind == jobText {
		lane = laneTexts
	}
	id, err := job.Plan(ctx, q, a.Now(), a.again(b, j, lane))
	if err != nil {
		return err
	}
	return q.SetMessageJob(ctx, sqlc.SetMessageJobParams{RuleID: planned.RuleID, BookingID: b.ID, StartAt: b.StartAt, JobID: id})
}

var errNotTrue = refusal.New(refusal.Over, told.Say("message-not-true", "As things stand this message isn't true, so it can't be sent now."))

// settleMessage does something with a message that waits for its moment, for whoever may handle the booking.
func (a *App) settleMessage(ctx context.Context, p schedule.Person, booking, rule int64, do func(*sqlc.Queries, sqlc.Booking, messageRule) error) (BookingSheet, error) {
	err := a.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		b, err := a.anyBooking(ctx, q, p, booking)
		if err != nil {
			return err
		}
		m, err := messagesHeld(ctx, q, p.Home.ID, b.TypeID)
		if err != nil {
			return err
		}
		i := slices.IndexFunc(m.Rules, func(r messageRule) bool { return r.ID == rule })
		if i < 0 {
			return errNoSuchMessage
		}
		done, err := q.MessageDone(ctx, sqlc.MessageDoneParams{RuleID: rule, BookingID: b.ID, StartAt: b.StartAt})
		if err != nil {
			return err
		}
		if done > 0 {
			return errNoSuchMessage
		}
		return do(q, b.Booking, m.Rules[i])
	})
	if err != nil {
		return BookingSheet{}, err
	}
	a.Wake()
	return a.BookingSheet(ctx, p, booking)
}

var errNoSuchMessage = refusal.New(refusal.NotFound, told.Say("no-such-message", "This message waits no more: it has been sent, or somebody has changed the messages. Load the page again."))
