-- name: WeekPlans :many
SELECT * FROM week_plan WHERE workspace_id = @workspace_id ORDER BY name;

-- name: WeekPlan :one
SELECT * FROM week_plan WHERE id = @id;

-- name: AddWeekPlan :one
INSERT INTO week_plan (workspace_id, name, week) VALUES (@workspace_id, @name, @week) RETURNING id;

-- name: SetWeekPlan :exec
UPDATE week_plan SET name = @name, week = @week WHERE id = @id;

-- name: PutBackWeekPlan :exec
INSERT INTO week_plan (id, workspace_id, name, week) VALUES (@id, @workspace_id, @name, @week)
ON CONFLICT (id) DO UPDATE SET name = excluded.name, week = excluded.week;

-- name: RemoveWeekPlan :exec
DELETE FROM week_plan WHERE id = @id;

-- name: PlanNameTaken :one
SELECT COUNT(*) FROM week_plan WHERE workspace_id = @workspace_id AND name = @name AND id <> @id;

-- Who works by a plan and which meeting types keep to it.
-- name: PlanUsers :many
SELECT 'person' AS kind, person.id, person.name FROM person WHERE person.plan_id = @plan_id
UNION ALL
SELECT 'type' AS kind, meeting_type.id, meeting_type.name FROM meeting_type WHERE meeting_type.plan_id = @plan_id;
