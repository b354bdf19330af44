package schedule

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/url"
	"regexp"
	"slices"
	"strings"
	"time"

	"corrim/core/hours"
	"corrim/core/intake"
	"corrim/core/opentimes"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// TypeDraft is a meeting type as the editor sends it.
type TypeDraft struct {
	Name        string    `json:"name" maxLength:"400"`
	Slug        string    `json:"slug" maxLength:"400" doc:"Its short address."`
	Description string    `json:"description" maxLength:"20000"`
	Rules       TypeRules `json:"rules"`
}

// MeetingType is a saved meeting type.
type MeetingType struct {
	ID int64 `json:"id"`
	TypeDraft
	Path    string  `json:"path" doc:"Of the client's page."`
	Version int64   `json:"version" doc:"Rises with every change."`
	Who     string  `json:"who" enum:"anyone,organisation,nobody" doc:"Who may book it: anyone with the link; people of the workspace who are signed in; nobody, so that it is booked by hand only."`
	Mine    bool    `json:"mine" doc:"Does the viewer host it?"`
	Edits   bool    `json:"edits" doc:"May the viewer change it?"`
	Hosts   []int64 `json:"hosts" doc:"Who is in its pool."`

	Listing     string      `json:"listing" enum:"listed,link,off" doc:"On the workspace's page; by its own link only; or switched off."`
	Category    string      `json:"category"`
	BookingPage BookingPage `json:"-"`

	HostID   int64       `json:"-"`
	Position int64       `json:"-"` // among those of its workspace
	Routing  TypeRouting `json:"-"`
}

var SlugPattern = regexp.MustCompile(`^[a-z0-9]+(-[a-z0-9]+)*$`)

// Check complains of what can't be.
func (d TypeDraft) Check() refusal.Complaints {
	wrong := refusal.Complaints{}
	switch {
	case d.Name == "":
		wrong.Add("name", told.Say("give-meeting-type", "Give the meeting type a name that clients will read."))
	case len([]rune(d.Name)) > 120:
		wrong.Add("name", told.Say("name-most-120", "A name has at most 120 letters."))
	}
	if len(d.Slug) > 60 || !SlugPattern.MatchString(d.Slug) {
		wrong.Add("slug", told.Say("short-address-letters", "A short address has letters a-z, figures and single hyphens, at most 60, like light-survey."))
	}
	if len([]rune(d.Description)) > 4000 {
		wrong.Add("description", told.Say("description-most-4000", "A description has at most 4000 letters."))
	}
	d.Rules.Complain(wrong)
	return wrong
}

// SeenBy says what a type is to the person.
func (t MeetingType) SeenBy(p Person) MeetingType {
	t.Mine = slices.Contains(t.Hosts, p.ID)
	t.Edits = t.HostID == p.ID && p.May(identity.EditOwn) || p.May(identity.EditEverybodys)
	return t
}

// ForSessions is what of the rules stands in the way of sessions themselves: how early they are booked, and on which grid, is a matter of
// clients' bookings; and what is there already is in the way, even if it is of the same type.
func (r TypeRules) ForSessions() TypeRules {
	r.Sessions, r.Whole, r.Seats = false, false, 0
	r.NoticeSettings, r.WindowSettings, r.StepSettings = opentimes.NoticeSettings{}, opentimes.WindowSettings{}, opentimes.StepSettings{Step: 1}
	return r
}

// Full is at which starts within a range clients would come if a seat were left.
func (l Lineup) Full(within span.Span) []opentimes.Start {
	if l.Bookable.Rules.Seats <= 1 {
		return nil
	}
	in, pool := l.Input()
	return l.fullOf(in, pool, within)
}

func (l Lineup) fullOf(in opentimes.Input, pool opentimes.Pool, within span.Span) []opentimes.Start {
	return opentimes.Full(in, pool, within, l.Bookable.Rules.Duration)
}

// usualLeastHours is how long before the start that is decided, if the type says nothing else.
const usualLeastHours = 24

// DecidedAt is when it is decided whether a session that starts at a moment takes place; the zero time if it does anyway.
func (o BookingPage) DecidedAt(start int64) time.Time {
	if o.Least <= 1 {
		return time.Time{}
	}
	hours := o.LeastHours
	if hours == 0 {
		hours = usualLeastHours
	}
	return time.Unix(start, 0).Add(-time.Duration(hours) * time.Hour)
}

// MeetingTypeOf reads a meeting type, with what it follows of its workspace.
func MeetingTypeOf(ctx context.Context, q *sqlc.Queries, w Home, row sqlc.MeetingType) (MeetingType, error) {
	t := MeetingType{ID: row.ID, HostID: row.HostID, Position: row.Position, Path: "/p/" + w.Slug + "/" + row.Slug, Version: row.Version, Who: row.Who}
	t.Name, t.Slug, t.Description = row.Name, row.Slug, row.Description
	err := json.Unmarshal([]byte(row.Rules), &t.Rules)
	if err != nil {
		return t, err
	}
	t.Listing, t.Category = row.Listing, row.Category
	if t.BookingPage, err = BookingPageOf(row); err != nil {
		return t, err
	}
	if t.Routing, err = RoutingOf(row); err != nil {
		return t, err
	}
	if row.PlanID.Valid {
		t.Rules.Hours = &OwnHours{Plan: row.PlanID.Int64}
	}
	t.Rules, err = Resolved(ctx, q, w, t.Rules)
	return t, err
}

// BookingPage is how a meeting type meets its clients: how one meets, what they are asked, how a booking comes about, and what
// they may do with it.
type BookingPage struct {
	Ways      []Way             `json:"ways" maxItems:"12" doc:"Of meeting; with several, the client chooses."`
	Questions []intake.Question `json:"questions" maxItems:"60"`
	Picture   string            `json:"picture,omitempty" maxLength:"64" doc:"A picture's hash."`
	Colour    string            `json:"colour,omitempty" maxLength:"7" doc:"Of what can be pressed on its pages, like #0b5a5e; the workspace's if empty."`
	Guests    int               `json:"guests" minimum:"0" maximum:"50" doc:"How many guests a client may bring."`
	Along     int               `json:"along,omitempty" minimum:"0" maximum:"20" doc:"Where clients share a time: for how many others a client may take a seat."`
	HideLeft  bool              `json:"hideLeft,omitempty" doc:"Where clients share a time: they don't see how many seats are left."`
	Always    []string          `json:"always" maxItems:"20" doc:"Mail addresses that are told of every booking."`

	PerClient int `json:"perClient" minimum:"0" maximum:"100" doc:"How many coming bookings of the type one client may have; 0 is any number."`

	OnRequest bool `json:"onRequest" doc:"A booking is requested, and a host approves or declines it."`
	KeepHours int  `json:"keepHours" minimum:"1" maximum:"720" doc:"How long a requested time is kept; one for which several can ask, how long an answer may take."`
	Several   bool `json:"several,omitempty" doc:"Several clients can ask for one time, which is kept for nobody until a host approves one of them."`

	Proof string `json:"proof" enum:",code,text,puzzle" doc:"What a client does before anything is booked: enters a code that comes by mail, or as a text message; solves a small puzzle; nothing."`

	Waiting   string `json:"waiting,omitempty" enum:",turn,first" doc:"When clients share a time and it is full: nobody can wait; a seat that gets free is offered to one after the other; or it is whoever's is first."`
	WaitHours int    `json:"waitHours,omitempty" minimum:"0" maximum:"336" doc:"How long a seat is kept for whoever it is offered to; the usual 12 hours if left out. It is less as the start comes near."`

	Least      int `json:"least,omitempty" minimum:"0" maximum:"1000" doc:"A session takes place from so many people on; 0 and 1 are whoever comes."`
	LeastHours int `json:"leastHours,omitempty" minimum:"0" maximum:"720" doc:"How long before it starts that is decided; 24 hours if left out."`

	LeastAsk bool `json:"leastAsk,omitempty" doc:"If it has too few people then, its hosts are asked, and it takes place unless they call it off; else it is called off by itself."`

	MoveUntil   int  `json:"moveUntil" minimum:"-1" maximum:"525600" doc:"Minutes before the start until which a client may move; -1 is never."`
	CancelUntil int  `json:"cancelUntil" minimum:"-1" maximum:"525600"`
	AskReason   bool `json:"askReason" doc:"Cancelling needs a reason."`

	DeclineCancels bool `json:"declineCancels,omitempty" doc:"A client who declines the invitation in their calendar has cancelled, if they may; else their host is asked."`

	CorrectUntil int `json:"correctUntil" minimum:"-1" maximum:"525600" doc:"Minutes before the start until which a client may correct what they wrote."`

	AfterWords   string   `json:"afterWords" maxLength:"8000" doc:"Shown and mailed once it is booked."`
	AfterAddress string   `json:"afterAddress" maxLength:"2000" doc:"Where the client is led from the confirmation."`
	AfterPass    []string `json:"afterPass" maxItems:"60" doc:"Questions whose answers go along to that address."`

	Notes     string   `json:"notes" maxLength:"8000" doc:"For hosts only."`
	Checklist []string `json:"checklist" maxItems:"40" doc:"For hosts only."`
}

const proofCode = "code"

const ProofText = "text"

const WayVideo = "video" // a fresh room for each booking

const WayOwnRoom = "own-room"

const wayOurs = "ours" // at our address

const WayTheirs = "theirs" // at the client's

const WayPhone = "phone"

const wayLater = "later" // to be agreed

const CallsHost = "host"

const CallsClient = "client"

// Way is one way of meeting.
type Way struct {
	ID    string `json:"id" maxLength:"40" doc:"Stays when the way is changed."`
	Kind  string `json:"kind" enum:"video,own-room,ours,theirs,phone,later"`
	Text  string `json:"text,omitempty" maxLength:"4000" doc:"The address with directions, or the address of the own room."`
	Calls string `json:"calls,omitempty" enum:"host,client" doc:"By phone: who calls whom."`

	Room RoomOptions `json:"room,omitzero" doc:"By video, of a fresh room."`
}

// WayTaken is the way that was chosen for a booking, with what the client gave for it: an address or a phone number.
type WayTaken struct {
	Way
	Given string `json:"given,omitempty"`
}

// UsualBookingPage is what a type offers that says nothing else.
func UsualBookingPage() BookingPage {
	return BookingPage{Ways: []Way{{ID: WayVideo, Kind: WayVideo}}, Questions: []intake.Question{}, Always: []string{}, KeepHours: 48, PerClient: usualPerClient, AfterPass: []string{}, Checklist: []string{}}
}

// usualPerClient is how many coming bookings of a type a client may have where nothing else was set.
const usualPerClient = 5

// BookingPageOf reads what clients meet on a type's booking page.
func BookingPageOf(row sqlc.MeetingType) (BookingPage, error) {
	o := UsualBookingPage()
	if row.Offer == "" {
		return o, nil
	}
	err := json.Unmarshal([]byte(row.Offer), &o)
	return o.Normal(), err
}

// Normal is the booking page as it is saved, with lists that are never nil.
func (o BookingPage) Normal() BookingPage {
	o.Ways = append([]Way{}, o.Ways...)
	for i := range o.Ways {
		o.Ways[i].Text = strings.TrimSpace(o.Ways[i].Text)
	}
	o.Questions = append([]intake.Question{}, o.Questions...)
	for i := range o.Questions {
		q := &o.Questions[i]
		q.Label, q.Help = intake.OneLine(q.Label), strings.TrimSpace(q.Help)
		q.Options = filled(q.Options)
	}
	o.Always, o.Checklist, o.AfterPass = filled(o.Always), filled(o.Checklist), filled(o.AfterPass)
	o.AfterWords, o.AfterAddress, o.Notes = strings.TrimSpace(o.AfterWords), strings.TrimSpace(o.AfterAddress), strings.TrimSpace(o.Notes)
	return o
}

// filled is texts of one line each, without empty ones.
func filled(texts []string) []string {
	out := []string{}
	for _, text := range texts {
		if text = intake.OneLine(text); text != "" {
			out = append(out, text)
		}
	}
	return out
}

// Fault says what is missing of a way of meeting, or nothing.
func (w Way) Fault() told.Words {
	switch {
	case w.ID == "":
		return told.Say("give-location-id-own", "Give the location an ID of its own.")
	case w.Kind == wayOurs && w.Text == "":
		return told.Say("enter-address-how-find", "Enter the address, and how to find it.")
	case w.Kind == WayPhone && w.Calls == CallsClient && w.Text == "":
		return told.Say("enter-number-clients-call", "Enter the number that clients call.")
	case w.Kind == WayOwnRoom:
		if u, err := url.Parse(w.Text); err != nil || u.Scheme != "https" || u.Host == "" {
			return told.Say("enter-rooms-address-beginning", "Enter the room's address, beginning with https://.")
		}
	}
	return told.Words{}
}

const ListedOff = "off"

// TypeRules is the timing of a meeting type, as it is stored and edited.
type TypeRules struct {
	Duration int   `json:"duration" doc:"The length in minutes, or the one that a client is offered first."`
	Others   []int `json:"others,omitempty" maxItems:"11" doc:"Further lengths to choose from."`
	UpTo     int   `json:"upTo,omitempty" doc:"With upBy: the client takes as long as needed, from duration up to this."`
	UpBy     int   `json:"upBy,omitempty"`
	Seats    int   `json:"seats,omitempty" doc:"How many clients share a time; one if left out."`
	Sessions bool  `json:"sessions,omitempty" doc:"They do on dates that the hosts set, and at no other time."`
	Whole    bool  `json:"whole,omitempty" doc:"Of these, a series is taken whole, in one booking."`
	opentimes.BookingRules
	Follows []string  `json:"follows,omitempty" maxItems:"20" doc:"Groups of rules that are the workspace's; what is sent for them doesn't count."`
	Hours   *OwnHours `json:"hours,omitempty" doc:"Hours of its own, which narrow the host's."`

	own  *hours.Plan         // Hours as core understands them
	days []opentimes.Holiday // of the calendars in Holidays
	gone bool                // one of these calendars is not there any more

	series map[string]opentimes.Series // that there are, where they are taken whole
}

// OwnHours are hours of a meeting type: a named week plan, or a week of its own. They are read on the host's clock.
type OwnHours struct {
	Plan int64    `json:"plan,omitempty" doc:"The ID of a week plan; the week doesn't count then."`
	Week []string `json:"week,omitempty" maxItems:"7" doc:"Seven hours texts, Monday first."`
}

// The bounds of what makes sense; the same are told to whoever enters something else.
const (
	Longest     = 24 * 60
	mostLengths = 48
)

// Resolved is the rules with what they follow and the plan they keep to put in. A plan that isn't the workspace's is
// refused.
func Resolved(ctx context.Context, q *sqlc.Queries, w Home, r TypeRules) (TypeRules, error) {
	r.Follows = slices.Compact(slices.Sorted(slices.Values(r.Follows)))
	r.Follow(r.Follows, w.Rules)
	r.days, r.gone = w.Holidays.days(r.Holidays)
	r.own = nil
	if r.Hours == nil {
		return r, nil
	}
	texts, read := [7]string{}, hours.ParseWeek // as it was typed
	copy(texts[:], r.Hours.Week)
	if r.Hours.Plan != 0 {
		read = hours.ParseStoredWeek
		plan, err := PlanByID(ctx, q, w, r.Hours.Plan)
		if err != nil {
			return r, err
		}
		texts = plan.Week
	}
	week, err := read(texts)
	if err != nil {
		return r, nil // check says which day can't be read
	}
	r.own = &hours.Plan{Week: week}
	return r, nil
}

// PlanByID loads one of the workspace's week plans.
func PlanByID(ctx context.Context, q *sqlc.Queries, w Home, id int64) (WeekPlan, error) {
	if w.tried != nil && w.tried.ID == id {
		return *w.tried, nil
	}
	row, err := q.WeekPlan(ctx, id)
	if errors.Is(err, store.ErrNotFound) || err == nil && row.WorkspaceID != w.ID {
		return WeekPlan{}, refusal.New(refusal.NotFound, told.Say("no-such-week", "There is no such week plan any more. Choose one from the list."))
	}
	if err != nil {
		return WeekPlan{}, err
	}
	plan := WeekPlan{ID: row.ID, Name: row.Name}
	return plan, json.Unmarshal([]byte(row.Week), &plan.Week)
}

// ofRules complains of a field of the rules.
func ofRules(c refusal.Complaints) func(field string, words told.Words) {
	return func(field string, words told.Words) { c.Add("rules."+field, words) }
}

// bounds complains of values of the rules outside bounds, with a sentence.
func bounds(c refusal.Complaints) func(field string, value, low, high int, words told.Words) {
	return func(field string, value, low, high int, words told.Words) {
		if value < low || value > high {
			c.Add("rules."+field, words)
		}
	}
}

// Complain complains of rules that can't be.
func (r TypeRules) Complain(wrong refusal.Complaints) {
	r.Check(ofRules(wrong))
	if r.gone {
		wrong.Add("rules.holidays", holidaysGone)
	}
	if unknown := r.NoGroups(r.Follows); len(unknown) > 0 {
		wrong.Add("rules.follows", told.Say("no-rules-called", "There are no rules called {} to follow.", told.List(unknown)))
	}
	between := bounds(wrong)
	between("duration", r.Duration, 1, Longest, told.Say("meeting-lasts-1-1440", "A meeting lasts 1 to 1440 minutes."))
	between("seats", r.Seats, 0, opentimes.MostSeats, told.Say("seats-1-1000", "1 to 1000 clients share a time."))
	if r.Sessions && r.Seats <= 1 {
		wrong.Add("rules.seats", told.Say("sessions-need-seats", "Sessions are for several clients: say how many share one."))
	}
	if r.Whole && !r.Sessions {
		wrong.Add("rules.whole", told.Say("whole-needs-sessions", "A series is of sessions on dates that are set."))
	}
	for _, other := range r.Others {
		between("others", other, 1, Longest, told.Say("each-length-1-1440", "Each length is 1 to 1440 minutes."))
	}
	if r.UpBy != 0 || r.UpTo != 0 {
		between("upBy", r.UpBy, 1, Longest, told.Say("gets-longer-1-1440", "It gets longer by 1 to 1440 minutes at a time."))
		between("upTo", r.UpTo, r.Duration, Longest, told.Say("longest-least-shortest-most", "The longest is at least the shortest, and at most 1440 minutes."))
		if r.UpBy > 0 {
			between("upBy", (r.UpTo-r.Duration)/r.UpBy, 0, mostLengths-1, told.Say("these-more-than-48", "These are more than 48 lengths. Let it get longer by more at a time."))
		}
	}
	if r.Hours == nil || r.Hours.Plan != 0 {
		return
	}
	if len(r.Hours.Week) != 7 {
		wrong.Add("rules.hours", told.Say("give-hours-all", "Give the hours of all seven days, or none."))
	}
	for i, text := range r.Hours.Week {
		if _, err := hours.ParseDay(text); err != nil {
			wrong.Add(fmt.Sprintf("rules.hours.%d", i), told.OfError(err))
		}
	}
}

// Lengths are the lengths that a client can choose from, in minutes, the shortest first.
func (r TypeRules) Lengths() []int {
	out := append([]int{r.Duration}, r.Others...)
	if r.UpBy > 0 {
		for n := r.Duration + r.UpBy; n <= r.UpTo; n += r.UpBy {
			out = append(out, n)
		}
	}
	slices.Sort(out)
	return slices.Compact(out)
}

// Length is the one of the lengths that a client asks for; 0 asks for the one offered first.
func (r TypeRules) Length(asked int) (int, error) {
	switch {
	case asked == 0:
		return r.Duration, nil
	case slices.Contains(r.Lengths(), asked):
		return asked, nil
	}
	return 0, refusal.Faulty("minutes", told.NoLength.Words())
}

// Only is the rules with a single length.
func (r TypeRules) Only(minutes int) TypeRules {
	r.Duration, r.Others, r.UpTo, r.UpBy = minutes, nil, 0, 0
	return r
}

// NearestLength is the length closest to one that may not be offered any more.
func (r TypeRules) NearestLength(minutes int) int {
	return slices.MinFunc(r.Lengths(), func(a, b int) int { return max(a-minutes, minutes-a) - max(b-minutes, minutes-b) })
}

// timing is the rules as core understands them. Faulty ones must have been refused by check.
func (r TypeRules) timing() opentimes.Type {
	t := r.Timing()
	t.Durations, t.Hours, t.Holidays.Days, t.Seats, t.Sessions, t.Whole = r.Lengths(), r.own, r.days, r.Seats, r.Sessions, r.Whole
	return t
}

// AsksForFiles tells whether a question asks for a file.
func (o BookingPage) AsksForFiles() bool {
	for _, q := range o.Questions {
		if q.Kind == intake.File {
			return true
		}
	}
	return false
}

// FullTime is a start that would be open if a seat were left.
type FullTime struct {
	Start   time.Time `json:"start"`
	Waiting int64     `json:"waiting" doc:"How many wait for a seat."`
}

// full is at which starts within a range clients would come if a seat were left, with how many wait for one.
func (a *Service) full(ctx context.Context, l Lineup, in opentimes.Input, pool opentimes.Pool, within span.Span) ([]FullTime, error) {
	if l.Bookable.Rules.Seats <= 1 {
		return nil, nil
	}
	starts := l.fullOf(in, pool, within)
	if len(starts) == 0 {
		return nil, nil
	}
	rows, err := a.store.WaitingAt(ctx, sqlc.WaitingAtParams{TypeID: l.Bookable.ID, RangeFrom: int64(within.Start), RangeTo: int64(within.End)})
	if err != nil {
		return nil, err
	}
	counts := map[int64]int64{}
	for _, row := range rows {
		counts[row.StartAt] += row.Waiting
	}
	out := make([]FullTime, len(starts))
	for i, s := range starts {
		out[i] = FullTime{s.At.Time(), counts[int64(s.At)]}
	}
	return out, nil
}

// Waiting is how clients wait for a seat where they share times.
func (o Bookable) Waiting() string {
	if o.Rules.Seats <= 1 {
		return ""
	}
	return o.BookingPage.Waiting
}

// least is from how many people on its sessions take place, for clients to know; 0 if they do anyway.
func (o Bookable) least() int {
	if !o.Rules.Sessions || o.BookingPage.Least <= 1 {
		return 0
	}
	return o.BookingPage.Least
}

// usualWait is how many hours a seat is offered to each who waits, if the type says nothing else.
const usualWait = 12

// WaitTime is for how long a seat is kept for whoever waited.
func (o BookingPage) WaitTime() time.Duration {
	hours := o.WaitHours
	if hours == 0 {
		hours = usualWait
	}
	return time.Duration(hours) * time.Hour
}

func startsOfFull(full []FullTime) []time.Time {
	out := make([]time.Time, len(full))
	for i, f := range full {
		out[i] = f.Start
	}
	return out
}
