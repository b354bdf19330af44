package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"

	"corrim/internal/app"
	"corrim/internal/schedule"
	"corrim/internal/settings"
)

func (s *server) workspaceOperations(api huma.API) {
	type draft struct{ Body schedule.Workspace }
	operation(s, api, http.MethodGet, "/workspace", "workspace", "The workspace's settings", forHost(s, func(ctx context.Context, p schedule.Person, _ *nothing) (settings.WorkspaceView, error) {
		return s.app.Workspace(ctx, p)
	}))
	operation(s, api, http.MethodPost, "/workspace/preview", "try-workspace", "What unsaved settings do to everybody's meeting types", forHost(s, func(ctx context.Context, p schedule.Person, in *draft) (settings.WorkspaceTrial, error) {
		return s.app.TryWorkspace(ctx, p, in.Body)
	}))
	operation(s, api, http.MethodPut, "/workspace", "save-workspace", "Save the workspace's settings", forHost(s, func(ctx context.Context, p schedule.Person, in *draft) (settings.WorkspaceView, error) {
		return s.app.SaveWorkspace(ctx, p, in.Body)
	}))
	s.holidayOperations(api)
	s.messageOperations(api)
	operation(s, api, http.MethodPost, "/workspace/looks", "preview-looks", "Unsaved looks as a page would have them, colours corrected to be readable", forHost(s, func(_ context.Context, p schedule.Person, in *struct{ Body schedule.Looks }) (schedule.PageLooks, error) {
		return s.app.PreviewLooks(p, in.Body)
	}))
	operation(s, api, http.MethodGet, "/workspace/looks/draft", "tried-looks", "The looks that wait to be published", forHost(s, func(ctx context.Context, p schedule.Person, _ *nothing) (settings.LooksDraft, error) {
		return s.app.LooksTried(ctx, p)
	}))
	operation(s, api, http.MethodPut, "/workspace/looks/draft", "try-looks", "Keep looks without publishing them", forHost(s, func(ctx context.Context, p schedule.Person, in *struct{ Body schedule.Looks }) (settings.LooksDraft, error) {
		return s.app.TryLooks(ctx, p, in.Body)
	}))
	operation(s, api, http.MethodPost, "/workspace/pictures", "keep-picture", "Keep a picture for the workspace's pages", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		Body struct {
			Data []byte `json:"data" doc:"A PNG or JPEG, in base64."`
		}
	}) (settings.Picture, error) {
		return s.app.KeepPicture(ctx, p, in.Body.Data)
	}), takesFiles)
}

// holidayOperations look after the workspace's calendars of public holidays.
func (s *server) holidayOperations(api huma.API) {
	type calendar struct{ Body settings.HolidayFile }
	operation(s, api, http.MethodPost, "/workspace/holidays", "add-holidays", "Add a calendar of public holidays from an iCalendar file", forHost(s, func(ctx context.Context, p schedule.Person, in *calendar) (settings.WorkspaceView, error) {
		return s.app.AddHolidays(ctx, p, in.Body)
	}), takesFiles)
	operation(s, api, http.MethodPut, "/workspace/holidays/{id}", "renew-holidays", "Give a calendar of public holidays the days of another file", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		ByID
		Body settings.HolidayFile
	}) (settings.WorkspaceView, error) {
		return s.app.RenewHolidays(ctx, p, in.ID, in.Body)
	}), takesFiles)
	operation(s, api, http.MethodDelete, "/workspace/holidays/{id}", "remove-holidays", "Remove a calendar of public holidays that no rule names", forHost(s, func(ctx context.Context, p schedule.Person, in *ByID) (settings.WorkspaceView, error) {
		return s.app.RemoveHolidays(ctx, p, in.ID)
	}))
}

// OfType asks for what is a meeting type's, or the workspace's.
type OfType struct {
	Type int64 `query:"type" doc:"Whose; 0 is the workspace."`
}

// messageOperations are about what people are told: at once, and by the clock before and after meetings.
func (s *server) messageOperations(api huma.API) {
	type draft struct {
		OfType
		Body app.MessageDraft
	}
	type wish struct{ Body app.MessageWish }
	operation(s, api, http.MethodGet, "/messages", "messages", "What people are told, and what will be sent", forHost(s, func(ctx context.Context, p schedule.Person, in *OfType) (app.Messages, error) {
		return s.app.Messages(ctx, p, in.Type)
	}))
	operation(s, api, http.MethodPost, "/messages/preview", "try-messages", "What unsaved messages would send", forHost(s, func(ctx context.Context, p schedule.Person, in *draft) (app.MessagesAhead, error) {
		return s.app.TryMessages(ctx, p, in.Type, in.Body)
	}))
	operation(s, api, http.MethodPut, "/messages", "save-messages", "Save what people are told; a type's are its own from then on", forHost(s, func(ctx context.Context, p schedule.Person, in *draft) (app.Messages, error) {
		return s.app.SaveMessages(ctx, p, in.Type, in.Body)
	}))
	operation(s, api, http.MethodDelete, "/messages", "follow-messages", "Give a type the workspace's messages again", forHost(s, func(ctx context.Context, p schedule.Person, in *OfType) (app.Messages, error) {
		return s.app.FollowMessages(ctx, p, in.Type)
	}))
	operation(s, api, http.MethodPost, "/messages/letter", "show-message", "A message as somebody would get it", forHost(s, func(ctx context.Context, p schedule.Person, in *wish) (app.MessageShown, error) {
		return s.app.ShowMessage(ctx, p, in.Body)
	}))
	operation(s, api, http.MethodPost, "/messages/letter/send", "send-message-to-me", "Send a message as somebody would get it to oneself", forHost(s, func(ctx context.Context, p schedule.Person, in *wish) (done, error) {
		return done{true}, s.app.SendMessageToMe(ctx, p, in.Body)
	}))
}

// picture sends a picture, which never changes under its name.
func (s *server) picture(w http.ResponseWriter, r *http.Request) {
	data, media, err := s.app.Picture(r.Context(), chi.URLParam(r, "hash"))
	if err != nil {
		http.NotFound(w, r)
		return
	}
	w.Header().Set("Content-Type", media)
	w.Header().Set("Cache-Control", "public, max-age=31536000, immutable")
	_, _ = w.Write(data)
}
