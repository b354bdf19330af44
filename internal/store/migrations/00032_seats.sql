-- +goose Up

-- Several clients can share a meeting. Each seat has what its client holds: a UID (of their invitations, and what their link and code
-- are made of), and what has happened to it alone, beside what has happened to the meeting. A seat can change its meeting.
ALTER TABLE seat ADD COLUMN uid TEXT NOT NULL DEFAULT '';
UPDATE seat SET uid = (SELECT meeting.uid FROM meeting WHERE meeting.id = seat.meeting_id);
CREATE UNIQUE INDEX seat_by_uid ON seat (uid) WHERE uid <> '';
ALTER TABLE seat ADD COLUMN sequence INTEGER NOT NULL DEFAULT 0;
ALTER TABLE seat ADD COLUMN revision INTEGER NOT NULL DEFAULT 0;
CREATE INDEX seat_of_meeting ON seat (meeting_id, keeps DESC, id);
DROP INDEX seat_by_meeting;

-- How many seats of a meeting are kept, counted by triggers: a class has hundreds, and is looked at with each of them.
ALTER TABLE meeting ADD COLUMN taken INTEGER NOT NULL DEFAULT 0;
UPDATE meeting SET taken = (SELECT COUNT(*) FROM seat WHERE seat.meeting_id = meeting.id AND seat.keeps = 1);
CREATE INDEX meeting_shared ON meeting (type_id, start_at) WHERE capacity > 1 AND state = 'booked';

DROP VIEW booking;
CREATE VIEW booking AS
SELECT seat.id, seat.meeting_id, seat.uid, meeting.uid AS meeting_uid, meeting.sequence + seat.sequence AS sequence, meeting.revision + seat.revision AS revision, meeting.version, meeting.type_id, meeting.host_id,
    CASE WHEN seat.keeps = 1 THEN 'booked' ELSE 'cancelled' END AS state, seat.life, meeting.state AS meeting_state, meeting.capacity,
    meeting.taken,
    meeting.start_at, meeting.end_at, meeting.kept_from, meeting.kept_until, meeting.overlap_allowed, meeting.shared_time, meeting.type_name, meeting.way, meeting.room,
    seat.client_name, seat.client_mail, seat.client_zone, seat.language, seat.remark, seat.answers, seat.said, seat.guests, seat.consent, seat.consent_at,
    seat.lapses_at, seat.proposed, seat.invited, seat.code_tries, seat.confirmed_start, seat.link_hash, seat.request_key, seat.via_id, seat.created_at, meeting.replies_here
FROM seat JOIN meeting ON meeting.id = seat.meeting_id;

DROP TRIGGER seat_beyond_capacity_insert;
DROP TRIGGER seat_beyond_capacity_update;
DROP TRIGGER meeting_capacity_update;
-- +goose StatementBegin
CREATE TRIGGER seat_beyond_capacity_insert BEFORE INSERT ON seat WHEN NEW.keeps = 1
BEGIN
    SELECT RAISE(ABORT, 'no seat left') FROM meeting WHERE meeting.id = NEW.meeting_id AND meeting.taken >= meeting.capacity;
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER seat_beyond_capacity_update BEFORE UPDATE OF keeps, meeting_id ON seat WHEN NEW.keeps = 1 AND (OLD.keeps = 0 OR OLD.meeting_id <> NEW.meeting_id)
BEGIN
    SELECT RAISE(ABORT, 'no seat left') FROM meeting WHERE meeting.id = NEW.meeting_id AND meeting.taken >= meeting.capacity;
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER meeting_capacity_update BEFORE UPDATE OF capacity ON meeting
BEGIN
    SELECT RAISE(ABORT, 'no seat left') WHERE NEW.taken > NEW.capacity;
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER seat_counted_insert AFTER INSERT ON seat WHEN NEW.keeps = 1
BEGIN
    UPDATE meeting SET taken = taken + 1 WHERE id = NEW.meeting_id;
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER seat_counted_update AFTER UPDATE OF keeps, meeting_id ON seat WHEN OLD.keeps <> NEW.keeps OR OLD.meeting_id <> NEW.meeting_id
BEGIN
    UPDATE meeting SET taken = taken - OLD.keeps WHERE id = OLD.meeting_id;
    UPDATE meeting SET taken = taken + NEW.keeps WHERE id = NEW.meeting_id;
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER seat_counted_delete AFTER DELETE ON seat WHEN OLD.keeps = 1
BEGIN
    UPDATE meeting SET taken = taken - 1 WHERE id = OLD.meeting_id;
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER meeting_follows_changed_seat AFTER UPDATE OF meeting_id ON seat WHEN OLD.meeting_id <> NEW.meeting_id
BEGIN
    UPDATE meeting SET state = CASE WHEN EXISTS (SELECT 1 FROM seat WHERE seat.meeting_id = meeting.id AND keeps = 1) THEN 'booked' ELSE 'cancelled' END
    WHERE id IN (OLD.meeting_id, NEW.meeting_id);
END;
-- +goose StatementEnd

-- +goose Down
DROP TRIGGER seat_beyond_capacity_insert;
DROP TRIGGER seat_beyond_capacity_update;
DROP TRIGGER meeting_capacity_update;
-- +goose StatementBegin
CREATE TRIGGER seat_beyond_capacity_insert BEFORE INSERT ON seat WHEN NEW.keeps = 1
BEGIN
    SELECT RAISE(ABORT, 'no seat left') FROM meeting
    WHERE meeting.id = NEW.meeting_id AND (SELECT COUNT(*) FROM seat WHERE meeting_id = NEW.meeting_id AND keeps = 1) >= meeting.capacity;
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER seat_beyond_capacity_update BEFORE UPDATE OF keeps, meeting_id ON seat WHEN NEW.keeps = 1 AND (OLD.keeps = 0 OR OLD.meeting_id <> NEW.meeting_id)
BEGIN
    SELECT RAISE(ABORT, 'no seat left') FROM meeting
    WHERE meeting.id = NEW.meeting_id AND (SELECT COUNT(*) FROM seat WHERE meeting_id = NEW.meeting_id AND keeps = 1) >= meeting.capacity;
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER meeting_capacity_update BEFORE UPDATE OF capacity ON meeting
BEGIN
    SELECT RAISE(ABORT, 'no seat left') WHERE (SELECT COUNT(*) FROM seat WHERE meeting_id = NEW.id AND keeps = 1) > NEW.capacity;
END;
-- +goose StatementEnd
DROP TRIGGER meeting_follows_changed_seat;
DROP TRIGGER seat_counted_delete;
DROP TRIGGER seat_counted_update;
DROP TRIGGER seat_counted_insert;
DROP INDEX meeting_shared;
DROP VIEW booking;
CREATE VIEW booking AS
SELECT seat.id, seat.meeting_id, meeting.uid, meeting.sequence, meeting.revision, meeting.version, meeting.type_id, meeting.host_id,
    CASE WHEN seat.keeps = 1 THEN 'booked' ELSE 'cancelled' END AS state, seat.life,
    meeting.start_at, meeting.end_at, meeting.kept_from, meeting.kept_until, meeting.overlap_allowed, meeting.shared_time, meeting.type_name, meeting.way, meeting.room,
    seat.client_name, seat.client_mail, seat.client_zone, seat.language, seat.remark, seat.answers, seat.said, seat.guests, seat.consent, seat.consent_at,
    seat.lapses_at, seat.proposed, seat.invited, seat.code_tries, seat.confirmed_start, seat.link_hash, seat.request_key, seat.via_id, seat.created_at, meeting.replies_here
FROM seat JOIN meeting ON meeting.id = seat.meeting_id;
ALTER TABLE meeting DROP COLUMN taken;
CREATE INDEX seat_by_meeting ON seat (meeting_id);
DROP INDEX seat_of_meeting;
DROP INDEX seat_by_uid;
ALTER TABLE seat DROP COLUMN revision;
ALTER TABLE seat DROP COLUMN sequence;
ALTER TABLE seat DROP COLUMN uid;
