// Package reliability says whether a difference is larger than the error of the
// test that measured it.
package reliability

import (
	"errors"
	"math"
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
// same unit: real if |d| ≥ z·√2·te, within error if |d| < √2·te, else unclear. z
// is the quantile of the chosen confidence, 1.96 for 95%. It serves sides, dates
// and golfers alike.
func Judge(d, te, z float64) Verdict {
	// A hair of tolerance keeps rounding from moving a value across a limit.
	const eps = 1e-9
	switch d = math.Abs(d); {
	case d+eps < math.Sqrt2*te:
		return WithinError
	case d+eps >= MDC(te, z):
		return Real
	default:
		return Unclear
	}
}

// ErrPairs is returned when there are too few pairs, or pairs of unequal length.
var ErrPairs = errors.New("reliability: needs two series of the same length with enough pairs")

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
