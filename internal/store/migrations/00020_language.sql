-- +goose Up

-- In which somebody gets their mails (BCP 47).
ALTER TABLE person ADD COLUMN language TEXT NOT NULL DEFAULT 'en';

-- +goose Down
ALTER TABLE person DROP COLUMN language;
