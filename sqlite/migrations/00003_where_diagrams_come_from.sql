-- +goose Up
-- Origin is where a diagram came from: a file's name, or that it was pasted.
-- Variant_of groups diagrams that are tried against each other, by the ID of the
-- first. Sense_chosen tells that the cutter was asked which way the indexes run.
ALTER TABLE diagrams ADD COLUMN origin TEXT NOT NULL DEFAULT '';
ALTER TABLE diagrams ADD COLUMN variant_of TEXT NOT NULL DEFAULT '';
ALTER TABLE diagrams ADD COLUMN sense_chosen INTEGER NOT NULL DEFAULT 0;

-- +goose Down
ALTER TABLE diagrams DROP COLUMN sense_chosen;
ALTER TABLE diagrams DROP COLUMN variant_of;
ALTER TABLE diagrams DROP COLUMN origin;
