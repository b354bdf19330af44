package identity_test

import (
	"errors"
	"fmt"
	"runtime"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/crypto/bcrypt"

	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/store/sqlc"
	"corrim/internal/testhouse"
)

const hallLamp = "a lamp in the hall"

var home = identity.Whence{Address: "198.51.100.7", Agent: "Browser"}

func TestAPasswordIsChosenAnewByMailOnceWithin30Minutes(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	require.NoError(t, h.App.Identity.AskForReset(t.Context(), "nobody@quillmere.example", home), "the same answer whoever exists")
	_, session, err := h.App.Identity.SignIn(t.Context(), h.Host.Mail, hallLamp, home)
	require.NoError(t, err)
	secret := func(n int) string {
		require.NoError(t, h.App.Identity.AskForReset(t.Context(), "INES@quillmere.example", home))
		_, rest, _ := strings.Cut(testhouse.Letters(t, h, h.Host.Mail, n)[n-1].Text, "/reset/")
		return strings.Fields(rest)[0]
	}
	late := secret(1)
	h.Pass(31 * time.Minute)
	testhouse.Refused(t, h.App.Identity.ResetPassword(t.Context(), late, "some quite new words", home), refusal.Over)
	link := secret(2)
	assert.NotEmpty(t, testhouse.Refused(t, h.App.Identity.ResetPassword(t.Context(), link, "Ines Valadares 1", home), refusal.Invalid).Fields["password"], "what anybody would try first")
	require.NoError(t, h.App.Identity.ResetPassword(t.Context(), link, "some quite new words", home))
	testhouse.Refused(t, h.App.Identity.ResetPassword(t.Context(), link, "some other new words", home), refusal.Over)
	_, _, err = h.App.Identity.SignIn(t.Context(), h.Host.Mail, hallLamp, home)
	testhouse.Refused(t, err, refusal.NotSignedIn)
	_, err = h.App.Identity.PersonIn(t.Context(), session)
	testhouse.Refused(t, err, refusal.NotSignedIn)
	_, _, err = h.App.Identity.SignIn(t.Context(), h.Host.Mail, "some quite new words", home)
	require.NoError(t, err)
	assert.Contains(t, testhouse.Letters(t, h, h.Host.Mail, 3)[2].Subject, "Your password was changed")
}

func TestSessionsAreSeenEndedAndEndByThemselves(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	_, first, err := h.App.Identity.SignIn(t.Context(), h.Host.Mail, hallLamp, home)
	require.NoError(t, err)
	_, second, err := h.App.Identity.SignIn(t.Context(), h.Host.Mail, hallLamp, identity.Whence{Address: "203.0.113.9", Agent: "Another"})
	require.NoError(t, err)
	assert.Contains(t, testhouse.Letters(t, h, h.Host.Mail, 1)[0].Text, "203.0.113.9", "a place that was not used before is told")
	list, err := h.App.Identity.Sessions(t.Context(), h.Host.Person, first)
	require.NoError(t, err)
	assert.Len(t, list, 2)
	_, err = h.App.Identity.PersonIn(t.Context(), second)
	require.NoError(t, err)
	require.NoError(t, h.App.Identity.EndSession(t.Context(), h.Colleague.Person, second))
	_, err = h.App.Identity.PersonIn(t.Context(), second)
	require.NoError(t, err, "nobody ends another's")
	require.NoError(t, h.App.Identity.EndSessions(t.Context(), h.Host.Person, first))
	_, err = h.App.Identity.PersonIn(t.Context(), second)
	testhouse.Refused(t, err, refusal.NotSignedIn)
	h.Pass(2 * 24 * time.Hour)
	_, err = h.App.Identity.PersonIn(t.Context(), first)
	require.NoError(t, err)
	h.Pass(4 * 24 * time.Hour)
	_, err = h.App.Identity.PersonIn(t.Context(), first)
	testhouse.Refused(t, err, refusal.NotSignedIn)

	_, third, err := h.App.Identity.SignIn(t.Context(), h.Host.Mail, hallLamp, home)
	require.NoError(t, err)
	require.NoError(t, h.App.Identity.MustBeSure(t.Context(), third))
	h.Pass(20 * time.Minute)
	testhouse.Refused(t, h.App.Identity.MustBeSure(t.Context(), third), refusal.Unsure)
	testhouse.Refused(t, h.App.Identity.BeSure(t.Context(), h.Host.Person, third, "wrong", home), refusal.Invalid)
	require.NoError(t, h.App.Identity.BeSure(t.Context(), h.Host.Person, third, hallLamp, home))
	require.NoError(t, h.App.Identity.MustBeSure(t.Context(), third))
}

func from(address string) identity.Whence { return identity.Whence{Address: address} }

func TestGuessesAreCountedBeforeTheyAreChecked(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	var checked, refusedThem atomic.Int32
	var all sync.WaitGroup
	for range 60 {
		all.Go(func() {
			_, _, err := h.App.Identity.SignIn(t.Context(), h.Host.Mail, "wrong", from("203.0.113.9"))
			var r *refusal.Refusal
			switch {
			case errors.As(err, &r) && r.Kind == refusal.NotSignedIn:
				checked.Add(1)
			case errors.As(err, &r) && (r.Kind == refusal.TooMany || r.Kind == refusal.Busy):
				refusedThem.Add(1)
			}
		})
	}
	all.Wait()
	assert.LessOrEqual(t, checked.Load(), int32(8), "sent at once, no more are checked than one after the other")
	assert.Equal(t, int32(60), checked.Load()+refusedThem.Load())

	_, _, err := h.App.Identity.SignIn(t.Context(), h.Host.Mail, hallLamp, from("203.0.113.9"))
	assert.Contains(t, testhouse.Refused(t, err, refusal.TooMany).Sentence, "quarter of an hour")
	_, _, err = h.App.Identity.SignIn(t.Context(), h.Host.Mail, hallLamp, home)
	require.NoError(t, err, "whoever guesses locks out nobody but themselves")
	assert.Contains(t, h.Log.String(), "sign-in refused")
	assert.NotContains(t, h.Log.String(), hallLamp)
}

func TestTheRightDeviceGetsInWhileManyGuess(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	id := h.App.Identity
	for i := range 60 {
		_, _, err := id.SignIn(t.Context(), h.Host.Mail, "wrong", from(fmt.Sprintf("198.51.100.%d", i)))
		testhouse.Refused(t, err, refusal.NotSignedIn)
	}
	_, _, err := id.SignIn(t.Context(), h.Host.Mail, hallLamp, home)
	testhouse.Refused(t, err, refusal.TooMany)
	for _, other := range []string{id.NewDevice(h.Colleague.Person), "made.up", "."} {
		_, _, err = id.SignIn(t.Context(), h.Host.Mail, hallLamp, identity.Whence{Address: home.Address, Device: other})
		testhouse.Refused(t, err, refusal.TooMany)
	}
	mine := identity.Whence{Address: home.Address, Device: id.NewDevice(h.Host.Person)}
	_, _, err = id.SignIn(t.Context(), h.Host.Mail, hallLamp, mine)
	require.NoError(t, err)
	told := testhouse.Letters(t, h, h.Host.Mail, 1)
	require.Len(t, told, 1, "she is told once")
	assert.Contains(t, told[0].Subject, "tries to sign in as you")
	for range 8 {
		_, _, err = id.SignIn(t.Context(), h.Host.Mail, "wrong", mine)
		testhouse.Refused(t, err, refusal.NotSignedIn)
	}
	_, _, err = id.SignIn(t.Context(), h.Host.Mail, hallLamp, mine)
	testhouse.Refused(t, err, refusal.TooMany) // a device that was stolen can't guess without end either
	h.Pass(16 * time.Minute)
	_, _, err = id.SignIn(t.Context(), h.Host.Mail, hallLamp, home)
	require.NoError(t, err)
}

// Whoever has forgotten their password has tried it before.
func TestANewPasswordByMailLetsInAtOnce(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	for range 8 {
		_, _, err := h.App.Identity.SignIn(t.Context(), h.Host.Mail, "what was it", home)
		testhouse.Refused(t, err, refusal.NotSignedIn)
	}
	_, _, err := h.App.Identity.SignIn(t.Context(), h.Host.Mail, hallLamp, home)
	testhouse.Refused(t, err, refusal.TooMany)
	require.NoError(t, h.App.Identity.AskForReset(t.Context(), h.Host.Mail, home))
	mails := testhouse.Letters(t, h, h.Host.Mail, 2)
	secret := ""
	for _, m := range mails {
		if _, rest, found := strings.Cut(m.Text, "/reset/"); found {
			secret = strings.Fields(rest)[0]
		}
	}
	require.NoError(t, h.App.Identity.ResetPassword(t.Context(), secret, "some quite new words", home))
	_, _, err = h.App.Identity.SignIn(t.Context(), h.Host.Mail, "some quite new words", home)
	require.NoError(t, err)
}

// Behind one network address many people may sign in; what is right is no attempt.
func TestAnOfficeSignsInFromOneAddress(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	for range 50 {
		_, _, err := h.App.Identity.SignIn(t.Context(), h.Host.Mail, hallLamp, home)
		require.NoError(t, err)
	}
}

func TestPasswordsAreWorkedOnAFewAtATime(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	release, began := make(chan struct{}), make(chan struct{}, 1000)
	var busy, done atomic.Int32
	var all sync.WaitGroup
	for range 300 {
		all.Go(func() {
			err := h.App.Identity.Hashing(t.Context(), func() { began <- struct{}{}; <-release })
			var r *refusal.Refusal
			if errors.As(err, &r) && r.Kind == refusal.Busy {
				busy.Add(1)
			} else if err == nil {
				done.Add(1)
			}
		})
	}
	<-began
	processors := runtime.GOMAXPROCS(0)
	require.Eventually(t, func() bool { return int(busy.Load()) == 300-17*processors }, time.Minute, time.Millisecond, "those beyond a short queue are asked to come again")
	assert.LessOrEqual(t, len(began)+1, processors, "as many at once as there are processors")
	close(release)
	all.Wait()
	assert.Equal(t, int32(17*processors), done.Load())
}

func TestPasswordsOfEarlierVersionsWorkAndAreKeptAnew(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	old, err := bcrypt.GenerateFromPassword([]byte("of earlier days"), bcrypt.MinCost)
	require.NoError(t, err)
	require.NoError(t, h.App.Store.Write(t.Context(), func(q *sqlc.Queries) error {
		return q.SetPassword(t.Context(), sqlc.SetPasswordParams{ID: h.Host.ID, PasswordHash: string(old)})
	}))
	_, _, err = h.App.Identity.SignIn(t.Context(), h.Host.Mail, "of earlier days", home)
	require.NoError(t, err)
	row, err := h.App.Store.Person(t.Context(), h.Host.ID)
	require.NoError(t, err)
	assert.True(t, strings.HasPrefix(row.PasswordHash, "$argon2id$"))
	_, _, err = h.App.Identity.SignIn(t.Context(), h.Host.Mail, "of earlier days", home)
	require.NoError(t, err)
	long := strings.Repeat("é lamp ", 30) // beyond bcrypt's 72 bytes
	require.NoError(t, h.App.Identity.ChangePassword(t.Context(), h.Host.Person, 0, "of earlier days", long, home))
	_, _, err = h.App.Identity.SignIn(t.Context(), h.Host.Mail, long[:72], home)
	testhouse.Refused(t, err, refusal.NotSignedIn)
}

func TestWhichPasswordsAreTooEasy(t *testing.T) {
	t.Parallel()
	for password, easy := range map[string]bool{
		"short": true, "password1234": true, "Password2026!": true, "123456789012": true, "aaaaaaaaaaaaaa": true, "qwertyuiop[]": true,
		"Ines Valadares 7": true, "ines.valadares12": false, "a lamp in the hall": false, "über drei grüne Lampen": false,
	} {
		assert.Equal(t, easy, identity.CheckPassword(password, "Ines Valadares", "ines@quillmere.example").Any(), password)
	}
}
