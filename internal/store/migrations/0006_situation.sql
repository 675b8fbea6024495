-- +goose Up
-- What else bears on a golfer's plan: lay-off, days away, joints accepted, hips
-- that pinch, overhead range, limits ended, kit per place, discs. A golfer of
-- before has said none of it.
ALTER TABLE athletes ADD COLUMN situation json NOT NULL DEFAULT '{}';

-- Tingling or numbness of an arm or a hand on a trial.
ALTER TABLE trials ADD COLUMN tingling boolean NOT NULL DEFAULT false;

-- A force test's target is the inner edge of its window: one standard. Targets a
-- practice set before become the edge of its window, unless it set that itself.
INSERT INTO force_settings (practice_id, windows)
    SELECT practice_id, '{}' FROM battery_changes
    WHERE targets ?| array['swing-lateral', 'swing-rotational', 'swing-vertical']
    ON CONFLICT DO NOTHING;
UPDATE force_settings f SET windows = (
    SELECT jsonb_object_agg(w.key, jsonb_build_array((b.targets -> w.test -> 0 ->> 'value')::numeric, greatest(w.high, 1.5 * (b.targets -> w.test -> 0 ->> 'value')::numeric)))
        || f.windows
    FROM (VALUES ('lateral', 'swing-lateral', 0.28), ('rotational', 'swing-rotational', 0.95), ('vertical', 'swing-vertical', 2.2)) AS w (key, test, high)
    WHERE b.targets -> w.test -> 0 ->> 'value' IS NOT NULL
)
FROM battery_changes b
WHERE b.practice_id = f.practice_id
    AND b.targets ?| array['swing-lateral', 'swing-rotational', 'swing-vertical'];
UPDATE battery_changes SET targets = targets - 'swing-lateral' - 'swing-rotational' - 'swing-vertical';

-- +goose Down
ALTER TABLE trials DROP COLUMN tingling;
ALTER TABLE athletes DROP COLUMN situation;
