package schedule

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"time"

	"corrim/core/intake"
	"corrim/core/opentimes"
	"corrim/core/phrase"
	"corrim/core/routing"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/calsync"
	"corrim/internal/refusal"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// Page is what a client's page says before any time is asked for.
type Page struct {
	Workspace   string `json:"workspace" doc:"Its name."`
	Type        string `json:"type"`
	Description string `json:"description"`
	Minutes     int    `json:"minutes" doc:"The length that is offered first."`
	Lengths     []int  `json:"lengths" doc:"All lengths to choose from, the shortest first."`
	Host        string `json:"host" doc:"Who hosts it, in English, where there is no choice."`
	HostZone    string `json:"hostZone" doc:"Of the hosts; the workspace's if they have several."`
	Path        string `json:"path"`
	Zones       string `json:"zones" enum:"client,workspace,hidden" doc:"Times are shown in the client's zone; in the workspace's; or everybody is local and no zone is shown."`
	Zone        string `json:"zone" doc:"The workspace's."`
	FirstDay    int    `json:"firstWeekday" doc:"On which weeks begin; 0 is Sunday."`

	Hosts
	Choice []PageHost `json:"choice" doc:"The hosts that the client can choose among, if they can; or anyone."`
	Asks   []PageAsk  `json:"asks" doc:"What the client is asked first, because it decides who takes the booking."`

	Ways      []Way             `json:"ways" doc:"Of meeting, to choose from where there are several."`
	Questions []intake.Question `json:"questions"`
	Guests    int               `json:"guests" doc:"How many the client may bring."`
	Along     int               `json:"along,omitempty" doc:"For how many others the client may take a seat."`
	HideLeft  bool              `json:"hideLeft,omitempty" doc:"Clients don't see how many seats are left, only what is full."`
	Consent   string            `json:"consent,omitempty" doc:"What has to be agreed to."`
	Texts     map[string]string `json:"texts,omitempty" doc:"What clients agree to who want text messages, by language; missing where none are sent."`
	Privacy   string            `json:"privacy,omitempty"`
	Terms     string            `json:"terms,omitempty" doc:"The cancellation policy."`
	OnRequest bool              `json:"onRequest" doc:"It is requested, and a host decides."`
	Seats     int               `json:"seats" doc:"How many clients share a time."`
	Least     int               `json:"least,omitempty" doc:"A session takes place from so many people on."`
	Waiting   string            `json:"waiting,omitempty" enum:",turn,first" doc:"Whether one can wait for a seat, and how one that gets free finds who waits."`
	Sessions  bool              `json:"sessions,omitempty" doc:"They do at sessions, on dates that are set."`
	Whole     bool              `json:"whole,omitempty" doc:"A series of them is taken whole; its first session stands for it."`
	Several   bool              `json:"several,omitempty" doc:"Others can ask for the same time; it is kept for nobody meanwhile."`
	Proof     string            `json:"proof" enum:",code,text,puzzle" doc:"A code comes first, by mail or as a text message; or a puzzle is to be solved."`
	Looks     PageLooks         `json:"looks"`
	Contact   string            `json:"contact,omitempty" doc:"A mail address to write to instead."`
	Picture   string            `json:"picture,omitempty" doc:"Path of the type's picture."`
}

// PageHost is a host as clients see them.
type PageHost struct {
	ID   int64  `json:"id"`
	Slug string `json:"slug" doc:"Their short name, as in addresses."`
	Name string `json:"name"`
}

// PageAsk is a question with answers to choose from; none of them is an answer too.
type PageAsk struct {
	Attribute string   `json:"attribute"`
	Values    []string `json:"values"`
}

// OpenTimes is the open starts of a type within a range.
type OpenTimes struct {
	Now      time.Time   `json:"now"`
	Earliest time.Time   `json:"earliest" doc:"The notice refuses everything before."`
	Until    *time.Time  `json:"until,omitempty" doc:"The booking window ends here."`
	Starts   []time.Time `json:"starts"`
	Next     *time.Time  `json:"next,omitempty" doc:"If nothing is open in the range: the first open start after it."`

	Left    map[string]int         `json:"left,omitempty" doc:"How many seats are left of starts that others have booked too, where clients share times."`
	Special map[string]SpecialDate `json:"special,omitempty" doc:"Dates of which something is said that doesn't hold for all, by start."`

	Full []FullTime `json:"full,omitempty" doc:"Starts that would be open if a seat were left."`

	Series map[string][]time.Time `json:"series,omitempty" doc:"Where series are taken whole: all starts of the one that begins at a start, open or full."`
}

// Bookable is a meeting type with those who host it.
type Bookable struct {
	MeetingType
	Host Person // the only one, or the first of the pool
	Pool pool

	texts   bool     // clients are asked whether they want text messages
	textsTo []string // the countries that these go to
}

// BookableAt is the meeting type with a short name, as clients find it.
func (s *Service) BookableAt(ctx context.Context, q *sqlc.Queries, workspace, slug string) (Bookable, error) {
	row, err := q.MeetingTypeBySlug(ctx, sqlc.MeetingTypeBySlugParams{Workspace: workspace, Slug: slug})
	if errors.Is(err, store.ErrNotFound) {
		return Bookable{}, refusal.New(refusal.NotFound, told.NoPage.Words())
	}
	if err != nil {
		return Bookable{}, err
	}
	return s.BookableOf(ctx, q, row)
}

// BookableOf is the meeting type of a row, with those who host it.
func (s *Service) BookableOf(ctx context.Context, q *sqlc.Queries, row sqlc.MeetingType) (Bookable, error) {
	r, err := RoutingOf(row)
	if err != nil {
		return Bookable{}, err
	}
	o := Bookable{}
	if o.Pool, err = s.Pool(ctx, q, row.WorkspaceID, r); err != nil {
		return o, err
	}
	if len(o.Pool.People) > 0 {
		o.Host = o.Pool.People[0]
	} else if o.Host, err = s.Anybody(ctx, q, row.HostID); err != nil {
		return o, err
	}
	if o.MeetingType, err = MeetingTypeOf(ctx, q, o.Host.Home, row); err != nil {
		return o, err
	}
	if o.Rules, err = s.WithSeries(ctx, q, row.ID, o.Rules); err != nil {
		return o, err
	}
	if o.Rules.Whole {
		o.BookingPage.Guests = 0 // they would be told of one date of several
	}
	if o.BookingPage.Proof == ProofText && !s.texts() {
		o.BookingPage.Proof = proofCode // the installation sends none any more
	}
	o.textsTo = s.textsTo
	o.texts, err = s.sendsTexts(ctx, q, row.WorkspaceID, row.ID)
	return o, err
}

// BookedType is a booking's type with the booking's own host, whoever else hosts the type, and with rules for just its length.
func (s *Service) BookedType(ctx context.Context, q *sqlc.Queries, b sqlc.Booking) (Bookable, error) {
	parts, err := q.HostsOfMeeting(ctx, b.MeetingID)
	if err != nil {
		return Bookable{}, err
	}
	stays := TypeRouting{Mode: routing.Together, People: []PoolMember{{Person: b.HostID, Weight: 1}}}
	for _, part := range parts {
		if part.State != HostLeft && part.PersonID != b.HostID {
			stays.People = append(stays.People, PoolMember{Person: part.PersonID, Weight: 1})
		}
	}
	o := Bookable{}
	if o.Host, err = s.Anybody(ctx, q, b.HostID); err != nil {
		return o, err
	}
	if o.Pool, err = s.Pool(ctx, q, o.Host.Home.ID, stays); err != nil {
		return o, err
	}
	o.MeetingType, err = s.TypeOf(ctx, q, o.Host, b)
	return o, err
}

// Page is what the client's page says.
func (o Bookable) Page() Page {
	home := o.Host.Home
	choice := []PageHost{}
	if o.Pool.Mode == routing.ByClient {
		for _, person := range o.Pool.People {
			choice = append(choice, PageHost{person.ID, person.Slug, person.Name})
		}
	}
	var texts map[string]string
	if o.texts {
		texts = TextConsents(home.Name)
	}
	return Page{
		Texts: texts, Choice: choice, Asks: o.asks(),
		Workspace: home.Name, Type: o.Name, Description: o.Description, Minutes: o.Rules.Duration, Lengths: o.Rules.Lengths(),
		Ways: o.BookingPage.publicWays(), Questions: o.BookingPage.Questions, Guests: o.BookingPage.Guests, Along: o.along(), HideLeft: o.BookingPage.HideLeft, OnRequest: o.BookingPage.OnRequest, Several: o.BookingPage.OnRequest && o.BookingPage.Several && o.Rules.Seats <= 1, Seats: max(1, o.Rules.Seats), Sessions: o.Rules.Sessions, Whole: o.Rules.Whole, Waiting: o.Waiting(), Least: o.least(), Proof: o.BookingPage.Proof,
		Contact: home.Front.Mail, Picture: PathOfPicture(o.BookingPage.Picture), Looks: o.Looks(), Consent: home.Front.Consent, Privacy: home.Front.Privacy, Terms: home.Front.Cancellation,
		Host: o.WhoHosts(), Hosts: o.Hosts(), HostZone: o.hostZone(), Path: o.Path, Zones: home.Zones, Zone: home.Zone, FirstDay: home.FirstWeekday,
	}
}

// asks is what clients are asked first, because it decides who takes the booking.
func (o Bookable) asks() []PageAsk {
	asks := []PageAsk{}
	attributes, values := o.Pool.Attributes()
	for _, attribute := range attributes {
		asks = append(asks, PageAsk{attribute, values[attribute]})
	}
	return asks
}

// publicWays is the ways of meeting as clients may see them before they book: the own room's address comes with the booking.
func (o BookingPage) publicWays() []Way {
	ways := slices.Clone(o.Ways)
	for i := range ways {
		if ways[i].Kind == WayOwnRoom {
			ways[i].Text = ""
		}
	}
	return ways
}

// Hosts is whom a client meets.
type Hosts struct {
	Names   []string `json:"hosts" doc:"Who surely takes part."`
	OneOfUs bool     `json:"oneOfUs" doc:"And one more, who is not chosen yet."`
}

// Hosts is who hosts the type.
func (o Bookable) Hosts() Hosts {
	always, rest := []string{}, []string{}
	for i, h := range o.Pool.Hosts {
		name := o.Pool.People[i].Name
		if o.Pool.Mode == routing.Together || o.Pool.Mode == routing.SomeAndOne && h.Always {
			always = append(always, name)
		} else {
			rest = append(rest, name)
		}
	}
	if len(rest) == 1 {
		return Hosts{Names: append(always, rest[0])}
	}
	return Hosts{always, len(rest) > 1}
}

// hostZone is the zone of all hosts, if they have the same.
func (o Bookable) hostZone() string {
	for _, person := range o.Pool.People {
		if person.Zone != o.Pool.People[0].Zone {
			return o.Host.Home.Zone
		}
	}
	return o.Host.Zone
}

// Page returns what the client's page of a type says. While a workspace is being set up, only its own people see it.
func (s *Service) Page(ctx context.Context, workspace, slug string, inside bool) (Page, error) {
	o, err := s.BookableAt(ctx, s.store.Queries, workspace, slug)
	if err != nil {
		return Page{}, err
	}
	if o.Host.Home.BeingSetUp() && !inside {
		return Page{}, refusal.New(refusal.NotFound, told.NoPage.Words())
	}
	return o.Page(), nil
}

// LongestRange bounds the range of one question for open times.
const LongestRange = 100 * 24 * time.Hour

// TimesWanted is a question for open times: within a range, for one of the type's lengths (0 asks for the one offered first).
// Link, if not empty, is the secret of a booking that is being moved: its own length counts and its own time is free.
type TimesWanted struct {
	From, To time.Time
	Minutes  int
	Link     string
	Host     int64             // whom the client chose; 0 for anyone
	Answers  map[string]string // by attribute
	Inside   bool              // asked by somebody of the workspace who is signed in
}

// OpenTimes answers which starts of the type are open. The host's calendars are looked at first if they have not been
// for a few seconds.
func (s *Service) OpenTimes(ctx context.Context, workspace, slug string, wanted TimesWanted) (OpenTimes, error) {
	if !wanted.From.Before(wanted.To) || wanted.To.Sub(wanted.From) > LongestRange {
		return OpenTimes{}, refusal.New(refusal.Invalid, told.Say("ask-range-ends", "Ask for a range that ends after it begins and is at most 100 days long."))
	}
	if wanted.Link != "" { // each client's own
		answer, _, err := s.openTimes(ctx, workspace, slug, wanted)
		return answer, err
	}
	return s.lately.answer(fmt.Sprint(workspace, "/", slug, wanted), s.store.Revision, s.now, func() (OpenTimes, int64, error) {
		return s.openTimes(context.WithoutCancel(ctx), workspace, slug, wanted) // others may wait for the same answer
	})
}

// openTimes looks at the calendars, then answers from one revision of the store.
func (s *Service) openTimes(ctx context.Context, workspace, slug string, wanted TimesWanted) (answer OpenTimes, revision int64, err error) {
	revision = s.store.Revision()
	o, asked, moving, err := s.asked(ctx, workspace, slug, wanted)
	if err != nil {
		return answer, revision, err
	}
	s.RefreshCalendars(ctx, o.Candidates(asked), calsync.FreshEnough, calsync.LookingTime)
	if now := s.store.Revision(); now != revision { // something was read, or written otherwise
		revision = now
		if o, asked, moving, err = s.asked(ctx, workspace, slug, wanted); err != nil {
			return answer, revision, err
		}
	}
	answer, err = s.AnswerOf(ctx, o, asked, moving, wanted)
	return answer, revision, err
}

// asked is what times are wanted of: the type with rules for the length, what the client said, and the booking that is moved.
func (s *Service) asked(ctx context.Context, workspace, slug string, wanted TimesWanted) (o Bookable, asked Ask, moving int64, err error) {
	asked = Ask{wanted: wanted.Host, Answers: normalAnswers(wanted.Answers)}
	if wanted.Link != "" {
		booking, err := s.ByLink(ctx, s.store.Queries, wanted.Link)
		if err != nil {
			return o, asked, 0, err
		}
		o, err = s.BookedType(ctx, s.store.Queries, booking)
		return o, asked, booking.ID, err
	}
	if o, err = s.BookableAt(ctx, s.store.Queries, workspace, slug); err != nil {
		return o, asked, 0, err
	}
	if err := o.MayBook(wanted.Inside); err != nil {
		return o, asked, 0, err
	}
	minutes, err := o.Rules.Length(wanted.Minutes)
	o.Rules = o.Rules.Only(minutes)
	return o, asked, 0, err
}

// AnswerOf answers from what was loaded, without one booking's meeting if that is being moved.
func (s *Service) AnswerOf(ctx context.Context, o Bookable, asked Ask, moving int64, wanted TimesWanted) (OpenTimes, error) {
	within := span.Of(wanted.From, wanted.To)
	l, err := s.Lineup(ctx, s.store.Queries, o, asked, within, moving)
	if err != nil {
		return OpenTimes{}, err
	}
	in := Agenda{Person: o.Host, now: span.At(s.now())}.Input(o.ID, o.Rules)
	of, pool := l.Input()
	offers := l.searchOf(of, pool, within)
	answer := OpenTimes{Now: in.Now.Time(), Earliest: in.Earliest().Time(), Starts: Times(startsOf(offers)), Left: l.left(of, pool, offers)}
	if answer.Full, err = s.full(ctx, l, of, pool, within); err != nil {
		return answer, err
	}
	if o.BookingPage.HideLeft {
		answer.hideLeft()
	}
	answer.Series = o.Rules.seriesAt(append(slices.Clone(answer.Starts), startsOfFull(answer.Full)...))
	if answer.Special, err = s.specialDates(ctx, o, answer, wanted.From, wanted.To); err != nil {
		return answer, err
	}
	if window, limited := in.Bookable(); limited {
		until := window.End.Time()
		answer.Until = &until
	}
	if len(answer.Starts) == 0 {
		answer.Next, err = s.nextOpen(ctx, o, asked, moving, within.End)
	}
	return answer, err
}

// hideLeft leaves out how many seats are left, and how many wait for one.
func (t *OpenTimes) hideLeft() {
	t.Left = nil
	for i := range t.Full {
		t.Full[i].Waiting = 0
	}
}

// nextOpen is the first open start after an instant, looked for as far as a booking window can reach.
func (s *Service) nextOpen(ctx context.Context, o Bookable, asked Ask, moving int64, after span.Instant) (*time.Time, error) {
	beyond := span.Span{Start: after, End: after.Add(LongestRange)}
	l, err := s.Lineup(ctx, s.store.Queries, o, asked, beyond, moving)
	if err != nil {
		return nil, err
	}
	if found := l.Starts(beyond); len(found) > 0 {
		next := found[0].At.Time()
		return &next, nil
	}
	return nil, nil
}

// Times is when starts are, in UTC.
func Times(starts []opentimes.Start) []time.Time {
	out := make([]time.Time, len(starts))
	for i, s := range starts {
		out[i] = s.At.Time()
	}
	return out
}

// TypeOf is a booking's meeting type, with rules for just its length. A single session can be moved within a series.
func (s *Service) TypeOf(ctx context.Context, q *sqlc.Queries, p Person, b sqlc.Booking) (MeetingType, error) {
	row, err := q.MeetingType(ctx, b.TypeID)
	if err != nil {
		return MeetingType{}, err
	}
	kind, err := MeetingTypeOf(ctx, q, p.Home, row)
	kind.Rules = kind.Rules.Only(StartOf(b).Minutes)
	kind.Rules.Whole = false
	if b.Session == 1 {
		kind.Rules = kind.Rules.ForSessions()
	}
	return kind, err
}

// WhoHosts says the same in English.
func (o Bookable) WhoHosts() string {
	h := o.Hosts()
	switch {
	case len(o.Pool.People) == 0:
		return o.Host.Home.Name
	case h.OneOfUs && len(h.Names) == 0:
		return "a member of our team"
	case h.OneOfUs:
		return phrase.List(append(h.Names, "a colleague"))
	}
	return phrase.List(h.Names)
}

// SpecialDate is what clients read about one date before they book it.
type SpecialDate struct {
	About string `json:"about,omitempty"`
	Way   *Way   `json:"way,omitempty" doc:"Where it is, if not where the others are."`
}

// specialDates are those of a type's sessions of which something special is said, by start: of the dates that clients are shown, and no
// others.
func (s *Service) specialDates(ctx context.Context, o Bookable, shown OpenTimes, from, to time.Time) (map[string]SpecialDate, error) {
	if !o.Rules.Sessions {
		return nil, nil
	}
	rows, err := s.store.SpecialSessions(ctx, sqlc.SpecialSessionsParams{TypeID: o.ID, RangeFrom: from.Unix(), RangeTo: to.Unix()})
	out := map[string]SpecialDate{}
	for _, row := range rows {
		if !shown.names(time.Unix(row.StartAt, 0)) {
			continue
		}
		special := SpecialDate{About: row.About}
		if row.OwnWay != 0 {
			taken := WayTaken{}
			if err := json.Unmarshal([]byte(row.Way), &taken); err != nil {
				return nil, err
			}
			special.Way = &BookingPage{Ways: []Way{taken.Way}}.publicWays()[0]
		}
		out[time.Unix(row.StartAt, 0).UTC().Format(time.RFC3339)] = special
	}
	return out, err
}

// names tells whether a start is among those that are shown: open, full, or of a series that is one of these.
func (t OpenTimes) names(start time.Time) bool {
	if slices.ContainsFunc(t.Starts, start.Equal) || slices.ContainsFunc(startsOfFull(t.Full), start.Equal) {
		return true
	}
	for _, dates := range t.Series {
		if slices.ContainsFunc(dates, start.Equal) {
			return true
		}
	}
	return false
}

// WithSeries is a type's rules with the series that are not over, where they are taken whole.
func (a *Service) WithSeries(ctx context.Context, q *sqlc.Queries, kind int64, r TypeRules) (TypeRules, error) {
	if !r.Whole {
		return r, nil
	}
	rows, err := q.SessionsOfSeries(ctx, sqlc.SessionsOfSeriesParams{TypeID: kind, Since: a.now().Unix()})
	r.series = map[string]opentimes.Series{}
	for _, s := range rows {
		label := seriesLabel(s.SeriesID)
		r.series[label] = append(r.series[label], opentimes.Part{
			Meeting: span.Span{Start: span.Instant(s.StartAt), End: span.Instant(s.EndAt)}, Filling: opentimes.Filling{Seats: int(s.Capacity), Taken: int(s.Taken)},
		})
	}
	return r, err
}

// seriesAt is when the sessions are of each series that begins at one of some starts.
func (r TypeRules) seriesAt(starts []time.Time) map[string][]time.Time {
	if !r.Whole {
		return nil
	}
	out := map[string][]time.Time{}
	for _, series := range r.series {
		first := series[0].Meeting.Start.Time()
		if !slices.ContainsFunc(starts, first.Equal) {
			continue
		}
		for _, part := range series {
			out[series[0].Meeting.Start.String()] = append(out[series[0].Meeting.Start.String()], part.Meeting.Start.Time())
		}
	}
	return out
}

// Of is the request for somebody's seat. What the client remarks stands with their own.
func (r BookingRequest) Of(person SeatFor) BookingRequest {
	if r.Name != person.Name || r.Mail != person.Mail {
		r.Remark = ""
	}
	r.Name, r.Mail = person.Name, person.Mail
	return r
}

// Shared tells whether others can have seats in a booking's meeting.
func Shared(b sqlc.Booking) bool { return b.Capacity > 1 }

// Filling is how many seats of a meeting are taken.
type Filling struct {
	Taken int `json:"taken"`
	Seats int `json:"seats"`
}

// FillingOf is that of a booking's meeting; nil if it has one seat.
func FillingOf(b sqlc.Booking) *Filling {
	if !Shared(b) {
		return nil
	}
	return &Filling{int(b.Taken), int(b.Capacity)}
}

// joins is who of those who are open at a start has a meeting then that the client joins; 0 if nobody.
func (l Lineup) joins(start opentimes.Start, open map[int64]bool) int64 {
	in, pool := l.Input()
	for k, host := range pool.Hosts {
		in.Host = host
		if _, _, joins := opentimes.SeatsLeft(in, start); joins && open[l.Candidates[k].ID] {
			return l.Candidates[k].ID
		}
	}
	return 0
}

// clientsOf is who comes, in a few words: the first client, and how many more; of a session what it is.
func clientsOf(b sqlc.Booking) string {
	if b.Taken > 1 && b.Session == 0 {
		return fmt.Sprintf("%s +%d", b.ClientName, b.Taken-1)
	}
	return b.ClientName
}

// left is how many seats are left of those offers at which somebody has one already, by start; nil where clients share no times.
func (l Lineup) left(in opentimes.Input, pool opentimes.Pool, offers []opentimes.Offer) map[string]int {
	if l.Bookable.Rules.Seats <= 1 {
		return nil
	}
	out, seatsLeft := map[string]int{}, opentimes.PoolSeatsLeft(in, pool)
	for _, o := range offers {
		if left, of, _ := seatsLeft(o); left < of || of != l.Bookable.Rules.Seats {
			out[o.At.String()] = left
		}
	}
	return out
}
