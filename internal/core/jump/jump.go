// Package jump reads jumps: a flight time typed off a mat, and the vertical force
// of one or two plates, from which analyse.go takes body weight and filter,
// flight.go the flight, disturbance.go hum and drift, and metrics.go phases and
// numbers. What they mean for training stands in findings.go.
package jump

import (
	"errors"
	"math"
)

// G is standard gravity in m/s², exact by definition.
const G = 9.80665

// ErrFlight is returned for flight times no jump has.
var ErrFlight = errors.New("jump: a flight time lies between 0 and 1.5 s")

// HeightFromFlight returns the jump height in cm from the flight time in s,
// g·t²/8 (Bosco, Luhtanen and Komi 1983). It holds for a landing in the posture
// of the take-off: bent knees on landing read high.
func HeightFromFlight(t float64) (float64, error) {
	if math.IsNaN(t) || t < 0 || t > 1.5 {
		return 0, ErrFlight
	}
	return 100 * G * t * t / 8, nil
}

// HeightFromSpeed returns the jump height in m from the take-off velocity in
// m/s, v²/2g (Linthorne 2001).
func HeightFromSpeed(v float64) float64 { return v * v / (2 * G) }
