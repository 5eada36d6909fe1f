-- +goose Up
-- Which piece of rough a stone is cut from, as its work tells.
ALTER TABLE works ADD COLUMN piece_id TEXT REFERENCES pieces (id);
CREATE INDEX works_piece ON works (piece_id) WHERE piece_id IS NOT NULL;

-- Until when the bond of a stone cures. It follows from the log, as work_state does, and stands beside it
-- because few works have one.
CREATE TABLE cures (
    work_id TEXT    PRIMARY KEY REFERENCES works (id),
    until   INTEGER NOT NULL
) STRICT;
CREATE INDEX cures_until ON cures (until);

-- +goose Down
DROP TABLE cures;
DROP INDEX works_piece;
ALTER TABLE works DROP COLUMN piece_id;
