package app_test

import (
	"context"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/app"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/testkit"
	"dunnock/internal/postgres/pgtest"
	"dunnock/internal/store"
)

// before is a practice as a version left it whose programmes named their parts by
// place: one golfer with a draft and its undo steps, one with an issued version.
func before(t *testing.T) (a *app.App, u *app.Actor, draft, issued store.Programme) {
	t.Helper()
	ctx := context.Background()
	s, err := store.Open(ctx, pgtest.Restored(t, "../store/testdata/state-3.sql.gz"), store.Options{})
	require.NoError(t, err)
	t.Cleanup(s.Close)
	_, err = s.Migrate(ctx)
	require.NoError(t, err)
	a = app.New(s, time.Now, testkit.Day)
	actors, err := a.Actors(ctx)
	require.NoError(t, err)
	require.Len(t, actors, 1)
	u = actors[0]
	squad, err := s.For(u.PracticeID).Squad(ctx, false)
	require.NoError(t, err)
	for _, g := range squad {
		for _, p := range g.Programmes {
			if p.Status == store.Draft {
				draft = p
			} else {
				issued = p
			}
		}
	}
	require.NotEmpty(t, draft.ID)
	require.NotEmpty(t, issued.ID)
	return a, u, draft, issued
}

func TestADraftFromBeforeIsOpenedEditedUndoneAndIssued(t *testing.T) {
	ctx := context.Background()
	a, u, draft, _ := before(t)
	v, err := a.Programme(ctx, u, draft.ID)
	require.NoError(t, err)
	assert.Equal(t, programme.Format, v.Doc.Format)
	assert.Empty(t, v.MadeBy)
	first := v.View.Blocks[0].Weeks[0].Sessions[0].Items[0]
	require.NotEmpty(t, first.ID)

	v, err = a.Step(ctx, u, draft.ID, -1)
	require.NoError(t, err)
	again, err := a.Programme(ctx, u, draft.ID)
	require.NoError(t, err)
	assert.Equal(t, v.View, again.View, "the same step gets the same ids each time it is read")
	same, _ := v.View.Find(first.ID)
	require.NotNil(t, same, "a line keeps its id over the undo steps")

	v, err = a.Edit(ctx, u, draft.ID, v.Revision, false, plan.Edit{Kind: plan.EditRemove, At: first.ID})
	require.NoError(t, err)
	assert.Equal(t, "Removed "+first.Name, v.Undo)
	v, err = a.Issue(ctx, u, draft.ID, v.Revision, "carried over")
	require.NoError(t, err)
	assert.Contains(t, v.MadeBy, "As it was issued")
	assert.NotEmpty(t, v.Frozen)
}

func TestAVersionFromBeforeIsShownAsItWasAndSaysSo(t *testing.T) {
	ctx := context.Background()
	a, u, _, issued := before(t)
	v, err := a.Programme(ctx, u, issued.ID)
	require.NoError(t, err)
	assert.Nil(t, v.Frozen)
	assert.Contains(t, v.MadeBy, "Issued before exercises and rules were kept with a version")
	assert.Equal(t, 47.5, v.View.Blocks[0].Weeks[0].Sessions[0].Minutes, "as stored")
	assert.Equal(t, "Step-in swing, light club", v.View.Blocks[0].Weeks[0].Sessions[0].Items[0].Name)

	next, err := a.Draft(ctx, u, issued.AthleteID, app.Wanted{Start: v.StartDate, From: issued.ID})
	require.NoError(t, err)
	assert.Equal(t, v.View.Blocks[0].Weeks[0].Sessions[0].Items[0].ID, next.View.Blocks[0].Weeks[0].Sessions[0].Items[0].ID)
	assert.Equal(t, a.Method().Rules.Version(), next.Doc.RulebookVersion, "a new draft is made by the rules of today")
	still, err := a.Programme(ctx, u, issued.ID)
	require.NoError(t, err)
	assert.Equal(t, v.View, still.View)
}

// New parts never get an id that was given before, whoever makes them and when.
func TestIDsAreNeverGivenTwice(t *testing.T) {
	ctx := context.Background()
	a, u, _ := practice(t, testkit.Day)
	id := golfer(t, a, u, testkit.Strong())
	seen := map[string]bool{}
	for range 3 {
		v, err := a.Draft(ctx, u, id, app.Wanted{Start: testkit.Day})
		require.NoError(t, err)
		mark, _, _ := strings.Cut(string(v.View.Blocks[0].ID), "-")
		assert.False(t, seen[mark])
		seen[mark] = true
	}
}
