package app_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/training"
	"dunnock/internal/store"
)

// A practice as the version left it that had no log (schema 12): its programmes are trained and
// logged, and what is proposed is issued over a version of that time.
func TestAPracticeWithoutALogIsMigrated(t *testing.T) {
	ctx := context.Background()
	a, u, s := migrated(t, 12)
	squad, err := s.For(u.PracticeID).Squad(ctx, false)
	require.NoError(t, err)
	trained := 0
	for _, g := range squad {
		week, err := a.FloorWeek(ctx, u, g.ID)
		require.NoError(t, err)
		page, err := a.Load(ctx, u, g.ID)
		require.NoError(t, err)
		assert.Empty(t, page.Days)
		next, err := a.NextDose(ctx, u, g.ID)
		require.NoError(t, err)
		assert.Empty(t, next.Proposals, "nobody knows what was missed before there was a log")
		for _, r := range week.Past {
			if r.Kind != store.LogPlanned || trained > 0 {
				continue
			}
			trained++
			x, err := a.FloorSession(ctx, u, g.ID, r.Session)
			require.NoError(t, err)
			assert.NotEmpty(t, x.Sheet.Steps)
			book := ran(t, a, u, g.ID, r, "phone", nil)
			saved := send(t, a, u, g.ID, r.Session, book.Entries)
			assert.Empty(t, saved.Refused)
			assert.Equal(t, training.Done, saved.Logs[0].Log.State)
		}
	}
	assert.Positive(t, trained, "somebody trains by a version of that time")
	today, err := a.TodayPage(ctx, u)
	require.NoError(t, err)
	assert.Len(t, today.Days, 7)
}
