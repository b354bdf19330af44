package app

import (
	"context"
	"encoding/json"
	"slices"
	"strings"

	"corrim/core/intake"
	"corrim/core/life"
	words "corrim/core/message"
	"corrim/core/told"
	"corrim/internal/refusal"
	"corrim/internal/store/sqlc"
)

// Correctable is what a client can correct of what they wrote, and how it stands.
type Correctable struct {
	Questions []intake.Question   `json:"questions" doc:"As they are put today, without files and terms."`
	Said      map[string][]string `json:"said" doc:"By the question's ID."`
	Asks      string              `json:"asks" enum:"number,address,nothing" doc:"What the way of meeting asks for."`
	Given     string              `json:"given"`
}

// Correction is what a client writes instead.
type Correction struct {
	Said   intake.Given `json:"said"`
	Given  string       `json:"given,omitempty" maxLength:"10000"`
	Remark string       `json:"remark,omitempty" maxLength:"20000"`
}

// correctable is nil if nothing can be corrected, or not any more.
func (a *App) correctable(b sqlc.Booking, o offered) *Correctable {
	if _, err := a.nextOf(b, byClient(string(life.Correct), "")); err != nil || a.tooLateToCorrect(b, o) {
		return nil
	}
	form := formOf(b)
	c := Correctable{Questions: correctableOf(o.Offer.Questions), Said: map[string][]string{}, Asks: "nothing", Given: form.way.Given}
	for _, answer := range form.said {
		c.Said[answer.ID] = answer.Values
	}
	switch {
	case form.way.calls() == callsHost:
		c.Asks = "number"
	case form.way.Kind == wayTheirs:
		c.Asks = "address"
	}
	return &c
}

func (a *App) tooLateToCorrect(b sqlc.Booking, o offered) bool {
	until := o.Offer.CorrectUntil
	return until < 0 || a.Now().Unix() > b.StartAt-int64(until)*60
}

// correctableOf leaves out what was given once and for all: a file, and what was agreed to.
func correctableOf(questions []intake.Question) []intake.Question {
	out := []intake.Question{}
	for _, q := range questions {
		if q.Kind != intake.File && q.Kind != intake.Terms {
			out = append(out, q)
		}
	}
	return out
}

// Correct puts what the client writes now in the place of what they wrote before, and tells whoever hosts the meeting.
func (a *App) Correct(ctx context.Context, link string, c Correction) (ClientBooking, error) {
	err := a.change(ctx, link, byClient(string(life.Correct), ""), func(q *sqlc.Queries, b sqlc.Booking, s *step) (bool, error) {
		o, err := a.offeredBy(ctx, q, b)
		if err != nil {
			return false, err
		}
		if a.tooLateToCorrect(b, o) {
			return false, refusal.New(refusal.Over, told.CorrectLate.Words())
		}
		if o, err = askedOf(ctx, q, b, o); err != nil {
			return false, err
		}
		before := formOf(b)
		after, remark, err := o.corrected(before, c)
		if err != nil {
			return false, err
		}
		if s.note = changesOf(b, before, after, remark); s.note == "" {
			return false, nil // sent twice, or nothing to do
		}
		way, err := json.Marshal(after.way)
		if err != nil {
			return false, err
		}
		said, err := json.Marshal(after.said)
		if err != nil {
			return false, err
		}
		if !shared(b) { // else it is everybody's
			if err := q.SetWay(ctx, sqlc.SetWayParams{MeetingID: b.MeetingID, Way: string(way)}); err != nil {
				return false, err
			}
		}
		if err := q.CorrectSeat(ctx, sqlc.CorrectSeatParams{ID: b.ID, Said: string(said), Remark: remark}); err != nil {
			return false, err
		}
		return true, raise(ctx, q, b, true)
	})
	if err != nil {
		return ClientBooking{}, err
	}
	return a.BookingByLink(ctx, link)
}

// corrected is the form as the client wants it now. Answers to what is not asked any more stay as they are.
func (o offered) corrected(before filledForm, c Correction) (after filledForm, remark string, err error) {
	wrong := refusal.Complaints{}
	after = before
	after.way = o.withGiven(before.way.Way, c.Given, wrong)
	questions := correctableOf(o.Offer.Questions)
	said, faults := intake.Check(questions, c.Said, o.host.home.Front.Country)
	for id, fault := range faults {
		wrong.Add("said."+id, fault)
	}
	after.said = said
	for _, answer := range before.said {
		if !slices.ContainsFunc(questions, func(q intake.Question) bool { return q.ID == answer.ID }) {
			after.said = append(after.said, answer)
		}
	}
	if remark = intake.AsWritten(c.Remark); len([]rune(remark)) > longestRemark {
		wrong.Add("remark", told.LongRemark.Words())
	}
	return after, remark, wrong.Err()
}

// changesOf names what is different, for whoever hosts the meeting; empty if nothing is.
func changesOf(b sqlc.Booking, before, after filledForm, remark string) string {
	var changed []string
	if before.way.Given != after.way.Given {
		word, _ := after.way.where(words.In("en"), true)
		changed = append(changed, word)
	}
	texts := func(said []intake.Answer) map[string]intake.Answer {
		out := map[string]intake.Answer{}
		for _, answer := range said {
			out[answer.ID] = answer
		}
		return out
	}
	was, is := texts(before.said), texts(after.said)
	for _, answer := range append(slices.Clone(after.said), before.said...) {
		if was[answer.ID].Text() != is[answer.ID].Text() && !slices.Contains(changed, answer.Label) {
			changed = append(changed, answer.Label)
		}
	}
	if b.Remark != remark {
		changed = append(changed, "Remark")
	}
	return strings.Join(changed, " · ")
}
