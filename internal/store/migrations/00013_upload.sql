-- +goose Up

-- Files that clients send with a form. Until a booking takes one up it belongs to nobody, and goes after a day.
CREATE TABLE upload (
    id         INTEGER PRIMARY KEY,
    token_hash TEXT NOT NULL UNIQUE,
    type_id    INTEGER NOT NULL REFERENCES meeting_type (id),
    booking_id INTEGER REFERENCES booking (id),
    name       TEXT NOT NULL,
    media      TEXT NOT NULL,
    bytes      BLOB NOT NULL,
    created_at INTEGER NOT NULL
) STRICT;
CREATE INDEX upload_by_booking ON upload (booking_id);
CREATE INDEX upload_unclaimed ON upload (created_at) WHERE booking_id IS NULL;
