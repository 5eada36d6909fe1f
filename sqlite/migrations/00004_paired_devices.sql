-- +goose Up
-- A device that may enter over the network. Of its session only a hash is kept.
CREATE TABLE devices (
    id      TEXT PRIMARY KEY,
    name    TEXT NOT NULL,
    session TEXT NOT NULL UNIQUE,
    paired  TEXT NOT NULL,
    seen    TEXT NOT NULL
) STRICT;

-- +goose Down
DROP TABLE devices;
