-- name: WorkspaceByID :one
SELECT * FROM workspace WHERE id = @id;

-- name: CountWorkspaces :one
SELECT COUNT(*) FROM workspace;

-- name: AddWorkspace :one
INSERT INTO workspace (slug, name, zone) VALUES (@slug, @name, @zone) RETURNING id;

-- name: SetWorkspace :exec
UPDATE workspace SET name = @name, zone = @zone, zones = @zones, first_weekday = @first_weekday, share_buffers = @share_buffers, rules = @rules
WHERE id = @id;

-- name: AddPerson :one
INSERT INTO person (workspace_id, name, mail, password_hash, zone, week, role, slug, language, joined_at)
VALUES (@workspace_id, @name, @mail, @password_hash, @zone, @week, @role, @slug, @language, @joined_at) RETURNING id;

-- name: PersonSlugTaken :one
SELECT COUNT(*) FROM person WHERE workspace_id = @workspace_id AND slug = @slug AND id <> @id;

-- name: PersonBySlug :one
SELECT person.* FROM workspace CROSS JOIN person
WHERE workspace.slug = @workspace AND person.removed_at = 0 AND person.id IN (
    SELECT p.id FROM person p WHERE p.workspace_id = workspace.id AND p.slug = @slug
    UNION ALL SELECT o.target_id FROM old_slug o WHERE o.workspace_id = workspace.id AND o.kind = 'person' AND o.slug = @slug
        AND NOT EXISTS (SELECT 1 FROM person n WHERE n.workspace_id = workspace.id AND n.slug = @slug)) -- an old one leads on, unless another has it now
LIMIT 1;

-- name: WorkspaceBySlug :one
SELECT * FROM workspace WHERE slug = @slug;

-- name: SetFront :exec
UPDATE workspace SET front = @front WHERE id = @id;

-- name: SetHolidays :exec
UPDATE workspace SET holidays = @holidays WHERE id = @id;

-- name: SetLooksDraft :exec
UPDATE workspace SET looks_draft = @looks_draft WHERE id = @id;

-- An empty hash lets nobody in.
-- name: SetPassword :exec
UPDATE person SET password_hash = @password_hash WHERE id = @id;

-- name: Person :one
SELECT * FROM person WHERE id = @id;

-- name: PersonByMail :one
SELECT * FROM person WHERE mail = @mail AND removed_at = 0;

-- name: People :many
SELECT * FROM person WHERE removed_at = 0 ORDER BY id;

-- name: PeopleOfWorkspace :many
SELECT * FROM person WHERE workspace_id = @workspace_id AND removed_at = 0 ORDER BY id;

-- name: SetWeek :exec
UPDATE person SET week = @week, plan_id = @plan_id WHERE id = @id;

-- name: DayChanges :many
SELECT * FROM day_change WHERE person_id = @person_id ORDER BY id;

-- name: AddDayChange :exec
INSERT INTO day_change (person_id, first, last, kind, hours, yearly, label) VALUES (@person_id, @first, @last, @kind, @hours, @yearly, @label);

-- name: RemoveDayChanges :exec
DELETE FROM day_change WHERE person_id = @person_id;

-- name: SetCalendarSettings :exec
UPDATE person SET unreachable = @unreachable, trust_hours = @trust_hours, open_title = @open_title, event_change = @event_change, open_type = @open_type WHERE id = @id;

-- name: SetFeed :exec
UPDATE person SET feed_number = @feed_number, feed_hash = @feed_hash WHERE id = @id;

-- name: PersonByFeed :one
SELECT * FROM person WHERE feed_hash = @feed_hash AND feed_hash <> '' AND removed_at = 0;

-- name: NamesOfWorkspace :many
SELECT id, name FROM person WHERE workspace_id = @workspace_id;


-- name: SetSetupStep :exec
UPDATE workspace SET setup_step = @setup_step WHERE id = @id;


-- name: AddImage :exec
INSERT INTO image (hash, workspace_id, media, bytes) VALUES (@hash, @workspace_id, @media, @bytes) ON CONFLICT (hash) DO NOTHING;

-- name: Image :one
SELECT * FROM image WHERE hash = @hash;

-- name: SetLanguage :exec
UPDATE person SET language = @language WHERE id = @id;

-- name: SetNews :exec
UPDATE person SET untold = @untold, untold_own = @untold_own, texted = @texted, morning = @morning, morning_on = @morning_on WHERE id = @id;

-- name: SetPhone :exec
UPDATE person SET phone = @phone WHERE id = @id;

-- name: PeopleWithMornings :many
SELECT * FROM person WHERE morning <> '' AND removed_at = 0;

-- name: SetMorningOn :exec
UPDATE person SET morning_on = @morning_on WHERE id = @id;
