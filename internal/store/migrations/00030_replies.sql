-- +goose Up

-- What somebody chose to be told of: kinds of news that they get no mail about, as JSON; whether of what they did themself; and when
-- in the morning their day is mailed to them, 'HH:MM' on their clock or empty, with the date when that was done last.
ALTER TABLE person ADD COLUMN untold TEXT NOT NULL DEFAULT '[]';
ALTER TABLE person ADD COLUMN untold_own INTEGER NOT NULL DEFAULT 0;
ALTER TABLE person ADD COLUMN morning TEXT NOT NULL DEFAULT '';
ALTER TABLE person ADD COLUMN morning_on TEXT NOT NULL DEFAULT '';
CREATE INDEX person_by_morning ON person (morning) WHERE morning <> '';

-- Whether answers to a meeting's invitations come here: then their organizer is an address of ours, from the first one on to the last.
ALTER TABLE meeting ADD COLUMN replies_here INTEGER NOT NULL DEFAULT 0;
DROP VIEW booking;
CREATE VIEW booking AS
SELECT seat.id, seat.meeting_id, meeting.uid, meeting.sequence, meeting.revision, meeting.version, meeting.type_id, meeting.host_id,
    CASE WHEN seat.keeps = 1 THEN 'booked' ELSE 'cancelled' END AS state, seat.life,
    meeting.start_at, meeting.end_at, meeting.kept_from, meeting.kept_until, meeting.overlap_allowed, meeting.shared_time, meeting.type_name, meeting.way, meeting.room,
    seat.client_name, seat.client_mail, seat.client_zone, seat.language, seat.remark, seat.answers, seat.said, seat.guests, seat.consent, seat.consent_at,
    seat.lapses_at, seat.proposed, seat.invited, seat.code_tries, seat.confirmed_start, seat.link_hash, seat.request_key, seat.via_id, seat.created_at, meeting.replies_here
FROM seat JOIN meeting ON meeting.id = seat.meeting_id;

-- What a client answered to the invitation, and nobody has settled yet: that they can't come, or wish another time.
CREATE TABLE invite_answer (
    booking_id INTEGER PRIMARY KEY REFERENCES seat (id) ON DELETE CASCADE,
    answer     TEXT NOT NULL CHECK (answer IN ('declined', 'wished')),
    start_at   INTEGER NOT NULL, -- the meeting's, which it is about
    wish_at    INTEGER NOT NULL DEFAULT 0, -- the time that is wished
    said       TEXT NOT NULL DEFAULT '',
    at         INTEGER NOT NULL
) STRICT;
CREATE INDEX invite_answer_by_start ON invite_answer (start_at);

-- Mail addresses that took no mail, and which booking's it was.
CREATE TABLE mail_returned (
    workspace_id INTEGER NOT NULL REFERENCES workspace (id),
    mail         TEXT NOT NULL COLLATE NOCASE,
    booking_id   INTEGER NOT NULL REFERENCES seat (id) ON DELETE CASCADE,
    status       TEXT NOT NULL, -- RFC 3463
    said         TEXT NOT NULL, -- by the server that refused it
    at           INTEGER NOT NULL,
    PRIMARY KEY (workspace_id, mail)
) STRICT, WITHOUT ROWID;
CREATE INDEX mail_returned_by_booking ON mail_returned (booking_id);
CREATE INDEX mail_returned_by_time ON mail_returned (workspace_id, at);

-- Clients who want nothing more after their meetings (RFC 8058).
CREATE TABLE no_follow_ups (
    workspace_id INTEGER NOT NULL REFERENCES workspace (id),
    mail         TEXT NOT NULL COLLATE NOCASE,
    at           INTEGER NOT NULL,
    PRIMARY KEY (workspace_id, mail)
) STRICT, WITHOUT ROWID;

-- Mails about bookings as they went out, for as long as the log of jobs names them.
CREATE TABLE mail_said (
    job_id     INTEGER NOT NULL,
    number     INTEGER NOT NULL, -- of the letters of a job
    booking_id INTEGER NOT NULL REFERENCES seat (id) ON DELETE CASCADE,
    receiver   TEXT NOT NULL,
    subject    TEXT NOT NULL,
    said       TEXT NOT NULL,
    at         INTEGER NOT NULL,
    PRIMARY KEY (job_id, number)
) STRICT, WITHOUT ROWID;
CREATE INDEX mail_said_by_booking ON mail_said (booking_id);
CREATE INDEX mail_said_by_time ON mail_said (at);

-- +goose Down
DROP TABLE mail_said;
DROP TABLE no_follow_ups;
DROP TABLE mail_returned;
DROP TABLE invite_answer;
DROP VIEW booking;
CREATE VIEW booking AS
SELECT seat.id, seat.meeting_id, meeting.uid, meeting.sequence, meeting.revision, meeting.version, meeting.type_id, meeting.host_id,
    CASE WHEN seat.keeps = 1 THEN 'booked' ELSE 'cancelled' END AS state, seat.life,
    meeting.start_at, meeting.end_at, meeting.kept_from, meeting.kept_until, meeting.overlap_allowed, meeting.shared_time, meeting.type_name, meeting.way, meeting.room,
    seat.client_name, seat.client_mail, seat.client_zone, seat.language, seat.remark, seat.answers, seat.said, seat.guests, seat.consent, seat.consent_at,
    seat.lapses_at, seat.proposed, seat.invited, seat.code_tries, seat.confirmed_start, seat.link_hash, seat.request_key, seat.via_id, seat.created_at
FROM seat JOIN meeting ON meeting.id = seat.meeting_id;
ALTER TABLE meeting DROP COLUMN replies_here;
DROP INDEX person_by_morning;
ALTER TABLE person DROP COLUMN morning_on;
ALTER TABLE person DROP COLUMN morning;
ALTER TABLE person DROP COLUMN untold_own;
ALTER TABLE person DROP COLUMN untold;
