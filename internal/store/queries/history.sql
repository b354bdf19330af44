-- name: AddSettingChange :exec
INSERT INTO setting_change (person_id, at, subject, subject_id, label, before) VALUES (@person_id, @at, @subject, @subject_id, @label, @before);

-- name: SettingChanges :many
SELECT * FROM setting_change WHERE person_id = @person_id ORDER BY id DESC LIMIT 20;

-- name: LastSettingChange :one
SELECT * FROM setting_change WHERE person_id = @person_id AND undone_at = 0 ORDER BY id DESC LIMIT 1;

-- name: MarkUndone :exec
UPDATE setting_change SET undone_at = @undone_at WHERE id = @id;

-- What somebody changed of the same subject since, and has not undone.
-- name: ChangedSince :one
SELECT COUNT(*) FROM setting_change WHERE subject = @subject AND subject_id = @subject_id AND id > @id AND undone_at = 0;

-- name: WorkspaceChanges :many
SELECT setting_change.id, setting_change.at, setting_change.label, setting_change.subject, setting_change.undone_at, person.name AS person
FROM setting_change JOIN person ON person.id = setting_change.person_id
WHERE person.workspace_id = @workspace_id ORDER BY setting_change.id DESC LIMIT 20;
