-- +goose Up

-- What lies in a range ends after its beginning, and at most the longest there is after its end: without this second bound, all that is
-- to come would be gone through. In seconds, and never less than that of what is there.
ALTER TABLE calendar ADD COLUMN longest INTEGER NOT NULL DEFAULT 0;
UPDATE calendar SET longest = COALESCE((SELECT MAX(busy.end_at - busy.start_at) FROM busy WHERE busy.calendar_id = calendar.id), 0);
ALTER TABLE person ADD COLUMN longest INTEGER NOT NULL DEFAULT 0;
UPDATE person SET longest = COALESCE((SELECT MAX(meeting_host.kept_until - meeting_host.kept_from) FROM meeting_host WHERE meeting_host.person_id = person.id), 0);

-- +goose StatementBegin
CREATE TRIGGER busy_longest AFTER INSERT ON busy
WHEN NEW.end_at - NEW.start_at > (SELECT longest FROM calendar WHERE id = NEW.calendar_id)
BEGIN
    UPDATE calendar SET longest = NEW.end_at - NEW.start_at WHERE id = NEW.calendar_id;
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER busy_longest_update AFTER UPDATE OF calendar_id, start_at, end_at ON busy
WHEN NEW.end_at - NEW.start_at > (SELECT longest FROM calendar WHERE id = NEW.calendar_id)
BEGIN
    UPDATE calendar SET longest = NEW.end_at - NEW.start_at WHERE id = NEW.calendar_id;
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER meeting_longest AFTER INSERT ON meeting_host
WHEN NEW.kept_until - NEW.kept_from > (SELECT longest FROM person WHERE id = NEW.person_id)
BEGIN
    UPDATE person SET longest = NEW.kept_until - NEW.kept_from WHERE id = NEW.person_id;
END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER meeting_longest_update AFTER UPDATE OF person_id, kept_from, kept_until ON meeting_host
WHEN NEW.kept_until - NEW.kept_from > (SELECT longest FROM person WHERE id = NEW.person_id)
BEGIN
    UPDATE person SET longest = NEW.kept_until - NEW.kept_from WHERE id = NEW.person_id;
END;
-- +goose StatementEnd

-- The agreed words for how bookings stand and what happened to them.
UPDATE seat SET life = CASE life WHEN 'came' THEN 'attended' WHEN 'missed' THEN 'no-show' ELSE 'expired' END WHERE life IN ('came', 'missed', 'lapsed');
UPDATE booking_step SET kind = CASE kind WHEN 'came' THEN 'attended' WHEN 'missed' THEN 'no-show' WHEN 'lapsed' THEN 'expired' WHEN 'moved' THEN 'rescheduled' ELSE 'reassigned' END
WHERE kind IN ('came', 'missed', 'lapsed', 'moved', 'handed');
UPDATE job SET occasion = CASE occasion WHEN 'lapsed' THEN 'expired' WHEN 'moved' THEN 'rescheduled' ELSE 'reassigned' END WHERE occasion IN ('lapsed', 'moved', 'handed');
UPDATE job_log SET occasion = CASE occasion WHEN 'lapsed' THEN 'expired' WHEN 'moved' THEN 'rescheduled' ELSE 'reassigned' END WHERE occasion IN ('lapsed', 'moved', 'handed');

-- For an hour 00021 was there without its second half, and types followed the workspace in everything but public holidays. Where any
-- type does follow in them, the others have set them for themselves.
UPDATE meeting_type SET rules = json_set(rules, '$.follows', json_insert(coalesce(json_extract(rules, '$.follows'), json('[]')), '$[#]', 'holidays'))
WHERE NOT EXISTS (SELECT 1 FROM meeting_type other, json_each(other.rules, '$.follows') follows WHERE follows.value = 'holidays');

-- Not all that a calendar ever held, to find what opens time.
CREATE INDEX busy_opens ON busy (calendar_id, start_at) WHERE opens = 1;

-- Ledgers count by it alone.
DROP INDEX assignment_by_type;
CREATE INDEX assignment_by_type ON assignment (type_id, at, person_id, given_back);

-- +goose Down
UPDATE seat SET life = CASE life WHEN 'attended' THEN 'came' WHEN 'no-show' THEN 'missed' ELSE 'lapsed' END WHERE life IN ('attended', 'no-show', 'expired');
UPDATE booking_step SET kind = CASE kind WHEN 'attended' THEN 'came' WHEN 'no-show' THEN 'missed' WHEN 'expired' THEN 'lapsed' WHEN 'rescheduled' THEN 'moved' ELSE 'handed' END
WHERE kind IN ('attended', 'no-show', 'expired', 'rescheduled', 'reassigned');
UPDATE job SET occasion = CASE occasion WHEN 'expired' THEN 'lapsed' WHEN 'rescheduled' THEN 'moved' ELSE 'handed' END WHERE occasion IN ('expired', 'rescheduled', 'reassigned');
UPDATE job_log SET occasion = CASE occasion WHEN 'expired' THEN 'lapsed' WHEN 'rescheduled' THEN 'moved' ELSE 'handed' END WHERE occasion IN ('expired', 'rescheduled', 'reassigned');
DROP INDEX busy_opens;
DROP INDEX assignment_by_type;
CREATE INDEX assignment_by_type ON assignment (type_id, at);
DROP TRIGGER busy_longest;
DROP TRIGGER busy_longest_update;
DROP TRIGGER meeting_longest;
DROP TRIGGER meeting_longest_update;
ALTER TABLE calendar DROP COLUMN longest;
ALTER TABLE person DROP COLUMN longest;
