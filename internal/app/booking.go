package app

import (
	"cmp"
	"context"
	"errors"
	"slices"
	"strconv"
	"time"

	"github.com/google/uuid"
	"golang.org/x/text/language"

	"corrim/core/intake"
	"corrim/core/invite"
	"corrim/core/life"
	words "corrim/core/message"
	"corrim/core/opentimes"
	"corrim/core/routing"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/calsync"
	"corrim/internal/public"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/secrets"
	"corrim/internal/settings"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// ClientBooking is a booking as its client sees it.
type ClientBooking struct {
	Link      string    `json:"link" doc:"Path of the page to move or cancel it; whoever has it, can."`
	State     string    `json:"state" enum:"unproved,requested,booked,attended,no-show,cancelled,declined,expired,waiting,offered"`
	Over      bool      `json:"over" doc:"It has ended."`
	Start     time.Time `json:"start"`
	End       time.Time `json:"end"`
	Type      string    `json:"type"`
	Host      string    `json:"host" doc:"In English."`
	HostZone  string    `json:"hostZone"`
	Workspace string    `json:"workspace"`
	Name      string    `json:"name"`
	Mail      string    `json:"mail"`
	Remark    string    `json:"remark"`
	Zone      string    `json:"zone" doc:"Which the client booked in."`
	Zones     string    `json:"zones" enum:"client,workspace,hidden" doc:"Which times are shown, as on the page."`
	JoinURL   string    `json:"joinUrl,omitempty" doc:"By video; missing as long as there is no room."`
	RoomLate  bool      `json:"roomLate,omitempty" doc:"The room could not be made yet; its link comes by mail."`
	Page      string    `json:"page" doc:"Path of the page it was booked on."`

	Passcode string      `json:"passcode,omitempty" doc:"Of the room."`
	Recorded bool        `json:"recorded" doc:"The meeting is recorded."`
	Way      string      `json:"way" enum:"video,own-room,ours,theirs,phone,later"`
	Where    string      `json:"where,omitempty" doc:"At an address: that."`
	About    string      `json:"about,omitempty" doc:"What is special about this date."`
	Calls    string      `json:"calls,omitempty" enum:"host,client" doc:"By phone: who calls."`
	Number   string      `json:"number,omitempty" doc:"By phone: which number is called."`
	Said     []Fact      `json:"said" doc:"What the client answered."`
	Guests   []string    `json:"guests"`
	CodeTo   string      `json:"codeTo,omitempty" doc:"The number that the code goes to, if it comes as a text message."`
	CodeLost bool        `json:"codeLost,omitempty" doc:"That message could not be delivered."`
	Lapses   *time.Time  `json:"expires,omitempty" doc:"Until when the time is kept, if it is not booked yet."`
	Shared   bool        `json:"shared,omitempty" doc:"Others can ask for the same time; it is kept for nobody until the host decides."`
	Proposed []time.Time `json:"proposed" doc:"Other times that the host proposes."`
	Ahead    *int64      `json:"ahead,omitempty" doc:"On the waiting list: how many come before."`
	Waited   bool        `json:"waited,omitempty" doc:"It was on the waiting list, and never booked."`
	MayTake  bool        `json:"mayTake,omitempty" doc:"A seat is free that the client can take now, from the waiting list."`
	Word     string      `json:"word,omitempty" doc:"What the host wrote last."`
	CantMove *told.Words `json:"cantMove,omitempty" doc:"Why the client can't move it."`

	Seats []SeatTaken `json:"seats" doc:"If others were taken at one go with it: all of them, in order."`

	schedule.Hosts
	CantCancel  *told.Words `json:"cantCancel,omitempty"`
	AskReason   bool        `json:"askReason" doc:"Cancelling needs a reason."`
	After       string      `json:"after,omitempty" doc:"The workspace's words for what comes next."`
	AfterURL    string      `json:"afterUrl,omitempty"`
	HostMail    string      `json:"hostMail"`
	CancelTerms string      `json:"cancelTerms,omitempty" doc:"The workspace's cancellation policy."`
	Confirmed   bool        `json:"confirmed" doc:"The client has said that they come."`
	MayConfirm  bool        `json:"mayConfirm" doc:"They can say so now."`
	Left        bool        `json:"left,omitempty" doc:"They want no mail after meetings."`
	Texts       *TextsOf    `json:"texts,omitempty" doc:"If the client agreed to text messages."`
	MayGive     bool        `json:"mayGive,omitempty" doc:"They can give the seat to somebody else."`
	GivenTo     string      `json:"givenTo,omitempty" doc:"Who has the seat now, if they gave it."`
	MayRate     bool        `json:"mayRate" doc:"They can say now how it was."`
	Rated       *Feedback   `json:"rated,omitempty" doc:"What they said of it."`

	Correct *Correctable `json:"correct,omitempty" doc:"What the client can correct; missing if nothing, or not any more."`
	Last    *LastChange  `json:"last,omitempty" doc:"If it isn't as it was booked: what changed it last."`

	Looks schedule.PageLooks `json:"looks"`
}

// LastChange is the last thing that changed a booking.
type LastChange struct {
	Kind string    `json:"kind" enum:"rescheduled,reassigned,corrected"`
	By   string    `json:"by" enum:"client,host"`
	At   time.Time `json:"at"`
}

// Fact is a word for something, and what it is.
type Fact struct {
	Word string `json:"word"`
	What string `json:"what"`

	Kind intake.Kind `json:"kind" doc:"Of the question."`
}

// Book books a time for a client. The host's calendars are asked once more; then, in one transaction, the rules are
// checked as they stand at that moment. key identifies the request: sent again, it finds its booking.
func (a *App) Book(ctx context.Context, workspace, slug, key string, r schedule.BookingRequest) (out ClientBooking, err error) {
	o, err := a.BookableAt(ctx, a.Store.Queries, workspace, slug)
	if err != nil {
		return ClientBooking{}, err
	}
	if err := o.MayBook(r.Inside); err != nil {
		return ClientBooking{}, err
	}
	r = r.Normal(o.Host.Home)
	if _, err := o.Fill(r); err != nil {
		return ClientBooking{}, err
	}
	// With the address in it, a key that somebody else guessed finds nothing of this client's.
	request := secrets.Hashed(key + "\n" + r.Mail)
	if o.BookingPage.Proof == settings.ProofPuzzle {
		if err := a.puzzles.claim(r.Puzzle, request, a.Now()); err != nil {
			return ClientBooking{}, err
		}
		defer func() {
			if err != nil { // so that it need not be solved again for another time
				a.puzzles.release(r.Puzzle.Token, request)
			}
		}()
	}
	asked := r.Ask()
	if asked.Silent, err = a.refreshOnceMore(ctx, o, asked); err != nil {
		return ClientBooking{}, err
	}
	booking, err := a.writeBooking(ctx, workspace, slug, request, r, asked)
	if err != nil {
		return ClientBooking{}, err
	}
	a.Wake()
	return a.clientBooking(ctx, a.withRoom(ctx, booking))
}

// refreshOnceMore asks the calendars of all who could take it at the moment of booking, and returns who is out because their
// calendars don't answer in time and they want nothing offered then. It is refused only if the rest can't take it.
func (a *App) refreshOnceMore(ctx context.Context, o schedule.Bookable, asked schedule.Ask) (silent map[int64]bool, err error) {
	candidates := o.Candidates(asked)
	silent = a.RefreshCalendars(ctx, candidates, 0, calsync.BookingTime)
	for id := range silent {
		silent[id] = o.Pool.Of(id).CalendarSettings.Unreachable == schedule.OfferNothing
	}
	if len(silent) > 0 && !o.Pool.CanTake(candidates, func(id int64) bool { return !silent[id] }) {
		return nil, errSilentCalendar
	}
	return silent, nil
}

var errSilentCalendar = refusal.New(refusal.Unreachable, told.SilentCalendar.Words())

func (a *App) writeBooking(ctx context.Context, workspace, slug, key string, r schedule.BookingRequest, asked schedule.Ask) (booking sqlc.Booking, err error) {
	err = a.Store.Write(ctx, func(q *sqlc.Queries) error {
		booking, err = q.BookingByRequest(ctx, key)
		if err == nil || !errors.Is(err, store.ErrNotFound) {
			return err
		}
		o, err := a.BookableAt(ctx, q, workspace, slug)
		if err != nil {
			return err
		}
		form, err := o.Fill(r) // the type may have changed since the page was opened
		if err != nil {
			return err
		}
		if form.Said, form.Files, err = a.nameFiles(ctx, q, o.ID, form.Said); err != nil {
			return err
		}
		if err := o.MayBook(r.Inside); err != nil {
			return err
		}
		minutes, err := o.Rules.Length(r.Minutes)
		if err != nil {
			return err
		}
		o.Rules = o.Rules.Only(minutes)
		if r.Wait {
			booking, err = a.waitFor(ctx, q, o, key, r, form, asked)
			return err
		}
		choice, err := a.mustBeOpen(ctx, q, o, asked, r.Start, 0)
		if err != nil {
			return err
		}
		if err := a.withinLimits(ctx, q, o, r, form.Guests); err != nil {
			return err
		}
		if err := a.withinInvites(ctx, q, r, form.Along); err != nil {
			return err
		}
		by := insertion{step: byClient(string(o.Beginning()), ""), form: form, hosts: choice.Hosts, why: assignedBy(choice.Reason)}
		if booking, err = a.takeParty(ctx, q, o, key, r, by); err != nil {
			return err
		}
		return a.agreeToTexts(ctx, q, o, booking, form.Phone)
	})
	if errors.Is(err, store.ErrOverlap) {
		err = takenSince(nil)
	}
	return booking, err
}

// How much one client, one guest's address and one type are let through, so that nobody can fill a calendar, or mail others by way
// of it. People of the workspace who are signed in are not bounded.
const (
	mostAnHour   = 6   // bookings made with one mail address
	mostInvites  = 10  // of one guest's address, in a day
	mostOfTypeIn = 150 // bookings made of one type in a day
)

// withinLimits refuses a booking that goes beyond what one client needs.
func (a *App) withinLimits(ctx context.Context, q *sqlc.Queries, o schedule.Bookable, r schedule.BookingRequest, guests []string) error {
	if r.Inside {
		return nil
	}
	now, mail := a.Now(), r.Mail
	day := now.AddDate(0, 0, -1).Unix()
	contact := o.Host.Home.Name
	if o.BookingPage.PerClient > 0 {
		coming, err := q.ComingOfClient(ctx, sqlc.ComingOfClientParams{ClientMail: mail, TypeID: o.ID, Now: now.Unix()})
		if err != nil {
			return err
		}
		if coming >= int64(o.BookingPage.PerClient) {
			return refusal.New(refusal.TooMany, told.ClientFull.With(strconv.Itoa(o.BookingPage.PerClient), contact))
		}
	}
	made, err := q.MadeByClientSince(ctx, sqlc.MadeByClientSinceParams{ClientMail: mail, Since: now.Add(-time.Hour).Unix()})
	if err != nil {
		return err
	}
	if made >= mostAnHour {
		return refusal.New(refusal.TooMany, told.ClientBusy.With(contact))
	}
	for _, guest := range guests {
		invited, err := q.GuestSince(ctx, sqlc.GuestSinceParams{Mail: guest, Since: day})
		if err != nil {
			return err
		}
		if invited >= mostInvites {
			return refusal.Faulty("guests", told.GuestBusy.With(guest))
		}
	}
	ofType, err := q.MadeOfTypeSince(ctx, sqlc.MadeOfTypeSinceParams{TypeID: o.ID, Since: day})
	if err == nil && ofType >= max(mostOfTypeIn, 2*int64(o.Rules.Seats)) { // a large class fills up in a day
		return refusal.New(refusal.TooMany, told.TypeBusy.With(contact))
	}
	return err
}

func assignedBy(r routing.Reason) schedule.Assigned {
	return schedule.Assigned{Kind: r.Kind, Rule: r.Rule, Passed: r.Passed}
}

// mustBeOpen chooses who takes a booking. A start that is not open for the offer's length is refused, with the nearest that
// are.
func (a *App) mustBeOpen(ctx context.Context, q *sqlc.Queries, o schedule.Bookable, asked schedule.Ask, start time.Time, moving int64) (routing.Choice, error) {
	wanted := opentimes.Start{At: span.At(start), Minutes: o.Rules.Duration}
	at := span.Span{Start: wanted.At, End: wanted.At + 1}
	if start.Nanosecond() == 0 {
		l, err := a.Lineup(ctx, q, o, asked, at, moving)
		if err != nil {
			return routing.Choice{}, err
		}
		choice, err := a.Choose(ctx, q, l, wanted)
		if err != nil || len(choice.Hosts) > 0 {
			return choice, err
		}
	}
	// Only who is refused needs to know what is open around it.
	l, err := a.Lineup(ctx, q, o, asked, at.Grow(22*24*3600, 22*24*3600), moving)
	if err != nil {
		return routing.Choice{}, err
	}
	if len(l.Agendas) > 0 && !slices.ContainsFunc(l.Agendas, func(g schedule.Agenda) bool { return len(g.Unread) == 0 }) {
		return routing.Choice{}, errSilentCalendar
	}
	nearest := schedule.Times(l.Nearest(wanted.At, 6))
	if wanted.At < span.At(a.Now()) {
		return routing.Choice{}, &refusal.Refusal{Kind: refusal.Taken, Words: told.TimeGone.Words(), Nearest: nearest}
	}
	return routing.Choice{}, takenSince(nearest)
}

func takenSince(nearest []time.Time) *refusal.Refusal {
	return &refusal.Refusal{Kind: refusal.Taken, Words: told.TimeTaken.Words(), Nearest: nearest}
}

// insertion is how a booking comes about.
type insertion struct {
	step    step
	form    schedule.FilledForm
	overlap bool // a deliberate overlap is allowed
	hosts   []int64
	why     schedule.Assigned
	seats   int // of a session that is set; 0 for a client's booking
	special SessionDetails
	into    int64 // the meeting in which the seat is; 0 for one that can be joined, or a new one
	party   int64 // the first of the seats that are taken at one go, if this is another of them
	lapses  int64 // as that does; 0 for what the offer says
}

func (a *App) insertBooking(ctx context.Context, q *sqlc.Queries, o schedule.Bookable, key string, r schedule.BookingRequest, by insertion) (sqlc.Booking, error) {
	uid := newUID()
	if len(by.hosts) == 0 {
		by.hosts = []int64{o.Host.ID}
	}
	start, end, from, until := o.KeptTimes(r.Start)
	begins, err := a.nextOf(sqlc.Booking{StartAt: start}, by.step)
	if err != nil {
		return sqlc.Booking{}, err
	}
	meeting := sqlc.AddMeetingParams{
		Uid: uid, TypeID: o.ID, HostID: by.hosts[0], StartAt: start, EndAt: end, KeptFrom: from, KeptUntil: until, TypeName: o.Name,
		OverlapAllowed: number(by.overlap), SharedTime: number(o.SharesTime(life.Event(by.step.kind))), CreatedAt: a.Now().Unix(),
		RepliesHere: number(a.TakesMail), Capacity: int64(max(1, o.Rules.Seats, by.seats)), About: by.special.About, OwnWay: number(by.special.Way != nil),
	}
	seat := sqlc.AddSeatParams{
		Uid: uid, ClientName: r.Name, ClientMail: r.Mail, ClientZone: r.Zone, Language: languageOr(cmp.Or(r.Language, o.Host.Home.Front.Language)), Remark: r.Remark,
		LinkHash: secrets.Hashed(a.secrets.Link(uid)), RequestKey: key, CreatedAt: a.Now().Unix(), Answers: schedule.AnswersJSON(r.Answers),
		Life: string(begins), LapsesAt: cmp.Or(by.lapses, a.lapsing(o, life.Event(by.step.kind), start)), PartyID: by.party, Session: number(by.seats > 0), Keeps: number(begins.Keeps() && by.seats == 0),
	}
	if err := by.form.Keep(&meeting, &seat, a.Now()); err != nil {
		return sqlc.Booking{}, err
	}
	if seat.ViaID, err = public.ViaOf(ctx, q, o.ID, r.Via); err != nil {
		return sqlc.Booking{}, err
	}
	into := by.into
	if into == 0 && o.Rules.Seats > 1 && by.seats == 0 {
		if into, err = meetingToJoin(ctx, q, o.ID, start, end, by.hosts[0]); err != nil {
			return sqlc.Booking{}, err
		}
	}
	if into != 0 {
		seat.Uid = newUID() // the meeting has one of its own
		seat.LinkHash = secrets.Hashed(a.secrets.Link(seat.Uid))
	}
	booking, err := addBooking(ctx, q, meeting, seat, by.hosts, into)
	if err != nil {
		return booking, err
	}
	for _, guest := range by.form.Guests {
		if err := q.AddGuest(ctx, sqlc.AddGuestParams{BookingID: booking.ID, Mail: guest, At: booking.CreatedAt}); err != nil {
			return booking, err
		}
	}
	for _, token := range by.form.Files {
		if err := q.ClaimUpload(ctx, sqlc.ClaimUploadParams{TokenHash: secrets.Hashed(token), BookingID: store.NullID(booking.ID)}); err != nil {
			return booking, err
		}
	}
	if into == 0 { // else it is counted already
		if err := a.Assign(ctx, q, booking, by.hosts, by.why); err != nil {
			return booking, err
		}
	}
	if err := a.keepCodePhone(ctx, q, o, booking.ID, by.form.CodePhone); err != nil {
		return booking, err
	}
	if err := a.planLapse(ctx, q, booking.ID, booking.LapsesAt); err != nil {
		return booking, err
	}
	if booking.Session == 1 {
		if err := a.planDecision(ctx, q, o.BookingPage, booking); err != nil {
			return booking, err
		}
	}
	return booking, a.record(ctx, q, booking, by.step)
}

// languageOr is a language as it is kept; English if it is none.
func languageOr(given string) string {
	tag, err := language.Parse(given)
	if err != nil || tag.IsRoot() {
		tag = language.English
	}
	return tag.String()
}

// newUID names a meeting, or a seat in one, for calendars (RFC 5545, 3.8.4.7).
func newUID() string { return uuid.NewString() + "@corrim" }

// addBooking adds a seat: to a meeting that there is, or to a new one.
func addBooking(ctx context.Context, q *sqlc.Queries, meeting sqlc.AddMeetingParams, seat sqlc.AddSeatParams, hosts []int64, into int64) (b sqlc.Booking, err error) {
	if into != 0 {
		hosts, seat.MeetingID = nil, into
	} else if seat.MeetingID, err = q.AddMeeting(ctx, meeting); err != nil {
		return b, err
	}
	for _, host := range hosts {
		if err := q.AddMeetingHost(ctx, sqlc.AddMeetingHostParams{MeetingID: seat.MeetingID, PersonID: host}); err != nil {
			return b, err
		}
	}
	id, err := q.AddSeat(ctx, seat)
	if err != nil {
		return b, err
	}
	return q.Booking(ctx, id)
}

// step is one step of a booking's life: what it was, whose it was, and what they wrote. If the booking went over from one
// person to another, these are named.
type step struct {
	kind, by, note string
	person         int64 // whoever of the house did it
	from, to       int64
	moved          bool   // to another time, at once with being handed over
	silent         bool   // nobody is told: the address was never proved
	forOthers      bool   // hosts are told of it with another client of the meeting
	alone          bool   // nobody has a seat in the session, so its hosts are told with itself
	ending         bool   // the whole meeting ends at once, so nobody is found for the seat
	series         string // names the bookings that were entered together; empty for one alone
}

func byClient(kind, note string) step { return step{kind: kind, by: "client", note: note} }

func byHost(kind string, p schedule.Person, note string) step {
	return step{kind: kind, by: "host", note: note, person: p.ID}
}

// record keeps the step and writes down what has to happen because of it. booking must be as it is after the step.
func (a *App) record(ctx context.Context, q *sqlc.Queries, booking sqlc.Booking, s step) error {
	now := a.Now().Unix()
	err := q.AddStep(ctx, sqlc.AddStepParams{BookingID: booking.ID, At: now, Kind: s.kind, By: s.by, Note: s.note, PersonID: store.NullID(s.person), FromID: store.NullID(s.from), ToID: store.NullID(s.to)})
	if err != nil {
		return err
	}
	if err := a.inSessionsHistory(ctx, q, booking, s); err != nil {
		return err
	}
	if s.silent {
		return nil
	}
	jobs := jobsAfter(booking, life.Event(s.kind))
	if s.alone, err = a.concernsOthers(ctx, q, booking, s); err != nil {
		return err
	}
	if booking.Session == 1 { // nobody's: who has a seat in it is told with theirs, and so are its hosts, unless it falls by itself
		jobs = slices.DeleteFunc(jobs, func(kind string) bool {
			return kind == jobMailClient || kind == jobMailHost && !s.alone && s.kind != string(life.CallOff) && s.kind != string(life.Doubt)
		})
	}
	if s.forOthers {
		// A mail waits for the room, as long as there is none.
		jobs = slices.DeleteFunc(jobs, func(kind string) bool { return kind != jobMailClient && (kind != jobRoom || booking.Room != "") })
	}
	return a.plan(ctx, q, booking, s, jobs)
}

// concernsOthers tells whether hosts have to be told of a session itself: nobody has a seat in it, and somebody else than whoever did it
// hosts it, or did until then.
func (a *App) concernsOthers(ctx context.Context, q *sqlc.Queries, session sqlc.Booking, s step) (bool, error) {
	if !s.alone {
		return false, nil
	}
	parts, err := q.HostsOfMeeting(ctx, session.MeetingID)
	return slices.ContainsFunc(parts, func(part sqlc.MeetingHost) bool { return part.PersonID != s.person }), err
}

// jobsAfter is what has to happen after a step: what is in the outside is brought to the booking's state, and whoever is told of it by
// core/message is told. What isn't booked has neither room nor calendar entry yet.
func jobsAfter(b sqlc.Booking, event life.Event) (kinds []string) {
	outside := b.Invited == 1
	switch event {
	case life.Doubt, life.Keep, life.Propose, life.Decline, life.Confirm, life.Attend, life.Miss, life.Unmark:
		outside = false
	}
	if outside && hasFreshRoom(b) {
		kinds = append(kinds, jobRoom)
	}
	if outside {
		kinds = append(kinds, jobCalendar)
	}
	occasion := facts{booking: b}.occasion(string(event))
	if _, told := words.For(occasion, words.Client); told {
		kinds = append(kinds, jobMailClient)
	}
	if _, told := words.For(occasion, words.Hosts); told {
		kinds = append(kinds, jobMailHost)
	}
	return kinds
}

// BookingByLink returns a booking to whoever has its link.
func (a *App) BookingByLink(ctx context.Context, link string) (ClientBooking, error) {
	booking, err := a.ByLink(ctx, a.Store.Queries, link)
	if err != nil {
		return ClientBooking{}, err
	}
	return a.clientBooking(ctx, booking)
}

// Move moves a booking to another open time; the old one is kept until the new one is booked.
func (a *App) Move(ctx context.Context, link string, start time.Time) (ClientBooking, error) {
	return a.moveTheirs(ctx, link, start, false)
}

// MoveAll moves a seat with all that were taken with it at the same time and that its client looks after; all of them, or none.
func (a *App) MoveAll(ctx context.Context, link string, start time.Time) (ClientBooking, error) {
	return a.moveTheirs(ctx, link, start, true)
}

func (a *App) moveTheirs(ctx context.Context, link string, start time.Time, all bool) (ClientBooking, error) {
	before, err := a.ByLink(ctx, a.Store.Queries, link)
	if err != nil {
		return ClientBooking{}, err
	}
	o, err := a.BookedType(ctx, a.Store.Queries, before)
	if err != nil {
		return ClientBooking{}, err
	}
	if late := a.late(before, told.Moving, o.BookingPage.MoveUntil); late != nil {
		return ClientBooking{}, refusal.New(refusal.Over, *late)
	}
	seats, err := a.seatsTaken(ctx, a.Store.Queries, before)
	if err != nil {
		return ClientBooking{}, err
	}
	if ofSeries(seats) {
		return ClientBooking{}, refusal.New(refusal.Over, told.SeriesStays.Words())
	}
	if _, err := a.refreshOnceMore(ctx, o, schedule.Ask{}); err != nil {
		return ClientBooking{}, err
	}
	err = a.Store.Write(ctx, func(q *sqlc.Queries) error {
		b, err := a.ByLink(ctx, q, link)
		if err != nil {
			return err
		}
		them := []sqlc.Booking{b}
		if all {
			if them, err = togetherThen(ctx, q, b); err != nil {
				return err
			}
		}
		return a.moveEach(ctx, q, them, start)
	})
	if errors.Is(err, store.ErrOverlap) {
		err = takenSince(nil)
	}
	if err != nil {
		return ClientBooking{}, err
	}
	a.Wake()
	return a.BookingByLink(ctx, link)
}

// moveEach moves seats of one client to the same time.
func (a *App) moveEach(ctx context.Context, q *sqlc.Queries, them []sqlc.Booking, start time.Time) error {
	for one, s := range eachOf(them, byClient(string(life.Move), "")) {
		err := a.changeIn(ctx, q, one, s, func(ctx context.Context, q *sqlc.Queries, booking sqlc.Booking, _ *step) (bool, error) {
			return a.moveOne(ctx, q, booking, start)
		})
		if one.ID != them[0].ID && passedOver(err) {
			return refusal.New(refusal.Taken, told.FewSeats.Words()) // there was a seat for the first
		}
		if err != nil {
			return err
		}
	}
	return nil
}

func (a *App) moveOne(ctx context.Context, q *sqlc.Queries, booking sqlc.Booking, start time.Time) (bool, error) {
	if booking.StartAt == start.Unix() {
		return false, nil // sent twice, or nothing to do
	}
	o, err := a.BookedType(ctx, q, booking)
	if err != nil {
		return false, err
	}
	if _, err := a.mustBeOpen(ctx, q, o, schedule.Ask{}, start, booking.ID); err != nil {
		return false, err
	}
	startAt, endAt, from, until := o.KeptTimes(start)
	if schedule.Shared(booking) {
		return true, a.moveSeat(ctx, q, o, booking, start)
	}
	return true, moveTo(ctx, q, sqlc.MoveMeetingParams{MeetingID: booking.MeetingID, StartAt: startAt, EndAt: endAt, KeptFrom: from, KeptUntil: until}, false)
}

// moveTo moves a booking. Only where an overlap is wanted there does it carry the mark that the database lets through; a
// mark from before doesn't go along.
func moveTo(ctx context.Context, q *sqlc.Queries, to sqlc.MoveMeetingParams, overlap bool) error {
	mark := sqlc.SetOverlapAllowedParams{MeetingID: to.MeetingID, OverlapAllowed: number(overlap)}
	if !overlap {
		if err := q.MoveMeeting(ctx, to); err != nil {
			return err
		}
		return q.SetOverlapAllowed(ctx, mark) // where it is now, the database has its say again
	}
	if err := q.SetOverlapAllowed(ctx, mark); err != nil {
		return err
	}
	return q.MoveMeeting(ctx, to)
}

// Cancel cancels a booking, with a reason for the host if the client gives one. What was taken at one go and isn't booked yet is withdrawn
// at one go too.
func (a *App) Cancel(ctx context.Context, link, reason string) (ClientBooking, error) {
	return a.cancel(ctx, link, reason, false)
}

func (a *App) cancel(ctx context.Context, link, reason string, all bool) (ClientBooking, error) {
	if len([]rune(reason)) > 1000 {
		return ClientBooking{}, refusal.Faulty("reason", told.LongReason.Words())
	}
	s := byClient(string(life.Cancel), intake.AsWritten(reason))
	err := a.Store.Write(ctx, func(q *sqlc.Queries) error {
		b, err := a.ByLink(ctx, q, link)
		if err != nil {
			return err
		}
		them := []sqlc.Booking{b}
		if all || b.Life != string(life.Booked) {
			if them, err = together(ctx, q, b); err != nil {
				return err
			}
			them = lookedAfter(b, them)
		}
		for one, s := range eachOf(them, s) {
			if err := a.changeIn(ctx, q, one, s, a.cancelOne); err != nil && (one.ID == b.ID || !passedOver(err)) {
				return err
			}
		}
		return nil
	})
	if err != nil {
		return ClientBooking{}, err
	}
	a.Wake()
	return a.BookingByLink(ctx, link)
}

// cancelOne cancels one booking for its client, within the limits of its type.
func (a *App) cancelOne(ctx context.Context, q *sqlc.Queries, booking sqlc.Booking, s *step) (bool, error) {
	o, err := a.BookedType(ctx, q, booking)
	if err != nil {
		return false, err
	}
	if late := a.cantCancel(booking, o); late != nil {
		return false, refusal.New(refusal.Over, *late)
	}
	if o.BookingPage.AskReason && s.note == "" && booking.Life == string(life.Booked) {
		return false, refusal.Faulty("reason", told.NoReason.Words())
	}
	if err := enter(ctx, q, booking, life.Cancelled, life.Cancel, 0); err != nil {
		return false, err
	}
	return true, a.giveBack(ctx, q, booking)
}

// confirmable is how long before a meeting its client can say that they come: said earlier, it would mean little.
const confirmable = 48 * time.Hour

// confirmed tells whether the client has said that they come, at the time at which the booking is now.
func confirmed(b sqlc.Booking) bool { return b.ConfirmedStart == b.StartAt }

func tooEarlyToConfirm(b sqlc.Booking, now time.Time) bool {
	return b.StartAt-now.Unix() > int64(confirmable/time.Second)
}

func (a *App) mayConfirm(b sqlc.Booking) bool {
	_, err := a.nextOf(b, byClient(string(life.Confirm), ""))
	return err == nil && !confirmed(b) && !tooEarlyToConfirm(b, a.Now())
}

// Confirm keeps that the client says they come. If the booking is moved afterwards, it is not confirmed any more.
func (a *App) Confirm(ctx context.Context, link string) (ClientBooking, error) {
	err := a.change(ctx, link, byClient(string(life.Confirm), ""), func(q *sqlc.Queries, booking sqlc.Booking, _ *step) (bool, error) {
		switch {
		case confirmed(booking):
			return false, nil // sent twice
		case tooEarlyToConfirm(booking, a.Now()):
			return false, refusal.New(refusal.Over, told.ConfirmLater.Words())
		}
		return true, q.ConfirmSeat(ctx, booking.ID)
	})
	if err != nil {
		return ClientBooking{}, err
	}
	return a.BookingByLink(ctx, link)
}

// change does one step of a booking that stands and lies ahead, in one transaction. do tells whether it did anything, and may add a
// note to the step.
func (a *App) change(ctx context.Context, link string, s step, do func(*sqlc.Queries, sqlc.Booking, *step) (bool, error)) error {
	err := a.Store.Write(ctx, func(q *sqlc.Queries) error {
		booking, err := a.ByLink(ctx, q, link)
		if err != nil {
			return err
		}
		return a.changeIn(ctx, q, booking, s, func(_ context.Context, q *sqlc.Queries, b sqlc.Booking, s *step) (bool, error) { return do(q, b, s) })
	})
	if err == nil {
		a.Wake()
	}
	return err
}

// changeIn is the same within a transaction.
func (a *App) changeIn(ctx context.Context, q *sqlc.Queries, booking sqlc.Booking, s step, do func(context.Context, *sqlc.Queries, sqlc.Booking, *step) (bool, error)) error {
	if booking.Life == s.kind {
		return nil // cancelled, and sent twice
	}
	if _, err := a.nextOf(booking, s); err != nil {
		return err
	}
	s.silent = booking.Life == string(life.Unproved) || onList(booking)
	if done, err := do(ctx, q, booking, &s); err != nil || !done {
		return err
	}
	changed, err := q.Booking(ctx, booking.ID)
	if err != nil {
		return err
	}
	return a.record(ctx, q, changed, s)
}

// roomTime is how long a client waits for the room, so that they see the link at once.
const roomTime = 1200 * time.Millisecond

// Waits is how long the App waits for others where a moment is usual.
func (a *App) Waits(usual time.Duration) time.Duration { return usual * time.Duration(a.Patience) }

// withRoom is a booking once its room was made, or could not be: where rooms are known to be in trouble, nobody waits.
func (a *App) withRoom(ctx context.Context, booking sqlc.Booking) sqlc.Booking {
	if booking.Life != string(life.Booked) || !hasFreshRoom(booking) || booking.Room != "" || !a.jobs.Away(laneRooms).IsZero() {
		return booking
	}
	jobs, err := a.Store.JobsOf(ctx, sqlc.JobsOfParams{Subject: subjectBooking, SubjectID: booking.ID, Kind: jobRoom})
	if err == nil && len(jobs) > 0 {
		tried, forget := a.jobs.Watch(jobs[0].ID)
		defer forget()
		if still, err := a.Store.WaitingJobs(ctx, sqlc.WaitingJobsParams{Subject: subjectBooking, SubjectID: booking.ID, Kind: jobRoom}); err == nil && still > 0 {
			select {
			case <-ctx.Done():
			case <-tried:
			case <-time.After(a.Waits(roomTime)):
			}
		}
	}
	if row, err := a.Store.Booking(ctx, booking.ID); err == nil {
		booking = row
	}
	return booking
}

// roomLate tells whether a booking's room was tried in vain.
func (a *App) roomLate(ctx context.Context, b sqlc.Booking) (bool, error) {
	if b.Life != string(life.Booked) || !hasFreshRoom(b) || b.Room != "" {
		return false, nil
	}
	jobs, err := a.Store.JobsOf(ctx, sqlc.JobsOfParams{Subject: subjectBooking, SubjectID: b.ID, Kind: jobRoom})
	return !a.jobs.Away(laneRooms).IsZero() || len(jobs) == 0 || jobs[0].Trouble != "", err
}

func (a *App) clientBooking(ctx context.Context, b sqlc.Booking) (ClientBooking, error) {
	o, err := a.BookedType(ctx, a.Store.Queries, b)
	if err != nil {
		return ClientBooking{}, err
	}
	form := formOf(b)
	out := ClientBooking{
		Link: "/b/" + a.secrets.Link(b.Uid), State: b.Life, Over: b.EndAt <= a.Now().Unix(),
		Start: time.Unix(b.StartAt, 0).UTC(), End: time.Unix(b.EndAt, 0).UTC(),
		Type: b.TypeName, Host: o.WhoHosts(), Hosts: o.Hosts(), HostZone: o.Host.Zone, Workspace: o.Host.Home.Name, Zones: o.Host.Home.Zones,
		Name: b.ClientName, Mail: b.ClientMail, Remark: b.Remark, Zone: b.ClientZone, JoinURL: admitted(b).URL, Page: o.Path,
		Passcode: admitted(b).Passcode, Recorded: form.Way.Room.RecordingNotice, Way: form.Way.Kind, Said: factsOf(form.Said), Guests: form.Guests, Shared: b.SharedTime == 1, Proposed: proposals(b), HostMail: o.Host.Mail,
		CantMove: a.late(b, told.Moving, o.BookingPage.MoveUntil), CantCancel: a.cantCancel(b, o), AskReason: o.BookingPage.AskReason && b.Life == string(life.Booked),
		CancelTerms: o.Host.Home.Front.Cancellation, Confirmed: confirmed(b), MayConfirm: a.mayConfirm(b), Looks: o.Looks(),
	}
	if out.Seats, err = a.seatsTaken(ctx, a.Store.Queries, b); err != nil {
		return out, err
	}
	if stays := told.SeriesStays.Words(); ofSeries(out.Seats) {
		out.CantMove = &stays
	}
	out.About = b.About
	out.Where, out.Calls, out.Number = form.Way.Address(), form.Way.WhoCalls(), form.Way.Number()
	if b.LapsesAt != 0 {
		lapses := time.Unix(b.LapsesAt, 0).UTC()
		out.Lapses = &lapses
	}
	if b.Life == string(life.Booked) {
		out.After, out.AfterURL = o.BookingPage.AfterWords, o.BookingPage.AfterURL(form.Said)
	}
	out.MayTake = onList(b) && a.mayTake(ctx, a.Store.Queries, b, o) == nil
	if out.Ahead, err = a.aheadOf(ctx, b); err != nil {
		return out, err
	}
	out.MayGive = a.mayGive(b, o)
	asked, err := askedOf(ctx, a.Store.Queries, b, o)
	if err != nil {
		return out, err
	}
	out.Correct = a.correctable(b, asked)
	if out.RoomLate, err = a.roomLate(ctx, b); err != nil {
		return out, err
	}
	if err := a.showCode(ctx, b, &out); err != nil {
		return out, err
	}
	if out.Texts, err = textsOf(ctx, a.Store.Queries, b.ID); err != nil {
		return out, err
	}
	if out.Left, err = a.Store.LeftFollowUps(ctx, sqlc.LeftFollowUpsParams{WorkspaceID: o.Host.Home.ID, Mail: b.ClientMail}); err != nil {
		return out, err
	}
	rated, err := a.feedbackOf(ctx, b.ID)
	if err != nil {
		return out, err
	}
	if out.Rated = rated[b.ID]; out.Rated == nil {
		if out.MayRate, err = a.mayRate(ctx, a.Store.Queries, o.Host.Home.ID, b); err != nil {
			return out, err
		}
	}
	steps, err := a.Store.StepsOf(ctx, b.ID)
	out.Word, out.Last, out.GivenTo = lastWord(steps), lastChange(steps), givenTo(steps)
	out.Waited = b.Invited == 0 && slices.ContainsFunc(steps, func(s sqlc.BookingStep) bool { return s.Kind == string(life.Queue) })
	return out, err
}

func factsOf(said []intake.Answer) []Fact {
	out := make([]Fact, len(said))
	for i, answer := range said {
		out[i] = Fact{answer.Label, answer.Text(), answer.Kind}
	}
	return out
}

// lastWord is what a host wrote with the booking's last step.
func lastWord(steps []sqlc.BookingStep) string {
	if len(steps) == 0 || steps[len(steps)-1].By != "host" {
		return ""
	}
	return steps[len(steps)-1].Note
}

// givenTo is who has a seat now that its client gave to somebody else.
func givenTo(steps []sqlc.BookingStep) string {
	if len(steps) == 0 || steps[len(steps)-1].Kind != string(life.Give) {
		return ""
	}
	return steps[len(steps)-1].Note
}

// lastChange is nil if a booking is as it was booked.
func lastChange(steps []sqlc.BookingStep) *LastChange {
	for _, s := range slices.Backward(steps) {
		if slices.Contains([]string{string(life.Move), string(life.Reassign), string(life.Correct)}, s.Kind) {
			return &LastChange{s.Kind, s.By, time.Unix(s.At, 0).UTC()}
		}
	}
	return nil
}

// late says why a client can't move or cancel any more; nothing if they can. until is minutes before the start, -1 is never.
func (a *App) late(b sqlc.Booking, deadline told.Deadline, until int) *told.Words {
	if until >= 0 && a.Now().Unix() <= b.StartAt-int64(until)*60 {
		return nil
	}
	words := deadline.Passed(until)
	return &words
}

// cantCancel is the same for cancelling. What is not booked yet can always be withdrawn.
func (a *App) cantCancel(b sqlc.Booking, o schedule.Bookable) *told.Words {
	if b.Life != string(life.Booked) {
		return nil
	}
	return a.late(b, told.Cancelling, o.BookingPage.CancelUntil)
}

// BookingFile is the booking as an iCalendar file for its client: with all its dates, if it was taken with others at one go.
func (a *App) BookingFile(ctx context.Context, link string) ([]byte, error) {
	booking, err := a.ByLink(ctx, a.Store.Queries, link)
	if err != nil {
		return nil, err
	}
	dates, err := datesTaken(ctx, a.Store.Queries, booking)
	if err != nil {
		return nil, err
	}
	meetings := make([]invite.Meeting, len(dates))
	for i, date := range dates {
		f, err := a.facts(ctx, date)
		if err != nil {
			return nil, err
		}
		meetings[i] = f.forClient().clientEntry()
	}
	return invite.File(meetings...)
}
