-- +goose Up

-- How a meeting type meets its clients: where it is listed, and everything about the form as one document.
ALTER TABLE meeting_type ADD COLUMN listing TEXT NOT NULL DEFAULT 'listed' CHECK (listing IN ('listed', 'link', 'off'));
ALTER TABLE meeting_type ADD COLUMN category TEXT NOT NULL DEFAULT '';
ALTER TABLE meeting_type ADD COLUMN position INTEGER NOT NULL DEFAULT 0; -- its place in lists
ALTER TABLE meeting_type ADD COLUMN offer TEXT NOT NULL DEFAULT '';      -- JSON: app.Offer; empty: as by default
ALTER TABLE meeting_type ADD COLUMN removed_at INTEGER NOT NULL DEFAULT 0;
UPDATE meeting_type SET position = id;

-- The address of a person's own page. A name that makes none gets one with a number.
ALTER TABLE person ADD COLUMN slug TEXT NOT NULL DEFAULT '' CHECK (slug = lower(slug));
UPDATE person SET slug = replace(trim(lower(name)), ' ', '-');
UPDATE person SET slug = 'person-' || id
WHERE slug GLOB '*[^a-z0-9-]*' OR slug = '' OR slug GLOB '*--*' OR slug GLOB '-*' OR slug GLOB '*-'
   OR EXISTS (SELECT 1 FROM person other WHERE other.workspace_id = person.workspace_id AND other.id < person.id AND other.slug = person.slug);
CREATE UNIQUE INDEX person_by_slug ON person (workspace_id, slug);

-- What clients read about the workspace, and its policy texts.
ALTER TABLE workspace ADD COLUMN front TEXT NOT NULL DEFAULT ''; -- JSON: app.Front

-- Where a booking stands in its life (core/life). state follows: it says whether the time is kept ('booked') or free.
ALTER TABLE booking ADD COLUMN life TEXT NOT NULL DEFAULT 'booked'
    CHECK (life IN ('unproved', 'requested', 'booked', 'came', 'missed', 'cancelled', 'declined', 'lapsed'));
UPDATE booking SET life = state;
-- +goose StatementBegin
CREATE TRIGGER booking_state_follows AFTER UPDATE OF life ON booking
BEGIN
    UPDATE booking SET state = CASE WHEN NEW.life IN ('cancelled', 'declined', 'lapsed') THEN 'cancelled' ELSE 'booked' END WHERE id = NEW.id;
END;
-- +goose StatementEnd
ALTER TABLE booking ADD COLUMN way TEXT NOT NULL DEFAULT '{"id":"video","kind":"video"}'; -- JSON: app.WayTaken
ALTER TABLE booking ADD COLUMN said TEXT NOT NULL DEFAULT '[]';      -- JSON: intake.Answer, the questions as they were put
ALTER TABLE booking ADD COLUMN guests TEXT NOT NULL DEFAULT '[]';    -- JSON: mail addresses
ALTER TABLE booking ADD COLUMN consent TEXT NOT NULL DEFAULT '';     -- the sentence that was agreed to, and when
ALTER TABLE booking ADD COLUMN consent_at INTEGER NOT NULL DEFAULT 0;
ALTER TABLE booking ADD COLUMN lapses_at INTEGER NOT NULL DEFAULT 0; -- if nobody has decided or proved it by then
ALTER TABLE booking ADD COLUMN proposed TEXT NOT NULL DEFAULT '[]';  -- JSON: starts in UTC seconds that the host proposes instead
ALTER TABLE booking ADD COLUMN invited INTEGER NOT NULL DEFAULT 0;    -- was it ever booked, so that there is an invitation to take back?
UPDATE booking SET invited = 1;
ALTER TABLE booking ADD COLUMN code_tries INTEGER NOT NULL DEFAULT 0;
CREATE INDEX booking_lapsing ON booking (lapses_at) WHERE life IN ('unproved', 'requested');

-- Corrim itself can take a step too, when a time limit has passed.
CREATE TABLE booking_step_new (
    id         INTEGER PRIMARY KEY,
    booking_id INTEGER NOT NULL REFERENCES booking (id),
    at         INTEGER NOT NULL,
    kind       TEXT NOT NULL,
    by         TEXT NOT NULL CHECK (by IN ('client', 'host', 'clock')),
    note       TEXT NOT NULL DEFAULT '',
    person_id  INTEGER REFERENCES person (id), -- whose hand it was
    from_id    INTEGER REFERENCES person (id), -- from whom to whom the booking went over
    to_id      INTEGER REFERENCES person (id)
) STRICT;
INSERT INTO booking_step_new SELECT id, booking_id, at, kind, by, note, person_id, from_id, to_id FROM booking_step;
DROP TABLE booking_step;
ALTER TABLE booking_step_new RENAME TO booking_step;
CREATE INDEX booking_step_by_booking ON booking_step (booking_id);

-- What the workspace notes about a client, who is known by mail address.
CREATE TABLE client_note (
    workspace_id INTEGER NOT NULL REFERENCES workspace (id),
    mail         TEXT NOT NULL COLLATE NOCASE,
    notes        TEXT NOT NULL,
    PRIMARY KEY (workspace_id, mail)
) STRICT, WITHOUT ROWID;
