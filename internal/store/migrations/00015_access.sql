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

-- Tells this installation from others where messages get their names.
CREATE TABLE installation (id TEXT NOT NULL) STRICT;
INSERT INTO installation VALUES (lower(hex(randomblob(8))));

-- Mail that is about no booking: invitations, offers, notices. What it says may hold secrets, so it is encrypted, and forgotten
-- once it is out.
CREATE TABLE letter (
    id         INTEGER PRIMARY KEY,
    person_id  INTEGER REFERENCES person (id) ON DELETE CASCADE, -- who is told if it can't be sent
    receiver   TEXT NOT NULL,
    subject    TEXT NOT NULL,
    sealed     BLOB NOT NULL,
    state      TEXT NOT NULL DEFAULT 'waiting' CHECK (state IN ('waiting', 'done', 'failed')),
    due_at     INTEGER NOT NULL,
    attempts   INTEGER NOT NULL DEFAULT 0,
    trouble    TEXT NOT NULL DEFAULT '',
    created_at INTEGER NOT NULL
) STRICT;
CREATE INDEX letter_due ON letter (due_at) WHERE state = 'waiting';
CREATE INDEX letter_trouble ON letter (person_id, created_at) WHERE trouble <> '';

-- Whom clients have named as guests, so that nobody can be sent any number of mails by way of this.
CREATE TABLE guest (
    booking_id INTEGER NOT NULL REFERENCES booking (id) ON DELETE CASCADE,
    mail       TEXT NOT NULL COLLATE NOCASE,
    at         INTEGER NOT NULL,
    PRIMARY KEY (booking_id, mail)
) STRICT, WITHOUT ROWID;
CREATE INDEX guest_by_mail ON guest (mail, at);
CREATE INDEX booking_by_type_made ON booking (type_id, created_at);

-- Ways in: who is signed in from where, and links for choosing a new password.
CREATE TABLE sign_in (
    id        INTEGER PRIMARY KEY,
    person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    at        INTEGER NOT NULL,
    seen_at   INTEGER NOT NULL,
    address   TEXT NOT NULL,
    agent     TEXT NOT NULL,
    checked_at INTEGER NOT NULL     -- when the password was last entered in it
) STRICT;
CREATE INDEX sign_in_by_person ON sign_in (person_id, seen_at);
CREATE TABLE password_reset (
    link_hash  TEXT PRIMARY KEY,
    person_id  INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    expires_at INTEGER NOT NULL
) STRICT, WITHOUT ROWID;

-- Attempts to sign in, by account and by address, so that neither can be tried without end.
CREATE TABLE attempt (
    subject TEXT NOT NULL, -- 'account …' or 'address …', hashed
    at      INTEGER NOT NULL
) STRICT;
CREATE INDEX attempt_by_subject ON attempt (subject, at);
CREATE INDEX attempt_by_time ON attempt (at);

-- Whose visit a file came with, until a booking takes it up: the network address, hashed.
ALTER TABLE upload ADD COLUMN sender TEXT NOT NULL DEFAULT '';
CREATE INDEX upload_unclaimed_by_sender ON upload (sender) WHERE booking_id IS NULL;

-- Bookings that were entered together: their mails are one letter with all dates, which waits for the rooms of all.
ALTER TABLE outbox ADD COLUMN series TEXT NOT NULL DEFAULT '';
CREATE INDEX outbox_by_series ON outbox (series, id) WHERE series <> '' AND state = 'waiting';
