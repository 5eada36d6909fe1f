-- +goose Up
-- Rough as it was bought together.
CREATE TABLE parcels (
    id       TEXT    PRIMARY KEY,
    bought   TEXT    NOT NULL,
    created  INTEGER NOT NULL,
    version  INTEGER NOT NULL,
    document TEXT    NOT NULL
) STRICT;
CREATE INDEX parcels_bought ON parcels (bought DESC, created DESC, id);

-- Pieces of rough. The columns beside the document follow from it, for lists, the sketch too; rough is the
-- piece as its open file.
CREATE TABLE pieces (
    id        TEXT    PRIMARY KEY,
    number    INTEGER NOT NULL UNIQUE,
    parcel_id TEXT    REFERENCES parcels (id),
    parent_id TEXT    REFERENCES pieces (id),
    fate      TEXT    NOT NULL,
    carats    REAL    NOT NULL,
    search    TEXT    NOT NULL,
    created   INTEGER NOT NULL,
    version   INTEGER NOT NULL,
    document  TEXT    NOT NULL,
    sketch    TEXT    NOT NULL,
    rough     TEXT    NOT NULL
) STRICT;
CREATE INDEX pieces_parcel ON pieces (parcel_id, parent_id, carats);
CREATE INDEX pieces_parent ON pieces (parent_id);

-- The largest stone of a diagram that was found in a piece: one for each diagram.
CREATE TABLE candidates (
    id         TEXT    PRIMARY KEY,
    piece_id   TEXT    NOT NULL REFERENCES pieces (id),
    diagram_id TEXT    NOT NULL,
    carats     REAL    NOT NULL,
    chosen     INTEGER,
    made       INTEGER NOT NULL,
    document   TEXT    NOT NULL,
    UNIQUE (piece_id, diagram_id)
) STRICT;

-- +goose Down
DROP TABLE candidates;
DROP TABLE pieces;
DROP TABLE parcels;
