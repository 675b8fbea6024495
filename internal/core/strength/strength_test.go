package strength_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/strength"
)

// Source: "percent of the 1RM and repetitions allowed", Essentials of Strength
// Training and Conditioning; the readings between rows are our convention, with
// values computed with SciPy.
func TestPercentFollowsThePrintedTable(t *testing.T) {
	for r, want := range map[float64]float64{
		0: 100, 1: 100, 2: 95, 3: 93, 4: 90, 5: 87, 6: 85, 7: 83, 8: 80, 9: 77, 10: 75, 11: 70, 12: 67, 15: 65,
		4.5: 88.5, 6.5: 84, 7.5: 81.5, 10.5: 72.5, 13: 66.33333333, 14: 65.66666667,
	} {
		got, err := strength.Percent(r)
		require.NoError(t, err)
		assert.InDelta(t, want, got, 1e-6, "r = %g", r)
	}
	for _, r := range []float64{15.1, 40, math.NaN()} {
		_, err := strength.Percent(r)
		assert.ErrorIs(t, err, strength.ErrReps)
	}
}

// Source: the published equations, computed with SciPy.
func TestEquationsAgainstPublishedFactors(t *testing.T) {
	rows := []struct {
		w, r float64
		want [6]float64
	}{
		{100, 3, [6]float64{110.0000, 105.8824, 107.1969, 108.9797, 113.9903, 107.5000}},
		{100, 5, [6]float64{116.6667, 112.5000, 113.7089, 116.5825, 119.0107, 112.5000}},
		{82.5, 6, [6]float64{99.0000, 95.8065, 96.7485, 99.2727, 100.2151, 94.8750}},
		{140, 4, [6]float64{158.6667, 152.7273, 154.4997, 157.9137, 163.1216, 154.0000}},
		{60, 12, [6]float64{84.0000, 86.4000, 86.6486, 84.8975, 81.2391, 78.0000}},
	}
	for _, row := range rows {
		for i, e := range strength.Equations {
			got, err := e.Predict(row.w, row.r)
			require.NoError(t, err)
			assert.InDelta(t, row.want[i], got, 1e-4, "%s %g x %g", e.Name, row.w, row.r)
		}
	}
	lo, hi, err := strength.Range(100, 5)
	require.NoError(t, err)
	assert.InDelta(t, 112.5, lo, 1e-4)
	assert.InDelta(t, 119.0107, hi, 1e-4)
	_, err = strength.Equations[1].Predict(50, 37)
	assert.ErrorIs(t, err, strength.ErrReps)
	single, _ := strength.Equations[0].Predict(120, 1)
	assert.Equal(t, 120.0, single, "a true single is the maximum itself")
}

// Source: the printed table, computed with SciPy.
func TestLoadAndPlates(t *testing.T) {
	rows := []struct{ oneRM, reps, rir, raw, down float64 }{
		{100, 5, 2, 83, 82.5}, {100, 3, 3, 85, 85}, {142.5, 4, 2, 121.125, 120}, {85, 8, 2, 63.75, 62.5}, {60, 6, 3, 46.2, 45},
	}
	for _, r := range rows {
		got, err := strength.Load(r.oneRM, r.reps, r.rir)
		require.NoError(t, err)
		assert.InDelta(t, r.raw, got, 1e-9)
		assert.Equal(t, r.down, strength.RoundDown(got, 20, 2.5))
	}
	for target, want := range map[float64]float64{101.25: 100, 98.7: 97.5, 61.2: 60, 19: 20} {
		assert.Equal(t, want, strength.RoundDown(target, 20, 2.5))
	}
	assert.Equal(t, 132.0, strength.RoundDown(132.4, 20, 1))
	assert.Equal(t, 185.0, strength.RoundDown(187, 45, 5))
}

func TestATestedSetComesBackUnchanged(t *testing.T) {
	for reps := 1.0; reps <= 10; reps++ {
		for rir := 0.0; rir <= 5; rir++ {
			one, err := strength.PredictTable(92.5, reps+rir)
			require.NoError(t, err)
			back, err := strength.Load(one, reps, rir)
			require.NoError(t, err)
			assert.InDelta(t, 92.5, back, 1e-9)
		}
	}
}

func ExampleLoad() {
	one, _ := strength.PredictTable(100, 5+2) // 100 kg for five with two left
	kg, _ := strength.Load(one, 5, 3)
	fmt.Printf("1RM %.1f kg, five with three left: %.1f kg", one, strength.RoundDown(kg, 25, 2.5))
	// Output: 1RM 120.5 kg, five with three left: 95.0 kg
}

// Mechanics, F = m·v²/R; rows computed with SciPy (0.200 kg; N).
func TestOutwardPull(t *testing.T) {
	for _, r := range []struct{ v, radius, want float64 }{{44.7040, 1.7, 235.11}, {51.4096, 1.7, 310.93}, {51.4096, 1.9, 278.20}, {53.6448, 1.8, 319.75}} {
		assert.InDelta(t, r.want, strength.OutwardPull(0.2, r.v, r.radius), 0.006)
	}
}

// Six equations of one set beside each other; row w = 82.5, r = 6 computed with
// SciPy.
func TestCompare(t *testing.T) {
	got, err := strength.Compare(82.5, 6)
	require.NoError(t, err)
	want := map[string]float64{"Epley": 99.0, "Brzycki": 95.8065, "Lander": 96.7485, "Wathan": 99.2727, "Mayhew": 100.2151, "O'Conner": 94.875}
	require.Len(t, got, 6)
	for _, p := range got {
		assert.InDelta(t, want[p.Name], p.OneRM, 1e-4, p.Name)
		assert.NotEmpty(t, p.Source)
	}
	_, err = strength.Compare(80, 37)
	assert.ErrorIs(t, err, strength.ErrReps)
}
