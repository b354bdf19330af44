-- +goose Up

-- Calendars come over CalDAV, from an iCalendar address that is asked again and again, or from a file.
ALTER TABLE calendar_account ADD COLUMN kind TEXT NOT NULL DEFAULT 'caldav' CHECK (kind IN ('caldav', 'feed', 'file'));

-- What counts of a calendar, and when it is asked again after it could not be read.
ALTER TABLE calendar ADD COLUMN shown INTEGER NOT NULL DEFAULT 1;         -- is it read and shown at all?
ALTER TABLE calendar ADD COLUMN tentative INTEGER NOT NULL DEFAULT 1;     -- do tentative events block?
ALTER TABLE calendar ADD COLUMN all_day INTEGER NOT NULL DEFAULT 1;       -- do all-day events block?
ALTER TABLE calendar ADD COLUMN fails INTEGER NOT NULL DEFAULT 0;         -- readings that failed in a row
ALTER TABLE calendar ADD COLUMN try_at INTEGER NOT NULL DEFAULT 0;        -- not before, in the background
ALTER TABLE calendar ADD COLUMN trouble_since INTEGER NOT NULL DEFAULT 0;
ALTER TABLE calendar ADD COLUMN told INTEGER NOT NULL DEFAULT 0;          -- was its owner told of the trouble by mail?
ALTER TABLE calendar_resource ADD COLUMN events INTEGER NOT NULL DEFAULT 1;
ALTER TABLE busy ADD COLUMN opens INTEGER NOT NULL DEFAULT 0;             -- has the title that opens time

-- What a person decides about calendars: whether a copy that can't be renewed is trusted, and for how long; the title of
-- events that open time instead of the week, or nothing; and the private addresses of the feeds.
ALTER TABLE person ADD COLUMN unreachable TEXT NOT NULL DEFAULT 'trust' CHECK (unreachable IN ('trust', 'nothing'));
ALTER TABLE person ADD COLUMN trust_hours INTEGER NOT NULL DEFAULT 24;
ALTER TABLE person ADD COLUMN open_title TEXT NOT NULL DEFAULT '';
ALTER TABLE person ADD COLUMN feed_number INTEGER NOT NULL DEFAULT 0;     -- rises with every new address; 0 is none
ALTER TABLE person ADD COLUMN feed_hash TEXT NOT NULL DEFAULT '';
CREATE INDEX person_by_feed ON person (feed_hash) WHERE feed_hash <> '';

-- A clash that the host decided to live with: the booking keeps the time beside the event.
ALTER TABLE booking ADD COLUMN clash_kept TEXT NOT NULL DEFAULT ''; -- the UIDs of those events, with spaces between

-- +goose Down
ALTER TABLE booking DROP COLUMN clash_kept;
DROP INDEX person_by_feed;
ALTER TABLE person DROP COLUMN feed_hash;
ALTER TABLE person DROP COLUMN feed_number;
ALTER TABLE person DROP COLUMN open_title;
ALTER TABLE person DROP COLUMN trust_hours;
ALTER TABLE person DROP COLUMN unreachable;
ALTER TABLE busy DROP COLUMN opens;
ALTER TABLE calendar_resource DROP COLUMN events;
ALTER TABLE calendar DROP COLUMN told;
ALTER TABLE calendar DROP COLUMN trouble_since;
ALTER TABLE calendar DROP COLUMN try_at;
ALTER TABLE calendar DROP COLUMN fails;
ALTER TABLE calendar DROP COLUMN all_day;
ALTER TABLE calendar DROP COLUMN tentative;
ALTER TABLE calendar DROP COLUMN shown;
ALTER TABLE calendar_account DROP COLUMN kind;
