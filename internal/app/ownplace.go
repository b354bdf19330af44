package app

import (
	"context"
	"encoding/json"
	"slices"
	"strings"
	"time"

	"corrim/core/intake"
	"corrim/core/life"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/message"
	"corrim/internal/refusal"
	"corrim/internal/store/sqlc"
)

// A session can have words and a location of its own, where one of several dates differs from what its type says.

// SessionDetails is what is special about a session.
type SessionDetails struct {
	About string `json:"about,omitempty" maxLength:"10000" doc:"What clients read about this date."`
	Way   *Way   `json:"way,omitempty" doc:"Where they meet; as the type says if left out."`
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
	fault := way.fault()
	if !fault.Any() {
		fault = onePlace(2, []Way{way})
	}
	if fault.Any() {
		return d, refusal.Faulty("way", fault)
	}
	return d, nil
}

// wayOf is where a session of a type is.
func (d SessionDetails) wayOf(o offered) WayTaken {
	if d.Way == nil {
		return WayTaken{Way: o.Offer.Ways[0]}
	}
	return WayTaken{Way: *d.Way}
}

// detailsOf is what is special about a booking's meeting.
func detailsOf(b sqlc.Booking) SessionDetails {
	d := SessionDetails{About: b.About}
	if b.OwnWay != 0 {
		way := formOf(b).way.Way
		d.Way = &way
	}
	return d
}

// SetDetails says what is special about a coming session. Whoever has a seat in it is told, and what stands in calendars is replaced.
func (a *App) SetDetails(ctx context.Context, p Person, id int64, d SessionDetails) (BookingSheet, error) {
	d, err := d.normal()
	if err != nil {
		return BookingSheet{}, err
	}
	err = a.writeFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
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

func (a *App) changeDetails(ctx context.Context, q *sqlc.Queries, p Person, session sqlc.Booking, d SessionDetails) error {
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
	o, err := a.offeredBy(ctx, q, session)
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
func (f facts) aboutFacts() []message.Fact {
	if f.booking.About == "" || f.booking.State != "booked" {
		return nil
	}
	return []message.Fact{f.fact("about", f.booking.About)}
}

// SpecialDate is what clients read about one date before they book it.
type SpecialDate struct {
	About string `json:"about,omitempty"`
	Way   *Way   `json:"way,omitempty" doc:"Where it is, if not where the others are."`
}

// specialDates are those of a type's sessions of which something special is said, by start: of the dates that clients are shown, and no
// others.
func (a *App) specialDates(ctx context.Context, o offered, shown OpenTimes, from, to time.Time) (map[string]SpecialDate, error) {
	if !o.Rules.Sessions {
		return nil, nil
	}
	rows, err := a.Store.SpecialSessions(ctx, sqlc.SpecialSessionsParams{TypeID: o.ID, RangeFrom: from.Unix(), RangeTo: to.Unix()})
	out := map[string]SpecialDate{}
	for _, row := range rows {
		if !shown.names(time.Unix(row.StartAt, 0)) {
			continue
		}
		special := SpecialDate{About: row.About}
		if row.OwnWay != 0 {
			taken := WayTaken{}
			if err := json.Unmarshal([]byte(row.Way), &taken); err != nil {
				return nil, err
			}
			special.Way = &Offer{Ways: []Way{taken.Way}}.publicWays()[0]
		}
		out[time.Unix(row.StartAt, 0).UTC().Format(time.RFC3339)] = special
	}
	return out, err
}

// names tells whether a start is among those that are shown: open, full, or of a series that is one of these.
func (t OpenTimes) names(start time.Time) bool {
	if slices.ContainsFunc(t.Starts, start.Equal) || slices.ContainsFunc(startsOfFull(t.Full), start.Equal) {
		return true
	}
	for _, dates := range t.Series {
		if slices.ContainsFunc(dates, start.Equal) {
			return true
		}
	}
	return false
}
