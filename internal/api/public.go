package api

import (
	"context"
	"mime"
	"net/http"
	"strconv"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"

	"corrim/internal/app"
	"corrim/internal/public"
	"corrim/internal/schedule"
)

// PagePath names a meeting type. It is exported because huma looks into embedded structs only if they are.
type PagePath struct {
	Workspace string `path:"workspace" maxLength:"100"`
	Type      string `path:"type" maxLength:"100"`
}

// LinkPath names a booking.
type LinkPath struct {
	Link string `path:"link" maxLength:"100" doc:"The secret of the booking's link."`
}

func (s *server) publicOperations(api huma.API) {
	operation(s, api, http.MethodGet, "/public/{workspace}/{type}", "page", "What the client's page of a meeting type says", func(ctx context.Context, in *PagePath) (schedule.Page, error) {
		return s.app.Page(ctx, in.Workspace, in.Type, s.inside(ctx, in.Workspace))
	})
	operation(s, api, http.MethodGet, "/public/{workspace}/{type}/open", "open-times", "The open starts within a range", func(ctx context.Context, in *struct {
		PagePath
		From   time.Time `query:"from" required:"true"`
		To     time.Time `query:"to" required:"true"`
		Length int       `query:"length" minimum:"0" doc:"In minutes, one of the lengths; the one offered first if left out."`
		Host   int64     `query:"host" doc:"The host that the client chose; anyone if left out."`
		Answer []string  `query:"answer,explode" maxItems:"20" doc:"To what the page asks: attribute=value."`
		Link   string    `header:"Booking-Link" maxLength:"100" doc:"The secret of a booking that is being moved; its own time then counts as free."`
	}) (schedule.OpenTimes, error) {
		return s.app.OpenTimes(ctx, in.Workspace, in.Type, schedule.TimesWanted{
			From: in.From, To: in.To, Minutes: in.Length, Link: in.Link, Host: in.Host, Answers: answersOf(in.Answer), Inside: s.inside(ctx, in.Workspace),
		})
	})
	operation(s, api, http.MethodPost, "/public/{workspace}/{type}/bookings", "book", "Book a time", func(ctx context.Context, in *struct {
		PagePath
		Key  string `header:"Idempotency-Key" required:"true" minLength:"16" maxLength:"100" doc:"Fresh for each booking; sent again, it finds its booking."`
		Body schedule.BookingRequest
	}) (app.ClientBooking, error) {
		in.Body.Inside = s.inside(ctx, in.Workspace)
		return s.app.Book(ctx, in.Workspace, in.Type, in.Key, in.Body)
	}, through(s.limited(s.options.BookingsPerMinute)))
	operation(s, api, http.MethodGet, "/public/{workspace}/{type}/puzzle", "puzzle", "A small puzzle, for a page that asks for one", func(ctx context.Context, in *PagePath) (app.PuzzleTask, error) {
		return s.app.Puzzle(ctx, in.Workspace, in.Type)
	})
	operation(s, api, http.MethodGet, "/public/{workspace}/{type}/prepared", "prepared", "What a prepared link chooses and fills in, as far as it fits", func(ctx context.Context, in *struct {
		PagePath
		Says string `query:"says" maxLength:"30000" doc:"The query of the link's address."`
	}) (public.Prepared, error) {
		return s.app.Prepared(ctx, in.Workspace, in.Type, in.Says, s.inside(ctx, in.Workspace))
	})
	operation(s, api, http.MethodGet, "/public/{workspace}/team/{team}", "team-page", "The people and listed meeting types of a team", func(ctx context.Context, in *struct {
		Workspace string `path:"workspace" maxLength:"100"`
		Team      string `path:"team" maxLength:"100"`
	}) (schedule.Showcase, error) {
		return s.app.TeamPage(ctx, in.Workspace, in.Team)
	})
	operation(s, api, http.MethodGet, "/public/{workspace}", "workspace-page", "The listed meeting types of a workspace", func(ctx context.Context, in *struct {
		Workspace string `path:"workspace" maxLength:"100"`
	}) (schedule.Showcase, error) {
		return s.app.WorkspacePage(ctx, in.Workspace)
	})
	operation(s, api, http.MethodGet, "/public/{workspace}/with/{person}", "person-page", "The listed meeting types of a person", func(ctx context.Context, in *struct {
		Workspace string `path:"workspace" maxLength:"100"`
		Person    string `path:"person" maxLength:"100"`
	}) (schedule.Showcase, error) {
		return s.app.PersonPage(ctx, in.Workspace, in.Person)
	})
	operation(s, api, http.MethodPost, "/public/{workspace}/{type}/files", "send-file", "Send a file that the form asks for", func(ctx context.Context, in *struct {
		PagePath
		Body struct {
			Name string `json:"name" maxLength:"1000"`
			Data []byte `json:"data" doc:"A PDF, PNG, JPEG or plain text of at most 4 MB, in base64."`
		}
	}) (app.Upload, error) {
		return s.app.TakeFile(ctx, in.Workspace, in.Type, in.Body.Name, in.Body.Data, whence(ctx))
	}, through(s.limited(s.options.BookingsPerMinute)), takesUploads)
	s.linkOperations(api)
}

// sentFile sends a host a file that came with a booking, to be saved and not shown.
func (s *server) sentFile(w http.ResponseWriter, r *http.Request) {
	name, media, data, err := func() (name, media string, data []byte, err error) {
		person, err := s.signedIn(r.Context())
		if err != nil {
			return "", "", nil, err
		}
		id, _ := strconv.ParseInt(chi.URLParam(r, "id"), 10, 64) // 0 is no file
		return s.app.File(r.Context(), person, id)
	}()
	s.file(w, r, media, name, data, err)
}

// inside tells whether a request comes from somebody of the workspace who is signed in.
func (s *server) inside(ctx context.Context, workspace string) bool {
	person, err := s.signedIn(ctx)
	return err == nil && person.Workspace == workspace
}

func answersOf(pairs []string) map[string]string {
	out := map[string]string{}
	for _, pair := range pairs {
		if attribute, value, ok := strings.Cut(pair, "="); ok {
			out[attribute] = value
		}
	}
	return out
}

func (s *server) linkOperations(api huma.API) {
	limit := through(s.limited(s.options.BookingsPerMinute))
	operation(s, api, http.MethodGet, "/bookings/{link}", "booking", "A booking, by its client's link", func(ctx context.Context, in *LinkPath) (app.ClientBooking, error) {
		return s.app.BookingByLink(ctx, in.Link)
	})
	operation(s, api, http.MethodPost, "/bookings/{link}/move", "move", "Move a booking", func(ctx context.Context, in *struct {
		LinkPath
		Body struct {
			Start time.Time `json:"start"`
			All   bool      `json:"all,omitempty" doc:"With all seats that were taken with it at the same time."`
		}
	}) (app.ClientBooking, error) {
		if in.Body.All {
			return s.app.MoveAll(ctx, in.Link, in.Body.Start)
		}
		return s.app.Move(ctx, in.Link, in.Body.Start)
	}, limit)
	operation(s, api, http.MethodPost, "/bookings/{link}/confirm", "confirm", "Say that one comes", func(ctx context.Context, in *LinkPath) (app.ClientBooking, error) {
		return s.app.Confirm(ctx, in.Link)
	}, limit)
	operation(s, api, http.MethodPost, "/bookings/{link}/texts", "set-texts", "Stop text messages, or let them come again", func(ctx context.Context, in *struct {
		LinkPath
		Body struct {
			Wanted bool `json:"wanted"`
		}
	}) (app.ClientBooking, error) {
		return s.app.SetTexts(ctx, in.Link, in.Body.Wanted)
	}, limit)
	operation(s, api, http.MethodPost, "/bookings/{link}/follow-ups", "set-follow-ups", "Get no more mail after meetings, or get it again", func(ctx context.Context, in *struct {
		LinkPath
		Body struct {
			Wanted bool `json:"wanted"`
		}
	}) (app.ClientBooking, error) {
		return s.app.SetFollowUps(ctx, in.Link, in.Body.Wanted)
	}, limit)
	operation(s, api, http.MethodPost, "/texts/report", "text-report", "What a gateway for text messages reports", func(ctx context.Context, in *struct {
		Authorization string `header:"Authorization" doc:"Bearer, and the token that the gateway is given messages with."`
		Body          app.TextReport
	}) (done, error) {
		return done{true}, s.app.HeardFromGateway(ctx, strings.TrimPrefix(in.Authorization, "Bearer "), in.Body)
	})
	operation(s, api, http.MethodPost, "/bookings/{link}/rate", "rate", "Say how a meeting was", func(ctx context.Context, in *struct {
		LinkPath
		Body app.Feedback
	}) (app.ClientBooking, error) {
		return s.app.Rate(ctx, in.Link, in.Body)
	}, limit)
	operation(s, api, http.MethodPost, "/bookings/{link}/correct", "correct", "Correct what the client wrote", func(ctx context.Context, in *struct {
		LinkPath
		Body schedule.Correction
	}) (app.ClientBooking, error) {
		return s.app.Correct(ctx, in.Link, in.Body)
	}, limit)
	operation(s, api, http.MethodPost, "/bookings/{link}/cancel", "cancel", "Cancel a booking", func(ctx context.Context, in *struct {
		LinkPath
		Body struct {
			Reason string `json:"reason,omitempty" maxLength:"10000"`
			All    bool   `json:"all,omitempty" doc:"With all that was taken with it at one go."`
		}
	}) (app.ClientBooking, error) {
		if in.Body.All {
			return s.app.CancelAll(ctx, in.Link, in.Body.Reason)
		}
		return s.app.Cancel(ctx, in.Link, in.Body.Reason)
	}, limit)
	operation(s, api, http.MethodPost, "/bookings/{link}/give", "give-seat", "Give a seat to somebody else", func(ctx context.Context, in *struct {
		LinkPath
		Body app.NewHolder
	}) (app.ClientBooking, error) {
		return s.app.GiveSeat(ctx, in.Link, in.Body)
	}, limit)
	s.beforeBookedOperations(api)
	s.oneOffOperations(api)
}

// OfferPath names a one-off offer.
type OfferPath struct {
	Link string `path:"link" maxLength:"100" doc:"The secret of the offer's link."`
}

// oneOffOperations are what a client does with times that were picked for them.
func (s *server) oneOffOperations(api huma.API) {
	operation(s, api, http.MethodGet, "/offers/{link}", "offer-page", "What the client's page of an offer says", func(ctx context.Context, in *OfferPath) (schedule.Page, error) {
		return s.app.OneOffPage(ctx, in.Link)
	})
	operation(s, api, http.MethodGet, "/offers/{link}/open", "offer-times", "Which of the offered times can be taken", func(ctx context.Context, in *OfferPath) (schedule.OpenTimes, error) {
		return s.app.OneOffTimes(ctx, in.Link)
	})
	operation(s, api, http.MethodPost, "/offers/{link}/bookings", "take-offer", "Take one of the offered times", func(ctx context.Context, in *struct {
		OfferPath
		Key  string `header:"Idempotency-Key" required:"true" minLength:"16" maxLength:"100" doc:"Fresh for each booking; sent again, it finds its booking."`
		Body schedule.BookingRequest
	}) (app.ClientBooking, error) {
		return s.app.TakeOneOff(ctx, in.Link, in.Key, in.Body)
	}, through(s.limited(s.options.BookingsPerMinute)))
}

// beforeBookedOperations are what a client does about a booking that is not booked yet.
func (s *server) beforeBookedOperations(api huma.API) {
	limit := through(s.limited(s.options.BookingsPerMinute))
	operation(s, api, http.MethodPost, "/bookings/{link}/prove", "prove", "Enter the code that came", func(ctx context.Context, in *struct {
		LinkPath
		Body struct {
			Code string `json:"code" maxLength:"100"`
		}
	}) (app.ClientBooking, error) {
		return s.app.Prove(ctx, in.Link, in.Body.Code)
	}, limit)
	operation(s, api, http.MethodPost, "/bookings/{link}/code", "send-code", "Have the code sent once more", func(ctx context.Context, in *struct {
		LinkPath
		Body struct {
			Mail  string `json:"mail,omitempty" maxLength:"1000" doc:"The corrected address, if it was wrong."`
			Phone string `json:"phone,omitempty" maxLength:"100" doc:"The corrected number, if the code comes as a text message."`
		}
	}) (app.ClientBooking, error) {
		return s.app.SendCode(ctx, in.Link, app.CodeTo{Mail: in.Body.Mail, Phone: in.Body.Phone})
	}, limit)
	operation(s, api, http.MethodPost, "/bookings/{link}/seat", "take-seat", "Take a seat that got free, from the waiting list", func(ctx context.Context, in *LinkPath) (app.ClientBooking, error) {
		return s.app.TakeSeat(ctx, in.Link)
	}, limit)
	operation(s, api, http.MethodPost, "/bookings/{link}/take", "take-proposed", "Take one of the times that the host proposes", func(ctx context.Context, in *struct {
		LinkPath
		Body struct {
			Start time.Time `json:"start"`
		}
	}) (app.ClientBooking, error) {
		return s.app.TakeProposed(ctx, in.Link, in.Body.Start)
	}, limit)
}

// bookingFile sends a booking as an iCalendar file.
func (s *server) bookingFile(w http.ResponseWriter, r *http.Request) {
	text, err := s.app.BookingFile(r.Context(), chi.URLParam(r, "link"))
	s.file(w, r, "text/calendar; charset=utf-8", "meeting.ics", text, err)
}

// leaveFollowUps is one press in a mail program (RFC 8058, 3.1): it posts this field, without anybody being signed in.
func (s *server) leaveFollowUps(w http.ResponseWriter, r *http.Request) {
	r.Body = http.MaxBytesReader(w, r.Body, 4<<10)
	if r.FormValue("List-Unsubscribe") != "One-Click" {
		http.Error(w, "Post List-Unsubscribe=One-Click.", http.StatusBadRequest)
		return
	}
	if _, err := s.app.SetFollowUps(r.Context(), chi.URLParam(r, "link"), false); err != nil {
		if problem, ok := problemOf(r.Context(), s.log, err).(*Problem); ok {
			problem.write(w)
		}
		return
	}
	_, _ = w.Write([]byte("You get no more mail after meetings.\n"))
}

// file sends a file to be saved, or the problem that kept it from being made.
func (s *server) file(w http.ResponseWriter, r *http.Request, kind, name string, text []byte, err error) {
	if err != nil {
		if problem, ok := problemOf(r.Context(), s.log, err).(*Problem); ok {
			problem.write(w)
		}
		return
	}
	w.Header().Set("Content-Type", kind)
	w.Header().Set("Content-Disposition", mime.FormatMediaType("attachment", map[string]string{"filename": name}))
	w.Header().Set("Cache-Control", "no-store")
	_, _ = w.Write(text)
}
