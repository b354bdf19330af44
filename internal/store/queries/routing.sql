-- name: SetRouting :exec
UPDATE meeting_type SET routing = @routing, who = @who, version = version + 1 WHERE id = @id;

-- name: AddAssignment :exec
INSERT INTO assignment (meeting_id, booking_id, type_id, person_id, at, reason) VALUES (@meeting_id, @booking_id, @type_id, @person_id, @at, @reason);

-- Another meeting with the same hosts was given to them for the same reasons.
-- name: AssignLike :exec
INSERT INTO assignment (meeting_id, booking_id, type_id, person_id, at, reason)
SELECT CAST(@meeting_id AS INTEGER), CAST(@booking_id AS INTEGER), type_id, person_id, CAST(@at AS INTEGER), reason FROM assignment given WHERE given.meeting_id = @like_meeting AND given.given_back = 0;

-- name: GiveBack :exec
UPDATE assignment SET given_back = 1 WHERE meeting_id = @meeting_id;

-- name: GiveBackOf :exec
UPDATE assignment SET given_back = 1 WHERE meeting_id = @meeting_id AND person_id = @person_id;

-- name: AssignmentsOfMeeting :many
SELECT * FROM assignment WHERE meeting_id = @meeting_id AND given_back = 0 ORDER BY id;

-- What counts in a ledger.
-- name: GivenOfType :many
SELECT at, person_id FROM assignment WHERE type_id = @type_id AND at >= @since AND given_back = 0 ORDER BY at, id;

-- The same, each with how many clients have a seat in it.
-- name: GivenSeatsOfType :many
SELECT assignment.at, assignment.person_id, meeting.taken FROM assignment CROSS JOIN meeting ON meeting.id = assignment.meeting_id
WHERE assignment.type_id = @type_id AND assignment.at >= @since AND assignment.given_back = 0 ORDER BY assignment.at, assignment.id;

-- The latest, also what was given back.
-- name: AssignmentsOfType :many
SELECT assignment.*, booking.client_name, booking.start_at FROM assignment CROSS JOIN booking ON booking.id = assignment.booking_id
WHERE assignment.type_id = @type_id AND assignment.at >= @since ORDER BY assignment.at DESC, assignment.id DESC LIMIT 60;

-- name: CorrectLedger :exec
INSERT INTO ledger_correction (type_id, person_id, at, credit, remark, by_id) VALUES (@type_id, @person_id, @at, @credit, @remark, @by_id);

-- name: Corrections :many
SELECT * FROM ledger_correction WHERE type_id = @type_id AND at >= @since ORDER BY at, id;

-- The hosts of a client's last booking in a workspace.
-- name: LastHostOfClient :one
SELECT booking.host_id FROM booking JOIN person ON person.id = booking.host_id
WHERE booking.client_mail = @client_mail COLLATE NOCASE AND person.workspace_id = @workspace_id ORDER BY booking.id DESC LIMIT 1;

-- name: BookedMinutes :many
SELECT person_id, CAST(SUM(end_at - start_at) / 60 AS INTEGER) AS minutes FROM meeting_host
WHERE state = 'booked' AND start_at >= @range_from AND start_at < @range_to AND person_id IN (sqlc.slice('people')) GROUP BY person_id;

-- name: Teams :many
SELECT * FROM team WHERE workspace_id = @workspace_id ORDER BY name;

-- name: TeamMembers :many
SELECT team_member.* FROM team_member JOIN person ON person.id = team_member.person_id
WHERE team_member.team_id = @team_id AND person.removed_at = 0 ORDER BY team_member.joined_at, team_member.person_id;

-- name: AddTeam :one
INSERT INTO team (workspace_id, name, slug) VALUES (@workspace_id, @name, @slug) RETURNING id;

-- name: RenameTeam :exec
UPDATE team SET name = @name, slug = @slug WHERE id = @id AND workspace_id = @workspace_id;

-- name: RemoveTeam :exec
DELETE FROM team WHERE id = @id AND workspace_id = @workspace_id;

-- name: JoinTeam :exec
INSERT INTO team_member (team_id, person_id, joined_at) VALUES (@team_id, @person_id, @joined_at) ON CONFLICT DO NOTHING;

-- name: LeaveTeam :exec
DELETE FROM team_member WHERE team_id = @team_id AND person_id = @person_id;

-- name: SetPerson :exec
UPDATE person SET slug = @slug, name = @name, zone = @zone, role = @role, bookable = @bookable, attributes = @attributes, photo = @photo, no_page = @no_page WHERE id = @id;

-- name: RemovePerson :exec
UPDATE person SET removed_at = @removed_at, bookable = 0, mail = 'left ' || id || ' ' || mail WHERE id = @id;

-- name: Owners :one
SELECT COUNT(*) FROM person WHERE workspace_id = @workspace_id AND role = 'owner' AND removed_at = 0 AND id <> @except;

-- name: AddInvitation :exec
INSERT INTO invitation (workspace_id, name, mail, role, link_hash, invited_by, expires_at)
VALUES (@workspace_id, @name, @mail, @role, @link_hash, @invited_by, @expires_at);

-- name: InvitationByLink :one
SELECT * FROM invitation WHERE link_hash = @link_hash;

-- name: UseInvitation :exec
UPDATE invitation SET used_at = @used_at WHERE id = @id;

-- name: OpenInvitations :many
SELECT * FROM invitation WHERE workspace_id = @workspace_id AND used_at = 0 ORDER BY id DESC LIMIT 50;

-- name: RemoveInvitation :exec
DELETE FROM invitation WHERE id = @id AND workspace_id = @workspace_id AND used_at = 0;

-- name: TypesOfWorkspace :many
SELECT * FROM meeting_type WHERE workspace_id = @workspace_id AND removed_at = 0 ORDER BY position, id;
