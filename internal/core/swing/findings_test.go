package swing_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/force"
	"dunnock/internal/core/jump"
	"dunnock/internal/core/swing"
	"dunnock/internal/core/twoplates"
)

func read(t *testing.T, s twoplates.Swing) *swing.Result {
	t.Helper()
	r, truth := s.Make(noise(2))
	got, err := swing.Analyse(r, swing.Settings{TopS: &truth.TopS})
	require.NoError(t, err)
	return got
}

// A swing in its windows has no findings; one that pushes late and little has
// one for its size and others that follow it.
func TestFindings(t *testing.T) {
	w := swing.Windows()
	for _, x := range append(w, jump.Windows()...) {
		assert.Contains(t, x.Source, "common practice, from memory", x.Key)
		assert.Less(t, x.Low, x.High, x.Key)
		assert.Contains(t, []string{"speed", "repeatability", "load on the body"}, x.Purpose)
	}
	bw := 80 * force.G
	good := read(t, twoplates.SwingOf(80, 0.2*bw, 0.7*80, 0.7*bw, 0.14, 0.105, 0.07, 0.035))
	assert.Empty(t, force.Find(w, good.Values()), "%+v", good.Values())

	late := read(t, twoplates.SwingOf(80, 0.06*bw, 0.7*80, 0.2*bw, 0.14, 0.105, 0.03, 0.05))
	found := force.Find(w, late.Values())
	require.NotEmpty(t, found)
	keys := map[string]force.Finding{}
	order := map[string]int{}
	for i, f := range found {
		keys[f.Key], order[f.Key] = f, i
	}
	assert.Contains(t, keys["lateral"].Training, "Lateral bounds")
	assert.Contains(t, keys["vertical"].Training, "fast drop")
	assert.Equal(t, "Vertical peak: low", keys["rate"].Recheck)
	assert.Greater(t, order["rate"], order["vertical"], "what goes with another one comes after it")
	assert.Contains(t, keys["vertical"].Sentence, "against 1.50 to 2.20")
	assert.True(t, keys["lateral"].Far)

	own := force.Own(w, map[string][2]float64{"lateral": {0.01, 0.5}, "nonsense": {1, 2}})
	assert.Len(t, own, len(w))
	for _, f := range force.Find(own, late.Values()) {
		assert.NotEqual(t, "lateral", f.Key, "the practice's own window")
	}
}

func TestAnswers(t *testing.T) {
	s := twoplates.UsualSwing()
	first := read(t, s)
	a := first.Answers(swing.Windows(), nil)
	require.Len(t, a, 4)
	assert.Equal(t, []string{"When", "Where", "How much", "How it builds"}, []string{a[0].Question, a[1].Question, a[2].Question, a[3].Question})
	assert.Contains(t, a[0].Sentence, "the usual order")
	assert.Contains(t, a[0].Window, "lateral peak 95–210 ms")
	assert.Contains(t, a[1].Sentence, "80% at impact")
	assert.Contains(t, a[2].Sentence, "Lateral 1")
	assert.Equal(t, "No earlier swing to compare with.", a[0].Baseline)
	b := swing.Baseline([]*swing.Result{first, first})
	a = first.Answers(swing.Windows(), b)
	assert.Contains(t, a[0].Baseline, "Own 2 earlier swings: lateral peak 1")
	assert.Contains(t, a[0].Baseline, "± 0 ms")
	assert.InDelta(t, first.Lateral.Peak, b.Best["lateralN"], 1e-9)
	assert.Nil(t, swing.Baseline(nil))

	other := read(t, twoplates.SwingOf(80, 150, 55, 520, 0.07, 0.105, 0.14, 0.03))
	assert.Contains(t, other.Answers(swing.Windows(), b)[0].Sentence, "not the usual order")
}

// Several swings make a band; another day leaves it where it differs.
func TestBandAndOverlay(t *testing.T) {
	var a, b [][]float64
	for i := range 4 {
		k := float64(i) / 100
		a = append(a, read(t, twoplates.SwingOf(80, 150*(1+k), 55, 520, 0.14, 0.105, 0.07, 0.035)).Normalise().Lateral)
		b = append(b, read(t, twoplates.SwingOf(80, 200*(1+k), 55, 520, 0.14, 0.105, 0.07, 0.035)).Normalise().Lateral)
	}
	first, second := swing.BandOf(append(a, nil)), swing.BandOf(b)
	assert.Equal(t, 4, first.Swings)
	require.Len(t, first.Mean, swing.Points)
	peak := 150 // of the common time: 0.14 s before impact is half of the downswing
	assert.InDelta(t, 150*1.015/(80*force.G), first.Mean[peak], 0.004)
	assert.InDelta(t, 1.3, first.CVPct[peak], 0.7, "four swings 1% apart")
	assert.GreaterOrEqual(t, first.LargestCVPct, first.CVPct[peak])
	assert.Less(t, first.MeanCVPct, first.LargestCVPct)
	o := swing.Lay(first, second)
	assert.InDelta(t, 50.0/(80*force.G), o.Difference[peak], 0.006)
	require.NotEmpty(t, o.Leaves)
	within := false
	for _, s := range o.Leaves {
		within = within || s.From <= peak && s.To >= peak
		assert.Contains(t, s.Text, " to ")
	}
	assert.True(t, within)
	assert.Nil(t, swing.BandOf([][]float64{nil}))
	assert.Nil(t, swing.Lay(nil, first))
	assert.Empty(t, swing.Lay(swing.BandOf(a[:1]), second).Leaves, "one swing has no band")
}

// Source: ratio after McGuigan et al. (2006), augmentation after Walshe et al.
// (1996): 40 over 36 is 1.11111 and 11.1111%.
func TestCompareJumps(t *testing.T) {
	for _, r := range [][4]float64{{40, 36, 1.11111, 11.1111}, {33.5, 32, 1.04688, 4.6875}, {30, 31, 0.96774, -3.2258}} {
		c, ok := jump.Compare(r[0]/100, r[1]/100)
		require.True(t, ok)
		assert.InDelta(t, r[2], c.Ratio, 1e-5)
		assert.InDelta(t, r[3], c.AugmentationPct, 1e-4)
	}
	_, ok := jump.Compare(0.3, 0)
	assert.False(t, ok)
}
