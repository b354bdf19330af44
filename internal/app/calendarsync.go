package app

import (
	"context"
	"fmt"

	words "corrim/core/message"
	"corrim/internal/calsync"
	"corrim/internal/letter"
	"corrim/internal/store/sqlc"
)

// calendarSync is the reading of calendars, wired to whose they are and to what became of the entries of bookings in them.
func (a *App) calendarSync() *calsync.Sync {
	return calsync.New(calsync.Config{
		Store: a.Store, Servers: a.Servers, Feeds: a.Feeds, Log: a.Log, Now: a.Now,
		Unseal: a.secrets.OpenLogin, Owner: a.calendarOwner, Tell: a.tellOwner, Settle: a.settleMissing, Wake: a.Wake, Waits: a.Waits,
		Notice: func(ctx context.Context, q *sqlc.Queries, owner, calendar int64, changes calsync.Changes) error {
			p, err := a.PersonByID(ctx, q, owner)
			if err != nil {
				return err
			}
			return a.noticeEvents(ctx, q, p, calendar, changes)
		},
	})
}

func (a *App) calendarOwner(ctx context.Context, q *sqlc.Queries, calendar int64) (calsync.Owner, error) {
	row, err := q.CalendarOwner(ctx, calendar)
	if err != nil {
		return calsync.Owner{}, err
	}
	p, err := a.PersonOf(ctx, q, row)
	return calsync.Owner{ID: p.ID, Mail: p.Mail, Zone: p.Local, OpenTitle: p.CalendarSettings.OpenTitle}, err
}

// tellOwner writes to whoever owns a calendar that it can't be read, and what is done until it can.
func (a *App) tellOwner(ctx context.Context, q *sqlc.Queries, calendar sqlc.Calendar, trouble string) error {
	row, err := q.CalendarOwner(ctx, calendar.ID)
	if err != nil {
		return err
	}
	owner, err := a.PersonOf(ctx, q, row)
	if err != nil {
		return err
	}
	w := words.In(owner.Language)
	meanwhile := w.Say("meanwhile."+owner.CalendarSettings.Unreachable, words.With{"hours": owner.CalendarSettings.TrustHours})
	told := []letter.Fact{{w.Fact("why"), trouble}, {w.Fact("meanwhile"), meanwhile}}
	m := mailOf(letter.Write(w, words.CalendarTrouble, words.With{"calendar": calendar.Name}, a.BaseURL+"/calendars", told))
	m.ID = fmt.Sprintf("calendar-%d-%d", calendar.ID, calendar.TroubleSince)
	m.FromName, m.To = owner.Home.Name, owner.Address()
	m.ReplyTo = owner.Address()
	return a.post(ctx, q, owner.ID, m)
}
