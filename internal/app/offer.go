package app

import (
	"context"
	"encoding/json"
	"fmt"
	"net/url"
	"slices"
	"strings"

	"corrim/core/intake"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/store/sqlc"
)

// Offer is how a meeting type meets its clients: how one meets, what they are asked, how a booking comes about, and what
// they may do with it.
type Offer struct {
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

// What clients do to show that they are no script; see Offer.
const (
	proofCode   = "code"
	proofText   = "text"
	proofPuzzle = "puzzle"
)

// The ways of meeting.
const (
	wayVideo   = "video" // a fresh room for each booking
	wayOwnRoom = "own-room"
	wayOurs    = "ours"   // at our address
	wayTheirs  = "theirs" // at the client's
	wayPhone   = "phone"
	wayLater   = "later" // to be agreed
)

// Who calls whom by phone.
const (
	callsHost   = "host"
	callsClient = "client"
)

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

// OfferChange is an offer as its editor sends it.
type OfferChange struct {
	Offer
	Listing  string `json:"listing" enum:"listed,link,off" doc:"On the workspace's page; by its own link only; or switched off."`
	Category string `json:"category" maxLength:"200"`
	Version  int64  `json:"version,omitempty" doc:"Of the type that was changed; 0 doesn't look whether it has changed since."`
}

// OfferView is an offer with what its editor shows beside it.
type OfferView struct {
	OfferChange
	Page  Page                  `json:"page" doc:"The client's page as it would be."`
	Wrong map[string]told.Words `json:"wrong"`
}

// usualOffer is what a type offers that says nothing else.
func usualOffer() Offer {
	return Offer{Ways: []Way{{ID: wayVideo, Kind: wayVideo}}, Questions: []intake.Question{}, Always: []string{}, KeepHours: 48, PerClient: usualPerClient, AfterPass: []string{}, Checklist: []string{}}
}

// usualPerClient is how many coming bookings of a type a client may have where nothing else was set.
const usualPerClient = 5

func offerOf(row sqlc.MeetingType) (Offer, error) {
	o := usualOffer()
	if row.Offer == "" {
		return o, nil
	}
	err := json.Unmarshal([]byte(row.Offer), &o)
	return o.normal(), err
}

// normal is the offer as it is saved, with lists that are never nil.
func (o Offer) normal() Offer {
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

func (c OfferChange) check() refusal.Complaints {
	wrong := refusal.Complaints{}
	for i, w := range c.Ways {
		if fault := w.fault(); fault.Any() {
			wrong.Add(fmt.Sprintf("ways.%d", i), fault)
		}
	}
	if len(c.Ways) == 0 {
		wrong.Add("ways", told.Say("choose-least-one-location", "Choose at least one location; “agreed later” is one too."))
	}
	for i, fault := range intake.Faults(c.Questions) {
		wrong.Add(fmt.Sprintf("questions.%d", i), fault)
	}
	if c.Picture != "" && !hashPattern.MatchString(c.Picture) {
		wrong.Add("picture", told.Say("choose-picture-again", "Choose the picture again."))
	}
	if fault := colourFault(c.Colour); fault.Any() {
		wrong.Add("colour", fault)
	}
	for _, address := range c.Always {
		if _, fault := intake.MailAddress(address); fault.Any() {
			wrong.Add("always", told.Say("complete-mail-address", "“{}” is not a complete mail address.", address))
		}
	}
	if u, err := url.Parse(c.AfterAddress); c.AfterAddress != "" && (err != nil || u.Scheme != "https" && u.Scheme != "http" || u.Host == "") {
		wrong.Add("afterAddress", told.Say("give-whole-web", "Give a whole web address, like https://museum.example/thanks, or leave it empty."))
	}
	return wrong
}

// offerFaults is what is wrong with an offer by itself, or for this installation.
func (a *App) offerFaults(c OfferChange, seats int) refusal.Complaints {
	wrong := c.check()
	if c.Proof == proofText && a.Texter == nil {
		wrong.Add("proof", noGateway)
	}
	if fault := onePlace(seats, c.Ways); fault.Any() {
		wrong.Add("ways.0", fault)
	}
	return wrong
}

func (w Way) fault() told.Words {
	switch {
	case w.ID == "":
		return told.Say("give-location-id-own", "Give the location an ID of its own.")
	case w.Kind == wayOurs && w.Text == "":
		return told.Say("enter-address-how-find", "Enter the address, and how to find it.")
	case w.Kind == wayPhone && w.Calls == callsClient && w.Text == "":
		return told.Say("enter-number-clients-call", "Enter the number that clients call.")
	case w.Kind == wayOwnRoom:
		if u, err := url.Parse(w.Text); err != nil || u.Scheme != "https" || u.Host == "" {
			return told.Say("enter-rooms-address-beginning", "Enter the room's address, beginning with https://.")
		}
	}
	return told.Words{}
}

// offerToChange is a type of which the person may change the offer.
func (a *App) offerView(ctx context.Context, p Person, id int64, change func(*OfferChange)) (OfferView, error) {
	if _, err := a.MeetingType(ctx, p, id); err != nil {
		return OfferView{}, err
	}
	row, err := a.Store.MeetingType(ctx, id)
	if err != nil {
		return OfferView{}, err
	}
	o, err := a.offeredRow(ctx, a.Store.Queries, row)
	if err != nil {
		return OfferView{}, err
	}
	view := OfferView{OfferChange: OfferChange{o.Offer, row.Listing, row.Category, row.Version}}
	change(&view.OfferChange)
	view.Offer = view.Offer.normal()
	view.Wrong = a.offerFaults(view.OfferChange, o.Rules.Seats)
	o.Offer = view.Offer
	view.Page = o.page()
	return view, nil
}

// TypeOffer returns how a type meets its clients.
func (a *App) TypeOffer(ctx context.Context, p Person, id int64) (OfferView, error) {
	return a.offerView(ctx, p, id, func(*OfferChange) {})
}

// PreviewOffer shows an unsaved offer as its clients would meet it, and what is wrong with it.
func (a *App) PreviewOffer(ctx context.Context, p Person, id int64, draft OfferChange) (OfferView, error) {
	return a.offerView(ctx, p, id, func(c *OfferChange) { *c = draft })
}

// SaveOffer saves how a type meets its clients.
func (a *App) SaveOffer(ctx context.Context, p Person, id int64, change OfferChange) (OfferView, error) {
	kind, err := a.typeToChange(ctx, p, id, change.Version)
	if err != nil {
		return OfferView{}, err
	}
	change.Offer, change.Category = change.Offer.normal(), intake.OneLine(change.Category)
	if err := a.offerFaults(change, kind.Rules.Seats).Err(); err != nil {
		return OfferView{}, err
	}
	err = a.writeFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		row, err := q.MeetingType(ctx, id)
		if err != nil {
			return err
		}
		before, err := offerOf(row)
		if err != nil {
			return err
		}
		if err := writeOffer(ctx, q, id, change); err != nil {
			return err
		}
		if err := a.planDecisions(ctx, q, id); err != nil {
			return err
		}
		return a.remember(ctx, q, p, subjectOffer, id, told.Say("undo-booking-page", "{}: booking page", kind.Name), OfferChange{before, row.Listing, row.Category, 0})
	})
	if err != nil {
		return OfferView{}, err
	}
	return a.TypeOffer(ctx, p, id)
}

func writeOffer(ctx context.Context, q *sqlc.Queries, id int64, c OfferChange) error {
	text, err := json.Marshal(c.Offer)
	if err != nil {
		return err
	}
	return q.SetOffer(ctx, sqlc.SetOfferParams{ID: id, Listing: c.Listing, Category: c.Category, Offer: string(text)})
}

func (a *App) restoreOffer(ctx context.Context, q *sqlc.Queries, _ Person, id int64, before OfferChange) error {
	if err := writeOffer(ctx, q, id, before); err != nil {
		return err
	}
	return a.planDecisions(ctx, q, id)
}

// PlaceTypes puts types into an order, within the places that they have among all of the workspace. Types that the person may
// not change stay where they are.
func (a *App) PlaceTypes(ctx context.Context, p Person, order []int64) ([]MeetingType, error) {
	err := a.writeFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		rows, err := q.TypesOfWorkspace(ctx, p.home.id)
		if err != nil {
			return err
		}
		var places []int64
		var moving []int64
		for i, row := range rows {
			mine := row.HostID == p.ID || p.May(identity.EditEverybodys)
			if mine && slices.Contains(order, row.ID) {
				places, moving = append(places, int64(i+1)), append(moving, row.ID)
				continue
			}
			if err := q.PlaceType(ctx, sqlc.PlaceTypeParams{ID: row.ID, Position: int64(i + 1)}); err != nil {
				return err
			}
		}
		slices.SortFunc(moving, func(x, y int64) int { return slices.Index(order, x) - slices.Index(order, y) })
		for i, id := range moving {
			if err := q.PlaceType(ctx, sqlc.PlaceTypeParams{ID: id, Position: places[i]}); err != nil {
				return err
			}
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	return a.MeetingTypes(ctx, p, TypeFilter{All: true})
}

// DuplicateType makes a copy of a type with everything that belongs to it, switched off until somebody has looked at it.
func (a *App) DuplicateType(ctx context.Context, p Person, id int64) (MeetingType, error) {
	kind, err := a.typeToChange(ctx, p, id, 0)
	if err != nil {
		return kind, err
	}
	var copied int64
	err = a.writeFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		row, err := q.MeetingType(ctx, id)
		if err != nil {
			return err
		}
		draft := kind.TypeDraft
		draft.Name = intake.FirstLetters("Copy of "+draft.Name, 120)
		if draft.Slug, err = freeSlug(draft.Slug, func(slug string) (int64, error) {
			return q.SlugTaken(ctx, sqlc.SlugTakenParams{WorkspaceID: p.home.id, Slug: slug})
		}); err != nil {
			return err
		}
		if copied, err = writeType(ctx, q, p.home.id, kind.hostID, 0, draft); err != nil {
			return err
		}
		if err := q.SetOffer(ctx, sqlc.SetOfferParams{ID: copied, Listing: listedOff, Category: row.Category, Offer: row.Offer}); err != nil {
			return err
		}
		if err := q.SetMessagesOfType(ctx, sqlc.SetMessagesOfTypeParams{ID: copied, Messages: row.Messages}); err != nil {
			return err
		}
		return q.SetRouting(ctx, sqlc.SetRoutingParams{ID: copied, Routing: row.Routing, Who: row.Who})
	})
	if err != nil {
		return MeetingType{}, err
	}
	return a.MeetingType(ctx, p, copied)
}

// Where a type is offered; see OfferChange.
const (
	listed    = "listed"
	listedOff = "off"
)

// freeSlug is an address that nobody has yet, made from one.
func freeSlug(slug string, taken func(string) (int64, error)) (string, error) {
	for n := 1; ; n++ {
		try := slug
		if n > 1 {
			try = fmt.Sprintf("%s-%d", slug, n)
		}
		count, err := taken(try)
		if err != nil || count == 0 {
			return try, err
		}
	}
}

// removedType is what a removed type had.
type removedType struct{ Slug, Listing string }

// RemoveType takes a type away; its past bookings stay. One that still has coming bookings can't be.
func (a *App) RemoveType(ctx context.Context, p Person, id int64) ([]MeetingType, error) {
	kind, err := a.typeToChange(ctx, p, id, 0)
	if err != nil {
		return nil, err
	}
	err = a.writeFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		ahead, err := q.BookingsAhead(ctx, sqlc.BookingsAheadParams{TypeID: id, Now: a.Now().Unix()})
		if err != nil {
			return err
		}
		if ahead > 0 {
			return refusal.New(refusal.Invalid, told.Say("still-coming-bookings", "“{}” still has {} coming bookings. Switch it off, so that nobody books it any more, and remove it once they are over.", kind.Name, ahead))
		}
		row, err := q.MeetingType(ctx, id)
		if err != nil {
			return err
		}
		if err := q.RemoveType(ctx, sqlc.RemoveTypeParams{ID: id, RemovedAt: a.Now().Unix()}); err != nil {
			return err
		}
		return a.remember(ctx, q, p, subjectRemoved, id, told.Say("undo-type-removed", "{} removed", kind.Name), removedType{row.Slug, row.Listing})
	})
	if err != nil {
		return nil, err
	}
	return a.MeetingTypes(ctx, p, TypeFilter{All: true})
}

func restoreRemoved(ctx context.Context, q *sqlc.Queries, _ Person, id int64, before removedType) error {
	row, err := q.MeetingType(ctx, id)
	if err != nil {
		return err
	}
	slug, err := freeSlug(before.Slug, func(slug string) (int64, error) {
		return q.SlugTaken(ctx, sqlc.SlugTakenParams{WorkspaceID: row.WorkspaceID, Slug: slug, ID: row.ID})
	})
	if err != nil {
		return err
	}
	return q.PutBackType(ctx, sqlc.PutBackTypeParams{ID: row.ID, Slug: slug, Listing: before.Listing})
}
