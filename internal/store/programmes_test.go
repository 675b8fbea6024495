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
	id, err = p.CreateDraft(ctx, athleteID, "Drafted", "Coach", r.Doc)
	require.NoError(t, err)
	return athleteID, id, r.Doc
}

func TestUndoAndRedoOutliveTheProcess(t *testing.T) {
	ctx := context.Background()
	s := pgtest.Store(t)
	p, _ := practice(t, s, "a@example.org")
	_, id, doc := draft(t, p)
	next := *doc
	next.Summary = "second"
	require.NoError(t, p.SaveStep(ctx, id, 1, "Removed a lift", "Coach", &next))
	got, err := p.Programme(ctx, id)
	require.NoError(t, err)
	assert.Equal(t, []string{"second", "Removed a lift", ""}, []string{got.Doc.Summary, got.Undo, got.Redo})

	require.NoError(t, p.Step(ctx, id, 2, -1, "Coach"))
	got, _ = p.Programme(ctx, id)
	assert.Equal(t, []string{doc.Summary, "", "Removed a lift"}, []string{got.Doc.Summary, got.Undo, got.Redo})
	assert.ErrorIs(t, p.Step(ctx, id, 3, -1, "Coach"), store.ErrNotFound, "nothing to undo")
	assert.ErrorIs(t, p.Step(ctx, id, 2, 1, "Coach"), store.ErrConflict)
	require.NoError(t, p.Step(ctx, id, 3, 1, "Coach"))

	// A new step after an undo drops what was undone.
	require.NoError(t, p.Step(ctx, id, 4, -1, "Coach"))
	next.Summary = "third"
	require.NoError(t, p.SaveStep(ctx, id, 5, "Added a jump", "Coach", &next))
	got, _ = p.Programme(ctx, id)
	assert.Equal(t, []string{"third", "Added a jump", ""}, []string{got.Doc.Summary, got.Undo, got.Redo})
}

func TestAnIssuedProgrammeDoesNotChange(t *testing.T) {
	ctx := context.Background()
	s := pgtest.Store(t)
	p, u := practice(t, s, "a@example.org")
	athleteID, id, doc := draft(t, p)
	require.NoError(t, p.SaveStep(ctx, id, 1, "A change", "Coach", doc))
	require.NoError(t, p.Issue(ctx, id, 2, testkit.Day, u.ID, "first block", doc, []byte(`{"kept": true}`)))

	got, err := p.Programme(ctx, id)
	require.NoError(t, err)
	assert.Equal(t, store.Issued, got.Status)
	assert.Equal(t, 1, got.Version)
	assert.Empty(t, got.Undo)
	assert.JSONEq(t, `{"kept": true}`, string(got.Frozen))
	require.ErrorIs(t, p.SaveStep(ctx, id, got.Revision, "x", "Coach", doc), store.ErrIssued)
	require.ErrorIs(t, p.Issue(ctx, id, got.Revision, testkit.Day, u.ID, "", doc, nil), store.ErrIssued)
	require.ErrorIs(t, p.DeleteDraft(ctx, id), store.ErrIssued)
	// Not even past the program.
	for _, sql := range []string{"UPDATE programmes SET note = 'x'", "DELETE FROM programmes", "UPDATE programme_steps SET label = 'x'", "UPDATE programme_steps SET frozen = NULL", "DELETE FROM programme_steps"} {
		_, err := s.Pool().Exec(ctx, sql)
		assert.ErrorContains(t, err, "does not change", sql)
	}

	second, err := p.CreateDraft(ctx, athleteID, "Changed", "Coach", doc)
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
	assert.ErrorContains(t, p.SaveStep(ctx, id, 1, "x", "Coach", twins), "stands for two parts")
	got, err := p.Programme(ctx, id)
	require.NoError(t, err)
	assert.Equal(t, doc, got.Doc)
}
