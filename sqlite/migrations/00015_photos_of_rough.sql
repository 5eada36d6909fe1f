-- +goose Up
-- A photo is of a stone or of a piece of rough, and may have marks on it: '' for none.
CREATE TABLE photos_of_all (
    id       TEXT    PRIMARY KEY,
    stone_id TEXT    REFERENCES stones (id),
    piece_id TEXT    REFERENCES pieces (id),
    hash     TEXT    NOT NULL,
    taken    INTEGER NOT NULL,
    note     TEXT    NOT NULL,
    work_id  TEXT    NOT NULL DEFAULT '',
    shows    TEXT    NOT NULL DEFAULT 'before',
    version  INTEGER NOT NULL DEFAULT 1,
    marks    TEXT    NOT NULL DEFAULT '',
    CHECK ((stone_id IS NULL) <> (piece_id IS NULL))
) STRICT;
INSERT INTO photos_of_all (id, stone_id, hash, taken, note, work_id, shows)
SELECT id, stone_id, hash, taken, note, work_id, shows FROM photos;
DROP TABLE photos;
ALTER TABLE photos_of_all RENAME TO photos;
CREATE INDEX photos_stone ON photos (stone_id) WHERE stone_id IS NOT NULL;
CREATE INDEX photos_piece ON photos (piece_id) WHERE piece_id IS NOT NULL;

-- +goose Down
CREATE TABLE photos_of_stones (
    id       TEXT    PRIMARY KEY,
    stone_id TEXT    NOT NULL REFERENCES stones (id),
    hash     TEXT    NOT NULL,
    taken    INTEGER NOT NULL,
    note     TEXT    NOT NULL,
    work_id  TEXT    NOT NULL DEFAULT '',
    shows    TEXT    NOT NULL DEFAULT 'before'
) STRICT;
INSERT INTO photos_of_stones (id, stone_id, hash, taken, note, work_id, shows)
SELECT id, stone_id, hash, taken, note, work_id, shows FROM photos WHERE stone_id IS NOT NULL;
DROP TABLE photos;
ALTER TABLE photos_of_stones RENAME TO photos;
CREATE INDEX photos_stone ON photos (stone_id);
