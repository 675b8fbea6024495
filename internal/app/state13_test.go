package app_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A practice as the version left it that had no groups, photos and archive (schema 13): everybody
// is in the squad, in no group, and what is new can be said of them.
func TestAPracticeWithoutAnArchiveIsMigrated(t *testing.T) {
	ctx := context.Background()
	a, u, _ := migrated(t, 13)
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
