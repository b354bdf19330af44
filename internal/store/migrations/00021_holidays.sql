-- +goose Up

-- The workspace's calendars of public holidays, as JSON: app.holidays.
ALTER TABLE workspace ADD COLUMN holidays TEXT NOT NULL DEFAULT '{}';

-- No type has set this for itself yet, so all follow the workspace in it.
UPDATE meeting_type SET rules = json_set(rules, '$.follows', json_insert(coalesce(json_extract(rules, '$.follows'), json('[]')), '$[#]', 'holidays'));
UPDATE setting_change SET before = json_set(before, '$.rules.follows', json_insert(coalesce(json_extract(before, '$.rules.follows'), json('[]')), '$[#]', 'holidays'))
WHERE subject = 'meeting-type' AND json_type(before, '$.rules') = 'object';

-- +goose Down
UPDATE meeting_type SET rules = json_set(rules, '$.follows', json((SELECT json_group_array(value) FROM json_each(rules, '$.follows') WHERE value <> 'holidays')));
UPDATE setting_change SET before = json_set(before, '$.rules.follows', json((SELECT json_group_array(value) FROM json_each(before, '$.rules.follows') WHERE value <> 'holidays')))
WHERE subject = 'meeting-type' AND json_type(before, '$.rules') = 'object';
ALTER TABLE workspace DROP COLUMN holidays;
