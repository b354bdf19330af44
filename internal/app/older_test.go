package app_test

import (
	"compress/gzip"
	"io"
	"log/slog"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/internal/app"
	"corrim/internal/identity"
	"corrim/internal/outside/caldav"
	"corrim/internal/outside/feed"
	"corrim/internal/schedule"
	"corrim/internal/store"
)

// The demo as earlier versions had planted it, made up like all of it, with the key it had and a link that a client got by mail.
var older = map[string]string{"8853f31": "X8jzywPgB7rA4n_65k-Xww", "7a602c1": "X9H5blccM23Uh6FE1SlLXA", "8a09a3f": "tIyvxu4jPfKKCzdC3uxtbg", "43cb12c": "4MIObs6Gonryb5gviApnTg"}

func unpacked(t *testing.T, version string) (folder string, key []byte) {
	t.Helper()
	packed, err := os.Open(filepath.Join("testdata", version+".db.gz"))
	require.NoError(t, err)
	defer func() { require.NoError(t, packed.Close()) }()
	unpacking, err := gzip.NewReader(packed)
	require.NoError(t, err)
	database, err := io.ReadAll(unpacking)
	require.NoError(t, err)
	folder = t.TempDir()
	require.NoError(t, os.WriteFile(filepath.Join(folder, "corrim.db"), database, 0o600))
	key, err = os.ReadFile(filepath.Join("testdata", version+".key"))
	require.NoError(t, err)
	return folder, key
}

func TestDatabasesOfEarlierVersionsOpenWithAllThatIsInThem(t *testing.T) {
	t.Parallel()
	for version, link := range older {
		t.Run(version, func(t *testing.T) {
			folder, key := unpacked(t, version)
			opened, err := store.Open(ctx, folder)
			require.NoError(t, err)
			t.Cleanup(func() { require.NoError(t, opened.Close()) })
			require.NoError(t, opened.Ready(ctx))
			require.NoError(t, opened.Check(ctx))
			planted := time.Date(2026, 11, 28, 19, 50, 0, 0, time.UTC) // after the last of them
			a, err := app.New(ctx, app.Config{Store: opened, Key: key, BaseURL: "https://corrim.example", Now: func() time.Time { return planted }, Log: slog.New(slog.DiscardHandler), Servers: caldav.New(true), Feeds: feed.New(true), PasswordMemory: 64})
			require.NoError(t, err)

			b, err := a.BookingByLink(ctx, link)
			require.NoError(t, err, "links in mails that were sent then still lead somewhere")
			assert.Equal(t, "booked", b.State)
			_, err = a.Correct(ctx, link, schedule.Correction{Said: b.Correct.Said, Given: b.Correct.Given, Remark: "Written by a later version."})
			require.NoError(t, err)
			again, err := a.BookingByLink(ctx, link)
			require.NoError(t, err)
			assert.Equal(t, "Written by a later version.", again.Remark)

			who, _, err := a.Identity.SignIn(ctx, "ines@quillmere.example", "light", identity.Whence{Address: "192.0.2.1"})
			require.NoError(t, err)
			ines, err := a.Person(ctx, who.ID)
			require.NoError(t, err)
			_, err = a.Today(ctx, ines)
			require.NoError(t, err)
			calendars, err := a.Calendars(ctx, ines)
			require.NoError(t, err)
			assert.NotEmpty(t, calendars)
			people, err := a.Staff(ctx, ines)
			require.NoError(t, err)
			assert.Greater(t, len(people.People), 4)
			open, err := a.OpenTimes(ctx, "quillmere", "loan-call", schedule.TimesWanted{From: planted, To: planted.AddDate(0, 0, 14)})
			require.NoError(t, err)
			assert.NotEmpty(t, open.Starts)
			waiting, err := opened.AllJobs(ctx)
			require.NoError(t, err)
			assert.LessOrEqual(t, waiting, int64(4), "only what the correction has planned")
		})
	}
}
