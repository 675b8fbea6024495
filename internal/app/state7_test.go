package app_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/plan"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/store"
)

// A practice as the version left it that knew no seasons, no rules of one's own and one
// layout of schools (schema 7): what it drafted, issued and measured is opened and worked on,
// and what has come since is there for its golfers.
func TestAPracticeWithoutSeasonsIsMigrated(t *testing.T) {
	ctx := context.Background()
	a, u, s := migrated(t, 7)
	squad, err := s.For(u.PracticeID).Squad(ctx, false)
	require.NoError(t, err)
	require.Len(t, squad, 6)
	drafts, issued, series := 0, 0, 0
	for _, g := range squad {
		v, err := a.Speed(ctx, u, g.ID)
		require.NoError(t, err)
		series += len(v.Series)
		for _, p := range g.Programmes {
			v, err := a.Programme(ctx, u, p.ID)
			require.NoError(t, err)
			sheet, err := a.PlanSheet(ctx, u, p.ID, "")
			require.NoError(t, err)
			assert.NotEmpty(t, sheet.WarmUps, "each session has its warm-up")
			for _, r := range v.Rules {
				assert.False(t, r.Status == rulebook.Broken && r.Severity == rulebook.Blocking, "%s: %s", g.Facts.Athlete.Name, r.Text)
			}
			if p.Status == store.Issued {
				issued++
				assert.Contains(t, v.MadeBy, "As it was issued")
				assert.NotEqual(t, v.View.School, v.View.SchoolName, "its school has its name")
				file, _, err := a.Calendar(ctx, u, g.ID)
				require.NoError(t, err)
				assert.Contains(t, file, "SUMMARY:Session A")
				continue
			}
			drafts++
			v, err = a.Step(ctx, u, p.ID, -1)
			require.NoError(t, err)
			item := v.View.Blocks[0].Weeks[0].Sessions[0].Items[0]
			_, err = a.Edit(ctx, u, p.ID, v.Revision, false, plan.Edit{Kind: plan.EditRemove, At: item.ID})
			require.NoError(t, err)
		}
		if g.Facts.Clearance.AnsweredOn.IsZero() {
			continue
		}
		got, err := a.Season(ctx, u, g.ID)
		require.NoError(t, err)
		assert.NotEmpty(t, got.Blocks)
	}
	assert.Equal(t, []int{1, 1, 3}, []int{drafts, issued, series})
}
