-- name: AddTextConsent :exec
INSERT INTO text_consent (booking_id, workspace_id, phone, words, at) VALUES (@booking_id, @workspace_id, @phone, @words, @at);

-- What a client agreed to, and whether the number has stopped it since; the time of that is 0 if not.
-- name: TextConsent :one
SELECT text_consent.*, CAST(COALESCE(text_stop.at, 0) AS INTEGER) AS stopped_at
FROM text_consent LEFT JOIN text_stop ON text_stop.workspace_id = text_consent.workspace_id AND text_stop.phone = text_consent.phone
WHERE text_consent.booking_id = @booking_id;

-- name: TextConsentsOf :many
SELECT * FROM text_consent WHERE booking_id IN (sqlc.slice('bookings'));

-- The workspaces that may have written to a number.
-- name: WorkspacesOfPhone :many
SELECT workspace_id FROM text_consent WHERE text_consent.phone = @phone
UNION SELECT workspace_id FROM code_phone WHERE code_phone.phone = @phone
UNION SELECT workspace_id FROM person WHERE person.phone = @phone AND person.phone <> '';

-- name: StopTexts :exec
INSERT INTO text_stop (workspace_id, phone, at) VALUES (@workspace_id, @phone, @at) ON CONFLICT (workspace_id, phone) DO NOTHING;

-- name: StartTexts :exec
DELETE FROM text_stop WHERE workspace_id = @workspace_id AND phone = @phone;

-- name: TextsStopped :one
SELECT COUNT(*) FROM text_stop WHERE workspace_id = @workspace_id AND phone = @phone;

-- name: SetCodePhone :exec
INSERT INTO code_phone (booking_id, workspace_id, phone, at) VALUES (@booking_id, @workspace_id, @phone, @at)
ON CONFLICT (booking_id) DO UPDATE SET phone = excluded.phone, at = excluded.at;

-- name: CodePhone :one
SELECT phone FROM code_phone WHERE booking_id = @booking_id;

-- name: CodesToPhoneSince :one
SELECT COUNT(*) FROM code_phone WHERE phone = @phone AND at > @since;

-- What became of the last text message about a booking to a number.
-- name: LastTextState :one
SELECT state FROM text_sent WHERE booking_id = @booking_id AND phone = @phone ORDER BY sent_at DESC, job_id DESC LIMIT 1;

-- name: AddTextSent :exec
INSERT INTO text_sent (id, booking_id, job_id, phone, said, sent_at) VALUES (@id, @booking_id, @job_id, @phone, @said, @sent_at) ON CONFLICT (id) DO NOTHING;

-- name: TextsSent :many
SELECT * FROM text_sent WHERE booking_id = @booking_id ORDER BY sent_at, id;

-- name: TextsToPhoneSince :one
SELECT COUNT(*) FROM text_sent WHERE phone = @phone AND sent_at > @since;

-- name: SetTextState :execrows
UPDATE text_sent SET state = @state WHERE id = @id;
