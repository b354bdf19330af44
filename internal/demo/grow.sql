-- Years of use in one go: HOSTS more advisers with ten meeting types each, and for everybody two bookings a working day for three years
-- back and two months ahead, with their steps, assignments and a calendar of a thousand events. All of it is made up.

INSERT INTO person (workspace_id, name, mail, password_hash, zone, week, role, slug)
WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < HOSTS)
SELECT 1, 'Adviser ' || i, 'adviser-' || i || '@grown.example', '', 'UTC', '["9-17","9-17","9-17","9-17","9-17","",""]', 'member', 'adviser-' || i FROM n;

INSERT INTO meeting_type (workspace_id, host_id, slug, name, description, rules, position)
WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 10)
SELECT 1, person.id, 'call-' || person.id || '-' || i, 'Call ' || i || ' of ' || person.name, '',
    '{"duration":30,"before":0,"after":10,"step":15,"notice":240,"noticeInDays":false,"windowDays":60}', 100 + person.id * 10 + i
FROM person JOIN n WHERE person.mail LIKE '%@grown.example';

CREATE TEMP TABLE time_of (at INTEGER PRIMARY KEY, nth INTEGER);
INSERT INTO time_of (at, nth)
WITH RECURSIVE d(day) AS (SELECT -1050 UNION ALL SELECT day + 1 FROM d WHERE day < 60)
SELECT (NOW / 86400 + day) * 86400 + hour * 3600, (day + 1050) * 2 + hour / 12 FROM d JOIN (SELECT 9 AS hour UNION ALL SELECT 13)
WHERE strftime('%w', (NOW / 86400 + day) * 86400, 'unixepoch') BETWEEN '1' AND '5';

CREATE TEMP TABLE kind_of (host INTEGER, nth INTEGER, id INTEGER, name TEXT, PRIMARY KEY (host, nth));
INSERT OR IGNORE INTO kind_of SELECT host_id, row_number() OVER (PARTITION BY host_id ORDER BY id) - 1, id, name FROM meeting_type WHERE removed_at = 0;

CREATE TEMP TABLE grown (
    id INTEGER PRIMARY KEY, host INTEGER, type INTEGER, type_name TEXT, at INTEGER, nth INTEGER, client INTEGER, life TEXT
);
INSERT INTO grown (id, host, type, type_name, at, nth, client, life)
SELECT (SELECT MAX((SELECT COALESCE(MAX(id), 0) FROM seat), (SELECT COALESCE(MAX(id), 0) FROM meeting))) + row_number() OVER (ORDER BY time_of.at, person.id), person.id, kind_of.id, kind_of.name, time_of.at, time_of.nth,
    (person.id * 7919 + time_of.nth) % 40000,
    CASE WHEN time_of.at > NOW THEN 'booked' WHEN time_of.nth % 14 = 3 THEN 'cancelled' WHEN time_of.nth % 31 = 5 THEN 'no-show' ELSE 'attended' END
FROM person JOIN time_of
    JOIN kind_of ON kind_of.host = person.id AND kind_of.nth = time_of.nth % (SELECT COUNT(*) FROM kind_of k WHERE k.host = person.id)
WHERE person.mail LIKE '%@grown.example' OR time_of.at < NOW - 2 * 86400;

INSERT INTO meeting (id, uid, type_id, host_id, state, start_at, end_at, kept_from, kept_until, overlap_allowed, type_name, room, created_at)
SELECT id, 'grown-' || id, type, host, CASE life WHEN 'cancelled' THEN 'cancelled' ELSE 'booked' END, at, at + 1800, at, at + 2400, at < NOW, type_name,
    '{"url":"http://rooms.example/r/' || id || '"}', MIN(at - 86400 * (3 + nth % 20), NOW - 3600 * (1 + id * 7919 % 1440))
FROM grown ORDER BY id;
INSERT INTO seat (id, meeting_id, uid, life, keeps, client_name, client_mail, client_zone, remark, link_hash, request_key, created_at, invited)
SELECT id, id, (SELECT uid FROM meeting WHERE meeting.id = grown.id), life, life <> 'cancelled', 'Client ' || client, 'client-' || client || '@grown.example', 'UTC', 'Brought two lamps and a plan of room ' || nth || '.',
    'grown-' || id, 'grown-' || id, (SELECT created_at FROM meeting WHERE meeting.id = grown.id), 1
FROM grown ORDER BY id;
INSERT INTO meeting_host (meeting_id, person_id, state, start_at, end_at, kept_from, kept_until, overlap_allowed)
SELECT id, host_id, state, start_at, end_at, kept_from, kept_until, overlap_allowed FROM meeting WHERE uid LIKE 'grown-%' ORDER BY id;
INSERT INTO booking_step (booking_id, at, kind, by) SELECT id, created_at, 'booked', 'client' FROM booking WHERE uid LIKE 'grown-%';
INSERT INTO booking_step (booking_id, at, kind, by) SELECT id, start_at + 3600, life, 'host' FROM booking WHERE uid LIKE 'grown-%' AND life IN ('attended', 'no-show');
INSERT INTO booking_step (booking_id, at, kind, by) SELECT id, start_at - 7200, life, 'client' FROM booking WHERE uid LIKE 'grown-%' AND life = 'cancelled';
INSERT INTO assignment (meeting_id, booking_id, type_id, person_id, at, reason) SELECT meeting_id, id, type_id, host_id, created_at, '{}' FROM booking WHERE uid LIKE 'grown-%';
INSERT INTO job_log (id, kind, subject, subject_id, occasion, outcome, attempts, trouble, ended_at)
SELECT 100000000 + id, 'mail-client', 'booking', id, 'booked', 'done', 1, '', created_at FROM booking WHERE uid LIKE 'grown-%' AND created_at > NOW - 90 * 86400;

INSERT INTO calendar_account (person_id, address, username, secret, kind) SELECT id, 'grown', '', x'', 'file' FROM person WHERE mail LIKE '%@grown.example';
INSERT INTO calendar (account_id, href, name, blocks, receives, read_at, read_until)
SELECT id, 'grown.ics', 'Years of events', 1, 0, NOW, NOW + 400 * 86400 FROM calendar_account WHERE address = 'grown';
INSERT INTO calendar_resource (calendar_id, href, etag, ics)
WITH RECURSIVE n(i) AS (SELECT 0 UNION ALL SELECT i + 1 FROM n WHERE i < 999)
SELECT calendar.id, i || '.ics', '', 'BEGIN:VCALENDAR' || char(13, 10) || 'VERSION:2.0' || char(13, 10) || 'PRODID:grown' || char(13, 10) || 'BEGIN:VEVENT' || char(13, 10) || 'UID:' || i
    || char(13, 10) || 'SUMMARY:Visit ' || i || char(13, 10) || 'END:VEVENT' || char(13, 10) || 'END:VCALENDAR' || char(13, 10)
FROM calendar JOIN n WHERE calendar.href = 'grown.ics';
INSERT INTO busy (calendar_id, href, start_at, end_at, uid, title)
SELECT calendar_id, href, at, at + 2700, href, 'Visit ' || i FROM (
    SELECT r.calendar_id, r.href, CAST(r.href AS INTEGER) AS i, (NOW / 86400 - 365 + CAST(r.href AS INTEGER) * 3 / 4) * 86400 + 36000 + CAST(r.href AS INTEGER) % 4 * 3600 AS at
    FROM calendar_resource r JOIN calendar ON calendar.id = r.calendar_id WHERE calendar.href = 'grown.ics');

DROP TABLE grown;
DROP TABLE time_of;
DROP TABLE kind_of;
ANALYZE;
