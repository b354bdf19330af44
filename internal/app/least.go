package app

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"

	"corrim/core/life"
	"corrim/internal/identity"
	"corrim/internal/job"
	"corrim/internal/schedule"
	"corrim/internal/store/sqlc"
)

// A session takes place from a least number of people on: some time before it starts it is looked at, and called off by itself if too few
// have a seat.

// planDecision plans to look at a session. One that is set after that would be decided takes place.
func (a *App) planDecision(ctx context.Context, q *sqlc.Queries, o schedule.BookingPage, session sqlc.Booking) error {
	now, due := a.Now(), o.DecidedAt(session.StartAt)
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
	o, err := schedule.BookingPageOf(row)
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
	o, err := schedule.BookingPageOf(row)
	if err != nil {
		return nil, err
	}
	due := o.DecidedAt(b.StartAt)
	if b.Life != string(life.Scheduled) || due.IsZero() || b.StartAt <= a.Now().Unix() {
		return nil, job.ErrDropped
	}
	if due.After(a.Now()) { // it was moved
		return nil, job.Later{At: due}
	}
	whole, err := takenWhole(row)
	if err != nil {
		return nil, err
	}
	return func(ctx context.Context, q *sqlc.Queries) error {
		switch {
		case o.LeastAsk:
			return a.doubtBelow(ctx, q, b.ID, o.Least, whole)
		case whole:
			return a.callOffSeriesBelow(ctx, q, b, o.Least)
		}
		return a.callOffBelow(ctx, q, b.ID, o.Least)
	}, nil
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
	if booked(seats) >= enough(own, least) {
		return nil
	}
	return a.callOff(ctx, q, own, seats, "")
}

// enough is how many have to come to a session: where it has fewer seats of its own, all of these.
func enough(session sqlc.Booking, least int) int { return min(least, int(session.Capacity)) }

// booked is how many of some seats are booked, not merely asked for.
func booked(seats []sqlc.Booking) (n int) {
	for _, b := range seats {
		if b.Life == string(life.Booked) {
			n++
		}
	}
	return n
}

// callOff calls a session off; series names what is called off with it.
func (a *App) callOff(ctx context.Context, q *sqlc.Queries, own sqlc.Booking, seats []sqlc.Booking, series string) error {
	s := step{kind: string(life.CallOff), by: string(life.Clock)}
	queue, err := q.WaitingSeats(ctx, sqlc.WaitingSeatsParams{MeetingID: own.MeetingID, Most: mostOnList})
	if err != nil {
		return err
	}
	held, err := q.SeatsOffered(ctx, own.MeetingID)
	if err != nil {
		return err
	}
	for _, seat := range slices.Concat(seats, queue, held) {
		s.forOthers, s.ending, s.series = true, true, seriesTo(series, seat.ClientMail)
		if err := a.advance(ctx, q, seat, s, 0); err != nil {
			return err
		}
	}
	s.forOthers, s.ending, s.series = false, false, series
	return a.advance(ctx, q, own, s, 0)
}

// doubtBelow tells the hosts of a session if fewer than so many people are booked; of a series that is taken whole, of the first one.
func (a *App) doubtBelow(ctx context.Context, q *sqlc.Queries, session int64, least int, whole bool) error {
	own, err := q.Booking(ctx, session)
	if err != nil || own.Life != string(life.Scheduled) {
		return err
	}
	if whole {
		all, err := q.RestOfSeries(ctx, sqlc.RestOfSeriesParams{TypeID: own.TypeID, SeriesID: own.SeriesID})
		if err != nil || len(all) == 0 || all[0].ID != session {
			return err
		}
	}
	seats, err := q.SeatsKept(ctx, own.MeetingID)
	if err != nil || booked(seats) >= enough(own, least) {
		return err
	}
	if err := q.SetDoubt(ctx, sqlc.SetDoubtParams{MeetingID: own.MeetingID, DoubtedAt: a.Now().Unix()}); err != nil {
		return err
	}
	return a.record(ctx, q, own, step{kind: string(life.Doubt), by: string(life.Clock), note: doubtOf(booked(seats), least)})
}

// usualLeast is from how many people on a session takes place where that is shown without one.
const usualLeast = 3

// doubtOf is how many have signed up, of how many.
func doubtOf(booked, least int) string { return fmt.Sprintf("%d/%d", booked, least) }

// Doubt is a session to which too few have signed up, and that its hosts decide about.
type Doubt struct {
	ID     int64     `json:"id" doc:"The booking that stands for it."`
	Type   string    `json:"type"`
	Start  time.Time `json:"start"`
	Host   string    `json:"host,omitempty" doc:"Of a colleague's."`
	Booked int       `json:"booked"`
	Least  int       `json:"least" doc:"How many were wanted."`
	After  int       `json:"after,omitempty" doc:"Of a series that is taken whole: how many sessions come after it, and stand or fall with it."`
	Comers []string  `json:"comers" doc:"Who has signed up."`
}

// doubts are the sessions that somebody decides about: their own; for a coordinator the colleagues' too. Where enough have signed up since,
// there is nothing to decide any more.
func (a *App) doubts(ctx context.Context, p schedule.Person) ([]Doubt, error) {
	rows, err := a.Store.SessionsInDoubt(ctx, sqlc.SessionsInDoubtParams{Now: a.Now().Unix(), WorkspaceID: p.Home.ID})
	out := []Doubt{}
	if err != nil || len(rows) == 0 {
		return out, err
	}
	names, err := a.Names(ctx, p.Home.ID)
	if err != nil {
		return nil, err
	}
	for _, own := range rows {
		parts, err := a.Store.HostsOfMeeting(ctx, own.MeetingID)
		if err != nil {
			return nil, err
		}
		hosts := slices.ContainsFunc(parts, func(part sqlc.MeetingHost) bool { return part.PersonID == p.ID && part.State != schedule.HostLeft })
		if !hosts && !p.May(identity.HandleBookings) {
			continue
		}
		d, err := a.doubt(ctx, own)
		if err != nil {
			return nil, err
		}
		if !hosts {
			d.Host = names[own.HostID]
		}
		if d.Booked < d.Least {
			out = append(out, d)
		}
	}
	return out, nil
}

func (a *App) doubt(ctx context.Context, own sqlc.Booking) (Doubt, error) {
	row, err := a.Store.MeetingType(ctx, own.TypeID)
	if err != nil {
		return Doubt{}, err
	}
	offer, err := schedule.BookingPageOf(row)
	if err != nil {
		return Doubt{}, err
	}
	seats, err := a.Store.SeatsKept(ctx, own.MeetingID)
	if err != nil {
		return Doubt{}, err
	}
	d := Doubt{ID: own.ID, Type: own.TypeName, Start: time.Unix(own.StartAt, 0).UTC(), Booked: booked(seats), Least: enough(own, offer.Least), Comers: []string{}}
	for _, seat := range seats {
		if seat.Life == string(life.Booked) {
			d.Comers = append(d.Comers, seat.ClientName)
		}
	}
	whole, err := takenWhole(row)
	if err != nil || !whole {
		return d, err
	}
	rest, err := a.Store.RestOfSeries(ctx, sqlc.RestOfSeriesParams{TypeID: own.TypeID, SeriesID: own.SeriesID, Since: own.StartAt})
	d.After = len(rest)
	return d, err
}

// TakesPlace lets a session take place, though few have signed up.
func (a *App) TakesPlace(ctx context.Context, p schedule.Person, id int64) (Today, error) {
	return a.settle(ctx, p, id, func(q *sqlc.Queries, b schedule.Hosted) error {
		s := byHost(string(life.Keep), p, "")
		if _, err := a.nextOf(b.Booking, s); err != nil {
			return err
		}
		if err := q.SetDoubt(ctx, sqlc.SetDoubtParams{MeetingID: b.MeetingID}); err != nil {
			return err
		}
		return a.record(ctx, q, b.Booking, s)
	})
}

// callOffSeriesBelow decides about a series that is taken whole with its first session: it takes place as a whole, or not at all.
func (a *App) callOffSeriesBelow(ctx context.Context, q *sqlc.Queries, first sqlc.Booking, least int) error {
	all, err := q.RestOfSeries(ctx, sqlc.RestOfSeriesParams{TypeID: first.TypeID, SeriesID: first.SeriesID})
	if err != nil || len(all) == 0 || all[0].ID != first.ID {
		return err
	}
	series := uuid.NewString()
	for i, own := range all {
		seats, err := q.SeatsKept(ctx, own.MeetingID)
		if err != nil {
			return err
		}
		if i == 0 && booked(seats) >= enough(own, least) {
			return nil
		}
		if err := a.callOff(ctx, q, own, seats, series); err != nil {
			return err
		}
	}
	return nil
}

// takenWhole tells whether clients of a type take a series whole.
func takenWhole(row sqlc.MeetingType) (bool, error) {
	rules := schedule.TypeRules{}
	err := json.Unmarshal([]byte(row.Rules), &rules)
	return rules.Whole, err
}
