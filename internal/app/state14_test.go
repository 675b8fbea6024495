package app_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	setup "dunnock/internal/core/practice"
	"dunnock/internal/core/unit"
)

// A practice as the version left it that could say nothing of itself but its unit of speed (schema
// 14): that unit stays, the others are as everything was shown, and what it has at hand is what we
// ship.
func TestAPracticeThatSaidNothingOfItselfIsMigrated(t *testing.T) {
	ctx := context.Background()
	a, u, _ := migrated(t, 14)
	assert.Equal(t, unit.Preference{Speed: "m/s", Mass: "kg", Length: "cm", Distance: "m"}, u.Units)
	s, err := a.PracticeSetup(ctx, u)
	require.NoError(t, err)
	assert.Zero(t, s.Revision)
	assert.Equal(t, setup.Shipped(), s.Places)
	assert.Equal(t, "usual", s.Set)
	assert.Equal(t, u.Practice, s.Name)

	// A golfer added now has nothing said of the kit, as before.
	g, err := a.AddGolfer(ctx, u, athlete.Profile{Name: "Ailsa Voe", PlayingSide: "right", BirthDate: civil.MustParse("1990-01-01")})
	require.NoError(t, err)
	assert.Empty(t, g.Facts.Training.Kit)
}
