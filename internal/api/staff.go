package api

import (
	"context"
	"errors"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"corrim/internal/app"
	"corrim/internal/schedule"
	"corrim/internal/settings"
)

// JoinPath names an invitation.
type JoinPath struct {
	Secret string `path:"secret" maxLength:"100"`
}

func (s *server) staffOperations(api huma.API) {
	operation(s, api, http.MethodGet, "/staff", "staff", "The people of the workspace, their teams, and who is invited", forHost(s, func(ctx context.Context, p schedule.Person, _ *nothing) (app.Staff, error) {
		return s.app.Staff(ctx, p)
	}))
	operation(s, api, http.MethodPut, "/staff/{id}", "change-person", "Change somebody of the workspace", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		ByID
		Body app.PersonChange
	}) (app.Staff, error) {
		if changes, err := s.app.ChangesRole(ctx, p, in.ID, in.Body.Role); err != nil || changes {
			if err = errors.Join(err, s.mustBeSure(ctx)); err != nil {
				return app.Staff{}, err
			}
		}
		return s.app.ChangePerson(ctx, p, in.ID, in.Body)
	}))
	operation(s, api, http.MethodDelete, "/staff/{id}", "remove-person", "Take somebody out of the workspace", forHost(s, sure(s, func(ctx context.Context, p schedule.Person, in *ByID) (app.Staff, error) {
		return s.app.RemovePerson(ctx, p, in.ID)
	})))
	operation(s, api, http.MethodPost, "/teams", "add-team", "Add a team", forHost(s, func(ctx context.Context, p schedule.Person, in *struct{ Body app.TeamChange }) (app.Staff, error) {
		return s.app.SaveTeam(ctx, p, 0, in.Body)
	}))
	operation(s, api, http.MethodPut, "/teams/{id}", "save-team", "Change a team", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		ByID
		Body app.TeamChange
	}) (app.Staff, error) {
		return s.app.SaveTeam(ctx, p, in.ID, in.Body)
	}))
	operation(s, api, http.MethodDelete, "/teams/{id}", "remove-team", "Remove a team", forHost(s, func(ctx context.Context, p schedule.Person, in *ByID) (app.Staff, error) {
		return s.app.RemoveTeam(ctx, p, in.ID)
	}))
	s.invitationOperations(api)
}

func (s *server) invitationOperations(api huma.API) {
	limit := through(s.limited(s.options.SignInsPerMinute))
	operation(s, api, http.MethodPost, "/invitations", "invite", "Invite somebody by mail", forHost(s, func(ctx context.Context, p schedule.Person, in *struct{ Body app.NewInvitation }) (app.Staff, error) {
		if in.Body.Role.SeesOthers() {
			if err := s.mustBeSure(ctx); err != nil {
				return app.Staff{}, err
			}
		}
		return s.app.Invite(ctx, p, in.Body)
	}), limit)
	operation(s, api, http.MethodDelete, "/invitations/{id}", "withdraw-invitation", "End an invitation that was not used yet", forHost(s, func(ctx context.Context, p schedule.Person, in *ByID) (app.Staff, error) {
		return s.app.WithdrawInvitation(ctx, p, in.ID)
	}))
	operation(s, api, http.MethodGet, "/join/{secret}", "invited", "An invitation, by its link", func(ctx context.Context, in *JoinPath) (app.Invited, error) {
		return s.app.Invited(ctx, in.Secret)
	})
	operation(s, api, http.MethodPost, "/join/{secret}", "join", "Take an invitation and sign in", func(ctx context.Context, in *struct {
		JoinPath
		Body app.Joining
	}) (Me, error) {
		person, err := s.app.Join(ctx, in.Secret, in.Body)
		if err != nil {
			return Me{}, err
		}
		return s.open(ctx, person)
	}, limit)
}

// routingOperations are how meeting types find their hosts, and how bookings are handed over.
func (s *server) routingOperations(api huma.API) {
	operation(s, api, http.MethodGet, "/types/{id}/routing", "routing", "How a meeting type finds its hosts, with what it will do and has done", forHost(s, func(ctx context.Context, p schedule.Person, in *ByID) (settings.RoutingView, error) {
		return s.app.TypeRouting(ctx, p, in.ID)
	}))
	operation(s, api, http.MethodPut, "/types/{id}/routing", "save-routing", "Save how a meeting type finds its hosts", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		ByID
		Body settings.RoutingChange
	}) (settings.RoutingView, error) {
		return s.app.SaveRouting(ctx, p, in.ID, in.Body)
	}))
	operation(s, api, http.MethodPost, "/types/{id}/routing/preview", "preview-routing", "What an unsaved routing would do", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		ByID
		Body schedule.TypeRouting
	}) (settings.Foresight, error) {
		return s.app.PreviewRouting(ctx, p, in.ID, in.Body)
	}))
	operation(s, api, http.MethodPost, "/types/{id}/routing/corrections", "correct-ledger", "Change somebody's count by hand", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		ByID
		Body settings.LedgerCorrection
	}) (settings.RoutingView, error) {
		return s.app.CorrectLedger(ctx, p, in.ID, in.Body)
	}))
	operation(s, api, http.MethodPost, "/handover/plan", "plan-handover", "Who would take somebody's bookings", forHost(s, func(ctx context.Context, p schedule.Person, in *struct{ Body app.HandoverSpan }) (app.HandoverPlan, error) {
		return s.app.PlanHandover(ctx, p, in.Body)
	}))
	operation(s, api, http.MethodPost, "/away", "go-away", "Close somebody's days and look after their bookings; what stays as it was is answered", forHost(s, func(ctx context.Context, p schedule.Person, in *struct{ Body app.Away }) (app.HandoverPlan, error) {
		return s.app.GoAway(ctx, p, in.Body)
	}))
}
