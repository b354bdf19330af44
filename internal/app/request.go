package app

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"slices"
	"strings"
	"time"

	"corrim/core/intake"
	"corrim/core/life"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/job"
	"corrim/internal/public"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// Bookings that are not booked at once: a code has to be entered first, or a host decides.

const (
	mostTries = 5
	mostCodes = 3 // sent for one booking
	// mostCodesTo is how many bookings in a day have their codes sent to one number, so that nobody is pestered, nor made to pay.
	mostCodesTo = 5
)

// lapsing is when it lapses, in UTC seconds; a requested time not after the meeting has begun. 0 is never.
func (a *App) lapsing(o schedule.Bookable, event life.Event, start int64) int64 {
	kept := o.KeptFor(event)
	if kept == 0 {
		return 0
	}
	return min(a.Now().Add(kept).Unix(), start)
}

// codeOf is the code that proves a booking's mail address, or its phone number if that is where it goes. It is made from the booking,
// the address and the installation's key, so that it is kept nowhere, and one that went to a wrong address proves nothing about the
// corrected one.
func (a *App) codeOf(b sqlc.Booking, phone string) string {
	return a.secrets.Code(b.Uid + "\n" + cmp.Or(phone, strings.ToLower(b.ClientMail)))
}

// codePhone is the number that a booking's code goes to; empty if it comes by mail.
func codePhone(ctx context.Context, q *sqlc.Queries, booking int64) (string, error) {
	phone, err := q.CodePhone(ctx, booking)
	if errors.Is(err, store.ErrNotFound) {
		return "", nil
	}
	return phone, err
}

// CodeTo is where a code is to go, if what the client first wrote was wrong: the one of the two that is not empty.
type CodeTo struct{ Mail, Phone string }

// SendCode sends the code once more, to another address or number if the client corrects it.
func (a *App) SendCode(ctx context.Context, link string, to CodeTo) (ClientBooking, error) {
	err := a.Store.Write(ctx, func(q *sqlc.Queries) error {
		b, err := a.ByLink(ctx, q, link)
		if err != nil || b.Life != string(life.Unproved) {
			return err // proved already, or over: the page shows which
		}
		sent, err := q.CodesSent(ctx, b.ID)
		if err != nil {
			return err
		}
		if sent >= mostCodes {
			return refusal.New(refusal.TooMany, told.CodesSent.Words())
		}
		if err := a.correctCodeTo(ctx, q, b, to); err != nil {
			return err
		}
		return a.recordAnew(ctx, q, b.ID, byClient(string(life.Hold), ""))
	})
	if err != nil {
		return ClientBooking{}, err
	}
	return a.afterwards(ctx, link)
}

// correctCodeTo changes where an unproved booking's code goes. The new address has the limits of any other.
func (a *App) correctCodeTo(ctx context.Context, q *sqlc.Queries, b sqlc.Booking, to CodeTo) error {
	phone, err := codePhone(ctx, q, b.ID)
	if err != nil {
		return err
	}
	o, err := a.BookedType(ctx, q, b)
	if err != nil {
		return err
	}
	if phone != "" {
		return a.correctPhone(ctx, q, o, b, phone, to.Phone)
	}
	return a.correctMail(ctx, q, o, b, to.Mail)
}

func (a *App) correctMail(ctx context.Context, q *sqlc.Queries, o schedule.Bookable, b sqlc.Booking, mail string) error {
	if mail == "" || strings.EqualFold(mail, b.ClientMail) {
		return nil
	}
	mail, fault := intake.MailAddress(mail)
	if fault.Any() {
		return refusal.Faulty("mail", fault)
	}
	if err := a.withinLimits(ctx, q, o, schedule.BookingRequest{Mail: mail}, nil); err != nil {
		return err
	}
	all, err := together(ctx, q, b)
	if err != nil {
		return err
	}
	for _, one := range all {
		if err := q.CorrectMail(ctx, sqlc.CorrectMailParams{ID: one.ID, ClientMail: mail}); err != nil {
			return err
		}
	}
	return raise(ctx, q, b, false)
}

func (a *App) correctPhone(ctx context.Context, q *sqlc.Queries, o schedule.Bookable, b sqlc.Booking, was, phone string) error {
	if phone == "" {
		return nil
	}
	number, fault := intake.MobileNumber(intake.OneLine(phone), o.Host.Home.Front.Country, a.TextsTo)
	if fault.Any() {
		return refusal.Faulty("phone", fault)
	}
	if number == was {
		return nil
	}
	if err := a.keepCodePhone(ctx, q, o, b.ID, number); err != nil {
		return err
	}
	return raise(ctx, q, b, false)
}

// keepCodePhone keeps where a booking's code goes, if text messages may go there.
func (a *App) keepCodePhone(ctx context.Context, q *sqlc.Queries, o schedule.Bookable, booking int64, phone string) error {
	if phone == "" {
		return nil
	}
	now, home := a.Now(), o.Host.Home
	stopped, err := q.TextsStopped(ctx, sqlc.TextsStoppedParams{WorkspaceID: home.ID, Phone: phone})
	if err != nil {
		return err
	}
	if stopped > 0 {
		return refusal.Faulty("phone", told.TextsStopped.Words())
	}
	sent, err := q.CodesToPhoneSince(ctx, sqlc.CodesToPhoneSinceParams{Phone: phone, Since: now.AddDate(0, 0, -1).Unix()})
	if err != nil {
		return err
	}
	if sent >= mostCodesTo {
		return refusal.New(refusal.TooMany, told.PhoneBusy.With(home.Name))
	}
	return q.SetCodePhone(ctx, sqlc.SetCodePhoneParams{BookingID: booking, WorkspaceID: home.ID, Phone: phone, At: now.Unix()})
}

// showCode says where a booking's code went, as long as it is waited for.
func (a *App) showCode(ctx context.Context, b sqlc.Booking, out *ClientBooking) (err error) {
	if b.Life != string(life.Unproved) {
		return nil
	}
	if out.CodeTo, err = codePhone(ctx, a.Store.Queries, b.ID); err != nil || out.CodeTo == "" {
		return err
	}
	state, err := a.Store.LastTextState(ctx, sqlc.LastTextStateParams{BookingID: b.ID, Phone: out.CodeTo})
	if errors.Is(err, store.ErrNotFound) {
		return nil // on its way
	}
	out.CodeLost = state == "failed"
	return err
}

// Prove takes the code that was sent to a client. Wrong five times, the time is given back.
func (a *App) Prove(ctx context.Context, link, code string) (ClientBooking, error) {
	var wrong error
	err := a.Store.Write(ctx, func(q *sqlc.Queries) error {
		b, err := a.ByLink(ctx, q, link)
		if err != nil || b.Life != string(life.Unproved) {
			return err // proved already, or over: the page shows which
		}
		phone, err := codePhone(ctx, q, b.ID)
		if err != nil {
			return err
		}
		if onlyFigures(code) != a.codeOf(b, phone) {
			wrong, err = a.wrongCode(ctx, q, b)
			return err
		}
		o, err := a.BookedType(ctx, q, b)
		if err != nil {
			return err
		}
		event := life.Book
		if o.BookingPage.OnRequest {
			event = life.Request
		}
		if err := a.advanceTogether(ctx, q, b, byClient(string(event), ""), a.lapsing(o, event, b.StartAt)); err != nil {
			return err
		}
		return a.leaveOtherLists(ctx, q, b)
	})
	if err = errors.Join(err, wrong); err != nil {
		return ClientBooking{}, err
	}
	return a.afterwards(ctx, link)
}

// afterwards is a booking as its client sees it after a step, with its room if that is made soon.
func (a *App) afterwards(ctx context.Context, link string) (ClientBooking, error) {
	a.Wake()
	b, err := a.ByLink(ctx, a.Store.Queries, link)
	if err != nil {
		return ClientBooking{}, err
	}
	return a.clientBooking(ctx, a.withRoom(ctx, b))
}

func onlyFigures(s string) string {
	var figures []rune
	for _, r := range s {
		if r >= '0' && r <= '9' {
			figures = append(figures, r)
		}
	}
	return string(figures)
}

// wrongCode counts a wrong code; the answer for the client is not an error of the transaction, which has to keep the count.
func (a *App) wrongCode(ctx context.Context, q *sqlc.Queries, b sqlc.Booking) (answer, err error) {
	left := mostTries - 1 - int(b.CodeTries)
	if left <= 0 {
		err := a.advanceTogether(ctx, q, b, byClient(string(life.Expire), ""), 0)
		return refusal.New(refusal.Over, told.CodeSpent.Words()), err
	}
	return refusal.Faulty("code", told.WrongCode.With(left)), q.CodeTried(ctx, b.ID)
}

// advance takes a booking one step further in its life, as core/life allows, and records it. lapsesAt is for the new state.
func (a *App) advance(ctx context.Context, q *sqlc.Queries, b sqlc.Booking, s step, lapsesAt int64) error {
	next, err := a.nextOf(b, s)
	if err != nil {
		return err
	}
	if next == life.Booked {
		if err := q.KeepTime(ctx, b.MeetingID); err != nil {
			return err
		}
	}
	if err := enter(ctx, q, b, next, life.Event(s.kind), lapsesAt); err != nil {
		return err
	}
	if err := a.planLapse(ctx, q, b.ID, lapsesAt); err != nil {
		return err
	}
	s.silent = s.silent || life.State(b.Life) == life.Unproved && !next.Keeps()
	if err := a.recordAnew(ctx, q, b.ID, s); err != nil || next.Keeps() || s.ending {
		return err
	}
	return a.giveBack(ctx, q, b)
}

// enter puts a booking into another state. Whether a client came is told to no calendar and makes nothing pointless that waits.
func enter(ctx context.Context, q *sqlc.Queries, b sqlc.Booking, next life.State, event life.Event, lapsesAt int64) error {
	if err := q.SetLife(ctx, sqlc.SetLifeParams{ID: b.ID, Life: string(next), Keeps: number(next.Keeps()), LapsesAt: lapsesAt}); err != nil {
		return err
	}
	switch event {
	case life.Attend, life.Miss, life.Unmark:
		return q.RaiseVersion(ctx, b.MeetingID)
	}
	return raise(ctx, q, b, true)
}

// nextOf is the state that a step leads to, or a sentence why it can't be taken.
func (a *App) nextOf(b sqlc.Booking, s step) (life.State, error) {
	next, err := life.Next(life.State(b.Life), life.Event(s.kind), life.Actor(s.by), b.StartAt <= a.Now().Unix())
	var refused *life.Refused
	if errors.As(err, &refused) {
		return next, refusal.New(refusal.Over, toldOf(refused))
	}
	return next, err
}

func toldOf(r *life.Refused) told.Words {
	switch {
	case r.Begun && (r.Event == life.Attend || r.Event == life.Miss):
		return told.Say("meeting-begun-yet", "This meeting has not begun yet. Mark afterwards whether the client came.")
	case r.Begun:
		return told.Begun.Words()
	}
	return map[life.State]told.Pattern{
		life.Unproved:  told.WaitsForCode,
		life.Requested: told.AlreadyAsked,
		life.Booked:    told.AlreadyBooked,
		life.Waiting:   told.StillWaiting,
		life.Offered:   told.StillWaiting,
		life.Scheduled: told.AlreadyBooked,
		life.Cancelled: told.AlreadyCancelled,
		life.Declined:  told.AlreadyDeclined,
		life.Expired:   told.AlreadyExpired,
	}[r.From].Words()
}

// RequestedBooking is a booking that a host has to decide about.
type RequestedBooking struct {
	HostBooking
	Lapses   time.Time   `json:"expires" doc:"Until when its time is kept, or an answer is due."`
	Several  bool        `json:"several" doc:"Others can ask for the same time, which is kept for nobody."`
	Asking   int64       `json:"asking" doc:"How many others ask for that time."`
	Taken    bool        `json:"taken" doc:"Something else was booked at that time meanwhile."`
	Proposed []time.Time `json:"proposed" doc:"Other times that were proposed and wait for the client."`
	HostID   int64       `json:"hostId"`
	SoFar    ClientSoFar `json:"soFar" doc:"What is known of the client."`
}

// requests lists what the person can decide, the oldest first; a coordinator's are everybody's.
func (a *App) requests(ctx context.Context, p schedule.Person) ([]RequestedBooking, error) {
	rows, err := a.Store.RequestsOfHost(ctx, p.ID)
	if p.May(identity.HandleBookings) {
		rows, err = a.Store.RequestsOfWorkspace(ctx, p.Home.ID)
	}
	if err != nil {
		return nil, err
	}
	names, err := a.Names(ctx, p.Home.ID)
	if err != nil {
		return nil, err
	}
	files, err := a.filesOf(ctx, bookingIDs(rows)...)
	if err != nil {
		return nil, err
	}
	out := []RequestedBooking{}
	for _, b := range rows {
		known, err := a.soFar(ctx, p, b)
		if err != nil {
			return nil, err
		}
		host := b.HostID
		if !p.May(identity.HandleBookings) {
			host = p.ID
		}
		r := RequestedBooking{HostBooking: hostBooking(b), Lapses: time.Unix(b.LapsesAt, 0).UTC(), Proposed: proposals(b), HostID: host, SoFar: known}
		if r.Several = b.SharedTime != 0; r.Several {
			beside, err := a.Store.AtTheTimeOf(ctx, b.MeetingID)
			if err != nil {
				return nil, err
			}
			r.Asking, r.Taken = beside.Asking, beside.Taken > 0
		}
		r.Files = files[b.ID]
		if host != p.ID {
			r.Host = names[host]
		}
		out = append(out, r)
	}
	slices.SortStableFunc(out, func(x, y RequestedBooking) int { return x.Lapses.Compare(y.Lapses) })
	return out, nil
}

func proposals(b sqlc.Booking) []time.Time { return startsOfJSON(b.Proposed) }

// Approve books what was requested. A time for which several could ask may be another's by now.
func (a *App) Approve(ctx context.Context, p schedule.Person, id int64, word string) (Today, error) {
	today, err := a.decide(ctx, p, id, byHost(string(life.Approve), p, intake.AsWritten(word)))
	var refused *refusal.Refusal
	if errors.As(err, &refused) && refused.Kind == refusal.Taken {
		err = refusal.New(refusal.Taken, told.Say("another-booking-time", "Another booking has this time meanwhile. Propose other times, or decline."))
	}
	return today, err
}

// Decline declines what was requested; the client is told, with a word.
func (a *App) Decline(ctx context.Context, p schedule.Person, id int64, word string) (Today, error) {
	return a.decide(ctx, p, id, byHost(string(life.Decline), p, intake.AsWritten(word)))
}

func (a *App) decide(ctx context.Context, p schedule.Person, id int64, s step) (Today, error) {
	if err := checkWord(s.note); err != nil {
		return Today{}, err
	}
	return a.settle(ctx, p, id, func(q *sqlc.Queries, b schedule.Hosted) error { return a.advanceTogether(ctx, q, b.Booking, s, 0) })
}

// Attendance keeps whether the client of a meeting that has begun came: came, missed, or unmarked.
func (a *App) Attendance(ctx context.Context, p schedule.Person, id int64, event string) error {
	return a.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		b, err := a.anyBooking(ctx, q, p, id)
		if err != nil {
			return err
		}
		return a.advance(ctx, q, b.Booking, byHost(event, p, ""), 0)
	})
}

// mostProposals bounds how many times a host proposes at once.
const mostProposals = 8

// Propose offers a client other times than the requested one, which stays kept meanwhile. Whether rules allow them is the
// host's to know; the client can take one as long as nothing else was booked there.
func (a *App) Propose(ctx context.Context, p schedule.Person, id int64, places []public.HandPicked, word string) (Today, error) {
	if err := checkWord(word); err != nil {
		return Today{}, err
	}
	seconds, err := a.Picked(p, places)
	if err != nil {
		return Today{}, err
	}
	if len(seconds) == 0 || len(seconds) > mostProposals {
		return Today{}, refusal.Faulty("starts", told.Say("propose-one-times", "Propose one to {} times.", mostProposals))
	}
	text, err := json.Marshal(seconds)
	if err != nil {
		return Today{}, err
	}
	return a.settle(ctx, p, id, func(q *sqlc.Queries, b schedule.Hosted) error {
		s := byHost(string(life.Propose), p, intake.AsWritten(word))
		if b.PartyID != 0 {
			return refusal.New(refusal.Over, told.Say("propose-series", "Several seats were asked for at one go, so no other time can be proposed. Decline, and write with it what you propose."))
		}
		if _, err := a.nextOf(b.Booking, s); err != nil {
			return err
		}
		o, err := a.BookedType(ctx, q, b.Booking)
		if err != nil {
			return err
		}
		until := min(a.Now().Add(o.KeptFor(life.Request)).Unix(), seconds[len(seconds)-1])
		until = max(until, b.LapsesAt)
		if err := q.Propose(ctx, sqlc.ProposeParams{ID: id, Proposed: string(text), LapsesAt: until}); err != nil {
			return err
		}
		if err := a.planLapse(ctx, q, id, until); err != nil {
			return err
		}
		if err := raise(ctx, q, b.Booking, false); err != nil {
			return err
		}
		return a.recordAnew(ctx, q, id, s)
	})
}

// moveTaken moves a booking to a time that was proposed.
func (a *App) moveTaken(ctx context.Context, q *sqlc.Queries, o schedule.Bookable, b sqlc.Booking, start time.Time) error {
	if schedule.Shared(b) {
		return a.moveSeat(ctx, q, o, b, start)
	}
	startAt, endAt, from, until := o.KeptTimes(start)
	return moveTo(ctx, q, sqlc.MoveMeetingParams{MeetingID: b.MeetingID, StartAt: startAt, EndAt: endAt, KeptFrom: from, KeptUntil: until}, false)
}

// TakeProposed books one of the times that the host proposed.
func (a *App) TakeProposed(ctx context.Context, link string, start time.Time) (ClientBooking, error) {
	err := a.Store.Write(ctx, func(q *sqlc.Queries) error {
		b, err := a.ByLink(ctx, q, link)
		if err != nil {
			return err
		}
		if b.Life == string(life.Booked) && b.StartAt == start.Unix() {
			return nil // sent twice
		}
		if !slices.ContainsFunc(proposals(b), start.Equal) || start.Unix() <= a.Now().Unix() {
			return refusal.New(refusal.Taken, told.NotProposed.Words())
		}
		o, err := a.BookedType(ctx, q, b)
		if err != nil {
			return err
		}
		if err := a.mustBeFree(ctx, q, b, 0, o, start); err != nil {
			return err
		}
		if err := a.moveTaken(ctx, q, o, b, start); err != nil {
			return err
		}
		return a.advance(ctx, q, b, byClient(string(life.Take), ""), 0)
	})
	if errors.Is(err, store.ErrOverlap) {
		err = errProposalTaken
	}
	if err != nil {
		return ClientBooking{}, err
	}
	return a.afterwards(ctx, link)
}

var errProposalTaken = refusal.New(refusal.Taken, told.ProposalTaken.Words())

// lapse is the job that gives a time back which nobody proved or decided about until its moment, which may have moved on.
func (a *App) lapse(ctx context.Context, j sqlc.Job) (job.Ending, error) {
	b, err := a.Store.Booking(ctx, j.SubjectID)
	if err != nil {
		return nil, err
	}
	if !isHeld(b) {
		return nil, job.ErrDropped
	}
	if b.LapsesAt > a.Now().Unix() {
		return nil, job.Later{At: time.Unix(b.LapsesAt, 0)}
	}
	return func(ctx context.Context, q *sqlc.Queries) error {
		now, err := q.Booking(ctx, b.ID)
		if err != nil || !isHeld(now) || now.LapsesAt != b.LapsesAt { // whatever came meanwhile has planned what follows
			return err
		}
		s := step{kind: string(life.Expire), by: string(life.Clock)}
		if now.Life == string(life.Offered) {
			s.kind = string(life.Lapse)
			whole, err := isTakenWhole(ctx, q, now.TypeID)
			if err != nil {
				return err
			}
			return a.advanceListed(ctx, q, now, s, 0, whole)
		}
		return a.advanceTogether(ctx, q, now, s, 0)
	}, nil
}

// isHeld tells whether a booking is there only until it is proved, decided about or taken.
func isHeld(b sqlc.Booking) bool {
	return slices.Contains([]life.State{life.Unproved, life.Requested, life.Offered}, life.State(b.Life))
}

func (a *App) planLapse(ctx context.Context, q *sqlc.Queries, booking, at int64) error {
	if at == 0 {
		return nil
	}
	_, err := job.Plan(ctx, q, a.Now(), job.Keyed(job.New{Kind: jobLapse, Lane: laneOwn, Subject: subjectBooking, SubjectID: booking, Due: time.Unix(at, 0)}))
	return err
}
