-- +goose Up

-- What is to come of a type, not all that it ever was booked for.
CREATE INDEX meeting_to_come ON meeting (type_id, end_at) WHERE state = 'booked';

-- +goose Down
DROP INDEX meeting_to_come;
