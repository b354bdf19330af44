package app

import (
	"cmp"
	"context"
	"slices"
	"strings"
	"unicode"

	"golang.org/x/text/unicode/norm"

	"corrim/core/civil"
	"corrim/core/hours"
	"corrim/internal/identity"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/store/sqlc"
)

// DemoPeople are those whom a visitor of the demo can be.
func (a *App) DemoPeople(ctx context.Context) ([]schedule.Person, error) {
	if !a.Demo {
		return nil, nil
	}
	rows, err := a.Store.People(ctx)
	if err != nil {
		return nil, err
	}
	return a.PeopleOf(ctx, rows)
}

// OnBehalfOf is a colleague whose hours the person changes, with the person's own rights. What changes is remembered as theirs.
func (a *App) OnBehalfOf(ctx context.Context, p schedule.Person, id int64) (schedule.Person, error) {
	if err := p.Must(identity.LookAfterHours); err != nil {
		return schedule.Person{}, err
	}
	colleague, err := a.Colleague(ctx, a.Store.Queries, p, id)
	colleague.Person = colleague.By(p.Person)
	return colleague, err
}

// NewPerson is somebody to be added.
type NewPerson struct {
	Name, Mail, Password, Zone string
	Role                       identity.Role // a member if empty; the first of a workspace is its owner
	Week                       [7]string
	Language                   string // English if empty

	hash string // of the password, which takes too long to be worked out within a transaction
}

func (a *App) withHash(ctx context.Context, p NewPerson) (_ NewPerson, err error) {
	p.hash, err = a.Identity.HashPassword(ctx, p.Password)
	return p, err
}

// AddWorkspace makes a workspace with its people and returns their IDs. Its zone is that of the first of them.
func (a *App) AddWorkspace(ctx context.Context, slug, name string, people ...NewPerson) ([]int64, error) {
	var ids []int64
	people = slices.Clone(people)
	for i := range people {
		var err error
		if people[i], err = a.withHash(ctx, people[i]); err != nil {
			return nil, err
		}
	}
	err := a.Store.Write(ctx, func(q *sqlc.Queries) error {
		workspace, err := q.AddWorkspace(ctx, sqlc.AddWorkspaceParams{Slug: slug, Name: name, Zone: people[0].Zone})
		if err != nil {
			return err
		}
		for i, p := range people {
			if i == 0 {
				p.Role = identity.Owner
			}
			id, err := a.addPerson(ctx, q, workspace, p)
			if err != nil {
				return err
			}
			ids = append(ids, id)
		}
		return nil
	})
	return ids, err
}

func (a *App) addPerson(ctx context.Context, q *sqlc.Queries, workspace int64, p NewPerson) (int64, error) {
	if _, err := civil.LoadZone(p.Zone); err != nil {
		return 0, err
	}
	week, err := hours.ParseWeek(p.Week)
	if err != nil {
		return 0, err
	}
	slug, err := freePersonSlug(ctx, q, workspace, p.Name)
	if err != nil {
		return 0, err
	}
	return q.AddPerson(ctx, sqlc.AddPersonParams{
		Role: string(cmp.Or(p.Role, identity.Member)), Slug: slug,
		WorkspaceID: workspace, Name: p.Name, Mail: p.Mail, PasswordHash: p.hash, Zone: p.Zone, Week: schedule.WeekJSON(week),
		Language: cmp.Or(p.Language, "en"),
		JoinedAt: a.Now().Unix(),
	})
}

// freePersonSlug is a short name made from somebody's name: "Siew Lin Dao" is siew-lin-dao.
func freePersonSlug(ctx context.Context, q *sqlc.Queries, workspace int64, name string) (string, error) {
	return settings.FreeSlug(cmp.Or(slugOf(name), "person"), func(slug string) (int64, error) {
		return q.PersonSlugTaken(ctx, sqlc.PersonSlugTakenParams{WorkspaceID: workspace, Slug: slug})
	})
}

// slugOf is a name as it can stand in an address: small Latin letters without marks, figures, and single hyphens.
func slugOf(name string) string {
	var b strings.Builder
	for _, r := range norm.NFD.String(strings.ToLower(name)) {
		switch {
		case r >= 'a' && r <= 'z' || r >= '0' && r <= '9':
			b.WriteRune(r)
		case unicode.Is(unicode.Mn, r): // an accent on its own
		case b.Len() > 0 && !strings.HasSuffix(b.String(), "-"):
			b.WriteByte('-')
		}
	}
	return strings.TrimSuffix(b.String(), "-")
}
