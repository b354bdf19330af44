// Package mail sends messages by SMTP. An invitation travels as RFC 6047 says and as mail programs expect: as one of the
// alternatives of the body (text, HTML, text/calendar with its method) and once more as an attached file.
package mail

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"net"
	netmail "net/mail"
	"slices"
	"strconv"
	"strings"
	"time"
	"unicode"
	"unicode/utf8"

	"github.com/emersion/go-msgauth/dkim"
	"github.com/wneessen/go-mail"

	"corrim/core/told"
	"corrim/internal/app"
	"corrim/internal/outside/reach"
)

// Sender is an app.Mailer.
type Sender struct {
	client *mail.Client
	from   string
	domain string // of from; messages are named in it (RFC 5322, 3.6.4)

	signing *dkim.SignOptions // nil if nothing is signed
}

// named is an address with a name, quoted or encoded as the name needs (RFC 5322, 3.4; RFC 2047, 5). What no header can hold is
// left out.
func named(name, address string) string {
	printable := strings.Map(func(r rune) rune {
		if unicode.IsControl(r) || r == utf8.RuneError {
			return -1
		}
		return r
	}, name)
	apart := strings.ReplaceAll(printable, "=?", "= ?") // which programs would decode, even in quotes
	return (&netmail.Address{Name: strings.TrimSpace(apart), Address: address}).String()
}

// New returns a sender that hands messages to the server at address (host:port) and signs them as coming from the mail
// address from. TLS is used if the server offers it; user may be empty for a server that asks for no sign-in.
func New(address, from, user, password string) (*Sender, error) {
	host, portText, err := net.SplitHostPort(address)
	if err != nil {
		return nil, told.Error("mail-server-should", "the mail server “{}” should be written host:port", address)
	}
	port, err := strconv.Atoi(portText)
	if err != nil {
		return nil, told.Error("mail-server-should", "the mail server “{}” should be written host:port", address)
	}
	options := []mail.Option{mail.WithPort(port), mail.WithTLSPolicy(mail.TLSOpportunistic), mail.WithTimeout(10 * time.Second)}
	if user != "" {
		options = append(options, mail.WithSMTPAuth(mail.SMTPAuthAutoDiscover), mail.WithUsername(user), mail.WithPassword(password))
	}
	client, err := mail.NewClient(host, options...)
	return &Sender{client: client, from: from, domain: from[strings.LastIndexByte(from, '@')+1:]}, err
}

// Send hands one message over.
func (s *Sender) Send(ctx context.Context, m app.Mail) error {
	message, err := s.compose(m)
	if err != nil {
		return told.Error("message-written", "the message can't be written: {}", err)
	}
	if s.signing != nil {
		if err := s.signature(message); err != nil {
			return told.Error("message-written", "the message can't be written: {}", err)
		}
	}
	return inWords(s.client.DialAndSendWithContext(ctx, message))
}

// inWords tells a server that can't be asked from one that refuses a message.
func inWords(err error) error {
	var refused *mail.SendError
	switch {
	case err == nil:
		return nil
	case !errors.As(err, &refused) || refused.Reason == mail.ErrConnCheck || refused.Reason == mail.ErrNoUnencoded:
		return reach.Away(told.Error("mail-server-reached", "the mail server can't be reached: {}", err))
	case refused.Reason == mail.ErrSMTPRcptTo:
		return told.Error("mail-server-doesnt", "the mail server doesn't deliver to this address: {}", err)
	}
	return told.Error("mail-server-did", "the mail server did not take the message: {}", err)
}

func (s *Sender) compose(m app.Mail) (*mail.Msg, error) {
	message := mail.NewMsg()
	if err := message.From(named(m.FromName, s.from)); err != nil {
		return nil, err
	}
	if m.Back != "" {
		if err := message.EnvelopeFrom(m.Back); err != nil {
			return nil, err
		}
	}
	if err := message.To(named(m.To.Name, m.To.Mail)); err != nil {
		return nil, err
	}
	if err := message.ReplyTo(named(m.ReplyTo.Name, m.ReplyTo.Mail)); err != nil {
		return nil, err
	}
	message.Subject(m.Subject)
	message.SetMessageIDWithValue(m.ID + "@" + s.domain)
	message.SetDate()
	message.SetGenHeader("Auto-Submitted", "auto-generated") // RFC 3834: nobody's holiday notice should answer
	if m.Leave != "" {                                       // RFC 8058
		message.SetGenHeader("List-Unsubscribe", "<"+m.Leave+">")
		message.SetGenHeader("List-Unsubscribe-Post", "List-Unsubscribe=One-Click")
	}
	message.SetBodyString(mail.TypeTextPlain, m.Text)
	message.AddAlternativeString(mail.TypeTextHTML, m.HTML)
	if m.Invite != nil {
		if err := attachInvitations(message, m); err != nil {
			return nil, err
		}
	}
	for _, file := range m.Files {
		if err := message.AttachReader(file.Name, bytes.NewReader(file.Data), mail.WithFileContentType(mail.ContentType(file.Type))); err != nil {
			return nil, err
		}
	}
	return message, nil
}

func attachInvitations(message *mail.Msg, m app.Mail) error {
	message.AddAlternativeString(mail.ContentType("text/calendar; method="+m.InviteFor), string(m.Invite))
	// One object speaks of one meeting (RFC 5546, 2.1.4), so that each has a file of its own.
	for i, invite := range slices.Insert(slices.Clone(m.Others), 0, m.Invite) {
		name := "invite.ics"
		if i > 0 {
			name = fmt.Sprintf("invite-%d.ics", i+1)
		}
		if err := message.AttachReader(name, bytes.NewReader(invite), mail.WithFileContentType("text/calendar")); err != nil {
			return err
		}
	}
	return nil
}
