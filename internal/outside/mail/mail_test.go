package mail_test

import (
	"context"
	"encoding/json"
	"net"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"corrim/internal/app"
	"corrim/internal/outside/mail"
	inbox "corrim/internal/standin/mail"
)

var ctx = context.Background()

func open(t *testing.T, folder string) (*inbox.Server, *mail.Sender) {
	t.Helper()
	server, err := inbox.New(folder)
	require.NoError(t, err)
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	go func() { _ = server.SMTP.Serve(listener) }()
	t.Cleanup(func() { _ = server.SMTP.Close() })
	sender, err := mail.New(listener.Addr().String(), "bookings@quillmere.example", "", "")
	require.NoError(t, err)
	return server, sender
}

func letter() app.Mail {
	return app.Mail{
		ID: "outbox-1.4f2a", FromName: "Quillmere Light Advisers", ReplyTo: app.Address{Name: "Ines", Mail: "ines@quillmere.example"},
		To: app.Address{Name: "Zoë Ångström", Mail: "zoe@hall.example"}, Subject: "Survey – très important", Text: "Ça va?\n" + strings.Repeat("long ", 300), HTML: "<p>Ça va?</p>",
		Invite: []byte("BEGIN:VCALENDAR\r\nSUMMARY:Été\r\nEND:VCALENDAR\r\n"), InviteFor: "REQUEST",
	}
}

func TestAnInvitationArrivesAsItWasMeant(t *testing.T) {
	folder := t.TempDir()
	server, sender := open(t, folder)
	require.NoError(t, sender.Send(ctx, letter()))
	got := server.Letters()
	require.Len(t, got, 1)
	l := got[0]
	assert.Equal(t, "Survey – très important", l.Subject)
	assert.Equal(t, `"Quillmere Light Advisers" <bookings@quillmere.example>`, l.From)
	assert.Contains(t, l.To, "<zoe@hall.example>")
	assert.Contains(t, l.To, "Zoë Ångström")
	assert.Equal(t, "<outbox-1.4f2a@quillmere.example>", l.MessageID, "stable over retries, and in the sender's domain")
	assert.Equal(t, letter().Text, strings.TrimRight(strings.ReplaceAll(l.Text, "\r\n", "\n"), "\n"))
	assert.Equal(t, "multipart/mixed\n  multipart/alternative\n    text/plain\n    text/html\n    text/calendar\n  text/calendar\n", l.Structure)
	assert.Equal(t, "REQUEST", l.Method, "RFC 6047, 2.4: the method is a parameter of the type")
	assert.Equal(t, string(letter().Invite), l.Calendar)
	assert.Equal(t, letter().Invite, l.Files[0].Data)
	assert.Equal(t, "invite.ics", l.Files[0].Name)

	again, err := inbox.New(folder)
	require.NoError(t, err)
	assert.Len(t, again.Letters(), 1, "the inbox is kept over a restart")
}

func TestNothingThatIsTypedBecomesAHeader(t *testing.T) {
	server, sender := open(t, "")
	m := letter()
	m.Invite = nil
	m.To.Name = "Zoë\r\nBcc: spy@evil.example"
	m.Subject = "Survey\r\nBcc: spy@evil.example"
	if err := sender.Send(ctx, m); err != nil {
		assert.Empty(t, server.Letters(), "refused is as good")
		return
	}
	head, _, _ := strings.Cut(string(server.Letters()[0].Raw), "\r\n\r\n")
	for line := range strings.Lines(head) {
		assert.False(t, strings.HasPrefix(strings.ToLower(line), "bcc:"), head)
	}
}

func TestAServerThatIsAwayIsSaid(t *testing.T) {
	sender, err := mail.New("127.0.0.1:1", "bookings@quillmere.example", "", "")
	require.NoError(t, err)
	assert.ErrorContains(t, sender.Send(ctx, letter()), "can't be reached")
	_, err = mail.New("mail.example", "bookings@quillmere.example", "", "")
	assert.ErrorContains(t, err, "host:port")
	m := letter()
	m.To.Mail = "not an address"
	assert.ErrorContains(t, sender.Send(ctx, m), "can't be written")
}

// Python's email package is the foreign parser; it comes with Radicale, which make test installs.
const parse = `
import sys, json, email, email.policy
names = []
for path in sys.argv[1:]:
    with open(path, 'rb') as f:
        to = email.message_from_binary_file(f, policy=email.policy.default)['To'].addresses
    names.append([(a.display_name, a.addr_spec) for a in to])
print(json.dumps(names))
`

func TestAnyNameArrivesAsItIsByAForeignParser(t *testing.T) {
	folder := t.TempDir()
	_, sender := open(t, folder)
	wanted := []string{`Ines "Lux" Valadares`, `Back\\slash`, "Valadares, Ines", "Zoë Ångström; Sons", "a@b.example", "<x>", "(comment)", `"`, "王小明", "=?utf-8?q?x?=", "O'Brien", strings.Repeat("long name ", 20)}
	letters := rapid.StringOfN(rapid.RuneFrom([]rune(`abc ,;:"\\<>()[]@.'éß王=?_`)), 1, 40, -1)
	for i := range 60 {
		wanted = append(wanted, letters.Example(i))
	}
	for i, name := range wanted {
		name = strings.Join(strings.Fields(name), " ") // as use cases keep names
		wanted[i] = name
		l := letter()
		l.To.Name, l.FromName, l.Subject = name, name, "About "+name
		require.NoError(t, sender.Send(ctx, l), "%q", name)
	}
	files, err := filepath.Glob(filepath.Join(folder, "*.eml"))
	require.NoError(t, err)
	require.Len(t, files, len(wanted))
	program := exec.Command("python3", append([]string{"-c", parse}, files...)...)
	program.Stderr = os.Stderr
	text, err := program.Output()
	require.NoError(t, err)
	var got [][][2]string
	require.NoError(t, json.Unmarshal(text, &got))
	for i, name := range wanted {
		require.Len(t, got[i], 1, "%q", name)
		assert.Equal(t, [2]string{strings.ReplaceAll(name, "=?", "= ?"), "zoe@hall.example"}, got[i][0])
	}
}
