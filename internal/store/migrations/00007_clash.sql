-- +goose Up

-- More steps and occasions than at first: which there are is the program's to know.
CREATE TABLE booking_step_new (
    id         INTEGER PRIMARY KEY,
    booking_id INTEGER NOT NULL REFERENCES booking (id),
    at         INTEGER NOT NULL,
    kind       TEXT NOT NULL,
    by         TEXT NOT NULL CHECK (by IN ('client', 'host')),
    note       TEXT NOT NULL DEFAULT ''
) STRICT;
INSERT INTO booking_step_new SELECT id, booking_id, at, kind, by, note FROM booking_step;
DROP TABLE booking_step;
ALTER TABLE booking_step_new RENAME TO booking_step;
CREATE INDEX booking_step_by_booking ON booking_step (booking_id);

CREATE TABLE outbox_new (
    id         INTEGER PRIMARY KEY,
    booking_id INTEGER NOT NULL REFERENCES booking (id),
    sequence   INTEGER NOT NULL, -- the booking's at that time; a later one makes most tasks pointless
    task       TEXT NOT NULL CHECK (task IN ('room', 'calendar', 'mail-client', 'mail-host')),
    occasion   TEXT NOT NULL,
    state      TEXT NOT NULL DEFAULT 'waiting' CHECK (state IN ('waiting', 'done', 'dropped', 'failed')),
    due_at     INTEGER NOT NULL,
    attempts   INTEGER NOT NULL DEFAULT 0,
    trouble    TEXT NOT NULL DEFAULT '',
    ended_at   INTEGER NOT NULL DEFAULT 0
) STRICT;
INSERT INTO outbox_new SELECT id, booking_id, sequence, task, occasion, state, due_at, attempts, trouble, ended_at FROM outbox;
DROP TABLE outbox;
ALTER TABLE outbox_new RENAME TO outbox;
CREATE INDEX outbox_due ON outbox (due_at) WHERE state = 'waiting';
CREATE INDEX outbox_by_booking ON outbox (booking_id, id);

-- What the host did to the booking's event in their own calendar, as long as nothing was decided about it: gone, or moved
-- to other times.
ALTER TABLE booking ADD COLUMN event_seen TEXT NOT NULL DEFAULT '' CHECK (event_seen IN ('', 'gone', 'moved'));
ALTER TABLE booking ADD COLUMN event_start INTEGER NOT NULL DEFAULT 0;
ALTER TABLE booking ADD COLUMN event_end INTEGER NOT NULL DEFAULT 0;
CREATE INDEX booking_by_event ON booking (event_calendar, event_href) WHERE event_href <> '';

-- Whether such a change is asked about or followed.
ALTER TABLE person ADD COLUMN event_change TEXT NOT NULL DEFAULT 'ask' CHECK (event_change IN ('ask', 'follow'));
