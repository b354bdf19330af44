package identity

import (
	"context"
	"errors"
	"slices"
	"strings"
	"time"

	"corrim/core/intake"
	words "corrim/core/message"
	"corrim/core/told"
	"corrim/internal/letter"
	"corrim/internal/refusal"
	"corrim/internal/secrets"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
	"corrim/internal/trace"
)

// Getting in, staying in and getting out.

// Whence is where a request comes from, as far as it tells. Device is what its browser has kept from an earlier sign-in.
type Whence struct{ Address, Agent, Device string }

// Hash stands for the address where only sameness matters.
func (w Whence) Hash() string { return secrets.Hashed("address " + w.Address) }

const (
	idleEnd        = 3 * 24 * time.Hour // a session that nobody uses ends
	seenEvery      = 5 * time.Minute    // how exactly it is known when one was used
	recentCheck    = 15 * time.Minute   // how long after entering the password risky things can be done
	resetTime      = 30 * time.Minute
	attemptTime    = 15 * time.Minute
	mostFromThere  = 8  // wrong attempts at one account within that time: from one network address, or with one device
	mostOfAccount  = 60 // from all addresses, but for devices that its person has signed in with
	mostOfAddress  = 40 // at all accounts from one network address
	toldFrom       = 8  // wrong attempts at one account, its person is told of them
	mostResets     = 3  // mails to one account within an hour
	knownPlaceDays = 90
)

// Session is where somebody is signed in.
type Session struct {
	ID      int64     `json:"id"`
	At      time.Time `json:"at" doc:"When they signed in."`
	SeenAt  time.Time `json:"seenAt" doc:"When it was last used, within five minutes."`
	Address string    `json:"address" doc:"The network address it was opened from."`
	Agent   string    `json:"agent" doc:"What the browser calls itself."`
	Current bool      `json:"current" doc:"The one that asks."`
}

var errSignIn = refusal.New(refusal.NotSignedIn, told.Say("mail-password-dont", "Mail and password don't belong together. Check both and try again, or choose a new password by mail."))

// SignIn checks mail and password, and opens a session.
func (s *Service) SignIn(ctx context.Context, mail, password string, from Whence) (Person, int64, error) {
	mail = strings.TrimSpace(mail)
	row, err := s.Store.PersonByMail(ctx, mail)
	kept := row.PasswordHash
	if errors.Is(err, store.ErrNotFound) {
		kept, err = s.dummyHash, nil // the answer takes as long
	}
	if err != nil {
		return Person{}, 0, err
	}
	a := s.attemptAt(mail, row.ID, from)
	if err := s.count(ctx, a); err != nil {
		s.Log.WarnContext(ctx, "sign-in refused", "why", "too many attempts", "from", from.Address)
		return Person{}, 0, err
	}
	fits, again, err := s.passwordFits(ctx, kept, password)
	if err != nil { // nobody has looked at it
		return Person{}, 0, errors.Join(err, s.takeBack(context.WithoutCancel(ctx), a))
	}
	if !fits || row.ID == 0 {
		s.Log.WarnContext(ctx, "sign-in refused", "person", row.ID, "from", from.Address)
		s.tellOfAttempts(ctx, row, a)
		return Person{}, 0, errSignIn
	}
	p, err := s.of(ctx, row)
	if err != nil {
		return p, 0, err
	}
	if again {
		if err := s.keepAnew(ctx, p, password); err != nil {
			return p, 0, err
		}
	}
	if err := s.wasRight(ctx, a); err != nil {
		return p, 0, err
	}
	id, err := s.OpenSession(ctx, p, from, true)
	return p, id, err
}

// keepAnew keeps a password as it is kept today.
func (s *Service) keepAnew(ctx context.Context, p Person, password string) error {
	hash, err := s.HashPassword(ctx, password)
	if err != nil {
		return err
	}
	return s.Store.Write(ctx, func(q *sqlc.Queries) error {
		return q.SetPassword(ctx, sqlc.SetPasswordParams{ID: p.ID, PasswordHash: hash})
	})
}

// NewDevice is what the browser keeps that somebody has signed in with, so that others' guesses don't keep them out.
func (s *Service) NewDevice(p Person) string { return s.Keys.Device(p.ID) }

// OpenSession opens a session of somebody who has shown who they are. If told is set and they have not come from there before, they
// are told by mail.
func (s *Service) OpenSession(ctx context.Context, p Person, from Whence, told bool) (id int64, err error) {
	from.Agent = intake.FirstLetters(intake.OneLine(from.Agent), 200)
	now := s.Now()
	err = s.Store.Write(ctx, func(q *sqlc.Queries) error {
		if err := q.EndOldSignIns(ctx, sqlc.EndOldSignInsParams{PersonID: p.ID, Before: now.AddDate(0, 0, -knownPlaceDays).Unix()}); err != nil {
			return err
		}
		known, err := q.SignInsFrom(ctx, sqlc.SignInsFromParams{PersonID: p.ID, Address: from.Address, Agent: from.Agent})
		if err != nil {
			return err
		}
		if id, err = q.AddSignIn(ctx, sqlc.AddSignInParams{PersonID: p.ID, At: now.Unix(), Address: from.Address, Agent: from.Agent}); err != nil {
			return err
		}
		w := words.In(p.Language)
		if told && known.AllOfThem > 0 && known.FromThere == 0 {
			return s.Notify(ctx, q, accountNotice(p, words.SignedIn,
				letter.Fact{w.Fact("when"), w.Moment(now.In(p.clock), "15:04")}, letter.Fact{w.Fact("from"), from.Address}, letter.Fact{w.Fact("browser"), from.Agent}))
		}
		return nil
	})
	if err == nil {
		s.Log.InfoContext(ctx, "signed in", "person", p.ID, "from", from.Address)
		s.Wake()
	}
	return id, err
}

// accountNotice tells somebody about their account.
func accountNotice(p Person, kind words.Kind, told ...letter.Fact) Notice {
	return Notice{ID: "account-" + secrets.New(), To: p, Kind: kind, Path: "/account", Told: told}
}

// PersonIn returns whose session it is, by ID, if it has not ended.
func (s *Service) PersonIn(ctx context.Context, session int64) (int64, error) {
	row, err := s.Store.SignIn(ctx, session)
	now := s.Now()
	if errors.Is(err, store.ErrNotFound) || err == nil && row.SeenAt < now.Add(-idleEnd).Unix() {
		return 0, refusal.New(refusal.NotSignedIn, told.Say("please-sign-again", "Please sign in again."))
	}
	if err != nil {
		return 0, err
	}
	if row.SeenAt < now.Add(-seenEvery).Unix() {
		err = s.Store.Write(ctx, func(q *sqlc.Queries) error {
			return q.SignInSeen(ctx, sqlc.SignInSeenParams{ID: session, SeenAt: now.Unix()})
		})
		if err != nil {
			return 0, err
		}
	}
	return row.PersonID, nil
}

// Sessions lists where the person is signed in.
func (s *Service) Sessions(ctx context.Context, p Person, current int64) ([]Session, error) {
	rows, err := s.Store.SignIns(ctx, sqlc.SignInsParams{PersonID: p.ID, Since: s.Now().Add(-idleEnd).Unix()})
	out := make([]Session, len(rows))
	for i, r := range rows {
		out[i] = Session{r.ID, time.Unix(r.At, 0).UTC(), time.Unix(r.SeenAt, 0).UTC(), r.Address, r.Agent, r.ID == current}
	}
	return out, err
}

// EndSession ends one of the person's sessions.
func (s *Service) EndSession(ctx context.Context, p Person, id int64) error {
	return s.Store.Write(ctx, func(q *sqlc.Queries) error {
		return q.EndSignIn(ctx, sqlc.EndSignInParams{ID: id, PersonID: p.ID})
	})
}

// EndSessions ends all of the person's sessions but one.
func (s *Service) EndSessions(ctx context.Context, p Person, except int64) error {
	return s.Store.Write(ctx, func(q *sqlc.Queries) error {
		return q.EndSignIns(ctx, sqlc.EndSignInsParams{PersonID: p.ID, Except: except})
	})
}

// MustBeSure refuses what is risky if the password was not entered a short time ago in this session. In the demo nobody has one.
func (s *Service) MustBeSure(ctx context.Context, session int64) error {
	row, err := s.Store.SignIn(ctx, session)
	if err != nil || s.Demo || row.CheckedAt >= s.Now().Add(-recentCheck).Unix() {
		return err
	}
	return refusal.New(refusal.Unsure, told.Say("enter-password-once", "Enter your password once more to do this."))
}

// BeSure takes the person's password once more.
func (s *Service) BeSure(ctx context.Context, p Person, session int64, password string, from Whence) error {
	if err := s.checkOwn(ctx, p, password, from); err != nil {
		return err
	}
	return s.Store.Write(ctx, func(q *sqlc.Queries) error {
		return q.SignInChecked(ctx, sqlc.SignInCheckedParams{ID: session, CheckedAt: s.Now().Unix()})
	})
}

// checkOwn refuses a password that is not the person's.
func (s *Service) checkOwn(ctx context.Context, p Person, password string, from Whence) error {
	a := s.attemptAt(p.Mail, p.ID, from)
	if err := s.count(ctx, a); err != nil {
		return err
	}
	row, err := s.Store.Person(ctx, p.ID)
	if err != nil {
		return err
	}
	fits, _, err := s.passwordFits(ctx, row.PasswordHash, password)
	if err != nil {
		return errors.Join(err, s.takeBack(context.WithoutCancel(ctx), a))
	}
	if !fits {
		s.tellOfAttempts(ctx, row, a)
		return refusal.Faulty("current", told.Say("password-wrong", "This is not your password."))
	}
	return s.wasRight(ctx, a)
}

// ChangePassword gives the person another password; their other sessions end.
func (s *Service) ChangePassword(ctx context.Context, p Person, session int64, current, password string, from Whence) error {
	if err := s.checkOwn(ctx, p, current, from); err != nil {
		return err
	}
	return s.setPassword(ctx, p, password, session)
}

func (s *Service) setPassword(ctx context.Context, p Person, password string, session int64) error {
	if fault := CheckPassword(password, p.Name, p.Mail, p.workspaceName); fault.Any() {
		return refusal.Faulty("password", fault)
	}
	hash, err := s.HashPassword(ctx, password)
	if err != nil {
		return err
	}
	err = s.Store.Write(ctx, func(q *sqlc.Queries) error {
		if err := q.SetPassword(ctx, sqlc.SetPasswordParams{ID: p.ID, PasswordHash: hash}); err != nil {
			return err
		}
		if err := q.EndResets(ctx, p.ID); err != nil {
			return err
		}
		if err := q.EndSignIns(ctx, sqlc.EndSignInsParams{PersonID: p.ID, Except: session}); err != nil {
			return err
		}
		return s.Notify(ctx, q, accountNotice(p, words.PasswordChanged))
	})
	s.Wake()
	return err
}

// ChangeLanguage lets the person get their mails in another language.
func (s *Service) ChangeLanguage(ctx context.Context, p Person, language string) error {
	if !slices.Contains(words.Languages(), language) {
		return refusal.Faulty("language", told.Say("choose-language-from", "Choose a language from the list."))
	}
	return s.Store.Write(ctx, func(q *sqlc.Queries) error {
		return q.SetLanguage(ctx, sqlc.SetLanguageParams{ID: p.ID, Language: language})
	})
}

// ChangeMail gives the person another mail address to sign in with; the old one is told.
func (s *Service) ChangeMail(ctx context.Context, p Person, current, mail string, from Whence) error {
	if err := s.checkOwn(ctx, p, current, from); err != nil {
		return err
	}
	mail = strings.TrimSpace(mail)
	if _, fault := intake.MailAddress(mail); fault.Any() {
		return refusal.Faulty("mail", fault)
	}
	err := s.Store.Write(ctx, func(q *sqlc.Queries) error {
		if other, err := q.PersonByMail(ctx, mail); err == nil && other.ID != p.ID {
			return refusal.Faulty("mail", told.Say("address-used-choose", "This address can't be used. Choose another one."))
		}
		if err := q.SetMail(ctx, sqlc.SetMailParams{ID: p.ID, Mail: mail}); err != nil {
			return err
		}
		return s.Notify(ctx, q, accountNotice(p, words.AddressChanged, letter.Fact{words.In(p.Language).Fact("new-address"), mail}))
	})
	s.Wake()
	return err
}

// AskForReset mails somebody a link to choose a new password. Nobody learns whether there is an account, by the answer or by how long it
// takes: what is done for one that there is, is done after it.
func (s *Service) AskForReset(ctx context.Context, mail string, from Whence) error {
	mail = strings.TrimSpace(mail)
	subject := secrets.Hashed("reset " + strings.ToLower(mail))
	err := s.Store.Write(ctx, func(q *sqlc.Queries) error {
		return s.countIn(ctx, q, time.Hour, limit{subject, mostResets})
	})
	var often *refusal.Refusal
	if errors.As(err, &often) {
		return nil // as if a mail went out once more
	}
	if err != nil {
		return err
	}
	trace.Go(ctx, s.Log, "mailing a link for a new password", func(ctx context.Context) error { return s.mailReset(ctx, mail, from) })
	return nil
}

func (s *Service) mailReset(ctx context.Context, mail string, from Whence) error {
	row, err := s.Store.PersonByMail(ctx, mail)
	if errors.Is(err, store.ErrNotFound) {
		return nil
	}
	if err != nil {
		return err
	}
	p, err := s.of(ctx, row)
	if err != nil {
		return err
	}
	s.Log.InfoContext(ctx, "a new password was asked for", "person", p.ID, "from", from.Address)
	secret := secrets.New()
	err = s.Store.Write(ctx, func(q *sqlc.Queries) error {
		if err := q.AddReset(ctx, sqlc.AddResetParams{LinkHash: secrets.Hashed(secret), PersonID: p.ID, ExpiresAt: s.Now().Add(resetTime).Unix()}); err != nil {
			return err
		}
		return s.Notify(ctx, q, Notice{ID: "reset-" + secrets.Hashed(secret)[:16], To: p, Kind: words.PasswordReset, Path: "/reset/" + secret})
	})
	s.Wake()
	return err
}

// ResetPassword takes a link from AskForReset, once. What was tried in vain before, from there or in all, is forgotten.
func (s *Service) ResetPassword(ctx context.Context, secret, password string, from Whence) error {
	row, err := s.Store.Reset(ctx, sqlc.ResetParams{LinkHash: secrets.Hashed(secret), Now: s.Now().Unix()})
	if errors.Is(err, store.ErrNotFound) {
		return refusal.New(refusal.Over, told.Say("link-been-used", "This link has been used, or is older than 30 minutes. Ask for a new one."))
	}
	if err != nil {
		return err
	}
	p, err := s.person(ctx, row.PersonID)
	if err != nil {
		return err
	}
	if err := s.setPassword(ctx, p, password, 0); err != nil {
		return err
	}
	return s.Store.Write(ctx, func(q *sqlc.Queries) error {
		for _, subject := range []string{accountSubject(p.Mail), s.attemptAt(p.Mail, p.ID, from).limits[0].subject} {
			if err := q.ForgetAttempts(ctx, subject); err != nil {
				return err
			}
		}
		return nil
	})
}
