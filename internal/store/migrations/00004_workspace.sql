-- +goose Up

-- Settings of a workspace: its zone and whether clients see theirs, when its weeks begin, whether neighbouring buffers may
-- share time, and the booking rules that its meeting types follow until they set their own.
ALTER TABLE workspace ADD COLUMN zone TEXT NOT NULL DEFAULT 'UTC';
ALTER TABLE workspace ADD COLUMN zones TEXT NOT NULL DEFAULT 'client' CHECK (zones IN ('client', 'workspace', 'hidden'));
ALTER TABLE workspace ADD COLUMN first_weekday INTEGER NOT NULL DEFAULT 1 CHECK (first_weekday BETWEEN 0 AND 6); -- 0 is Sunday
ALTER TABLE workspace ADD COLUMN share_buffers INTEGER NOT NULL DEFAULT 0;
ALTER TABLE workspace ADD COLUMN rules TEXT NOT NULL -- JSON: app.BookingRules
    DEFAULT '{"before":0,"after":10,"step":15,"notice":240,"noticeInDays":false,"windowDays":60}';
UPDATE workspace SET zone = COALESCE((SELECT person.zone FROM person WHERE person.workspace_id = workspace.id ORDER BY person.id LIMIT 1), 'UTC');

-- Where neighbouring buffers share time, only a meeting may not overlap another's kept time. The update trigger looks at
-- the times alone: bookings made while buffers were shared stay, whatever else of them changes.
DROP TRIGGER booking_overlap_insert;
DROP TRIGGER booking_overlap_update;
-- +goose StatementBegin
CREATE TRIGGER booking_overlap_insert BEFORE INSERT ON booking
WHEN NEW.state = 'booked' AND NEW.overlap_allowed = 0
BEGIN
    SELECT RAISE(ABORT, 'booking overlap') FROM booking b
    WHERE b.host_id = NEW.host_id AND b.state = 'booked' AND b.overlap_allowed = 0
      AND b.kept_from < NEW.kept_until AND NEW.kept_from < b.kept_until
      AND (b.start_at < NEW.kept_until AND NEW.kept_from < b.end_at
        OR b.kept_from < NEW.end_at AND NEW.start_at < b.kept_until
        OR NOT (SELECT share_buffers FROM workspace JOIN person ON person.workspace_id = workspace.id WHERE person.id = NEW.host_id));
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER booking_overlap_update BEFORE UPDATE OF state, host_id, start_at, end_at, kept_from, kept_until, overlap_allowed ON booking
WHEN NEW.state = 'booked' AND NEW.overlap_allowed = 0
BEGIN
    SELECT RAISE(ABORT, 'booking overlap') FROM booking b
    WHERE b.host_id = NEW.host_id AND b.id <> NEW.id AND b.state = 'booked' AND b.overlap_allowed = 0
      AND b.kept_from < NEW.kept_until AND NEW.kept_from < b.kept_until
      AND (b.start_at < NEW.kept_until AND NEW.kept_from < b.end_at
        OR b.kept_from < NEW.end_at AND NEW.start_at < b.kept_until
        OR NOT (SELECT share_buffers FROM workspace JOIN person ON person.workspace_id = workspace.id WHERE person.id = NEW.host_id));
END;
-- +goose StatementEnd

-- More subjects than hours and meeting types have a history now; which they are is the program's to know.
CREATE TABLE setting_change_new (
    id         INTEGER PRIMARY KEY,
    person_id  INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE, -- who changed it
    at         INTEGER NOT NULL,
    subject    TEXT NOT NULL,
    subject_id INTEGER NOT NULL,
    label      TEXT NOT NULL,
    before     TEXT NOT NULL, -- JSON
    undone_at  INTEGER NOT NULL DEFAULT 0
) STRICT;
INSERT INTO setting_change_new SELECT id, person_id, at, subject, subject_id, label, before, undone_at FROM setting_change;
DROP TABLE setting_change;
ALTER TABLE setting_change_new RENAME TO setting_change;
CREATE INDEX setting_change_by_person ON setting_change (person_id, id);
CREATE INDEX setting_change_by_subject ON setting_change (subject, subject_id, id);
