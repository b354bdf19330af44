-- +goose Up

-- A prepared link that was given a name: what it is for stays with each booking that comes by it.
CREATE TABLE shared_link (
    id         INTEGER PRIMARY KEY,
    type_id    INTEGER NOT NULL REFERENCES meeting_type (id),
    key        TEXT NOT NULL UNIQUE, -- stands in its address; no secret
    name       TEXT NOT NULL,
    query      TEXT NOT NULL,        -- what it says: core/share.Link
    made_by    INTEGER NOT NULL REFERENCES person (id),
    created_at INTEGER NOT NULL,
    opened     INTEGER NOT NULL DEFAULT 0, -- how often; by whom is kept nowhere
    removed_at INTEGER NOT NULL DEFAULT 0
) STRICT;
CREATE INDEX shared_link_by_type ON shared_link (type_id, id);
ALTER TABLE seat ADD COLUMN via_id INTEGER REFERENCES shared_link (id);
CREATE INDEX seat_by_link ON seat (via_id) WHERE via_id IS NOT NULL;

DROP VIEW booking;
CREATE VIEW booking AS
SELECT seat.id, seat.meeting_id, meeting.uid, meeting.sequence, meeting.revision, meeting.version, meeting.type_id, meeting.host_id,
    CASE WHEN seat.keeps = 1 THEN 'booked' ELSE 'cancelled' END AS state, seat.life,
    meeting.start_at, meeting.end_at, meeting.kept_from, meeting.kept_until, meeting.overlap_allowed, meeting.shared_time, meeting.type_name, meeting.way, meeting.room,
    seat.client_name, seat.client_mail, seat.client_zone, seat.language, seat.remark, seat.answers, seat.said, seat.guests, seat.consent, seat.consent_at,
    seat.lapses_at, seat.proposed, seat.invited, seat.code_tries, seat.confirmed_start, seat.link_hash, seat.request_key, seat.via_id, seat.created_at
FROM seat JOIN meeting ON meeting.id = seat.meeting_id;

-- Time that is kept for whoever was offered it.
ALTER TABLE block ADD COLUMN one_off_id INTEGER REFERENCES one_off (id);
CREATE INDEX block_by_offer ON block (one_off_id) WHERE one_off_id IS NOT NULL;

-- Short names that were others' before: addresses with them go on leading where they led.
CREATE TABLE old_slug (
    workspace_id INTEGER NOT NULL REFERENCES workspace (id),
    kind         TEXT NOT NULL, -- type, person or team
    slug         TEXT NOT NULL,
    target_id    INTEGER NOT NULL,
    PRIMARY KEY (workspace_id, kind, slug)
) STRICT, WITHOUT ROWID;

ALTER TABLE team ADD COLUMN slug TEXT NOT NULL DEFAULT '';
UPDATE team SET slug = 'team-' || id;
CREATE UNIQUE INDEX team_by_slug ON team (workspace_id, slug);

-- +goose StatementBegin
CREATE TRIGGER type_slug_changed AFTER UPDATE OF slug ON meeting_type WHEN OLD.slug <> NEW.slug
BEGIN
    INSERT INTO old_slug (workspace_id, kind, slug, target_id) VALUES (OLD.workspace_id, 'type', OLD.slug, OLD.id)
    ON CONFLICT DO UPDATE SET target_id = excluded.target_id;
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER person_slug_changed AFTER UPDATE OF slug ON person WHEN OLD.slug <> NEW.slug
BEGIN
    INSERT INTO old_slug (workspace_id, kind, slug, target_id) VALUES (OLD.workspace_id, 'person', OLD.slug, OLD.id)
    ON CONFLICT DO UPDATE SET target_id = excluded.target_id;
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER team_slug_changed AFTER UPDATE OF slug ON team WHEN OLD.slug <> NEW.slug
BEGIN
    INSERT INTO old_slug (workspace_id, kind, slug, target_id) VALUES (OLD.workspace_id, 'team', OLD.slug, OLD.id)
    ON CONFLICT DO UPDATE SET target_id = excluded.target_id;
END;
-- +goose StatementEnd

-- +goose Down
DROP TRIGGER team_slug_changed;
DROP TRIGGER person_slug_changed;
DROP TRIGGER type_slug_changed;
DROP INDEX team_by_slug;
ALTER TABLE team DROP COLUMN slug;
DROP TABLE old_slug;
DROP INDEX block_by_offer;
ALTER TABLE block DROP COLUMN one_off_id;
DROP VIEW booking;
CREATE VIEW booking AS
SELECT seat.id, seat.meeting_id, meeting.uid, meeting.sequence, meeting.revision, meeting.version, meeting.type_id, meeting.host_id,
    CASE WHEN seat.keeps = 1 THEN 'booked' ELSE 'cancelled' END AS state, seat.life,
    meeting.start_at, meeting.end_at, meeting.kept_from, meeting.kept_until, meeting.overlap_allowed, meeting.shared_time, meeting.type_name, meeting.way, meeting.room,
    seat.client_name, seat.client_mail, seat.client_zone, seat.language, seat.remark, seat.answers, seat.said, seat.guests, seat.consent, seat.consent_at,
    seat.lapses_at, seat.proposed, seat.invited, seat.code_tries, seat.confirmed_start, seat.link_hash, seat.request_key, seat.created_at
FROM seat JOIN meeting ON meeting.id = seat.meeting_id;
DROP INDEX seat_by_link;
ALTER TABLE seat DROP COLUMN via_id;
DROP TABLE shared_link;
