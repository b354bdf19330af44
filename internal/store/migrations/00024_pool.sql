-- +goose Up

-- Hosts of a type are everyone, any number of teams and people beside each other: app.TypeRouting. Whoever had a weight of their own in a
-- team keeps it, and the place that they had by when they came.
UPDATE meeting_type SET routing = json_set(json_remove(routing, '$.team'),
    '$.teams', json_array(json_extract(routing, '$.team')),
    '$.people', json((
        SELECT json_group_array(json(json_set(coalesce(
            (SELECT place.value FROM json_each(routing, '$.people') place WHERE json_extract(place.value, '$.person') = member.person_id),
            json_object('person', member.person_id, 'weight', 1)), '$.through', json('true'))))
        FROM (SELECT person_id FROM team_member WHERE team_id = json_extract(routing, '$.team') ORDER BY joined_at, person_id) member)))
WHERE json_extract(nullif(routing, ''), '$.team') > 0;
UPDATE meeting_type SET routing = json_set(json_remove(routing, '$.team'), '$.teams', json('[]')) WHERE json_type(nullif(routing, ''), '$.team') IS NOT NULL;
UPDATE setting_change SET before = json_set(json_remove(before, '$.Routing.team'),
    '$.Routing.teams', json_array(json_extract(before, '$.Routing.team')),
    '$.Routing.people', json((SELECT json_group_array(json(json_set(value, '$.through', json('true')))) FROM json_each(before, '$.Routing.people'))))
WHERE subject = 'routing' AND json_extract(before, '$.Routing.team') > 0;
UPDATE setting_change SET before = json_set(json_remove(before, '$.Routing.team'), '$.Routing.teams', json('[]'))
WHERE subject = 'routing' AND json_type(before, '$.Routing.team') IS NOT NULL;

-- When somebody came to the workspace, in UTC seconds; 0 for those who were there before this was kept.
ALTER TABLE person ADD COLUMN joined_at INTEGER NOT NULL DEFAULT 0;

-- A time that several may ask for is kept for nobody until one of them is approved.
ALTER TABLE meeting ADD COLUMN shared_time INTEGER NOT NULL DEFAULT 0 CHECK (shared_time IN (0, 1));
DROP VIEW booking;
CREATE VIEW booking AS
SELECT seat.id, seat.meeting_id, meeting.uid, meeting.sequence, meeting.revision, meeting.version, meeting.type_id, meeting.host_id,
    CASE WHEN seat.keeps = 1 THEN 'booked' ELSE 'cancelled' END AS state, seat.life,
    meeting.start_at, meeting.end_at, meeting.kept_from, meeting.kept_until, meeting.overlap_allowed, meeting.shared_time, meeting.type_name, meeting.way, meeting.room,
    seat.client_name, seat.client_mail, seat.client_zone, seat.language, seat.remark, seat.answers, seat.said, seat.guests, seat.consent, seat.consent_at,
    seat.lapses_at, seat.proposed, seat.invited, seat.code_tries, seat.confirmed_start, seat.link_hash, seat.request_key, seat.created_at
FROM seat JOIN meeting ON meeting.id = seat.meeting_id;

-- +goose Down
DROP VIEW booking;
CREATE VIEW booking AS
SELECT seat.id, seat.meeting_id, meeting.uid, meeting.sequence, meeting.revision, meeting.version, meeting.type_id, meeting.host_id,
    CASE WHEN seat.keeps = 1 THEN 'booked' ELSE 'cancelled' END AS state, seat.life,
    meeting.start_at, meeting.end_at, meeting.kept_from, meeting.kept_until, meeting.overlap_allowed, meeting.type_name, meeting.way, meeting.room,
    seat.client_name, seat.client_mail, seat.client_zone, seat.language, seat.remark, seat.answers, seat.said, seat.guests, seat.consent, seat.consent_at,
    seat.lapses_at, seat.proposed, seat.invited, seat.code_tries, seat.confirmed_start, seat.link_hash, seat.request_key, seat.created_at
FROM seat JOIN meeting ON meeting.id = seat.meeting_id;
ALTER TABLE meeting DROP COLUMN shared_time;
ALTER TABLE person DROP COLUMN joined_at;
UPDATE meeting_type SET routing = json_set(json_remove(routing, '$.teams', '$.everyone'), '$.team', coalesce(json_extract(routing, '$.teams[0]'), 0))
WHERE json_type(nullif(routing, ''), '$.teams') IS NOT NULL;
UPDATE setting_change SET before = json_set(json_remove(before, '$.Routing.teams', '$.Routing.everyone'), '$.Routing.team', coalesce(json_extract(before, '$.Routing.teams[0]'), 0))
WHERE subject = 'routing' AND json_type(before, '$.Routing.teams') IS NOT NULL;
