-- +goose Up

-- Every change of a person's settings: what it was, in words, and how things were before, so that it can be undone.
CREATE TABLE setting_change (
    id         INTEGER PRIMARY KEY,
    person_id  INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE, -- who changed it
    at         INTEGER NOT NULL,
    subject    TEXT NOT NULL CHECK (subject IN ('hours', 'meeting-type')),
    subject_id INTEGER NOT NULL,
    label      TEXT NOT NULL,
    before     TEXT NOT NULL, -- JSON
    undone_at  INTEGER NOT NULL DEFAULT 0
) STRICT;
CREATE INDEX setting_change_by_person ON setting_change (person_id, id);

-- +goose Down
DROP TABLE setting_change;
