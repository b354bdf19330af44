package schedule

import (
	"context"
	"errors"

	"corrim/core/told"
	"corrim/internal/refusal"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// Colleague finds somebody of the person's workspace; 0 is the person.
func (s *Service) Colleague(ctx context.Context, q *sqlc.Queries, p Person, id int64) (Person, error) {
	if id == 0 || id == p.ID {
		return p, nil
	}
	row, err := q.Person(ctx, id)
	if errors.Is(err, store.ErrNotFound) || err == nil && (row.WorkspaceID != p.Home.ID || row.RemovedAt != 0) {
		return Person{}, refusal.New(refusal.NotFound, told.Say("no-such-colleague", "There is no such colleague. Load the page again to see those there are."))
	}
	if err != nil {
		return Person{}, err
	}
	return s.PersonOf(ctx, q, row)
}

// Colleagues is everybody in the person's workspace, themself included.
func (s *Service) Colleagues(ctx context.Context, p Person) ([]Person, error) {
	rows, err := s.store.PeopleOfWorkspace(ctx, p.Home.ID)
	if err != nil {
		return nil, err
	}
	return s.PeopleOf(ctx, rows)
}

// PeopleOf is the people of rows.
func (s *Service) PeopleOf(ctx context.Context, rows []sqlc.Person) (people []Person, err error) {
	people = make([]Person, len(rows))
	for i, row := range rows {
		if people[i], err = s.PersonOf(ctx, s.store.Queries, row); err != nil {
			return nil, err
		}
	}
	return people, nil
}

// Teams is the teams of the person's workspace.
func (s *Service) Teams(ctx context.Context, p Person) ([]Team, error) {
	rows, err := s.store.Teams(ctx, p.Home.ID)
	out := make([]Team, len(rows))
	for i, row := range rows {
		members, err := s.store.TeamMembers(ctx, row.ID)
		if err != nil {
			return nil, err
		}
		out[i] = Team{ID: row.ID, Name: row.Name, Slug: row.Slug, Members: []int64{}}
		for _, m := range members {
			out[i].Members = append(out[i].Members, m.PersonID)
		}
	}
	return out, err
}
