package app

import (
	"context"

	"corrim/core/intake"
	"corrim/core/opentimes"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/store/sqlc"
)

// The first run: from an empty installation to a page that can be booked.

// The steps of setting up a workspace, once it and its owner exist. 0 is done.
const (
	SetupHours = iota + 1
	SetupType
	SetupPeople
	SetupPublish
)

// Beginning is the first workspace with its owner.
type Beginning struct {
	Code      string `json:"code" maxLength:"100" doc:"As the program wrote it where it was started, so that no passer-by takes the installation."`
	Workspace string `json:"workspace" maxLength:"400" doc:"Its name."`
	Slug      string `json:"slug" maxLength:"100" doc:"Its short name, as in addresses."`
	Name      string `json:"name" maxLength:"200"`
	Mail      string `json:"mail" maxLength:"300"`
	Zone      string `json:"zone" maxLength:"100"`
	Password  string `json:"password" maxLength:"1000"`
	Language  string `json:"language,omitempty" enum:"en,de,fr,nl,pt" doc:"In which the owner reads; English if left out."`
}

// Empty tells whether nobody has set anything up yet.
func (a *App) Empty(ctx context.Context) (bool, error) {
	count, err := a.Store.CountWorkspaces(ctx)
	return count == 0, err
}

// SetupCode is what whoever started the program is told, and has to enter.
func (a *App) SetupCode() string { return a.secrets.Setup() }

func (b Beginning) check(code string) refusal.Complaints {
	wrong := Joining{Name: b.Name, Zone: b.Zone, Password: b.Password}.check()
	if b.Code != code {
		wrong.Add("code", told.Say("code-program-wrote", "This is not the code. The program wrote it where it was started, with the address to open."))
	}
	for field, fault := range (schedule.Workspace{Name: b.Workspace, Zone: b.Zone, Rules: startingRules}).Check() {
		if field == "name" {
			wrong.Add("workspace", fault)
		}
	}
	if !schedule.SlugPattern.MatchString(b.Slug) || len(b.Slug) > 60 {
		wrong.Add("slug", told.Say("short-name-small", "A short name has small letters, figures and hyphens, like quillmere."))
	}
	if _, fault := intake.MailAddress(b.Mail); fault.Any() {
		wrong.Add("mail", fault)
	}
	return wrong
}

// startingRules are what a new workspace's types follow until something else is set.
var startingRules = opentimes.PlainRules(10, 15, 4*60, 60)

// Begin makes the first workspace and its owner. Nothing of it is published yet.
func (a *App) Begin(ctx context.Context, b Beginning) (schedule.Person, error) {
	b.Name, b.Workspace = intake.FirstLetters(intake.OneLine(b.Name), 120), intake.OneLine(b.Workspace)
	if err := b.check(a.SetupCode()).Err(); err != nil {
		return schedule.Person{}, err
	}
	first, err := a.withHash(ctx, NewPerson{Name: b.Name, Mail: b.Mail, Password: b.Password, Zone: b.Zone, Role: identity.Owner, Week: usualWeek, Language: b.Language})
	if err != nil {
		return schedule.Person{}, err
	}
	var owner int64
	err = a.Store.Write(ctx, func(q *sqlc.Queries) error {
		if count, err := q.CountWorkspaces(ctx); err != nil || count > 0 {
			if err == nil {
				err = refusal.New(refusal.Over, told.Say("somebody-set-up", "Somebody has set this up already. Sign in instead."))
			}
			return err
		}
		id, err := q.AddWorkspace(ctx, sqlc.AddWorkspaceParams{Slug: b.Slug, Name: b.Workspace, Zone: b.Zone})
		if err != nil {
			return err
		}
		home := schedule.Workspace{Name: b.Workspace, Zone: b.Zone, Zones: schedule.ZonesOfClients, FirstWeekday: 1, Rules: startingRules, Front: schedule.Front{Unpublished: true}}
		if err := settings.WriteWorkspace(ctx, q, id, home); err != nil {
			return err
		}
		owner, err = a.addPerson(ctx, q, id, first)
		if err != nil {
			return err
		}
		return q.SetSetupStep(ctx, sqlc.SetSetupStepParams{ID: id, SetupStep: SetupHours})
	})
	if err != nil {
		return schedule.Person{}, err
	}
	return a.Person(ctx, owner)
}

// GoOnSettingUp keeps which step comes next, so that setting up can be left and continued; 0 ends it.
func (a *App) GoOnSettingUp(ctx context.Context, p schedule.Person, step int) error {
	return a.WriteFor(ctx, p, identity.EditWorkspace, func(q *sqlc.Queries) error {
		return q.SetSetupStep(ctx, sqlc.SetSetupStepParams{ID: p.Home.ID, SetupStep: int64(step)})
	})
}
