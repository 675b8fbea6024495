package store_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/method"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/testkit"
	"dunnock/internal/postgres/pgtest"
	"dunnock/internal/store"
)

func draft(t *testing.T, p *store.Practice) (athleteID, id string, doc *programme.Programme) {
	t.Helper()
	f := testkit.Strong()
	athleteID, err := p.CreateAthlete(context.Background(), f)
	require.NoError(t, err)
	return draftOf(t, p, athleteID, f)
}

func draftOf(t *testing.T, p *store.Practice, athleteID string, f *athlete.File) (_, id string, doc *programme.Programme) {
	t.Helper()
	ctx := context.Background()
	r, err := plan.Generate(f, method.Shipped(), "t")
	require.NoError(t, err)
	id, err = p.CreateDraft(ctx, athleteID, "Drafted", store.Editor{Name: "Coach"}, r.Doc)
	require.NoError(t, err)
	return athleteID, id, r.Doc
}

func TestUndoAndRedoOutliveTheProcess(t *testing.T) {
	ctx := context.Background()
	s := pgtest.Store(t)
	p, u := practice(t, s, "a@example.org")
	me := store.Editor{ID: u.ID, Name: u.Name}
	_, id, doc := draft(t, p)
	is := func(summary, undo, redo string) {
		t.Helper()
		got, err := p.Programme(ctx, id)
		require.NoError(t, err)
		u, r, err := p.Steps(ctx, id, me)
		require.NoError(t, err)
		assert.Equal(t, []string{summary, undo, redo}, []string{got.Doc.Summary, u, r})
	}
	next := *doc
	next.Summary = "second"
	require.NoError(t, p.SaveStep(ctx, id, 1, "Removed a lift", me, &next))
	is("second", "Removed a lift", "")
	require.NoError(t, p.Step(ctx, id, -1, me))
	is(doc.Summary, "", "Removed a lift")
	assert.ErrorIs(t, p.Step(ctx, id, -1, me), store.ErrNotFound, "nothing to undo")
	require.NoError(t, p.Step(ctx, id, 1, me))
	is("second", "Removed a lift", "")

	// A new step after an undo drops what was undone.
	require.NoError(t, p.Step(ctx, id, -1, me))
	next.Summary = "third"
	require.NoError(t, p.SaveStep(ctx, id, 5, "Added a jump", me, &next))
	is("third", "Added a jump", "")
	var size int
	require.NoError(t, s.Pool().QueryRow(ctx, "SELECT max(length(change::text)) FROM programme_steps").Scan(&size))
	assert.Less(t, size, 12_000, "a step stores what changed, not the document")
}

// Each takes back their own last change, whatever the other did elsewhere; where the other
// changed the same place since, it is refused with what they did.
func TestAnUndoTakesBackOnesOwn(t *testing.T) {
	ctx := context.Background()
	s := pgtest.Store(t)
	p, u := practice(t, s, "a@example.org")
	me, other := store.Editor{ID: u.ID, Name: "Ailsa"}, store.Editor{Name: "Rory"}
	require.NoError(t, s.Pool().QueryRow(ctx, "INSERT INTO users (practice_id, name, email, password_hash) VALUES ($1, 'Rory', 'r@example.org', '') RETURNING id", u.PracticeID).Scan(&other.ID))
	_, id, doc := draft(t, p)
	change := func(by store.Editor, label string, do func(*programme.Programme)) {
		t.Helper()
		got, err := p.Programme(ctx, id)
		require.NoError(t, err)
		next := got.Doc.Clone()
		do(next)
		require.NoError(t, p.SaveStep(ctx, id, got.Revision, label, by, next))
	}
	item := func(p *programme.Programme, w, n int) *programme.Item {
		return &p.Blocks[0].Weeks[w].Sessions[0].Items[n]
	}
	change(me, "Mine", func(p *programme.Programme) { item(p, 0, 0).Dose.Sets = 9 })
	change(other, "Theirs elsewhere", func(p *programme.Programme) { item(p, 1, 1).Dose.Sets = 8 })
	require.NoError(t, p.Step(ctx, id, -1, me))
	got, err := p.Programme(ctx, id)
	require.NoError(t, err)
	assert.Equal(t, []int{item(doc, 0, 0).Dose.Sets, 8}, []int{item(got.Doc, 0, 0).Dose.Sets, item(got.Doc, 1, 1).Dose.Sets})
	require.NoError(t, p.Step(ctx, id, 1, me))

	change(other, "Theirs on it", func(p *programme.Programme) { item(p, 0, 0).Dose.Sets = 7 })
	var stuck *store.StuckError
	require.ErrorAs(t, p.Step(ctx, id, -1, me), &stuck)
	assert.Equal(t, "Mine", stuck.Label)
	require.Len(t, stuck.Since, 1)
	assert.Equal(t, []string{"Theirs on it", "Rory"}, []string{stuck.Since[0].Label, stuck.Since[0].By})
	require.NoError(t, p.Step(ctx, id, -1, other))
	require.NoError(t, p.Step(ctx, id, -1, me), "once they took theirs back, mine can be")
}

func TestAVersionIsWithdrawnAndStaysAsItWas(t *testing.T) {
	ctx := context.Background()
	s := pgtest.Store(t)
	p, u := practice(t, s, "a@example.org")
	_, id, doc := draft(t, p)
	assert.ErrorIs(t, p.Withdraw(ctx, id, testkit.Day, "x"), store.ErrNotFound, "a draft is not")
	require.NoError(t, p.Issue(ctx, id, 1, testkit.Day, u.ID, "", doc, []byte("{}")))
	require.NoError(t, p.Withdraw(ctx, id, testkit.Day, "hurt his wrist"))
	got, err := p.Programme(ctx, id)
	require.NoError(t, err)
	assert.Equal(t, []any{store.Withdrawn, 1, "hurt his wrist", testkit.Day}, []any{got.Status, got.Version, got.WithdrawnWhy, got.WithdrawnOn})
	assert.Equal(t, doc, got.Doc)
	for _, sql := range []string{"UPDATE programmes SET status = 'issued'", "UPDATE programmes SET withdrawn_why = 'x'", "DELETE FROM programmes"} {
		_, err := s.Pool().Exec(ctx, sql)
		assert.Error(t, err, sql)
	}
}

func TestAnIssuedProgrammeDoesNotChange(t *testing.T) {
	ctx := context.Background()
	s := pgtest.Store(t)
	p, u := practice(t, s, "a@example.org")
	athleteID, id, doc := draft(t, p)
	require.NoError(t, p.SaveStep(ctx, id, 1, "A change", store.Editor{Name: "Coach"}, doc))
	require.NoError(t, p.Issue(ctx, id, 2, testkit.Day, u.ID, "first block", doc, []byte(`{"kept": true}`)))

	got, err := p.Programme(ctx, id)
	require.NoError(t, err)
	assert.Equal(t, store.Issued, got.Status)
	assert.Equal(t, 1, got.Version)
	assert.JSONEq(t, `{"kept": true}`, string(got.Frozen))
	require.ErrorIs(t, p.SaveStep(ctx, id, got.Revision, "x", store.Editor{Name: "Coach"}, doc), store.ErrIssued)
	require.ErrorIs(t, p.Issue(ctx, id, got.Revision, testkit.Day, u.ID, "", doc, nil), store.ErrIssued)
	require.ErrorIs(t, p.DeleteDraft(ctx, id), store.ErrIssued)
	// Not even past the program.
	for _, sql := range []string{"UPDATE programmes SET note = 'x'", "DELETE FROM programmes", "UPDATE programmes SET status = 'withdrawn', withdrawn_on = now(), note = 'x'", "UPDATE programme_docs SET frozen = NULL", "DELETE FROM programme_docs"} {
		_, err := s.Pool().Exec(ctx, sql)
		assert.ErrorContains(t, err, "does not change", sql)
	}

	second, err := p.CreateDraft(ctx, athleteID, "Changed", store.Editor{Name: "Coach"}, doc)
	require.NoError(t, err)
	require.NoError(t, p.Issue(ctx, second, 1, testkit.Day, u.ID, "", doc, []byte("{}")))
	list, err := p.Programmes(ctx, athleteID)
	require.NoError(t, err)
	assert.Equal(t, []int{2, 1}, []int{list[0].Version, list[1].Version})

	require.NoError(t, p.Erase(ctx, athleteID), "erasing a golfer erases their programmes")
}

func TestPartsThatCannotBeToldApartAreNotStored(t *testing.T) {
	ctx := context.Background()
	p, _ := practice(t, pgtest.Store(t), "a@example.org")
	_, id, doc := draft(t, p)
	twins := doc.Clone()
	twins.Blocks[0].Weeks[1].ID = twins.Blocks[0].Weeks[0].ID
	assert.ErrorContains(t, p.SaveStep(ctx, id, 1, "x", store.Editor{Name: "Coach"}, twins), "stands for two parts")
	got, err := p.Programme(ctx, id)
	require.NoError(t, err)
	assert.Equal(t, doc, got.Doc)
}
