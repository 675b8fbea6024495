package school_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/library"
	"dunnock/internal/core/school"
)

func TestSchoolsAreWholeData(t *testing.T) {
	families := map[string]bool{}
	for i := range library.Shipped().All() {
		families[library.Shipped().All()[i].Family] = true
	}
	for _, s := range school.Shipped().All() {
		assert.NotEmpty(t, s.Logic, s.ID)
		assert.InDelta(t, 50, s.OtherSideShare, 50, s.ID)
		assert.Len(t, s.Weeks, 4, s.ID)
		for f := range s.Prefer {
			assert.True(t, families[f], "%s prefers %s", s.ID, f)
		}
	}
}

func TestSchoolsAreFoundByID(t *testing.T) {
	s, err := school.Shipped().Find("")
	require.NoError(t, err)
	assert.Equal(t, school.Default, s.ID)
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
