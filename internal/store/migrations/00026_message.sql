-- +goose Up

-- What the clock sends before and after meetings, as JSON: app.timedMessages.
ALTER TABLE workspace ADD COLUMN messages TEXT NOT NULL DEFAULT '{}';

-- Which of these messages have been given to the worker, for a meeting at a time: each once.
CREATE TABLE message_done (
    rule_id    INTEGER NOT NULL,
    booking_id INTEGER NOT NULL REFERENCES seat (id) ON DELETE CASCADE,
    start_at   INTEGER NOT NULL,
    job_id     INTEGER NOT NULL, -- which sends it
    PRIMARY KEY (rule_id, booking_id, start_at)
) STRICT, WITHOUT ROWID;
CREATE INDEX message_done_by_job ON message_done (job_id);
CREATE INDEX message_done_by_booking ON message_done (booking_id);

CREATE INDEX meeting_by_start ON meeting (start_at);
CREATE INDEX meeting_by_end ON meeting (end_at);

-- +goose Down
DROP INDEX meeting_by_end;
DROP INDEX meeting_by_start;
DROP TABLE message_done;
ALTER TABLE workspace DROP COLUMN messages;
