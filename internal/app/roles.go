package app

import (
	"context"
	"slices"

	"corrim/internal/store/sqlc"
)

// Role is what somebody may do in their workspace.
type Role string

// The roles.
const (
	Owner       Role = "owner"       // everything
	Coordinator Role = "coordinator" // everybody's hours, types and bookings
	Member      Role = "member"      // their own, and the types they host
	Viewer      Role = "viewer"      // looks
)

// SeesOthers tells whether a role opens what is others': giving it asks for the password once more.
func (r Role) SeesOthers() bool { return slices.Contains(permissions[SeeEverybodys], r) }

// Action is something that needs a permission.
type Action string

// The actions.
const (
	ManagePeople    Action = "manage-people"    // invite, give roles, remove
	ManageTeams     Action = "manage-teams"     // teams, attributes, who is bookable
	EditWorkspace   Action = "edit-workspace"   // its settings
	EditOwn         Action = "edit-own"         // own hours, calendars, blocks, bookings, types
	EditEverybodys  Action = "edit-everybodys"  // types of others and how they are routed
	LookAfterHours  Action = "look-after-hours" // of colleagues
	HandleBookings  Action = "handle-bookings"  // move, cancel and hand over others' bookings
	SeeEverybodys   Action = "see-everybodys"   // names of others' bookings, the ledgers
	LookAtWorkspace Action = "look"             // what everybody signed in may see
)

// permissions is who may do what; what is not here nobody may.
var permissions = map[Action][]Role{
	ManagePeople:    {Owner},
	ManageTeams:     {Owner, Coordinator},
	EditWorkspace:   {Owner, Coordinator},
	EditOwn:         {Owner, Coordinator, Member},
	EditEverybodys:  {Owner, Coordinator},
	LookAfterHours:  {Owner, Coordinator},
	HandleBookings:  {Owner, Coordinator},
	SeeEverybodys:   {Owner, Coordinator},
	LookAtWorkspace: {Owner, Coordinator, Member, Viewer},
}

// May tells whether the person may do something.
func (p Person) May(a Action) bool { return slices.Contains(permissions[a], p.Role) }

func (p Person) must(a Action) error {
	if p.May(a) {
		return nil
	}
	return refuse(Forbidden, "As "+roleWords[p.Role]+" you can't do this. Ask an owner or a coordinator of your workspace.")
}

var roleWords = map[Role]string{Owner: "an owner", Coordinator: "a coordinator", Member: "a member", Viewer: "a viewer"}

// writeFor writes in one transaction what the person must be allowed to do.
func (a *App) writeFor(ctx context.Context, p Person, action Action, f func(*sqlc.Queries) error) error {
	if err := p.must(action); err != nil {
		return err
	}
	return a.Store.Write(ctx, f)
}

// LookAfter is a colleague whose hours the person changes, with the person's own rights. What changes is remembered as theirs.
func (a *App) LookAfter(ctx context.Context, p Person, id int64) (Person, error) {
	if err := p.must(LookAfterHours); err != nil {
		return Person{}, err
	}
	colleague, err := a.colleague(ctx, a.Store.Queries, p, id)
	if err == nil && colleague.ID != p.ID {
		colleague.actor, colleague.Role = p.ID, p.Role
	}
	return colleague, err
}
