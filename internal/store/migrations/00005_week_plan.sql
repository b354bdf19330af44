-- +goose Up

-- Week plans with a name, that several people work by and several meeting types keep to. Whoever has none has a week of
-- their own: person.week, or the week in the meeting type's rules.
CREATE TABLE week_plan (
    id           INTEGER PRIMARY KEY,
    workspace_id INTEGER NOT NULL REFERENCES workspace (id),
    name         TEXT NOT NULL COLLATE NOCASE,
    week         TEXT NOT NULL, -- JSON: seven hours texts, Monday first
    UNIQUE (workspace_id, name)
) STRICT;
ALTER TABLE person ADD COLUMN plan_id INTEGER REFERENCES week_plan (id);
ALTER TABLE meeting_type ADD COLUMN plan_id INTEGER REFERENCES week_plan (id);

-- Time off may come again every year, may be hours of a day (in the column hours), and may say what it is for. Changes are
-- written anew as a whole, to keep their order; AUTOINCREMENT keeps a screen's old ID from meaning another one.
CREATE TABLE day_change_new (
    id        INTEGER PRIMARY KEY AUTOINCREMENT,
    person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    first     TEXT NOT NULL, -- dates, both included
    last      TEXT NOT NULL CHECK (last >= first),
    kind      TEXT NOT NULL CHECK (kind IN ('closed', 'instead', 'extra', 'off')),
    hours     TEXT NOT NULL, -- for instead and extra; for off the hours of each day, or empty
    yearly    INTEGER NOT NULL DEFAULT 0 CHECK (yearly = 0 OR kind = 'off'),
    label     TEXT NOT NULL DEFAULT ''
) STRICT;
INSERT INTO day_change_new (id, person_id, first, last, kind, hours) SELECT id, person_id, first, last, kind, hours FROM day_change;
DROP TABLE day_change;
ALTER TABLE day_change_new RENAME TO day_change;
CREATE INDEX day_change_by_person ON day_change (person_id, id);
