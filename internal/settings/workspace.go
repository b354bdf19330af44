package settings

import (
	"context"
	"encoding/json"

	"corrim/core/opentimes"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/schedule"
	"corrim/internal/store/sqlc"
	"corrim/internal/undo"
)

// WorkspaceView is the settings as they are saved, with what they say in a few words.
type WorkspaceView struct {
	schedule.Workspace
	Holidays []schedule.HolidayCalendar `json:"holidayCalendars" doc:"Of public holidays."`
	Groups   []opentimes.Group          `json:"groups" doc:"The rules that are set, and followed, together."`
	Changes  []WorkspaceChange          `json:"changes" doc:"The last changes of settings in the workspace, newest first."`
}

// WorkspaceChange is a change of settings by somebody of the workspace.
type WorkspaceChange struct {
	undo.SettingChange
	Person string `json:"person"`
}

// WorkspaceTrial is what unsaved settings do.
type WorkspaceTrial struct {
	Effects []schedule.Effect     `json:"effects" doc:"By meeting type, those left alone left out."`
	Outside []schedule.Unmade     `json:"outside" doc:"Coming bookings that the change leaves outside the rules. They stay."`
	Wrong   map[string]told.Words `json:"wrong"`
}

// Which zones clients see; see Workspace.
const ZonesHidden = "hidden"

// Workspace returns the settings of the person's workspace.
func (s *Settings) Workspace(ctx context.Context, p schedule.Person) (WorkspaceView, error) {
	view := WorkspaceView{Workspace: p.Home.Workspace, Groups: p.Home.Rules.Groups(), Holidays: p.Home.Holidays.ToldFrom(s.TodayOf(p).String())}
	rows, err := s.store.WorkspaceChanges(ctx, p.Home.ID)
	view.Changes = make([]WorkspaceChange, len(rows))
	for i, row := range rows {
		view.Changes[i] = WorkspaceChange{s.history.Told(undo.Row{ID: row.ID, At: row.At, UndoneAt: row.UndoneAt, Label: row.Label, Subject: row.Subject}), row.Person}
	}
	return view, err
}

// SaveWorkspace saves the settings.
func (s *Settings) SaveWorkspace(ctx context.Context, p schedule.Person, w schedule.Workspace) (WorkspaceView, error) {
	w = w.Normal()
	if err := p.Home.Check(w).Err(); err != nil {
		return WorkspaceView{}, err
	}
	err := s.WriteFor(ctx, p, identity.EditWorkspace, func(q *sqlc.Queries) error {
		row, err := q.WorkspaceByID(ctx, p.Home.ID)
		if err != nil {
			return err
		}
		before, err := schedule.WorkspaceOf(row)
		if err != nil {
			return err
		}
		if err := WriteWorkspace(ctx, q, p.Home.ID, w); err != nil {
			return err
		}
		if w.Front.Looks != before.Front.Looks { // what was tried is published, or overtaken
			if err := q.SetLooksDraft(ctx, sqlc.SetLooksDraftParams{ID: p.Home.ID}); err != nil {
				return err
			}
		}
		label := told.Say("undo-workspace", "Workspace: {}", changedFields(before.Fields(), w.Fields()))
		return s.Remember(ctx, q, p, subjectWorkspace, p.Home.ID, label, before.Workspace)
	})
	if err != nil {
		return WorkspaceView{}, err
	}
	if p, err = s.Person(ctx, p.ID); err != nil {
		return WorkspaceView{}, err
	}
	return s.Workspace(ctx, p)
}

// WriteWorkspace writes them as they are now.
func WriteWorkspace(ctx context.Context, q *sqlc.Queries, id int64, w schedule.Workspace) error {
	rules, err := json.Marshal(w.Rules)
	if err != nil {
		return err
	}
	share := int64(0)
	if w.ShareBuffers {
		share = 1
	}
	front, err := json.Marshal(w.Front)
	if err != nil {
		return err
	}
	if err := q.SetFront(ctx, sqlc.SetFrontParams{ID: id, Front: string(front)}); err != nil {
		return err
	}
	return q.SetWorkspace(ctx, sqlc.SetWorkspaceParams{
		ID: id, Name: w.Name, Zone: w.Zone, Zones: w.Zones, FirstWeekday: int64(w.FirstWeekday), ShareBuffers: share, Rules: string(rules),
	})
}

// TryWorkspace computes what unsaved settings do to the meeting types of everybody in the workspace.
func (s *Settings) TryWorkspace(ctx context.Context, p schedule.Person, w schedule.Workspace) (WorkspaceTrial, error) {
	w = w.Normal()
	view := WorkspaceTrial{Effects: []schedule.Effect{}, Outside: []schedule.Unmade{}, Wrong: p.Home.Check(w)}
	if err := p.Must(identity.EditWorkspace); err != nil {
		return view, err
	}
	if len(view.Wrong) > 0 {
		return view, nil
	}
	var err error
	view.Effects, view.Outside, err = s.TryChange(ctx, p, func(someone schedule.Person) schedule.Person {
		someone.Home.Workspace = w
		return someone
	})
	return view, err
}
