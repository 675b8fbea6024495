package maturity_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/maturity"
)

// Source: Mirwald et al. 2002 and Moore et al. 2015; rows computed
// with SciPy.
func TestEstimate(t *testing.T) {
	rows := []struct {
		sex                    string
		age, height, sit, mass float64
		mirwald, moore         float64
		near                   bool
	}{
		{"male", 13.0, 160.0, 82.0, 48.0, -0.81039, -0.62986, true},
		{"male", 14.5, 172.0, 89.5, 61.0, 0.95158, 1.00041, true},
		{"male", 11.2, 144.0, 75.5, 37.5, -2.41262, -2.18028, false},
		{"female", 12.0, 155.0, 81.0, 45.0, 0.18125, 0.14602, true},
		{"female", 10.5, 141.5, 74.8, 34.0, -1.40916, -1.43451, false},
		{"female", 13.8, 163.0, 86.5, 55.0, 1.74268, 1.79053, false},
	}
	for _, r := range rows {
		o, err := maturity.Estimate(r.sex, r.age, r.height, r.sit, r.mass)
		require.NoError(t, err)
		assert.InDelta(t, r.mirwald, o.Mirwald, 1e-5)
		assert.InDelta(t, r.moore, o.Moore, 1e-5)
		assert.Equal(t, r.near, o.NearSpurt())
	}
}

func TestEstimateRefusesWhatItWasNotMadeFor(t *testing.T) {
	for _, c := range []struct {
		sex                  string
		age, height, sit, kg float64
	}{{"male", 19, 180, 92, 70}, {"male", 7, 120, 65, 24}, {"", 14, 165, 84, 50}, {"male", 14, 165, 170, 50}, {"female", 14, 165, 84, 0}} {
		_, err := maturity.Estimate(c.sex, c.age, c.height, c.sit, c.kg)
		assert.ErrorIs(t, err, maturity.ErrInputs)
	}
}

// Source: Moore et al. 2015, boys by standing height; rows computed with SciPy.
func TestHeightOnly(t *testing.T) {
	for _, r := range [][3]float64{{13.0, 160.0, -0.48620}, {14.5, 172.0, 1.00933}, {11.2, 144.0, -2.17392}} {
		o, err := maturity.Estimate("male", r[0], r[1], 0, 0)
		require.NoError(t, err)
		assert.True(t, o.HeightOnly)
		assert.InDelta(t, r[2], o.Moore, 1e-5)
		assert.Zero(t, o.Mirwald)
	}
	_, err := maturity.Estimate("", 13, 160, 0, 0)
	assert.ErrorIs(t, err, maturity.ErrInputs)
}
