-- name: InstallationID :one
SELECT id FROM installation;

-- name: AddLetter :one
INSERT INTO letter (person_id, receiver, subject, sealed, created_at) VALUES (@person_id, @receiver, @subject, @sealed, @created_at) RETURNING id;

-- name: Letter :one
SELECT * FROM letter WHERE id = @id;

-- name: EndLetter :exec
UPDATE letter SET state = @state, trouble = @trouble, sealed = x'' WHERE id = @id;

-- name: LettersInTrouble :many
SELECT letter.receiver, letter.subject, letter.state, CAST(COALESCE(job.trouble, letter.trouble) AS TEXT) AS trouble, CAST(COALESCE(job.away, 0) AS INTEGER) AS away
FROM letter LEFT JOIN job ON job.subject = 'letter' AND job.subject_id = letter.id AND job.kind = 'letter'
WHERE letter.person_id = @person_id AND letter.state <> 'done' AND letter.created_at > @since AND (letter.state = 'failed' OR job.trouble <> '')
ORDER BY letter.created_at LIMIT 20;

-- name: AddGuest :exec
INSERT INTO guest (booking_id, mail, at) VALUES (@booking_id, @mail, @at) ON CONFLICT DO NOTHING;

-- name: GuestSince :one
SELECT COUNT(*) FROM guest WHERE mail = @mail AND at > @since;

-- name: MadeByClientSince :one
SELECT COUNT(DISTINCT CASE WHEN party_id > 0 THEN party_id ELSE id END) FROM booking WHERE client_mail = @client_mail COLLATE NOCASE AND created_at > @since;

-- name: ComingOfClient :one
SELECT COUNT(DISTINCT CASE WHEN party_id > 0 THEN party_id ELSE id END) FROM booking WHERE client_mail = @client_mail COLLATE NOCASE AND type_id = @type_id AND state = 'booked' AND start_at > @now;

-- name: MadeOfTypeSince :one
SELECT COUNT(DISTINCT CASE WHEN party_id > 0 THEN party_id ELSE id END) FROM booking WHERE type_id = @type_id AND created_at > @since AND session = 0;
