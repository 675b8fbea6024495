package capture_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/capture"
	"dunnock/internal/core/force"
	"dunnock/internal/core/jump"
	"dunnock/internal/core/twoplates"
)

var jumpNames = []string{"Fz_lead", "Fz_trail"}

func rows(r *force.Recording) [][]float64 {
	out := make([][]float64, r.Len())
	for i := range out {
		out[i] = []float64{r.Lead.UpN[i], r.Trail.UpN[i]}
	}
	return out
}

// A jump is noticed, cut out and reads as it was made, whatever order its
// samples came in.
func TestJumpIsCaptured(t *testing.T) {
	r, truth := twoplates.Usual().Make(twoplates.Noise{SDN: 2, Normal: rand.New(rand.NewPCG(1, 1)).NormFloat64})
	c, err := capture.New(1000, jumpNames, false)
	require.NoError(t, err)
	assert.Equal(t, capture.Empty, c.State())
	seen := map[capture.State]bool{}
	seq := int64(100)
	add := func(v []float64) { seen[c.Add(seq, v)] = true; seq++ }
	for range 500 {
		add([]float64{0, 0})
	}
	for i, v := range rows(r) {
		if i == 300 || i == 301 { // missing
			seq++
			continue
		}
		if i == 310 { // overtaken by the next one
			c.Add(seq+1, rows(r)[311])
			c.Add(seq, v)
			seq += 2
			continue
		}
		if i == 311 {
			continue
		}
		add(v)
		if i == 320 { // twice
			c.Add(seq-1, v)
		}
		if c.State() == capture.Complete {
			break
		}
	}
	for range 2000 {
		if c.State() != capture.Complete {
			add([]float64{392, 392})
		}
	}
	for _, s := range []capture.State{capture.Empty, capture.Waiting, capture.Armed, capture.Recording, capture.Complete} {
		assert.True(t, seen[s], s)
	}
	assert.Equal(t, 1, c.Health().Late)
	assert.Equal(t, 1, c.Health().Duplicates)
	assert.Equal(t, 2, c.Health().Missing)
	assert.Len(t, c.Recent(0.5), 500)
	trial, ok := c.Take()
	require.True(t, ok)
	_, again := c.Take()
	assert.False(t, again, "once")
	holes := 0
	for _, v := range trial.Channels[0] {
		if math.IsNaN(v) {
			holes++
		}
	}
	rec, err := force.Gather(
		[]force.Plate{{Place: force.Lead, Force: [3][]float64{nil, nil, trial.Channels[0]}}, {Place: force.Trail, Force: [3][]float64{nil, nil, trial.Channels[1]}}},
		force.Frame{},
		force.RightSided,
		trial.RateHz,
	)
	require.NoError(t, err)
	got, err := jump.Analyse(rec, jump.Settings{})
	require.NoError(t, err)
	require.NotNil(t, got.JumpHeightM)
	assert.InDelta(t, truth.HeightM, *got.JumpHeightM, 0.01)
	assert.LessOrEqual(t, holes, 2)
}

func TestSwingIsCapturedByItsImpact(t *testing.T) {
	c, err := capture.New(500, []string{"Fz_lead", "Fz_trail", "impact"}, true)
	require.NoError(t, err)
	for i := range 3000 {
		mark := 0.0
		if i >= 2000 && i < 2005 {
			mark = 1
		}
		if c.Add(int64(i), []float64{400, 390, mark}) == capture.Complete {
			break
		}
	}
	trial, ok := c.Take()
	require.True(t, ok)
	assert.InDelta(t, 3*500+1.4*500, len(trial.Channels[0]), 2)
	assert.Equal(t, 1.0, trial.Channels[2][1500], "impact three seconds in")
	_, err = capture.New(500, jumpNames, true)
	assert.ErrorContains(t, err, "impact")
	_, err = capture.New(500, []string{"Tz"}, false)
	assert.ErrorContains(t, err, "vertical")
	_, err = capture.New(0, jumpNames, false)
	assert.ErrorContains(t, err, "rate")
}

// Standing for minutes holds no more than what may be needed; nonsense is
// counted; a clock that begins anew is a new beginning.
func TestLongWait(t *testing.T) {
	c, err := capture.New(1000, jumpNames, false)
	require.NoError(t, err)
	for i := range 100_000 {
		c.Add(int64(i), []float64{400, 400})
	}
	assert.Equal(t, capture.Armed, c.State())
	assert.LessOrEqual(t, len(c.Recent(1e6)), 12_001)
	c.Add(100_000, []float64{math.NaN(), 400})
	c.Add(100_001, []float64{1e9, 400})
	assert.Equal(t, 2, c.Health().Impossible)
	c.Add(900_000, []float64{0, 0})
	assert.Equal(t, capture.Empty, c.State())
	assert.Zero(t, c.Force())
	// Plates that were switched off and on count from nought again.
	for i := range 2000 {
		c.Add(int64(i), []float64{400, 400})
	}
	assert.Equal(t, capture.Armed, c.State())
	assert.Zero(t, c.Health().Duplicates)
}

// What a stream may make the server hold is bounded.
func TestManyChannels(t *testing.T) {
	names := make([]string, 33)
	for i := range names {
		names[i] = fmt.Sprintf("Fz_%d", i)
	}
	_, err := capture.New(1000, names, false)
	assert.ErrorContains(t, err, "at most 32")
}
