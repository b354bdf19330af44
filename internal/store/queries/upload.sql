-- name: AddUpload :exec
INSERT INTO upload (token_hash, type_id, name, media, bytes, sender, created_at) VALUES (@token_hash, @type_id, @name, @media, @bytes, @sender, @created_at);

-- name: UploadName :one
SELECT name FROM upload WHERE token_hash = @token_hash AND type_id = @type_id AND booking_id IS NULL;

-- name: ClaimUpload :exec
UPDATE upload SET booking_id = @booking_id, sender = '' WHERE token_hash = @token_hash AND booking_id IS NULL;

-- name: UploadsOfBookings :many
SELECT id, booking_id, name, CAST(length(bytes) AS INTEGER) AS size FROM upload WHERE booking_id IN (sqlc.slice('bookings')) ORDER BY id;

-- name: Upload :one
SELECT * FROM upload WHERE id = @id;

-- name: OldUploads :one
SELECT COUNT(*) FROM upload WHERE booking_id IS NULL AND created_at < @before;

-- name: DropUploads :exec
DELETE FROM upload WHERE booking_id IS NULL AND created_at < @before;

-- name: UnclaimedBytes :one
SELECT CAST(COALESCE(SUM(length(bytes)), 0) AS INTEGER) FROM upload WHERE booking_id IS NULL;

-- name: UnclaimedBytesOf :one
SELECT CAST(COALESCE(SUM(length(bytes)), 0) AS INTEGER) FROM upload WHERE sender = @sender AND booking_id IS NULL;
