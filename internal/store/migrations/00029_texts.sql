-- +goose Up

-- Clients who agreed to text messages about a booking: to which number, in which words, when.
CREATE TABLE text_consent (
    booking_id   INTEGER PRIMARY KEY REFERENCES seat (id) ON DELETE CASCADE,
    workspace_id INTEGER NOT NULL REFERENCES workspace (id),
    phone        TEXT NOT NULL, -- E.164
    words        TEXT NOT NULL,
    at           INTEGER NOT NULL
) STRICT;
CREATE INDEX text_consent_by_phone ON text_consent (phone);

-- Numbers that want none any more.
CREATE TABLE text_stop (
    workspace_id INTEGER NOT NULL REFERENCES workspace (id),
    phone        TEXT NOT NULL,
    at           INTEGER NOT NULL,
    PRIMARY KEY (workspace_id, phone)
) STRICT, WITHOUT ROWID;

-- Text messages as they were handed over, and what became of them.
CREATE TABLE text_sent (
    id         TEXT PRIMARY KEY,
    booking_id INTEGER NOT NULL REFERENCES seat (id) ON DELETE CASCADE,
    job_id     INTEGER NOT NULL,
    phone      TEXT NOT NULL,
    said       TEXT NOT NULL,
    sent_at    INTEGER NOT NULL,
    state      TEXT NOT NULL DEFAULT 'sent' CHECK (state IN ('sent', 'delivered', 'failed'))
) STRICT;
CREATE INDEX text_sent_by_booking ON text_sent (booking_id);
CREATE INDEX text_sent_by_phone ON text_sent (phone, sent_at);

-- +goose Down
DROP TABLE text_sent;
DROP TABLE text_stop;
DROP TABLE text_consent;
