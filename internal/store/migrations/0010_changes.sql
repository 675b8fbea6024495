-- +goose Up

-- A programme's document as it stands. What an issued one was made by stands beside it.
CREATE TABLE programme_docs (
    practice_id  uuid NOT NULL,
    programme_id uuid PRIMARY KEY,
    doc          json NOT NULL, -- as it was written: it is read whole, never searched
    frozen       json,
    FOREIGN KEY (practice_id, programme_id) REFERENCES programmes (practice_id, id) ON DELETE CASCADE
);
INSERT INTO programme_docs (practice_id, programme_id, doc, frozen)
    SELECT s.practice_id, s.programme_id, s.doc, s.frozen
    FROM programme_steps s JOIN programmes p ON p.id = s.programme_id AND p.cursor = s.seq;

-- A step stores what it changed, and by whom: an undo takes back one's own last.
-- by_user is null where that is not known any more. undone counts up as steps are undone, 0
-- while they stand. The documents of the steps there are become changes in the next
-- migration.
ALTER TABLE programme_steps
    ADD COLUMN change json,
    ADD COLUMN by_user uuid REFERENCES users (id) ON DELETE SET NULL,
    ADD COLUMN by_name text NOT NULL DEFAULT '',
    ADD COLUMN undone int NOT NULL DEFAULT 0 CHECK (undone >= 0);

-- An issued version can be withdrawn, with a reason; nothing else of it changes.
ALTER TABLE programmes
    ADD COLUMN withdrawn_on date,
    ADD COLUMN withdrawn_why text NOT NULL DEFAULT '',
    DROP CONSTRAINT programmes_status_check,
    DROP CONSTRAINT programmes_check,
    DROP CONSTRAINT programmes_check1,
    ADD CONSTRAINT programmes_status_check CHECK (status IN ('draft', 'issued', 'withdrawn')),
    ADD CONSTRAINT programmes_versions CHECK ((status = 'draft') = (version = 0)),
    ADD CONSTRAINT programmes_issued CHECK ((status = 'draft') = (issued_on IS NULL)),
    ADD CONSTRAINT programmes_withdrawn CHECK ((status = 'withdrawn') = (withdrawn_on IS NOT NULL));
DROP INDEX programmes_version;
CREATE UNIQUE INDEX programmes_version ON programmes (athlete_id, version) WHERE version > 0;

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
CREATE TRIGGER programme_docs_immutable BEFORE INSERT OR UPDATE OR DELETE ON programme_docs FOR EACH ROW EXECUTE FUNCTION refuse_change_of_issued();

-- +goose Down
DROP TABLE programme_docs;
