package derive_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
)

func timed(t *testing.T, exercise string, d programme.Dose) []derive.TimedStep {
	t.Helper()
	e, ok := library.Shipped().Find(exercise)
	require.True(t, ok)
	d.Unit, d.Sides = e.DoseUnit, e.Sides
	return derive.Timed(&programme.Item{ID: "x", Exercise: exercise, Dose: d}, e)
}

// Two sets of five seconds with each hand and a rest between: ready, lead, trail, rest,
// lead, trail.
func TestGripWorkGoesHandByHand(t *testing.T) {
	steps := timed(t, "grip-squeeze", programme.Dose{Sets: 2, Seconds: 5, RestSeconds: 20})
	var seen []string
	sum := 0
	for _, s := range steps {
		seen = append(seen, s.Name+"|"+s.Side+"|"+s.Count)
		sum += s.Seconds
	}
	e, _ := library.Shipped().Find("grip-squeeze")
	assert.Equal(t, []string{
		"Get ready: " + e.Name + "||", e.Name + "|lead hand|set 1 of 2", e.Name + "|trail hand|set 1 of 2", "Rest||set 1 of 2",
		e.Name + "|lead hand|set 2 of 2", e.Name + "|trail hand|set 2 of 2",
	}, seen)
	assert.Equal(t, 10+4*5+20, sum)
	ids := map[string]bool{}
	for _, s := range steps {
		assert.False(t, ids[s.ID])
		ids[s.ID] = true
	}
}

func TestTheWeakerHandGoesFirstAndHasMore(t *testing.T) {
	steps := timed(t, "grip-squeeze", programme.Dose{Sets: 1, Seconds: 6, RestSeconds: 20, Weaker: "trail", WeakerMore: 3})
	assert.Equal(t, "trail hand", steps[1].Side)
	assert.Equal(t, 9, steps[1].Seconds)
	assert.Equal(t, 6, steps[2].Seconds)
	more := timed(t, "grip-squeeze", programme.Dose{Sets: 1, Seconds: 6, RestSeconds: 20, Weaker: "trail", WeakerSets: 1})
	assert.Equal(t, "trail hand", more[len(more)-1].Side)
	assert.Equal(t, "set 2 of 2", more[len(more)-1].Count)
}

func TestRepetitionsTakeTheirTime(t *testing.T) {
	e, _ := library.Shipped().Find("lever-hinge")
	steps := timed(t, "lever-hinge", programme.Dose{Sets: 1, Reps: 8})
	assert.InDelta(t, 8*e.SecondsPerRep, steps[1].Seconds, 1)
	assert.Equal(t, "8 times", steps[1].Dose)
}

// Five squeezes of five seconds, hands in turn: each hand keeps its own count, and the
// other's work is its rest.
func TestHandsInTurnKeepTheirOwnCount(t *testing.T) {
	steps := timed(t, "grip-squeeze", programme.Dose{Sets: 1, Times: 5, Seconds: 5, InTurn: true})
	require.Len(t, steps, 1+10)
	assert.Equal(t, "lead hand", steps[1].Side)
	assert.Equal(t, "trail hand", steps[2].Side)
	assert.Equal(t, "5 s, 1 of 5", steps[2].Dose)
	assert.Equal(t, "5 s, 5 of 5", steps[10].Dose)
	d := programme.Dose{Sets: 2, Times: 3, Seconds: 5, BetweenSeconds: 4, RestSeconds: 30}
	both := timed(t, "grip-both", d)
	sum := 0
	for _, s := range both {
		sum += s.Seconds
	}
	assert.Equal(t, 10+2*(3*5+2*4)+30, sum, "ready, two sets of three with rests between, one rest")
	d.Unit = library.Seconds
	assert.InDelta(t, float64(sum-10+60), derive.DoseSeconds(&d, 1), 1e-9, "the plan reserves what the clock runs, and a minute to get ready")
}

// Swings change sides set by set until each has its share; what does not come out in
// whole sets is split.
func TestSwingsChangeSidesSetBySet(t *testing.T) {
	d := programme.Dose{Sets: 5, Reps: 5, Unit: library.Swings, OtherSideShare: 40}
	playing, other := 0, 0
	var sides []string
	for k := range d.Sets {
		p, o := derive.SwingSet(&d, k)
		assert.Equal(t, 5, p+o)
		playing, other = playing+p, other+o
		sides = append(sides, map[bool]string{true: "playing", false: "other"}[p > o])
	}
	assert.Equal(t, []int{15, 10}, []int{playing, other})
	assert.Equal(t, []string{"playing", "other", "playing", "other", "playing"}, sides)
	split := programme.Dose{Sets: 1, Reps: 10, Unit: library.Swings, OtherSideShare: 50, BetweenSeconds: 3, BalanceSeconds: 2}
	steps := timed(t, "swing-step-in", split)
	require.Len(t, steps, 3)
	assert.Equal(t, "playing side", steps[1].Side)
	assert.Equal(t, "5 swings", steps[2].Dose)
	assert.Equal(t, 5*(3+3+2), steps[2].Seconds)
}
