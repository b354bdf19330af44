-- name: PurposeKeys :many
SELECT * FROM purpose_key;

-- name: SetPurposeKey :exec
INSERT INTO purpose_key (purpose, sealed) VALUES (@purpose, @sealed) ON CONFLICT (purpose) DO UPDATE SET sealed = excluded.sealed;

-- name: SealedAccounts :many
SELECT id, secret FROM calendar_account ORDER BY id;

-- name: SetAccountSecret :exec
UPDATE calendar_account SET secret = @secret WHERE id = @id;
