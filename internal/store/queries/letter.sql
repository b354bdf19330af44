-- name: InstallationID :one
SELECT id FROM installation;

-- name: AddLetter :exec
INSERT INTO letter (person_id, receiver, subject, sealed, due_at, created_at) VALUES (@person_id, @receiver, @subject, @sealed, @due_at, @created_at);

-- name: DueLetters :many
SELECT * FROM letter WHERE state = 'waiting' AND due_at <= @now ORDER BY due_at LIMIT 20;

-- name: EndLetter :exec
UPDATE letter SET state = @state, trouble = @trouble, attempts = attempts + 1, sealed = x'' WHERE id = @id;

-- name: RetryLetter :exec
UPDATE letter SET attempts = attempts + 1, trouble = @trouble, due_at = @due_at WHERE id = @id;

-- name: NextLetterDue :one
SELECT CAST(COALESCE(MIN(due_at), 0) AS INTEGER) FROM letter WHERE state = 'waiting' AND due_at > @now;

-- name: LettersInTrouble :many
SELECT receiver, subject, state, trouble FROM letter WHERE person_id = @person_id AND trouble <> '' AND state IN ('waiting', 'failed') AND created_at > @since
ORDER BY created_at LIMIT 20;

-- name: AddGuest :exec
INSERT INTO guest (booking_id, mail, at) VALUES (@booking_id, @mail, @at) ON CONFLICT DO NOTHING;

-- name: GuestSince :one
SELECT COUNT(*) FROM guest WHERE mail = @mail AND at > @since;

-- name: MadeByClientSince :one
SELECT COUNT(*) FROM booking WHERE client_mail = @client_mail COLLATE NOCASE AND created_at > @since;

-- name: ComingOfClient :one
SELECT COUNT(*) FROM booking WHERE client_mail = @client_mail COLLATE NOCASE AND type_id = @type_id AND state = 'booked' AND start_at > @now;

-- name: MadeOfTypeSince :one
SELECT COUNT(*) FROM booking WHERE type_id = @type_id AND created_at > @since;
