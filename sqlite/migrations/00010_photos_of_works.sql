-- +goose Up
-- A photo belongs to a work, and shows the stone before it or after it. What was taken so far was
-- taken when a stone came in.
ALTER TABLE photos ADD COLUMN work_id TEXT NOT NULL DEFAULT '';
ALTER TABLE photos ADD COLUMN shows TEXT NOT NULL DEFAULT 'before';
UPDATE photos SET work_id = coalesce(
    (SELECT id FROM works w WHERE w.stone_id = photos.stone_id AND w.task = 'repair' ORDER BY ordinal DESC LIMIT 1),
    (SELECT id FROM works w WHERE w.stone_id = photos.stone_id ORDER BY ordinal DESC LIMIT 1), '');

-- +goose Down
ALTER TABLE photos DROP COLUMN shows;
ALTER TABLE photos DROP COLUMN work_id;
