package app

import (
	"cmp"
	"encoding/json"
	"slices"
	"strings"
	"time"

	"corrim/core/intake"
	words "corrim/core/message"
	"corrim/core/told"
	"corrim/internal/refusal"
	"corrim/internal/store/sqlc"
)

// What a client gives with a booking beside name and mail: the way of meeting, answers, guests, and their consent.

// filledForm is a client's form in its normal form, as it is kept with the booking.
type filledForm struct {
	way     WayTaken
	said    []intake.Answer
	guests  []string
	consent string
	phone   string // for text messages, if the client agreed to them
	along   []seatFor
	files   []string // tokens of those among the answers

	codePhone string // where the code goes, if it goes there
}

// fill checks what a client has entered against what the type asks. Everything that is wrong is told at once.
func (o offered) fill(r BookingRequest) (filledForm, error) {
	wrong := r.check()
	form := filledForm{guests: []string{}}
	form.way = o.wayTaken(r, wrong)
	answers, faults := intake.Check(o.Offer.Questions, r.Said, o.host.home.Front.Country)
	form.said = answers
	for id, fault := range faults {
		wrong.Add("said."+id, fault)
	}
	for _, guest := range r.Guests {
		guest = intake.OneLine(guest)
		known := func(other string) bool { return strings.EqualFold(other, guest) }
		if guest == "" || known(r.Mail) || slices.ContainsFunc(form.guests, known) {
			continue // the client gets a mail of their own
		}
		if _, fault := intake.MailAddress(guest); fault.Any() {
			wrong.Add("guests", told.GuestAddress.With(guest))
		}
		form.guests = append(form.guests, guest)
	}
	if len(form.guests) > o.Offer.Guests {
		wrong.Add("guests", told.TooManyGuests.With(o.Offer.Guests))
	}
	form.along = o.fillAlong(r, wrong)
	if form.consent = o.host.home.Front.Consent; form.consent != "" && !r.Consent {
		wrong.Add("consent", told.Tick.Words())
	}
	form.phone, form.codePhone = o.phonesOf(r, wrong)
	return form, wrong.Err()
}

// wayTaken is the way that the client chose; where there is only one, it is that.
func (o offered) wayTaken(r BookingRequest, wrong refusal.Complaints) WayTaken {
	ways := o.Offer.Ways
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
func (o offered) withGiven(way Way, given string, wrong refusal.Complaints) WayTaken {
	taken := WayTaken{Way: way}
	switch {
	case taken.calls() == callsHost:
		number, fault := intake.PhoneNumber(intake.OneLine(given), o.host.home.Front.Country)
		if fault.Any() {
			wrong.Add("given", fault)
		}
		taken.Given = number
	case taken.Kind == wayTheirs:
		if taken.Given = intake.FirstLetters(strings.TrimSpace(given), 1000); taken.Given == "" {
			wrong.Add("given", told.NoAddress.Words())
		}
	}
	return taken
}

// formOf is what was given with a booking.
func formOf(b sqlc.Booking) filledForm {
	f := filledForm{consent: b.Consent}
	_ = json.Unmarshal([]byte(b.Way), &f.way) // all three were written by keep
	_ = json.Unmarshal([]byte(b.Said), &f.said)
	_ = json.Unmarshal([]byte(b.Guests), &f.guests)
	return f
}

// keep puts the form into a new booking's rows.
func (f filledForm) keep(meeting *sqlc.AddMeetingParams, seat *sqlc.AddSeatParams, now time.Time) error {
	way, err := json.Marshal(f.way)
	if err != nil {
		return err
	}
	said, err := json.Marshal(f.said)
	if err != nil {
		return err
	}
	guests, err := json.Marshal(f.guests)
	if err != nil {
		return err
	}
	meeting.Way, seat.Said, seat.Guests, seat.Consent = string(way), string(said), string(guests), f.consent
	if f.consent != "" {
		seat.ConsentAt = now.Unix()
	}
	return nil
}

// hasFreshRoom tells whether a booking meets in a video room of its own.
func hasFreshRoom(b sqlc.Booking) bool { return formOf(b).way.Kind == wayVideo }

// joinURL is where to join by video; empty if one doesn't, or the room is not made yet.
func joinURL(b sqlc.Booking) string {
	if way := formOf(b).way; way.Kind == wayOwnRoom {
		return way.Text
	}
	return roomOf(b).URL
}

// where says in words where a booking's people meet, for the client or for the host; by video, a link says it.
func (w WayTaken) where(in *words.Words, forHost bool) (word, text string) {
	number := words.With{"number": w.number()}
	switch {
	case w.address() != "":
		return in.Fact("where"), w.address()
	case w.Kind == wayLater:
		return in.Fact("where"), in.Fact("later")
	case w.calls() == callsClient && forHost:
		return in.Fact("by-phone"), in.Fact("client-calls")
	case w.calls() == callsClient:
		return in.Fact("by-phone"), strings.TrimSpace(in.Say("facts.you-call-us", number))
	case w.calls() == callsHost && forHost:
		return in.Fact("by-phone"), in.Say("facts.you-call", number)
	case w.calls() == callsHost:
		return in.Fact("by-phone"), in.Say("facts.we-call-you", number)
	}
	return "", ""
}

// address is where one meets, if it is a place.
func (w WayTaken) address() string {
	switch w.Kind {
	case wayOurs:
		return w.Text
	case wayTheirs:
		return w.Given
	}
	return ""
}

// calls is who calls whom by phone; the host, if nothing else was said.
func (w WayTaken) calls() string {
	if w.Kind != wayPhone {
		return ""
	}
	return cmp.Or(w.Calls, callsHost)
}

// number is what is called by phone.
func (w WayTaken) number() string {
	switch w.calls() {
	case callsClient:
		return w.Text
	case callsHost:
		return w.Given
	}
	return ""
}

// guestsPlace is where guests find the meeting: never the client's number, and an address that the client wrote only if the
// client is known.
func (w WayTaken) guestsPlace(known bool) string {
	if w.Kind == wayTheirs && !known {
		return ""
	}
	return intake.OneLine(w.address())
}

// location is where a calendar entry says it is.
func (w WayTaken) location() string { return intake.OneLine(cmp.Or(w.address(), w.number())) }
