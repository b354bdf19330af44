package app

import (
	"cmp"
	"context"
	"crypto/subtle"
	"errors"
	"fmt"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"corrim/core/intake"
	"corrim/core/invite"
	"corrim/core/life"
	words "corrim/core/message"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/letter"
	"corrim/internal/schedule"
	"corrim/internal/secrets"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// What comes back: each mail about a booking has an address of its own to which it returns, and to which calendar programs send answers
// to its invitation. It tells the booking and whom the mail was for, and can't be guessed.

// ErrNoMailbox means that an address was not given out.
var ErrNoMailbox = errors.New("there is no such address here")

// Arrived is a mail that came in for one of these addresses.
type Arrived struct {
	To      string // what stands before the @
	From    schedule.Address
	Subject string
	Text    string // for people
	Auto    bool   // written by a program (RFC 3834)
	Reply   *invite.Reply
	Failed  []Failed // it is a report that mail was not delivered, to these
	Report  bool     // it is a report of another kind: of a delay, say
	Raw     []byte
}

// Failed is an address that took no mail (RFC 3464, 2.3).
type Failed struct {
	Mail   string
	Status string // RFC 3463
	Said   string // by the server that refused it
}

// backOf says whom a mail was for, in the address to which it comes back.
type backOf string

const (
	backOfClient backOf = "c"
	backOfGuest  backOf = "g"
	backOfHost   backOf = "h"
)

// back is the address to which a mail about a booking comes back; empty if no mail comes in here.
func (a *App) back(of backOf, booking int64) string {
	if !a.TakesMail {
		return ""
	}
	local, domain, _ := strings.Cut(a.MailFrom, "@")
	return fmt.Sprintf("%s+%s@%s", local, a.backToken(of, booking), domain)
}

func (a *App) backToken(of backOf, booking int64) string {
	about := string(of) + strconv.FormatInt(booking, 36)
	return about + "-" + a.secrets.Mail(about)
}

// backTo is what an address of ours is about, if it is one that we gave out.
func (a *App) backTo(local string) (of backOf, booking int64, ours bool) {
	name, token, _ := strings.Cut(strings.ToLower(local), "+")
	about, _, _ := strings.Cut(token, "-")
	if own, _, _ := strings.Cut(a.MailFrom, "@"); len(about) < 2 || !strings.EqualFold(name, own) {
		return "", 0, false
	}
	booking, err := strconv.ParseInt(about[1:], 36, 64)
	of = backOf(about[:1])
	return of, booking, err == nil && subtle.ConstantTimeCompare([]byte(token), []byte(a.backToken(of, booking))) == 1
}

// TakesMailFor tells whether an address is one of ours that mail can come back to.
func (a *App) TakesMailFor(address string) bool {
	at := strings.LastIndexByte(address, '@')
	_, domain, _ := strings.Cut(a.MailFrom, "@")
	if at < 0 || !strings.EqualFold(address[at+1:], domain) {
		return false
	}
	_, _, ours := a.backTo(address[:at])
	return ours
}

// Arrive does what a mail asks for that came in: it keeps that an address took no mail, or what the client answered to the invitation;
// everything else that a client or guest writes is forwarded to the leading host.
func (a *App) Arrive(ctx context.Context, m Arrived) error {
	of, id, ours := a.backTo(m.To)
	if !ours {
		return ErrNoMailbox
	}
	booking, err := a.Store.Booking(ctx, id)
	if errors.Is(err, store.ErrNotFound) {
		return nil // it has gone, and there is nobody to tell
	}
	if err != nil {
		return err
	}
	f, err := a.facts(ctx, booking)
	if err != nil {
		return err
	}
	if len(m.Failed) > 0 {
		return a.keepReturned(ctx, f, of, m.Failed)
	}
	if m.Report || of == backOfHost { // whom the house wrote to: their programs' answers are nobody's business
		return nil
	}
	if m.Reply != nil && of == backOfClient {
		if done, err := a.answered(ctx, f, *m.Reply); done || err != nil {
			return err
		}
	}
	return a.forward(ctx, f, m)
}

// keepReturned keeps which address of the client or their guests took no mail.
func (a *App) keepReturned(ctx context.Context, f facts, of backOf, failed []Failed) error {
	addresses := map[backOf][]string{backOfClient: {f.booking.ClientMail}, backOfGuest: formOf(f.booking).Guests}[of]
	return a.Store.Write(ctx, func(q *sqlc.Queries) error {
		for _, one := range failed {
			address := one.Mail
			if of == backOfClient { // which may have been led elsewhere on the way
				address = f.booking.ClientMail
			}
			if !slices.ContainsFunc(addresses, func(known string) bool { return strings.EqualFold(known, address) }) {
				continue
			}
			err := q.SetMailReturned(ctx, sqlc.SetMailReturnedParams{
				WorkspaceID: f.host.Home.ID, Mail: address, BookingID: f.booking.ID, Status: intake.FirstLetters(one.Status, 20), Said: intake.FirstLetters(intake.OneLine(one.Said), 300), At: a.Now().Unix(),
			})
			if err != nil {
				return err
			}
		}
		return nil
	})
}

// answered does what the client answered to the invitation to the meeting as it is now, and tells whether that was one.
func (a *App) answered(ctx context.Context, f facts, r invite.Reply) (done bool, err error) {
	b := f.booking
	switch {
	case r.UID != b.Uid || !slices.Contains(r.From, strings.ToLower(b.ClientMail)) || r.Answer == "":
		return false, nil
	case b.Life != string(life.Booked) || b.StartAt <= a.Now().Unix():
		return r.Answer == invite.Accepted, nil
	}
	current := r.Sequence == int(b.Sequence)
	if r.Answer != invite.Wished && r.Start != 0 {
		current = int64(r.Start) == b.StartAt
	}
	switch {
	case !current:
		return r.Answer == invite.Accepted, nil // a time that is over and done with: who declines it may have more to say
	case r.Answer == invite.Accepted:
		return true, a.accepted(ctx, b)
	case r.Answer == invite.Declined && a.declinedCancels(ctx, b, r.Comment):
		return true, nil
	}
	return true, a.keepAnswer(ctx, f, r)
}

// accepted keeps that the client says they come. Said earlier than it means something, it only takes back what they answered before.
func (a *App) accepted(ctx context.Context, b sqlc.Booking) error {
	if a.mayConfirm(b) {
		if _, err := a.Confirm(ctx, a.secrets.Link(b.Uid)); err != nil {
			return err
		}
	}
	return a.Store.Write(ctx, func(q *sqlc.Queries) error {
		_, err := q.DropInviteAnswer(ctx, b.ID)
		return err
	})
}

// declinedCancels cancels a booking whose client declined the invitation, where the type says so and they may cancel.
func (a *App) declinedCancels(ctx context.Context, b sqlc.Booking, said string) bool {
	o, err := a.BookedType(ctx, a.Store.Queries, b)
	if err != nil || !o.BookingPage.DeclineCancels {
		return false
	}
	_, err = a.Cancel(ctx, a.secrets.Link(b.Uid), cmp.Or(intake.FirstLetters(said, 1000), words.In(b.Language).Say("answers.cancel", nil)))
	return err == nil
}

// keepAnswer keeps what its hosts have to decide about, and tells them.
func (a *App) keepAnswer(ctx context.Context, f facts, r invite.Reply) error {
	said := intake.FirstLetters(intake.AsWritten(r.Comment), 1000)
	err := a.Store.Write(ctx, func(q *sqlc.Queries) error {
		before, err := q.InviteAnswer(ctx, f.booking.ID)
		if err != nil && !errors.Is(err, store.ErrNotFound) {
			return err
		}
		wish := int64(0)
		if r.Answer == invite.Wished {
			wish = int64(r.Start)
		}
		if before.Answer == string(r.Answer) && before.WishAt == wish {
			return nil // sent twice
		}
		if err := q.SetInviteAnswer(ctx, sqlc.SetInviteAnswerParams{BookingID: f.booking.ID, Answer: string(r.Answer), StartAt: f.booking.StartAt, WishAt: wish, Said: said, At: a.Now().Unix()}); err != nil {
			return err
		}
		return a.tellAnswer(ctx, q, f, wish, said)
	})
	a.Wake()
	return err
}

func (a *App) tellAnswer(ctx context.Context, q *sqlc.Queries, f facts, wish int64, said string) error {
	for _, person := range f.hosts {
		host, err := a.Anybody(ctx, q, person)
		if err != nil {
			return err
		}
		f := f.forHost(host)
		about := f.hostFacts()
		if wish != 0 {
			about = append(about, f.fact("wished", f.w.Moment(time.Unix(wish, 0).In(host.Local), f.clock())))
		}
		if said != "" {
			about = append(about, letter.Fact{f.w.Say("facts.writes", words.With{"name": f.booking.ClientName}), said})
		}
		m := mailOf(f.write(words.HostAnswered, host.Local, words.With{"wishes": wish != 0}, f.baseURL+"/", about))
		m.ID, m.FromName = "answer-"+secrets.New(), f.workspace
		m.To, m.ReplyTo, m.Back = host.Address(), schedule.Address{Name: f.booking.ClientName, Mail: f.booking.ClientMail}, a.back(backOfHost, f.booking.ID)
		if err := a.post(ctx, q, person, m); err != nil {
			return err
		}
	}
	return nil
}

// longestForwarded bounds how much of a mail's text stands in the one that forwards it; the mail itself goes with it whole.
const longestForwarded = 5000

// forward sends a mail on to the leading host, whole, so that nothing that anybody wrote is lost.
func (a *App) forward(ctx context.Context, f facts, m Arrived) error {
	f = f.forHost(f.host)
	about := append(f.hostFacts(), letter.Fact{f.w.Say("facts.writes", words.With{"name": cmp.Or(m.From.Name, m.From.Mail)}), cmp.Or(intake.FirstLetters(intake.AsWritten(m.Text), longestForwarded), "–")})
	letter := mailOf(f.write(words.HostForwarded, f.host.Local, words.With{"from": cmp.Or(m.From.Name, m.From.Mail), "wrote": intake.FirstLetters(intake.OneLine(m.Subject), 200), "program": m.Auto}, f.baseURL+"/", about))
	letter.ID, letter.FromName = "forward-"+secrets.Hashed(string(m.Raw))[:32], f.workspace // the same if it comes in twice
	letter.To, letter.ReplyTo, letter.Back = f.host.Address(), m.From, a.back(backOfHost, f.booking.ID)
	letter.Files = []File{{Name: "mail.eml", Type: "application/octet-stream", Data: m.Raw}}
	if m.From.Mail == "" {
		letter.ReplyTo = schedule.Address{Name: f.booking.ClientName, Mail: f.booking.ClientMail}
	}
	err := a.Store.Write(ctx, func(q *sqlc.Queries) error {
		if err := a.countForwarded(ctx, q, f.booking.ID); err != nil {
			return err
		}
		return a.post(ctx, q, f.host.ID, letter)
	})
	a.Wake()
	return err
}

// mostForwarded is how many mails about one booking are forwarded in an hour; more are refused for now, and come again.
const mostForwarded = 10

var errMuchMail = errors.New("too much mail about one meeting at once")

func (a *App) countForwarded(ctx context.Context, q *sqlc.Queries, booking int64) error {
	now, subject := a.Now(), fmt.Sprint("mail about ", booking)
	forwarded, err := q.Attempts(ctx, sqlc.AttemptsParams{Subject: subject, Since: now.Add(-time.Hour).Unix()})
	if err != nil {
		return err
	}
	if forwarded >= mostForwarded {
		return errMuchMail
	}
	return q.AddAttempt(ctx, sqlc.AddAttemptParams{Subject: subject, At: now.Unix()})
}

// Returned is that an address took no mail.
type Returned struct {
	Mail string    `json:"mail"`
	Said string    `json:"said" doc:"By the server that refused it."`
	At   time.Time `json:"at"`
}

// returnedFrom is whether mail to an address of the workspace's clients came back.
func (a *App) returnedFrom(ctx context.Context, workspace int64, mail string) (*Returned, error) {
	row, err := a.Store.MailReturned(ctx, sqlc.MailReturnedParams{WorkspaceID: workspace, Mail: mail})
	if errors.Is(err, store.ErrNotFound) {
		return nil, nil
	}
	return &Returned{row.Mail, row.Said, time.Unix(row.At, 0).UTC()}, err
}

// returnedFor is how long an address that took no mail is told of.
const returnedFor = 90 * 24 * time.Hour

// mailTroubles are the addresses that took no mail about the person's coming meetings.
func (a *App) mailTroubles(ctx context.Context, p schedule.Person) ([]schedule.Trouble, error) {
	now := a.Now()
	rows, err := a.Store.MailReturnedOfHost(ctx, sqlc.MailReturnedOfHostParams{WorkspaceID: p.Home.ID, PersonID: p.ID, Now: now.Unix(), Since: now.Add(-returnedFor).Unix()})
	out := make([]schedule.Trouble, len(rows))
	for i, row := range rows {
		out[i] = schedule.Trouble{
			Title:    told.Say("mail-came-back", "Mail to {} comes back", row.Mail),
			Sentence: told.Say("mail-came-back-about", "It is about {} with {} on {}. Their server said: “{}”", row.TypeName, row.ClientName, told.At(span.Instant(row.StartAt), p.Local), row.Said),
			Path:     "/clients/" + url.PathEscape(row.ClientMail), Label: told.Say("see-the-client", "See the client"),
		}
	}
	return out, err
}

// MailWorks keeps that an address takes mail again, by somebody's word.
func (a *App) MailWorks(ctx context.Context, p schedule.Person, mail string) (ClientHistory, error) {
	if _, err := a.ClientByMail(ctx, p, mail); err != nil {
		return ClientHistory{}, err
	}
	err := a.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		_, err := q.DropMailReturned(ctx, sqlc.DropMailReturnedParams{WorkspaceID: p.Home.ID, Mail: mail})
		return err
	})
	if err != nil {
		return ClientHistory{}, err
	}
	return a.ClientByMail(ctx, p, mail)
}
