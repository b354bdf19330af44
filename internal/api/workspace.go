package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"corrim/internal/app"
)

func (s *server) workspaceOperations(api huma.API) {
	type settings struct{ Body app.Workspace }
	operation(s, api, http.MethodGet, "/workspace", "workspace", "The workspace's settings", forHost(s, func(ctx context.Context, p app.Person, _ *nothing) (app.WorkspaceView, error) {
		return s.app.Workspace(ctx, p)
	}))
	operation(s, api, http.MethodPost, "/workspace/preview", "try-workspace", "What unsaved settings do to everybody's meeting types", forHost(s, func(ctx context.Context, p app.Person, in *settings) (app.WorkspaceTrial, error) {
		return s.app.TryWorkspace(ctx, p, in.Body)
	}))
	operation(s, api, http.MethodPut, "/workspace", "save-workspace", "Save the workspace's settings", forHost(s, func(ctx context.Context, p app.Person, in *settings) (app.WorkspaceView, error) {
		return s.app.SaveWorkspace(ctx, p, in.Body)
	}))
}
