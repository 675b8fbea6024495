// Package jump reads jumps from the vertical force of one or two plates:
// analyse.go and stance.go take body weight and filter, flight.go the flight,
// disturbance.go hum and drift, and metrics.go phases and numbers. What they mean
// for training stands in findings.go.
package jump

// G is standard gravity in m/s², exact by definition.
const G = 9.80665

// HeightFromSpeed returns the jump height in m from the take-off velocity in
// m/s, v²/2g (Linthorne 2001).
func HeightFromSpeed(v float64) float64 { return v * v / (2 * G) }
