-- name: MeetingType :one
SELECT * FROM meeting_type WHERE id = @id;

-- name: MeetingTypeBySlug :one
SELECT meeting_type.* FROM workspace CROSS JOIN meeting_type
WHERE workspace.slug = @workspace AND meeting_type.removed_at = 0 AND meeting_type.id IN (
    SELECT t.id FROM meeting_type t WHERE t.workspace_id = workspace.id AND t.slug = @slug
    UNION ALL SELECT o.target_id FROM old_slug o WHERE o.workspace_id = workspace.id AND o.kind = 'type' AND o.slug = @slug
        AND NOT EXISTS (SELECT 1 FROM meeting_type n WHERE n.workspace_id = workspace.id AND n.slug = @slug)) -- an old one leads on, unless another has it now
LIMIT 1;

-- name: SlugTaken :one
SELECT COUNT(*) FROM meeting_type WHERE workspace_id = @workspace_id AND slug = @slug AND id <> @id;

-- name: AddMeetingType :one
INSERT INTO meeting_type (workspace_id, host_id, slug, name, description, rules, plan_id, position)
VALUES (@workspace_id, @host_id, @slug, @name, @description, @rules, @plan_id,
    (SELECT COALESCE(MAX(position), 0) + 1 FROM meeting_type WHERE workspace_id = @workspace_id)) RETURNING id;

-- name: SetMeetingType :exec
UPDATE meeting_type SET slug = @slug, name = @name, description = @description, rules = @rules, plan_id = @plan_id, version = version + 1 WHERE id = @id;

-- name: SetBookingPage :exec
UPDATE meeting_type SET listing = @listing, category = @category, offer = @offer, version = version + 1 WHERE id = @id;

-- name: SetTypePosition :exec
UPDATE meeting_type SET position = @position WHERE id = @id;

-- name: RemoveType :exec
UPDATE meeting_type SET removed_at = @removed_at, slug = slug || '-removed-' || id, listing = 'off', plan_id = NULL WHERE id = @id;

-- name: BookingsAhead :one
SELECT COUNT(*) FROM booking WHERE type_id = @type_id AND state = 'booked' AND end_at > @now;

-- name: PutBackType :exec
UPDATE meeting_type SET removed_at = 0, slug = @slug, listing = @listing WHERE id = @id;

-- What is to come of types: everybody's, or only what the viewer hosts if one is given.
-- name: ComingOfTypes :many
SELECT meeting.type_id, CAST(SUM(seat.life = 'booked') AS INTEGER) AS coming, CAST(SUM(seat.life = 'requested') AS INTEGER) AS requested
FROM meeting CROSS JOIN seat ON seat.meeting_id = meeting.id
WHERE meeting.state = 'booked' AND meeting.end_at > @now
  AND (CAST(@viewer AS INTEGER) = 0 OR EXISTS (SELECT 1 FROM meeting_host WHERE meeting_host.meeting_id = meeting.id AND meeting_host.person_id = CAST(@viewer AS INTEGER) AND meeting_host.state <> 'left'))
  AND meeting.type_id IN (sqlc.slice('types'))
GROUP BY meeting.type_id;
