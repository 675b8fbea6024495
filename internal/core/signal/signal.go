// Package signal holds the few pieces of signal processing that jumps and
// swings are read with: a zero-lag low-pass filter, integration, peaks between
// samples, humps, and rates over a window. Signals are evenly sampled unless a
// function says otherwise; units are the caller's.
package signal

import (
	"errors"
	"fmt"
	"math"
)

// ErrInput is returned for signals and settings nothing can be computed from.
var ErrInput = errors.New("signal: not possible")

// twoPass lowers the design cut-off of a second-order filter so that running it
// twice has its −3 dB point at the wanted one: (√2 − 1)^(1/4) (Winter 2009).
var twoPass = math.Pow(math.Sqrt2-1, 0.25)

// LowPass is a second-order Butterworth filter that is run forward and backward:
// fourth order in total, without lag, −3 dB at the wanted cut-off.
type LowPass struct {
	b0, b1, b2, a1, a2 float64
	pad                int
}

// NewLowPass designs a filter with the stated final cut-off for a sampling rate,
// both in Hz. The cut-off lies between 0 and 0.35 of the rate: above that the
// two-pass correction would reach half the rate.
func NewLowPass(cutoffHz, rateHz float64) (LowPass, error) {
	if !(cutoffHz > 0) || !(rateHz > 0) || cutoffHz > 0.35*rateHz || math.IsInf(rateHz, 0) {
		return LowPass{}, fmt.Errorf("%w: a cut-off of %g Hz at %g Hz", ErrInput, cutoffHz, rateHz)
	}
	w := math.Tan(math.Pi * cutoffHz / twoPass / rateHz)
	n := 1 / (1 + math.Sqrt2*w + w*w)
	f := LowPass{b0: w * w * n, a1: 2 * (w*w - 1) * n, a2: (1 - math.Sqrt2*w + w*w) * n}
	f.b1, f.b2 = 2*f.b0, f.b0
	// Long enough for the filter to forget where it began: four periods of
	// the cut-off.
	f.pad = max(9, int(math.Ceil(4*rateHz/cutoffHz)))
	return f, nil
}

// WithPad returns the filter with another length of odd extension at both ends,
// in samples, at least 1. SciPy's default for one section is 9.
func (f LowPass) WithPad(samples int) LowPass {
	f.pad = max(1, samples)
	return f
}

// Apply filters x into dst, which may be x itself and has its length. Both ends
// are extended oddly by the pad, shortened where the signal is. Two samples or
// fewer are copied as they are.
func (f LowPass) Apply(dst, x []float64) {
	n := len(x)
	if n < 3 {
		copy(dst, x)
		return
	}
	pad := min(f.pad, n-1)
	// Forward: over the left extension, the signal and the right extension, whose
	// outputs the way back begins with.
	right := make([]float64, pad)
	for i := range right {
		right[i] = 2*x[n-1] - x[n-2-i]
	}
	first := 2*x[0] - x[pad]
	z1, z2 := f.rest(first)
	for i := pad; i >= 1; i-- {
		_, z1, z2 = f.step(2*x[0]-x[i], z1, z2)
	}
	for i, v := range x {
		dst[i], z1, z2 = f.step(v, z1, z2)
	}
	for i, v := range right {
		right[i], z1, z2 = f.step(v, z1, z2)
	}
	z1, z2 = f.rest(right[pad-1])
	for i := pad - 1; i >= 0; i-- {
		_, z1, z2 = f.step(right[i], z1, z2)
	}
	for i := n - 1; i >= 0; i-- {
		dst[i], z1, z2 = f.step(dst[i], z1, z2)
	}
}

// step takes one sample through the transposed direct form II.
func (f *LowPass) step(x, z1, z2 float64) (y, nz1, nz2 float64) {
	y = f.b0*x + z1
	return y, f.b1*x - f.a1*y + z2, f.b2*x - f.a2*y
}

// rest is the state of a filter that has seen v for ever.
func (f *LowPass) rest(v float64) (z1, z2 float64) {
	z2 = (f.b2 - f.a2) * v
	return (f.b1-f.a1)*v + z2, z2
}

// Trapezoid returns the integral of y over samples dt apart.
func Trapezoid(y []float64, dt float64) float64 {
	sum := 0.0
	for i := 1; i < len(y); i++ {
		sum += (y[i-1] + y[i]) / 2
	}
	return sum * dt
}

// Cumulative fills dst with the running trapezoid integral of y, which begins at
// from. dst has the length of y and may be y itself.
func Cumulative(dst, y []float64, dt, from float64) {
	if len(y) == 0 {
		return
	}
	last, sum := y[0], from
	dst[0] = from
	for i := 1; i < len(y); i++ {
		v := y[i]
		sum += (last + v) / 2 * dt
		last, dst[i] = v, sum
	}
}

// Parabola returns how far the peak of three samples lies from the middle one,
// in samples, and its value. Three equal samples have no peak: then it is the
// middle one.
func Parabola(before, middle, after float64) (offset, peak float64) {
	curve := before - 2*middle + after
	if curve == 0 {
		return 0, middle
	}
	offset = (before - after) / (2 * curve)
	return offset, middle - (before-after)*offset/4
}

// Peaks returns the places of the humps of y with at least the given prominence,
// in order: local maxima, the middle of flat ones, never an end. Prominence is
// how far a hump rises above the higher of the lowest points on its two sides,
// up to the next higher sample.
func Peaks(y []float64, prominence float64) []int {
	var out []int
	for i := 1; i < len(y)-1; {
		if y[i] <= y[i-1] {
			i++
			continue
		}
		j := i
		for j+1 < len(y) && y[j+1] == y[i] {
			j++
		}
		if j+1 < len(y) && y[j+1] < y[i] {
			if p := (i + j) / 2; rises(y, p) >= prominence {
				out = append(out, p)
			}
		}
		i = j + 1
	}
	return out
}

func rises(y []float64, p int) float64 {
	left, right := y[p], y[p]
	for i := p - 1; i >= 0 && y[i] <= y[p]; i-- {
		left = math.Min(left, y[i])
	}
	for i := p + 1; i < len(y) && y[i] <= y[p]; i++ {
		right = math.Min(right, y[i])
	}
	return y[p] - math.Max(left, right)
}

// MaxRate returns the largest mean rate of rise of y over a window of the given
// number of samples, per second, and where that window starts; the first one of
// equals. It is false for signals shorter than the window.
func MaxRate(y []float64, window int, dt float64) (rate float64, start int, ok bool) {
	if window < 1 || len(y) <= window {
		return 0, 0, false
	}
	rate = math.Inf(-1)
	for i := 0; i+window < len(y); i++ {
		if r := (y[i+window] - y[i]) / (float64(window) * dt); r > rate {
			rate, start = r, i
		}
	}
	return rate, start, true
}
