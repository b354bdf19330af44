-- +goose Up

-- What clients said of meetings once these were over, each once. The type and its host stand here for the averages.
CREATE TABLE feedback (
    booking_id INTEGER PRIMARY KEY REFERENCES seat (id) ON DELETE CASCADE,
    type_id    INTEGER NOT NULL REFERENCES meeting_type (id),
    host_id    INTEGER NOT NULL REFERENCES person (id),
    rating     INTEGER NOT NULL CHECK (rating BETWEEN 1 AND 5),
    remark     TEXT NOT NULL DEFAULT '',
    given_at   INTEGER NOT NULL
) STRICT;
CREATE INDEX feedback_by_type ON feedback (type_id, host_id, rating);

-- +goose Down
DROP TABLE feedback;
