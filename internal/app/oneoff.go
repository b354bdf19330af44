package app

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"slices"
	"strings"
	"time"

	"corrim/core/civil"
	"corrim/core/intake"
	"corrim/core/life"
	words "corrim/core/message"
	"corrim/core/opentimes"
	"corrim/core/routing"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/calsync"
	"corrim/internal/identity"
	"corrim/internal/job"
	"corrim/internal/letter"
	"corrim/internal/public"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/secrets"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// One-off offers: times for one client, of which they can take one, once. Either they are picked by hand, or they are those
// that are open by rules made for this client.

// NewOneOff is an offer to be made.
type NewOneOff struct {
	Type    int64               `json:"type"`
	Host    int64               `json:"host,omitempty" doc:"One of its hosts; the maker if left out."`
	Minutes int                 `json:"minutes,omitempty" doc:"The length; that offered first if left out."`
	Starts  []public.HandPicked `json:"starts" maxItems:"60" doc:"Whether the type's rules allow them is the host's to know. None with rules."`
	Rules   *OneOffRules        `json:"rules,omitempty" doc:"Instead of picked times: what is open by these."`
	Until   string              `json:"until" format:"date" doc:"The last day on which it can be taken."`
	Keep    bool                `json:"keep,omitempty" doc:"The picked times are kept for this client until then; without it, whoever books first has them."`
	Name    string              `json:"name,omitempty" maxLength:"1000" doc:"The client's, to be filled in already."`
	Mail    string              `json:"mail,omitempty" maxLength:"1000" doc:"Where the offer is mailed; nowhere if left out."`
	Word    string              `json:"word,omitempty" maxLength:"10000"`
}

// OneOffRules are what differs from the type's rules: the rest of them, the host's hours and whatever is in the way count as
// always. The last day of the offer is the last that can be booked.
type OneOffRules struct {
	Minutes int  `json:"minutes" doc:"The length, whether the type has it or not; 5 to 1440."`
	Notice  int  `json:"notice" minimum:"0" maximum:"525600" doc:"In minutes."`
	Step    int  `json:"step" doc:"A start every so many minutes, on the clock; 1 to 1440."`
	Limits  bool `json:"limits" doc:"The type's limits of bookings count."`
}

func (r OneOffRules) check(wrong refusal.Complaints) {
	if r.Minutes < 5 || r.Minutes > 24*60 {
		wrong.Add("rules.minutes", told.Say("meeting-lasts-5", "A meeting lasts 5 to 1440 minutes."))
	}
	if r.Step < 1 || r.Step > 24*60 {
		wrong.Add("rules.step", told.Say("start-every-1", "A start every 1 to 1440 minutes is possible."))
	}
}

// to is the type's rules with these in their place.
func (r OneOffRules) to(rules schedule.TypeRules, until time.Time) schedule.TypeRules {
	rules = rules.Only(r.Minutes)
	rules.Notice, rules.NoticeInDays = r.Notice, false
	rules.Step, rules.Offset, rules.Grid = r.Step, 0, ""
	rules.WindowDays, rules.WindowFirst, rules.WindowLast = 0, "2000-01-01", until.Add(-time.Second).Format(time.DateOnly)
	if !r.Limits {
		rules.Limits = nil
	}
	return rules
}

// OneOff is an offer as those who work here see it.
type OneOff struct {
	ID      int64       `json:"id"`
	Path    string      `json:"path" doc:"What is sent to the client."`
	Type    string      `json:"type"`
	Host    string      `json:"host"`
	Name    string      `json:"name"`
	Mail    string      `json:"mail"`
	Starts  []time.Time `json:"starts" doc:"None where it goes by rules."`
	Minutes int         `json:"minutes" doc:"The length."`
	Until   time.Time   `json:"until"`
	State   string      `json:"state" enum:"open,taken,withdrawn,expired"`
	Opened  *time.Time  `json:"opened,omitempty" doc:"When it was looked at first."`
	Created time.Time   `json:"created"`
}

const mostOffered = 20

// MakeOneOff makes an offer and mails it if there is an address.
func (a *App) MakeOneOff(ctx context.Context, p schedule.Person, n NewOneOff) (OneOff, error) {
	if err := p.Must(identity.EditOwn); err != nil { // before anything is mailed
		return OneOff{}, err
	}
	seconds, until, err := a.checkOneOff(p, n)
	if err != nil {
		return OneOff{}, err
	}
	w, err := a.handWish(ctx, p, HandTimes{Type: n.Type, Host: n.Host, Minutes: n.Minutes, Date: n.Until, Minute: 24*60 - 1})
	if err != nil {
		return OneOff{}, err
	}
	host := p
	if n.Host != 0 {
		host = w.person(n.Host)
	}
	uid := secrets.New()
	row := sqlc.AddOneOffParams{
		TypeID: w.ID, HostID: host.ID, MadeBy: p.ID, ClientName: intake.OneLine(n.Name), ClientMail: intake.OneLine(n.Mail), Word: intake.AsWritten(n.Word),
		Minutes: int64(w.Rules.Duration), Until: until, LinkHash: secrets.Hashed(uid), CreatedAt: a.Now().Unix(),
	}
	if err := n.times(seconds, &row); err != nil {
		return OneOff{}, err
	}
	language, err := a.languageOf(ctx, p, row.ClientMail)
	if err != nil {
		return OneOff{}, err
	}
	var id int64
	err = a.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		if id, err = q.AddOneOff(ctx, row); err != nil {
			return err
		}
		if n.Keep {
			if err := a.keepOffered(ctx, q, id, row, seconds); err != nil {
				return err
			}
		}
		if row.ClientMail == "" {
			return nil
		}
		return a.post(ctx, q, p.ID, a.oneOffMail(host, language, w.Name, uid, row, seconds))
	})
	if err != nil {
		return OneOff{}, err
	}
	a.Wake()
	saved, err := a.Store.OneOff(ctx, id)
	out := a.oneOff(saved, w.Name, host.Name)
	out.Path = "/o/" + uid // only now: the database knows its hash alone
	return out, err
}

// keepOffered blocks the times of an offer until it is over, one way or another.
func (a *App) keepOffered(ctx context.Context, q *sqlc.Queries, id int64, row sqlc.AddOneOffParams, seconds []int64) error {
	label := strings.TrimSpace("Offered to " + row.ClientName)
	if row.ClientName == "" {
		label = "Offered"
	}
	for _, start := range seconds {
		_, err := q.AddBlock(ctx, sqlc.AddBlockParams{PersonID: row.HostID, StartAt: start, EndAt: start + 60*row.Minutes, Label: label, OneOffID: store.NullID(id)})
		if err != nil {
			return err
		}
	}
	_, err := job.Plan(ctx, q, a.Now(), job.Keyed(job.New{Kind: jobOfferOver, Lane: laneOwn, Subject: subjectOneOff, SubjectID: id, Due: time.Unix(row.Until, 0)}))
	return err
}

// offerOver is the job that gives back what was kept for an offer, once it can't be taken any more.
func (a *App) offerOver(_ context.Context, j sqlc.Job) (job.Ending, error) {
	return func(ctx context.Context, q *sqlc.Queries) error {
		return q.GiveBackOffered(ctx, store.NullID(j.SubjectID))
	}, nil
}

// times puts into an offer's row which times it is about: those that were picked, or the rules.
func (n NewOneOff) times(seconds []int64, row *sqlc.AddOneOffParams) error {
	starts, err := json.Marshal(seconds)
	if err != nil {
		return err
	}
	row.Starts = string(starts)
	if n.Rules == nil {
		return nil
	}
	rules, err := json.Marshal(n.Rules)
	row.Rules, row.Minutes = string(rules), int64(n.Rules.Minutes)
	return err
}

func (a *App) checkOneOff(p schedule.Person, n NewOneOff) (seconds []int64, until int64, err error) {
	wrong := refusal.Complaints{}
	if _, fault := intake.MailAddress(n.Mail); n.Mail != "" && fault.Any() {
		wrong.Add("mail", fault)
	}
	if len([]rune(n.Word)) > 1000 {
		wrong.Add("word", told.Say("message-client-most", "A message to the client has at most 1,000 characters."))
	}
	seconds, err = a.Picked(p, n.Starts)
	var refusal *refusal.Refusal
	switch {
	case errors.As(err, &refusal):
		wrong.Add("starts", refusal.Fields["starts"])
	case n.Rules != nil && n.Keep:
		wrong.Add("starts", told.Say("only-times-pick", "Only times that you pick can be kept. Pick some, or keep none."))
	case n.Rules != nil && len(n.Starts) > 0:
		wrong.Add("starts", told.Say("pick-times-let", "Pick times, or let rules say which there are; not both."))
	case n.Rules == nil && (len(seconds) == 0 || len(seconds) > mostOffered):
		wrong.Add("starts", told.Say("pick-one-20", "Pick one to 20 times."))
	}
	last, err := civil.ParseDate(n.Until)
	if err != nil {
		wrong.Add("until", told.OfError(err))
	}
	until = int64(last.AddDays(1).Start(p.Local))
	if until <= a.Now().Unix() {
		wrong.Add("until", told.Say("day-gone-choose", "This day has gone by. Choose a later one."))
	}
	if n.Rules != nil {
		n.Rules.check(wrong)
		if until-a.Now().Unix() > int64(schedule.LongestRange/time.Second) {
			wrong.Add("until", told.Say("rules-offer-lasts", "By rules, an offer lasts at most 100 days. Choose an earlier day."))
		}
	}
	return seconds, until, wrong.Err()
}

func (a *App) oneOffMail(host schedule.Person, language, kind, secret string, row sqlc.AddOneOffParams, seconds []int64) Mail {
	w := words.In(cmp.Or(language, host.Home.Front.Language))
	var told []letter.Fact
	for _, s := range seconds {
		told = append(told, letter.Fact{w.Fact("offered"), w.Moment(time.Unix(s, 0).In(host.Local), host.Home.Front.Clock()) + " (" + civil.TownOf(host.Local.String(), w.Language) + ")"})
	}
	if row.Rules != "" {
		told = append(told, letter.Fact{w.Fact("length"), w.Say("facts.minutes", words.With{"minutes": row.Minutes})})
	}
	if row.Word != "" {
		told = append(told, letter.Fact{w.Say("facts.writes", words.With{"name": host.Name}), row.Word})
	}
	with := words.With{"type": kind, "host": host.Name, "until": w.Day(time.Unix(row.Until-1, 0).In(host.Local))}
	m := mailOf(letter.Write(w, words.Offer, with, a.BaseURL+"/o/"+secret, told))
	m.ID, m.FromName, m.ReplyTo, m.To = "offer-"+secrets.Hashed(secret)[:24], host.Home.Name, host.Address(), schedule.Address{Name: row.ClientName, Mail: row.ClientMail}
	return m
}

func (a *App) oneOff(row sqlc.OneOff, kind, host string) OneOff {
	out := OneOff{
		ID: row.ID, Type: kind, Host: host, Name: row.ClientName, Mail: row.ClientMail, Starts: startsOfJSON(row.Starts), Minutes: int(row.Minutes), Until: time.Unix(row.Until, 0).UTC(),
		State: "open", Created: time.Unix(row.CreatedAt, 0).UTC(),
	}
	switch {
	case row.BookingID.Valid:
		out.State = "taken"
	case row.WithdrawnAt != 0:
		out.State = "withdrawn"
	case row.Until <= a.Now().Unix():
		out.State = "expired"
	}
	if row.OpenedAt != 0 {
		opened := time.Unix(row.OpenedAt, 0).UTC()
		out.Opened = &opened
	}
	return out
}

func startsOfJSON(text string) []time.Time {
	var seconds []int64
	_ = json.Unmarshal([]byte(text), &seconds) // written by us
	out := make([]time.Time, len(seconds))
	for i, s := range seconds {
		out[i] = time.Unix(s, 0).UTC()
	}
	return out
}

// OneOffs lists the offers of the person, or, for a coordinator, of everybody, the latest first.
func (a *App) OneOffs(ctx context.Context, p schedule.Person) ([]OneOff, error) {
	rows, err := a.Store.OneOffs(ctx, sqlc.OneOffsParams{WorkspaceID: p.Home.ID, HostID: p.WhoseClients()})
	if err != nil {
		return nil, err
	}
	names, err := a.Names(ctx, p.Home.ID)
	out := make([]OneOff, len(rows))
	for i, r := range rows {
		out[i] = a.oneOff(r.OneOff, r.TypeName, names[r.OneOff.HostID])
	}
	return out, err
}

// WithdrawOneOff ends an offer that was not taken yet.
func (a *App) WithdrawOneOff(ctx context.Context, p schedule.Person, id int64) ([]OneOff, error) {
	err := a.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		row, err := q.OneOff(ctx, id)
		if errors.Is(err, store.ErrNotFound) {
			return errNoOffer
		}
		if err != nil {
			return err
		}
		if _, err := a.Colleague(ctx, q, p, row.HostID); err != nil || row.HostID != p.ID && row.MadeBy != p.ID && !p.May(identity.HandleBookings) {
			return errNoOffer
		}
		if row.BookingID.Valid {
			return refusal.New(refusal.Over, told.Say("been-taken-already", "It has been taken already. Cancel the booking instead, if it can't be."))
		}
		if err := q.GiveBackOffered(ctx, store.NullID(id)); err != nil {
			return err
		}
		return q.WithdrawOneOff(ctx, sqlc.WithdrawOneOffParams{ID: id, WithdrawnAt: a.Now().Unix()})
	})
	if err != nil {
		return nil, err
	}
	return a.OneOffs(ctx, p)
}

var errNoOffer = refusal.New(refusal.NotFound, told.Say("no-such-offer", "There is no such offer. Load the page again to see those there are."))

// taking is an offer as its client meets it.
type taking struct {
	schedule.Bookable
	row   sqlc.OneOff
	rules *OneOffRules // nil for times picked by hand
}

// taking finds an offer by its link. What can't be taken any more says why.
func (a *App) taking(ctx context.Context, q *sqlc.Queries, link string) (taking, error) {
	row, err := q.OneOffByLink(ctx, secrets.Hashed(link))
	if errors.Is(err, store.ErrNotFound) {
		return taking{}, refusal.New(refusal.NotFound, told.NoOffer.Words())
	}
	if err != nil {
		return taking{}, err
	}
	t := taking{row: row}
	if t.Host, err = a.Anybody(ctx, q, row.HostID); err != nil {
		return t, err
	}
	alone := schedule.TypeRouting{Mode: routing.Together, People: []schedule.PoolMember{{Person: row.HostID, Weight: 1}}}
	if t.Pool, err = a.Pool(ctx, q, t.Host.Home.ID, alone); err != nil {
		return t, err
	}
	kind, err := q.MeetingType(ctx, row.TypeID)
	if err != nil {
		return t, err
	}
	if t.MeetingType, err = schedule.MeetingTypeOf(ctx, q, t.Host.Home, kind); err != nil {
		return t, err
	}
	t.Rules, t.Path = t.Rules.Only(int(row.Minutes)), "/o/"+link
	if row.Rules != "" {
		if err := json.Unmarshal([]byte(row.Rules), &t.rules); err != nil {
			return t, err
		}
		t.Rules = t.rules.to(t.Rules, time.Unix(row.Until, 0).In(t.Host.Local))
	}
	t.BookingPage.OnRequest, t.BookingPage.Proof = false, "" // the host has offered it, to this client
	t.BookingPage.Along, t.Rules.Whole = 0, false            // a time for one
	switch {
	case row.BookingID.Valid:
		return t, refusal.New(refusal.Over, told.OfferTaken.Words())
	case row.WithdrawnAt != 0:
		return t, refusal.New(refusal.Over, told.OfferWithdrawn.With(t.Host.Name))
	case row.Until <= a.Now().Unix():
		return t, refusal.New(refusal.Over, told.OfferExpired.With(t.Host.Name))
	}
	return t, nil
}

// OneOffPage returns what the client's page of an offer says, and keeps that it was opened.
func (a *App) OneOffPage(ctx context.Context, link string) (schedule.Page, error) {
	t, err := a.taking(ctx, a.Store.Queries, link)
	if err != nil {
		return schedule.Page{}, err
	}
	page := t.Page()
	page.Host = t.Host.Name
	if t.row.Word != "" {
		page.Description = t.row.Word
	}
	if t.row.OpenedAt != 0 {
		return page, nil
	}
	return page, a.Store.Write(ctx, func(q *sqlc.Queries) error {
		return q.OpenedOneOff(ctx, sqlc.OpenedOneOffParams{ID: t.row.ID, OpenedAt: a.Now().Unix()})
	})
}

// OneOffTimes answers which of the offered times can still be taken.
func (a *App) OneOffTimes(ctx context.Context, link string) (schedule.OpenTimes, error) {
	t, err := a.taking(ctx, a.Store.Queries, link)
	if err != nil {
		return schedule.OpenTimes{}, err
	}
	now := a.Now().UTC()
	answer := schedule.OpenTimes{Now: now, Earliest: now, Starts: []time.Time{}}
	a.calendars.Refresh(ctx, t.Host.ID, calsync.FreshEnough, calsync.LookingTime)
	if t.rules != nil {
		return a.AnswerOf(ctx, t.Bookable, schedule.Ask{}, 0, schedule.TimesWanted{From: now, To: time.Unix(t.row.Until, 0)})
	}
	for _, start := range startsOfJSON(t.row.Starts) {
		switch err := a.mustBeFree(ctx, a.Store.Queries, sqlc.Booking{}, t.row.ID, t.Bookable, start); {
		case err == nil && start.After(now):
			answer.Starts = append(answer.Starts, start)
		case err != nil && !errors.Is(err, errProposalTaken):
			return answer, err
		}
	}
	return answer, nil
}

// TakeOneOff books one of the offered times, outside the type's rules but never over anything else.
func (a *App) TakeOneOff(ctx context.Context, link, key string, r schedule.BookingRequest) (ClientBooking, error) {
	t, err := a.taking(ctx, a.Store.Queries, link)
	hash := secrets.Hashed(key + "\n" + r.Mail)
	if err != nil {
		if again, found := a.Store.BookingByRequest(ctx, hash); found == nil {
			return a.clientBooking(ctx, again) // sent twice
		}
		return ClientBooking{}, err
	}
	a.calendars.Refresh(ctx, t.Host.ID, 0, calsync.BookingTime)
	r = r.Normal(t.Host.Home)
	var booking sqlc.Booking
	err = a.Store.Write(ctx, func(q *sqlc.Queries) error {
		t, err := a.taking(ctx, q, link)
		if err != nil {
			return err
		}
		form, err := t.Fill(r)
		if err != nil {
			return err
		}
		if form.Said, form.Files, err = a.nameFiles(ctx, q, t.ID, form.Said); err != nil {
			return err
		}
		open, err := a.stillOffered(ctx, q, t, r.Start)
		if err != nil {
			return err
		}
		if !open {
			return takenSince(nil)
		}
		by := insertion{step: byClient(string(life.Book), ""), form: form, hosts: []int64{t.Host.ID}, why: schedule.Assigned{Kind: routing.ByHand, By: t.row.MadeBy}}
		if booking, err = a.insertBooking(ctx, q, t.Bookable, hash, r, by); err != nil {
			return err
		}
		if err := q.GiveBackOffered(ctx, store.NullID(t.row.ID)); err != nil {
			return err
		}
		return q.UseOneOff(ctx, sqlc.UseOneOffParams{ID: t.row.ID, BookingID: store.NullID(booking.ID)})
	})
	if errors.Is(err, store.ErrOverlap) {
		err = takenSince(nil)
	}
	if err != nil {
		return ClientBooking{}, err
	}
	a.Wake()
	return a.clientBooking(ctx, a.withRoom(ctx, booking))
}

// stillOffered tells whether a time can be taken now: one that was picked, if nothing lies over it; or whatever is open by the
// offer's rules.
func (a *App) stillOffered(ctx context.Context, q *sqlc.Queries, t taking, start time.Time) (bool, error) {
	if t.rules != nil {
		at := span.At(start)
		l, err := a.Lineup(ctx, q, t.Bookable, schedule.Ask{}, span.Span{Start: at, End: at + 1}, 0)
		return err == nil && int64(at) < t.row.Until && len(l.Starts(span.Span{Start: at, End: at + 1})) > 0, err
	}
	if !slices.ContainsFunc(startsOfJSON(t.row.Starts), start.Equal) || !start.After(a.Now()) {
		return false, nil
	}
	err := a.mustBeFree(ctx, q, sqlc.Booking{}, t.row.ID, t.Bookable, start)
	if errors.Is(err, errProposalTaken) {
		return false, nil
	}
	return err == nil, err
}

// mustBeFree refuses a time picked by hand over which something lies in the hosts' calendars now, b itself and what is kept for an offer
// aside.
func (a *App) mustBeFree(ctx context.Context, q *sqlc.Queries, b sqlc.Booking, offer int64, o schedule.Bookable, start time.Time) error {
	wanted := opentimes.Start{At: span.At(start), Minutes: o.Rules.Duration}
	for _, host := range o.Pool.People {
		g, err := a.Agenda(ctx, q, host, span.Span{Start: wanted.At, End: wanted.At + 1}, b.ID)
		if err != nil {
			return err
		}
		g.Blocks = slices.DeleteFunc(g.Blocks, func(block sqlc.Block) bool { return offer != 0 && block.OneOffID == store.NullID(offer) })
		for _, rule := range opentimes.Explain(g.Input(o.ID, o.Rules), wanted).Failing() {
			if rule == opentimes.BusyRule || rule == opentimes.BookingRule {
				return errProposalTaken
			}
		}
	}
	return nil
}
