package app

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"time"

	words "corrim/core/message"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/job"
	"corrim/internal/letter"
	"corrim/internal/schedule"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

const clockEvery = time.Minute

// sendDue is the job that gives the worker the messages whose moment has come.
func (a *App) sendDue(ctx context.Context, _ sqlc.Job) (job.Ending, error) {
	homes, err := a.Store.WorkspacesWithMessages(ctx)
	if err != nil {
		return nil, err
	}
	for _, home := range homes {
		if err := a.sendDueOf(ctx, home); err != nil {
			// One workspace's trouble costs only itself.
			a.Log.ErrorContext(ctx, "what the clock sends could not be worked out", "workspace", home.ID, "error", err)
		}
	}
	if err := a.sendMornings(ctx); err != nil {
		return nil, err
	}
	return nil, job.Later{At: a.Now().Add(clockEvery)}
}

// sendDueOf gives the worker the messages of a workspace and of its types that have their own.
func (a *App) sendDueOf(ctx context.Context, home sqlc.Workspace) error {
	var m messageRules
	if err := json.Unmarshal([]byte(home.Messages), &m); err != nil {
		return err
	}
	types, err := a.Store.TypesWithMessages(ctx, home.ID)
	if err != nil {
		return err
	}
	since := map[int64]messageRules{}
	for _, one := range types {
		own, err := messagesIn(one.Messages)
		if err != nil {
			return err
		}
		own.Quiet = m.Quiet
		since[one.ID] = own
		if !own.Own {
			continue
		}
		for _, r := range own.Rules {
			if err := a.sendRule(ctx, home.ID, one.ID, r, m.Quiet, func(int64) (int64, bool) { return own.Since, true }); err != nil {
				return err
			}
		}
	}
	for _, r := range m.Rules {
		if err := a.sendRule(ctx, home.ID, 0, r, m.Quiet, func(kind int64) (int64, bool) { return since[kind].Since, !since[kind].Own }); err != nil {
			return err
		}
	}
	return nil
}

// sendRule gives the worker one rule's messages that are due now and were not before. Holds tells of a type whether the rule holds for
// it, and since when.
func (a *App) sendRule(ctx context.Context, workspace, kind int64, r messageRule, quiet words.Quiet, holds func(kind int64) (since int64, does bool)) error {
	now := a.Now()
	rows, err := a.dueFor(ctx, workspace, kind, r, now)
	if err != nil {
		return err
	}
	for _, b := range rows {
		since, does := holds(b.TypeID)
		if !does {
			continue
		}
		r := r
		r.Since = max(r.Since, since)
		if err := a.Store.Write(ctx, func(q *sqlc.Queries) error { return a.sendAbout(ctx, q, workspace, r, quiet, b, now) }); err != nil {
			return err
		}
	}
	return nil
}

// dueFor is the bookings whose moment for a rule's message may have come, but not longer ago than the message is of use.
func (a *App) dueFor(ctx context.Context, workspace, kind int64, r messageRule, now time.Time) ([]sqlc.Booking, error) {
	within := r.DueWithin(span.Of(now.Add(-r.Grace()), now))
	from, to := int64(within.Start), int64(within.End)
	if r.Side == words.After {
		return a.Store.BookingsEnding(ctx, sqlc.BookingsEndingParams{RangeFrom: from, RangeTo: to, WorkspaceID: workspace, TypeID: kind, RuleID: r.ID})
	}
	return a.Store.BookingsStarting(ctx, sqlc.BookingsStartingParams{RangeFrom: from, RangeTo: to, WorkspaceID: workspace, TypeID: kind, RuleID: r.ID})
}

// sendAbout plans one message, once, if it is true now.
func (a *App) sendAbout(ctx context.Context, q *sqlc.Queries, workspace int64, r messageRule, quiet words.Quiet, b sqlc.Booking, now time.Time) error {
	if with, err := spokenToWith(ctx, q, b); err != nil || with != nil {
		return err // one message to an address is enough
	}
	m, err := a.timedMeeting(ctx, q, workspace, b)
	if err != nil {
		return err
	}
	m.Quiet = quiet
	at, some := r.Due(m)
	due := span.Span{Start: span.At(now.Add(-r.Grace())) + 1, End: span.At(now) + 1}
	if !some || int64(at) <= r.Since || !due.Holds(at) || !r.Holds(m) {
		return nil
	}
	done := sqlc.MessageDoneParams{RuleID: r.ID, BookingID: b.ID, StartAt: b.StartAt}
	if already, err := q.MessageDone(ctx, done); err != nil || already > 0 {
		return err
	}
	return a.planMessage(ctx, q, r, b, now, at.Time().Add(r.Grace()))
}

// planMessage gives the worker a rule's message about a booking, and keeps that it did.
func (a *App) planMessage(ctx context.Context, q *sqlc.Queries, r messageRule, b sqlc.Booking, now, expires time.Time) error {
	kind, lane := jobTimed, laneMail
	if r.By == words.ByText {
		kind, lane = jobText, laneTexts
	}
	id, err := job.Plan(ctx, q, now, job.New{
		Key:  fmt.Sprintf("message %d about %d at %d", r.ID, b.ID, b.StartAt),
		Kind: kind, Lane: lane, Subject: subjectBooking, SubjectID: b.ID, Occasion: string(r.Kind()), Due: now, Expires: expires,
	})
	if err != nil {
		return err
	}
	return q.AddMessageDone(ctx, sqlc.AddMessageDoneParams{RuleID: r.ID, BookingID: b.ID, StartAt: b.StartAt, JobID: id})
}

// mailTimed sends a mail that the clock brought about, if it is still true.
func (a *App) mailTimed(ctx context.Context, j sqlc.Job) (job.Ending, error) {
	f, err := a.timedFacts(ctx, j)
	if err != nil {
		return nil, err
	}
	letters, err := a.timedLetters(ctx, f, words.Kind(j.Occasion), a.messageID(j))
	if err != nil {
		return nil, err
	}
	return a.saying(ctx, j, letters, nil)
}

// timedFacts is what a message of the clock is made of; the error is job.ErrDropped if it isn't true any more.
func (a *App) timedFacts(ctx context.Context, j sqlc.Job) (facts, error) {
	b, err := a.Store.Booking(ctx, j.SubjectID)
	if err != nil {
		return facts{}, err
	}
	planned, err := a.Store.MessageOfJob(ctx, j.ID)
	if errors.Is(err, store.ErrNotFound) {
		return facts{}, job.ErrDropped
	}
	if err != nil {
		return facts{}, err
	}
	f, err := a.facts(ctx, b)
	if err != nil {
		return facts{}, err
	}
	stands, err := a.stillTrue(ctx, f, planned, words.Kind(j.Occasion))
	if err == nil && !stands {
		err = job.ErrDropped
	}
	f.rule = planned.RuleID
	return f, err
}

// stillTrue looks at the rule and the booking once more, right before a message goes out.
func (a *App) stillTrue(ctx context.Context, f facts, planned sqlc.MessageDone, kind words.Kind) (bool, error) {
	i := slices.IndexFunc(f.own.Rules, func(r messageRule) bool { return r.ID == planned.RuleID })
	if i < 0 || f.own.Rules[i].Kind() != kind || f.booking.StartAt != planned.StartAt {
		return false, nil
	}
	m, err := a.timedMeeting(ctx, a.Store.Queries, f.host.Home.ID, f.booking)
	return f.own.Rules[i].Holds(m), err
}

// timedLetters is a message of the clock for everybody who gets it.
func (a *App) timedLetters(ctx context.Context, f facts, kind words.Kind, id string) ([]Mail, error) {
	rule := messageRule{}
	if i := slices.IndexFunc(f.own.Rules, func(r messageRule) bool { return r.ID == f.rule }); i >= 0 {
		rule = f.own.Rules[i]
	}
	switch kind {
	case words.HostReminder:
		return a.remindHosts(ctx, f, id)
	case words.GuestReminder:
		return a.remindGuests(ctx, f.forClient(), id)
	case words.OfficeNote:
		f = f.forHost(f.host)
		m := mailOf(f.timedLetter(kind, f.baseURL+"/", false, f.hostFacts()))
		m.ID, m.FromName, m.To, m.ReplyTo = id, f.workspace, schedule.Address{Mail: rule.Address}, f.host.Address()
		return []Mail{m}, nil
	}
	return a.timedClient(ctx, f.forClient(), rule, kind, id)
}

func (a *App) timedClient(ctx context.Context, f facts, rule messageRule, kind words.Kind, id string) ([]Mail, error) {
	l := f.timedLetter(kind, f.link, a.mayConfirm(f.booking), f.clientFacts())
	if kind == words.ClientReminder {
		o, err := a.BookedType(ctx, a.Store.Queries, f.booking)
		if err != nil {
			return nil, err
		}
		l = f.asking(l, a.mayConfirm(f.booking), a.late(f.booking, told.Moving, o.BookingPage.MoveUntil) == nil, a.cantCancel(f.booking, o) == nil)
	}
	if rule.Asks {
		l.Actions = append([]letter.Action{{Label: f.w.Say("answers.rate", nil), URL: f.link + "?answer=rate"}}, l.Actions...)
	}
	leave := ""
	if rule.FollowsUp() {
		l.Actions = append(l.Actions, letter.Action{Label: f.w.Say("answers.leave", nil), URL: f.link + "?answer=leave"})
		leave = f.link + "/leave"
	}
	m := mailOf(l)
	m.ID, m.FromName, m.ReplyTo, m.Leave = id, f.workspace, f.host.Address(), leave
	m.To, m.Back = schedule.Address{Name: f.booking.ClientName, Mail: f.booking.ClientMail}, a.back(backOfClient, f.booking.ID)
	return []Mail{m}, nil
}

func (a *App) remindHosts(ctx context.Context, f facts, id string) ([]Mail, error) {
	out := make([]Mail, len(f.hosts))
	for i, person := range f.hosts {
		host, err := a.Anybody(ctx, a.Store.Queries, person)
		if err != nil {
			return nil, err
		}
		f := f.forHost(host)
		out[i] = mailOf(f.timedLetter(words.HostReminder, f.baseURL+"/", false, f.hostFacts()))
		out[i].ID, out[i].FromName = fmt.Sprintf("%s-%d", id, person), f.workspace
		out[i].Back = a.back(backOfHost, f.booking.ID)
		out[i].To, out[i].ReplyTo = host.Address(), schedule.Address{Name: f.booking.ClientName, Mail: f.booking.ClientMail}
	}
	return out, nil
}

// remindGuests tells those whom the client brings what they may know.
func (a *App) remindGuests(ctx context.Context, f facts, id string) ([]Mail, error) {
	by, known, err := a.broughtBy(ctx, f.booking)
	if err != nil {
		return nil, err
	}
	guests := formOf(f.booking).Guests
	out := make([]Mail, len(guests))
	for i, guest := range guests {
		out[i] = mailOf(f.guestLetter(words.GuestReminder, by, known))
		out[i].ID, out[i].FromName, out[i].Back = fmt.Sprintf("guest-%d-%s", i, id), f.workspace, a.back(backOfGuest, f.booking.ID)
		out[i].To, out[i].ReplyTo = schedule.Address{Mail: guest}, f.host.Address()
	}
	return out, nil
}

// asking adds to a letter what its client can say to it, each with a page where one press says it: opening that page changes nothing,
// since programs that look after mail follow links.
func (f facts) asking(l letter.Letter, comes, moves, cancels bool) letter.Letter {
	var out []letter.Action
	for _, answer := range []struct {
		name string
		can  bool
	}{{"come", comes}, {"move", moves}, {"cancel", cancels}} {
		if answer.can {
			out = append(out, letter.Action{Label: f.w.Say("answers."+answer.name, nil), URL: f.link + "?answer=" + answer.name})
		}
	}
	if len(out) > 0 {
		l.Actions = out
	}
	return l
}

func (f facts) timedLetter(kind words.Kind, link string, confirms bool, about []letter.Fact) letter.Letter {
	zone := f.clientZone()
	if audience, _ := words.AudienceOf(kind); audience == words.Hosts {
		zone = f.host.Local
	}
	return f.write(kind, zone, words.With{"confirms": confirms}, link, about)
}
