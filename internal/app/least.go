package app

import (
	"context"
	"fmt"
	"slices"
	"time"

	"corrim/core/life"
	"corrim/internal/job"
	"corrim/internal/store/sqlc"
)

// A session takes place from a least number of people on: some time before it starts it is looked at, and called off by itself if too few
// have a seat.

// usualLeastHours is how long before the start that is decided, if the type says nothing else.
const usualLeastHours = 24

// decidedAt is when it is decided whether a session that starts at a moment takes place; the zero time if it does anyway.
func (o Offer) decidedAt(start int64) time.Time {
	if o.Least <= 1 {
		return time.Time{}
	}
	hours := o.LeastHours
	if hours == 0 {
		hours = usualLeastHours
	}
	return time.Unix(start, 0).Add(-time.Duration(hours) * time.Hour)
}

// planDecision plans to look at a session. One that is set after that would be decided takes place.
func (a *App) planDecision(ctx context.Context, q *sqlc.Queries, o Offer, session sqlc.Booking) error {
	now, due := a.Now(), o.decidedAt(session.StartAt)
	if due.Before(now) {
		return nil
	}
	_, err := job.Plan(ctx, q, now, job.Keyed(job.New{Kind: jobDecide, Lane: laneOwn, Subject: subjectBooking, SubjectID: session.ID, Occasion: fmt.Sprint(due.Unix()), Due: due}))
	return err
}

// planDecisions does so for all coming sessions of a type, after it was set anew from how many on they take place.
func (a *App) planDecisions(ctx context.Context, q *sqlc.Queries, kind int64) error {
	row, err := q.MeetingType(ctx, kind)
	if err != nil {
		return err
	}
	o, err := offerOf(row)
	if err != nil || o.Least <= 1 {
		return err
	}
	sessions, err := q.SessionsOfType(ctx, sqlc.SessionsOfTypeParams{TypeID: kind, Since: a.Now().Unix(), Most: mostDecided})
	if err != nil {
		return err
	}
	for _, session := range sessions {
		if err := a.planDecision(ctx, q, o, session); err != nil {
			return err
		}
	}
	return nil
}

// mostDecided bounds how many sessions of a type are looked at; those beyond are years ahead.
const mostDecided = 2000

// decideSession is the job that looks at a session when its time has come.
func (a *App) decideSession(ctx context.Context, j sqlc.Job) (job.Ending, error) {
	b, err := a.Store.Booking(ctx, j.SubjectID)
	if err != nil {
		return nil, err
	}
	row, err := a.Store.MeetingType(ctx, b.TypeID)
	if err != nil {
		return nil, err
	}
	o, err := offerOf(row)
	if err != nil {
		return nil, err
	}
	due := o.decidedAt(b.StartAt)
	if b.Life != string(life.Scheduled) || due.IsZero() || b.StartAt <= a.Now().Unix() {
		return nil, job.ErrDropped
	}
	if due.After(a.Now()) { // it was moved
		return nil, job.Later{At: due}
	}
	return func(ctx context.Context, q *sqlc.Queries) error { return a.callOffBelow(ctx, q, b.ID, o.Least) }, nil
}

// callOffBelow calls a session off if fewer than so many people are booked. Each of them is told, the hosts once.
func (a *App) callOffBelow(ctx context.Context, q *sqlc.Queries, session int64, least int) error {
	own, err := q.Booking(ctx, session)
	if err != nil || own.Life != string(life.Scheduled) {
		return err
	}
	seats, err := q.SeatsKept(ctx, own.MeetingID)
	if err != nil {
		return err
	}
	if booked := slices.DeleteFunc(slices.Clone(seats), func(b sqlc.Booking) bool { return b.Life != string(life.Booked) }); len(booked) >= least {
		return nil
	}
	s := step{kind: string(life.CallOff), by: string(life.Clock)}
	for _, seat := range seats {
		s.forOthers = true
		if err := a.advance(ctx, q, seat, s, 0); err != nil {
			return err
		}
	}
	s.forOthers = false
	return a.advance(ctx, q, own, s, 0)
}
