-- +goose Up

-- Two warm-ups compared on one golfer. The seed was drawn when the trial began and
-- decides which comes first.
CREATE TABLE warmup_trials (
    id          uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    practice_id uuid NOT NULL,
    athlete_id  uuid NOT NULL,
    a           text NOT NULL CHECK (length(a) BETWEEN 1 AND 120),
    b           text NOT NULL CHECK (length(b) BETWEEN 1 AND 120),
    way         text NOT NULL CHECK (way IN ('days', 'halves')),
    seed        bigint NOT NULL,
    created_at  timestamptz NOT NULL DEFAULT now(),
    UNIQUE (practice_id, id),
    FOREIGN KEY (practice_id, athlete_id) REFERENCES athletes (practice_id, id) ON DELETE CASCADE
);
CREATE INDEX warmup_trials_athlete ON warmup_trials (athlete_id, created_at);

-- Swings measured one after the other. swings is a list in the order they were made,
-- each with an id of the browser that typed or heard it, so that what is sent twice is
-- kept once.
CREATE TABLE speed_series (
    id          uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    practice_id uuid NOT NULL,
    athlete_id  uuid NOT NULL,
    revision    int NOT NULL DEFAULT 1,
    date        date NOT NULL,
    kind        text NOT NULL CHECK (kind IN ('training', 'cold-start', 'trial')),
    before      text NOT NULL DEFAULT '' CHECK (length(before) <= 500),
    raised      boolean NOT NULL DEFAULT false, -- raise and joints came first
    note        text NOT NULL DEFAULT '' CHECK (length(note) <= 500),
    swings      jsonb NOT NULL DEFAULT '[]',
    -- Of a warm-up trial: which warm-up came before, in which pair, and how it felt.
    trial_id    uuid,
    arm         text NOT NULL DEFAULT '' CHECK (arm IN ('', 'A', 'B')),
    pair        int NOT NULL DEFAULT 0,
    felt        int CHECK (felt BETWEEN 0 AND 10),
    created_at  timestamptz NOT NULL DEFAULT now(),
    created_by  text NOT NULL DEFAULT '',
    UNIQUE (practice_id, id),
    FOREIGN KEY (practice_id, athlete_id) REFERENCES athletes (practice_id, id) ON DELETE CASCADE,
    FOREIGN KEY (practice_id, trial_id) REFERENCES warmup_trials (practice_id, id) ON DELETE CASCADE
);
CREATE INDEX speed_series_athlete ON speed_series (athlete_id, date DESC, created_at DESC);
CREATE TRIGGER part_changed AFTER INSERT OR UPDATE OR DELETE ON speed_series FOR EACH ROW EXECUTE FUNCTION part_changed();

-- What a practice owns to swing.
CREATE TABLE practice_implements (
    practice_id uuid PRIMARY KEY REFERENCES practices (id) ON DELETE CASCADE,
    list        jsonb NOT NULL DEFAULT '[]'
);

-- Warm-ups a coach keeps: of one golfer, or of the practice. doc is what was asked for
-- and the items as they stand.
CREATE TABLE warmups (
    id          uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    practice_id uuid NOT NULL REFERENCES practices (id) ON DELETE CASCADE,
    athlete_id  uuid,
    revision    int NOT NULL DEFAULT 1,
    name        text NOT NULL CHECK (length(name) BETWEEN 1 AND 120),
    doc         jsonb NOT NULL,
    created_at  timestamptz NOT NULL DEFAULT now(),
    UNIQUE (practice_id, id),
    FOREIGN KEY (practice_id, athlete_id) REFERENCES athletes (practice_id, id) ON DELETE CASCADE
);
CREATE INDEX warmups_athlete ON warmups (athlete_id, created_at);

-- +goose Down
DROP TABLE warmups, practice_implements, speed_series, warmup_trials;
