-- name: AddBooking :one
INSERT INTO booking (uid, type_id, host_id, state, start_at, end_at, kept_from, kept_until, type_name, client_name, client_mail, client_zone, remark, link_hash, request_key, created_at, overlap_allowed)
VALUES (@uid, @type_id, @host_id, 'booked', @start_at, @end_at, @kept_from, @kept_until, @type_name, @client_name, @client_mail, @client_zone, @remark, @link_hash, @request_key, @created_at, @overlap_allowed)
RETURNING *;

-- name: Booking :one
SELECT * FROM booking WHERE id = @id;

-- name: BookingByLink :one
SELECT * FROM booking WHERE link_hash = @link_hash;

-- name: BookingByRequest :one
SELECT * FROM booking WHERE request_key = @request_key;

-- name: BookingsOfHost :many
SELECT * FROM booking WHERE host_id = @host_id AND state = 'booked' AND kept_until > @range_from AND kept_from < @range_to ORDER BY start_at;

-- name: SetOverlapAllowed :exec
UPDATE booking SET overlap_allowed = @overlap_allowed WHERE id = @id;

-- name: MoveBooking :exec
UPDATE booking SET start_at = @start_at, end_at = @end_at, kept_from = @kept_from, kept_until = @kept_until, sequence = sequence + 1 WHERE id = @id;

-- name: CancelBooking :exec
UPDATE booking SET state = 'cancelled', sequence = sequence + 1 WHERE id = @id;

-- name: SetBookingRoom :exec
UPDATE booking SET room = @room WHERE id = @id;

-- name: SetBookingEvent :exec
UPDATE booking SET event_calendar = @event_calendar, event_href = @event_href, event_etag = @event_etag, event_seen = '' WHERE id = @id;

-- name: AddStep :exec
INSERT INTO booking_step (booking_id, at, kind, by, note) VALUES (@booking_id, @at, @kind, @by, @note);

-- name: RecentSteps :many
SELECT booking_step.at, booking_step.kind, booking_step.by, booking_step.note, booking.client_name, booking.type_name, booking.start_at
FROM booking_step JOIN booking ON booking.id = booking_step.booking_id
WHERE booking.host_id = @host_id AND booking_step.at > @since ORDER BY booking_step.id DESC LIMIT 12;

-- name: LastStep :one
SELECT * FROM booking_step WHERE booking_id = @booking_id AND kind = @kind ORDER BY id DESC LIMIT 1;

-- name: StepsOf :many
SELECT * FROM booking_step WHERE booking_id = @booking_id ORDER BY id;

-- name: BookingByEvent :one
SELECT * FROM booking WHERE event_calendar = @event_calendar AND event_href = @event_href AND state = 'booked';

-- name: SetEventSeen :exec
UPDATE booking SET event_seen = @event_seen, event_start = @event_start, event_end = @event_end WHERE id = @id;

-- name: BookingsOfTypeBetween :many
SELECT * FROM booking WHERE type_id = @type_id AND state = 'booked' AND start_at >= @range_from AND start_at < @range_to ORDER BY start_at;

-- name: KeepClash :exec
UPDATE booking SET clash_kept = @clash_kept WHERE id = @id;
