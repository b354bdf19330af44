package app

import (
	"cmp"
	"context"
	"errors"
	"slices"

	"corrim/core/looks"
	"corrim/core/routing"
	"corrim/core/told"
	"corrim/internal/refusal"
	"corrim/internal/secrets"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// Showcase is a workspace's page, or a person's: what can be booked there.
type Showcase struct {
	Workspace   string      `json:"workspace" doc:"Its name."`
	Path        string      `json:"path" doc:"Of the workspace's page."`
	Person      string      `json:"person,omitempty" doc:"Whose page it is; the workspace's or a team's if left out."`
	Team        string      `json:"team,omitempty" doc:"Which team's page it is."`
	Photo       string      `json:"photo,omitempty" doc:"Path of the person's picture."`
	Description string      `json:"description,omitempty"`
	Mail        string      `json:"mail,omitempty"`
	Phone       string      `json:"phone,omitempty"`
	Web         string      `json:"web,omitempty"`
	Address     string      `json:"address,omitempty"`
	Groups      []ShowGroup `json:"groups" doc:"By category; types without one come first."`
	Looks       PageLooks   `json:"looks"`
	People      []ShowPart  `json:"people" doc:"On the workspace's page: who has a page of their own."`
	More        int         `json:"more" doc:"How many types more there are, on the pages of those who host them."`
}

// ShowGroup is the types of a category.
type ShowGroup struct {
	Category string     `json:"category"`
	Types    []ShowType `json:"types"`
}

// ShowType is a type that can be booked.
type ShowType struct {
	Name        string   `json:"name"`
	Description string   `json:"description"`
	Path        string   `json:"path"`
	Lengths     []int    `json:"lengths" doc:"In minutes."`
	Host        string   `json:"host" doc:"In English."`
	Ways        []string `json:"ways" enum:"video,own-room,ours,theirs,phone,later"`
	OnRequest   bool     `json:"onRequest"`
	Picture     string   `json:"picture,omitempty" doc:"Path of the type's picture."`

	Hosts
	Light *looks.Tones `json:"light,omitempty" doc:"In the type's own colour, on the light ground; the page's if left out."`
	Dark  *looks.Tones `json:"dark,omitempty"`
}

// ShowPart is a person with a page of their own.
type ShowPart struct {
	Name  string `json:"name"`
	Path  string `json:"path"`
	Photo string `json:"photo,omitempty" doc:"Path of the picture."`
}

var errNoPage = refusal.New(refusal.NotFound, told.NoPage.Words())

// WorkspacePage returns all listed types of a workspace.
func (a *App) WorkspacePage(ctx context.Context, slug string) (Showcase, error) {
	writes := a.Store.Written(typeTables...)
	return a.keptPages.get(slug, writes, func() (Showcase, error) { return a.workspacePage(ctx, slug) })
}

// mostShown bounds how many types a page lists.
const mostShown = 200

func (a *App) workspacePage(ctx context.Context, slug string) (Showcase, error) {
	row, err := a.Store.WorkspaceBySlug(ctx, slug)
	if errors.Is(err, store.ErrNotFound) {
		return Showcase{}, errNoPage
	}
	if err != nil {
		return Showcase{}, err
	}
	home, err := workspaceOf(row)
	if err != nil {
		return Showcase{}, err
	}
	show := home.showcase()
	if home.Front.Unpublished {
		return Showcase{}, errNoPage
	}
	types, err := a.shown(ctx, home)
	if err != nil {
		return Showcase{}, err
	}
	hosts := map[int64]bool{}
	for i, o := range types {
		if i < mostShown {
			show.add(o, o.Path)
		} else {
			show.More++
		}
		for _, person := range o.pool.people {
			hosts[person.ID] = hosts[person.ID] || o.surelyWith(person.ID) != ""
		}
	}
	people, err := a.Store.PeopleOfWorkspace(ctx, home.id)
	for _, person := range people {
		if hosts[person.ID] && person.NoPage == 0 {
			show.People = append(show.People, home.part(person))
		}
	}
	return show, err
}

// PersonPage returns the listed types that a person surely hosts: alone, together with others, or as the client's choice.
func (a *App) PersonPage(ctx context.Context, workspace, slug string) (Showcase, error) {
	row, err := a.Store.PersonBySlug(ctx, sqlc.PersonBySlugParams{Workspace: workspace, Slug: slug})
	if errors.Is(err, store.ErrNotFound) {
		return Showcase{}, errNoPage
	}
	if err != nil {
		return Showcase{}, err
	}
	person, err := a.person(ctx, a.Store.Queries, row)
	if err != nil {
		return Showcase{}, err
	}
	if person.home.Front.Unpublished || person.NoPage {
		return Showcase{}, errNoPage
	}
	show := person.home.showcase()
	show.Person, show.Photo, show.Description = person.Name, pathOfPicture(person.Photo), ""
	types, err := a.shown(ctx, person.home)
	for _, o := range types {
		if path := o.surelyWith(person.ID); path != "" {
			show.add(o, path)
		}
	}
	return show, err
}

// TeamPage returns a team's people with a page of their own, and the listed types that it hosts: those that it was chosen for, and those
// that only people of it host. A team that has neither has no page: its name may be only for colleagues.
func (a *App) TeamPage(ctx context.Context, workspace, slug string) (Showcase, error) {
	team, err := a.Store.TeamBySlug(ctx, sqlc.TeamBySlugParams{Workspace: workspace, Slug: slug})
	if errors.Is(err, store.ErrNotFound) {
		return Showcase{}, errNoPage
	}
	if err != nil {
		return Showcase{}, err
	}
	row, err := a.Store.WorkspaceByID(ctx, team.WorkspaceID)
	if err != nil {
		return Showcase{}, err
	}
	home, err := workspaceOf(row)
	if err != nil || home.Front.Unpublished {
		return Showcase{}, cmp.Or(err, error(errNoPage))
	}
	members, err := a.Store.TeamMembers(ctx, team.ID)
	if err != nil {
		return Showcase{}, err
	}
	show := home.showcase()
	show.Team, show.Description = team.Name, ""
	types, err := a.shown(ctx, home)
	if err != nil {
		return show, err
	}
	of := map[int64]bool{}
	for _, m := range members {
		of[m.PersonID] = true
	}
	pages := map[int64]bool{}
	for _, o := range types {
		for _, person := range o.pool.people {
			pages[person.ID] = pages[person.ID] || o.surelyWith(person.ID) != ""
		}
		if o.hostedBy(team.ID, of) {
			show.add(o, o.Path)
		}
	}
	people, err := a.Store.PeopleOfWorkspace(ctx, home.id)
	for _, person := range people {
		if of[person.ID] && pages[person.ID] && person.NoPage == 0 {
			show.People = append(show.People, home.part(person))
		}
	}
	if err == nil && len(show.Groups)+len(show.People) == 0 {
		return Showcase{}, errNoPage
	}
	return show, err
}

// hostedBy tells whether a type is a team's.
func (o offered) hostedBy(team int64, of map[int64]bool) bool {
	others := slices.ContainsFunc(o.pool.people, func(p Person) bool { return !of[p.ID] })
	return slices.Contains(o.routing.Teams, team) || !others
}

func (w workspace) part(person sqlc.Person) ShowPart {
	return ShowPart{person.Name, "/p/" + w.slug + "/with/" + person.Slug, pathOfPicture(person.Photo)}
}

func (w workspace) showcase() Showcase {
	return Showcase{
		Workspace: w.Name, Path: "/p/" + w.slug, Description: w.Front.Description, Mail: w.Front.Mail, Phone: w.Front.Phone, Web: w.Front.Web,
		Address: w.Front.Address, Looks: w.Front.page(), Groups: []ShowGroup{}, People: []ShowPart{},
	}
}

// shown is the listed types that anyone may book.
func (a *App) shown(ctx context.Context, w workspace) ([]offered, error) {
	rows, err := a.Store.TypesOfWorkspace(ctx, w.id)
	if err != nil {
		return nil, err
	}
	var out []offered
	for _, row := range rows {
		if row.Listing != listed || row.Who != "anyone" {
			continue
		}
		o, err := a.offeredRow(ctx, a.Store.Queries, row)
		if err != nil {
			return nil, err
		}
		if len(o.pool.people) > 0 {
			out = append(out, o)
		}
	}
	return out, nil
}

// surelyWith is the path on which a booking of the type goes to somebody for certain; empty if there is none.
func (o offered) surelyWith(person int64) string {
	somebody := o.pool.of(person)
	switch {
	case somebody.ID == 0:
		return ""
	case len(o.pool.people) == 1 || o.pool.Way == routing.Together:
		return o.Path
	case o.pool.Way == routing.ByClient:
		return o.Path + "?with=" + somebody.Slug
	}
	return ""
}

func (s *Showcase) add(o offered, path string) {
	t := ShowType{Name: o.Name, Description: o.Description, Path: path, Lengths: o.Rules.lengths(), Host: o.who(), Hosts: o.hosts(), OnRequest: o.Offer.OnRequest, Picture: pathOfPicture(o.Offer.Picture)}
	t.Light, t.Dark = tonesOf(o.Offer.Colour)
	for _, way := range o.Offer.Ways {
		t.Ways = append(t.Ways, way.Kind)
	}
	for i := range s.Groups {
		if s.Groups[i].Category == o.Category {
			s.Groups[i].Types = append(s.Groups[i].Types, t)
			return
		}
	}
	group := ShowGroup{o.Category, []ShowType{t}}
	if o.Category == "" {
		s.Groups = append([]ShowGroup{group}, s.Groups...)
		return
	}
	s.Groups = append(s.Groups, group)
}

// PageLanguage is the language of a client's page where the browser asks for none that there is: of a workspace by its short
// name, or of the booking or offer that a link leads to. It is English if there is no such page.
func (a *App) PageLanguage(ctx context.Context, slug, link string) string {
	home := workspace{}
	if row, err := a.Store.WorkspaceBySlug(ctx, slug); err == nil {
		home, _ = workspaceOf(row) // one that can't be read says so elsewhere
	} else if b, err := a.byLink(ctx, a.Store.Queries, link); err == nil {
		host, _ := a.anybody(ctx, a.Store.Queries, b.HostID)
		home = host.home
	} else if o, err := a.Store.OneOffByLink(ctx, secrets.Hashed(link)); err == nil {
		host, _ := a.anybody(ctx, a.Store.Queries, o.HostID)
		home = host.home
	}
	return cmp.Or(home.Front.Language, "en")
}

// PageAddress says which client's page is meant: under "p" a workspace's, one of its types', persons' or teams'; under "b" that of a
// booking, under "o" of an offer.
type PageAddress struct{ Kind, Workspace, Type, Person, Team, Link string }

// HasPage tells whether there is a client's page.
func (a *App) HasPage(ctx context.Context, at PageAddress) (bool, error) {
	var err error
	switch {
	case at.Kind == "b":
		_, err = a.byLink(ctx, a.Store.Queries, at.Link)
	case at.Kind == "o":
		_, err = a.Store.OneOffByLink(ctx, secrets.Hashed(at.Link))
	case at.Type != "":
		_, err = a.Store.MeetingTypeBySlug(ctx, sqlc.MeetingTypeBySlugParams{Workspace: at.Workspace, Slug: at.Type})
	default:
		_, err = a.showcaseAt(ctx, at)
	}
	var refusal *refusal.Refusal
	if errors.Is(err, store.ErrNotFound) || errors.As(err, &refusal) {
		return false, nil
	}
	return err == nil, err
}

// KeptFromSearch tells whether a workspace asks search engines to stay away.
func (a *App) KeptFromSearch(ctx context.Context, slug string) bool {
	row, err := a.Store.WorkspaceBySlug(ctx, slug)
	if err != nil {
		return false
	}
	home, err := workspaceOf(row)
	return err == nil && home.Front.Hidden
}
