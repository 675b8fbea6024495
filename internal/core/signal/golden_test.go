package signal_test

import (
	"encoding/json"
	"math"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/signal"
)

// pushTrace is the signal of testdata/golden.py.
func pushTrace(n int, rate float64) []float64 {
	y := make([]float64, n)
	bell := func(t, at, width float64) float64 { return math.Exp(-(t - at) / width * (t - at) / width) }
	for i := range y {
		t := float64(i) / rate
		y[i] = 780 + 3*math.Sin(2*math.Pi*50*t) + 0.7*math.Sin(2*math.Pi*211*t) - 400*bell(t, 0.5, 0.08) + 1100*bell(t, 0.8, 0.09)
		if i >= int(0.95*rate) && i < int(1.3*rate) {
			y[i] = 0
		}
	}
	return y
}

// Source: SciPy, whose version stands in the file; testdata/golden.py makes it.
func TestGolden(t *testing.T) {
	b, err := os.ReadFile("testdata/golden.json")
	require.NoError(t, err)
	var g struct {
		Filters []struct {
			Rate, Cutoff float64
			Pad, Every   int
			Values       []float64
		}
		Integrals []struct {
			Rate, Total float64
			Every       int
			Running     []float64
		}
		Peaks []struct {
			Rate, Prominence float64
			At               []int
		}
		Fits []struct {
			Half, At     int
			Place, Value float64
		}
	}
	require.NoError(t, json.Unmarshal(b, &g))
	require.Len(t, g.Filters, 18)
	for _, c := range g.Filters {
		x := pushTrace(int(1.6*c.Rate), c.Rate)
		f, err := signal.NewLowPass(c.Cutoff, c.Rate)
		require.NoError(t, err)
		f.WithPad(c.Pad).Apply(x, x)
		for k, want := range c.Values {
			assert.InDelta(t, want, x[k*c.Every], 1e-7, "%g Hz at %g Hz, pad %d, sample %d", c.Cutoff, c.Rate, c.Pad, k*c.Every)
		}
	}
	for _, c := range g.Integrals {
		x := pushTrace(int(1.6*c.Rate), c.Rate)
		assert.InDelta(t, c.Total, signal.Trapezoid(x, 1/c.Rate), 1e-9*math.Abs(c.Total))
		run := make([]float64, len(x))
		signal.Cumulative(run, x, 1/c.Rate, 0)
		for k, want := range c.Running {
			assert.InDelta(t, want, run[k*c.Every], 1e-8)
		}
	}
	for _, c := range g.Peaks {
		assert.Equal(t, c.At, signal.Peaks(pushTrace(int(1.6*c.Rate), c.Rate), c.Prominence), "prominence %g at %g Hz", c.Prominence, c.Rate)
	}
	x := pushTrace(1600, 1000)
	f, err := signal.NewLowPass(40, 1000)
	require.NoError(t, err)
	f.WithPad(9).Apply(x, x)
	for _, c := range g.Fits {
		place, value := signal.Summit(x, c.At, c.Half)
		assert.InDelta(t, c.Place, place, 1e-6, "half %d", c.Half)
		assert.InDelta(t, c.Value, value, 1e-6, "half %d", c.Half)
	}
}
