package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"corrim/core/told"
	"corrim/internal/app"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
)

type nothing struct{}

// OwnPhone is a number as it is written everywhere (E.164).
type OwnPhone struct {
	Phone string `json:"phone"`
}

// Me is who is signed in, and for a demo whom one could be.
type Me struct {
	Person  *schedule.Person  `json:"person,omitempty"`
	Demo    []schedule.Person `json:"demo" doc:"Whom a visitor of the demo can sign in as."`
	Empty   bool              `json:"empty" doc:"Nobody has set anything up yet."`
	Clock12 bool              `json:"clock12,omitempty" doc:"Times stand on a 12-hour clock."`
	Setup   int               `json:"setup" doc:"The next step of setting up the workspace: 1 hours, 2 first type, 3 colleagues, 4 publishing; 0 if it is done."`
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
		return s.open(ctx, person)
	}, through(s.limited(s.options.SignInsPerMinute)))
	operation(s, api, http.MethodPut, "/begin/step", "go-on-setting-up", "Keep which step of setting up comes next", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		Body struct {
			Step int `json:"step" minimum:"0" maximum:"4"`
		}
	}) (done, error) {
		return done{true}, s.app.GoOnSettingUp(ctx, p, in.Body.Step)
	}))
	operation(s, api, http.MethodDelete, "/session", "sign-out", "Sign out", func(ctx context.Context, _ *nothing) (Me, error) {
		if person, err := s.signedIn(ctx); err == nil {
			if err := s.app.Identity.EndSession(ctx, person.Person, s.sessions.GetInt64(ctx, insideKey)); err != nil {
				return Me{}, err
			}
		}
		if err := s.sessions.Destroy(ctx); err != nil {
			return Me{}, err
		}
		return s.me(ctx, nil)
	})
}

func (s *server) me(ctx context.Context, _ *nothing) (Me, error) {
	demo, err := s.app.DemoPeople(ctx)
	if err != nil {
		return Me{}, err
	}
	me := Me{Demo: append([]schedule.Person{}, demo...)}
	if person, err := s.signedIn(ctx); err == nil {
		me.Person, me.Clock12, me.Setup = &person, person.Clock12(), person.SetupStep()
		return me, nil
	}
	me.Empty, err = s.app.Empty(ctx)
	return me, err
}

func (s *server) signIn(ctx context.Context, in *struct {
	Body struct {
		Mail     string `json:"mail" maxLength:"300"`
		Password string `json:"password" maxLength:"1000"`
	}
}) (Me, error) {
	who, session, err := s.app.Identity.SignIn(ctx, in.Body.Mail, in.Body.Password, whence(ctx))
	if err != nil {
		return Me{}, err
	}
	person, err := s.app.Person(ctx, who.ID)
	if err != nil {
		return Me{}, err
	}
	return s.begin(ctx, person, session)
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
			return s.open(ctx, p)
		}
	}
	return Me{}, &refusal.Refusal{Kind: refusal.NotFound, Words: told.Say("signing-one-click", "Signing in with one click is for the demo's people only. Sign in with mail and password.")}
}

// open opens a session for somebody who needs no password.
func (s *server) open(ctx context.Context, person schedule.Person) (Me, error) {
	session, err := s.app.Identity.OpenSession(ctx, person.Person, whence(ctx), false)
	if err != nil {
		return Me{}, err
	}
	return s.begin(ctx, person, session)
}

// begin starts a fresh session, so that one planted beforehand is worth nothing.
func (s *server) begin(ctx context.Context, person schedule.Person, session int64) (Me, error) {
	if err := s.sessions.RenewToken(ctx); err != nil {
		return Me{}, err
	}
	s.sessions.Put(ctx, insideKey, session)
	s.keepDevice(ctx, person)
	return Me{Person: &person, Demo: []schedule.Person{}, Clock12: person.Clock12(), Setup: person.SetupStep()}, nil
}

// deviceDays is how long a browser is known that somebody has signed in with.
const deviceDays = 400 // as long as browsers keep a cookie (RFC 6265bis, 5.5)

// keepDevice lets the browser keep that the person has signed in with it.
func (s *server) keepDevice(ctx context.Context, person schedule.Person) {
	w, _ := ctx.Value(answerKey{}).(http.ResponseWriter)
	if w == nil || s.app.Identity.Keys.DeviceOf(person.ID, whence(ctx).Device) != "" {
		return
	}
	http.SetCookie(w, &http.Cookie{
		Name: s.deviceCookie(), Value: s.app.Identity.NewDevice(person.Person), Path: "/", MaxAge: deviceDays * 24 * 3600,
		HttpOnly: true, Secure: onHTTPS(s.app), SameSite: http.SameSiteLaxMode,
	})
}

func (s *server) deviceCookie() string {
	if onHTTPS(s.app) {
		return "__Host-corrim-device"
	}
	return "corrim-device"
}

type (
	whenceKey struct{}
	answerKey struct{}
)

// fromWhere keeps where a request comes from.
func (s *server) fromWhere(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		address, err := s.clientAddress(r)
		if err != nil {
			address = ""
		}
		from := identity.Whence{Address: address, Agent: r.UserAgent()}
		if kept, err := r.Cookie(s.deviceCookie()); err == nil && len(kept.Value) <= 200 {
			from.Device = kept.Value
		}
		ctx := context.WithValue(r.Context(), answerKey{}, w)
		next.ServeHTTP(w, r.WithContext(context.WithValue(ctx, whenceKey{}, from)))
	})
}

func whence(ctx context.Context) identity.Whence {
	from, _ := ctx.Value(whenceKey{}).(identity.Whence)
	return from
}

// sure wraps a handler of what is risky: the password was entered a short time ago, or is asked for.
func sure[I, O any](s *server, handle func(context.Context, schedule.Person, *I) (O, error)) func(context.Context, schedule.Person, *I) (O, error) {
	return func(ctx context.Context, p schedule.Person, in *I) (O, error) {
		if err := s.mustBeSure(ctx); err != nil {
			var none O
			return none, err
		}
		return handle(ctx, p, in)
	}
}

func (s *server) mustBeSure(ctx context.Context) error {
	return s.app.Identity.MustBeSure(ctx, s.sessions.GetInt64(ctx, insideKey))
}

// accountOperations are what somebody does about their own way in.
func (s *server) accountOperations(api huma.API) {
	limit := through(s.limited(s.options.SignInsPerMinute))
	current := func(ctx context.Context) int64 { return s.sessions.GetInt64(ctx, insideKey) }
	operation(s, api, http.MethodGet, "/sessions", "sessions", "Where one is signed in", forHost(s, func(ctx context.Context, p schedule.Person, _ *nothing) ([]identity.Session, error) {
		return s.app.Identity.Sessions(ctx, p.Person, current(ctx))
	}))
	operation(s, api, http.MethodDelete, "/sessions/{id}", "end-session", "Sign out somewhere else", forHost(s, func(ctx context.Context, p schedule.Person, in *ByID) ([]identity.Session, error) {
		if err := s.app.Identity.EndSession(ctx, p.Person, in.ID); err != nil {
			return nil, err
		}
		return s.app.Identity.Sessions(ctx, p.Person, current(ctx))
	}))
	operation(s, api, http.MethodDelete, "/sessions", "end-other-sessions", "Sign out everywhere else", forHost(s, func(ctx context.Context, p schedule.Person, _ *nothing) ([]identity.Session, error) {
		if err := s.app.Identity.EndSessions(ctx, p.Person, current(ctx)); err != nil {
			return nil, err
		}
		return s.app.Identity.Sessions(ctx, p.Person, current(ctx))
	}))
	operation(s, api, http.MethodPost, "/session/check", "be-sure", "Enter one's password once more, for what is risky", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		Body struct {
			Password string `json:"password" maxLength:"1000"`
		}
	}) (done, error) {
		return done{true}, s.app.Identity.BeSure(ctx, p.Person, current(ctx), in.Body.Password, whence(ctx))
	}), limit)
	operation(s, api, http.MethodPut, "/me/password", "change-password", "Choose another password", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		Body struct {
			Current  string `json:"current" maxLength:"1000"`
			Password string `json:"password" maxLength:"1000"`
		}
	}) (done, error) {
		return done{true}, s.app.Identity.ChangePassword(ctx, p.Person, current(ctx), in.Body.Current, in.Body.Password, whence(ctx))
	}), limit)
	operation(s, api, http.MethodPut, "/me/language", "change-language", "Get mails in another language", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		Body struct {
			Language string `json:"language" enum:"en,de,fr,nl,pt"`
		}
	}) (schedule.Person, error) {
		if err := s.app.Identity.ChangeLanguage(ctx, p.Person, in.Body.Language); err != nil {
			return p, err
		}
		return s.app.Person(ctx, p.ID)
	}))
	operation(s, api, http.MethodGet, "/me/news", "news", "What one is told of about one's meetings", forHost(s, func(ctx context.Context, p schedule.Person, _ *struct{}) (app.NewsView, error) {
		return s.app.NewsOf(ctx, p)
	}))
	operation(s, api, http.MethodPut, "/me/news", "choose-news", "Choose what to be told of", forHost(s, func(ctx context.Context, p schedule.Person, in *struct{ Body app.News }) (app.NewsView, error) {
		return s.app.ChooseNews(ctx, p, in.Body)
	}))
	operation(s, api, http.MethodPost, "/me/phone", "send-phone-code", "Have a code sent to one's own number, for news by text message", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		Body struct {
			Phone string `json:"phone" maxLength:"100"`
		}
	}) (OwnPhone, error) {
		number, err := s.app.SendPhoneCode(ctx, p, in.Body.Phone)
		return OwnPhone{number}, err
	}), through(s.limited(s.options.BookingsPerMinute)))
	operation(s, api, http.MethodPut, "/me/phone", "prove-phone", "Get news at a number, with the code that was sent there; an empty number takes it away", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		Body struct {
			Phone string `json:"phone" maxLength:"100"`
			Code  string `json:"code" maxLength:"100"`
		}
	}) (app.NewsView, error) {
		return s.app.ProvePhone(ctx, p, in.Body.Phone, in.Body.Code)
	}), through(s.limited(s.options.BookingsPerMinute)))
	operation(s, api, http.MethodPut, "/me/mail", "change-mail", "Sign in with another mail address", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		Body struct {
			Current string `json:"current" maxLength:"1000" doc:"One's password."`
			Mail    string `json:"mail" maxLength:"300"`
		}
	}) (schedule.Person, error) {
		if err := s.app.Identity.ChangeMail(ctx, p.Person, in.Body.Current, in.Body.Mail, whence(ctx)); err != nil {
			return p, err
		}
		return s.app.Person(ctx, p.ID)
	}), limit)
	operation(s, api, http.MethodPost, "/password-resets", "ask-for-reset", "Get a link for a new password by mail; the answer is the same whoever exists", func(ctx context.Context, in *struct {
		Body struct {
			Mail string `json:"mail" maxLength:"300"`
		}
	}) (done, error) {
		return done{true}, s.app.Identity.AskForReset(ctx, in.Body.Mail, whence(ctx))
	}, limit)
	operation(s, api, http.MethodPost, "/password-resets/{secret}", "reset-password", "Choose a new password", func(ctx context.Context, in *struct {
		Secret string `path:"secret" maxLength:"100"`
		Body   struct {
			Password string `json:"password" maxLength:"1000"`
		}
	}) (done, error) {
		return done{true}, s.app.Identity.ResetPassword(ctx, in.Secret, in.Body.Password, whence(ctx))
	}, limit)
}
