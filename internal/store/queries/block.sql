-- name: Blocks :many
SELECT * FROM block WHERE end_at > @range_from AND start_at < @range_to AND person_id IN (sqlc.slice('people')) ORDER BY start_at;

-- name: AddBlock :one
INSERT INTO block (person_id, start_at, end_at, label, one_off_id) VALUES (@person_id, @start_at, @end_at, @label, @one_off_id) RETURNING id;

-- What was kept for an offer is nobody's any more.
-- name: GiveBackOffered :exec
DELETE FROM block WHERE one_off_id = @one_off_id;

-- name: Block :one
SELECT * FROM block WHERE id = @id;

-- name: RemoveBlock :exec
DELETE FROM block WHERE id = @id;

-- name: PutBackBlock :exec
INSERT INTO block (id, person_id, start_at, end_at, label, one_off_id) VALUES (@id, @person_id, @start_at, @end_at, @label, @one_off_id)
ON CONFLICT (id) DO NOTHING;
