package app

import (
	"cmp"
	"context"
	"fmt"
	"maps"
	"slices"
	"strings"
	"time"

	"corrim/core/life"
	words "corrim/core/message"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/letter"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/store/sqlc"
)

// write is a message about the booking: in its own words if it has some in the reader's language, else as it is built in.
func (f facts) write(kind words.Kind, zone *time.Location, with words.With, link string, about []letter.Fact) letter.Letter {
	basics := f.basics(zone)
	maps.Copy(basics, with)
	own, has := f.own.wordsOf(kind, f.rule)[f.w.Language]
	if !has {
		return letter.Write(f.w, kind, basics, link, about)
	}
	said := own.Write(onlyKnown(kind, f.all(kind, zone, with, link)))
	said.Action = f.w.Write(kind, basics).Action
	return letter.Of(f.w, said, link, about)
}

// all is every fact that own words may say about the booking.
func (f facts) all(kind words.Kind, zone *time.Location, with words.With, link string) words.With {
	start := time.Unix(f.booking.StartAt, 0).In(zone)
	audience, _ := words.AudienceOf(kind)
	all := f.basics(zone)
	maps.Copy(all, words.With{
		"workspace": f.workspace, "mail": f.booking.ClientMail, "day": f.w.Day(start), "time": start.Format(f.clock()),
		"minutes": (f.booking.EndAt - f.booking.StartAt) / 60, "where": f.where(audience == words.Hosts), "link": link, "remark": f.booking.Remark,
		"video": f.room.URL != "", words.AnswersName: f.answers(),
	})
	maps.Copy(all, with)
	return all
}

// answers is what the client answered, by the questions' IDs.
func (f facts) answers() map[string]string {
	out := map[string]string{}
	for _, answer := range formOf(f.booking).Said {
		out[answer.ID] = answer.Text()
	}
	return out
}

// basics are the facts that the built-in words say of every booking.
func (f facts) basics(zone *time.Location) words.With {
	return words.With{
		"type": f.booking.TypeName, "hosts": f.with(), "host": f.host.Name, "client": f.booking.ClientName,
		"when": f.w.DayAndClock(time.Unix(f.booking.StartAt, 0).In(zone), f.clock()),
	}
}

// onlyKnown leaves of facts those that a message's own words may say, whatever stands in them.
func onlyKnown(kind words.Kind, all words.With) words.With {
	out := words.With{}
	for _, known := range words.Placeholders(kind) {
		out[known.Name] = all[known.Name]
	}
	if audience, _ := words.AudienceOf(kind); audience != words.Guests {
		out[words.AnswersName] = all[words.AnswersName]
	}
	return out
}

// where is in a line where one meets.
func (f facts) where(forHost bool) string {
	place := f.meetingPlace(forHost)
	if len(place) == 0 {
		return ""
	}
	return place[0][1]
}

// MessageWish asks for a message as somebody would get it.
type MessageWish struct {
	Kind     words.Kind `json:"kind"`
	Type     int64      `json:"type" doc:"Whose messages are meant; 0 is the workspace."`
	By       string     `json:"by,omitempty" enum:",mail,text" doc:"Mail if left out."`
	Language string     `json:"language"`
	Text     words.Text `json:"text" doc:"Its own words; empty ones are the built-in ones."`
	Booking  int64      `json:"booking" doc:"About which it is; 0 is a made-up one, -1 the next one, if there is one."`
}

// MessageShown is a message as somebody would get it, and what its words can be made of.
type MessageShown struct {
	BuiltIn      words.Text             `json:"builtIn" doc:"What is built in, as templates."`
	Placeholders []words.Placeholder    `json:"placeholders"`
	Wrong        map[string]words.Fault `json:"wrong" doc:"What is wrong with the words, by 'subject', 'opening' and 'closing'."`
	Booking      int64                  `json:"booking" doc:"About which it is; 0 is a made-up one."`
	To           string                 `json:"to"`
	Bookings     []BookingNamed         `json:"bookings" doc:"Those to choose from."`

	// What it says, unless something is wrong.
	Subject string        `json:"subject"`
	Opening string        `json:"opening"`
	Facts   []letter.Fact `json:"facts" doc:"Each a word for something, and what it is."`
	Actions []string      `json:"actions" doc:"What its links are called."`
	Closing string        `json:"closing"`
	Text    string        `json:"text" doc:"All of it as plain text."`
	Parts   words.Parts   `json:"parts" doc:"Of a text message: how it is cut up on its way."`
}

// BookingNamed is a booking by its client and time.
type BookingNamed struct {
	ID     int64     `json:"id"`
	Client string    `json:"client"`
	Type   string    `json:"type"`
	At     time.Time `json:"at"`
}

const (
	nextBooking  = -1
	mostToChoose = 20
)

// ShowMessage is a message as it would be sent, with words that may not be saved yet. Links in it lead nowhere: they are the client's.
func (a *App) ShowMessage(ctx context.Context, p schedule.Person, wish MessageWish) (MessageShown, error) {
	shown, _, err := a.shownMessage(ctx, p, wish)
	return shown, err
}

// SendMessageToMe sends the person what ShowMessage shows them.
func (a *App) SendMessageToMe(ctx context.Context, p schedule.Person, wish MessageWish) error {
	shown, l, err := a.shownMessage(ctx, p, wish)
	if err != nil {
		return err
	}
	if len(shown.Wrong) > 0 {
		return refusal.New(refusal.Invalid, told.Say("mend-words-first", "Something is wrong with the words. Mend it first; nothing was sent."))
	}
	m := mailOf(l)
	m.ID, m.FromName, m.To, m.ReplyTo = fmt.Sprintf("proof-%d-%d", p.ID, a.Now().UnixNano()), p.Home.Name, p.Address(), p.Address()
	defer a.Wake()
	return a.Store.Write(ctx, func(q *sqlc.Queries) error { return a.post(ctx, q, p.ID, m) })
}

func (a *App) shownMessage(ctx context.Context, p schedule.Person, wish MessageWish) (shown MessageShown, l letter.Letter, err error) {
	s, err := a.messagesFor(ctx, p, wish.Type, true)
	if err != nil {
		return shown, l, err
	}
	audience, some := words.AudienceOf(wish.Kind)
	if !some || !slices.Contains(words.Languages(), wish.Language) {
		return shown, l, refusal.New(refusal.NotFound, told.Say("words-of-nothing", "There is no such message, or not in this language. Load the page again."))
	}
	in := words.In(wish.Language)
	asText := wish.By == words.ByText
	shown = MessageShown{BuiltIn: in.BuiltIn(wish.Kind), Placeholders: s.placeholders(wish.Kind), Wrong: map[string]words.Fault{}, Facts: []letter.Fact{}, Actions: []string{}}
	if asText {
		shown.BuiltIn = in.BuiltInText(wish.Kind)
	}
	if shown.Bookings, err = a.bookingsToChoose(ctx, p, s); err != nil {
		return shown, l, err
	}
	if shown.Booking = wish.Booking; wish.Booking == nextBooking {
		shown.Booking = append(shown.Bookings, BookingNamed{})[0].ID
	}
	f, err := a.factsToShow(ctx, p, s, shown.Booking)
	if err != nil {
		return shown, l, err
	}
	if f = f.forClient(); audience == words.Hosts {
		f = f.forHost(f.host)
	}
	f.w, f.own, f.rule = in, messageRules{}, 0
	shown.To = shownTo(f, audience)
	if asText {
		shown.To = f.booking.ClientName
	}
	if wish.Text != (words.Text{}) {
		if shown.Wrong = faultsIn(wish.Kind, wish.By)(wish.Text, shown.Placeholders); len(shown.Wrong) > 0 {
			return shown, l, nil
		}
		f.own.Words = map[words.Kind]words.Own{wish.Kind: {wish.Language: wish.Text}}
	}
	if asText {
		shown.Text = f.textMessage(wish.Kind, true)
		shown.Parts = words.CountParts(shown.Text)
		return shown, letter.Letter{Language: in.Language, Subject: shown.To, Opening: shown.Text}, nil
	}
	l = f.shown(wish.Kind, audience)
	shown.Subject, shown.Opening, shown.Facts, shown.Closing, shown.Text = l.Subject, l.Opening, l.Facts, l.Closing, l.Text()
	for _, action := range l.Actions {
		shown.Actions = append(shown.Actions, action.Label)
	}
	return shown, l, nil
}

// bookingsToChoose are the next bookings that the person may see.
func (a *App) bookingsToChoose(ctx context.Context, p schedule.Person, s messageScope) ([]BookingNamed, error) {
	rows, err := a.Store.BookingsEndingAfter(ctx, sqlc.BookingsEndingAfterParams{After: a.Now().Unix(), WorkspaceID: p.Home.ID, TypeID: s.kind, Most: mostLookedAt})
	out := []BookingNamed{}
	for _, b := range rows {
		if (b.HostID == p.ID || p.May(identity.HandleBookings)) && len(out) < mostToChoose {
			out = append(out, BookingNamed{b.ID, b.ClientName, b.TypeName, time.Unix(b.StartAt, 0).UTC()})
		}
	}
	return out, err
}

// factsToShow is what a message is made of: a booking that the person may handle, or a made-up one. Neither has a code or a link that
// could be used.
func (a *App) factsToShow(ctx context.Context, p schedule.Person, s messageScope, id int64) (f facts, err error) {
	if id == 0 {
		f, err = a.madeUp(ctx, p, s)
	} else {
		var b schedule.Hosted
		if b, err = a.anyBooking(ctx, a.Store.Queries, p, id); err == nil {
			f, err = a.facts(ctx, b.Booking)
		}
	}
	f.code, f.link = "123456", a.BaseURL+"/b/…"
	return f, err
}

// madeUp is a booking as there could be one, for who has none yet.
func (a *App) madeUp(ctx context.Context, p schedule.Person, s messageScope) (facts, error) {
	start := a.TodayOf(p).AddDays(1).Start(p.Local).Add(10 * time.Hour).Time()
	b := sqlc.Booking{
		TypeName: "Consultation", HostID: p.ID, State: "booked", Life: string(life.Booked), StartAt: start.Unix(), EndAt: start.Add(50 * time.Minute).Unix(),
		ClientName: "Robin Example", ClientMail: "robin@example.org", ClientZone: p.Zone, Language: p.Language,
	}
	if s.kind != 0 {
		kind, err := a.MeetingType(ctx, p, s.kind)
		if err != nil {
			return facts{}, err
		}
		b.TypeName = kind.Name
	}
	return facts{booking: b, host: p, names: map[int64]string{p.ID: p.Name}, hosts: []int64{p.ID}, workspace: p.Home.Name, baseURL: a.BaseURL, now: a.Now()}, nil
}

func shownTo(f facts, audience words.Audience) string {
	switch audience {
	case words.Guests:
		guests := formOf(f.booking).Guests
		return append(guests, "guest@example.org")[0]
	case words.Hosts:
		return f.host.Name + " <" + f.host.Mail + ">"
	}
	return f.booking.ClientName + " <" + f.booking.ClientMail + ">"
}

// shownEntry is an entry in calendars, as a letter shows it: its title, and its text with the facts.
func (f facts) shownEntry(kind words.Kind) letter.Letter {
	m, about := f.clientEntry(), f.clientFacts()
	if kind == words.EntryHosts {
		m, about = f.hostEntry(), f.hostFacts()
	}
	own := f.own.wordsOf(kind, 0)[f.w.Language]
	l := letter.Letter{Language: f.w.Language, Subject: m.Title, Facts: about}
	if own.Opening != "" {
		l.Opening, _, _ = strings.Cut(m.Text, "\n\n"+letter.Lines(about))
	}
	return l
}

// somebodyElse is a colleague of the host; the host, if there is none.
func (f facts) somebodyElse() int64 {
	for _, id := range slices.Sorted(maps.Keys(f.names)) {
		if id != f.host.ID {
			return id
		}
	}
	return f.host.ID
}

// shown is a message as the booking would bring it about: by the step that does, taken by whoever takes it most.
func (f facts) shown(kind words.Kind, audience words.Audience) letter.Letter {
	if kind.IsEntry() {
		return f.shownEntry(kind)
	}
	event, atOnce := words.EventOf(kind)
	if !atOnce {
		if audience == words.Hosts {
			return f.timedLetter(kind, f.baseURL+"/", false, f.hostFacts())
		}
		if audience == words.Guests {
			return f.guestLetter(kind, f.booking.ClientName, false)
		}
		l := f.timedLetter(kind, f.link, true, f.clientFacts())
		if kind == words.ClientReminder {
			l = f.asking(l, true, true, true)
		}
		return l
	}
	f.booking.Invited, f.booking.State = 1, "booked"
	f.booking.LapsesAt = cmp.Or(f.booking.LapsesAt, f.now.Add(time.Hour).Unix())
	by := life.Client
	switch event {
	case life.Cancel, life.CallOff, life.Give, life.Dismiss, life.Decline, life.Expire:
		f.booking.State = "cancelled"
	}
	switch event {
	case life.Approve, life.Propose, life.Decline, life.Ask, life.Reassign, life.Change:
		by = life.Host
	}
	s := step{kind: string(event), by: string(by), person: f.host.ID, from: f.host.ID, to: f.host.ID}
	switch kind {
	case words.SessionNews: // of what a colleague did
		f.booking.Session, s.by, s.person = 1, string(life.Host), f.somebodyElse()
	case words.ListMoved:
		f.booking.Life, f.booking.Invited, s.by = string(life.Waiting), 0, string(life.Host)
	}
	switch event {
	case life.Give:
		s.note = f.host.Name
	case life.Doubt:
		s.note = doubtOf(1, usualLeast)
	}
	switch audience {
	case words.Guests:
		return f.guestLetter(kind, f.booking.ClientName, false)
	case words.Hosts:
		return f.hostLetter(s, nil)
	}
	return f.clientLetter(s, nil)
}
