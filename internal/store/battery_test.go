package store_test

import (
	"context"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/measure"
	"dunnock/internal/postgres/pgtest"
	"dunnock/internal/store"
)

// A force test's target is the inner edge of its window: changing one changes the
// other, and neither stands twice.
func TestTheTargetOfAForceTestIsTheEdgeOfItsWindow(t *testing.T) {
	ctx := context.Background()
	s := pgtest.Store(t)
	p, _ := practice(t, s, "a@example.org")
	require.NoError(t, p.SaveForceWindows(ctx, map[string][2]float64{"lateral": {0.17, 0.3}}))
	c, err := p.Battery(ctx)
	require.NoError(t, err)
	lateral, _ := c.Apply().Find("swing-lateral")
	assert.Equal(t, []measure.Target{{Value: 0.17, Spread: 0.04}}, lateral.Targets)
	c.Confidence = 90
	require.NoError(t, p.SaveBattery(ctx, 0, c))
	require.NoError(t, p.SaveForceWindows(ctx, map[string][2]float64{}))
	c, err = p.Battery(ctx)
	require.NoError(t, err)
	assert.Empty(t, c.Targets, "the edge stands with the window alone")
	assert.Equal(t, 90, c.Confidence)
}

// Targets of force tests that a practice set before the two were one become edges
// of its windows, unless it had set those itself.
func TestTargetsOfForceTestsBecomeEdges(t *testing.T) {
	ctx := context.Background()
	s := pgtest.Store(t)
	targets := `{"swing-lateral": [{"value": 0.19, "spread": 0.04}], "swing-vertical": [{"value": 1.7, "spread": 0.2}], "cmj": [{"value": 50, "spread": 7}]}`
	var practices []*store.Practice
	for _, email := range []string{"a@example.org", "b@example.org"} {
		p, u := practice(t, s, email)
		practices = append(practices, p)
		_, err := s.Pool().Exec(ctx, "INSERT INTO battery_changes (practice_id, revision, targets) VALUES ($1, 1, $2)", u.PracticeID, targets)
		require.NoError(t, err)
	}
	require.NoError(t, practices[1].SaveForceWindows(ctx, map[string][2]float64{"lateral": {0.15, 0.25}}))

	b, err := os.ReadFile("migrations/0006_situation.sql")
	require.NoError(t, err)
	_, part, _ := strings.Cut(string(b), "-- practice set before become")
	part, _, _ = strings.Cut(part, "-- +goose Down")
	_, err = s.Pool().Exec(ctx, "--"+part)
	require.NoError(t, err)

	windows, err := practices[0].ForceWindows(ctx)
	require.NoError(t, err)
	assert.Equal(t, map[string][2]float64{"lateral": {0.19, 0.285}, "vertical": {1.7, 2.55}}, windows)
	windows, err = practices[1].ForceWindows(ctx)
	require.NoError(t, err)
	assert.Equal(t, [2]float64{0.15, 0.25}, windows["lateral"], "what the practice set itself stays")
	c, err := practices[0].Battery(ctx)
	require.NoError(t, err)
	jump, _ := c.Apply().Find("cmj")
	assert.Equal(t, 50.0, jump.Targets[0].Value)
}
