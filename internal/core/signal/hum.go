package signal

import (
	"math"
	"math/cmplx"
)

// Hum is a sine that stands on a signal: cos·cos(2πft) + sin·sin(2πft), t in s
// from sample 0.
type Hum struct{ Hz, Cos, Sin float64 }

// Amplitude of the sine.
func (h Hum) Amplitude() float64 { return math.Hypot(h.Cos, h.Sin) }

// FindHum measures the sine near a frequency in a stretch where nothing else
// happens. The frequency is refined by how the phase moves from the first half to
// the second; it is false where it would leave the neighbourhood by more than
// half a hertz, or the stretch holds fewer than eight periods.
func FindHum(y []float64, from, to int, rateHz, nearHz float64) (Hum, bool) {
	periods := math.Floor(float64(to-from) / rateHz * nearHz / 2)
	half := int(periods * rateHz / nearHz)
	if periods < 4 {
		return Hum{}, false
	}
	first, second := project(y, from, from+half, rateHz, nearHz), project(y, from+half, from+2*half, rateHz, nearHz)
	moved := cmplx.Phase(second*cmplx.Conj(first)) / (2 * math.Pi * float64(half) / rateHz)
	if math.Abs(moved) > 0.5 {
		return Hum{}, false
	}
	c := project(y, from, from+2*half, rateHz, nearHz+moved)
	return Hum{nearHz + moved, real(c), -imag(c)}, true
}

// project is twice the mean of y·exp(−2πift) over a stretch, without its mean.
func project(y []float64, from, to int, rateHz, hz float64) complex128 {
	mean := LevelOf(y, from, to).Mean
	step := cmplx.Exp(complex(0, -2*math.Pi*hz/rateHz))
	turn := cmplx.Exp(complex(0, -2*math.Pi*hz/rateHz*float64(from)))
	sum := 0i
	for _, v := range y[from:to] {
		sum += complex(v-mean, 0) * turn
		turn *= step
	}
	return 2 * sum / complex(float64(to-from), 0)
}

// Take takes the hum off a signal.
func (h Hum) Take(y []float64, rateHz float64) {
	step := cmplx.Exp(complex(0, 2*math.Pi*h.Hz/rateHz))
	turn := complex(1, 0)
	for i := range y {
		y[i] -= h.Cos*real(turn) + h.Sin*imag(turn)
		turn *= step
	}
}
