package measure

import (
	"errors"
	"math"
)

// standardGravity is in m/s², exact by definition.
const standardGravity = 9.80665

// ErrFlight is returned for flight times no jump has.
var ErrFlight = errors.New("a flight time lies between 0 and 1.5 s")

// HeightFromFlight returns the jump height in cm from the flight time in s,
// g·t²/8 (Bosco, Luhtanen and Komi 1983). It holds for a landing in the posture
// of the take-off: bent knees on landing read high.
func HeightFromFlight(t float64) (float64, error) {
	if math.IsNaN(t) || t < 0 || t > 1.5 {
		return 0, ErrFlight
	}
	return 100 * standardGravity * t * t / 8, nil
}
