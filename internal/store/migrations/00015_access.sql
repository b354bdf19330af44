-- +goose Up

-- Keys, one for each purpose, encrypted with the installation's key. Only they are used for anything else, so the
-- installation's key can be replaced without touching what they protect.
CREATE TABLE purpose_key (
    purpose TEXT PRIMARY KEY,
    sealed  BLOB NOT NULL
) STRICT;

-- What we last wrote of a booking's event, so that a later change leaves alone what its host made of it; and when it was seen
-- to be gone: it may have gone to another calendar that has not been read since.
ALTER TABLE booking_host ADD COLUMN event_written TEXT NOT NULL DEFAULT ''; -- JSON: invite.Written
ALTER TABLE booking_host ADD COLUMN event_seen_at INTEGER NOT NULL DEFAULT 0;
CREATE INDEX booking_host_missing ON booking_host (person_id) WHERE event_seen = '' AND event_seen_at > 0;
CREATE INDEX booking_host_orphan ON booking_host (person_id, start_at) WHERE event_calendar IS NULL AND event_href <> '';

-- Under which addresses the server knows the account's user (RFC 6638, 2.4.1), as JSON; empty until it was asked.
ALTER TABLE calendar_account ADD COLUMN addresses TEXT NOT NULL DEFAULT '';
