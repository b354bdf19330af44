-- +goose Up

-- What was a booking is two things: a meeting, with its time, hosts, place and room; and a seat in it, with a client, what they wrote,
-- where it stands and its link. Every meeting has one seat for now, and the view "booking" shows both as one.
-- No way back: seats of one meeting would have to become meetings over each other. To go back, put the copy from before in its place.

PRAGMA defer_foreign_keys = ON; -- what points to bookings points to seats at the end, with the same numbers

CREATE TABLE meeting (
    id              INTEGER PRIMARY KEY,
    uid             TEXT NOT NULL UNIQUE,               -- iCalendar UID, the same for clients and hosts
    type_id         INTEGER NOT NULL REFERENCES meeting_type (id),
    type_name       TEXT NOT NULL,                      -- as it was called when booked
    host_id         INTEGER NOT NULL REFERENCES person (id), -- who leads it
    state           TEXT NOT NULL CHECK (state IN ('booked', 'cancelled')),
    start_at        INTEGER NOT NULL,
    end_at          INTEGER NOT NULL CHECK (end_at > start_at),
    kept_from       INTEGER NOT NULL CHECK (kept_from <= start_at), -- with the buffer before
    kept_until      INTEGER NOT NULL CHECK (kept_until >= end_at),  -- with the buffer after
    overlap_allowed INTEGER NOT NULL DEFAULT 0,         -- a deliberate overlap carries its own mark
    way             TEXT NOT NULL DEFAULT '{"id":"video","kind":"video"}', -- JSON: where one meets
    room            TEXT NOT NULL DEFAULT '',           -- JSON: app.Room, once there is one
    capacity        INTEGER NOT NULL DEFAULT 1 CHECK (capacity > 0), -- seats
    sequence        INTEGER NOT NULL DEFAULT 0,         -- iCalendar SEQUENCE (RFC 5545, 3.8.7.4): rises with what calendars are told
    revision        INTEGER NOT NULL DEFAULT 0,         -- rises with what makes jobs that were planned before pointless
    version         INTEGER NOT NULL DEFAULT 0,         -- rises with whatever somebody changes, so that undo can tell
    created_at      INTEGER NOT NULL
) STRICT;
INSERT INTO meeting (id, uid, type_id, type_name, host_id, state, start_at, end_at, kept_from, kept_until, overlap_allowed, way, room, sequence, revision, version, created_at)
SELECT id, uid, type_id, type_name, host_id, state, start_at, end_at, kept_from, kept_until, overlap_allowed, way, room, sequence, sequence, sequence, created_at FROM booking;
CREATE INDEX meeting_by_host ON meeting (host_id, start_at);
CREATE INDEX meeting_by_type_made ON meeting (type_id, created_at);

-- Who holds a meeting, with their entry of it.
CREATE TABLE meeting_host (
    meeting_id      INTEGER NOT NULL REFERENCES meeting (id) ON DELETE CASCADE,
    person_id       INTEGER NOT NULL REFERENCES person (id),
    state           TEXT NOT NULL CHECK (state IN ('booked', 'cancelled', 'left')),
    start_at        INTEGER NOT NULL, -- these five are the meeting's, kept alike by a trigger
    end_at          INTEGER NOT NULL,
    kept_from       INTEGER NOT NULL,
    kept_until      INTEGER NOT NULL,
    overlap_allowed INTEGER NOT NULL,
    event_calendar  INTEGER REFERENCES calendar (id) ON DELETE SET NULL,
    event_href      TEXT NOT NULL DEFAULT '',
    event_etag      TEXT NOT NULL DEFAULT '',
    event_seen      TEXT NOT NULL DEFAULT '' CHECK (event_seen IN ('', 'gone', 'moved')), -- what the host did to it, undecided
    event_start     INTEGER NOT NULL DEFAULT 0,
    event_end       INTEGER NOT NULL DEFAULT 0,
    clash_kept      TEXT NOT NULL DEFAULT '',  -- UIDs of events that the host lets stand beside it, with spaces between
    event_written   TEXT NOT NULL DEFAULT '',
    event_seen_at   INTEGER NOT NULL DEFAULT 0,
    PRIMARY KEY (meeting_id, person_id)
) STRICT, WITHOUT ROWID;
INSERT INTO meeting_host (meeting_id, person_id, state, start_at, end_at, kept_from, kept_until, overlap_allowed, event_calendar, event_href, event_etag, event_seen, event_start, event_end, clash_kept,
    event_written, event_seen_at)
SELECT booking_id, person_id, state, start_at, end_at, kept_from, kept_until, overlap_allowed, event_calendar, event_href, event_etag, event_seen, event_start, event_end, clash_kept, event_written, event_seen_at
FROM booking_host;
DROP TABLE booking_host;
CREATE INDEX meeting_host_by_event ON meeting_host (event_calendar, event_href) WHERE event_href <> '';
CREATE INDEX meeting_host_missing ON meeting_host (person_id) WHERE event_seen = '' AND event_seen_at > 0;
CREATE INDEX meeting_host_orphan ON meeting_host (person_id, start_at) WHERE event_calendar IS NULL AND event_href <> '';
CREATE INDEX meeting_host_by_time ON meeting_host (person_id, kept_until, kept_from, state);
CREATE INDEX meeting_host_by_start ON meeting_host (start_at, person_id) WHERE state = 'booked';
CREATE INDEX meeting_host_event_seen ON meeting_host (person_id) WHERE event_seen <> '';

DROP TRIGGER booking_host_follows;
DROP TRIGGER booking_state_follows;
DROP TRIGGER client_booked;
DROP TRIGGER client_proved;

CREATE TABLE kept_seat (
    id INTEGER PRIMARY KEY, life TEXT NOT NULL, client_name TEXT NOT NULL, client_mail TEXT NOT NULL, client_zone TEXT NOT NULL, remark TEXT NOT NULL, answers TEXT NOT NULL,
    said TEXT NOT NULL, guests TEXT NOT NULL, consent TEXT NOT NULL, consent_at INTEGER NOT NULL, lapses_at INTEGER NOT NULL, proposed TEXT NOT NULL, invited INTEGER NOT NULL,
    code_tries INTEGER NOT NULL, confirmed_start INTEGER NOT NULL, link_hash TEXT NOT NULL, request_key TEXT NOT NULL, created_at INTEGER NOT NULL
) STRICT;
INSERT INTO kept_seat (id, life, client_name, client_mail, client_zone, remark, answers, said, guests, consent, consent_at, lapses_at, proposed, invited, code_tries, confirmed_start, link_hash, request_key, created_at)
SELECT id, life, client_name, client_mail, client_zone, remark, answers, said, guests, consent, consent_at, lapses_at, proposed, invited, code_tries, confirmed_start, link_hash, request_key, created_at
FROM booking;
CREATE TABLE kept_guest (booking_id INTEGER NOT NULL, mail TEXT NOT NULL, at INTEGER NOT NULL) STRICT;
INSERT INTO kept_guest (booking_id, mail, at) SELECT booking_id, mail, at FROM guest;
DROP TABLE guest;
DROP TABLE client; -- it is worked out from the others
CREATE INDEX one_off_by_booking ON one_off (booking_id) WHERE booking_id IS NOT NULL;

ALTER TABLE booking RENAME TO seat; -- so that what points to it points to seats
DROP TABLE seat;
CREATE TABLE seat (
    id              INTEGER PRIMARY KEY,
    meeting_id      INTEGER NOT NULL REFERENCES meeting (id),
    life            TEXT NOT NULL,                      -- where it stands: which states there are is the program's to know (core/life)
    keeps           INTEGER NOT NULL CHECK (keeps IN (0, 1)), -- does it take a place?
    client_name     TEXT NOT NULL,
    client_mail     TEXT NOT NULL,
    client_zone     TEXT NOT NULL,
    language        TEXT NOT NULL DEFAULT 'en',         -- in which it was booked (BCP 47)
    remark          TEXT NOT NULL,
    answers         TEXT NOT NULL DEFAULT '{}',
    said            TEXT NOT NULL DEFAULT '[]',
    guests          TEXT NOT NULL DEFAULT '[]',
    consent         TEXT NOT NULL DEFAULT '',
    consent_at      INTEGER NOT NULL DEFAULT 0,
    lapses_at       INTEGER NOT NULL DEFAULT 0,
    proposed        TEXT NOT NULL DEFAULT '[]',
    invited         INTEGER NOT NULL DEFAULT 0,
    code_tries      INTEGER NOT NULL DEFAULT 0,
    confirmed_start INTEGER NOT NULL DEFAULT 0,
    link_hash       TEXT NOT NULL UNIQUE,
    request_key     TEXT NOT NULL UNIQUE,               -- a repeated request finds its booking instead of making another
    created_at      INTEGER NOT NULL
) STRICT;
INSERT INTO seat (id, meeting_id, life, keeps, client_name, client_mail, client_zone, remark, answers, said, guests, consent, consent_at, lapses_at, proposed, invited, code_tries, confirmed_start, link_hash,
    request_key, created_at)
SELECT id, id, life, life NOT IN ('cancelled', 'declined', 'lapsed'), client_name, client_mail, client_zone, remark, answers, said, guests, consent, consent_at, lapses_at, proposed, invited, code_tries,
    confirmed_start, link_hash, request_key, created_at
FROM kept_seat;
DROP TABLE kept_seat;
CREATE INDEX seat_by_meeting ON seat (meeting_id);
CREATE INDEX seat_by_client ON seat (client_mail COLLATE NOCASE, id);
CREATE INDEX seat_lapsing ON seat (lapses_at) WHERE lapses_at > 0;
CREATE INDEX seat_requested ON seat (meeting_id) WHERE life = 'requested';

CREATE TABLE guest (
    booking_id INTEGER NOT NULL REFERENCES seat (id) ON DELETE CASCADE,
    mail       TEXT NOT NULL COLLATE NOCASE,
    at         INTEGER NOT NULL,
    PRIMARY KEY (booking_id, mail)
) STRICT, WITHOUT ROWID;
INSERT INTO guest (booking_id, mail, at) SELECT booking_id, mail, at FROM kept_guest;
DROP TABLE kept_guest;
CREATE INDEX guest_by_mail ON guest (mail, at);

-- Each client of a workspace once, with their latest booking, kept alike by triggers.
CREATE TABLE client (
    workspace_id INTEGER NOT NULL REFERENCES workspace (id),
    mail         TEXT NOT NULL COLLATE NOCASE,
    latest_id    INTEGER NOT NULL REFERENCES seat (id),
    first_at     INTEGER NOT NULL,
    name         TEXT NOT NULL, -- as they called themselves last
    PRIMARY KEY (workspace_id, mail)
) STRICT, WITHOUT ROWID;
CREATE INDEX client_by_latest ON client (workspace_id, latest_id);
INSERT INTO client (workspace_id, mail, latest_id, first_at, name)
SELECT workspace_id, client_mail, id, first_at, client_name FROM (
    SELECT meeting_type.workspace_id, seat.client_mail, seat.client_name, seat.id,
        MIN(seat.created_at) OVER (PARTITION BY meeting_type.workspace_id, lower(seat.client_mail)) AS first_at,
        row_number() OVER (PARTITION BY meeting_type.workspace_id, lower(seat.client_mail) ORDER BY seat.id DESC) AS nth
    FROM seat JOIN meeting ON meeting.id = seat.meeting_id JOIN meeting_type ON meeting_type.id = meeting.type_id WHERE seat.life <> 'unproved'
) WHERE nth = 1;

-- A seat with its meeting: what a client has booked.
CREATE VIEW booking AS
SELECT seat.id, seat.meeting_id, meeting.uid, meeting.sequence, meeting.revision, meeting.version, meeting.type_id, meeting.host_id,
    CASE WHEN seat.keeps = 1 THEN 'booked' ELSE 'cancelled' END AS state, seat.life,
    meeting.start_at, meeting.end_at, meeting.kept_from, meeting.kept_until, meeting.overlap_allowed, meeting.type_name, meeting.way, meeting.room,
    seat.client_name, seat.client_mail, seat.client_zone, seat.language, seat.remark, seat.answers, seat.said, seat.guests, seat.consent, seat.consent_at,
    seat.lapses_at, seat.proposed, seat.invited, seat.code_tries, seat.confirmed_start, seat.link_hash, seat.request_key, seat.created_at
FROM seat JOIN meeting ON meeting.id = seat.meeting_id;

-- +goose StatementBegin
CREATE TRIGGER meeting_host_follows AFTER UPDATE OF state, start_at, end_at, kept_from, kept_until, overlap_allowed ON meeting
BEGIN
    UPDATE meeting_host
    SET state = NEW.state, start_at = NEW.start_at, end_at = NEW.end_at, kept_from = NEW.kept_from, kept_until = NEW.kept_until,
        overlap_allowed = NEW.overlap_allowed
    WHERE meeting_id = NEW.id AND state <> 'left';
END;
-- +goose StatementEnd
-- A meeting stands as long as somebody keeps a seat in it.
-- +goose StatementBegin
CREATE TRIGGER meeting_follows_seats AFTER UPDATE OF keeps ON seat WHEN OLD.keeps <> NEW.keeps
BEGIN
    UPDATE meeting SET state = CASE WHEN EXISTS (SELECT 1 FROM seat WHERE meeting_id = NEW.meeting_id AND keeps = 1) THEN 'booked' ELSE 'cancelled' END
    WHERE id = NEW.meeting_id;
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER meeting_follows_new_seat AFTER INSERT ON seat WHEN NEW.keeps = 1
BEGIN
    UPDATE meeting SET state = 'booked' WHERE id = NEW.meeting_id AND state <> 'booked';
END;
-- +goose StatementEnd
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
-- +goose StatementBegin
CREATE TRIGGER meeting_overlap_insert BEFORE INSERT ON meeting_host
WHEN NEW.state = 'booked' AND NEW.overlap_allowed = 0
BEGIN
    SELECT RAISE(ABORT, 'booking overlap') FROM meeting_host b
    WHERE b.person_id = NEW.person_id AND b.meeting_id <> NEW.meeting_id AND b.state = 'booked' AND b.overlap_allowed = 0
      AND b.kept_from < NEW.kept_until AND NEW.kept_from < b.kept_until
      AND (b.start_at < NEW.kept_until AND NEW.kept_from < b.end_at
        OR b.kept_from < NEW.end_at AND NEW.start_at < b.kept_until
        OR NOT (SELECT share_buffers FROM workspace JOIN person ON person.workspace_id = workspace.id WHERE person.id = NEW.person_id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER meeting_overlap_update BEFORE UPDATE OF person_id, state, start_at, end_at, kept_from, kept_until, overlap_allowed ON meeting_host
WHEN NEW.state = 'booked' AND NEW.overlap_allowed = 0
BEGIN
    SELECT RAISE(ABORT, 'booking overlap') FROM meeting_host b
    WHERE b.person_id = NEW.person_id AND b.meeting_id <> NEW.meeting_id AND b.state = 'booked' AND b.overlap_allowed = 0
      AND b.kept_from < NEW.kept_until AND NEW.kept_from < b.kept_until
      AND (b.start_at < NEW.kept_until AND NEW.kept_from < b.end_at
        OR b.kept_from < NEW.end_at AND NEW.start_at < b.kept_until
        OR NOT (SELECT share_buffers FROM workspace JOIN person ON person.workspace_id = workspace.id WHERE person.id = NEW.person_id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER client_booked AFTER INSERT ON seat WHEN NEW.life <> 'unproved'
BEGIN
    INSERT INTO client (workspace_id, mail, latest_id, first_at, name)
    SELECT workspace_id, NEW.client_mail, NEW.id, NEW.created_at, NEW.client_name FROM meeting_type WHERE id = (SELECT type_id FROM meeting WHERE meeting.id = NEW.meeting_id)
    ON CONFLICT (workspace_id, mail) DO UPDATE SET latest_id = max(latest_id, excluded.latest_id), first_at = min(first_at, excluded.first_at),
        name = CASE WHEN excluded.latest_id >= latest_id THEN excluded.name ELSE name END;
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER client_proved AFTER UPDATE OF life ON seat WHEN OLD.life = 'unproved' AND NEW.life <> 'unproved'
BEGIN
    INSERT INTO client (workspace_id, mail, latest_id, first_at, name)
    SELECT workspace_id, NEW.client_mail, NEW.id, NEW.created_at, NEW.client_name FROM meeting_type WHERE id = (SELECT type_id FROM meeting WHERE meeting.id = NEW.meeting_id)
    ON CONFLICT (workspace_id, mail) DO UPDATE SET latest_id = max(latest_id, excluded.latest_id), first_at = min(first_at, excluded.first_at),
        name = CASE WHEN excluded.latest_id >= latest_id THEN excluded.name ELSE name END;
END;
-- +goose StatementEnd
