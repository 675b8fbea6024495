package measure_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/measure"
)

// Source: Bosco et al. 1983; values computed with SciPy.
func TestHeightFromFlight(t *testing.T) {
	for s, cm := range map[float64]float64{0.400: 19.6133, 0.450: 24.8231, 0.500: 30.6458, 0.550: 37.0814, 0.600: 44.1299, 0.650: 51.7914} {
		got, err := measure.HeightFromFlight(s)
		require.NoError(t, err)
		assert.InDelta(t, cm, got, 1e-4)
	}
	for _, s := range []float64{-0.1, 1.6, math.NaN()} {
		_, err := measure.HeightFromFlight(s)
		assert.ErrorIs(t, err, measure.ErrFlight)
	}
}
