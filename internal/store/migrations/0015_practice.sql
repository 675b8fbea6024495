-- +goose Up

-- The units a practice reads, quantity by quantity; speed_unit stands already.
ALTER TABLE practices
    ADD COLUMN mass_unit     text NOT NULL DEFAULT 'kg' CHECK (mass_unit IN ('kg', 'lb')),
    ADD COLUMN length_unit   text NOT NULL DEFAULT 'cm' CHECK (length_unit IN ('cm', 'in')),
    ADD COLUMN distance_unit text NOT NULL DEFAULT 'm' CHECK (distance_unit IN ('m', 'ft'));

-- What a practice has at hand, said once: places with their kit, the bar and the discs,
-- and the battery a screen day begins with. No row: what we ship.
CREATE TABLE practice_setups (
    practice_id uuid PRIMARY KEY REFERENCES practices (id) ON DELETE CASCADE,
    revision    integer NOT NULL CHECK (revision > 0),
    places      jsonb NOT NULL,
    begins      text NOT NULL CHECK (length(begins) <= 40),
    bar_kg      double precision NOT NULL CHECK (bar_kg >= 0),
    plates      jsonb NOT NULL,
    battery     text NOT NULL CHECK (length(battery) <= 60)
);

-- +goose Down
DROP TABLE practice_setups;
ALTER TABLE practices DROP COLUMN mass_unit, DROP COLUMN length_unit, DROP COLUMN distance_unit;
