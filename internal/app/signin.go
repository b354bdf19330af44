package app

import (
	"context"
	"errors"
	"slices"
	"strings"
	"time"

	"corrim/core/intake"
	words "corrim/core/message"
	"corrim/internal/message"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// Getting in, staying in and getting out.

// Whence is where a request comes from, as far as it tells.
type Whence struct{ Address, Agent string }

// hash stands for the address where only sameness matters.
func (w Whence) hash() string { return hashed("address " + w.Address) }

const (
	idleEnd        = 3 * 24 * time.Hour // a session that nobody uses ends
	seenEvery      = 5 * time.Minute    // how exactly it is known when one was used
	recentCheck    = 15 * time.Minute   // how long after entering the password risky things can be done
	resetTime      = 30 * time.Minute
	attemptTime    = 15 * time.Minute
	mostOfAccount  = 8  // wrong attempts within that time
	mostOfAddress  = 40 // of all accounts from one network address
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

var errSignIn = refuse(NotSignedIn, "Mail and password don't belong together. Check both and try again, or choose a new password by mail.")

// SignIn checks mail and password, and opens a session.
func (a *App) SignIn(ctx context.Context, mail, password string, from Whence) (Person, int64, error) {
	mail = strings.TrimSpace(mail)
	account, address := hashed("account "+strings.ToLower(mail)), from.hash()
	if err := a.mayTry(ctx, account, address); err != nil {
		a.Log.WarnContext(ctx, "sign-in refused", "why", "too many attempts", "from", from.Address)
		return Person{}, 0, err
	}
	row, err := a.Store.PersonByMail(ctx, mail)
	kept := row.PasswordHash
	if errors.Is(err, store.ErrNotFound) {
		kept, err = a.dummyHash, nil // the answer takes as long
	}
	if err != nil {
		return Person{}, 0, err
	}
	fits, again := a.passwordFits(kept, password)
	if !fits || row.ID == 0 {
		a.Log.WarnContext(ctx, "sign-in refused", "person", row.ID, "from", from.Address)
		return Person{}, 0, errors.Join(errSignIn, a.countAttempt(ctx, account, address))
	}
	p, err := a.person(ctx, a.Store.Queries, row)
	if err != nil {
		return p, 0, err
	}
	if again {
		err = a.Store.Write(ctx, func(q *sqlc.Queries) error {
			return q.SetPassword(ctx, sqlc.SetPasswordParams{ID: p.ID, PasswordHash: a.hashPassword(password)})
		})
		if err != nil {
			return p, 0, err
		}
	}
	id, err := a.OpenSession(ctx, p, from, true)
	return p, id, err
}

// mayTry refuses whoever has tried too often: one account, or one network address.
func (a *App) mayTry(ctx context.Context, account, address string) error {
	since := a.Now().Add(-attemptTime).Unix()
	for subject, most := range map[string]int64{account: mostOfAccount, address: mostOfAddress} {
		count, err := a.Store.Attempts(ctx, sqlc.AttemptsParams{Subject: subject, Since: since})
		if err != nil {
			return err
		}
		if count >= most {
			return refuse(TooMany, "Too many attempts. Wait a quarter of an hour, or choose a new password by mail.")
		}
	}
	return nil
}

func (a *App) countAttempt(ctx context.Context, subjects ...string) error {
	now := a.Now()
	return a.Store.Write(ctx, func(q *sqlc.Queries) error {
		if err := q.EndOldAttempts(ctx, now.Add(-time.Hour).Unix()); err != nil {
			return err
		}
		for _, subject := range subjects {
			if err := q.AddAttempt(ctx, sqlc.AddAttemptParams{Subject: subject, At: now.Unix()}); err != nil {
				return err
			}
		}
		return nil
	})
}

// OpenSession opens a session of somebody who has shown who they are. If told is set and they have not come from there before, they
// are told by mail.
func (a *App) OpenSession(ctx context.Context, p Person, from Whence, told bool) (id int64, err error) {
	from.Agent = firstLetters(intake.OneLine(from.Agent), 200)
	now := a.Now()
	err = a.Store.Write(ctx, func(q *sqlc.Queries) error {
		if err := q.ForgetAttempts(ctx, hashed("account "+strings.ToLower(p.Mail))); err != nil {
			return err
		}
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
			return a.post(ctx, q, 0, a.accountMail(p, words.SignedIn,
				message.Fact{w.Fact("when"), w.Moment(now.In(p.zone), "15:04")}, message.Fact{w.Fact("from"), from.Address}, message.Fact{w.Fact("browser"), from.Agent}))
		}
		return nil
	})
	if err == nil {
		a.Log.InfoContext(ctx, "signed in", "person", p.ID, "from", from.Address)
		a.Wake()
	}
	return id, err
}

// accountMail is a notice about somebody's account.
func (a *App) accountMail(p Person, kind words.Kind, told ...message.Fact) Mail {
	m := mailOf(message.Write(words.In(p.Language), kind, nil, a.BaseURL+"/account", told))
	m.ID = "account-" + newSecret()
	m.FromName, m.To, m.ReplyTo = p.home.Name, p.address(), p.address()
	return m
}

// PersonIn returns whose session it is, if it has not ended.
func (a *App) PersonIn(ctx context.Context, session int64) (Person, error) {
	row, err := a.Store.SignIn(ctx, session)
	now := a.Now()
	if errors.Is(err, store.ErrNotFound) || err == nil && row.SeenAt < now.Add(-idleEnd).Unix() {
		return Person{}, refuse(NotSignedIn, "Please sign in again.")
	}
	if err != nil {
		return Person{}, err
	}
	if row.SeenAt < now.Add(-seenEvery).Unix() {
		err = a.Store.Write(ctx, func(q *sqlc.Queries) error {
			return q.SignInSeen(ctx, sqlc.SignInSeenParams{ID: session, SeenAt: now.Unix()})
		})
		if err != nil {
			return Person{}, err
		}
	}
	return a.Person(ctx, row.PersonID)
}

// Sessions lists where the person is signed in.
func (a *App) Sessions(ctx context.Context, p Person, current int64) ([]Session, error) {
	rows, err := a.Store.SignIns(ctx, sqlc.SignInsParams{PersonID: p.ID, Since: a.Now().Add(-idleEnd).Unix()})
	out := make([]Session, len(rows))
	for i, r := range rows {
		out[i] = Session{r.ID, time.Unix(r.At, 0).UTC(), time.Unix(r.SeenAt, 0).UTC(), r.Address, r.Agent, r.ID == current}
	}
	return out, err
}

// EndSession ends one of the person's sessions.
func (a *App) EndSession(ctx context.Context, p Person, id int64) error {
	return a.Store.Write(ctx, func(q *sqlc.Queries) error {
		return q.EndSignIn(ctx, sqlc.EndSignInParams{ID: id, PersonID: p.ID})
	})
}

// EndSessions ends all of the person's sessions but one.
func (a *App) EndSessions(ctx context.Context, p Person, except int64) error {
	return a.Store.Write(ctx, func(q *sqlc.Queries) error {
		return q.EndSignIns(ctx, sqlc.EndSignInsParams{PersonID: p.ID, Except: except})
	})
}

// MustBeSure refuses what is risky if the password was not entered a short time ago in this session. In the demo nobody has one.
func (a *App) MustBeSure(ctx context.Context, session int64) error {
	row, err := a.Store.SignIn(ctx, session)
	if err != nil || a.Demo || row.CheckedAt >= a.Now().Add(-recentCheck).Unix() {
		return err
	}
	return refuse(Unsure, "Enter your password once more to do this.")
}

// BeSure takes the person's password once more.
func (a *App) BeSure(ctx context.Context, p Person, session int64, password string, from Whence) error {
	if err := a.checkOwn(ctx, p, password, from); err != nil {
		return err
	}
	return a.Store.Write(ctx, func(q *sqlc.Queries) error {
		return q.SignInChecked(ctx, sqlc.SignInCheckedParams{ID: session, CheckedAt: a.Now().Unix()})
	})
}

// checkOwn refuses a password that is not the person's.
func (a *App) checkOwn(ctx context.Context, p Person, password string, from Whence) error {
	account, address := hashed("account "+strings.ToLower(p.Mail)), from.hash()
	if err := a.mayTry(ctx, account, address); err != nil {
		return err
	}
	row, err := a.Store.Person(ctx, p.ID)
	if err != nil {
		return err
	}
	if fits, _ := a.passwordFits(row.PasswordHash, password); fits {
		return nil
	}
	return errors.Join(faulty("current", "This is not your password."), a.countAttempt(ctx, account, address))
}

// ChangePassword gives the person another password; their other sessions end.
func (a *App) ChangePassword(ctx context.Context, p Person, session int64, current, password string, from Whence) error {
	if err := a.checkOwn(ctx, p, current, from); err != nil {
		return err
	}
	return a.setPassword(ctx, p, password, session)
}

func (a *App) setPassword(ctx context.Context, p Person, password string, session int64) error {
	if sentence := CheckPassword(password, p.Name, p.Mail, p.home.Name); sentence != "" {
		return faulty("password", sentence)
	}
	hash := a.hashPassword(password)
	err := a.Store.Write(ctx, func(q *sqlc.Queries) error {
		if err := q.SetPassword(ctx, sqlc.SetPasswordParams{ID: p.ID, PasswordHash: hash}); err != nil {
			return err
		}
		if err := q.EndResets(ctx, p.ID); err != nil {
			return err
		}
		if err := q.EndSignIns(ctx, sqlc.EndSignInsParams{PersonID: p.ID, Except: session}); err != nil {
			return err
		}
		return a.post(ctx, q, 0, a.accountMail(p, words.PasswordChanged))
	})
	a.Wake()
	return err
}

// ChangeLanguage lets the person get their mails in another language.
func (a *App) ChangeLanguage(ctx context.Context, p Person, language string) (Person, error) {
	if !slices.Contains(words.Languages(), language) {
		return p, faulty("language", "Choose a language from the list.")
	}
	if err := a.Store.Write(ctx, func(q *sqlc.Queries) error {
		return q.SetLanguage(ctx, sqlc.SetLanguageParams{ID: p.ID, Language: language})
	}); err != nil {
		return p, err
	}
	return a.Person(ctx, p.ID)
}

// ChangeMail gives the person another mail address to sign in with; the old one is told.
func (a *App) ChangeMail(ctx context.Context, p Person, current, mail string, from Whence) (Person, error) {
	if err := a.checkOwn(ctx, p, current, from); err != nil {
		return p, err
	}
	mail = strings.TrimSpace(mail)
	if _, fault := intake.MailAddress(mail); fault.Any() {
		return p, faulty("mail", fault)
	}
	err := a.Store.Write(ctx, func(q *sqlc.Queries) error {
		if other, err := q.PersonByMail(ctx, mail); err == nil && other.ID != p.ID {
			return faulty("mail", "This address can't be used. Choose another one.")
		}
		if err := q.SetMail(ctx, sqlc.SetMailParams{ID: p.ID, Mail: mail}); err != nil {
			return err
		}
		return a.post(ctx, q, 0, a.accountMail(p, words.AddressChanged, message.Fact{words.In(p.Language).Fact("new-address"), mail}))
	})
	if err != nil {
		return p, err
	}
	a.Wake()
	return a.Person(ctx, p.ID)
}

// AskForReset mails somebody a link to choose a new password. Nobody learns whether there is an account.
func (a *App) AskForReset(ctx context.Context, mail string, from Whence) error {
	row, err := a.Store.PersonByMail(ctx, strings.TrimSpace(mail))
	if errors.Is(err, store.ErrNotFound) {
		return nil
	}
	if err != nil {
		return err
	}
	p, err := a.person(ctx, a.Store.Queries, row)
	if err != nil {
		return err
	}
	subject := hashed("reset " + strings.ToLower(p.Mail))
	count, err := a.Store.Attempts(ctx, sqlc.AttemptsParams{Subject: subject, Since: a.Now().Add(-time.Hour).Unix()})
	if err != nil || count >= mostResets {
		return err
	}
	a.Log.InfoContext(ctx, "a new password was asked for", "person", p.ID, "from", from.Address)
	secret := newSecret()
	m := mailOf(message.Write(words.In(p.Language), words.PasswordReset, nil, a.BaseURL+"/reset/"+secret, nil))
	m.ID, m.FromName, m.To, m.ReplyTo = "reset-"+hashed(secret)[:16], p.home.Name, p.address(), p.address()
	err = a.Store.Write(ctx, func(q *sqlc.Queries) error {
		if err := q.AddReset(ctx, sqlc.AddResetParams{LinkHash: hashed(secret), PersonID: p.ID, ExpiresAt: a.Now().Add(resetTime).Unix()}); err != nil {
			return err
		}
		if err := q.AddAttempt(ctx, sqlc.AddAttemptParams{Subject: subject, At: a.Now().Unix()}); err != nil {
			return err
		}
		return a.post(ctx, q, 0, m)
	})
	a.Wake()
	return err
}

// ResetPassword takes a link from AskForReset, once.
func (a *App) ResetPassword(ctx context.Context, secret, password string) error {
	row, err := a.Store.Reset(ctx, sqlc.ResetParams{LinkHash: hashed(secret), Now: a.Now().Unix()})
	if errors.Is(err, store.ErrNotFound) {
		return refuse(Over, "This link has been used, or is older than 30 minutes. Ask for a new one.")
	}
	if err != nil {
		return err
	}
	p, err := a.Person(ctx, row.PersonID)
	if err != nil {
		return err
	}
	if err := a.setPassword(ctx, p, password, 0); err != nil {
		return err
	}
	return a.Store.Write(ctx, func(q *sqlc.Queries) error { return q.ForgetAttempts(ctx, hashed("account "+strings.ToLower(p.Mail))) })
}
