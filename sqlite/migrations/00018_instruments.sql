-- +goose Up
-- What measures on the bench and is read by itself. Events hold readings of all dials from now on, and the stone that a
-- machine told.
CREATE TABLE instruments (
    id       TEXT    PRIMARY KEY,
    created  INTEGER NOT NULL,
    version  INTEGER NOT NULL,
    document TEXT    NOT NULL
) STRICT;

-- +goose Down
DROP TABLE instruments;
