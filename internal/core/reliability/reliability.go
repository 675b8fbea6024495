// Package reliability says whether a difference is larger than the error of the
// test that measured it.
package reliability

import (
	"errors"
	"math"

	"gonum.org/v1/gonum/stat"
)

// Z95 is the two-sided 95% point of the standard normal distribution.
const Z95 = 1.959963984540054

// Verdict is how sure a difference is.
type Verdict string

// Real is at least the 95% minimal detectable change; WithinError is less than
// the error of a difference of two results; Unclear lies between.
const (
	Real        Verdict = "real"
	Unclear     Verdict = "unclear"
	WithinError Verdict = "within error"
)

// Judge returns the verdict on a difference d for a typical error te, in the
// same unit: real if |d| ≥ 1.96·√2·te, within error if |d| < √2·te, else
// unclear. It serves sides, dates and golfers alike.
func Judge(d, te float64) Verdict {
	// A hair of tolerance keeps rounding from moving a value across a limit.
	const eps = 1e-9
	switch d = math.Abs(d); {
	case d+eps < math.Sqrt2*te:
		return WithinError
	case d+eps >= MDC95(te):
		return Real
	default:
		return Unclear
	}
}

// MDC95 returns the minimal detectable change at 95%, 1.96·√2·te (Weir 2005).
func MDC95(te float64) float64 { return Z95 * math.Sqrt2 * te }

// ErrPairs is returned when there are too few pairs, or pairs of unequal length.
var ErrPairs = errors.New("reliability: needs two series of the same length with at least two pairs")

// TypicalError returns SD of the differences / √2 for two trials of the same
// people (Hopkins 2000), in the unit of the trials.
func TypicalError(first, second []float64) (float64, error) {
	if len(first) != len(second) || len(first) < 2 {
		return 0, ErrPairs
	}
	d := make([]float64, len(first))
	for i := range first {
		d[i] = second[i] - first[i]
	}
	return stat.StdDev(d, nil) / math.Sqrt2, nil
}

// SideDifference returns 100·(better − worse)/better in percent and whether
// the second side is the weaker one. ok is false when both are zero or one is
// negative: then there is no such share.
func SideDifference(first, second float64) (percent float64, secondWeaker, ok bool) {
	better, worse := math.Max(first, second), math.Min(first, second)
	if better <= 0 || worse < 0 {
		return 0, false, false
	}
	return 100 * (better - worse) / better, second < first, true
}
