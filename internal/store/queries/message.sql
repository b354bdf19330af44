-- name: SetMessages :exec
UPDATE workspace SET messages = @messages WHERE id = @id;

-- name: WorkspacesWithMessages :many
SELECT * FROM workspace WHERE messages <> '{}';

-- name: SetMessagesOfType :exec
UPDATE meeting_type SET messages = @messages WHERE id = @id;

-- Types that have messages of their own, or had some.
-- name: TypesWithMessages :many
SELECT id, messages FROM meeting_type WHERE workspace_id = @workspace_id AND messages <> '';

-- name: MessagesOfType :one
SELECT messages FROM meeting_type WHERE id = @id;

-- Bookings whose meetings start within a range, and about which a message wasn't sent yet.
-- name: BookingsStarting :many
SELECT booking.* FROM booking JOIN meeting_type ON meeting_type.id = booking.type_id
WHERE booking.start_at > @range_from AND booking.start_at <= @range_to AND booking.session = 0 AND meeting_type.workspace_id = @workspace_id
  AND (CAST(@type_id AS INTEGER) = 0 OR booking.type_id = CAST(@type_id AS INTEGER))
  AND NOT EXISTS (SELECT 1 FROM message_done d WHERE d.rule_id = @rule_id AND d.booking_id = booking.id AND d.start_at = booking.start_at)
ORDER BY booking.start_at, booking.id;

-- The same of those that end within it.
-- name: BookingsEnding :many
SELECT booking.* FROM booking JOIN meeting_type ON meeting_type.id = booking.type_id
WHERE booking.end_at > @range_from AND booking.end_at <= @range_to AND booking.session = 0 AND meeting_type.workspace_id = @workspace_id
  AND (CAST(@type_id AS INTEGER) = 0 OR booking.type_id = CAST(@type_id AS INTEGER))
  AND NOT EXISTS (SELECT 1 FROM message_done d WHERE d.rule_id = @rule_id AND d.booking_id = booking.id AND d.start_at = booking.start_at)
ORDER BY booking.end_at, booking.id;

-- Bookings whose meetings end after a moment, the first ones.
-- name: BookingsEndingAfter :many
SELECT booking.* FROM booking JOIN meeting_type ON meeting_type.id = booking.type_id
WHERE booking.end_at > @after AND meeting_type.workspace_id = @workspace_id
  AND (CAST(@type_id AS INTEGER) = 0 OR booking.type_id = CAST(@type_id AS INTEGER)) AND booking.life IN ('booked', 'attended', 'no-show')
ORDER BY booking.end_at, booking.id LIMIT @most;

-- When a booking was booked, or moved to where it is.
-- name: SettledAt :one
SELECT CAST(COALESCE(MAX(at), 0) AS INTEGER) FROM booking_step
WHERE booking_id = @booking_id AND kind IN ('booked', 'approved', 'taken', 'rescheduled');

-- Whether a client was booked in a workspace before.
-- name: ClientCameBefore :one
SELECT EXISTS (
    SELECT 1 FROM seat JOIN meeting ON meeting.id = seat.meeting_id JOIN meeting_type ON meeting_type.id = meeting.type_id
    WHERE seat.client_mail = @mail COLLATE NOCASE AND seat.id < @before AND seat.keeps = 1 AND meeting_type.workspace_id = @workspace_id);

-- name: MessageDone :one
SELECT COUNT(*) FROM message_done WHERE rule_id = @rule_id AND booking_id = @booking_id AND start_at = @start_at;

-- name: AddMessageDone :exec
INSERT INTO message_done (rule_id, booking_id, start_at, job_id) VALUES (@rule_id, @booking_id, @start_at, @job_id);

-- name: MessageOfJob :one
SELECT * FROM message_done WHERE job_id = @job_id;

-- The messages that were given to the worker about some bookings.
-- name: MessagesDone :many
SELECT * FROM message_done WHERE booking_id IN (sqlc.slice('bookings'));

-- A message that is sent once more is sent by another job.
-- name: SetMessageJob :exec
UPDATE message_done SET job_id = @job_id WHERE rule_id = @rule_id AND booking_id = @booking_id AND start_at = @start_at;

-- name: AddMailSaid :exec
INSERT INTO mail_said (job_id, number, booking_id, receiver, subject, said, at) VALUES (@job_id, @number, @booking_id, @receiver, @subject, @said, @at)
ON CONFLICT DO NOTHING;

-- name: MailSaid :many
SELECT * FROM mail_said WHERE job_id = @job_id AND booking_id = @booking_id ORDER BY number LIMIT 100;

-- The jobs whose mails about a booking are kept.
-- name: JobsWithMailSaid :many
SELECT DISTINCT job_id FROM mail_said WHERE booking_id = @booking_id;

-- name: ForgetMailSaid :exec
DELETE FROM mail_said WHERE at < @before;
