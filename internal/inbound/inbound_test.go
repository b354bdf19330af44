package inbound_test

import (
	"context"
	"errors"
	"log/slog"
	"net"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/emersion/go-smtp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/invite"
	"corrim/internal/app"
	"corrim/internal/inbound"
	"corrim/internal/schedule"
)

// house keeps what arrives, and may be in trouble.
type house struct {
	mu      sync.Mutex
	arrived []app.Arrived
	trouble error
}

func (*house) TakesMailFor(address string) bool { return strings.HasPrefix(address, "bookings+") }

func (h *house) Arrive(_ context.Context, m app.Arrived) error {
	h.mu.Lock()
	defer h.mu.Unlock()
	if h.trouble == nil {
		h.arrived = append(h.arrived, m)
	}
	return h.trouble
}

func open(t *testing.T, network, address string, lmtp bool) (*house, string) {
	t.Helper()
	listener, err := net.Listen(network, address)
	require.NoError(t, err)
	h := &house{}
	ctx, stop := context.WithCancel(t.Context())
	done := make(chan error, 1)
	go func() { done <- inbound.ServeOn(ctx, listener, lmtp, h, slog.New(slog.DiscardHandler)) }()
	t.Cleanup(func() { stop(); require.NoError(t, <-done) })
	return h, listener.Addr().String()
}

// hand hands a mail over as a sender does that none of us wrote.
func hand(t *testing.T, address, from, to, text string) error {
	t.Helper()
	client, err := smtp.Dial(address)
	require.NoError(t, err)
	defer func() { _ = client.Close() }()
	return client.SendMail(from, []string{to}, strings.NewReader(text))
}

// report is RFC 3464, appendix E.1, shortened (from memory), with a second receiver for whom it is only late.
const report = "From: Mail Delivery Subsystem <MAILER-DAEMON@cs.example>\r\nSubject: Returned mail\r\nMIME-Version: 1.0\r\nAuto-Submitted: auto-replied\r\n" +
	"Content-Type: multipart/report; report-type=delivery-status; boundary=\"RAA14128.773615765/CS\"\r\n\r\n" +
	"--RAA14128.773615765/CS\r\n\r\nThe original message was received at Fri, 8 Jul 1994\r\n\r\n" +
	"--RAA14128.773615765/CS\r\nContent-Type: message/delivery-status\r\n\r\n" +
	"Reporting-MTA: dns; cs.example\r\n\r\nOriginal-Recipient: rfc822;louisl@larry.slip.example\r\nFinal-Recipient: rfc822;louisl@other.example\r\nAction: failed\r\nStatus: 5.1.1\r\n" +
	"Diagnostic-Code: smtp; 550 no such user\r\n\r\nFinal-Recipient: rfc822;late@larry.slip.example\r\nAction: delayed\r\nStatus: 4.0.0\r\n\r\n" +
	"--RAA14128.773615765/CS\r\nContent-Type: message/rfc822\r\n\r\nSubject: the mail\r\n\r\nbody\r\n--RAA14128.773615765/CS--\r\n"

func TestMailComesInFromAForeignSender(t *testing.T) {
	h, address := open(t, "tcp", "127.0.0.1:0", false)
	require.NoError(t, hand(t, address, "", "bookings+c1-x@quillmere.example", report))
	require.Len(t, h.arrived, 1)
	got := h.arrived[0]
	assert.Equal(t, "bookings+c1-x", got.To)
	assert.Equal(t, []app.Failed{{Mail: "louisl@larry.slip.example", Status: "5.1.1", Said: "550 no such user"}}, got.Failed, "a delay is no failure")
	assert.True(t, got.Auto && got.Report)

	var refused *smtp.SMTPError
	require.ErrorAs(t, hand(t, address, "a@x.example", "anybody@quillmere.example", report), &refused)
	assert.Equal(t, 550, refused.Code)
	h.trouble = errors.New("the database is gone")
	require.ErrorAs(t, hand(t, address, "a@x.example", "bookings+c1-x@quillmere.example", report), &refused)
	assert.Equal(t, 451, refused.Code, "it will be tried again")
	require.ErrorAs(t, hand(t, address, "a@x.example", "bookings+c1-x@quillmere.example", strings.Repeat("a long line\r\n", 500_000)), &refused)
	assert.Equal(t, 552, refused.Code)
}

func TestSilentConnectionsDontShutTheDoor(t *testing.T) {
	h, address := open(t, "tcp", "127.0.0.1:0", false)
	for range 25 {
		silent, err := net.Dial("tcp", address)
		require.NoError(t, err)
		t.Cleanup(func() { _ = silent.Close() })
	}
	connection, err := net.Dial("tcp", address)
	require.NoError(t, err)
	require.NoError(t, connection.SetDeadline(time.Now().Add(20*time.Second))) // shorter than those are silent
	client := smtp.NewClient(connection)
	require.NoError(t, client.SendMail("a@x.example", []string{"bookings+c1-x@quillmere.example"}, strings.NewReader("Subject: s\r\n\r\nHello")))
	require.Len(t, h.arrived, 1)
}

// No library's panic passes the door: the mail goes on whole, and what else is being read goes on too.
func TestWhatALibraryPanicsAtIsForwarded(t *testing.T) {
	h, address := open(t, "tcp", "127.0.0.1:0", false)
	mail := "From: a@x.example\r\nSubject: s\r\nContent-Type: multipart/mixed; boundary=b\r\n\r\n--b\r\nContent-Type: text/plain\r\n\r\nI can come\r\n" +
		"--b\r\nContent-Type: text/calendar; method=REPLY\r\n\r\n0;0=\r\n--b--\r\n"
	require.NoError(t, hand(t, address, "a@x.example", "bookings+c1-x@quillmere.example", mail))
	require.Len(t, h.arrived, 1)
	assert.Nil(t, h.arrived[0].Reply)
	assert.Equal(t, "I can come", strings.TrimSpace(h.arrived[0].Text))
	assert.Contains(t, string(h.arrived[0].Raw), "0;0=")
}

func TestReportsOfOtherServersAreUnderstoodOrForwarded(t *testing.T) {
	for from, to := range map[string]string{
		"message/delivery-status\r\n\r\nR": "message/global-delivery-status\r\n\r\nR", // RFC 6533
		"Action: failed":                   "action: Failed (permanently)",
		"Status: 5.1.1":                    "Status: 5.1.1 (no such user)",
	} {
		require.Contains(t, report, from)
		got := inbound.Read([]byte(strings.Replace(report, from, to, 1)))
		assert.Equal(t, []app.Failed{{Mail: "louisl@larry.slip.example", Status: "5.1.1", Said: "550 no such user"}}, got.Failed, to)
		assert.True(t, got.Report)
	}
	other := inbound.Read([]byte(strings.NewReplacer("Action: failed", "Action: lost", "Action: delayed", "Action: lost").Replace(report)))
	assert.False(t, other.Report, "what isn't understood is forwarded as any mail")
	assert.Empty(t, other.Failed)
}

func TestMailComesInByLMTP(t *testing.T) {
	h, address := open(t, "unix", filepath.Join(t.TempDir(), "lmtp"), true)
	connection, err := net.Dial("unix", address)
	require.NoError(t, err)
	client := smtp.NewClientLMTP(connection)
	require.NoError(t, client.Mail("", nil))
	require.NoError(t, client.Rcpt("bookings+c1-x@quillmere.example", nil))
	require.Error(t, client.Rcpt("anybody@quillmere.example", nil))
	w, err := client.Data()
	require.NoError(t, err)
	_, err = w.Write([]byte("From: a@x.example\r\n\r\nHello"))
	require.NoError(t, err)
	answers, err := w.CloseWithLMTPResponse()
	require.NoError(t, err)
	assert.Len(t, answers, 1)
	require.NoError(t, client.Quit())
	require.Len(t, h.arrived, 1)
	assert.Equal(t, "Hello", strings.TrimSpace(h.arrived[0].Text))
}

func TestMailOfManyProgramsIsTakenApart(t *testing.T) {
	calendar := "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//x//EN\r\nMETHOD:REPLY\r\nBEGIN:VEVENT\r\nUID:one@corrim\r\nDTSTAMP:20260504T080000Z\r\nATTENDEE;PARTSTAT=DECLINED:mailto:k@x.example\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n"
	mixed := "From: =?iso-8859-1?Q?Zo=EB?= <zoe@hall.example>\r\nSubject: =?utf-8?B?w4lsYW4=?=\r\nContent-Type: multipart/mixed; boundary=b\r\n\r\n" +
		"--b\r\nContent-Type: text/plain; charset=windows-1252\r\nContent-Transfer-Encoding: quoted-printable\r\n\r\nI can=92t come\r\n" +
		"--b\r\nContent-Type: text/calendar; method=REPLY\r\n\r\n" + calendar + "--b--\r\n"
	got := inbound.Read([]byte(mixed))
	assert.Equal(t, schedule.Address{Name: "Zoë", Mail: "zoe@hall.example"}, got.From)
	assert.Equal(t, "Élan", got.Subject)
	assert.Equal(t, "I can’t come", strings.TrimSpace(got.Text))
	require.NotNil(t, got.Reply)
	assert.Equal(t, invite.Declined, got.Reply.Answer)

	html := inbound.Read([]byte("From: a@x.example\r\nContent-Type: text/html\r\n\r\n<style>p{}</style><p>One &amp; two</p>three<script>four</script>"))
	assert.Equal(t, "One & two\nthree", html.Text)
	assert.False(t, inbound.Read([]byte("Auto-Submitted: no\r\n\r\n")).Auto)
	nested := strings.Repeat("Content-Type: multipart/mixed; boundary=b\r\n\r\n--b\r\n", 200)
	for _, text := range []string{"", "no header at all", "From: \r\n", nested, mixed[:len(mixed)/2], "Content-Type: multipart/report; report-type=delivery-status\r\n\r\nx"} {
		got := inbound.Read([]byte(text))
		assert.Equal(t, text, string(got.Raw))
		assert.Empty(t, got.Failed)
	}
}

func TestASocketThatWasLeftBehindIsNoHindrance(t *testing.T) {
	path := filepath.Join(t.TempDir(), "lmtp")
	left, err := net.ListenUnix("unix", &net.UnixAddr{Name: path})
	require.NoError(t, err)
	left.SetUnlinkOnClose(false) // as after a kill
	ctx, stop := context.WithCancel(t.Context())
	defer stop()
	require.Error(t, inbound.Serve(ctx, "lmtp:"+path, &house{}, slog.New(slog.DiscardHandler)), "somebody listens there")
	require.NoError(t, left.Close())
	done := make(chan error, 1)
	go func() { done <- inbound.Serve(ctx, "lmtp:"+path, &house{}, slog.New(slog.DiscardHandler)) }()
	require.Eventually(t, func() bool {
		connection, err := net.Dial("unix", path)
		if err != nil {
			return false
		}
		greeting := make([]byte, 3)
		_, err = connection.Read(greeting)
		_ = connection.Close()
		return err == nil && string(greeting) == "220"
	}, time.Minute, 10*time.Millisecond)
	stop()
	require.NoError(t, <-done)
}
