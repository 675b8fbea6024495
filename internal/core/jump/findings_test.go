package jump_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/force"
	"dunnock/internal/core/jump"
)

// The best jump is the highest countermovement jump of the newest day that
// counts; both kinds are compared on the newest day that has both.
func TestBestAndCompareNewest(t *testing.T) {
	day := civil.MustParse("2026-11-24")
	made := func(on civil.Date, kind jump.Kind, height float64, flags ...force.Flag) jump.Dated {
		r := &jump.Result{Kind: kind, Flags: flags}
		if height > 0 {
			r.JumpHeightM = &height
		}
		return jump.Dated{On: on, Result: r}
	}
	old, now := day.Add(-60), day
	list := []jump.Dated{
		made(old, jump.Countermovement, 0.41), made(old, jump.Squat, 0.36),
		made(now, jump.Countermovement, 0.33), made(now, jump.Countermovement, 0.35), made(now, jump.Squat, 0.38),
		made(now, jump.Countermovement, 0), made(now, jump.Countermovement, 0.5, jump.NoFlight),
	}
	best, ok := jump.Best(list)
	require.True(t, ok)
	assert.Equal(t, 0.35, *best.Result.JumpHeightM)
	assert.Equal(t, now, best.On)
	c, on, ok := jump.CompareNewest(list)
	require.True(t, ok)
	assert.Equal(t, now, on)
	assert.InDelta(t, 0.35/0.38, c.Ratio, 1e-12)
	c, on, ok = jump.CompareNewest(list[:4])
	require.True(t, ok)
	assert.Equal(t, old, on, "the newest day has one kind only")
	assert.InDelta(t, 0.41/0.36, c.Ratio, 1e-12)
	_, ok = jump.Best(nil)
	assert.False(t, ok)
	_, _, ok = jump.CompareNewest(list[:1])
	assert.False(t, ok)
}
