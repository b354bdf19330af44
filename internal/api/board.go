package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"corrim/internal/app"
	"corrim/internal/schedule"
)

// done answers what changes something and has nothing to tell.
type done struct {
	Done bool `json:"done"`
}

// Days are the days that the board shows.
type Days struct {
	From      string `query:"from" required:"true" maxLength:"10"`
	Days      int    `query:"days" minimum:"1" maximum:"31" default:"7"`
	Everybody bool   `query:"everybody"`
	Person    int64  `query:"person" doc:"Of a colleague; one's own if left out."`
	Team      int64  `query:"team" doc:"Of everybody, only a team's."`
	Skip      int    `query:"skip" minimum:"0" doc:"Of everybody, how many come before: some 30 are shown at once."`
}

func (d Days) board() app.BoardDays {
	whose := d.Person
	if d.Everybody {
		whose = app.Everybodys
	}
	return app.BoardDays{From: d.From, Days: d.Days, Whose: whose, Team: d.Team, Skip: d.Skip}
}

func (s *server) boardOperations(api huma.API) {
	operation(s, api, http.MethodGet, "/board", "board", "Days of the host, or one day of everybody", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		Days
		Opening int64 `query:"opening" doc:"The meeting type whose open starts are shown."`
	}) (app.Board, error) {
		return s.app.Board(ctx, p, in.board(), in.Opening)
	}))
	operation(s, api, http.MethodGet, "/board/skyline", "board-skyline", "How many bookings the board has on each of 28 days", forHost(s, func(ctx context.Context, p schedule.Person, in *Days) ([]int, error) {
		return s.app.BoardSkyline(ctx, p, in.board())
	}))
	operation(s, api, http.MethodPost, "/blocks", "add-block", "Block time", forHost(s, func(ctx context.Context, p schedule.Person, in *struct{ Body app.NewBlock }) (done, error) {
		return done{true}, s.app.AddBlock(ctx, p, in.Body)
	}))
	operation(s, api, http.MethodDelete, "/blocks/{id}", "remove-block", "Give blocked time free", forHost(s, func(ctx context.Context, p schedule.Person, in *ByID) (done, error) {
		return done{true}, s.app.RemoveBlock(ctx, p, in.ID)
	}))
	operation(s, api, http.MethodGet, "/known-clients", "known-clients", "Who has booked with the host before", forHost(s, func(ctx context.Context, p schedule.Person, _ *nothing) ([]app.KnownClient, error) {
		return s.app.KnownClients(ctx, p)
	}))
	operation(s, api, http.MethodPost, "/host-bookings/check", "check-by-hand", "The times that would be booked, each checked", forHost(s, func(ctx context.Context, p schedule.Person, in *struct{ Body app.HandTimes }) ([]app.HandTime, error) {
		return s.app.CheckByHand(ctx, p, in.Body)
	}))
	operation(s, api, http.MethodPost, "/host-bookings", "book-by-hand", "Book for a client", forHost(s, func(ctx context.Context, p schedule.Person, in *struct{ Body app.HandBooking }) (app.Made, error) {
		return s.app.BookByHand(ctx, p, in.Body)
	}))
	operation(s, api, http.MethodGet, "/host-bookings/{id}", "booking-sheet", "Everything about a booking, for those who may handle it", forHost(s, func(ctx context.Context, p schedule.Person, in *ByID) (app.BookingSheet, error) {
		return s.app.BookingSheet(ctx, p, in.ID)
	}))
}
