-- name: AddAccount :one
INSERT INTO calendar_account (person_id, kind, address, username, secret) VALUES (@person_id, @kind, @address, @username, @secret)
ON CONFLICT (person_id, address, username) DO UPDATE SET secret = excluded.secret RETURNING id;

-- name: Account :one
SELECT * FROM calendar_account WHERE id = @id;

-- name: RemoveAccount :exec
DELETE FROM calendar_account WHERE id = @id;

-- name: AccountsOf :many
SELECT * FROM calendar_account WHERE person_id = @person_id ORDER BY id;

-- name: SetAddresses :exec
UPDATE calendar_account SET addresses = @addresses WHERE id = @id;

-- name: SetAccountLogin :exec
UPDATE calendar_account SET address = @address, username = @username, secret = @secret WHERE id = @id;

-- name: CalendarsOfAccount :many
SELECT * FROM calendar WHERE account_id = @account_id ORDER BY id;

-- name: RemoveAccountsOf :exec
DELETE FROM calendar_account WHERE person_id = @person_id;

-- name: AddCalendar :exec
INSERT INTO calendar (account_id, href, name, blocks, receives, read_only, pattern, tone) VALUES (@account_id, @href, @name, @blocks, @receives, @read_only, @pattern, @tone)
ON CONFLICT (account_id, href) DO UPDATE SET name = excluded.name, read_only = excluded.read_only;

-- name: SetReadOnly :exec
UPDATE calendar SET read_only = 1 WHERE id = @id;

-- name: Calendar :one
SELECT * FROM calendar WHERE id = @id;

-- name: Calendars :many
SELECT calendar.*, calendar_account.kind, calendar_account.address, calendar_account.username,
    (SELECT CAST(COALESCE(SUM(r.events), 0) AS INTEGER) FROM calendar_resource r WHERE r.calendar_id = calendar.id) AS events,
    (SELECT COUNT(*) FROM calendar_resource r WHERE r.calendar_id = calendar.id AND r.trouble <> '') AS troubled
FROM calendar JOIN calendar_account ON calendar_account.id = calendar.account_id
WHERE calendar_account.person_id = @person_id ORDER BY calendar.id;

-- Those that are to be read and that no job reads.
-- name: CalendarsWithoutReading :many
SELECT * FROM calendar
WHERE shown = 1 AND NOT EXISTS (SELECT 1 FROM job WHERE job.subject = 'calendar' AND job.subject_id = calendar.id AND job.kind = 'reading');

-- name: ReceivingCalendar :one
SELECT calendar.* FROM calendar JOIN calendar_account ON calendar_account.id = calendar.account_id
WHERE calendar_account.person_id = @person_id AND calendar.receives = 1;

-- name: CalendarOwner :one
SELECT person.* FROM person JOIN calendar_account ON calendar_account.person_id = person.id
JOIN calendar ON calendar.account_id = calendar_account.id WHERE calendar.id = @calendar_id;

-- name: SetCalendarUse :exec
UPDATE calendar SET read_at = CASE WHEN shown < @shown THEN 0 ELSE read_at END, blocks = @blocks, receives = @receives, shown = @shown, tentative = @tentative, all_day = @all_day,
    details = @details, pattern = @pattern, tone = @tone, may_open = @may_open WHERE id = @id;

-- name: StopReceiving :exec
UPDATE calendar SET receives = 0
WHERE account_id IN (SELECT id FROM calendar_account WHERE person_id = @person_id) AND calendar.id <> @except;

-- name: SetCalendarRead :exec
UPDATE calendar SET state = @state, read_at = @read_at, read_until = @read_until, skew = @skew, trouble = '', fails = 0, try_at = 0, trouble_since = 0, told = 0
WHERE id = @id;

-- name: SetCalendarTrouble :exec
UPDATE calendar SET trouble = @trouble, fails = fails + @failed, try_at = @try_at,
    trouble_since = CASE WHEN trouble_since = 0 THEN @now ELSE trouble_since END
WHERE id = @id;

-- name: SetCalendarTold :exec
UPDATE calendar SET told = 1 WHERE id = @id;

-- name: Resources :many
SELECT href, etag FROM calendar_resource WHERE calendar_id = @calendar_id;

-- name: ResourceTexts :many
SELECT href, ics FROM calendar_resource WHERE calendar_id = @calendar_id;

-- A resource with busy time of an event, in one of a person's other calendars.
-- name: ResourceByUID :one
SELECT calendar_resource.* FROM busy
JOIN calendar_resource ON calendar_resource.calendar_id = busy.calendar_id AND calendar_resource.href = busy.href
JOIN calendar ON calendar.id = busy.calendar_id
JOIN calendar_account ON calendar_account.id = calendar.account_id
WHERE calendar_account.person_id = @person_id AND calendar.id <> @except AND calendar.shown = 1 AND busy.end_at > @now AND busy.uid = @uid
LIMIT 1;

-- name: ResourceTroubles :many
SELECT trouble FROM calendar_resource WHERE calendar_id = @calendar_id AND trouble <> '' ORDER BY href LIMIT 20;

-- name: SetResource :exec
INSERT INTO calendar_resource (calendar_id, href, etag, ics, trouble, events) VALUES (@calendar_id, @href, @etag, @ics, @trouble, @events)
ON CONFLICT (calendar_id, href) DO UPDATE SET etag = excluded.etag, ics = excluded.ics, trouble = excluded.trouble, events = excluded.events;

-- name: RemoveResource :exec
DELETE FROM calendar_resource WHERE calendar_id = @calendar_id AND href = @href;

-- name: RemoveBusy :exec
DELETE FROM busy WHERE calendar_id = @calendar_id AND href = @href;

-- name: AddBusy :exec
INSERT INTO busy (calendar_id, href, start_at, end_at, uid, title, opens) VALUES (@calendar_id, @href, @start_at, @end_at, @uid, @title, @opens);

-- Bookings of Corrim come back from their host's calendar as events; they count as bookings, with their buffers, and not
-- a second time as busy. One that its host has moved there takes both places until they have decided.
-- name: Busy :many
SELECT calendar_account.person_id, busy.start_at, busy.end_at, busy.uid, busy.title, busy.opens, calendar.blocks, calendar.id AS calendar_id, calendar.name AS calendar,
    calendar.details, calendar.pattern, calendar.tone
FROM calendar_account
CROSS JOIN calendar ON calendar.account_id = calendar_account.id
CROSS JOIN busy ON busy.calendar_id = calendar.id
WHERE calendar.shown = 1 AND busy.end_at > @range_from AND busy.end_at < CAST(@range_to AS INTEGER) + calendar.longest AND busy.start_at < CAST(@range_to AS INTEGER)
  AND NOT EXISTS (SELECT 1 FROM meeting JOIN meeting_host ON meeting_host.meeting_id = meeting.id
    WHERE meeting.uid = busy.uid AND meeting_host.person_id = calendar_account.person_id AND meeting_host.event_seen <> 'moved')
  AND calendar_account.person_id IN (sqlc.slice('people'))
ORDER BY busy.start_at;

-- Events that open time instead of a person's week.
-- name: OpenMarks :many
SELECT busy.start_at, busy.end_at FROM calendar_account
CROSS JOIN calendar ON calendar.account_id = calendar_account.id
CROSS JOIN busy ON busy.calendar_id = calendar.id
WHERE calendar_account.person_id = @person_id AND calendar.shown = 1 AND busy.opens = 1 ORDER BY busy.start_at;

-- Those that are to be read again and again and close time, with how far their copies can be trusted.
-- name: BlockingCalendars :many
SELECT calendar_account.person_id, calendar.name, calendar.read_at, calendar.trouble <> '' AS in_trouble
FROM calendar_account CROSS JOIN calendar ON calendar.account_id = calendar_account.id
WHERE calendar.blocks = 1 AND calendar.shown = 1 AND calendar_account.kind <> 'file' AND calendar_account.person_id IN (sqlc.slice('people'));

-- name: CalendarOfAccount :one
SELECT * FROM calendar WHERE account_id = @account_id;
