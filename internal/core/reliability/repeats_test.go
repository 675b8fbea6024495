package reliability_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/reliability"
)

var (
	jump1 = []float64{34.2, 38.9, 29.7, 41.3, 36, 32.5, 45.1, 27.8, 39.4, 35.6}
	jump2 = []float64{35, 38.1, 30.9, 42.6, 35.2, 33.9, 45.9, 28.1, 38.2, 36.7}
)

// Source: ten pairs of jump heights, every figure computed with SciPy 1.10.1
// and a second time with R (psych 2.2.9).
func TestFromPairs(t *testing.T) {
	r, err := reliability.FromPairs(jump1, jump2)
	require.NoError(t, err)
	for name, x := range map[string][2]float64{
		"mean change": {0.41, r.MeanChange}, "change low": {-0.2937, r.ChangeCI.Low}, "change high": {1.1137, r.ChangeCI.High},
		"sd of differences": {0.983700, r.SDDiff}, "typical error": {0.695581, r.TypicalError},
		"error low": {0.4784, r.ErrorCI.Low}, "error high": {1.2699, r.ErrorCI.High},
		"grand mean": {36.255, r.Mean}, "cv": {1.91858, r.CV},
		"icc11": {0.981201, r.ICC11}, "icc21": {0.981213, r.ICC21}, "icc31": {0.982480, r.ICC31},
		"pooled sd": {5.25510, r.Between}, "worthwhile": {1.05102, r.Worthwhile},
		"mdc90": {1.61804, reliability.MDC(r.TypicalError, 1.6448536269514722)}, "mdc95": {1.92802, reliability.MDC(r.TypicalError, reliability.Z95)},
	} {
		assert.InDelta(t, x[0], x[1], 6e-5, name)
	}
	// The identity behind "SEM = typical error": pooled SD·√(1 − ICC(3,1)).
	assert.InDelta(t, r.TypicalError, r.Between*math.Sqrt(1-r.ICC31), 1e-9)
	assert.Empty(t, r.Outliers)
	_, err = reliability.FromPairs(jump1, jump2[:9])
	assert.ErrorIs(t, err, reliability.ErrPairs)
	_, err = reliability.FromPairs(jump1[:2], jump2[:2])
	assert.ErrorIs(t, err, reliability.ErrPairs)
}

func TestErrorIntervalAt90(t *testing.T) {
	ci := reliability.ErrorInterval(0.695581, 9, 0.90) // SciPy 1.10.1
	assert.InDelta(t, 0.5073, ci.Low, 1e-4)
	assert.InDelta(t, 1.1444, ci.High, 1e-4)
}

// Source: Bland and Altman 1986, Lancet i:307-310, first readings of both
// meters; the printed summary in brackets.
func TestLimitsOfAgreement(t *testing.T) {
	large := []float64{494, 395, 516, 434, 476, 557, 413, 442, 650, 433, 417, 656, 267, 478, 178, 423, 427}
	mini := []float64{512, 430, 520, 428, 500, 600, 364, 380, 658, 445, 432, 626, 260, 477, 259, 350, 451}
	r, err := reliability.FromPairs(mini, large)
	require.NoError(t, err)
	assert.InDelta(t, -2.117647, r.MeanChange, 1e-6) // −2.1
	assert.InDelta(t, 38.765130, r.SDDiff, 1e-6)     // 38.8
	assert.InDelta(t, -78.09591, r.Limits.Low, 1e-5)
	assert.InDelta(t, 73.86061, r.Limits.High, 1e-5)
	assert.InDelta(t, -22.04884, r.ChangeCI.Low, 1e-5) // −22.0
	assert.InDelta(t, 17.81354, r.ChangeCI.High, 1e-5) // 17.8
	// The half width of a limit's interval does not depend on ±2 or ±1.96.
	assert.InDelta(t, (-45.1261+114.1697)/2, (r.LowerCI.High-r.LowerCI.Low)/2, 1e-4)
	assert.InDelta(t, (109.9344-40.8908)/2, (r.UpperCI.High-r.UpperCI.Low)/2, 1e-4)
	assert.Equal(t, []int{14}, r.Outliers, "one person lies below the lower limit")
}

// Source: Shrout and Fleiss 1979, Psychol Bull 86(2):420-428, six targets and
// four judges; mean squares and correlations as printed, more digits from R.
func TestICCs(t *testing.T) {
	got, err := reliability.ICCs([][]float64{{9, 6, 8, 7, 10, 6}, {2, 1, 4, 1, 5, 2}, {5, 3, 6, 2, 6, 4}, {8, 2, 8, 6, 9, 7}})
	require.NoError(t, err)
	for name, x := range map[string][2]float64{
		"BMS": {11.241667, got.BMS}, "WMS": {6.263889, got.WMS}, "JMS": {32.486111, got.JMS}, "EMS": {1.019444, got.EMS},
		"(1,1)": {0.1657418, got.OneWay}, "(2,1)": {0.2897638, got.Agreement}, "(3,1)": {0.7148407, got.Consistency},
	} {
		assert.InDelta(t, x[0], x[1], 1e-6, name)
	}
	_, err = reliability.ICCs([][]float64{{1, 2}, {1}})
	require.ErrorIs(t, err, reliability.ErrPairs)
	same, err := reliability.ICCs([][]float64{{3, 3, 3}, {3, 3, 3}})
	require.NoError(t, err)
	assert.Zero(t, same.Consistency, "nobody differs: no correlation, and no division by zero")
}

// Source: method of Hopkins 2004, Sportscience 8:1-7; rows computed with SciPy.
func TestChanceOf(t *testing.T) {
	for _, r := range []struct{ te, change, swc, up, trivial, down, low, high float64 }{
		{1, 3.5, 1.2, 0.94806, 0.05149, 0.00044, 0.7282, 6.2718},
		{1, 1.5, 1.2, 0.58400, 0.38788, 0.02812, -1.2718, 4.2718},
		{0.8, -0.5, 0.6, 0.16546, 0.36976, 0.46478, -2.7174, 1.7174},
		{1.2, 0, 1, 0.27784, 0.44431, 0.27784, -3.3262, 3.3262},
	} {
		c := reliability.ChanceOf(r.change, r.te, r.swc, reliability.Z95)
		assert.InDeltaSlice(t, []float64{r.up, r.trivial, r.down, r.low, r.high}, []float64{c.Up, c.Trivial, c.Down, c.CI.Low, c.CI.High}, 6e-5)
	}
}

// Worked by hand on five shots with SD 1.5811 and the t and χ² quantiles of 4
// degrees of freedom from SciPy (2.776445; 0.484419, 11.143287).
func TestSpreadOf(t *testing.T) {
	s, err := reliability.SpreadOf([]float64{1, 2, 3, 4, 5})
	require.NoError(t, err)
	assert.InDelta(t, 1.581139, s.SD, 1e-6)
	assert.InDelta(t, 3-2.776445*1.581139/math.Sqrt(5), s.MeanCI.Low, 1e-5)
	assert.InDelta(t, 1.581139*math.Sqrt(4/11.143287), s.SDCI.Low, 1e-5)
	assert.InDelta(t, 1.581139*math.Sqrt(4/0.484419), s.SDCI.High, 1e-4)
	_, err = reliability.SpreadOf([]float64{1})
	assert.ErrorIs(t, err, reliability.ErrPairs)
}
