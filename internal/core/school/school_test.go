package school_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/library"
	"dunnock/internal/core/school"
)

func TestSchoolsAreWholeData(t *testing.T) {
	slots := append([]library.Slot{school.UpperPair}, library.SlotOrder...)
	families := map[string]bool{}
	for i := range library.Shipped().All() {
		families[library.Shipped().All()[i].Family] = true
	}
	for _, s := range school.Shipped().All() {
		assert.NotEmpty(t, s.Logic, s.ID)
		assert.InDelta(t, 50, s.OtherSideShare, 50, s.ID)
		for _, step := range s.Slots {
			for _, slot := range step.Add {
				assert.Contains(t, slots, slot, s.ID)
			}
		}
		for f := range s.Prefer {
			assert.True(t, families[f], "%s prefers %s", s.ID, f)
		}
	}
}

// Our list of slots by minutes, for the default school.
func TestSlotsByMinutes(t *testing.T) {
	s, err := school.Shipped().Find("")
	require.NoError(t, err)
	assert.Equal(t, school.Default, s.ID)
	assert.Equal(t, []library.Slot{"throw", "main-lift", "upper-pair", "range"}, s.SlotsFor(30))
	assert.Equal(t, []library.Slot{"throw", "main-lift", "upper-pair", "range", "jump", "trunk"}, s.SlotsFor(45))
	assert.Contains(t, s.SlotsFor(60), library.SlotSwings)
	assert.False(t, s.Has(60, "second-lift"))
	assert.True(t, s.Has(75, "second-lift"))
	_, err = school.Shipped().Find("bar")
	assert.ErrorContains(t, err, "measured-gap or strength-first")
}

// Our relevances, for the default school.
func TestRelevances(t *testing.T) {
	s, _ := school.Shipped().Find(school.Default)
	for q, want := range map[string]float64{"maximal-strength": 1, "vertical-power": 1, "horizontal-power": 0.9, "rotational-power": 0.8, "mobility": 0.7, "grip": 0.4} {
		assert.Equal(t, want, s.Relevance[q], q)
	}
}
