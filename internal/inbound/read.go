package inbound

import (
	"bufio"
	"bytes"
	"html"
	"io"
	"mime"
	netmail "net/mail"
	"net/textproto"
	"regexp"
	"slices"
	"strings"

	"github.com/emersion/go-message"
	_ "github.com/emersion/go-message/charset" // so that what isn't UTF-8 can be read

	"corrim/core/intake"
	"corrim/core/invite"
	"corrim/internal/app"
	"corrim/internal/schedule"
)

const (
	mostParts    = 50
	longestText  = 100_000
	longestEntry = 1 << 20
)

// Read takes a mail apart. What can't be read is left out: the whole mail goes along.
func Read(raw []byte) app.Arrived {
	out := app.Arrived{Raw: raw}
	entity, err := message.Read(bytes.NewReader(raw))
	if entity == nil || err != nil && !message.IsUnknownCharset(err) && !message.IsUnknownEncoding(err) {
		return out
	}
	header := func(name string) string {
		text, err := entity.Header.Text(name)
		if err != nil {
			return entity.Header.Get(name)
		}
		return text
	}
	out.Subject, out.From = header("Subject"), sender(entity.Header.Get("From"))
	out.Auto = autoSubmitted(entity)
	parts, page := 0, ""
	_ = entity.Walk(func(path []int, part *message.Entity, err error) error {
		if parts++; parts > mostParts || len(path) > 8 {
			return io.EOF
		}
		if part == nil || err != nil && !message.IsUnknownCharset(err) {
			return nil
		}
		kind, _, _ := part.Header.ContentType()
		how, _, _ := part.Header.ContentDisposition()
		switch {
		case kind == "message/delivery-status" || kind == "message/global-delivery-status": // RFC 3464, RFC 6533
			failed, understood := failedIn(part.Body)
			out.Failed, out.Report = append(out.Failed, failed...), out.Report || understood
		case kind == "text/calendar" || kind == "application/ics":
			if reply, err := invite.ReadReply(upTo(part.Body, longestEntry)); err == nil {
				out.Reply = &reply
			}
		case how == "attachment":
		case kind == "text/plain" && out.Text == "":
			out.Text = string(upTo(part.Body, longestText))
		case kind == "text/html" && page == "":
			page = string(upTo(part.Body, longestText))
		}
		return nil
	})
	if strings.TrimSpace(out.Text) == "" {
		out.Text = textOf(page)
	}
	return out
}

func upTo(r io.Reader, most int64) []byte {
	text, _ := io.ReadAll(io.LimitReader(r, most)) // of what breaks off, that much is known
	return text
}

func sender(from string) schedule.Address {
	parser := netmail.AddressParser{WordDecoder: &mime.WordDecoder{CharsetReader: message.CharsetReader}}
	address, err := parser.Parse(from)
	if err != nil {
		return schedule.Address{}
	}
	return schedule.Address{Name: intake.OneLine(address.Name), Mail: address.Address}
}

// autoSubmitted tells whether a program wrote it (RFC 3834, 5).
func autoSubmitted(entity *message.Entity) bool {
	value, _, _ := strings.Cut(entity.Header.Get("Auto-Submitted"), ";")
	value = strings.ToLower(strings.TrimSpace(value))
	return value != "" && value != "no"
}

// failedIn is the addresses that took no mail: groups of fields, one for the whole and one for each receiver (RFC 3464, 2.1). What says
// nothing of any receiver that we understand is no report.
func failedIn(body io.Reader) (out []app.Failed, understood bool) {
	fields := textproto.NewReader(bufio.NewReader(io.LimitReader(body, longestText)))
	for {
		group, err := fields.ReadMIMEHeader()
		action := withoutComments(group.Get("Action"))
		understood = understood || slices.Contains([]string{"failed", "delayed", "delivered", "relayed", "expanded"}, action) // RFC 3464, 2.3.3
		if action == "failed" {
			receiver := group.Get("Original-Recipient")
			if receiver == "" {
				receiver = group.Get("Final-Recipient")
			}
			out = append(out, app.Failed{Mail: afterType(receiver), Status: withoutComments(group.Get("Status")), Said: afterType(group.Get("Diagnostic-Code"))})
		}
		if err != nil {
			return out, understood
		}
	}
}

var comments = regexp.MustCompile(`\([^()]*\)`)

// withoutComments is a field's value in small letters, without what stands in parentheses (RFC 5322, 3.2.2).
func withoutComments(value string) string {
	return strings.ToLower(strings.TrimSpace(comments.ReplaceAllString(value, " ")))
}

// afterType is a field's value without its type: "rfc822; louisl@larry.slip.umd.edu" (RFC 3464, 2.3.2).
func afterType(value string) string {
	if _, rest, has := strings.Cut(value, ";"); has {
		value = rest
	}
	return strings.Trim(strings.TrimSpace(value), "<>")
}

var (
	unseen   = regexp.MustCompile(`(?is)<(style|script|head)\b.*?</(style|script|head)>`)
	lineEnds = regexp.MustCompile(`(?i)<(br|/p|/div|/tr|/li)\b[^>]*>`)
	tags     = regexp.MustCompile(`(?s)<[^>]*>`)
)

// textOf is the words of a mail that has no plain text, for people; the mail itself goes along.
func textOf(page string) string {
	return html.UnescapeString(tags.ReplaceAllString(lineEnds.ReplaceAllString(unseen.ReplaceAllString(page, ""), "\n"), ""))
}
