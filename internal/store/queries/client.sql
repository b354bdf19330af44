-- The clients of a workspace, each as they called themselves last.
-- name: Clients :many
SELECT latest.client_name, latest.client_mail, latest.client_zone, latest.start_at AS latest_start, client.first_at, CAST((
    SELECT COUNT(*) FROM booking b JOIN meeting_type ON meeting_type.id = b.type_id
    WHERE b.client_mail = client.mail COLLATE NOCASE AND meeting_type.workspace_id = client.workspace_id AND b.life <> 'unproved') AS INTEGER) AS bookings
FROM client JOIN booking latest ON latest.id = client.latest_id
WHERE client.workspace_id = @workspace_id
  AND (CAST(@search AS TEXT) = '' OR instr(lower(client.name || ' ' || client.mail), lower(CAST(@search AS TEXT))) > 0)
ORDER BY client.latest_id DESC LIMIT 100;

-- Those of one of its hosts.
-- name: ClientsOfHost :many
SELECT latest.client_name, latest.client_mail, latest.client_zone, latest.start_at AS latest_start, grouped.first_at, grouped.bookings
FROM (
    SELECT CAST(MAX(booking.id) AS INTEGER) AS id, COUNT(*) AS bookings, CAST(MIN(booking.created_at) AS INTEGER) AS first_at
    FROM meeting_host JOIN booking ON booking.meeting_id = meeting_host.meeting_id
    WHERE meeting_host.person_id = @host_id AND meeting_host.state <> 'left' AND booking.session = 0 AND booking.life <> 'unproved'
    GROUP BY lower(booking.client_mail)
) grouped JOIN booking latest ON latest.id = grouped.id
WHERE CAST(@search AS TEXT) = '' OR instr(lower(latest.client_name || ' ' || latest.client_mail), lower(CAST(@search AS TEXT))) > 0
ORDER BY latest.id DESC LIMIT 100;

-- name: BookingsByClient :many
SELECT booking.* FROM booking JOIN meeting_type ON meeting_type.id = booking.type_id
WHERE meeting_type.workspace_id = @workspace_id AND booking.client_mail = @mail COLLATE NOCASE AND booking.life <> 'unproved'
  AND (CAST(@host_id AS INTEGER) = 0 OR EXISTS (SELECT 1 FROM meeting_host h WHERE h.meeting_id = booking.meeting_id AND h.person_id = CAST(@host_id AS INTEGER) AND h.state <> 'left'))
ORDER BY booking.start_at DESC LIMIT 200;

-- name: ClientNote :one
SELECT notes FROM client_note WHERE workspace_id = @workspace_id AND mail = @mail;

-- name: SetClientNote :exec
INSERT INTO client_note (workspace_id, mail, notes) VALUES (@workspace_id, @mail, @notes)
ON CONFLICT (workspace_id, mail) DO UPDATE SET notes = excluded.notes;

-- name: ClientLanguage :one
SELECT seat.language FROM client JOIN seat ON seat.id = client.latest_id WHERE client.workspace_id = @workspace_id AND client.mail = @mail;

-- What a client has booked so far beside one booking: with anybody, or only with one host if one is given.
-- name: ClientSoFar :one
SELECT COUNT(*) AS bookings, CAST(COALESCE(SUM(booking.life = 'no-show'), 0) AS INTEGER) AS no_shows,
  CAST(COALESCE(MAX(CASE WHEN booking.state = 'booked' AND booking.start_at < CAST(@now AS INTEGER) THEN booking.start_at END), 0) AS INTEGER) AS last_start
FROM booking JOIN meeting_type ON meeting_type.id = booking.type_id
WHERE meeting_type.workspace_id = @workspace_id AND booking.client_mail = @mail COLLATE NOCASE AND booking.life <> 'unproved' AND booking.id <> @beside
  AND (CAST(@host_id AS INTEGER) = 0 OR EXISTS (SELECT 1 FROM meeting_host h WHERE h.meeting_id = booking.meeting_id AND h.person_id = CAST(@host_id AS INTEGER) AND h.state <> 'left'));

-- Those whose names or addresses have words that begin like these, those who came last first; only those of one host if one is given.
-- name: FindClients :many
SELECT seat.client_name, seat.client_mail FROM client_words
CROSS JOIN client ON client.words_id = client_words.rowid AND client.workspace_id = @workspace_id
CROSS JOIN seat ON seat.id = client.latest_id
WHERE client_words.words MATCH @words
  AND (CAST(@host_id AS INTEGER) = 0 OR client_words.rowid IN ( -- looked up once: two letters may begin the names of all there are
    SELECT own.words_id FROM meeting_host h CROSS JOIN seat s ON s.meeting_id = h.meeting_id CROSS JOIN client own ON own.workspace_id = @workspace_id AND own.mail = s.client_mail
    WHERE h.person_id = CAST(@host_id AS INTEGER) AND h.state <> 'left' AND s.life <> 'unproved'))
ORDER BY client_words.rowid DESC LIMIT @most;

-- A client's latest bookings that stand.
-- name: LatestBookings :many
SELECT booking.* FROM booking JOIN meeting_type ON meeting_type.id = booking.type_id
WHERE meeting_type.workspace_id = @workspace_id AND booking.client_mail = @mail COLLATE NOCASE AND booking.state = 'booked' AND booking.life <> 'unproved'
  AND (CAST(@host_id AS INTEGER) = 0 OR EXISTS (SELECT 1 FROM meeting_host h WHERE h.meeting_id = booking.meeting_id AND h.person_id = CAST(@host_id AS INTEGER) AND h.state <> 'left'))
ORDER BY booking.start_at DESC LIMIT 30;
