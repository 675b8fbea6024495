-- +goose Up

-- Recordings of ground force. raw is the file as it came, compressed; how it was
-- read, with which settings and by which version stands beside the result, which
-- can be made anew from it.
CREATE TABLE recordings (
    id          uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    practice_id uuid NOT NULL,
    athlete_id  uuid NOT NULL,
    date        date NOT NULL,
    kind        text NOT NULL CHECK (kind IN ('jump', 'swing')),
    name        text NOT NULL CHECK (length(name) BETWEEN 1 AND 200),
    side        text NOT NULL CHECK (side IN ('right', 'left')),
    club        text NOT NULL DEFAULT '' CHECK (length(club) <= 60),
    state       text NOT NULL DEFAULT 'kept' CHECK (state IN ('pending', 'kept')),
    source      text NOT NULL DEFAULT '' CHECK (length(source) <= 120),
    raw         bytea NOT NULL,
    raw_bytes   int NOT NULL CHECK (raw_bytes > 0),
    hash        text NOT NULL,
    mapping     jsonb NOT NULL,
    settings    jsonb NOT NULL,
    result      jsonb NOT NULL,
    version     text NOT NULL,
    cells       jsonb NOT NULL DEFAULT '[]', -- trials of the screen it filled
    created_at  timestamptz NOT NULL DEFAULT now(),
    created_by  text NOT NULL DEFAULT '',
    UNIQUE (practice_id, id),
    UNIQUE (athlete_id, hash),
    FOREIGN KEY (practice_id, athlete_id) REFERENCES athletes (practice_id, id) ON DELETE CASCADE
);
CREATE INDEX recordings_athlete ON recordings (athlete_id, date DESC, created_at DESC);

-- What a practice changes about reading force: limits of windows by key.
CREATE TABLE force_settings (
    practice_id uuid PRIMARY KEY REFERENCES practices (id) ON DELETE CASCADE,
    windows     jsonb NOT NULL DEFAULT '{}'
);

-- +goose Down
DROP TABLE force_settings, recordings;
