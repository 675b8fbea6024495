package school_test

import (
	"encoding/json"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/library"
	"dunnock/internal/core/school"
)

func TestSixSchools(t *testing.T) {
	known := map[string]bool{"stabilised": true, "drill": true}
	for i := range library.Shipped().All() {
		e := &library.Shipped().All()[i]
		known[e.Family], known[e.Pattern], known[string(e.Zone)] = true, true, true
	}
	knows := func(key string) bool {
		for k := range known {
			if strings.HasPrefix(k, key) {
				return true
			}
		}
		return slices.Contains(school.Qualities(), key)
	}
	var names []string
	for _, s := range school.Shipped().All() {
		names = append(names, s.Name)
		for key := range s.Prefer {
			assert.True(t, knows(key), "%s prefers %s", s.ID, key)
		}
		for key := range s.Avoid {
			assert.True(t, knows(key), "%s avoids %s", s.ID, key)
		}
	}
	assert.Equal(t, []string{"Measured gap", "Layer on layer", "Lengthen first", "Predictor-led", "Strength first", "Swing-led speed"}, names)
}

// Strength leads until it is met; a lengthener goes on from range to control; layers
// follow each other block by block and begin again.
func TestStagesFollowEachOther(t *testing.T) {
	find := func(id string) *school.School {
		s, err := school.Shipped().Find(id)
		require.NoError(t, err)
		return s
	}
	clear := func(short ...string) func(string) bool {
		return func(q string) bool { return slices.Contains(short, q) }
	}
	first := find("strength-first")
	assert.True(t, first.StrengthFirst())
	assert.Equal(t, 0, first.StageOf(clear("maximal-strength", "mobility")))
	assert.Equal(t, 1, first.StageOf(clear("mobility")))
	long := find("lengthen-first")
	assert.Equal(t, 1, long.StageOf(clear("control", "vertical-power")))
	assert.Equal(t, 2, long.StageOf(clear("vertical-power")))
	layers := find("layer-on-layer")
	assert.True(t, layers.At(0).Stages[0].May("control"))
	assert.False(t, layers.At(1).Stages[0].May("control"))
	assert.Equal(t, "lead", layers.At(3).Stages[0].Swing[0])
	assert.Equal(t, layers.At(0), layers.At(4))
	assert.Same(t, first, first.At(3))
	assert.Equal(t, "push-fast", find("predictor-led").Day("A").Patterns[library.SlotThrow])
	assert.Equal(t, "throw-horizontal", first.Day("A").Patterns[library.SlotThrow])
}

// A school frozen in an older layout still gives its name; one of today all of it.
func TestFrozenSchoolsOfBeforeAreNamed(t *testing.T) {
	old := json.RawMessage(`{"id":"strength-first","name":"Strength first","logic":"Strength.","strengthLeads":true,"slots":[]}`)
	now, err := json.Marshal(school.Shipped().All()[0])
	require.NoError(t, err)
	s, err := school.Thaw([]json.RawMessage{old, now})
	require.NoError(t, err)
	got, err := s.Find("strength-first")
	require.NoError(t, err)
	assert.Equal(t, "Strength first", got.Name)
	assert.Equal(t, school.Shipped().All()[0], s.All()[1])
	_, err = school.Thaw([]json.RawMessage{json.RawMessage(`{"id":"x"}`)})
	assert.ErrorContains(t, err, "needs a name")
}

func TestSchoolsAreFoundByID(t *testing.T) {
	s, err := school.Shipped().Find("")
	require.NoError(t, err)
	assert.Equal(t, school.Default, s.ID)
	_, err = school.Shipped().Find("bar")
	assert.ErrorContains(t, err, "measured-gap or layer-on-layer or")
}

// Our relevances, for the default school.
func TestRelevances(t *testing.T) {
	s, _ := school.Shipped().Find(school.Default)
	for q, want := range map[string]float64{"maximal-strength": 1, "vertical-power": 1, "horizontal-power": 0.9, "rotational-power": 0.8, "mobility": 0.7, "grip": 0.4} {
		assert.Equal(t, want, s.Relevance[q], q)
	}
}
