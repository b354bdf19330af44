package app

import (
	"context"
	"encoding/json"
	"errors"
	"time"

	words "corrim/core/message"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/job"
	"corrim/internal/letter"
	"corrim/internal/schedule"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// Mail that is about no booking goes through the store as that about bookings does: written in the transaction of what it is about,
// sent by the worker, tried again, and its sender told if it can't be sent.

// notify tells somebody about their account.
func (a *App) notify(ctx context.Context, q *sqlc.Queries, n identity.Notice) error {
	m := mailOf(letter.Write(words.In(n.To.Language), n.Kind, nil, a.BaseURL+n.Path, n.Told))
	to := schedule.Address{Name: n.To.Name, Mail: n.To.Mail}
	m.ID, m.FromName, m.To, m.ReplyTo = n.ID, n.To.WorkspaceName(), to, to
	return a.post(ctx, q, 0, m)
}

// post writes a letter down; person is who is told if it can't be sent, 0 for nobody.
func (a *App) post(ctx context.Context, q *sqlc.Queries, person int64, m Mail) error {
	text, err := json.Marshal(m)
	if err != nil {
		return err
	}
	now := a.Now()
	id, err := q.AddLetter(ctx, sqlc.AddLetterParams{
		PersonID: store.NullID(person), Receiver: m.To.Mail, Subject: m.Subject, Sealed: a.secrets.SealLetter(text), CreatedAt: now.Unix(),
	})
	if err != nil {
		return err
	}
	_, err = job.Plan(ctx, q, now, job.Keyed(job.New{Kind: jobLetter, Lane: laneMail, Subject: subjectLetter, SubjectID: id, Due: now}))
	return err
}

// deliver sends one letter.
func (a *App) deliver(ctx context.Context, j sqlc.Job) (job.Ending, error) {
	l, err := a.Store.Letter(ctx, j.SubjectID)
	if errors.Is(err, store.ErrNotFound) {
		return nil, job.ErrDropped // whom it was about has gone, and it with them
	}
	if err != nil {
		return nil, err
	}
	if err := a.sendLetter(ctx, l); err != nil {
		return nil, err
	}
	return func(ctx context.Context, q *sqlc.Queries) error {
		return q.EndLetter(ctx, sqlc.EndLetterParams{ID: l.ID, State: "done"})
	}, nil
}

func loseLetter(ctx context.Context, q *sqlc.Queries, j sqlc.Job, trouble string) error {
	return q.EndLetter(ctx, sqlc.EndLetterParams{ID: j.SubjectID, State: "failed", Trouble: trouble})
}

func (a *App) sendLetter(ctx context.Context, l sqlc.Letter) error {
	text, err := a.secrets.OpenLetter(l.Sealed)
	if err != nil {
		return errors.New("the letter can't be read any more")
	}
	var m Mail
	if err := json.Unmarshal(text, &m); err != nil {
		return err
	}
	return a.send(ctx, m)
}

// lettersFor is how long letters that could not be sent are shown.
const lettersFor = 7 * 24 * time.Hour

// letterTroubles are the letters of a person that could not be sent.
func (a *App) letterTroubles(ctx context.Context, p schedule.Person) ([]schedule.Trouble, error) {
	rows, err := a.Store.LettersInTrouble(ctx, sqlc.LettersInTroubleParams{PersonID: store.NullID(p.ID), Since: a.Now().Add(-lettersFor).Unix()})
	out, waiting := []schedule.Trouble{}, []string{}
	for _, row := range rows {
		switch {
		case row.State == "failed":
			out = append(out, schedule.Trouble{Title: told.Say("letter-never", "Mail to {} could not be sent", row.Receiver), Sentence: told.Say("letter-given-up", "“{}”: {} It was given up; tell them yourself.", row.Subject, told.FromStored(row.Trouble))})
		case row.Away == 1:
			waiting = append(waiting, row.Receiver)
		default:
			out = append(out, schedule.Trouble{Title: told.Say("letter-not-yet", "Mail to {} could not be sent yet", row.Receiver), Sentence: told.Say("letter-tried-again", "“{}”: {} It will be tried again.", row.Subject, told.FromStored(row.Trouble))})
		}
	}
	if len(waiting) > 0 { // one cause, one line
		out = append(out, schedule.Trouble{Title: told.Say("letters-wait", "Mail to {} waits", told.List(waiting)), Sentence: told.Say("mail-server-silent", "The mail server doesn't answer. It goes out as soon as it does.")})
	}
	return out, err
}
