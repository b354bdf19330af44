-- name: Session :one
SELECT data FROM session WHERE token = @token AND expires > @now;

-- name: SetSession :exec
INSERT INTO session (token, data, expires) VALUES (@token, @data, @expires)
ON CONFLICT (token) DO UPDATE SET data = excluded.data, expires = excluded.expires;

-- name: EndSession :exec
DELETE FROM session WHERE token = @token;

-- name: EndOldSessions :exec
DELETE FROM session WHERE expires <= @now;
