-- name: AddSharedLink :one
INSERT INTO shared_link (type_id, key, name, query, made_by, created_at) VALUES (@type_id, @key, @name, @query, @made_by, @created_at) RETURNING id;

-- name: SetSharedLink :exec
UPDATE shared_link SET name = @name, query = @query WHERE id = @id;

-- name: RemoveSharedLink :exec
UPDATE shared_link SET removed_at = @removed_at WHERE id = @id;

-- name: SharedLink :one
SELECT * FROM shared_link WHERE id = @id AND removed_at = 0;

-- name: SharedLinkByKey :one
SELECT * FROM shared_link WHERE key = @key AND type_id = @type_id;

-- The links of a type, the latest first, with how many bookings came by each, whatever became of them.
-- name: SharedLinks :many
SELECT sqlc.embed(shared_link), CAST((SELECT COUNT(*) FROM seat WHERE seat.via_id = shared_link.id) AS INTEGER) AS booked
FROM shared_link WHERE type_id = @type_id AND removed_at = 0 ORDER BY id DESC LIMIT 200;

-- name: CountSharedLinks :one
SELECT COUNT(*) FROM shared_link WHERE type_id = @type_id AND removed_at = 0;

-- name: LinkOpened :exec
UPDATE shared_link SET opened = opened + @times WHERE id = @id;

-- name: NameOfSharedLink :one
SELECT name FROM shared_link WHERE id = @id;

-- name: TeamBySlug :one
SELECT team.* FROM team JOIN workspace ON workspace.id = team.workspace_id
WHERE workspace.slug = @workspace AND team.id IN (
    SELECT t.id FROM team t WHERE t.workspace_id = workspace.id AND t.slug = @slug
    UNION ALL SELECT o.target_id FROM old_slug o WHERE o.workspace_id = workspace.id AND o.kind = 'team' AND o.slug = @slug
        AND NOT EXISTS (SELECT 1 FROM team n WHERE n.workspace_id = workspace.id AND n.slug = @slug)) -- an old one leads on, unless another has it now
LIMIT 1;

-- name: TeamSlugTaken :one
SELECT COUNT(*) FROM team WHERE workspace_id = @workspace_id AND slug = @slug AND id <> @id;
