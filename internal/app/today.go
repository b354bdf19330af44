package app

import (
	"context"
	"slices"
	"time"

	"corrim/core/civil"
	words "corrim/core/message"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/schedule"
	"corrim/internal/store/sqlc"
)

// Today is what a host needs to know now.
type Today struct {
	Now       time.Time          `json:"now"`
	Date      string             `json:"date" format:"date"`
	Minute    int                `json:"minute" doc:"Of the wall clock."`
	Zone      string             `json:"zone"`
	Ribbon    schedule.Ribbon    `json:"ribbon"`
	NextDay   *schedule.Ribbon   `json:"nextDay,omitempty" doc:"On a day without hours or meetings: the next one with any, within a fortnight."`
	Meetings  []HostBooking      `json:"meetings" doc:"Of today and the coming week, in order."`
	Troubles  []schedule.Trouble `json:"troubles"`
	Clashes   []Clash            `json:"clashes" doc:"Coming bookings that no longer agree with the host's calendars."`
	Recent    []Recent           `json:"recent" doc:"Since yesterday, newest first."`
	Doubts    []Doubt            `json:"doubts" doc:"Sessions to which few have signed up, the next first."`
	Requests  []RequestedBooking `json:"requests" doc:"What has to be decided, the most urgent first."`
	Gathering bool               `json:"gathering,omitempty" doc:"For a coordinator: what is told of colleagues is still being worked out. Ask again in a moment."`

	Others []HostBooking `json:"others" doc:"For a coordinator: the colleagues' meetings of today and tomorrow, in order."`
}

// HostBooking is a booking as its host sees it.
type HostBooking struct {
	ID         int64             `json:"id"`
	Version    int64             `json:"version" doc:"Rises with every change; a move carries the one that was seen."`
	Start      time.Time         `json:"start"`
	End        time.Time         `json:"end"`
	Type       string            `json:"type"`
	Client     string            `json:"client"`
	Mail       string            `json:"mail"`
	ClientZone string            `json:"clientZone"`
	Remark     string            `json:"remark"`
	JoinURL    string            `json:"joinUrl,omitempty"`
	Host       string            `json:"host,omitempty" doc:"Of a colleague's."`
	Filling    *schedule.Filling `json:"filling,omitempty" doc:"Of a meeting that clients share; the client is the first of them."`

	State     string   `json:"state" enum:"unproved,requested,booked,attended,no-show,cancelled,declined,expired,scheduled,waiting,offered"`
	Confirmed bool     `json:"confirmed" doc:"The client has said that they come."`
	Where     string   `json:"where,omitempty" doc:"If not by video: where or how one meets."`
	Said      []Fact   `json:"said" doc:"What the client answered."`
	Guests    []string `json:"guests"`
	Notes     string   `json:"notes,omitempty" doc:"The type's, for hosts only."`
	Checklist []string `json:"checklist,omitempty"`

	Feedback *Feedback `json:"feedback,omitempty" doc:"What the client said of it afterwards."`

	Files []AttachedFile `json:"files,omitempty" doc:"That the client sent."`

	typeID int64
}

// Recent is a step of a booking.
type Recent struct {
	At     time.Time `json:"at"`
	Kind   string    `json:"kind" enum:"held,requested,booked,approved,declined,proposed,taken,expired,rescheduled,cancelled,asked,reassigned,confirmed,corrected,changed,given,doubted,kept,attended,no-show,unmarked,scheduled,queued,offered,notified,lapsed,dismissed,called-off,written"`
	Client string    `json:"client"`
	Type   string    `json:"type"`
	Start  time.Time `json:"start"`
	Note   string    `json:"note"`
}

const (
	comingDays = 8 // today and a week

)

// Today gathers the person's day.
func (a *App) Today(ctx context.Context, p schedule.Person) (Today, error) {
	now := a.Now()
	date := civil.DateOf(span.At(now), p.Local)
	drawer := schedule.NewDayDrawer(date, p.Local)
	agenda, err := a.WholeAgenda(ctx, a.Store.Queries, p, a.Fortnight(p))
	if err != nil {
		return Today{}, err
	}
	t := Today{Now: now.UTC(), Date: date.String(), Minute: drawer.Minute(span.At(now)), Zone: p.Zone, Ribbon: drawer.Ribbon()}
	drawer.Background(&t.Ribbon, agenda)
	t.NextDay = nextDay(t.Ribbon, agenda, drawer)
	t.Meetings = meetingsOf(agenda.Bookings, span.Span{Start: drawer.Day.Start, End: date.AddDays(comingDays).Start(p.Local)})
	empty, err := a.ownEmptyTypes(ctx, p)
	if err != nil {
		return t, err
	}
	if t.Recent, err = a.recent(ctx, p, date.AddDays(-1).Start(p.Local)); err != nil {
		return t, err
	}
	if t.Clashes, err = a.clashes(ctx, p); err != nil {
		return t, err
	}
	if t.Troubles, err = a.troubles(ctx, p); err != nil {
		return t, err
	}
	for _, e := range empty {
		t.Troubles = append(t.Troubles, e.trouble)
	}
	if t.Doubts, err = a.doubts(ctx, p); err != nil {
		return t, err
	}
	if t.Requests, err = a.requests(ctx, p); err != nil {
		return t, err
	}
	if err := a.addNotes(ctx, t.Meetings); err != nil {
		return t, err
	}
	t.Others = []HostBooking{}
	if !p.May(identity.SeeEverybodys) {
		return t, nil
	}
	news, known, err := a.newsOf(ctx, p)
	if err != nil {
		return t, err
	}
	t.Gathering = !known
	for _, e := range news.empty {
		if own := e.kind.HostID == p.ID || slices.Contains(e.kind.Hosts, p.ID); !own && e.mends(p) {
			t.Troubles = append(t.Troubles, e.trouble)
		}
	}
	return t, a.addOthers(ctx, p, &t, news)
}

// nextDay is the first day on which there is something to do, if today is none.
func nextDay(today schedule.Ribbon, g schedule.Agenda, drawer schedule.DayDrawer) *schedule.Ribbon {
	if today.Working() {
		return nil
	}
	for i := 1; i < schedule.CountDays; i++ {
		next := schedule.NewDayDrawer(drawer.Date.AddDays(i), drawer.Zone)
		r := next.Ribbon()
		if next.Background(&r, g); r.Working() {
			return &r
		}
	}
	return nil
}

// addNotes adds what the types say to their hosts, and the files that clients sent.
func (a *App) addNotes(ctx context.Context, meetings []HostBooking) error {
	ids := make([]int64, len(meetings))
	for i, m := range meetings {
		ids[i] = m.ID
	}
	files, err := a.filesOf(ctx, ids...)
	if err != nil {
		return err
	}
	offers := map[int64]schedule.BookingPage{}
	for i, m := range meetings {
		offer, known := offers[m.typeID]
		if !known {
			row, err := a.Store.MeetingType(ctx, m.typeID)
			if err != nil {
				return err
			}
			if offer, err = schedule.BookingPageOf(row); err != nil {
				return err
			}
			offers[m.typeID] = offer
		}
		meetings[i].Notes, meetings[i].Checklist, meetings[i].Files = offer.Notes, offer.Checklist, files[m.ID]
	}
	return nil
}

// addOthers adds what a coordinator needs to know of the colleagues.
func (a *App) addOthers(ctx context.Context, p schedule.Person, t *Today, news teamNews) error {
	date := a.TodayOf(p)
	rows, err := a.Store.MeetingsOfWorkspace(ctx, sqlc.MeetingsOfWorkspaceParams{WorkspaceID: p.Home.ID, RangeFrom: int64(date.Start(p.Local)), RangeTo: int64(date.AddDays(2).Start(p.Local))})
	if err != nil {
		return err
	}
	names, err := a.Names(ctx, p.Home.ID)
	if err != nil {
		return err
	}
	for _, row := range rows {
		if row.PersonID != p.ID {
			meeting := hostBooking(row.Booking)
			meeting.Host = names[row.PersonID]
			t.Others = append(t.Others, meeting)
		}
	}
	t.Clashes = append(t.Clashes, news.others(p, t.Clashes)...)
	return nil
}

func meetingsOf(rows []schedule.Hosted, within span.Span) []HostBooking {
	out := []HostBooking{}
	for _, b := range rows {
		if schedule.MeetingSpan(b.Booking).Overlaps(within) {
			out = append(out, hostBooking(b.Booking))
		}
	}
	return out
}

func hostBooking(b sqlc.Booking) HostBooking {
	form := formOf(b)
	_, where := form.Way.Where(words.In("en"), true)
	return HostBooking{
		State: b.Life, Confirmed: confirmed(b), Where: where, Said: factsOf(form.Said), Guests: append([]string{}, form.Guests...), typeID: b.TypeID, ID: b.ID, Version: b.Version, Start: time.Unix(b.StartAt, 0).UTC(), End: time.Unix(b.EndAt, 0).UTC(), Type: b.TypeName,
		Filling: schedule.FillingOf(b), Client: b.ClientName, Mail: b.ClientMail, ClientZone: b.ClientZone, Remark: b.Remark, JoinURL: roomOf(b).URL,
	}
}

func (a *App) recent(ctx context.Context, p schedule.Person, since span.Instant) ([]Recent, error) {
	rows, err := a.Store.RecentSteps(ctx, sqlc.RecentStepsParams{HostID: p.ID, Since: int64(since)})
	out := make([]Recent, len(rows))
	for i, r := range rows {
		out[i] = Recent{time.Unix(r.At, 0).UTC(), r.Kind, r.ClientName, r.TypeName, time.Unix(r.StartAt, 0).UTC(), r.Note}
	}
	return out, err
}

// troubles are calendars that can't be read and jobs that didn't go through.
func (a *App) troubles(ctx context.Context, p schedule.Person) ([]schedule.Trouble, error) {
	out := []schedule.Trouble{}
	calendars, err := a.Calendars(ctx, p)
	if err != nil {
		return out, err
	}
	receiving := false
	for _, c := range calendars {
		receiving = receiving || c.Receives
		if c.Trouble.Any() && c.Use == useBlocks {
			sentence := told.Join([]told.Words{c.Trouble, p.CalendarSettings.Meanwhile()}, " ")
			out = append(out, schedule.Trouble{Title: told.Say("calendar-unread", "“{}” calendar can't be read", c.Name), Sentence: sentence, Path: "/calendars", Label: seeCalendars})
		}
	}
	if !receiving {
		out = append(out, schedule.Trouble{
			Title: told.Say("no-calendar-receives", "No calendar receives your bookings"), Path: "/calendars", Label: told.Say("choose-a-calendar", "Choose a calendar"),
			Sentence: told.Say("bookings-only-here", "Bookings are kept here and told by mail, but your own calendar doesn't show them."),
		})
	}
	jobs, err := a.jobTroubles(ctx, p)
	if err != nil {
		return out, err
	}
	out = append(out, jobs...)
	returned, err := a.mailTroubles(ctx, p)
	if err != nil {
		return out, err
	}
	out = append(out, returned...)
	letters, err := a.letterTroubles(ctx, p)
	return append(out, letters...), err
}
