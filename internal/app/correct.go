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
	"corrim/internal/schedule"
	"corrim/internal/store/sqlc"
)

// Correctable is what a client can correct of what they wrote, and how it stands.
type Correctable struct {
	Questions []intake.Question   `json:"questions" doc:"As they are put today, without files and terms."`
	Said      map[string][]string `json:"said" doc:"By the question's ID."`
	Asks      string              `json:"asks" enum:"number,address,nothing" doc:"What the way of meeting asks for."`
	Given     string              `json:"given"`
}

// correctable is nil if nothing can be corrected, or not any more.
func (a *App) correctable(b sqlc.Booking, o schedule.Bookable) *Correctable {
	if _, err := a.nextOf(b, byClient(string(life.Correct), "")); err != nil || a.tooLateToCorrect(b, o) {
		return nil
	}
	form := formOf(b)
	c := Correctable{Questions: schedule.CorrectableOf(o.BookingPage.Questions), Said: map[string][]string{}, Asks: "nothing", Given: form.Way.Given}
	for _, answer := range form.Said {
		c.Said[answer.ID] = answer.Values
	}
	switch {
	case form.Way.WhoCalls() == schedule.CallsHost:
		c.Asks = "number"
	case form.Way.Kind == schedule.WayTheirs:
		c.Asks = "address"
	}
	return &c
}

func (a *App) tooLateToCorrect(b sqlc.Booking, o schedule.Bookable) bool {
	until := o.BookingPage.CorrectUntil
	return until < 0 || a.Now().Unix() > b.StartAt-int64(until)*60
}

// Correct puts what the client writes now in the place of what they wrote before, and tells whoever hosts the meeting.
func (a *App) Correct(ctx context.Context, link string, c schedule.Correction) (ClientBooking, error) {
	err := a.change(ctx, link, byClient(string(life.Correct), ""), func(q *sqlc.Queries, b sqlc.Booking, s *step) (bool, error) {
		o, err := a.BookedType(ctx, q, b)
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
		after, remark, err := o.Corrected(before, c)
		if err != nil {
			return false, err
		}
		if s.note = changesOf(b, before, after, remark); s.note == "" {
			return false, nil // sent twice, or nothing to do
		}
		way, err := json.Marshal(after.Way)
		if err != nil {
			return false, err
		}
		said, err := json.Marshal(after.Said)
		if err != nil {
			return false, err
		}
		if !schedule.Shared(b) { // else it is everybody's
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

// changesOf names what is different, for whoever hosts the meeting; empty if nothing is.
func changesOf(b sqlc.Booking, before, after schedule.FilledForm, remark string) string {
	var changed []string
	if before.Way.Given != after.Way.Given {
		word, _ := after.Way.Where(words.In("en"), true)
		changed = append(changed, word)
	}
	texts := func(said []intake.Answer) map[string]intake.Answer {
		out := map[string]intake.Answer{}
		for _, answer := range said {
			out[answer.ID] = answer
		}
		return out
	}
	was, is := texts(before.Said), texts(after.Said)
	for _, answer := range append(slices.Clone(after.Said), before.Said...) {
		if was[answer.ID].Text() != is[answer.ID].Text() && !slices.Contains(changed, answer.Label) {
			changed = append(changed, answer.Label)
		}
	}
	if b.Remark != remark {
		changed = append(changed, "Remark")
	}
	return strings.Join(changed, " · ")
}
