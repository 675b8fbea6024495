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
