package api

import (
	"context"
	"net/http"
	"strconv"

	"github.com/danielgtaylor/huma/v2"

	"corrim/internal/schedule"
	"corrim/internal/settings"
)

type weekInput struct {
	Body settings.WeekInput
}

// forPerson is the header by which a coordinator names the colleague whose hours a request is about.
const forPerson = "For-Person"

type forPersonKey struct{}

// named keeps whom a request is for.
func named(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if id, err := strconv.ParseInt(r.Header.Get(forPerson), 10, 64); err == nil {
			r = r.WithContext(context.WithValue(r.Context(), forPersonKey{}, id))
		}
		next.ServeHTTP(w, r)
	})
}

// forHours is forHost for hours: a coordinator may name a colleague in the header For-Person.
func forHours[I, O any](s *server, handle func(context.Context, schedule.Person, *I) (O, error)) func(context.Context, *I) (O, error) {
	return forHost(s, func(ctx context.Context, p schedule.Person, in *I) (O, error) {
		if id, ok := ctx.Value(forPersonKey{}).(int64); ok && id != p.ID {
			colleague, err := s.app.OnBehalfOf(ctx, p, id)
			if err != nil {
				var none O
				return none, err
			}
			p = colleague
		}
		return handle(ctx, p, in)
	})
}

func (s *server) hoursOperations(api huma.API) {
	operation(s, api, http.MethodGet, "/hours", "hours", "The host's week", forHours(s, func(_ context.Context, p schedule.Person, _ *nothing) (settings.HoursView, error) {
		return s.app.Hours(p), nil
	}))
	operation(s, api, http.MethodPost, "/hours/preview", "preview-hours", "Read a week without saving it", forHours(s, func(ctx context.Context, p schedule.Person, in *weekInput) (settings.HoursView, error) {
		return s.app.PreviewHours(ctx, p, in.Body)
	}))
	operation(s, api, http.MethodPut, "/hours", "save-hours", "Save the host's week", forHours(s, func(ctx context.Context, p schedule.Person, in *weekInput) (settings.HoursView, error) {
		return s.app.SaveHours(ctx, p, in.Body)
	}))
	operation(s, api, http.MethodPost, "/week/read", "read-week", "Read a week as typed or drawn", forHost(s, func(_ context.Context, _ schedule.Person, in *struct {
		Body struct {
			Week [7]settings.DayInput `json:"week" doc:"Monday first."`
		}
	}) ([7]settings.DayHours, error) {
		return settings.ReadWeek(in.Body.Week), nil
	}))
	operation(s, api, http.MethodPut, "/hours/days", "draw-day", "Give a date, or weekdays of the week, other hours", forHours(s, func(ctx context.Context, p schedule.Person, in *struct{ Body settings.DrawnDay }) (settings.HoursView, error) {
		return s.app.DrawDay(ctx, p, in.Body)
	}))
	operation(s, api, http.MethodPost, "/hours/days/preview", "try-day", "What hours drawn for one date would do", forHours(s, func(ctx context.Context, p schedule.Person, in *struct{ Body settings.DrawnDay }) (settings.DayTrial, error) {
		return s.app.TryDrawnDay(ctx, p, in.Body)
	}))
	operation(s, api, http.MethodGet, "/hours/days", "days", "Days as they result, with where their hours come from", forHours(s, func(_ context.Context, p schedule.Person, in *struct {
		From string `query:"from" format:"date" required:"true"`
		Days int    `query:"days" minimum:"1" maximum:"400" required:"true"`
	}) ([]schedule.Ribbon, error) {
		return s.app.Days(p, in.From, in.Days)
	}))
	s.dayChangeOperations(api)
	s.weekPlanOperations(api)
	s.hoursFileOperations(api)
}

func (s *server) dayChangeOperations(api huma.API) {
	type sentence struct {
		Body struct {
			Text string `json:"text" maxLength:"500" doc:"Like 14-16 May 10-13, 4 June closed."`
		}
	}
	operation(s, api, http.MethodPost, "/hours/differing/preview", "preview-day-changes", "Read a sentence about days that differ", forHours(s, func(ctx context.Context, p schedule.Person, in *sentence) (settings.DayChangeReading, error) {
		return s.app.TryDayChanges(ctx, p, in.Body.Text)
	}))
	operation(s, api, http.MethodPost, "/hours/differing", "add-day-changes", "Keep what a sentence about days that differ says", forHours(s, func(ctx context.Context, p schedule.Person, in *sentence) (settings.HoursView, error) {
		return s.app.AddDayChanges(ctx, p, in.Body.Text)
	}))
	operation(s, api, http.MethodDelete, "/hours/differing/{id}", "remove-day-change", "Take a change back", forHours(s, func(ctx context.Context, p schedule.Person, in *struct {
		ByID
		Date string `query:"date" maxLength:"10" doc:"Take it back on this date alone."`
	}) (settings.HoursView, error) {
		return s.app.RemoveDayChange(ctx, p, in.ID, in.Date)
	}))
}

func (s *server) weekPlanOperations(api huma.API) {
	type list = []schedule.WeekPlan
	operation(s, api, http.MethodGet, "/week-plans", "week-plans", "The workspace's week plans", forHost(s, func(ctx context.Context, p schedule.Person, _ *nothing) (list, error) {
		return s.app.WeekPlans(ctx, p)
	}))
	operation(s, api, http.MethodPost, "/week-plans", "add-week-plan", "Keep a week under a name, and work by it", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		Body struct {
			Name string               `json:"name" maxLength:"400"`
			Week [7]settings.DayInput `json:"week" doc:"Monday first."`
		}
	}) (settings.HoursView, error) {
		return s.app.AddWeekPlan(ctx, p, in.Body.Name, in.Body.Week)
	}))
	operation(s, api, http.MethodPut, "/week-plans/{id}", "rename-week-plan", "Give a week plan another name", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		ByID
		Body struct {
			Name string `json:"name" maxLength:"400"`
		}
	}) (list, error) {
		return s.app.RenameWeekPlan(ctx, p, in.ID, in.Body.Name)
	}))
	operation(s, api, http.MethodDelete, "/week-plans/{id}", "remove-week-plan", "Remove a week plan that nobody uses", forHost(s, func(ctx context.Context, p schedule.Person, in *ByID) (list, error) {
		return s.app.RemoveWeekPlan(ctx, p, in.ID)
	}))
}

// hoursFileOperations take hours, or days off, from an iCalendar file.
func (s *server) hoursFileOperations(api huma.API) {
	type file struct {
		Body struct {
			Text string `json:"text" maxLength:"1000000" doc:"Availability (RFC 7953), or all-day events, such as public holidays."`
		}
	}
	operation(s, api, http.MethodPost, "/hours/file/preview", "preview-hours-file", "What a file says about hours", forHours(s, func(_ context.Context, p schedule.Person, in *file) (settings.FileReading, error) {
		return s.app.ReadHoursFile(p, []byte(in.Body.Text))
	}), takesFiles)
	operation(s, api, http.MethodPost, "/hours/file", "take-hours-file", "Keep what a file says about hours", forHours(s, func(ctx context.Context, p schedule.Person, in *file) (settings.HoursView, error) {
		return s.app.TakeHoursFile(ctx, p, []byte(in.Body.Text))
	}), takesFiles)
}

// availabilityFile sends the host's hours as VAVAILABILITY.
func (s *server) availabilityFile(w http.ResponseWriter, r *http.Request) {
	text, err := func() ([]byte, error) {
		person, err := s.signedIn(r.Context())
		if err != nil {
			return nil, err
		}
		return s.app.HoursFile(person)
	}()
	s.file(w, r, "text/calendar; charset=utf-8", "hours.ics", text, err)
}
