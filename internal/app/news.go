package app

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"time"

	"corrim/core/civil"
	words "corrim/core/message"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/letter"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/store/sqlc"
)

// News is what somebody chose to be told of about the meetings they hold.
type News struct {
	Untold  []words.Kind `json:"untold" doc:"What they get no mail about."`
	Texted  []words.Kind `json:"texted" doc:"What they get a text message about."`
	NotOwn  bool         `json:"notOwn" doc:"Nothing about what they did themself."`
	Morning string       `json:"morning" doc:"When their day is mailed to them, 'HH:MM' on their clock; empty for never."`
}

// NewsView is these choices, with all there is to choose from.
type NewsView struct {
	News
	Kinds   []words.Kind `json:"kinds"`
	Phone   string       `json:"phone" doc:"Their own number, which they have proven; empty if none."`
	Stopped bool         `json:"stopped" doc:"That number has ended our text messages."`
	ByText  bool         `json:"byText" doc:"This installation sends text messages."`
}

func newsChosen(row sqlc.Person) (News, error) {
	n := News{Untold: []words.Kind{}, Texted: []words.Kind{}, NotOwn: row.UntoldOwn == 1, Morning: row.Morning}
	return n, errors.Join(json.Unmarshal([]byte(row.Untold), &n.Untold), json.Unmarshal([]byte(row.Texted), &n.Texted))
}

// NewsOf is what the person chose to be told of.
func (a *App) NewsOf(ctx context.Context, p schedule.Person) (NewsView, error) {
	row, err := a.Store.Person(ctx, p.ID)
	if err != nil {
		return NewsView{}, err
	}
	n, err := newsChosen(row)
	if err != nil {
		return NewsView{}, err
	}
	stopped, err := a.Store.TextsStopped(ctx, sqlc.TextsStoppedParams{WorkspaceID: row.WorkspaceID, Phone: row.Phone})
	return NewsView{News: n, Kinds: words.News(), Phone: row.Phone, Stopped: stopped > 0, ByText: a.Texter != nil}, err
}

// ChooseNews keeps what the person wants to be told of.
func (a *App) ChooseNews(ctx context.Context, p schedule.Person, n News) (NewsView, error) {
	if n.Morning != "" {
		if _, err := time.Parse(clockOfDay, n.Morning); err != nil {
			return NewsView{}, refusal.Faulty("morning", told.Say("morning-clock", "Give the time of day as hours and minutes, like 07:30."))
		}
	}
	untold, err := newsAsKept(n.Untold)
	if err != nil {
		return NewsView{}, err
	}
	texted, err := newsAsKept(n.Texted)
	if err != nil {
		return NewsView{}, err
	}
	today, minute := a.clockOf(p)
	done := ""
	if n.Morning != "" && minute >= n.Morning {
		done = today // this morning is over; the first mail comes tomorrow
	}
	err = a.Store.Write(ctx, func(q *sqlc.Queries) error {
		return q.SetNews(ctx, sqlc.SetNewsParams{ID: p.ID, Untold: untold, Texted: texted, UntoldOwn: number(n.NotOwn), Morning: n.Morning, MorningOn: done})
	})
	if err != nil {
		return NewsView{}, err
	}
	return a.NewsOf(ctx, p)
}

// newsAsKept is kinds of news as they are stored: each once, and only what there is.
func newsAsKept(chosen []words.Kind) (string, error) {
	kept := []words.Kind{}
	for _, kind := range words.News() {
		if slices.Contains(chosen, kind) {
			kept = append(kept, kind)
		}
	}
	text, err := json.Marshal(kept)
	return string(text), err
}

// wantsNews tells whether somebody wants a mail about a step of a booking.
func (a *App) wantsNews(ctx context.Context, person int64, f facts, last step) (bool, error) {
	row, err := a.Store.Person(ctx, person)
	if err != nil {
		return false, err
	}
	n, err := newsChosen(row)
	kind, _ := words.For(f.occasion(last.kind), words.Hosts)
	own := last.person == person
	return !slices.Contains(n.Untold, kind) && !(own && (n.NotOwn || kind == words.SessionNews)), err
}

const (
	clockOfDay = "15:04"
	// morningFor is how late the mail of a morning may be: after an outage, say.
	morningFor = 3 * time.Hour
)

// clockOf is the date and the time of day on the person's clock.
func (a *App) clockOf(p schedule.Person) (date, clock string) {
	now := a.Now().In(p.Local)
	return now.Format(time.DateOnly), now.Format(clockOfDay)
}

// sendMornings mails their day to those for whom it is time.
func (a *App) sendMornings(ctx context.Context) error {
	rows, err := a.Store.PeopleWithMornings(ctx)
	if err != nil {
		return err
	}
	for _, row := range rows {
		if err := a.sendMorning(ctx, row); err != nil {
			// One person's trouble costs only theirs.
			a.Log.ErrorContext(ctx, "the mail of the morning could not be written", "person", row.ID, "error", err)
		}
	}
	return nil
}

func (a *App) sendMorning(ctx context.Context, row sqlc.Person) error {
	p, err := a.PersonOf(ctx, a.Store.Queries, row)
	if err != nil {
		return err
	}
	date, clock := a.clockOf(p)
	if row.MorningOn == date || clock < row.Morning {
		return nil
	}
	at, err := time.ParseInLocation(time.DateOnly+" "+clockOfDay, date+" "+row.Morning, p.Local)
	if err != nil {
		return err
	}
	var m *Mail
	if a.Now().Sub(at) < morningFor {
		if m, err = a.morningMail(ctx, p, date); err != nil {
			return err
		}
	}
	return a.Store.Write(ctx, func(q *sqlc.Queries) error {
		if err := q.SetMorningOn(ctx, sqlc.SetMorningOnParams{ID: p.ID, MorningOn: date}); err != nil || m == nil {
			return err
		}
		return a.post(ctx, q, p.ID, *m)
	})
}

// morningMail is the person's day: their meetings, what they can decide, and what doesn't agree with their calendars. A day on which
// there is nothing of that has none.
func (a *App) morningMail(ctx context.Context, p schedule.Person, date string) (*Mail, error) {
	today, err := civil.ParseDate(date)
	if err != nil {
		return nil, err
	}
	day := span.Span{Start: today.Start(p.Local), End: today.AddDays(1).Start(p.Local)}
	agenda, err := a.WholeAgenda(ctx, a.Store.Queries, p, day)
	if err != nil {
		return nil, err
	}
	requests, err := a.requests(ctx, p)
	if err != nil {
		return nil, err
	}
	clashes, err := a.clashes(ctx, p)
	if err != nil {
		return nil, err
	}
	w, layout := words.In(p.Language), p.Home.Front.Clock()
	meetings := meetingsOf(agenda.Bookings, day)
	var about []letter.Fact
	for _, b := range meetings {
		about = append(about, letter.Fact{b.Start.In(p.Local).Format(layout) + "–" + b.End.In(p.Local).Format(layout), b.Type + ", " + b.Client})
	}
	if len(about)+len(requests)+len(clashes) == 0 {
		return nil, nil
	}
	told := func(word string, b HostBooking) {
		about = append(about, letter.Fact{w.Fact(word), fmt.Sprintf("%s: %s, %s", w.DayAndClock(b.Start.In(p.Local), layout), b.Type, b.Client)})
	}
	for _, r := range requests {
		told("to-decide", r.HostBooking)
	}
	for _, c := range clashes {
		told("clash", c.Booking)
	}
	m := mailOf(letter.Write(w, words.Morning, words.With{"day": w.Day(day.Start.Time().In(p.Local)), "meets": len(meetings) > 0}, a.BaseURL+"/", about))
	m.ID, m.FromName, m.To, m.ReplyTo = fmt.Sprintf("morning-%d-%s", p.ID, date), p.Home.Name, p.Address(), p.Address()
	return &m, nil
}
