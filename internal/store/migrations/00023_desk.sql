-- +goose Up

-- What is to come of a type, not all that it ever was booked for.
CREATE INDEX meeting_to_come ON meeting (type_id, end_at) WHERE state = 'booked';

-- How what was planned for a booking ended, not only what failed.
DROP INDEX job_log_failed;
CREATE INDEX job_log_by_subject ON job_log (subject, subject_id, ended_at);

-- The words by which clients are found, each by its first letters, without accents. A row is known by the client's latest seat.
CREATE VIRTUAL TABLE client_words USING fts5 (words, tokenize = 'unicode61 remove_diacritics 2', prefix = '2 3');
INSERT INTO client_words (rowid, words) SELECT latest_id, name || ' ' || mail FROM client;
-- +goose StatementBegin
CREATE TRIGGER client_words_added AFTER INSERT ON client
BEGIN
    INSERT INTO client_words (rowid, words) VALUES (NEW.latest_id, NEW.name || ' ' || NEW.mail);
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER client_words_changed AFTER UPDATE OF latest_id, name ON client WHEN OLD.latest_id <> NEW.latest_id OR OLD.name <> NEW.name
BEGIN
    DELETE FROM client_words WHERE rowid = OLD.latest_id;
    INSERT INTO client_words (rowid, words) VALUES (NEW.latest_id, NEW.name || ' ' || NEW.mail);
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER client_words_gone AFTER DELETE ON client
BEGIN
    DELETE FROM client_words WHERE rowid = OLD.latest_id;
END;
-- +goose StatementEnd

-- +goose Down
DROP TRIGGER client_words_gone;
DROP TRIGGER client_words_changed;
DROP TRIGGER client_words_added;
DROP TABLE client_words;
DROP INDEX job_log_by_subject;
CREATE INDEX job_log_failed ON job_log (subject, subject_id) WHERE outcome = 'failed';
DROP INDEX meeting_to_come;
