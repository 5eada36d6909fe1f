-- +goose Up
-- The documents of cards hold what is asked for the stone, those of plans and habits by how much the girdle is left
-- thicker at first. No table changes; the number keeps a program that
-- would lose it away from these records.
SELECT 1;

-- +goose Down
SELECT 1;
