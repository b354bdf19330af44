package settings

import (
	"context"
	"encoding/json"
	"strings"

	"corrim/core/hours"
	"corrim/core/intake"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// WeekPlans lists the workspace's plans.
func (s *Settings) WeekPlans(ctx context.Context, p schedule.Person) ([]schedule.WeekPlan, error) {
	rows, err := s.store.WeekPlans(ctx, p.Home.ID)
	if err != nil {
		return nil, err
	}
	plans := make([]schedule.WeekPlan, len(rows))
	for i, row := range rows {
		plans[i] = schedule.WeekPlan{ID: row.ID, Name: row.Name}
		if err := json.Unmarshal([]byte(row.Week), &plans[i].Week); err != nil {
			return nil, err
		}
		if plans[i].Users, err = planUsers(ctx, s.store.Queries, row.ID); err != nil {
			return nil, err
		}
	}
	return plans, nil
}

// planUsers names who works by a plan, and the meeting types in quotes.
func planUsers(ctx context.Context, q *sqlc.Queries, id int64) ([]string, error) {
	rows, err := q.PlanUsers(ctx, store.NullID(id))
	users := make([]string, len(rows))
	for i, row := range rows {
		users[i] = row.Name
		if row.Kind == "type" {
			users[i] = "“" + row.Name + "”"
		}
	}
	return users, err
}

// AddWeekPlan keeps a week under a name, and the person works by it from then on. The field of a refusal is "name", or
// as for SaveHours.
func (s *Settings) AddWeekPlan(ctx context.Context, p schedule.Person, name string, input [7]DayInput) (HoursView, error) {
	week, err := readWeek(input)
	if err != nil {
		return HoursView{}, err
	}
	err = s.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		before, err := HoursOf(ctx, q, p.ID)
		if err != nil {
			return err
		}
		name, err := planName(ctx, q, p.Home.ID, 0, name)
		if err != nil {
			return err
		}
		id, err := q.AddWeekPlan(ctx, sqlc.AddWeekPlanParams{WorkspaceID: p.Home.ID, Name: name, Week: schedule.WeekJSON(week)})
		if err != nil {
			return err
		}
		if err := q.SetWeek(ctx, sqlc.SetWeekParams{ID: p.ID, Week: schedule.WeekTextsJSON(before.Week), PlanID: store.NullID(id)}); err != nil {
			return err
		}
		return s.Remember(ctx, q, p, SubjectHours, p.ID, told.Say("undo-new-plan", "Hours: by the new week plan {}", name), before)
	})
	if err != nil {
		return HoursView{}, err
	}
	return s.hoursAgain(ctx, p)
}

// planName is a plan's name as it is kept; it must be the workspace's only one of that name.
func planName(ctx context.Context, q *sqlc.Queries, workspace, id int64, name string) (string, error) {
	name = intake.OneLine(name)
	if name == "" || len([]rune(name)) > 60 {
		return "", refusal.Faulty("name", told.Say("give-week-plan", "Give the week plan a name of at most 60 letters."))
	}
	taken, err := q.PlanNameTaken(ctx, sqlc.PlanNameTakenParams{WorkspaceID: workspace, Name: name, ID: id})
	if err == nil && taken > 0 {
		err = refusal.Faulty("name", told.Say("another-week-plan", "Another week plan has this name. Choose a different one."))
	}
	return name, err
}

// RenameWeekPlan gives a plan another name.
func (s *Settings) RenameWeekPlan(ctx context.Context, p schedule.Person, id int64, name string) ([]schedule.WeekPlan, error) {
	return s.changePlan(ctx, p, id, func(q *sqlc.Queries, plan schedule.WeekPlan) (told.Words, error) {
		name, err := planName(ctx, q, p.Home.ID, id, name)
		if err != nil {
			return told.Words{}, err
		}
		return told.Say("undo-plan-renamed", "Week plan {}: now called {}", plan.Name, name), q.SetWeekPlan(ctx, sqlc.SetWeekPlanParams{ID: id, Name: name, Week: plan.WeekJSON()})
	})
}

// RemoveWeekPlan removes a plan that nobody uses.
func (s *Settings) RemoveWeekPlan(ctx context.Context, p schedule.Person, id int64) ([]schedule.WeekPlan, error) {
	return s.changePlan(ctx, p, id, func(q *sqlc.Queries, plan schedule.WeekPlan) (told.Words, error) {
		users, err := planUsers(ctx, q, id)
		if err != nil {
			return told.Words{}, err
		}
		if len(users) > 0 {
			return told.Words{}, refusal.New(refusal.Invalid, told.Say("still-used-give", "“{}” is still used by {}. Give them other hours first.", plan.Name, strings.Join(users, ", ")))
		}
		return told.Say("undo-plan-removed", "Week plan {}: removed", plan.Name), q.RemoveWeekPlan(ctx, id)
	})
}

// mayChangePlan tells whether the person may change a plan. One by which only they work is theirs; what colleagues work by, or
// colleagues' types keep to, is for those who look after them.
func mayChangePlan(ctx context.Context, q *sqlc.Queries, p schedule.Person, id int64) error {
	users, err := q.PlanUsers(ctx, store.NullID(id))
	if err != nil {
		return err
	}
	for _, user := range users {
		switch {
		case user.Kind == "person" && user.ID != p.Eyes() && !p.May(identity.LookAfterHours):
			return refusal.New(refusal.Forbidden, told.Say("colleagues-work-week", "Colleagues work by this week plan too, so only a coordinator or an owner can change it. Ask one of them, or give yourself a week of your own."))
		case user.Kind == "type":
			if err := mayChangeType(ctx, q, p, user.ID); err != nil {
				return refusal.New(refusal.Forbidden, told.Say("meeting-type-keeps", "The meeting type “{}” keeps to this week plan, so only whoever looks after that can change it. Ask a coordinator or an owner, or give yourself a week of your own.", user.Name))
			}
		}
	}
	return p.Must(identity.EditOwn)
}

// changePlan changes a plan and remembers how it was; change says what it did.
func (s *Settings) changePlan(ctx context.Context, p schedule.Person, id int64, change func(*sqlc.Queries, schedule.WeekPlan) (told.Words, error)) ([]schedule.WeekPlan, error) {
	err := s.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		before, err := schedule.PlanByID(ctx, q, p.Home, id)
		if err != nil {
			return err
		}
		if err := mayChangePlan(ctx, q, p, id); err != nil {
			return err
		}
		label, err := change(q, before)
		if err != nil {
			return err
		}
		return s.Remember(ctx, q, p, subjectPlan, id, label, before)
	})
	if err != nil {
		return nil, err
	}
	return s.WeekPlans(ctx, p)
}

// setPlanWeek gives a plan another week, for all who use it.
func (s *Settings) setPlanWeek(ctx context.Context, q *sqlc.Queries, p schedule.Person, id int64, week hours.Week) error {
	before, err := schedule.PlanByID(ctx, q, p.Home, id)
	if err != nil || before.Week == week.Texts() {
		return err
	}
	if err := mayChangePlan(ctx, q, p, id); err != nil {
		return err
	}
	if err := q.SetWeekPlan(ctx, sqlc.SetWeekPlanParams{ID: id, Name: before.Name, Week: schedule.WeekJSON(week)}); err != nil {
		return err
	}
	label := told.Say("undo-plan-week", "Week plan {}: {}", before.Name, weekLabel(before.Week, week.Texts()))
	return s.Remember(ctx, q, p, subjectPlan, id, label, before)
}
