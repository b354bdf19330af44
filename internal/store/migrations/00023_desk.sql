-- +goose Up

-- What is to come of a type, not all that it ever was booked for.
CREATE INDEX meeting_to_come ON meeting (type_id, end_at) WHERE state = 'booked';

-- How what was planned for a booking ended, not only what failed.
DROP INDEX job_log_failed;
CREATE INDEX job_log_by_subject ON job_log (subject, subject_id, ended_at);

-- +goose Down
DROP INDEX job_log_by_subject;
CREATE INDEX job_log_failed ON job_log (subject, subject_id) WHERE outcome = 'failed';
DROP INDEX meeting_to_come;
