package identity

import (
	"slices"

	"corrim/core/told"
	"corrim/internal/refusal"
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

// Must refuses what the person may not do.
func (p Person) Must(a Action) error {
	if p.May(a) {
		return nil
	}
	return refusal.New(refusal.Forbidden, told.Say("do-ask-owner", "As {} you can't do this. Ask an owner or a coordinator of your workspace.", roleWords[p.Role]))
}

var roleWords = map[Role]told.Words{
	Owner: told.Say("role-owner", "an owner"), Coordinator: told.Say("role-coordinator", "a coordinator"), Member: told.Say("role-member", "a member"),
	Viewer: told.Say("role-viewer", "a viewer"),
}
