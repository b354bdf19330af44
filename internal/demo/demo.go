// Package demo is the made-up workspace that a visitor of the demo finds: Quillmere Light Advisers, who help museums
// light their rooms without harming what hangs in them. All dates are relative to the day it is planted, and bookings
// are made by the same use cases that real ones are made by.
package demo

import (
	"context"
	_ "embed" // the holidays
	"fmt"
	"sync/atomic"
	"time"

	"corrim/core/civil"
	"corrim/core/message"
	"corrim/core/opentimes"
	"corrim/core/routing"
	"corrim/core/span"
	"corrim/internal/app"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/standin/calendar"
)

// Workspace is the demo workspace's short name.
const Workspace = "quillmere"

// Password is everybody's in the demo, here and on the stand-in calendar server.
const Password = "light"

// Clock is a clock that planting can set back, so that bookings can have been made days ago.
type Clock struct {
	True func() time.Time
	back atomic.Int64
}

// Now is the time, set back if asked for.
func (c *Clock) Now() time.Time { return c.True().Add(-time.Duration(c.back.Load())) }

func (c *Clock) setBack(d time.Duration) { c.back.Store(int64(d)) }

type adviser struct {
	app.NewPerson
	user      string
	calendars []string
	types     []schedule.TypeDraft
}

func weekdays(mon, tue, wed, thu, fri string) [7]string {
	return [7]string{mon, tue, wed, thu, fri, "closed", "closed"}
}

// usual are the workspace's rules, which the meeting types follow where they have the same.
var usual = opentimes.PlainRules(15, 15, 4*60, 60)

func kind(name, slug, description string, duration, after, step, noticeHours, window int) schedule.TypeDraft {
	rules := schedule.TypeRules{Duration: duration, BookingRules: opentimes.PlainRules(after, step, noticeHours*60, window)}
	rules.Follows = []string{"limit", "holidays"}
	for group, same := range map[string]bool{
		"buffers": after == usual.After, "step": step == usual.Step, "notice": noticeHours*60 == usual.Notice, "window": window == usual.WindowDays,
	} {
		if same {
			rules.Follows = append(rules.Follows, group)
		}
	}
	return schedule.TypeDraft{Name: name, Slug: slug, Description: description, Rules: rules}
}

// with is the draft with other rules beside.
func with(d schedule.TypeDraft, change func(*schedule.TypeRules)) schedule.TypeDraft {
	change(&d.Rules)
	return d
}

var advisers = []adviser{
	{app.NewPerson{Name: "Ines Valadares", Mail: "ines@quillmere.example", Zone: "Europe/Lisbon", Week: weekdays("9-12, 13-17", "9-12, 13-17", "9-12, 13-18:30", "10-16", "9-12, 13-16")},
		"ines", []string{"Work", "Family"}, []schedule.TypeDraft{
			kind("Gallery light survey", "survey", "We walk through your rooms on video and note every lamp, window and hour of light. Have a floor plan at hand.", 50, 10, 15, 24, 60),
			kind("Loan condition call", "loan-call", "Before objects travel: how much light they have had, how much they may still have, and what the borrower must promise.", 30, 15, 15, 4, 45),
			kind("First conversation", "first-conversation", "Fifteen minutes to find out whether we can help.", 15, 0, 15, 2, 30),
		}},
	{app.NewPerson{Name: "Torvald Brekke", Mail: "torvald@quillmere.example", Zone: "Europe/Oslo", Week: weekdays("8-11:30, 12-16", "8-11:30, 12-16", "8-11:30, 12-16", "8-11:30, 12-16", "8-11")},
		"torvald", []string{"Work"}, []schedule.TypeDraft{
			with(kind("Daylight walk-through", "daylight", "Blinds, films and north light: what your windows let in through the year.", 45, 15, 30, 24, 60), func(r *schedule.TypeRules) {
				r.Hours = &schedule.OwnHours{Week: []string{"9-15:30", "9-15:30", "9-15:30", "9-15:30", "9-15:30", "closed", "closed"}}
			}),
			with(kind("Evening course", "evening-course", "Four evenings on light in small museums: daylight, lamps, meters, and a plan of your own rooms.", 90, 15, 30, 24, 90), func(r *schedule.TypeRules) {
				r.Seats, r.Sessions, r.Whole = 6, true, true
			}),
			kind("Site visit", "site-visit", "We come with meters and look at your rooms by day and after dark.", 180, 60, 60, 48, 60),
		}},
	{app.NewPerson{Name: "Maren Achterberg", Mail: "maren@quillmere.example", Zone: "Europe/Amsterdam", Week: weekdays("9-12, 13-17", "9-12, 13-17", "13-17", "9-12, 13-17", "9-12")},
		"maren", []string{"Work"}, []schedule.TypeDraft{
			with(kind("Case lighting review", "case-review", "One showcase at a time: lamps, heat, glare and the people in front of it.", 60, 15, 30, 48, 60), func(r *schedule.TypeRules) {
				r.Others = []int{90, 120}
			}),
			with(kind("Dimming workshop", "dimming-workshop", "Four colleagues from other houses, one dark room, and the same object under ten levels of light.", 90, 15, 30, 12, 90), func(r *schedule.TypeRules) {
				r.Seats, r.Sessions = 4, true
			}),
		}},
	{app.NewPerson{Name: "Siew Lin Dao", Mail: "siewlin@quillmere.example", Zone: "Asia/Singapore", Week: weekdays("9-12, 14-18", "9-12, 14-18", "9-12, 14-18", "9-12, 14-18", "9-13")},
		"siewlin", []string{"Work"}, []schedule.TypeDraft{
			with(kind("Lux meter lesson", "lux-lesson", "Bring your own meter. Afterwards you can trust what it says.", 40, 10, 20, 12, 60), func(r *schedule.TypeRules) {
				r.UpTo, r.UpBy = 120, 20
			}),
		}},
	{app.NewPerson{Name: "Callum Whitlock", Mail: "callum@quillmere.example", Zone: "America/Toronto", Week: weekdays("8:30-12, 13-16:30", "8:30-12, 13-16:30", "8:30-12, 13-16:30", "8:30-12, 13-16:30", "8:30-12")},
		"callum", []string{"Work"}, []schedule.TypeDraft{
			kind("Loan condition call, Americas", "loan-call-americas", "The same call in your part of the day.", 30, 15, 15, 4, 45),
			with(kind("Lux meter clinic", "lux-clinic", "Bring a meter and a question. You hear the others' questions too, and that is half of it.", 60, 15, 30, 12, 60), func(r *schedule.TypeRules) {
				r.Seats = 8
			}),
		}},
}

// event is an entry of a stand-in calendar: so many days from today, on the person's wall clock.
type event struct {
	user     string
	calendar int
	day      int
	from, to string
	title    string
	more     []string
}

var events = []event{
	{"ines", 0, 0, "11:00", "11:45", "Depot inspection", nil},
	{"ines", 0, 1, "09:00", "10:00", "Lamp supplier", nil},
	{"ines", 0, 1, "15:00", "16:00", "Studio visit", nil},
	{"ines", 0, 2, "13:00", "14:30", "Light plan, north wing", nil},
	{"ines", 0, 4, "10:00", "12:00", "Board of trustees", []string{"STATUS:TENTATIVE"}},
	{"ines", 0, 5, "12:00", "13:30", "Lunch with lenders", nil},
	{"ines", 0, 7, "14:00", "15:30", "Installation, room 4", nil},
	{"ines", 0, 8, "09:30", "11:00", "Studio visit", nil},
	{"ines", 0, 12, "13:00", "17:00", "Mock-up day", nil},
	{"ines", 0, -21, "16:30", "17:00", "Weekly round", []string{"RRULE:FREQ=WEEKLY"}},
	{"ines", 0, 6, "09:00", "17:00", "Conference (only listening)", []string{"TRANSP:TRANSPARENT"}},
	{"ines", 1, 2, "08:30", "09:30", "School", nil},
	{"ines", 1, 6, "16:00", "18:00", "Dentist", nil},
	{"ines", 1, 9, "11:00", "12:00", "Piano tuner", nil},
	{"torvald", 0, 1, "09:30", "11:30", "Site meeting", nil},
	{"torvald", 0, 2, "14:00", "15:30", "Film samples", nil},
	{"maren", 0, 1, "13:00", "14:30", "Showcase builder", nil},
	{"maren", 0, 3, "09:00", "10:00", "Registrar", nil},
	{"siewlin", 0, 1, "10:00", "11:00", "Calibration", nil},
	{"callum", 0, 1, "13:00", "14:00", "Courier", nil},
	{"studio", 0, 1, "10:00", "11:30", "Test room in use", nil},
	{"studio", 0, 3, "14:00", "16:00", "Test room in use", nil},
}

type visit struct {
	daysAgo      int // when it was booked
	slug         string
	day          int
	at           string // the open time nearest to this is taken
	name, mail   string
	zone, remark string
	then         string // "moved" or "cancelled" a day ago; or it is full, and they wait
}

const waits = "waits"

var visits = []visit{
	{6, "survey", 0, "09:45", "Museu da Ria", "visitas@museudaria.example", "Europe/Lisbon", "Two rooms of watercolours, south windows.", ""},
	{9, "loan-call", -4, "11:00", "Abbey Glass House", "keys@abbeyglass.example", "Europe/Dublin", "", ""},
	{5, "loan-call", 0, "13:00", "Oluwaseun Adeyemi-Clarke", "oluwaseun@harbourmaritime.example", "America/Halifax", "Two pastels, one map on vellum.", ""},
	{4, "survey", 0, "15:00", "Tromsø Light Museum", "post@tromsolys.example", "Europe/Oslo", "Asks for a visit plan before the dark months end.", ""},
	{3, "first-conversation", 1, "11:00", "Penang Map Rooms", "hello@penangmaps.example", "Asia/Kuala_Lumpur", "", ""},
	{3, "survey", 1, "13:15", "Fort Erie Textile House", "keeper@forterietextile.example", "America/Toronto", "Quilts on open display.", ""},
	{2, "loan-call", 2, "10:30", "Studio Havel", "loans@studiohavel.example", "Europe/Prague", "", "cancelled"},
	{2, "survey", 5, "10:00", "Lakehead Survey Museum", "office@lakeheadsurvey.example", "America/Toronto", "Ask for Priya at the door camera.", "moved"},
	{1, "loan-call", 6, "14:00", "Casa das Aguarelas", "casa@aguarelas.example", "Atlantic/Azores", "Forty sheets, never shown before.", ""},
	{1, "first-conversation", 7, "09:30", "Hokitika Jade Hall", "rangi@jadehall.example", "Pacific/Auckland", "", ""},
	{2, "daylight", 1, "12:30", "Nordfjord Boat Hall", "kontakt@nordfjordboat.example", "Europe/Oslo", "A glass roof from 1912.", ""},
	{9, "lux-advice", 3, "10:00", "Kielder Water Gallery", "desk@kieldergallery.example", "Europe/London", "Lamps hum.", ""},
	{8, "lux-advice", 3, "12:00", "Museo del Grano", "info@museodelgrano.example", "Europe/Madrid", "", ""},
	{8, "lux-advice", 4, "10:30", "Sint-Janshuis", "balie@sintjanshuis.example", "Europe/Brussels", "", "cancelled"},
	{6, "lux-advice", 5, "14:00", "Ballarat Tin Rooms", "office@tinrooms.example", "Australia/Melbourne", "", ""},
	{5, "lux-advice", 6, "09:30", "Kaunas Clock House", "kontaktai@clockhouse.example", "Europe/Vilnius", "", ""},
	{3, "two-adviser-review", 8, "10:30", "Gruyère Lace Museum", "musee@gruyerelace.example", "Europe/Zurich", "A case the size of a bus.", ""},
	{1, "site-visit", 9, "10:00", "Ribe Tide House", "post@ribetide.example", "Europe/Copenhagen", "The nave is open to the west.", ""},
	{0, "site-visit", 12, "12:00", "Oaxaca Loom Museum", "telar@oaxacaloom.example", "America/Mexico_City", "", ""},
	{7, "lux-clinic", 3, "13:30", "Oaxaca Loom Museum", "telar@oaxacaloom.example", "America/Mexico_City", "Ours shows half of what the old one did.", ""},
	{6, "lux-clinic", 3, "13:30", "Lakehead Survey Museum", "office@lakeheadsurvey.example", "America/Toronto", "", ""},
	{4, "lux-clinic", 3, "13:30", "Moncton Tide Archive", "hello@monctontide.example", "America/Moncton", "", ""},
	{3, "lux-clinic", 3, "13:30", "Fort Erie Textile House", "keeper@forterietextile.example", "America/Toronto", "", "cancelled"},
	{2, "lux-clinic", 3, "13:30", "Galena Lamp Rooms", "desk@galenalamps.example", "America/Chicago", "", ""},
	{6, "dimming-workshop", 8, "17:30", "Tromsø Light Museum", "post@tromsolys.example", "Europe/Oslo", "", ""},
	{5, "dimming-workshop", 8, "17:30", "Sint-Janshuis", "balie@sintjanshuis.example", "Europe/Brussels", "We bring the object.", ""},
	{4, "dimming-workshop", 8, "17:30", "Kaunas Clock House", "kontaktai@clockhouse.example", "Europe/Vilnius", "", ""},
	{2, "dimming-workshop", 8, "17:30", "Gruyère Lace Museum", "musee@gruyerelace.example", "Europe/Zurich", "", ""},
	{1, "dimming-workshop", 8, "17:30", "Museo del Grano", "info@museodelgrano.example", "Europe/Madrid", "", waits},
	{1, "dimming-workshop", 8, "17:30", "Abbey Glass House", "keys@abbeyglass.example", "Europe/Dublin", "", waits},
	{2, "dimming-workshop", 15, "17:30", "Het Kleine Kabinet", "balie@kleinekabinet.example", "Europe/Amsterdam", "", ""},
	{5, "evening-course", 8, "18:30", "Nordfjord Boat Hall", "kontakt@nordfjordboat.example", "Europe/Oslo", "", ""},
	{4, "evening-course", 8, "18:30", "Kaunas Clock House", "kontaktai@clockhouse.example", "Europe/Vilnius", "", ""},
	{3, "evening-course", 8, "18:30", "Ribe Tide House", "post@ribetide.example", "Europe/Copenhagen", "", ""},
	{2, "case-review", 2, "13:30", "Het Kleine Kabinet", "balie@kleinekabinet.example", "Europe/Amsterdam", "Eleven cases, all different.", ""},
}

// Planter plants the demo.
type Planter struct {
	App         *app.App
	Clock       *Clock
	Calendars   *calendar.Server
	CalendarURL string
}

// Plant makes the workspace, its people with their calendars and meeting types, and bookings. The app must be running.
func (p Planter) Plant(ctx context.Context) error {
	people, err := p.people(ctx)
	if err != nil {
		return err
	}
	if err := p.workspace(ctx, people[0]); err != nil {
		return err
	}
	if err := p.events(); err != nil {
		return err
	}
	for i, a := range advisers {
		account := app.Account{Address: p.CalendarURL, Username: a.user, Password: Password}
		if _, err := p.App.Connect(ctx, people[i], account); err != nil {
			return fmt.Errorf("connecting the calendars of %s: %w", a.Name, err)
		}
		for _, t := range a.types {
			if _, err := p.App.SaveMeetingType(ctx, people[i], 0, t, settings.Saving{}); err != nil {
				return err
			}
		}
	}
	defer p.Clock.setBack(0)
	p.Clock.setBack(30 * 24 * time.Hour) // the teams are no newcomers
	if err := p.routing(ctx, people); err != nil {
		return fmt.Errorf("routing: %w", err)
	}
	if err := p.offers(ctx, people[ines]); err != nil {
		return err
	}
	if err := p.sessions(ctx, people); err != nil {
		return fmt.Errorf("sessions: %w", err)
	}
	for _, v := range visits {
		if err := p.visit(ctx, v); err != nil {
			return fmt.Errorf("booking for %s: %w", v.name, err)
		}
	}
	p.Clock.setBack(0)
	for _, person := range people { // what was read on the clock of a month ago is old
		if _, err := p.App.ReadCalendars(ctx, person); err != nil {
			return err
		}
	}
	return nil
}

func (p Planter) people(ctx context.Context) ([]schedule.Person, error) {
	var newcomers []app.NewPerson
	for _, a := range advisers {
		a.Password = Password
		newcomers = append(newcomers, a.NewPerson)
		user := calendar.User{Name: a.user, FullName: a.Name, Mail: a.Mail, Zone: a.Zone, Password: Password}
		if _, err := p.Calendars.AddUser(user, a.calendars...); err != nil {
			return nil, err
		}
	}
	studio := calendar.User{Name: "studio", FullName: "The test room", Mail: "studio@quillmere.example", Zone: "Europe/Lisbon", Password: Password}
	if _, err := p.Calendars.AddUser(studio, "Test room"); err != nil {
		return nil, err
	}
	ids, err := p.App.AddWorkspace(ctx, Workspace, "Quillmere Light Advisers", newcomers...)
	if err != nil {
		return nil, err
	}
	people := make([]schedule.Person, len(ids))
	for i, id := range ids {
		if people[i], err = p.App.Person(ctx, id); err != nil {
			return nil, err
		}
	}
	return people, nil
}

func (p Planter) workspace(ctx context.Context, coordinator schedule.Person) error {
	view, err := p.App.Workspace(ctx, coordinator)
	if err != nil {
		return err
	}
	view.Rules, view.Front = usual, front
	if _, err = p.App.SaveWorkspace(ctx, coordinator, view.Workspace); err != nil {
		return err
	}
	if _, err = p.App.AddHolidays(ctx, coordinator, settings.HolidayFile{Name: "Portugal", Text: holidays}); err != nil {
		return err
	}
	_, err = p.App.SaveMessages(ctx, coordinator, 0, messages)
	return err
}

// messages are what Quillmere's clients are mailed by the clock, and some in words of its own.
var messages = app.MessageDraft{
	Rules: []message.Rule{
		{Receiver: message.ToClient, Minutes: 24 * 60, Side: message.Before, If: message.Always},
		{Receiver: message.ToClient, Minutes: 2 * 60, Side: message.Before, If: message.Unconfirmed, Words: message.Own{"en": {
			Subject: "Today at {{time}}: will you be there?",
			Opening: "Good day,\nyour {{type}} with {{hosts}} is today at {{time}}.{{#video}} A quiet place and good light help.{{/video}}",
			Closing: "One press on the page below is enough, and we know that you come.",
		}}},
		{Receiver: message.ToClient, Minutes: 24 * 60, At: "09:00", Side: message.After, If: message.Attended, Asks: true},
		{Receiver: message.ToClient, Minutes: 30, Side: message.After, If: message.Missed},
		{Receiver: message.ToClient, By: message.ByText, Minutes: 60, Side: message.Before, If: message.Always, Words: message.Own{"en": {
			Opening: "{{type}} in an hour, at {{time}}.{{#video}} {{where}}{{/video}}",
		}}},
	},
	Quiet: message.Quiet{From: "21:00", Until: "08:00"},
}

// holidays are the days of fixed date that are public holidays in Portugal, from memory; nobody keeps them free until they say so.
//
//go:embed holidays.ics
var holidays string

func (p Planter) events() error {
	zones := map[string]string{"studio": "Europe/Lisbon"}
	for _, a := range advisers {
		zones[a.user] = a.Zone
	}
	for _, e := range events {
		from, err := p.onDay(zones[e.user], e.day, e.from)
		if err != nil {
			return err
		}
		to, err := p.onDay(zones[e.user], e.day, e.to)
		if err != nil {
			return err
		}
		if err := p.Calendars.AddEvent(e.user, e.calendar, e.title, from, to, e.more...); err != nil {
			return err
		}
	}
	return nil
}

// onDay is a wall-clock time so many days from today.
func (p Planter) onDay(zone string, day int, clock string) (time.Time, error) {
	z, err := civil.LoadZone(zone)
	if err != nil {
		return time.Time{}, err
	}
	t, err := time.Parse("15:04", clock)
	if err != nil {
		return time.Time{}, err
	}
	date := civil.DateOf(span.At(p.Clock.True()), z).AddDays(day)
	return civil.Clock{Date: date, Seconds: t.Hour()*3600 + t.Minute()*60}.Instant(z).Time(), nil
}

// phones are those of clients who want text messages: numbers that the United Kingdom keeps for made-up stories (Ofcom's numbers for
// drama, from memory).
var phones = map[string]string{"Lakehead Survey Museum": "+44 7700 900123", "Tromsø Light Museum": "+44 7700 900456"}

// sessions are the dates of the workshop, on Tuesday evenings and once on a Thursday somewhere else, and of two courses of four Thursday evenings; all after hours.
func (p Planter) sessions(ctx context.Context, people []schedule.Person) error {
	tuesday, thursday := p.next(time.Tuesday), p.next(time.Thursday)
	for _, s := range []struct {
		host         int
		search, text string
		special      app.SessionDetails
	}{
		{maren, "Dimming workshop", fmt.Sprintf("Tuesdays 17:30-19:00 from %s, 6 times, not %s", tuesday, tuesday.AddDays(21)), app.SessionDetails{}},
		{maren, "Dimming workshop", fmt.Sprintf("%s 17:30-19:00", tuesday.AddDays(23)), app.SessionDetails{
			About: "This once with lamps: bring a dimmer of your own.", Way: &schedule.Way{Kind: "ours", Text: "Rua do Farol 12, Lisbon\nThe door beside the lamp shop; ring at Quillmere."},
		}},
		{torvald, "Evening course", fmt.Sprintf("Thursdays 18:30-20:00 from %s, 4 times", thursday), app.SessionDetails{}},
		{torvald, "Evening course", fmt.Sprintf("Thursdays 18:30-20:00 from %s, 4 times", thursday.AddDays(35)), app.SessionDetails{}},
	} {
		types, err := p.App.MeetingTypes(ctx, people[s.host], settings.TypeFilter{Search: s.search})
		if err != nil {
			return err
		}
		if len(types) != 1 {
			return fmt.Errorf("there are %d of %s", len(types), s.search)
		}
		wish := app.SessionWish{Type: types[0].ID, Text: s.text, SessionDetails: s.special}
		if _, err := p.App.SetGroupSessions(ctx, people[s.host], app.NewSessions{SessionWish: wish, Outside: true}); err != nil {
			return err
		}
	}
	return nil
}

// next is the first of a weekday, a week from today or later.
func (p Planter) next(day time.Weekday) civil.Date {
	date := civil.DateOf(span.At(p.Clock.True()), time.UTC).AddDays(7)
	for date.Weekday() != day {
		date = date.AddDays(1)
	}
	return date
}

// visit books, and a day ago moves or cancels, as a client would.
func (p Planter) visit(ctx context.Context, v visit) error {
	p.Clock.setBack(time.Duration(v.daysAgo) * 24 * time.Hour)
	start, err := p.openNear(ctx, v, 0)
	if err != nil {
		return err
	}
	request := schedule.BookingRequest{Start: start, Name: v.name, Mail: v.mail, Zone: v.zone, Remark: v.remark, Said: said[v.name], Given: addresses[v.name], Phone: phones[v.name], Texts: phones[v.name] != ""}
	request.Wait, request.Along = v.then == waits, brings[v.slug+" "+v.name]
	booking, err := p.App.Book(ctx, Workspace, v.slug, "demo "+v.slug+" "+v.name, request)
	if err != nil || v.then == "" || v.then == waits {
		return err
	}
	p.Clock.setBack(20 * time.Hour)
	link := booking.Link[len("/b/"):]
	if v.then == "cancelled" {
		_, err = p.App.Cancel(ctx, link, "The loan is postponed to spring.")
		return err
	}
	if start, err = p.openNear(ctx, v, 1); err != nil {
		return err
	}
	_, err = p.App.Move(ctx, link, start)
	return err
}

// openNear finds the open time nearest to the wanted one, so many days later.
func (p Planter) openNear(ctx context.Context, v visit, later int) (time.Time, error) {
	wanted, err := p.onDay(zoneOfType(v.slug), v.day+later, v.at)
	if err != nil {
		return time.Time{}, err
	}
	open, err := p.App.OpenTimes(ctx, Workspace, v.slug, schedule.TimesWanted{From: wanted.AddDate(0, 0, -2), To: wanted.AddDate(0, 0, 6)})
	if err != nil {
		return time.Time{}, err
	}
	if v.then == waits && len(open.Full) > 0 {
		return open.Full[0].Start, nil
	}
	best := time.Time{}
	for _, t := range open.Starts {
		if best.IsZero() || t.Sub(wanted).Abs() < best.Sub(wanted).Abs() {
			best = t
		}
	}
	if best.IsZero() {
		return best, fmt.Errorf("nothing is open near %s", wanted)
	}
	return best, nil
}

func zoneOfType(slug string) string {
	for _, a := range advisers {
		for _, t := range a.types {
			if t.Slug == slug {
				return a.Zone
			}
		}
	}
	return "UTC"
}

// adviser's place in the list of advisers.
const (
	ines = iota
	torvald
	maren
	siewlin
	callum
)

// attributes are what the advisers speak and where they advise.
var attributes = map[int]map[string][]string{
	ines:    {"language": {"English", "Portuguese"}, "region": {"Europe"}},
	torvald: {"language": {"English", "Norwegian", "German"}, "region": {"Europe"}},
	maren:   {"language": {"English", "Dutch", "German"}, "region": {"Europe"}},
	siewlin: {"language": {"English", "Malay"}, "region": {"Asia and Pacific"}},
	callum:  {"language": {"English", "French"}, "region": {"Americas"}},
}

// shared are meeting types with several hosts, one of each way of finding one.
var shared = []struct {
	draft schedule.TypeDraft
	way   routing.Mode
	hosts []schedule.PoolMember // the person is a place among the advisers until it is planted
	north bool                  // hosted by Team North instead
	set   func(*schedule.TypeRouting)
}{
	{kind("Light advice call", "lux-advice", "A question about lamps, lux or glass, answered by whoever of the north team is free.", 30, 10, 15, 12, 45), routing.InTurn,
		[]schedule.PoolMember{{Person: maren, Weight: 2}}, true, func(r *schedule.TypeRouting) {
			r.Returning = true
			r.Rules = []schedule.AnswerRule{{Attribute: "language", Values: []string{"Dutch", "Norwegian"}}}
		}},
	{kind("Conservator's hour", "conservators-hour", "Choose whom you want to talk to, or take whoever is free.", 60, 15, 30, 24, 60), routing.ByClient,
		[]schedule.PoolMember{{Person: torvald, Weight: 1}, {Person: maren, Weight: 1}, {Person: callum, Weight: 1}}, false, nil},
	{kind("Urgent lamp failure", "urgent", "Something has gone dark, or far too bright.", 15, 0, 15, 0, 3), routing.InOrder,
		[]schedule.PoolMember{{Person: callum, Weight: 1}, {Person: torvald, Weight: 1}, {Person: siewlin, Weight: 1}}, false, nil},
	{kind("Reading of measurements", "readings", "We go through your logger files together.", 40, 10, 20, 24, 45), routing.LeastBooked,
		[]schedule.PoolMember{{Person: siewlin, Weight: 1}, {Person: callum, Weight: 1}}, false, func(r *schedule.TypeRouting) { r.Period = "month" }},
	{kind("Two-adviser case review", "two-adviser-review", "Big cases deserve two pairs of eyes.", 60, 15, 30, 48, 60), routing.Together,
		[]schedule.PoolMember{{Person: torvald, Weight: 1}, {Person: maren, Weight: 1}}, false, nil},
	{kind("Lighting plan review", "plan-review", "Torvald is always there, and one colleague who knows your part of the world.", 50, 10, 30, 48, 60), routing.SomeAndOne,
		[]schedule.PoolMember{{Person: torvald, Weight: 1, Always: true}, {Person: maren, Weight: 1}, {Person: callum, Weight: 1}}, false, nil},
}

// routing gives the advisers attributes and teams, and plants the shared meeting types, which Torvald looks after.
func (p Planter) routing(ctx context.Context, people []schedule.Person) error {
	owner := people[ines]
	for i, person := range people {
		change := app.PersonChange{Name: person.Name, Zone: person.Zone, Role: person.Role, Bookable: true, Attributes: attributes[i]}
		if _, err := p.App.ChangePerson(ctx, owner, person.ID, change); err != nil {
			return err
		}
	}
	staff, err := p.App.SaveTeam(ctx, owner, 0, app.TeamChange{Name: "Team North", Members: []int64{people[torvald].ID, people[maren].ID}})
	if err != nil {
		return err
	}
	north := staff.Teams[0].ID
	if _, err := p.App.SaveTeam(ctx, owner, 0, app.TeamChange{Name: "Team Overseas", Members: []int64{people[siewlin].ID, people[callum].ID}}); err != nil {
		return err
	}
	for _, s := range shared {
		t, err := p.App.SaveMeetingType(ctx, people[torvald], 0, s.draft, settings.Saving{Accept: true})
		if err != nil {
			return err
		}
		r := schedule.TypeRouting{Mode: s.way, Period: "always"}
		for _, place := range s.hosts {
			place.Person, place.Through = people[place.Person].ID, s.north
			r.People = append(r.People, place)
		}
		if s.north {
			r.Teams = []int64{north}
		}
		if s.set != nil {
			s.set(&r)
		}
		if _, err := p.App.SaveRouting(ctx, owner, t.ID, settings.RoutingChange{Routing: r, Who: "anyone"}); err != nil {
			return err
		}
	}
	return nil
}
