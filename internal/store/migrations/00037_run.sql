-- +goose Up

-- Mails are named after their jobs, whose numbers rewind when a copy is restored, while mail servers and sent.log remember the names. So
-- each start of the program has a name of its own, that goes into those of the jobs which are planned from then on.
CREATE TABLE run (
    from_job INTEGER PRIMARY KEY, -- the number of the first job that it can have planned
    name     TEXT NOT NULL
) STRICT;

-- +goose Down
DROP TABLE run;
