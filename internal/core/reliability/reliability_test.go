package reliability_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"dunnock/internal/core/reliability"
)

// Source: side difference against error, 1.96·√2·TE (Weir 2005); the three words are ours.
func TestJudge(t *testing.T) {
	rows := []struct {
		d, te float64
		want  reliability.Verdict
	}{
		{5, 1.5, reliability.Real}, {4, 1.5, reliability.Unclear}, {1.5, 0.6, reliability.Unclear}, {2, 1.5, reliability.WithinError},
		{-5, 1.5, reliability.Real}, {0, 0.6, reliability.WithinError}, {reliability.MDC(3, reliability.Z95), 3, reliability.Real},
	}
	for _, r := range rows {
		assert.Equal(t, r.want, reliability.Judge(r.d, r.te, reliability.Z95), "d %g te %g", r.d, r.te)
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
