-- +goose Up

-- How far the setting up of a workspace has come: the next step, or 0 once it is done.
ALTER TABLE workspace ADD COLUMN setup_step INTEGER NOT NULL DEFAULT 0;

-- Pictures of a workspace's pages, by the hash of what is in them.
CREATE TABLE image (
    hash         TEXT PRIMARY KEY,
    workspace_id INTEGER NOT NULL REFERENCES workspace (id),
    media        TEXT NOT NULL,
    bytes        BLOB NOT NULL
) STRICT;

-- Offers for one client: times picked by hand, to be taken once until a moment.
CREATE TABLE one_off (
    id           INTEGER PRIMARY KEY,
    type_id      INTEGER NOT NULL REFERENCES meeting_type (id),
    host_id      INTEGER NOT NULL REFERENCES person (id),
    made_by      INTEGER NOT NULL REFERENCES person (id),
    client_name  TEXT NOT NULL,
    client_mail  TEXT NOT NULL,
    word         TEXT NOT NULL,
    starts       TEXT NOT NULL, -- JSON: UTC seconds
    minutes      INTEGER NOT NULL,
    until        INTEGER NOT NULL,
    link_hash    TEXT NOT NULL UNIQUE,
    created_at   INTEGER NOT NULL,
    opened_at    INTEGER NOT NULL DEFAULT 0,
    withdrawn_at INTEGER NOT NULL DEFAULT 0,
    booking_id   INTEGER REFERENCES booking (id)
) STRICT;
CREATE INDEX one_off_by_host ON one_off (host_id, id);
