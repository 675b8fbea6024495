package norm_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/norm"
)

// Source: standard normal table; values of SciPy and R.
func TestPercentile(t *testing.T) {
	for z, want := range map[float64]float64{-3: 0.134990, -1.959963985: 2.5, -1: 15.865525, 0: 50, 0.2: 57.925971, 1.5: 93.319280, 2.326347874: 99} {
		assert.InDelta(t, want, norm.Percentile(z), 1e-6)
	}
}

// Source: Mathiowetz et al. 1985 (table from memory), worked rows
// computed with SciPy.
func TestGripReference(t *testing.T) {
	rows := []struct {
		sex           string
		age           int
		right         bool
		kg            float64
		mean, sd, pct float64
	}{
		{"male", 32, true, 60, 55.2476, 10.1605, 68.001},
		{"male", 68, true, 45, 41.3223, 9.3440, 65.306},
		{"female", 27, true, 30, 33.7926, 6.3049, 27.374},
		{"female", 51, false, 28, 25.9908, 4.8534, 66.055},
		{"male", 80, false, 25, 24.9476, 7.7111, 50.271},
	}
	for _, r := range rows {
		ref, ok := norm.Grip(r.age, r.sex, r.right)
		require.True(t, ok)
		assert.InDelta(t, r.mean, ref.Mean, 1e-4)
		assert.InDelta(t, r.sd, ref.SD, 1e-4)
		assert.InDelta(t, r.pct, norm.Percentile(ref.Z(r.kg)), 1e-2)
	}
	_, ok := norm.Grip(15, "male", true)
	assert.False(t, ok, "no row under 20")
	_, ok = norm.Grip(40, "", true)
	assert.False(t, ok, "no row without a sex")
}
