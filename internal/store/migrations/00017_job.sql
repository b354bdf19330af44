-- +goose Up

-- What has to happen after something was written, in one table, whatever it is about. What is done is in job_log.
-- No way back: what waits here would have to be split by what it is about. To go back, put the copy from before in its place.
CREATE TABLE job (
    id          INTEGER PRIMARY KEY AUTOINCREMENT, -- never given again: mails are named after it
    key         TEXT NOT NULL UNIQUE,              -- what is planned twice, is done once
    kind        TEXT NOT NULL,                     -- which there are is the program's to know
    lane        TEXT NOT NULL,                     -- the service that it needs
    subject     TEXT NOT NULL,                     -- what it is about: 'booking', 'letter'
    subject_id  INTEGER NOT NULL,
    revision    INTEGER NOT NULL DEFAULT 0,        -- the subject's at that time; a later one makes most jobs pointless
    person_id   INTEGER NOT NULL DEFAULT 0,        -- whom it is for, if it is for one
    occasion    TEXT NOT NULL DEFAULT '',
    series      TEXT NOT NULL DEFAULT '',
    due_at      INTEGER NOT NULL,
    expires_at  INTEGER NOT NULL DEFAULT 0,        -- not tried any more then; 0 is never
    after_id    INTEGER NOT NULL DEFAULT 0,        -- waits for this job,
    after_until INTEGER NOT NULL DEFAULT 0,        -- but not longer
    begun       INTEGER NOT NULL DEFAULT 0 CHECK (begun IN (0, 1)), -- it is not known how it ended
    anew        INTEGER NOT NULL DEFAULT 0 CHECK (anew IN (0, 1)),  -- planned once more while it was being done
    touched_at  INTEGER NOT NULL,                  -- when it was planned or last begun
    attempts    INTEGER NOT NULL DEFAULT 0,
    fails       INTEGER NOT NULL DEFAULT 0,        -- those that were its own fault, not its service's
    trouble     TEXT NOT NULL DEFAULT '',
    away        INTEGER NOT NULL DEFAULT 0 CHECK (away IN (0, 1))   -- the trouble is its service's
) STRICT;
CREATE INDEX job_by_lane ON job (lane, due_at, id);
CREATE INDEX job_by_subject ON job (subject, subject_id, kind, id);
CREATE INDEX job_by_series ON job (series, id) WHERE series <> '';
CREATE INDEX job_begun ON job (id) WHERE begun = 1;
CREATE INDEX job_in_trouble ON job (subject, subject_id) WHERE trouble <> '';

CREATE TABLE job_log (
    id         INTEGER PRIMARY KEY, -- the job's
    kind       TEXT NOT NULL,
    subject    TEXT NOT NULL,
    subject_id INTEGER NOT NULL,
    occasion   TEXT NOT NULL,
    outcome    TEXT NOT NULL CHECK (outcome IN ('done', 'dropped', 'failed')),
    attempts   INTEGER NOT NULL,
    trouble    TEXT NOT NULL,
    ended_at   INTEGER NOT NULL
) STRICT;
CREATE INDEX job_log_by_end ON job_log (ended_at);
CREATE INDEX job_log_failed ON job_log (subject, subject_id) WHERE outcome = 'failed';

-- Waiting tasks keep their numbers; the last one given before is given as if it had been taken.
INSERT INTO job (id, key, kind, lane, subject, subject_id, revision, occasion, series, due_at, touched_at, attempts, fails, trouble)
SELECT id, 'task ' || id, task, CASE task WHEN 'room' THEN 'rooms' WHEN 'calendar' THEN 'calendars' ELSE 'mail' END,
    'booking', booking_id, sequence, occasion, series, due_at, due_at, attempts, attempts, trouble
FROM outbox WHERE state = 'waiting';
INSERT INTO job (id, key, kind, lane, subject, subject_id, due_at, touched_at)
SELECT COALESCE(MAX(id), 0) + 1, 'none', 'none', 'none', 'none', 0, 0, 0 FROM outbox;
DELETE FROM job WHERE key = 'none';
INSERT INTO job_log (id, kind, subject, subject_id, occasion, outcome, attempts, trouble, ended_at)
SELECT id, task, 'booking', booking_id, occasion, state, attempts, trouble, ended_at FROM outbox WHERE state = 'failed';

-- Which of several letters of a job have gone out, until all have.
CREATE TABLE letter_gone (
    job_id INTEGER NOT NULL,
    letter TEXT NOT NULL,
    PRIMARY KEY (job_id, letter)
) STRICT, WITHOUT ROWID;
INSERT INTO letter_gone SELECT task_id, letter FROM letter_sent WHERE task_id IN (SELECT id FROM job);
DROP TABLE letter_sent;
DROP TABLE outbox;

-- Letters that wait have a job each; what a letter says stays here until it is out.
INSERT INTO job (key, kind, lane, subject, subject_id, due_at, touched_at, attempts, fails, trouble)
SELECT 'letter ' || id, 'letter', 'mail', 'letter', id, due_at, created_at, attempts, attempts, trouble FROM letter WHERE state = 'waiting';
DROP INDEX letter_due;
DROP INDEX letter_trouble;
CREATE INDEX letter_trouble ON letter (person_id, created_at) WHERE state <> 'done';
ALTER TABLE letter DROP COLUMN due_at;
ALTER TABLE letter DROP COLUMN attempts;
