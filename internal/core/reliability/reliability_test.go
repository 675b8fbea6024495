package reliability_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/reliability"
)

// Source: computed with R and SciPy on own data of ten people.
func TestTypicalErrorAndDetectableChange(t *testing.T) {
	a := []float64{34.2, 38.9, 29.7, 41.3, 36, 32.5, 45.1, 27.8, 39.4, 35.6}
	b := []float64{35, 38.1, 30.9, 42.6, 35.2, 33.9, 45.9, 28.1, 38.2, 36.7}
	te, err := reliability.TypicalError(a, b)
	require.NoError(t, err)
	assert.InDelta(t, 0.695581, te, 1e-6)
	assert.InDelta(t, 1.92802, reliability.MDC95(te), 1e-5)
	_, err = reliability.TypicalError(a, b[:9])
	assert.ErrorIs(t, err, reliability.ErrPairs)
}

// Source: Bland and Altman 1986, first readings, with the typical error computed with R.
func TestTypicalErrorOfPeakFlow(t *testing.T) {
	large1 := []float64{494, 395, 516, 434, 476, 557, 413, 442, 650, 433, 417, 656, 267, 478, 178, 423, 427}
	large2 := []float64{490, 397, 512, 401, 470, 611, 415, 431, 638, 429, 420, 633, 275, 492, 165, 372, 421}
	te, err := reliability.TypicalError(large1, large2)
	require.NoError(t, err)
	assert.InDelta(t, 15.36121, te, 1e-5)
}

// Source: side difference against error, 1.96·√2·TE (Weir 2005); the three words are ours.
func TestJudge(t *testing.T) {
	rows := []struct {
		d, te float64
		want  reliability.Verdict
	}{
		{5, 1.5, reliability.Real}, {4, 1.5, reliability.Unclear}, {1.5, 0.6, reliability.Unclear}, {2, 1.5, reliability.WithinError},
		{-5, 1.5, reliability.Real}, {0, 0.6, reliability.WithinError}, {reliability.MDC95(3), 3, reliability.Real},
	}
	for _, r := range rows {
		assert.Equal(t, r.want, reliability.Judge(r.d, r.te), "d %g te %g", r.d, r.te)
	}
}

// Source: percentage difference (hi − lo)/hi, Bishop et al. 2018.
func TestSideDifference(t *testing.T) {
	p, second, ok := reliability.SideDifference(50, 45)
	assert.True(t, ok)
	assert.True(t, second)
	assert.InDelta(t, 10, p, 1e-9)
	p, second, _ = reliability.SideDifference(42, 47)
	assert.False(t, second)
	assert.InDelta(t, 10.6383, p, 1e-4)
	_, _, ok = reliability.SideDifference(0, 0)
	assert.False(t, ok, "zero on both sides is undefined, not 0")
}
