-- name: PlanJob :exec
INSERT INTO job (key, kind, lane, subject, subject_id, revision, person_id, occasion, series, due_at, expires_at, after_id, after_until, touched_at)
VALUES (@key, @kind, @lane, @subject, @subject_id, @revision, @person_id, @occasion, @series, @due_at, @expires_at, @after_id, @after_until, @touched_at)
ON CONFLICT (key) DO UPDATE SET anew = begun; -- whoever does it now may have looked before what it is to be done for

-- name: JobByKey :one
SELECT * FROM job WHERE key = @key;

-- The next lane by name, found along the index however many jobs wait in each.
-- name: NextLane :one
SELECT CAST(COALESCE(MIN(lane), '') AS TEXT) FROM job WHERE lane > @lane;

-- What of a lane can be begun: nothing of the same kind and subject that was planned before still waits, and what it is to come
-- after is done, or was waited for long enough. Of a series the first letter waits for all rooms, and speaks for the others.
-- name: DueJobs :many
SELECT * FROM job
WHERE job.lane = @lane AND job.due_at <= @now AND job.begun = 0
  AND (job.after_id = 0 OR job.after_until <= @now OR NOT EXISTS (SELECT 1 FROM job before WHERE before.id = job.after_id))
  AND NOT EXISTS (
    SELECT 1 FROM job earlier
    WHERE earlier.subject = job.subject AND earlier.subject_id = job.subject_id AND earlier.kind = job.kind
      AND earlier.person_id = job.person_id AND earlier.id < job.id)
  AND (job.series = '' OR job.kind NOT IN ('mail-client', 'mail-host') OR NOT EXISTS (
    SELECT 1 FROM job other
    WHERE other.series = job.series AND other.series <> ''
      AND (other.kind = 'room' AND job.after_until > @now OR other.kind = job.kind AND other.id < job.id)))
ORDER BY job.due_at, job.id LIMIT @most;

-- name: NextJobOf :one
SELECT CAST(COALESCE(MIN(due_at), 0) AS INTEGER) FROM job WHERE lane = @lane AND due_at > @now;

-- name: NextAfter :one
SELECT CAST(COALESCE(MIN(after_until), 0) AS INTEGER) FROM job WHERE lane = @lane AND due_at <= @now AND after_until > @now;

-- name: BeginJob :exec
UPDATE job SET begun = 1, attempts = attempts + 1, touched_at = @now WHERE id = @id;

-- name: RetryJob :exec
UPDATE job SET begun = 0, anew = 0, due_at = @due_at, fails = fails + @own, trouble = @trouble, away = @away WHERE id = @id;

-- name: EndJob :one
DELETE FROM job WHERE id = @id RETURNING anew;

-- name: LogJob :exec
INSERT INTO job_log (id, kind, subject, subject_id, occasion, outcome, attempts, trouble, ended_at)
VALUES (@id, @kind, @subject, @subject_id, @occasion, @outcome, @attempts, @trouble, @ended_at)
ON CONFLICT (id) DO UPDATE SET outcome = excluded.outcome, attempts = excluded.attempts, trouble = excluded.trouble, ended_at = excluded.ended_at;

-- What was begun by a run of the program that ended before it could write down how it went.
-- name: ResumeJobs :execrows
UPDATE job SET begun = 0, due_at = @now WHERE begun = 1;

-- What was planned by a clock that was ahead.
-- name: DistrustFuture :execrows
UPDATE job SET due_at = @now, touched_at = @now WHERE touched_at > @horizon;

-- name: ForgetJobs :exec
DELETE FROM job_log WHERE ended_at < @before;

-- name: WaitingJobs :one
SELECT COUNT(*) FROM job WHERE subject = @subject AND subject_id = @subject_id AND kind = @kind;

-- Those that nobody has begun.
-- name: UnbegunJobs :one
SELECT COUNT(*) FROM job WHERE subject = @subject AND subject_id = @subject_id AND kind = @kind AND begun = 0;

-- name: JobsOf :many
SELECT * FROM job WHERE subject = @subject AND subject_id = @subject_id AND kind = @kind ORDER BY id;

-- name: EndedJobs :many
SELECT * FROM job_log WHERE subject = @subject AND subject_id = @subject_id ORDER BY ended_at, id LIMIT 100;

-- name: AllJobs :one
SELECT COUNT(*) FROM job;

-- name: MoveJobsOn :exec
UPDATE job SET revision = @revision WHERE subject = @subject AND subject_id = @subject_id AND revision = @was AND begun = 0;

-- name: SoonerJobs :exec
UPDATE job SET due_at = @now WHERE subject = @subject AND subject_id = @subject_id AND kind = @kind AND begun = 0;

-- name: OfSeries :many
SELECT * FROM job WHERE series = @series AND series <> '' AND kind = @kind ORDER BY id;

-- name: LetterGone :one
SELECT COUNT(*) FROM letter_gone WHERE job_id = @job_id AND letter = @letter;

-- name: AddLetterGone :exec
INSERT INTO letter_gone (job_id, letter) VALUES (@job_id, @letter) ON CONFLICT DO NOTHING;

-- name: ForgetLettersGone :exec
DELETE FROM letter_gone WHERE job_id = @job_id;

-- What of a host's bookings failed by its own fault, and is tried again.
-- name: JobsInTrouble :many
SELECT job.kind, job.trouble, booking.id AS booking_id, booking.client_name
FROM job JOIN booking ON booking.id = job.subject_id
WHERE job.subject = 'booking' AND job.trouble <> '' AND job.away = 0 AND booking.host_id = @host_id AND booking.end_at > @now
ORDER BY job.id LIMIT 20;

-- How many of a host's bookings wait for a service, and the first of them.
-- name: JobsWaitingFor :one
SELECT COUNT(DISTINCT booking.id) AS bookings, CAST(COALESCE(MIN(booking.start_at), 0) AS INTEGER) AS first_start,
    CAST(COALESCE(booking.id, 0) AS INTEGER) AS booking_id, CAST(COALESCE(booking.client_name, '') AS TEXT) AS client_name
FROM job JOIN booking ON booking.id = job.subject_id
WHERE job.lane = @lane AND job.subject = 'booking' AND booking.host_id = @host_id AND booking.end_at > @now;

-- name: JobsFailed :many
SELECT job_log.kind, job_log.trouble, booking.client_name, booking.start_at, booking.id AS booking_id
FROM job_log JOIN booking ON booking.id = job_log.subject_id
WHERE job_log.subject = 'booking' AND job_log.outcome = 'failed' AND booking.host_id = @host_id AND booking.end_at > @now
ORDER BY job_log.id LIMIT 20;

-- name: EndedJob :one
SELECT * FROM job_log WHERE id = @id AND subject = @subject AND subject_id = @subject_id;
