package app

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"slices"
	"strings"
	"time"

	"corrim/core/civil"
	"corrim/core/hours"
	"corrim/core/intake"
	words "corrim/core/message"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/letter"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/secrets"
	"corrim/internal/settings"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// The people of a workspace: who they are, what they may do, and their teams.

// Staff is the people of a workspace with their teams and those who are invited.
type Staff struct {
	People  []Colleague     `json:"people"`
	Teams   []schedule.Team `json:"teams"`
	Invited []Invitation    `json:"invited"`
	Manages bool            `json:"manages" doc:"May the viewer invite, give roles and remove?"`
	Edits   bool            `json:"edits" doc:"May the viewer change teams and attributes?"`
}

// Colleague is a person as their colleagues see them.
type Colleague struct {
	schedule.Person
	Now   string     `json:"now" doc:"The clock where they are."`
	Teams []string   `json:"teams"`
	Leave told.Words `json:"leave,omitzero" doc:"Their present or next time off."`
	Holds int        `json:"holds" doc:"Their bookings that are not over yet."`
}

// Invitation is somebody who is invited and has not come yet.
type Invitation struct {
	ID      int64         `json:"id"`
	Name    string        `json:"name"`
	Mail    string        `json:"mail"`
	Role    identity.Role `json:"role" enum:"owner,coordinator,member,viewer"`
	Expires time.Time     `json:"expires"`
	Expired bool          `json:"expired"`
}

// Staff lists the people of the person's workspace.
func (a *App) Staff(ctx context.Context, p schedule.Person) (Staff, error) {
	people, err := a.Colleagues(ctx, p)
	if err != nil {
		return Staff{}, err
	}
	s := Staff{People: []Colleague{}, Teams: []schedule.Team{}, Invited: []Invitation{}, Manages: p.May(identity.ManagePeople), Edits: p.May(identity.ManageTeams)}
	if s.Teams, err = a.Teams(ctx, p); err != nil {
		return s, err
	}
	now := a.Now()
	holds, err := a.comingByHost(ctx, p.Home.ID)
	if err != nil {
		return s, err
	}
	for _, person := range people {
		c := Colleague{Person: person, Now: now.In(person.Local).Format("15:04"), Teams: []string{}, Leave: person.Leave(span.At(now))}
		for _, team := range s.Teams {
			if slices.Contains(team.Members, person.ID) {
				c.Teams = append(c.Teams, team.Name)
			}
		}
		c.Holds = holds[person.ID]
		s.People = append(s.People, c)
	}
	rows, err := a.Store.OpenInvitations(ctx, p.Home.ID)
	for _, row := range rows {
		s.Invited = append(s.Invited, Invitation{row.ID, row.Name, row.Mail, identity.Role(row.Role), time.Unix(row.ExpiresAt, 0).UTC(), row.ExpiresAt <= now.Unix()})
	}
	return s, err
}

// comingByHost counts everybody's bookings that are not over yet.
func (a *App) comingByHost(ctx context.Context, workspace int64) (map[int64]int, error) {
	rows, err := a.Store.ComingByHost(ctx, sqlc.ComingByHostParams{WorkspaceID: workspace, Now: a.Now().Unix()})
	out := make(map[int64]int, len(rows))
	for _, row := range rows {
		out[row.PersonID] = int(row.Coming)
	}
	return out, err
}

// comingOf is somebody's coming bookings.
func (a *App) comingOf(ctx context.Context, q *sqlc.Queries, person int64) ([]schedule.Hosted, error) {
	now := a.Now()
	rows, err := schedule.BookingsOf(ctx, q, person, span.Of(now, now.AddDate(5, 0, 0)))
	return slices.DeleteFunc(rows, func(b schedule.Hosted) bool { return b.StartAt <= now.Unix() }), err
}

// PersonChange is what can be changed about a person.
type PersonChange struct {
	Name       string              `json:"name" maxLength:"200"`
	Zone       string              `json:"zone" maxLength:"100"`
	Role       identity.Role       `json:"role" enum:"owner,coordinator,member,viewer"`
	Bookable   bool                `json:"bookable"`
	Slug       string              `json:"slug,omitempty" maxLength:"80" doc:"The short name of their own page; left as it is if empty."`
	NoPage     bool                `json:"noPage,omitempty"`
	Photo      string              `json:"photo,omitempty" maxLength:"64" doc:"A picture's hash; none if empty."`
	Attributes map[string][]string `json:"attributes"`
}

func (c PersonChange) check() refusal.Complaints {
	wrong := refusal.Complaints{}
	if c.Name == "" {
		wrong.Add("name", told.Say("give-name-clients", "Give a name that clients will read."))
	}
	if _, err := civil.LoadZone(c.Zone); err != nil {
		wrong.Add("zone", told.Say("choose-time-zone", "Choose a time zone from the list."))
	}
	if c.Slug != "" && !schedule.SlugPattern.MatchString(c.Slug) {
		wrong.Add("slug", told.Say("short-name-small-letters", "A short name has small letters, figures and hyphens, like maren-achterberg."))
	}
	if c.Photo != "" && !schedule.HashPattern.MatchString(c.Photo) {
		wrong.Add("photo", told.Say("choose-picture-again", "Choose the picture again."))
	}
	if len(c.Attributes) > 20 {
		wrong.Add("attributes", told.Say("most-20-kinds", "At most 20 kinds of attributes."))
	}
	return wrong
}

func normalAttributes(given map[string][]string) map[string][]string {
	out := map[string][]string{}
	for name, values := range given {
		name = intake.FirstLetters(strings.ToLower(intake.OneLine(name)), 60)
		for _, v := range values {
			if v = intake.FirstLetters(intake.OneLine(v), 60); v != "" && name != "" && !slices.Contains(out[name], v) {
				out[name] = append(out[name], v)
			}
		}
	}
	return out
}

// ChangePerson changes somebody of the workspace. Names, zones and attributes are a coordinator's to change, one's own too;
// roles are an owner's.
func (a *App) ChangePerson(ctx context.Context, p schedule.Person, id int64, c PersonChange) (Staff, error) {
	c.Name, c.Attributes = intake.FirstLetters(intake.OneLine(c.Name), 120), normalAttributes(c.Attributes)
	c.Slug = strings.ToLower(strings.TrimSpace(c.Slug))
	if err := c.check().Err(); err != nil {
		return Staff{}, err
	}
	action := identity.ManageTeams
	if id == p.ID {
		action = identity.EditOwn
	}
	err := a.WriteFor(ctx, p, action, func(q *sqlc.Queries) error {
		before, err := a.Colleague(ctx, q, p, id)
		if err != nil {
			return err
		}
		if id == p.ID {
			if before, err = a.PersonByID(ctx, q, id); err != nil {
				return err
			}
		}
		if c.Role != before.Role {
			if err := a.mayGiveRole(ctx, q, p, before); err != nil {
				return err
			}
		}
		attributes, err := json.Marshal(c.Attributes)
		if err != nil {
			return err
		}
		slug := cmp.Or(c.Slug, before.Slug)
		taken, err := q.PersonSlugTaken(ctx, sqlc.PersonSlugTakenParams{WorkspaceID: p.Home.ID, Slug: slug, ID: id})
		if err != nil {
			return err
		}
		if taken > 0 {
			return refusal.Faulty("slug", told.Say("somebody-elses-page", "Somebody else's page has this short name. Choose a different one."))
		}
		return q.SetPerson(ctx, sqlc.SetPersonParams{ID: id, Slug: slug, Name: c.Name, Zone: c.Zone, Role: string(c.Role), Bookable: number(c.Bookable), Attributes: string(attributes), Photo: c.Photo, NoPage: number(c.NoPage)})
	})
	if err != nil {
		return Staff{}, err
	}
	return a.staffAgain(ctx, p)
}

// ChangesRole tells whether somebody would have another role.
func (a *App) ChangesRole(ctx context.Context, p schedule.Person, id int64, role identity.Role) (bool, error) {
	if id == p.ID {
		return role != p.Role, nil
	}
	before, err := a.Colleague(ctx, a.Store.Queries, p, id)
	return before.Role != role, err
}

// mayGiveRole tells whether the person may take somebody's role away or give another: an owner may, as long as one remains.
func (a *App) mayGiveRole(ctx context.Context, q *sqlc.Queries, p, other schedule.Person) error {
	if err := p.Must(identity.ManagePeople); err != nil {
		return err
	}
	return a.ownerRemains(ctx, q, other)
}

func (a *App) ownerRemains(ctx context.Context, q *sqlc.Queries, without schedule.Person) error {
	if without.Role != identity.Owner {
		return nil
	}
	others, err := q.Owners(ctx, sqlc.OwnersParams{WorkspaceID: without.Home.ID, Except: without.ID})
	if err != nil || others > 0 {
		return err
	}
	return refusal.New(refusal.Invalid, told.Say("workspace-needs-owner", "A workspace needs an owner, and {} is the only one. Make somebody else an owner first.", without.Name))
}

// staffAgain is the staff after a change that may have changed the person too.
func (a *App) staffAgain(ctx context.Context, p schedule.Person) (Staff, error) {
	p, err := a.Person(ctx, p.ID)
	if err != nil {
		return Staff{}, err
	}
	return a.Staff(ctx, p)
}

// RemovePerson takes somebody out of the workspace. Whoever still has coming bookings can't be: those are handed over first.
func (a *App) RemovePerson(ctx context.Context, p schedule.Person, id int64) (Staff, error) {
	err := a.WriteFor(ctx, p, identity.ManagePeople, func(q *sqlc.Queries) error {
		other, err := a.Colleague(ctx, q, p, id)
		if err != nil {
			return err
		}
		if err := a.ownerRemains(ctx, q, other); err != nil {
			return err
		}
		coming, err := a.comingOf(ctx, q, id)
		if err != nil {
			return err
		}
		if len(coming) > 0 {
			return refusal.New(refusal.Invalid, told.Say("still-coming-bookings-hand", "{} still has {} coming bookings. Hand them over first: “All bookings of a span” beside the name does it in one go.", other.Name, len(coming)))
		}
		if err := hostedByOthersToo(ctx, q, other); err != nil {
			return err
		}
		if err := q.RemovePerson(ctx, sqlc.RemovePersonParams{ID: id, RemovedAt: a.Now().Unix()}); err != nil {
			return err
		}
		return a.forgetAccess(ctx, q, id)
	})
	if err != nil {
		return Staff{}, err
	}
	return a.Staff(ctx, p)
}

// forgetAccess ends every way in that somebody who has left had, and forgets what opens their calendars. Entries of past
// bookings stay in these as they are.
func (a *App) forgetAccess(ctx context.Context, q *sqlc.Queries, id int64) error {
	row, err := q.Person(ctx, id)
	if err != nil {
		return err
	}
	if err := q.SetFeed(ctx, sqlc.SetFeedParams{ID: id, FeedNumber: row.FeedNumber + 1}); err != nil {
		return err
	}
	if err := q.RemoveAccountsOf(ctx, id); err != nil {
		return err
	}
	return q.SetPassword(ctx, sqlc.SetPasswordParams{ID: id})
}

// hostedByOthersToo refuses if a meeting type would be left without a host.
func hostedByOthersToo(ctx context.Context, q *sqlc.Queries, p schedule.Person) error {
	types, err := q.TypesOfWorkspace(ctx, p.Home.ID)
	if err != nil {
		return err
	}
	for _, row := range types {
		r, err := schedule.RoutingOf(row)
		if err != nil {
			return err
		}
		places, err := r.Members(ctx, q, p.Home.ID)
		if err != nil {
			return err
		}
		if len(places) == 1 && places[0].Person == p.ID {
			return refusal.New(refusal.Invalid, told.Say("nobody-but-hosts", "Nobody but {} hosts the meeting type “{}”. Let somebody else host it first, under “Hosts”.", p.Name, row.Name))
		}
	}
	return nil
}

// TeamChange is a team as it is to be.
type TeamChange struct {
	Name    string  `json:"name" maxLength:"200"`
	Slug    string  `json:"slug,omitempty" maxLength:"100" doc:"Its short name in addresses; as it is, or made from the name, if left out. Addresses with an old one lead on."`
	Members []int64 `json:"members" maxItems:"500"`
}

// SaveTeam saves a team, or adds one if the ID is 0.
func (a *App) SaveTeam(ctx context.Context, p schedule.Person, id int64, t TeamChange) (Staff, error) {
	t.Name = intake.FirstLetters(intake.OneLine(t.Name), 80)
	if t.Name == "" {
		return Staff{}, refusal.Faulty("name", told.Say("give-team-name", "Give the team a name."))
	}
	known, err := a.Teams(ctx, p)
	if err != nil {
		return Staff{}, err
	}
	before := schedule.Team{}
	for _, team := range known {
		if strings.EqualFold(team.Name, t.Name) && team.ID != id {
			return Staff{}, refusal.Faulty("name", told.Say("another-team-called", "Another team is called so. Choose a different name."))
		}
		if team.ID == id {
			before = team
		}
	}
	if id != 0 && before.ID == 0 {
		return Staff{}, refusal.New(refusal.NotFound, told.Say("no-such-team", "There is no such team any more."))
	}
	if t.Slug != "" && (len(t.Slug) > 60 || !schedule.SlugPattern.MatchString(t.Slug)) {
		return Staff{}, refusal.Faulty("slug", told.Say("short-name-small-letters-figures", "A short name has small letters, figures and single hyphens, like north-room."))
	}
	err = a.WriteFor(ctx, p, identity.ManageTeams, func(q *sqlc.Queries) error {
		slug, err := teamSlug(ctx, q, p.Home.ID, before, t)
		if err != nil {
			return err
		}
		if id == 0 {
			if id, err = q.AddTeam(ctx, sqlc.AddTeamParams{WorkspaceID: p.Home.ID, Name: t.Name, Slug: slug}); err != nil {
				return err
			}
		} else if err := q.RenameTeam(ctx, sqlc.RenameTeamParams{ID: id, WorkspaceID: p.Home.ID, Name: t.Name, Slug: slug}); err != nil {
			return err
		}
		return a.setMembers(ctx, q, p, id, before.Members, t.Members)
	})
	if err != nil {
		return Staff{}, err
	}
	return a.Staff(ctx, p)
}

// teamSlug is the short name that a team is to have.
func teamSlug(ctx context.Context, q *sqlc.Queries, home int64, before schedule.Team, t TeamChange) (string, error) {
	taken := func(slug string) (int64, error) {
		return q.TeamSlugTaken(ctx, sqlc.TeamSlugTakenParams{WorkspaceID: home, Slug: slug, ID: before.ID})
	}
	if t.Slug == "" {
		if before.Slug != "" {
			return before.Slug, nil
		}
		return settings.FreeSlug(cmp.Or(slugOf(t.Name), "team"), taken)
	}
	if others, err := taken(t.Slug); err != nil || others > 0 {
		return "", cmp.Or(err, refusal.Faulty("slug", told.Say("another-team-short", "Another team has this short name. Choose a different one.")))
	}
	return t.Slug, nil
}

// setMembers lets whoever is new join now, so that they start level in the ledgers.
func (a *App) setMembers(ctx context.Context, q *sqlc.Queries, p schedule.Person, team int64, before, after []int64) error {
	for _, member := range before {
		if !slices.Contains(after, member) {
			if err := q.LeaveTeam(ctx, sqlc.LeaveTeamParams{TeamID: team, PersonID: member}); err != nil {
				return err
			}
		}
	}
	for _, member := range after {
		if _, err := a.Colleague(ctx, q, p, member); err != nil {
			return err
		}
		if err := q.JoinTeam(ctx, sqlc.JoinTeamParams{TeamID: team, PersonID: member, JoinedAt: a.Now().Unix()}); err != nil {
			return err
		}
	}
	return nil
}

// RemoveTeam removes a team that no meeting type is routed by.
func (a *App) RemoveTeam(ctx context.Context, p schedule.Person, id int64) (Staff, error) {
	err := a.WriteFor(ctx, p, identity.ManageTeams, func(q *sqlc.Queries) error {
		types, err := q.TypesOfWorkspace(ctx, p.Home.ID)
		if err != nil {
			return err
		}
		for _, row := range types {
			r, err := schedule.RoutingOf(row)
			if err != nil {
				return err
			}
			if slices.Contains(r.Teams, id) {
				return refusal.New(refusal.Invalid, told.Say("meeting-type-hosted", "The meeting type “{}” is hosted by this team. Let others host it first.", row.Name))
			}
		}
		return q.RemoveTeam(ctx, sqlc.RemoveTeamParams{ID: id, WorkspaceID: p.Home.ID})
	})
	if err != nil {
		return Staff{}, err
	}
	return a.Staff(ctx, p)
}

// NewInvitation invites somebody.
type NewInvitation struct {
	Name string        `json:"name" maxLength:"200"`
	Mail string        `json:"mail" maxLength:"300"`
	Role identity.Role `json:"role" enum:"owner,coordinator,member,viewer"`
}

const invitedFor = 7 * 24 * time.Hour

// Invite sends somebody a link by mail, valid for seven days and one use.
func (a *App) Invite(ctx context.Context, p schedule.Person, n NewInvitation) (Staff, error) {
	n.Name, n.Mail = intake.FirstLetters(intake.OneLine(n.Name), 120), strings.TrimSpace(n.Mail)
	wrong := refusal.Complaints{}
	if n.Name == "" {
		wrong.Add("name", told.Say("enter-name-whoever", "Enter the name of whoever you invite."))
	}
	if _, fault := intake.MailAddress(n.Mail); fault.Any() {
		wrong.Add("mail", fault)
	}
	if _, err := a.Store.PersonByMail(ctx, n.Mail); err == nil {
		wrong.Add("mail", told.Say("somebody-mail-address", "Somebody with this mail address is here already."))
	}
	if err := wrong.Err(); err != nil {
		return Staff{}, err
	}
	if err := p.Must(identity.ManagePeople); err != nil {
		return Staff{}, err
	}
	secret := secrets.New()
	expires := a.Now().Add(invitedFor)
	err := a.Store.Write(ctx, func(q *sqlc.Queries) error {
		err := q.AddInvitation(ctx, sqlc.AddInvitationParams{
			WorkspaceID: p.Home.ID, Name: n.Name, Mail: n.Mail, Role: string(n.Role), LinkHash: secrets.Hashed(secret), InvitedBy: p.ID, ExpiresAt: expires.Unix(),
		})
		if err != nil {
			return err
		}
		return a.post(ctx, q, p.ID, a.invitationMail(p, n, secret, expires))
	})
	if err != nil {
		return Staff{}, err
	}
	a.Wake()
	return a.Staff(ctx, p)
}

func (a *App) invitationMail(p schedule.Person, n NewInvitation, secret string, expires time.Time) Mail {
	w := words.In(p.Language) // theirs isn't known yet
	told := []letter.Fact{{w.Fact("valid-until"), w.Moment(expires.In(p.Local), "15:04") + " (" + civil.TownOf(p.Local.String(), w.Language) + ")"}}
	with := words.With{"inviter": p.Name, "workspace": p.Home.Name, "role": w.Say("roles."+string(n.Role), nil)}
	m := mailOf(letter.Write(w, words.StaffInvited, with, a.BaseURL+"/join/"+secret, told))
	m.ID = "invitation-" + secrets.Hashed(secret)[:16]
	m.FromName, m.ReplyTo, m.To = p.Home.Name, p.Address(), schedule.Address{Name: n.Name, Mail: n.Mail}
	return m
}

// WithdrawInvitation ends an invitation that was not used yet.
func (a *App) WithdrawInvitation(ctx context.Context, p schedule.Person, id int64) (Staff, error) {
	err := a.WriteFor(ctx, p, identity.ManagePeople, func(q *sqlc.Queries) error {
		return q.RemoveInvitation(ctx, sqlc.RemoveInvitationParams{ID: id, WorkspaceID: p.Home.ID})
	})
	if err != nil {
		return Staff{}, err
	}
	return a.Staff(ctx, p)
}

// Invited is an invitation as whoever has its link sees it.
type Invited struct {
	Workspace string `json:"workspace"`
	Name      string `json:"name"`
	Mail      string `json:"mail"`
	Zone      string `json:"zone" doc:"The workspace's, to start from."`
}

func (a *App) invitation(ctx context.Context, q *sqlc.Queries, secret string) (sqlc.Invitation, error) {
	row, err := q.InvitationByLink(ctx, secrets.Hashed(secret))
	switch {
	case errors.Is(err, store.ErrNotFound):
		return row, refusal.New(refusal.NotFound, told.Say("invitation-doesnt-exist", "This invitation doesn't exist, or was withdrawn. Ask whoever sent it for a new one."))
	case err != nil:
		return row, err
	case row.UsedAt != 0:
		return row, refusal.New(refusal.Over, told.Say("invitation-used-already", "This invitation was used already. Sign in with your mail address and the password that was chosen then."))
	case row.ExpiresAt <= a.Now().Unix():
		return row, refusal.New(refusal.Over, told.Say("invitation-valid-seven", "This invitation was valid for seven days and has expired. Ask whoever sent it for a new one."))
	}
	return row, nil
}

// Invited returns an invitation to whoever has its link.
func (a *App) Invited(ctx context.Context, secret string) (Invited, error) {
	row, err := a.invitation(ctx, a.Store.Queries, secret)
	if err != nil {
		return Invited{}, err
	}
	home, err := a.Store.WorkspaceByID(ctx, row.WorkspaceID)
	return Invited{home.Name, row.Name, row.Mail, home.Zone}, err
}

// Joining is how somebody takes an invitation.
type Joining struct {
	Name     string `json:"name" maxLength:"200"`
	Zone     string `json:"zone" maxLength:"100"`
	Password string `json:"password" maxLength:"1000"`
	Language string `json:"language,omitempty" enum:"en,de,fr,nl,pt" doc:"In which they read; English if left out."`
}

func (j Joining) check() refusal.Complaints {
	wrong := refusal.Complaints{}
	if j.Name == "" {
		wrong.Add("name", told.Say("enter-name-clients", "Enter the name that clients and colleagues will read."))
	}
	if fault := identity.CheckPassword(j.Password, j.Name); fault.Any() {
		wrong.Add("password", fault)
	}
	if _, err := civil.LoadZone(j.Zone); err != nil {
		wrong.Add("zone", told.NoZone.Words())
	}
	return wrong
}

// usualWeek is what newcomers start with.
var usualWeek = [7]string{"9-12, 13-17", "9-12, 13-17", "9-12, 13-17", "9-12, 13-17", "9-12, 13-17", "closed", "closed"}

// Join makes whoever has an invitation's link a person of the workspace. It works once.
func (a *App) Join(ctx context.Context, secret string, j Joining) (schedule.Person, error) {
	j.Name = intake.FirstLetters(intake.OneLine(j.Name), 120)
	if err := j.check().Err(); err != nil {
		return schedule.Person{}, err
	}
	if _, err := a.invitation(ctx, a.Store.Queries, secret); err != nil {
		return schedule.Person{}, err
	}
	hash, err := a.Identity.HashPassword(ctx, j.Password)
	if err != nil {
		return schedule.Person{}, err
	}
	var id int64
	err = a.Store.Write(ctx, func(q *sqlc.Queries) error {
		row, err := a.invitation(ctx, q, secret)
		if err != nil {
			return err
		}
		if _, err := q.PersonByMail(ctx, row.Mail); err == nil {
			return refusal.New(refusal.Over, told.Say("somebody-mail-address-already", "Somebody with this mail address is here already. Sign in instead."))
		}
		week, err := hours.ParseWeek(usualWeek)
		if err != nil {
			return err
		}
		slug, err := freePersonSlug(ctx, q, row.WorkspaceID, j.Name)
		if err != nil {
			return err
		}
		id, err = q.AddPerson(ctx, sqlc.AddPersonParams{
			Slug:        slug,
			WorkspaceID: row.WorkspaceID, Name: j.Name, Mail: row.Mail, PasswordHash: hash, Zone: j.Zone, Week: schedule.WeekJSON(week), Role: row.Role,
			Language: cmp.Or(j.Language, "en"),
			JoinedAt: a.Now().Unix(),
		})
		if err != nil {
			return err
		}
		return q.UseInvitation(ctx, sqlc.UseInvitationParams{ID: row.ID, UsedAt: a.Now().Unix()})
	})
	if err != nil {
		return schedule.Person{}, err
	}
	return a.Person(ctx, id)
}
