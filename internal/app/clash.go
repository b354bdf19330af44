package app

import (
	"context"
	"encoding/json"
	"errors"
	"regexp"
	"slices"
	"strings"
	"time"

	"corrim/core/busy"
	"corrim/core/intake"
	"corrim/core/life"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/calsync"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// Repair: what happens to a booking in the host's own calendars after it was made, and the ways out.

// Clash is a coming booking that no longer agrees with the host's calendars.
type Clash struct {
	Booking  HostBooking `json:"booking"`
	Kind     string      `json:"kind" enum:"over,gone,moved,declined,wished" doc:"An event lies over it; its own event was deleted; that was moved; its client declined the invitation; or wished another time."`
	Sentence told.Words  `json:"sentence"`
	To       *time.Time  `json:"to,omitempty" doc:"Where its event lies now, or the time that is wished."`
	Asked    bool        `json:"asked" doc:"The client was asked to choose another time."`
}

const (
	eventGone  = "gone"
	eventMoved = "moved"
	stepAsked  = "asked"
	follow     = "follow"
)

// clashAhead is how far ahead clashes are told.
const clashAhead = 90 * 24 * time.Hour

// clashes lists the person's coming bookings that don't agree with their calendars, in order.
func (a *App) clashes(ctx context.Context, p schedule.Person) ([]Clash, error) {
	now := span.At(a.Now())
	g, err := a.WholeAgenda(ctx, a.Store.Queries, p, span.Span{Start: now, End: now.Add(clashAhead)})
	if err != nil {
		return nil, err
	}
	types, err := a.TypesOf(ctx, p.Home)
	if err != nil {
		return nil, err
	}
	answers, err := a.inviteAnswers(ctx, p)
	if err != nil {
		return nil, err
	}
	wanted := func(b schedule.Hosted) bool { // over whatever there is
		return slices.ContainsFunc(types, func(t schedule.MeetingType) bool { return t.ID == b.TypeID && t.Rules.IgnoreCalendars })
	}
	out := []Clash{}
	for _, b := range g.Bookings {
		if b.StartAt <= int64(now) {
			continue
		}
		answered, err := a.answeredOf(ctx, b, answers, p)
		if err != nil {
			return nil, err
		}
		clash, found := clashIn(g, b)
		if found && (len(answered) == 0 || schedule.Shared(b.Booking)) && (clash.Kind != "over" || !wanted(b)) {
			answered = append(answered, clash)
		}
		for _, c := range answered {
			if c.Asked, err = a.wasAsked(ctx, c.Booking.ID); err != nil {
				return nil, err
			}
			out = append(out, c)
		}
	}
	return out, nil
}

// answeredOf is what clients of a meeting answered to its invitation; where several share it, each for themself.
func (a *App) answeredOf(ctx context.Context, b schedule.Hosted, answers map[int64]sqlc.InviteAnswer, p schedule.Person) (out []Clash, err error) {
	seats := []sqlc.Booking{b.Booking}
	if schedule.Shared(b.Booking) && len(answers) > 0 {
		if seats, err = a.Store.SeatsKept(ctx, b.MeetingID); err != nil {
			return nil, err
		}
	}
	for _, seat := range seats {
		if answer, some := answers[seat.ID]; some {
			out = append(out, answeredClash(schedule.Hosted{Booking: seat, Own: b.Own}, answer, p))
		}
	}
	return out, nil
}

func clashIn(g schedule.Agenda, b schedule.Hosted) (Clash, bool) {
	c := Clash{Booking: hostBooking(b.Booking), Kind: b.Own.EventSeen}
	switch b.Own.EventSeen {
	case eventGone:
		c.Sentence = told.Say("event-deleted", "You deleted its event in your calendar.")
		return c, true
	case eventMoved:
		c.To = moment(b.Own.EventStart)
		c.Sentence = told.Say("event-moved", "You moved its event in your calendar to {}.", told.At(span.Instant(b.Own.EventStart), g.Person.Local))
		return c, true
	}
	over := eventsOver(g, b)
	if len(over) == 0 {
		return c, false
	}
	c.Kind = "over"
	events := make([]told.Words, len(over))
	for i, e := range over {
		events[i] = told.Say("event-there", "“{}” ({}) {}–{}", e.Title, e.Calendar, told.Clock(span.Instant(e.StartAt), g.Person.Local), told.Clock(span.Instant(e.EndAt), g.Person.Local))
	}
	c.Sentence = told.Say("events-over", "In your calendar there is now {}.", told.Join(events, ", "))
	return c, true
}

// inviteAnswers are what clients answered to the invitations to the person's coming meetings, by booking.
func (a *App) inviteAnswers(ctx context.Context, p schedule.Person) (map[int64]sqlc.InviteAnswer, error) {
	rows, err := a.Store.InviteAnswersOfHost(ctx, sqlc.InviteAnswersOfHostParams{PersonID: p.ID, After: a.Now().Unix()})
	out := map[int64]sqlc.InviteAnswer{}
	for _, row := range rows {
		out[row.BookingID] = row
	}
	return out, err
}

func answeredClash(b schedule.Hosted, answer sqlc.InviteAnswer, p schedule.Person) Clash {
	c := Clash{Booking: hostBooking(b.Booking), Kind: answer.Answer, To: moment(answer.WishAt), Sentence: told.Say("client-declined", "{} declined the invitation.", b.ClientName)}
	if answer.WishAt != 0 {
		c.Sentence = told.Say("client-wished", "{} would rather meet on {}.", b.ClientName, told.At(span.Instant(answer.WishAt), p.Local))
	}
	if answer.Said != "" {
		c.Sentence = told.Join([]told.Words{c.Sentence, told.Say("in-quotes", "“{}”", answer.Said)}, " ")
	}
	return c
}

// eventsOver is the events that lie over a booking's meeting and that the host has not decided to live with. Another booking's entry that
// was moved here is told with that booking.
func eventsOver(g schedule.Agenda, b schedule.Hosted) (out []sqlc.BusyRow) {
	kept := strings.Fields(b.Own.ClashKept)
	ours := func(uid string) bool {
		return slices.ContainsFunc(g.Bookings, func(o schedule.Hosted) bool { return o.MeetingUid == uid })
	}
	for _, e := range g.Busy {
		if schedule.BusySpan(e).Overlaps(schedule.MeetingSpan(b.Booking)) && !slices.Contains(kept, e.Uid) && !ours(e.Uid) {
			out = append(out, e)
		}
	}
	return out
}

// wasAsked tells whether the client was asked to choose another time, and has not moved since.
func (a *App) wasAsked(ctx context.Context, booking int64) (bool, error) {
	steps, err := a.Store.StepsOf(ctx, booking)
	return len(steps) > 0 && steps[len(steps)-1].Kind == stepAsked, err
}

// ownBooking finds one of the person's coming bookings; a coordinator's are everybody's.
func (a *App) ownBooking(ctx context.Context, q *sqlc.Queries, p schedule.Person, id int64) (schedule.Hosted, error) {
	b, err := a.anyBooking(ctx, q, p, id)
	switch {
	case err != nil:
		return b, err
	case b.State == "cancelled" && !onList(b.Booking):
		return b, refusal.New(refusal.Over, told.Say("booking-cancelled-meanwhile", "This booking was cancelled meanwhile."))
	case b.StartAt <= a.Now().Unix():
		return b, refusal.New(refusal.Over, told.Begun.Words())
	}
	return b, nil
}

// anyBooking finds one of the person's bookings, past ones too.
func (a *App) anyBooking(ctx context.Context, q *sqlc.Queries, p schedule.Person, id int64) (schedule.Hosted, error) {
	row, err := q.BookingOfHost(ctx, sqlc.BookingOfHostParams{BookingID: id, PersonID: p.ID})
	if errors.Is(err, store.ErrNotFound) && p.May(identity.HandleBookings) {
		row, err = a.othersBooking(ctx, q, p, id)
	}
	b := schedule.Hosted{Booking: row.Booking, Own: row.MeetingHost}
	switch {
	case errors.Is(err, store.ErrNotFound):
		return b, refusal.New(refusal.NotFound, told.Say("no-such-booking", "There is no such booking among yours. Load the page again to see those there are."))
	}
	return b, err
}

// othersBooking finds a booking of a colleague, as its lead has it.
func (a *App) othersBooking(ctx context.Context, q *sqlc.Queries, p schedule.Person, id int64) (row sqlc.BookingOfHostRow, err error) {
	b, err := q.Booking(ctx, id)
	if err != nil {
		return row, err
	}
	if _, err := a.Colleague(ctx, q, p, b.HostID); err != nil {
		return row, store.ErrNotFound
	}
	return q.BookingOfHost(ctx, sqlc.BookingOfHostParams{BookingID: id, PersonID: b.HostID})
}

// settle does something about one of the person's coming bookings, in one transaction, and returns their day.
func (a *App) settle(ctx context.Context, p schedule.Person, id int64, do func(*sqlc.Queries, schedule.Hosted) error) (Today, error) {
	err := a.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		b, err := a.ownBooking(ctx, q, p, id)
		if err != nil {
			return err
		}
		return do(q, b)
	})
	if errors.Is(err, store.ErrOverlap) {
		err = refusal.New(refusal.Taken, told.Say("another-booking-already", "Another booking already lies there. Move one of them first."))
	}
	if err != nil {
		return Today{}, err
	}
	a.Wake()
	return a.Today(ctx, p)
}

// KeepBoth lets a booking and the events over it stand beside each other, or stand whatever its client answered.
func (a *App) KeepBoth(ctx context.Context, p schedule.Person, id int64) (Today, error) {
	return a.settle(ctx, p, id, func(q *sqlc.Queries, b schedule.Hosted) error {
		if answered, err := q.DropInviteAnswer(ctx, b.ID); answered > 0 || err != nil {
			return err
		}
		host, err := a.Anybody(ctx, q, b.Own.PersonID)
		if err != nil {
			return err
		}
		g, err := a.WholeAgenda(ctx, q, host, schedule.MeetingSpan(b.Booking))
		if err != nil {
			return err
		}
		kept := strings.Fields(b.Own.ClashKept)
		for _, e := range eventsOver(g, b) {
			kept = append(kept, e.Uid)
		}
		label := told.Say("undo-kept", "Kept: {} with what lies over it", b.ClientName)
		if err := a.Remember(ctx, q, p, subjectClash, b.ID, label, clashState{b.MeetingID, b.Own.PersonID, b.Own.ClashKept}); err != nil {
			return err
		}
		return q.KeepClash(ctx, sqlc.KeepClashParams{MeetingID: b.MeetingID, PersonID: b.Own.PersonID, ClashKept: strings.Join(kept, " ")})
	})
}

// clashState is which events over a booking its host had let stand.
type clashState struct {
	Meeting, Person int64
	Kept            string
}

func restoreClash(ctx context.Context, q *sqlc.Queries, _ schedule.Person, _ int64, before clashState) error {
	return q.KeepClash(ctx, sqlc.KeepClashParams{MeetingID: before.Meeting, PersonID: before.Person, ClashKept: before.Kept})
}

func mayPutBackClash(_ context.Context, _ *sqlc.Queries, p schedule.Person, c sqlc.SettingChange) error {
	before := clashState{}
	if err := json.Unmarshal([]byte(c.Before), &before); err != nil {
		return err
	}
	if before.Person == p.ID {
		return p.Must(identity.EditOwn)
	}
	return p.Must(identity.HandleBookings)
}

// AskToChooseAgain asks the client by mail to choose another time; until then the old one stands. A word goes with it.
func (a *App) AskToChooseAgain(ctx context.Context, p schedule.Person, id int64, word string) (Today, error) {
	if err := checkWord(word); err != nil {
		return Today{}, err
	}
	return a.settle(ctx, p, id, func(q *sqlc.Queries, b schedule.Hosted) error {
		return a.askAgain(ctx, q, p, b, intake.AsWritten(word))
	})
}

// askAgain asks all clients of a meeting: where several share it, what speaks against it speaks against it for each.
func (a *App) askAgain(ctx context.Context, q *sqlc.Queries, p schedule.Person, b schedule.Hosted, word string) error {
	seats, err := seatsStanding(ctx, q, b.Booking)
	if err != nil {
		return err
	}
	now := a.Now().Unix()
	for _, seat := range seats {
		if _, err := a.nextOf(seat, byHost(stepAsked, p, "")); err != nil {
			return err
		}
		if err := q.AddStep(ctx, sqlc.AddStepParams{BookingID: seat.ID, At: now, Kind: stepAsked, By: "host", Note: word, PersonID: store.NullID(p.ID)}); err != nil {
			return err
		}
		if err := a.plan(ctx, q, seat, step{kind: stepAsked}, []string{jobMailClient}); err != nil {
			return err
		}
	}
	return nil
}

func checkWord(word string) error {
	if len([]rune(word)) > 1000 {
		return refusal.Faulty("word", told.Say("message-client-most", "A message to the client has at most 1,000 characters."))
	}
	return nil
}

// CancelByHost cancels a booking; the client is told, with a word. With rest, what they took with it at one go and comes after it is
// cancelled too.
func (a *App) CancelByHost(ctx context.Context, p schedule.Person, id int64, word string, rest bool) (Today, error) {
	if err := checkWord(word); err != nil {
		return Today{}, err
	}
	return a.settle(ctx, p, id, func(q *sqlc.Queries, b schedule.Hosted) error {
		if rest && !onList(b.Booking) { // each list is left by itself
			return a.cancelRestOf(ctx, q, p, b.Booking, intake.AsWritten(word))
		}
		return a.cancelByHost(ctx, q, p, b.Booking, intake.AsWritten(word))
	})
}

func (a *App) cancelByHost(ctx context.Context, q *sqlc.Queries, p schedule.Person, b sqlc.Booking, word string) error {
	if onList(b) {
		whole, err := isTakenWhole(ctx, q, b.TypeID)
		if err != nil {
			return err
		}
		return a.advanceListed(ctx, q, b, byHost(string(life.Dismiss), p, word), 0, whole)
	}
	if b.Session == 1 { // it is nobody's alone
		return a.cancelWhole(ctx, q, p, b, word, "")
	}
	return a.advance(ctx, q, b, byHost("cancelled", p, word), 0)
}

// recordAnew records a step of a booking as it now is.
func (a *App) recordAnew(ctx context.Context, q *sqlc.Queries, id int64, s step) error {
	changed, err := q.Booking(ctx, id)
	if err != nil {
		return err
	}
	return a.record(ctx, q, changed, s)
}

// MoveAlong moves a booking to where the host has moved its event, or to the time that its client wished; the client is told.
func (a *App) MoveAlong(ctx context.Context, p schedule.Person, id int64) (Today, error) {
	return a.settle(ctx, p, id, func(q *sqlc.Queries, b schedule.Hosted) error {
		answer, err := q.InviteAnswer(ctx, b.ID)
		if err == nil && answer.WishAt != 0 {
			return a.moveAsWished(ctx, q, p, b, answer.WishAt)
		}
		if err != nil && !errors.Is(err, store.ErrNotFound) {
			return err
		}
		if b.Own.EventSeen != eventMoved {
			return refusal.New(refusal.Invalid, told.Say("event-lies-where", "Its event lies where the booking does. Load the page again."))
		}
		return a.moveAlong(ctx, q, p, b)
	})
}

func (a *App) moveAsWished(ctx context.Context, q *sqlc.Queries, p schedule.Person, b schedule.Hosted, start int64) error {
	if start <= a.Now().Unix() {
		return refusal.New(refusal.Over, told.Say("wish-over", "That time has gone by."))
	}
	if schedule.Shared(b.Booking) {
		o, err := a.BookedType(ctx, q, b.Booking)
		if err != nil {
			return err
		}
		return a.moveAlone(ctx, q, o, b.Booking, start, p)
	}
	by := start - b.StartAt
	err := moveTo(ctx, q, sqlc.MoveMeetingParams{MeetingID: b.MeetingID, StartAt: start, EndAt: b.EndAt + by, KeptFrom: b.KeptFrom + by, KeptUntil: b.KeptUntil + by}, false)
	if err != nil {
		return err
	}
	if _, err := q.DropInviteAnswer(ctx, b.ID); err != nil {
		return err
	}
	return a.recordAnew(ctx, q, b.ID, byHost(string(life.Move), p, ""))
}

func (a *App) moveAlong(ctx context.Context, q *sqlc.Queries, p schedule.Person, b schedule.Hosted) error {
	err := moveTo(ctx, q, sqlc.MoveMeetingParams{
		MeetingID: b.MeetingID, StartAt: b.Own.EventStart, EndAt: b.Own.EventEnd,
		KeptFrom: b.Own.EventStart - (b.StartAt - b.KeptFrom), KeptUntil: b.Own.EventEnd + (b.KeptUntil - b.EndAt),
	}, false)
	if err != nil {
		return err
	}
	if err := q.SetEventSeen(ctx, sqlc.SetEventSeenParams{MeetingID: b.MeetingID, PersonID: b.Own.PersonID}); err != nil {
		return err
	}
	return a.recordForAll(ctx, q, b.ID, byHost(string(life.Move), p, ""))
}

// PutBack writes a booking's event into the host's calendar again, as the booking is.
func (a *App) PutBack(ctx context.Context, p schedule.Person, id int64) (Today, error) {
	return a.settle(ctx, p, id, func(q *sqlc.Queries, b schedule.Hosted) error {
		if err := q.SetEventSeen(ctx, sqlc.SetEventSeenParams{MeetingID: b.MeetingID, PersonID: b.Own.PersonID}); err != nil {
			return err
		}
		return a.planEntryAnew(ctx, q, b.Booking)
	})
}

// noticeEvents looks at what changed in a calendar for entries of bookings. What the host did to one is kept with its booking, or
// followed if that is their choice.
func (a *App) noticeEvents(ctx context.Context, q *sqlc.Queries, p schedule.Person, calendar int64, changes calsync.Changes) error {
	hrefs, err := q.EventHrefs(ctx, store.NullID(calendar))
	if err != nil {
		return err
	}
	ours := make(map[string]string, len(hrefs))
	for _, href := range hrefs {
		ours[calsync.PlaceOf(href)] = href
	}
	all := slices.Clone(changes.Changed)
	for _, href := range changes.Removed {
		all = append(all, calsync.Resource{Href: href})
	}
	for _, r := range all {
		href, known := ours[calsync.PlaceOf(r.Href)]
		if known {
			err = a.noticeEvent(ctx, q, p, calendar, calsync.Resource{Href: href, ETag: r.ETag, ICS: r.ICS})
		} else {
			err = a.noticeElsewhere(ctx, q, p, calendar, r)
		}
		if err != nil {
			return err
		}
	}
	return nil
}

func (a *App) noticeEvent(ctx context.Context, q *sqlc.Queries, p schedule.Person, calendar int64, r calsync.Resource) error {
	row, err := q.BookingByEvent(ctx, sqlc.BookingByEventParams{EventCalendar: store.NullID(calendar), EventHref: r.Href})
	b := schedule.Hosted{Booking: row.Booking, Own: row.MeetingHost}
	if errors.Is(err, store.ErrNotFound) || err == nil && (b.StartAt <= a.Now().Unix() || r.ETag != "" && r.ETag == b.Own.EventEtag) {
		return nil
	}
	if err != nil {
		return err
	}
	// While we are about to write the event ourselves, what is there is simply old.
	if waiting, err := q.WaitingJobs(ctx, sqlc.WaitingJobsParams{Subject: subjectBooking, SubjectID: b.ID, Kind: jobCalendar}); err != nil || waiting > 0 {
		return err
	}
	return a.seeEvent(ctx, q, p, b, r)
}

// seeEvent keeps what became of a booking's entry. One that is gone may be in another calendar: settleMissing decides.
func (a *App) seeEvent(ctx context.Context, q *sqlc.Queries, p schedule.Person, b schedule.Hosted, r calsync.Resource) error {
	b.Own.EventSeen, b.Own.EventStart, b.Own.EventEnd = seenAs(b.Booking, r.ICS, p)
	b.Own.EventSeenAt = 0
	switch {
	case b.Own.EventSeen == eventGone && r.ETag == "":
		b.Own.EventSeen, b.Own.EventSeenAt = "", a.Now().Unix()
	case p.CalendarSettings.EventChange == follow && b.Own.EventSeen != "":
		return a.followEvent(ctx, q, p, b)
	}
	return q.SetEventSeen(ctx, seenOf(b))
}

// noticeElsewhere looks whether a resource is the entry of a booking that is missing in another of the person's calendars: then
// its host has moved it here.
func (a *App) noticeElsewhere(ctx context.Context, q *sqlc.Queries, p schedule.Person, calendar int64, r calsync.Resource) error {
	uid := ourUID.FindSubmatch(r.ICS)
	if uid == nil {
		return nil
	}
	row, err := q.BookingByUID(ctx, sqlc.BookingByUIDParams{Uid: string(uid[1]), PersonID: p.ID})
	if errors.Is(err, store.ErrNotFound) || err == nil && row.MeetingHost.EventSeenAt == 0 {
		return nil // a copy, or somebody else's
	}
	if err != nil {
		return err
	}
	if err := q.AdoptEvent(ctx, sqlc.AdoptEventParams{MeetingID: row.Booking.MeetingID, PersonID: p.ID, EventCalendar: store.NullID(calendar), EventHref: r.Href, EventEtag: r.ETag}); err != nil {
		return err
	}
	return a.seeEvent(ctx, q, p, schedule.Hosted{Booking: row.Booking, Own: row.MeetingHost}, r)
}

// ourUID finds the UID of an entry that we wrote.
var ourUID = regexp.MustCompile(`(?m)^UID:([0-9a-f-]{36}@corrim)\r?$`)

// settleMissing decides about entries that are missing in a calendar that was just read, after the person's other calendars were
// read too: what is in none of them was deleted. If one can't be read, nothing is known yet.
func (a *App) settleMissing(ctx context.Context, person, calendar int64) error {
	missing, err := a.missing(ctx, person, calendar)
	if err != nil || len(missing) == 0 {
		return err
	}
	others, err := a.Store.Calendars(ctx, person)
	if err != nil {
		return err
	}
	for _, other := range others {
		if other.ID == calendar || other.Shown == 0 || other.Kind != calsync.CalDAV {
			continue
		}
		if a.calendars.ReadOnce(ctx, other.ID, false) == 0 {
			if again, err := a.Store.Calendar(ctx, other.ID); err != nil || again.Trouble != "" {
				return err
			}
		}
	}
	p, err := a.Person(ctx, person)
	if err != nil {
		return err
	}
	if err := a.foundElsewhere(ctx, p, missing); err != nil {
		return err
	}
	if missing, err = a.missing(ctx, person, calendar); err != nil {
		return err
	}
	return a.Store.Write(ctx, func(q *sqlc.Queries) error {
		for _, b := range missing {
			b.Own.EventSeen, b.Own.EventSeenAt = eventGone, 0
			if p.CalendarSettings.EventChange == follow {
				err = a.followEvent(ctx, q, p, b)
			} else {
				err = q.SetEventSeen(ctx, seenOf(b))
			}
			if err != nil {
				return err
			}
		}
		return nil
	})
}

func (a *App) missing(ctx context.Context, person, calendar int64) (out []schedule.Hosted, err error) {
	rows, err := a.Store.MissingEvents(ctx, sqlc.MissingEventsParams{PersonID: person, Now: a.Now().Unix()})
	for _, r := range rows {
		if r.MeetingHost.EventCalendar.Int64 == calendar {
			out = append(out, schedule.Hosted{Booking: r.Booking, Own: r.MeetingHost})
		}
	}
	return out, err
}

// foundElsewhere takes up missing entries that had been seen in another calendar before they were missed in theirs.
func (a *App) foundElsewhere(ctx context.Context, p schedule.Person, missing []schedule.Hosted) error {
	return a.Store.Write(ctx, func(q *sqlc.Queries) error {
		for _, b := range missing {
			there, err := q.ResourceByUID(ctx, sqlc.ResourceByUIDParams{PersonID: p.ID, Uid: b.MeetingUid, Except: b.Own.EventCalendar.Int64, Now: a.Now().Unix()})
			if errors.Is(err, store.ErrNotFound) {
				continue
			}
			if err == nil {
				err = a.noticeElsewhere(ctx, q, p, there.CalendarID, calsync.Resource{Href: there.Href, ETag: there.Etag, ICS: []byte(there.Ics)})
			}
			if err != nil {
				return err
			}
		}
		return nil
	})
}

func seenOf(b schedule.Hosted) sqlc.SetEventSeenParams {
	return sqlc.SetEventSeenParams{
		MeetingID: b.MeetingID, PersonID: b.Own.PersonID, EventSeen: b.Own.EventSeen, EventStart: b.Own.EventStart, EventEnd: b.Own.EventEnd, EventSeenAt: b.Own.EventSeenAt,
	}
}

// seenAs is what became of a booking's event: gone, cancelled or declined; moved, and to where; or nothing.
func seenAs(b sqlc.Booking, ics []byte, p schedule.Person) (seen string, start, end int64) {
	calendar, err := busy.Read(ics, busy.Options{Zone: p.Local, Owners: []string{p.Mail}, TentativeBusy: true, AllDayBusy: true})
	if err != nil {
		return eventGone, 0, 0
	}
	found, _ := calendar.Busy(span.Span{Start: -1 << 40, End: 1 << 40})
	for _, e := range found {
		if e.UID != b.MeetingUid {
			continue
		}
		if e.Span == schedule.MeetingSpan(b) {
			return "", 0, 0
		}
		return eventMoved, int64(e.Start), int64(e.End)
	}
	return eventGone, 0, 0
}

// followEvent does to the booking what the host did to its event. Where that can't be, it is asked about instead.
func (a *App) followEvent(ctx context.Context, q *sqlc.Queries, p schedule.Person, b schedule.Hosted) error {
	if b.Own.EventSeen == eventGone {
		return a.cancelWhole(ctx, q, p, b.Booking, "", "")
	}
	if b.Own.EventStart <= a.Now().Unix() || a.taken(ctx, q, b) {
		return q.SetEventSeen(ctx, seenOf(b))
	}
	return a.moveAlong(ctx, q, p, b)
}

// taken tells whether another booking lies where the host has moved this one's event.
func (a *App) taken(ctx context.Context, q *sqlc.Queries, b schedule.Hosted) bool {
	from, until := b.Own.EventStart-(b.StartAt-b.KeptFrom), b.Own.EventEnd+(b.KeptUntil-b.EndAt)
	rows, err := schedule.BookingsOf(ctx, q, b.Own.PersonID, span.Span{Start: span.Instant(from), End: span.Instant(until)})
	return err != nil || slices.ContainsFunc(rows, func(other schedule.Hosted) bool { return other.ID != b.ID })
}
