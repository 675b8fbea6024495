-- +goose Up
-- The exercises, rules and school an issued programme was made by, so that it
-- reads the same for ever. Versions issued before have none.
ALTER TABLE programme_steps ADD COLUMN frozen json;

-- +goose Down
ALTER TABLE programme_steps DROP COLUMN frozen;
