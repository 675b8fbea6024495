package app_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/app"
	"dunnock/internal/core/testkit"
)

func TestARoleMayDoWhatThoseBeforeItMay(t *testing.T) {
	assert.True(t, app.Coach.AtLeast(app.Anybody))
	assert.True(t, app.Coach.AtLeast(app.Coach))
	assert.False(t, app.Anybody.AtLeast(app.Coach))
	assert.False(t, app.Role("").AtLeast(app.Anybody), "who nobody knows may do nothing")
	assert.False(t, app.Coach.AtLeast("owner"), "what nobody knows is allowed to nobody")
}

func TestWhoeverSignsInActsInTheirPractice(t *testing.T) {
	ctx := context.Background()
	a, made, _ := practice(t, testkit.Day)
	who, _, err := a.SignIn(ctx, "N@example.org", "long enough", app.Visitor{Remote: "here"})
	require.NoError(t, err)
	assert.Equal(t, made.UserID, who.UserID)
	assert.Equal(t, app.Coach, who.Role)
	assert.Equal(t, []string{made.PracticeID, "P", "Pacific/Auckland"}, []string{who.PracticeID, who.Practice, who.Zone})
	actors, err := a.Actors(ctx)
	require.NoError(t, err)
	require.Len(t, actors, 1)
	assert.Equal(t, who.UserID, actors[0].UserID)
}
