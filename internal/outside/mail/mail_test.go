package mail_test

import (
	"context"
	"crypto"
	"crypto/ed25519"
	"crypto/rand"
	"crypto/rsa"
	"crypto/x509"
	"encoding/base64"
	"encoding/json"
	"encoding/pem"
	"net"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/emersion/go-msgauth/dkim"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"corrim/internal/app"
	"corrim/internal/outside/mail"
	"corrim/internal/schedule"
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
		ID: "outbox-1.4f2a", FromName: "Quillmere Light Advisers", ReplyTo: schedule.Address{Name: "Ines", Mail: "ines@quillmere.example"},
		To: schedule.Address{Name: "Zoë Ångström", Mail: "zoe@hall.example"}, Subject: "Survey – très important", Text: "Ça va?\n" + strings.Repeat("long ", 300), HTML: "<p>Ça va?</p>",
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

// RFC 6376 and RFC 8463, with go-msgauth's own check of what came in.
func TestMailIsSigned(t *testing.T) {
	_, edKey, err := ed25519.GenerateKey(nil)
	require.NoError(t, err)
	rsaKey, err := rsa.GenerateKey(rand.Reader, 2048)
	require.NoError(t, err)
	for kind, key := range map[string]crypto.Signer{"ed25519": edKey, "rsa": rsaKey} {
		server, sender := open(t, "")
		der, err := x509.MarshalPKCS8PrivateKey(key)
		require.NoError(t, err)
		require.NoError(t, sender.Sign("corrim", pem.EncodeToMemory(&pem.Block{Type: "PRIVATE KEY", Bytes: der})))
		m := letter()
		m.Leave, m.Back = "https://corrim.example/b/link/leave", "bookings+c1-abc@quillmere.example"
		require.NoError(t, sender.Send(ctx, m))
		l := server.Letters()[0]
		assert.Equal(t, m.Back, l.ReturnPath)
		assert.Contains(t, string(l.Raw), "List-Unsubscribe: <https://corrim.example/b/link/leave>\r\nList-Unsubscribe-Post: List-Unsubscribe=One-Click\r\n")
		public, err := x509.MarshalPKIXPublicKey(key.Public())
		require.NoError(t, err)
		if kind == "ed25519" {
			public = key.Public().(ed25519.PublicKey) // RFC 8463, 4.2: the bare key
		}
		record := func(name string) ([]string, error) {
			assert.Equal(t, "corrim._domainkey.quillmere.example", name)
			return []string{"v=DKIM1; k=" + kind + "; p=" + base64.StdEncoding.EncodeToString(public)}, nil
		}
		check := func(raw string) error {
			found, err := dkim.VerifyWithOptions(strings.NewReader(raw), &dkim.VerifyOptions{LookupTXT: record})
			require.NoError(t, err)
			require.Len(t, found, 1)
			return found[0].Err
		}
		require.NoError(t, check(string(l.Raw)), kind)
		require.Error(t, check(strings.Replace(string(l.Raw), "b/link/leave", "b/other/leave", 1)), "what it speaks for can't be changed on the way")
	}
	_, sender := open(t, "")
	require.ErrorContains(t, sender.Sign("corrim", []byte("no key")), "BEGIN PRIVATE KEY")
	require.ErrorContains(t, sender.Sign("corrim", pem.EncodeToMemory(&pem.Block{Type: "PRIVATE KEY", Bytes: []byte("x")})), "RSA or Ed25519")
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
