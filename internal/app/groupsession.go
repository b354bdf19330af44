package app

import (
	"context"
	"errors"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"corrim/core/civil"
	"corrim/core/life"
	"corrim/core/opentimes"
	"corrim/core/sessions"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/public"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/secrets"
	"corrim/internal/store/sqlc"
)

// Sessions are meetings that hosts set on dates, for clients to come to. They stand whether anybody has booked them or not.

// SessionWish is which sessions somebody wants to set.
type SessionWish struct {
	Type int64  `json:"type" doc:"One of the host's meeting types that has sessions."`
	Text string `json:"text" maxLength:"1000" doc:"When they are, in a sentence: Tuesdays 17:30 from 6 Jan, 8 times, not 10 Feb."`
	Host int64  `json:"host,omitempty" doc:"Who is to host them; whoever the type's rule gives each to if left out."`

	Seats  int   `json:"seats,omitempty" doc:"How many seats each has; as many as the type has if left out."`
	Series int64 `json:"series,omitempty" doc:"To which series of the type they are added; a new one if left out."`
	SessionDetails
}

// NewSessions are sessions to be set.
type NewSessions struct {
	SessionWish
	Outside bool `json:"outside,omitempty" doc:"The host was warned of what stands in the way, and wants them anyway."`
}

// CheckGroupSessions lists the sessions that would be set, each with what stands in the way, before any is.
func (a *App) CheckGroupSessions(ctx context.Context, p schedule.Person, wish SessionWish) ([]HandTime, error) {
	w, err := a.sessionWish(ctx, p, wish)
	if err != nil {
		return nil, err
	}
	return a.checkAll(ctx, p, w)
}

// SetGroupSessions sets sessions, all in one transaction. They take their hosts' time at once. Those that something stands in the way of are
// refused, unless they are wanted anyway.
func (a *App) SetGroupSessions(ctx context.Context, p schedule.Person, wish NewSessions) (Made, error) {
	w, err := a.sessionWish(ctx, p, wish.SessionWish)
	if err != nil {
		return Made{}, err
	}
	// Where a client's name would stand, stands what the session is.
	request := schedule.BookingRequest{Name: w.Name, Zone: p.Zone, Language: p.Home.Front.Language, Minutes: w.Rules.Duration}
	return a.enterByHand(ctx, p, w, request, wish.Outside)
}

// sessionWish checks which sessions somebody wants. The field of a refusal is mostly "text".
func (a *App) sessionWish(ctx context.Context, p schedule.Person, wish SessionWish) (handWish, error) {
	plan, err := sessions.Read(wish.Text, a.TodayOf(p))
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
	minutes, err := plan.Minutes()
	if err != nil {
		return w, refusal.Faulty("text", told.OfError(err))
	}
	if minutes != 0 && minutes != w.Rules.Duration {
		kind, err := a.MeetingType(ctx, p, wish.Type)
		if err != nil {
			return w, err
		}
		if _, err := kind.Rules.Length(minutes); err != nil {
			return w, refusal.Faulty("text", told.Say("sessions-length", "That is {}, and “{}” doesn't last that long. Give it this length in its rules first, or leave out the end.", told.Count(minutes, "minute"), w.Name))
		}
		w.Rules = w.Rules.Only(minutes)
	}
	if w.series = wish.Series; w.series != 0 {
		if there, err := a.Store.StartsOfSeries(ctx, sqlc.StartsOfSeriesParams{TypeID: wish.Type, SeriesID: wish.Series}); err != nil || len(there) == 0 {
			return w, errors.Join(err, refusal.New(refusal.NotFound, told.Say("no-such-series", "This series isn't there any more. Reload the page.")))
		}
	}
	if w.special, err = wish.SessionDetails.normal(); err != nil {
		return w, err
	}
	clocks, err := plan.Starts(p.Local)
	if err != nil {
		return w, refusal.Faulty("text", told.OfError(err))
	}
	if w.seats = w.Rules.Seats; wish.Seats != 0 {
		if fault := faultOfSeats(wish.Seats, 0); fault.Any() {
			return w, refusal.Faulty("seats", fault)
		}
		w.seats, w.ownSeats = wish.Seats, true
	}
	w.Rules = w.Rules.ForSessions()
	if err := w.startAt(clocks, a.Now()); err != nil {
		return w, refusal.Faulty("text", told.Say("sessions-gone-by", "The first of these has already gone by. Begin with a later date."))
	}
	return w, nil
}

// DrawnSessions are sessions of a type that somebody has drawn.
type DrawnSessions struct {
	Type  int64               `json:"type"`
	Times []public.HandPicked `json:"times" minItems:"1" maxItems:"60"`
}

// SessionSentence says when drawn sessions are, as somebody could have written it.
func (a *App) SessionSentence(ctx context.Context, p schedule.Person, drawn DrawnSessions) (told.Words, error) {
	kind, err := a.MeetingType(ctx, p, drawn.Type)
	if err != nil {
		return told.Words{}, err
	}
	starts := make([]civil.Clock, len(drawn.Times))
	for i, t := range drawn.Times {
		date, err := civil.ParseDate(t.Date)
		if err != nil {
			return told.Words{}, refusal.Faulty("times", told.OfError(err))
		}
		starts[i] = civil.Clock{Date: date, Seconds: t.Minute * 60}
	}
	slices.SortFunc(starts, civil.Clock.Compare)
	return sessions.Sentence(slices.Compact(starts), kind.Rules.Duration), nil
}

// GroupSession is one of a type that is not over yet.
type GroupSession struct {
	ID     int64 `json:"id" doc:"The booking that stands for it."`
	Series int64 `json:"series" doc:"Those that were set together have the same."`

	Start time.Time `json:"start"`
	End   time.Time `json:"end"`
	Hosts []string  `json:"hosts"`
	May   bool      `json:"may" doc:"The viewer may see who comes, move it, and call it off."`
	schedule.Filling
	Waiting int64 `json:"waiting,omitempty" doc:"How many wait for a seat."`
}

// mostSessions is how many of the next ones are listed.
const mostSessions = 200

// GroupSessions lists a type's sessions that are not over yet, in order.
func (a *App) GroupSessions(ctx context.Context, p schedule.Person, kind int64) ([]GroupSession, error) {
	if _, err := a.MeetingType(ctx, p, kind); err != nil {
		return nil, err
	}
	rows, err := a.Store.SessionsOfType(ctx, sqlc.SessionsOfTypeParams{TypeID: kind, Since: a.Now().Add(-schedule.Longest * time.Minute).Unix(), Most: mostSessions})
	if err != nil {
		return nil, err
	}
	names, err := a.Names(ctx, p.Home.ID)
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
		s := GroupSession{ID: b.ID, Series: b.SeriesID, Start: time.Unix(b.StartAt, 0).UTC(), End: time.Unix(b.EndAt, 0).UTC(), Hosts: []string{}, May: p.May(identity.HandleBookings), Filling: *schedule.FillingOf(b), Waiting: waiting[b.MeetingID]}
		parts, err := a.Store.HostsOfMeeting(ctx, b.MeetingID)
		if err != nil {
			return nil, err
		}
		for _, part := range parts {
			if part.State != schedule.HostLeft {
				s.Hosts, s.May = append(s.Hosts, names[part.PersonID]), s.May || part.PersonID == p.ID
			}
		}
		out = append(out, s)
	}
	return out, nil
}

// SetSeats gives a meeting that clients share so many seats of its own, whatever its type has. Those that get free are offered to who waits.
func (a *App) SetSeats(ctx context.Context, p schedule.Person, id int64, seats int) (BookingSheet, error) {
	err := a.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		b, err := a.ownBooking(ctx, q, p, id)
		if err != nil {
			return err
		}
		if !schedule.Shared(b.Booking) {
			return errNotShared
		}
		if fault := faultOfSeats(seats, int(b.Taken)); fault.Any() {
			return refusal.Faulty("seats", fault)
		}
		if err := q.SetOwnCapacity(ctx, sqlc.SetOwnCapacityParams{MeetingID: b.MeetingID, Seats: int64(seats)}); err != nil {
			return err
		}
		if err := q.RaiseVersion(ctx, b.MeetingID); err != nil {
			return err
		}
		if err := a.offerSeats(ctx, q, b.MeetingID); err != nil {
			return err
		}
		return a.planEntryAnew(ctx, q, b.Booking)
	})
	if err != nil {
		return BookingSheet{}, err
	}
	a.Wake()
	return a.BookingSheet(ctx, p, id)
}

// faultOfSeats is what is wrong with so many seats for a meeting, of which some are taken.
func faultOfSeats(seats, taken int) told.Words {
	switch {
	case seats < 2 || seats > opentimes.MostSeats:
		return told.Say("seats-2-1000", "What several share has 2 to 1000 seats.")
	case seats < taken:
		return told.Say("seats-below", "{} have a seat already, so there can't be fewer. Take somebody out first.", taken)
	}
	return told.Words{}
}

var errNotShared = refusal.New(refusal.Over, told.Say("not-shared", "Nobody else can join this meeting."))

// NewSeat is somebody whom a host gives a seat in a meeting.
type NewSeat struct {
	Name    string `json:"name" maxLength:"1000"`
	Mail    string `json:"mail" maxLength:"1000"`
	Remark  string `json:"remark,omitempty" maxLength:"20000"`
	Outside bool   `json:"outside,omitempty" doc:"The host was warned that it is full, or that they come already, and wants it anyway."`
	Rest    bool   `json:"rest,omitempty" doc:"And one in each session of its series that comes after it."`
}

// SeatByHand gives somebody a seat in a coming meeting that clients share; they are told. If the host wants it anyway, also beyond its
// number.
func (a *App) SeatByHand(ctx context.Context, p schedule.Person, id int64, n NewSeat) (BookingSheet, error) {
	request := schedule.BookingRequest{Name: n.Name, Mail: n.Mail, Remark: n.Remark, Zone: p.Zone}.Normal(p.Home)
	if err := request.Check().Err(); err != nil {
		return BookingSheet{}, err
	}
	var err error
	if request.Language, err = a.languageOf(ctx, p, request.Mail); err != nil {
		return BookingSheet{}, err
	}
	err = a.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		b, err := a.ownBooking(ctx, q, p, id)
		if err != nil {
			return err
		}
		return a.writeSeats(ctx, q, p, b.Booking, request, n)
	})
	if err != nil {
		return BookingSheet{}, err
	}
	a.Wake()
	return a.BookingSheet(ctx, p, id)
}

// writeSeats gives somebody a seat in a meeting, and in those of its series that come after it.
func (a *App) writeSeats(ctx context.Context, q *sqlc.Queries, p schedule.Person, b sqlc.Booking, request schedule.BookingRequest, n NewSeat) error {
	if !schedule.Shared(b) {
		return errNotShared
	}
	into := []sqlc.Booking{b}
	if n.Rest {
		rest, err := q.RestOfSeries(ctx, sqlc.RestOfSeriesParams{TypeID: b.TypeID, SeriesID: b.SeriesID, Since: b.StartAt})
		if err != nil {
			return err
		}
		into = append(into, rest...)
	}
	var warnings []told.Words
	for _, meeting := range into {
		against, err := againstSeat(ctx, q, meeting, request.Mail)
		if err != nil {
			return err
		}
		if len(against) > 0 && len(into) > 1 {
			against = []told.Words{told.Say("time-warning", "{}: {}", told.At(span.Instant(meeting.StartAt), p.Local), told.Join(against, " "))}
		}
		warnings = append(warnings, against...)
	}
	if len(warnings) > 0 && !n.Outside {
		return refusal.New(refusal.OutsideRules, told.Join(warnings, " "))
	}
	return a.seatIn(ctx, q, p, into, request)
}

// seatIn gives somebody a seat in each of some meetings, also beyond their number.
func (a *App) seatIn(ctx context.Context, q *sqlc.Queries, p schedule.Person, into []sqlc.Booking, request schedule.BookingRequest) error {
	key := secrets.Hashed("by hand " + uuid.NewString())
	o, err := a.BookedType(ctx, q, into[0])
	if err != nil {
		return err
	}
	by := insertion{step: byHost(string(life.Book), p, ""), form: o.ByHand(), into: into[0].MeetingID}
	if len(into) > 1 {
		by.step.series = seriesTo(uuid.NewString(), request.Mail)
	}
	var first sqlc.Booking
	for i, meeting := range into {
		if meeting.Taken >= meeting.Capacity {
			if err := q.AddCapacity(ctx, meeting.MeetingID); err != nil {
				return err
			}
		}
		if i > 0 {
			err = a.takeAlong(ctx, q, o, key, request, by, first, meeting)
		} else {
			request.Start = time.Unix(meeting.StartAt, 0)
			first, err = a.insertBooking(ctx, q, o, key, request, by)
		}
		if err != nil {
			return err
		}
	}
	if len(into) == 1 {
		return nil
	}
	return q.SetParty(ctx, sqlc.SetPartyParams{ID: first.ID, PartyID: first.ID})
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

// GroupSeries is sessions of a type that were set together.
type GroupSeries struct {
	ID       int64      `json:"id"`
	First    time.Time  `json:"first"`
	Last     time.Time  `json:"last"`
	Sessions int        `json:"sessions"`
	Again    told.Words `json:"again" doc:"A sentence that sets the same once more, after it."`
}

// mostSeries is how many of the latest series are listed.
const mostSeries = 12

// GroupSeries lists a type's latest series, those gone by too.
func (a *App) GroupSeries(ctx context.Context, p schedule.Person, kind int64) ([]GroupSeries, error) {
	if _, err := a.MeetingType(ctx, p, kind); err != nil {
		return nil, err
	}
	rows, err := a.Store.LatestSeries(ctx, sqlc.LatestSeriesParams{TypeID: kind, Most: mostSeries})
	if err != nil {
		return nil, err
	}
	out := make([]GroupSeries, len(rows))
	for i, row := range rows {
		times, err := a.Store.StartsOfSeries(ctx, sqlc.StartsOfSeriesParams{TypeID: kind, SeriesID: row.SeriesID})
		if err != nil {
			return nil, err
		}
		starts := make([]civil.Clock, len(times))
		for k, at := range times {
			starts[k] = civil.ClockOf(span.Instant(at.StartAt), p.Local)
		}
		last := starts[len(starts)-1].Date
		if today := a.TodayOf(p); last.Before(today) {
			last = today
		}
		minutes := int(times[0].EndAt-times[0].StartAt) / 60
		out[i] = GroupSeries{row.SeriesID, time.Unix(row.FirstAt, 0).UTC(), time.Unix(row.LastAt, 0).UTC(), int(row.Sessions), sessions.Again(starts, minutes, sessions.After(starts, last))}
	}
	return out, nil
}
