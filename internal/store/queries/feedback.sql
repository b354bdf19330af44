-- name: AddFeedback :exec
INSERT INTO feedback (booking_id, type_id, host_id, rating, remark, given_at) VALUES (@booking_id, @type_id, @host_id, @rating, @remark, @given_at);

-- name: FeedbackOf :many
SELECT * FROM feedback WHERE booking_id IN (sqlc.slice('bookings'));

-- How often and how types were rated: all of it, or what was said of one host's meetings.
-- name: RatingsOfTypes :many
SELECT type_id, COUNT(*) AS count, CAST(SUM(rating) AS INTEGER) AS sum FROM feedback
WHERE (CAST(@viewer AS INTEGER) = 0 OR host_id = CAST(@viewer AS INTEGER)) AND type_id IN (sqlc.slice('types'))
GROUP BY type_id;
