-- +goose Up

-- Since when a golfer is put away. Groups and notes are among the facts of the situation.
ALTER TABLE athletes ADD COLUMN archived_on date;

-- A small picture of a golfer, made anew from what was sent: JPEG, no metadata.
CREATE TABLE photos (
    athlete_id  uuid PRIMARY KEY,
    practice_id uuid NOT NULL,
    jpeg        bytea NOT NULL CHECK (length(jpeg) <= 131072),
    version     text NOT NULL CHECK (length(version) = 16),
    FOREIGN KEY (practice_id, athlete_id) REFERENCES athletes (practice_id, id) ON DELETE CASCADE
);

-- +goose Down
DROP TABLE photos;
ALTER TABLE athletes DROP COLUMN archived_on;
