-- +goose Up

-- A session as it was done: of a programme's session, a class, or one nobody planned. The
-- session's id is unique among a golfer's, whatever version it is in. doc is what its entries
-- come to, folded anew with every one; what is asked for by the day stands beside it.
CREATE TABLE session_logs (
    id           uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    practice_id  uuid NOT NULL,
    athlete_id   uuid NOT NULL,
    session_id   text NOT NULL CHECK (length(session_id) BETWEEN 1 AND 64),
    kind         text NOT NULL CHECK (kind IN ('planned', 'home', 'class', 'other')),
    programme_id uuid, -- the version it is done under
    class_id     uuid,
    title        text NOT NULL DEFAULT '' CHECK (length(title) <= 200),
    date         date,
    state        text NOT NULL DEFAULT '' CHECK (state IN ('', 'running', 'done', 'stopped', 'missed')),
    effort       int CHECK (effort BETWEEN 0 AND 10),
    minutes      int CHECK (minutes BETWEEN 1 AND 360),
    doc          json NOT NULL DEFAULT '{}',
    updated_at   timestamptz NOT NULL DEFAULT now(),
    UNIQUE (practice_id, id),
    UNIQUE (athlete_id, session_id),
    FOREIGN KEY (practice_id, athlete_id) REFERENCES athletes (practice_id, id) ON DELETE CASCADE,
    FOREIGN KEY (practice_id, programme_id) REFERENCES programmes (practice_id, id) ON DELETE CASCADE
);
CREATE INDEX session_logs_day ON session_logs (practice_id, date);
CREATE INDEX session_logs_athlete ON session_logs (athlete_id, date);

-- What a log is made of: nothing is changed or removed, a later entry stands over an earlier
-- one. id is the device's; at is by its clock, put right where that was plainly wrong.
CREATE TABLE log_entries (
    practice_id uuid NOT NULL,
    log_id      uuid NOT NULL,
    id          uuid NOT NULL,
    what        text NOT NULL,
    item        text NOT NULL DEFAULT '' CHECK (length(item) <= 64),
    number      int NOT NULL DEFAULT 0,
    value       json,
    clock       bigint NOT NULL,
    seen        text NOT NULL DEFAULT '' CHECK (length(seen) <= 64),
    at          timestamptz NOT NULL,
    device      text NOT NULL CHECK (length(device) BETWEEN 1 AND 64),
    by_user     uuid REFERENCES users (id) ON DELETE SET NULL,
    by_name     text NOT NULL DEFAULT '',
    received_at timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (log_id, id),
    FOREIGN KEY (practice_id, log_id) REFERENCES session_logs (practice_id, id) ON DELETE CASCADE
);

-- What was said to a proposal of the next dose: taken on, edited, or declined. What was put
-- on the golfer with it (limits) stands at the golfer.
CREATE TABLE dose_answers (
    practice_id  uuid NOT NULL,
    athlete_id   uuid NOT NULL,
    proposal     text NOT NULL CHECK (length(proposal) BETWEEN 1 AND 40),
    rule         text NOT NULL,
    text         text NOT NULL,
    answer       text NOT NULL CHECK (answer IN ('accepted', 'declined')),
    by_itself    boolean NOT NULL DEFAULT false,
    programme_id uuid, -- the version it made
    at           timestamptz NOT NULL DEFAULT now(),
    by_name      text NOT NULL DEFAULT '',
    PRIMARY KEY (athlete_id, proposal),
    FOREIGN KEY (practice_id, athlete_id) REFERENCES athletes (practice_id, id) ON DELETE CASCADE
);

-- How many proposals wait for an answer, as of the last session that ended.
CREATE TABLE dose_waiting (
    practice_id uuid NOT NULL,
    athlete_id  uuid PRIMARY KEY,
    count       int NOT NULL,
    text        text NOT NULL DEFAULT '',
    FOREIGN KEY (practice_id, athlete_id) REFERENCES athletes (practice_id, id) ON DELETE CASCADE
);

-- A session for several golfers at once. doc is how it was laid out.
CREATE TABLE classes (
    id          uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    practice_id uuid NOT NULL REFERENCES practices (id) ON DELETE CASCADE,
    revision    int NOT NULL DEFAULT 1,
    date        date NOT NULL,
    name        text NOT NULL CHECK (length(name) BETWEEN 1 AND 120),
    start       text NOT NULL DEFAULT '' CHECK (length(start) <= 5),
    athletes    jsonb NOT NULL DEFAULT '[]',
    doc         json NOT NULL,
    began_at    timestamptz, -- its clock runs since
    created_at  timestamptz NOT NULL DEFAULT now(),
    UNIQUE (practice_id, id)
);
CREATE INDEX classes_day ON classes (practice_id, date);

-- How a practice works on the floor.
CREATE TABLE floor_settings (
    practice_id uuid PRIMARY KEY REFERENCES practices (id) ON DELETE CASCADE,
    small_steps boolean NOT NULL DEFAULT false, -- small rises pass by themselves
    recent_days int NOT NULL DEFAULT 7 CHECK (recent_days BETWEEN 3 AND 14),
    usual_days  int NOT NULL DEFAULT 28 CHECK (usual_days BETWEEN 14 AND 56)
);

-- One number a day of a golfer: body mass, hours slept, resting heart rate.
CREATE TABLE day_values (
    practice_id uuid NOT NULL,
    athlete_id  uuid NOT NULL,
    kind        text NOT NULL CHECK (kind IN ('mass', 'sleep', 'heart-rate')),
    date        date NOT NULL,
    value       double precision NOT NULL,
    import_id   uuid,
    PRIMARY KEY (athlete_id, kind, date),
    FOREIGN KEY (practice_id, athlete_id) REFERENCES athletes (practice_id, id) ON DELETE CASCADE
);

-- A version may be issued at once, with its document: what is there does not change, but it
-- has to be put there.
-- +goose StatementBegin
CREATE OR REPLACE FUNCTION refuse_change_of_issued() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
    issued boolean;
    may    text[] := ARRAY['status', 'revision', 'withdrawn_on', 'withdrawn_why'];
BEGIN
    IF TG_TABLE_NAME = 'programmes' THEN
        issued := OLD.status <> 'draft';
        IF TG_OP = 'UPDATE' THEN
            IF OLD.status = 'issued' AND NEW.status = 'withdrawn' AND to_jsonb(NEW) - may = to_jsonb(OLD) - may THEN
                RETURN NEW;
            END IF;
        END IF;
    ELSIF TG_TABLE_NAME = 'programme_docs' AND TG_OP = 'INSERT' THEN
        RETURN NEW; -- a programme has one document: this one is its first
    ELSE
        SELECT status <> 'draft' INTO issued FROM programmes WHERE id = COALESCE(OLD.programme_id, NEW.programme_id);
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

-- +goose Down
DROP TABLE day_values, floor_settings, classes, dose_waiting, dose_answers, log_entries, session_logs;
