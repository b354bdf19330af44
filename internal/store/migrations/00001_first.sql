-- +goose Up

-- Times are UTC seconds. Local rules are texts on a wall clock with the name of its zone beside them. What is queried or
-- constrained is a column; nested settings are one JSON document per row.

CREATE TABLE workspace (
    id   INTEGER PRIMARY KEY,
    slug TEXT NOT NULL UNIQUE,
    name TEXT NOT NULL
) STRICT;

CREATE TABLE person (
    id            INTEGER PRIMARY KEY,
    workspace_id  INTEGER NOT NULL REFERENCES workspace (id),
    name          TEXT NOT NULL,
    mail          TEXT NOT NULL UNIQUE COLLATE NOCASE,
    password_hash TEXT NOT NULL,
    zone          TEXT NOT NULL,
    week          TEXT NOT NULL -- JSON: seven hours texts, Monday first
) STRICT;

CREATE TABLE session (
    token   TEXT PRIMARY KEY, -- hashed
    data    BLOB NOT NULL,
    expires INTEGER NOT NULL
) STRICT;
CREATE INDEX session_expires ON session (expires);

CREATE TABLE meeting_type (
    id           INTEGER PRIMARY KEY,
    workspace_id INTEGER NOT NULL REFERENCES workspace (id),
    host_id      INTEGER NOT NULL REFERENCES person (id),
    slug         TEXT NOT NULL CHECK (slug = lower(slug)),
    name         TEXT NOT NULL,
    description  TEXT NOT NULL,
    rules        TEXT NOT NULL, -- JSON: app.TypeRules
    UNIQUE (workspace_id, slug)
) STRICT;

CREATE TABLE calendar_account (
    id        INTEGER PRIMARY KEY,
    person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    address   TEXT NOT NULL,
    username  TEXT NOT NULL,
    secret    BLOB NOT NULL, -- the password, encrypted with the installation's key
    UNIQUE (person_id, address, username)
) STRICT;

CREATE TABLE calendar (
    id         INTEGER PRIMARY KEY,
    account_id INTEGER NOT NULL REFERENCES calendar_account (id) ON DELETE CASCADE,
    href       TEXT NOT NULL,
    name       TEXT NOT NULL,
    blocks     INTEGER NOT NULL,           -- does it block time?
    receives   INTEGER NOT NULL,           -- are bookings written to it?
    state      TEXT NOT NULL DEFAULT '',   -- the server's word for what we have seen: a sync-token or CTag
    read_at    INTEGER NOT NULL DEFAULT 0, -- last successful reading
    read_until INTEGER NOT NULL DEFAULT 0, -- busy times are worked out up to here
    trouble    TEXT NOT NULL DEFAULT '',   -- why the last reading failed, for its owner
    UNIQUE (account_id, href)
) STRICT;

-- One row per calendar resource, kept raw so that busy times can be worked out again without asking the server.
CREATE TABLE calendar_resource (
    calendar_id INTEGER NOT NULL REFERENCES calendar (id) ON DELETE CASCADE,
    href        TEXT NOT NULL,
    etag        TEXT NOT NULL,
    ics         TEXT NOT NULL,
    trouble     TEXT NOT NULL DEFAULT '', -- what of it could not be read
    PRIMARY KEY (calendar_id, href)
) STRICT, WITHOUT ROWID;

CREATE TABLE busy (
    calendar_id INTEGER NOT NULL,
    href        TEXT NOT NULL,
    start_at    INTEGER NOT NULL,
    end_at      INTEGER NOT NULL,
    uid         TEXT NOT NULL,
    title       TEXT NOT NULL,
    FOREIGN KEY (calendar_id, href) REFERENCES calendar_resource (calendar_id, href) ON DELETE CASCADE
) STRICT;
CREATE INDEX busy_by_time ON busy (calendar_id, end_at);
CREATE INDEX busy_by_resource ON busy (calendar_id, href);

CREATE TABLE booking (
    id              INTEGER PRIMARY KEY,
    uid             TEXT NOT NULL UNIQUE,  -- iCalendar UID, the same for the client and the host
    sequence        INTEGER NOT NULL DEFAULT 0,
    type_id         INTEGER NOT NULL REFERENCES meeting_type (id),
    host_id         INTEGER NOT NULL REFERENCES person (id),
    state           TEXT NOT NULL CHECK (state IN ('booked', 'cancelled')),
    start_at        INTEGER NOT NULL,
    end_at          INTEGER NOT NULL CHECK (end_at > start_at),
    kept_from       INTEGER NOT NULL CHECK (kept_from <= start_at), -- with the buffer before
    kept_until      INTEGER NOT NULL CHECK (kept_until >= end_at),  -- with the buffer after
    overlap_allowed INTEGER NOT NULL DEFAULT 0,                     -- a deliberate overlap carries its own mark
    type_name       TEXT NOT NULL,                                  -- as it was called when booked
    client_name     TEXT NOT NULL,
    client_mail     TEXT NOT NULL,
    client_zone     TEXT NOT NULL,
    remark          TEXT NOT NULL,
    room            TEXT NOT NULL DEFAULT '',  -- JSON: app.Room, once there is one
    event_href      TEXT NOT NULL DEFAULT '',  -- the event in the host's calendar, once there is one
    event_etag      TEXT NOT NULL DEFAULT '',
    event_calendar  INTEGER REFERENCES calendar (id) ON DELETE SET NULL,
    link_hash       TEXT NOT NULL UNIQUE,
    request_key     TEXT NOT NULL UNIQUE,      -- a repeated request finds its booking instead of making another
    created_at      INTEGER NOT NULL
) STRICT;
CREATE INDEX booking_by_host ON booking (host_id, start_at);

-- A double booking is impossible in the data: neither a new row nor a change may let the kept times of one host overlap.
-- +goose StatementBegin
CREATE TRIGGER booking_overlap_insert BEFORE INSERT ON booking
WHEN NEW.state = 'booked' AND NEW.overlap_allowed = 0
BEGIN
    SELECT RAISE(ABORT, 'booking overlap') FROM booking b
    WHERE b.host_id = NEW.host_id AND b.state = 'booked' AND b.overlap_allowed = 0
      AND b.kept_from < NEW.kept_until AND NEW.kept_from < b.kept_until;
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER booking_overlap_update BEFORE UPDATE ON booking
WHEN NEW.state = 'booked' AND NEW.overlap_allowed = 0
BEGIN
    SELECT RAISE(ABORT, 'booking overlap') FROM booking b
    WHERE b.host_id = NEW.host_id AND b.id <> NEW.id AND b.state = 'booked' AND b.overlap_allowed = 0
      AND b.kept_from < NEW.kept_until AND NEW.kept_from < b.kept_until;
END;
-- +goose StatementEnd

-- Every step of a booking's life, with who and why.
CREATE TABLE booking_step (
    id         INTEGER PRIMARY KEY,
    booking_id INTEGER NOT NULL REFERENCES booking (id),
    at         INTEGER NOT NULL,
    kind       TEXT NOT NULL CHECK (kind IN ('booked', 'moved', 'cancelled')),
    by         TEXT NOT NULL CHECK (by IN ('client', 'host')),
    note       TEXT NOT NULL DEFAULT ''
) STRICT;
CREATE INDEX booking_step_by_booking ON booking_step (booking_id);

-- What has to happen after a booking, written in the booking's transaction and done by one worker.
CREATE TABLE outbox (
    id         INTEGER PRIMARY KEY,
    booking_id INTEGER NOT NULL REFERENCES booking (id),
    sequence   INTEGER NOT NULL, -- the booking's at that time; a later one makes most tasks pointless
    task       TEXT NOT NULL CHECK (task IN ('room', 'calendar', 'mail-client', 'mail-host')),
    occasion   TEXT NOT NULL CHECK (occasion IN ('booked', 'moved', 'cancelled')),
    state      TEXT NOT NULL DEFAULT 'waiting' CHECK (state IN ('waiting', 'done', 'dropped', 'failed')),
    due_at     INTEGER NOT NULL,
    attempts   INTEGER NOT NULL DEFAULT 0,
    trouble    TEXT NOT NULL DEFAULT '',
    ended_at   INTEGER NOT NULL DEFAULT 0
) STRICT;
CREATE INDEX outbox_due ON outbox (due_at) WHERE state = 'waiting';
CREATE INDEX outbox_by_booking ON outbox (booking_id, id);

-- +goose Down
DROP TABLE outbox;
DROP TABLE booking_step;
DROP TABLE booking;
DROP TABLE busy;
DROP TABLE calendar_resource;
DROP TABLE calendar;
DROP TABLE calendar_account;
DROP TABLE meeting_type;
DROP TABLE session;
DROP TABLE person;
DROP TABLE workspace;
