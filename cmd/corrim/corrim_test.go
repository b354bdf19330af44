package main

import (
	"encoding/json"
	"fmt"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/internal/app"
	"corrim/internal/secrets"
)

// output is what f prints on standard output.
func output(t *testing.T, f func() error) (string, error) {
	t.Helper()
	reader, writer, err := os.Pipe()
	require.NoError(t, err)
	printed := make(chan string)
	go func() { // a pipe holds only so much
		text, _ := io.ReadAll(reader)
		printed <- string(text)
	}()
	old := os.Stdout
	os.Stdout = writer
	failure := f()
	os.Stdout = old
	require.NoError(t, writer.Close())
	return <-printed, failure
}

func TestBusyPrintsMergedClippedAndSortedTimes(t *testing.T) {
	file := filepath.Join(t.TempDir(), "c.ics")
	text := "BEGIN:VCALENDAR\nBEGIN:VEVENT\nUID:1\nDTSTART:20261201T100000\nDURATION:PT1H\nEND:VEVENT\n" +
		"BEGIN:VEVENT\nUID:2\nDTSTART:20261201T090000Z\nDURATION:PT1H\nEND:VEVENT\n" +
		"BEGIN:VEVENT\nUID:3\nDTSTART;VALUE=DATE:20261130\nEND:VEVENT\nEND:VCALENDAR\n"
	require.NoError(t, os.WriteFile(file, []byte(text), 0o600))
	from := time.Date(2026, 11, 30, 12, 0, 0, 0, time.UTC)
	c := busyCommand{From: from, To: from.AddDate(0, 1, 0), Zone: "Europe/Lisbon", File: file}
	printed, err := output(t, c.Run)
	require.NoError(t, err)
	assert.JSONEq(t, `{"busy":[["2026-11-30T12:00:00Z","2026-12-01T00:00:00Z"],["2026-12-01T09:00:00Z","2026-12-01T11:00:00Z"]]}`, printed)

	require.NoError(t, os.WriteFile(file, []byte("no calendar"), 0o600))
	printed, err = output(t, c.Run)
	assert.ErrorContains(t, err, "not an iCalendar text")
	assert.Empty(t, printed)
	c.Zone = "Local"
	assert.Error(t, c.Run())
	c.Zone, c.To = "UTC", from.AddDate(2, 0, 0)
	assert.ErrorContains(t, c.Run(), "400 days")
}

func TestADemoNeverTouchesAnInstallation(t *testing.T) {
	folder := t.TempDir()
	database := filepath.Join(folder, "corrim.db")
	require.NoError(t, os.WriteFile(database, []byte("years of bookings"), 0o600))
	c := demoCommand{place: place{Data: folder}}
	assert.ErrorContains(t, c.freshDay(), "not a demo")
	kept, err := os.ReadFile(database)
	require.NoError(t, err)
	assert.Equal(t, "years of bookings", string(kept))

	old := demoCommand{place: place{Data: t.TempDir()}}
	require.NoError(t, os.WriteFile(filepath.Join(old.Data, "corrim.db"), nil, 0o600))
	require.NoError(t, os.WriteFile(old.dayFile(), []byte("2026-01-01"), 0o600))
	require.NoError(t, old.freshDay())
	assert.NoFileExists(t, filepath.Join(old.Data, "corrim.db"), "a demo of another day starts afresh")
}

func TestTheKeyIsMadeOnceForItsOwnerOnly(t *testing.T) {
	p := place{Data: t.TempDir()}
	key, err := p.key()
	require.NoError(t, err)
	assert.Len(t, key, 32)
	again, err := p.key()
	require.NoError(t, err)
	assert.Equal(t, key, again)
	info, err := os.Stat(filepath.Join(p.Data, "key"))
	require.NoError(t, err)
	assert.Equal(t, os.FileMode(0o600), info.Mode().Perm())
	p.Key = "not base64!"
	_, err = p.key()
	assert.Error(t, err)
}

func TestTheKeyIsTurnedAndALostOneIsNotReplaced(t *testing.T) {
	ctx := t.Context()
	p := place{Data: t.TempDir(), KeyFile: filepath.Join(t.TempDir(), "elsewhere")}
	open := func() error {
		opened, key, err := p.open(ctx)
		if err != nil {
			return err
		}
		defer func() { _ = opened.Close() }()
		_, err = app.New(ctx, app.Config{Store: opened, Key: key, Now: time.Now})
		return err
	}
	require.NoError(t, open())
	before, err := os.ReadFile(p.KeyFile)
	require.NoError(t, err)
	assert.NoFileExists(t, filepath.Join(p.Data, "key"), "a copy of the folder alone opens nothing")

	// The last run was stopped between turning the key in the database and putting it in its place.
	_, err = output(t, func() error { return (&turnKeyCommand{place: p}).Run(ctx) })
	require.NoError(t, err)
	after, err := os.ReadFile(p.KeyFile)
	require.NoError(t, err)
	assert.NotEqual(t, before, after)
	require.NoError(t, open())
	require.NoError(t, os.Rename(p.KeyFile, p.nextFile()))
	require.NoError(t, os.WriteFile(p.KeyFile, before, 0o600))
	require.ErrorIs(t, open(), secrets.ErrWrongKey)
	_, err = output(t, func() error { return (&turnKeyCommand{place: p}).Run(ctx) })
	require.NoError(t, err)
	require.NoError(t, open())

	require.NoError(t, os.Remove(p.KeyFile))
	assert.ErrorContains(t, open(), "the key is missing")
}

func TestTheDescriptionOfTheAPIIsWhole(t *testing.T) {
	printed, err := output(t, openapiCommand{}.Run)
	require.NoError(t, err)
	var description struct {
		OpenAPI string                    `json:"openapi"`
		Paths   map[string]map[string]any `json:"paths"`
	}
	require.NoError(t, json.Unmarshal([]byte(printed), &description))
	assert.Equal(t, "3.1.0", description.OpenAPI)
	assert.Contains(t, description.Paths, "/public/{workspace}/{type}/bookings")
}

// "corrim slots" on 50 hosts and 60 days, start of the program included; wanted is under 0.3 s. It needs the built program.
func BenchmarkSlotsWithStart(b *testing.B) {
	program, err := filepath.Abs("../../bin/corrim")
	require.NoError(b, err)
	if _, err := os.Stat(program); err != nil {
		b.Skip("build it first: make build")
	}
	var hosts []string
	for i := range 50 {
		hosts = append(hosts, fmt.Sprintf(`{"name":"H%d","zone":"Europe/Lisbon","week":{"mon":"9-12, 13-17","tue":"9-17","wed":"9-17","thu":"9-17","fri":"9-12"}}`, i))
	}
	text := `{"now":"2026-05-01T00:00:00Z","from":"2026-05-01T00:00:00Z","to":"2026-06-30T00:00:00Z","type":{"durations":[30],"step":15},"hosts":[` + strings.Join(hosts, ",") + `]}`
	file := filepath.Join(b.TempDir(), "scenario.json")
	require.NoError(b, os.WriteFile(file, []byte(text), 0o600))
	for b.Loop() {
		require.NoError(b, exec.Command(program, "slots", file).Run())
	}
}
