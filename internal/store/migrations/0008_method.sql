-- +goose Up

-- What a practice changed of what it works by: schools of its own, and numbers of rules by
-- rule and name.
CREATE TABLE method_changes (
    practice_id uuid PRIMARY KEY REFERENCES practices (id) ON DELETE CASCADE,
    revision    int NOT NULL DEFAULT 1,
    schools     jsonb NOT NULL DEFAULT '[]',
    rules       jsonb NOT NULL DEFAULT '{}'
);

-- Who changed a rule's numbers, when and why. after is empty where they were put back.
CREATE TABLE rule_journal (
    id          bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    practice_id uuid NOT NULL REFERENCES practices (id) ON DELETE CASCADE,
    at          timestamptz NOT NULL DEFAULT now(),
    by_name     text NOT NULL,
    rule        text NOT NULL CHECK (length(rule) BETWEEN 1 AND 40),
    before      jsonb NOT NULL,
    after       jsonb NOT NULL,
    reason      text NOT NULL CHECK (length(reason) BETWEEN 1 AND 500)
);
CREATE INDEX rule_journal_practice ON rule_journal (practice_id, id DESC);

-- +goose Down
DROP TABLE rule_journal, method_changes;
