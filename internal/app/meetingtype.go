package app

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"regexp"
	"strings"

	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// TypeDraft is a meeting type as the editor sends it.
type TypeDraft struct {
	Name        string    `json:"name" maxLength:"400"`
	Slug        string    `json:"slug" maxLength:"400" doc:"Its short address."`
	Description string    `json:"description" maxLength:"20000"`
	Rules       TypeRules `json:"rules"`
}

// MeetingType is a saved meeting type.
type MeetingType struct {
	ID int64 `json:"id"`
	TypeDraft
	Path string `json:"path" doc:"Of the client's page."`

	hostID int64
}

var slugPattern = regexp.MustCompile(`^[a-z0-9]+(-[a-z0-9]+)*$`)

// normal is the draft as it would be saved.
func (a *App) normal(ctx context.Context, q *sqlc.Queries, p Person, d TypeDraft) (TypeDraft, error) {
	d.Name, d.Description = strings.TrimSpace(d.Name), strings.TrimSpace(d.Description)
	d.Slug = strings.ToLower(strings.TrimSpace(d.Slug))
	var err error
	d.Rules, err = resolved(ctx, q, p.home, d.Rules)
	return d, err
}

func (d TypeDraft) check() complaints {
	wrong := complaints{}
	switch {
	case d.Name == "":
		wrong.add("name", "Give the meeting type a name that clients will read.")
	case len([]rune(d.Name)) > 120:
		wrong.add("name", "A name has at most 120 letters.")
	}
	if len(d.Slug) > 60 || !slugPattern.MatchString(d.Slug) {
		wrong.add("slug", "A short address has letters a-z, figures and single hyphens, at most 60, like light-survey.")
	}
	if len([]rune(d.Description)) > 4000 {
		wrong.add("description", "A description has at most 4000 letters.")
	}
	d.Rules.check(wrong)
	return wrong
}

// MeetingTypes lists the types that the person hosts.
func (a *App) MeetingTypes(ctx context.Context, p Person) ([]MeetingType, error) {
	rows, err := a.Store.MeetingTypes(ctx, p.ID)
	if err != nil {
		return nil, err
	}
	types := make([]MeetingType, len(rows))
	for i, row := range rows {
		if types[i], err = meetingType(ctx, a.Store.Queries, p.home, row); err != nil {
			return nil, err
		}
	}
	return types, nil
}

func meetingType(ctx context.Context, q *sqlc.Queries, w workspace, row sqlc.MeetingType) (MeetingType, error) {
	t := MeetingType{ID: row.ID, hostID: row.HostID, Path: "/p/" + w.slug + "/" + row.Slug}
	t.Name, t.Slug, t.Description = row.Name, row.Slug, row.Description
	err := json.Unmarshal([]byte(row.Rules), &t.Rules)
	if err != nil {
		return t, err
	}
	if row.PlanID.Valid {
		t.Rules.Hours = &OwnHours{Plan: row.PlanID.Int64}
	}
	t.Rules, err = resolved(ctx, q, w, t.Rules)
	return t, err
}

// MeetingType returns one of the person's types.
func (a *App) MeetingType(ctx context.Context, p Person, id int64) (MeetingType, error) {
	row, err := a.Store.MeetingType(ctx, id)
	if errors.Is(err, store.ErrNotFound) || err == nil && row.HostID != p.ID {
		return MeetingType{}, refuse(NotFound, "There is no such meeting type among yours. Choose one from the list.")
	}
	if err != nil {
		return MeetingType{}, err
	}
	return meetingType(ctx, a.Store.Queries, p.home, row)
}

// SaveMeetingType saves a draft over the type with the ID, or as a new one if it is 0. Rules under which nothing would be
// open are refused, unless the host has accepted that.
func (a *App) SaveMeetingType(ctx context.Context, p Person, id int64, draft TypeDraft, accepted bool) (MeetingType, error) {
	var before *TypeDraft
	if id != 0 {
		saved, err := a.MeetingType(ctx, p, id)
		if err != nil {
			return MeetingType{}, err
		}
		before = &saved.TypeDraft
	}
	draft, err := a.normal(ctx, a.Store.Queries, p, draft)
	if err != nil {
		return MeetingType{}, err
	}
	wrong := draft.check()
	if len(wrong) == 0 && !accepted {
		if err := a.mustOpen(ctx, p, id, draft.Rules); err != nil {
			return MeetingType{}, err
		}
	}
	err = a.Store.Write(ctx, func(q *sqlc.Queries) error {
		taken, err := q.SlugTaken(ctx, sqlc.SlugTakenParams{WorkspaceID: p.home.id, Slug: draft.Slug, ID: id})
		if err != nil {
			return err
		}
		if taken > 0 {
			wrong.add("slug", "Another meeting type of this workspace has this short address. Choose a different one.")
		}
		if err := wrong.err(); err != nil {
			return err
		}
		if id, err = writeType(ctx, q, p.home.id, p.ID, id, draft); err != nil || before == nil {
			return err
		}
		return a.remember(ctx, q, p, settingChange{subjectType, id, typeLabelOf(*before, draft), before})
	})
	if err != nil {
		return MeetingType{}, err
	}
	return a.MeetingType(ctx, p, id)
}

// writeType writes a draft. A named plan is a column, so that a plan in use can't be removed.
func writeType(ctx context.Context, q *sqlc.Queries, workspace, host, id int64, d TypeDraft) (int64, error) {
	var plan sql.NullInt64
	if own := d.Rules.Hours; own != nil && own.Plan != 0 {
		plan, d.Rules.Hours = nullID(own.Plan), nil
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
