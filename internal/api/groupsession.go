package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"corrim/core/told"
	"corrim/internal/app"
	"corrim/internal/schedule"
)

func (s *server) groupSessionOperations(api huma.API) {
	operation(s, api, http.MethodGet, "/types/{id}/group-sessions", "group-sessions", "A meeting type's sessions that are not over yet, at most 200", forHost(s, func(ctx context.Context, p schedule.Person, in *ByID) ([]app.GroupSession, error) {
		return s.app.GroupSessions(ctx, p, in.ID)
	}))
	operation(s, api, http.MethodGet, "/types/{id}/series", "series-of-type", "The sessions of a meeting type that were set together: the latest twelve, those gone by too", forHost(s, func(ctx context.Context, p schedule.Person, in *ByID) ([]app.GroupSeries, error) {
		return s.app.GroupSeries(ctx, p, in.ID)
	}))
	operation(s, api, http.MethodPost, "/group-sessions/check", "check-group-sessions", "The sessions that would be set, each with what stands in the way", forHost(s, func(ctx context.Context, p schedule.Person, in *struct{ Body app.SessionWish }) ([]app.HandTime, error) {
		return s.app.CheckGroupSessions(ctx, p, in.Body)
	}))
	operation(s, api, http.MethodPost, "/group-sessions/sentence", "session-sentence", "When drawn sessions are, in a sentence that can be set", forHost(s, func(ctx context.Context, p schedule.Person, in *struct{ Body app.DrawnSessions }) (told.Words, error) {
		return s.app.SessionSentence(ctx, p, in.Body)
	}))
	operation(s, api, http.MethodPost, "/group-sessions", "set-group-sessions", "Set sessions", forHost(s, func(ctx context.Context, p schedule.Person, in *struct{ Body app.NewSessions }) (app.Made, error) {
		return s.app.SetGroupSessions(ctx, p, in.Body)
	}))
	operation(s, api, http.MethodPost, "/host-bookings/{id}/takes-place", "takes-place", "Let a session take place to which few have signed up", forHost(s, func(ctx context.Context, p schedule.Person, in *ByID) (app.Today, error) {
		return s.app.TakesPlace(ctx, p, in.ID)
	}))
	operation(s, api, http.MethodPost, "/host-bookings/{id}/details", "set-details", "Say what is special about a session", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		ByID
		Body app.SessionDetails
	}) (app.BookingSheet, error) {
		return s.app.SetDetails(ctx, p, in.ID, in.Body)
	}))
	operation(s, api, http.MethodPost, "/host-bookings/{id}/seat-count", "set-seats", "Set how many seats a meeting has that clients share", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		ByID
		Body struct {
			Seats int `json:"seats"`
		}
	}) (app.BookingSheet, error) {
		return s.app.SetSeats(ctx, p, in.ID, in.Body.Seats)
	}))
	operation(s, api, http.MethodPost, "/host-bookings/{id}/seats", "seat-by-hand", "Give somebody a seat in a meeting that clients share", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		ByID
		Body app.NewSeat
	}) (app.BookingSheet, error) {
		return s.app.SeatByHand(ctx, p, in.ID, in.Body)
	}))
}
