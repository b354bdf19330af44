package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"corrim/internal/app"
	"corrim/internal/schedule"
	"corrim/internal/undo"
)

// ByID names something by its number.
type ByID struct {
	ID int64 `path:"id" minimum:"1"`
}

func (s *server) hostOperations(api huma.API) {
	operation(s, api, http.MethodGet, "/find", "find", "What a search leads to, of all that the host may see", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		Search string `query:"search" maxLength:"200" doc:"First letters of words."`
	}) ([]app.Found, error) {
		return s.app.Find(ctx, p, in.Search)
	}))
	operation(s, api, http.MethodGet, "/today", "today", "What the host needs to know now", forHost(s, func(ctx context.Context, p schedule.Person, _ *nothing) (app.Today, error) {
		return s.app.Today(ctx, p)
	}))
	operation(s, api, http.MethodGet, "/history", "history", "The host's last changes of settings", forHost(s, func(ctx context.Context, p schedule.Person, _ *nothing) ([]undo.SettingChange, error) {
		return s.app.History(ctx, p)
	}))
	operation(s, api, http.MethodPost, "/history/undo", "undo", "Undo the host's last change of settings", forHost(s, func(ctx context.Context, p schedule.Person, _ *nothing) ([]undo.SettingChange, error) {
		return s.app.Undo(ctx, p)
	}))
	s.boardOperations(api)
	s.bookingOperations(api)
	s.hoursOperations(api)
	s.workspaceOperations(api)
	s.calendarOperations(api)
	s.typeOperations(api)
	s.groupSessionOperations(api)
	s.shareOperations(api)
	s.offerOperations(api)
	s.requestOperations(api)
	s.clientOperations(api)
	s.offersOperations(api)
	s.staffOperations(api)
	s.routingOperations(api)
}
