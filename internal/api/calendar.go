package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"corrim/internal/app"
)

func (s *server) calendarOperations(api huma.API) {
	type list = []app.Calendar
	operation(s, api, http.MethodGet, "/calendars", "calendars", "The host's calendars", forHost(s, func(ctx context.Context, p app.Person, _ *nothing) (list, error) {
		return s.app.Calendars(ctx, p)
	}))
	operation(s, api, http.MethodPost, "/calendars/read", "read-calendars", "Read all calendars now", forHost(s, func(ctx context.Context, p app.Person, _ *nothing) (list, error) {
		return s.app.ReadCalendars(ctx, p)
	}))
	operation(s, api, http.MethodPost, "/calendar-accounts", "connect-calendars", "Connect the calendars of an account", forHost(s, func(ctx context.Context, p app.Person, in *struct{ Body app.Account }) (list, error) {
		return s.app.Connect(ctx, p, in.Body)
	}))
	operation(s, api, http.MethodDelete, "/calendar-accounts/{id}", "disconnect-calendars", "Forget an account and its calendars", forHost(s, func(ctx context.Context, p app.Person, in *ByID) (list, error) {
		return s.app.Disconnect(ctx, p, in.ID)
	}))
	operation(s, api, http.MethodPut, "/calendars/{id}", "use-calendar", "What a calendar is used for", forHost(s, func(ctx context.Context, p app.Person, in *struct {
		ByID
		Body struct {
			Blocks   bool `json:"blocks"`
			Receives bool `json:"receives"`
		}
	}) (list, error) {
		return s.app.UseCalendar(ctx, p, in.ID, in.Body.Blocks, in.Body.Receives)
	}))
}
