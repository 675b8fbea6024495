package jump_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"dunnock/internal/core/jump"
)

// Source: v = J/m and v²/2g (Linthorne 2001), g = 9.80665 m/s²; rows worked with a
// calculator's precision.
func TestHeightFromImpulse(t *testing.T) {
	for _, r := range [][4]float64{{80, 200, 2.5, 31.8661}, {65, 150, 2.30769, 27.1522}, {95, 261.25, 2.75, 38.5580}, {54.2, 118.90, 2.19373, 24.5366}} {
		v := r[1] / r[0]
		assert.InDelta(t, r[2], v, 1e-5)
		assert.InDelta(t, r[3], 100*jump.HeightFromSpeed(v), 1e-4)
	}
}
