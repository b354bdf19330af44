-- name: MeetingType :one
SELECT * FROM meeting_type WHERE id = @id;

-- name: MeetingTypeBySlug :one
SELECT meeting_type.* FROM meeting_type JOIN workspace ON workspace.id = meeting_type.workspace_id
WHERE workspace.slug = @workspace AND meeting_type.slug = @slug;

-- name: SlugTaken :one
SELECT COUNT(*) FROM meeting_type WHERE workspace_id = @workspace_id AND slug = @slug AND id <> @id;

-- name: AddMeetingType :one
INSERT INTO meeting_type (workspace_id, host_id, slug, name, description, rules, plan_id)
VALUES (@workspace_id, @host_id, @slug, @name, @description, @rules, @plan_id) RETURNING id;

-- name: SetMeetingType :exec
UPDATE meeting_type SET slug = @slug, name = @name, description = @description, rules = @rules, plan_id = @plan_id, version = version + 1 WHERE id = @id;
