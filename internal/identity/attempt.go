package identity

import (
	"context"
	"strings"
	"time"

	words "corrim/core/message"
	"corrim/core/told"
	"corrim/internal/letter"
	"corrim/internal/refusal"
	"corrim/internal/secrets"
	"corrim/internal/store/sqlc"
	"corrim/internal/trace"
)

// Attempts are counted before they are checked: counted afterwards, as many could be tried at once as answers are being worked on. One that
// was right is taken back. Whoever guesses is slowed down by account and network address together, so that they lock nobody out but
// themselves; guesses from many addresses at one account stop those that come from devices which its person has not signed in with.

// attempt is one at an account, by what it is counted under.
type attempt struct {
	account string
	limits  []limit
}

// limit is how many attempts there may be under a subject.
type limit struct {
	subject string
	most    int64
}

func accountSubject(mail string) string { return secrets.Hashed("account " + strings.ToLower(mail)) }

func (s *Service) attemptAt(mail string, person int64, from Whence) attempt {
	account := accountSubject(mail)
	if device := s.Keys.DeviceOf(person, from.Device); device != "" && person != 0 {
		return attempt{account, []limit{{secrets.Hashed("device " + device), mostFromThere}}}
	}
	return attempt{account, []limit{{secrets.Hashed(account + " from " + from.Hash()), mostFromThere}, {account, mostOfAccount}, {from.Hash(), mostOfAddress}}}
}

var errTooMany = refusal.New(refusal.TooMany, told.Say("too-many-sign-ins", "Too many attempts. Wait a quarter of an hour, or choose a new password by mail."))

// count counts an attempt, or refuses it if there were too many.
func (s *Service) count(ctx context.Context, a attempt) error {
	return s.Store.Write(ctx, func(q *sqlc.Queries) error { return s.countIn(ctx, q, attemptTime, a.limits...) })
}

func (s *Service) countIn(ctx context.Context, q *sqlc.Queries, within time.Duration, limits ...limit) error {
	now := s.Now()
	if err := q.EndOldAttempts(ctx, now.Add(-time.Hour).Unix()); err != nil {
		return err
	}
	for _, l := range limits {
		count, err := q.Attempts(ctx, sqlc.AttemptsParams{Subject: l.subject, Since: now.Add(-within).Unix()})
		if err != nil {
			return err
		}
		if count >= l.most {
			return errTooMany
		}
	}
	for _, l := range limits {
		if err := q.AddAttempt(ctx, sqlc.AddAttemptParams{Subject: l.subject, At: now.Unix()}); err != nil {
			return err
		}
	}
	return nil
}

// takeBack is for an attempt that was none.
func (s *Service) takeBack(ctx context.Context, a attempt) error {
	return s.Store.Write(ctx, func(q *sqlc.Queries) error {
		for _, l := range a.limits {
			if err := q.TakeBackAttempt(ctx, l.subject); err != nil {
				return err
			}
		}
		return nil
	})
}

// wasRight takes an attempt back, and forgets what was tried in vain at this account from there before.
func (s *Service) wasRight(ctx context.Context, a attempt) error {
	if err := s.takeBack(ctx, a); err != nil {
		return err
	}
	return s.Store.Write(ctx, func(q *sqlc.Queries) error { return q.ForgetAttempts(ctx, a.limits[0].subject) })
}

// tellOfAttempts tells a person once an hour that somebody tries to guess their password. It is done beside the answer, which says
// nothing about whether there is such a person.
func (s *Service) tellOfAttempts(ctx context.Context, row sqlc.Person, a attempt) {
	if row.ID == 0 {
		return
	}
	trace.Go(ctx, s.Log, "telling of attempts to sign in", func(ctx context.Context) error {
		defer s.Wake()
		return s.Store.Write(ctx, func(q *sqlc.Queries) error {
			now := s.Now()
			tried, err := q.Attempts(ctx, sqlc.AttemptsParams{Subject: a.account, Since: now.Add(-attemptTime).Unix()})
			if err != nil || tried < toldFrom {
				return err
			}
			known := secrets.Hashed("told " + a.account)
			before, err := q.Attempts(ctx, sqlc.AttemptsParams{Subject: known, Since: now.Add(-time.Hour).Unix()})
			if err != nil || before > 0 {
				return err
			}
			if err := q.AddAttempt(ctx, sqlc.AddAttemptParams{Subject: known, At: now.Unix()}); err != nil {
				return err
			}
			p, err := s.of(ctx, row)
			if err != nil {
				return err
			}
			w := words.In(p.Language)
			return s.Notify(ctx, q, accountNotice(p, words.Guessed, letter.Fact{w.Fact("when"), w.Moment(now.In(p.clock), "15:04")}))
		})
	})
}
