package app

import (
	"context"
	"errors"
	"slices"
	"time"

	"corrim/core/intake"
	"corrim/core/life"
	"corrim/core/told"
	"corrim/internal/job"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/store/sqlc"
)

// Meetings that several clients share. Each has a seat of their own, with a link, invitations and a life of its own; the meeting, its
// entries in calendars and its room stand as long as one seat is kept.

// meetingToJoin is a meeting of the type at a time that has a seat left and is held by somebody, beside whoever else; 0 if there is none.
func meetingToJoin(ctx context.Context, q *sqlc.Queries, kind, start, end, host int64) (int64, error) {
	there, err := q.SharedAt(ctx, sqlc.SharedAtParams{TypeID: kind, StartAt: start, EndAt: end})
	if err != nil {
		return 0, err
	}
	for _, m := range there {
		if m.Taken >= m.Capacity {
			continue
		}
		parts, err := q.HostsOfMeeting(ctx, m.ID)
		if err != nil {
			return 0, err
		}
		if slices.ContainsFunc(parts, func(part sqlc.MeetingHost) bool { return part.PersonID == host && part.State != schedule.HostLeft }) {
			return m.ID, nil
		}
	}
	return 0, nil
}

// raise counts what happened to a booking: for its client, and for the meeting if it is theirs alone. told is whether calendars are told
// something else now.
func raise(ctx context.Context, q *sqlc.Queries, b sqlc.Booking, told bool) error {
	if schedule.Shared(b) {
		if err := q.RaiseSeat(ctx, sqlc.RaiseSeatParams{ID: b.ID, Told: number(told)}); err != nil {
			return err
		}
		return q.RaiseVersion(ctx, b.MeetingID)
	}
	if told {
		return q.RaiseSequence(ctx, b.MeetingID)
	}
	return q.RaiseRevision(ctx, b.MeetingID)
}

// giveBack is for a booking that kept a seat until now. It takes a meeting off its hosts' counts once nobody keeps one
// in it, and finds somebody else for the seat if it stands.
func (a *App) giveBack(ctx context.Context, q *sqlc.Queries, b sqlc.Booking) error {
	switch {
	case b.State != "booked":
		return nil // it kept none
	case !schedule.Shared(b):
		return q.GiveBack(ctx, b.MeetingID)
	}
	stands, err := q.MeetingStands(ctx, b.MeetingID)
	if err != nil {
		return err
	}
	if stands {
		return a.offerSeats(ctx, q, b.MeetingID)
	}
	return q.GiveBack(ctx, b.MeetingID)
}

// recordForAll records what a host did to a whole meeting with every seat in it, so that each client is told, and with its session.
func (a *App) recordForAll(ctx context.Context, q *sqlc.Queries, id int64, s step) error {
	b, err := q.Booking(ctx, id)
	if err != nil {
		return err
	}
	if !schedule.Shared(b) {
		return a.record(ctx, q, b, s)
	}
	seats, err := q.SeatsKept(ctx, b.MeetingID)
	if err != nil {
		return err
	}
	own, err := sessionOf(ctx, q, b)
	if err != nil {
		return err
	}
	if own != nil {
		alone := s
		alone.alone = len(seats) == 0
		if err := a.record(ctx, q, *own, alone); err != nil {
			return err
		}
	}
	if life.Event(s.kind) == life.Move { // whoever waits waits for the new time
		queue, err := q.WaitingSeats(ctx, sqlc.WaitingSeatsParams{MeetingID: b.MeetingID, Most: mostOnList})
		if err != nil {
			return err
		}
		seats = append(seats, queue...)
	}
	for i, seat := range seats {
		s.forOthers = i > 0 || onList(seat) // hosts are told once
		if err := a.record(ctx, q, seat, s); err != nil {
			return err
		}
	}
	return nil
}

// entryOf is a job about a booking's calendar entries, as one about the seat that stands for its meeting: two about the same entry must
// not be done side by side.
func entryOf(ctx context.Context, q *sqlc.Queries, b sqlc.Booking, n job.New) (job.New, error) {
	if !schedule.Shared(b) {
		return n, nil
	}
	lead, err := q.LeadSeat(ctx, b.MeetingID)
	n.SubjectID, n.Revision = lead.ID, lead.Revision
	return n, err
}

// moveSeat moves one client of several to another time of the type: into the meeting that stands there, or into a new one.
func (a *App) moveSeat(ctx context.Context, q *sqlc.Queries, o schedule.Bookable, b sqlc.Booking, start time.Time) error {
	startAt, endAt, from, until := o.KeptTimes(start)
	into, err := meetingToJoin(ctx, q, b.TypeID, startAt, endAt, b.HostID)
	if err != nil {
		return err
	}
	session, err := sessionOf(ctx, q, b)
	if err != nil {
		return err
	}
	if into == 0 && b.Taken == 1 && session == nil {
		return moveTo(ctx, q, sqlc.MoveMeetingParams{MeetingID: b.MeetingID, StartAt: startAt, EndAt: endAt, KeptFrom: from, KeptUntil: until}, false)
	}
	if into == 0 {
		if into, err = a.likeMeeting(ctx, q, o, b, sqlc.AddMeetingParams{StartAt: startAt, EndAt: endAt, KeptFrom: from, KeptUntil: until}); err != nil {
			return err
		}
	}
	if err := q.ChangeMeeting(ctx, sqlc.ChangeMeetingParams{ID: b.ID, MeetingID: into, Sequence: b.Sequence, Revision: b.Revision}); err != nil {
		return err
	}
	return a.afterLeaving(ctx, q, b)
}

// moveAlone moves one client of several to the time that they wished.
func (a *App) moveAlone(ctx context.Context, q *sqlc.Queries, o schedule.Bookable, b sqlc.Booking, start int64, p schedule.Person) error {
	if err := a.moveSeat(ctx, q, o, b, time.Unix(start, 0)); err != nil {
		return err
	}
	if _, err := q.DropInviteAnswer(ctx, b.ID); err != nil {
		return err
	}
	return a.recordAnew(ctx, q, b.ID, byHost(string(life.Move), p, ""))
}

// likeMeeting is a new meeting at another time, with the hosts and the place of a booking's.
func (a *App) likeMeeting(ctx context.Context, q *sqlc.Queries, o schedule.Bookable, b sqlc.Booking, m sqlc.AddMeetingParams) (int64, error) {
	m.Uid, m.TypeID, m.TypeName, m.HostID, m.Way, m.CreatedAt, m.RepliesHere, m.Capacity = newUID(), b.TypeID, b.TypeName, b.HostID, b.Way, a.Now().Unix(), b.RepliesHere, int64(max(1, o.Rules.Seats))
	id, err := q.AddMeeting(ctx, m)
	if err != nil {
		return 0, err
	}
	parts, err := q.HostsOfMeeting(ctx, b.MeetingID)
	if err != nil {
		return 0, err
	}
	for _, part := range parts {
		if part.State == schedule.HostLeft {
			continue
		}
		if err := q.AddMeetingHost(ctx, sqlc.AddMeetingHostParams{MeetingID: id, PersonID: part.PersonID}); err != nil {
			return 0, err
		}
	}
	return id, q.AssignLike(ctx, sqlc.AssignLikeParams{MeetingID: id, BookingID: b.ID, At: m.CreatedAt, LikeMeeting: b.MeetingID})
}

// afterLeaving brings what stands for a meeting outside up to date, after a client has gone over to another one: its entries, or, if
// nobody stays, what is left of it.
func (a *App) afterLeaving(ctx context.Context, q *sqlc.Queries, left sqlc.Booking) error {
	stands, err := q.MeetingStands(ctx, left.MeetingID)
	if err != nil {
		return err
	}
	if stands {
		if err := a.offerSeats(ctx, q, left.MeetingID); err != nil {
			return err
		}
		return a.planEntryAnew(ctx, q, left)
	}
	if err := q.GiveBack(ctx, left.MeetingID); err != nil {
		return err
	}
	return a.planRemains(ctx, q, left)
}

// planRemains plans to take away what is outside of a meeting that nobody has a seat in any more: nothing but its number is left to
// plan by.
func (a *App) planRemains(ctx context.Context, q *sqlc.Queries, b sqlc.Booking) error {
	now := a.Now()
	n := job.New{Kind: jobRemains, Subject: subjectMeeting, SubjectID: b.MeetingID, Due: now, Expires: now.Add(tellFor)}
	parts, err := q.HostsOfMeeting(ctx, b.MeetingID)
	if err != nil {
		return err
	}
	for _, part := range parts {
		calendar, href, err := a.eventCalendar(ctx, q, part)
		if err != nil || href == "" {
			continue // there is no entry
		}
		if err := a.planEntryOf(ctx, q, n, 0, part.PersonID, calendar); err != nil {
			return err
		}
	}
	if !hasFreshRoom(b) {
		return nil
	}
	n.Lane = laneRooms
	_, err = job.Plan(ctx, q, now, job.Keyed(n))
	return err
}

// remains takes away a host's entry of a meeting that nobody has a seat in any more, or its room.
func (a *App) remains(ctx context.Context, j sqlc.Job) (job.Ending, error) {
	uid, err := a.Store.MeetingUID(ctx, j.SubjectID)
	if err != nil {
		return nil, err
	}
	if j.PersonID == 0 {
		return nil, a.Rooms.Close(ctx, uid)
	}
	part, err := a.Store.HostOfMeeting(ctx, sqlc.HostOfMeetingParams{MeetingID: j.SubjectID, PersonID: j.PersonID})
	if err != nil {
		return nil, err
	}
	calendar, href, err := a.eventCalendar(ctx, a.Store.Queries, part)
	if err != nil || href == "" {
		return nil, errors.Join(err, job.ErrDropped)
	}
	entry, err := a.entryAt(ctx, part, calendar, href)
	if err != nil {
		return nil, err
	}
	return nil, a.removeEvent(ctx, entry, uid)
}

// Participant is one of several clients of a meeting, as its hosts see them.
type Participant struct {
	Booking   int64  `json:"booking"`
	Name      string `json:"name"`
	Mail      string `json:"mail"`
	State     string `json:"state" enum:"unproved,requested,booked,attended,no-show,cancelled,declined,expired,waiting,offered"`
	Confirmed bool   `json:"confirmed"`
	With      string `json:"with,omitempty" doc:"Who took the seat for them."`
}

// participants are the clients of a meeting that several share, those who wait after those who have a seat.
func participants(ctx context.Context, q *sqlc.Queries, b sqlc.Booking) ([]Participant, error) {
	out := []Participant{}
	if !schedule.Shared(b) {
		return out, nil
	}
	seats, err := q.SeatsOfMeeting(ctx, b.MeetingID)
	slices.SortStableFunc(seats, func(x, y sqlc.Booking) int { return standing(x) - standing(y) })
	for _, s := range seats {
		out = append(out, Participant{s.ID, s.ClientName, s.ClientMail, s.Life, confirmed(s), takenBy(s, seats)})
	}
	return out, err
}

// takenBy is who took a seat for somebody who comes along; empty for their own.
func takenBy(b sqlc.Booking, seats []sqlc.Booking) string {
	first := b
	for _, s := range seats {
		if b.PartyID != 0 && s.PartyID == b.PartyID && s.ID < first.ID {
			first = s
		}
	}
	if first.ID == b.ID {
		return ""
	}
	return first.ClientName
}

// standing orders the clients of a meeting: those who have a seat, those who wait for one, and those who gave it back.
func standing(b sqlc.Booking) int {
	switch {
	case b.State == "booked":
		return 0
	case onList(b):
		return 1
	}
	return 2
}

// CancelForAll cancels a meeting for all who share it; each is told, with a word. With rest, the sessions of its series that come after it
// are cancelled too.
func (a *App) CancelForAll(ctx context.Context, p schedule.Person, id int64, word string, rest bool) (Today, error) {
	if err := checkWord(word); err != nil {
		return Today{}, err
	}
	return a.settle(ctx, p, id, func(q *sqlc.Queries, b schedule.Hosted) error {
		if rest {
			return a.cancelSeries(ctx, q, p, b.Booking, intake.AsWritten(word))
		}
		return a.cancelWhole(ctx, q, p, b.Booking, intake.AsWritten(word), "")
	})
}

// cancelWhole cancels a meeting for all who have a seat in it, and the session that it may be. Hosts are told once. series names what is
// cancelled with it, so that each client is told of all in one letter; it is empty for one meeting alone.
func (a *App) cancelWhole(ctx context.Context, q *sqlc.Queries, p schedule.Person, b sqlc.Booking, word, series string) error {
	own, err := sessionOf(ctx, q, b)
	if err != nil {
		return err
	}
	seats, err := seatsStanding(ctx, q, b)
	if err != nil && own == nil {
		return err
	}
	if schedule.Shared(b) {
		if err := a.dismissAll(ctx, q, p, b, word); err != nil {
			return err
		}
	}
	for i, seat := range seats {
		s := byHost(string(life.Cancel), p, word)
		s.series = seriesTo(series, seat.ClientMail)
		s.forOthers = i < len(seats)-1 // the last one ends the meeting, with what there is of it outside
		s.ending = s.forOthers
		if err := a.advance(ctx, q, seat, s, 0); err != nil {
			return err
		}
	}
	if own == nil {
		return nil
	}
	s := byHost(string(life.Cancel), p, word)
	s.alone, s.series = len(seats) == 0, series
	if err := a.advance(ctx, q, *own, s, 0); err != nil || series != "" {
		return err
	}
	return a.offerRest(ctx, q, b)
}

// offerRest finds somebody for seats in what is left of a series taken whole, without a session that is called off: it may have been the
// one that was full.
func (a *App) offerRest(ctx context.Context, q *sqlc.Queries, off sqlc.Booking) error {
	all, err := q.RestOfSeries(ctx, sqlc.RestOfSeriesParams{TypeID: off.TypeID, SeriesID: off.SeriesID})
	if err != nil || len(all) == 0 {
		return err
	}
	whole, err := isTakenWhole(ctx, q, off.TypeID)
	if err != nil || !whole {
		return err
	}
	return a.offerSeats(ctx, q, all[0].MeetingID)
}

// sessionOf is what stands for the session that a booking's meeting is; nil if it is none, or not any more.
func sessionOf(ctx context.Context, q *sqlc.Queries, b sqlc.Booking) (*sqlc.Booking, error) {
	if !schedule.Shared(b) {
		return nil, nil
	}
	own, err := q.LeadSeat(ctx, b.MeetingID)
	if err != nil || own.Session == 0 || own.Life != string(life.Scheduled) {
		return nil, err
	}
	return &own, nil
}

// seatsStanding are the seats of a booking's meeting that clients keep; of one that is its client's alone, just that.
func seatsStanding(ctx context.Context, q *sqlc.Queries, b sqlc.Booking) ([]sqlc.Booking, error) {
	if !schedule.Shared(b) {
		return []sqlc.Booking{b}, nil
	}
	seats, err := q.SeatsKept(ctx, b.MeetingID)
	if err == nil && len(seats) == 0 {
		err = refusal.New(refusal.Over, told.Say("nobody-left", "Nobody has a seat in this meeting any more."))
	}
	return seats, err
}

// raiseSeats gives coming meetings of a type that clients share as many seats as the type has now, but none fewer than are taken.
func (a *App) raiseSeats(ctx context.Context, q *sqlc.Queries, kind int64, seats int) error {
	if seats <= 1 {
		return nil // those that stand go on as they are; nobody joins them any more
	}
	if err := q.SetCapacity(ctx, sqlc.SetCapacityParams{TypeID: kind, Seats: int64(seats), Now: a.Now().Unix()}); err != nil {
		return err
	}
	return a.offerSeatsOf(ctx, q, kind)
}

// tellRoomToAll lets all clients of a meeting hear of its room who were told of it without one.
func (a *App) tellRoomToAll(ctx context.Context, q *sqlc.Queries, b sqlc.Booking) error {
	seats, err := q.SeatsKept(ctx, b.MeetingID)
	if err != nil {
		return err
	}
	if err := a.tellHostsYet(ctx, q, b); err != nil {
		return err
	}
	for _, seat := range seats {
		if err := moveJobsOn(ctx, q, seat); err != nil {
			return err
		}
		if seat.Invited == 0 {
			if err := a.writeAgain(ctx, q, seat, jobMailClient); err != nil {
				return err
			}
			continue
		}
		// One that was begun may find that it is about an earlier state, and drop itself.
		waiting, err := q.UnbegunJobs(ctx, sqlc.UnbegunJobsParams{Subject: subjectBooking, SubjectID: seat.ID, Kind: jobMailClient})
		if err != nil {
			return err
		}
		if waiting == 0 {
			if err := a.plan(ctx, q, seat, step{kind: stepRoom}, []string{jobMailClient}); err != nil {
				return err
			}
		}
	}
	return a.planEntryAnew(ctx, q, b)
}

// tellHostsYet lets the hosts of a session hear what they were to be told of the session itself when its room came between.
func (a *App) tellHostsYet(ctx context.Context, q *sqlc.Queries, b sqlc.Booking) error {
	own, err := sessionOf(ctx, q, b)
	if err != nil || own == nil {
		return err
	}
	if err := moveJobsOn(ctx, q, *own); err != nil {
		return err
	}
	return a.writeAgain(ctx, q, *own, jobMailHost)
}

// moveJobsOn takes what waits for a booking to its present state; it has the room in it anyway.
func moveJobsOn(ctx context.Context, q *sqlc.Queries, b sqlc.Booking) error {
	return q.MoveJobsOn(ctx, sqlc.MoveJobsOnParams{Subject: subjectBooking, SubjectID: b.ID, Was: b.Revision - 1, Revision: b.Revision})
}

// writeAgain plans a letter once more that was begun and may find now that it is about an earlier state: rather twice than never.
func (a *App) writeAgain(ctx context.Context, q *sqlc.Queries, b sqlc.Booking, kind string) error {
	letters, err := q.JobsOf(ctx, sqlc.JobsOfParams{Subject: subjectBooking, SubjectID: b.ID, Kind: kind})
	for _, j := range letters {
		if err == nil && j.Begun != 0 && j.Revision < b.Revision {
			err = a.plan(ctx, q, b, step{kind: j.Occasion, series: j.Series}, []string{kind})
		}
	}
	return err
}

// clientsSharing are all who have a seat in a booking's meeting, where several can.
func (a *App) clientsSharing(ctx context.Context, b sqlc.Booking) ([]sqlc.Booking, error) {
	if !schedule.Shared(b) {
		return nil, nil
	}
	return a.Store.SeatsKept(ctx, b.MeetingID)
}
