package forcefile

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
)

// Worked by hand from the definition of the F float, (−1)^s · 0.1f · 2^(e−128):
// 1 is 0.1₂ · 2^1, so e = 129 and no mantissa.
func TestOlderFloat(t *testing.T) {
	for want, b := range map[float64][]byte{
		0:                   {0, 0, 0, 0},
		1:                   {0x80, 0x40, 0, 0},
		-1:                  {0x80, 0xC0, 0, 0},
		0.5:                 {0x00, 0x40, 0, 0},
		-2.5:                {0x20, 0xC1, 0, 0},
		1000:                {0x7A, 0x45, 0, 0},
		1 + 1.0/(1<<23):     {0x80, 0x40, 1, 0},
		math.Ldexp(1, 126):  {0x80, 0x7F, 0, 0},
		math.Ldexp(1, -128): {0x80, 0x00, 0, 0},
	} {
		assert.InDelta(t, want, vax(b), 0, "% x", b)
	}
	assert.True(t, math.IsNaN(vax([]byte{0, 0x80, 0, 0})), "sign without exponent is reserved")
	assert.Equal(t, 1.0, bigEndian.float([]byte{0x3F, 0x80, 0, 0}))
	assert.Equal(t, 1.0, littleEndian.float([]byte{0, 0, 0x80, 0x3F}))
}
