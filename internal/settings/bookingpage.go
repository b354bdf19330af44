package settings

import (
	"context"
	"encoding/json"
	"fmt"
	"net/url"
	"slices"

	"corrim/core/intake"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/store/sqlc"
)

// What clients do to show that they are no script; see schedule.BookingPage.
const ProofPuzzle = "puzzle"

// The ways of meeting.
const ()

// Who calls whom by phone.
const ()

// BookingPageChange is a booking page as its editor sends it.
type BookingPageChange struct {
	schedule.BookingPage
	Listing  string `json:"listing" enum:"listed,link,off" doc:"On the workspace's page; by its own link only; or switched off."`
	Category string `json:"category" maxLength:"200"`
	Version  int64  `json:"version,omitempty" doc:"Of the type that was changed; 0 doesn't look whether it has changed since."`
}

// BookingPageView is a booking page with what its editor shows beside it.
type BookingPageView struct {
	BookingPageChange
	Page  schedule.Page         `json:"page" doc:"The client's page as it would be."`
	Wrong map[string]told.Words `json:"wrong"`
}

func (c BookingPageChange) check() refusal.Complaints {
	wrong := refusal.Complaints{}
	for i, w := range c.Ways {
		if fault := w.Fault(); fault.Any() {
			wrong.Add(fmt.Sprintf("ways.%d", i), fault)
		}
	}
	if len(c.Ways) == 0 {
		wrong.Add("ways", told.Say("choose-least-one-location", "Choose at least one location; “agreed later” is one too."))
	}
	for i, fault := range intake.Faults(c.Questions) {
		wrong.Add(fmt.Sprintf("questions.%d", i), fault)
	}
	if c.Picture != "" && !schedule.HashPattern.MatchString(c.Picture) {
		wrong.Add("picture", told.Say("choose-picture-again", "Choose the picture again."))
	}
	if fault := schedule.ColourFault(c.Colour); fault.Any() {
		wrong.Add("colour", fault)
	}
	for _, address := range c.Always {
		if _, fault := intake.MailAddress(address); fault.Any() {
			wrong.Add("always", told.Say("complete-mail-address", "“{}” is not a complete mail address.", address))
		}
	}
	if u, err := url.Parse(c.AfterAddress); c.AfterAddress != "" && (err != nil || u.Scheme != "https" && u.Scheme != "http" || u.Host == "" || !intake.PortFits(u)) {
		wrong.Add("afterAddress", told.Say("give-whole-web", "Give a whole web address, like https://museum.example/thanks, or leave it empty."))
	}
	return wrong
}

// bookingPageFaults is what is wrong with a booking page by itself, or for this installation.
func (s *Settings) bookingPageFaults(c BookingPageChange, seats int) refusal.Complaints {
	wrong := c.check()
	if c.Proof == schedule.ProofText && !s.texts() {
		wrong.Add("proof", NoGateway)
	}
	if fault := OneLocation(seats, c.Ways); fault.Any() {
		wrong.Add("ways.0", fault)
	}
	return wrong
}

// bookingPageView is the booking page of a type that the person may see, with a change, as its editor shows it.
func (s *Settings) bookingPageView(ctx context.Context, p schedule.Person, id int64, change func(*BookingPageChange)) (BookingPageView, error) {
	if _, err := s.MeetingType(ctx, p, id); err != nil {
		return BookingPageView{}, err
	}
	row, err := s.store.MeetingType(ctx, id)
	if err != nil {
		return BookingPageView{}, err
	}
	o, err := s.BookableOf(ctx, s.store.Queries, row)
	if err != nil {
		return BookingPageView{}, err
	}
	view := BookingPageView{BookingPageChange: BookingPageChange{o.BookingPage, row.Listing, row.Category, row.Version}}
	change(&view.BookingPageChange)
	view.BookingPage = view.BookingPage.Normal()
	view.Wrong = s.bookingPageFaults(view.BookingPageChange, o.Rules.Seats)
	o.BookingPage = view.BookingPage
	view.Page = o.Page()
	return view, nil
}

// BookingPage returns how a type meets its clients.
func (s *Settings) BookingPage(ctx context.Context, p schedule.Person, id int64) (BookingPageView, error) {
	return s.bookingPageView(ctx, p, id, func(*BookingPageChange) {})
}

// PreviewBookingPage shows an unsaved booking page as its clients would meet it, and what is wrong with it.
func (s *Settings) PreviewBookingPage(ctx context.Context, p schedule.Person, id int64, draft BookingPageChange) (BookingPageView, error) {
	return s.bookingPageView(ctx, p, id, func(c *BookingPageChange) { *c = draft })
}

// SaveBookingPage saves how a type meets its clients.
func (s *Settings) SaveBookingPage(ctx context.Context, p schedule.Person, id int64, change BookingPageChange) (BookingPageView, error) {
	kind, err := s.TypeToChange(ctx, p, id, change.Version)
	if err != nil {
		return BookingPageView{}, err
	}
	change.BookingPage, change.Category = change.BookingPage.Normal(), intake.OneLine(change.Category)
	if err := s.bookingPageFaults(change, kind.Rules.Seats).Err(); err != nil {
		return BookingPageView{}, err
	}
	err = s.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		row, err := q.MeetingType(ctx, id)
		if err != nil {
			return err
		}
		before, err := schedule.BookingPageOf(row)
		if err != nil {
			return err
		}
		if err := writeBookingPage(ctx, q, id, change); err != nil {
			return err
		}
		if err := s.planDecisions(ctx, q, id); err != nil {
			return err
		}
		return s.Remember(ctx, q, p, subjectOffer, id, told.Say("undo-booking-page", "{}: booking page", kind.Name), BookingPageChange{before, row.Listing, row.Category, 0})
	})
	if err != nil {
		return BookingPageView{}, err
	}
	return s.BookingPage(ctx, p, id)
}

func writeBookingPage(ctx context.Context, q *sqlc.Queries, id int64, c BookingPageChange) error {
	text, err := json.Marshal(c.BookingPage)
	if err != nil {
		return err
	}
	return q.SetBookingPage(ctx, sqlc.SetBookingPageParams{ID: id, Listing: c.Listing, Category: c.Category, Offer: string(text)})
}

func (s *Settings) restoreBookingPage(ctx context.Context, q *sqlc.Queries, _ schedule.Person, id int64, before BookingPageChange) error {
	if err := writeBookingPage(ctx, q, id, before); err != nil {
		return err
	}
	return s.planDecisions(ctx, q, id)
}

// OrderTypes puts types into an order, within the places that they have among all of the workspace. Types that the person may
// not change stay where they are.
func (s *Settings) OrderTypes(ctx context.Context, p schedule.Person, order []int64) ([]schedule.MeetingType, error) {
	err := s.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		rows, err := q.TypesOfWorkspace(ctx, p.Home.ID)
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
			if err := q.SetTypePosition(ctx, sqlc.SetTypePositionParams{ID: row.ID, Position: int64(i + 1)}); err != nil {
				return err
			}
		}
		slices.SortFunc(moving, func(x, y int64) int { return slices.Index(order, x) - slices.Index(order, y) })
		for i, id := range moving {
			if err := q.SetTypePosition(ctx, sqlc.SetTypePositionParams{ID: id, Position: places[i]}); err != nil {
				return err
			}
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	return s.MeetingTypes(ctx, p, TypeFilter{All: true})
}

// DuplicateType makes a copy of a type with everything that belongs to it, switched off until somebody has looked at it.
func (s *Settings) DuplicateType(ctx context.Context, p schedule.Person, id int64) (schedule.MeetingType, error) {
	kind, err := s.TypeToChange(ctx, p, id, 0)
	if err != nil {
		return kind, err
	}
	var copied int64
	err = s.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		row, err := q.MeetingType(ctx, id)
		if err != nil {
			return err
		}
		draft := kind.TypeDraft
		draft.Name = intake.FirstLetters("Copy of "+draft.Name, 120)
		if draft.Slug, err = FreeSlug(draft.Slug, func(slug string) (int64, error) {
			return q.SlugTaken(ctx, sqlc.SlugTakenParams{WorkspaceID: p.Home.ID, Slug: slug})
		}); err != nil {
			return err
		}
		if copied, err = writeType(ctx, q, p.Home.ID, kind.HostID, 0, draft); err != nil {
			return err
		}
		if err := q.SetBookingPage(ctx, sqlc.SetBookingPageParams{ID: copied, Listing: schedule.ListedOff, Category: row.Category, Offer: row.Offer}); err != nil {
			return err
		}
		if err := q.SetMessagesOfType(ctx, sqlc.SetMessagesOfTypeParams{ID: copied, Messages: row.Messages}); err != nil {
			return err
		}
		return q.SetRouting(ctx, sqlc.SetRoutingParams{ID: copied, Routing: row.Routing, Who: row.Who})
	})
	if err != nil {
		return schedule.MeetingType{}, err
	}
	return s.MeetingType(ctx, p, copied)
}

// Where a type is offered; see BookingPageChange.
const Listed = "listed"

// FreeSlug is an address that nobody has yet, made from one.
func FreeSlug(slug string, taken func(string) (int64, error)) (string, error) {
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
func (s *Settings) RemoveType(ctx context.Context, p schedule.Person, id int64) ([]schedule.MeetingType, error) {
	kind, err := s.TypeToChange(ctx, p, id, 0)
	if err != nil {
		return nil, err
	}
	err = s.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		ahead, err := q.BookingsAhead(ctx, sqlc.BookingsAheadParams{TypeID: id, Now: s.now().Unix()})
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
		if err := q.RemoveType(ctx, sqlc.RemoveTypeParams{ID: id, RemovedAt: s.now().Unix()}); err != nil {
			return err
		}
		return s.Remember(ctx, q, p, subjectRemoved, id, told.Say("undo-type-removed", "{} removed", kind.Name), removedType{row.Slug, row.Listing})
	})
	if err != nil {
		return nil, err
	}
	return s.MeetingTypes(ctx, p, TypeFilter{All: true})
}

func restoreRemoved(ctx context.Context, q *sqlc.Queries, _ schedule.Person, id int64, before removedType) error {
	row, err := q.MeetingType(ctx, id)
	if err != nil {
		return err
	}
	slug, err := FreeSlug(before.Slug, func(slug string) (int64, error) {
		return q.SlugTaken(ctx, sqlc.SlugTakenParams{WorkspaceID: row.WorkspaceID, Slug: slug, ID: row.ID})
	})
	if err != nil {
		return err
	}
	return q.PutBackType(ctx, sqlc.PutBackTypeParams{ID: row.ID, Slug: slug, Listing: before.Listing})
}

// NoGateway is why no text messages can be sent.
var NoGateway = told.Say("no-text-gateway", "This installation sends no text messages. Whoever runs it can set up a gateway.")

// OneLocation complains of a type whose clients would share a time but not a place.
func OneLocation(seats int, ways []schedule.Way) told.Words {
	if seats <= 1 {
		return told.Words{}
	}
	ofClient := func(w schedule.Way) bool {
		return w.Kind == schedule.WayTheirs || w.Kind == schedule.WayPhone && w.Calls != schedule.CallsClient
	}
	if len(ways) == 1 && !ofClient(ways[0]) {
		return told.Words{}
	}
	return told.Say("seats-one-place", "Clients who share a time meet in one place: give the type one location, and none that depends on the client.")
}
