package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"corrim/internal/app"
	"corrim/internal/public"
	"corrim/internal/schedule"
)

// ClientPath names a client.
type ClientPath struct {
	Mail string `path:"mail" maxLength:"254"`
}

func (s *server) clientOperations(api huma.API) {
	operation(s, api, http.MethodGet, "/clients", "clients", "Who has booked, the latest first", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		Search string `query:"search" maxLength:"200" doc:"In names and mail addresses."`
	}) ([]app.Client, error) {
		return s.app.Clients(ctx, p, in.Search)
	}))
	operation(s, api, http.MethodGet, "/clients/{mail}", "client", "A client with everything that was booked", forHost(s, func(ctx context.Context, p schedule.Person, in *ClientPath) (app.ClientHistory, error) {
		return s.app.ClientByMail(ctx, p, in.Mail)
	}))
	operation(s, api, http.MethodPut, "/clients/{mail}/notes", "save-client-notes", "Keep notes about a client", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		ClientPath
		Body struct {
			Notes string `json:"notes" maxLength:"40000"`
		}
	}) (app.ClientHistory, error) {
		return s.app.SaveClientNotes(ctx, p, in.Mail, in.Body.Notes)
	}))
	operation(s, api, http.MethodPost, "/clients/{mail}/mail-works", "mail-works", "Keep that a client's address takes mail again", forHost(s, func(ctx context.Context, p schedule.Person, in *ClientPath) (app.ClientHistory, error) {
		return s.app.MailWorks(ctx, p, in.Mail)
	}))
}

// offersOperations are offers of times picked by hand.
func (s *server) offersOperations(api huma.API) {
	operation(s, api, http.MethodGet, "/one-offs", "one-offs", "Offers of times picked by hand, the latest first", forHost(s, func(ctx context.Context, p schedule.Person, _ *nothing) ([]app.OneOff, error) {
		return s.app.OneOffs(ctx, p)
	}))
	operation(s, api, http.MethodPost, "/one-offs", "make-one-off", "Offer a client times picked by hand", forHost(s, func(ctx context.Context, p schedule.Person, in *struct{ Body app.NewOneOff }) (app.OneOff, error) {
		return s.app.MakeOneOff(ctx, p, in.Body)
	}))
	operation(s, api, http.MethodDelete, "/one-offs/{id}", "withdraw-one-off", "Withdraw an offer", forHost(s, func(ctx context.Context, p schedule.Person, in *ByID) ([]app.OneOff, error) {
		return s.app.WithdrawOneOff(ctx, p, in.ID)
	}))
}

// requestOperations are what a host decides about, and whether clients came.
func (s *server) requestOperations(api huma.API) {
	operation(s, api, http.MethodPost, "/host-bookings/{id}/approve", "approve", "Book what was requested", forHost(s, func(ctx context.Context, p schedule.Person, in *withWord) (app.Today, error) {
		return s.app.Approve(ctx, p, in.ID, in.Body.Word)
	}))
	operation(s, api, http.MethodPost, "/host-bookings/{id}/decline", "decline", "Decline what was requested", forHost(s, func(ctx context.Context, p schedule.Person, in *withWord) (app.Today, error) {
		return s.app.Decline(ctx, p, in.ID, in.Body.Word)
	}))
	operation(s, api, http.MethodPost, "/host-bookings/{id}/propose", "propose", "Propose other times for what was requested", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		ByID
		Body struct {
			Starts []public.HandPicked `json:"starts" maxItems:"50"`
			Word   string              `json:"word,omitempty" maxLength:"10000"`
		}
	}) (app.Today, error) {
		return s.app.Propose(ctx, p, in.ID, in.Body.Starts, in.Body.Word)
	}))
	operation(s, api, http.MethodPost, "/host-bookings/{id}/attendance", "attendance", "Keep whether the client came", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		ByID
		Body struct {
			Event string `json:"event" enum:"attended,no-show,unmarked"`
		}
	}) (done, error) {
		return done{true}, s.app.Attendance(ctx, p, in.ID, in.Body.Event)
	}))
}
