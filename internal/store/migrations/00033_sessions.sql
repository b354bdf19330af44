-- +goose Up

-- A session is a meeting that its hosts set on a date: it stands whether anybody has booked it or not. A seat that nobody has stands for
-- it: it holds the session's life and history, counts as none of the meeting's seats, and comes before those of clients.
ALTER TABLE seat ADD COLUMN session INTEGER NOT NULL DEFAULT 0 CHECK (session IN (0, 1));
CREATE INDEX seat_in_meeting ON seat (meeting_id, session DESC, keeps DESC, id);
DROP INDEX seat_of_meeting;

-- The seat that stands for the session that a meeting is; 0 if it is none.
ALTER TABLE meeting ADD COLUMN session_id INTEGER NOT NULL DEFAULT 0;
-- +goose StatementBegin
CREATE TRIGGER session_known AFTER INSERT ON seat WHEN NEW.session = 1
BEGIN
    UPDATE meeting SET session_id = NEW.id WHERE id = NEW.meeting_id;
END;
-- +goose StatementEnd

DROP VIEW booking;
CREATE VIEW booking AS
SELECT seat.id, seat.meeting_id, seat.uid, meeting.uid AS meeting_uid, meeting.sequence + seat.sequence AS sequence, meeting.revision + seat.revision AS revision, meeting.version, meeting.type_id, meeting.host_id,
    CASE WHEN seat.keeps = 1 OR seat.session = 1 AND seat.life = 'scheduled' THEN 'booked' ELSE 'cancelled' END AS state, seat.life, meeting.state AS meeting_state, meeting.capacity,
    meeting.taken, seat.session,
    meeting.start_at, meeting.end_at, meeting.kept_from, meeting.kept_until, meeting.overlap_allowed, meeting.shared_time, meeting.type_name, meeting.way, meeting.room,
    seat.client_name, seat.client_mail, seat.client_zone, seat.language, seat.remark, seat.answers, seat.said, seat.guests, seat.consent, seat.consent_at,
    seat.lapses_at, seat.proposed, seat.invited, seat.code_tries, seat.confirmed_start, seat.link_hash, seat.request_key, seat.via_id, seat.created_at, meeting.replies_here
FROM seat JOIN meeting ON meeting.id = seat.meeting_id;

-- A meeting stands as long as somebody keeps a seat in it, or its session stands.
DROP TRIGGER meeting_follows_seats;
-- +goose StatementBegin
CREATE TRIGGER meeting_follows_seats AFTER UPDATE OF keeps, life ON seat WHEN OLD.keeps <> NEW.keeps OR NEW.session = 1
BEGIN
    UPDATE meeting SET state = CASE
        WHEN EXISTS (SELECT 1 FROM seat WHERE seat.meeting_id = NEW.meeting_id AND session = 1 AND life = 'scheduled') THEN 'booked'
        WHEN EXISTS (SELECT 1 FROM seat WHERE seat.meeting_id = NEW.meeting_id AND session = 0 AND keeps = 1) THEN 'booked'
        ELSE 'cancelled' END
    WHERE id = NEW.meeting_id;
END;
-- +goose StatementEnd
DROP TRIGGER meeting_follows_changed_seat;
-- +goose StatementBegin
CREATE TRIGGER meeting_follows_changed_seat AFTER UPDATE OF meeting_id ON seat WHEN OLD.meeting_id <> NEW.meeting_id
BEGIN
    UPDATE meeting SET state = CASE
        WHEN EXISTS (SELECT 1 FROM seat WHERE seat.meeting_id = meeting.id AND session = 1 AND life = 'scheduled') THEN 'booked'
        WHEN EXISTS (SELECT 1 FROM seat WHERE seat.meeting_id = meeting.id AND session = 0 AND keeps = 1) THEN 'booked'
        ELSE 'cancelled' END
    WHERE id IN (OLD.meeting_id, NEW.meeting_id);
END;
-- +goose StatementEnd

-- A session has no client.
DROP TRIGGER client_booked;
-- +goose StatementBegin
CREATE TRIGGER client_booked AFTER INSERT ON seat WHEN NEW.life <> 'unproved' AND NEW.session = 0
BEGIN
    INSERT INTO client (workspace_id, mail, latest_id, first_at, name)
    SELECT workspace_id, NEW.client_mail, NEW.id, NEW.created_at, NEW.client_name FROM meeting_type WHERE id = (SELECT type_id FROM meeting WHERE meeting.id = NEW.meeting_id)
    ON CONFLICT (workspace_id, mail) DO UPDATE SET latest_id = max(latest_id, excluded.latest_id), first_at = min(first_at, excluded.first_at),
        name = CASE WHEN excluded.latest_id >= latest_id THEN excluded.name ELSE name END;
END;
-- +goose StatementEnd

-- +goose Down
DROP TRIGGER client_booked;
-- +goose StatementBegin
CREATE TRIGGER client_booked AFTER INSERT ON seat WHEN NEW.life <> 'unproved'
BEGIN
    INSERT INTO client (workspace_id, mail, latest_id, first_at, name)
    SELECT workspace_id, NEW.client_mail, NEW.id, NEW.created_at, NEW.client_name FROM meeting_type WHERE id = (SELECT type_id FROM meeting WHERE meeting.id = NEW.meeting_id)
    ON CONFLICT (workspace_id, mail) DO UPDATE SET latest_id = max(latest_id, excluded.latest_id), first_at = min(first_at, excluded.first_at),
        name = CASE WHEN excluded.latest_id >= latest_id THEN excluded.name ELSE name END;
END;
-- +goose StatementEnd
DROP TRIGGER meeting_follows_changed_seat;
-- +goose StatementBegin
CREATE TRIGGER meeting_follows_changed_seat AFTER UPDATE OF meeting_id ON seat WHEN OLD.meeting_id <> NEW.meeting_id
BEGIN
    UPDATE meeting SET state = CASE WHEN EXISTS (SELECT 1 FROM seat WHERE seat.meeting_id = meeting.id AND keeps = 1) THEN 'booked' ELSE 'cancelled' END
    WHERE id IN (OLD.meeting_id, NEW.meeting_id);
END;
-- +goose StatementEnd
DROP TRIGGER meeting_follows_seats;
-- +goose StatementBegin
CREATE TRIGGER meeting_follows_seats AFTER UPDATE OF keeps ON seat WHEN OLD.keeps <> NEW.keeps
BEGIN
    UPDATE meeting SET state = CASE WHEN EXISTS (SELECT 1 FROM seat WHERE meeting_id = NEW.meeting_id AND keeps = 1) THEN 'booked' ELSE 'cancelled' END
    WHERE id = NEW.meeting_id;
END;
-- +goose StatementEnd
DROP VIEW booking;
CREATE VIEW booking AS
SELECT seat.id, seat.meeting_id, seat.uid, meeting.uid AS meeting_uid, meeting.sequence + seat.sequence AS sequence, meeting.revision + seat.revision AS revision, meeting.version, meeting.type_id, meeting.host_id,
    CASE WHEN seat.keeps = 1 THEN 'booked' ELSE 'cancelled' END AS state, seat.life, meeting.state AS meeting_state, meeting.capacity,
    meeting.taken,
    meeting.start_at, meeting.end_at, meeting.kept_from, meeting.kept_until, meeting.overlap_allowed, meeting.shared_time, meeting.type_name, meeting.way, meeting.room,
    seat.client_name, seat.client_mail, seat.client_zone, seat.language, seat.remark, seat.answers, seat.said, seat.guests, seat.consent, seat.consent_at,
    seat.lapses_at, seat.proposed, seat.invited, seat.code_tries, seat.confirmed_start, seat.link_hash, seat.request_key, seat.via_id, seat.created_at, meeting.replies_here
FROM seat JOIN meeting ON meeting.id = seat.meeting_id;
UPDATE meeting SET state = 'cancelled' WHERE state = 'booked' AND taken = 0;
CREATE INDEX seat_of_meeting ON seat (meeting_id, keeps DESC, id);
DROP INDEX seat_in_meeting;
DROP TRIGGER session_known;
ALTER TABLE meeting DROP COLUMN session_id;
ALTER TABLE seat DROP COLUMN session;
