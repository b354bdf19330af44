-- +goose Up

-- Who hosts a booking, one row each: its times once more, so that an index finds whom it keeps busy, and its event in that
-- host's calendar. Who has handed it over is left until the event there is gone.
CREATE TABLE booking_host (
    booking_id      INTEGER NOT NULL REFERENCES booking (id) ON DELETE CASCADE,
    person_id       INTEGER NOT NULL REFERENCES person (id),
    state           TEXT NOT NULL CHECK (state IN ('booked', 'cancelled', 'left')),
    start_at        INTEGER NOT NULL, -- these five are the booking's, kept alike by a trigger
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
    clash_kept      TEXT NOT NULL DEFAULT '', -- UIDs of events that the host lets stand beside it, with spaces between
    PRIMARY KEY (booking_id, person_id)
) STRICT, WITHOUT ROWID;
INSERT INTO booking_host
SELECT id, host_id, state, start_at, end_at, kept_from, kept_until, overlap_allowed,
    event_calendar, event_href, event_etag, event_seen, event_start, event_end, clash_kept
FROM booking;
CREATE INDEX booking_host_by_time ON booking_host (person_id, kept_until);
CREATE INDEX booking_host_by_event ON booking_host (event_calendar, event_href) WHERE event_href <> '';

DROP TRIGGER booking_overlap_insert;
DROP TRIGGER booking_overlap_update;
DROP INDEX booking_by_event;
ALTER TABLE booking DROP COLUMN event_calendar;
ALTER TABLE booking DROP COLUMN event_href;
ALTER TABLE booking DROP COLUMN event_etag;
ALTER TABLE booking DROP COLUMN event_seen;
ALTER TABLE booking DROP COLUMN event_start;
ALTER TABLE booking DROP COLUMN event_end;
ALTER TABLE booking DROP COLUMN clash_kept;

-- A double booking stays impossible in the data, for everyone who hosts it.
-- +goose StatementBegin
CREATE TRIGGER booking_host_follows AFTER UPDATE OF state, start_at, end_at, kept_from, kept_until, overlap_allowed ON booking
BEGIN
    UPDATE booking_host
    SET state = NEW.state, start_at = NEW.start_at, end_at = NEW.end_at, kept_from = NEW.kept_from, kept_until = NEW.kept_until,
        overlap_allowed = NEW.overlap_allowed
    WHERE booking_id = NEW.id AND state <> 'left';
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER booking_host_overlap_insert BEFORE INSERT ON booking_host
WHEN NEW.state = 'booked' AND NEW.overlap_allowed = 0
BEGIN
    SELECT RAISE(ABORT, 'booking overlap') FROM booking_host b
    WHERE b.person_id = NEW.person_id AND b.booking_id <> NEW.booking_id AND b.state = 'booked' AND b.overlap_allowed = 0
      AND b.kept_from < NEW.kept_until AND NEW.kept_from < b.kept_until
      AND (b.start_at < NEW.kept_until AND NEW.kept_from < b.end_at
        OR b.kept_from < NEW.end_at AND NEW.start_at < b.kept_until
        OR NOT (SELECT share_buffers FROM workspace JOIN person ON person.workspace_id = workspace.id WHERE person.id = NEW.person_id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER booking_host_overlap_update BEFORE UPDATE OF person_id, state, start_at, end_at, kept_from, kept_until, overlap_allowed ON booking_host
WHEN NEW.state = 'booked' AND NEW.overlap_allowed = 0
BEGIN
    SELECT RAISE(ABORT, 'booking overlap') FROM booking_host b
    WHERE b.person_id = NEW.person_id AND b.booking_id <> NEW.booking_id AND b.state = 'booked' AND b.overlap_allowed = 0
      AND b.kept_from < NEW.kept_until AND NEW.kept_from < b.kept_until
      AND (b.start_at < NEW.kept_until AND NEW.kept_from < b.end_at
        OR b.kept_from < NEW.end_at AND NEW.start_at < b.kept_until
        OR NOT (SELECT share_buffers FROM workspace JOIN person ON person.workspace_id = workspace.id WHERE person.id = NEW.person_id));
END;
-- +goose StatementEnd

-- Whose hand a step was, and from whom to whom a booking went over.
ALTER TABLE booking_step ADD COLUMN person_id INTEGER REFERENCES person (id);
ALTER TABLE booking_step ADD COLUMN from_id INTEGER REFERENCES person (id);
ALTER TABLE booking_step ADD COLUMN to_id INTEGER REFERENCES person (id);

-- How a calendar's events are drawn, who sees what they are about, and whether the agreed title opens time in it.
ALTER TABLE calendar ADD COLUMN details TEXT NOT NULL DEFAULT 'me' CHECK (details IN ('me', 'colleagues', 'nobody'));
ALTER TABLE calendar ADD COLUMN pattern TEXT NOT NULL DEFAULT 'rising' CHECK (pattern IN ('rising', 'falling', 'wide', 'paired'));
ALTER TABLE calendar ADD COLUMN tone TEXT NOT NULL DEFAULT 'ink' CHECK (tone IN ('ink', 'moss', 'lake', 'plum', 'clay'));
ALTER TABLE calendar ADD COLUMN read_only INTEGER NOT NULL DEFAULT 0; -- its server lets nothing be written
ALTER TABLE calendar ADD COLUMN skew INTEGER NOT NULL DEFAULT 0;      -- seconds that its server's clock is ahead
ALTER TABLE calendar ADD COLUMN may_open INTEGER NOT NULL DEFAULT 1;
ALTER TABLE person ADD COLUMN open_type INTEGER REFERENCES meeting_type (id) ON DELETE SET NULL; -- the title opens time for this one; for all if there is none
