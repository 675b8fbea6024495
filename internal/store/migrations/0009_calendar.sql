-- +goose Up

-- The private address of a golfer's calendar: one a golfer. Only the hash of its secret is
-- kept, so that nobody who reads the database can subscribe.
CREATE TABLE calendar_addresses (
    practice_id uuid NOT NULL,
    athlete_id  uuid PRIMARY KEY,
    secret_hash bytea NOT NULL UNIQUE CHECK (length(secret_hash) = 32),
    created_at  timestamptz NOT NULL DEFAULT now(),
    created_by  text NOT NULL DEFAULT '',
    FOREIGN KEY (practice_id, athlete_id) REFERENCES athletes (practice_id, id) ON DELETE CASCADE
);

-- +goose Down
DROP TABLE calendar_addresses;
