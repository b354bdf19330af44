package mail

import (
	"bytes"
	"fmt"
	"net/http"
	netmail "net/mail"
	"strings"
	"time"

	"github.com/emersion/go-ical"
	"github.com/emersion/go-smtp"

	"corrim/internal/standin"
)

// What the receiver of a letter, their calendar program, or the server of a mailbox that is gone answers goes where the letter's
// envelope says (RFC 5321, 4.4), and is handed over as any mail server does it.

const clockField = "2006-01-02T15:04" // of an input for a moment (HTML, 2.3.5.5)

func (s *Server) answer(w http.ResponseWriter, r *http.Request) {
	l := s.letter(w, r)
	if l == nil {
		return
	}
	text, to, err := l.answer(r.PostFormValue("as"), r.PostFormValue("text"), r.PostFormValue("at"))
	if err == nil {
		err = hand(s.Back, to, text)
	}
	if err != nil {
		http.Error(w, "This could not be handed over: "+err.Error(), http.StatusBadGateway)
		return
	}
	standin.Show(w, answeredPage, map[string]any{"Title": "Handed over", "Letter": l, "To": to})
}

var answeredPage = standin.Page(`<p><a href="/m/{{.Letter.ID}}">Back to the letter</a></p><h1>Handed over</h1><p>It went to {{.To}}.</p>`)

// answer is a mail about the letter, and where it goes.
func (l *Letter) answer(as, text, at string) (mail, to string, err error) {
	receiver, err := netmail.ParseAddress(l.To)
	if err != nil {
		return "", "", err
	}
	head := fmt.Sprintf("From: %s\r\nTo: %s\r\nSubject: Re: %s\r\nMessage-ID: <answer-%d-%d@mail.example>\r\nMIME-Version: 1.0\r\n", receiver, l.ReturnPath, oneLine(l.Subject), l.ID, time.Now().UnixNano())
	switch as {
	case "failed":
		return fmt.Sprintf(failure, l.ReturnPath, receiver.Address), l.ReturnPath, nil
	case "wrote":
		return head + "Content-Type: text/plain; charset=utf-8\r\n\r\n" + text, l.ReturnPath, nil
	}
	calendar, organizer, err := l.reply(as, text, at, receiver.Address)
	return head + fmt.Sprintf("Content-Type: text/calendar; charset=utf-8; method=%s\r\n\r\n%s", methodOf(as), calendar), organizer, err
}

func oneLine(text string) string { return strings.Join(strings.Fields(text), " ") }

func methodOf(as string) string {
	if as == "wished" {
		return "COUNTER"
	}
	return "REPLY"
}

// reply is the answer to the letter's invitation, and its organizer's address.
func (l *Letter) reply(as, comment, at, attendee string) (text, organizer string, err error) {
	calendar, err := ical.NewDecoder(strings.NewReader(l.Calendar)).Decode()
	if err != nil || len(calendar.Events()) == 0 {
		return "", "", fmt.Errorf("there is no invitation in this letter")
	}
	invited := calendar.Events()[0]
	event := ical.NewComponent(ical.CompEvent)
	for _, name := range []string{ical.PropUID, ical.PropSequence, ical.PropOrganizer, ical.PropDateTimeStart, ical.PropSummary} {
		if p := invited.Props.Get(name); p != nil {
			event.Props.Set(p)
		}
	}
	event.Props.SetDateTime(ical.PropDateTimeStamp, time.Now().UTC())
	if as == "wished" {
		wish, err := time.Parse(clockField, at)
		if err != nil {
			return "", "", err
		}
		event.Props.SetDateTime(ical.PropDateTimeStart, wish.UTC())
	}
	if comment != "" {
		event.Props.SetText(ical.PropComment, comment)
	}
	who := ical.NewProp(ical.PropAttendee)
	who.Value = "mailto:" + attendee
	who.Params.Set("PARTSTAT", map[string]string{"accepted": "ACCEPTED", "declined": "DECLINED", "wished": "TENTATIVE"}[as])
	event.Props.Set(who)
	out := ical.NewCalendar()
	out.Props.SetText(ical.PropVersion, "2.0")
	out.Props.SetText(ical.PropProductID, "-//Stand-in//Mail//EN")
	out.Props.SetText(ical.PropMethod, methodOf(as))
	out.Children = append(out.Children, event)
	var written bytes.Buffer
	err = ical.NewEncoder(&written).Encode(out)
	if p := invited.Props.Get(ical.PropOrganizer); p != nil {
		organizer = strings.TrimPrefix(p.Value, "mailto:")
	}
	return written.String(), organizer, err
}

// failure is a report that a letter was not delivered (RFC 3464).
const failure = "From: Mail Delivery System <mailer-daemon@mail.example>\r\nTo: %s\r\nSubject: Undelivered mail\r\nAuto-Submitted: auto-replied\r\nMIME-Version: 1.0\r\n" +
	"Content-Type: multipart/report; report-type=delivery-status; boundary=report\r\n\r\n--report\r\nContent-Type: text/plain\r\n\r\nYour mail could not be delivered.\r\n" +
	"--report\r\nContent-Type: message/delivery-status\r\n\r\nReporting-MTA: dns; mail.example\r\n\r\nFinal-Recipient: rfc822; %s\r\nAction: failed\r\nStatus: 5.1.1\r\n" +
	"Diagnostic-Code: smtp; 550 5.1.1 There is no such mailbox here\r\n\r\n--report--\r\n"

// hand hands a mail over by SMTP, from nobody, as reports have it (RFC 5321, 4.5.5).
func hand(server, to, text string) error {
	client, err := smtp.Dial(server)
	if err != nil {
		return err
	}
	defer func() { _ = client.Close() }()
	if err := client.SendMail("", []string{to}, strings.NewReader(text)); err != nil {
		return err
	}
	return client.Quit()
}
