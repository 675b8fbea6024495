-- +goose Up

-- What a practice changes about the tests. own, targets and sets are read and
-- written whole; the core checks them.
CREATE TABLE battery_changes (
    practice_id uuid PRIMARY KEY REFERENCES practices (id) ON DELETE CASCADE,
    revision    int NOT NULL DEFAULT 1 CHECK (revision > 0),
    own         jsonb NOT NULL DEFAULT '[]',
    targets     jsonb NOT NULL DEFAULT '{}',
    sets        jsonb NOT NULL DEFAULT '[]',
    confidence  int NOT NULL DEFAULT 95 CHECK (confidence IN (80, 90, 95, 99))
);

ALTER TABLE screens
    ADD COLUMN last_lesson date,
    ADD COLUMN club_change text NOT NULL DEFAULT '' CHECK (length(club_change) <= 500),
    ADD COLUMN intent      text NOT NULL DEFAULT '' CHECK (intent IN ('', 'full', 'held-back')),
    ADD COLUMN tester      text NOT NULL DEFAULT '' CHECK (length(tester) <= 500),
    ADD COLUMN place       text NOT NULL DEFAULT '' CHECK (length(place) <= 500),
    ADD COLUMN floor       text NOT NULL DEFAULT '' CHECK (length(floor) <= 500),
    ADD COLUMN set         text NOT NULL DEFAULT '' CHECK (length(set) <= 60);

-- Bringing in a file: the upload, what it is read as, and what came of it.
CREATE TABLE imports (
    id          uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    practice_id uuid NOT NULL REFERENCES practices (id) ON DELETE CASCADE,
    file_name   text NOT NULL CHECK (length(file_name) BETWEEN 1 AND 200),
    content     bytea NOT NULL,
    -- uploaded, checking, checked, saving, saved, undone, cancelled or failed
    state       text NOT NULL DEFAULT 'uploaded',
    done        int NOT NULL DEFAULT 0,
    total       int NOT NULL DEFAULT 0,
    cancel      boolean NOT NULL DEFAULT false,
    mapping     jsonb,
    report      jsonb,
    note        text NOT NULL DEFAULT '',
    created_at  timestamptz NOT NULL DEFAULT now(),
    created_by  text NOT NULL DEFAULT '',
    touched_at  timestamptz NOT NULL DEFAULT now(), -- last sign of life of the server that works on it
    UNIQUE (practice_id, id)
);
CREATE INDEX imports_practice ON imports (practice_id, created_at DESC);

-- How a kind of file is read, remembered by the columns of its header.
CREATE TABLE import_sources (
    practice_id uuid NOT NULL REFERENCES practices (id) ON DELETE CASCADE,
    header      text NOT NULL, -- hash of the header row
    name        text NOT NULL CHECK (length(name) BETWEEN 1 AND 120),
    mapping     jsonb NOT NULL,
    PRIMARY KEY (practice_id, header)
);

-- rev is the screen's revision at which the cell was last written: an editor
-- who has seen another one is told instead of overwriting.
ALTER TABLE trials
    ADD COLUMN rev       int NOT NULL DEFAULT 1 CHECK (rev > 0),
    ADD COLUMN mass_g    double precision NOT NULL DEFAULT 0 CHECK (mass_g BETWEEN 0 AND 1500),
    ADD COLUMN gave_out  text NOT NULL DEFAULT '' CHECK (gave_out IN ('', 'legs', 'back', 'grip')),
    ADD COLUMN tester    text NOT NULL DEFAULT '' CHECK (length(tester) <= 120),
    ADD COLUMN device    text NOT NULL DEFAULT '' CHECK (length(device) <= 120),
    ADD COLUMN at        timestamptz,
    ADD COLUMN import_id uuid; -- the import that wrote it, until somebody changes it
CREATE INDEX trials_import ON trials (import_id) WHERE import_id IS NOT NULL;
ALTER TABLE screens ADD COLUMN import_id uuid; -- the import that made it
ALTER TABLE athletes ADD COLUMN import_id uuid, ADD COLUMN injured_on date;

CREATE TABLE screen_days (
    id          uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    practice_id uuid NOT NULL REFERENCES practices (id) ON DELETE CASCADE,
    date        date NOT NULL,
    name        text NOT NULL CHECK (length(name) BETWEEN 1 AND 120),
    start       text NOT NULL DEFAULT '' CHECK (start ~ '^([01][0-9]|2[0-3]):[0-5][0-9]$'),
    stations    jsonb NOT NULL, -- name, tests, minutes, tiring, places
    athletes    jsonb NOT NULL, -- ids, in the order they were chosen
    plan        jsonb NOT NULL,
    created_at  timestamptz NOT NULL DEFAULT now(),
    UNIQUE (practice_id, id)
);

-- +goose Down
DROP TABLE screen_days, import_sources, imports, battery_changes;
ALTER TABLE athletes DROP COLUMN import_id, DROP COLUMN injured_on;
ALTER TABLE screens DROP COLUMN last_lesson, DROP COLUMN club_change, DROP COLUMN intent, DROP COLUMN tester, DROP COLUMN place, DROP COLUMN floor, DROP COLUMN set, DROP COLUMN import_id;
ALTER TABLE trials DROP COLUMN rev, DROP COLUMN mass_g, DROP COLUMN gave_out, DROP COLUMN tester, DROP COLUMN device, DROP COLUMN at, DROP COLUMN import_id;
