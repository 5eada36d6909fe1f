-- +goose Up
-- Times are RFC 3339 text in UTC. Documents are JSON text.

CREATE TABLE settings (
    id       INTEGER PRIMARY KEY CHECK (id = 1),
    document TEXT    NOT NULL,
    version  INTEGER NOT NULL
) STRICT;

-- A revision is never changed. Its columns beside the document are derived from
-- it, for searching.
CREATE TABLE diagram_revisions (
    hash             TEXT    PRIMARY KEY,
    document         TEXT    NOT NULL,
    name             TEXT    NOT NULL,
    outline          TEXT    NOT NULL,
    gear             INTEGER NOT NULL,
    refractive_index REAL    NOT NULL,
    tiers            INTEGER NOT NULL,
    facets           INTEGER NOT NULL,
    length_width     REAL    NOT NULL,
    height_width     REAL    NOT NULL,
    table_width      REAL    NOT NULL,
    picture          TEXT    NOT NULL,
    created          TEXT    NOT NULL
) STRICT;

CREATE TABLE diagrams (
    id       TEXT    PRIMARY KEY,
    starter  INTEGER NOT NULL,
    revision TEXT    REFERENCES diagram_revisions (hash),
    draft    TEXT    NOT NULL,
    version  INTEGER NOT NULL,
    created  TEXT    NOT NULL,
    updated  TEXT    NOT NULL,
    hidden   TEXT
) STRICT;

-- Which revisions a diagram has had, oldest first.
CREATE TABLE diagram_history (
    diagram_id TEXT NOT NULL REFERENCES diagrams (id) ON DELETE CASCADE,
    revision   TEXT NOT NULL REFERENCES diagram_revisions (hash),
    kept       TEXT NOT NULL
) STRICT;
CREATE INDEX diagram_history_diagram ON diagram_history (diagram_id);

CREATE TABLE stones (
    id      TEXT    PRIMARY KEY,
    number  INTEGER NOT NULL UNIQUE,
    name    TEXT    NOT NULL,
    created TEXT    NOT NULL,
    version INTEGER NOT NULL
) STRICT;

CREATE TABLE works (
    id       TEXT    PRIMARY KEY,
    stone_id TEXT    NOT NULL REFERENCES stones (id),
    ordinal  INTEGER NOT NULL,
    kind     TEXT    NOT NULL,
    UNIQUE (stone_id, ordinal)
) STRICT;

CREATE TABLE plans (
    work_id  TEXT    NOT NULL REFERENCES works (id),
    no       INTEGER NOT NULL,
    as_cut   TEXT    NOT NULL REFERENCES diagram_revisions (hash),
    revision TEXT    NOT NULL REFERENCES diagram_revisions (hash),
    document TEXT    NOT NULL,
    PRIMARY KEY (work_id, no)
) STRICT;

CREATE TABLE setups (
    id       TEXT    PRIMARY KEY,
    work_id  TEXT    NOT NULL REFERENCES works (id),
    ordinal  INTEGER NOT NULL,
    up       TEXT    NOT NULL,
    turn     REAL    NOT NULL,
    rotation TEXT    NOT NULL,
    UNIQUE (work_id, ordinal)
) STRICT;

-- The log is only ever added to.
CREATE TABLE events (
    seq         INTEGER PRIMARY KEY AUTOINCREMENT,
    id          TEXT    NOT NULL UNIQUE,
    work_id     TEXT    NOT NULL REFERENCES works (id),
    device      TEXT    NOT NULL,
    device_seq  INTEGER NOT NULL,
    device_time TEXT    NOT NULL,
    server_time TEXT    NOT NULL,
    kind        TEXT    NOT NULL,
    setup       TEXT    NOT NULL,
    pass        TEXT    NOT NULL,
    facet       TEXT    NOT NULL,
    item        TEXT    NOT NULL,
    undoes      TEXT    NOT NULL,
    text        TEXT    NOT NULL
) STRICT;
CREATE INDEX events_work ON events (work_id, seq);

CREATE TABLE finishes (
    work_id  TEXT    PRIMARY KEY REFERENCES works (id),
    document TEXT    NOT NULL,
    version  INTEGER NOT NULL
) STRICT;

-- +goose Down
DROP TABLE finishes;
DROP TABLE events;
DROP TABLE setups;
DROP TABLE plans;
DROP TABLE works;
DROP TABLE stones;
DROP TABLE diagram_history;
DROP TABLE diagrams;
DROP TABLE diagram_revisions;
DROP TABLE settings;
