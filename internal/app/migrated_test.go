package app_test

import (
	"context"
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"dunnock/internal/app"
	"dunnock/internal/core/testkit"
	"dunnock/internal/postgres/pgtest"
	"dunnock/internal/store"
)

// migrated is the practice of a dump of an earlier schema, brought up to this one.
func migrated(t *testing.T, schema int) (*app.App, *app.Actor, *store.Store) {
	t.Helper()
	ctx := context.Background()
	s, err := store.Open(ctx, pgtest.Restored(t, fmt.Sprintf("../store/testdata/state-%d.sql.gz", schema)), store.Options{})
	require.NoError(t, err)
	t.Cleanup(s.Close)
	n, err := s.Migrate(ctx)
	require.NoError(t, err)
	require.Positive(t, n)
	a := app.New(s, time.Now, testkit.Day)
	t.Cleanup(a.Close)
	actors, err := a.Actors(ctx)
	require.NoError(t, err)
	require.Len(t, actors, 1)
	return a, actors[0], s
}
