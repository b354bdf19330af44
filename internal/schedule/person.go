package schedule

import (
	"context"
	"encoding/json"
	"errors"
	"time"

	"corrim/core/civil"
	"corrim/core/hours"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// Address is a mail address with a name.
type Address struct{ Name, Mail string }

// RoomOptions is what a room should be like.
type RoomOptions struct {
	WaitingRoom     bool `json:"waitingRoom,omitempty" doc:"Whoever comes is let in by the host."`
	Passcode        bool `json:"passcode,omitempty"`
	NameRequired    bool `json:"nameRequired,omitempty"`
	RecordingNotice bool `json:"recordingNotice,omitempty" doc:"Everybody is told beforehand that the meeting is recorded."`
}

// SetupStep is the next step of setting up the person's workspace; 0 if it is done, or not theirs to do.
func (p Person) SetupStep() int {
	if !p.May(identity.EditWorkspace) {
		return 0
	}
	return p.Home.setupStep
}

// CalendarSettings is what a person decides about all their calendars.
type CalendarSettings struct {
	Unreachable string `json:"unreachable" enum:"trust,nothing" doc:"While a calendar can't be read: its last copy is trusted, or nothing is offered."`
	TrustHours  int    `json:"trustHours" minimum:"1" maximum:"720" doc:"How old the trusted copy may be."`
	EventChange string `json:"eventChange" enum:"ask,follow" doc:"If the host deletes or moves a booking's event in their calendar: asked about on Today, or done to the booking and told to the client."`
	OpenTitle   string `json:"openTitle" maxLength:"100" doc:"If set, only events with this title open time, instead of the week."`
	OpenType    int64  `json:"openType" doc:"The meeting type that this holds for; 0 for all."`
}

// BusySpan is when an event is.
func BusySpan(row sqlc.BusyRow) span.Span {
	return span.Span{Start: span.Instant(row.StartAt), End: span.Instant(row.EndAt)}
}

// WhoseClients is whose clients the person sees: 0 is everybody's.
func (p Person) WhoseClients() int64 {
	if p.May(identity.SeeEverybodys) {
		return 0
	}
	return p.ID
}

// Effect is what a change does to the open starts of a meeting type.
type Effect struct {
	Type   string `json:"type"`
	Host   string `json:"host" doc:"Who hosts it."`
	Weeks  int    `json:"weeks" doc:"How many weeks the figures are for."`
	Open   int    `json:"open"`
	Gained int    `json:"gained"`
	Lost   int    `json:"lost"`

	Days []EffectDay `json:"days" doc:"The first days that differ."`
}

// EffectDay is a day on which a change opens or closes starts, on the viewer's clock.
type EffectDay struct {
	Date   string `json:"date" format:"date"`
	Gained int    `json:"gained"`
	Lost   int    `json:"lost"`
}

// Trying is the person if somebody worked by a week from now on, which is a plan's if plan is not 0.
func (p Person) Trying(who, plan int64, week hours.Week) Person {
	if plan != 0 {
		p.Home.tried = &WeekPlan{ID: plan, Week: week.Texts()}
	}
	if p.ID == who || plan != 0 && p.PlanID == plan {
		p.Week = week
	}
	return p
}

// Person is somebody who can sign in, with their workspace and when they work.
type Person struct {
	identity.Person
	Home             Home             `json:"-"`
	Local            *time.Location   `json:"-"`
	Week             hours.Week       `json:"-"`
	Own              [7]string        `json:"-"` // the week that is theirs alone, even while they work by a plan
	PlanID           int64            `json:"-"` // 0 for none
	CalendarSettings CalendarSettings `json:"-"`
	marked           span.Set         // what events open, if their title does instead of the week
	Differs          []DayChange      `json:"-"` // the same as the next two, as rows
	Changes          []hours.Change   `json:"-"`
	Off              []hours.TimeOff  `json:"-"`
}

// Plan is the person's hours, for all meeting types but one whose hours come from the calendar.
func (p Person) Plan() hours.Plan { return p.PlanFor(0) }

// PlanFor is the person's hours for a meeting type; one not yet saved has the ID 0.
func (p Person) PlanFor(kind int64) hours.Plan {
	elsewhere := p.CalendarSettings.OpenTitle != "" && (p.CalendarSettings.OpenType == 0 || p.CalendarSettings.OpenType == kind)
	return hours.Plan{Zone: p.Local, Week: p.Week, Changes: p.Changes, TimeOff: p.Off, Elsewhere: elsewhere, Marked: p.marked}
}

// Address is where their mail goes.
func (p Person) Address() Address { return Address{p.Name, p.Mail} }

// Anybody returns a person even if they have left: their past bookings still name them.
func (s *Service) Anybody(ctx context.Context, q *sqlc.Queries, id int64) (Person, error) {
	row, err := q.Person(ctx, id)
	if err != nil {
		return Person{}, err
	}
	return s.PersonOf(ctx, q, row)
}

// keptPerson names what a person is worked out from, beside the tables in personTables.
type keptPerson struct {
	row  sqlc.Person
	hour int64 // years of time off move on
}

var personTables = []string{"workspace", "week_plan", "day_change"}

// PersonOf is the person of a row.
func (s *Service) PersonOf(ctx context.Context, q *sqlc.Queries, row sqlc.Person) (Person, error) {
	if q != s.store.Queries || row.OpenTitle != "" { // within a transaction; or by calendars, which change all the time
		return s.personAnew(ctx, q, row)
	}
	writes := s.store.Written(personTables...)
	return s.people.Get(keptPerson{row, s.now().Unix() / 3600}, writes, func() (Person, error) { return s.personAnew(ctx, q, row) })
}

func (s *Service) personAnew(ctx context.Context, q *sqlc.Queries, row sqlc.Person) (Person, error) {
	home, err := q.WorkspaceByID(ctx, row.WorkspaceID)
	if err != nil {
		return Person{}, err
	}
	p := Person{}
	if p.Person, err = identity.Of(row, home); err != nil {
		return p, err
	}
	p.Local = p.Clock()
	if p.Home, err = WorkspaceOf(home); err != nil {
		return p, err
	}
	if err := json.Unmarshal([]byte(row.Week), &p.Own); err != nil {
		return p, err
	}
	texts := p.Own
	if row.PlanID.Valid {
		plan, err := PlanByID(ctx, q, p.Home, row.PlanID.Int64)
		if err != nil {
			return p, err
		}
		p.PlanID, texts = plan.ID, plan.Week
	}
	if p.Week, err = hours.ParseStoredWeek(texts); err != nil {
		return p, err
	}
	if p.Differs, err = DayChanges(ctx, q, p.ID); err != nil {
		return p, err
	}
	if p.Changes, p.Off, err = s.Differing(p.Differs, p.Local); err != nil {
		return p, err
	}
	p.CalendarSettings = CalendarSettings{row.Unreachable, int(row.TrustHours), row.EventChange, row.OpenTitle, row.OpenType.Int64}
	if p.CalendarSettings.OpenTitle != "" {
		p.marked, err = openMarks(ctx, q, p.ID)
	}
	return p, err
}

// openMarks is what events with the agreed title open.
func openMarks(ctx context.Context, q *sqlc.Queries, person int64) (span.Set, error) {
	rows, err := q.OpenMarks(ctx, person)
	spans := make([]span.Span, len(rows))
	for i, row := range rows {
		spans[i] = span.Span{Start: span.Instant(row.StartAt), End: span.Instant(row.EndAt)}
	}
	return span.UnionInPlace(spans), err
}

// WeekTextsJSON is the hours of a week, from Monday on, as they are stored.
func WeekTextsJSON(texts [7]string) string {
	text, _ := json.Marshal(texts) // an array of strings always can be
	return string(text)
}

// Team is a named group of people.
type Team struct {
	ID      int64   `json:"id"`
	Name    string  `json:"name"`
	Slug    string  `json:"slug" doc:"In the address of its page."`
	Members []int64 `json:"members"`
}

// Leave is the person's present or next time off of whole days within eight weeks, in words.
func (p Person) Leave(now span.Instant) told.Words {
	var next hours.TimeOff
	for _, off := range p.Off {
		s := off.Span(p.Local)
		if off.Last == (civil.Date{}) || s.End <= now || s.Start > now.Add(8*7*24*time.Hour) {
			continue
		}
		if next.Last == (civil.Date{}) || s.Start < next.Span(p.Local).Start {
			next = off
		}
	}
	if next.Last == (civil.Date{}) {
		return told.Words{}
	}
	last := told.ShortDate(next.Last.Start(p.Local), p.Local)
	if next.Span(p.Local).Start <= now {
		return told.Say("off-until", "off until {}", last)
	}
	return told.Say("off-from-to", "off from {} to {}", told.ShortDate(next.First.Start(p.Local), p.Local), last)
}

// Person returns the person with the ID.
func (s *Service) Person(ctx context.Context, id int64) (Person, error) {
	return s.PersonByID(ctx, s.store.Queries, id)
}

// PersonByID is the same within a transaction.
func (s *Service) PersonByID(ctx context.Context, q *sqlc.Queries, id int64) (Person, error) {
	row, err := q.Person(ctx, id)
	if errors.Is(err, store.ErrNotFound) || err == nil && row.RemovedAt != 0 {
		return Person{}, refusal.New(refusal.NotSignedIn, told.Say("please-sign-again", "Please sign in again."))
	}
	if err != nil {
		return Person{}, err
	}
	return s.PersonOf(ctx, q, row)
}

// WeekJSON is a week as it is stored.
func WeekJSON(week hours.Week) string { return WeekTextsJSON(week.Texts()) }

// Names are the people of a workspace by ID.
func (s *Service) Names(ctx context.Context, workspace int64) (map[int64]string, error) {
	rows, err := s.store.NamesOfWorkspace(ctx, workspace)
	out := map[int64]string{}
	for _, row := range rows {
		out[row.ID] = row.Name
	}
	return out, err
}
