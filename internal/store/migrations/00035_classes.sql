-- +goose Up

-- Whom a meeting was given to is counted with it, whichever of its clients come and go; booking_id is whose booking it was given with.
ALTER TABLE assignment ADD COLUMN meeting_id INTEGER NOT NULL DEFAULT 0;
UPDATE assignment SET meeting_id = (SELECT seat.meeting_id FROM seat WHERE seat.id = assignment.booking_id);
DROP INDEX assignment_by_booking;
CREATE INDEX assignment_by_meeting ON assignment (meeting_id);

-- +goose Down
DROP INDEX assignment_by_meeting;
CREATE INDEX assignment_by_booking ON assignment (booking_id);
ALTER TABLE assignment DROP COLUMN meeting_id;
