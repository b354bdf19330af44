-- +goose Up

-- Sessions that were set together are a series, known by its first meeting; 0 for none.
ALTER TABLE meeting ADD COLUMN series_id INTEGER NOT NULL DEFAULT 0;
UPDATE meeting SET series_id = (SELECT min(first.id) FROM meeting first WHERE first.type_id = meeting.type_id AND first.session_id > 0 AND first.created_at = meeting.created_at)
WHERE session_id > 0;
CREATE INDEX meeting_of_series ON meeting (type_id, series_id, start_at) WHERE series_id > 0;

-- Whether a meeting's seats were set for it alone; else they follow its type's.
ALTER TABLE meeting ADD COLUMN own_capacity INTEGER NOT NULL DEFAULT 0 CHECK (own_capacity IN (0, 1));

-- Seats that a client took at one go, of a series or for several people, are known by the first of them; 0 for one alone.
ALTER TABLE seat ADD COLUMN party_id INTEGER NOT NULL DEFAULT 0;
CREATE INDEX seat_of_party ON seat (party_id) WHERE party_id > 0;

DROP VIEW booking;
CREATE VIEW booking AS
SELECT seat.id, seat.meeting_id, seat.uid, meeting.uid AS meeting_uid, meeting.sequence + seat.sequence AS sequence, meeting.revision + seat.revision AS revision, meeting.version, meeting.type_id, meeting.host_id,
    CASE WHEN seat.keeps = 1 OR seat.session = 1 AND seat.life = 'scheduled' THEN 'booked' ELSE 'cancelled' END AS state, seat.life, meeting.state AS meeting_state, meeting.capacity,
    meeting.taken, seat.session, meeting.series_id, seat.party_id,
    meeting.start_at, meeting.end_at, meeting.kept_from, meeting.kept_until, meeting.overlap_allowed, meeting.shared_time, meeting.type_name, meeting.way, meeting.room,
    seat.client_name, seat.client_mail, seat.client_zone, seat.language, seat.remark, seat.answers, seat.said, seat.guests, seat.consent, seat.consent_at,
    seat.lapses_at, seat.proposed, seat.invited, seat.code_tries, seat.confirmed_start, seat.link_hash, seat.request_key, seat.via_id, seat.created_at, meeting.replies_here
FROM seat JOIN meeting ON meeting.id = seat.meeting_id;

-- Somebody who comes along under the client's own address is no other client.
DROP TRIGGER client_booked;
-- +goose StatementBegin
CREATE TRIGGER client_booked AFTER INSERT ON seat
WHEN NEW.life <> 'unproved' AND NEW.session = 0 AND (NEW.party_id = 0 OR lower(NEW.client_mail) <> (SELECT lower(client_mail) FROM seat WHERE id = NEW.party_id))
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
CREATE TRIGGER client_booked AFTER INSERT ON seat WHEN NEW.life <> 'unproved' AND NEW.session = 0
BEGIN
    INSERT INTO client (workspace_id, mail, latest_id, first_at, name)
    SELECT workspace_id, NEW.client_mail, NEW.id, NEW.created_at, NEW.client_name FROM meeting_type WHERE id = (SELECT type_id FROM meeting WHERE meeting.id = NEW.meeting_id)
    ON CONFLICT (workspace_id, mail) DO UPDATE SET latest_id = max(latest_id, excluded.latest_id), first_at = min(first_at, excluded.first_at),
        name = CASE WHEN excluded.latest_id >= latest_id THEN excluded.name ELSE name END;
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
DROP INDEX seat_of_party;
ALTER TABLE seat DROP COLUMN party_id;
ALTER TABLE meeting DROP COLUMN own_capacity;
DROP INDEX meeting_of_series;
ALTER TABLE meeting DROP COLUMN series_id;
