package app

import (
	"context"
	"encoding/json"
	"errors"
	"time"

	"corrim/internal/store/sqlc"
)

// Mail that is about no booking goes through the store as that about bookings does: written in the transaction of what it is about,
// sent by the worker, tried again, and its sender told if it can't be sent.

// post writes a letter down; person is who is told if it can't be sent, 0 for nobody.
func (a *App) post(ctx context.Context, q *sqlc.Queries, person int64, m Mail) error {
	text, err := json.Marshal(m)
	if err != nil {
		return err
	}
	now := a.Now().Unix()
	return q.AddLetter(ctx, sqlc.AddLetterParams{
		PersonID: nullID(person), Receiver: m.To.Mail, Subject: m.Subject, Sealed: seal(a.secrets.keys[forLetters], text), DueAt: now, CreatedAt: now,
	})
}

// deliver sends one letter and writes down how it went.
func (a *App) deliver(ctx context.Context, l sqlc.Letter) error {
	outcome := a.sendLetter(ctx, l)
	now := a.Now()
	return a.Store.Write(context.WithoutCancel(ctx), func(q *sqlc.Queries) error {
		switch {
		case outcome == nil:
			return q.EndLetter(ctx, sqlc.EndLetterParams{ID: l.ID, State: "done"})
		case l.Attempts+1 >= mostAttempts:
			a.Log.Error("a letter was given up", "letter", l.ID)
			return q.EndLetter(ctx, sqlc.EndLetterParams{ID: l.ID, State: "failed", Trouble: outcome.Error()})
		}
		a.Log.Warn("a letter will be tried again", "letter", l.ID, "attempts", l.Attempts+1)
		return q.RetryLetter(ctx, sqlc.RetryLetterParams{ID: l.ID, Trouble: outcome.Error(), DueAt: now.Add(backOff(l.Attempts + 1)).Unix()})
	})
}

func (a *App) sendLetter(ctx context.Context, l sqlc.Letter) error {
	text, err := unseal(a.secrets.keys[forLetters], l.Sealed)
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
func (a *App) letterTroubles(ctx context.Context, p Person) ([]Trouble, error) {
	rows, err := a.Store.LettersInTrouble(ctx, sqlc.LettersInTroubleParams{PersonID: nullID(p.ID), Since: a.Now().Add(-lettersFor).Unix()})
	out := make([]Trouble, len(rows))
	for i, row := range rows {
		out[i] = Trouble{Title: "Mail to " + row.Receiver + " could not be sent yet", Sentence: "“" + row.Subject + "”: " + row.Trouble + " It will be tried again."}
		if row.State == "failed" {
			out[i].Sentence = "“" + row.Subject + "”: " + row.Trouble + " It was tried for a long time and given up; tell them yourself."
		}
	}
	return out, err
}
