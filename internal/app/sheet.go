package app

import (
	"context"
	"encoding/json"
	"slices"
	"time"

	"corrim/core/civil"
	words "corrim/core/message"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/store/sqlc"
)

// BookingSheet is everything about one booking, for those who may handle it.
type BookingSheet struct {
	HostBooking
	Date         string        `json:"date" format:"date" doc:"On the viewer's clock."`
	Hosts        []string      `json:"hosts" doc:"Who takes part, the lead first."`
	Own          bool          `json:"own" doc:"Does the viewer take part?"`
	Language     string        `json:"language" doc:"In which the client is written to."`
	SoFar        ClientSoFar   `json:"soFar"`
	Why          []told.Words  `json:"why" doc:"Why it was given to whom."`
	Via          string        `json:"via,omitempty" doc:"The name of the link that the client came by."`
	Steps        []SheetStep   `json:"steps" doc:"The first one first."`
	Returned     *Returned     `json:"returned,omitempty" doc:"If mail to the client comes back."`
	Texts        *TextsOf      `json:"texts,omitempty" doc:"If the client agreed to text messages."`
	Participants []Participant `json:"participants" doc:"Of a meeting that clients share: all of them."`
	Series       *InSeries     `json:"series,omitempty" doc:"Of a session that was set with others, and a seat in it."`

	Details *SessionDetails `json:"details,omitempty" doc:"Of a session: what is special about it."`

	Messages []SentMessage `json:"messages" doc:"Of the last weeks, the first one first."`
}

// SheetStep is a step of a booking's life, with who took it.
type SheetStep struct {
	At   time.Time `json:"at"`
	Kind string    `json:"kind" enum:"held,requested,booked,approved,declined,proposed,taken,expired,rescheduled,cancelled,asked,reassigned,confirmed,corrected,changed,given,doubted,kept,attended,no-show,unmarked"`
	By   string    `json:"by" doc:"The name of a colleague; or 'client', or empty where nobody did."`
	From string    `json:"from,omitempty" doc:"Of a reassignment: who hosted it before."`
	To   string    `json:"to,omitempty"`
	Note string    `json:"note,omitempty"`
}

// SentMessage is a mail or text message about a booking: its occasion, and whether it has gone out.
type SentMessage struct {
	Job      int64      `json:"job,omitempty" doc:"Of one that went out, or was given up."`
	Again    bool       `json:"again,omitempty" doc:"It can be sent again."`
	Kept     bool       `json:"kept,omitempty" doc:"What it said can be read."`
	By       string     `json:"by" enum:"mail,text"`
	To       string     `json:"to" enum:"client,guests,hosts,address"`
	Occasion string     `json:"occasion"`
	State    string     `json:"state" enum:"planned,waiting,sent,dropped,failed,left"`
	At       *time.Time `json:"at,omitempty" doc:"When it went out, or was given up; of a planned one, when it goes out."`
	Rule     int64      `json:"rule,omitempty" doc:"Of a planned one: the message's number."`
	If       string     `json:"if,omitempty" enum:",first,returning,attended,missed" doc:"Of a planned one: what isn't known yet, and has to be so."`
	Trouble  told.Words `json:"trouble,omitzero"`
	Said     string     `json:"said,omitempty" doc:"Of a text message: its words as they went out."`
	Failed   bool       `json:"failed,omitempty" doc:"Of a text message that was sent: the gateway said that it didn't get to the phone."`
}

// BookingSheet gathers what is known of a booking.
func (a *App) BookingSheet(ctx context.Context, p schedule.Person, id int64) (BookingSheet, error) {
	b, err := a.anyBooking(ctx, a.Store.Queries, p, id)
	if err != nil {
		return BookingSheet{}, err
	}
	names, err := a.Names(ctx, p.Home.ID)
	if err != nil {
		return BookingSheet{}, err
	}
	s := BookingSheet{
		HostBooking: hostBooking(b.Booking), Language: b.Language, Hosts: []string{names[b.HostID]},
		Date: time.Unix(b.StartAt, 0).In(p.Local).Format(time.DateOnly), Own: b.HostID == p.ID,
	}
	meetings := []HostBooking{s.HostBooking}
	if err := a.addNotes(ctx, meetings); err != nil {
		return s, err
	}
	s.HostBooking = meetings[0]
	feedback, err := a.feedbackOf(ctx, b.ID)
	if err != nil {
		return s, err
	}
	s.Feedback = feedback[b.ID]
	if b.Session == 0 {
		if s.SoFar, err = a.soFar(ctx, p, b.Booking); err != nil {
			return s, err
		}
	}
	if err := a.addHosts(ctx, p, b.Booking, names, &s); err != nil {
		return s, err
	}
	if s.Steps, err = a.sheetSteps(ctx, b.Booking, names); err != nil {
		return s, err
	}
	if b.ViaID.Valid {
		if s.Via, err = a.Store.NameOfSharedLink(ctx, b.ViaID.Int64); err != nil {
			return s, err
		}
	}
	if s.Returned, err = a.returnedFrom(ctx, p.Home.ID, b.ClientMail); err != nil {
		return s, err
	}
	if s.Texts, err = textsOf(ctx, a.Store.Queries, b.ID); err != nil {
		return s, err
	}
	if s.Messages, err = a.sentMessages(ctx, b.Booking); err != nil {
		return s, err
	}
	if s.Participants, err = participants(ctx, a.Store.Queries, b.Booking); err != nil {
		return s, err
	}
	if s.Series, err = a.seriesFacts(ctx, b.Booking); err != nil {
		return s, err
	}
	if schedule.Shared(b.Booking) {
		details := detailsOf(b.Booking)
		s.Details = &details
	}
	if b.Session == 1 { // who comes is told with their own
		return s, nil
	}
	coming, err := a.comingMessages(ctx, p, b.Booking)
	s.Messages = append(s.Messages, coming...)
	return s, err
}

// addHosts adds who takes part, and why the booking was given to whom.
func (a *App) addHosts(ctx context.Context, p schedule.Person, b sqlc.Booking, names map[int64]string, s *BookingSheet) error {
	parts, err := a.Store.HostsOfMeeting(ctx, b.MeetingID)
	if err != nil {
		return err
	}
	for _, part := range parts {
		if part.PersonID != b.HostID && part.State != schedule.HostLeft {
			s.Hosts, s.Own = append(s.Hosts, names[part.PersonID]), s.Own || part.PersonID == p.ID
		}
	}
	given, err := a.Store.AssignmentsOfMeeting(ctx, b.MeetingID)
	s.Why = []told.Words{}
	for _, g := range given {
		why := schedule.Assigned{}
		if err := json.Unmarshal([]byte(g.Reason), &why); err != nil {
			return err
		}
		known := func(words told.Words) bool {
			return slices.ContainsFunc(s.Why, func(w told.Words) bool { return w.Sentence == words.Sentence })
		}
		if said := why.Words(names, p); said.Any() && !known(said) {
			s.Why = append(s.Why, said)
		}
	}
	return err
}

func (a *App) sheetSteps(ctx context.Context, b sqlc.Booking, names map[int64]string) ([]SheetStep, error) {
	rows, err := a.Store.StepsOf(ctx, b.ID)
	out := make([]SheetStep, len(rows))
	for i, r := range rows {
		by := names[r.PersonID.Int64]
		if by == "" && r.By == "client" {
			by = r.By
		}
		out[i] = SheetStep{time.Unix(r.At, 0).UTC(), r.Kind, by, names[r.FromID.Int64], names[r.ToID.Int64], r.Note}
	}
	return out, err
}

// mailed is whom the mails of a kind of jobs go to.
var mailed = map[string]string{jobMailClient: "client", jobMailHost: "hosts"}

// reminded is who gets those messages of the clock that don't go to the client.
var reminded = map[words.Kind]string{words.GuestReminder: words.ToGuests, words.HostReminder: words.ToHosts, words.OfficeNote: words.ToAddress}

// receiverOf is whom a job's mail goes to; some are none.
func receiverOf(kind, occasion string) (to string, mail bool) {
	switch {
	case kind == jobTimed:
		to, named := reminded[words.Kind(occasion)]
		if !named {
			to = words.ToClient
		}
		return to, true
	case kind == jobTextHost:
		return words.ToHosts, true
	case kind == jobText, kind == jobTextStep, kind == jobTextCode:
		return words.ToClient, true
	}
	to, mail = mailed[kind]
	return to, mail
}

// endedAs is how a job of the log ended, for people.
var endedAs = map[string]string{"done": "sent", "dropped": "dropped", "failed": "failed"}

// sentMessages is the mails about a booking: those in the log, then those that wait.
func (a *App) sentMessages(ctx context.Context, b sqlc.Booking) ([]SentMessage, error) {
	out := []SentMessage{}
	ended, err := a.Store.EndedJobs(ctx, sqlc.EndedJobsParams{Subject: subjectBooking, SubjectID: b.ID})
	if err != nil {
		return out, err
	}
	texts, err := a.textsSent(ctx, b)
	if err != nil {
		return out, err
	}
	kept, err := a.Store.JobsWithMailSaid(ctx, b.ID)
	if err != nil {
		return out, err
	}
	byClock, err := a.Store.MessagesDone(ctx, []int64{b.ID})
	if err != nil {
		return out, err
	}
	for _, j := range ended {
		if to, mail := receiverOf(j.Kind, j.Occasion); mail {
			at, text := time.Unix(j.EndedAt, 0).UTC(), texts[j.ID]
			one := SentMessage{Job: j.ID, Kept: slices.Contains(kept, j.ID), By: byOf(j.Kind), To: to, Occasion: j.Occasion, State: endedAs[j.Outcome], At: &at, Trouble: told.FromStored(j.Trouble), Said: text.Said, Failed: text.State == "failed"}
			_, atOnce := mailed[j.Kind]
			// Of messages of the clock that were sent again, it is the last one.
			one.Again = atOnce || slices.ContainsFunc(byClock, func(d sqlc.MessageDone) bool { return d.JobID == j.ID })
			out = append(out, one)
		}
	}
	for _, kind := range []string{jobMailClient, jobMailHost, jobTimed, jobText, jobTextStep, jobTextCode, jobTextHost} {
		waiting, err := a.Store.JobsOf(ctx, sqlc.JobsOfParams{Subject: subjectBooking, SubjectID: b.ID, Kind: kind})
		if err != nil {
			return out, err
		}
		for _, j := range waiting {
			to, _ := receiverOf(kind, j.Occasion)
			out = append(out, SentMessage{By: byOf(kind), To: to, Occasion: j.Occasion, State: "waiting", Trouble: told.FromStored(j.Trouble)})
		}
	}
	return out, nil
}

// byOf is the way on which a job's message goes.
func byOf(kind string) string {
	switch kind {
	case jobText, jobTextStep, jobTextCode, jobTextHost:
		return words.ByText
	}
	return words.ByMail
}

// textsSent are the text messages about a booking, by the job that sent them.
func (a *App) textsSent(ctx context.Context, b sqlc.Booking) (map[int64]sqlc.TextSent, error) {
	rows, err := a.Store.TextsSent(ctx, b.ID)
	out := map[int64]sqlc.TextSent{}
	for _, row := range rows {
		out[row.JobID] = row
	}
	return out, err
}

// skylineDays is how many days the board's skyline tells at once.
const skylineDays = 28

// BoardSkyline counts the bookings of each of four weeks from a date on: the person's own, or those of everybody as the board shows
// them, or of a team.
func (a *App) BoardSkyline(ctx context.Context, p schedule.Person, d BoardDays) ([]int, error) {
	first, err := civil.ParseDate(d.From)
	if err != nil {
		return nil, refusal.Faulty("from", told.OfError(err))
	}
	within := span.Span{Start: first.Start(p.Local), End: first.AddDays(skylineDays).Start(p.Local)}
	starts, err := a.startsOn(ctx, p, d, within)
	counts := make([]int, skylineDays)
	for _, at := range starts {
		counts[first.DaysUntil(civil.DateOf(at, p.Local))]++
	}
	return counts, err
}

// startsOn is when meetings within a range begin: the person's own, or everybody's as the board shows them.
func (a *App) startsOn(ctx context.Context, p schedule.Person, d BoardDays, within span.Span) (starts []span.Instant, err error) {
	if d.Whose != Everybodys {
		own, err := a.Store.TimesOfHosts(ctx, sqlc.TimesOfHostsParams{RangeFrom: int64(within.Start), RangeTo: int64(within.End), People: []int64{p.ID}})
		for _, row := range own {
			if at := span.Instant(row.StartAt); within.Holds(at) {
				starts = append(starts, at)
			}
		}
		return starts, err
	}
	people, _, err := a.everybody(ctx, p, d.Team)
	if err != nil {
		return nil, err
	}
	shown := map[int64]bool{}
	for _, person := range people {
		shown[person.ID] = true
	}
	rows, err := a.Store.StartsBetween(ctx, sqlc.StartsBetweenParams{RangeFrom: int64(within.Start), RangeTo: int64(within.End)})
	for _, row := range rows {
		if shown[row.PersonID] {
			starts = append(starts, span.Instant(row.StartAt))
		}
	}
	return starts, err
}
