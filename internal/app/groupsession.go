package app

import (
	"context"
	"strings"
	"time"

	"github.com/google/uuid"

	"corrim/core/life"
	"corrim/core/opentimes"
	"corrim/core/sessions"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/secrets"
	"corrim/internal/store/sqlc"
)

// Sessions are meetings that hosts set on dates, for clients to come to. They stand whether anybody has booked them or not.

// SessionWish is which sessions somebody wants to set.
type SessionWish struct {
	Type int64  `json:"type" doc:"One of the host's meeting types that has sessions."`
	Text string `json:"text" maxLength:"1000" doc:"When they are, in a sentence: Tuesdays 17:30 from 6 Jan, 8 times, not 10 Feb."`
	Host int64  `json:"host,omitempty" doc:"Who is to host them; whoever the type's rule gives each to if left out."`
}

// NewSessions are sessions to be set.
type NewSessions struct {
	SessionWish
	Outside bool `json:"outside,omitempty" doc:"The host was warned of what stands in the way, and wants them anyway."`
}

// CheckGroupSessions lists the sessions that would be set, each with what stands in the way, before any is.
func (a *App) CheckGroupSessions(ctx context.Context, p Person, wish SessionWish) ([]HandTime, error) {
	w, err := a.sessionWish(ctx, p, wish)
	if err != nil {
		return nil, err
	}
	return a.checkAll(ctx, p, w)
}

// SetGroupSessions sets sessions, all in one transaction. They take their hosts' time at once. Those that something stands in the way of are
// refused, unless they are wanted anyway.
func (a *App) SetGroupSessions(ctx context.Context, p Person, wish NewSessions) (Made, error) {
	w, err := a.sessionWish(ctx, p, wish.SessionWish)
	if err != nil {
		return Made{}, err
	}
	// Where a client's name would stand, stands what the session is.
	request := BookingRequest{Name: w.Name, Zone: p.Zone, Language: p.home.Front.Language, Minutes: w.Rules.Duration}
	return a.enterByHand(ctx, p, w, request, wish.Outside)
}

// sessionWish checks which sessions somebody wants. The field of a refusal is mostly "text".
func (a *App) sessionWish(ctx context.Context, p Person, wish SessionWish) (handWish, error) {
	plan, err := sessions.Read(wish.Text, a.todayOf(p))
	if err != nil {
		return handWish{}, refusal.Faulty("text", told.OfError(err))
	}
	w, err := a.handWishOf(ctx, p, HandTimes{Type: wish.Type, Host: wish.Host})
	if err != nil {
		return w, err
	}
	if !w.Rules.Sessions {
		return w, refusal.Faulty("type", told.Say("type-without-sessions", "Clients of “{}” don't come on set dates. Change that in its rules first.", w.Name))
	}
	if minutes := plan.Minutes(); minutes != 0 && minutes != w.Rules.Duration {
		kind, err := a.MeetingType(ctx, p, wish.Type)
		if err != nil {
			return w, err
		}
		if _, err := kind.Rules.length(minutes); err != nil {
			return w, refusal.Faulty("text", told.Say("sessions-length", "That is {}, and “{}” doesn't last that long. Give it this length in its rules first, or leave out the end.", told.Count(minutes, "minute"), w.Name))
		}
		w.Rules = w.Rules.only(minutes)
	}
	clocks, err := plan.Starts(p.zone)
	if err != nil {
		return w, refusal.Faulty("text", told.OfError(err))
	}
	w.seats = w.Rules.Seats
	w.Rules = w.Rules.forSessions()
	if err := w.startAt(clocks, a.Now()); err != nil {
		return w, refusal.Faulty("text", told.Say("sessions-gone-by", "The first of these has already gone by. Begin with a later date."))
	}
	return w, nil
}

// forSessions is what of the rules stands in the way of sessions themselves: how early they are booked, and on which grid, is a matter of
// clients' bookings; and what is there already is in the way, even if it is of the same type.
func (r TypeRules) forSessions() TypeRules {
	r.Sessions, r.Seats = false, 0
	r.NoticeSettings, r.WindowSettings, r.StepSettings = opentimes.NoticeSettings{}, opentimes.WindowSettings{}, opentimes.StepSettings{Step: 1}
	return r
}

// GroupSession is one of a type that is not over yet.
type GroupSession struct {
	ID    int64     `json:"id" doc:"The booking that stands for it."`
	Start time.Time `json:"start"`
	End   time.Time `json:"end"`
	Hosts []string  `json:"hosts"`
	May   bool      `json:"may" doc:"The viewer may see who comes, move it, and call it off."`
	Filling
	Waiting int64 `json:"waiting,omitempty" doc:"How many wait for a seat."`
}

// mostSessions is how many of the next ones are listed.
const mostSessions = 200

// GroupSessions lists a type's sessions that are not over yet, in order.
func (a *App) GroupSessions(ctx context.Context, p Person, kind int64) ([]GroupSession, error) {
	if _, err := a.MeetingType(ctx, p, kind); err != nil {
		return nil, err
	}
	rows, err := a.Store.SessionsOfType(ctx, sqlc.SessionsOfTypeParams{TypeID: kind, Since: a.Now().Add(-longest * time.Minute).Unix(), Most: mostSessions})
	if err != nil {
		return nil, err
	}
	names, err := a.names(ctx, p.home.id)
	if err != nil || len(rows) == 0 {
		return []GroupSession{}, err
	}
	waiting, err := a.waitingBetween(ctx, kind, rows[0].StartAt, rows[len(rows)-1].StartAt+1)
	if err != nil {
		return nil, err
	}
	out := []GroupSession{}
	for _, b := range rows {
		if b.EndAt <= a.Now().Unix() {
			continue
		}
		s := GroupSession{ID: b.ID, Start: time.Unix(b.StartAt, 0).UTC(), End: time.Unix(b.EndAt, 0).UTC(), Hosts: []string{}, May: p.May(identity.HandleBookings), Filling: *fillingOf(b), Waiting: waiting[b.MeetingID]}
		parts, err := a.Store.HostsOfMeeting(ctx, b.MeetingID)
		if err != nil {
			return nil, err
		}
		for _, part := range parts {
			if part.State != hostLeft {
				s.Hosts, s.May = append(s.Hosts, names[part.PersonID]), s.May || part.PersonID == p.ID
			}
		}
		out = append(out, s)
	}
	return out, nil
}

// NewSeat is somebody whom a host gives a seat in a meeting.
type NewSeat struct {
	Name    string `json:"name" maxLength:"1000"`
	Mail    string `json:"mail" maxLength:"1000"`
	Remark  string `json:"remark,omitempty" maxLength:"20000"`
	Outside bool   `json:"outside,omitempty" doc:"The host was warned that it is full, or that they come already, and wants it anyway."`
}

// SeatByHand gives somebody a seat in a coming meeting that clients share; they are told. If the host wants it anyway, also beyond its
// number.
func (a *App) SeatByHand(ctx context.Context, p Person, id int64, n NewSeat) (BookingSheet, error) {
	request := BookingRequest{Name: n.Name, Mail: n.Mail, Remark: n.Remark, Zone: p.Zone}.normal(p.home)
	if err := request.check().Err(); err != nil {
		return BookingSheet{}, err
	}
	var err error
	if request.Language, err = a.languageOf(ctx, p, request.Mail); err != nil {
		return BookingSheet{}, err
	}
	err = a.writeFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		b, err := a.ownBooking(ctx, q, p, id)
		if err != nil {
			return err
		}
		return a.writeSeat(ctx, q, p, b.Booking, request, n.Outside)
	})
	if err != nil {
		return BookingSheet{}, err
	}
	a.Wake()
	return a.BookingSheet(ctx, p, id)
}

func (a *App) writeSeat(ctx context.Context, q *sqlc.Queries, p Person, b sqlc.Booking, request BookingRequest, outside bool) error {
	if !shared(b) {
		return refusal.New(refusal.Over, told.Say("not-shared", "Nobody else can join this meeting."))
	}
	warnings, err := againstSeat(ctx, q, b, request.Mail)
	if err != nil {
		return err
	}
	if len(warnings) > 0 && !outside {
		return refusal.New(refusal.OutsideRules, told.Join(warnings, " "))
	}
	if b.Taken >= b.Capacity {
		if err := q.AddCapacity(ctx, b.MeetingID); err != nil {
			return err
		}
	}
	o, err := a.offeredBy(ctx, q, b)
	if err != nil {
		return err
	}
	request.Start = time.Unix(b.StartAt, 0)
	by := insertion{step: byHost(string(life.Book), p, ""), form: o.byHand(), into: b.MeetingID}
	_, err = a.insertBooking(ctx, q, o, secrets.Hashed("by hand "+uuid.NewString()), request, by)
	return err
}

// againstSeat is what speaks against a seat for somebody in a meeting.
func againstSeat(ctx context.Context, q *sqlc.Queries, b sqlc.Booking, mail string) (warnings []told.Words, err error) {
	if b.Taken >= b.Capacity {
		warnings = append(warnings, told.Say("seats-fails", "It is full: {} of {} seats are taken.", b.Taken, b.Capacity))
	}
	seats, err := q.SeatsKept(ctx, b.MeetingID)
	for _, seat := range seats {
		if strings.EqualFold(seat.ClientMail, mail) {
			return append(warnings, told.Say("comes-already", "{} has a seat in it already, with this mail address.", seat.ClientName)), err
		}
	}
	return warnings, err
}

// full is at which starts within a range clients would come if a seat were left.
func (l lineup) full(within span.Span) []opentimes.Start {
	if l.o.Rules.Seats <= 1 {
		return nil
	}
	in, pool := l.input()
	return l.fullOf(in, pool, within)
}

func (l lineup) fullOf(in opentimes.Input, pool opentimes.Pool, within span.Span) []opentimes.Start {
	return opentimes.Full(in, pool, within, l.o.Rules.Duration)
}
