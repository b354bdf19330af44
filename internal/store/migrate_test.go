package store

import (
	"bytes"
	"context"
	"crypto/sha256"
	"database/sql"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/pressly/goose/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/internal/store/sqlc"
)

// unmigrated is a database in which nothing is yet, and what migrates it step by step.
func unmigrated(t *testing.T, folder string) (*sql.DB, *goose.Provider) {
	db, err := sql.Open("sqlite", "file:"+filepath.Join(folder, "corrim.db")+"?_pragma=foreign_keys(1)")
	require.NoError(t, err)
	return db, stepwise(t, db)
}

// stepwise migrates a database step by step.
func stepwise(t *testing.T, db *sql.DB) *goose.Provider {
	files, err := fs.Sub(migrations, "migrations")
	require.NoError(t, err)
	provider, err := goose.NewProvider(goose.DialectSQLite3, db, files, goose.WithGoMigrations(repair))
	require.NoError(t, err)
	return provider
}

// The first version that knew public holidays had types that followed the workspace in everything but them, and couldn't say so. In what
// a later version lets be set, all follow it.
func TestTypesOfTheFirstHolidaysFollowTheWorkspaceInThem(t *testing.T) {
	ctx := context.Background()
	for _, c := range []struct{ name, others, want string }{
		{"where no type follows in them", `["step"]`, `["step","holidays","busy"]`},
		{"where some do, the others have set it", `["holidays"]`, `["step","busy"]`},
	} {
		t.Run(c.name, func(t *testing.T) {
			folder := t.TempDir()
			db, provider := unmigrated(t, folder)
			_, err := provider.UpTo(ctx, 21)
			require.NoError(t, err)
			_, err = db.ExecContext(ctx, `
				INSERT INTO workspace (id, slug, name) VALUES (1, 'w', 'W');
				INSERT INTO person (id, workspace_id, name, mail, password_hash, zone, week, role, slug) VALUES (1, 1, 'Ines', 'i@x.example', '', 'UTC', '[]', 'owner', 'i');
				INSERT INTO meeting_type (id, workspace_id, host_id, slug, name, description, rules) VALUES (1, 1, 1, 's', 'S', '', '{"follows":["step"]}'), (2, 1, 1, 'o', 'O', '', '{"follows":`+c.others+`}');`)
			require.NoError(t, err)
			require.NoError(t, db.Close())
			s, err := Open(ctx, folder)
			require.NoError(t, err)
			defer func() { require.NoError(t, s.Close()) }()
			kind, err := s.MeetingType(ctx, 1)
			require.NoError(t, err)
			assert.JSONEq(t, `{"follows":`+c.want+`}`, kind.Rules)
		})
	}
}

// Who hosts a type by its team goes on doing so, in the order and with the weight that they had; what undo would bring back too.
func TestTypesOfATeamStayItsTypes(t *testing.T) {
	ctx, folder := context.Background(), t.TempDir()
	db, provider := unmigrated(t, folder)
	_, err := provider.UpTo(ctx, 23)
	require.NoError(t, err)
	_, err = db.ExecContext(ctx, `
		INSERT INTO workspace (id, slug, name) VALUES (1, 'w', 'W');
		INSERT INTO person (id, workspace_id, name, mail, password_hash, zone, week, role, slug) VALUES
			(1, 1, 'Ines', 'i@x.example', '', 'UTC', '[]', 'owner', 'i'), (2, 1, 'Maren', 'm@x.example', '', 'UTC', '[]', 'member', 'm'), (3, 1, 'Siew', 's@x.example', '', 'UTC', '[]', 'member', 's');
		INSERT INTO team (id, workspace_id, name) VALUES (5, 1, 'North');
		INSERT INTO team_member (team_id, person_id, joined_at) VALUES (5, 2, 10), (5, 3, 20);
		INSERT INTO meeting_type (id, workspace_id, host_id, slug, name, description, rules, routing) VALUES
			(1, 1, 1, 'team', 'T', '', '{}', '{"way":"turn","team":5,"people":[{"person":3,"weight":4,"since":7}],"period":"always"}'),
			(2, 1, 1, 'people', 'P', '', '{}', '{"way":"turn","team":0,"people":[{"person":1,"weight":1}],"period":"always"}'),
			(3, 1, 1, 'alone', 'A', '', '{}', '');
		INSERT INTO setting_change (person_id, at, subject, subject_id, label, before) VALUES (1, 0, 'routing', 1, 'L', '{"Routing":{"way":"order","team":5,"people":[{"person":3,"weight":2}]},"Who":"anyone"}');`)
	require.NoError(t, err)
	require.NoError(t, db.Close())
	s, err := Open(ctx, folder)
	require.NoError(t, err)
	defer func() { require.NoError(t, s.Close()) }()
	for id, want := range map[int64]string{
		1: `{"mode":"turn","teams":[5],"people":[{"person":2,"weight":1,"through":true},{"person":3,"weight":4,"since":7,"through":true}],"period":"always"}`,
		2: `{"mode":"turn","teams":[],"people":[{"person":1,"weight":1}],"period":"always"}`,
	} {
		kind, err := s.MeetingType(ctx, id)
		require.NoError(t, err)
		assert.JSONEq(t, want, kind.Routing)
	}
	alone, err := s.MeetingType(ctx, 3)
	require.NoError(t, err)
	assert.Empty(t, alone.Routing)
	changes, err := s.SettingChanges(ctx, 1)
	require.NoError(t, err)
	assert.JSONEq(t, `{"Routing":{"mode":"order","teams":[5],"people":[{"person":3,"weight":2,"through":true}]},"Who":"anyone"}`, changes[0].Before)
}

// A database of the first releases keeps all its data through every later migration.
func TestMigrationsKeepExistingData(t *testing.T) {
	ctx, folder := context.Background(), t.TempDir()
	db, provider := unmigrated(t, folder)
	_, err := provider.UpTo(ctx, 3)
	require.NoError(t, err)
	_, err = db.ExecContext(ctx, `
		INSERT INTO workspace VALUES (1, 'w', 'W');
		INSERT INTO person VALUES (1, 1, 'Ines', 'i@x.example', '', 'Europe/Lisbon', '["9-17","","","","","",""]');
		INSERT INTO meeting_type VALUES (1, 1, 1, 's', 'S', '', '{"duration":30,"step":15,"before":0,"after":0,"notice":0,"noticeInDays":false,"windowDays":0}');
		INSERT INTO day_change VALUES (7, 1, '2026-05-04', '2026-05-05', 'off', '');
		INSERT INTO calendar_account VALUES (1, 1, 'https://x.example', 'ines', x'00');
		INSERT INTO calendar (id, account_id, href, name, blocks, receives) VALUES (1, 1, '/c/', 'Work', 1, 1);
		INSERT INTO booking (uid, type_id, host_id, state, start_at, end_at, kept_from, kept_until, type_name, client_name, client_mail,
			client_zone, remark, event_href, event_etag, event_calendar, link_hash, request_key, created_at)
			VALUES ('u', 1, 1, 'booked', 1000, 2000, 1000, 2600, 'S', 'C', 'c@x.example', 'UTC', '', '/c/u.ics', '"1"', 1, 'l', 'k', 1);
		INSERT INTO setting_change VALUES (3, 1, 100, 'hours', 1, 'Hours', '{}', 0);`)
	require.NoError(t, err)
	_, err = provider.UpTo(ctx, 13)
	require.NoError(t, err)
	_, err = db.ExecContext(ctx, `
		UPDATE meeting_type SET offer = '{"keepHours":48,"proof":true}' WHERE id = 1;
		INSERT INTO setting_change VALUES (2, 1, 99, 'offer', 1, 'S', '{"proof":false,"listing":"off"}', 0),
			(1, 1, 98, 'meeting-type', 1, 'S', '{"name":"S","rules":{"duration":30,"follows":["step"]}}', 0);`)
	require.NoError(t, err)
	_, err = provider.UpTo(ctx, 18)
	require.NoError(t, err)
	_, err = db.ExecContext(ctx, `
		UPDATE booking SET sequence = 4, life = 'came', said = '[{"id":"lamps"}]' WHERE id = 1;
		INSERT INTO booking (id, uid, type_id, host_id, state, start_at, end_at, kept_from, kept_until, type_name, client_name, client_mail, client_zone, remark, link_hash, request_key, created_at, life)
			VALUES (9, 'v', 1, 1, 'cancelled', 5000, 6000, 5000, 6000, 'S', 'D', 'C@x.example', 'UTC', '', 'm', 'n', 2, 'cancelled');
		INSERT INTO guest VALUES (9, 'guest@x.example', 2);
		INSERT INTO booking_step (booking_id, at, kind, by) VALUES (9, 2, 'booked', 'client'), (9, 3, 'cancelled', 'host');
		INSERT INTO upload (token_hash, type_id, booking_id, name, media, bytes, created_at) VALUES ('t', 1, 9, 'plan.pdf', 'application/pdf', x'01', 2);
		INSERT INTO assignment (booking_id, type_id, person_id, at, reason) VALUES (9, 1, 1, 2, '{}');`)
	require.NoError(t, err)
	require.NoError(t, db.Close())

	s, err := Open(ctx, folder)
	require.NoError(t, err)
	defer func() { require.NoError(t, s.Close()) }()
	first, err := s.Booking(ctx, 1)
	require.NoError(t, err)
	assert.Equal(t, []any{"u", int64(4), int64(4), int64(4), "booked", "attended", "l", `[{"id":"lamps"}]`, "en"},
		[]any{first.Uid, first.Sequence, first.Revision, first.Version, first.State, first.Life, first.LinkHash, first.Said, first.Language})
	cancelled, err := s.BookingByLink(ctx, "m")
	require.NoError(t, err)
	assert.Equal(t, []any{int64(9), "cancelled", int64(5000)}, []any{cancelled.ID, cancelled.State, cancelled.StartAt})
	steps, err := s.StepsOf(ctx, 9)
	require.NoError(t, err)
	assert.Len(t, steps, 2)
	uploads, err := s.UploadsOfBookings(ctx, []sql.NullInt64{{Int64: 9, Valid: true}})
	require.NoError(t, err)
	assert.Len(t, uploads, 1)
	clients, err := s.Clients(ctx, sqlc.ClientsParams{WorkspaceID: 1})
	require.NoError(t, err)
	require.Len(t, clients, 1)
	assert.Equal(t, []any{"D", int64(2), int64(1)}, []any{clients[0].ClientName, clients[0].Bookings, clients[0].FirstAt})
	broken := 0
	require.NoError(t, s.read.QueryRowContext(ctx, "SELECT COUNT(*) FROM pragma_foreign_key_check").Scan(&broken))
	assert.Zero(t, broken, "everything points to what is there")
	require.NoError(t, s.read.QueryRowContext(ctx, "SELECT COUNT(*) FROM guest WHERE booking_id = 9").Scan(&broken))
	assert.Equal(t, 1, broken)
	workspace, err := s.WorkspaceByID(ctx, 1)
	require.NoError(t, err)
	assert.Equal(t, "Europe/Lisbon", workspace.Zone, "that of its first person")
	changes, err := s.DayChanges(ctx, 1)
	require.NoError(t, err)
	require.Len(t, changes, 1)
	assert.Equal(t, int64(7), changes[0].ID)
	assert.Equal(t, "off", changes[0].Kind)
	last, err := s.LastSettingChange(ctx, 1)
	require.NoError(t, err)
	assert.Equal(t, "Hours", last.Label)
	hosts, err := s.HostsOfMeeting(ctx, 1)
	require.NoError(t, err)
	require.Len(t, hosts, 1)
	assert.Equal(t, "/c/u.ics", hosts[0].EventHref)
	assert.Equal(t, int64(2600), hosts[0].KeptUntil)
	kind, err := s.MeetingType(ctx, 1)
	require.NoError(t, err)
	assert.JSONEq(t, `{"keepHours":48,"proof":"code"}`, kind.Offer)
	former := ""
	require.NoError(t, s.read.QueryRowContext(ctx, "SELECT before FROM setting_change WHERE id = 2").Scan(&former))
	assert.JSONEq(t, `{"proof":"","listing":"off"}`, former, "what undo goes back to")
	assert.Contains(t, kind.Rules, `"duration":30`)
	assert.Contains(t, kind.Rules, `"follows":["holidays","busy"]`, "what it couldn't set yet is the workspace's")
	require.NoError(t, s.read.QueryRowContext(ctx, "SELECT before FROM setting_change WHERE id = 1").Scan(&former))
	assert.JSONEq(t, `{"name":"S","rules":{"duration":30,"follows":["step","holidays","busy"]}}`, former)
	_, err = s.write.ExecContext(ctx, "PRAGMA foreign_keys = OFF")
	require.NoError(t, err)
	_, err = stepwise(t, s.write).DownTo(ctx, 20)
	require.NoError(t, err)
	require.NoError(t, s.write.QueryRowContext(ctx, "SELECT before FROM setting_change WHERE id = 1").Scan(&former))
	assert.JSONEq(t, `{"name":"S","rules":{"duration":30,"follows":["step"]}}`, former, "an earlier version doesn't know it")
}

// A migration that has landed is how databases were made: changed afterwards, it makes others. A new one gets a line of its own,
// and says how to go back, or why there is no way.
func TestLandedMigrationsStayAsTheyAre(t *testing.T) {
	sums, err := os.ReadFile("migrations.sum")
	require.NoError(t, err)
	listed := map[string]string{}
	for line := range strings.Lines(string(sums)) {
		sum, name, ok := strings.Cut(strings.TrimSpace(line), "  ")
		require.True(t, ok, line)
		listed[name] = sum
	}
	files, err := fs.Glob(migrations, "migrations/*.sql")
	require.NoError(t, err)
	for _, file := range files {
		text, err := fs.ReadFile(migrations, file)
		require.NoError(t, err)
		name := filepath.Base(file)
		assert.Equal(t, listed[name], fmt.Sprintf("%x", sha256.Sum256(text)), "%s: if it is new, add its sum to migrations.sum; if it has landed, write another one instead", name)
		if name > "00016" {
			assert.Regexp(t, `-- \+goose Down|-- No way back: `, string(text), name)
		}
	}
	assert.Len(t, files, len(listed))
}

func TestAFolderIsForOneProgramOfThisVersionOrALaterOne(t *testing.T) {
	ctx, folder := t.Context(), t.TempDir()
	s, err := Open(ctx, folder)
	require.NoError(t, err)
	_, err = Open(ctx, folder)
	require.ErrorIs(t, err, ErrHeld)
	require.ErrorIs(t, Free(folder), ErrHeld)
	_, err = s.write.ExecContext(ctx, "INSERT INTO goose_db_version (version_id, is_applied) VALUES (9001, 1)")
	require.NoError(t, err)
	require.NoError(t, s.Close())
	_, err = Open(ctx, folder)
	require.ErrorContains(t, err, "a later version of Corrim (schema 9001")
	require.NoError(t, Free(folder), "what could not be opened isn't held")
}

func TestReadySaysWhatIsWrong(t *testing.T) {
	ctx, folder := t.Context(), t.TempDir()
	s, err := Open(ctx, folder)
	require.NoError(t, err)
	require.NoError(t, s.Check(ctx))
	require.NoError(t, s.ready(ctx))
	_, err = s.write.ExecContext(ctx, "PRAGMA query_only = 1")
	require.NoError(t, err)
	require.ErrorContains(t, s.ready(ctx), "nothing can be written")
	_, err = s.write.ExecContext(ctx, "PRAGMA query_only = 0")
	require.NoError(t, err)
	var root int
	require.NoError(t, s.read.QueryRowContext(ctx, "SELECT rootpage FROM sqlite_master WHERE name = 'upload'").Scan(&root))
	require.NoError(t, s.Close())

	// A page of a table that is rarely read goes bad.
	file := filepath.Join(folder, "corrim.db")
	text, err := os.ReadFile(file)
	require.NoError(t, err)
	const page = 4096
	copy(text[(root-1)*page:root*page], bytes.Repeat([]byte{0xA5}, page))
	require.NoError(t, os.WriteFile(file, text, 0o600))
	s, err = Open(ctx, folder)
	require.NoError(t, err, "it opens as if nothing was")
	defer func() { require.NoError(t, s.Close()) }()
	require.Error(t, s.Check(ctx))
	require.ErrorContains(t, s.ready(ctx), "the database is damaged")
}
