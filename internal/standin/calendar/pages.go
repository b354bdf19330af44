package calendar

import (
	"cmp"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"corrim/core/busy"
	"corrim/core/civil"
	"corrim/core/span"
	"corrim/internal/standin"
)

var peoplePage = standin.Page(`<h1>Stand-in calendars</h1><p class="faint">Whose calendar do you want to look into?</p>
<ul>{{range .People}}<li><a href="/page/{{.Name}}">{{.FullName}}</a> <span class="faint">user name {{.Name}} · {{.Zone}}</span></li>{{end}}</ul>`)

var calendarPage = standin.Page(`<p><a href="/page">All people</a></p><h1>{{.Person.FullName}}</h1>
<p class="faint">Times in {{.Person.Zone}}. The coming four weeks of all calendars.</p>
<form method="post" action="/page/{{.Person.Name}}/mood"><label><span>For programs the server is</span><select name="mood">{{range .Moods}}<option value="{{.Name}}"{{if .Now}} selected{{end}}>{{.Words}}</option>{{end}}</select></label><button class="quiet">Be so</button></form>
<h2>Add an event</h2>
<form method="post" action="/page/{{.Person.Name}}/add">
<label><span>Title</span><input name="title" required maxlength="200" value=""></label>
<label><span>Calendar</span><select name="calendar">{{range .Calendars}}<option value="{{.ID}}">{{.Name}}</option>{{end}}</select></label><br>
<label><span>Day</span><input type="date" name="date" required value="{{.Today}}"></label>
<label><span>From</span><input type="time" name="from" required value="09:00"></label>
<label><span>To</span><input type="time" name="to" required value="10:00"></label>
<label><span>Counts as</span><select name="as"><option value="busy">busy</option><option value="free">free</option></select></label>
<button>Add event</button></form>
{{range .Days}}<h2>{{.Title}}</h2><ul>{{range .Events}}
<li><strong>{{.From}}–{{.To}}</strong> <span>{{.Title}}</span> <span class="faint">{{.Calendar}}</span>
<details><summary>Move or remove</summary>
{{if .Repeats}}<p class="faint">This event repeats; removing it removes all of it.</p>{{else}}<form method="post" action="/page/{{$.Person.Name}}/move">
<input type="hidden" name="calendar" value="{{.CalendarID}}"><input type="hidden" name="name" value="{{.Name}}">
<label><span>Day</span><input type="date" name="date" required value="{{.Date}}"></label>
<label><span>From</span><input type="time" name="from" required value="{{.From}}"></label>
<label><span>To</span><input type="time" name="to" required value="{{.To}}"></label><button>Move event</button></form>{{end}}
<form method="post" action="/page/{{$.Person.Name}}/remove"><input type="hidden" name="calendar" value="{{.CalendarID}}"><input type="hidden" name="name" value="{{.Name}}"><button class="quiet">Remove {{.Title}}</button></form>
<pre>{{.Text}}</pre></details></li>{{end}}</ul>{{else}}<p>Nothing in the coming four weeks.</p>{{end}}`)

type shownEvent struct {
	From, To, Date, Title, Calendar, CalendarID, Name, Text string
	Repeats                                                 bool
	at                                                      span.Instant
}

type shownDay struct {
	Title  string
	Events []shownEvent
}

func (s *Server) addPages(mux *http.ServeMux) {
	mux.HandleFunc("GET /{$}", func(w http.ResponseWriter, r *http.Request) { http.Redirect(w, r, "/page", http.StatusFound) })
	mux.HandleFunc("GET /page", s.showPeople)
	mux.HandleFunc("GET /page/{user}", s.showCalendar)
	mux.HandleFunc("POST /page/{user}/add", s.edit(func(r *http.Request, from, to time.Time) error {
		more := []string{}
		if r.FormValue("as") == "free" {
			more = append(more, "TRANSP:TRANSPARENT")
		}
		name, ics := newEvent(r.FormValue("title"), from, to, more...)
		_, err := s.data.put(r.PathValue("user"), r.FormValue("calendar"), name, ics, nil)
		return err
	}))
	mux.HandleFunc("POST /page/{user}/mood", func(w http.ResponseWriter, r *http.Request) {
		s.SetMood(r.PathValue("user"), r.FormValue("mood"))
		http.Redirect(w, r, "/page/"+r.PathValue("user"), http.StatusSeeOther)
	})
	mux.HandleFunc("POST /page/{user}/move", s.edit(s.move))
	mux.HandleFunc("POST /page/{user}/remove", func(w http.ResponseWriter, r *http.Request) {
		if err := s.data.remove(r.PathValue("user"), r.FormValue("calendar"), r.FormValue("name")); err != nil {
			http.Error(w, err.Error(), http.StatusNotFound)
			return
		}
		http.Redirect(w, r, "/page/"+r.PathValue("user"), http.StatusSeeOther)
	})
}

func (s *Server) user(name string) (User, *time.Location, bool) {
	s.data.mu.RLock()
	defer s.data.mu.RUnlock()
	u := s.data.users[name]
	if u == nil {
		return User{}, nil, false
	}
	zone, err := civil.LoadZone(u.Zone)
	return *u, zone, err == nil
}

// edit reads the day and times of a form on the user's clock, does the change and shows the calendar again.
func (s *Server) edit(do func(r *http.Request, from, to time.Time) error) http.HandlerFunc {
	return func(w http.ResponseWriter, r *http.Request) {
		r.Body = http.MaxBytesReader(w, r.Body, 1<<16)
		_, zone, ok := s.user(r.PathValue("user"))
		if !ok {
			http.NotFound(w, r)
			return
		}
		from, err1 := time.ParseInLocation("2006-01-02 15:04", r.FormValue("date")+" "+r.FormValue("from"), zone)
		to, err2 := time.ParseInLocation("2006-01-02 15:04", r.FormValue("date")+" "+r.FormValue("to"), zone)
		if err1 != nil || err2 != nil || !to.After(from) {
			http.Error(w, "Give a day and an end after the start. Go back to change them.", http.StatusBadRequest)
			return
		}
		if err := do(r, from, to); err != nil {
			http.Error(w, err.Error(), http.StatusBadRequest)
			return
		}
		http.Redirect(w, r, "/page/"+r.PathValue("user"), http.StatusSeeOther)
	}
}

func (s *Server) move(r *http.Request, from, to time.Time) error {
	user, calendar, name := r.PathValue("user"), r.FormValue("calendar"), r.FormValue("name")
	var text string
	err := s.data.read(user, calendar, func(c *Calendar) error {
		o := c.Objects[name]
		if o == nil || o.Removed {
			return errNone
		}
		text = o.ICS
		return nil
	})
	if err != nil {
		return err
	}
	var lines []string
	for line := range strings.SplitSeq(strings.ReplaceAll(text, "\r\n", "\n"), "\n") {
		switch {
		case strings.HasPrefix(line, "DTSTART"):
			line = "DTSTART:" + stamp(from)
		case strings.HasPrefix(line, "DTEND"):
			line = "DTEND:" + stamp(to)
		}
		lines = append(lines, line)
	}
	_, err = s.data.put(user, calendar, name, strings.Join(lines, "\r\n"), nil)
	return err
}

func stamp(t time.Time) string { return t.UTC().Format("20060102T150405Z") }

// newEvent writes a fresh event; more are further content lines.
func newEvent(title string, from, to time.Time, more ...string) (name, ics string) {
	id := uuid.NewString()
	title = strings.NewReplacer(`\`, `\\`, ",", `\,`, ";", `\;`, "\n", " ", "\r", " ").Replace(title)
	lines := []string{"BEGIN:VCALENDAR", "VERSION:2.0", "PRODID:-//Corrim//Stand-in calendar//EN", "BEGIN:VEVENT", "UID:" + id,
		"DTSTAMP:" + stamp(time.Now()), "DTSTART:" + stamp(from), "DTEND:" + stamp(to), "SUMMARY:" + title}
	lines = append(append(lines, more...), "END:VEVENT", "END:VCALENDAR", "")
	return id + ".ics", strings.Join(lines, "\r\n")
}

func (s *Server) showPeople(w http.ResponseWriter, _ *http.Request) {
	var people []User
	for _, name := range s.data.userNames() {
		if u, _, ok := s.user(name); ok {
			people = append(people, u)
		}
	}
	standin.Show(w, peoplePage, map[string]any{"Title": "Stand-in calendars", "People": people})
}

func (s *Server) showCalendar(w http.ResponseWriter, r *http.Request) {
	person, zone, ok := s.user(r.PathValue("user"))
	if !ok {
		http.NotFound(w, r)
		return
	}
	today := civil.DateOf(span.At(s.now()), zone)
	within := span.Span{Start: today.Start(zone), End: today.AddDays(28).Start(zone)}
	type named struct{ ID, Name string }
	var calendars []named
	var events []shownEvent
	for i := 1; person.Calendars[fmt.Sprintf("c%d", i)] != nil; i++ {
		id := fmt.Sprintf("c%d", i)
		_ = s.data.read(person.Name, id, func(c *Calendar) error { // it was there a line ago
			calendars = append(calendars, named{id, c.Name})
			for name, o := range c.Objects {
				if !o.Removed {
					events = append(events, shown(*o, id, c.Name, name, zone, within)...)
				}
			}
			return nil
		})
	}
	standin.Show(w, calendarPage, map[string]any{
		"Title": person.FullName + "'s calendar", "Person": person, "Calendars": calendars, "Today": today.String(), "Days": byDay(events, zone),
		"Moods": s.moods.list(person.Name),
	})
}

// shown lists the occurrences of one object.
func shown(o Object, id, calendar, name string, zone *time.Location, within span.Span) []shownEvent {
	parsed, err := busy.Read([]byte(strings.Replace(o.ICS, "TRANSP:TRANSPARENT", "", 1)), busy.Options{Zone: zone, TentativeBusy: true, AllDayBusy: true})
	if err != nil {
		return nil
	}
	var out []shownEvent
	stretches, _ := parsed.Busy(within)
	for _, b := range stretches {
		from, to := b.Start.Time().In(zone), b.End.Time().In(zone)
		out = append(out, shownEvent{
			From: from.Format("15:04"), To: to.Format("15:04"), Date: from.Format(time.DateOnly), Title: b.Title, Calendar: calendar,
			CalendarID: id, Name: name, Text: o.ICS, Repeats: strings.Contains(o.ICS, "RRULE"), at: b.Start,
		})
	}
	return out
}

func byDay(events []shownEvent, zone *time.Location) []shownDay {
	slices.SortFunc(events, func(a, b shownEvent) int { return cmp.Or(cmp.Compare(a.at, b.at), strings.Compare(a.Title, b.Title)) })
	var days []shownDay
	for _, e := range events {
		title := e.at.Time().In(zone).Format("Monday 2 January")
		if len(days) == 0 || days[len(days)-1].Title != title {
			days = append(days, shownDay{Title: title})
		}
		days[len(days)-1].Events = append(days[len(days)-1].Events, e)
	}
	return days
}
