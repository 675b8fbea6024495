package app_test

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/app"
	"dunnock/internal/core/testkit"
	"dunnock/internal/postgres/pgtest"
	"dunnock/internal/store"
)

// A practice as the version left it that had no groups, photos and archive (schema 13): everybody
// is in the squad, in no group, and what is new can be said of them.
func TestAPracticeWithoutAnArchiveIsMigrated(t *testing.T) {
	ctx := context.Background()
	s, err := store.Open(ctx, pgtest.Restored(t, "../store/testdata/state-13.sql.gz"), store.Options{})
	require.NoError(t, err)
	t.Cleanup(s.Close)
	n, err := s.Migrate(ctx)
	require.NoError(t, err)
	assert.Positive(t, n)
	a := app.New(s, time.Now, testkit.Day)
	t.Cleanup(a.Close)
	actors, err := a.Actors(ctx)
	require.NoError(t, err)
	u := actors[0]
	squad, err := a.Squad(ctx, u, false)
	require.NoError(t, err)
	require.Len(t, squad, 6)
	for _, g := range squad {
		assert.Empty(t, g.Groups)
		assert.Empty(t, g.Photo)
		assert.NotEmpty(t, g.Due.Text)
	}
	changed, err := a.Group(ctx, u, []string{squad[0].ID}, "Juniors", true)
	require.NoError(t, err)
	assert.Equal(t, 1, changed)
	changed, err = a.Archive(ctx, u, []string{squad[0].ID}, true)
	require.NoError(t, err)
	assert.Equal(t, 1, changed)
	g, err := a.Golfer(ctx, u, squad[0].ID)
	require.NoError(t, err)
	assert.Equal(t, []string{"Juniors"}, g.Facts.Athlete.Groups)
}
