-- +goose Up

-- How a client proves to be one: was yes or no for a code by mail, is now '', 'code' or 'puzzle'. Kept former settings too.
UPDATE meeting_type SET offer = json_set(offer, '$.proof', CASE json_extract(offer, '$.proof') WHEN 1 THEN 'code' ELSE '' END) WHERE offer <> '';
UPDATE setting_change SET before = json_set(before, '$.proof', CASE json_extract(before, '$.proof') WHEN 1 THEN 'code' ELSE '' END) WHERE subject = 'offer';

-- Rules of an offer's own, where the client chooses among open times instead of picked ones.
ALTER TABLE one_off ADD COLUMN rules TEXT NOT NULL DEFAULT ''; -- JSON

ALTER TABLE person ADD COLUMN photo TEXT NOT NULL DEFAULT ''; -- a picture's hash
ALTER TABLE person ADD COLUMN no_page INTEGER NOT NULL DEFAULT 0; -- clients see no page of theirs
ALTER TABLE booking ADD COLUMN confirmed_start INTEGER NOT NULL DEFAULT 0; -- the start for which the client has said that they come
ALTER TABLE workspace ADD COLUMN looks_draft TEXT NOT NULL DEFAULT ''; -- JSON: looks that are not published yet

-- Which letters of a task are out, so that one that is refused doesn't repeat the others.
CREATE TABLE letter_sent (
    task_id INTEGER NOT NULL REFERENCES outbox (id) ON DELETE CASCADE,
    letter  TEXT NOT NULL, -- its message ID
    PRIMARY KEY (task_id, letter)
) STRICT, WITHOUT ROWID;
