package public

import (
	"cmp"
	"context"
	"errors"

	"corrim/core/told"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/secrets"
	"corrim/internal/settings"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

var errNoPage = refusal.New(refusal.NotFound, told.NoPage.Words())

// WorkspacePage returns all listed types of a workspace.
func (s *Pages) WorkspacePage(ctx context.Context, slug string) (schedule.Showcase, error) {
	writes := s.store.Written(settings.TypeTables...)
	return s.pages.Get(slug, writes, func() (schedule.Showcase, error) { return s.workspacePage(ctx, slug) })
}

// mostShown bounds how many types a page lists.
const mostShown = 200

func (s *Pages) workspacePage(ctx context.Context, slug string) (schedule.Showcase, error) {
	row, err := s.store.WorkspaceBySlug(ctx, slug)
	if errors.Is(err, store.ErrNotFound) {
		return schedule.Showcase{}, errNoPage
	}
	if err != nil {
		return schedule.Showcase{}, err
	}
	home, err := schedule.WorkspaceOf(row)
	if err != nil {
		return schedule.Showcase{}, err
	}
	show := home.Showcase()
	if home.Front.Unpublished {
		return schedule.Showcase{}, errNoPage
	}
	types, err := s.shown(ctx, home)
	if err != nil {
		return schedule.Showcase{}, err
	}
	hosts := map[int64]bool{}
	for i, o := range types {
		if i < mostShown {
			show.Add(o, o.Path)
		} else {
			show.More++
		}
		for _, person := range o.Pool.People {
			hosts[person.ID] = hosts[person.ID] || o.SurelyWith(person.ID) != ""
		}
	}
	people, err := s.store.PeopleOfWorkspace(ctx, home.ID)
	for _, person := range people {
		if hosts[person.ID] && person.NoPage == 0 {
			show.People = append(show.People, home.Part(person))
		}
	}
	return show, err
}

// PersonPage returns the listed types that a person surely hosts: alone, together with others, or as the client's choice.
func (s *Pages) PersonPage(ctx context.Context, workspace, slug string) (schedule.Showcase, error) {
	row, err := s.store.PersonBySlug(ctx, sqlc.PersonBySlugParams{Workspace: workspace, Slug: slug})
	if errors.Is(err, store.ErrNotFound) {
		return schedule.Showcase{}, errNoPage
	}
	if err != nil {
		return schedule.Showcase{}, err
	}
	person, err := s.PersonOf(ctx, s.store.Queries, row)
	if err != nil {
		return schedule.Showcase{}, err
	}
	if person.Home.Front.Unpublished || person.NoPage {
		return schedule.Showcase{}, errNoPage
	}
	show := person.Home.Showcase()
	show.Person, show.Photo, show.Description = person.Name, schedule.PathOfPicture(person.Photo), ""
	types, err := s.shown(ctx, person.Home)
	for _, o := range types {
		if path := o.SurelyWith(person.ID); path != "" {
			show.Add(o, path)
		}
	}
	return show, err
}

// TeamPage returns a team's people with a page of their own, and the listed types that it hosts: those that it was chosen for, and those
// that only people of it host. A team that has neither has no page: its name may be only for colleagues.
func (s *Pages) TeamPage(ctx context.Context, workspace, slug string) (schedule.Showcase, error) {
	team, err := s.store.TeamBySlug(ctx, sqlc.TeamBySlugParams{Workspace: workspace, Slug: slug})
	if errors.Is(err, store.ErrNotFound) {
		return schedule.Showcase{}, errNoPage
	}
	if err != nil {
		return schedule.Showcase{}, err
	}
	row, err := s.store.WorkspaceByID(ctx, team.WorkspaceID)
	if err != nil {
		return schedule.Showcase{}, err
	}
	home, err := schedule.WorkspaceOf(row)
	if err != nil || home.Front.Unpublished {
		return schedule.Showcase{}, cmp.Or(err, error(errNoPage))
	}
	members, err := s.store.TeamMembers(ctx, team.ID)
	if err != nil {
		return schedule.Showcase{}, err
	}
	show := home.Showcase()
	show.Team, show.Description = team.Name, ""
	types, err := s.shown(ctx, home)
	if err != nil {
		return show, err
	}
	of := map[int64]bool{}
	for _, m := range members {
		of[m.PersonID] = true
	}
	pages := map[int64]bool{}
	for _, o := range types {
		for _, person := range o.Pool.People {
			pages[person.ID] = pages[person.ID] || o.SurelyWith(person.ID) != ""
		}
		if o.HostedBy(team.ID, of) {
			show.Add(o, o.Path)
		}
	}
	people, err := s.store.PeopleOfWorkspace(ctx, home.ID)
	for _, person := range people {
		if of[person.ID] && pages[person.ID] && person.NoPage == 0 {
			show.People = append(show.People, home.Part(person))
		}
	}
	if err == nil && len(show.Groups)+len(show.People) == 0 {
		return schedule.Showcase{}, errNoPage
	}
	return show, err
}

// shown is the listed types that anyone may book.
func (s *Pages) shown(ctx context.Context, w schedule.Home) ([]schedule.Bookable, error) {
	rows, err := s.store.TypesOfWorkspace(ctx, w.ID)
	if err != nil {
		return nil, err
	}
	var out []schedule.Bookable
	for _, row := range rows {
		if row.Listing != settings.Listed || row.Who != "anyone" {
			continue
		}
		o, err := s.BookableOf(ctx, s.store.Queries, row)
		if err != nil {
			return nil, err
		}
		if len(o.Pool.People) > 0 {
			out = append(out, o)
		}
	}
	return out, nil
}

// PageLanguage is the language of a client's page where the browser asks for none that there is: of a workspace by its short
// name, or of the booking or offer that a link leads to. It is English if there is no such page.
func (s *Pages) PageLanguage(ctx context.Context, slug, link string) string {
	home := schedule.Home{}
	if row, err := s.store.WorkspaceBySlug(ctx, slug); err == nil {
		home, _ = schedule.WorkspaceOf(row) // one that can't be read says so elsewhere
	} else if b, err := s.ByLink(ctx, s.store.Queries, link); err == nil {
		host, _ := s.Anybody(ctx, s.store.Queries, b.HostID)
		home = host.Home
	} else if o, err := s.store.OneOffByLink(ctx, secrets.Hashed(link)); err == nil {
		host, _ := s.Anybody(ctx, s.store.Queries, o.HostID)
		home = host.Home
	}
	return cmp.Or(home.Front.Language, "en")
}

// PageAddress says which client's page is meant: under "p" a workspace's, one of its types', persons' or teams'; under "b" that of a
// booking, under "o" of an offer.
type PageAddress struct{ Kind, Workspace, Type, Person, Team, Link string }

// HasPage tells whether there is a client's page.
func (s *Pages) HasPage(ctx context.Context, at PageAddress) (bool, error) {
	var err error
	switch {
	case at.Kind == "b":
		_, err = s.ByLink(ctx, s.store.Queries, at.Link)
	case at.Kind == "o":
		_, err = s.store.OneOffByLink(ctx, secrets.Hashed(at.Link))
	case at.Type != "":
		_, err = s.store.MeetingTypeBySlug(ctx, sqlc.MeetingTypeBySlugParams{Workspace: at.Workspace, Slug: at.Type})
	default:
		_, err = s.showcaseAt(ctx, at)
	}
	var refusal *refusal.Refusal
	if errors.Is(err, store.ErrNotFound) || errors.As(err, &refusal) {
		return false, nil
	}
	return err == nil, err
}

// KeptFromSearch tells whether a workspace asks search engines to stay away.
func (s *Pages) KeptFromSearch(ctx context.Context, slug string) bool {
	row, err := s.store.WorkspaceBySlug(ctx, slug)
	if err != nil {
		return false
	}
	home, err := schedule.WorkspaceOf(row)
	return err == nil && home.Front.Hidden
}
