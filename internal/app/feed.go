package app

import (
	"context"
	"net/url"
	"strings"

	"corrim/core/busy"
	"corrim/core/intake"
	"corrim/core/told"
	"corrim/internal/calsync"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/store/sqlc"
)

// Subscription is a calendar at an iCalendar address.
type Subscription struct {
	Name    string `json:"name" maxLength:"200"`
	Address string `json:"address" maxLength:"2000" doc:"http, https or webcal; it stays secret."`
}

// Subscribe adds a calendar that is fetched from an address again and again.
func (a *App) Subscribe(ctx context.Context, p schedule.Person, s Subscription) ([]Calendar, error) {
	if err := p.Must(identity.EditOwn); err != nil {
		return nil, err // before any address is asked
	}
	address := strings.TrimSpace(s.Address)
	if rest, ok := strings.CutPrefix(address, "webcal://"); ok {
		address = "https://" + rest
	}
	u, err := url.Parse(address)
	if err != nil || u.Host == "" || u.Scheme != "https" && u.Scheme != "http" {
		return nil, refusal.Faulty("address", told.Say("enter-address-icalendar", "Enter the address of an iCalendar file, like https://calendar.example.org/holidays.ics."))
	}
	fetched, err := a.Feeds.Fetch(ctx, address, "")
	if err != nil {
		return nil, refusal.New(refusal.Unreachable, told.OfError(err))
	}
	if err := calsync.MustBeKnown(fetched.Text); err != nil {
		return nil, refusal.New(refusal.Unreachable, told.OfError(err))
	}
	name := nameOr(s.Name, u.Host)
	// The address may hold a secret, so it is kept like a password; its host is what is shown.
	return a.keepCalendar(ctx, p, newCalendar{calsync.Feed, u.Scheme + "://" + u.Host, name, address, fetched.State, fetched.Text})
}

// CalendarFile is a calendar's text.
type CalendarFile struct {
	Name string `json:"name" maxLength:"200"`
	Text string `json:"text" maxLength:"2000000"`
}

// AddCalendarFile adds a calendar from a file; it stays as it is until it is taken away.
func (a *App) AddCalendarFile(ctx context.Context, p schedule.Person, f CalendarFile) ([]Calendar, error) {
	text, err := busy.Read([]byte(f.Text), busy.Options{})
	if err != nil {
		return nil, refusal.Faulty("file", told.Say("icalendar-file-choose", "This is not an iCalendar file. Choose one that ends in .ics."))
	}
	if unknown := text.Unknown(); len(unknown) > 0 {
		return nil, refusal.Faulty("file", told.Say("known-when-everything", "It is not known when everything in this file is, so it can't be relied on. {}. Correct it, or export it again.", unknown[0].String()))
	}
	return a.keepCalendar(ctx, p, newCalendar{calsync.File, "", nameOr(strings.TrimSuffix(f.Name, ".ics"), "Calendar file"), "", "", []byte(f.Text)})
}

func nameOr(name, otherwise string) string {
	if name = intake.OneLine(name); name == "" {
		return otherwise
	}
	return intake.FirstLetters(name, 80)
}

type newCalendar struct {
	kind, server, name, secret, state string
	text                              []byte
}

// keepCalendar keeps a calendar that comes as one text. Its name tells it from others of the same place.
func (a *App) keepCalendar(ctx context.Context, p schedule.Person, c newCalendar) ([]Calendar, error) {
	err := a.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		account, err := q.AddAccount(ctx, sqlc.AddAccountParams{PersonID: p.ID, Kind: c.kind, Address: c.server, Username: c.name, Secret: a.secrets.SealLogin(c.secret)})
		if err != nil {
			return err
		}
		already, err := q.Calendars(ctx, p.ID)
		if err != nil {
			return err
		}
		look := busyStyleOf(len(already))
		err = q.AddCalendar(ctx, sqlc.AddCalendarParams{
			AccountID: account, Href: calsync.WholeCalendar, Name: c.name, Blocks: 1, Pattern: look.Pattern, Tone: look.Tone,
		})
		if err != nil {
			return err
		}
		calendar, err := q.CalendarOfAccount(ctx, account)
		if err != nil {
			return err
		}
		return a.calendars.KeepText(ctx, q, calendar, c.text, c.state)
	})
	if err != nil {
		return nil, err
	}
	return a.Calendars(ctx, p)
}
