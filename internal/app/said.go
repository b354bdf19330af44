package app

import (
	"context"
	"regexp"
	"slices"
	"strings"
	"time"

	"corrim/core/intake"
	"corrim/core/life"
	"corrim/internal/job"
	"corrim/internal/schedule"
	"corrim/internal/store/sqlc"
)

// SaidLetter is a mail about a booking as it went out.
type SaidLetter struct {
	Number  int64     `json:"number" doc:"Among those of the message."`
	To      string    `json:"to,omitempty" doc:"The client's or a guest's address."`
	Subject string    `json:"subject"`
	Text    string    `json:"text" doc:"Without the client's own links."`
	At      time.Time `json:"at"`
}

const (
	saidFor     = 90 * 24 * time.Hour // as long as the log of jobs is kept
	longestSaid = 20_000
)

// saying sends the letters of a job and keeps what they said, together with how the job ends. A code that proves an address is for
// nobody else's eyes.
func (a *App) saying(ctx context.Context, j sqlc.Job, letters []Mail, end job.Ending) (job.Ending, error) {
	if err := a.sendAll(ctx, j, letters); err != nil {
		return end, err
	}
	if life.Event(j.Occasion) == life.Hold {
		return end, nil
	}
	return func(ctx context.Context, q *sqlc.Queries) error {
		if end != nil {
			if err := end(ctx, q); err != nil {
				return err
			}
		}
		for i, m := range letters {
			if m.copied {
				continue
			}
			err := q.AddMailSaid(ctx, sqlc.AddMailSaidParams{
				JobID: j.ID, Number: int64(i), BookingID: j.SubjectID, Receiver: m.To.Mail, Subject: m.Subject, Said: a.withoutLinks(m.Text), At: a.Now().Unix(),
			})
			if err != nil {
				return err
			}
		}
		return nil
	}, nil
}

var linkPattern = regexp.MustCompile(`/b/[A-Za-z0-9_-]+`)

// withoutLinks is a text without what only its receiver may open.
func (a *App) withoutLinks(text string) string {
	text = linkPattern.ReplaceAllString(text, "/b/…")
	return intake.FirstLetters(text, longestSaid)
}

// SaidLetters are the letters of one job of a booking, as they went out.
func (a *App) SaidLetters(ctx context.Context, p schedule.Person, booking, sent int64) ([]SaidLetter, error) {
	b, err := a.anyBooking(ctx, a.Store.Queries, p, booking)
	if err != nil {
		return nil, err
	}
	rows, err := a.Store.MailSaid(ctx, sqlc.MailSaidParams{JobID: sent, BookingID: b.ID})
	if err != nil {
		return nil, err
	}
	if len(rows) == 0 {
		return nil, errNoSuchMessage
	}
	known := append(formOf(b.Booking).Guests, b.ClientMail)
	out := make([]SaidLetter, len(rows))
	for i, row := range rows {
		out[i] = SaidLetter{Number: row.Number, Subject: row.Subject, Text: row.Said, At: time.Unix(row.At, 0).UTC()}
		if slices.ContainsFunc(known, func(mail string) bool { return strings.EqualFold(mail, row.Receiver) }) {
			out[i].To = row.Receiver
		}
	}
	return out, nil
}
