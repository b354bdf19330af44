-- +goose Up

-- Keys, one for each purpose, encrypted with the installation's key. Only they are used for anything else, so the
-- installation's key can be replaced without touching what they protect.
CREATE TABLE purpose_key (
    purpose TEXT PRIMARY KEY,
    sealed  BLOB NOT NULL
) STRICT;
