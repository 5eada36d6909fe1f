-- +goose Up
-- What was written down when a stone came in; '' for a first cut.
ALTER TABLE works ADD COLUMN intake TEXT NOT NULL DEFAULT '';

-- Photos of stones. The pictures lie beside the database as files, named by their
-- hash.
CREATE TABLE photos (
    id       TEXT PRIMARY KEY,
    stone_id TEXT NOT NULL REFERENCES stones (id),
    hash     TEXT NOT NULL,
    taken    TEXT NOT NULL,
    note     TEXT NOT NULL
) STRICT;
CREATE INDEX photos_stone ON photos (stone_id);

-- +goose Down
DROP TABLE photos;
ALTER TABLE works DROP COLUMN intake;
