package app

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"corrim/core/intake"
	words "corrim/core/message"
	"corrim/core/told"
	"corrim/internal/job"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/store/sqlc"
)

// News for hosts as text messages, to a number that they have proven to be theirs: what clients are called is nobody else's business.

// SendPhoneCode texts a code to a number that the person says is theirs, and returns the number as it is written everywhere.
func (a *App) SendPhoneCode(ctx context.Context, p schedule.Person, phone string) (string, error) {
	number, err := a.ownNumber(p, phone)
	if err != nil {
		return "", err
	}
	if err := a.mayAsk(ctx, p, number); err != nil {
		return "", err
	}
	w := words.In(p.Language)
	text := w.Say("texts.client-held", words.With{"code": a.phoneCode(p, number), "workspace": p.Home.Name})
	m := TextMessage{ID: fmt.Sprintf("phone-%d-%d.%s", p.ID, a.Now().UnixNano(), a.name), To: number, From: textsFrom(p.Home), Text: text}
	if err := a.Texter.Send(ctx, m); err != nil {
		a.Log.WarnContext(ctx, "a code could not be texted", "error", err)
		return "", refusal.New(refusal.Unreachable, told.Say("phone-code-unsent", "The text message could not be sent. Try again in a moment."))
	}
	return number, nil
}

// mayAsk refuses a number that has ended our text messages, unless it is the person's own: they may want them again.
func (a *App) mayAsk(ctx context.Context, p schedule.Person, number string) error {
	row, err := a.Store.Person(ctx, p.ID)
	if err != nil || row.Phone == number {
		return err
	}
	stopped, err := a.Store.TextsStopped(ctx, sqlc.TextsStoppedParams{WorkspaceID: p.Home.ID, Phone: number})
	if err == nil && stopped > 0 {
		return refusal.Faulty("phone", told.TextsStopped.Words())
	}
	return err
}

// ProvePhone makes a number the person's own, if the code is the one that was sent there. An empty number takes theirs away.
func (a *App) ProvePhone(ctx context.Context, p schedule.Person, phone, code string) (NewsView, error) {
	number := ""
	if phone != "" {
		var err error
		if number, err = a.ownNumber(p, phone); err != nil {
			return NewsView{}, err
		}
		if onlyFigures(code) != a.phoneCode(p, number) {
			return NewsView{}, refusal.Faulty("code", told.Say("phone-code-wrong", "This is not the code that was sent to {}.", number))
		}
	}
	err := a.Store.Write(ctx, func(q *sqlc.Queries) error {
		if number != "" {
			if err := a.setTexts(ctx, q, p.Home.ID, number, true); err != nil {
				return err
			}
		}
		return q.SetPhone(ctx, sqlc.SetPhoneParams{ID: p.ID, Phone: number})
	})
	if err != nil {
		return NewsView{}, err
	}
	return a.NewsOf(ctx, p)
}

func (a *App) ownNumber(p schedule.Person, phone string) (string, error) {
	if a.Texter == nil {
		return "", refusal.New(refusal.Invalid, settings.NoGateway)
	}
	number, fault := intake.MobileNumber(intake.OneLine(phone), p.Home.Front.Country, a.TextsTo)
	if fault.Any() {
		return "", refusal.Faulty("phone", fault)
	}
	return number, nil
}

// phoneCode proves that a number is a person's.
func (a *App) phoneCode(p schedule.Person, number string) string {
	return a.secrets.Code(fmt.Sprintf("phone %d %s", p.ID, number))
}

// planHostTexts plans a text message for each host who wants one about a step, after quiet hours and not once the meeting has begun.
// Of bookings that were entered together, the first speaks for all.
func (a *App) planHostTexts(ctx context.Context, q *sqlc.Queries, b sqlc.Booking, s step) error {
	kind, some := words.For(facts{booking: b}.occasion(s.kind), words.Hosts)
	if !some {
		return nil
	}
	parts, err := q.HostsOfMeeting(ctx, b.MeetingID)
	if err != nil {
		return err
	}
	people := []int64{}
	for _, part := range parts {
		if part.State != schedule.HostLeft {
			people = append(people, part.PersonID)
		}
	}
	if s.from != 0 && !slices.Contains(people, s.from) {
		people = append(people, s.from)
	}
	spoken, err := q.OfSeries(ctx, sqlc.OfSeriesParams{Series: s.series, Kind: jobTextHost})
	if err != nil {
		return err
	}
	for _, person := range people {
		if slices.ContainsFunc(spoken, func(j sqlc.Job) bool { return j.PersonID == person }) {
			continue
		}
		if err := a.planHostText(ctx, q, b, s, kind, person); err != nil {
			return err
		}
	}
	return nil
}

func (a *App) planHostText(ctx context.Context, q *sqlc.Queries, b sqlc.Booking, s step, kind words.Kind, person int64) error {
	row, err := q.Person(ctx, person)
	if err != nil || row.Phone == "" {
		return err
	}
	n, err := newsChosen(row)
	if err != nil || !slices.Contains(n.Texted, kind) || n.NotOwn && s.person == person {
		return err
	}
	m, err := a.messagesWithQuiet(ctx, q, row.WorkspaceID, b.TypeID)
	if err != nil {
		return err
	}
	return a.planTextAfterQuiet(ctx, q, b, m.Quiet, row.Zone, job.New{Kind: jobTextHost, Person: person, Occasion: s.kind, Series: s.series})
}

// textHost sends news of a booking to one of its hosts: what a mail about it is headed with, when the meeting is, and where to look.
func (a *App) textHost(ctx context.Context, f facts, j sqlc.Job) (job.Ending, error) {
	row, err := a.Store.Person(ctx, j.PersonID)
	if err != nil {
		return nil, err
	}
	host, err := a.PersonOf(ctx, a.Store.Queries, row)
	if err != nil {
		return nil, err
	}
	last, err := a.lastStep(ctx, f.booking, j.Occasion)
	if err != nil {
		return nil, err
	}
	kind, some := words.For(f.occasion(j.Occasion), words.Hosts)
	n, err := newsChosen(row)
	if err != nil || !some || row.RemovedAt != 0 || !slices.Contains(n.Texted, kind) {
		return nil, errors.Join(err, job.ErrDropped)
	}
	f = f.forHost(host)
	news := f.w.Say("texts.host-news", words.With{"news": f.hostLetter(last, nil).Subject, "when": f.w.DayAndClock(time.Unix(f.booking.StartAt, 0).In(host.Local), f.clock()), "link": f.baseURL})
	return a.sendTextTo(ctx, f, j, row.Phone, f.w.Say("texts.stops", words.With{"said": strings.TrimSpace(news)}))
}
