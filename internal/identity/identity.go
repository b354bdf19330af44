// Package identity is who somebody is and what they may do: people with their roles, how they get in, stay in and get out.
package identity

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"log/slog"
	"runtime"
	"time"

	"corrim/core/civil"
	words "corrim/core/message"
	"corrim/core/told"
	"corrim/internal/letter"
	"corrim/internal/refusal"
	"corrim/internal/secrets"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// Person is somebody who can sign in.
type Person struct {
	ID        int64  `json:"id"`
	Name      string `json:"name"`
	Mail      string `json:"mail"`
	Zone      string `json:"zone"`
	Language  string `json:"language" doc:"In which they get their mails."`
	Workspace string `json:"workspace" doc:"Its short name, as in addresses."`
	Slug      string `json:"slug" doc:"The short name of their own page."`
	Role      Role   `json:"role" enum:"owner,coordinator,member,viewer"`
	Bookable  bool   `json:"bookable" doc:"Do they take bookings?"`
	NoPage    bool   `json:"noPage,omitempty" doc:"Clients see no page of theirs."`
	Photo     string `json:"photo,omitempty" maxLength:"64" doc:"A picture's hash."`

	Attributes map[string][]string `json:"attributes" doc:"Languages, regions, subjects and the like, by name."`

	workspaceName string
	clock         *time.Location
	actor         int64 // a coordinator who looks after this person's hours; 0 for the person
}

// Of is the person of a row, in their workspace.
func Of(row sqlc.Person, workspace sqlc.Workspace) (Person, error) {
	p := Person{
		ID: row.ID, Slug: row.Slug, Name: row.Name, Mail: row.Mail, Zone: row.Zone, Language: row.Language, Role: Role(row.Role),
		Bookable: row.Bookable == 1, NoPage: row.NoPage == 1, Photo: row.Photo, Attributes: map[string][]string{},
		Workspace: workspace.Slug, workspaceName: workspace.Name,
	}
	if err := json.Unmarshal([]byte(row.Attributes), &p.Attributes); err != nil {
		return p, err
	}
	var err error
	p.clock, err = civil.LoadZone(row.Zone)
	return p, err
}

// Clock is the person's time zone.
func (p Person) Clock() *time.Location { return p.clock }

// WorkspaceName is what the person's workspace is called.
func (p Person) WorkspaceName() string { return p.workspaceName }

// Eyes is who looks and acts: the person, or the coordinator who looks after their hours.
func (p Person) Eyes() int64 { return cmp.Or(p.actor, p.ID) }

// OnBehalf tells whether a coordinator acts instead of the person.
func (p Person) OnBehalf() bool { return p.actor != 0 }

// By is the person looked after by somebody else, with their rights. What they change is remembered as theirs.
func (p Person) By(other Person) Person {
	if p.ID != other.Eyes() {
		p.actor, p.Role = other.Eyes(), other.Role
	}
	return p
}

// Service lets people in.
type Service struct {
	Config
	dummyHash string // to compare with when there is no such person, so that the answer takes as long
	gate      *gate
}

// Config is what a Service needs of the house.
type Config struct {
	Store  *store.Store
	Keys   secrets.Keys
	Log    *slog.Logger
	Now    func() time.Time
	Demo   bool // nobody has a password
	Notify func(ctx context.Context, q *sqlc.Queries, n Notice) error
	Wake   func() // after a notice was written

	PasswordMemory uint32 // KiB that hashing a password takes; as much as is safe if it is 0
}

// Notice is a mail about somebody's account.
type Notice struct {
	ID   string // of the mail, within the installation
	To   Person
	Kind words.Kind
	Path string // of the page that it leads to
	Told []letter.Fact
}

// New makes a Service.
func New(c Config) *Service {
	s := &Service{Config: c, gate: newGate(runtime.GOMAXPROCS(0))}
	s.dummyHash = s.hashed("no such person")
	return s
}

// person returns the person with the ID, if they have not left.
func (s *Service) person(ctx context.Context, id int64) (Person, error) {
	row, err := s.Store.Person(ctx, id)
	if errors.Is(err, store.ErrNotFound) || err == nil && row.RemovedAt != 0 {
		return Person{}, refusal.New(refusal.NotSignedIn, told.Say("please-sign-again", "Please sign in again."))
	}
	if err != nil {
		return Person{}, err
	}
	return s.of(ctx, row)
}

func (s *Service) of(ctx context.Context, row sqlc.Person) (Person, error) {
	workspace, err := s.Store.WorkspaceByID(ctx, row.WorkspaceID)
	if err != nil {
		return Person{}, err
	}
	return Of(row, workspace)
}
