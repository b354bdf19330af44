-- name: AddOneOff :one
INSERT INTO one_off (type_id, host_id, made_by, client_name, client_mail, word, starts, rules, minutes, until, link_hash, created_at)
VALUES (@type_id, @host_id, @made_by, @client_name, @client_mail, @word, @starts, @rules, @minutes, @until, @link_hash, @created_at) RETURNING id;

-- name: OneOffByLink :one
SELECT * FROM one_off WHERE link_hash = @link_hash;

-- name: OneOff :one
SELECT * FROM one_off WHERE id = @id;

-- The offers of a workspace, or of one of its people (0: of all), the latest first.
-- name: OneOffs :many
SELECT sqlc.embed(one_off), meeting_type.name AS type_name FROM one_off JOIN meeting_type ON meeting_type.id = one_off.type_id
WHERE meeting_type.workspace_id = @workspace_id AND (CAST(@host_id AS INTEGER) = 0 OR one_off.host_id = CAST(@host_id AS INTEGER))
ORDER BY one_off.id DESC LIMIT 100;

-- name: OpenedOneOff :exec
UPDATE one_off SET opened_at = @opened_at WHERE id = @id AND opened_at = 0;

-- name: WithdrawOneOff :exec
UPDATE one_off SET withdrawn_at = @withdrawn_at WHERE id = @id AND withdrawn_at = 0;

-- name: UseOneOff :exec
UPDATE one_off SET booking_id = @booking_id WHERE id = @id;
