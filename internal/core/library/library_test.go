package library

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/athlete"
)

func TestEveryEntryHangsTogether(t *testing.T) {
	require.GreaterOrEqual(t, len(All()), 70)
	families := map[string]int{}
	for i := range All() {
		require.NoError(t, All()[i].check())
		families[All()[i].Family]++
	}
	for _, f := range []string{"swings", "throws", "jumps", "strength-lower", "upper-push", "upper-pull", "trunk", "grip-forearm", "mobility"} {
		assert.GreaterOrEqual(t, families[f], 5, f)
	}
}

func TestEverySlotHasAChoiceWithoutKitForABeginner(t *testing.T) {
	for _, slot := range []string{"swings", "throw", "jump", "main-lift", "upper-push", "upper-pull", "finisher", "special", "trunk", "range"} {
		n := 0
		for i := range All() {
			if e := &All()[i]; e.Fits(slot) && len(e.Kit) == 0 && e.Level == 1 {
				n++
			}
		}
		assert.Positive(t, n, slot)
	}
}

func TestLimitsBlockByRegionAndKind(t *testing.T) {
	find := func(id string) *Exercise { e, ok := Find(id); require.True(t, ok, id); return e }
	rows := []struct {
		exercise string
		limit    athlete.Limit
		blocked  bool
	}{
		{"jump-countermovement", athlete.Limit{Region: "knee", Kind: athlete.NoImpact}, true},
		{"lift-trap-bar", athlete.Limit{Region: "knee", Kind: athlete.NoImpact}, false},
		{"lift-trap-bar", athlete.Limit{Region: "lumbar-spine", Kind: athlete.NoLoadedFlexion}, true},
		{"throw-scoop", athlete.Limit{Region: "lumbar-spine", Kind: athlete.NoLoadedRotation}, true},
		{"pull-down", athlete.Limit{Region: "shoulder", Kind: athlete.NoOverhead}, true},
		{"range-hip-9090", athlete.Limit{Region: "hip", Kind: athlete.NoneOfPattern}, true},
		{"throw-chest-standing", athlete.Limit{Region: "heart", Kind: athlete.NoMaximalEffort}, true},
		{"lift-goblet-squat", athlete.Limit{Region: "heart", Kind: athlete.NoMaximalEffort}, false},
		{"lift-trap-bar", athlete.Limit{Region: "lumbar-spine", Kind: athlete.LoadCap, CapKg: 60}, false},
	}
	for _, r := range rows {
		_, got := find(r.exercise).Blocked([]athlete.Limit{r.limit})
		assert.Equal(t, r.blocked, got, "%s under %s", r.exercise, r.limit.Words())
	}
	cap, ok := find("lift-trap-bar").Cap([]athlete.Limit{{Region: "hip", Kind: athlete.LoadCap, CapKg: 80}, {Region: "lumbar-spine", Kind: athlete.LoadCap, CapKg: 60}})
	assert.True(t, ok)
	assert.Equal(t, 60.0, cap)
}
