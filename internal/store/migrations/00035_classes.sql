-- +goose Up

-- Whom a meeting was given to is counted with it, whichever of its clients come and go; booking_id is whose booking it was given with.
ALTER TABLE assignment ADD COLUMN meeting_id INTEGER NOT NULL DEFAULT 0;
UPDATE assignment SET meeting_id = (SELECT seat.meeting_id FROM seat WHERE seat.id = assignment.booking_id);
DROP INDEX assignment_by_booking;
CREATE INDEX assignment_by_meeting ON assignment (meeting_id);

-- What is special about a session, if its type doesn't say all: words for its clients, and whether its location is its own.
ALTER TABLE meeting ADD COLUMN about TEXT NOT NULL DEFAULT '';
ALTER TABLE meeting ADD COLUMN own_way INTEGER NOT NULL DEFAULT 0 CHECK (own_way IN (0, 1));

-- When it came into doubt whether a session takes place, as long as its hosts haven't decided; 0 if it isn't.
ALTER TABLE meeting ADD COLUMN doubted_at INTEGER NOT NULL DEFAULT 0;
UPDATE meeting SET doubted_at = coalesce((SELECT max(at) FROM booking_step WHERE booking_step.booking_id = meeting.session_id AND booking_step.kind = 'doubted'), 0)
WHERE session_id > 0 AND state = 'booked';
CREATE INDEX meeting_in_doubt ON meeting (start_at) WHERE doubted_at > 0;

DROP VIEW booking;
CREATE VIEW booking AS
SELECT seat.id, seat.meeting_id, seat.uid, meeting.uid AS meeting_uid, meeting.sequence + seat.sequence AS sequence, meeting.revision + seat.revision AS revision, meeting.version, meeting.type_id, meeting.host_id,
    CASE WHEN seat.keeps = 1 OR seat.session = 1 AND seat.life = 'scheduled' THEN 'booked' ELSE 'cancelled' END AS state, seat.life, meeting.state AS meeting_state, meeting.capacity,
    meeting.taken, seat.session, meeting.series_id, seat.party_id, meeting.about, meeting.own_way,
    meeting.start_at, meeting.end_at, meeting.kept_from, meeting.kept_until, meeting.overlap_allowed, meeting.shared_time, meeting.type_name, meeting.way, meeting.room,
    seat.client_name, seat.client_mail, seat.client_zone, seat.language, seat.remark, seat.answers, seat.said, seat.guests, seat.consent, seat.consent_at,
    seat.lapses_at, seat.proposed, seat.invited, seat.code_tries, seat.confirmed_start, seat.link_hash, seat.request_key, seat.via_id, seat.created_at, meeting.replies_here
FROM seat JOIN meeting ON meeting.id = seat.meeting_id;

-- +goose Down
DROP VIEW booking;
CREATE VIEW booking AS
SELECT seat.id, seat.meeting_id, seat.uid, meeting.uid AS meeting_uid, meeting.sequence + seat.sequence AS sequence, meeting.revision + seat.revision AS revision, meeting.version, meeting.type_id, meeting.host_id,
    CASE WHEN seat.keeps = 1 OR seat.session = 1 AND seat.life = 'scheduled' THEN 'booked' ELSE 'cancelled' END AS state, seat.life, meeting.state AS meeting_state, meeting.capacity,
    meeting.taken, seat.session, meeting.series_id, seat.party_id,
    meeting.start_at, meeting.end_at, meeting.kept_from, meeting.kept_until, meeting.overlap_allowed, meeting.shared_time, meeting.type_name, meeting.way, meeting.room,
    seat.client_name, seat.client_mail, seat.client_zone, seat.language, seat.remark, seat.answers, seat.said, seat.guests, seat.consent, seat.consent_at,
    seat.lapses_at, seat.proposed, seat.invited, seat.code_tries, seat.confirmed_start, seat.link_hash, seat.request_key, seat.via_id, seat.created_at, meeting.replies_here
FROM seat JOIN meeting ON meeting.id = seat.meeting_id;
DROP INDEX meeting_in_doubt;
ALTER TABLE meeting DROP COLUMN doubted_at;
ALTER TABLE meeting DROP COLUMN own_way;
ALTER TABLE meeting DROP COLUMN about;
DROP INDEX assignment_by_meeting;
CREATE INDEX assignment_by_booking ON assignment (booking_id);
ALTER TABLE assignment DROP COLUMN meeting_id;
