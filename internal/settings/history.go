package settings

import (
	"context"
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"

	"corrim/core/hours"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
	"corrim/internal/undo"
)

// The kinds of settings here that can be undone.
const (
	SubjectHours     = "hours"
	subjectType      = "meeting-type"
	subjectPlan      = "week-plan"
	subjectWorkspace = "workspace"
	subjectOffer     = "offer" // the booking page of a type
	subjectRemoved   = "removed-type"
	subjectHolidays  = "holidays"
	subjectRouting   = "routing"
)

// register adds how what is set here is put back.
func (s *Settings) register() {
	maps.Copy(s.history, undo.Subjects[schedule.Person]{
		SubjectHours:     undo.Of(MayPutBackOf(identity.LookAfterHours), restoreHours),
		subjectType:      undo.Of(MayPutBackType, s.restoreType),
		subjectPlan:      undo.Of(mayPutBackPlan, restorePlan),
		subjectWorkspace: undo.Of(MayPutBack(identity.EditWorkspace), restoreWorkspace),
		subjectOffer:     undo.Of(MayPutBackType, s.restoreBookingPage),
		subjectRemoved:   undo.Of(MayPutBackType, restoreRemoved),
		subjectHolidays:  undo.Of(MayPutBack(identity.EditWorkspace), restoreHolidays),
		subjectRouting:   undo.Of(mayPutBackRouting, restoreRouting),
	})
}

// Remember keeps how something was before the person changed it; label says what they changed.
func (s *Settings) Remember(ctx context.Context, q *sqlc.Queries, p schedule.Person, subject string, id int64, label told.Words, before any) error {
	if subject == SubjectHours && p.OnBehalf() {
		label = told.Say("undo-of-colleague", "{}: {}", p.Name, label)
	}
	return s.history.Remember(ctx, q, p.Eyes(), s.now(), undo.Change{Subject: subject, ID: id, Label: label, Before: before})
}

// MayPutBack lets those put something back who may do something now.
func MayPutBack(action identity.Action) func(context.Context, *sqlc.Queries, schedule.Person, sqlc.SettingChange) error {
	return func(_ context.Context, _ *sqlc.Queries, p schedule.Person, _ sqlc.SettingChange) error {
		return p.Must(action)
	}
}

// MayPutBackOf is for what is somebody's: their own, or for those who may do something for others.
func MayPutBackOf(others identity.Action) func(context.Context, *sqlc.Queries, schedule.Person, sqlc.SettingChange) error {
	return func(_ context.Context, _ *sqlc.Queries, p schedule.Person, c sqlc.SettingChange) error {
		if c.SubjectID == p.ID {
			return p.Must(identity.EditOwn)
		}
		return p.Must(others)
	}
}

func mayPutBackPlan(ctx context.Context, q *sqlc.Queries, p schedule.Person, c sqlc.SettingChange) error {
	return mayChangePlan(ctx, q, p, c.SubjectID)
}

// MayPutBackType is for those who may change the meeting type.
func MayPutBackType(ctx context.Context, q *sqlc.Queries, p schedule.Person, c sqlc.SettingChange) error {
	return mayChangeType(ctx, q, p, c.SubjectID)
}

// mayPutBackRouting is the same for how it finds its hosts, which coordinators change too.
func mayPutBackRouting(ctx context.Context, q *sqlc.Queries, p schedule.Person, c sqlc.SettingChange) error {
	if err := p.Must(identity.EditEverybodys); err == nil {
		return nil
	}
	return mayChangeType(ctx, q, p, c.SubjectID)
}

func restoreWorkspace(ctx context.Context, q *sqlc.Queries, _ schedule.Person, id int64, before schedule.Workspace) error {
	return WriteWorkspace(ctx, q, id, before)
}

func restorePlan(ctx context.Context, q *sqlc.Queries, p schedule.Person, _ int64, before schedule.WeekPlan) error {
	taken, err := q.PlanNameTaken(ctx, sqlc.PlanNameTakenParams{WorkspaceID: p.Home.ID, Name: before.Name, ID: before.ID})
	if err != nil {
		return err
	}
	if taken > 0 {
		return refusal.New(refusal.Invalid, told.Say("undone-another-week", "It can't be undone: another week plan is now called “{}”. Rename that one first.", before.Name))
	}
	return q.PutBackWeekPlan(ctx, sqlc.PutBackWeekPlanParams{ID: before.ID, WorkspaceID: p.Home.ID, Name: before.Name, Week: before.WeekJSON()})
}

// HoursState is a person's week, the plan they work by instead (0 for none), and what differs from it.
type HoursState struct {
	Week    [7]string
	Plan    int64
	Differs []schedule.DayChange
}

// HoursOf is what somebody's hours are.
func HoursOf(ctx context.Context, q *sqlc.Queries, person int64) (HoursState, error) {
	state := HoursState{}
	row, err := q.Person(ctx, person)
	if err != nil {
		return state, err
	}
	if err := json.Unmarshal([]byte(row.Week), &state.Week); err != nil {
		return state, err
	}
	state.Plan = row.PlanID.Int64
	state.Differs, err = schedule.DayChanges(ctx, q, person)
	return state, err
}

func restoreHours(ctx context.Context, q *sqlc.Queries, p schedule.Person, id int64, state HoursState) error {
	if state.Plan != 0 {
		if _, err := schedule.PlanByID(ctx, q, p.Home, state.Plan); err != nil {
			return err
		}
	}
	if err := q.SetWeek(ctx, sqlc.SetWeekParams{ID: id, Week: schedule.WeekTextsJSON(state.Week), PlanID: store.NullID(state.Plan)}); err != nil {
		return err
	}
	return SetDayChanges(ctx, q, id, state.Differs)
}

func (s *Settings) restoreType(ctx context.Context, q *sqlc.Queries, _ schedule.Person, id int64, draft schedule.TypeDraft) error {
	row, err := q.MeetingType(ctx, id)
	if err != nil {
		return err
	}
	taken, err := q.SlugTaken(ctx, sqlc.SlugTakenParams{WorkspaceID: row.WorkspaceID, Slug: draft.Slug, ID: row.ID})
	if err != nil {
		return err
	}
	if taken > 0 {
		return refusal.New(refusal.Invalid, told.Say("undone-another-meeting", "It can't be undone: another meeting type now has the short address {}. Change that one first.", draft.Slug))
	}
	if _, err = writeType(ctx, q, row.WorkspaceID, row.HostID, row.ID, draft); err != nil {
		return err
	}
	return s.raiseSeats(ctx, q, row.ID, draft.Rules.Seats)
}

func weekLabel(before, after [7]string) told.Words {
	var days []told.Words
	for i, weekday := range hours.Weekdays {
		if before[i] != after[i] {
			days = append(days, told.Say("undo-weekday", "{} {}", told.Weekday(weekday), after[i]))
		}
	}
	return told.Join(days, "; ")
}

// typeLabelOf says what a change of a meeting type changed.
func typeLabelOf(before, after schedule.TypeDraft) told.Words {
	return told.Say("undo-type", "{}: {}", before.Name, changedFields(fieldsOf(before), fieldsOf(after)))
}

// changedFields says which settings changed, from what to what.
func changedFields(old, next []schedule.Setting) told.Words {
	var changed []told.Words
	for _, now := range next {
		was := schedule.Setting{}
		if i := slices.IndexFunc(old, func(o schedule.Setting) bool { return o.Name.Code == now.Name.Code }); i >= 0 {
			was = old[i]
		}
		switch {
		case was.Value.Sentence == now.Value.Sentence:
		case now.Name.Code == fieldDescription.Code:
			changed = append(changed, now.Name)
		default:
			changed = append(changed, told.Say("undo-from-to", "{} {} → {}", now.Name, orNone(was.Value), orNone(now.Value)))
		}
	}
	slices.SortStableFunc(changed, func(x, y told.Words) int { return strings.Compare(x.Sentence, y.Sentence) })
	return told.Join(changed, ", ")
}

func orNone(words told.Words) told.Words {
	if !words.Any() {
		return told.Say("undo-none", "none")
	}
	return words
}

var fieldDescription = told.Say("field-description", "description")

// fieldsOf is a draft's settings.
func fieldsOf(d schedule.TypeDraft) []schedule.Setting {
	return append(schedule.NotesOf(d.Rules.BookingRules),
		schedule.SettingOf(told.Say("field-name", "name"), d.Name), schedule.SettingOf(told.Say("field-slug", "short address"), d.Slug), schedule.SettingOf(fieldDescription, d.Description),
		schedule.Setting{Name: told.Say("field-lengths", "lengths"), Value: lengthsNote(d.Rules)}, schedule.Setting{Name: told.Say("field-own-hours", "own hours"), Value: d.Rules.Hours.Note()},
		schedule.SettingOf(told.Say("field-follows", "following the workspace"), strings.Join(slices.Sorted(slices.Values(d.Rules.Follows)), " ")),
	)
}

func lengthsNote(r schedule.TypeRules) told.Words {
	if r.UpBy > 0 {
		return told.Say("lengths-range", "{} to {} min by {}", r.Duration, r.UpTo, r.UpBy)
	}
	lengths := r.Lengths()
	texts := make([]string, len(lengths))
	for i, n := range lengths {
		texts[i] = fmt.Sprint(n)
	}
	return told.Say("lengths", "{} min", strings.Join(texts, ", "))
}
