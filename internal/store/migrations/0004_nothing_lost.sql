-- +goose Up

-- facts_version rises with every change of a golfer's facts, screens or trials,
-- whoever makes it: what is worked out from one golfer is kept by it, so that
-- another golfer's change leaves it standing.
ALTER TABLE athletes ADD COLUMN facts_version bigint NOT NULL DEFAULT 1;

-- Questions answered with no while others are still open.
ALTER TABLE athletes ADD COLUMN answers_no jsonb NOT NULL DEFAULT '[]';

-- +goose StatementBegin
CREATE FUNCTION facts_changed() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    NEW.facts_version := OLD.facts_version + 1;
    RETURN NEW;
END $$;

CREATE FUNCTION part_changed() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    UPDATE athletes SET facts_version = facts_version + 1 WHERE id = COALESCE(NEW.athlete_id, OLD.athlete_id);
    RETURN NULL;
END $$;

CREATE FUNCTION trials_changed() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    UPDATE athletes SET facts_version = facts_version + 1
        WHERE id IN (SELECT s.athlete_id FROM screens s WHERE s.id IN (SELECT screen_id FROM changed));
    RETURN NULL;
END $$;
-- +goose StatementEnd

CREATE TRIGGER facts_changed BEFORE UPDATE ON athletes FOR EACH ROW EXECUTE FUNCTION facts_changed();
CREATE TRIGGER part_changed AFTER INSERT OR UPDATE OR DELETE ON limits FOR EACH ROW EXECUTE FUNCTION part_changed();
CREATE TRIGGER part_changed AFTER INSERT OR UPDATE OR DELETE ON competitions FOR EACH ROW EXECUTE FUNCTION part_changed();
CREATE TRIGGER part_changed AFTER INSERT OR UPDATE OR DELETE ON screens FOR EACH ROW EXECUTE FUNCTION part_changed();
CREATE TRIGGER trials_inserted AFTER INSERT ON trials REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION trials_changed();
CREATE TRIGGER trials_updated AFTER UPDATE ON trials REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION trials_changed();
CREATE TRIGGER trials_deleted AFTER DELETE ON trials REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION trials_changed();

-- false while a demo's squad is being loaded: a load that was broken off is done
-- again at the next start.
ALTER TABLE practices ADD COLUMN ready boolean NOT NULL DEFAULT true;

-- An upload is read once: its rows are kept, compressed, until they are saved,
-- and a week at most. content is what came before this version and was not read
-- yet; it is read when it is next looked at.
ALTER TABLE imports
    ALTER COLUMN content DROP NOT NULL,
    ADD COLUMN parsed bytea,
    ADD COLUMN head   jsonb, -- its header and first rows, to look at
    ADD COLUMN asked_at timestamptz NOT NULL DEFAULT now(), -- when somebody last asked how far it is
    ADD COLUMN run    uuid; -- the work on it that is under way; another one takes its place
UPDATE imports SET content = NULL WHERE state IN ('saved', 'undone');
-- What was under way when an earlier version stopped was saved whole or not at all.
UPDATE imports SET state = CASE
        WHEN EXISTS (SELECT 1 FROM trials t WHERE t.import_id = imports.id) OR EXISTS (SELECT 1 FROM screens s WHERE s.import_id = imports.id) THEN 'saved'
        ELSE 'uploaded' END
    WHERE state IN ('checking', 'saving');
ALTER TABLE imports ADD CHECK (state IN ('uploaded', 'checking', 'checked', 'saving', 'saved', 'undone', 'cancelled', 'failed'));
CREATE INDEX screens_import ON screens (import_id) WHERE import_id IS NOT NULL;
CREATE INDEX athletes_import ON athletes (import_id) WHERE import_id IS NOT NULL;

-- Browsers that signed in before: their tries are counted apart from those of
-- strangers at the same address.
CREATE TABLE known_browsers (
    token_hash text PRIMARY KEY,
    user_id    uuid NOT NULL REFERENCES users (id) ON DELETE CASCADE,
    seen_at    timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX known_browsers_user ON known_browsers (user_id);

-- What was done to a draft lately, newest last: a second editor is told the
-- difference. [{revision, label, by}]
ALTER TABLE programmes ADD COLUMN recent jsonb NOT NULL DEFAULT '[]';

ALTER TABLE recordings ADD COLUMN revision int NOT NULL DEFAULT 1 CHECK (revision > 0);

-- +goose Down
ALTER TABLE recordings DROP COLUMN revision;
ALTER TABLE programmes DROP COLUMN recent;
DROP TABLE known_browsers;
ALTER TABLE practices DROP COLUMN ready;
DROP INDEX screens_import, athletes_import;
ALTER TABLE imports DROP CONSTRAINT imports_state_check, DROP COLUMN parsed, DROP COLUMN head, DROP COLUMN asked_at, DROP COLUMN run;
DELETE FROM imports WHERE content IS NULL;
ALTER TABLE imports ALTER COLUMN content SET NOT NULL;
DROP TRIGGER trials_deleted ON trials;
DROP TRIGGER trials_updated ON trials;
DROP TRIGGER trials_inserted ON trials;
DROP TRIGGER part_changed ON screens;
DROP TRIGGER part_changed ON competitions;
DROP TRIGGER part_changed ON limits;
DROP TRIGGER facts_changed ON athletes;
DROP FUNCTION trials_changed, part_changed, facts_changed;
ALTER TABLE athletes DROP COLUMN facts_version, DROP COLUMN answers_no;
