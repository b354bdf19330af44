package app

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/url"
	"slices"
	"strings"
	"sync"
	"time"

	"corrim/core/invite"
	"corrim/core/life"
	"corrim/core/span"
	"corrim/core/wording"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// The tasks of the outbox. Each brings the outside to the booking's present state, so that doing one twice, or late,
// does no harm.
const (
	taskRoom       = "room"
	taskCalendar   = "calendar"
	taskMailClient = "mail-client"
	taskMailHost   = "mail-host"
)

const (
	taskTime     = 20 * time.Second
	mostAttempts = 12 // with back-off, about a day and a half
	roomAttempts = 5  // then the mails go out without a room: a client waits for them
	firstBackOff = 5 * time.Second
	longestDelay = 6 * time.Hour
)

// errDropped means that a task no longer applies.
var errDropped = errors.New("no longer applies")

func (a *App) wakeWorker() {
	select {
	case a.wake <- struct{}{}:
	default: // it is awake already
	}
}

// workOutboxForever does what is due, then sleeps until it is woken, a task ends, or something else comes due. A slow
// service holds up nothing but its own tasks.
func (a *App) workOutboxForever(ctx context.Context) {
	w := worker{app: a, running: map[int64]bool{}}
	defer w.ended.Wait()
	for ctx.Err() == nil {
		if err := w.start(ctx); err != nil && ctx.Err() == nil {
			a.Log.Error("working the outbox", "error", err)
		}
		select {
		case <-ctx.Done():
		case <-a.wake:
		case <-time.After(a.untilNextDue(ctx)):
		}
	}
}

func (a *App) untilNextDue(ctx context.Context) time.Duration {
	const longest = time.Minute
	now := a.Now().Unix()
	next, err := a.Store.NextDue(ctx, now)
	if err != nil {
		return longest
	}
	letter, err := a.Store.NextLetterDue(ctx, now)
	if err != nil {
		return longest
	}
	wait := longest
	for _, due := range []int64{next, letter} {
		if due != 0 {
			wait = min(wait, time.Duration(due-now)*time.Second)
		}
	}
	return wait
}

// worker does tasks side by side. The store hands out at most one of each kind per booking, so none is in another's way.
type worker struct {
	app     *App
	mu      sync.Mutex
	running map[int64]bool // by task
	ended   sync.WaitGroup
}

const sideBySide = 8

// start begins the tasks that are due and not begun yet, as far as there is room.
func (w *worker) start(ctx context.Context) error {
	// Asked under the lock: a task that ends meanwhile is then either not due any more or still among the running.
	w.mu.Lock()
	defer w.mu.Unlock()
	tasks, err := w.app.Store.DueTasks(ctx, w.app.Now().Unix())
	if err != nil {
		return err
	}
	for _, task := range tasks {
		if len(w.running) == sideBySide {
			return nil
		}
		if !w.running[task.ID] {
			w.running[task.ID] = true
			w.ended.Go(func() { w.do(ctx, task) })
		}
	}
	return w.startLetters(ctx)
}

// startLetters begins those letters that are due; their IDs are told from those of tasks by their sign.
func (w *worker) startLetters(ctx context.Context) error {
	letters, err := w.app.Store.DueLetters(ctx, w.app.Now().Unix())
	if err != nil {
		return err
	}
	for _, l := range letters {
		if len(w.running) == sideBySide {
			return nil
		}
		if !w.running[-l.ID] {
			w.running[-l.ID] = true
			w.ended.Go(func() {
				ctx, cancel := context.WithTimeout(context.WithoutCancel(ctx), taskTime)
				defer cancel()
				if err := w.app.deliver(ctx, l); err != nil {
					w.app.Log.Error("keeping how a letter went", "letter", l.ID, "error", err)
				}
				w.finished(-l.ID)
			})
		}
	}
	return nil
}

func (w *worker) finished(id int64) {
	w.mu.Lock()
	delete(w.running, id)
	w.mu.Unlock()
	w.app.wakeWorker() // there may be more, or one that waited for this
}

// do does one task. Once begun, it is finished even if the program is asked to stop.
func (w *worker) do(ctx context.Context, task sqlc.Outbox) {
	ctx, cancel := context.WithTimeout(context.WithoutCancel(ctx), taskTime)
	defer cancel()
	if err := w.app.endTask(ctx, task, w.app.doTask(ctx, task)); err != nil {
		w.app.Log.Error("keeping how a task went", "task", task.Task, "error", err)
	}
	w.finished(task.ID)
}

// endTask writes down how a task went.
func (a *App) endTask(ctx context.Context, task sqlc.Outbox, outcome error) error {
	ctx = context.WithoutCancel(ctx) // a task that ran out of time is still written down
	now := a.Now()
	attempts := task.Attempts + 1
	limit := int64(mostAttempts)
	if task.Task == taskRoom {
		limit = roomAttempts
	}
	return a.Store.Write(ctx, func(q *sqlc.Queries) error {
		switch {
		case outcome == nil:
			if err := endWithIt(ctx, q, task, "done", "", now); err != nil {
				return err
			}
			return q.EndTask(ctx, sqlc.EndTaskParams{ID: task.ID, State: "done", EndedAt: now.Unix()})
		case errors.Is(outcome, errDropped):
			return q.EndTask(ctx, sqlc.EndTaskParams{ID: task.ID, State: "dropped", EndedAt: now.Unix()})
		case attempts >= limit:
			a.Log.Error("a task was given up", "task", task.Task, "booking", task.BookingID)
			if err := endWithIt(ctx, q, task, "failed", outcome.Error(), now); err != nil {
				return err
			}
			return q.EndTask(ctx, sqlc.EndTaskParams{ID: task.ID, State: "failed", Trouble: outcome.Error(), EndedAt: now.Unix()})
		}
		a.Log.Warn("a task will be tried again", "task", task.Task, "booking", task.BookingID, "attempts", attempts)
		return q.RetryTask(ctx, sqlc.RetryTaskParams{ID: task.ID, Trouble: outcome.Error(), DueAt: now.Add(backOff(attempts)).Unix()})
	})
}

func backOff(attempts int64) time.Duration {
	return min(longestDelay, firstBackOff<<(2*min(attempts-1, 10)))
}

func (a *App) doTask(ctx context.Context, task sqlc.Outbox) error {
	booking, err := a.Store.Booking(ctx, task.BookingID)
	if err != nil {
		return err
	}
	if task.Sequence < booking.Sequence {
		return errDropped // a later change has tasks of its own, and they bring everything to the present state
	}
	f, err := a.facts(ctx, booking)
	if err != nil {
		return err
	}
	switch task.Task {
	case taskRoom:
		return a.keepRoom(ctx, booking)
	case taskCalendar:
		return a.keepEvents(ctx, f)
	case taskMailClient:
		return a.mailClient(ctx, f, task)
	default:
		return a.mailHost(ctx, f, task)
	}
}

func (a *App) keepRoom(ctx context.Context, b sqlc.Booking) error {
	if b.State == "cancelled" || !hasFreshRoom(b) {
		return a.Rooms.Close(ctx, b.Uid)
	}
	wish := RoomWish{Title: b.TypeName, From: time.Unix(b.StartAt, 0).UTC(), To: time.Unix(b.EndAt, 0).UTC(), RoomOptions: formOf(b).way.Room}
	room, err := a.Rooms.Keep(ctx, b.Uid, wish)
	if err != nil {
		return err
	}
	text, err := json.Marshal(room)
	if err != nil {
		return err
	}
	return a.Store.Write(ctx, func(q *sqlc.Queries) error {
		return q.SetBookingRoom(ctx, sqlc.SetBookingRoomParams{ID: b.ID, Room: string(text)})
	})
}

// keepEvents brings the entries in all hosts' calendars to the booking's state. One host's trouble doesn't stop the others.
func (a *App) keepEvents(ctx context.Context, f facts) error {
	parts, err := a.Store.HostsOfBooking(ctx, f.booking.ID)
	if err != nil {
		return err
	}
	var troubles []error
	dropped := 0
	for _, part := range parts {
		if err := a.keepEvent(ctx, f, part); errors.Is(err, errDropped) {
			dropped++
		} else if err != nil {
			troubles = append(troubles, err)
		}
	}
	if dropped == len(parts) {
		return errDropped
	}
	return errors.Join(troubles...)
}

// keepEvent brings the entry in one host's calendar to the booking's state; who has left the booking, has none.
func (a *App) keepEvent(ctx context.Context, f facts, part sqlc.BookingHost) error {
	var err error
	if f.host, err = a.anybody(ctx, a.Store.Queries, part.PersonID); err != nil {
		return err
	}
	calendar, href, err := a.eventCalendar(ctx, part)
	if errors.Is(err, errDropped) && part.State == hostLeft {
		return a.forgetLeft(ctx, part)
	}
	if err != nil {
		return err
	}
	login, err := a.login(ctx, calendar.AccountID)
	if err != nil {
		return err
	}
	if href == "" {
		href = strings.TrimSuffix(calendar.Href, "/") + "/" + url.PathEscape(f.booking.Uid) + ".ics"
	}
	entry := eventEntry{part: part, calendar: calendar.ID, login: login, href: href}
	_ = json.Unmarshal([]byte(part.EventWritten), &entry.last) // empty text: nothing was written yet, or by an earlier version
	if part.State == "booked" {
		return a.writeEvent(ctx, f, entry)
	}
	if err := a.removeEvent(ctx, entry); err != nil || part.State != hostLeft {
		return err
	}
	return a.forgetLeft(ctx, part)
}

// eventEntry is where a booking's entry is in one host's calendar, and what was last written there.
type eventEntry struct {
	part     sqlc.BookingHost
	calendar int64
	login    Login
	href     string
	last     invite.Written
}

// buffer is the address of the entry for a buffer.
func (e eventEntry) buffer(side invite.Side) string {
	return strings.TrimSuffix(e.href, ".ics") + "-" + string(side) + ".ics"
}

const hostLeft = "left"

func (a *App) forgetLeft(ctx context.Context, part sqlc.BookingHost) error {
	return a.Store.Write(ctx, func(q *sqlc.Queries) error {
		return q.ForgetLeft(ctx, sqlc.ForgetLeftParams{BookingID: part.BookingID, PersonID: part.PersonID})
	})
}

// writeEvent brings the entry, and those for its buffers, to the booking's state.
func (a *App) writeEvent(ctx context.Context, f facts, e eventEntry) error {
	m := f.meeting(f.hostText())
	etag, err := a.putEvent(ctx, e, m)
	if err == nil {
		err = a.putBuffers(ctx, e, m)
	}
	if errors.Is(err, ErrReadOnly) {
		err = errors.Join(err, a.Store.Write(ctx, func(q *sqlc.Queries) error { return q.SetReadOnly(ctx, e.calendar) }))
	}
	if err != nil {
		return err
	}
	text, err := json.Marshal(m.Written())
	if err != nil {
		return err
	}
	return a.Store.Write(ctx, func(q *sqlc.Queries) error {
		return q.SetBookingEvent(ctx, sqlc.SetBookingEventParams{
			BookingID: e.part.BookingID, PersonID: e.part.PersonID, EventCalendar: nullID(e.calendar), EventHref: e.href, EventEtag: etag, EventWritten: string(text),
		})
	})
}

func (a *App) removeEvent(ctx context.Context, e eventEntry) error {
	for side, there := range map[invite.Side]bool{invite.Before: e.last.Before, invite.After: e.last.After} {
		if there {
			if err := a.Servers.Delete(ctx, e.login, e.buffer(side)); err != nil {
				return err
			}
		}
	}
	return a.Servers.Delete(ctx, e.login, e.href)
}

// eventCalendar is the calendar that holds a host's entry, or the one that would receive it, with the entry's address there if it
// has one. Without a calendar there is nothing to do.
func (a *App) eventCalendar(ctx context.Context, part sqlc.BookingHost) (calendar sqlc.Calendar, href string, err error) {
	if part.EventHref != "" && part.EventCalendar.Valid {
		calendar, err = a.Store.Calendar(ctx, part.EventCalendar.Int64)
		return calendar, part.EventHref, err
	}
	// If its calendar was disconnected, the entry goes on in the one that receives bookings now.
	calendar, err = a.Store.ReceivingCalendar(ctx, part.PersonID)
	if errors.Is(err, store.ErrNotFound) {
		return calendar, "", errDropped
	}
	return calendar, "", err
}

// mostConflicts is how often an entry is read again because somebody changed it between reading and writing.
const mostConflicts = 4

// putEvent writes the entry: into what is there now, so that whatever its host has added stays. Who writes between our reading
// and our writing is not written over; it is read again.
func (a *App) putEvent(ctx context.Context, e eventEntry, m invite.Meeting) (etag string, err error) {
	for range mostConflicts {
		var there Resource
		if there, err = a.Servers.Get(ctx, e.login, e.href); err != nil {
			return "", err
		}
		text, err := m.Update(there.ICS, e.last)
		if err != nil {
			return "", err
		}
		if etag, err = a.Servers.Put(ctx, e.login, e.href, there.ETag, text); !errors.Is(err, ErrChanged) {
			return etag, err
		}
	}
	return "", errors.New("the entry in the calendar is being changed there all the time; it will be tried again")
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
				err = a.Servers.Delete(ctx, e.login, e.buffer(side))
			}
		} else {
			_, err = a.putOver(ctx, e.login, e.buffer(side), text)
		}
		if err != nil {
			return err
		}
	}
	return nil
}

// putOver writes an entry of which nothing has to be kept.
func (a *App) putOver(ctx context.Context, login Login, href string, text []byte) (string, error) {
	etag, err := a.Servers.Put(ctx, login, href, "", text)
	if !errors.Is(err, ErrChanged) {
		return etag, err
	}
	there, err := a.Servers.Get(ctx, login, href)
	if err != nil {
		return "", err
	}
	return a.Servers.Put(ctx, login, href, there.ETag, text)
}

func (a *App) mailClient(ctx context.Context, f facts, task sqlc.Outbox) error {
	ics, err := f.meeting(f.clientText()).Invitation()
	if err != nil {
		return err
	}
	last, err := a.lastStep(ctx, f.booking, task.Occasion)
	if err != nil {
		return err
	}
	others, err := a.seriesWith(ctx, task)
	if err != nil {
		return err
	}
	m := f.clientLetter(last).withDates(f, others).mail()
	m.ID = messageID(task)
	m.FromName, m.ReplyTo = f.workspace, f.host.address()
	m.To = Address{f.booking.ClientName, f.booking.ClientMail}
	if task.Occasion != stepAsked && f.booking.Invited == 1 {
		m.Invite, m.InviteFor = ics, f.meeting("").Method()
		if m.Others, err = invitations(others); err != nil {
			return err
		}
	}
	out := []Mail{m}
	if m.Invite != nil && f.concernsGuests(task.Occasion) {
		guests, err := a.guestMails(ctx, f, m)
		if err != nil {
			return err
		}
		out = append(out, guests...)
	}
	return a.sendAll(ctx, task, out)
}

// concernsGuests tells whether a step changes anything for those whom the client brings: of what a client corrects, only an
// address where one meets.
func (f facts) concernsGuests(occasion string) bool {
	return occasion != string(life.Correct) || formOf(f.booking).way.Kind == wayTheirs
}

// guestMails are for those whom the client brings. Each gets an invitation of their own, made of what guests may know: not
// the link, the remark or the answers.
func (a *App) guestMails(ctx context.Context, f facts, m Mail) ([]Mail, error) {
	guests := formOf(f.booking).guests
	if len(guests) == 0 {
		return nil, nil
	}
	known, err := a.clientKnown(ctx, f.booking)
	if err != nil {
		return nil, err
	}
	by := f.booking.ClientMail
	if known {
		by = f.booking.ClientName
	}
	id := m.ID
	m.Others = nil // made for the client, with the links
	out := make([]Mail, len(guests))
	for i, guest := range guests {
		l := letter{subject: m.Subject, Opening: by + " brings you to this meeting.", Facts: f.guestFacts(known)}
		if f.booking.Life == string(life.Cancelled) {
			l.Opening = "The meeting to which " + by + " was bringing you is cancelled."
		}
		if m.Invite, err = f.guestMeeting(guest, known).Invitation(); err != nil {
			return nil, err
		}
		text := l.mail()
		m.Text, m.HTML, m.To, m.ID = text.Text, text.HTML, Address{Mail: guest}, fmt.Sprintf("guest-%d-%s", i, id)
		out[i] = m
	}
	return out, nil
}

// clientKnown tells whether somebody has made sure who the client is: their address was proven by a code, or a host has
// approved or entered the booking. Until then nothing that the client wrote freely goes to the guests they name.
func (a *App) clientKnown(ctx context.Context, b sqlc.Booking) (bool, error) {
	steps, err := a.Store.StepsOf(ctx, b.ID)
	return slices.ContainsFunc(steps, func(s sqlc.BookingStep) bool {
		return s.Kind == string(life.Hold) && b.Life != string(life.Unproved) || s.Kind == string(life.Approve) || s.Kind == string(life.Book) && s.By == "host"
	}), err
}

// sendAll sends the letters of a task. One that is refused holds up no other, and when the task is tried again, only those go
// out that have not.
func (a *App) sendAll(ctx context.Context, task sqlc.Outbox, letters []Mail) error {
	if len(letters) == 1 {
		return a.send(ctx, letters[0])
	}
	var troubles []error
	for _, m := range letters {
		if err := a.sendOnce(ctx, task, m); err != nil {
			troubles = append(troubles, fmt.Errorf("%s: %w", m.To.Mail, err))
		}
	}
	return errors.Join(troubles...)
}

// send sends a letter under a name that no other installation gives (RFC 5322, 3.6.4).
func (a *App) send(ctx context.Context, m Mail) error {
	m.ID += "." + a.name
	return a.Mailer.Send(ctx, m)
}

func (a *App) sendOnce(ctx context.Context, task sqlc.Outbox, m Mail) error {
	sent, err := a.Store.LetterSent(ctx, sqlc.LetterSentParams{TaskID: task.ID, Letter: m.ID})
	if err != nil || sent > 0 {
		return err
	}
	if err := a.send(ctx, m); err != nil {
		return err
	}
	return a.Store.Write(context.WithoutCancel(ctx), func(q *sqlc.Queries) error {
		return q.AddLetterSent(ctx, sqlc.AddLetterSentParams{TaskID: task.ID, Letter: m.ID})
	})
}

func (a *App) mailHost(ctx context.Context, f facts, task sqlc.Outbox) error {
	last, err := a.lastStep(ctx, f.booking, task.Occasion)
	if err != nil {
		return err
	}
	others, err := a.seriesWith(ctx, task)
	if err != nil {
		return err
	}
	if len(others) > 0 {
		letters, err := a.hostsOfSeries(ctx, append([]facts{f}, others...), last, messageID(task))
		if err != nil {
			return err
		}
		return a.sendAll(ctx, task, letters)
	}
	told, err := a.toldHosts(ctx, f, last, messageID(task))
	if err != nil {
		return err
	}
	out := make([]Mail, len(told))
	for i, host := range told {
		if out[i], err = a.hostMail(ctx, f, last, nil, host); err != nil {
			return err
		}
	}
	return a.sendAll(ctx, task, append(out, f.copies(last, nil, messageID(task))...))
}

// toldHost is a host who is mailed about a step, with the letter's ID.
type toldHost struct {
	person int64
	id     string
}

// toldHosts is all who host the booking, and who has handed it over.
func (a *App) toldHosts(ctx context.Context, f facts, last step, id string) ([]toldHost, error) {
	var out []toldHost
	if last.kind == stepHanded && last.person != last.from {
		out = append(out, toldHost{last.from, id + "-from"})
	}
	parts, err := a.Store.HostsOfBooking(ctx, f.booking.ID)
	for _, part := range parts {
		switch {
		case part.State == hostLeft:
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
		m := f.hostLetter(last).withTimes(f, others).mail()
		m.ID, m.FromName = fmt.Sprintf("%s-copy-%d", id, i), f.workspace
		m.To, m.ReplyTo = Address{Mail: address}, f.host.address()
		out = append(out, m)
	}
	return out
}

func (a *App) hostMail(ctx context.Context, f facts, last step, others []facts, to toldHost) (m Mail, err error) {
	if f.host, err = a.anybody(ctx, a.Store.Queries, to.person); err != nil {
		return m, err
	}
	m = f.hostLetter(last).withTimes(f, others).mail()
	m.ID = to.id
	m.FromName, m.ReplyTo = f.workspace, Address{f.booking.ClientName, f.booking.ClientMail}
	m.To = f.host.address()
	return m, nil
}

// lastStep is the booking's last step of a kind: who did it, and with what word.
func (a *App) lastStep(ctx context.Context, b sqlc.Booking, kind string) (step, error) {
	row, err := a.Store.LastStep(ctx, sqlc.LastStepParams{BookingID: b.ID, Kind: kind})
	return step{kind: row.Kind, by: row.By, note: row.Note, person: row.PersonID.Int64, from: row.FromID.Int64, to: row.ToID.Int64}, err
}

func messageID(task sqlc.Outbox) string {
	return fmt.Sprintf("outbox-%d-%s", task.ID, task.Task)
}

// facts is a booking with what its mails and calendar entries say beside it.
type facts struct {
	booking   sqlc.Booking
	host      Person
	names     map[int64]string // of the people of the workspace
	hosts     []int64          // all who take part for the workspace, the leading one first
	always    []string         // addresses that are told of every booking of the type
	after     string           // the workspace's words for what comes next
	code      string           // that proves the client's address
	workspace string
	baseURL   string
	link      string
	now       time.Time
}

func (a *App) facts(ctx context.Context, b sqlc.Booking) (facts, error) {
	host, err := a.anybody(ctx, a.Store.Queries, b.HostID)
	if err != nil {
		return facts{}, err
	}
	named, err := a.names(ctx, host.home.id)
	if err != nil {
		return facts{}, err
	}
	parts, err := a.Store.HostsOfBooking(ctx, b.ID)
	if err != nil {
		return facts{}, err
	}
	hosts := []int64{b.HostID}
	for _, part := range parts {
		if part.State != hostLeft && part.PersonID != b.HostID {
			hosts = append(hosts, part.PersonID)
		}
	}
	row, err := a.Store.MeetingType(ctx, b.TypeID)
	if err != nil {
		return facts{}, err
	}
	offer, err := offerOf(row)
	return facts{
		booking: b, host: host, names: named, hosts: hosts, always: offer.Always, after: offer.AfterWords, code: a.codeOf(b),
		workspace: host.home.Name, baseURL: a.BaseURL, link: a.BaseURL + "/b/" + a.secrets.link(b.Uid), now: a.Now(),
	}, err
}

// with names all whom the client meets.
func (f facts) with() string {
	names := make([]string, len(f.hosts))
	for i, id := range f.hosts {
		names[i] = f.names[id]
	}
	return wording.List(names)
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
		UID: b.Uid, Sequence: int(b.Sequence), Stamp: span.At(f.now), When: meetingSpan(b), Kept: keptSpan(b),
		Title: b.TypeName + ": " + b.ClientName + " with " + f.with(), Text: text, JoinURL: joinURL(b), Place: formOf(b).way.location(),
		Host: invite.Party{Name: f.host.Name, Mail: f.host.Mail}, Client: invite.Party{Name: b.ClientName, Mail: b.ClientMail},
		Guests: parties(formOf(b).guests), Cancelled: b.State == "cancelled",
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
	m := f.meeting(factLines(f.guestFacts(known)))
	m.Guests, m.Place = parties([]string{guest}), formOf(f.booking).way.guestsPlace(known)
	if !known {
		m.Title, m.Client.Name = f.booking.TypeName+" with "+f.with(), ""
	}
	return m
}
