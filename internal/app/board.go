package app

import (
	"context"
	"errors"
	"slices"

	"corrim/core/civil"
	"corrim/core/intake"
	"corrim/core/opentimes"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// Board is days of one person, or one day of everybody in the workspace, as ribbons on the viewer's clock.
type Board struct {
	Today  string              `json:"today" format:"date"`
	Minute int                 `json:"minute" doc:"Of the viewer's wall clock, now."`
	Zone   string              `json:"zone"`
	Rows   []schedule.BoardRow `json:"rows"`
	Teams  []schedule.Team     `json:"teams" doc:"To narrow the colleagues to."`
	People int                 `json:"people" doc:"How many have days here, with those before and after."`
}

// Board gathers days from a date on: the person's own, or with everybody set one day of each colleague. On the person's own
// days the open starts of one of their meeting types stand, unless opening is 0.
func (a *App) Board(ctx context.Context, p schedule.Person, days BoardDays, opening int64) (Board, error) {
	view, err := a.boardView(ctx, p, days)
	if err != nil {
		return Board{}, err
	}
	var kind schedule.MeetingType
	if opening != 0 {
		if kind, err = a.MeetingType(ctx, p, opening); err != nil {
			return Board{}, err
		}
	}
	today := schedule.NewDayDrawer(a.TodayOf(p), p.Local)
	board := Board{Today: today.Date.String(), Minute: today.Minute(span.At(a.Now())), Zone: p.Zone, Rows: []schedule.BoardRow{}, Teams: view.teams, People: view.of}
	agendas, err := a.WholeAgendas(ctx, a.Store.Queries, view.people, view.reach(opening != 0))
	if err != nil {
		return board, err
	}
	for _, g := range agendas {
		host := g.Person
		var starts []opentimes.Start
		if opening != 0 && host.ID == p.ID {
			starts = opentimes.Search(g.Input(kind.ID, kind.Rules), view.within)
		}
		for i := range view.days {
			d := schedule.NewDayDrawer(view.first.AddDays(i), p.Local)
			row := schedule.BoardRowOf(d, g, p)
			row.Ribbon.Kept = d.Starts(row.Ribbon.Kept, starts)
			board.Rows = append(board.Rows, row)
		}
	}
	return board, nil
}

// Whose days a board shows: one's own, everybody's, or a colleague's by their ID.
const (
	Own        int64 = 0
	Everybodys int64 = -1
)

// BoardDays is which days of whom a board shows.
type BoardDays struct {
	From  string // a date
	Days  int
	Whose int64
	Team  int64 // of everybody: only its members, if it is not 0
	Skip  int   // of everybody: so many come before
}

// boardView is whose days a board shows, and which.
type boardView struct {
	people []schedule.Person
	of     int // all those among whom they are
	teams  []schedule.Team
	first  civil.Date
	days   int
	within span.Span
}

// mostPeople is how many have their days on a board at once.
const mostPeople = 30

func (a *App) boardView(ctx context.Context, p schedule.Person, d BoardDays) (v boardView, err error) {
	if v.first, err = civil.ParseDate(d.From); err != nil {
		return v, refusal.Faulty("from", told.OfError(err))
	}
	v.people, v.of, v.days, v.teams = []schedule.Person{p}, 1, d.Days, []schedule.Team{}
	switch d.Whose {
	case Own:
	case Everybodys:
		v.days = 1
		err = a.viewEverybody(ctx, p, d, &v)
	default:
		v.people[0], err = a.Colleague(ctx, a.Store.Queries, p, d.Whose)
	}
	v.within = span.Span{Start: v.first.Start(p.Local), End: v.first.AddDays(v.days).Start(p.Local)}
	return v, err
}

// viewEverybody fills in the colleagues, or those of a team, as many as are shown at once.
func (a *App) viewEverybody(ctx context.Context, p schedule.Person, d BoardDays, v *boardView) (err error) {
	rows, teams, err := a.everybody(ctx, p, d.Team)
	if err != nil {
		return err
	}
	v.teams, v.of = teams, len(rows)
	rows = rows[min(d.Skip, v.of):]
	v.people, err = a.PeopleOf(ctx, rows[:min(mostPeople, len(rows))])
	return err
}

// everybody is the person's colleagues, or those of a team, and the teams.
func (a *App) everybody(ctx context.Context, p schedule.Person, of int64) ([]sqlc.Person, []schedule.Team, error) {
	teams, err := a.Teams(ctx, p)
	if err != nil {
		return nil, nil, err
	}
	rows, err := a.Store.PeopleOfWorkspace(ctx, p.Home.ID)
	if team := slices.IndexFunc(teams, func(t schedule.Team) bool { return t.ID == of }); team >= 0 {
		rows = slices.DeleteFunc(rows, func(row sqlc.Person) bool { return !slices.Contains(teams[team].Members, row.ID) })
	}
	return rows, teams, err
}

// reach is what has to be loaded to draw the days; to find open starts in them, more.
func (v boardView) reach(search bool) span.Span {
	if search {
		return v.within.Grow(schedule.AgendaMargin, schedule.AgendaMargin)
	}
	return v.within
}

// NewBlock is a stretch of a day to be blocked, on the person's wall clock.
type NewBlock struct {
	Date  string `json:"date" format:"date"`
	From  int    `json:"from" minimum:"0" maximum:"1439" doc:"Minutes past midnight."`
	To    int    `json:"to" minimum:"1" maximum:"1440"`
	Label string `json:"label,omitempty" maxLength:"200"`
}

// blockState is a block for the history; There tells whether it was there.
type blockState struct {
	Block sqlc.Block
	There bool
}

// AddBlock blocks time of the person. The field of a refusal is "to" or "date".
func (a *App) AddBlock(ctx context.Context, p schedule.Person, n NewBlock) error {
	date, err := civil.ParseDate(n.Date)
	if err != nil {
		return refusal.Faulty("date", told.OfError(err))
	}
	at := span.Span{Start: civil.Clock{Date: date, Seconds: n.From * 60}.Instant(p.Local), End: civil.Clock{Date: date, Seconds: n.To * 60}.Instant(p.Local)}
	if n.To == 24*60 {
		at.End = date.AddDays(1).Start(p.Local)
	}
	if at.Empty() {
		return refusal.Faulty("to", told.Say("what-blocked-ends", "What is blocked ends after it begins."))
	}
	return a.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		id, err := q.AddBlock(ctx, sqlc.AddBlockParams{PersonID: p.ID, StartAt: int64(at.Start), EndAt: int64(at.End), Label: intake.OneLine(n.Label)})
		if err != nil {
			return err
		}
		label := told.Say("undo-blocked", "Board: {} blocked", told.During(at, p.Local))
		return a.Remember(ctx, q, p, subjectBlock, id, label, blockState{Block: sqlc.Block{ID: id}})
	})
}

// RemoveBlock gives blocked time free again.
func (a *App) RemoveBlock(ctx context.Context, p schedule.Person, id int64) error {
	return a.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		b, err := q.Block(ctx, id)
		if errors.Is(err, store.ErrNotFound) || err == nil && b.PersonID != p.ID {
			return refusal.New(refusal.NotFound, told.Say("time-blocked-any", "This time is not blocked any more."))
		}
		if err != nil {
			return err
		}
		if err := q.RemoveBlock(ctx, id); err != nil {
			return err
		}
		label := told.Say("undo-given-free", "Board: {} no longer blocked", told.During(schedule.BlockSpan(b), p.Local))
		return a.Remember(ctx, q, p, subjectBlock, id, label, blockState{b, true})
	})
}

func restoreBlock(ctx context.Context, q *sqlc.Queries, _ schedule.Person, id int64, before blockState) error {
	if !before.There {
		return q.RemoveBlock(ctx, id)
	}
	return q.PutBackBlock(ctx, sqlc.PutBackBlockParams(before.Block))
}
