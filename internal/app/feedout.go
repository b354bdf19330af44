package app

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"corrim/core/invite"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/secrets"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// FeedAddresses are the private addresses that other calendar programs can subscribe to; empty if there are none.
type FeedAddresses struct {
	Bookings string `json:"bookings" doc:"The host's bookings, with all that is known about them."`
	Busy     string `json:"busy" doc:"Only when the host is busy (VFREEBUSY), from calendars and bookings."`
}

// FeedAddresses returns the person's addresses. They are worked out from the installation's key; the database has only a hash.
func (a *App) FeedAddresses(ctx context.Context, p schedule.Person) (FeedAddresses, error) {
	row, err := a.Store.Person(ctx, p.ID)
	if err != nil || row.FeedHash == "" {
		return FeedAddresses{}, err
	}
	base := a.BaseURL + "/f/" + a.secrets.Feed(p.ID, row.FeedNumber)
	return FeedAddresses{base + "/bookings.ics", base + "/busy.ics"}, nil
}

// RenewFeeds gives the person new addresses, or none. Whoever has the old ones gets nothing any more.
func (a *App) RenewFeeds(ctx context.Context, p schedule.Person, wanted bool) (FeedAddresses, error) {
	err := a.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		row, err := q.Person(ctx, p.ID)
		if err != nil {
			return err
		}
		next := sqlc.SetFeedParams{ID: p.ID, FeedNumber: row.FeedNumber + 1}
		if wanted {
			next.FeedHash = secrets.Hashed(a.secrets.Feed(p.ID, next.FeedNumber))
		}
		return q.SetFeed(ctx, next)
	})
	if err != nil {
		return FeedAddresses{}, err
	}
	return a.FeedAddresses(ctx, p)
}

func (a *App) byFeed(ctx context.Context, secret string) (schedule.Person, error) {
	row, err := a.Store.PersonByFeed(ctx, secrets.Hashed(secret))
	if errors.Is(err, store.ErrNotFound) {
		return schedule.Person{}, refusal.New(refusal.NotFound, told.Say("no-calendar-address", "There is no calendar at this address, or not any more."))
	}
	if err != nil {
		return schedule.Person{}, err
	}
	return a.PersonOf(ctx, a.Store.Queries, row)
}

const (
	feedBack  = 30 * 24 * time.Hour
	feedAhead = 365 * 24 * time.Hour
	busyAhead = 90 * 24 * time.Hour
)

// BookingsFeed is a person's bookings as iCalendar, for whoever has the address.
func (a *App) BookingsFeed(ctx context.Context, secret string) ([]byte, error) {
	p, err := a.byFeed(ctx, secret)
	if err != nil {
		return nil, err
	}
	now := a.Now()
	rows, err := schedule.BookingsOf(ctx, a.Store.Queries, p.ID, span.Of(now.Add(-feedBack), now.Add(feedAhead)))
	if err != nil {
		return nil, err
	}
	rows = slices.DeleteFunc(rows, func(b schedule.Hosted) bool { return b.Invited == 0 }) // not booked yet
	meetings := make([]invite.Meeting, len(rows))
	for i, b := range rows {
		f, err := a.facts(ctx, b.Booking)
		if err != nil {
			return nil, err
		}
		if f.clients, err = a.clientsSharing(ctx, b.Booking); err != nil {
			return nil, err
		}
		meetings[i] = f.forHost(f.host).hostEntry()
	}
	return invite.Feed(fmt.Sprintf("Bookings of %s", p.Name), meetings)
}

// BusyFeed is when a person is busy in the coming 90 days, and nothing else, for whoever has the address.
func (a *App) BusyFeed(ctx context.Context, secret string) ([]byte, error) {
	p, err := a.byFeed(ctx, secret)
	if err != nil {
		return nil, err
	}
	now := span.At(a.Now().Truncate(time.Hour)) // so that a text stays the same as long as nothing changes
	within := span.Span{Start: now, End: now.Add(busyAhead)}
	g, err := a.WholeAgenda(ctx, a.Store.Queries, p, within)
	if err != nil {
		return nil, err
	}
	var spans []span.Span
	for _, e := range g.Busy {
		spans = append(spans, schedule.BusySpan(e))
	}
	for _, t := range g.Taken {
		spans = append(spans, span.Span{Start: span.Instant(t.KeptFrom), End: span.Instant(t.KeptUntil)})
	}
	for _, b := range g.Blocks {
		spans = append(spans, schedule.BlockSpan(b))
	}
	return invite.Busy(invite.Party{Name: p.Name, Mail: p.Mail}, within, now, span.UnionInPlace(spans).Clip(within))
}
