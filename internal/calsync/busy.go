package calsync

import (
	"context"
	"encoding/json"
	"strings"
	"time"

	"corrim/core/busy"
	"corrim/core/intake"
	"corrim/core/invite"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/store/sqlc"
)

// busyReader works out busy times of one person's calendar resources, as one calendar's settings say.
type busyReader struct {
	options busy.Options
	opens   string // the title of events that open time
	within  span.Span
}

func (s *Sync) busyReader(ctx context.Context, q *sqlc.Queries, owner Owner, c sqlc.Calendar) (busyReader, error) {
	now, opens := s.Now(), ""
	if c.MayOpen == 1 {
		opens = owner.OpenTitle
	}
	owners, err := OwnersOf(ctx, q, owner.ID, owner.Mail)
	return busyReader{
		options: busy.Options{Zone: owner.Zone, Owners: owners, TentativeBusy: c.Tentative == 1, AllDayBusy: c.AllDay == 1},
		opens:   opens, within: span.Of(now.Add(-7*24*time.Hour), now.Add(busyHorizon)),
	}, err
}

// OwnersOf is all mail addresses of a person that their calendar servers know, mail among them.
func OwnersOf(ctx context.Context, q *sqlc.Queries, person int64, mail string) ([]string, error) {
	accounts, err := q.AccountsOf(ctx, person)
	owners := []string{mail}
	for _, account := range accounts {
		var more []string
		_ = json.Unmarshal([]byte(account.Addresses), &more) // empty text: not asked yet
		owners = append(owners, more...)
	}
	return owners, err
}

// MustBeKnown refuses a text that may hide busy time.
func MustBeKnown(ics []byte) error { return busyReader{}.mustBeKnown(Resource{ICS: ics}) }

// mustBeKnown refuses a text that may hide busy time: then the reading has failed, and the last copy stays. A text that is no
// calendar at all hides nothing that could be found.
func (r busyReader) mustBeKnown(resource Resource) error {
	calendar, err := busy.Read(resource.ICS, r.options)
	if err != nil || len(calendar.Unknown()) == 0 {
		return nil
	}
	return told.Error("last-copy-counts", "It is not known when everything in it is, so the last copy counts. {}. Correct it in the calendar, or remove it there.", calendar.Unknown()[0].Told())
}

// keep stores a resource and its busy times. What of it can't be read is kept beside it in words.
func (r busyReader) keep(ctx context.Context, q *sqlc.Queries, calendar int64, resource Resource) error {
	stretches, events, trouble := r.read(resource.ICS)
	err := q.SetResource(ctx, sqlc.SetResourceParams{
		CalendarID: calendar, Href: resource.Href, Etag: resource.ETag, Ics: string(resource.ICS), Trouble: trouble, Events: int64(events),
	})
	if err != nil {
		return err
	}
	return r.keepBusy(ctx, q, calendar, resource.Href, stretches)
}

// stretch is a busy time, or one that an event with the agreed title opens.
type stretch struct {
	busy.Busy
	opens bool
}

func (r busyReader) read(ics []byte) (stretches []stretch, events int, trouble string) {
	calendar, err := busy.Read(ics, r.options)
	if err != nil {
		return nil, 0, told.OfError(err).Stored()
	}
	found, troubles := calendar.Busy(r.within)
	for _, b := range found {
		if !r.marks(b) {
			stretches = append(stretches, stretch{b, false})
		}
	}
	if r.opens != "" {
		stretches = append(stretches, r.marked(ics)...)
	}
	words := make([]told.Words, len(troubles))
	for i, t := range troubles {
		words[i] = t.Told()
	}
	return stretches, calendar.Events(), told.Join(words, " ").Stored()
}

// marks tells whether a stretch opens time, whatever the case of its title.
func (r busyReader) marks(b busy.Busy) bool {
	return r.opens != "" && strings.EqualFold(intake.OneLine(b.Title), r.opens)
}

// marked is what events with the agreed title open, those that are marked as free included.
func (r busyReader) marked(ics []byte) (stretches []stretch) {
	options := r.options
	options.FreeToo, options.TentativeBusy, options.AllDayBusy = true, true, true
	calendar, err := busy.Read(ics, options)
	if err != nil {
		return nil
	}
	found, _ := calendar.Busy(r.within)
	for _, b := range found {
		if r.marks(b) {
			stretches = append(stretches, stretch{b, true})
		}
	}
	return stretches
}

func (r busyReader) keepBusy(ctx context.Context, q *sqlc.Queries, calendar int64, href string, stretches []stretch) error {
	if err := q.RemoveBusy(ctx, sqlc.RemoveBusyParams{CalendarID: calendar, Href: href}); err != nil {
		return err
	}
	for _, b := range stretches {
		opens := int64(0)
		if b.opens {
			opens = 1
		}
		err := q.AddBusy(ctx, sqlc.AddBusyParams{
			CalendarID: calendar, Href: href, StartAt: int64(b.Start), EndAt: int64(b.End), Uid: invite.MeetingUID(b.UID), Title: b.Title, Opens: opens,
		})
		if err != nil {
			return err
		}
	}
	return nil
}

// again works out all busy times of a calendar from the kept texts, for a horizon that has moved on or other settings.
func (r busyReader) again(ctx context.Context, q *sqlc.Queries, calendar int64) error {
	texts, err := q.ResourceTexts(ctx, calendar)
	if err != nil {
		return err
	}
	for _, t := range texts {
		stretches, _, _ := r.read([]byte(t.Ics))
		if err := r.keepBusy(ctx, q, calendar, t.Href, stretches); err != nil {
			return err
		}
	}
	return nil
}
