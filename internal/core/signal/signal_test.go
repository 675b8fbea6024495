package signal_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/signal"
)

func filter(t *testing.T, cutoff, rate float64, pad int, x []float64) []float64 {
	t.Helper()
	f, err := signal.NewLowPass(cutoff, rate)
	require.NoError(t, err)
	if pad > 0 {
		f = f.WithPad(pad)
	}
	y := make([]float64, len(x))
	f.Apply(y, x)
	return y
}

func step(n, at int) []float64 {
	x := make([]float64, n)
	for i := at; i < n; i++ {
		x[i] = 1
	}
	return x
}

// Source: scipy.signal.sosfiltfilt 1.10.1 with its default padding of 9, order 2
// run twice, the cut-off raised by 1/0.802243263; 1,000 Hz.
func TestStepAgainstSciPy(t *testing.T) {
	for cutoff, want := range map[float64]map[int]float64{
		10: {0: 0.088722526, 5: 0.162643398, 15: 0.372486210, 19: 0.471054150, 20: 0.495694578, 30: 0.704259090, 40: 0.803377167},
		20: {0: -0.032255108, 8: 0.040591795, 19: 0.471537186, 20: 0.526620265, 32: 0.976350900, 40: 1.039088276},
		50: {0: 0.001637333, 11: -0.034911201, 19: 0.431965781, 20: 0.568034207, 28: 1.034910810, 40: 0.998482145},
	} {
		y := filter(t, cutoff, 1000, 9, step(41, 20))
		for n, v := range want {
			assert.InDelta(t, v, y[n], 1.5e-9, "%g Hz, sample %d", cutoff, n)
		}
	}
	y := filter(t, 20, 1000, 9, step(800, 400))
	for n, v := range map[int]float64{360: -0.001994520, 395: 0.266938008, 400: 0.527594150, 410: 0.938264729, 440: 1.001181298} {
		assert.InDelta(t, v, y[n], 1.5e-9, "long step, sample %d", n)
	}
}

// Source: the same library on 700 + 0.8n + 60·sin(2π·12n/1000) +
// 15·sin(2π·120n/1000).
func TestSumOfSinesAgainstSciPy(t *testing.T) {
	x := make([]float64, 80)
	for n := range x {
		x[n] = 700 + 0.8*float64(n) + 60*math.Sin(2*math.Pi*12*float64(n)/1000) + 15*math.Sin(2*math.Pi*120*float64(n)/1000)
	}
	for cutoff, want := range map[float64]map[int]float64{
		10: {0: 706.025461527, 25: 753.113266447, 60: 713.751682068, 75: 713.825211016},
		20: {0: 700.731428479, 20: 772.562618114, 55: 696.974212286},
		50: {0: 699.747762066, 40: 738.664955010, 75: 725.311486529},
	} {
		y := filter(t, cutoff, 1000, 9, x)
		for n, v := range want {
			assert.InDelta(t, v, y[n], 1e-6, "%g Hz, sample %d", cutoff, n)
		}
	}
}

// The stated cut-off is the one of the final result: gain after both passes, as
// computed for the raised cut-off (0.7073 at 10 Hz, 0.7109 at 50 Hz; 0.1307 at
// twice 10 Hz).
func TestGainAtTheCutOff(t *testing.T) {
	gain := func(cutoff, at float64) float64 {
		x := make([]float64, 6000)
		for i := range x {
			x[i] = math.Sin(2 * math.Pi * at * float64(i) / 1000)
		}
		y := filter(t, cutoff, 1000, 0, x)
		top := 0.0
		for _, v := range y[2000:4000] {
			top = math.Max(top, math.Abs(v))
		}
		return top
	}
	assert.InDelta(t, 0.70726, gain(10, 10), 2e-4)
	assert.InDelta(t, 0.71092, gain(50, 50), 2e-3)
	assert.InDelta(t, 0.13074, gain(10, 20), 5e-4)
	assert.InDelta(t, 0.97481, gain(10, 5), 2e-4)
}

func TestFilterKeepsWhatIsStraight(t *testing.T) {
	x := make([]float64, 300)
	for i := range x {
		x[i] = 800 + 0.3*float64(i)
	}
	assert.InDeltaSlice(t, x, filter(t, 40, 1000, 0, x), 1e-9, "a line goes through unchanged, to its ends")
	f, err := signal.NewLowPass(40, 1000)
	require.NoError(t, err)
	same := append([]float64(nil), x...)
	f.Apply(same, same)
	assert.InDeltaSlice(t, x, same, 1e-9, "in place too")
	for _, n := range []int{0, 1, 2, 3, 5} {
		short := make([]float64, n)
		f.Apply(short, short)
	}
	for _, bad := range [][2]float64{{0, 1000}, {-5, 1000}, {400, 1000}, {50, 0}, {math.NaN(), 1000}, {50, math.Inf(1)}} {
		_, err := signal.NewLowPass(bad[0], bad[1])
		assert.ErrorIs(t, err, signal.ErrInput, "%v", bad)
	}
}

// Source: rows computed with SciPy 1.10.1.
func TestTrapezoid(t *testing.T) {
	assert.InDelta(t, 11, signal.Trapezoid([]float64{0, 1, 4, 9, 16}, 0.5), 1e-12)
	sine := make([]float64, 11)
	recip := make([]float64, 9)
	for k := range sine {
		sine[k] = math.Sin(math.Pi * float64(k) / 10)
	}
	for k := range recip {
		recip[k] = 1 / (1 + float64(k)/8)
	}
	assert.InDelta(t, 0.63137515, signal.Trapezoid(sine, 0.1), 1e-8)
	assert.InDelta(t, 0.69412185, signal.Trapezoid(recip, 0.125), 1e-8)
	run := make([]float64, 5)
	signal.Cumulative(run, []float64{0, 1, 4, 9, 16}, 0.5, 2)
	assert.Equal(t, []float64{2, 2.25, 3.5, 6.75, 13}, run)
	signal.Cumulative(nil, nil, 1, 0)
}

// Source: three-point parabola, textbook; rows computed with SciPy.
func TestParabola(t *testing.T) {
	for _, r := range [][5]float64{{812.4, 815.9, 814.1, 0.1603774, 815.96816038}, {9, 10, 9, 0, 10}, {5, 5.2, 5.2, 0.5, 5.225}, {0.99749499, 0.99978376, 0.9995736, 0.4158998, 0.99999989}} {
		offset, peak := signal.Parabola(r[0], r[1], r[2])
		assert.InDelta(t, r[3], offset, 1e-6)
		assert.InDelta(t, r[4], peak, 1e-7)
	}
	offset, peak := signal.Parabola(3, 3, 3)
	assert.Zero(t, offset)
	assert.Equal(t, 3.0, peak)
}

// Source: scipy.signal.find_peaks.
func TestPeaks(t *testing.T) {
	y := []float64{0, 1, 3, 2, 1, 2, 5, 4, 2, 3, 4, 6, 3, 1, 2, 1, 0}
	for prominence, want := range map[float64][]int{0: {2, 6, 11, 14}, 2: {2, 6, 11}, 3: {6, 11}, 4: {11}} {
		assert.Equal(t, want, signal.Peaks(y, prominence), "prominence %g", prominence)
	}
	assert.Equal(t, []int{2, 5}, signal.Peaks([]float64{0, 2, 2, 2, 0, 1, 0}, 0))
	assert.Empty(t, signal.Peaks([]float64{5, 4, 3, 3, 3}, 0))
	assert.Empty(t, signal.Peaks([]float64{1, 2, 2}, 0), "an end is no peak, nor is what stays flat up to it")
}

// Source: F₀ + F_m(1 − e^(−t/τ)) and an S-shaped rise, windows computed with
// SciPy.
func TestMaxRate(t *testing.T) {
	y := make([]float64, 400)
	s := make([]float64, 401)
	for i := range y {
		y[i] = 200 + 1500*(1-math.Exp(-float64(i)/1000/0.08))
	}
	for i := range s {
		s[i] = 800 + 1200/(1+math.Exp(-(float64(i)/1000-0.150)/0.025))
	}
	rate, start, ok := signal.MaxRate(y, 20, 0.001)
	require.True(t, ok)
	assert.InDelta(t, 16589.9413, rate, 1e-3)
	assert.Zero(t, start)
	rate, start, _ = signal.MaxRate(s, 20, 0.001)
	assert.InDelta(t, 11842.5192, rate, 1e-3)
	assert.Equal(t, 140, start)
	rate, start, _ = signal.MaxRate(s, 5, 0.001)
	assert.InDelta(t, 11988.8141, rate, 1e-3)
	assert.Equal(t, 147, start)
	_, _, ok = signal.MaxRate(s[:5], 5, 0.001)
	assert.False(t, ok)
}

func BenchmarkLowPass(b *testing.B) {
	f, _ := signal.NewLowPass(40, 1000)
	x := make([]float64, 4000)
	for i := range x {
		x[i] = rand.Float64()
	}
	y := make([]float64, len(x))
	b.ReportAllocs()
	for b.Loop() {
		f.Apply(y, x)
	}
}

// Filtering together is filtering one by one.
func TestBank(t *testing.T) {
	f, err := signal.NewLowPass(40, 1000)
	require.NoError(t, err)
	var bank signal.Bank
	for _, n := range []int{2, 3, 50, 400} {
		for _, channels := range []int{1, 3, 4, 6} {
			var want, got [][]float64
			for range channels {
				x := make([]float64, n)
				for i := range x {
					x[i] = 800 * rand.Float64()
				}
				y := make([]float64, n)
				f.Apply(y, x)
				want, got = append(want, y), append(got, x)
			}
			bank.Apply(f, got...)
			for k := range want {
				assert.InDeltaSlice(t, want[k], got[k], 1e-9, "%d samples, channel %d of %d", n, k, channels)
			}
		}
	}
	bank.Apply(f)
}

func TestQuietest(t *testing.T) {
	y := make([]float64, 300)
	for i := range y {
		y[i] = 850 + 20*math.Sin(float64(i)/7)
		if i >= 120 && i < 170 {
			y[i] = 780 + float64(i%2)
		}
	}
	l, ok := signal.Quietest(y, 0, len(y), 50, 0, 1e9)
	require.True(t, ok)
	assert.Equal(t, 120, l.From)
	assert.Equal(t, 170, l.To)
	assert.InDelta(t, 780.5, l.Mean, 1e-9)
	assert.InDelta(t, signal.LevelOf(y, 120, 170).SD, l.SD, 1e-9)
	_, ok = signal.Quietest(y, 0, 20, 50, 0, 1e9)
	assert.False(t, ok, "too short")
	_, ok = signal.Quietest(y, 0, len(y), 50, 900, 1e9)
	assert.False(t, ok, "no window at that level")
	assert.Zero(t, signal.LevelOf(y, 5, 5).Mean)
}

// Source: Savitzky and Golay (1964), a cubic fit: exact on a cubic; under noise
// nearer to the peak of a bell than its largest sample.
func TestSummit(t *testing.T) {
	y := make([]float64, 101)
	for i := range y {
		x := float64(i) - 50.3
		y[i] = 900 - 0.2*x*x + 0.001*x*x*x
	}
	place, value := signal.Summit(y, 50, 30)
	assert.InDelta(t, 50.3, place, 1e-9)
	assert.InDelta(t, 900, value, 1e-9)
	place, value = signal.Summit([]float64{5, 5.2, 5.2}, 1, 20)
	assert.InDelta(t, 1.5, place, 1e-9, "three samples: the parabola")
	assert.InDelta(t, 5.225, value, 1e-9)
	place, value = signal.Summit(y, 0, 20)
	assert.Zero(t, place)
	assert.Equal(t, y[0], value, "an end is taken as it is")
	place, _ = signal.Summit([]float64{9, 8, 7, 6, 7, 8, 9, 10, 11}, 4, 4)
	assert.InDelta(t, 4, place, 1, "no maximum in the window")
}

func BenchmarkBank16(b *testing.B) {
	f, _ := signal.NewLowPass(40, 1000)
	x := make([][]float64, 16)
	for k := range x {
		x[k] = make([]float64, 4000)
		for i := range x[k] {
			x[k][i] = rand.Float64()
		}
	}
	var bank signal.Bank
	b.ReportAllocs()
	for b.Loop() {
		bank.Apply(f, x...)
	}
}

// A hum off its nominal frequency is found by size, phase and frequency, and gone
// once it is taken off.
func TestHum(t *testing.T) {
	rng := rand.New(rand.NewPCG(5, 5))
	y, clean := make([]float64, 3000), make([]float64, 3000)
	for i := range y {
		at := float64(i) / 1000
		clean[i] = 800 + rng.NormFloat64()
		y[i] = clean[i] + 9*math.Cos(2*math.Pi*49.93*at+0.7)
	}
	h, ok := signal.FindHum(y, 200, 1200, 1000, 50)
	require.True(t, ok)
	assert.InDelta(t, 49.93, h.Hz, 0.02)
	assert.InDelta(t, 9, h.Amplitude(), 0.2)
	h.Take(y, 1000)
	off := 0.0
	for i := range y {
		off = math.Max(off, math.Abs(y[i]-clean[i]))
	}
	assert.Less(t, off, 1.5, "two seconds on the phase is still right")
	_, ok = signal.FindHum(y, 0, 100, 1000, 50)
	assert.False(t, ok, "too short")
	h, ok = signal.FindHum(clean, 0, 1000, 1000, 50)
	assert.True(t, !ok || h.Amplitude() < 0.3, "noise is no hum")
}
