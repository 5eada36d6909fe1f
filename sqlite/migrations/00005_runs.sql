-- +goose Up
-- A run is one plan for several stones. Each stone keeps its own log.
CREATE TABLE runs (
    id      TEXT PRIMARY KEY,
    name    TEXT NOT NULL,
    way     TEXT NOT NULL,
    created TEXT NOT NULL
) STRICT;

ALTER TABLE stones ADD COLUMN run TEXT NOT NULL DEFAULT '';
ALTER TABLE stones ADD COLUMN run_place INTEGER NOT NULL DEFAULT 0;
CREATE INDEX stones_run ON stones (run, run_place);

-- +goose Down
DROP INDEX stones_run;
ALTER TABLE stones DROP COLUMN run_place;
ALTER TABLE stones DROP COLUMN run;
DROP TABLE runs;
