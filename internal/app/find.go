package app

import (
	"cmp"
	"context"
	"fmt"
	"net/url"
	"slices"
	"strings"
	"time"
	"unicode"

	"corrim/core/intake"
	"corrim/internal/identity"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/store/sqlc"
)

// Found is something that the words of a search lead to.
type Found struct {
	Kind string `json:"kind" enum:"client,booking,type,colleague,hours"`
	Name string `json:"name"`
	Note string `json:"note" doc:"What tells it from others of that name."`
	Path string `json:"path" doc:"Where it is in the application."`
}

// mostFound bounds how much of each kind is found.
const mostFound = 6

// Find looks for what the person may see by the first letters of its words: clients with their bookings, meeting types, colleagues.
func (a *App) Find(ctx context.Context, p schedule.Person, search string) ([]Found, error) {
	words := searchWords(search)
	out := []Found{}
	if len(words) == 0 {
		return out, nil
	}
	for _, find := range []func(context.Context, schedule.Person, []string) ([]Found, error){a.findClients, a.findTypes, a.findColleagues} {
		found, err := find(ctx, p, words)
		if err != nil {
			return out, err
		}
		out = append(out, found...)
	}
	return out, nil
}

// mostWords bounds a search.
const mostWords = 6

// searchWords is what was typed as words of letters and figures, in small letters.
func searchWords(search string) []string {
	words := strings.FieldsFunc(strings.ToLower(intake.OneLine(search)), func(r rune) bool {
		return !unicode.IsLetter(r) && !unicode.IsNumber(r) && !unicode.IsMark(r)
	})
	return words[:min(mostWords, len(words))]
}

// begins tells whether each of the words begins one of a text.
func begins(text string, words []string) bool {
	for _, word := range words {
		found := false
		for part := range strings.FieldsSeq(strings.ToLower(text)) {
			found = found || strings.HasPrefix(part, word)
		}
		if !found {
			return false
		}
	}
	return true
}

func (a *App) findClients(ctx context.Context, p schedule.Person, words []string) ([]Found, error) {
	match := ""
	for _, word := range words {
		match += fmt.Sprintf(`"%s"* `, word) // SQLite FTS5, 3.1: letters and figures only, so that nothing has to be doubled
	}
	rows, err := a.Store.FindClients(ctx, sqlc.FindClientsParams{WorkspaceID: p.Home.ID, Words: match, HostID: p.WhoseClients(), Most: mostFound})
	var clients, bookings []Found
	for _, row := range rows {
		clients = append(clients, Found{"client", row.ClientName, row.ClientMail, "/clients/" + url.PathEscape(row.ClientMail)})
		near, err := a.nearBookings(ctx, p, row.ClientMail)
		if err != nil {
			return nil, err
		}
		bookings = append(bookings, near...)
	}
	return append(clients, bookings[:min(mostFound, len(bookings))]...), err
}

// mostNear is how many bookings of each client are found.
const mostNear = 2

// nearBookings is a client's bookings that are nearest to now.
func (a *App) nearBookings(ctx context.Context, p schedule.Person, mail string) ([]Found, error) {
	rows, err := a.Store.LatestBookings(ctx, sqlc.LatestBookingsParams{WorkspaceID: p.Home.ID, Mail: mail, HostID: p.WhoseClients()})
	away := func(b sqlc.Booking) time.Duration { return a.Now().Sub(time.Unix(b.StartAt, 0)).Abs() }
	slices.SortFunc(rows, func(x, y sqlc.Booking) int { return cmp.Compare(away(x), away(y)) })
	out := make([]Found, min(mostNear, len(rows)))
	for i, b := range rows[:len(out)] {
		at := time.Unix(b.StartAt, 0).In(p.Local)
		whose := ""
		if b.HostID != p.ID {
			whose = "&of=all"
		}
		out[i] = Found{"booking", b.ClientName, at.Format("Mon 2 Jan 2006, 15:04") + ", " + b.TypeName, fmt.Sprintf("/board?from=%s%s&booking=%d", at.Format(time.DateOnly), whose, b.ID)}
	}
	return out, err
}

func (a *App) findTypes(ctx context.Context, p schedule.Person, words []string) ([]Found, error) {
	list, err := a.TypeList(ctx, p, settings.TypeFilter{All: true})
	var out []Found
	for _, t := range list.Types {
		if len(out) < mostFound && begins(t.Name+" "+t.Category, words) {
			out = append(out, Found{"type", t.Name, t.Category, fmt.Sprintf("/types/%d", t.ID)})
		}
	}
	return out, err
}

func (a *App) findColleagues(ctx context.Context, p schedule.Person, words []string) ([]Found, error) {
	rows, err := a.Store.PeopleOfWorkspace(ctx, p.Home.ID)
	var out, hours []Found
	for _, row := range rows {
		if len(out) == mostFound || !begins(row.Name, words) {
			continue
		}
		out = append(out, Found{"colleague", row.Name, "", fmt.Sprintf("/people#person-%d", row.ID)})
		if row.ID != p.ID && p.May(identity.LookAfterHours) {
			hours = append(hours, Found{"hours", row.Name, "", fmt.Sprintf("/hours?for=%d", row.ID)})
		}
	}
	return append(out, hours...), err
}
