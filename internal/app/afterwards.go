package app

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/url"
	"slices"
	"strings"
	"time"

	"corrim/core/invite"
	"corrim/core/life"
	words "corrim/core/message"
	"corrim/core/span"
	"corrim/internal/calsync"
	"corrim/internal/job"
	"corrim/internal/letter"
	"corrim/internal/schedule"
	"corrim/internal/secrets"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// What has to happen after a step of a booking. Each job brings the outside to the booking's present state, so that doing one
// twice, or late, does no harm.
const (
	jobRoom       = "room"
	jobCalendar   = "calendar" // the entry in one host's calendar
	jobMailClient = "mail-client"
	jobMailHost   = "mail-host"
	jobLetter     = "letter"     // about no booking
	jobDecide     = "decide"     // whether a session takes place
	jobLapse      = "lapse"      // what was held or requested is given back
	jobOfferOver  = "offer-over" // what was kept for an offer is given back
	jobOldFiles   = "old-files"  // that no booking has taken up
	jobClock      = "clock"      // messages whose moment has come are given to the worker
	jobTimed      = "mail-timed" // one of them
	jobText       = "text-timed" // one of them, as a text message
	jobTextStep   = "text-step"  // what a host has done, as a text message
	jobTextCode   = "text-code"  // the code that proves a client's number
	jobTextHost   = "text-host"  // news of a booking for one of its hosts
	jobRemains    = "remains"    // what is outside of a meeting that nobody has a seat in any more
)

// What jobs are about, beside bookings.
const (
	subjectLetter = "letter" // what it says is in the store
	subjectHouse  = "house"

	subjectMeeting = "meeting" // that nobody has a seat in any more
)

// The services that jobs need. Each calendar server is one of its own.
const (
	laneMail      = "mail"
	laneRooms     = "rooms"
	laneTexts     = "texts"
	laneCalendars = "calendars "
	laneOwn       = "own" // what needs none
)

const (
	tellAnyway  = time.Minute        // then the mails go out without a room: a client waits for them
	enterAnyway = 5 * time.Second    // then the entry is written without it, and once more when it is there
	tellFor     = 3 * 24 * time.Hour // and until the meeting; later, what a mail or an entry says is no news
)

func (a *App) kinds() map[string]job.Kind {
	return map[string]job.Kind{
		jobRoom: {Do: a.ofBooking(a.keepRoom)}, jobCalendar: {Do: a.ofBooking(a.keepEvent)},
		jobMailClient: {Do: a.ofBooking(a.mailClient), GivenUp: endSeriesWith}, jobMailHost: {Do: a.ofBooking(a.mailHost), GivenUp: endSeriesWith},
		jobLetter: {Do: a.deliver, GivenUp: loseLetter}, calsync.JobReading: {Do: a.calendars.Again}, jobLapse: {Do: a.lapse}, jobOfferOver: {Do: a.offerOver}, jobOldFiles: {Do: a.dropOldFiles},
		jobClock: {Do: a.sendDue}, jobTimed: {Do: a.mailTimed}, jobText: {Do: a.textTimed}, jobTextStep: {Do: a.ofBooking(a.textStep)},
		jobTextCode: {Do: a.ofBooking(a.textCode)}, jobTextHost: {Do: a.ofBooking(a.textHost)},
		jobRemains: {Do: a.remains}, jobDecide: {Do: a.decideSession},
	}
}

// planStanding plans what is done again and again, and what an earlier version did without a job.
func (a *App) planStanding(ctx context.Context) error {
	return a.Store.Write(ctx, func(q *sqlc.Queries) error {
		calendars, err := q.CalendarsWithoutReading(ctx)
		if err != nil {
			return err
		}
		for _, c := range calendars {
			if err := a.calendars.Plan(ctx, q, c); err != nil {
				return err
			}
		}
		waiting, err := q.Waiting(ctx)
		if err != nil {
			return err
		}
		for _, b := range waiting {
			if err := a.planLapse(ctx, q, b.ID, b.LapsesAt); err != nil {
				return err
			}
		}
		now := a.Now()
		for _, kind := range []string{jobOldFiles, jobClock} {
			if _, err := job.Plan(ctx, q, now, job.Keyed(job.New{Kind: kind, Lane: laneOwn, Subject: subjectHouse, Due: now})); err != nil {
				return err
			}
		}
		return nil
	})
}

// Wake lets jobs that are due be done at once.
func (a *App) Wake() { a.jobs.Wake() }

// ofBooking is a job about a booking, as it is then. A later change has jobs of its own, and they bring everything to the present
// state.
func (a *App) ofBooking(do func(context.Context, facts, sqlc.Job) (job.Ending, error)) func(context.Context, sqlc.Job) (job.Ending, error) {
	return func(ctx context.Context, j sqlc.Job) (job.Ending, error) {
		booking, err := a.Store.Booking(ctx, j.SubjectID)
		if err != nil {
			return nil, err
		}
		if j.Revision < booking.Revision {
			return nil, job.ErrDropped
		}
		f, err := a.facts(ctx, booking)
		if err != nil {
			return nil, err
		}
		return do(ctx, f, j)
	}
}

// plan writes down what has to happen after a step.
func (a *App) plan(ctx context.Context, q *sqlc.Queries, b sqlc.Booking, s step, kinds []string) error {
	now := a.Now()
	useful := time.Unix(max(now.Add(tellFor).Unix(), b.EndAt), 0)
	if err := a.planTexts(ctx, q, b, s, kinds); err != nil {
		return err
	}
	if s.kind == string(life.Hold) {
		phone, err := codePhone(ctx, q, b.ID)
		if err != nil {
			return err
		}
		if phone != "" { // by mail it would prove nothing about the number
			return a.planCode(ctx, q, b)
		}
	}
	var room int64
	for _, kind := range kinds {
		n := job.New{Kind: kind, Subject: subjectBooking, SubjectID: b.ID, Revision: b.Revision, Occasion: s.kind, Series: s.series, Due: now, Expires: useful}
		if kind == jobCalendar {
			entry, err := entryOf(ctx, q, b, n)
			if err != nil {
				return err
			}
			if err := a.planEntries(ctx, q, entry, b.MeetingID, room); err != nil {
				return err
			}
			continue
		}
		n.Lane = laneMail
		if kind == jobRoom {
			n.Lane, n.Expires = laneRooms, time.Unix(b.StartAt, 0)
			if b.State == "cancelled" {
				n.Expires = now.Add(tellFor)
			}
		} else if room != 0 {
			n.After, n.Until = room, now.Add(tellAnyway)
		}
		id, err := job.Plan(ctx, q, now, job.Keyed(n))
		if err != nil {
			return err
		}
		if kind == jobRoom {
			room = id
		}
	}
	return nil
}

// planEntries is a job for each host's calendar. Who has left a booking and has no entry of it any more, is forgotten.
func (a *App) planEntries(ctx context.Context, q *sqlc.Queries, n job.New, meeting, room int64) error {
	parts, err := q.HostsOfMeeting(ctx, meeting)
	if err != nil {
		return err
	}
	for _, part := range parts {
		calendar, _, err := a.eventCalendar(ctx, q, part)
		switch {
		case errors.Is(err, job.ErrDropped) && part.State == schedule.HostLeft:
			err = forgetLeft(ctx, q, part)
		case errors.Is(err, job.ErrDropped):
			err = nil
		case err == nil:
			err = a.planEntry(ctx, q, n, room, part.PersonID, calendar)
		}
		if err != nil {
			return err
		}
	}
	return nil
}

func (a *App) planEntry(ctx context.Context, q *sqlc.Queries, n job.New, room, person int64, calendar sqlc.Calendar) error {
	n.Kind = jobCalendar
	return a.planEntryOf(ctx, q, n, room, person, calendar)
}

func (a *App) planEntryOf(ctx context.Context, q *sqlc.Queries, n job.New, room, person int64, calendar sqlc.Calendar) error {
	account, err := q.Account(ctx, calendar.AccountID)
	if err != nil {
		return err
	}
	n.Lane, n.Person = laneCalendars+calsync.ServerName(account.Address), person
	if room != 0 {
		n.After, n.Until = room, n.Due.Add(enterAnyway)
	}
	_, err = job.Plan(ctx, q, n.Due, job.Keyed(n))
	return err
}

// planEntryAnew writes its hosts' entries once more, as the booking is.
func (a *App) planEntryAnew(ctx context.Context, q *sqlc.Queries, b sqlc.Booking) error {
	now := a.Now()
	anew, err := entryOf(ctx, q, b, job.New{Subject: subjectBooking, SubjectID: b.ID, Revision: b.Revision, Occasion: string(life.Book), Due: now, Expires: now.Add(tellFor)})
	if err != nil {
		return err
	}
	return a.planEntries(ctx, q, anew, b.MeetingID, 0)
}

// stepRoom is the occasion of mails that bring a room after the others had gone without it.
const stepRoom = "room"

func (a *App) keepRoom(ctx context.Context, f facts, j sqlc.Job) (job.Ending, error) {
	b := f.booking
	if b.MeetingState == "cancelled" || !hasFreshRoom(b) {
		return nil, a.Rooms.Close(ctx, b.MeetingUid)
	}
	wish := RoomWish{Title: b.TypeName, From: time.Unix(b.StartAt, 0).UTC(), To: time.Unix(b.EndAt, 0).UTC(), RoomOptions: formOf(b).Way.Room}
	room, err := a.Rooms.Keep(ctx, b.MeetingUid, wish)
	if err != nil {
		return nil, err
	}
	text, err := json.Marshal(room)
	if err != nil || string(text) == b.Room {
		return nil, err
	}
	return func(ctx context.Context, q *sqlc.Queries) error {
		now, err := q.Booking(ctx, b.ID)
		if err != nil || now.Room == string(text) {
			return err // told with another client of the meeting meanwhile
		}
		if err := q.SetRoom(ctx, sqlc.SetRoomParams{MeetingID: b.MeetingID, Room: string(text)}); err != nil {
			return err
		}
		return a.tellLateRoom(ctx, q, b, j)
	}, nil
}

// tellLateRoom lets those hear of a room who were told of their meeting without one: in the same invitation, with the next SEQUENCE.
// Mails and entries that wait have it in them anyway.
func (a *App) tellLateRoom(ctx context.Context, q *sqlc.Queries, b sqlc.Booking, j sqlc.Job) error {
	var told []string
	for _, kind := range []string{jobCalendar, jobMailClient, jobMailHost} {
		waiting, err := q.JobsOf(ctx, sqlc.JobsOfParams{Subject: j.Subject, SubjectID: j.SubjectID, Kind: kind})
		if err != nil {
			return err
		}
		if !slices.ContainsFunc(waiting, func(w sqlc.Job) bool { return w.Revision == j.Revision && w.Begun == 0 }) {
			told = append(told, kind)
		}
	}
	if !slices.Contains(told, jobMailClient) { // nothing has gone out to the client yet
		if slices.Contains(told, jobCalendar) {
			return a.planEntryAnew(ctx, q, b)
		}
		return nil
	}
	if err := q.RaiseSequence(ctx, b.MeetingID); err != nil {
		return err
	}
	if schedule.Shared(b) {
		return a.tellRoomToAll(ctx, q, b)
	}
	booking, err := q.Booking(ctx, j.SubjectID)
	if err != nil {
		return err
	}
	if err := q.MoveJobsOn(ctx, sqlc.MoveJobsOnParams{Subject: j.Subject, SubjectID: j.SubjectID, Was: j.Revision, Revision: booking.Revision}); err != nil {
		return err
	}
	return a.plan(ctx, q, booking, step{kind: stepRoom}, told)
}

// keepEvent brings the entry in one host's calendar to the booking's state; who has left the booking, has none.
func (a *App) keepEvent(ctx context.Context, f facts, j sqlc.Job) (job.Ending, error) {
	if j.PersonID == 0 { // planned by an earlier version, for all hosts
		return func(ctx context.Context, q *sqlc.Queries) error {
			return a.planEntryAnew(ctx, q, f.booking)
		}, nil
	}
	part, err := a.Store.HostOfMeeting(ctx, sqlc.HostOfMeetingParams{MeetingID: f.booking.MeetingID, PersonID: j.PersonID})
	if errors.Is(err, store.ErrNotFound) {
		return nil, job.ErrDropped
	}
	if err != nil {
		return nil, err
	}
	host, err := a.Anybody(ctx, a.Store.Queries, part.PersonID)
	if err != nil {
		return nil, err
	}
	f = f.forHost(host)
	if f.clients, err = a.clientsSharing(ctx, f.booking); err != nil {
		return nil, err
	}
	calendar, href, err := a.eventCalendar(ctx, a.Store.Queries, part)
	forget := func(ctx context.Context, q *sqlc.Queries) error { return forgetLeft(ctx, q, part) }
	if errors.Is(err, job.ErrDropped) && part.State == schedule.HostLeft {
		return forget, nil
	}
	if err != nil {
		return nil, err
	}
	if href == "" {
		href = strings.TrimSuffix(calendar.Href, "/") + "/" + url.PathEscape(f.booking.MeetingUid) + ".ics"
	}
	entry, err := a.entryAt(ctx, part, calendar, href)
	if err != nil {
		return nil, err
	}
	if part.State == "booked" {
		return a.writeEvent(ctx, f, entry)
	}
	if err := a.removeEvent(ctx, entry, f.booking.MeetingUid); err != nil || part.State != schedule.HostLeft {
		return nil, err
	}
	return forget, nil
}

// eventEntry is where a booking's entry is in one host's calendar, and what was last written there.
type eventEntry struct {
	part     sqlc.MeetingHost
	calendar int64
	folder   string // the calendar's address
	login    calsync.Login
	href     string
	last     invite.Written
}

// written tells whether the entry was written before.
func (e eventEntry) written() bool { return e.part.EventWritten != "" }

func (a *App) entryAt(ctx context.Context, part sqlc.MeetingHost, calendar sqlc.Calendar, href string) (eventEntry, error) {
	login, err := a.calendars.Login(ctx, calendar.AccountID)
	entry := eventEntry{part: part, calendar: calendar.ID, folder: calendar.Href, login: login, href: href}
	_ = json.Unmarshal([]byte(part.EventWritten), &entry.last) // empty text: nothing was written yet, or by an earlier version
	return entry, err
}

// buffer is the address of the entry for a buffer.
func (e eventEntry) buffer(side invite.Side) string {
	return strings.TrimSuffix(e.href, ".ics") + "-" + string(side) + ".ics"
}

func forgetLeft(ctx context.Context, q *sqlc.Queries, part sqlc.MeetingHost) error {
	return q.ForgetLeft(ctx, sqlc.ForgetLeftParams{MeetingID: part.MeetingID, PersonID: part.PersonID})
}

// writeEvent brings the entry, and those for its buffers, to the booking's state.
func (a *App) writeEvent(ctx context.Context, f facts, e eventEntry) (job.Ending, error) {
	m := f.hostEntry()
	there, err := a.putEvent(ctx, e, m)
	if err == nil {
		err = a.putBuffers(ctx, e, m)
	}
	if errors.Is(err, calsync.ErrReadOnly) {
		err = errors.Join(err, a.Store.Write(ctx, func(q *sqlc.Queries) error { return q.SetReadOnly(ctx, e.calendar) }))
	}
	if err != nil {
		return nil, err
	}
	text, err := json.Marshal(m.Written())
	return func(ctx context.Context, q *sqlc.Queries) error {
		return q.SetBookingEvent(ctx, sqlc.SetBookingEventParams{
			MeetingID: e.part.MeetingID, PersonID: e.part.PersonID, EventCalendar: store.NullID(e.calendar), EventHref: there.Href, EventEtag: there.ETag, EventWritten: string(text),
		})
	}, err
}

func (a *App) removeEvent(ctx context.Context, e eventEntry, uid string) error {
	for side, there := range map[invite.Side]bool{invite.Before: e.last.Before, invite.After: e.last.After} {
		if there {
			if err := a.removeAt(ctx, e, e.buffer(side), invite.BufferUID(uid, side)); err != nil {
				return err
			}
		}
	}
	return a.removeAt(ctx, e, e.href, uid)
}

// removeAt removes a resource that we wrote, wherever the server keeps it: what isn't at the address that we gave it may still be there.
func (a *App) removeAt(ctx context.Context, e eventEntry, href, uid string) error {
	there, err := a.placed(ctx, e, href, uid)
	if err != nil || there.ETag == "" {
		return err
	}
	return a.Servers.Delete(ctx, e.login, there.Href)
}

// placed is a resource of ours as it is now: at its address, or where the server keeps what has its UID. Some give what is written to them
// an address of their own.
func (a *App) placed(ctx context.Context, e eventEntry, href, uid string) (calsync.Resource, error) {
	there, err := a.Servers.Get(ctx, e.login, href)
	if err != nil || there.ETag != "" || !e.written() {
		return there, err
	}
	return a.Servers.Find(ctx, e.login, e.folder, uid)
}

// eventCalendar is the calendar that holds a host's entry, or the one that would receive it, with the entry's address there if it
// has one. Without a calendar there is nothing to do.
func (a *App) eventCalendar(ctx context.Context, q *sqlc.Queries, part sqlc.MeetingHost) (calendar sqlc.Calendar, href string, err error) {
	if part.EventHref != "" && part.EventCalendar.Valid {
		calendar, err = q.Calendar(ctx, part.EventCalendar.Int64)
		return calendar, part.EventHref, err
	}
	// If its calendar was disconnected, the entry goes on in the one that receives bookings now.
	calendar, err = q.ReceivingCalendar(ctx, part.PersonID)
	if errors.Is(err, store.ErrNotFound) {
		return calendar, "", job.ErrDropped
	}
	return calendar, "", err
}

// mostConflicts is how often an entry is read again because somebody changed it between reading and writing.
const mostConflicts = 4

// putEvent writes the entry: into what is there now, so that whatever its host has added stays. Who writes between our reading
// and our writing is not written over; it is read again. It returns where the entry is, and its ETag.
func (a *App) putEvent(ctx context.Context, e eventEntry, m invite.Meeting) (calsync.Resource, error) {
	there, err := a.placed(ctx, e, e.href, m.UID)
	for range mostConflicts {
		if err != nil {
			return calsync.Resource{}, err
		}
		text, err := m.Update(there.ICS, e.last)
		if err != nil {
			return calsync.Resource{}, err
		}
		at := calsync.Resource{Href: cmp.Or(there.Href, e.href)}
		at.ETag, err = a.Servers.Put(ctx, e.login, at.Href, there.ETag, text)
		if !errors.Is(err, calsync.ErrChanged) {
			return at, err
		}
		there, err = a.conflicting(ctx, e, at.Href, m.UID)
		if err != nil {
			return calsync.Resource{}, err
		}
	}
	return calsync.Resource{}, errors.New("the entry in the calendar is being changed there all the time; it will be tried again")
}

// conflicting is what stands in the way of writing a resource: what is at its address now, or has its UID elsewhere.
func (a *App) conflicting(ctx context.Context, e eventEntry, href, uid string) (calsync.Resource, error) {
	there, err := a.Servers.Get(ctx, e.login, href)
	if err != nil || there.ETag != "" {
		return there, err
	}
	return a.Servers.Find(ctx, e.login, e.folder, uid)
}

// putBuffers keeps an entry for each buffer, so that other programs see the whole time that is kept.
func (a *App) putBuffers(ctx context.Context, e eventEntry, m invite.Meeting) error {
	had := map[invite.Side]bool{invite.Before: e.last.Before, invite.After: e.last.After}
	for side, there := range had {
		text, err := m.Buffer(side)
		if err != nil {
			return err
		}
		if text == nil {
			if there {
				err = a.removeAt(ctx, e, e.buffer(side), invite.BufferUID(m.UID, side))
			}
		} else {
			err = a.putOver(ctx, e, e.buffer(side), invite.BufferUID(m.UID, side), text)
		}
		if err != nil {
			return err
		}
	}
	return nil
}

// putOver writes an entry of which nothing has to be kept.
func (a *App) putOver(ctx context.Context, e eventEntry, href, uid string, text []byte) error {
	_, err := a.Servers.Put(ctx, e.login, href, "", text)
	if !errors.Is(err, calsync.ErrChanged) {
		return err
	}
	there, err := a.conflicting(ctx, e, href, uid)
	if err != nil {
		return err
	}
	_, err = a.Servers.Put(ctx, e.login, cmp.Or(there.Href, href), there.ETag, text)
	return err
}

func (a *App) mailClient(ctx context.Context, f facts, j sqlc.Job) (job.Ending, error) {
	if _, told := words.For(f.occasion(j.Occasion), words.Client); !told { // planned by an earlier version
		return nil, job.ErrDropped
	}
	if already, err := a.toldAlready(ctx, f.booking, j.Occasion); err != nil || already {
		return nil, errors.Join(err, job.ErrDropped)
	}
	f = f.forClient()
	ics, err := f.clientEntry().Invitation()
	if err != nil {
		return nil, err
	}
	last, err := a.lastStep(ctx, f.booking, j.Occasion)
	if err != nil {
		return nil, err
	}
	others, err := a.seriesWith(ctx, j)
	if err != nil {
		return nil, err
	}
	m := mailOf(f.clientLetter(last, others))
	m.ID = a.messageID(j)
	m.FromName, m.ReplyTo = f.workspace, f.host.Address()
	m.To, m.Back = schedule.Address{Name: f.booking.ClientName, Mail: f.booking.ClientMail}, a.back(backOfClient, f.booking.ID)
	if j.Occasion != stepAsked && f.booking.Invited == 1 {
		m.Invite, m.InviteFor = ics, f.meeting("").Method()
		if m.Others, err = invitations(others); err != nil {
			return nil, err
		}
		if err := m.attachDates(f, others); err != nil {
			return nil, err
		}
	}
	out := []Mail{m}
	if kind, told := words.For(f.occasion(j.Occasion), words.Guests); told && m.Invite != nil {
		guests, err := a.guestMails(ctx, f, kind, m)
		if err != nil {
			return nil, err
		}
		out = append(out, guests...)
	}
	return a.saying(ctx, j, out, spokenFor(j))
}

// guestMails are for those whom the client brings. Each gets an invitation of their own, made of what guests may know: not
// the link, the remark or the answers.
func (a *App) guestMails(ctx context.Context, f facts, kind words.Kind, m Mail) ([]Mail, error) {
	guests := formOf(f.booking).Guests
	by, known, err := a.broughtBy(ctx, f.booking)
	if err != nil {
		return nil, err
	}
	id := m.ID
	m.Back = a.back(backOfGuest, f.booking.ID)
	m.Others, m.Files = nil, nil // made for the client, with the links
	out := make([]Mail, len(guests))
	for i, guest := range guests {
		if m.Invite, err = f.guestMeeting(guest, known).Invitation(); err != nil {
			return nil, err
		}
		text := mailOf(f.guestLetter(kind, by, known))
		m.Subject, m.Text, m.HTML, m.To, m.ID = text.Subject, text.Text, text.HTML, schedule.Address{Mail: guest}, fmt.Sprintf("guest-%d-%s", i, id)
		out[i] = m
	}
	return out, nil
}

// broughtBy is how a client is named to those whom they bring, and whether somebody knows who the client is.
func (a *App) broughtBy(ctx context.Context, b sqlc.Booking) (name string, known bool, err error) {
	if known, err = a.clientKnown(ctx, b); known {
		return b.ClientName, true, err
	}
	return b.ClientMail, false, err
}

// clientKnown tells whether somebody has made sure who the client is: their address or number was proven by a code, or a host has
// approved or entered the booking. Until then nothing that the client wrote freely goes to the guests they name.
func (a *App) clientKnown(ctx context.Context, b sqlc.Booking) (bool, error) {
	steps, err := a.Store.StepsOf(ctx, b.ID)
	return slices.ContainsFunc(steps, func(s sqlc.BookingStep) bool {
		return s.Kind == string(life.Hold) && b.Life != string(life.Unproved) || s.Kind == string(life.Approve) || s.Kind == string(life.Book) && s.By == "host"
	}), err
}

// sendAll sends the letters of a job. One that is refused holds up no other, and when the job is tried again, only those go
// out that have not.
func (a *App) sendAll(ctx context.Context, j sqlc.Job, letters []Mail) error {
	if len(letters) == 1 {
		return a.send(ctx, letters[0])
	}
	var troubles []error
	for _, m := range letters {
		if err := a.sendOnce(ctx, j, m); err != nil {
			troubles = append(troubles, fmt.Errorf("%s: %w", m.To.Mail, err))
		}
	}
	return errors.Join(troubles...)
}

// send sends a letter under a name that no other installation gives (RFC 5322, 3.6.4).
func (a *App) send(ctx context.Context, m Mail) error {
	m.ID += "." + a.name
	if a.Store.WasSent(m.ID) {
		return nil
	}
	err := a.Mailer.Send(ctx, m)
	if err == nil {
		if failed := a.Store.MarkSent(m.ID); failed != nil {
			a.Log.WarnContext(ctx, "that a mail went out could not be noted", "error", failed)
		}
	}
	return err
}

func (a *App) sendOnce(ctx context.Context, j sqlc.Job, m Mail) error {
	sent, err := a.Store.LetterGone(ctx, sqlc.LetterGoneParams{JobID: j.ID, Letter: m.ID})
	if err != nil || sent > 0 {
		return err
	}
	if err := a.send(ctx, m); err != nil {
		return err
	}
	return a.Store.Write(context.WithoutCancel(ctx), func(q *sqlc.Queries) error {
		return q.AddLetterGone(ctx, sqlc.AddLetterGoneParams{JobID: j.ID, Letter: m.ID})
	})
}

func (a *App) mailHost(ctx context.Context, f facts, j sqlc.Job) (job.Ending, error) {
	if _, told := words.For(f.occasion(j.Occasion), words.Hosts); !told { // planned by an earlier version
		return nil, job.ErrDropped
	}
	last, err := a.lastStep(ctx, f.booking, j.Occasion)
	if err != nil {
		return nil, err
	}
	others, err := a.seriesWith(ctx, j)
	if err != nil {
		return nil, err
	}
	if len(others) > 0 {
		letters, err := a.hostsOfSeries(ctx, append([]facts{f}, others...), last, a.messageID(j))
		if err != nil {
			return nil, err
		}
		return a.saying(ctx, j, letters, spokenFor(j))
	}
	told, err := a.toldHosts(ctx, f, last, a.messageID(j))
	if err != nil {
		return nil, err
	}
	var out []Mail
	for _, host := range told {
		m, err := a.hostMail(ctx, f, last, nil, host)
		if err != nil {
			return nil, err
		}
		out = append(out, m)
	}
	if out = append(out, f.copies(last, nil, a.messageID(j))...); len(out) == 0 { // nobody wants to be told of it
		return nil, job.ErrDropped
	}
	return a.saying(ctx, j, out, spokenFor(j))
}

// toldHost is a host who is mailed about a step, with the letter's ID.
type toldHost struct {
	person int64
	id     string
}

// toldHosts is all who host the booking, and who has handed it over, as far as they want to be told of it.
func (a *App) toldHosts(ctx context.Context, f facts, last step, id string) (out []toldHost, err error) {
	all, err := a.concerned(ctx, f, last, id)
	for _, host := range all {
		wants, err := a.wantsNews(ctx, host.person, f, last)
		if err != nil {
			return nil, err
		}
		if wants {
			out = append(out, host)
		}
	}
	return out, err
}

// concerned is all who host the booking, and who has handed it over.
func (a *App) concerned(ctx context.Context, f facts, last step, id string) ([]toldHost, error) {
	var out []toldHost
	if last.kind == stepReassigned && last.person != last.from {
		out = append(out, toldHost{last.from, id + "-from"})
	}
	parts, err := a.Store.HostsOfMeeting(ctx, f.booking.MeetingID)
	for _, part := range parts {
		switch {
		case part.State == schedule.HostLeft:
		case part.PersonID == f.booking.HostID:
			out = append(out, toldHost{part.PersonID, id})
		default:
			out = append(out, toldHost{part.PersonID, fmt.Sprintf("%s-%d", id, part.PersonID)})
		}
	}
	return out, err
}

// copies is what the leading host is told, for the addresses that are told of every booking of the type.
func (f facts) copies(last step, others []facts, id string) []Mail {
	var out []Mail
	for i, address := range f.always {
		m := mailOf(f.forHost(f.host).hostLetter(last, others))
		m.ID, m.FromName, m.copied = fmt.Sprintf("%s-copy-%d", id, i), f.workspace, true
		m.To, m.ReplyTo = schedule.Address{Mail: address}, f.host.Address()
		out = append(out, m)
	}
	return out
}

func (a *App) hostMail(ctx context.Context, f facts, last step, others []facts, to toldHost) (m Mail, err error) {
	host, err := a.Anybody(ctx, a.Store.Queries, to.person)
	if err != nil {
		return m, err
	}
	f = f.forHost(host)
	m = mailOf(f.hostLetter(last, others))
	m.ID = to.id
	m.FromName, m.ReplyTo = f.workspace, schedule.Address{Name: f.booking.ClientName, Mail: f.booking.ClientMail}
	if f.booking.Session == 1 { // there is no client to answer
		m.ReplyTo = f.host.Address()
	}
	m.To, m.Back = f.host.Address(), a.back(backOfHost, f.booking.ID)
	return m, nil
}

// lastStep is the booking's last step of a kind: who did it, and with what word.
func (a *App) lastStep(ctx context.Context, b sqlc.Booking, kind string) (step, error) {
	if kind == stepRoom {
		return step{kind: stepRoom}, nil // nobody took it
	}
	row, err := a.Store.LastStep(ctx, sqlc.LastStepParams{BookingID: b.ID, Kind: kind})
	last := step{kind: row.Kind, by: row.By, note: row.Note, person: row.PersonID.Int64, from: row.FromID.Int64, to: row.ToID.Int64}
	if err != nil || kind != stepReassigned {
		return last, err
	}
	moved, err := a.Store.LastStep(ctx, sqlc.LastStepParams{BookingID: b.ID, Kind: string(life.Move)})
	if errors.Is(err, store.ErrNotFound) {
		return last, nil
	}
	last.moved = moved.At == row.At && moved.ID < row.ID && moved.FromID == row.FromID && moved.ToID == row.ToID // the two belong together
	return last, err
}

// messageID is the name of what a job sends: the same however often it is tried, and never that of another job, not even once a copy of
// the database was restored and its numbers are given again.
func (a *App) messageID(j sqlc.Job) string {
	for _, run := range a.runs {
		if run.FromJob <= j.ID {
			return fmt.Sprintf("outbox-%s-%d-%s", run.Name, j.ID, j.Kind)
		}
	}
	return fmt.Sprintf("outbox-%d-%s", j.ID, j.Kind) // planned by an earlier version
}

// newRun begins to give names of its own to what is planned from now on, and returns all that are in use, the newest first.
func newRun(ctx context.Context, s *store.Store) (runs []sqlc.Run, err error) {
	err = s.Write(ctx, func(q *sqlc.Queries) error {
		next, err := q.NextJob(ctx)
		if err != nil {
			return err
		}
		if err := q.EndOldRuns(ctx); err != nil {
			return err
		}
		if err := q.AddRun(ctx, sqlc.AddRunParams{FromJob: next, Name: secrets.New()[:8]}); err != nil {
			return err
		}
		runs, err = q.Runs(ctx)
		return err
	})
	return runs, err
}

// facts is a booking with what its mails and calendar entries say beside it.
type facts struct {
	booking   sqlc.Booking
	host      schedule.Person
	names     map[int64]string // of the people of the workspace
	hosts     []int64          // all who take part for the workspace, the leading one first
	always    []string         // addresses that are told of every booking of the type
	after     string           // the workspace's words for what comes next
	code      string           // that proves the client's address, or the number it goes to
	codePhone string
	workspace string
	baseURL   string
	link      string
	now       time.Time
	w         *words.Words // of whoever reads it; the leading host's until it is said whose
	room      Room         // as far as whoever reads it may know it; none until it is said who
	own       messageRules // the messages that hold for its type
	rule      int64        // which of them this is about; 0 is what is told at once

	party      []sqlc.Booking    // seats that were taken with it in the same meeting, itself among them
	clients    []sqlc.Booking    // all who share the meeting, in a host's entry
	organizers map[backOf]string // who answers to an invitation go to, if that isn't the host
}

func (a *App) facts(ctx context.Context, b sqlc.Booking) (facts, error) {
	host, err := a.Anybody(ctx, a.Store.Queries, b.HostID)
	if err != nil {
		return facts{}, err
	}
	named, err := a.Names(ctx, host.Home.ID)
	if err != nil {
		return facts{}, err
	}
	parts, err := a.Store.HostsOfMeeting(ctx, b.MeetingID)
	if err != nil {
		return facts{}, err
	}
	hosts := []int64{b.HostID}
	for _, part := range parts {
		if part.State != schedule.HostLeft && part.PersonID != b.HostID {
			hosts = append(hosts, part.PersonID)
		}
	}
	row, err := a.Store.MeetingType(ctx, b.TypeID)
	if err != nil {
		return facts{}, err
	}
	offer, err := schedule.BookingPageOf(row)
	if err != nil {
		return facts{}, err
	}
	phone, err := codePhone(ctx, a.Store.Queries, b.ID)
	if err != nil {
		return facts{}, err
	}
	party, err := beside(ctx, a.Store.Queries, b)
	if err != nil {
		return facts{}, err
	}
	own, err := messagesHeld(ctx, a.Store.Queries, host.Home.ID, b.TypeID)
	organizers := map[backOf]string{}
	if b.RepliesHere == 1 {
		organizers[backOfClient], organizers[backOfGuest] = a.back(backOfClient, b.ID), a.back(backOfGuest, b.ID)
	}
	return facts{
		organizers: organizers, party: party,
		booking: b, host: host, names: named, hosts: hosts, always: offer.Always, after: offer.AfterWords, code: a.codeOf(b, phone), codePhone: phone,
		workspace: host.Home.Name, baseURL: a.BaseURL, link: a.BaseURL + "/b/" + a.secrets.Link(b.Uid), now: a.Now(), w: words.In(host.Language), own: own,
	}, err
}

// with names all whom the client meets.
func (f facts) with() string {
	names := make([]string, len(f.hosts))
	for i, id := range f.hosts {
		names[i] = f.names[id]
	}
	return f.w.List(names)
}

// besides names those who host the meeting beside the one who reads; for somebody who has handed it over, nobody does.
func (f facts) besides() string {
	if !slices.Contains(f.hosts, f.host.ID) {
		return ""
	}
	f.hosts = slices.DeleteFunc(slices.Clone(f.hosts), func(id int64) bool { return id == f.host.ID })
	return f.with()
}

// meeting is the booking as core/invite writes it, with the given text.
func (f facts) meeting(text string) invite.Meeting {
	b := f.booking
	return invite.Meeting{
		UID: b.Uid, Sequence: int(b.Sequence), Stamp: span.At(f.now), When: schedule.MeetingSpan(b), Kept: schedule.KeptSpan(b),
		Title: f.w.Say("entry.title", words.With{"type": b.TypeName, "client": b.ClientName, "hosts": f.with()}), JoinLabel: f.w.Say("entry.join", nil), Text: text, JoinURL: f.room.URL, Location: formOf(b).Way.Location(),
		Host: invite.Party{Name: f.host.Name, Mail: f.host.Mail}, Client: invite.Party{Name: b.ClientName, Mail: b.ClientMail},
		Guests: parties(formOf(b).Guests), Standing: life.State(b.Life).Stands(),
	}
}

func parties(mails []string) []invite.Party {
	out := make([]invite.Party, len(mails))
	for i, mail := range mails {
		out[i].Mail = mail
	}
	return out
}

// guestMeeting is the booking for a guest's calendar; the client's own words are in it only if the client is known.
func (f facts) guestMeeting(guest string, known bool) invite.Meeting {
	m := f.meeting(letter.Lines(f.guestFacts(known)))
	m.Host.Mail = cmp.Or(f.organizers[backOfGuest], m.Host.Mail)
	m.Guests, m.Location = parties([]string{guest}), formOf(f.booking).Way.GuestsPlace(known)
	if !known {
		m.Title, m.Client.Name = f.w.Write("guest-invited", words.With{"type": f.booking.TypeName, "hosts": f.with()}).Subject, ""
	}
	return m
}
