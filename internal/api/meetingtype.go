package api

import (
	"context"
	"net/http"
	"strconv"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"

	"corrim/internal/schedule"
	"corrim/internal/settings"
)

// TypeInput is a meeting type as the editor sends it.
type TypeInput struct {
	Body schedule.TypeDraft
}

type newType struct {
	settings.Saving
	TypeInput
}

type typeByID struct {
	ByID
	settings.Saving
	TypeInput
}

func (s *server) typeOperations(api huma.API) {
	operation(s, api, http.MethodGet, "/types", "types", "The meeting types that the host offers, at most 100", forHost(s, func(ctx context.Context, p schedule.Person, in *settings.TypeFilter) (settings.TypeList, error) {
		return s.app.TypeList(ctx, p, *in)
	}))
	operation(s, api, http.MethodGet, "/types/facts", "type-facts", "Who hosts meeting types, and how much of each is really open", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		IDs []int64 `query:"id,explode" maxItems:"20"`
	}) ([]settings.TypeFacts, error) {
		return s.app.TypeFacts(ctx, p, in.IDs)
	}))
	operation(s, api, http.MethodGet, "/types/{id}", "type", "A meeting type", forHost(s, func(ctx context.Context, p schedule.Person, in *ByID) (schedule.MeetingType, error) {
		return s.app.MeetingType(ctx, p, in.ID)
	}))
	operation(s, api, http.MethodPost, "/types", "add-type", "Add a meeting type", forHost(s, func(ctx context.Context, p schedule.Person, in *newType) (schedule.MeetingType, error) {
		return s.app.SaveMeetingType(ctx, p, 0, in.Body, in.Saving)
	}))
	operation(s, api, http.MethodPut, "/types/{id}", "save-type", "Save a meeting type", forHost(s, func(ctx context.Context, p schedule.Person, in *typeByID) (schedule.MeetingType, error) {
		return s.app.SaveMeetingType(ctx, p, in.ID, in.Body, in.Saving)
	}))
	operation(s, api, http.MethodGet, "/types/{id}/reasons/{date}", "reasons", "Why the times of a day are open or not, rule by rule", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		ByID
		Date   string `path:"date" maxLength:"10"`
		Minute int    `query:"minute" minimum:"0" maximum:"1439" doc:"Of the host's wall clock, the time to be explained."`
		Length int    `query:"length" minimum:"0" doc:"One of the lengths; the one offered first if left out."`
		Host   int64  `query:"host" doc:"Which of its hosts; the one who asks, or the first, if left out."`
	}) (settings.Reasons, error) {
		return s.app.Reasons(ctx, p, in.ID, in.Date, in.Minute, in.Length, in.Host)
	}))
	operation(s, api, http.MethodPost, "/rules/example", "rule-example", "What a group of rules does to a made-up day", forHost(s, func(_ context.Context, _ schedule.Person, in *struct{ Body settings.ExampleOf }) (settings.RuleExample, error) {
		return s.app.RuleExample(in.Body)
	}))
	operation(s, api, http.MethodPost, "/types/preview", "preview-type", "What a draft does to the coming days", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		Saved int64 `query:"saved" doc:"The type that the draft is a change of; 0 for a new one."`
		Host  int64 `query:"host" doc:"One of its hosts; all as they are routed if left out."`
		TypeInput
	}) (settings.TypePreview, error) {
		return s.app.PreviewMeetingType(ctx, p, in.Saved, in.Body, in.Host)
	}))
}

// offerOperations are how meeting types meet their clients.
func (s *server) offerOperations(api huma.API) {
	type bookingPageByID struct {
		ByID
		Body settings.BookingPageChange
	}
	operation(s, api, http.MethodGet, "/types/{id}/booking-page", "booking-page", "What clients meet on a type’s booking page", forHost(s, func(ctx context.Context, p schedule.Person, in *ByID) (settings.BookingPageView, error) {
		return s.app.BookingPage(ctx, p, in.ID)
	}))
	operation(s, api, http.MethodPut, "/types/{id}/booking-page", "save-booking-page", "Save a type’s booking page", forHost(s, func(ctx context.Context, p schedule.Person, in *bookingPageByID) (settings.BookingPageView, error) {
		return s.app.SaveBookingPage(ctx, p, in.ID, in.Body)
	}))
	operation(s, api, http.MethodPost, "/types/{id}/booking-page/preview", "preview-booking-page", "An unsaved booking page as its clients would meet it", forHost(s, func(ctx context.Context, p schedule.Person, in *bookingPageByID) (settings.BookingPageView, error) {
		return s.app.PreviewBookingPage(ctx, p, in.ID, in.Body)
	}))
	operation(s, api, http.MethodPost, "/types/{id}/duplicate", "duplicate-type", "Make a copy of a meeting type, switched off", forHost(s, func(ctx context.Context, p schedule.Person, in *ByID) (schedule.MeetingType, error) {
		return s.app.DuplicateType(ctx, p, in.ID)
	}))
	operation(s, api, http.MethodDelete, "/types/{id}", "remove-type", "Remove a meeting type", forHost(s, func(ctx context.Context, p schedule.Person, in *ByID) ([]schedule.MeetingType, error) {
		return s.app.RemoveType(ctx, p, in.ID)
	}))
	operation(s, api, http.MethodPut, "/types/order", "order-types", "Put the meeting types into an order", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		Body struct {
			Order []int64 `json:"order" maxItems:"500"`
		}
	}) ([]schedule.MeetingType, error) {
		return s.app.OrderTypes(ctx, p, in.Body.Order)
	}))
}

// scenarioFile sends what the open times of a type depend on, for support.
func (s *server) scenarioFile(w http.ResponseWriter, r *http.Request) {
	text, err := func() ([]byte, error) {
		person, err := s.signedIn(r.Context())
		if err != nil {
			return nil, err
		}
		id, _ := strconv.ParseInt(chi.URLParam(r, "id"), 10, 64) // 0 is nobody's type
		return s.app.Scenario(r.Context(), person, id, chi.URLParam(r, "date"))
	}()
	s.file(w, r, "application/json", "scenario.json", text, err)
}
