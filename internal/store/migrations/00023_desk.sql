-- +goose Up

-- What is to come of a type, not all that it ever was booked for.
CREATE INDEX meeting_to_come ON meeting (type_id, end_at) WHERE state = 'booked';

-- How what was planned for a booking ended, not only what failed.
DROP INDEX job_log_failed;
CREATE INDEX job_log_by_subject ON job_log (subject, subject_id, ended_at);

-- The words by which clients are found, each by its first letters, without accents. A client's row there has a number that stays: that
-- of their latest seat when they were first listed.
ALTER TABLE client ADD COLUMN words_id INTEGER NOT NULL DEFAULT 0;
UPDATE client SET words_id = latest_id;
CREATE INDEX client_by_words ON client (words_id);
CREATE VIRTUAL TABLE client_words USING fts5 (words, tokenize = 'unicode61 remove_diacritics 2', prefix = '2 3');
INSERT INTO client_words (rowid, words) SELECT words_id, name || ' ' || mail FROM client;
-- +goose StatementBegin
CREATE TRIGGER client_words_added AFTER INSERT ON client
BEGIN
    UPDATE client SET words_id = NEW.latest_id WHERE workspace_id = NEW.workspace_id AND mail = NEW.mail;
    INSERT INTO client_words (rowid, words) VALUES (NEW.latest_id, NEW.name || ' ' || NEW.mail);
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER client_words_changed AFTER UPDATE OF name ON client WHEN OLD.name <> NEW.name
BEGIN
    UPDATE client_words SET words = NEW.name || ' ' || NEW.mail WHERE rowid = NEW.words_id;
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER client_words_gone AFTER DELETE ON client
BEGIN
    DELETE FROM client_words WHERE rowid = OLD.words_id;
END;
-- +goose StatementEnd

-- That calendars count has been so for every type: all follow the workspace in it.
UPDATE meeting_type SET rules = json_set(rules, '$.follows', json_insert(coalesce(json_extract(rules, '$.follows'), json('[]')), '$[#]', 'busy'));
UPDATE setting_change SET before = json_set(before, '$.rules.follows', json_insert(coalesce(json_extract(before, '$.rules.follows'), json('[]')), '$[#]', 'busy'))
WHERE subject = 'meeting-type' AND json_type(before, '$.rules') = 'object';

-- +goose Down
UPDATE meeting_type SET rules = json_set(rules, '$.follows', json((SELECT json_group_array(value) FROM json_each(rules, '$.follows') WHERE value <> 'busy')));
UPDATE setting_change SET before = json_set(before, '$.rules.follows', json((SELECT json_group_array(value) FROM json_each(before, '$.rules.follows') WHERE value <> 'busy')))
WHERE subject = 'meeting-type' AND json_type(before, '$.rules') = 'object';
DROP TRIGGER client_words_gone;
DROP TRIGGER client_words_changed;
DROP TRIGGER client_words_added;
DROP TABLE client_words;
DROP INDEX client_by_words;
ALTER TABLE client DROP COLUMN words_id;
DROP INDEX job_log_by_subject;
CREATE INDEX job_log_failed ON job_log (subject, subject_id) WHERE outcome = 'failed';
DROP INDEX meeting_to_come;
