package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"corrim/internal/app"
)

type nothing struct{}

// Me is who is signed in, and for a demo whom one could be.
type Me struct {
	Person *app.Person  `json:"person,omitempty"`
	Demo   []app.Person `json:"demo" doc:"Whom a visitor of the demo can sign in as."`
	Empty  bool         `json:"empty" doc:"Nobody has set anything up yet."`
	Setup  int          `json:"setup" doc:"The next step of setting up the workspace: 1 hours, 2 first type, 3 colleagues, 4 publishing; 0 if it is done."`
}

func (s *server) sessionOperations(api huma.API) {
	operation(s, api, http.MethodGet, "/me", "me", "Who is signed in", s.me)
	operation(s, api, http.MethodPost, "/session", "sign-in", "Sign in", s.signIn, through(s.limited(s.options.SignInsPerMinute)))
	operation(s, api, http.MethodPost, "/demo-session", "demo-sign-in", "Sign in as one of the demo's people", s.demoSignIn)
	operation(s, api, http.MethodPost, "/begin", "begin", "Make the first workspace and its owner", func(ctx context.Context, in *struct{ Body app.Beginning }) (Me, error) {
		person, err := s.app.Begin(ctx, in.Body)
		if err != nil {
			return Me{}, err
		}
		return s.begin(ctx, person)
	}, through(s.limited(s.options.SignInsPerMinute)))
	operation(s, api, http.MethodPut, "/begin/step", "go-on-setting-up", "Keep which step of setting up comes next", forHost(s, func(ctx context.Context, p app.Person, in *struct {
		Body struct {
			Step int `json:"step" minimum:"0" maximum:"4"`
		}
	}) (done, error) {
		return done{true}, s.app.GoOnSettingUp(ctx, p, in.Body.Step)
	}))
	operation(s, api, http.MethodDelete, "/session", "sign-out", "Sign out", func(ctx context.Context, _ *nothing) (Me, error) {
		if err := s.sessions.Destroy(ctx); err != nil {
			return Me{}, err
		}
		return Me{Demo: []app.Person{}}, nil
	})
}

func (s *server) me(ctx context.Context, _ *nothing) (Me, error) {
	demo, err := s.app.DemoPeople(ctx)
	if err != nil {
		return Me{}, err
	}
	me := Me{Demo: append([]app.Person{}, demo...)}
	if person, err := s.signedIn(ctx); err == nil {
		me.Person, me.Setup = &person, person.SetupStep()
		return me, nil
	}
	me.Empty, err = s.app.Empty(ctx)
	return me, err
}

func (s *server) signIn(ctx context.Context, in *struct {
	Body struct {
		Mail     string `json:"mail" maxLength:"300"`
		Password string `json:"password" maxLength:"72" doc:"bcrypt reads no more than 72 bytes."`
	}
}) (Me, error) {
	person, err := s.app.SignIn(ctx, in.Body.Mail, in.Body.Password)
	if err != nil {
		return Me{}, err
	}
	return s.begin(ctx, person)
}

func (s *server) demoSignIn(ctx context.Context, in *struct {
	Body struct {
		Person int64 `json:"person"`
	}
}) (Me, error) {
	people, err := s.app.DemoPeople(ctx)
	if err != nil {
		return Me{}, err
	}
	for _, p := range people {
		if p.ID == in.Body.Person {
			return s.begin(ctx, p)
		}
	}
	return Me{}, &app.Refusal{Kind: app.NotFound, Sentence: "Signing in with one click is for the demo's people only. Sign in with mail and password."}
}

// begin starts a fresh session, so that one planted beforehand is worth nothing.
func (s *server) begin(ctx context.Context, person app.Person) (Me, error) {
	if err := s.sessions.RenewToken(ctx); err != nil {
		return Me{}, err
	}
	s.sessions.Put(ctx, personInside, person.ID)
	return Me{Person: &person, Demo: []app.Person{}, Setup: person.SetupStep()}, nil
}
