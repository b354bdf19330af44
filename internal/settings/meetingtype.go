package settings

import (
	"cmp"
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"slices"
	"strings"

	"corrim/core/intake"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// normal is the draft as it would be saved.
func (s *Settings) normal(ctx context.Context, q *sqlc.Queries, p schedule.Person, d schedule.TypeDraft) (schedule.TypeDraft, error) {
	d.Name, d.Description = strings.TrimSpace(d.Name), strings.TrimSpace(d.Description)
	d.Slug = strings.ToLower(strings.TrimSpace(d.Slug))
	var err error
	d.Rules, err = schedule.Resolved(ctx, q, p.Home, d.Rules)
	return d, err
}

// mostTypes is how many types are listed at once.
const mostTypes = 100

// TypeFilter is which types are wanted; what is left empty leaves none out.
type TypeFilter struct {
	All      bool   `query:"all" doc:"A coordinator wants all of the workspace, not only those that they host or have made."`
	Search   string `query:"search" maxLength:"200" doc:"Words in names, categories and the names of hosts; all of them."`
	Category string `query:"category" maxLength:"400"`
	Host     int64  `query:"host" doc:"Who is in its pool."`
	Listing  string `query:"listing" enum:",listed,link,off"`
}

// TypeList is the types that were asked for, and what else can be asked for.
type TypeList struct {
	Types      []schedule.MeetingType `json:"types" doc:"At most 100."`
	Known      int                    `json:"known" doc:"How many there are, whatever was asked for."`
	Categories []string               `json:"categories"`
	Hosts      []schedule.PageHost    `json:"hosts" doc:"Who hosts any of them."`
}

// MeetingTypes lists the types that the person hosts or has made; for a coordinator who wants all, those of the workspace. Where there
// are too many to list, the person's own come first; a filter finds the others.
func (s *Settings) MeetingTypes(ctx context.Context, p schedule.Person, filter TypeFilter) ([]schedule.MeetingType, error) {
	list, err := s.TypeList(ctx, p, filter)
	return list.Types, err
}

// TypeList is the same with what can be filtered by.
func (s *Settings) TypeList(ctx context.Context, p schedule.Person, filter TypeFilter) (TypeList, error) {
	list := TypeList{Types: []schedule.MeetingType{}, Categories: []string{}, Hosts: []schedule.PageHost{}}
	known, err := s.TypesOf(ctx, p.Home)
	if err != nil {
		return list, err
	}
	names, err := s.Names(ctx, p.Home.ID)
	if err != nil {
		return list, err
	}
	filter.Search = strings.ToLower(intake.OneLine(filter.Search))
	var others []schedule.MeetingType
	for i := range known {
		kind := &known[i]
		own := kind.HostID == p.ID || slices.Contains(kind.Hosts, p.ID)
		if !own && !(filter.All && p.May(identity.EditEverybodys)) {
			continue
		}
		list.note(kind, names)
		switch {
		case !filter.keeps(kind, names):
		case own && len(list.Types) < mostTypes:
			list.Types = append(list.Types, kind.SeenBy(p))
		case !own && len(others) < mostTypes:
			others = append(others, kind.SeenBy(p))
		}
	}
	list.Types = append(list.Types, others[:min(len(others), mostTypes-len(list.Types))]...)
	slices.SortStableFunc(list.Types, func(a, b schedule.MeetingType) int {
		return cmp.Or(cmp.Compare(a.Position, b.Position), cmp.Compare(a.ID, b.ID))
	})
	slices.SortFunc(list.Hosts, func(a, b schedule.PageHost) int { return strings.Compare(a.Name, b.Name) })
	return list, nil
}

// note counts a type, and adds by what it is found.
func (l *TypeList) note(kind *schedule.MeetingType, names map[int64]string) {
	l.Known++
	if kind.Category != "" && !slices.Contains(l.Categories, kind.Category) {
		l.Categories = append(l.Categories, kind.Category)
	}
	for _, id := range kind.Hosts {
		if !slices.ContainsFunc(l.Hosts, func(h schedule.PageHost) bool { return h.ID == id }) {
			l.Hosts = append(l.Hosts, schedule.PageHost{ID: id, Name: names[id]})
		}
	}
}

func (f TypeFilter) keeps(kind *schedule.MeetingType, names map[int64]string) bool {
	if f.Category != "" && kind.Category != f.Category || f.Listing != "" && kind.Listing != f.Listing || f.Host != 0 && !slices.Contains(kind.Hosts, f.Host) {
		return false
	}
	said := strings.ToLower(kind.Name + " " + kind.Category)
	for _, id := range kind.Hosts {
		said += " " + strings.ToLower(names[id])
	}
	for word := range strings.FieldsSeq(f.Search) {
		if !strings.Contains(said, word) {
			return false
		}
	}
	return true
}

// TypeTables is what meeting types are worked out from.
var TypeTables = []string{"meeting_type", "workspace", "week_plan", "team", "team_member", "person"}

// TypesOf is all types of a workspace, with who hosts them.
func (s *Settings) TypesOf(ctx context.Context, home schedule.Home) ([]schedule.MeetingType, error) {
	writes := s.store.Written(TypeTables...)
	return s.types.Get(home.ID, writes, func() ([]schedule.MeetingType, error) {
		// The workspace as it is by now: the caller's may be from before a write that is counted already.
		row, err := s.store.WorkspaceByID(ctx, home.ID)
		if err != nil {
			return nil, err
		}
		if home, err = schedule.WorkspaceOf(row); err != nil {
			return nil, err
		}
		rows, err := s.store.TypesOfWorkspace(ctx, home.ID)
		types := make([]schedule.MeetingType, len(rows))
		for i, row := range rows {
			if err != nil {
				return nil, err
			}
			if types[i], err = schedule.MeetingTypeOf(ctx, s.store.Queries, home, row); err == nil {
				types[i], err = withHosts(ctx, s.store.Queries, home.ID, types[i])
			}
		}
		return types, err
	})
}

// withHosts is a type with who hosts it.
func withHosts(ctx context.Context, q *sqlc.Queries, home int64, kind schedule.MeetingType) (schedule.MeetingType, error) {
	places, err := kind.Routing.Members(ctx, q, home)
	kind.Hosts = make([]int64, len(places))
	for i, place := range places {
		kind.Hosts[i] = place.Person
	}
	return kind, err
}

// MeetingType returns one of the types that the person hosts or may change.
func (s *Settings) MeetingType(ctx context.Context, p schedule.Person, id int64) (schedule.MeetingType, error) {
	row, err := s.store.MeetingType(ctx, id)
	if errors.Is(err, store.ErrNotFound) || err == nil && (row.WorkspaceID != p.Home.ID || row.RemovedAt != 0) {
		return schedule.MeetingType{}, ErrNotYourType
	}
	if err != nil {
		return schedule.MeetingType{}, err
	}
	kind, err := schedule.MeetingTypeOf(ctx, s.store.Queries, p.Home, row)
	if err != nil {
		return kind, err
	}
	if kind, err = withHosts(ctx, s.store.Queries, p.Home.ID, kind); err != nil {
		return kind, err
	}
	if kind = kind.SeenBy(p); !kind.Mine && !kind.Edits {
		return schedule.MeetingType{}, ErrNotYourType
	}
	kind.Rules, err = s.WithSeries(ctx, s.store.Queries, kind.ID, kind.Rules)
	return kind, err
}

// ErrNotYourType is also said of a type that there isn't.
var ErrNotYourType = refusal.New(refusal.NotFound, told.Say("no-such-meeting", "There is no such meeting type among yours. Choose one from the list."))

// SaveMeetingType saves a draft over the type with the ID, or as a new one if it is 0. Rules under which nothing would be
// open are refused, unless the host has accepted that.
func (s *Settings) SaveMeetingType(ctx context.Context, p schedule.Person, id int64, draft schedule.TypeDraft, how Saving) (schedule.MeetingType, error) {
	host, ways := p.ID, schedule.UsualBookingPage().Ways
	var before *schedule.TypeDraft
	if id != 0 {
		saved, err := s.TypeToChange(ctx, p, id, how.Version)
		if err != nil {
			return schedule.MeetingType{}, err
		}
		before, host, ways = &saved.TypeDraft, saved.HostID, saved.BookingPage.Ways
	}
	draft, err := s.normal(ctx, s.store.Queries, p, draft)
	if err != nil {
		return schedule.MeetingType{}, err
	}
	wrong := draft.Check()
	if fault := OneLocation(draft.Rules.Seats, ways); fault.Any() {
		wrong.Add("rules.seats", fault)
	}
	if len(wrong) == 0 && !how.Accept {
		if err := s.mustOpen(ctx, p, id, draft); err != nil {
			return schedule.MeetingType{}, err
		}
	}
	err = s.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		taken, err := q.SlugTaken(ctx, sqlc.SlugTakenParams{WorkspaceID: p.Home.ID, Slug: draft.Slug, ID: id})
		if err != nil {
			return err
		}
		if taken > 0 {
			wrong.Add("slug", told.Say("another-meeting-type", "Another meeting type of this workspace has this short address. Choose a different one."))
		}
		if err := wrong.Err(); err != nil {
			return err
		}
		if id, err = writeType(ctx, q, p.Home.ID, host, id, draft); err != nil || before == nil {
			return err
		}
		if err := s.raiseSeats(ctx, q, id, draft.Rules.Seats); err != nil {
			return err
		}
		return s.Remember(ctx, q, p, subjectType, id, typeLabelOf(*before, draft), before)
	})
	if err != nil {
		return schedule.MeetingType{}, err
	}
	return s.MeetingType(ctx, p, id)
}

// Saving is how a change is to be saved.
type Saving struct {
	Accept  bool  `query:"accept" doc:"The host knows that nothing will be open; without it such rules are refused."`
	Version int64 `query:"version" doc:"Of the type that was changed; if it has changed since, that is told first. 0 doesn't look."`
}

// TypeToChange is a type that the person may change, if nobody has changed it since the version they saw.
func (s *Settings) TypeToChange(ctx context.Context, p schedule.Person, id, version int64) (schedule.MeetingType, error) {
	kind, err := s.MeetingType(ctx, p, id)
	if err != nil {
		return kind, err
	}
	if !kind.Edits {
		return kind, refusal.New(refusal.Forbidden, told.Say("meeting-type-looked", "This meeting type is looked after by somebody else. Ask them, or a coordinator of your workspace."))
	}
	if version != 0 && kind.Version != version {
		return kind, refusal.New(refusal.Conflict, told.Say("somebody-changed-meeting", "Somebody has changed this meeting type since you opened it. What you entered is kept, and what they changed beside it is shown here now: look it over, then save again."))
	}
	return kind, nil
}

// mayChangeType tells whether the person may change a type: one that they made, or anybody's.
func mayChangeType(ctx context.Context, q *sqlc.Queries, p schedule.Person, id int64) error {
	row, err := q.MeetingType(ctx, id)
	if errors.Is(err, store.ErrNotFound) || err == nil && row.WorkspaceID != p.Home.ID {
		return ErrNotYourType
	}
	if err != nil {
		return err
	}
	if row.HostID == p.ID {
		return p.Must(identity.EditOwn)
	}
	return p.Must(identity.EditEverybodys)
}

// writeType writes a draft. A named plan is a column, so that a plan in use can't be removed.
func writeType(ctx context.Context, q *sqlc.Queries, workspace, host, id int64, d schedule.TypeDraft) (int64, error) {
	var plan sql.NullInt64
	if own := d.Rules.Hours; own != nil && own.Plan != 0 {
		plan, d.Rules.Hours = store.NullID(own.Plan), nil
	}
	rules, err := json.Marshal(d.Rules)
	if err != nil {
		return 0, err
	}
	if id == 0 {
		return q.AddMeetingType(ctx, sqlc.AddMeetingTypeParams{
			WorkspaceID: workspace, HostID: host, Slug: d.Slug, Name: d.Name, Description: d.Description, Rules: string(rules), PlanID: plan,
		})
	}
	return id, q.SetMeetingType(ctx, sqlc.SetMeetingTypeParams{
		ID: id, Slug: d.Slug, Name: d.Name, Description: d.Description, Rules: string(rules), PlanID: plan,
	})
}
