-- name: AddSignIn :one
INSERT INTO sign_in (person_id, at, seen_at, address, agent, checked_at) VALUES (@person_id, @at, @at, @address, @agent, @at) RETURNING id;

-- name: SignIn :one
SELECT * FROM sign_in WHERE id = @id;

-- name: SignInSeen :exec
UPDATE sign_in SET seen_at = @seen_at WHERE id = @id;

-- name: SignInChecked :exec
UPDATE sign_in SET checked_at = @checked_at WHERE id = @id;

-- name: SignIns :many
SELECT * FROM sign_in WHERE person_id = @person_id AND seen_at > @since ORDER BY seen_at DESC LIMIT 50;

-- How often somebody has signed in, and how often from there.
-- name: SignInsFrom :one
SELECT COUNT(*) AS all_of_them, CAST(COALESCE(SUM(address = @address AND agent = @agent), 0) AS INTEGER) AS from_there FROM sign_in WHERE person_id = @person_id;

-- name: EndSignIn :exec
DELETE FROM sign_in WHERE id = @id AND person_id = @person_id;

-- name: EndSignIns :exec
DELETE FROM sign_in WHERE person_id = @person_id AND id <> @except;

-- name: EndOldSignIns :exec
DELETE FROM sign_in WHERE person_id = @person_id AND seen_at < @before;

-- name: AddReset :exec
INSERT INTO password_reset (link_hash, person_id, expires_at) VALUES (@link_hash, @person_id, @expires_at);

-- name: Reset :one
SELECT * FROM password_reset WHERE link_hash = @link_hash AND expires_at > @now;

-- name: EndResets :exec
DELETE FROM password_reset WHERE person_id = @person_id;

-- name: AddAttempt :exec
INSERT INTO attempt (subject, at) VALUES (@subject, @at);

-- name: Attempts :one
SELECT COUNT(*) FROM attempt WHERE subject = @subject AND at > @since;

-- One that was none: the password was right.
-- name: TakeBackAttempt :exec
DELETE FROM attempt WHERE rowid = (SELECT MAX(a.rowid) FROM attempt AS a WHERE a.subject = @subject);

-- name: ForgetAttempts :exec
DELETE FROM attempt WHERE subject = @subject;

-- name: EndOldAttempts :exec
DELETE FROM attempt WHERE at < @before;

-- name: SetMail :exec
UPDATE person SET mail = @mail WHERE id = @id;
