package schedule

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/url"
	"slices"
	"strings"
	"sync"
	"time"

	"corrim/core/civil"
	"corrim/core/intake"
	"corrim/core/life"
	words "corrim/core/message"
	"corrim/core/routing"
	"corrim/core/share"
	"corrim/core/told"
	"corrim/internal/refusal"
	"corrim/internal/secrets"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
	"corrim/internal/trace"
)

// BookingRequest is what a client sends.
type BookingRequest struct {
	Start   time.Time `json:"start"`
	Minutes int       `json:"minutes,omitempty" doc:"One of the lengths; the one offered first if left out."`
	Name    string    `json:"name" maxLength:"1000"`
	Mail    string    `json:"mail" maxLength:"1000"`
	Remark  string    `json:"remark,omitempty" maxLength:"20000"`
	Host    int64     `json:"host,omitempty" doc:"The host that the client chose, where there is a choice; anyone if left out."`
	Zone    string    `json:"zone" maxLength:"100" doc:"The client's IANA time zone; the workspace's if it shows no other."`

	Language string `json:"language,omitempty" maxLength:"40" doc:"In which the client reads, as in BCP 47; the workspace's if left out."`

	Answers map[string]string `json:"answers,omitempty" doc:"To what the page asks first, because it decides who takes it."`

	Way     string       `json:"way,omitempty" maxLength:"40" doc:"The ID of the way of meeting; the first if left out."`
	Given   string       `json:"given,omitempty" maxLength:"4000" doc:"What the way needs: the client's address or phone number."`
	Said    intake.Given `json:"said,omitempty" doc:"Answers to the questions, by their IDs."`
	Guests  []string     `json:"guests,omitempty" maxItems:"60" doc:"Mail addresses."`
	Along   []Along      `json:"along,omitempty" maxItems:"20" doc:"For whom else a seat is taken, where clients share a time."`
	Consent bool         `json:"consent,omitempty" doc:"Agreed to the page's sentence."`
	Phone   string       `json:"phone,omitempty" maxLength:"100" doc:"For text messages, where the page offers them."`
	Texts   bool         `json:"texts,omitempty" doc:"Agreed to text messages at that number."`
	Via     string       `json:"via,omitempty" maxLength:"100" doc:"The key of the named link that the client came by."`
	Puzzle  Solution     `json:"puzzle,omitzero" doc:"Where the page asks for one."`
	Wait    bool         `json:"wait,omitempty" doc:"For a time that is full: a place on the waiting list."`
	Any     bool         `json:"any,omitempty" doc:"And on the lists of all other times that are full: whichever gets free first."`
	Inside  bool         `json:"-"` // sent by somebody of the workspace who is signed in
}

// Ask is what decides who takes the booking.
func (r BookingRequest) Ask() Ask {
	return Ask{wanted: r.Host, Answers: normalAnswers(r.Answers), Mail: r.Mail}
}

// Check complains of what can't be, whatever the type.
func (r BookingRequest) Check() refusal.Complaints {
	wrong := refusal.Complaints{}
	switch {
	case r.Name == "":
		wrong.Add("name", told.NoName.Words())
	case len([]rune(r.Name)) > 200:
		wrong.Add("name", told.LongName.Words())
	}
	if _, fault := intake.MailAddress(r.Mail); r.Mail == "" {
		wrong.Add("mail", told.NoMail.Words())
	} else if fault.Any() {
		wrong.Add("mail", fault)
	}
	if len([]rune(r.Remark)) > longestRemark {
		wrong.Add("remark", told.LongRemark.Words())
	}
	if _, err := civil.LoadZone(r.Zone); err != nil {
		wrong.Add("zone", told.NoZone.Words())
	}
	return wrong
}

// Normal is the request without stray spaces, in the workspace's zone if clients have none of their own.
func (r BookingRequest) Normal(w Home) BookingRequest {
	if w.Zones != ZonesOfClients {
		r.Zone = w.Zone
	}
	r.Name, r.Mail, r.Remark = intake.OneLine(r.Name), strings.TrimSpace(r.Mail), intake.AsWritten(r.Remark)
	return r
}

const codeTime = 15 * time.Minute

// Beginning is how a booking of the type begins.
func (o Bookable) Beginning() life.Event {
	switch {
	case o.BookingPage.Proof == proofCode, o.BookingPage.Proof == ProofText:
		return life.Hold
	case o.BookingPage.OnRequest:
		return life.Request
	}
	return life.Book
}

// SharesTime tells whether a booking that begins so waits beside others for the same time, which is kept for none of them.
func (o Bookable) SharesTime(begins life.Event) bool {
	return o.BookingPage.OnRequest && o.BookingPage.Several && o.Rules.Seats <= 1 && (begins == life.Hold || begins == life.Request)
}

// KeptFor is how long the time of a booking is kept that is not booked yet.
func (o Bookable) KeptFor(event life.Event) time.Duration {
	switch event {
	case life.Hold:
		return codeTime
	case life.Request:
		return time.Duration(o.BookingPage.KeepHours) * time.Hour
	}
	return 0
}

// Along is somebody for whom a client takes a seat beside their own.
type Along struct {
	Name string       `json:"name" maxLength:"1000"`
	Mail string       `json:"mail,omitempty" maxLength:"1000" doc:"What they are told goes there; to the client if left out."`
	Said intake.Given `json:"said,omitempty" doc:"Answers to the questions that everybody is asked."`
}

// SeatFor is one of those who come along, as their seat is kept.
type SeatFor struct {
	Name, Mail string
	Said       []intake.Answer
}

// mostAlong is how many can come along with one client.
const mostAlong = 20

// along is how many a client of the type may bring, each with a seat. How many seats a session has is its own matter, not the type's: it is
// looked at when they are taken.
func (o Bookable) along() int {
	most := min(o.BookingPage.Along, mostAlong)
	if !o.Rules.Sessions {
		most = min(most, o.Rules.Seats-1)
	}
	return max(0, most)
}

// fillAlong checks those who come along.
func (o Bookable) fillAlong(r BookingRequest, wrong refusal.Complaints) []SeatFor {
	if len(r.Along) > o.along() {
		wrong.Add("along", told.TooManyAlong.With(o.along()))
		return nil
	}
	if len(r.Along) > 0 && r.Wait {
		wrong.Add("along", told.AloneOnList.Words())
	}
	out := make([]SeatFor, len(r.Along))
	for i, person := range r.Along {
		field := fmt.Sprintf("along.%d.", i)
		seat := SeatFor{Name: intake.OneLine(person.Name), Mail: strings.TrimSpace(person.Mail)}
		switch {
		case seat.Name == "":
			wrong.Add(field+"name", told.NameOfAlong.Words())
		case len([]rune(seat.Name)) > 200:
			wrong.Add(field+"name", told.LongName.Words())
		}
		if seat.Mail == "" {
			seat.Mail = r.Mail
		} else if _, fault := intake.MailAddress(seat.Mail); fault.Any() {
			wrong.Add(field+"mail", fault)
		}
		answers, faults := o.askEverybody(r.Said, person.Said)
		seat.Said = answers
		for id, fault := range faults {
			wrong.Add(field+"said."+id, fault)
		}
		out[i] = seat
	}
	return out
}

// askEverybody checks the answers of somebody who comes along. What only the client is asked decides about questions as the client
// answered it.
func (o Bookable) askEverybody(clients, theirs intake.Given) (answers []intake.Answer, faults map[string]told.Words) {
	given := intake.Given{}
	everybody := map[string]bool{}
	for _, q := range o.BookingPage.Questions {
		if everybody[q.ID] = q.OfAll(); everybody[q.ID] {
			given[q.ID] = theirs[q.ID]
		} else {
			given[q.ID] = clients[q.ID]
		}
	}
	answers, faults = intake.Check(o.BookingPage.Questions, given, o.Host.Home.Front.Country)
	for id := range faults {
		if !everybody[id] {
			delete(faults, id)
		}
	}
	return slices.DeleteFunc(answers, func(a intake.Answer) bool { return !everybody[a.ID] }), faults
}

// MayBook tells whether bookings are taken from whoever asks.
func (o Bookable) MayBook(inside bool) error {
	home := o.Host.Home
	switch {
	case home.BeingSetUp() && !inside:
		return refusal.New(refusal.Over, told.NotPublished.With(home.Name))
	case o.Listing == ListedOff:
		return refusal.New(refusal.Over, told.NotNow.With(home.Name))
	case o.Who == "organisation" && !inside:
		return refusal.New(refusal.Forbidden, told.OnlyPeople.With(home.Name))
	case o.Who == "nobody":
		return refusal.New(refusal.Forbidden, told.OnlyHosts.With(home.Name))
	}
	return nil
}

// longestRemark is in letters.
const longestRemark = 4000

// RefreshCalendars brings the calendars of hosts up to date side by side, and returns whose were not in time.
func (s *Service) RefreshCalendars(ctx context.Context, hosts []routing.Host, maxAge, limit time.Duration) map[int64]bool {
	silent, mu, wait := map[int64]bool{}, sync.Mutex{}, sync.WaitGroup{}
	for _, h := range hosts {
		wait.Go(func() {
			inTime := false // busy wins if it panics, too
			_ = trace.Guard(ctx, s.calendars.Log, "asking calendars once more", func() error {
				inTime = s.calendars.Refresh(ctx, h.ID, maxAge, limit)
				return nil
			})
			if !inTime {
				mu.Lock()
				silent[h.ID] = true
				mu.Unlock()
			}
		})
	}
	wait.Wait()
	return silent
}

// KeptTimes are the meeting's start and end, and the time kept for it with its buffers, in UTC seconds.
func (o Bookable) KeptTimes(at time.Time) (start, end, from, until int64) {
	start = at.Unix()
	end = start + int64(o.Rules.Duration)*60
	return start, end, start - int64(o.Rules.Before)*60, end + int64(o.Rules.After)*60
}

// ByLink finds a booking by the secret of its link.
func (s *Service) ByLink(ctx context.Context, q *sqlc.Queries, link string) (sqlc.Booking, error) {
	booking, err := q.BookingByLink(ctx, secrets.Hashed(link))
	if errors.Is(err, store.ErrNotFound) {
		return booking, refusal.New(refusal.NotFound, told.NoBooking.Words())
	}
	return booking, err
}

// AfterURL is where a client is led after booking, with the chosen answers as its query.
func (o BookingPage) AfterURL(said []intake.Answer) string {
	u, err := url.Parse(o.AfterAddress)
	if err != nil || o.AfterAddress == "" {
		return ""
	}
	query := u.Query()
	for _, answer := range said {
		if slices.Contains(o.AfterPass, answer.ID) {
			query.Set(answer.ID, answer.Text())
		}
	}
	u.RawQuery = query.Encode()
	return u.String()
}

// ByHand is the form of a booking that no client filled in: the first way of meeting, and nothing asked.
func (o Bookable) ByHand() FilledForm {
	return FilledForm{Way: WayTaken{Way: o.BookingPage.Ways[0]}, Said: []intake.Answer{}, Guests: []string{}}
}

// Correction is what a client writes instead.
type Correction struct {
	Said   intake.Given `json:"said"`
	Given  string       `json:"given,omitempty" maxLength:"10000"`
	Remark string       `json:"remark,omitempty" maxLength:"20000"`
}

// CorrectableOf leaves out what was given once and for all: a file, and what was agreed to.
func CorrectableOf(questions []intake.Question) []intake.Question {
	out := []intake.Question{}
	for _, q := range questions {
		if q.Kind != intake.File && q.Kind != intake.Terms {
			out = append(out, q)
		}
	}
	return out
}

// Corrected is the form as the client wants it now. Answers to what is not asked any more stay as they are.
func (o Bookable) Corrected(before FilledForm, c Correction) (after FilledForm, remark string, err error) {
	wrong := refusal.Complaints{}
	after = before
	after.Way = o.withGiven(before.Way.Way, c.Given, wrong)
	questions := CorrectableOf(o.BookingPage.Questions)
	said, faults := intake.Check(questions, c.Said, o.Host.Home.Front.Country)
	for id, fault := range faults {
		wrong.Add("said."+id, fault)
	}
	after.Said = said
	for _, answer := range before.Said {
		if !slices.ContainsFunc(questions, func(q intake.Question) bool { return q.ID == answer.ID }) {
			after.Said = append(after.Said, answer)
		}
	}
	if remark = intake.AsWritten(c.Remark); len([]rune(remark)) > longestRemark {
		wrong.Add("remark", told.LongRemark.Words())
	}
	return after, remark, wrong.Err()
}

// FilledForm is a client's form in its normal form, as it is kept with the booking.
type FilledForm struct {
	Way     WayTaken
	Said    []intake.Answer
	Guests  []string
	Consent string
	Phone   string // for text messages, if the client agreed to them
	Along   []SeatFor
	Files   []string // tokens of those among the answers

	CodePhone string // where the code goes, if it goes there
}

// Fill checks what a client has entered against what the type asks. Everything that is wrong is told at once.
func (o Bookable) Fill(r BookingRequest) (FilledForm, error) {
	wrong := r.Check()
	form := FilledForm{Guests: []string{}}
	form.Way = o.wayTaken(r, wrong)
	answers, faults := intake.Check(o.BookingPage.Questions, r.Said, o.Host.Home.Front.Country)
	form.Said = answers
	for id, fault := range faults {
		wrong.Add("said."+id, fault)
	}
	for _, guest := range r.Guests {
		guest = intake.OneLine(guest)
		known := func(other string) bool { return strings.EqualFold(other, guest) }
		if guest == "" || known(r.Mail) || slices.ContainsFunc(form.Guests, known) {
			continue // the client gets a mail of their own
		}
		if _, fault := intake.MailAddress(guest); fault.Any() {
			wrong.Add("guests", told.GuestAddress.With(guest))
		}
		form.Guests = append(form.Guests, guest)
	}
	if len(form.Guests) > o.BookingPage.Guests {
		wrong.Add("guests", told.TooManyGuests.With(o.BookingPage.Guests))
	}
	form.Along = o.fillAlong(r, wrong)
	if form.Consent = o.Host.Home.Front.Consent; form.Consent != "" && !r.Consent {
		wrong.Add("consent", told.Tick.Words())
	}
	form.Phone, form.CodePhone = o.phonesOf(r, wrong)
	return form, wrong.Err()
}

// wayTaken is the way that the client chose; where there is only one, it is that.
func (o Bookable) wayTaken(r BookingRequest, wrong refusal.Complaints) WayTaken {
	ways := o.BookingPage.Ways
	i := slices.IndexFunc(ways, func(w Way) bool { return w.ID == r.Way })
	if i < 0 && (len(ways) == 1 || r.Way == "") {
		i = 0
	}
	if i < 0 {
		wrong.Add("way", told.NoLocation.Words())
		return WayTaken{}
	}
	return o.withGiven(ways[i], r.Given, wrong)
}

// withGiven is a way with what the client gives for it, where it asks for something.
func (o Bookable) withGiven(way Way, given string, wrong refusal.Complaints) WayTaken {
	taken := WayTaken{Way: way}
	switch {
	case taken.WhoCalls() == CallsHost:
		number, fault := intake.PhoneNumber(intake.OneLine(given), o.Host.Home.Front.Country)
		if fault.Any() {
			wrong.Add("given", fault)
		}
		taken.Given = number
	case taken.Kind == WayTheirs:
		if taken.Given = intake.FirstLetters(strings.TrimSpace(given), 1000); taken.Given == "" {
			wrong.Add("given", told.NoAddress.Words())
		}
	}
	return taken
}

// Keep puts the form into a new booking's rows.
func (f FilledForm) Keep(meeting *sqlc.AddMeetingParams, seat *sqlc.AddSeatParams, now time.Time) error {
	way, err := json.Marshal(f.Way)
	if err != nil {
		return err
	}
	said, err := json.Marshal(f.Said)
	if err != nil {
		return err
	}
	guests, err := json.Marshal(f.Guests)
	if err != nil {
		return err
	}
	meeting.Way, seat.Said, seat.Guests, seat.Consent = string(way), string(said), string(guests), f.Consent
	if f.Consent != "" {
		seat.ConsentAt = now.Unix()
	}
	return nil
}

// Where says in words where a booking's people meet, for the client or for the host; by video, a link says it.
func (w WayTaken) Where(in *words.Words, forHost bool) (word, text string) {
	number := words.With{"number": w.Number()}
	switch {
	case w.Address() != "":
		return in.Fact("where"), w.Address()
	case w.Kind == wayLater:
		return in.Fact("where"), in.Fact("later")
	case w.WhoCalls() == CallsClient && forHost:
		return in.Fact("by-phone"), in.Fact("client-calls")
	case w.WhoCalls() == CallsClient:
		return in.Fact("by-phone"), strings.TrimSpace(in.Say("facts.you-call-us", number))
	case w.WhoCalls() == CallsHost && forHost:
		return in.Fact("by-phone"), in.Say("facts.you-call", number)
	case w.WhoCalls() == CallsHost:
		return in.Fact("by-phone"), in.Say("facts.we-call-you", number)
	}
	return "", ""
}

// Address is where one meets, if it is a place.
func (w WayTaken) Address() string {
	switch w.Kind {
	case wayOurs:
		return w.Text
	case WayTheirs:
		return w.Given
	}
	return ""
}

// WhoCalls is who calls whom by phone; the host, if nothing else was said.
func (w WayTaken) WhoCalls() string {
	if w.Kind != WayPhone {
		return ""
	}
	return cmp.Or(w.Calls, CallsHost)
}

// Number is what is called by phone.
func (w WayTaken) Number() string {
	switch w.WhoCalls() {
	case CallsClient:
		return w.Text
	case CallsHost:
		return w.Given
	}
	return ""
}

// GuestsPlace is where guests find the meeting: never the client's number, and an address that the client wrote only if the
// client is known.
func (w WayTaken) GuestsPlace(known bool) string {
	if w.Kind == WayTheirs && !known {
		return ""
	}
	return intake.OneLine(w.Address())
}

// Location is where a calendar entry says it is.
func (w WayTaken) Location() string { return intake.OneLine(cmp.Or(w.Address(), w.Number())) }

// Solution is a browser's answer to a puzzle.
type Solution struct {
	Token  string `json:"token" maxLength:"100"`
	Answer string `json:"answer" maxLength:"100"`
}

// PageLanguages are those of clients' pages.
var PageLanguages = []string{"en", "de", "fr", "nl", "pt", "pt-BR"}

// SharePage is what links to the type can say.
func (o Bookable) SharePage() share.Page {
	p := share.Page{
		Lengths: o.Rules.Lengths(), Languages: PageLanguages, Asks: map[string][]string{}, Questions: o.BookingPage.Questions, Region: o.Host.Home.Front.Country,
	}
	if o.Pool.Mode == routing.ByClient {
		for _, person := range o.Pool.People {
			p.Hosts = append(p.Hosts, person.Slug)
		}
	}
	for _, way := range o.BookingPage.Ways {
		p.Ways = append(p.Ways, way.ID)
	}
	for _, ask := range o.asks() {
		p.Asks[ask.Attribute] = ask.Values
	}
	return p
}

// TextConsents is what clients agree to, by language.
func TextConsents(workspace string) map[string]string {
	out := map[string]string{}
	for _, language := range words.Languages() {
		out[language] = words.In(language).Say("texts.consent", words.With{"workspace": workspace})
	}
	return out
}

// phonesOf is the number of a request, for text messages if it agrees to them, and for the code if that goes there; empty if not.
func (o Bookable) phonesOf(r BookingRequest, wrong refusal.Complaints) (texts, code string) {
	proves := o.BookingPage.Proof == ProofText
	given := strings.TrimSpace(r.Phone) != ""
	if !proves && (!o.texts || !given && !r.Texts) {
		return "", ""
	}
	number, fault := intake.MobileNumber(intake.OneLine(r.Phone), o.Host.Home.Front.Country, o.textsTo)
	switch {
	case proves && !given:
		wrong.Add("phone", told.NoCodePhone.Words())
	case fault.Any():
		wrong.Add("phone", fault)
	case !proves && !r.Texts:
		wrong.Add("texts", told.TickTexts.Words())
	}
	if o.texts && r.Texts {
		texts = number
	}
	if proves {
		code = number
	}
	return texts, code
}
