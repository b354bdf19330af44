package api

import (
	"bytes"
	"context"
	"crypto/sha256"
	"fmt"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"

	"corrim/internal/app"
	"corrim/internal/schedule"
)

func (s *server) calendarOperations(api huma.API) {
	type list = []app.Calendar
	operation(s, api, http.MethodGet, "/calendars", "calendars", "The host's calendars", forHost(s, func(ctx context.Context, p schedule.Person, _ *nothing) (list, error) {
		return s.app.Calendars(ctx, p)
	}))
	operation(s, api, http.MethodPost, "/calendars/read", "read-calendars", "Read all calendars now", forHost(s, func(ctx context.Context, p schedule.Person, _ *nothing) (list, error) {
		return s.app.ReadCalendars(ctx, p)
	}))
	operation(s, api, http.MethodPost, "/calendar-accounts", "connect-calendars", "Connect the calendars of an account", forHost(s, func(ctx context.Context, p schedule.Person, in *struct{ Body app.Account }) (list, error) {
		return s.app.Connect(ctx, p, in.Body)
	}))
	operation(s, api, http.MethodDelete, "/calendar-accounts/{id}", "disconnect-calendars", "Forget an account and its calendars", forHost(s, func(ctx context.Context, p schedule.Person, in *ByID) (list, error) {
		return s.app.Disconnect(ctx, p, in.ID)
	}))
	operation(s, api, http.MethodPut, "/calendars/{id}", "use-calendar", "What a calendar is used for", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		ByID
		Body app.CalendarUse
	}) (list, error) {
		return s.app.UseCalendar(ctx, p, in.ID, in.Body)
	}))
	operation(s, api, http.MethodPost, "/calendars/subscriptions", "subscribe", "Add a calendar that is fetched from an iCalendar address", forHost(s, func(ctx context.Context, p schedule.Person, in *struct{ Body app.Subscription }) (list, error) {
		return s.app.Subscribe(ctx, p, in.Body)
	}))
	operation(s, api, http.MethodPost, "/calendars/files", "add-calendar-file", "Add a calendar from a file", forHost(s, func(ctx context.Context, p schedule.Person, in *struct{ Body app.CalendarFile }) (list, error) {
		return s.app.AddCalendarFile(ctx, p, in.Body)
	}), takesFiles)
	operation(s, api, http.MethodGet, "/calendars/settings", "calendar-settings", "What the host decided about all calendars", forHost(s, func(_ context.Context, p schedule.Person, _ *nothing) (schedule.CalendarSettings, error) {
		return s.app.CalendarSettings(p), nil
	}))
	operation(s, api, http.MethodPut, "/calendars/settings", "set-calendar-settings", "Decide about all calendars", forHost(s, func(ctx context.Context, p schedule.Person, in *struct{ Body schedule.CalendarSettings }) (schedule.CalendarSettings, error) {
		return s.app.SetCalendarSettings(ctx, p, in.Body)
	}))
	operation(s, api, http.MethodGet, "/feeds", "feeds", "The private addresses of the host's feeds", forHost(s, func(ctx context.Context, p schedule.Person, _ *nothing) (app.FeedAddresses, error) {
		return s.app.FeedAddresses(ctx, p)
	}))
	operation(s, api, http.MethodPost, "/feeds", "renew-feeds", "New addresses for the host's feeds; old ones stop working", forHost(s, sure(s, func(ctx context.Context, p schedule.Person, _ *nothing) (app.FeedAddresses, error) {
		return s.app.RenewFeeds(ctx, p, true)
	})))
	operation(s, api, http.MethodDelete, "/feeds", "end-feeds", "End the host's feeds", forHost(s, func(ctx context.Context, p schedule.Person, _ *nothing) (app.FeedAddresses, error) {
		return s.app.RenewFeeds(ctx, p, false)
	}))
}

// feed sends a calendar to whoever has its address, unless they have it already (RFC 9110, 13.1.2).
func (s *server) feed(make func(context.Context, string) ([]byte, error)) http.HandlerFunc {
	return func(w http.ResponseWriter, r *http.Request) {
		text, err := make(r.Context(), chi.URLParam(r, "secret"))
		if err != nil {
			s.file(w, r, "", "", nil, err)
			return
		}
		h := w.Header()
		h.Set("Content-Type", "text/calendar; charset=utf-8")
		h.Set("Content-Disposition", "inline")
		h.Set("Cache-Control", "private, no-cache")
		h.Set("ETag", feedTag(text))
		http.ServeContent(w, r, "", time.Time{}, bytes.NewReader(text))
	}
}

// feedTag stays as long as nothing but the moment of writing differs.
func feedTag(text []byte) string {
	sum := sha256.New()
	for line := range bytes.Lines(text) {
		if !bytes.HasPrefix(line, []byte("DTSTAMP:")) {
			sum.Write(line)
		}
	}
	return fmt.Sprintf(`"%x"`, sum.Sum(nil)[:16])
}
