package app

import (
	"context"
	"encoding/json"
	"strings"

	"corrim/core/intake"
	"corrim/core/life"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/letter"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/store/sqlc"
)

// A session can have words and a location of its own, where one of several dates differs from what its type says.

// SessionDetails is what is special about a session.
type SessionDetails struct {
	About string        `json:"about,omitempty" maxLength:"10000" doc:"What clients read about this date."`
	Way   *schedule.Way `json:"way,omitempty" doc:"Where they meet; as the type says if left out."`
}

const mostAbout = 2000 // letters

// ownWayID is the one location that a session can have of its own.
const ownWayID = "own"

// normal is the details as they are kept. The field of a refusal is "about" or "way".
func (d SessionDetails) normal() (SessionDetails, error) {
	d.About = intake.AsWritten(d.About)
	if len([]rune(d.About)) > mostAbout {
		return d, refusal.Faulty("about", told.Say("long-about", "That is too long: clients read up to {} letters with a date.", mostAbout))
	}
	if d.Way == nil {
		return d, nil
	}
	way := *d.Way
	way.ID, way.Text = ownWayID, strings.TrimSpace(way.Text)
	d.Way = &way
	fault := way.Fault()
	if !fault.Any() {
		fault = settings.OneLocation(2, []schedule.Way{way})
	}
	if fault.Any() {
		return d, refusal.Faulty("way", fault)
	}
	return d, nil
}

// wayOf is where a session of a type is.
func (d SessionDetails) wayOf(o schedule.Bookable) schedule.WayTaken {
	if d.Way == nil {
		return schedule.WayTaken{Way: o.BookingPage.Ways[0]}
	}
	return schedule.WayTaken{Way: *d.Way}
}

// detailsOf is what is special about a booking's meeting.
func detailsOf(b sqlc.Booking) SessionDetails {
	d := SessionDetails{About: b.About}
	if b.OwnWay != 0 {
		way := formOf(b).Way.Way
		d.Way = &way
	}
	return d
}

// SetDetails says what is special about a coming session. Whoever has a seat in it is told, and what stands in calendars is replaced.
func (a *App) SetDetails(ctx context.Context, p schedule.Person, id int64, d SessionDetails) (BookingSheet, error) {
	d, err := d.normal()
	if err != nil {
		return BookingSheet{}, err
	}
	err = a.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		b, err := a.ownBooking(ctx, q, p, id)
		if err != nil {
			return err
		}
		session, err := sessionOf(ctx, q, b.Booking)
		if err != nil {
			return err
		}
		if session == nil {
			return refusal.New(refusal.Over, told.Say("no-session", "This is no session on a date that was set, so it has no words of its own."))
		}
		return a.changeDetails(ctx, q, p, *session, d)
	})
	if err != nil {
		return BookingSheet{}, err
	}
	a.Wake()
	return a.BookingSheet(ctx, p, id)
}

func (a *App) changeDetails(ctx context.Context, q *sqlc.Queries, p schedule.Person, session sqlc.Booking, d SessionDetails) error {
	s := byHost(string(life.Change), p, "")
	if _, err := a.nextOf(session, s); err != nil {
		return err
	}
	to := sqlc.SetDetailsParams{MeetingID: session.MeetingID, About: d.About, OwnWay: number(d.Way != nil)}
	var err error
	if to.Way, err = a.wayAfter(ctx, q, session, d); err != nil {
		return err
	}
	if to.About == session.About && to.OwnWay == session.OwnWay && to.Way == session.Way {
		return nil // sent twice, or nothing to do
	}
	if err := q.SetDetails(ctx, to); err != nil {
		return err
	}
	if hasFreshRoom(session) && to.Way != session.Way {
		if err := a.closeRoom(ctx, q, session); err != nil {
			return err
		}
	}
	return a.recordForAll(ctx, q, session.ID, s)
}

// wayAfter is where a session is once its details are changed. One that goes on as its type says stays where it was when it was set.
func (a *App) wayAfter(ctx context.Context, q *sqlc.Queries, session sqlc.Booking, d SessionDetails) (string, error) {
	if d.Way == nil && session.OwnWay == 0 {
		return session.Way, nil
	}
	o, err := a.BookedType(ctx, q, session)
	if err != nil {
		return "", err
	}
	way, err := json.Marshal(d.wayOf(o))
	return string(way), err
}

// closeRoom lets a session's fresh room go, since it is somewhere else now; if that is a fresh room again, it gets one.
func (a *App) closeRoom(ctx context.Context, q *sqlc.Queries, session sqlc.Booking) error {
	if err := q.SetRoom(ctx, sqlc.SetRoomParams{MeetingID: session.MeetingID}); err != nil {
		return err
	}
	after, err := q.Booking(ctx, session.ID)
	if err != nil || hasFreshRoom(after) {
		return err
	}
	return a.plan(ctx, q, after, step{kind: string(life.Change)}, []string{jobRoom})
}

// aboutFacts is what clients and hosts read about this date.
func (f facts) aboutFacts() []letter.Fact {
	if f.booking.About == "" || f.booking.State != "booked" {
		return nil
	}
	return []letter.Fact{f.fact("about", f.booking.About)}
}
