package api

import (
	"context"
	"net/http"
	"strconv"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"

	"corrim/internal/app"
)

// ByID names something by its number.
type ByID struct {
	ID int64 `path:"id" minimum:"1"`
}

type weekInput struct {
	Body struct {
		Week [7]app.DayInput `json:"week" doc:"Monday first."`
	}
}

// TypeInput is a meeting type as the editor sends it.
type TypeInput struct {
	Body app.TypeDraft
}

type typeByID struct {
	ByID
	TypeInput
}

func (s *server) hostOperations(api huma.API) {
	operation(s, api, http.MethodGet, "/today", "today", "What the host needs to know now", forHost(s, func(ctx context.Context, p app.Person, _ *nothing) (app.Today, error) {
		return s.app.Today(ctx, p)
	}))
	operation(s, api, http.MethodGet, "/history", "history", "The host's last changes of settings", forHost(s, func(ctx context.Context, p app.Person, _ *nothing) ([]app.SettingChange, error) {
		return s.app.History(ctx, p)
	}))
	operation(s, api, http.MethodPost, "/history/undo", "undo", "Undo the host's last change of settings", forHost(s, func(ctx context.Context, p app.Person, _ *nothing) ([]app.SettingChange, error) {
		return s.app.Undo(ctx, p)
	}))
	s.hoursOperations(api)
	s.dayChangeOperations(api)
	s.calendarOperations(api)
	s.typeOperations(api)
}

func (s *server) hoursOperations(api huma.API) {
	operation(s, api, http.MethodGet, "/hours", "hours", "The host's week", forHost(s, func(_ context.Context, p app.Person, _ *nothing) (app.HoursView, error) {
		return s.app.Hours(p), nil
	}))
	operation(s, api, http.MethodPost, "/hours/preview", "preview-hours", "Read a week without saving it", forHost(s, func(ctx context.Context, p app.Person, in *weekInput) (app.HoursView, error) {
		return s.app.PreviewHours(ctx, p, in.Body.Week)
	}))
	operation(s, api, http.MethodPut, "/hours", "save-hours", "Save the host's week", forHost(s, func(ctx context.Context, p app.Person, in *weekInput) (app.HoursView, error) {
		return s.app.SaveHours(ctx, p, in.Body.Week)
	}))
}

func (s *server) dayChangeOperations(api huma.API) {
	type sentence struct {
		Body struct {
			Text string `json:"text" maxLength:"500" doc:"Like 14-16 May 10-13, 4 June closed."`
		}
	}
	operation(s, api, http.MethodPost, "/hours/differing/preview", "preview-day-changes", "Read a sentence about days that differ", forHost(s, func(_ context.Context, p app.Person, in *sentence) (app.DayChangeReading, error) {
		return s.app.ReadDayChanges(p, in.Body.Text), nil
	}))
	operation(s, api, http.MethodPost, "/hours/differing", "add-day-changes", "Keep what a sentence about days that differ says", forHost(s, func(ctx context.Context, p app.Person, in *sentence) (app.HoursView, error) {
		return s.app.AddDayChanges(ctx, p, in.Body.Text)
	}))
	operation(s, api, http.MethodDelete, "/hours/differing/{id}", "remove-day-change", "Take a change back", forHost(s, func(ctx context.Context, p app.Person, in *ByID) (app.HoursView, error) {
		return s.app.RemoveDayChange(ctx, p, in.ID)
	}))
}

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

func (s *server) typeOperations(api huma.API) {
	operation(s, api, http.MethodGet, "/types", "types", "The meeting types that the host offers", forHost(s, func(ctx context.Context, p app.Person, _ *nothing) ([]app.MeetingType, error) {
		return s.app.MeetingTypes(ctx, p)
	}))
	operation(s, api, http.MethodPost, "/types", "add-type", "Add a meeting type", forHost(s, func(ctx context.Context, p app.Person, in *TypeInput) (app.MeetingType, error) {
		return s.app.SaveMeetingType(ctx, p, 0, in.Body)
	}))
	operation(s, api, http.MethodPut, "/types/{id}", "save-type", "Save a meeting type", forHost(s, func(ctx context.Context, p app.Person, in *typeByID) (app.MeetingType, error) {
		return s.app.SaveMeetingType(ctx, p, in.ID, in.Body)
	}))
	operation(s, api, http.MethodGet, "/types/{id}/reasons/{date}", "reasons", "Why the times of a day are open or not, rule by rule", forHost(s, func(ctx context.Context, p app.Person, in *struct {
		ByID
		Date   string `path:"date" maxLength:"10"`
		Minute int    `query:"minute" minimum:"0" maximum:"1439" doc:"Of the host's wall clock, the time to be explained."`
	}) (app.Reasons, error) {
		return s.app.Reasons(ctx, p, in.ID, in.Date, in.Minute)
	}))
	operation(s, api, http.MethodPost, "/types/preview", "preview-type", "What a draft does to the coming days", forHost(s, func(ctx context.Context, p app.Person, in *struct {
		Saved int64 `query:"saved" doc:"The type that the draft is a change of; 0 for a new one."`
		TypeInput
	}) (app.TypePreview, error) {
		return s.app.PreviewMeetingType(ctx, p, in.Saved, in.Body)
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
