-- +goose Up

-- Time that a person has blocked here, without a calendar.
CREATE TABLE block (
    id        INTEGER PRIMARY KEY AUTOINCREMENT,
    person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    start_at  INTEGER NOT NULL,
    end_at    INTEGER NOT NULL CHECK (end_at > start_at),
    label     TEXT NOT NULL
) STRICT;
CREATE INDEX block_by_person ON block (person_id, end_at);

-- +goose Down
DROP TABLE block;
