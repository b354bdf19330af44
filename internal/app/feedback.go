package app

import (
	"context"
	"strings"
	"time"

	"corrim/core/intake"
	"corrim/core/life"
	"corrim/core/told"
	"corrim/internal/refusal"
	"corrim/internal/store/sqlc"
)

// Feedback is what a client said of a meeting.
type Feedback struct {
	Rating int    `json:"rating" doc:"1 to 5; 5 is best."`
	Remark string `json:"remark,omitempty"`
}

// ratable is how long after a meeting its client can say how it was.
const ratable = 90 * 24 * time.Hour

// mayRate tells whether a client can say how a meeting was: once it is over, if its messages ask that, and unless they are marked as
// missing.
func (a *App) mayRate(ctx context.Context, q *sqlc.Queries, workspace int64, b sqlc.Booking) (bool, error) {
	there := b.Life == string(life.Booked) || b.Life == string(life.Attended)
	over := time.Unix(b.EndAt, 0)
	if !there || a.Now().Before(over) || a.Now().After(over.Add(ratable)) {
		return false, nil
	}
	m, err := messagesHeld(ctx, q, workspace, b.TypeID)
	if err != nil {
		return false, err
	}
	for _, r := range m.Rules {
		if r.Asks {
			return true, nil
		}
	}
	return false, nil
}

// SetFollowUps ends what the client gets after meetings of the workspace, or lets it come again.
func (a *App) SetFollowUps(ctx context.Context, link string, wanted bool) (ClientBooking, error) {
	err := a.Store.Write(ctx, func(q *sqlc.Queries) error {
		b, err := a.ByLink(ctx, q, link)
		if err != nil {
			return err
		}
		host, err := q.Person(ctx, b.HostID)
		if err != nil {
			return err
		}
		if wanted {
			return q.JoinFollowUps(ctx, sqlc.JoinFollowUpsParams{WorkspaceID: host.WorkspaceID, Mail: b.ClientMail})
		}
		return q.LeaveFollowUps(ctx, sqlc.LeaveFollowUpsParams{WorkspaceID: host.WorkspaceID, Mail: b.ClientMail, At: a.Now().Unix()})
	})
	if err != nil {
		return ClientBooking{}, err
	}
	return a.BookingByLink(ctx, link)
}

// Rate keeps what a client says of a meeting, once.
func (a *App) Rate(ctx context.Context, link string, said Feedback) (ClientBooking, error) {
	said.Remark = intake.AsWritten(strings.TrimSpace(said.Remark))
	wrong := refusal.Complaints{}
	if said.Rating < 1 || said.Rating > 5 {
		wrong.Add("rating", told.NoRating.Words())
	}
	if len([]rune(said.Remark)) > 4000 {
		wrong.Add("remark", told.LongRemark.Words())
	}
	if len(wrong) > 0 {
		return ClientBooking{}, wrong.Err()
	}
	err := a.Store.Write(ctx, func(q *sqlc.Queries) error {
		b, err := a.ByLink(ctx, q, link)
		if err != nil {
			return err
		}
		given, err := q.FeedbackOf(ctx, []int64{b.ID})
		if err != nil {
			return err
		}
		if len(given) > 0 {
			return refusal.New(refusal.Over, told.Rated.Words())
		}
		row, err := q.MeetingType(ctx, b.TypeID)
		if err != nil {
			return err
		}
		may, err := a.mayRate(ctx, q, row.WorkspaceID, b)
		if err != nil {
			return err
		}
		if !may {
			return refusal.New(refusal.Over, told.NotRated.Words())
		}
		return q.AddFeedback(ctx, sqlc.AddFeedbackParams{BookingID: b.ID, TypeID: b.TypeID, HostID: b.HostID, Rating: int64(said.Rating), Remark: said.Remark, GivenAt: a.Now().Unix()})
	})
	if err != nil {
		return ClientBooking{}, err
	}
	return a.BookingByLink(ctx, link)
}

// feedbackOf is what clients said of bookings, by their IDs.
func (a *App) feedbackOf(ctx context.Context, bookings ...int64) (map[int64]*Feedback, error) {
	out := map[int64]*Feedback{}
	rows, err := a.Store.FeedbackOf(ctx, bookings)
	for _, row := range rows {
		out[row.BookingID] = &Feedback{int(row.Rating), row.Remark}
	}
	return out, err
}
