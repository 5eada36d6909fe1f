-- +goose Up
-- Diagrams tried at many angles, with what came of every point.
CREATE TABLE sweeps (
    id         TEXT PRIMARY KEY,
    diagram_id TEXT NOT NULL REFERENCES diagrams (id) ON DELETE CASCADE,
    draft      TEXT NOT NULL,
    asked      TEXT NOT NULL,
    sg         REAL NOT NULL,
    points     TEXT NOT NULL,
    created    TEXT NOT NULL
) STRICT;
CREATE INDEX sweeps_diagram ON sweeps (diagram_id);

-- +goose Down
DROP TABLE sweeps;
