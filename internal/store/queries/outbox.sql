-- name: AddTask :exec
INSERT INTO outbox (booking_id, sequence, task, occasion, series, due_at) VALUES (@booking_id, @sequence, @task, @occasion, @series, @due_at);

-- Tasks of one booking wait for its room, and each kind of task for the earlier ones of its kind. Of a series the first letter
-- waits for all rooms, and speaks for the others.
-- name: DueTasks :many
SELECT * FROM outbox
WHERE outbox.state = 'waiting' AND outbox.due_at <= @now
  AND NOT EXISTS (
    SELECT 1 FROM outbox earlier
    WHERE earlier.booking_id = outbox.booking_id AND earlier.id < outbox.id AND earlier.state = 'waiting'
      AND (earlier.task = 'room' OR earlier.task = outbox.task))
  AND (outbox.series = '' OR outbox.task NOT IN ('mail-client', 'mail-host') OR NOT EXISTS (
    SELECT 1 FROM outbox other
    WHERE other.series = outbox.series AND other.series <> '' AND other.state = 'waiting'
      AND (other.task = 'room' OR other.task = outbox.task AND other.id < outbox.id)))
ORDER BY outbox.id + 0 LIMIT 50; -- not by the key itself, along which all that was ever done would be scanned

-- name: WaitingTasks :one
SELECT COUNT(*) FROM outbox WHERE booking_id = @booking_id AND task = @task AND state = 'waiting';

-- name: EndTask :exec
UPDATE outbox SET state = @state, trouble = @trouble, attempts = attempts + 1, ended_at = @ended_at WHERE id = @id;

-- name: OfSeries :many
SELECT * FROM outbox WHERE series = @series AND series <> '' AND state = 'waiting' AND task = @task ORDER BY id;

-- name: EndSeries :exec
UPDATE outbox SET state = @state, trouble = @trouble, ended_at = @ended_at WHERE series = @series AND series <> '' AND state = 'waiting' AND task = @task;

-- name: RetryTask :exec
UPDATE outbox SET attempts = attempts + 1, trouble = @trouble, due_at = @due_at WHERE id = @id;

-- name: LetterSent :one
SELECT COUNT(*) FROM letter_sent WHERE task_id = @task_id AND letter = @letter;

-- name: AddLetterSent :exec
INSERT INTO letter_sent (task_id, letter) VALUES (@task_id, @letter) ON CONFLICT DO NOTHING;

-- name: NextDue :one
SELECT CAST(COALESCE(MIN(due_at), 0) AS INTEGER) FROM outbox WHERE state = 'waiting' AND due_at > @now;

-- name: TasksInTrouble :many
SELECT outbox.task, outbox.state, outbox.trouble, outbox.due_at, booking.client_name, booking.start_at
FROM outbox JOIN booking ON booking.id = outbox.booking_id
WHERE booking.host_id = @host_id AND outbox.trouble <> '' AND outbox.state IN ('waiting', 'failed') AND booking.end_at > @now
ORDER BY outbox.id;
