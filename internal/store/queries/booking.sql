-- name: AddMeeting :one
INSERT INTO meeting (uid, type_id, type_name, host_id, state, start_at, end_at, kept_from, kept_until, overlap_allowed, shared_time, way, created_at, replies_here, capacity, about, own_way)
VALUES (@uid, @type_id, @type_name, @host_id, 'booked', @start_at, @end_at, @kept_from, @kept_until, max(CAST(@overlap_allowed AS INTEGER), CAST(@shared_time AS INTEGER)), CAST(@shared_time AS INTEGER), @way, @created_at, @replies_here, max(1, CAST(@capacity AS INTEGER)), @about, @own_way)
RETURNING id;

-- name: AddSeat :one
INSERT INTO seat (meeting_id, uid, life, keeps, client_name, client_mail, client_zone, language, remark, link_hash, request_key, created_at, answers, said, guests, consent, consent_at, lapses_at, via_id, invited, session, party_id)
VALUES (@meeting_id, @uid, @life, @keeps, @client_name, @client_mail, @client_zone, @language, @remark, @link_hash, @request_key, @created_at, @answers, @said, @guests, @consent, @consent_at, @lapses_at, @via_id, max(@life = 'booked', CAST(@session AS INTEGER)), CAST(@session AS INTEGER), @party_id)
RETURNING id;

-- name: Booking :one
SELECT * FROM booking WHERE id = @id;

-- name: BookingByLink :one
SELECT * FROM booking WHERE link_hash = @link_hash;

-- name: BookingByRequest :one
SELECT * FROM booking WHERE request_key = @request_key;

-- name: AddMeetingHost :exec
INSERT INTO meeting_host (meeting_id, person_id, state, start_at, end_at, kept_from, kept_until, overlap_allowed)
SELECT meeting.id, @person_id, meeting.state, meeting.start_at, meeting.end_at, meeting.kept_from, meeting.kept_until, meeting.overlap_allowed
FROM meeting WHERE meeting.id = @meeting_id
ON CONFLICT (meeting_id, person_id) DO UPDATE SET state = excluded.state, start_at = excluded.start_at, end_at = excluded.end_at,
    kept_from = excluded.kept_from, kept_until = excluded.kept_until, overlap_allowed = excluded.overlap_allowed;

-- name: LeaveMeeting :exec
UPDATE meeting_host SET state = 'left' WHERE meeting_id = @meeting_id AND person_id = @person_id;

-- name: ForgetLeft :exec
DELETE FROM meeting_host WHERE meeting_id = @meeting_id AND person_id = @person_id AND state = 'left';

-- name: SetLead :exec
UPDATE meeting SET host_id = @host_id, sequence = sequence + 1, revision = revision + 1, version = version + 1 WHERE id = @meeting_id;

-- What calendars are told is another thing now.
-- name: RaiseSequence :exec
UPDATE meeting SET sequence = sequence + 1, revision = revision + 1, version = version + 1 WHERE id = @meeting_id;

-- What was planned is pointless now; calendars are told nothing else.
-- name: RaiseRevision :exec
UPDATE meeting SET revision = revision + 1, version = version + 1 WHERE id = @meeting_id;

-- The same of one seat of several in a meeting: what concerns the others stays as it is.
-- name: RaiseSeat :exec
UPDATE seat SET sequence = sequence + CAST(@told AS INTEGER), revision = revision + 1 WHERE id = @id;

-- A seat goes over to another meeting. What its client was told goes on being counted from where it was.
-- name: ChangeMeeting :exec
UPDATE seat SET meeting_id = @meeting_id,
    sequence = CAST(@sequence AS INTEGER) + 1 - (SELECT meeting.sequence FROM meeting WHERE meeting.id = @meeting_id),
    revision = CAST(@revision AS INTEGER) + 1 - (SELECT meeting.revision FROM meeting WHERE meeting.id = @meeting_id)
WHERE seat.id = @id;

-- The seats of a meeting that clients keep.
-- name: SeatsKept :many
SELECT * FROM booking WHERE meeting_id = @meeting_id AND session = 0 AND state = 'booked' AND life <> 'offered' ORDER BY id;

-- name: SetCapacity :exec
UPDATE meeting SET capacity = max(CAST(@seats AS INTEGER), taken)
WHERE type_id = @type_id AND capacity > 1 AND state = 'booked' AND start_at > @now AND own_capacity = 0;

-- name: SetOwnCapacity :exec
UPDATE meeting SET capacity = @seats, own_capacity = 1 WHERE id = @meeting_id;

-- A seat more, by its host's word.
-- name: AddCapacity :exec
UPDATE meeting SET capacity = capacity + 1 WHERE id = @meeting_id;

-- name: TakeCapacity :exec
UPDATE meeting SET capacity = capacity - 1 WHERE id = @id;

-- name: MeetingStands :one
SELECT state = 'booked' FROM meeting WHERE id = @id;

-- name: MeetingUID :one
SELECT uid FROM meeting WHERE id = @id;

-- name: SeatsOfMeeting :many
SELECT * FROM booking WHERE meeting_id = @meeting_id AND session = 0 ORDER BY id;

-- Which seat stands for a meeting: its session's, or the first that is kept.
-- name: LeadSeat :one
SELECT * FROM booking WHERE booking.id = (SELECT seat.id FROM seat WHERE seat.meeting_id = @meeting_id ORDER BY seat.session DESC, seat.keeps DESC, seat.id LIMIT 1);

-- Meetings of a type that clients share and that begin and end at a time, with how many seats are taken.
-- name: SharedAt :many
SELECT meeting.id, meeting.capacity, meeting.taken FROM meeting WHERE meeting.type_id = @type_id AND meeting.start_at = @start_at AND meeting.end_at = @end_at AND meeting.capacity > 1 AND meeting.state = 'booked' ORDER BY meeting.id;

-- name: RaiseVersion :exec
UPDATE meeting SET version = version + 1 WHERE id = @meeting_id;

-- name: HostOfMeeting :one
SELECT * FROM meeting_host WHERE meeting_id = @meeting_id AND person_id = @person_id;

-- name: HostsOfMeeting :many
SELECT * FROM meeting_host WHERE meeting_id = @meeting_id ORDER BY person_id;

-- name: BookingOfHost :one
SELECT sqlc.embed(booking), sqlc.embed(meeting_host) FROM meeting_host JOIN booking ON booking.meeting_id = meeting_host.meeting_id
WHERE booking.id = @booking_id AND meeting_host.person_id = @person_id AND meeting_host.state <> 'left';

-- Of a meeting that clients share, one seat stands for all.
-- name: BookingsOfHosts :many
SELECT sqlc.embed(booking), sqlc.embed(meeting_host)
FROM person CROSS JOIN meeting_host ON meeting_host.person_id = person.id
CROSS JOIN booking ON booking.id = (SELECT seat.id FROM seat WHERE seat.meeting_id = meeting_host.meeting_id ORDER BY seat.session DESC, seat.keeps DESC, seat.id LIMIT 1)
WHERE meeting_host.state = 'booked' AND meeting_host.kept_until > @range_from AND meeting_host.kept_until < CAST(@range_to AS INTEGER) + person.longest
  AND meeting_host.kept_from < CAST(@range_to AS INTEGER) AND person.id IN (sqlc.slice('people'))
ORDER BY meeting_host.start_at + 0; -- not by the index on it, along which everybody's would be looked at

-- In no order: to sort thousands of them takes the database longer than whoever needs it.
-- name: TimesOfHosts :many
SELECT CAST(CASE WHEN meeting.session_id > 0 THEN meeting.session_id ELSE (SELECT seat.id FROM seat WHERE seat.meeting_id = meeting.id ORDER BY seat.session DESC, seat.keeps DESC, seat.id LIMIT 1) END AS INTEGER) AS id, meeting.id AS meeting_id, meeting.type_id, meeting_host.person_id, meeting_host.start_at, meeting_host.end_at, meeting_host.kept_from, meeting_host.kept_until,
    meeting.capacity, meeting.taken, meeting.session_id, meeting.series_id
FROM person CROSS JOIN meeting_host ON meeting_host.person_id = person.id
CROSS JOIN meeting ON meeting.id = meeting_host.meeting_id
WHERE meeting_host.state = 'booked' AND meeting_host.kept_until > @range_from AND meeting_host.kept_until < CAST(@range_to AS INTEGER) + person.longest
  AND meeting_host.kept_from < CAST(@range_to AS INTEGER) AND meeting.shared_time = 0 AND person.id IN (sqlc.slice('people'));

-- name: SetOverlapAllowed :exec
UPDATE meeting SET overlap_allowed = max(CAST(@overlap_allowed AS INTEGER), shared_time) WHERE id = @meeting_id;

-- A time that was kept for nobody is this meeting's now, unless another one has it.
-- name: KeepTime :exec
UPDATE meeting SET shared_time = 0, overlap_allowed = 0 WHERE id = @meeting_id AND shared_time = 1;

-- What else lies at a meeting's time with its hosts: others who ask for it, and what has it already.
-- name: AtTheTimeOf :one
SELECT COUNT(DISTINCT CASE WHEN meeting.shared_time = 1 THEN meeting.id END) AS asking, COUNT(DISTINCT CASE WHEN meeting.shared_time = 0 THEN meeting.id END) AS taken
FROM meeting_host own CROSS JOIN person ON person.id = own.person_id
CROSS JOIN meeting_host beside ON beside.person_id = own.person_id AND beside.kept_until > own.start_at AND beside.kept_until < own.end_at + person.longest
CROSS JOIN meeting ON meeting.id = beside.meeting_id
WHERE own.meeting_id = @meeting_id AND own.state = 'booked' AND beside.meeting_id <> own.meeting_id AND beside.state = 'booked'
  AND beside.start_at < own.end_at AND own.start_at < beside.end_at;

-- name: MoveMeeting :exec
UPDATE meeting SET start_at = @start_at, end_at = @end_at, kept_from = @kept_from, kept_until = @kept_until, sequence = sequence + 1, revision = revision + 1, version = version + 1
WHERE id = @meeting_id;

-- name: SetDetails :exec
UPDATE meeting SET about = @about, own_way = @own_way, way = @way, sequence = sequence + 1, revision = revision + 1, version = version + 1 WHERE id = @meeting_id;

-- Sessions of a type that start within a range and aren't just like the others.
-- name: SpecialSessions :many
SELECT meeting.start_at, meeting.about, meeting.own_way, meeting.way FROM meeting
WHERE meeting.type_id = @type_id AND meeting.start_at >= @range_from AND meeting.start_at < @range_to AND meeting.capacity > 1 AND meeting.state = 'booked' AND (meeting.about <> '' OR meeting.own_way = 1)
ORDER BY meeting.start_at, meeting.id LIMIT 500;

-- name: SetWay :exec
UPDATE meeting SET way = @way WHERE id = @meeting_id;

-- name: CorrectSeat :exec
UPDATE seat SET said = @said, remark = @remark WHERE id = @id;

-- name: ConfirmSeat :exec
UPDATE seat SET confirmed_start = (SELECT start_at FROM meeting WHERE meeting.id = seat.meeting_id) WHERE seat.id = @id;

-- name: SetLife :exec
UPDATE seat SET life = @life, keeps = @keeps AND session = 0, invited = max(invited, @life = 'booked'), lapses_at = @lapses_at WHERE id = @id;

-- name: Propose :exec
UPDATE seat SET proposed = @proposed, lapses_at = @lapses_at WHERE id = @id;

-- name: CodeTried :exec
UPDATE seat SET code_tries = code_tries + 1 WHERE id = @id;

-- name: CorrectMail :exec
UPDATE seat SET client_mail = @client_mail WHERE id = @id AND life = 'unproved';

-- name: CodesSent :one
SELECT COUNT(*) FROM booking_step WHERE booking_id = @booking_id AND kind = 'held';

-- Those that wait for something, until a moment.
-- name: Waiting :many
SELECT id, lapses_at FROM booking WHERE life IN ('unproved', 'requested', 'offered') AND lapses_at > 0;

-- name: RequestsOfHost :many
SELECT booking.* FROM booking CROSS JOIN meeting_host -- in this order: few are requested, and hosts have had many
WHERE booking.life = 'requested' AND meeting_host.meeting_id = booking.meeting_id AND meeting_host.person_id = @host_id AND meeting_host.state <> 'left'
  AND NOT EXISTS (SELECT 1 FROM seat first WHERE first.id = booking.party_id AND first.id <> booking.id AND first.life = 'requested') -- with it, this is decided
ORDER BY booking.created_at, booking.id;

-- name: RequestsOfWorkspace :many
SELECT booking.* FROM booking CROSS JOIN meeting_type
WHERE booking.life = 'requested' AND meeting_type.id = booking.type_id AND meeting_type.workspace_id = @workspace_id
  AND NOT EXISTS (SELECT 1 FROM seat first WHERE first.id = booking.party_id AND first.id <> booking.id AND first.life = 'requested')
ORDER BY booking.created_at, booking.id LIMIT 100;

-- Everybody's bookings that are not over yet.
-- name: ComingByHost :many
SELECT person.id AS person_id, (SELECT COUNT(*) FROM meeting_host WHERE meeting_host.person_id = person.id AND meeting_host.kept_until > @now AND meeting_host.state = 'booked') AS coming
FROM person WHERE person.workspace_id = @workspace_id AND person.removed_at = 0;

-- What begins in a range, whoever of the workspace hosts it.
-- name: MeetingsOfWorkspace :many
SELECT sqlc.embed(booking), meeting_host.person_id FROM meeting_host CROSS JOIN booking CROSS JOIN person
WHERE meeting_host.state = 'booked' AND meeting_host.start_at >= @range_from AND meeting_host.start_at < @range_to
  AND booking.id = (SELECT seat.id FROM seat WHERE seat.meeting_id = meeting_host.meeting_id ORDER BY seat.session DESC, seat.keeps DESC, seat.id LIMIT 1) AND person.id = meeting_host.person_id AND person.workspace_id = @workspace_id AND person.removed_at = 0
ORDER BY meeting_host.start_at LIMIT 200;

-- Who of a workspace has a coming booking that something in their calendar may lie over, or whose entry they have touched.
-- name: PeopleWithClashes :many
SELECT person.id FROM person WHERE person.workspace_id = @workspace_id AND person.removed_at = 0 AND (
  EXISTS (SELECT 1 FROM meeting_host touched WHERE touched.person_id = person.id AND touched.event_seen <> '')
  OR EXISTS (
    SELECT 1 FROM meeting_host coming
    WHERE coming.person_id = person.id AND coming.kept_until > @now AND coming.state = 'booked' AND coming.start_at < @until AND EXISTS (
      SELECT 1 FROM calendar_account JOIN calendar ON calendar.account_id = calendar_account.id JOIN busy ON busy.calendar_id = calendar.id
      WHERE calendar_account.person_id = person.id AND calendar.blocks = 1 AND busy.opens = 0 AND busy.end_at > coming.start_at AND busy.start_at < coming.end_at
        AND busy.uid <> (SELECT uid FROM meeting WHERE meeting.id = coming.meeting_id))));

-- name: SetRoom :exec
UPDATE meeting SET room = @room WHERE id = @meeting_id;

-- name: SetBookingEvent :exec
UPDATE meeting_host SET event_calendar = @event_calendar, event_href = @event_href, event_etag = @event_etag, event_written = @event_written,
    event_seen = '', event_seen_at = 0
WHERE meeting_id = @meeting_id AND person_id = @person_id;

-- name: AddStep :exec
INSERT INTO booking_step (booking_id, at, kind, by, note, person_id, from_id, to_id)
VALUES (@booking_id, @at, @kind, @by, @note, @person_id, @from_id, @to_id);

-- Along time, which two days bound: along its host's bookings, years would be looked at.
-- name: RecentSteps :many
SELECT booking_step.at, booking_step.kind, booking_step.by, booking_step.note, booking.client_name, booking.type_name, booking.start_at
FROM booking_step CROSS JOIN booking ON booking.id = booking_step.booking_id
WHERE booking.host_id = @host_id AND booking_step.at > @since AND booking_step.kind <> 'scheduled' ORDER BY booking_step.at DESC, booking_step.id DESC LIMIT 12;

-- name: LastStep :one
SELECT * FROM booking_step WHERE booking_id = @booking_id AND kind = @kind ORDER BY id DESC LIMIT 1;

-- name: StepsOf :many
SELECT * FROM booking_step WHERE booking_id = @booking_id ORDER BY id;

-- name: BookingByEvent :one
SELECT sqlc.embed(booking), sqlc.embed(meeting_host) FROM meeting_host JOIN booking ON booking.id = (SELECT seat.id FROM seat WHERE seat.meeting_id = meeting_host.meeting_id ORDER BY seat.session DESC, seat.keeps DESC, seat.id LIMIT 1)
WHERE meeting_host.event_calendar = @event_calendar AND meeting_host.event_href = @event_href AND meeting_host.event_href <> '' AND meeting_host.state = 'booked';

-- name: SetEventSeen :exec
UPDATE meeting_host SET event_seen = @event_seen, event_start = @event_start, event_end = @event_end, event_seen_at = @event_seen_at
WHERE meeting_id = @meeting_id AND person_id = @person_id;

-- Coming bookings of a host whose entry was found to be gone from a calendar, and that may be in another one.
-- name: MissingEvents :many
SELECT sqlc.embed(booking), sqlc.embed(meeting_host) FROM meeting_host JOIN booking ON booking.id = (SELECT seat.id FROM seat WHERE seat.meeting_id = meeting_host.meeting_id ORDER BY seat.session DESC, seat.keeps DESC, seat.id LIMIT 1)
WHERE meeting_host.person_id = @person_id AND meeting_host.event_seen = '' AND meeting_host.event_seen_at > 0
  AND meeting_host.state = 'booked' AND meeting_host.start_at > @now;

-- name: BookingByUID :one
SELECT sqlc.embed(booking), sqlc.embed(meeting_host) FROM meeting CROSS JOIN meeting_host ON meeting_host.meeting_id = meeting.id CROSS JOIN booking ON booking.id = (SELECT seat.id FROM seat WHERE seat.meeting_id = meeting_host.meeting_id ORDER BY seat.session DESC, seat.keeps DESC, seat.id LIMIT 1)
WHERE meeting.uid = @uid AND meeting_host.person_id = @person_id AND meeting_host.state = 'booked';

-- Where an entry is now.
-- name: AdoptEvent :exec
UPDATE meeting_host SET event_calendar = @event_calendar, event_href = @event_href, event_etag = @event_etag, event_seen = '', event_seen_at = 0
WHERE meeting_id = @meeting_id AND person_id = @person_id;

-- Entries of coming bookings that were in calendars which are not connected any more.
-- name: OrphanedEvents :many
SELECT meeting_host.meeting_id, booking.id AS booking_id, meeting_host.event_href, meeting_host.event_etag, booking.revision FROM meeting_host JOIN booking ON booking.id = (SELECT seat.id FROM seat WHERE seat.meeting_id = meeting_host.meeting_id ORDER BY seat.session DESC, seat.keeps DESC, seat.id LIMIT 1)
WHERE meeting_host.person_id = @person_id AND meeting_host.event_calendar IS NULL AND meeting_host.event_href <> '' AND meeting_host.start_at > @now;

-- name: KeepClash :exec
UPDATE meeting_host SET clash_kept = @clash_kept WHERE meeting_id = @meeting_id AND person_id = @person_id;

-- name: EventHrefs :many
SELECT event_href FROM meeting_host WHERE event_calendar = @event_calendar AND event_href <> '' AND state = 'booked';

-- The clients of a host's last meetings, each as they called themselves last.
-- name: KnownClients :many
SELECT lately.client_name, lately.client_mail, CAST(MAX(lately.id) AS INTEGER) AS latest
FROM (SELECT booking.id, booking.client_name, booking.client_mail FROM booking WHERE booking.host_id = @host_id AND booking.session = 0 ORDER BY booking.start_at DESC LIMIT 200) lately
GROUP BY lower(lately.client_mail) ORDER BY latest DESC;

-- When meetings begin and whose they are, to be counted by day: along time, which is all that the index on it needs.
-- name: StartsBetween :many
SELECT start_at, person_id FROM meeting_host WHERE state = 'booked' AND start_at >= @range_from AND start_at < @range_to;

-- The sessions of a type that are not over, in order; all hosts', or one's.
-- name: SessionsOfType :many
SELECT booking.* FROM meeting CROSS JOIN booking ON booking.id = meeting.session_id AND booking.life = 'scheduled'
WHERE meeting.type_id = @type_id AND meeting.start_at > CAST(@since AS INTEGER) AND meeting.capacity > 1 AND meeting.state = 'booked'
ORDER BY meeting.start_at LIMIT @most;

-- Who waits for a seat in a meeting, in the order in which they came.
-- name: WaitingSeats :many
SELECT booking.* FROM seat CROSS JOIN booking ON booking.id = seat.id
WHERE seat.meeting_id = @meeting_id AND seat.session = 0 AND seat.keeps = 0 AND seat.life = 'waiting' ORDER BY seat.id LIMIT @most;

-- Who is offered a seat in a meeting.
-- name: SeatsOffered :many
SELECT * FROM booking WHERE meeting_id = @meeting_id AND session = 0 AND state = 'booked' AND life = 'offered' ORDER BY id;

-- name: WaitingAhead :one
SELECT COUNT(*) FROM seat WHERE meeting_id = @meeting_id AND session = 0 AND keeps = 0 AND life = 'waiting' AND id < @id;

-- How many wait for each of a type's meetings within a range.
-- name: WaitingAt :many
SELECT meeting.id, meeting.start_at, COUNT(*) AS waiting FROM meeting CROSS JOIN seat ON seat.meeting_id = meeting.id AND seat.session = 0 AND seat.keeps = 0 AND seat.life = 'waiting'
WHERE meeting.type_id = @type_id AND meeting.start_at >= @range_from AND meeting.start_at < @range_to AND meeting.capacity > 1 AND meeting.state = 'booked'
GROUP BY meeting.id, meeting.start_at;

-- Coming meetings of a type that have a seat free, and somebody waits for it.
-- name: MeetingsWaitedFor :many
SELECT meeting.id FROM meeting
WHERE meeting.type_id = @type_id AND meeting.start_at > @now AND meeting.capacity > 1 AND meeting.state = 'booked' AND meeting.taken < meeting.capacity
  AND EXISTS (SELECT 1 FROM seat WHERE seat.meeting_id = meeting.id AND seat.session = 0 AND seat.keeps = 0 AND seat.life = 'waiting')
ORDER BY meeting.start_at;

-- name: SetSeries :exec
UPDATE meeting SET series_id = @series_id WHERE id = @meeting_id;

-- The sessions of a type's series that are not over, those gone by among them.
-- name: SessionsOfSeries :many
SELECT meeting.id, meeting.series_id, meeting.start_at, meeting.end_at, meeting.capacity, meeting.taken FROM meeting
WHERE meeting.type_id = @type_id AND meeting.series_id > 0 AND meeting.state = 'booked' AND meeting.series_id IN (
    SELECT coming.series_id FROM meeting coming WHERE coming.type_id = @type_id AND coming.start_at > @since AND coming.series_id > 0)
ORDER BY meeting.series_id, meeting.start_at;

-- The sessions of a series that stand, from a moment on.
-- name: RestOfSeries :many
SELECT booking.* FROM meeting CROSS JOIN booking ON booking.id = meeting.session_id AND booking.life = 'scheduled'
WHERE meeting.type_id = @type_id AND meeting.series_id = CAST(@series_id AS INTEGER) AND meeting.series_id > 0 AND meeting.start_at > CAST(@since AS INTEGER)
ORDER BY meeting.start_at;

-- The latest series of a type, those gone by too.
-- name: LatestSeries :many
SELECT series_id, COUNT(*) AS sessions, CAST(min(start_at) AS INTEGER) AS first_at, CAST(max(start_at) AS INTEGER) AS last_at FROM meeting
WHERE type_id = @type_id AND series_id > 0 GROUP BY series_id ORDER BY series_id DESC LIMIT @most;

-- name: StartsOfSeries :many
SELECT start_at, end_at FROM meeting WHERE type_id = @type_id AND series_id = CAST(@series_id AS INTEGER) AND series_id > 0 ORDER BY start_at;

-- The seats that were taken at one go, the first of them first.
-- name: Party :many
SELECT booking.* FROM seat CROSS JOIN booking ON booking.id = seat.id WHERE seat.party_id = CAST(@party_id AS INTEGER) AND seat.party_id > 0 ORDER BY seat.id;

-- name: SetParty :exec
UPDATE seat SET party_id = @party_id WHERE id = @id;

-- name: SetDoubt :exec
UPDATE meeting SET doubted_at = @doubted_at WHERE id = @meeting_id;

-- Coming sessions of a workspace of which it isn't decided whether they take place, though too few had come together.
-- name: SessionsInDoubt :many
SELECT booking.* FROM meeting CROSS JOIN booking ON booking.id = meeting.session_id AND booking.life = 'scheduled' CROSS JOIN meeting_type ON meeting_type.id = meeting.type_id
WHERE meeting.doubted_at > 0 AND meeting.start_at > @now AND meeting_type.workspace_id = @workspace_id ORDER BY meeting.start_at LIMIT 100;
