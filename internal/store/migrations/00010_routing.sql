-- +goose Up

-- People: what they may do, whether they take bookings, what they speak and know, and whether they are still here.
ALTER TABLE person ADD COLUMN role TEXT NOT NULL DEFAULT 'member' CHECK (role IN ('owner', 'coordinator', 'member', 'viewer'));
ALTER TABLE person ADD COLUMN bookable INTEGER NOT NULL DEFAULT 1;
ALTER TABLE person ADD COLUMN attributes TEXT NOT NULL DEFAULT '{}'; -- JSON: lists of values by name
ALTER TABLE person ADD COLUMN removed_at INTEGER NOT NULL DEFAULT 0;
UPDATE person SET role = 'owner' WHERE id IN (SELECT MIN(id) FROM person GROUP BY workspace_id);

CREATE TABLE invitation (
    id           INTEGER PRIMARY KEY,
    workspace_id INTEGER NOT NULL REFERENCES workspace (id),
    name         TEXT NOT NULL,
    mail         TEXT NOT NULL COLLATE NOCASE,
    role         TEXT NOT NULL CHECK (role IN ('owner', 'coordinator', 'member', 'viewer')),
    link_hash    TEXT NOT NULL UNIQUE,
    invited_by   INTEGER NOT NULL REFERENCES person (id),
    expires_at   INTEGER NOT NULL,
    used_at      INTEGER NOT NULL DEFAULT 0
) STRICT;

CREATE TABLE team (
    id           INTEGER PRIMARY KEY,
    workspace_id INTEGER NOT NULL REFERENCES workspace (id),
    name         TEXT NOT NULL COLLATE NOCASE,
    UNIQUE (workspace_id, name)
) STRICT;
CREATE TABLE team_member (
    team_id   INTEGER NOT NULL REFERENCES team (id) ON DELETE CASCADE,
    person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    joined_at INTEGER NOT NULL,
    PRIMARY KEY (team_id, person_id)
) STRICT, WITHOUT ROWID;

-- How a meeting type's bookings find their hosts, who may book, and how often the type was changed.
ALTER TABLE meeting_type ADD COLUMN routing TEXT NOT NULL DEFAULT ''; -- JSON: app.TypeRouting; empty: its own host alone
ALTER TABLE meeting_type ADD COLUMN who TEXT NOT NULL DEFAULT 'anyone' CHECK (who IN ('anyone', 'organisation', 'nobody'));
ALTER TABLE meeting_type ADD COLUMN version INTEGER NOT NULL DEFAULT 1;

-- Who was given which booking, and why. A booking that was cancelled or handed over is given back.
CREATE TABLE assignment (
    id         INTEGER PRIMARY KEY,
    booking_id INTEGER NOT NULL REFERENCES booking (id),
    type_id    INTEGER NOT NULL REFERENCES meeting_type (id),
    person_id  INTEGER NOT NULL REFERENCES person (id),
    at         INTEGER NOT NULL,
    reason     TEXT NOT NULL, -- JSON: app.assigned
    given_back INTEGER NOT NULL DEFAULT 0
) STRICT;
CREATE INDEX assignment_by_type ON assignment (type_id, at);
CREATE INDEX assignment_by_booking ON assignment (booking_id);
INSERT INTO assignment (booking_id, type_id, person_id, at, reason, given_back)
SELECT id, type_id, host_id, created_at, '{"kind":"only"}', state = 'cancelled' FROM booking;

-- Corrections of a ledger by hand.
CREATE TABLE ledger_correction (
    id        INTEGER PRIMARY KEY,
    type_id   INTEGER NOT NULL REFERENCES meeting_type (id),
    person_id INTEGER NOT NULL REFERENCES person (id),
    at        INTEGER NOT NULL,
    credit    INTEGER NOT NULL,
    remark    TEXT NOT NULL,
    by_id     INTEGER NOT NULL REFERENCES person (id)
) STRICT;
CREATE INDEX ledger_correction_by_type ON ledger_correction (type_id, at);

ALTER TABLE booking ADD COLUMN answers TEXT NOT NULL DEFAULT '{}'; -- JSON: what the client answered, by attribute
CREATE INDEX booking_by_client ON booking (client_mail COLLATE NOCASE, id);

-- +goose Down
DROP INDEX booking_by_client;
ALTER TABLE booking DROP COLUMN answers;
DROP TABLE ledger_correction;
DROP TABLE assignment;
ALTER TABLE meeting_type DROP COLUMN version;
ALTER TABLE meeting_type DROP COLUMN who;
ALTER TABLE meeting_type DROP COLUMN routing;
DROP TABLE team_member;
DROP TABLE team;
DROP TABLE invitation;
ALTER TABLE person DROP COLUMN removed_at;
ALTER TABLE person DROP COLUMN attributes;
ALTER TABLE person DROP COLUMN bookable;
ALTER TABLE person DROP COLUMN role;
