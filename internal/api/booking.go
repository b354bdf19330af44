package api

import (
	"context"
	"net/http"
	"strconv"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"

	"corrim/internal/app"
	"corrim/internal/schedule"
)

type withWord struct {
	ByID
	Body struct {
		Word string `json:"word,omitempty" maxLength:"10000" doc:"What the host writes to the client."`
	}
}

type cancelling struct {
	ByID
	Body struct {
		Word string `json:"word,omitempty" maxLength:"10000" doc:"What the host writes to the client."`
		Rest bool   `json:"rest,omitempty" doc:"With what comes after it: of the client's seats that were taken with it at one go; of the series, for all."`
	}
}

// bookingOperations are what a host can do about a booking of theirs.
func (s *server) bookingOperations(api huma.API) {
	operation(s, api, http.MethodPost, "/host-bookings/{id}/cancel", "cancel-by-host", "Cancel a booking and tell the client", forHost(s, func(ctx context.Context, p schedule.Person, in *cancelling) (app.Today, error) {
		return s.app.CancelByHost(ctx, p, in.ID, in.Body.Word, in.Body.Rest)
	}))
	operation(s, api, http.MethodPost, "/host-bookings/{id}/cancel-for-all", "cancel-for-all", "Cancel a meeting that clients share, and tell each of them", forHost(s, func(ctx context.Context, p schedule.Person, in *cancelling) (app.Today, error) {
		return s.app.CancelForAll(ctx, p, in.ID, in.Body.Word, in.Body.Rest)
	}))
	operation(s, api, http.MethodPost, "/host-bookings/{id}/write-to-all", "write-to-all", "Mail everybody who has a seat in a meeting", forHost(s, func(ctx context.Context, p schedule.Person, in *withWord) (app.BookingSheet, error) {
		return s.app.WriteToAll(ctx, p, in.ID, in.Body.Word)
	}))
	operation(s, api, http.MethodPost, "/host-bookings/{id}/ask", "ask-to-choose-again", "Ask the client to choose another time", forHost(s, func(ctx context.Context, p schedule.Person, in *withWord) (app.Today, error) {
		return s.app.AskToChooseAgain(ctx, p, in.ID, in.Body.Word)
	}))
	type waiting struct {
		ByID
		Rule int64 `path:"rule" doc:"The number of the message."`
	}
	operation(s, api, http.MethodPost, "/host-bookings/{id}/messages/{rule}", "send-message-now", "Send a message at once that the clock would send later", forHost(s, func(ctx context.Context, p schedule.Person, in *waiting) (app.BookingSheet, error) {
		return s.app.SendNow(ctx, p, in.ID, in.Rule)
	}))
	operation(s, api, http.MethodGet, "/host-bookings/{id}/sent/{job}", "sent-letters", "The mails of a message about a booking, as they went out", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		ByID
		Job int64 `path:"job"`
	}) ([]app.SaidLetter, error) {
		return s.app.SaidLetters(ctx, p, in.ID, in.Job)
	}))
	operation(s, api, http.MethodPost, "/host-bookings/{id}/sent/{job}", "send-again", "Send a message about a booking once more", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		ByID
		Job int64 `path:"job"`
	}) (app.BookingSheet, error) {
		return s.app.SendAgain(ctx, p, in.ID, in.Job)
	}))
	operation(s, api, http.MethodDelete, "/host-bookings/{id}/messages/{rule}", "leave-message-out", "Let the clock not send a message about a booking", forHost(s, func(ctx context.Context, p schedule.Person, in *waiting) (app.BookingSheet, error) {
		return s.app.LeaveOut(ctx, p, in.ID, in.Rule)
	}))
	operation(s, api, http.MethodPost, "/host-bookings/{id}/move", "move-by-hand", "Move a booking and tell the client", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		ByID
		Body app.HandMove
	}) (done, error) {
		return done{true}, s.app.MoveByHand(ctx, p, in.ID, in.Body)
	}))
	operation(s, api, http.MethodGet, "/host-bookings/{id}/targets", "targets", "Where a booking could be, on the days that the board shows", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		ByID
		Days
	}) ([]app.OpenTargets, error) {
		return s.app.Targets(ctx, p, in.ID, in.board())
	}))
	operation(s, api, http.MethodPost, "/host-bookings/{id}/targets/check", "check-target", "Whether a booking could be moved to a target, and why not", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		ByID
		Body app.Target
	}) (app.TargetSays, error) {
		return s.app.CheckTarget(ctx, p, in.ID, in.Body)
	}))
	operation(s, api, http.MethodGet, "/host-bookings/{id}/takers", "takers", "To whom a booking could be handed over", forHost(s, func(ctx context.Context, p schedule.Person, in *ByID) ([]app.Taker, error) {
		return s.app.Takers(ctx, p, in.ID)
	}))
	operation(s, api, http.MethodPost, "/host-bookings/{id}/hand", "hand-to", "Hand a booking over to a colleague", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		ByID
		Body struct {
			Person  int64 `json:"person"`
			Outside bool  `json:"outside,omitempty" doc:"What speaks against it was told, and it is wanted anyway."`
		}
	}) (done, error) {
		return done{true}, s.app.HandTo(ctx, p, in.ID, in.Body.Person, in.Body.Outside)
	}))
	operation(s, api, http.MethodPost, "/host-bookings/{id}/keep", "keep-both", "Let a booking and the events over it stand", forHost(s, func(ctx context.Context, p schedule.Person, in *ByID) (app.Today, error) {
		return s.app.KeepBoth(ctx, p, in.ID)
	}))
	operation(s, api, http.MethodPost, "/host-bookings/{id}/move-along", "move-along", "Move a booking to where its event was moved", forHost(s, func(ctx context.Context, p schedule.Person, in *ByID) (app.Today, error) {
		return s.app.MoveAlong(ctx, p, in.ID)
	}))
	operation(s, api, http.MethodPost, "/host-bookings/{id}/room", "make-room", "Ask for a booking's video room now", forHost(s, func(ctx context.Context, p schedule.Person, in *ByID) (app.Today, error) {
		return s.app.MakeRoomNow(ctx, p, in.ID)
	}))
	operation(s, api, http.MethodPost, "/host-bookings/{id}/put-back", "put-back", "Write a booking's event into the calendar again", forHost(s, func(ctx context.Context, p schedule.Person, in *ByID) (app.Today, error) {
		return s.app.PutBack(ctx, p, in.ID)
	}))
}

// participantsFile sends a host who has a seat in a meeting, as CSV.
func (s *server) participantsFile(w http.ResponseWriter, r *http.Request) {
	text, err := func() ([]byte, error) {
		person, err := s.signedIn(r.Context())
		if err != nil {
			return nil, err
		}
		id, _ := strconv.ParseInt(chi.URLParam(r, "id"), 10, 64) // 0 is no booking
		return s.app.ParticipantsFile(r.Context(), person, id)
	}()
	s.file(w, r, "text/csv; charset=utf-8; header=present", "participants.csv", text, err)
}
