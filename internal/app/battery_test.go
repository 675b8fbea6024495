package app_test

import (
	"context"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/app"
	"dunnock/internal/core/testkit"
)

// A painful trial of a test that was removed is told in the read, and breaks
// nothing.
func TestPainOfATestThatWasRemoved(t *testing.T) {
	ctx := context.Background()
	a, u, s := practice(t, testkit.Day)
	id := golfer(t, a, u, testkit.Strong())
	screens, err := a.Screens(ctx, u, id)
	require.NoError(t, err)
	_, err = s.Pool().
		Exec(ctx, "INSERT INTO trials (practice_id, screen_id, test, number, status, pain, region) VALUES ($1, $2, 'own-gone', 1, 'stopped', 5, 'hip')", u.PracticeID, screens[0].ID)
	require.NoError(t, err)
	r, err := a.Read(ctx, asNow(t, a, u), id, "")
	require.NoError(t, err)
	require.NotEmpty(t, r.Pain)
	assert.Contains(t, strings.Join(r.Pain, " "), "a test that was removed")
}

// asNow is the user as the next request sees them.
func asNow(t *testing.T, a *app.App, u *app.Actor) *app.Actor {
	t.Helper()
	u, err := a.Actor(context.Background(), u.UserID)
	require.NoError(t, err)
	return u
}
