package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"fmt"

	"github.com/pressly/goose/v3"

	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/change"
	"dunnock/internal/core/programme/upgrade"
)

// changesMigration makes changes of the documents that steps stored before schema 11: each
// of what it changed of the step before it. Steps behind the one that was shown are undone.
// It is written in Go because what changed is told by the documents' parts.
var changesMigration = goose.NewGoMigration(11, &goose.GoFunc{RunTx: changesOfSteps}, nil)

// oldStep is a step as it was stored before.
type oldStep struct {
	programme string
	seq       int
	cursor    int
	doc       []byte
}

func changesOfSteps(ctx context.Context, tx *sql.Tx) error {
	steps, err := oldSteps(ctx, tx)
	if err != nil {
		return err
	}
	run := func(query string, args ...any) {
		if err == nil {
			_, err = tx.ExecContext(ctx, query, args...)
		}
	}
	run("ALTER TABLE programme_steps DISABLE TRIGGER programme_steps_immutable")
	var before *programme.Programme
	of := ""
	for _, s := range steps {
		if s.programme != of {
			before, of = nil, s.programme
		}
		doc, readErr := upgrade.Read(s.doc)
		if readErr != nil {
			return fmt.Errorf("programme %s, step %d: %w", s.programme, s.seq, readErr)
		}
		if s.seq > 0 && before != nil {
			b, encodeErr := json.Marshal(change.Between(before, doc))
			if encodeErr != nil {
				return encodeErr
			}
			// What was undone last is redone first.
			undone := 0
			if s.seq > s.cursor {
				undone = 1_000_000 - s.seq
			}
			run("UPDATE programme_steps SET change = $1, undone = $2 WHERE programme_id = $3 AND seq = $4", string(b), undone, s.programme, s.seq)
		}
		before = doc
		if s.seq == 0 {
			run("DELETE FROM programme_steps WHERE programme_id = $1 AND seq = 0", s.programme)
		}
	}
	// Of issued programmes only the one document was left.
	run("DELETE FROM programme_steps WHERE change IS NULL")
	run("ALTER TABLE programme_steps DROP COLUMN doc, DROP COLUMN frozen, ALTER COLUMN change SET NOT NULL")
	run("ALTER TABLE programmes DROP COLUMN cursor")
	run("ALTER TABLE programme_steps ENABLE TRIGGER programme_steps_immutable")
	return err
}

func oldSteps(ctx context.Context, tx *sql.Tx) ([]oldStep, error) {
	rows, err := tx.QueryContext(ctx, `SELECT s.programme_id, s.seq, p.cursor, s.doc FROM programme_steps s
		JOIN programmes p ON p.id = s.programme_id WHERE p.status = 'draft' ORDER BY s.programme_id, s.seq`)
	if err != nil {
		return nil, err
	}
	defer func() { _ = rows.Close() }()
	var out []oldStep
	for rows.Next() {
		var s oldStep
		if err := rows.Scan(&s.programme, &s.seq, &s.cursor, &s.doc); err != nil {
			return nil, err
		}
		out = append(out, s)
	}
	return out, rows.Err()
}
