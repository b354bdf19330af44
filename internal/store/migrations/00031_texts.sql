-- +goose Up

-- Where the code of a booking goes, if it goes by text message; afterwards, the number that it proved.
CREATE TABLE code_phone (
    booking_id   INTEGER PRIMARY KEY REFERENCES seat (id) ON DELETE CASCADE,
    workspace_id INTEGER NOT NULL REFERENCES workspace (id),
    phone        TEXT NOT NULL, -- E.164
    at           INTEGER NOT NULL
) STRICT;
CREATE INDEX code_phone_by_phone ON code_phone (phone, at);

-- Somebody's own number, and the kinds of news that they get there too, as JSON.
ALTER TABLE person ADD COLUMN phone TEXT NOT NULL DEFAULT '';
ALTER TABLE person ADD COLUMN texted TEXT NOT NULL DEFAULT '[]';
CREATE INDEX person_by_phone ON person (phone) WHERE phone <> '';

-- +goose Down
DROP INDEX person_by_phone;
ALTER TABLE person DROP COLUMN texted;
ALTER TABLE person DROP COLUMN phone;
DROP TABLE code_phone;
