-- +goose Up
-- The documents of plans hold what was changed at the wheel. No table changes; the number keeps a program that
-- would lose it away from these records.
SELECT 1;

-- +goose Down
SELECT 1;
