-- +goose Up

-- What is looked for among years of bookings has an index of its own, or a row of its own.

-- What happened lately, to whomever.
CREATE INDEX booking_step_by_time ON booking_step (at);
-- Requests that wait.
CREATE INDEX booking_requested ON booking (host_id) WHERE life = 'requested';
-- A host's bookings around a time, told by the index alone.
DROP INDEX booking_host_by_time;
CREATE INDEX booking_host_by_time ON booking_host (person_id, kept_until, kept_from, state);
-- Meetings of some days, whoever hosts them.
CREATE INDEX booking_host_by_start ON booking_host (start_at, person_id) WHERE state = 'booked';
-- Entries that their hosts have moved or deleted.
CREATE INDEX booking_host_event_seen ON booking_host (person_id) WHERE event_seen <> '';

-- Each client of a workspace once, with their latest booking, kept alike by triggers.
CREATE TABLE client (
    workspace_id INTEGER NOT NULL REFERENCES workspace (id),
    mail         TEXT NOT NULL COLLATE NOCASE,
    latest_id    INTEGER NOT NULL REFERENCES booking (id),
    first_at     INTEGER NOT NULL,
    name         TEXT NOT NULL, -- as they called themselves last
    PRIMARY KEY (workspace_id, mail)
) STRICT, WITHOUT ROWID;
CREATE INDEX client_by_latest ON client (workspace_id, latest_id);
INSERT INTO client (workspace_id, mail, latest_id, first_at, name)
SELECT workspace_id, client_mail, id, first_at, client_name FROM (
    SELECT meeting_type.workspace_id, booking.client_mail, booking.client_name, booking.id,
        MIN(booking.created_at) OVER (PARTITION BY meeting_type.workspace_id, lower(booking.client_mail)) AS first_at,
        row_number() OVER (PARTITION BY meeting_type.workspace_id, lower(booking.client_mail) ORDER BY booking.id DESC) AS nth
    FROM booking JOIN meeting_type ON meeting_type.id = booking.type_id WHERE booking.life <> 'unproved'
) WHERE nth = 1;

-- +goose StatementBegin
CREATE TRIGGER client_booked AFTER INSERT ON booking WHEN NEW.life <> 'unproved'
BEGIN
    INSERT INTO client (workspace_id, mail, latest_id, first_at, name)
    SELECT workspace_id, NEW.client_mail, NEW.id, NEW.created_at, NEW.client_name FROM meeting_type WHERE id = NEW.type_id
    ON CONFLICT (workspace_id, mail) DO UPDATE SET latest_id = max(latest_id, excluded.latest_id), first_at = min(first_at, excluded.first_at),
        name = CASE WHEN excluded.latest_id >= latest_id THEN excluded.name ELSE name END;
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER client_proved AFTER UPDATE OF life ON booking WHEN OLD.life = 'unproved' AND NEW.life <> 'unproved'
BEGIN
    INSERT INTO client (workspace_id, mail, latest_id, first_at, name)
    SELECT workspace_id, NEW.client_mail, NEW.id, NEW.created_at, NEW.client_name FROM meeting_type WHERE id = NEW.type_id
    ON CONFLICT (workspace_id, mail) DO UPDATE SET latest_id = max(latest_id, excluded.latest_id), first_at = min(first_at, excluded.first_at),
        name = CASE WHEN excluded.latest_id >= latest_id THEN excluded.name ELSE name END;
END;
-- +goose StatementEnd

-- +goose Down
DROP TRIGGER client_proved;
DROP TRIGGER client_booked;
DROP TABLE client;
DROP INDEX booking_host_event_seen;
DROP INDEX booking_host_by_start;
DROP INDEX booking_host_by_time;
CREATE INDEX booking_host_by_time ON booking_host (person_id, kept_until);
DROP INDEX booking_requested;
DROP INDEX booking_step_by_time;
