-- +goose Up
-- Which run of the program wrote last. Its page is written with every change, so that the file and
-- the -wal beside it tell whether they belong together. before is the run before it; closed is 1
-- while nothing is in the -wal that is not in the file. lineage names the records as such: they get
-- another when a copy takes their place.
CREATE TABLE guard (
    id      INTEGER PRIMARY KEY CHECK (id = 1),
    session TEXT    NOT NULL,
    before  TEXT    NOT NULL,
    writes  INTEGER NOT NULL,
    closed  INTEGER NOT NULL,
    lineage TEXT    NOT NULL
) STRICT;
INSERT INTO guard VALUES (1, '', '', 0, 1, lower(hex(randomblob(16))));

-- What a client named when it had something made, so that the same request sent again makes nothing
-- more. made is the answer as it was sent.
CREATE TABLE requests (
    name TEXT    PRIMARY KEY,
    made TEXT    NOT NULL,
    at   INTEGER NOT NULL
) STRICT;
CREATE INDEX requests_at ON requests (at);

-- When copies are made and what became of the last, as one document.
CREATE TABLE copying (
    id       INTEGER PRIMARY KEY CHECK (id = 1),
    document TEXT    NOT NULL
) STRICT;

-- Rows that a repair took out of their tables, as JSON.
CREATE TABLE set_aside (
    id         INTEGER PRIMARY KEY,
    taken_from TEXT    NOT NULL,
    document   TEXT    NOT NULL,
    at         INTEGER NOT NULL
) STRICT;

-- +goose Down
DROP TABLE set_aside;
DROP TABLE copying;
DROP TABLE requests;
DROP TABLE guard;
