-- Times are whole microseconds since 1970, UTC. Documents are JSON text of a form that
-- carries its number.

DROP INDEX diagram_history_diagram;
DROP INDEX events_work;
DROP INDEX stones_run;
DROP INDEX photos_stone;
DROP INDEX sweeps_diagram;
ALTER TABLE diagram_revisions RENAME TO old_revisions;
ALTER TABLE diagrams RENAME TO old_diagrams;
ALTER TABLE diagram_history RENAME TO old_history;
ALTER TABLE stones RENAME TO old_stones;
ALTER TABLE works RENAME TO old_works;
ALTER TABLE plans RENAME TO old_plans;
ALTER TABLE setups RENAME TO old_setups;
ALTER TABLE events RENAME TO old_events;
ALTER TABLE finishes RENAME TO old_finishes;
ALTER TABLE runs RENAME TO old_runs;
ALTER TABLE photos RENAME TO old_photos;
ALTER TABLE sweeps RENAME TO old_sweeps;
ALTER TABLE devices RENAME TO old_devices;

-- Long columns come last in every table: what stands before them is read without them.

-- A revision is never changed. Its columns beside the document are derived from it, for
-- searching.
CREATE TABLE diagram_revisions (
    hash             TEXT    PRIMARY KEY,
    name             TEXT    NOT NULL,
    outline          TEXT    NOT NULL,
    gear             INTEGER NOT NULL,
    refractive_index REAL    NOT NULL,
    tiers            INTEGER NOT NULL,
    facets           INTEGER NOT NULL,
    length_width     REAL    NOT NULL,
    height_width     REAL    NOT NULL,
    table_width      REAL    NOT NULL,
    shallowest       REAL    NOT NULL,
    created          INTEGER NOT NULL,
    picture          TEXT    NOT NULL,
    document         TEXT    NOT NULL
) STRICT;

-- Name, outline, gear and search follow from the draft, edited from draft and revision.
CREATE TABLE diagrams (
    id           TEXT    PRIMARY KEY,
    starter      INTEGER NOT NULL,
    revision     TEXT    REFERENCES diagram_revisions (hash),
    name         TEXT    NOT NULL COLLATE NOCASE,
    outline      TEXT    NOT NULL,
    gear         TEXT    NOT NULL,
    edited       INTEGER NOT NULL,
    version      INTEGER NOT NULL,
    created      INTEGER NOT NULL,
    updated      INTEGER NOT NULL,
    hidden       INTEGER,
    origin       TEXT    NOT NULL,
    variant_of   TEXT    NOT NULL,
    sense_chosen INTEGER NOT NULL,
    search       TEXT    NOT NULL,
    draft        TEXT    NOT NULL
) STRICT;
CREATE INDEX diagrams_outline ON diagrams (outline) WHERE hidden IS NULL;
CREATE INDEX diagrams_gear ON diagrams (gear) WHERE hidden IS NULL;
CREATE INDEX diagrams_name ON diagrams (name, id) WHERE hidden IS NULL;
CREATE INDEX diagrams_variant ON diagrams (variant_of) WHERE variant_of <> '';

-- Which revisions a diagram has had, oldest first.
CREATE TABLE diagram_history (
    diagram_id TEXT    NOT NULL REFERENCES diagrams (id) ON DELETE CASCADE,
    revision   TEXT    NOT NULL REFERENCES diagram_revisions (hash),
    kept       INTEGER NOT NULL
) STRICT;
CREATE INDEX diagram_history_diagram ON diagram_history (diagram_id);

-- How a revision looks to a machine, which is named by what its judgement depends on.
CREATE TABLE judgements (
    revision      TEXT    NOT NULL REFERENCES diagram_revisions (hash),
    machine       TEXT    NOT NULL,
    level         TEXT    NOT NULL,
    points        REAL    NOT NULL,
    weights       TEXT    NOT NULL,
    cuttable      INTEGER NOT NULL,
    largest_cheat REAL    NOT NULL,
    PRIMARY KEY (machine, revision)
) STRICT, WITHOUT ROWID;

CREATE TABLE runs (
    id      TEXT    PRIMARY KEY,
    name    TEXT    NOT NULL,
    way     TEXT    NOT NULL,
    created INTEGER NOT NULL
) STRICT;

CREATE TABLE stones (
    id        TEXT    PRIMARY KEY,
    number    INTEGER NOT NULL UNIQUE,
    name      TEXT    NOT NULL,
    created   INTEGER NOT NULL,
    version   INTEGER NOT NULL,
    run       TEXT    REFERENCES runs (id),
    run_place INTEGER NOT NULL
) STRICT;
CREATE INDEX stones_run ON stones (run, run_place) WHERE run IS NOT NULL;

-- What is done to a stone. The task's own record is a document, '' where it has none.
CREATE TABLE works (
    id       TEXT    PRIMARY KEY,
    stone_id TEXT    NOT NULL REFERENCES stones (id),
    ordinal  INTEGER NOT NULL,
    task     TEXT    NOT NULL,
    document TEXT    NOT NULL,
    created  INTEGER NOT NULL,
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

-- The figures beside the document are its own, for adding up. Hours are those that the
-- cutter corrected, reckoned those that follow from the log.
CREATE TABLE finishes (
    work_id         TEXT    PRIMARY KEY REFERENCES works (id),
    version         INTEGER NOT NULL,
    finished        TEXT    NOT NULL,
    rough_carats    REAL    NOT NULL,
    finished_carats REAL    NOT NULL,
    hours           REAL,
    reckoned        REAL    NOT NULL DEFAULT 0,
    document        TEXT    NOT NULL
) STRICT;
CREATE INDEX finishes_finished ON finishes (finished DESC, work_id DESC);

-- The log is only ever added to. A stream is what has a log: "work/…".
CREATE TABLE events (
    seq         INTEGER PRIMARY KEY AUTOINCREMENT,
    id          TEXT    NOT NULL UNIQUE,
    stream      TEXT    NOT NULL,
    device      TEXT    NOT NULL,
    device_seq  INTEGER NOT NULL,
    device_time INTEGER NOT NULL,
    server_time INTEGER NOT NULL,
    kind        TEXT    NOT NULL,
    version     INTEGER NOT NULL,
    payload     TEXT    NOT NULL,
    by_id       TEXT    NOT NULL,
    by_name     TEXT    NOT NULL
) STRICT;
CREATE INDEX events_stream ON events (stream, seq);

-- Where a work stands, folded from its log, and what lists show beside it. All of it is
-- derived: "cressa check --repair" makes it anew. Present marks the last work of a stone.
CREATE TABLE work_state (
    work_id       TEXT    PRIMARY KEY REFERENCES works (id),
    present       INTEGER NOT NULL,
    task          TEXT    NOT NULL,
    seq           INTEGER NOT NULL,
    state         TEXT    NOT NULL,
    done          INTEGER NOT NULL,
    total         INTEGER NOT NULL,
    hours         REAL    NOT NULL,
    last_event    INTEGER NOT NULL,
    late          INTEGER NOT NULL,
    usual_minutes REAL    NOT NULL,
    ticks         INTEGER NOT NULL,
    diagram       TEXT    NOT NULL,
    picture       TEXT    NOT NULL,
    material      TEXT    NOT NULL,
    size_mm       REAL    NOT NULL,
    promised      TEXT    NOT NULL,
    search        TEXT    NOT NULL,
    rules         INTEGER NOT NULL,
    ticked        TEXT    NOT NULL,
    folded        TEXT    NOT NULL
) STRICT;
CREATE INDEX work_state_touch ON work_state (last_event DESC, work_id DESC) WHERE present = 1;
CREATE INDEX work_state_state ON work_state (state, last_event DESC, work_id DESC) WHERE present = 1;

-- Photos of stones. The pictures lie beside the database as files, named by their hash.
CREATE TABLE photos (
    id       TEXT    PRIMARY KEY,
    stone_id TEXT    NOT NULL REFERENCES stones (id),
    hash     TEXT    NOT NULL,
    taken    INTEGER NOT NULL,
    note     TEXT    NOT NULL
) STRICT;
CREATE INDEX photos_stone ON photos (stone_id);

-- Diagrams tried at many angles, with what came of every point.
CREATE TABLE sweeps (
    id         TEXT    PRIMARY KEY,
    diagram_id TEXT    NOT NULL REFERENCES diagrams (id) ON DELETE CASCADE,
    draft      TEXT    NOT NULL,
    asked      TEXT    NOT NULL,
    sg         REAL    NOT NULL,
    points     TEXT    NOT NULL,
    created    INTEGER NOT NULL
) STRICT;
CREATE INDEX sweeps_diagram ON sweeps (diagram_id);

-- What a library was filled with once: it is not filled with it again.
CREATE TABLE library_fills (
    name TEXT PRIMARY KEY
) STRICT;

-- A device that may enter over the network. Of its session only a hash is kept.
CREATE TABLE devices (
    id      TEXT    PRIMARY KEY,
    name    TEXT    NOT NULL,
    session TEXT    NOT NULL UNIQUE,
    paired  INTEGER NOT NULL,
    seen    INTEGER NOT NULL
) STRICT;
