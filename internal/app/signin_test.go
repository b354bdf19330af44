package app_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/crypto/bcrypt"

	"corrim/internal/app"
	"corrim/internal/store/sqlc"
	"corrim/internal/testhouse"
)

const hallLamp = "a lamp in the hall"

var home = app.Whence{Address: "198.51.100.7", Agent: "Browser"}

func TestAPasswordIsChosenAnewByMailOnceWithin30Minutes(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	require.NoError(t, h.App.AskForReset(ctx, "nobody@quillmere.example", home), "the same answer whoever exists")
	_, session, err := h.App.SignIn(ctx, h.Host.Mail, hallLamp, home)
	require.NoError(t, err)
	secret := func(n int) string {
		require.NoError(t, h.App.AskForReset(ctx, "INES@quillmere.example", home))
		_, rest, _ := strings.Cut(letters(t, h, h.Host.Mail, n)[n-1].Text, "/reset/")
		return strings.Fields(rest)[0]
	}
	late := secret(1)
	h.Pass(31 * time.Minute)
	refused(t, h.App.ResetPassword(ctx, late, "some quite new words"), app.Over)
	link := secret(2)
	assert.NotEmpty(t, refused(t, h.App.ResetPassword(ctx, link, "Ines Valadares 1"), app.Invalid).Fields["password"], "what anybody would try first")
	require.NoError(t, h.App.ResetPassword(ctx, link, "some quite new words"))
	refused(t, h.App.ResetPassword(ctx, link, "some other new words"), app.Over)
	_, _, err = h.App.SignIn(ctx, h.Host.Mail, hallLamp, home)
	refused(t, err, app.NotSignedIn)
	_, err = h.App.PersonIn(ctx, session)
	refused(t, err, app.NotSignedIn)
	_, _, err = h.App.SignIn(ctx, h.Host.Mail, "some quite new words", home)
	require.NoError(t, err)
	assert.Contains(t, letters(t, h, h.Host.Mail, 3)[2].Subject, "Your password was changed")
}

func TestSessionsAreSeenEndedAndEndByThemselves(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	_, first, err := h.App.SignIn(ctx, h.Host.Mail, hallLamp, home)
	require.NoError(t, err)
	_, second, err := h.App.SignIn(ctx, h.Host.Mail, hallLamp, app.Whence{Address: "203.0.113.9", Agent: "Another"})
	require.NoError(t, err)
	assert.Contains(t, letters(t, h, h.Host.Mail, 1)[0].Text, "203.0.113.9", "a place that was not used before is told")
	list, err := h.App.Sessions(ctx, h.Host, first)
	require.NoError(t, err)
	assert.Len(t, list, 2)
	_, err = h.App.PersonIn(ctx, second)
	require.NoError(t, err)
	require.NoError(t, h.App.EndSession(ctx, h.Colleague, second))
	_, err = h.App.PersonIn(ctx, second)
	require.NoError(t, err, "nobody ends another's")
	require.NoError(t, h.App.EndSessions(ctx, h.Host, first))
	_, err = h.App.PersonIn(ctx, second)
	refused(t, err, app.NotSignedIn)
	h.Pass(2 * 24 * time.Hour)
	_, err = h.App.PersonIn(ctx, first)
	require.NoError(t, err)
	h.Pass(4 * 24 * time.Hour)
	_, err = h.App.PersonIn(ctx, first)
	refused(t, err, app.NotSignedIn)

	_, third, err := h.App.SignIn(ctx, h.Host.Mail, hallLamp, home)
	require.NoError(t, err)
	require.NoError(t, h.App.MustBeSure(ctx, third))
	h.Pass(20 * time.Minute)
	refused(t, h.App.MustBeSure(ctx, third), app.Unsure)
	refused(t, h.App.BeSure(ctx, h.Host, third, "wrong", home), app.Invalid)
	require.NoError(t, h.App.BeSure(ctx, h.Host, third, hallLamp, home))
	require.NoError(t, h.App.MustBeSure(ctx, third))
}

func TestAnAccountCantBeTriedWithoutEndFromManyPlaces(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	for i := range 8 {
		_, _, err := h.App.SignIn(ctx, h.Host.Mail, "wrong", app.Whence{Address: strings.Repeat("x", i+1)})
		refused(t, err, app.NotSignedIn)
	}
	_, _, err := h.App.SignIn(ctx, h.Host.Mail, hallLamp, home)
	assert.Contains(t, refused(t, err, app.TooMany).Sentence, "quarter of an hour")
	h.Pass(16 * time.Minute)
	_, _, err = h.App.SignIn(ctx, h.Host.Mail, hallLamp, home)
	require.NoError(t, err)
	assert.Contains(t, h.Log.String(), "sign-in refused")
	assert.NotContains(t, h.Log.String(), hallLamp)
}

func TestPasswordsOfEarlierVersionsWorkAndAreKeptAnew(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	old, err := bcrypt.GenerateFromPassword([]byte("of earlier days"), bcrypt.MinCost)
	require.NoError(t, err)
	require.NoError(t, h.App.Store.Write(ctx, func(q *sqlc.Queries) error {
		return q.SetPassword(ctx, sqlc.SetPasswordParams{ID: h.Host.ID, PasswordHash: string(old)})
	}))
	_, _, err = h.App.SignIn(ctx, h.Host.Mail, "of earlier days", home)
	require.NoError(t, err)
	row, err := h.App.Store.Person(ctx, h.Host.ID)
	require.NoError(t, err)
	assert.True(t, strings.HasPrefix(row.PasswordHash, "$argon2id$"))
	_, _, err = h.App.SignIn(ctx, h.Host.Mail, "of earlier days", home)
	require.NoError(t, err)
	long := strings.Repeat("é lamp ", 30) // beyond bcrypt's 72 bytes
	require.NoError(t, h.App.ChangePassword(ctx, h.Host, 0, "of earlier days", long, home))
	_, _, err = h.App.SignIn(ctx, h.Host.Mail, long[:72], home)
	refused(t, err, app.NotSignedIn)
}

func TestWhichPasswordsAreTooEasy(t *testing.T) {
	t.Parallel()
	for password, easy := range map[string]bool{
		"short": true, "password1234": true, "Password2026!": true, "123456789012": true, "aaaaaaaaaaaaaa": true, "qwertyuiop[]": true,
		"Ines Valadares 7": true, "ines.valadares12": false, "a lamp in the hall": false, "über drei grüne Lampen": false,
	} {
		assert.Equal(t, easy, app.CheckPassword(password, "Ines Valadares", "ines@quillmere.example") != "", password)
	}
}
