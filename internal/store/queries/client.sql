-- The clients of a workspace, or of one host of it (0: of all), each as they called themselves last.
-- name: Clients :many
SELECT latest.client_name, latest.client_mail, latest.client_zone, latest.start_at AS latest_start, grouped.bookings, grouped.first_at
FROM (
    SELECT CAST(MAX(booking.id) AS INTEGER) AS id, COUNT(*) AS bookings, CAST(MIN(booking.created_at) AS INTEGER) AS first_at
    FROM booking JOIN meeting_type ON meeting_type.id = booking.type_id
    WHERE meeting_type.workspace_id = @workspace_id AND booking.life <> 'unproved'
      AND (CAST(@host_id AS INTEGER) = 0 OR EXISTS (SELECT 1 FROM booking_host h WHERE h.booking_id = booking.id AND h.person_id = CAST(@host_id AS INTEGER) AND h.state <> 'left'))
    GROUP BY lower(booking.client_mail)
) grouped JOIN booking latest ON latest.id = grouped.id
WHERE CAST(@search AS TEXT) = '' OR instr(lower(latest.client_name || ' ' || latest.client_mail), lower(CAST(@search AS TEXT))) > 0
ORDER BY latest.id DESC LIMIT 200;

-- name: BookingsByClient :many
SELECT booking.* FROM booking JOIN meeting_type ON meeting_type.id = booking.type_id
WHERE meeting_type.workspace_id = @workspace_id AND booking.client_mail = @mail COLLATE NOCASE AND booking.life <> 'unproved'
  AND (CAST(@host_id AS INTEGER) = 0 OR EXISTS (SELECT 1 FROM booking_host h WHERE h.booking_id = booking.id AND h.person_id = CAST(@host_id AS INTEGER) AND h.state <> 'left'))
ORDER BY booking.start_at DESC LIMIT 200;

-- name: ClientNote :one
SELECT notes FROM client_note WHERE workspace_id = @workspace_id AND mail = @mail;

-- name: SetClientNote :exec
INSERT INTO client_note (workspace_id, mail, notes) VALUES (@workspace_id, @mail, @notes)
ON CONFLICT (workspace_id, mail) DO UPDATE SET notes = excluded.notes;
