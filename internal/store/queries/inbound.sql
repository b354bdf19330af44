-- name: SetInviteAnswer :exec
INSERT INTO invite_answer (booking_id, answer, start_at, wish_at, said, at) VALUES (@booking_id, @answer, @start_at, @wish_at, @said, @at)
ON CONFLICT (booking_id) DO UPDATE SET answer = excluded.answer, start_at = excluded.start_at, wish_at = excluded.wish_at, said = excluded.said, at = excluded.at;

-- What was answered about a booking as it is now.
-- name: InviteAnswer :one
SELECT invite_answer.* FROM invite_answer JOIN booking ON booking.id = invite_answer.booking_id AND booking.start_at = invite_answer.start_at
WHERE invite_answer.booking_id = @booking_id;

-- name: DropInviteAnswer :execrows
DELETE FROM invite_answer WHERE booking_id = @booking_id;

-- What clients answered about somebody's coming meetings.
-- name: InviteAnswersOfHost :many
SELECT invite_answer.* FROM invite_answer
CROSS JOIN seat ON seat.id = invite_answer.booking_id
CROSS JOIN meeting ON meeting.id = seat.meeting_id AND meeting.start_at = invite_answer.start_at
CROSS JOIN meeting_host ON meeting_host.meeting_id = meeting.id AND meeting_host.person_id = @person_id
WHERE invite_answer.start_at > @after;

-- name: SetMailReturned :exec
INSERT INTO mail_returned (workspace_id, mail, booking_id, status, said, at) VALUES (@workspace_id, @mail, @booking_id, @status, @said, @at)
ON CONFLICT (workspace_id, mail) DO UPDATE SET booking_id = excluded.booking_id, status = excluded.status, said = excluded.said, at = excluded.at;

-- name: MailReturned :one
SELECT * FROM mail_returned WHERE workspace_id = @workspace_id AND mail = @mail;

-- name: DropMailReturned :execrows
DELETE FROM mail_returned WHERE workspace_id = @workspace_id AND mail = @mail;

-- Addresses that took no mail about somebody's coming meetings.
-- name: MailReturnedOfHost :many
SELECT mail_returned.*, seat.client_name, seat.client_mail, meeting.type_name, meeting.start_at FROM mail_returned
CROSS JOIN seat ON seat.id = mail_returned.booking_id AND seat.keeps = 1
CROSS JOIN meeting ON meeting.id = seat.meeting_id AND meeting.start_at > @now
CROSS JOIN meeting_host ON meeting_host.meeting_id = meeting.id AND meeting_host.person_id = @person_id
WHERE mail_returned.workspace_id = @workspace_id AND mail_returned.at > @since
ORDER BY meeting.start_at LIMIT 20;

-- name: LeaveFollowUps :exec
INSERT INTO no_follow_ups (workspace_id, mail, at) VALUES (@workspace_id, @mail, @at) ON CONFLICT (workspace_id, mail) DO NOTHING;

-- name: JoinFollowUps :exec
DELETE FROM no_follow_ups WHERE workspace_id = @workspace_id AND mail = @mail;

-- name: LeftFollowUps :one
SELECT EXISTS (SELECT 1 FROM no_follow_ups WHERE workspace_id = @workspace_id AND mail = @mail);
