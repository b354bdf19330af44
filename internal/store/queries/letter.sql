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

-- The first number that no job had yet, as far as is still known. One that a later run has begun with isn't gone below.
-- name: NextJob :one
SELECT CAST(MAX(
    (SELECT COALESCE(MAX(job.id), 0) + 1 FROM job), (SELECT COALESCE(MAX(job_log.id), 0) + 1 FROM job_log), (SELECT COALESCE(MAX(run.from_job), 1) FROM run)
) AS INTEGER);

-- A start of the program begins to give names. One that planned no job gave none.
-- name: AddRun :exec
INSERT INTO run (from_job, name) VALUES (@from_job, @name) ON CONFLICT (from_job) DO UPDATE SET name = excluded.name;

-- name: Runs :many
SELECT * FROM run ORDER BY from_job DESC;

-- Those whose jobs are all over.
-- name: EndOldRuns :exec
DELETE FROM run WHERE from_job < (SELECT MAX(r.from_job) FROM run AS r WHERE r.from_job <= (SELECT COALESCE(MIN(job.id), 9000000000000000000) FROM job));
