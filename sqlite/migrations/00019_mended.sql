-- +goose Up
-- The documents of plans hold what was mended and the stone that came to be recut, those of recuts what was agreed. No table
-- changes; the number keeps a program that would lose it away from these records.
SELECT 1;

-- +goose Down
SELECT 1;
