-- +goose Up

CREATE TABLE practices (
    id          uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    name        text NOT NULL CHECK (length(name) BETWEEN 1 AND 120),
    zone        text NOT NULL CHECK (length(zone) BETWEEN 1 AND 60),
    speed_unit  text NOT NULL DEFAULT 'mph' CHECK (speed_unit IN ('mph', 'm/s')),
    -- Rises with every change to the practice's data: an answer made at one
    -- version may be given again until the next.
    data_version bigint NOT NULL DEFAULT 1,
    created_at  timestamptz NOT NULL DEFAULT now()
);

CREATE TABLE users (
    id            uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    practice_id   uuid NOT NULL REFERENCES practices (id) ON DELETE CASCADE,
    email         text NOT NULL CHECK (email = lower(email) AND length(email) BETWEEN 3 AND 254),
    name          text NOT NULL CHECK (length(name) BETWEEN 1 AND 120),
    password_hash text NOT NULL,
    created_at    timestamptz NOT NULL DEFAULT now(),
    UNIQUE (email),
    UNIQUE (practice_id, id)
);

-- Signed-in browsers. The session library owns this table's shape; a session
-- names its user, and through the user its practice.
CREATE TABLE sessions (
    token  text PRIMARY KEY,
    data   bytea NOT NULL,
    expiry timestamptz NOT NULL
);
CREATE INDEX sessions_expiry ON sessions (expiry);

-- The one-time code of the first run, hashed. At most one row.
CREATE TABLE setup_codes (
    id         int PRIMARY KEY DEFAULT 1 CHECK (id = 1),
    code_hash  text NOT NULL,
    created_at timestamptz NOT NULL DEFAULT now()
);

-- Failed sign-ins, for the rate limit: shared by every server on this database.
CREATE TABLE login_failures (
    id  bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    key text NOT NULL,
    at  timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX login_failures_key ON login_failures (key, at);

CREATE TABLE athletes (
    id               uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    practice_id      uuid NOT NULL REFERENCES practices (id) ON DELETE CASCADE,
    revision         int NOT NULL DEFAULT 1 CHECK (revision > 0),
    name             text NOT NULL CHECK (length(name) BETWEEN 1 AND 120),
    birth_date       date NOT NULL CHECK (birth_date > '1900-01-01'),
    sex              text NOT NULL DEFAULT '' CHECK (sex IN ('', 'male', 'female')),
    playing_side     text NOT NULL CHECK (playing_side IN ('right', 'left')),
    writing_hand     text NOT NULL DEFAULT '' CHECK (writing_hand IN ('', 'right', 'left')),
    training_months  int NOT NULL DEFAULT 0 CHECK (training_months BETWEEN 0 AND 900),
    advanced         boolean NOT NULL DEFAULT false,
    goal_speed       double precision NOT NULL DEFAULT 0 CHECK (goal_speed BETWEEN 0 AND 75),
    goal_text        text NOT NULL DEFAULT '' CHECK (length(goal_text) <= 300),
    driver_mass_g    double precision NOT NULL DEFAULT 0 CHECK (driver_mass_g BETWEEN 0 AND 600),
    answered_on      date,
    answers_yes      jsonb NOT NULL DEFAULT '[]',
    cleared_role     text NOT NULL DEFAULT '' CHECK (cleared_role IN ('', 'doctor', 'physiotherapist')),
    cleared_on       date,
    cleared_note     text NOT NULL DEFAULT '',
    guardian         text NOT NULL DEFAULT '',
    consent_on       date,
    days             jsonb NOT NULL DEFAULT '[]',
    sessions_a_week  int NOT NULL DEFAULT 0 CHECK (sessions_a_week BETWEEN 0 AND 3),
    minutes          int NOT NULL DEFAULT 0 CHECK (minutes BETWEEN 0 AND 150),
    kit              jsonb NOT NULL DEFAULT '[]',
    bar_kg           double precision NOT NULL DEFAULT 0 CHECK (bar_kg BETWEEN 0 AND 40),
    plate_step_kg    double precision NOT NULL DEFAULT 0 CHECK (plate_step_kg BETWEEN 0 AND 20),
    dumbbell_step    double precision NOT NULL DEFAULT 0 CHECK (dumbbell_step BETWEEN 0 AND 10),
    school           text NOT NULL DEFAULT 'measured-gap',
    other_side_share int CHECK (other_side_share BETWEEN 0 AND 100),
    start_date       date,
    updated_at       timestamptz NOT NULL DEFAULT now(),
    CHECK ((cleared_role = '') = (cleared_on IS NULL)),
    CHECK ((guardian = '') = (consent_on IS NULL)),
    UNIQUE (practice_id, id)
);

-- Every row below names its practice, and the two-column foreign keys make it
-- impossible for it to hang on another practice's row.
CREATE TABLE limits (
    id          uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    practice_id uuid NOT NULL,
    athlete_id  uuid NOT NULL,
    position    int NOT NULL,
    region      text NOT NULL,
    side        text NOT NULL DEFAULT '' CHECK (side IN ('', 'lead', 'trail', 'both')),
    kind        text NOT NULL CHECK (kind IN ('no-impact', 'no-loaded-flexion', 'no-loaded-rotation', 'no-overhead', 'no-maximal-effort', 'load-cap', 'none-of-this-pattern')),
    cap_kg      double precision NOT NULL DEFAULT 0 CHECK (cap_kg BETWEEN 0 AND 400),
    until       date,
    set_by      text NOT NULL,
    note        text NOT NULL DEFAULT '',
    CHECK (kind <> 'load-cap' OR cap_kg > 0),
    UNIQUE (athlete_id, position),
    FOREIGN KEY (practice_id, athlete_id) REFERENCES athletes (practice_id, id) ON DELETE CASCADE
);

CREATE TABLE competitions (
    id          uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    practice_id uuid NOT NULL,
    athlete_id  uuid NOT NULL,
    date        date NOT NULL,
    name        text NOT NULL CHECK (length(name) BETWEEN 1 AND 120),
    peak        boolean NOT NULL DEFAULT false,
    UNIQUE (athlete_id, date, name),
    FOREIGN KEY (practice_id, athlete_id) REFERENCES athletes (practice_id, id) ON DELETE CASCADE
);

CREATE TABLE screens (
    id          uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    practice_id uuid NOT NULL,
    athlete_id  uuid NOT NULL,
    revision    int NOT NULL DEFAULT 1 CHECK (revision > 0),
    date        date NOT NULL,
    before      text NOT NULL DEFAULT '' CHECK (length(before) <= 500),
    UNIQUE (athlete_id, date),
    UNIQUE (practice_id, id),
    FOREIGN KEY (practice_id, athlete_id) REFERENCES athletes (practice_id, id) ON DELETE CASCADE
);

CREATE TABLE trials (
    practice_id uuid NOT NULL,
    screen_id   uuid NOT NULL,
    test        text NOT NULL,
    side        text NOT NULL DEFAULT '' CHECK (side IN ('', 'lead', 'trail', 'toward', 'away', 'playing', 'other')),
    number      int NOT NULL CHECK (number BETWEEN 1 AND 20),
    status      text NOT NULL CHECK (status IN ('done', 'stopped', 'skipped')),
    value       double precision, -- in the test's unit; only a done trial has one
    reps        int CHECK (reps BETWEEN 1 AND 10),
    reserve     double precision CHECK (reserve BETWEEN 0 AND 6),
    variant     text NOT NULL DEFAULT '',
    pain        int NOT NULL DEFAULT 0 CHECK (pain BETWEEN 0 AND 10),
    region      text NOT NULL DEFAULT '',
    note        text NOT NULL DEFAULT '',
    confirmed   boolean NOT NULL DEFAULT false,
    CHECK ((status = 'done') = (value IS NOT NULL)),
    CHECK ((reps IS NULL) = (reserve IS NULL)),
    PRIMARY KEY (screen_id, test, side, number),
    FOREIGN KEY (practice_id, screen_id) REFERENCES screens (practice_id, id) ON DELETE CASCADE
);

CREATE TABLE programmes (
    id          uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    practice_id uuid NOT NULL,
    athlete_id  uuid NOT NULL,
    revision    int NOT NULL DEFAULT 1 CHECK (revision > 0),
    status      text NOT NULL CHECK (status IN ('draft', 'issued')),
    version     int NOT NULL DEFAULT 0 CHECK (version >= 0),
    school      text NOT NULL,
    start_date  date NOT NULL,
    weeks       int NOT NULL,
    emphasis    text NOT NULL DEFAULT '',
    cursor      int NOT NULL DEFAULT 0 CHECK (cursor >= 0), -- the step that is shown
    note        text NOT NULL DEFAULT '',
    issued_on   date,
    issued_by   uuid REFERENCES users (id) ON DELETE SET NULL,
    created_at  timestamptz NOT NULL DEFAULT now(),
    CHECK ((status = 'issued') = (version > 0)),
    CHECK ((status = 'issued') = (issued_on IS NOT NULL)),
    UNIQUE (practice_id, id),
    FOREIGN KEY (practice_id, athlete_id) REFERENCES athletes (practice_id, id) ON DELETE CASCADE
);
CREATE UNIQUE INDEX programmes_one_draft ON programmes (athlete_id) WHERE status = 'draft';
CREATE UNIQUE INDEX programmes_version ON programmes (athlete_id, version) WHERE status = 'issued';

-- The steps of a draft, so that undo and redo outlive a reload. Issuing keeps
-- the step that was issued.
CREATE TABLE programme_steps (
    practice_id  uuid NOT NULL,
    programme_id uuid NOT NULL,
    seq          int NOT NULL CHECK (seq >= 0),
    label        text NOT NULL,
    doc          json NOT NULL, -- as it was written: it is read whole, never searched
    PRIMARY KEY (programme_id, seq),
    FOREIGN KEY (practice_id, programme_id) REFERENCES programmes (practice_id, id) ON DELETE CASCADE
);

-- An issued programme does not change. It goes only with its golfer, when the
-- golfer is erased.
-- +goose StatementBegin
CREATE FUNCTION refuse_change_of_issued() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
    issued boolean;
BEGIN
    IF TG_TABLE_NAME = 'programmes' THEN
        issued := OLD.status = 'issued';
    ELSE
        SELECT status = 'issued' INTO issued FROM programmes WHERE id = COALESCE(OLD.programme_id, NEW.programme_id);
    END IF;
    IF issued AND COALESCE(current_setting('dunnock.erasing', true), '') <> 'on' THEN
        RAISE EXCEPTION 'an issued programme does not change' USING ERRCODE = 'integrity_constraint_violation';
    END IF;
    IF TG_OP = 'DELETE' THEN
        RETURN OLD;
    END IF;
    RETURN NEW;
END $$;
-- +goose StatementEnd
CREATE TRIGGER programmes_immutable BEFORE UPDATE OR DELETE ON programmes FOR EACH ROW EXECUTE FUNCTION refuse_change_of_issued();
CREATE TRIGGER programme_steps_immutable BEFORE INSERT OR UPDATE OR DELETE ON programme_steps FOR EACH ROW EXECUTE FUNCTION refuse_change_of_issued();

-- +goose Down
DROP TABLE programme_steps, programmes, trials, screens, competitions, limits, athletes, login_failures, setup_codes, sessions, users, practices;
DROP FUNCTION refuse_change_of_issued();
