package app

import (
	"context"
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

// offered is a meeting type with those who host it.
type offered struct {
	MeetingType
	host Person // the only one, or the first of the pool
	pool pool

	texts   bool     // clients are asked whether they want text messages
	textsTo []string // the countries that these go to
}

func (a *App) offered(ctx context.Context, q *sqlc.Queries, workspace, slug string) (offered, error) {
	row, err := q.MeetingTypeBySlug(ctx, sqlc.MeetingTypeBySlugParams{Workspace: workspace, Slug: slug})
	if errors.Is(err, store.ErrNotFound) {
		return offered{}, refusal.New(refusal.NotFound, told.NoPage.Words())
	}
	if err != nil {
		return offered{}, err
	}
	return a.offeredRow(ctx, q, row)
}

func (a *App) offeredRow(ctx context.Context, q *sqlc.Queries, row sqlc.MeetingType) (offered, error) {
	r, err := routingOf(row)
	if err != nil {
		return offered{}, err
	}
	o := offered{}
	if o.pool, err = a.pool(ctx, q, row.WorkspaceID, r); err != nil {
		return o, err
	}
	if len(o.pool.people) > 0 {
		o.host = o.pool.people[0]
	} else if o.host, err = a.anybody(ctx, q, row.HostID); err != nil {
		return o, err
	}
	if o.MeetingType, err = meetingType(ctx, q, o.host.home, row); err != nil {
		return o, err
	}
	if o.Rules, err = a.withSeries(ctx, q, row.ID, o.Rules); err != nil {
		return o, err
	}
	if o.Rules.Whole {
		o.Offer.Guests = 0 // they would be told of one date of several
	}
	if o.Offer.Proof == proofText && a.Texter == nil {
		o.Offer.Proof = proofCode // the installation sends none any more
	}
	o.textsTo = a.TextsTo
	o.texts, err = a.sendsTexts(ctx, q, row.WorkspaceID, row.ID)
	return o, err
}

// offeredBy is a booking's type with the booking's own host, whoever else hosts the type, and with rules for just its length.
func (a *App) offeredBy(ctx context.Context, q *sqlc.Queries, b sqlc.Booking) (offered, error) {
	parts, err := q.HostsOfMeeting(ctx, b.MeetingID)
	if err != nil {
		return offered{}, err
	}
	stays := TypeRouting{Way: routing.Together, People: []PoolPlace{{Person: b.HostID, Weight: 1}}}
	for _, part := range parts {
		if part.State != hostLeft && part.PersonID != b.HostID {
			stays.People = append(stays.People, PoolPlace{Person: part.PersonID, Weight: 1})
		}
	}
	o := offered{}
	if o.host, err = a.anybody(ctx, q, b.HostID); err != nil {
		return o, err
	}
	if o.pool, err = a.pool(ctx, q, o.host.home.id, stays); err != nil {
		return o, err
	}
	o.MeetingType, err = a.typeOf(ctx, q, o.host, b)
	return o, err
}

func (o offered) page() Page {
	home := o.host.home
	choice := []PageHost{}
	if o.pool.Way == routing.ByClient {
		for _, person := range o.pool.people {
			choice = append(choice, PageHost{person.ID, person.Slug, person.Name})
		}
	}
	var texts map[string]string
	if o.texts {
		texts = textConsents(home.Name)
	}
	return Page{
		Texts: texts, Choice: choice, Asks: o.asks(),
		Workspace: home.Name, Type: o.Name, Description: o.Description, Minutes: o.Rules.Duration, Lengths: o.Rules.lengths(),
		Ways: o.Offer.publicWays(), Questions: o.Offer.Questions, Guests: o.Offer.Guests, Along: o.along(), HideLeft: o.Offer.HideLeft, OnRequest: o.Offer.OnRequest, Several: o.Offer.OnRequest && o.Offer.Several && o.Rules.Seats <= 1, Seats: max(1, o.Rules.Seats), Sessions: o.Rules.Sessions, Whole: o.Rules.Whole, Waiting: o.waiting(), Least: o.least(), Proof: o.Offer.Proof,
		Contact: home.Front.Mail, Picture: pathOfPicture(o.Offer.Picture), Looks: o.looks(), Consent: home.Front.Consent, Privacy: home.Front.Privacy, Terms: home.Front.Cancellation,
		Host: o.who(), Hosts: o.hosts(), HostZone: o.hostZone(), Path: o.Path, Zones: home.Zones, Zone: home.Zone, FirstDay: home.FirstWeekday,
	}
}

// asks is what clients are asked first, because it decides who takes the booking.
func (o offered) asks() []PageAsk {
	asks := []PageAsk{}
	attributes, values := o.pool.Attributes()
	for _, attribute := range attributes {
		asks = append(asks, PageAsk{attribute, values[attribute]})
	}
	return asks
}

// publicWays is the ways of meeting as clients may see them before they book: the own room's address comes with the booking.
func (o Offer) publicWays() []Way {
	ways := slices.Clone(o.Ways)
	for i := range ways {
		if ways[i].Kind == wayOwnRoom {
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

// hosts is who hosts the type.
func (o offered) hosts() Hosts {
	always, rest := []string{}, []string{}
	for i, h := range o.pool.Hosts {
		name := o.pool.people[i].Name
		if o.pool.Way == routing.Together || o.pool.Way == routing.SomeAndOne && h.Always {
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

// who says the same in English.
func (o offered) who() string {
	h := o.hosts()
	switch {
	case len(o.pool.people) == 0:
		return o.host.home.Name
	case h.OneOfUs && len(h.Names) == 0:
		return "a member of our team"
	case h.OneOfUs:
		return phrase.List(append(h.Names, "a colleague"))
	}
	return phrase.List(h.Names)
}

// hostZone is the zone of all hosts, if they have the same.
func (o offered) hostZone() string {
	for _, person := range o.pool.people {
		if person.Zone != o.pool.people[0].Zone {
			return o.host.home.Zone
		}
	}
	return o.host.Zone
}

// Page returns what the client's page of a type says. While a workspace is being set up, only its own people see it.
func (a *App) Page(ctx context.Context, workspace, slug string, inside bool) (Page, error) {
	o, err := a.offered(ctx, a.Store.Queries, workspace, slug)
	if err != nil {
		return Page{}, err
	}
	if o.host.home.beingSetUp() && !inside {
		return Page{}, refusal.New(refusal.NotFound, told.NoPage.Words())
	}
	return o.page(), nil
}

// longestLook bounds the range of one question for open times.
const longestLook = 100 * 24 * time.Hour

// LookFor is a question for open times: within a range, for one of the type's lengths (0 asks for the one offered first).
// Link, if not empty, is the secret of a booking that is being moved: its own length counts and its own time is free.
type LookFor struct {
	From, To time.Time
	Minutes  int
	Link     string
	Host     int64             // whom the client chose; 0 for anyone
	Answers  map[string]string // by attribute
	Inside   bool              // asked by somebody of the workspace who is signed in
}

// OpenTimes answers which starts of the type are open. The host's calendars are looked at first if they have not been
// for a few seconds.
func (a *App) OpenTimes(ctx context.Context, workspace, slug string, look LookFor) (OpenTimes, error) {
	if !look.From.Before(look.To) || look.To.Sub(look.From) > longestLook {
		return OpenTimes{}, refusal.New(refusal.Invalid, told.Say("ask-range-ends", "Ask for a range that ends after it begins and is at most 100 days long."))
	}
	if look.Link != "" { // each client's own
		answer, _, err := a.openTimes(ctx, workspace, slug, look)
		return answer, err
	}
	return a.lately.answer(fmt.Sprint(workspace, "/", slug, look), a.Store.Revision, a.Now, func() (OpenTimes, int64, error) {
		return a.openTimes(context.WithoutCancel(ctx), workspace, slug, look) // others may wait for the same answer
	})
}

// openTimes looks at the calendars, then answers from one revision of the store.
func (a *App) openTimes(ctx context.Context, workspace, slug string, look LookFor) (answer OpenTimes, revision int64, err error) {
	revision = a.Store.Revision()
	o, asked, moving, err := a.asked(ctx, workspace, slug, look)
	if err != nil {
		return answer, revision, err
	}
	a.lookAtAll(ctx, o.candidates(asked), calsync.FreshEnough, calsync.LookingTime)
	if now := a.Store.Revision(); now != revision { // something was read, or written otherwise
		revision = now
		if o, asked, moving, err = a.asked(ctx, workspace, slug, look); err != nil {
			return answer, revision, err
		}
	}
	answer, err = a.answerOf(ctx, o, asked, moving, look)
	return answer, revision, err
}

// asked is what a look is for: the offer with rules for its length, what the client said, and the booking that is moved.
func (a *App) asked(ctx context.Context, workspace, slug string, look LookFor) (o offered, asked ask, moving int64, err error) {
	asked = ask{wanted: look.Host, answers: normalAnswers(look.Answers)}
	if look.Link != "" {
		booking, err := a.byLink(ctx, a.Store.Queries, look.Link)
		if err != nil {
			return o, asked, 0, err
		}
		o, err = a.offeredBy(ctx, a.Store.Queries, booking)
		return o, asked, booking.ID, err
	}
	if o, err = a.offered(ctx, a.Store.Queries, workspace, slug); err != nil {
		return o, asked, 0, err
	}
	if err := o.mayBook(look.Inside); err != nil {
		return o, asked, 0, err
	}
	minutes, err := o.Rules.length(look.Minutes)
	o.Rules = o.Rules.only(minutes)
	return o, asked, 0, err
}

func (a *App) answerOf(ctx context.Context, o offered, asked ask, moving int64, look LookFor) (OpenTimes, error) {
	within := span.Of(look.From, look.To)
	l, err := a.lineup(ctx, a.Store.Queries, o, asked, within, moving)
	if err != nil {
		return OpenTimes{}, err
	}
	in := agenda{person: o.host, now: span.At(a.Now())}.input(o.ID, o.Rules)
	of, pool := l.input()
	offers := l.searchOf(of, pool, within)
	answer := OpenTimes{Now: in.Now.Time(), Earliest: in.Earliest().Time(), Starts: times(startsOf(offers)), Left: l.left(of, pool, offers)}
	if answer.Full, err = a.full(ctx, l, of, pool, within); err != nil {
		return answer, err
	}
	if o.Offer.HideLeft {
		answer.hideLeft()
	}
	answer.Series = o.Rules.seriesAt(append(slices.Clone(answer.Starts), startsOfFull(answer.Full)...))
	if answer.Special, err = a.specialDates(ctx, o, answer, look.From, look.To); err != nil {
		return answer, err
	}
	if window, limited := in.Bookable(); limited {
		until := window.End.Time()
		answer.Until = &until
	}
	if len(answer.Starts) == 0 {
		answer.Next, err = a.nextOpen(ctx, o, asked, moving, within.End)
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
func (a *App) nextOpen(ctx context.Context, o offered, asked ask, moving int64, after span.Instant) (*time.Time, error) {
	beyond := span.Span{Start: after, End: after.Add(longestLook)}
	l, err := a.lineup(ctx, a.Store.Queries, o, asked, beyond, moving)
	if err != nil {
		return nil, err
	}
	if found := l.starts(beyond); len(found) > 0 {
		next := found[0].At.Time()
		return &next, nil
	}
	return nil, nil
}

func times(starts []opentimes.Start) []time.Time {
	out := make([]time.Time, len(starts))
	for i, s := range starts {
		out[i] = s.At.Time()
	}
	return out
}
