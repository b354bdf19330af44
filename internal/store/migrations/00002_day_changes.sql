-- +goose Up

-- Days on which a person's hours differ from the week: closed, other hours, extra hours, time off. They apply in the order
-- of their IDs, time off last.
CREATE TABLE day_change (
    id        INTEGER PRIMARY KEY,
    person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
    first     TEXT NOT NULL, -- dates, both included
    last      TEXT NOT NULL CHECK (last >= first),
    kind      TEXT NOT NULL CHECK (kind IN ('closed', 'instead', 'extra', 'off')),
    hours     TEXT NOT NULL -- for instead and extra
) STRICT;
CREATE INDEX day_change_by_person ON day_change (person_id, id);

-- +goose Down
DROP TABLE day_change;
