-- +goose Up

-- How a booking finds its hosts is called a mode, for "way" is how one meets.
UPDATE meeting_type SET routing = json_set(json_remove(routing, '$.way'), '$.mode', json_extract(routing, '$.way'))
WHERE json_type(nullif(routing, ''), '$.way') IS NOT NULL;
UPDATE setting_change SET before = json_set(json_remove(before, '$.Routing.way'), '$.Routing.mode', json_extract(before, '$.Routing.way'))
WHERE subject = 'routing' AND json_type(before, '$.Routing.way') IS NOT NULL;

-- +goose Down
UPDATE setting_change SET before = json_set(json_remove(before, '$.Routing.mode'), '$.Routing.way', json_extract(before, '$.Routing.mode'))
WHERE subject = 'routing' AND json_type(before, '$.Routing.mode') IS NOT NULL;
UPDATE meeting_type SET routing = json_set(json_remove(routing, '$.mode'), '$.way', json_extract(routing, '$.mode'))
WHERE json_type(nullif(routing, ''), '$.mode') IS NOT NULL;
