-- +goose Up

-- Competitions of several days, and the one of the year that matters most.
ALTER TABLE competitions
    ADD COLUMN last_day date CHECK (last_day >= date),
    ADD COLUMN main boolean NOT NULL DEFAULT false;

-- +goose Down
ALTER TABLE competitions DROP COLUMN last_day, DROP COLUMN main;
