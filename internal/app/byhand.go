package app

import (
	"context"
	"fmt"
	"slices"
	"time"

	"corrim/core/busy"
	"corrim/core/civil"
	"corrim/core/opentimes"
	"corrim/core/routing"
	"corrim/core/span"
	"corrim/core/wording"
	"corrim/internal/store/sqlc"
)

// HandTimes is when a host wants to book for a client, once or by a rule at the same time of the clock.
type HandTimes struct {
	Type    int64    `json:"type" doc:"One of the host's meeting types."`
	Date    string   `json:"date" format:"date"`
	Minute  int      `json:"minute" minimum:"0" maximum:"1439" doc:"Of the host's wall clock."`
	Minutes int      `json:"minutes,omitempty" doc:"The length; that offered first if left out."`
	Repeat  string   `json:"repeat,omitempty" maxLength:"500" doc:"A recurrence rule that ends (RFC 5545, 3.3.10)."`
	Without []string `json:"without,omitempty" doc:"Dates of it that are left out."`
}

// HandBooking is a booking that a host enters for a client.
type HandBooking struct {
	HandTimes
	Name    string `json:"name" maxLength:"1000"`
	Mail    string `json:"mail" maxLength:"1000"`
	Remark  string `json:"remark,omitempty" maxLength:"20000"`
	Outside bool   `json:"outside,omitempty" doc:"The host was warned that rules are broken, and wants it all the same."`
}

// KnownClient is somebody who has booked with the host before.
type KnownClient struct {
	Name string `json:"name"`
	Mail string `json:"mail"`
}

// KnownClients lists those who have booked with the person, the latest first.
func (a *App) KnownClients(ctx context.Context, p Person) ([]KnownClient, error) {
	rows, err := a.Store.ClientsOfHost(ctx, p.ID)
	out := make([]KnownClient, len(rows))
	for i, r := range rows {
		out[i] = KnownClient{r.ClientName, r.ClientMail}
	}
	return out, err
}

// HandTime is one time of those that a host wants to book, with what speaks against it.
type HandTime struct {
	Date   string `json:"date" format:"date"`
	Clock  string `json:"clock"`
	Open   bool   `json:"open"`
	Why    string `json:"why" doc:"If it is not open: the rules that it breaks."`
	day    string // "Tue 19 May"
	broken []opentimes.Rule
	start  opentimes.Start
}

// mostRepeats bounds how often a booking by hand can come again.
const mostRepeats = 60

// CheckByHand lists the times that would be booked, each checked, before anything is.
func (a *App) CheckByHand(ctx context.Context, p Person, h HandTimes) ([]HandTime, error) {
	kind, starts, err := a.handTimes(ctx, p, h)
	if err != nil {
		return nil, err
	}
	return a.checked(ctx, a.Store.Queries, p, kind, starts)
}

func (a *App) checked(ctx context.Context, q *sqlc.Queries, p Person, kind MeetingType, starts []opentimes.Start) ([]HandTime, error) {
	out := make([]HandTime, len(starts))
	for i, start := range starts {
		broken, why, err := a.brokenRules(ctx, q, p, kind, start, 0, wording.Host)
		if err != nil {
			return nil, err
		}
		at := start.At.Time().In(p.zone)
		out[i] = HandTime{at.Format(time.DateOnly), at.Format("15:04"), len(broken) == 0, why, at.Format("Mon 2 Jan"), broken, start}
	}
	return out, nil
}

// BookByHand books for a client, all times in one transaction. Times that are not open are refused with the broken rules,
// unless the host wants them all the same; one that overlaps another booking then carries a mark of its own. It returns
// how many were booked.
func (a *App) BookByHand(ctx context.Context, p Person, h HandBooking) (booked int, err error) {
	request := BookingRequest{Name: h.Name, Mail: h.Mail, Remark: h.Remark, Zone: p.Zone, Minutes: h.Minutes}.normal(p.home)
	if err := request.check(); err != nil {
		return 0, err
	}
	kind, starts, err := a.handTimes(ctx, p, h.HandTimes)
	if err != nil {
		return 0, err
	}
	err = a.writeFor(ctx, p, EditOwn, func(q *sqlc.Queries) error {
		times, err := a.checked(ctx, q, p, kind, starts)
		if err != nil {
			return err
		}
		if warning := warningOf(times); warning != "" && !h.Outside {
			return &Refusal{Kind: OutsideRules, Sentence: "Outside the rules: " + warning}
		}
		for i, t := range times {
			request.Start = t.start.At.Time()
			key := hashed(fmt.Sprintf("by hand %d %d %d %s", p.ID, a.Now().UnixNano(), i, request.Mail))
			by := insertion{step: byHost("booked", p, ""), overlap: slices.Contains(t.broken, opentimes.BookingRule), why: assigned{Kind: routing.ByHand, By: p.ID}}
			if _, err := a.insertBooking(ctx, q, offered{MeetingType: kind, host: p}, key, request, by); err != nil {
				return err
			}
		}
		return nil
	})
	if err != nil {
		return 0, err
	}
	a.wakeWorker()
	return len(starts), nil
}

func warningOf(times []HandTime) (warning string) {
	for _, t := range times {
		if !t.Open {
			warning += t.day + " " + t.Clock + ": " + t.Why
		}
	}
	return warning
}

// handTimes is the starts of what a host wants to book, and the type with rules for just that length.
func (a *App) handTimes(ctx context.Context, p Person, h HandTimes) (MeetingType, []opentimes.Start, error) {
	kind, err := a.MeetingType(ctx, p, h.Type)
	if err != nil {
		return kind, nil, err
	}
	if !kind.Mine {
		return kind, nil, complaints{"type": "You don't host this meeting type, so book it on its page, or have a host of it do so."}.err()
	}
	minutes, err := kind.Rules.length(h.Minutes)
	if err != nil {
		return kind, nil, err
	}
	kind.Rules = kind.Rules.only(minutes)
	clocks, err := h.clocks(p)
	if err != nil {
		return kind, nil, err
	}
	var starts []opentimes.Start
	for _, c := range clocks {
		start := opentimes.Start{At: c.Instant(p.zone), Minutes: minutes}
		if int64(start.At) <= a.Now().Unix() {
			return kind, nil, errGoneBy
		}
		starts = append(starts, start)
	}
	return kind, starts, nil
}

var errGoneBy = complaints{"date": "This time has already gone by. Choose a later one."}.err()

// clocks is the wanted times on the person's wall clock, without the dates that are left out.
func (h HandTimes) clocks(p Person) ([]civil.Clock, error) {
	date, err := civil.ParseDate(h.Date)
	if err != nil {
		return nil, complaints{"date": err.Error()}.err()
	}
	clocks := []civil.Clock{{Date: date, Seconds: h.Minute * 60}}
	if h.Repeat != "" {
		if clocks, err = busy.Repeat(h.Repeat, clocks[0], p.zone, mostRepeats); err != nil {
			return nil, complaints{"repeat": "This can't be followed: " + err.Error() + "."}.err()
		}
	}
	clocks = slices.DeleteFunc(clocks, func(c civil.Clock) bool { return slices.Contains(h.Without, c.Date.String()) })
	if len(clocks) == 0 {
		return nil, complaints{"date": "All dates are left out, so there is nothing to book."}.err()
	}
	return clocks, nil
}

// brokenRules is which rules a start breaks, and why in sentences; moving is a booking that is left out. A
// colleague's titles stay private.
func (a *App) brokenRules(ctx context.Context, q *sqlc.Queries, p Person, kind MeetingType, start opentimes.Start, moving int64, by wording.Reader) (broken []opentimes.Rule, sentences string, err error) {
	around := span.Span{Start: start.At, End: start.At + 1}
	g, err := a.agenda(ctx, q, p, around, moving)
	if err != nil {
		return nil, "", err
	}
	in := g.input(kind.ID, kind.Rules)
	e := opentimes.Explain(in, start)
	for _, r := range e.Reasons {
		if r.Holds {
			continue
		}
		broken = append(broken, r.Rule)
		for _, sentence := range wording.Reason(in, r, by) {
			sentences += sentence + " "
		}
	}
	return broken, sentences, nil
}
