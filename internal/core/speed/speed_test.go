package speed_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/flight"
	"dunnock/internal/core/speed"
)

func coldStart(t *testing.T, mps ...float64) *speed.ColdStart {
	t.Helper()
	c, err := speed.ColdStartOf(mps)
	require.NoError(t, err)
	return c
}

// mph makes speeds in mph m/s.
func mph(v ...float64) []float64 {
	for i := range v {
		v[i] *= 0.44704
	}
	return v
}

// Three series fitted by a general solver, checked with a second one (handbook, check
// values 7). Series b is in mph there.
func TestTheCurveMeetsTheTable(t *testing.T) {
	type want struct{ a, alo, ahi, b, blo, bhi, tau, tlo, thi, sse, n99 float64 }
	check := func(got *speed.ColdStart, k float64, w want) {
		t.Helper()
		f := got.Fit
		require.NotNil(t, f)
		assert.Equal(t, speed.Curve, got.Class)
		for _, x := range []struct{ want, got, within float64 }{
			{w.a, f.CeilingMps / k, 1e-5}, {w.alo, f.Ceiling.Low / k, 6e-5}, {w.ahi, f.Ceiling.High / k, 6e-5},
			{w.b, f.FirstDeficitMps / k, 1e-5}, {w.blo, f.FirstDeficit.Low / k, 6e-5}, {w.bhi, f.FirstDeficit.High / k, 6e-5},
			{w.tau, f.TauSwings, 1e-5}, {w.tlo, f.Tau.Low, 1e-4}, {w.thi, f.Tau.High, 1e-4}, {w.sse, f.SSE / k / k, 1e-6}, {w.n99, f.SwingsTo99, 1e-4},
		} {
			assert.InDelta(t, x.want, x.got, x.within)
		}
	}
	a := coldStart(t, 45.1, 46.9, 47.6, 48.3, 48.2, 48.9, 48.6, 49, 48.8, 48.9)
	check(a, 1, want{48.89573, 48.6441, 49.1474, 3.74993, 3.2956, 4.2042, 1.76996, 1.3107, 2.4340, 0.243713, 4.6058})
	assert.InDelta(t, 7.86e-7, a.Fit.P, 1e-9)
	assert.InDelta(t, 46.5333, a.EarlyMps, 1e-4)
	assert.InDelta(t, 48.9, a.LateMps, 1e-9)
	b := coldStart(t, mph(101.2, 104, 105.9, 106.6, 107.1, 107, 107.5)...)
	check(b, 0.44704, want{107.51763, 107.0642, 107.9711, 6.35660, 5.7443, 6.9689, 1.56757, 1.2286, 2.0460, 0.137920, 3.7856})
	c := coldStart(t, 47, 47.9, 48.9, 49.2, 49.9, 50, 50.4, 50.3, 50.6, 50.5, 50.8, 50.6)
	check(c, 1, want{50.81065, 50.5866, 51.0347, 3.86332, 3.5727, 4.1539, 3.07293, 2.5373, 3.7986, 0.153078, 7.2337})
}

// Without noise A = 50, B = 3, τ = 2 come back to a millionth (handbook, check values 7).
func TestACurveWithoutNoiseComesBack(t *testing.T) {
	var v []float64
	for n := range 10 {
		v = append(v, 50-3*math.Exp(-float64(n)/2))
	}
	f := coldStart(t, v...).Fit
	require.NotNil(t, f)
	assert.InDelta(t, 50, f.CeilingMps, 1e-6)
	assert.InDelta(t, 3, f.FirstDeficitMps, 1e-6)
	assert.InDelta(t, 2, f.TauSwings, 1e-6)
	assert.InDelta(t, 4.583519, f.SwingsTo99, 1e-5)
}

// Series that bear no curve are named, not fitted (handbook, check values 7), and the
// length of the ladder follows from the class (handbook 12).
func TestDegenerateSeriesAreNamed(t *testing.T) {
	for name, x := range map[string]struct {
		class  string
		ladder int
		mps    []float64
	}{
		"exactly flat":       {speed.Flat, 6, []float64{48, 48, 48, 48, 48, 48, 48, 48}},
		"flat with noise":    {speed.Noise, 8, []float64{48.1, 47.9, 48.2, 48, 47.8, 48.1, 48.2, 47.9}},
		"falling straight":   {speed.Falling, 8, []float64{49.5, 49.3, 49, 48.8, 48.5, 48.1, 48, 47.6}},
		"falling to a floor": {speed.Falling, 8, []float64{50.5, 49.2, 48.6, 48.3, 48.2, 48, 48.1, 48}},
		"rising straight":    {speed.StillRising, 12, []float64{46, 46.3, 46.6, 46.9, 47.2, 47.5, 47.8, 48.1}},
		"one step":           {speed.FirstOnly, 6, []float64{44, 48, 48.1, 47.9, 48, 48.1, 47.9, 48}},
		"too short":          {speed.TooShort, 8, []float64{45, 47, 48, 48.5}},
		"five equal then up": {speed.Noise, 8, []float64{48, 48, 48, 48, 48, 50}},
		"one swing":          {speed.TooShort, 8, []float64{48}},
	} {
		c := coldStart(t, x.mps...)
		assert.Equal(t, x.class, c.Class, name)
		assert.Nil(t, c.Fit, name)
		assert.NotEmpty(t, c.Reason(), name)
		assert.Equal(t, x.ladder, c.LadderSwings(), name)
	}
	var none *speed.ColdStart
	assert.Equal(t, 8, none.LadderSwings(), "not tested")
	assert.Equal(t, 8, coldStart(t, 47, 47.9, 48.9, 49.2, 49.9, 50, 50.4, 50.3, 50.6, 50.5, 50.8, 50.6).LadderSwings(), "7.2 rounded up")
	assert.Equal(t, 6, coldStart(t, 45.1, 46.9, 47.6, 48.3, 48.2, 48.9, 48.6, 49, 48.8, 48.9).LadderSwings(), "six at least")
}

func TestImpossibleColdStarts(t *testing.T) {
	for _, v := range [][]float64{nil, {9}, {45, 76}, {45, math.NaN()}, {math.Inf(1)}} {
		_, err := speed.ColdStartOf(v)
		assert.Error(t, err)
	}
}

// swing is a driver swing at full intent.
func swing(mps float64) speed.Swing {
	return speed.Swing{Key: speed.Key{Implement: "driver", Side: speed.Playing, Intent: speed.Full}, Set: 1, AtS: -1, ClubMps: mps}
}

func swings(mps ...float64) (out []speed.Swing) {
	for _, v := range mps {
		out = append(out, swing(v))
	}
	return out
}

func TestSwingsThatDoNotCountAreMarkedAndComeBack(t *testing.T) {
	s := swings(48, 49, 48.5, 30, 40.9, 54, 48.2)
	assert.Equal(t, []speed.Mark{"", "", "", speed.Practice, speed.Odd, speed.Odd, ""}, speed.Marks(s, false))
	s[5].Kept = true
	assert.Equal(t, speed.Counts, speed.Marks(s, false)[5], "the coach says it counts")
	s[0].Void = "slip"
	assert.Equal(t, speed.Voided, speed.Marks(s, false)[0])
	s[0].Void = ""
	assert.Equal(t, speed.Counts, speed.Marks(s, false)[0])

	twice := swings(48, 48, 49)
	twice[0].AtS, twice[1].AtS, twice[2].AtS = 3, 4.9, 5.1
	assert.Equal(t, []speed.Mark{"", speed.Double, ""}, speed.Marks(twice, false), "two seconds after the last that was one")
	other := swings(48, 49, 48.5, 38)
	other[3].Side = speed.Other
	assert.Equal(t, speed.Counts, speed.Marks(other, false)[3], "the other side is compared with itself")
	cold := swings(40, 44, 47, 48, 48.2, 30)
	assert.Equal(t, []speed.Mark{"", "", "", "", "", speed.Odd}, speed.Marks(cold, true), "the first swings are slow, not odd")

	assert.True(t, speed.MixedUnits([]float64{45, 101}))
	assert.False(t, speed.MixedUnits([]float64{45, 50}))
	for _, v := range []float64{9.9, 75.1, math.NaN(), -3} {
		assert.Error(t, speed.CheckSpeed(v))
	}
}

// By hand: best three 50, 49.5, 49 → 49.5; the line at 95% is 47.025.
func TestTheStopLine(t *testing.T) {
	s := speed.StopOf(swings(48, 50, 49, 49.5, 40), 0.95)
	assert.InDelta(t, 49.5, s.ReferenceMps, 1e-9)
	assert.Zero(t, s.LineMps, "from the sixth on")
	s = speed.StopOf(swings(48, 50, 49, 49.5, 48, 47), 0.95)
	assert.InDelta(t, 47.025, s.LineMps, 1e-9)
	assert.Equal(t, 1, s.Below)
	assert.False(t, s.SetEnded)
	s = speed.StopOf(swings(48, 50, 49, 49.5, 48, 47, 48, 47, 46.9), 0.95)
	assert.True(t, s.SetEnded, "two running")
	assert.False(t, s.DayEnded)
	second := append(swings(48, 50, 49, 49.5, 48, 47, 46.9), swings(48, 46, 46)...)
	for i := 7; i < 10; i++ {
		second[i].Set = 2
	}
	s = speed.StopOf(second, 0.95)
	assert.True(t, s.SetEnded && s.DayEnded, "the second set that ends so ends the day")

	assert.Equal(t, 0.95, speed.StopShare([]float64{48, 30}), "too few to know")
	steady, wild := make([]float64, 20), make([]float64, 20)
	for i := range steady {
		steady[i], wild[i] = 48+0.1*float64(i%3), 48+3*float64(i%2)
	}
	assert.Equal(t, 0.95, speed.StopShare(steady))
	assert.Equal(t, 0.92, speed.StopShare(wild))
	two := make([]float64, 20)
	for i := range two {
		two[i] = 48 * (1 + 0.01949*float64(i%2*2-1)) // CV 2%
	}
	assert.InDelta(t, 0.93, speed.StopShare(two), 1e-4)
}

// False stops of tireless golfers: thirty swings in five sets at a CV of 1.5%; at most 4
// of 100 sets (handbook 12).
func TestFewSetsAreStoppedForNothing(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 9))
	stopped, sets := 0, 0
	for range 2000 {
		var all []speed.Swing
		for set := 1; set <= 5; set++ {
			for range 6 {
				s := swing(50 * (1 + 0.015*r.NormFloat64()))
				s.Set = set
				all = append(all, s)
			}
			sets++
			if speed.StopOf(all, 0.95).SetEnded {
				stopped++
			}
		}
	}
	assert.LessOrEqual(t, float64(stopped)/float64(sets), 0.04)
}

func TestASeriesIsSummedUp(t *testing.T) {
	s := swings(48, 50, 49, 47, 46, 45)
	for i := 3; i < 6; i++ {
		s[i].Set = 2
	}
	s[0].BallMps, s[1].BallMps = 70, 76 // 1.458 and 1.52
	s[0].CarryM = 210
	for i := range 3 {
		s[i].Strike = &speed.Strike{ToeMm: float64(3 * i), HighMm: 4, DirectionDeg: float64(i)}
	}
	got := speed.Summarise(s, false)
	require.Len(t, got, 1)
	g := got[0]
	assert.Equal(t, 6, g.Swings)
	assert.Equal(t, 50.0, g.BestMps)
	assert.InDelta(t, 49, g.Best3Mps, 1e-9)
	assert.InDelta(t, 100*(1-46.0/49), *g.DropOffPct, 1e-9, "the last set's mean beside the best three")
	assert.InDelta(t, (70/48.0+76/50.0)/2, *g.SmashMean, 1e-9)
	assert.Equal(t, 1, g.OverLimit, "1.52 is above what mass and restitution allow")
	assert.InDelta(t, -0.828571, *g.TrendMps, 1e-6) // by hand: −14.5 / 17.5
	assert.InDelta(t, (4+5+math.Hypot(6, 4))/3, *g.StrikeMm, 1e-9)
	assert.InDelta(t, 3, *g.SpreadMm, 1e-9)
	assert.Empty(t, speed.Summarise(nil, false))
	assert.Len(t, speed.Of(s, s[0].Key, false), 6)
}

func TestCarryThreeWays(t *testing.T) {
	// 100 mph: 200 to 250 yd by the rule of thumb.
	lo, hi := speed.ByRule(44.704).Yards()
	assert.InDelta(t, 200, lo, 1e-9)
	assert.InDelta(t, 250, hi, 1e-9)
	// B of 3.75 m/s is 8.4 mph: 17 to 21 yd (handbook 12).
	lost, err := speed.CarryLost(48.9, 3.75, nil, speed.Ball{})
	require.NoError(t, err)
	lo, hi = lost.ByRule.Yards()
	assert.InDelta(t, 17, lo, 0.5)
	assert.InDelta(t, 21, hi, 0.5)
	assert.Nil(t, lost.OwnM)
	assert.Contains(t, lost.NoOwn, "12 at least")
	c, _ := flight.Set(flight.Default)
	late, err := flight.Fly(flight.Launch{BallMps: 48.9 * 1.488228, AngleDeg: 12, SpinRpm: 2600}, &c)
	require.NoError(t, err)
	first, err := flight.Fly(flight.Launch{BallMps: 45.15 * 1.488228, AngleDeg: 12, SpinRpm: 2600}, &c)
	require.NoError(t, err)
	assert.InDelta(t, late.CarryM-first.CarryM, lost.ByFlight, 1e-3)
	assert.Contains(t, lost.Assumes, "assumed")

	var shots []speed.Shot
	for i := range 14 {
		v := 44 + 0.3*float64(i)
		shots = append(shots, speed.Shot{ClubMps: v, CarryM: 5*v - 10 + 0.5*float64(i%3-1)})
	}
	lost, err = speed.CarryLost(48.9, 2, shots, speed.Ball{Smash: 1.45, LaunchDeg: 13, SpinRpm: 2500})
	require.NoError(t, err)
	require.NotNil(t, lost.OwnM)
	assert.InDelta(t, 10, *lost.OwnM, 0.3)
	assert.Contains(t, lost.Assumes, "smash 1.45 (own)")
	_, err = speed.OwnSlope(shots[:11])
	assert.ErrorIs(t, err, speed.ErrNoSlope)
	for i := range shots {
		shots[i].ClubMps = 45 + 0.01*float64(i)
	}
	_, err = speed.OwnSlope(shots)
	assert.ErrorIs(t, err, speed.ErrNoSlope, "within two m/s")
	shots[0].CarryM = -1
	_, err = speed.OwnSlope(shots)
	assert.ErrorContains(t, err, "0 to 400")

	b := speed.BallOf([]speed.Swing{{ClubMps: 50, BallMps: 72, Launch: 12}, {ClubMps: 50, BallMps: 73, Launch: 14, SpinRpm: 2400}})
	assert.InDelta(t, 1.45, b.Smash, 1e-9)
	assert.InDelta(t, 13, b.LaunchDeg, 1e-9)
	assert.InDelta(t, 2400, b.SpinRpm, 1e-9)
}

// Slope, errors and bands of five implements and of three (handbook, check values 12,
// checked with a statistics package).
func TestTheLoadSpeedLine(t *testing.T) {
	five, err := speed.ProfileOf([]speed.Point{{370, 47.2}, {250, 52.6}, {280, 51.3}, {310, 49.8}, {340, 48.9}}, 310)
	require.NoError(t, err)
	assert.InDelta(t, -44, five.MpsPerKg, 1e-6)
	assert.InDelta(t, 63.6, five.AtZeroMps, 1e-6)
	assert.InDelta(t, -50.36489, five.Slope.Low, 1e-5)
	assert.InDelta(t, -37.63511, five.Slope.High, 1e-5)
	assert.InDelta(t, 0.189737, five.ResidualSD, 1e-6)
	assert.InDelta(t, 0.993840, five.R2, 1e-6)
	assert.InDelta(t, 45.12, five.At(420).Mps, 1e-5)
	assert.InDelta(t, 45.12+0.75041, five.At(420).Band.High, 1e-5)
	assert.Contains(t, five.Emphasis, "2.7% of speed") // by hand: 44 · 0.031 ÷ 49.96
	three, err := speed.ProfileOf([]speed.Point{{270, mph(118)[0]}, {310, mph(113.5)[0]}, {370, mph(108)[0]}}, 310)
	require.NoError(t, err)
	assert.InDelta(t, -99.342105, three.MpsPerKg/0.44704, 1e-5)
	at := three.At(320)
	assert.InDelta(t, 112.83553, at.Mps/0.44704, 1e-5)
	assert.InDelta(t, 2.98488, (at.Band.High-at.Mps)/0.44704, 1e-5)
	assert.Len(t, three.Line, 9)

	two, err := speed.ProfileOf([]speed.Point{{250, 50}, {310, 48}}, 310)
	require.NoError(t, err)
	assert.Nil(t, two.Slope)
	assert.Nil(t, two.Line[0].Band)
	assert.Contains(t, two.Emphasis, "third")
	rising, err := speed.ProfileOf([]speed.Point{{250, 48}, {310, 50}}, 310)
	require.NoError(t, err)
	assert.Contains(t, rising.Emphasis, "unlikely")
	for _, p := range [][]speed.Point{nil, {{250, 48}}, {{250, 48}, {250, 49}}, {{2, 48}, {250, 49}}, {{240, 8}, {250, 49}}} {
		_, err := speed.ProfileOf(p, 310)
		assert.Error(t, err)
	}
}

func TestShareOfTheCeiling(t *testing.T) {
	for cruise, words := range map[float64]string{49: "little in reserve, so more ceiling is the only way to more speed", 47: "some in reserve", 45: "comfortable", 40: "a large reserve that is not being used", 51: "the cruising swing was the faster, so no full swing was made"} {
		s := speed.ShareOf(cruise, 50)
		assert.Equal(t, words, s.Words)
		assert.InDelta(t, 2*cruise, s.Pct, 1e-9)
	}
}

// 0.4, 0.9, 0.2, 0.7 → 0.055 to 1.045 (handbook 12).
func TestAWarmUpTrial(t *testing.T) {
	e, err := speed.EffectOf([]float64{0.4, 0.9, 0.2, 0.7}, 0.5)
	require.NoError(t, err)
	assert.InDelta(t, 0.055, e.Interval.Low, 5e-4)
	assert.InDelta(t, 1.045, e.Interval.High, 5e-4)
	assert.Equal(t, speed.FasterA, e.Verdict)
	e, _ = speed.EffectOf([]float64{0.4, 0.9}, 0.5)
	assert.Equal(t, speed.NoClear, e.Verdict)
	assert.InDelta(t, 0.65+1.96*0.5, e.Interval.High, 1e-9, "1.96·√2·TE/√2")
	e, _ = speed.EffectOf([]float64{-2, -2, -2, -2}, 0.5)
	assert.Equal(t, speed.FasterB, e.Verdict, "no spread at all: by the typical error")
	e, _ = speed.EffectOf([]float64{0.4, 0.9, 1}, 0)
	assert.Equal(t, speed.Open, e.Verdict)
	assert.Nil(t, e.Interval)
	e, _ = speed.EffectOf([]float64{3}, 0.5)
	assert.Equal(t, speed.Open, e.Verdict)
	_, err = speed.EffectOf(nil, 1)
	assert.Error(t, err)

	for seed := range uint64(4) {
		o := speed.Order(seed, 4)
		assert.Equal(t, seed%2 == 0, o[0])
		assert.True(t, o[0] != o[1] && o[1] != o[2] && o[2] != o[3])
	}
}

func ExampleColdStartOf() {
	c, _ := speed.ColdStartOf([]float64{45.1, 46.9, 47.6, 48.3, 48.2, 48.9, 48.6, 49, 48.8, 48.9})
	fmt.Printf("first swing %.1f m/s short of %.1f, %d swings until it is back\n", c.Fit.FirstDeficitMps, c.Fit.CeilingMps, c.LadderSwings())
	// Output: first swing 3.7 m/s short of 48.9, 6 swings until it is back
}

func BenchmarkColdStart(b *testing.B) {
	v := []float64{47, 47.9, 48.9, 49.2, 49.9, 50, 50.4, 50.3, 50.6, 50.5, 50.8, 50.6}
	for b.Loop() {
		if _, err := speed.ColdStartOf(v); err != nil {
			b.Fatal(err)
		}
	}
}

func FuzzColdStart(f *testing.F) {
	f.Add(48.0, 49.0, 50.0, 51.0, 50.0, 50.5, 50.2)
	f.Fuzz(func(t *testing.T, a, b, c, d, e, g, h float64) {
		got, err := speed.ColdStartOf([]float64{a, b, c, d, e, g, h})
		if err != nil {
			return
		}
		if fit := got.Fit; fit != nil {
			for _, v := range []float64{fit.CeilingMps, fit.FirstDeficitMps, fit.TauSwings, fit.SwingsTo99} {
				require.False(t, math.IsNaN(v) || math.IsInf(v, 0))
			}
			require.GreaterOrEqual(t, fit.FirstDeficitMps, 0.0)
		}
		n := got.LadderSwings()
		require.True(t, n >= speed.LadderLeast && n <= speed.LadderMost)
	})
}
