package identity_test

import (
	"strings"
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
	testhouse.Refused(t, h.App.Identity.ResetPassword(t.Context(), late, "some quite new words"), refusal.Over)
	link := secret(2)
	assert.NotEmpty(t, testhouse.Refused(t, h.App.Identity.ResetPassword(t.Context(), link, "Ines Valadares 1"), refusal.Invalid).Fields["password"], "what anybody would try first")
	require.NoError(t, h.App.Identity.ResetPassword(t.Context(), link, "some quite new words"))
	testhouse.Refused(t, h.App.Identity.ResetPassword(t.Context(), link, "some other new words"), refusal.Over)
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

func TestAnAccountCantBeTriedWithoutEndFromManyPlaces(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	for i := range 8 {
		_, _, err := h.App.Identity.SignIn(t.Context(), h.Host.Mail, "wrong", identity.Whence{Address: strings.Repeat("x", i+1)})
		testhouse.Refused(t, err, refusal.NotSignedIn)
	}
	_, _, err := h.App.Identity.SignIn(t.Context(), h.Host.Mail, hallLamp, home)
	assert.Contains(t, testhouse.Refused(t, err, refusal.TooMany).Sentence, "quarter of an hour")
	h.Pass(16 * time.Minute)
	_, _, err = h.App.Identity.SignIn(t.Context(), h.Host.Mail, hallLamp, home)
	require.NoError(t, err)
	assert.Contains(t, h.Log.String(), "sign-in refused")
	assert.NotContains(t, h.Log.String(), hallLamp)
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
