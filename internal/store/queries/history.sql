-- name: AddSettingChange :exec
INSERT INTO setting_change (person_id, at, subject, subject_id, label, before) VALUES (@person_id, @at, @subject, @subject_id, @label, @before);

-- name: SettingChanges :many
SELECT * FROM setting_change WHERE person_id = @person_id ORDER BY id DESC LIMIT 20;

-- name: LastSettingChange :one
SELECT * FROM setting_change WHERE person_id = @person_id AND undone_at = 0 ORDER BY id DESC LIMIT 1;

-- name: MarkUndone :exec
UPDATE setting_change SET undone_at = @undone_at WHERE id = @id;
