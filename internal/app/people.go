package app

import (
	"cmp"
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"strings"
	"time"
	"unicode"

	"golang.org/x/text/unicode/norm"

	"corrim/core/civil"
	"corrim/core/hours"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// Person is somebody who can sign in, with their workspace and when they work.
type Person struct {
	identity.Person
	home    workspace
	zone    *time.Location
	week    hours.Week
	own     [7]string // the week that is theirs alone, even while they work by a plan
	planID  int64     // 0 for none
	choices CalendarChoices
	marked  span.Set    // what events open, if their title does instead of the week
	differs []DayChange // the same as the next two, as rows
	changes []hours.Change
	off     []hours.TimeOff
}

// plan is the person's hours, for all meeting types but one whose hours come from the calendar.
func (p Person) plan() hours.Plan { return p.planFor(0) }

// planFor is the person's hours for a meeting type; one not yet saved has the ID 0.
func (p Person) planFor(kind int64) hours.Plan {
	elsewhere := p.choices.OpenTitle != "" && (p.choices.OpenType == 0 || p.choices.OpenType == kind)
	return hours.Plan{Zone: p.zone, Week: p.week, Changes: p.changes, TimeOff: p.off, Elsewhere: elsewhere, Marked: p.marked}
}

func (p Person) address() Address { return Address{p.Name, p.Mail} }

// Person returns the person with the ID.
func (a *App) Person(ctx context.Context, id int64) (Person, error) {
	return a.personByID(ctx, a.Store.Queries, id)
}

func (a *App) personByID(ctx context.Context, q *sqlc.Queries, id int64) (Person, error) {
	row, err := q.Person(ctx, id)
	if errors.Is(err, store.ErrNotFound) || err == nil && row.RemovedAt != 0 {
		return Person{}, refusal.New(refusal.NotSignedIn, told.Say("please-sign-again", "Please sign in again."))
	}
	if err != nil {
		return Person{}, err
	}
	return a.person(ctx, q, row)
}

// anybody returns a person even if they have left: their past bookings still name them.
func (a *App) anybody(ctx context.Context, q *sqlc.Queries, id int64) (Person, error) {
	row, err := q.Person(ctx, id)
	if err != nil {
		return Person{}, err
	}
	return a.person(ctx, q, row)
}

// keptPerson names what a person is worked out from, beside the tables in personTables.
type keptPerson struct {
	row  sqlc.Person
	hour int64 // years of time off move on
}

var personTables = []string{"workspace", "week_plan", "day_change"}

func (a *App) person(ctx context.Context, q *sqlc.Queries, row sqlc.Person) (Person, error) {
	if q != a.Store.Queries || row.OpenTitle != "" { // within a transaction; or by calendars, which change all the time
		return a.personAnew(ctx, q, row)
	}
	writes := a.Store.Written(personTables...)
	return a.keptPeople.get(keptPerson{row, a.Now().Unix() / 3600}, writes, func() (Person, error) { return a.personAnew(ctx, q, row) })
}

func (a *App) personAnew(ctx context.Context, q *sqlc.Queries, row sqlc.Person) (Person, error) {
	home, err := q.WorkspaceByID(ctx, row.WorkspaceID)
	if err != nil {
		return Person{}, err
	}
	p := Person{}
	if p.Person, err = identity.Of(row, home); err != nil {
		return p, err
	}
	p.zone = p.Clock()
	if p.home, err = workspaceOf(home); err != nil {
		return p, err
	}
	if err := json.Unmarshal([]byte(row.Week), &p.own); err != nil {
		return p, err
	}
	texts := p.own
	if row.PlanID.Valid {
		plan, err := weekPlan(ctx, q, p.home, row.PlanID.Int64)
		if err != nil {
			return p, err
		}
		p.planID, texts = plan.ID, plan.Week
	}
	if p.week, err = hours.ParseWeek(texts); err != nil {
		return p, err
	}
	if p.differs, err = dayChanges(ctx, q, p.ID); err != nil {
		return p, err
	}
	if p.changes, p.off, err = a.differing(p.differs, p.zone); err != nil {
		return p, err
	}
	p.choices = CalendarChoices{row.Unreachable, int(row.TrustHours), row.EventChange, row.OpenTitle, row.OpenType.Int64}
	if p.choices.OpenTitle != "" {
		p.marked, err = openMarks(ctx, q, p.ID)
	}
	return p, err
}

// openMarks is what events with the agreed title open.
func openMarks(ctx context.Context, q *sqlc.Queries, person int64) (span.Set, error) {
	rows, err := q.OpenMarks(ctx, person)
	spans := make([]span.Span, len(rows))
	for i, row := range rows {
		spans[i] = span.Span{Start: span.Instant(row.StartAt), End: span.Instant(row.EndAt)}
	}
	return span.UnionInPlace(spans), err
}

// colleagues is everybody in the person's workspace, themself included.
func (a *App) colleagues(ctx context.Context, p Person) ([]Person, error) {
	rows, err := a.Store.PeopleOfWorkspace(ctx, p.home.id)
	if err != nil {
		return nil, err
	}
	return a.people(ctx, rows)
}

func (a *App) people(ctx context.Context, rows []sqlc.Person) (people []Person, err error) {
	people = make([]Person, len(rows))
	for i, row := range rows {
		if people[i], err = a.person(ctx, a.Store.Queries, row); err != nil {
			return nil, err
		}
	}
	return people, nil
}

// DemoPeople are those whom a visitor of the demo can be.
func (a *App) DemoPeople(ctx context.Context) ([]Person, error) {
	if !a.Demo {
		return nil, nil
	}
	rows, err := a.Store.People(ctx)
	if err != nil {
		return nil, err
	}
	return a.people(ctx, rows)
}

// writeFor writes in one transaction what the person must be allowed to do.
func (a *App) writeFor(ctx context.Context, p Person, action identity.Action, f func(*sqlc.Queries) error) error {
	if err := p.Must(action); err != nil {
		return err
	}
	return a.Store.Write(ctx, f)
}

// LookAfter is a colleague whose hours the person changes, with the person's own rights. What changes is remembered as theirs.
func (a *App) LookAfter(ctx context.Context, p Person, id int64) (Person, error) {
	if err := p.Must(identity.LookAfterHours); err != nil {
		return Person{}, err
	}
	colleague, err := a.colleague(ctx, a.Store.Queries, p, id)
	colleague.Person = colleague.By(p.Person)
	return colleague, err
}

// NewPerson is somebody to be added.
type NewPerson struct {
	Name, Mail, Password, Zone string
	Role                       identity.Role // a member if empty; the first of a workspace is its owner
	Week                       [7]string
	Language                   string // English if empty
}

// AddWorkspace makes a workspace with its people and returns their IDs. Its zone is that of the first of them.
func (a *App) AddWorkspace(ctx context.Context, slug, name string, people ...NewPerson) ([]int64, error) {
	var ids []int64
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
		WorkspaceID: workspace, Name: p.Name, Mail: p.Mail, PasswordHash: a.Identity.HashPassword(p.Password), Zone: p.Zone, Week: weekJSON(week),
		Language: cmp.Or(p.Language, "en"),
		JoinedAt: a.Now().Unix(),
	})
}

// freePersonSlug is a short name made from somebody's name: "Siew Lin Dao" is siew-lin-dao.
func freePersonSlug(ctx context.Context, q *sqlc.Queries, workspace int64, name string) (string, error) {
	return freeSlug(cmp.Or(slugOf(name), "person"), func(slug string) (int64, error) {
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

func weekJSON(week hours.Week) string { return weekTextsJSON(week.Texts()) }

func weekTextsJSON(texts [7]string) string {
	text, _ := json.Marshal(texts) // an array of strings always can be
	return string(text)
}

// nullID is an ID for the database, where 0 is none.
func nullID(id int64) sql.NullInt64 { return sql.NullInt64{Int64: id, Valid: id != 0} }
