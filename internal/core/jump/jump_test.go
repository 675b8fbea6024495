package jump_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/jump"
)

// Source: Bosco et al. 1983; values computed with SciPy.
func TestHeightFromFlight(t *testing.T) {
	for s, cm := range map[float64]float64{0.400: 19.6133, 0.450: 24.8231, 0.500: 30.6458, 0.550: 37.0814, 0.600: 44.1299, 0.650: 51.7914} {
		got, err := jump.HeightFromFlight(s)
		require.NoError(t, err)
		assert.InDelta(t, cm, got, 1e-4)
	}
	for _, s := range []float64{-0.1, 1.6, math.NaN()} {
		_, err := jump.HeightFromFlight(s)
		assert.ErrorIs(t, err, jump.ErrFlight)
	}
}

// Source: v = J/m and v²/2g (Linthorne 2001), g = 9.80665 m/s²; rows worked with a
// calculator's precision.
func TestHeightFromImpulse(t *testing.T) {
	for _, r := range [][4]float64{{80, 200, 2.5, 31.8661}, {65, 150, 2.30769, 27.1522}, {95, 261.25, 2.75, 38.5580}, {54.2, 118.90, 2.19373, 24.5366}} {
		v := r[1] / r[0]
		assert.InDelta(t, r[2], v, 1e-5)
		assert.InDelta(t, r[3], 100*jump.HeightFromSpeed(v), 1e-4)
	}
}
