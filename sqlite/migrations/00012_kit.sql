-- +goose Up
-- The things of the kit: laps, compounds, dops and so on. What happened to them stands in the events,
-- under item/ and their ID. counted_from is the place in the log from which on their use counts as that
-- since they were charged or renewed; it follows from those events.
CREATE TABLE items (
    id           TEXT    PRIMARY KEY,
    kind         TEXT    NOT NULL,
    created      INTEGER NOT NULL,
    version      INTEGER NOT NULL,
    counted_from INTEGER NOT NULL,
    document     TEXT    NOT NULL
) STRICT;

-- How often works used the things of the kit, with which other one, on which material. It is derived
-- from the works' logs and kept anew with their state. whole_last stands in one row of each work and
-- thing: when that thing was used last there, with whatever. The index holds all that the shelf sums up.
CREATE TABLE uses (
    work_id    TEXT    NOT NULL REFERENCES works (id),
    item_id    TEXT    NOT NULL REFERENCES items (id),
    with_id    TEXT    NOT NULL,
    material   TEXT    NOT NULL,
    facets     INTEGER NOT NULL,
    first_seq  INTEGER NOT NULL,
    last_seq   INTEGER NOT NULL,
    whole_last INTEGER,
    PRIMARY KEY (work_id, item_id, with_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX uses_item ON uses (item_id, with_id, material, last_seq, first_seq, facets, whole_last);

-- Recipes of the workshop's own.
CREATE TABLE recipes (
    id       TEXT    PRIMARY KEY,
    created  INTEGER NOT NULL,
    version  INTEGER NOT NULL,
    document TEXT    NOT NULL
) STRICT;

-- What polishes made of facets.
CREATE TABLE polish_trials (
    id       TEXT    PRIMARY KEY,
    made     INTEGER NOT NULL,
    document TEXT    NOT NULL
) STRICT;

-- Stones that differ in one thing, and what those said of them who did not know which is which.
CREATE TABLE blind_trials (
    id       TEXT    PRIMARY KEY,
    created  INTEGER NOT NULL,
    version  INTEGER NOT NULL,
    document TEXT    NOT NULL
) STRICT;
CREATE TABLE verdicts (
    id       TEXT    PRIMARY KEY,
    trial_id TEXT    NOT NULL REFERENCES blind_trials (id),
    at       INTEGER NOT NULL,
    judge    TEXT    NOT NULL,
    letter   TEXT    NOT NULL,
    note     TEXT    NOT NULL
) STRICT;
CREATE INDEX verdicts_trial ON verdicts (trial_id, at);

-- +goose Down
DROP TABLE verdicts;
DROP TABLE blind_trials;
DROP TABLE polish_trials;
DROP TABLE recipes;
DROP TABLE uses;
DROP TABLE items;
