package app

import (
	"context"
	"errors"
	"time"

	"corrim/core/intake"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// Client is somebody who has booked, known by mail address.
type Client struct {
	Name     string    `json:"name" doc:"As they called themselves last."`
	Mail     string    `json:"mail"`
	Zone     string    `json:"zone"`
	Bookings int       `json:"bookings"`
	Latest   time.Time `json:"latest" doc:"The start of the meeting they booked last."`
	Since    time.Time `json:"since" doc:"When they booked first."`
}

// ClientHistory is a client with everything that was booked.
type ClientHistory struct {
	Client
	Notes    string       `json:"notes" doc:"The workspace's, for its people only."`
	History  []PastOrNext `json:"history" doc:"The latest meeting first."`
	Consents []ConsentLog `json:"consents"`
	Returned *Returned    `json:"returned,omitempty" doc:"If mail to them comes back."`
}

// PastOrNext is one of a client's bookings.
type PastOrNext struct {
	HostBooking
	Steps []Recent `json:"steps"`
}

// ConsentLog is what a client agreed to, and when.
type ConsentLog struct {
	Text string    `json:"text"`
	At   time.Time `json:"at"`
}

// ClientSoFar is what is known of a client when they book once more; of what they booked, only what the viewer may see.
type ClientSoFar struct {
	Bookings int        `json:"bookings" doc:"Beside this one."`
	NoShows  int        `json:"noShows"`
	Last     *time.Time `json:"last,omitempty" doc:"The start of the last meeting there was."`
	Notes    string     `json:"notes,omitempty" doc:"The workspace's, for its people only."`
}

// soFar is what is known of a booking's client beside it.
func (a *App) soFar(ctx context.Context, p schedule.Person, b sqlc.Booking) (ClientSoFar, error) {
	row, err := a.Store.ClientSoFar(ctx, sqlc.ClientSoFarParams{WorkspaceID: p.Home.ID, Mail: b.ClientMail, Beside: b.ID, HostID: p.WhoseClients(), Now: a.Now().Unix()})
	if err != nil {
		return ClientSoFar{}, err
	}
	out := ClientSoFar{Bookings: int(row.Bookings), NoShows: int(row.NoShows)}
	if row.LastStart > 0 {
		last := time.Unix(row.LastStart, 0).UTC()
		out.Last = &last
	}
	out.Notes, err = a.notesOn(ctx, p, b.ClientMail)
	return out, err
}

// notesOn is what the workspace has noted on a client.
func (a *App) notesOn(ctx context.Context, p schedule.Person, mail string) (string, error) {
	notes, err := a.Store.ClientNote(ctx, sqlc.ClientNoteParams{WorkspaceID: p.Home.ID, Mail: mail})
	if errors.Is(err, store.ErrNotFound) {
		err = nil
	}
	return notes, err
}

// Clients lists those who have booked with the person, or, for a coordinator, with anybody, the latest first.
func (a *App) Clients(ctx context.Context, p schedule.Person, search string) ([]Client, error) {
	rows, err := a.clientRows(ctx, p, intake.OneLine(search))
	out := make([]Client, len(rows))
	for i, r := range rows {
		out[i] = Client{r.ClientName, r.ClientMail, r.ClientZone, int(r.Bookings), time.Unix(r.LatestStart, 0).UTC(), time.Unix(r.FirstAt, 0).UTC()}
	}
	return out, err
}

func (a *App) clientRows(ctx context.Context, p schedule.Person, search string) ([]sqlc.ClientsRow, error) {
	if p.WhoseClients() == 0 {
		return a.Store.Clients(ctx, sqlc.ClientsParams{WorkspaceID: p.Home.ID, Search: search})
	}
	rows, err := a.Store.ClientsOfHost(ctx, sqlc.ClientsOfHostParams{HostID: p.ID, Search: search})
	out := make([]sqlc.ClientsRow, len(rows))
	for i, row := range rows {
		out[i] = sqlc.ClientsRow(row)
	}
	return out, err
}

// ClientByMail returns a client with their history.
func (a *App) ClientByMail(ctx context.Context, p schedule.Person, mail string) (ClientHistory, error) {
	out := ClientHistory{History: []PastOrNext{}, Consents: []ConsentLog{}}
	rows, err := a.Store.BookingsByClient(ctx, sqlc.BookingsByClientParams{WorkspaceID: p.Home.ID, Mail: mail, HostID: p.WhoseClients()})
	if err != nil {
		return out, err
	}
	if len(rows) == 0 {
		return out, refusal.New(refusal.NotFound, told.Say("no-such-client", "There is no such client among yours. Choose one from the list."))
	}
	names, err := a.Names(ctx, p.Home.ID)
	if err != nil {
		return out, err
	}
	files, err := a.filesOf(ctx, bookingIDs(rows)...)
	if err != nil {
		return out, err
	}
	feedback, err := a.feedbackOf(ctx, bookingIDs(rows)...)
	if err != nil {
		return out, err
	}
	texts, err := a.Store.TextConsentsOf(ctx, bookingIDs(rows))
	if err != nil {
		return out, err
	}
	for _, agreed := range texts {
		out.Consents = append(out.Consents, ConsentLog{agreed.Words, time.Unix(agreed.At, 0).UTC()})
	}
	newest := rows[0]
	for _, b := range rows {
		if b.ID > newest.ID {
			newest = b
		}
		entry := PastOrNext{HostBooking: hostBooking(b)}
		entry.Host = names[b.HostID]
		entry.Files, entry.Feedback = files[b.ID], feedback[b.ID]
		if entry.Steps, err = a.stepsOf(ctx, b); err != nil {
			return out, err
		}
		out.History = append(out.History, entry)
		if b.ConsentAt != 0 {
			out.Consents = append(out.Consents, ConsentLog{b.Consent, time.Unix(b.ConsentAt, 0).UTC()})
		}
		if created := time.Unix(b.CreatedAt, 0).UTC(); out.Since.IsZero() || created.Before(out.Since) {
			out.Since = created
		}
	}
	out.Name, out.Mail, out.Zone, out.Bookings = newest.ClientName, newest.ClientMail, newest.ClientZone, len(rows)
	out.Latest = time.Unix(newest.StartAt, 0).UTC()
	if out.Returned, err = a.returnedFrom(ctx, p.Home.ID, newest.ClientMail); err != nil {
		return out, err
	}
	out.Notes, err = a.notesOn(ctx, p, mail)
	return out, err
}

func (a *App) stepsOf(ctx context.Context, b sqlc.Booking) ([]Recent, error) {
	rows, err := a.Store.StepsOf(ctx, b.ID)
	out := make([]Recent, len(rows))
	for i, r := range rows {
		out[i] = Recent{time.Unix(r.At, 0).UTC(), r.Kind, b.ClientName, b.TypeName, time.Unix(b.StartAt, 0).UTC(), r.Note}
	}
	return out, err
}

// languageOf is the language in which a client of the workspace booked last; empty if they never did.
func (a *App) languageOf(ctx context.Context, p schedule.Person, mail string) (string, error) {
	language, err := a.Store.ClientLanguage(ctx, sqlc.ClientLanguageParams{WorkspaceID: p.Home.ID, Mail: mail})
	if errors.Is(err, store.ErrNotFound) {
		err = nil
	}
	return language, err
}

// SaveClientNotes keeps what the workspace notes about one of the person's clients.
func (a *App) SaveClientNotes(ctx context.Context, p schedule.Person, mail, notes string) (ClientHistory, error) {
	if len([]rune(notes)) > 8000 {
		return ClientHistory{}, refusal.Faulty("notes", told.Say("notes-most-8000", "Notes have at most 8000 letters."))
	}
	if _, err := a.ClientByMail(ctx, p, mail); err != nil {
		return ClientHistory{}, err
	}
	err := a.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		return q.SetClientNote(ctx, sqlc.SetClientNoteParams{WorkspaceID: p.Home.ID, Mail: mail, Notes: notes})
	})
	if err != nil {
		return ClientHistory{}, err
	}
	return a.ClientByMail(ctx, p, mail)
}
