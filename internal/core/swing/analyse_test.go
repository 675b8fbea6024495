package swing_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/force"
	"dunnock/internal/core/swing"
	"dunnock/internal/core/twoplates"
)

func noise(sd float64) twoplates.Noise {
	return twoplates.Noise{SDN: sd, Normal: rand.New(rand.NewPCG(1, 2)).NormFloat64}
}

func ptr(v float64) *float64 { return &v }

// The clean swing of the model comes back: its peaks, times, shares and order.
func TestCleanSwing(t *testing.T) {
	r, truth := twoplates.UsualSwing().Make(twoplates.Noise{})
	got, err := swing.Analyse(r, swing.Settings{TopS: &truth.TopS})
	require.NoError(t, err)
	assert.InDelta(t, 80, got.BodyMassKg, 0.01)
	assert.InDelta(t, truth.LateralN, got.Lateral.Peak, 0.005*truth.LateralN)
	assert.InDelta(t, truth.LateralBeforeS, got.Lateral.TimeBeforeImpactS, 0.002)
	assert.InDelta(t, truth.TurnNm, got.Rotational.Peak, 0.01*truth.TurnNm)
	assert.InDelta(t, truth.TurnBeforeS, got.Rotational.TimeBeforeImpactS, 0.002)
	assert.InDelta(t, truth.VerticalN, got.Vertical.Peak, 0.005*truth.VerticalN)
	assert.InDelta(t, truth.VerticalBeforeS, got.Vertical.TimeBeforeImpactS, 0.002)
	assert.InDelta(t, truth.VerticalN/(80*force.G), got.Vertical.PeakPerBodyWeight, 0.01)
	assert.InDelta(t, truth.AwayN, got.LateralAway.Peak, 1)
	assert.InDelta(t, truth.AwayBeforeS, got.LateralAway.TimeBeforeImpactS, 0.003)
	assert.Equal(t, truth.Order, got.Order)
	assert.InDelta(t, truth.LateralBeforeS-truth.TurnBeforeS, got.Gaps[0].S, 0.002)
	assert.InDelta(t, 100*(0.28-truth.VerticalBeforeS)/0.28, got.Vertical.DownswingPct, 1)
	assert.InDelta(t, truth.ShareAddress, *got.LeadShareAtAddress, 0.005)
	assert.InDelta(t, truth.ShareTop, *got.LeadShareAtTop, 0.01)
	assert.InDelta(t, truth.ShareImpact, *got.LeadShareAtImpact, 0.01)
	assert.InDelta(t, truth.TakeawayS, got.TakeawayS, 0.1)
	assert.Equal(t, 1, got.Humps)
	assert.Positive(t, got.UnweightingDepth)
	assert.Greater(t, got.AfterImpact.LateralAwayN, 50.0)
	assert.Empty(t, got.Flags, "%v", got.Notes)
	// Impulses by hand: from impact to finish and before they sum up the curves.
	require.Len(t, got.Impulses, 3)
	assert.InDelta(t, 0.28, got.Impulses[1].DurationS, 0.001)
	assert.Greater(t, got.Impulses[1].LateralNs, 10.0)
}

// The turning moment about the combined centre of pressure, worked by hand: feet
// 0.5 m apart carrying the same; the lead foot is pushed away from the ball with
// 40 N and the trail foot toward it with 40 N: 40·0.25 + 40·0.25 = 20 N·m toward
// the target, and 5 N·m of free moments.
func TestTurnByHand(t *testing.T) {
	const n = 1500
	flat := func(v float64) []float64 {
		x := make([]float64, n)
		for i := range x {
			x[i] = v
		}
		return x
	}
	foot := func(x, ball float64) *force.Foot {
		return &force.Foot{ToTargetN: flat(0), ToBallN: flat(ball), UpN: flat(400), CoPToTargetM: flat(x), CoPToBallM: flat(0.1), FreeMomentNm: flat(2.5)}
	}
	r := &force.Recording{RateHz: 1000, Lead: foot(0.25, -40), Trail: foot(-0.25, 40)}
	for about, want := range map[string]float64{swing.AboutCombined: 25, swing.AboutMidFoot: 25} {
		got, err := swing.Analyse(r, swing.Settings{ImpactS: ptr(1.2), TopS: ptr(0.9), About: about})
		require.NoError(t, err)
		assert.InDelta(t, want, got.Rotational.Peak, 1e-6, about)
	}
	// With the load on the lead foot the combined point moves there; the couple
	// about it does not change while the horizontal forces cancel, but does when
	// they do not: 40 N toward the ball on the trail foot alone.
	r = &force.Recording{RateHz: 1000, Lead: foot(0.25, 0), Trail: foot(-0.25, 40)}
	for i := range n {
		r.Lead.UpN[i], r.Trail.UpN[i] = 600, 200
	}
	for about, want := range map[string]float64{swing.AboutCombined: 5 + 40*0.375, swing.AboutMidFoot: 5 + 40*0.25} {
		got, err := swing.Analyse(r, swing.Settings{ImpactS: ptr(1.2), TopS: ptr(0.9), About: about})
		require.NoError(t, err)
		assert.InDelta(t, want, got.Rotational.Peak, 1e-6, about)
	}
}

type shape struct {
	name  string
	width float64 // standard deviation of the peaks, s
}

var shapes = []shape{{"flattest", 0.060}, {"usual", 0.040}, {"sharpest", 0.025}}

// recovery returns how far the analysis was from the truth over randomised
// swings, by metric.
func recovery(t testing.TB, trials int, s shape, sd float64) map[string][]float64 {
	t.Helper()
	rng := rand.New(rand.NewPCG(7, uint64(1000*s.width)))
	in := func(a, b float64) float64 { return a + (b-a)*rng.Float64() }
	out := map[string][]float64{}
	var an swing.Analyser
	for range trials {
		mass := in(45, 110)
		w := mass * force.G
		sw := twoplates.SwingOf(mass, in(0.12, 0.28)*w, in(0.5, 0.9)*mass, in(0.45, 1.1)*w, in(0.10, 0.18), in(0.07, 0.13), in(0.05, 0.10), s.width*in(0.95, 1.05))
		sw.ImpactS += in(0, 0.001)
		r, truth := sw.Make(twoplates.Noise{SDN: sd, Normal: rng.NormFloat64})
		got, err := an.Analyse(r, swing.Settings{TopS: &truth.TopS})
		require.NoError(t, err)
		put := func(name string, v float64) { out[name] = append(out[name], math.Abs(v)) }
		put("lateral size, %", 100*(got.Lateral.Peak/truth.LateralN-1))
		put("rotational size, %", 100*(got.Rotational.Peak/truth.TurnNm-1))
		put("vertical size, %", 100*(got.Vertical.Peak/truth.VerticalN-1))
		put("lateral time, ms", 1000*(got.Lateral.TimeBeforeImpactS-truth.LateralBeforeS))
		put("rotational time, ms", 1000*(got.Rotational.TimeBeforeImpactS-truth.TurnBeforeS))
		put("vertical time, ms", 1000*(got.Vertical.TimeBeforeImpactS-truth.VerticalBeforeS))
		put("body mass, %", 100*(got.BodyMassKg/truth.MassKg-1))
		put("lead share at impact, points", 100*(*got.LeadShareAtImpact-truth.ShareImpact))
		impulse := got.Impulses[1]
		put("lateral away, %", 100*(got.LateralAway.Peak/truth.AwayN-1))
		put("lateral away time, ms", 1000*(got.LateralAway.TimeBeforeImpactS-truth.AwayBeforeS))
		put("fore–aft size, N", got.ForeAft.ToBall.Peak-truth.ForeAftN)
		put("lateral impulse, N·s", impulse.LateralNs-truth.LateralNs)
		put("turning impulse, N·m·s", impulse.TurnNms-truth.TurnNms)
		put("vertical impulse, N·s", impulse.VerticalNs-truth.VerticalNs)
		put("largest rate of force, %", 100*(got.MaxRfd/truth.MaxRfdNps-1))
		put("its time, ms", 1000*(got.MaxRfdTimeBeforeImpactS-truth.MaxRfdBeforeS))
		put("unweighting, N", got.UnweightingDepth-truth.UnweightingN)
		put("time above body weight, ms", 1000*(got.TimeAboveBodyWeightS-truth.AboveWeightS))
		put("braking after impact, %", 100*(got.AfterImpact.LateralAwayN/truth.BrakingN-1))
		put("lead share at address, points", 100*(*got.LeadShareAtAddress-truth.ShareAddress))
		put("lead share at top, points", 100*(*got.LeadShareAtTop-truth.ShareTop))
		put("lead share at the vertical peak, points", 100*(*got.LeadShareAtVerticalPeak-truth.ShareVerticalPeak))
		put("path along the lead foot, mm", 1000*(got.Lead.PathToBallM-truth.LeadPathM))
		put("path along the trail foot, mm", 1000*(got.Trail.PathToBallM-truth.TrailPathM))
		put("humps", float64(got.Humps-1))
		times := []float64{truth.LateralBeforeS, truth.TurnBeforeS, truth.VerticalBeforeS}
		slices.Sort(times)
		if times[1]-times[0] >= 0.015 && times[2]-times[1] >= 0.015 {
			wrong := 0.0
			if !slices.Equal(got.Order, truth.Order) {
				wrong = 1
			}
			put("order wrong", wrong)
		}
	}
	for _, v := range out {
		slices.Sort(v)
	}
	return out
}

func at(v []float64, share float64) float64 { return v[min(len(v)-1, int(share*float64(len(v))))] }

func TestRecovery(t *testing.T) {
	for _, s := range shapes {
		got := recovery(t, 250, s, 4)
		limit := 12.0
		if s.name == "sharpest" {
			limit = 7
		}
		for _, e := range []string{"lateral", "rotational", "vertical"} {
			assert.Less(t, at(got[e+" size, %"], 0.95), 2.0, "%s %s", s.name, e)
			assert.LessOrEqual(t, at(got[e+" time, ms"], 0.5), 3.0, "%s %s", s.name, e)
			assert.Less(t, at(got[e+" time, ms"], 0.95), limit, "%s %s", s.name, e)
		}
		assert.Less(t, at(got["body mass, %"], 1), 0.3)
		assert.Greater(t, len(got["order wrong"]), 50)
		assert.Zero(t, at(got["order wrong"], 1), "%s: order", s.name)
	}
	if testing.Verbose() {
		for _, sd := range []float64{0, 4, 8} {
			for _, s := range shapes {
				rows := recovery(t, 250, s, sd)
				names := make([]string, 0, len(rows))
				for k := range rows {
					names = append(names, k)
				}
				slices.Sort(names)
				for _, k := range names {
					fmt.Printf("noise %g N, %s | %s | median %.3g | 95%% %.3g\n", sd, s.name, k, at(rows[k], 0.5), at(rows[k], 0.95))
				}
			}
		}
	}
}

// BenchmarkSwing reads a swing of 4 s at 1,000 Hz: the twelve channels of two
// plates. Four more, as markers, are not filtered.
func BenchmarkSwing(b *testing.B) {
	r, truth := twoplates.UsualSwing().Make(noise(4))
	var an swing.Analyser
	b.ReportAllocs()
	for b.Loop() {
		if _, err := an.Analyse(r, swing.Settings{TopS: &truth.TopS}); err != nil {
			b.Fatal(err)
		}
	}
}

// What a recording does not hold is said, not made up.
func TestWhatIsMissing(t *testing.T) {
	r, truth := twoplates.UsualSwing().Make(noise(4))
	impact := &truth.ImpactS

	got, err := swing.Analyse(r, swing.Settings{})
	require.NoError(t, err)
	assert.Contains(t, got.Flags, swing.TopEstimated)
	assert.InDelta(t, truth.TopS, got.TopS, 0.13)
	assert.Equal(t, truth.Order, got.Order, "the peaks are found all the same")
	assert.InDelta(t, truth.LateralBeforeS, got.Lateral.TimeBeforeImpactS, 0.01)
	assert.InDelta(t, truth.VerticalN, got.Vertical.Peak, 0.02*truth.VerticalN)

	only := &force.Recording{RateHz: 1000, Lead: &force.Foot{UpN: r.Lead.UpN}, Trail: &force.Foot{UpN: r.Trail.UpN}}
	got, err = swing.Analyse(only, swing.Settings{ImpactS: impact, TopS: &truth.TopS})
	require.NoError(t, err)
	assert.Nil(t, got.Lateral)
	assert.Nil(t, got.Rotational)
	assert.Nil(t, got.ForeAft)
	assert.Equal(t, []string{"vertical"}, got.Order)
	assert.Subset(t, got.Flags, []force.Flag{swing.NoHorizontal, swing.NoRotational})
	assert.InDelta(t, truth.ShareTop, *got.LeadShareAtTop, 0.02)

	add := func(x, y []float64) []float64 {
		out := slices.Clone(x)
		for i := range y {
			out[i] += y[i]
		}
		return out
	}
	one := &force.Recording{
		RateHz: 1000,
		Whole:  &force.Foot{UpN: add(r.Lead.UpN, r.Trail.UpN), ToTargetN: add(r.Lead.ToTargetN, r.Trail.ToTargetN), ToBallN: add(r.Lead.ToBallN, r.Trail.ToBallN)},
	}
	got, err = swing.Analyse(one, swing.Settings{ImpactS: impact, TopS: &truth.TopS})
	require.NoError(t, err)
	assert.Nil(t, got.LeadShareAtTop)
	assert.Nil(t, got.Rotational, "two feet's couple cannot be had from one plate's forces")
	assert.Contains(t, got.Flags, swing.OnePlate)
	assert.InDelta(t, truth.LateralN, got.Lateral.Peak, 0.02*truth.LateralN)
	one.Whole.FreeMomentNm = make([]float64, one.Len())
	for i := range one.Whole.FreeMomentNm {
		one.Whole.FreeMomentNm[i] = 12
	}
	got, err = swing.Analyse(one, swing.Settings{ImpactS: impact, TopS: &truth.TopS})
	require.NoError(t, err)
	assert.InDelta(t, 12, got.Rotational.Peak, 1e-6, "one plate's free moment is about the combined centre of pressure")

	r.Lead.FreeMomentNm = nil
	got, err = swing.Analyse(r, swing.Settings{TopS: &truth.TopS})
	require.NoError(t, err)
	assert.Contains(t, got.Flags, swing.NoFreeMoments)
	assert.Less(t, got.Rotational.Peak, 0.9*truth.TurnNm)
}

// Plates that were empty before the golfer stepped on give the zero.
func TestZeroFromEmptyPlates(t *testing.T) {
	s := twoplates.UsualSwing()
	s.EmptyS = 1
	r, truth := s.Make(twoplates.Noise{OffsetN: 25, SDN: 4, Normal: rand.New(rand.NewPCG(3, 3)).NormFloat64})
	got, err := swing.Analyse(r, swing.Settings{TopS: &truth.TopS})
	require.NoError(t, err)
	assert.InDelta(t, 80, got.BodyMassKg, 0.3, "50 N of offset are gone")
	assert.InDelta(t, truth.VerticalN, got.Vertical.Peak, 0.01*truth.VerticalN)
}

func TestEventsPlacedByHand(t *testing.T) {
	r, truth := twoplates.UsualSwing().Make(noise(2))
	got, err := swing.Analyse(r, swing.Settings{TopS: &truth.TopS, AddressS: ptr(1.2), TakeawayS: ptr(1.6), TransitionS: ptr(2.30), FinishS: ptr(3.5), ImpactS: ptr(2.6)})
	require.NoError(t, err)
	assert.Equal(t, []float64{1.2, 1.6, 2.30, 3.5}, []float64{got.AddressS, got.TakeawayS, got.TransitionS, got.FinishS})
	for name, c := range map[string]struct {
		s    swing.Settings
		want string
	}{
		"impact outside":   {swing.Settings{ImpactS: ptr(9)}, "outside the recording"},
		"impact too early": {swing.Settings{ImpactS: ptr(0.1)}, "no room"},
		"top after impact": {swing.Settings{TopS: ptr(2.7)}, "does not lie between"},
		"top at impact":    {swing.Settings{TopS: ptr(2.58)}, "less than 0.05 s"},
		"out of order":     {swing.Settings{TopS: &truth.TopS, TakeawayS: ptr(2.5)}, "follow each other"},
		"finish too late":  {swing.Settings{TopS: &truth.TopS, FinishS: ptr(20)}, "within the recording"},
		"no such axis":     {swing.Settings{About: "left knee"}, "left knee"},
		"no such window":   {swing.Settings{RateWindowS: 2}, "window"},
		"filter too high":  {swing.Settings{CutoffHz: 900}, "cut-off"},
	} {
		_, err := swing.Analyse(r, c.s)
		assert.ErrorContains(t, err, c.want, name)
	}
	r.ImpactS = nil
	_, err = swing.Analyse(r, swing.Settings{})
	assert.ErrorIs(t, err, swing.ErrNoImpact)
	for i := range r.Lead.UpN {
		r.Lead.UpN[i], r.Trail.UpN[i] = -r.Lead.UpN[i], -r.Trail.UpN[i]
	}
	_, err = swing.Analyse(r, swing.Settings{ImpactS: ptr(2.6)})
	assert.ErrorContains(t, err, "on the plate")
}

// No filter at all, and the body's weight when nobody stands still.
func TestUnfilteredAndRestless(t *testing.T) {
	r, truth := twoplates.UsualSwing().Make(twoplates.Noise{})
	got, err := swing.Analyse(r, swing.Settings{TopS: &truth.TopS, CutoffHz: -1})
	require.NoError(t, err)
	assert.Zero(t, got.CutoffHz)
	assert.InDelta(t, truth.VerticalN, got.Vertical.Peak, 0.002*truth.VerticalN)
	for i := range r.Lead.UpN {
		r.Lead.UpN[i] += 200 * math.Sin(float64(i)/40)
	}
	got, err = swing.Analyse(r, swing.Settings{TopS: &truth.TopS, MassKg: 80})
	require.NoError(t, err)
	assert.Contains(t, got.Flags, force.ShortQuiet)
	assert.InDelta(t, 80, got.BodyMassKg, 1e-9)
}

// A drift between the stances before and after is said.
func TestDriftIsSaid(t *testing.T) {
	r, truth := twoplates.UsualSwing().Make(twoplates.Noise{DriftNps: 6, SDN: 2, Normal: rand.New(rand.NewPCG(8, 8)).NormFloat64})
	got, err := swing.Analyse(r, swing.Settings{TopS: &truth.TopS})
	require.NoError(t, err)
	assert.Contains(t, got.Flags, force.Drift)
	r, truth = twoplates.UsualSwing().Make(noise(4))
	got, err = swing.Analyse(r, swing.Settings{TopS: &truth.TopS})
	require.NoError(t, err)
	assert.NotContains(t, got.Flags, force.Drift)
}
