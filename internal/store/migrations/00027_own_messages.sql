-- +goose Up

-- A type's own messages, as JSON: app.messageRules; empty as long as it has those of the workspace.
ALTER TABLE meeting_type ADD COLUMN messages TEXT NOT NULL DEFAULT '';

-- +goose Down
ALTER TABLE meeting_type DROP COLUMN messages;
