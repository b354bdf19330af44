-- +goose Up

-- The workspace's calendars of public holidays, as JSON: app.holidays.
ALTER TABLE workspace ADD COLUMN holidays TEXT NOT NULL DEFAULT '{}';

-- +goose Down
ALTER TABLE workspace DROP COLUMN holidays;
