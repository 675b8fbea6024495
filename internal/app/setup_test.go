package app_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/app"
	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/measure"
	setup "dunnock/internal/core/practice"
	"dunnock/internal/core/testkit"
	"dunnock/internal/core/unit"
)

// What a practice says of itself holds for who signs in next, for golfers who are new, and
// not over what somebody else said meanwhile.
func TestAPracticeIsSetUpOnce(t *testing.T) {
	ctx := context.Background()
	a, u, _ := practice(t, testkit.Day)
	s, err := a.PracticeSetup(ctx, u)
	require.NoError(t, err)
	say := s.Setup.Setup
	say.Name, say.Zone = "Links hall", "Pacific/Auckland"
	say.Units = unit.Preference{Speed: "m/s", Mass: "lb", Length: "in", Distance: "ft"}
	say.Places = append(say.Places, setup.Place{Name: "The shed", Kit: []string{"band", "stick"}})
	say.Begins, say.BarKg, say.Plates = "The shed", 25, []float64{2.5, 20, 20, 10}
	now, err := a.SetUpPractice(ctx, u, s.Revision, say)
	require.NoError(t, err)
	assert.Equal(t, "Links hall", now.Practice)
	assert.Equal(t, say.Units, now.Units)
	_, err = a.SetUpPractice(ctx, u, s.Revision, say)
	assert.Equal(t, app.Conflict, kind(t, err), err)

	s, err = a.PracticeSetup(ctx, now)
	require.NoError(t, err)
	assert.Equal(t, 1, s.Revision)
	assert.Equal(t, []float64{20, 10, 2.5}, s.Plates, "heaviest first, each once")
	g, err := a.AddGolfer(ctx, now, athlete.Profile{Name: "Ailsa Voe", PlayingSide: "right", BirthDate: civil.MustParse("1990-01-01")})
	require.NoError(t, err)
	assert.Equal(t, athlete.Training{Days: g.Facts.Training.Days, Kit: []string{"band", "stick"}, BarKg: 25, Plates: s.Plates}, g.Facts.Training)

	say.Places, say.Begins, say.Plates = nil, "", nil
	now, err = a.SetUpPractice(ctx, now, s.Revision, say)
	require.NoError(t, err)
	s, err = a.PracticeSetup(ctx, now)
	require.NoError(t, err)
	assert.NotNil(t, s.Places)
	assert.Empty(t, s.Plates)
	say.Zone = "Nowhere/At_all"
	_, err = a.SetUpPractice(ctx, now, s.Revision, say)
	assert.Equal(t, app.Invalid, kind(t, err))
	say.Zone, say.Set = "UTC", "none"
	_, err = a.SetUpPractice(ctx, now, s.Revision, say)
	assert.Equal(t, app.Invalid, kind(t, err))
}

// A screen day begins with a battery that is there, whatever was said before it went.
func TestABatteryThatIsGoneIsNotBegunWith(t *testing.T) {
	ctx := context.Background()
	a, u, _ := practice(t, testkit.Day)
	b, err := a.EditBattery(ctx, u, 0, app.BatteryEdit{Set: &measure.Set{ID: "ours", Name: "Ours", Tests: []string{"cmj"}}})
	require.NoError(t, err)
	own := b.Sets[len(b.Sets)-1].ID
	u, err = a.Actor(ctx, u.UserID)
	require.NoError(t, err)
	s, err := a.PracticeSetup(ctx, u)
	require.NoError(t, err)
	s.Set = own
	u, err = a.SetUpPractice(ctx, u, s.Revision, s.Setup.Setup)
	require.NoError(t, err)
	_, err = a.EditBattery(ctx, u, b.Revision, app.BatteryEdit{RemoveSet: own})
	require.NoError(t, err)
	u, err = a.Actor(ctx, u.UserID)
	require.NoError(t, err)
	s, err = a.PracticeSetup(ctx, u)
	require.NoError(t, err)
	assert.Equal(t, "usual", s.Set)
}
