-- +goose Up
-- The documents of plans hold the facets that face up one after the other and the teeth that are dialled. No table changes; the
-- number keeps a program that would lose it away from these records.
SELECT 1;

-- +goose Down
SELECT 1;
